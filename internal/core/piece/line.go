package piece

import (
	"agrimony/internal/core/document"
	"agrimony/internal/core/pitch"
)

// Line is the content of a line lane: one note at a time, a pitch a step.
type Line struct {
	Pitched `tstype:",extends"`
	Glide   GlideMode  `json:"glide"`
	Steps   []LineStep `json:"steps"`
}

// LineStep is one slot of a line.
type LineStep struct {
	Cell   `tstype:",extends"`
	Degree int     `json:"degree"` // from 1
	Octave int     `json:"octave"` // relative to the lane's
	Alter  int     `json:"alter"`  // semitones
	Glide  *Glide  `json:"glide" tstype:"Glide | null,required"`
	Bend   []Point `json:"bend"`
}

var lineStep = &document.Shape[LineStep]{
	Doc: "One slot of a line.",
	Fields: stepFields(Cell{Velocity: 100, Gate: 75, Chance: 100, Ratchet: 1}, func(s *LineStep) *Cell { return &s.Cell },
		placeFields(func(s *LineStep) (degree, octave, alter *int) { return &s.Degree, &s.Octave, &s.Alter }),
		[]document.Field[LineStep]{
			document.Optional("glide", "Slides into the step's pitch.", glideShape, func(s *LineStep) **Glide { return &s.Glide }),
			document.List(
				"bend",
				0,
				MaxPoints,
				"A bend over the sounding note, in rising order of at.",
				pointShape,
				document.None[Point],
				func(s *LineStep) *[]Point { return &s.Bend },
			),
		}),
	Check: func(at *document.At, s *LineStep) { checkBend(at, s.Bend) },
}

// checkBend refuses points out of order.
func checkBend(at *document.At, points []Point) {
	for i := 1; i < len(points); i++ {
		if points[i].At < points[i-1].At {
			at.Field("bend").Item(i).Field("at").Refuse("%v is below %v, the point before; allowed: rising order", points[i].At, points[i-1].At)
		}
	}
}

var lineKind = Define("line", "One note at a time, with a pitch for each step.", "bass",
	func(l *Line) *[]LineStep { return &l.Steps }, lineStep,
	append(document.Lift(func(l *Line) *Pitched { return &l.Pitched }, pitchedFields("scale")...),
		document.Inner("glide", "How glides are written.", glideModeShape, func(l *Line) *GlideMode { return &l.Glide }))).
	moving(Moved{"degree", 1, 12, 1, 5, nil}, Moved{"octave", -4, 4, 0, 1, nil})

func (l *Line) gliding() *GlideMode { return &l.Glide }

// StepList gives the steps to whatever works on steps of any kind.
func (l *Line) StepList() Steps { return StepsOf(&l.Steps, lineStep) }

// Clone copies the line and its steps.
func (l *Line) Clone() Content {
	out := *l
	out.Steps = append([]LineStep{}, l.Steps...)
	return &out
}

// CheckKey refuses a degree that the key does not have.
func (l *Line) CheckKey(at *document.At, key pitch.Key) {
	for i := range l.Steps {
		checkDegree(at.Field("steps").Item(i), key, l.Steps[i].Degree)
	}
}

func (l *Line) place(step int) (pitch.Place, bool) { return l.Steps[step].Place(), true }

// Place is where the step's note stands.
func (s *LineStep) Place() pitch.Place {
	return pitch.Place{Degree: s.Degree, Octave: s.Octave, Alter: s.Alter}
}

// SetPlace moves the step's note.
func (s *LineStep) SetPlace(p pitch.Place) { s.Degree, s.Octave, s.Alter = p.Degree, p.Octave, p.Alter }

func (l *Line) setPlace(i int, at pitch.Place) { l.Steps[i].SetPlace(at) }

// Rooted is what says whether degrees count from the chords' roots.
func (l *Line) Rooted() *Pitched { return &l.Pitched }

func (l *Line) stepValue(field string, i int) (int, bool) {
	switch field {
	case "degree":
		return l.Steps[i].Degree, true
	case "octave":
		return l.Steps[i].Octave, true
	}
	return 0, false
}

// ReadLineStep reads one step of a line as the document writes it; path begins the path in errors.
func ReadLineStep(path string, data []byte) (out LineStep, err error) {
	defer document.Catch(&err)
	value, err := document.Parse(data)
	if err != nil {
		return out, err
	}
	return lineStep.Read(document.Root(path), value), nil
}

// WriteLineStep gives a step as the document writes it: with what is not at its default.
func WriteLineStep(step *LineStep) []byte { return document.Print(lineStep.Write(step)) }

// NewLineStep is a rest with everything at its default.
func NewLineStep() LineStep { return lineStep.Fresh() }

// LineOf is the line in a lane; nil in other kinds.
func LineOf(lane *Lane) *Line {
	own, _ := lane.Content.(*Line)
	return own
}

// LineOver is a line of so many rests at a rate, with the pitches, glides and all else of another
// lane that has them.
func LineOver(lane *Lane, pitched Pitched, glide GlideMode, rate string, steps int) Lane {
	out := *lane
	own := &Line{Pitched: pitched, Glide: glide}
	for range steps {
		own.Steps = append(own.Steps, NewLineStep())
	}
	out.Kind, out.Content, out.Rate, out.Direction, out.Window, out.Restart = "line", own, rate, Directions[0], nil, 0
	return out
}
