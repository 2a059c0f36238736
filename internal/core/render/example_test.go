package render_test

import (
	"fmt"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// A document is read, a clip rendered, and each note says why it is there.
func ExamplePerformance_Why() {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"F#","scale":"dorian"},"clips":[
		{"id":"keel","bars":1,"lanes":[{"id":"low","octave":2,"rate":"1/4","steps":[{},{"on":true,"degree":5,"alter":1,"gate":50},{},{}]}]}]}`))
	if err != nil {
		panic(err)
	}
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	if err != nil {
		panic(err)
	}
	part := &performance.Lanes[0]
	for _, reason := range performance.Why(part, &part.Notes[0]) {
		fmt.Printf("%s: %s -> %s\n", reason.Rule, reason.From, reason.To)
	}
	// Output:
	// step: step 2, round 1 -> tick 960
	// degree: 5 -> C#3
	// alter: C#3 -> D3
	// lock: D3 -> C#3
	// velocity: step 2 -> 100
	// gate: 50 % of the step -> 480 ticks
}
