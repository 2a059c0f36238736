package view

import (
	"fmt"
	"math"
	"slices"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Lane is one lane of a view, sounding or not. Positions are in PPQ ticks.
type Lane struct {
	ID        string        `json:"id"`
	Channel   int           `json:"channel"`
	StepTicks int64         `json:"stepTicks"`
	Round     int           `json:"round"`   // slots in a round that nothing cuts
	Period    string        `json:"period"`  // "7 × 1/16"
	Slots     []int         `json:"slots"`   // the step (from 0) of each slot
	SlotAt    []int64       `json:"slotAt"`  // where each slot begins
	Rounds    []int         `json:"rounds"`  // the round (from 0) of each slot
	Sounds    []bool        `json:"sounds"`  // which slots sound: on, and let through by chance and rounds
	Active    []bool        `json:"active"`  // which steps take part in the round
	Pitches   [][]int       `json:"pitches"` // what each step sounds where it stands first
	Spans     []int         `json:"spans"`   // through how many steps the note of each runs; 0: none begins there
	Names     []string      `json:"names"`   // its name, "C♯2"
	Ladder    []pitch.Rung  `json:"ladder"`
	Audible   bool          `json:"audible"`
	Notes     []Note        `json:"notes"`
	Bends     []Bend        `json:"bends"`
	Wheels    []Bend        `json:"wheels"` // of notes that glide each by itself, on their channels
	Apart     bool          `json:"apart"`  // its notes glide each by itself
	Controls  []Control     `json:"controls"`
	Range     int           `json:"range"` // of the wheel, semitones
	Chart     *render.Chart `json:"chart" tstype:"Chart | null,required"`
	Clocked   bool          `json:"clocked"` // by another lane's onsets, not by its rate
	Walk      []WalkRungs   `json:"walk"`    // what is walked from where on; empty where nothing is
	Repeats   []bool        `json:"repeats"` // which slots sound as their step did in the first round
	Pressures []Pressure    `json:"pressures"`
	Moved     []Moved       `json:"moved"`
	Odds      []string      `json:"odds"` // its alternatives, in words
	Octaves   Octaves       `json:"octaves"`
	Chancy    bool          `json:"chancy"` // luck decides something in it
	Drawn     []string      `json:"drawn"`  // what each slot drew, in words; empty without odds
	Curves    []Curve       `json:"curves"`
	Outside   []int         `json:"outside"` // the pitches that the lane's range moved or left out
	Reach     *Reach        `json:"reach" tstype:"Reach | null,required"`
	// Moves are what modulators may move.
	Moves []Move      `json:"moves"`
	Until int64       `json:"until"`                // how far it is shown
	Share piece.Share `json:"share" tstype:"Share"` // of the groove: its own, or its original's
	// Free is how notes on an axis of their own stand; null of lanes with steps, or without notes of
	// their own.
	Free     *Free   `json:"free" tstype:"Free | null,required"`
	Straight []int64 `json:"straight"` // where each note would stand without the groove's template; empty without one
}

// WalkRungs are the rungs that a walk goes through from a time on.
type WalkRungs struct {
	At    int64 `json:"at"`
	Rungs []int `json:"rungs"` // MIDI, rising
}

// Note is a sounding note. Its place in the list is its place in the performance.
type Note struct {
	At       int64 `json:"at"`
	Length   int64 `json:"length"`
	Pitch    int   `json:"pitch"`
	Velocity int   `json:"velocity"`
	Step     int   `json:"step"`  // from 0
	Round    int   `json:"round"` // from 0
	// Slides is the way of a note that glides by itself: ticks after its onset and semitones from its pitch,
	// by turns.
	Slides  []float64 `json:"slides,omitempty"`
	Channel int       `json:"channel,omitempty"` // its own; absent: the lane's
	// Wheel is that of a channel of its own, in the running order: ticks after its onset and positions, by turns.
	Wheel []int64 `json:"wheel,omitempty"`
}

// Same tells whether two notes are shown alike.
func (n *Note) Same(o *Note) bool {
	return n.At == o.At && n.Length == o.Length && n.Pitch == o.Pitch && n.Velocity == o.Velocity && n.Step == o.Step && n.Round == o.Round &&
		n.Channel == o.Channel && slices.Equal(n.Slides, o.Slides)
}

// NoteOf shows a note as it is in the performance, with the way that it goes by itself.
func NoteOf(note *render.Note, path []render.Turn, at, length int64) Note {
	out := Note{
		At:       at,
		Length:   length,
		Pitch:    int(note.Pitch),
		Velocity: int(note.Velocity),
		Step:     int(note.Step) - 1,
		Round:    int(note.Round) - 1,
		Channel:  int(note.Channel),
	}
	for _, turn := range path {
		out.Slides = append(out.Slides, float64(turn.After.Export(PPQ)), math.Round(turn.By*1000)/1000)
	}
	return out
}

// Bend sets the wheel, -8192..8191.
type Bend struct {
	At    int64 `json:"at"`
	Value int   `json:"value"`
	// Channel is its own; absent: the lane's.
	Channel int `json:"channel,omitempty"`
}

// Control sets a controller, both 0..127.
type Control struct {
	At         int64 `json:"at"`
	Controller int   `json:"controller"`
	Value      int   `json:"value"`
	Channel    int   `json:"channel,omitempty"` // its own; absent: the lane's
}

// Pressure sets the channel's pressure, 0..127.
type Pressure struct {
	At    int64 `json:"at"`
	Value int   `json:"value"`
}

// laneOf views a lane; part is nil where it does not play.
func laneOf(performance *render.Performance, own *piece.Lane, part *render.Part) *Lane {
	key := performance.Key
	out := &Lane{
		ID: own.ID, Pitches: [][]int{}, Range: 1,
		Slots: []int{}, SlotAt: []int64{}, Rounds: []int{}, Sounds: []bool{}, Active: []bool{}, Names: []string{},
		Notes: []Note{}, Bends: []Bend{}, Wheels: []Bend{}, Apart: part != nil && part.Zone != nil, Controls: []Control{}, Walk: []WalkRungs{}, Repeats: []bool{},
		Pressures: []Pressure{}, Moved: []Moved{}, Odds: []string{}, Octaves: defaultOctaves, Drawn: []string{}, Curves: []Curve{}, Outside: []int{}, Straight: []int64{},
		Moves: movesOf(own), Share: piece.ShareOf(performance.Clip, own), Until: untilOf(performance, own).Export(PPQ),
	}
	var sounding []int
	var clock *render.Clock
	if part != nil {
		clock = part.Clock
	}
	sounds := lane.SoundsOver(performance.Piece, performance.Clip, own, performance.Harmony, clock)
	out.Spans = append([]int{}, lane.Spans(own, sounds)...)
	for i, sound := range sounds {
		out.Names = append(out.Names, pitch.Pretty(sound.Name))
		out.Pitches = append(out.Pitches, sound.Pitches)
		if own.Content.StepList().Cell(i).On {
			sounding = append(sounding, sound.Pitches...)
		}
	}
	if free := piece.FreeOf(own); free != nil {
		out.Free = freeOf(performance, own, free)
		out.Free.joined(performance.Pattern(own), part)
		out.StepTicks = performance.Piece.StepLength(own).Export(PPQ)
		sounding = append(sounding, out.Free.Rows...)
		out.curves(performance, own)
		out.Period = "a loop of " + lengthOf(performance, out.Free.Length)
	}
	for i := range own.Odds {
		out.Odds = append(out.Odds, own.Odds[i].Words())
	}
	if part != nil && (render.Listens(own) || own.Content.StepList() == nil || own.Kept() != nil || len(own.Modulators) > 0 || len(own.Odds) > 0) {
		for i := range part.Notes {
			sounding = append(sounding, int(part.Notes[i].Pitch))
		}
	}
	out.Ladder = lane.Of(own).Ladder(own, key, sounding)
	out.Chart = chartOf(performance, own)
	if own.Content.StepList() != nil {
		out.unroll(performance, own, part)
		out.repeats(performance, own, part)
		out.crafted(performance, own, part)
	}
	if source := piece.SourceOf(performance.Clip, own); source != own {
		out.Period = "with " + source.Name
	}
	if kind, ok := lane.Of(own).(walker); ok {
		out.Walk = walkOf(performance, own, kind)
	}
	if part == nil {
		return out
	}
	out.Octaves = octavesOf(part)
	out.Audible, out.Range = true, max(part.Range, 1)
	out.Notes = make([]Note, len(part.Notes))
	for i := range part.Notes {
		note := &part.Notes[i]
		at, length := performance.Span(note, PPQ)
		out.Notes[i] = NoteOf(note, part.Path(note), at, length)
		if performance.Feel.On {
			out.Straight = append(out.Straight, performance.Straight(part, note).Export(PPQ))
		}
	}
	for _, pressure := range part.Pressures {
		out.Pressures = append(out.Pressures, Pressure{pressure.At.Export(PPQ), int(pressure.Value)})
	}
	for _, p := range part.Outside {
		out.Outside = append(out.Outside, int(p))
	}
	if r := part.Reach; r != nil {
		out.Reach = &Reach{r.Least, r.Most, r.Lowest, r.Highest}
	}
	for _, bend := range part.Bends {
		if shown := (Bend{bend.At.Export(PPQ), int(bend.Value), int(bend.Channel)}); bend.Channel > 0 {
			out.Wheels = append(out.Wheels, shown)
		} else {
			out.Bends = append(out.Bends, shown)
		}
	}
	for _, control := range part.Controls {
		out.Controls = append(out.Controls, Control{At: control.At.Export(PPQ), Controller: int(control.Controller), Value: int(control.Value)})
	}
	return out
}

func (l *Lane) unroll(performance *render.Performance, own *piece.Lane, part *render.Part) {
	pattern := performance.Pattern(own)
	l.StepTicks, l.Round = pattern.Step.Export(PPQ), pattern.RoundSlots()
	l.Period = fmt.Sprintf("%d × %s", l.Round, own.Rate)
	l.Chancy = pattern.Chancy()
	l.Active = make([]bool, own.Content.StepList().Len())
	for _, i := range pattern.Active {
		l.Active[i] = true
	}
	add := func(s render.Slot) bool {
		l.Slots = append(l.Slots, int(s.Step))
		l.SlotAt = append(l.SlotAt, s.At.Export(PPQ))
		l.Rounds = append(l.Rounds, int(s.Round))
		l.Sounds = append(l.Sounds, s.Sounds)
		return true
	}
	if part != nil && part.Clock != nil {
		l.Clocked = true
		l.Period = fmt.Sprintf("%d on another lane", l.Round)
		for i, s := range part.Clock.Slots {
			add(s)
			l.StepTicks = min(l.StepTicks, part.Clock.Lengths[i].Export(PPQ))
		}
		return
	}
	pattern.Each(untilOf(performance, own), add)
}

// walker is a kind of lane that walks the tones of chords.
type walker interface {
	Rungs(own *piece.Lane, key pitch.Key, chord *render.Chord, octave int) ([]int, bool)
}

// walkOf lists what a lane walks as the chords change.
func walkOf(performance *render.Performance, own *piece.Lane, kind walker) []WalkRungs {
	out := []WalkRungs{}
	add := func(at int64, chord *render.Chord) {
		if rungs, ok := kind.Rungs(own, performance.Key, chord, performance.Harmony.Octave()); ok {
			out = append(out, WalkRungs{at, rungs})
		}
	}
	if performance.Harmony == nil {
		add(0, nil)
		return out
	}
	for _, b := range performance.Harmony.Chords {
		add(b.At.Export(PPQ), b.Chord)
	}
	return out
}

// repeats tells which slots sound as their step did in the first round. Of a lane that
// listens to nothing and that nothing moves that is every later round.
func (l *Lane) repeats(performance *render.Performance, own *piece.Lane, part *render.Part) {
	for _, round := range l.Rounds {
		l.Repeats = append(l.Repeats, round > 0)
	}
	if part == nil || !render.Listens(own) && len(own.Modulators) == 0 && len(own.Odds) == 0 {
		return
	}
	type place struct{ step, round int }
	at := map[place]int64{}
	for k, step := range l.Slots {
		at[place{step, l.Rounds[k]}] = l.SlotAt[k]
	}
	sounding := map[place]string{}
	for i := range part.Notes {
		note := &part.Notes[i]
		p := place{int(note.Step) - 1, int(note.Round) - 1}
		from, length := performance.Span(note, PPQ)
		sounding[p] += fmt.Sprint(from-at[p], " ", note.Pitch, " ", length, ";")
	}
	first := map[int]string{}
	for k, step := range l.Slots {
		p := place{step, l.Rounds[k]}
		if was, seen := first[step]; seen {
			l.Repeats[k] = was == sounding[p]
		} else {
			first[step] = sounding[p]
		}
	}
}
