package render

import (
	"cmp"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// Way is how the wheel goes through a note, with the groove in its times.
type Way struct {
	Note   int           // its place among the part's
	Start  *Slide        // with which it begins; nil: none
	Points []piece.Point // of its bend
	Slides []Slide       // by which it goes on to other pitches, and home
}

// WayOf is how the wheel goes through a note, by its place among the part's; false: it stays, or that was not kept.
func (part *Part) WayOf(note int) (*Way, bool) {
	at, found := slices.BinarySearchFunc(part.Ways, note, func(w Way, note int) int { return cmp.Compare(w.Note, note) })
	if !found {
		return nil, false
	}
	return &part.Ways[at], true
}

// Slide is one way of the wheel.
type Slide struct {
	At, Length beat.Time
	From       *int // semitones from where it goes to; nil: from wherever the wheel is
	To         int  // semitones from the key that is struck
	Curve      int
	Glides     bool // it is a glide; otherwise the wheel jumps
}

// tellWays keeps how the wheel goes through the notes, where that was asked for.
func (part *Part) tellWays(in *Input, v *Voice, runs []run, slides []slide, begin []start) {
	if !in.Frame.ways {
		return
	}
	for i := range part.Notes {
		late := in.lateness(&part.Notes[i])
		fall := func(straight beat.Time) beat.Time { return in.Swing.Warp(straight) + late }
		t := &part.Notes[i].trace
		if t.many {
			continue
		}
		out := Way{Note: i}
		if v.Bend != nil {
			out.Points = v.Bend(part.Notes[i].Step - 1)
		}
		if begin != nil && t.repeat == 1 && begin[t.run].from != 0 {
			s := begin[t.run]
			out.Start = &Slide{At: fall(t.onset), Length: fall(t.onset+s.length) - fall(t.onset), From: &s.from, Curve: s.curve, Glides: true}
		}
		if t.last && len(runs) > 0 {
			end := len(slides)
			if int(t.run)+1 < len(runs) {
				end = int(runs[t.run+1].slides)
			}
			for _, s := range slides[runs[t.run].slides:end] {
				at := in.Slots[s.slot].At
				way := Slide{At: fall(at), Length: fall(at+s.length) - fall(at), To: s.to, Curve: s.curve, Glides: s.length > 0 || !s.goesOn}
				if from := s.from - s.to; !s.goesOn {
					way.From = &from
				}
				out.Slides = append(out.Slides, way)
			}
		}
		if out.Start != nil || len(out.Slides) > 0 || len(out.Points) > 0 {
			part.Ways = append(part.Ways, out)
		}
	}
}

// tell keeps how the wheel of each note goes, where that was asked for.
func (t *threads) tell(part *Part) {
	if !t.in.Frame.ways {
		return
	}
	for i := range part.Notes {
		note := &part.Notes[i]
		late := t.in.lateness(note)
		fall := func(straight beat.Time) beat.Time { return t.in.Swing.Warp(straight) + late }
		out := Way{Note: i}
		if t.voice.Bend != nil {
			out.Points = t.voice.Bend(note.Step - 1)
		}
		own := &t.list[note.trace.run-1]
		for k, s := range own.ways {
			slide := Slide{At: fall(s.at), Length: fall(s.end) - fall(s.at), To: int(s.to), Curve: s.curve, Glides: true}
			if from := int(s.from - s.to); !s.goesOn {
				slide.From = &from
			}
			switch {
			case k == 0 && own.comes && own.from != 0:
				out.Start = &slide
			case s.end > s.at || s.from != s.to || k > 0:
				out.Slides = append(out.Slides, slide)
			}
		}
		if out.Start != nil || len(out.Slides) > 0 || len(out.Points) > 0 {
			part.Ways = append(part.Ways, out)
		}
	}
}
