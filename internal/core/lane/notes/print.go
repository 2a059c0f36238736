package notes

import (
	"errors"
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/intake"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Print makes a lane of notes as they sounded; ways are how the wheel went through them. Without
// any, or where each note has a wheel of its own, many notes may sound at a time; one wheel for all wants one voice.
func (k Kind) Print(s *intake.Source, ways []render.Way, mode piece.GlideMode) (piece.Lane, error) {
	made, err := k.Become(s)
	if err != nil {
		return piece.Lane{}, err
	}
	lane := made[0]
	own := of(&lane)
	own.Loop = &piece.Loop{Length: s.Length}
	if mode.Mode == piece.MPE {
		own.Glide = mode
		for i := range ways {
			if err := apart(&own.Notes[ways[i].Note], &ways[i]); err != nil {
				return lane, err
			}
		}
		return lane, nil
	}
	if len(ways) == 0 {
		return lane, nil
	}
	own.Voices, own.Glide = "one", mode
	p := printer{own: own, key: s.Key, ways: map[int]*render.Way{}}
	for i := range ways {
		p.ways[ways[i].Note] = &ways[i]
	}
	for i := range s.Notes {
		next := s.Length
		if i+1 < len(s.Notes) {
			next = s.Notes[i+1].At
		}
		if err := p.note(i, &s.Notes[i], next); err != nil {
			return lane, err
		}
	}
	own.Notes = []piece.FreeNote{}
	own.Put(p.out)
	return lane, nil
}

// printer writes notes of one voice with the ways of the wheel through them.
type printer struct {
	own  *piece.Notes
	key  pitch.Key
	ways map[int]*render.Way
	out  []piece.FreeNote
}

// overlap is by how much one note goes over into the next that it is joined to, in 960ths.
const overlap = int(beat.Overlap / piece.NoteTick)

// note writes a note that ends before the next one, or is joined to it, as one or more that are tied.
func (p *printer) note(i int, n *intake.Note, next int) error {
	first := p.own.Notes[i]
	first.Number = 0
	way := p.ways[i]
	end := n.End()
	joins := end == next+overlap && p.own.Glide.Mode == "bend"
	if way == nil {
		if joins {
			first.Tie, first.Length = true, next-n.At
		}
		p.out = append(p.out, first)
		return nil
	}
	first.Bend = way.Points
	if first.Bend == nil {
		first.Bend = []piece.Point{}
	}
	links := []link{{at: n.At, note: first}}
	if way.Start != nil {
		links[0].slide = way.Start
	}
	for k := range way.Slides {
		s := &way.Slides[k]
		at := int(s.At.Export(intake.PPQ))
		to := n.Pitch + s.To
		if to < 0 || to > 127 || at <= links[len(links)-1].at || at >= end {
			return errors.New("a glide goes where no note can stand")
		}
		tied := piece.NewNote(at, 1)
		tied.Velocity = n.Velocity
		p.place(&tied, to)
		links = append(links, link{at: at, note: tied, slide: s})
	}
	p.chain(links, end, joins, next)
	return nil
}

// apart writes how the wheel of a note's own goes: with a glide it comes, by a bend it goes on from there. A glide's
// time is a whole percent of the note, so that what fits that badly does not sound the same.
func apart(n *piece.FreeNote, way *render.Way) error {
	whole := beat.Time(n.Length) * piece.NoteTick
	share := func(t beat.Time) int { return int((2*100*t + whole) / (2 * whole)) }
	point := func(t beat.Time) float64 { return piece.PointAt(int64((2*piece.PointUnits*t + whole) / (2 * whole))) }
	if s := way.Start; s != nil {
		n.Glide = &piece.Glide{Time: max(share(s.Length), 1), Curve: s.Curve, From: s.From}
		if n.Glide.Time > maxTime || *s.From < -farthestFrom || *s.From > farthestFrom {
			return fmt.Errorf(
				"a note comes from %d semitones away in %d %% of its length, which no glide does (allowed: %d semitones, %d %%)",
				*s.From,
				n.Glide.Time,
				farthestFrom,
				maxTime,
			)
		}
	}
	n.Bend = append(n.Bend, way.Points...)
	if len(way.Slides) == 0 {
		return nil
	}
	if len(way.Points) > 0 {
		return errors.New("a note that bends and slides on to another pitch, which one bend cannot tell")
	}
	by := 0
	for i := range way.Slides {
		s := &way.Slides[i]
		from := by
		if s.From != nil {
			from = s.To + *s.From
		}
		at := s.At - beat.Time(n.At)*piece.NoteTick
		n.Bend = append(n.Bend, piece.Point{At: point(max(at, 0)), By: from}, piece.Point{At: point(max(at+s.Length, 0)), By: s.To, Curve: s.Curve})
		if from != by {
			n.Bend = slices.Insert(n.Bend, len(n.Bend)-2, piece.Point{At: point(max(at, 0)), By: by})
		}
		by = s.To
	}
	for _, p := range n.Bend {
		if p.At > 100 || p.By < -farthestFrom || p.By > farthestFrom {
			return fmt.Errorf(
				"a note slides on to %d semitones from its key, %v %% into it, which no bend does (allowed: %d semitones, 100 %%)",
				p.By,
				p.At,
				farthestFrom,
			)
		}
	}
	if len(n.Bend) > piece.MaxPoints {
		return fmt.Errorf("a note slides on %d times, which no bend does (allowed: %d points)", len(way.Slides), piece.MaxPoints)
	}
	return nil
}

// farthestFrom is how far away a glide may come from, and a bend go, in semitones.
const farthestFrom = 24

// link is one of the notes that stand for one that sounds.
type link struct {
	at    int
	note  piece.FreeNote
	slide *render.Slide
}

func (p *printer) place(n *piece.FreeNote, midi int) {
	at := p.key.Express(midi, p.own.Octave)
	if !intake.Reaches(at) {
		n.Note = &midi
		return
	}
	n.SetPlace(at)
}

// chain ties notes one after another. A note that is tied on may be of any length, so that the time
// of its glide, in whole percents of it, is the very time; the last one is as long as it sounds, and
// where its percents do not fit, one more is tied to it.
func (p *printer) chain(links []link, end int, joins bool, next int) {
	for k := range links {
		l := &links[k]
		last := k == len(links)-1
		l.note.Length, l.note.Tie = end-l.at, !last || joins
		if !last {
			l.note.Length = links[k+1].at - l.at
		} else if joins {
			l.note.Length = next - l.at
		}
		if s := l.slide; s != nil && s.Glides {
			l.note.Glide = &piece.Glide{Curve: s.Curve, From: s.From}
			if !exact(l.note.Glide, s.Length, l.note.Length) {
				if !l.note.Tie && end-1 > l.at {
					more := l.note
					more.At, more.Length, more.Number, more.Glide, more.Bend = end-1, 1, 0, nil, []piece.Point{}
					l.note.Tie = true
					l.note.Length = free(l.note.Glide, s.Length)
					p.out = append(p.out, l.note, more)
					continue
				}
				l.note.Length = free(l.note.Glide, s.Length)
			}
		}
		p.out = append(p.out, l.note)
	}
}

// maxTime is the longest glide, in % of its note.
const maxTime = 400

// exact sets a glide's time, where whole percents of a length are it.
func exact(g *piece.Glide, time beat.Time, length int) bool {
	whole := beat.Time(length) * piece.NoteTick
	if time*100%whole != 0 || time*100/whole > maxTime {
		return false
	}
	g.Time = int(time * 100 / whole)
	return true
}

// free sets a glide's time to that share of a length which comes nearest to it, and gives the
// length.
func free(g *piece.Glide, time beat.Time) (length int) {
	best := beat.Time(-1)
	for percent := 1; percent <= maxTime; percent++ {
		share := beat.Time(percent) * piece.NoteTick
		whole := int((2*100*time + share) / (2 * share))
		off := beat.Time(max(whole, 1))*share - 100*time
		if off < 0 {
			off = -off
		}
		if best < 0 || off < best || off == best && near(percent) < near(g.Time) {
			best, length, g.Time = off, max(whole, 1), percent
		}
	}
	return length
}

// near is how far a share is from all of it.
func near(percent int) int { return max(percent-100, 100-percent) }
