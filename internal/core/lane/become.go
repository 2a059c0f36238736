package lane

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/intake"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// becoming is a kind of lane that notes can become.
type becoming interface {
	// As is what they become, in the words of those who ask for it.
	As() string
	// Become makes lanes of notes, without ids. The error says why they do not fit.
	Become(s *intake.Source) ([]piece.Lane, error)
}

// becomings are the kinds that notes can become, by the words that ask for them.
var becomings = func() map[string]becoming {
	out := map[string]becoming{}
	for _, kind := range Kinds {
		if own, ok := kind.(becoming); ok {
			out[own.As()] = own
		}
	}
	return out
}()

// Auto is what notes become that fits best: lanes with steps where no note would change, or else
// Always.
const Auto = "auto"

// Always is what any notes can become.
const Always = "notes"

// Together is what notes can become of which several are struck together.
const Together = "chords"

// Becomings are the words for what notes can become.
func Becomings() []string { return slices.Sorted(maps.Keys(becomings)) }

// preferred is what is tried for Auto, in order: for drums, and for what has pitches.
var preferred = map[bool][]string{true: {"pulses"}, false: {"line", "chords"}}

// Became is what notes became.
type Became struct {
	As      string
	Lanes   []piece.Lane
	Differs intake.Differs
	close   bool // what they sound is as good as the notes
}

// Become makes lanes of notes. The error says why they do not fit, or that there is no such kind.
func Become(as string, s *intake.Source, tempo float64) (*Became, error) {
	if as == Auto {
		for _, name := range preferred[s.Drums] {
			if out, err := Become(name, s, tempo); err == nil && out.close {
				return out, nil
			}
		}
		as = Always
	}
	kind, known := becomings[as]
	if !known {
		return nil, fmt.Errorf("%q is nothing that notes can become; allowed: %s, %s", as, Auto, strings.Join(Becomings(), ", "))
	}
	lanes, err := kind.Become(s)
	if err != nil {
		return nil, err
	}
	out := &Became{As: as, Lanes: lanes}
	got, err := sounds(lanes, s, tempo)
	if err != nil {
		return nil, err
	}
	heard := intake.Heard(s.Notes)
	out.Differs, out.close = intake.Compare(heard, got, tempo), intake.Close(heard, got)
	return out, nil
}

// printing is the kind of lane that notes are printed into.
type printing interface {
	// Print makes a lane of notes as they sounded, and, of one voice, of how the wheel went through
	// each.
	Print(s *intake.Source, ways []render.Way, mode piece.GlideMode) (piece.Lane, error)
}

// Print makes a lane of what one or more lanes sounded.
func Print(s *intake.Source, ways []render.Way, mode piece.GlideMode) (piece.Lane, error) {
	return becomings[Always].(printing).Print(s, ways, mode)
}

// sounds are the notes that lanes make for as long as their round lasts.
func sounds(lanes []piece.Lane, s *intake.Source, tempo float64) ([]intake.Note, error) {
	p := piece.Default()
	p.Tempo, p.Meter = tempo, s.Meter.String()
	p.Key = piece.KeyAs(s.Key)
	bar := int(s.Meter.Bar() / (beat.Quarter / intake.PPQ))
	clip := piece.NewClip("in", "In")
	clip.Until, clip.Bars = "", (s.Length+bar-1)/bar
	clip.Lanes = slices.Clone(lanes)
	for i := range clip.Lanes {
		clip.Lanes[i].ID, clip.Lanes[i].Channel = fmt.Sprintf("l%d", i), 1
	}
	p.Clips = []piece.Clip{clip}
	if err := piece.Check(p); err != nil {
		return nil, err
	}
	performance, err := Render(p, &p.Clips[0], render.Options{Bars: clip.Bars, Budget: s.Budget})
	if err != nil {
		return nil, err
	}
	var out []intake.Note
	for i := range performance.Lanes {
		performance.Written(&performance.Lanes[i], intake.PPQ, func(n *render.Note, at, length int64) {
			if int(at) < s.Length {
				out = append(out, intake.Note{At: int(at), Length: int(min(length, int64(s.Length)-at)), Pitch: int(n.Pitch), Velocity: int(n.Velocity)})
			}
		})
	}
	return out, nil
}
