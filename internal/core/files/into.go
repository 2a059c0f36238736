package files

import (
	"cmp"
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// AsClip adds what was taken to a piece as a clip of its own, and gives its id. The piece given is
// left alone.
func (t *Taken) AsClip(p *piece.Piece, name string) (*piece.Piece, string, error) {
	clip := piece.NewClip(freshClip(p, name), name)
	clip.Until, clip.Bars, clip.Lanes = "", t.Bars, t.Lanes
	if key := piece.KeyAs(t.Key); key.Resolve().String() != p.Key.Resolve().String() {
		clip.Key = &key
	}
	next := *p
	next.Clips = append(slices.Clone(p.Clips), clip)
	return &next, clip.ID, checked(&next)
}

// AsLanes adds what was taken to a clip of a piece as lanes. The piece given is left alone.
func (t *Taken) AsLanes(p *piece.Piece, id string) (*piece.Piece, error) {
	next := *p
	next.Clips = slices.Clone(p.Clips)
	clip, err := next.Clip(id)
	if err != nil {
		return nil, err
	}
	if n := len(clip.Lanes) + len(t.Lanes); n > piece.MaxLanes {
		return nil, fmt.Errorf("%s would have %d lanes; allowed: at most %d", clip.Name, n, piece.MaxLanes)
	}
	clip.Lanes = slices.Clone(clip.Lanes)
	ids := map[string]string{}
	for i := range t.Lanes {
		own := t.Lanes[i].Clone()
		was := own.ID
		own.ID = freshID(own.Name, clip.Lanes)
		ids[was] = own.ID
		if leaning, ok := own.Content.(interface {
			Lean(field, lane string) bool
			piece.Leaning
		}); ok {
			for _, need := range leaning.Needs() {
				leaning.Lean(need.Field, ids[need.Lane])
			}
		}
		clip.Lanes = append(clip.Lanes, own)
	}
	lead(&next, clip, len(clip.Lanes)-len(t.Lanes))
	return &next, checked(&next)
}

// lead lets chords that came in as free notes, from a place on, be the harmony of a clip whose lanes listen and hear
// none: phrases walk them at once.
func lead(p *piece.Piece, clip *piece.Clip, from int) {
	if clip.Harmony != nil || !slices.ContainsFunc(clip.Lanes[:from], func(l piece.Lane) bool { return l.Listens() }) {
		return
	}
	if own, _ := p.HarmonyOf(clip); own != nil {
		return
	}
	for i := from; i < len(clip.Lanes); i++ {
		if chordal(&clip.Lanes[i]) {
			clip.Harmony = &piece.Harmony{Lane: clip.Lanes[i].ID}
			return
		}
	}
}

// chordal reports whether a lane of free notes sounds chords: three notes or more, for half the time in which any sound.
func chordal(l *piece.Lane) bool {
	own := piece.FreeOf(l)
	if own == nil {
		return false
	}
	type edge struct {
		at beat.Time
		by int
	}
	edges := make([]edge, 0, 2*own.Count())
	for i := range own.Count() {
		at, length := own.Span(i)
		edges = append(edges, edge{at, 1}, edge{at + length, -1})
	}
	slices.SortFunc(edges, func(a, b edge) int { return cmp.Compare(a.at, b.at) })
	sounding := 0
	var any, three, last beat.Time
	for _, e := range edges {
		if sounding > 0 {
			any += e.at - last
		}
		if sounding > 2 {
			three += e.at - last
		}
		sounding, last = sounding+e.by, e.at
	}
	return any > 0 && 2*three >= any
}

func freshClip(p *piece.Piece, name string) string {
	return piece.FreshID(name, func(id string) bool {
		return slices.ContainsFunc(p.Clips, func(c piece.Clip) bool { return c.ID == id })
	})
}

func checked(p *piece.Piece) error { return piece.Check(p) }

// AddClips adds the clips of one piece to another, with what their harmony needs, under ids that are
// free, and gives the id of the one named. The pieces given are left alone.
func AddClips(p, from *piece.Piece, id string) (*piece.Piece, string, error) {
	next := *p
	next.Clips = slices.Clone(p.Clips)
	ids := map[string]string{}
	for i := range from.Clips {
		clip := from.Clips[i].Clone()
		if clip.Key == nil && from.Key.Resolve().String() != p.Key.Resolve().String() {
			key := from.Key
			clip.Key = &key
		}
		ids[clip.ID] = freshClip(&next, clip.Name)
		clip.ID = ids[clip.ID]
		next.Clips = append(next.Clips, clip)
	}
	for i := len(p.Clips); i < len(next.Clips); i++ {
		if of := next.Clips[i].Of; of != "" {
			next.Clips[i].Of = ids[of]
		}
		if h := next.Clips[i].Harmony; h != nil && h.Clip != "" {
			next.Clips[i].Harmony = &piece.Harmony{Clip: ids[h.Clip]}
		}
	}
	return &next, ids[id], checked(&next)
}
