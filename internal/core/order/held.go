package order

import "agrimony/internal/core/render"

// Held is a zone while the order is played stretch by stretch: its members as they stand where one begins.
type Held struct {
	Upper   bool            `json:"upper"`
	Range   int             `json:"range"`                               // of the members' wheels, semitones
	Members []render.Member `json:"members" tstype:"readonly unknown[]"` // handed back as they are
}
