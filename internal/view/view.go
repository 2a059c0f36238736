// Package view works out all that a screen needs to draw and play a clip: its
// lanes unrolled, ladders, names, the performance and the review. A screen only
// draws, hit-tests and plays what stands here.
package view

import (
	"fmt"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
)

// PPQ is the resolution of all positions in a view, in ticks a quarter note.
const PPQ = 960

// Bounds of what a view holds; the file of a longer clip still holds all of it.
const (
	MaxBars  = 128
	maxSlots = 200_000
)

// Clip is a clip ready to be drawn and played.
type Clip struct {
	ID        string           `json:"id"`
	Key       string           `json:"key"`      // "F♯ dorian"
	KeyNotes  []string         `json:"keyNotes"` // with real signs
	OwnKey    bool             `json:"ownKey"`
	Ticks     int64            `json:"ticks"` // length of what is shown
	BarTicks  int64            `json:"barTicks"`
	BeatTicks int64            `json:"beatTicks"`
	Bars      string           `json:"bars"`    // the clip's exact length in bars, "7" or "21/4"
	Whole     bool             `json:"whole"`   // false: the clip is longer than what is shown
	Realign   string           `json:"realign"` // when the lanes meet, in words
	MeetTicks int64            `json:"meetTicks"`
	TooLong   string           `json:"tooLong"` // why the clip's own length cannot be rendered; empty: it can
	Lanes     []Lane           `json:"lanes"`
	Findings  []review.Finding `json:"findings"`
}

// Lane is one lane of a view, sounding or not.
type Lane struct {
	ID        string       `json:"id"`
	Channel   int          `json:"channel"`
	StepTicks int64        `json:"stepTicks"`
	Round     int          `json:"round"`  // slots in a round
	Period    string       `json:"period"` // "7 steps, 7/16 bar"
	Slots     []int        `json:"slots"`  // the step (from 0) of each slot; slot k starts at k x stepTicks
	Sounds    []bool       `json:"sounds"` // which slots sound: on, and let through by chance and rounds
	Active    []bool       `json:"active"` // which steps take part in the round
	Pitches   []int        `json:"pitches"`
	Names     []string     `json:"names"` // the sounding pitch of each step, "C♯2"
	Ladder    []pitch.Rung `json:"ladder"`
	Audible   bool         `json:"audible"`
	Notes     [][6]int64   `json:"notes"`    // at, length, pitch, velocity, step (from 0), index in the performance
	Bends     [][2]int64   `json:"bends"`    // at, value -8192..8191
	Controls  [][3]int64   `json:"controls"` // at, controller, value
	Range     int          `json:"range"`    // semitones
}

// Perform renders a clip for the screen: its own length as far as the bounds
// allow, and otherwise its beginning.
func Perform(p *piece.Piece, clip *piece.Clip) (performance *render.Performance, whole bool, tooLong string, err error) {
	limit := barLimit(p, clip)
	cycle := render.CycleOf(p, clip)
	bars := clip.Bars
	if bars == 0 {
		length := cycle.Realign
		if clip.Until == "cycle" {
			length = cycle.Full
		}
		switch {
		case cycle.Cycle.Over(length):
			_, err := render.Clip(p, clip, render.Options{})
			tooLong = err.Error()
			bars = limit + 1
		case length.Int64() > int64(p.Bar())*int64(limit):
			bars = limit + 1
		}
	}
	options := render.Options{}
	if bars > limit {
		options.Bars = limit
	}
	performance, err = render.Clip(p, clip, options)
	return performance, bars <= limit, tooLong, err
}

func barLimit(p *piece.Piece, clip *piece.Clip) int {
	slots := beat.Time(0)
	for i := range clip.Lanes {
		slots += p.Bar()/p.StepLength(&clip.Lanes[i]) + 1
	}
	return max(1, min(MaxBars, maxSlots/int(max(slots, 1))))
}

