package files

import (
	"fmt"
	"slices"

	"agrimony/internal/core/intake"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
)

// Reopened is the document of a file of ours: as it was, or with what changed in the file since. What
// changed is written into the steps where they can hold it; where they cannot, the lane is muted and
// a lane of notes beside it sounds as the file does.
func (f *File) Reopened(asWas bool) (p *piece.Piece, remarks []string, err error) {
	p = f.Own.Piece.Clone()
	if asWas || f.Song == nil {
		return p, nil, nil
	}
	if tempo := f.Song.PieceTempo(); len(f.tempos()) > 0 && tempo != p.Tempo && !sameTempo(tempo, p.Tempo) {
		p.Tempo = tempo
		remarks = append(remarks, fmt.Sprintf("its tempo is %g now", tempo))
	}
	if meter := f.Song.Meter.String(); f.hasMeter() && meter != p.Meter {
		p.Meter = meter
		remarks = append(remarks, fmt.Sprintf("its meter is %s now", meter))
	}
	c, err := f.compare()
	if err != nil {
		return nil, nil, err
	}
	if f.Own.Order {
		more, err := f.besideOrder(p, c)
		return p, append(remarks, more...), err
	}
	clip, err := p.Clip(f.Own.Clip)
	if err != nil {
		return nil, nil, err
	}
	for i := range c.changes {
		if len(c.changes[i]) == 0 {
			continue
		}
		own := &clip.Lanes[c.performance.Lanes[i].Lane]
		channel := c.performance.Lanes[i].Beside()
		if written := f.written(p, own, c, i); written != nil {
			*own = *written
			remarks = append(remarks, fmt.Sprintf("%s of %s written into its steps", render.Many(len(c.changes[i]), "change"), own.Name))
			continue
		}
		if len(clip.Lanes) == piece.MaxLanes {
			return nil, nil, fmt.Errorf("%s changed, and there is no room for a lane beside it; allowed: at most %d lanes", own.Name, piece.MaxLanes)
		}
		beside, err := f.beside(p, clip, own, c, i, channel)
		if err != nil {
			return nil, nil, err
		}
		name := own.Name
		own.Mute = true
		clip.Lanes = append(clip.Lanes, *beside)
		remarks = append(remarks, fmt.Sprintf("%s of %s stand in a lane of notes beside it", render.Many(len(c.changes[i]), "change"), name))
	}
	if err := piece.Check(p); err != nil {
		return nil, nil, err
	}
	return p, remarks, nil
}

// sameTempo tells whether a file, which keeps whole microseconds, says the same of both.
func sameTempo(a, b float64) bool { return int(60e6/a+0.5) == int(60e6/b+0.5) }

func (f *File) tempos() (out []float64) {
	for i := range f.Song.File.Tracks {
		for _, t := range f.Song.File.Tracks[i].Tempos {
			out = append(out, t.BPM)
		}
	}
	return out
}

func (f *File) hasMeter() bool {
	return slices.ContainsFunc(f.Song.File.Tracks, func(t smf.Track) bool { return len(t.Meters) > 0 })
}

// beside is a lane of notes that sounds as the file does where a lane of the performance did. Notes that glide by
// themselves, and stand where they did, glide on.
func (f *File) beside(p *piece.Piece, clip *piece.Clip, own *piece.Lane, c *compared, at, channel int) (*piece.Lane, error) {
	source := &intake.Source{Key: p.KeyOf(clip), Meter: f.Song.Meter, Drums: channel == midi.DrumChannel}
	for i := range c.files[at] {
		source.Notes = append(source.Notes, c.files[at][i].Note)
	}
	// As long as the file, so that the clip is.
	source.Length = int(c.performance.Length / piece.NoteTick)
	if n := len(source.Notes); n > 0 && source.Notes[n-1].At >= source.Length {
		source.Length = f.Song.Bars(source.Notes) * f.barTicks()
	}
	became, err := lane.Become(lane.Always, source, p.Tempo)
	if err != nil {
		return nil, err
	}
	out := became.Lanes[0]
	if ways := c.waysOf(at); len(ways) > 0 {
		mode := piece.GlideMode{Mode: piece.MPE, Range: c.performance.Lanes[at].Range}
		if gliding, err := lane.Print(source, ways, mode); err == nil {
			out = gliding
		}
	}
	if err := piece.PatchLane("", fmt.Appendf(nil, `{"loop":{"length":%d}}`, source.Length), &out); err != nil {
		return nil, err
	}
	out.Name = own.Name + " as changed"
	out.ID = freshID(out.Name, clip.Lanes)
	out.Channel, out.Sound = channel, own.Sound
	return &out, nil
}

