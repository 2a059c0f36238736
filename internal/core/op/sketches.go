package op

import "encoding/json"

// TakeSketch writes a sketch into the lane: the first of the request, made with the seed. With AsClip it
// goes into a variant of the clip.
type TakeSketch struct {
	OnLane  `tstype:",extends"`
	Request json.RawMessage `json:"request" tstype:"SketchRequest"`
	Seed    int             `json:"seed"`
	AsClip  bool            `json:"asClip,omitempty"`
	Name    string          `json:"name,omitempty"`
}

// TakeVaried writes a variation into the lane, made with the seed. With AsClip it goes into a variant of
// the clip.
type TakeVaried struct {
	OnLane  `tstype:",extends"`
	Request json.RawMessage `json:"request" tstype:"VaryRequest"`
	Seed    int             `json:"seed"`
	AsClip  bool            `json:"asClip,omitempty"`
	Name    string          `json:"name,omitempty"`
}