// Of makes the view of a clip.
func Of(p *piece.Piece, clip *piece.Clip) (*Clip, error) {
	performance, whole, tooLong, err := Perform(p, clip)
	if err != nil {
		return nil, err
	}
	key := performance.Key
	out := &Clip{
		ID: clip.ID, Key: pitch.Pretty(key.String()), OwnKey: clip.Key != nil,
		Ticks: performance.Length.Export(PPQ), BarTicks: p.Bar().Export(PPQ), BeatTicks: p.BeatLength().Export(PPQ),
		Bars: performance.BarsLong().RatString(), Whole: whole, TooLong: tooLong,
		Lanes: make([]Lane, len(clip.Lanes)), Findings: review.Clip(p, clip, performance),
	}
	if !whole && clip.Bars != 0 {
		out.Bars = fmt.Sprint(clip.Bars)
	} else if !whole {
		out.Bars = performance.Cycle.RealignBars().String()
	}
	for _, name := range key.Names() {
		out.KeyNotes = append(out.KeyNotes, pitch.Pretty(name.String()))
	}
	out.Realign, out.MeetTicks = meeting(performance.Cycle)
	channels := render.Channels(clip)
	for i := range clip.Lanes {
		out.Lanes[i] = laneOf(p, &clip.Lanes[i], key, performance.Length, clip.ID)
		out.Lanes[i].Channel = channels[i]
	}
	for i := range performance.Lanes {
		fill(&out.Lanes[performance.Lanes[i].Lane], performance, &performance.Lanes[i])
	}
	return out, nil
}

// meeting says in words when the lanes meet again.
func meeting(cycle render.Cycle) (text string, ticks int64) {
	if len(cycle.Periods) == 0 {
		return "No lane plays yet", 0
	}
	bars := func(n string) string {
		if n == "1" {
			return "1 bar"
		}
		return n + " bars"
	}
	realign := cycle.RealignBars().String()
	if len(realign) > 9 {
		return fmt.Sprintf("All lanes meet again only after %.2e bars", float64FromBig(cycle)), 0
	}
	if cycle.Over() {
		return "All lanes meet on a bar again only after " + bars(realign), 0
	}
	ticks = cycle.ExportTicks(PPQ).Int64()
	if full := cycle.Bars(); full != realign {
		return fmt.Sprintf("All lanes meet again after %s, and on a bar line after %s", bars(full), bars(realign)), ticks
	}
	return "All lanes meet again after " + bars(realign), ticks
}

func float64FromBig(cycle render.Cycle) float64 {
	out, _ := cycle.RealignBars().Float64()
	return out
}

func laneOf(p *piece.Piece, lane *piece.Lane, key pitch.Key, length beat.Time, clipID string) Lane {
	step := p.StepLength(lane)
	out := Lane{
		ID: lane.ID, StepTicks: step.Export(PPQ), Pitches: render.StepPitches(lane, key), Range: lane.Glide.Range,
		Notes: [][6]int64{}, Bends: [][2]int64{}, Controls: [][3]int64{}, Active: make([]bool, len(lane.Steps)),
	}
	out.Slots, out.Sounds = render.Unrolled(p, clipID, lane, length)
	active := render.Active(lane)
	for _, i := range active {
		out.Active[i] = true
	}
	out.Round = render.RoundSlots(lane, len(active))
	out.Period = fmt.Sprintf("%d × %s", out.Round, lane.Rate)
	for i := range lane.Steps {
		out.Names = append(out.Names, pitch.Pretty(render.SpellStep(lane, key, &lane.Steps[i])))
	}
	home := key.Pitch(pitch.Place{Degree: 1}, lane.Octave)
	low, high := home-24, home+36
	for i, midi := range out.Pitches {
		if lane.Steps[i].On {
			low, high = min(low, midi), max(high, midi)
		}
	}
	out.Ladder = key.Ladder(lane.Octave, low, high, lane.Lock == "off")
	return out
}

func fill(out *Lane, performance *render.Performance, part *render.Part) {
	out.Audible = true
	for i := range part.Notes {
		note := &part.Notes[i]
		at, length := performance.Span(note, PPQ)
		out.Notes = append(out.Notes, [6]int64{at, length, int64(note.Pitch), int64(note.Velocity), int64(note.Step) - 1, int64(i)})
	}
	for _, bend := range part.Bends {
		out.Bends = append(out.Bends, [2]int64{bend.At.Export(PPQ), int64(bend.Value)})
	}
	for _, control := range part.Controls {
		out.Controls = append(out.Controls, [3]int64{control.At.Export(PPQ), int64(control.Controller), int64(control.Value)})
	}
}