// stepped is a kind of lane of whose steps each has a place of its own.
type stepped interface {
	SetPlace(lane *piece.Lane, key pitch.Key, step int, place pitch.Place) error
}

// written is a lane with what changed written into its steps; nil: they cannot hold it, or would not
// sound as the file does.
func (f *File) written(p *piece.Piece, own *piece.Lane, c *compared, i int) *piece.Lane {
	steps := own.Content.StepList()
	kind, places := lane.Of(own).(stepped)
	if steps == nil {
		return nil
	}
	out := own.Clone()
	steps = out.Content.StepList()
	clip, err := p.Clip(f.Own.Clip)
	if err != nil {
		return nil
	}
	key, step := p.KeyOf(clip), int(p.StepLength(own)/piece.NoteTick)
	put := func(k int, n *heard) bool {
		cell := steps.Cell(k)
		cell.On, cell.Velocity, cell.Chance, cell.Rounds, cell.Ratchet = true, n.Velocity, 100, nil, 1
		if places && piece.PitchedOf(&out) != nil {
			pitched := piece.PitchedOf(&out)
			at := key.Express(n.Pitch, pitched.Octave)
			if !intake.Reaches(at) || kind.SetPlace(&out, key, k, at) != nil {
				return false
			}
			if at.Alter != 0 {
				pitched.Lock = "off"
			}
		}
		return true
	}
	for _, change := range c.changes[i] {
		switch {
		case change.is == nil:
			steps.Cell(int(change.was.step) - 1).On = false
		case change.was == nil, change.was.At != change.is.At:
			if change.was != nil {
				steps.Cell(int(change.was.step) - 1).On = false
			}
			stood, ok := intake.StepsOf([]intake.Note{change.is.Note}, step, (change.is.At+step)/step+1)
			if !ok || stood[0].First >= steps.Len() || !put(stood[0].First, change.is) {
				return nil
			}
			stood[0].Write(change.is.Velocity, func(k int) *piece.Cell { return steps.Cell(min(k, steps.Len()-1)) })
		default:
			k := int(change.was.step) - 1
			if change.was.Pitch != change.is.Pitch && !put(k, change.is) {
				return nil
			}
			cell := steps.Cell(k)
			cell.Velocity = change.is.Velocity
			if change.was.Length != change.is.Length {
				if cell.Tie || change.is.Length*100%step != 0 || change.is.Length*100/step > 400 {
					return nil
				}
				cell.Gate = max(change.is.Length*100/step, 1)
			}
		}
	}
	if !f.soundsAs(p, clip, own, &out, c, i) {
		return nil
	}
	return &out
}

// soundsAs tells whether a lane, put in another's place, sounds as the file does, and the others as
// they did.
func (f *File) soundsAs(p *piece.Piece, clip *piece.Clip, own, changed *piece.Lane, c *compared, i int) bool {
	trial := *p
	trial.Clips = slices.Clone(p.Clips)
	at := slices.IndexFunc(p.Clips, func(o piece.Clip) bool { return o.ID == clip.ID })
	next := trial.Clips[at]
	next.Lanes = slices.Clone(next.Lanes)
	next.Lanes[slices.IndexFunc(next.Lanes, func(l piece.Lane) bool { return l.ID == own.ID })] = *changed
	trial.Clips[at] = next
	if piece.Check(&trial) != nil {
		return false
	}
	file := &File{Song: f.Song, Own: &Own{Piece: &trial, Clip: f.Own.Clip, Options: f.Own.Options}}
	again, err := file.compare()
	if err != nil || len(again.changes) != len(c.changes) || len(again.changes[i]) > 0 {
		return false
	}
	for k := range again.changes {
		if k != i && len(again.changes[k]) > len(c.changes[k]) {
			return false
		}
	}
	return true
}
