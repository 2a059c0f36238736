package piece_test

import (
	"errors"
	"fmt"

	"agrimony/internal/core/piece"
)

// A document states what differs from the defaults; what is wrong with one is said with its place.
func ExampleRead() {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"tempo":104,"clips":[
		{"id":"keel","bars":2,"lanes":[{"id":"low","steps":[{"on":true,"degree":5}]}]}]}`))
	if err != nil {
		panic(err)
	}
	lane := &p.Clips[0].Lanes[0]
	fmt.Println(p.Meter, lane.Kind, lane.Rate, lane.Content.StepList().Cell(0).Gate)

	_, err = piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[
		{"id":"keel","lanes":[{"id":"low","steps":[{"on":true,"gate":900}]}]}]}`))
	var fault *piece.Fault
	if errors.As(err, &fault) {
		fmt.Println(fault.Path)
		fmt.Println(fault.Problem)
	}
	// Output:
	// 4/4 line 1/16 75
	// clips[0].lanes[0].steps[0].gate
	// 900 is above 400; allowed: 1..400
}
