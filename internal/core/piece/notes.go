package piece

import (
	"slices"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/document"
	"agrimony/internal/core/pitch"
)

// Limits of a lane of free notes.
const (
	MaxNotes  = 20_000
	MaxNumber = 1_000_000
)

// Notes is the content of a notes lane: notes anywhere on an axis of the lane's own.
type Notes struct {
	Pitched `tstype:",extends"`
	Glide   GlideMode  `json:"glide"`
	Loop    *Loop      `json:"loop" tstype:"Loop | null,required"` // nil: see LoopOf
	Voices  string     `json:"voices"`                             // "many", or "one" at a time
	Notes   []FreeNote `json:"notes"`                              // in order of At
}

// Loop is the stretch of a notes lane's axis that is its round, in 960ths of a quarter.
type Loop struct {
	Start  int `json:"start"`
	Length int `json:"length"`
}

// FreeNote is a note of a notes lane. It has a place in the key, or a MIDI note.
type FreeNote struct {
	Number   int     `json:"number"` // 1..MaxNumber, its own for as long as it is there
	At       int     `json:"at"`     // 960ths of a quarter
	Length   int     `json:"length"` // 960ths of a quarter
	Degree   int     `json:"degree"`
	Octave   int     `json:"octave,omitempty"`
	Alter    int     `json:"alter,omitempty"`
	Note     *int    `json:"note,omitempty"` // MIDI; never locked, moved by the key or folded
	Velocity int     `json:"velocity"`
	Chance   int     `json:"chance"`
	Rounds   *Rounds `json:"rounds,omitempty"`
	Tie      bool    `json:"tie,omitempty"`
	Glide    *Glide  `json:"glide,omitempty"`
	Bend     []Point `json:"bend,omitempty"`
	told     bool    // its number is written
}

// VoiceCounts are how many notes of a notes lane sound at a time.
var VoiceCounts = []string{"many", "one"}

var loopShape = &document.Shape[Loop]{
	Doc: "The lane's round.",
	Fields: []document.Field[Loop]{
		document.Whole("start", 0, farthest-1, 0, "Where it begins, in 960ths of a quarter note.", func(l *Loop) *int { return &l.Start }),
		document.Whole("length", 1, farthest, 1, "How long it is, in 960ths of a quarter note.", func(l *Loop) *int { return &l.Length }).Needed(),
	},
}

var noteShape = &document.Shape[FreeNote]{
	Doc: "A note anywhere on the lane's axis.",
	Fields: slices.Concat([]document.Field[FreeNote]{
		document.Whole("at", 0, farthest-1, 0, "Where it begins, in 960ths of a quarter note.", func(n *FreeNote) *int { return &n.At }).Needed(),
		document.Whole("length", 1, farthest, 1, "How long it is, in 960ths of a quarter note.", func(n *FreeNote) *int { return &n.Length }).Needed(),
	}, placeFields(func(n *FreeNote) (degree, octave, alter *int) { return &n.Degree, &n.Octave, &n.Alter }),
		[]document.Field[FreeNote]{
			document.OptionalWhole("note", 0, 127, "A MIDI note in place of a degree. The key leaves it alone.", func(n *FreeNote) **int { return &n.Note }),
			document.Whole("velocity", 1, 127, 100, "How hard.", func(n *FreeNote) *int { return &n.Velocity }),
			document.Whole("chance", 0, 100, 100, "In what share of rounds it plays, in %.", func(n *FreeNote) *int { return &n.Chance }).In("%"),
			document.Optional("rounds", "Plays only in some rounds.", roundsShape, func(n *FreeNote) **Rounds { return &n.Rounds }),
			document.Flag("tie", "Joins it, in one voice, to the next note that sounds.", func(n *FreeNote) *bool { return &n.Tie }),
			document.Optional(
				"glide",
				"Slides into its pitch, in one voice or with the mode mpe; the time is in % of its length.",
				glideShape,
				func(n *FreeNote) **Glide { return &n.Glide },
			),
			document.List(
				"bend",
				0,
				MaxPoints,
				"A bend over the sounding note, in one voice or with the mode mpe, in rising order of at.",
				pointShape,
				document.None[Point],
				func(n *FreeNote) *[]Point { return &n.Bend },
			),
			numbered(),
		}),
	Given: func(named func(string) bool, n *FreeNote) {
		n.told = n.told || named("number")
		placed := named("degree") || named("octave") || named("alter")
		if named("note") && !placed {
			n.Degree, n.Octave, n.Alter = 1, 0, 0
		} else if placed && !named("note") {
			n.Note = nil
		}
	},
	Check: func(at *document.At, n *FreeNote) {
		checkBend(at, n.Bend)
		if n.Note == nil {
			return
		}
		for _, field := range []struct {
			name  string
			there bool
		}{{"degree", n.Degree != 1}, {"octave", n.Octave != 0}, {"alter", n.Alter != 0}} {
			if field.there {
				at.Field(field.name).Refuse("is there beside note; allowed: a degree with its octave and alter, or a note")
			}
		}
	},
	Also: document.Pairs(
		"if",
		document.Pairs("properties", document.Pairs("note", document.Pairs("type", "integer")), "required", []string{"note"}),
		"then",
		document.Pairs(
			"properties",
			document.Pairs("degree", document.Pairs("const", 1), "octave", document.Pairs("const", 0), "alter", document.Pairs("const", 0)),
		),
	),
}

