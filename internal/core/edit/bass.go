package edit

import (
	"slices"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// The words of a bass.
var (
	BassNotes      = []string{"root", "lowest"}
	BassRhythms    = []string{"held", "every", "even", "lane"}
	BassApproaches = []string{"none", "below", "above", "fifth"}
)

// span is the steps of a bass under one chord.
type span struct {
	first, last int // the last included
	chord       *render.Chord
}

// makeBass makes a line lane of the clip's harmony, over one round of it.
func makeBass(t target, o op.MakeBass) error {
	if err := t.checkBass(&o); err != nil {
		return err
	}
	source, _ := t.Piece.HarmonyOf(t.Clip)
	if source == nil {
		return t.Wrong("clip", "%q has no chords; allowed: a clip with a chords lane, "+
			"one whose harmony is a lane of free notes, or one that takes its harmony from another clip", t.Clip.ID)
	}
	pattern := render.PatternOf(t.Piece, t.Clip, source)
	round := pattern.RoundLength()
	harmony := lane.Harmony(t.Piece, t.Clip, round, t.Budget)
	if harmony == nil || round == 0 {
		return t.Wrong("clip", "no chord of %q is on; allowed: a harmony with at least one", source.Name)
	}
	step, err := t.bassStep(&o, harmony, round)
	if err != nil {
		return err
	}
	count := int(round / step)
	bass := piece.NewLane(piece.DefaultKind, t.laneID(o.Name), o.Name)
	own, steps := piece.PitchedOf(&bass), bass.Content.StepList()
	bass.Rate, own.Octave = o.Rate, o.Octave
	steps.Resize(count)
	if o.Octave == pitched.BassOctave {
		own.Octave += pitched.GroundOctave(t.Key()) - pitched.BassOctave
	}
	if o.Follow {
		own.Follow, own.Lock, own.Roots = "root", "off", "near"
	}
	spans := spansOf(harmony, step, count)
	hits, err := t.bassHits(&o, spans, step, count)
	if err != nil {
		return err
	}
	key := t.Key()
	for _, s := range spans {
		at := bassPlace(&o, key, own.Octave, s.chord)
		for i := s.first; i <= s.last; i++ {
			bass.SetPlace(i, at)
			cell := steps.Cell(i)
			cell.On = hits[i]
			if o.Rhythm == "held" {
				cell.Tie, cell.Gate = i < s.last, 100
			}
		}
	}
	for k, s := range spans {
		approach(&o, key, &bass, s, spans[(k+1)%len(spans)])
	}
	for i := range count {
		if place, _ := bass.Place(i); place.Alter != 0 && !o.Follow {
			own.Lock = "off" // a root outside the key stays what it is
		}
	}
	t.Clip.Lanes = append(t.Clip.Lanes, bass)
	return nil
}

func (t target) checkBass(o *op.MakeBass) error {
	if err := t.Room(len(t.Clip.Lanes), piece.MaxLanes, "lanes"); err != nil {
		return err
	}
	for _, word := range []struct {
		name, got string
		allowed   []string
	}{{"of", o.Of, BassNotes}, {"rhythm", o.Rhythm, BassRhythms}, {"approach", o.Approach, BassApproaches}, {"rate", o.Rate, beat.Rates}} {
		if !slices.Contains(word.allowed, word.got) {
			return t.Wrong(word.name, "%q is not allowed; allowed: %s", word.got, strings.Join(word.allowed, ", "))
		}
	}
	switch {
	case o.Octave < -1 || o.Octave > 9:
		return t.Wrong("octave", "%d is out of range; allowed: -1..9", o.Octave)
	case o.Rhythm == "every" && (o.Every < 1 || o.Every > 64):
		return t.Wrong("every", "%d is out of range; allowed: 1..64", o.Every)
	case o.Rhythm == "even" && (o.Hits < 1 || o.Hits > 64):
		return t.Wrong("hits", "%d is out of range; allowed: 1..64", o.Hits)
	case o.Follow && o.Of != "root":
		return t.Wrong("follow", "only roots can be followed; allowed: false where the lowest notes are taken")
	}
	if o.Name == "" {
		o.Name = "Bass"
	}
	return nil
}

// bassStep is the length of the bass's steps: that of the rate, or of a finer one where
// a chord begins between its steps.
func (t target) bassStep(o *op.MakeBass, h *render.Harmony, round beat.Time) (beat.Time, error) {
	lane := piece.NewLane(piece.DefaultKind, "", "")
	fits := func(rate string) (beat.Time, bool) {
		lane.Rate = rate
		step := t.Piece.StepLength(&lane)
		for _, b := range h.Chords {
			if b.At%step != 0 {
				return 0, false
			}
		}
		return step, round%step == 0 && round/step <= piece.MaxSteps
	}
	if step, ok := fits(o.Rate); ok {
		return step, nil
	}
	for _, rate := range []string{"1/8", "1/16", "1/8T", "1/16T", "1/32", "1/64"} {
		if step, ok := fits(rate); ok {
			o.Rate = rate
			return step, nil
		}
	}
	// Chords that are played stand on no grid: each begins at the step that is nearest.
	lane.Rate = o.Rate
	if step := t.Piece.StepLength(&lane); round%step == 0 && round/step <= piece.MaxSteps && h.Lane.Content.StepList() == nil {
		return step, nil
	}
	return 0, t.Wrong("rate", "steps of %s do not fit under the chords, and no finer ones do within %d steps", o.Rate, piece.MaxSteps)
}

func spansOf(h *render.Harmony, step beat.Time, count int) []span {
	var out []span
	nearest := func(at beat.Time) int { return int((at + step/2) / step) }
	for i, b := range h.Chords {
		s := span{first: nearest(b.At), last: count - 1, chord: b.Chord}
		if i+1 < len(h.Chords) {
			s.last = min(nearest(h.Chords[i+1].At), count) - 1
		}
		if s.first <= s.last {
			out = append(out, s)
		}
	}
	return out
}

// bassHits tells which steps sound.
func (t target) bassHits(o *op.MakeBass, spans []span, step beat.Time, count int) ([]bool, error) {
	hits := make([]bool, count)
	switch o.Rhythm {
	case "held":
		for _, s := range spans {
			hits[s.first] = true
		}
	case "every":
		for _, s := range spans {
			for i := s.first; i <= s.last; i += o.Every {
				hits[i] = true
			}
		}
	case "even":
		for _, s := range spans {
			total := s.last - s.first + 1
			for i, on := range Even(min(o.Hits, total), total, 0) {
				hits[s.first+i] = on
			}
		}
	case "lane":
		at := slices.IndexFunc(t.Clip.Lanes, func(l piece.Lane) bool { return l.ID == o.From })
		if at < 0 || t.Clip.Lanes[at].Content.StepList() == nil {
			return nil, t.Wrong("from", "no lane %q with steps in clip %q", o.From, t.Clip.ID)
		}
		render.PatternOf(t.Piece, t.Clip, &t.Clip.Lanes[at]).Each(step*beat.Time(count), func(s render.Slot) bool {
			t.Budget.Spend(1)
			if s.Sounds {
				hits[s.At/step] = true
			}
			return true
		})
	}
	return hits, nil
}

// bassPlace is the bass's note under a chord: where a bass has its ground, or, of a lane that is higher than one, in the
// octave from the tonic upwards.
func bassPlace(o *op.MakeBass, key pitch.Key, octave int, chord *render.Chord) pitch.Place {
	if o.Follow {
		return pitch.Place{Degree: 1}
	}
	tonic := key.Pitch(pitch.Place{Degree: 1}, octave)
	at := pitch.Place{Degree: chord.RootDegree, Alter: chord.RootAlter}
	if o.Of != "root" {
		at = key.Express(tonic+pitch.Mod(int(chord.Pitches[0])-tonic, 12), octave)
	}
	if p := key.Pitch(at, octave); o.Octave == pitched.BassOctave {
		at.Octave += (pitched.BassPitch(p) - p) / 12
	}
	return at
}

// approaches lead to a MIDI pitch, the note of the chord that comes: from the nearest note of
// the key below or above, or from the fifth above, an octave down.
var approaches = map[string]func(key pitch.Key, goal int, next *render.Chord) int{
	"below": func(key pitch.Key, goal int, _ *render.Chord) int { return key.Snap(goal-1, pitch.Down) },
	"above": func(key pitch.Key, goal int, _ *render.Chord) int { return key.Snap(goal+1, pitch.Up) },
	"fifth": func(key pitch.Key, goal int, next *render.Chord) int {
		// The chord's own fifth, or the key's, perfect where there is a choice.
		fifths := []int{goal - 5, goal - 6, goal - 4}
		for _, fits := range []func(int) bool{next.Has, key.Has} {
			if i := slices.IndexFunc(fifths, fits); i >= 0 {
				return fifths[i]
			}
		}
		return fifths[0]
	},
}

// approach lets the last step before another chord lead into its note.
func approach(o *op.MakeBass, key pitch.Key, bass *piece.Lane, here, next span) {
	lead, ok := approaches[o.Approach]
	if !ok || here.first == here.last || here.chord == next.chord {
		return
	}
	own, steps := piece.PitchedOf(bass), bass.Content.StepList()
	goal := bassPlace(o, key, own.Octave, next.chord)
	if o.Follow {
		goal = pitch.Place{Degree: next.chord.RootDegree, Alter: next.chord.RootAlter}
	}
	at := key.Express(lead(key, key.Pitch(goal, own.Octave), next.chord), own.Octave)
	bass.SetPlace(here.last, pitched.Uncounted(own, key, here.chord, at))
	cell := steps.Cell(here.last)
	cell.On, cell.Gate = true, 75
	if o.Rhythm == "held" {
		steps.Cell(here.last-1).Tie, cell.Gate = false, 100
	}
}
