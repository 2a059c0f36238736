package files

import (
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// besideOrder writes what changed in a file of the running order: a loop cannot hold what differs from one
// round to the next, so the lane is muted throughout, and a lane of notes in a clip of its own, which sounds
// over the whole order, has what the file has.
func (f *File) besideOrder(p *piece.Piece, c *compared) (remarks []string, err error) {
	const name = "As it came back"
	bars := int((c.performance.Length + p.Bar() - 1) / p.Bar())
	var clip *piece.Clip
	for i := range c.changes {
		if len(c.changes[i]) == 0 {
			continue
		}
		if clip == nil {
			if bars > beat.MaxBars || f.Own.From > 0 {
				return nil, fmt.Errorf(
					"the order has changed notes, and is %s long or begins in the middle; allowed: at most %d bars from the start, or the piece as it was",
					render.Many(bars, "bar"),
					beat.MaxBars,
				)
			}
			if len(p.Clips) == piece.MaxClips {
				return nil, fmt.Errorf("notes changed, and there is no room for a clip beside the others; allowed: at most %d clips", piece.MaxClips)
			}
			fresh := piece.NewClip(freshClip(p, name), name)
			fresh.Until, fresh.Bars = "", bars
			clip = &fresh
		}
		part := &c.performance.Lanes[i]
		from, own := laneNamed(p, part.Name)
		if own == nil {
			return nil, fmt.Errorf("no lane is called %q", part.Name)
		}
		beside, err := f.beside(p, clip, own, c, i, part.Beside())
		if err != nil {
			return nil, err
		}
		beside.Name = fmt.Sprintf("%s of %s", own.Name, from.Name)
		clip.Lanes = append(clip.Lanes, *beside)
		for k := range p.Order.Entries {
			if e := &p.Order.Entries[k]; e.Clip == from.ID && !slices.Contains(e.Mute, own.ID) {
				e.Mute = append(slices.Clone(e.Mute), own.ID)
			}
		}
		remarks = append(remarks, fmt.Sprintf("%s of %s stand in the clip %q", render.Many(len(c.changes[i]), "change"), beside.Name, name))
	}
	if clip == nil {
		return nil, nil
	}
	p.Clips = append(p.Clips, *clip)
	p.Order.Entries = append(p.Order.Entries, piece.NewEntry(clip.ID, 0, int(beat.Time(bars)*p.Bar()/piece.OrderTick)))
	return remarks, piece.Check(p)
}

// laneNamed finds the lane whose track a name is.
func laneNamed(p *piece.Piece, track string) (*piece.Clip, *piece.Lane) {
	for i := range p.Clips {
		for k := range p.Clips[i].Lanes {
			if p.Clips[i].Name+" · "+p.Clips[i].Lanes[k].Name == track {
				return &p.Clips[i], &p.Clips[i].Lanes[k]
			}
		}
	}
	return nil, nil
}