// numbered is the number that stays with a note; absent ones are given when the lane is read.
func numbered() document.Field[FreeNote] {
	f := document.Whole(
		"number",
		1,
		MaxNumber,
		0,
		"Its number, once in the lane; absent: the lowest that is not given, in the order of writing.",
		func(n *FreeNote) *int { return &n.Number },
	)
	return f.LeftOut(func(n *FreeNote) bool { return !n.told })
}

var freeOddShape = &document.Shape[Odd]{
	Doc: oddShape.Doc,
	Fields: slices.DeleteFunc(slices.Clone(oddShape.Fields), func(f document.Field[Odd]) bool {
		return f.Name == "ratchet" // a free note has no step to repeat in
	}),
}

var notesKind = definePlain("notes", "Notes anywhere on an axis of their own.",
	slices.Concat(document.Lift(func(n *Notes) *Pitched { return &n.Pitched }, pitchedFields("scale")...), []document.Field[Notes]{
		document.Inner("glide", "How glides are written.", manyGlideShape("bend", ManyGlideModes), func(n *Notes) *GlideMode { return &n.Glide }),
		document.Optional("loop", "Its round; absent: from 0 for the clip's bars, or up to the bar line after its last note begins.", loopShape, func(n *Notes) **Loop { return &n.Loop }),
		document.Choice("voices", VoiceCounts, "many", "Whether many notes sound at a time, or one.", func(n *Notes) *string { return &n.Voices }),
		document.Plain(document.Printed(document.List("notes", 0, MaxNotes, "Its notes.", noteShape, document.None[FreeNote], listOf), noteShape, listOf, printNote), noteShape, 0, MaxNotes, listOf, plainNote),
	}), slices.Concat([]document.Field[Lane]{restarting()}, listening("bass")), []document.Field[Lane]{
		modulators(sharedMoves),
		document.List("odds", 0, MaxOdds, "The alternatives of which each sounding note draws one by weight.", freeOddShape, document.None[Odd], func(l *Lane) *[]Odd { return &l.Odds }),
		taking(), ranged(), sharing(),
	}).
	movingOnly(Moved{"velocity", 1, 127, 60, 110, nil}, Moved{"gate", 1, 400, 50, 100, nil}, Moved{"chance", 0, 100, 50, 100, nil}, Moved{"degree", 1, 12, 1, 5, nil}, Moved{"octave", -4, 4, 0, 1, nil}).
	across(func(at *document.At, l *Lane) {
		own := l.Content.(*Notes)
		if own.Glide.Mode == MPE && own.Voices == "one" {
			at.Field("glide").Field("mode").Refuse("mpe is for many notes at a time; allowed in one voice: %s", strings.Join(GlideModes, ", "))
		}
		own.settle(at)
	}).
	stepping(noteShape.Facts).
	bypassing()

// NewNote is a note with everything at its default, without a number.
func NewNote(at, length int) FreeNote {
	out := noteShape.Fresh()
	out.At, out.Length = at, length
	return out
}

// PatchNote changes the fields of a note that the JSON object data names; path begins the
// path in errors.
func PatchNote(path string, data []byte, into *FreeNote) error {
	return document.Patch(noteShape, path, data, into, func(n *FreeNote) FreeNote { return *n })
}

// ReadNote reads a note on its own, as the document writes it.
func ReadNote(path string, data []byte) (out FreeNote, err error) {
	defer document.Catch(&err)
	value, err := document.Parse(data)
	if err != nil {
		return out, err
	}
	return noteShape.Read(document.Root(path), value), nil
}

// StepList is nothing: its notes stand on no grid.
func (*Notes) StepList() Steps { return nil }

// Clone copies the notes.
func (n *Notes) Clone() Content {
	out := *n
	out.Notes = slices.Clone(n.Notes)
	if out.Notes == nil {
		out.Notes = []FreeNote{}
	}
	return &out
}

// CheckKey refuses a degree that the key does not have.
func (n *Notes) CheckKey(at *document.At, key pitch.Key) {
	for i := range n.Notes {
		if n.Notes[i].Note == nil && n.Notes[i].Degree > key.Size() {
			checkDegree(at.Field("notes").Item(i), key, n.Notes[i].Degree)
		}
	}
}

// CheckTime refuses notes and a loop that run beyond 1024 bars of so many 960ths.
func (n *Notes) CheckTime(at *document.At, bar beat.Time) {
	most := int(beat.MaxBars * bar / NoteTick)
	if n.Loop != nil && n.Loop.Start+n.Loop.Length > most {
		at.Field("loop").Field("length").Refuse("%d from %d on ends beyond %d bars; allowed: together at most %d", n.Loop.Length, n.Loop.Start, beat.MaxBars, most)
	}
	for i := range n.Notes {
		if note := &n.Notes[i]; note.At+note.Length > most {
			at.Field("notes").
				Item(i).
				Field("length").
				Refuse("%d from %d on ends beyond %d bars; allowed: together at most %d", note.Length, note.At, beat.MaxBars, most)
		}
	}
}