// Thumb is a clip's result in miniature, for the index.
type Thumb struct {
	ID    string     `json:"id"`
	Name  string     `json:"name"`
	Bars  string     `json:"bars"`
	Ticks int64      `json:"ticks"`
	Key   string     `json:"key"`
	Notes [][3]int64 `json:"notes"` // at, length, pitch
	Lanes int        `json:"lanes"`
	Plays bool       `json:"plays"`
}

// maxThumbNotes bounds a miniature; more could not be told apart.
const maxThumbNotes = 400

// Thumbs are the miniatures of all clips of a piece.
func Thumbs(p *piece.Piece) ([]Thumb, error) {
	out := []Thumb{}
	for i := range p.Clips {
		clip := &p.Clips[i]
		performance, whole, _, err := Perform(p, clip)
		if err != nil {
			return nil, err
		}
		t := Thumb{
			ID: clip.ID, Name: clip.Name, Bars: performance.BarsLong().RatString(), Ticks: performance.Length.Export(PPQ),
			Key: pitch.Pretty(performance.Key.String()), Notes: [][3]int64{}, Lanes: len(clip.Lanes),
		}
		if !whole {
			t.Bars = performance.Cycle.RealignBars().String()
			if clip.Bars != 0 {
				t.Bars = fmt.Sprint(clip.Bars)
			}
			if len(t.Bars) > 9 {
				t.Bars = "endless"
			}
		}
		for l := range performance.Lanes {
			for n := range performance.Lanes[l].Notes {
				note := &performance.Lanes[l].Notes[n]
				if len(t.Notes) < maxThumbNotes {
					at, length := performance.Span(note, PPQ)
					t.Notes = append(t.Notes, [3]int64{at, length, int64(note.Pitch)})
				}
			}
		}
		t.Plays = len(t.Notes) > 0
		out = append(out, t)
	}
	return out, nil
}

// Vocabulary is every word that a chooser offers.
type Vocabulary struct {
	Tonics     []string      `json:"tonics"` // as documents write them
	Scales     []ScaleChoice `json:"scales"`
	Rates      []string      `json:"rates"`
	Directions []string      `json:"directions"`
	Locks      []string      `json:"locks"`
	Snaps      []string      `json:"snaps"`
	GlideModes []string      `json:"glideModes"`
	Untils     []string      `json:"untils"`
	SwingGrids []string      `json:"swingGrids"`
	Beats      []string      `json:"beats"`
	Voices     []string      `json:"voices"`
	Waves      []string      `json:"waves"`
	PPQs       []int         `json:"ppqs"`
	MaxSteps   int           `json:"maxSteps"`
	MaxLanes   int           `json:"maxLanes"`
	MaxBars    int           `json:"maxBars"`
}

// ScaleChoice is a named scale with its degrees.
type ScaleChoice struct {
	Name    string `json:"name"`
	Degrees string `json:"degrees"` // with real signs
}

// Words gives the vocabulary.
func Words() Vocabulary {
	out := Vocabulary{
		Tonics: []string{"C", "C#", "Db", "D", "D#", "Eb", "E", "F", "F#", "Gb", "G", "G#", "Ab", "A", "A#", "Bb", "B", "Cb"},
		Rates:  beat.Rates, Directions: piece.Directions, Locks: piece.Locks, Snaps: piece.Snaps, GlideModes: piece.GlideModes,
		Untils: piece.Untils, SwingGrids: piece.SwingGrids, Beats: piece.BeatNames, Voices: piece.Voices, Waves: piece.Waves,
		PPQs: beat.Resolutions, MaxSteps: piece.MaxSteps, MaxLanes: piece.MaxLanes, MaxBars: beat.MaxBars,
	}
	for _, scale := range pitch.Scales {
		degrees := ""
		for i, text := range scale.Texts() {
			if i > 0 {
				degrees += " "
			}
			degrees += pitch.Pretty(text)
		}
		out.Scales = append(out.Scales, ScaleChoice{scale.Name, degrees})
	}
	return out
}
