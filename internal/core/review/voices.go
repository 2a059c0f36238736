package review

import (
	"cmp"
	"fmt"
	"slices"
	"sort"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// voice is a lane that sounds pitches, as it is heard.
type voice struct {
	own  *piece.Lane
	part *render.Part
	tune bool // it sounds one melody, whose notes can be put elsewhere
}

// voices are the lanes that sound pitches: no drums.
func (l *look) voices() (out []voice) {
	for i := range l.performance.Lanes {
		part := &l.performance.Lanes[i]
		own := &l.clip.Lanes[part.Lane]
		if len(part.Notes) == 0 || drums(own, part) {
			continue
		}
		_, tune := own.Content.(melodic)
		out = append(out, voice{own, part, tune})
	}
	return out
}

// drums reports whether a lane plays a drum kit: on the drums' channel or with the kit's voice.
func drums(own *piece.Lane, part *render.Part) bool {
	return part.Channel == 10 || own.Sound.Voice == "kit"
}

// lowest is the lowest melody of the clip, by the mean of its pitches; ok is false where there is none.
func (l *look) lowest() (low voice, ok bool) {
	least := 0.0
	for _, v := range l.voices() {
		if mean := meanPitch(v.part.Notes); v.tune && (!ok || mean < least) {
			low, least, ok = v, mean, true
		}
	}
	return low, ok
}

func meanPitch(notes []render.Note) float64 {
	sum := 0
	for i := range notes {
		sum += int(notes[i].Pitch)
	}
	return float64(sum) / float64(len(notes))
}

// ruleWork is how many pairs of notes, or of notes and chords, a rule holds against each other at most.
const ruleWork = 400_000

// bounded lets a rule work until it has spent what it may cost. What lies beyond is not remarked.
func bounded(rule func(spent *budget.Budget)) {
	var err error
	defer budget.Catch(&err)
	rule(budget.New(ruleWork, nil))
}

// together gives the pairs of notes of different pitches that sound together for at least so long, in order of the later
// one's onset. Both may be of one voice; a layer is not held against what it plays. Only notes under a pitch are taken.
func (l *look) together(voices []voice, least beat.Time, under uint8, each func(a, b heard)) {
	var all []heard
	for _, v := range voices {
		for i := range v.part.Notes {
			if v.part.Notes[i].Pitch < under {
				all = append(all, heard{v, i})
			}
		}
	}
	slices.SortStableFunc(all, func(a, b heard) int { return cmp.Compare(a.note().At, b.note().At) })
	bounded(func(spent *budget.Budget) {
		var sounding []heard
		for _, now := range all {
			at := now.note().At
			spent.Spend(int64(len(sounding)) + 1)
			sounding = slices.DeleteFunc(sounding, func(h heard) bool { return h.note().End-at < least })
			if now.note().End-at < least {
				continue
			}
			for _, before := range sounding {
				if before.note().Pitch != now.note().Pitch && (before.part == now.part || l.performance.SourceOf(before.part) != l.performance.SourceOf(now.part)) {
					each(before, now)
				}
			}
			sounding = append(sounding, now)
		}
	})
}

// heard is a note of a voice.
type heard struct {
	voice
	at int // its index in the part
}

func (h heard) note() *render.Note { return &h.part.Notes[h.at] }

// next is the note of a part that begins next after one (by index); nil: none does.
func next(part *render.Part, at int) *render.Note {
	later := part.Notes[at+1:]
	i := sort.Search(len(later), func(i int) bool { return later[i].At > part.Notes[at].At })
	if i == len(later) {
		return nil
	}
	return &later[i]
}

// steps reports whether a note goes on by step, to another pitch at most two semitones away, before a time.
func steps(part *render.Part, at int, before beat.Time) (to *render.Note, ok bool) {
	to = next(part, at)
	if to == nil || to.At > before {
		return nil, false
	}
	away := int(to.Pitch) - int(part.Notes[at].Pitch)
	return to, away != 0 && away >= -2 && away <= 2
}

// stepSet holds steps (from 1), each once, in the order in which they came.
type stepSet struct {
	steps []int
	known map[int]bool
}

func (s *stepSet) add(step int) {
	if s.known == nil {
		s.known = map[int]bool{}
	}
	if !s.known[step] {
		s.known[step] = true
		s.steps = append(s.steps, step)
	}
}

// meter is the piece's.
func (l *look) meter() beat.Meter {
	meter, err := beat.ParseMeter(l.piece.Meter)
	if err != nil {
		panic(err) // a checked piece has a meter
	}
	return meter
}

// place is where a time stands in the bars, in words: "bar 2, beat 3".
func (l *look) place(at beat.Time) string {
	bar := l.performance.Bar
	return fmt.Sprintf("bar %d, beat %d", at/bar+1, at%bar/l.meter().Beat()+1)
}

// places are the first of several times in words, and how many more there are.
func (l *look) places(times []beat.Time) string {
	out := l.place(times[0])
	if more := len(times) - 1; more > 0 {
		out += fmt.Sprintf(", and at %s more", render.Many(more, "place"))
	}
	return out
}

// quietly leaves out what the lane or the piece does not want to be told of.
func (l *look) quietly() {
	l.found = slices.DeleteFunc(l.found, func(f render.Finding) bool {
		if f.Silent {
			return false
		}
		if slices.Contains(l.piece.Quiet, f.Rule) {
			return true
		}
		i := slices.IndexFunc(l.clip.Lanes, func(own piece.Lane) bool { return own.ID == f.Lane })
		return i >= 0 && slices.Contains(l.clip.Lanes[i].Quiet, f.Rule)
	})
}