// Place is where the note stands in the key.
func (n *FreeNote) Place() pitch.Place {
	return pitch.Place{Degree: n.Degree, Octave: n.Octave, Alter: n.Alter}
}

// SetPlace moves the note in the key; it is a MIDI note no longer.
func (n *FreeNote) SetPlace(p pitch.Place) {
	n.Degree, n.Octave, n.Alter, n.Note = p.Degree, p.Octave, p.Alter, nil
}

// Rooted is what says whether degrees count from the chords' roots.
func (n *Notes) Rooted() *Pitched { return &n.Pitched }

func (n *Notes) gliding() *GlideMode { return &n.Glide }

func (n *Notes) place(i int) (pitch.Place, bool) { return n.Notes[i].Place(), n.Notes[i].Note == nil }

func (n *Notes) countsDegrees(i int) bool { return n.Notes[i].Note == nil }

func (n *Notes) stepValue(field string, i int) (int, bool) {
	note := &FreeNote{}
	if i < len(n.Notes) { // a lane without notes has the fields all the same
		note = &n.Notes[i]
	}
	switch field {
	case "velocity":
		return note.Velocity, true
	case "gate":
		return wholeGate, true
	case "chance":
		return note.Chance, true
	case "degree":
		return note.Degree, true
	case "octave":
		return note.Octave, true
	}
	return 0, false
}

// wholeGate is the gate of a free note: all of its length.
const wholeGate = 100

// Free is the content of a lane whose notes stand on an axis of their own.
type Free interface {
	// Count is how many notes it has.
	Count() int
	// Cells are what its notes have in common with steps, in order; notes that are alike share one.
	Cells() []*Cell
	// LoopOf is where its round begins and how long it is.
	LoopOf(bars int, bar beat.Time) (start, length beat.Time)
	// Span is where a note (from 0) begins on the lane's axis, and how long it is.
	Span(i int) (at, length beat.Time)
	// Number is that of a note, from 0.
	Number(i int) int
}

// FreeOf is the content of a lane whose notes stand on an axis of their own; nil of another.
func FreeOf(l *Lane) Free {
	free, _ := l.Content.(Free)
	return free
}

// Numbered is what a note of a lane is called, from its place in the lane, from 1: a step by its
// place, a free note by its number; 0 stays 0.
func Numbered(l *Lane, step int) int {
	if free := FreeOf(l); free != nil && step > 0 {
		return free.Number(step - 1)
	}
	return step
}

// Count is how many notes it has.
func (n *Notes) Count() int { return len(n.Notes) }

// Cells are what its notes have in common with steps.
func (n *Notes) Cells() []*Cell {
	out := make([]*Cell, len(n.Notes))
	var plain [128]*Cell // of notes that have a velocity, and nothing else of their own
	for i := range out {
		note := &n.Notes[i]
		tie := note.Tie && n.Voices == "one"
		usual := !tie && note.Chance == 100 && note.Rounds == nil
		if usual && plain[note.Velocity] != nil {
			out[i] = plain[note.Velocity]
			continue
		}
		out[i] = &Cell{On: true, Velocity: note.Velocity, Gate: wholeGate, Tie: tie, Chance: note.Chance, Rounds: note.Rounds, Ratchet: 1}
		if usual {
			plain[note.Velocity] = out[i]
		}
	}
	return out
}

// LoopOf is the lane's loop, or what stands for one: the clip's bars from 0 on, or without them
// up to the bar line after its last note begins.
func (n *Notes) LoopOf(bars int, bar beat.Time) (start, length beat.Time) {
	if n.Loop != nil {
		return beat.Time(n.Loop.Start) * NoteTick, beat.Time(n.Loop.Length) * NoteTick
	}
	if bars > 0 {
		return 0, beat.Time(bars) * bar
	}
	last := beat.Time(0)
	if k := len(n.Notes); k > 0 {
		last = beat.Time(n.Notes[k-1].At) * NoteTick
	}
	return 0, (last/bar + 1) * bar
}

// Span is where a note begins, and how long it is.
func (n *Notes) Span(i int) (at, length beat.Time) {
	return beat.Time(n.Notes[i].At) * NoteTick, beat.Time(n.Notes[i].Length) * NoteTick
}

// Number is that of a note.
func (n *Notes) Number(i int) int { return n.Notes[i].Number }

// WriteNote gives a note as the document writes it: with what is not at its default.
func WriteNote(n *FreeNote) []byte { return document.Print(noteShape.Write(n)) }

// degrees tells whether some note is one of the key.
func (n *Notes) degrees() bool {
	return len(n.Notes) == 0 || slices.ContainsFunc([]FreeNote(n.Notes), func(n FreeNote) bool { return n.Note == nil })
}
