package order_test

import (
	"fmt"

	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
)

// A clip of one bar sounds for two bars, twice through, and another one joins it in the second.
func ExampleRender() {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[
		{"id":"keel","name":"Keel","bars":1,"lanes":[{"id":"low","name":"Low","octave":2,"rate":"1/1","steps":[{"on":true,"degree":1}]}]},
		{"id":"rim","name":"Rim","bars":1,"lanes":[{"id":"tick","name":"Tick","kind":"pulse","note":37,"rate":"1/2","steps":[{"on":true}]}]}],
		"order":{"entries":[{"clip":"keel","at":0,"for":7680},{"clip":"rim","at":3840,"for":3840}]}}`))
	if err != nil {
		panic(err)
	}
	performance, err := order.Render(p, order.Options{})
	if err != nil {
		panic(err)
	}
	for i := range performance.Tracks {
		track := &performance.Tracks[i]
		for k, note := range track.Part.Notes {
			entry, pass := track.Entry(k)
			fmt.Printf("%s: pitch %d at %d, entry %d, pass %d\n", track.Part.Name, note.Pitch, note.At.Export(performance.PPQ), entry, pass)
		}
	}
	// Output:
	// Keel · Low: pitch 36 at 0, entry 1, pass 1
	// Keel · Low: pitch 36 at 3840, entry 1, pass 2
	// Rim · Tick: pitch 37 at 3840, entry 2, pass 1
	// Rim · Tick: pitch 37 at 5760, entry 2, pass 1
}
