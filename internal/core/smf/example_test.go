package smf_test

import (
	"fmt"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
)

// A performance is written as a Standard MIDI File and read back.
func ExampleEncode() {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[
		{"id":"keel","name":"Keel","bars":1,"lanes":[{"id":"kick","name":"Kick","kind":"pulse","channel":10,"rate":"1/2","steps":[{"on":true}]}]}]}`))
	if err != nil {
		panic(err)
	}
	performance, err := lane.Render(p, &p.Clips[0], render.Options{PPQ: 96})
	if err != nil {
		panic(err)
	}
	data, err := smf.Encode(performance, smf.Default)
	if err != nil {
		panic(err)
	}
	file, err := smf.Decode(data, nil)
	if err != nil {
		panic(err)
	}
	for _, note := range file.Tracks[1].Notes {
		fmt.Println(file.Tracks[1].Name, note.At, note.Pitch, note.Length)
	}
	// Output:
	// Kick 0 36 144
	// Kick 192 36 144
}
