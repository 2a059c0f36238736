package piece

import (
	"agrimony/internal/core/document"
)

// StarterFormat stands at the head of a starter's document.
const StarterFormat = "agrimony-starter"

// Starter is a lane kept under a name, to begin others from.
type Starter struct {
	Name string
	Key  Key // that its degrees were written in
	Lane Lane
}

type starterHead struct {
	Schema  string
	Format  string
	Version int
	Starter
}

var starterShape = &document.Shape[starterHead]{
	Doc: "An Agrimony starter: a lane to begin others from.",
	Fields: []document.Field[starterHead]{
		document.Text("$schema", 2000, "", "Where its schema is; ignored.", func(h *starterHead) *string { return &h.Schema }),
		document.Choice("format", []string{StarterFormat}, "", "Always "+StarterFormat+".", func(h *starterHead) *string { return &h.Format }).Needed(),
		document.Whole("version", Version, Version, 0, "The version of the format.", func(h *starterHead) *int { return &h.Version }).Needed(),
		document.Text("name", MaxName, "", "Its name.", func(h *starterHead) *string { return &h.Name }).Needed(),
		document.Inner("key", "The key that its degrees were written in.", keyShape, func(h *starterHead) *Key { return &h.Key }),
		document.Own("lane", "The lane.",
			func(h *starterHead) { h.Lane = NewLane(DefaultKind, "", "") },
			func(at *document.At, value any, h *starterHead) { readLane(at, value, &h.Lane) },
			func(at *document.At, h *starterHead) { checkLane(at.Field("lane"), &h.Lane) },
			func(h *starterHead) (any, bool) { return writeLane(&h.Lane), true },
			laneSchema).Needed(),
	},
	Check: func(at *document.At, h *starterHead) {
		if h.Name == "" {
			at.Field("name").Refuse("is empty; allowed: 1..%d characters", MaxName)
		}
		h.Lane.Content.CheckKey(at.Field("lane"), h.Key.Resolve())
	},
}

// ReadStarter reads and checks a starter's document. The error is a *Fault.
func ReadStarter(data []byte) (*Starter, error) {
	read, err := document.Read(starterShape, data)
	if err != nil {
		return nil, err
	}
	return &read.Starter, nil
}

// WriteStarter writes a starter's document.
func WriteStarter(s *Starter) []byte {
	return document.Print(starterShape.Write(&starterHead{Format: StarterFormat, Version: Version, Starter: *s}))
}

// StarterOf keeps a lane of a clip as a starter: without what is the lane's own among
// others.
func StarterOf(name string, key Key, lane *Lane) *Starter {
	kept := lane.Clone()
	kept.ID, kept.Name, kept.Starter = "", "", ""
	kept.Channel, kept.Mute, kept.Solo, kept.Quiet = 0, false, false, []string{}
	return &Starter{Name: name, Key: key, Lane: kept}
}
