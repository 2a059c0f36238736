package order

import (
	"cmp"
	"slices"
	"sort"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Mark is a text at a time.
type Mark struct {
	At   beat.Time
	Text string
}

// rest is what a marker says where no clip sounds.
const rest = "-"

// changes are the times at which entries begin and end, and the start, within the performance.
func (p *Performance) changes() []beat.Time {
	out := []beat.Time{p.From}
	for i := range p.Piece.Order.Entries {
		e := &p.Piece.Order.Entries[i]
		for _, at := range []beat.Time{e.Begins(), e.Ends()} {
			if at > p.From && at < p.From+p.Length {
				out = append(out, at)
			}
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// plays reports whether some lane of an entry's clip is not muted.
func (p *Performance) plays(e *piece.Entry) bool {
	return p.some(e, func(*piece.Lane) bool { return true })
}

// sounds reports whether some lane of an entry's clip that has notes is not muted.
func (p *Performance) sounds(e *piece.Entry) bool {
	return p.some(e, func(l *piece.Lane) bool { return !l.Silent() })
}

// some reports whether some lane of an entry that is not muted is as is asked.
func (p *Performance) some(e *piece.Entry, is func(l *piece.Lane) bool) bool {
	clip, err := p.Piece.Clip(e.Clip)
	if err != nil {
		panic(err) // a checked order names clips that are there
	}
	for i, on := range render.Audible(clip) {
		if on && is(&clip.Lanes[i]) && !slices.Contains(e.Mute, clip.Lanes[i].ID) {
			return true
		}
	}
	return false
}

// timeline goes through the changes of an order with what sounds from each on.
type timeline struct {
	*Performance
	starts, ends []int // entries that sound, by their starts and ends
	now          map[string]bool
}

func (p *Performance) timeline() *timeline {
	out := &timeline{Performance: p, now: map[string]bool{}}
	for i := range p.Piece.Order.Entries {
		if p.sounds(&p.Piece.Order.Entries[i]) {
			out.starts = append(out.starts, i)
		}
	}
	out.ends = slices.Clone(out.starts)
	entries := p.Piece.Order.Entries
	slices.SortFunc(out.starts, func(a, b int) int { return cmp.Compare(entries[a].At, entries[b].At) })
	slices.SortFunc(out.ends, func(a, b int) int { return cmp.Compare(entries[a].End(), entries[b].End()) })
	return out
}

// to goes on to a time.
func (l *timeline) to(at beat.Time) {
	entries := l.Piece.Order.Entries
	for len(l.ends) > 0 && entries[l.ends[0]].Ends() <= at {
		delete(l.now, entries[l.ends[0]].Clip)
		l.ends = l.ends[1:]
	}
	for len(l.starts) > 0 && entries[l.starts[0]].Begins() <= at {
		if e := &entries[l.starts[0]]; e.Ends() > at {
			l.now[e.Clip] = true
		}
		l.starts = l.starts[1:]
	}
}

// first is the first clip that sounds and of which something holds; nil: none.
func (l *timeline) first(holds func(clip int) bool) int {
	for i := range l.Piece.Clips {
		if l.now[l.Piece.Clips[i].ID] && holds(i) {
			return i
		}
	}
	return -1
}

// Markers name the clips that sound, at the beginning and wherever that changes.
func (p *Performance) Markers() []Mark {
	var out []Mark
	line := p.timeline()
	for _, at := range p.changes() {
		line.to(at)
		var names []string
		for i := range p.Piece.Clips {
			if line.now[p.Piece.Clips[i].ID] {
				names = append(names, p.Piece.Clips[i].Name)
			}
		}
		text := strings.Join(names, " + ")
		if text == "" {
			text = rest
		}
		if n := len(out); n == 0 || out[n-1].Text != text {
			out = append(out, Mark{at - p.From, text})
		}
	}
	return out
}

// Keyed is a key from a time on.
type Keyed struct {
	At  beat.Time
	Key pitch.Key
}

// Keys are those of the first clip that sounds and has degrees, where they change.
func (p *Performance) Keys() []Keyed {
	var out []Keyed
	line := p.timeline()
	for _, at := range p.changes() {
		line.to(at)
		clip := line.first(func(i int) bool { return p.Piece.Clips[i].HasDegrees() })
		if clip < 0 {
			continue
		}
		key := p.Piece.KeyOf(&p.Piece.Clips[clip])
		if n := len(out); n == 0 || key.String() != out[n-1].Key.String() {
			out = append(out, Keyed{at - p.From, key})
		}
	}
	return out
}

// ChordNames are the symbols of the first clip that sounds and has chords, where they begin and where
// another clip becomes the first, and at the start of each pass that of the chord that the loop brings round.
func (p *Performance) ChordNames() []Mark {
	by := map[int][]Chord{}
	for _, c := range p.Harmony {
		by[c.Clip] = append(by[c.Clip], c)
	}
	var out []Mark
	line, was := p.timeline(), -1
	changes := append(p.changes(), p.From+p.Length)
	for k, at := range changes[:len(changes)-1] {
		line.to(at)
		clip := line.first(func(i int) bool { return len(by[i]) > 0 })
		if clip >= 0 {
			from, to := at-p.From, changes[k+1]-p.From
			own := by[clip]
			// The chord that sounds where the stretch begins, and those after it.
			first := max(sort.Search(len(own), func(i int) bool { return own[i].At > from })-1, 0)
			for first > 0 && own[first-1].At == from {
				first--
			}
			for i := first; i < len(own); i++ {
				c := own[i]
				taken := clip != was && c.At < from && (i+1 == len(own) || own[i+1].At > from)
				if taken {
					c.At = from
				} else if c.At < from {
					continue
				}
				if c.At >= to {
					break
				}
				out = append(out, Mark{c.At, c.Symbol})
			}
		}
		was = clip
	}
	return out
}
