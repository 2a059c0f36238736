package files

import (
	"cmp"
	"fmt"
	"slices"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/intake"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
)

// heard is a note that a lane of the document makes, or that the file has for it.
type heard struct {
	intake.Note
	lane int   // of the performance
	step int32 // from 1; 0: the file's
	at   int   // in the coarser of both resolutions, as is end
	end  int
}

// look is what makes notes the same.
type look struct{ at, end, pitch, velocity int }

func (n *heard) look() look { return look{n.at, n.end, n.Pitch, n.Velocity} }

// change is a note that is not what the document makes: moved, shorter, louder; without was it is
// new, without is it is gone.
type change struct{ was, is *heard }

// compared is what a file of ours has that its document does not make.
type compared struct {
	performance *render.Performance
	changes     [][]change // of each lane that plays
	files       [][]heard  // the file's notes for each
}

// waysOf are how the wheels of a lane's notes go in the document that glide each by itself, for those of the file
// that stand as they did; by their places among the file's.
func (c *compared) waysOf(lane int) (out []render.Way) {
	part := &c.performance.Lanes[lane]
	if part.Zone == nil {
		return nil
	}
	type look struct{ at, length, pitch int }
	known := map[look]*render.Way{}
	index := 0
	c.performance.Written(part, intake.PPQ, func(n *render.Note, at, length int64) {
		for &part.Notes[index] != n {
			index++
		}
		if way, kept := part.WayOf(index); kept {
			known[look{int(at), int(length), int(n.Pitch)}] = way
		}
	})
	for i := range c.files[lane] {
		n := &c.files[lane][i]
		if way := known[look{n.At, n.Length, n.Pitch}]; way != nil {
			own := *way
			own.Note = i
			out = append(out, own)
		}
	}
	return out
}

// Changed is how many notes of the file are not what its document makes: moved, added, gone, shorter
// or louder.
func (f *File) Changed() (int, error) {
	if f.Own == nil {
		return 0, nil
	}
	c, err := f.compare()
	if err != nil {
		return 0, err
	}
	count := 0
	for _, list := range c.changes {
		count += len(list)
	}
	return count, nil
}

// compare finds what changed, in the coarser of both resolutions.
func (f *File) compare() (out *compared, err error) {
	defer budget.Catch(&err)
	if f.Own.made == nil {
		if err := f.Own.perform(f.work); err != nil {
			return nil, err
		}
	}
	performance := f.Own.made
	out = &compared{performance: performance, changes: make([][]change, len(performance.Lanes)), files: make([][]heard, len(performance.Lanes))}
	coarse := f.Own.PPQ
	if own := f.Song; own != nil && own.File.PPQ > 0 {
		coarse = min(coarse, own.File.PPQ)
	}
	in := func(t int) int { return (2*t*coarse + intake.PPQ) / (2 * intake.PPQ) }
	made, pools := make([][]heard, len(performance.Lanes)), map[int][]intake.Note{}
	for i := range performance.Lanes {
		performance.Written(&performance.Lanes[i], f.Own.PPQ, func(n *render.Note, at, length int64) {
			note := intake.Note{At: int(at) * intake.PPQ / f.Own.PPQ, Pitch: int(n.Pitch), Velocity: int(n.Velocity)}
			note.Length = int(at+length)*intake.PPQ/f.Own.PPQ - note.At
			made[i] = append(made[i], heard{note, i, n.Step, in(note.At), in(note.End())})
		})
		pools[i] = f.notesFor(out.performance, i)
	}
	for i := range performance.Lanes {
		sharing := f.sharing(performance, i)
		there := map[look][]int{} // lanes that make a note, in order
		for _, k := range sharing {
			for _, m := range made[k] {
				there[m.look()] = append(there[m.look()], k)
			}
		}
		for _, n := range pools[i] {
			own := heard{n, i, 0, in(n.At), in(n.End())}
			if lanes := there[own.look()]; len(lanes) > 0 {
				own.lane, there[own.look()] = lanes[0], lanes[1:]
			}
			out.files[own.lane] = append(out.files[own.lane], own)
		}
	}
	for i := range performance.Lanes {
		out.changes[i] = changesOf(made[i], slices.Clone(out.files[i]), f.work)
	}
	return out, nil
}

// sharing are the lanes whose notes stand together in the file where those of a lane do: of its channel, where a file's
// tracks are no longer as they were written.
func (f *File) sharing(p *render.Performance, i int) (out []int) {
	if f.Song == nil || f.asWritten(p) || p.Lanes[i].Zone != nil {
		return nil
	}
	for k := range p.Lanes {
		if p.Lanes[k].Channel == p.Lanes[i].Channel && p.Lanes[k].Zone == nil {
			out = append(out, k)
		}
	}
	return out
}

// asWritten reports whether the file's tracks are as they were written: one for each lane.
func (f *File) asWritten(p *render.Performance) bool {
	tracks := 1
	for k := range p.Lanes {
		if !p.Lanes[k].Empty {
			tracks++
		}
	}
	return f.Song.File.Type == 1 && len(f.Song.File.Tracks) == tracks
}

// notesFor are the file's notes that stand for a lane: those of the track in its place where the
// tracks are as they were written, or else of its channel, for the first lane on it.
func (f *File) notesFor(p *render.Performance, i int) []intake.Note {
	if f.Song == nil {
		return nil
	}
	part := &p.Lanes[i]
	track := 0
	for k := range i {
		if !p.Lanes[k].Empty {
			track++
		}
	}
	asWritten := f.asWritten(p)
	var out []intake.Note
	for k := range f.Song.Parts {
		own := &f.Song.Parts[k]
		if !part.Sends(own.Channel) {
			continue
		}
		if asWritten && own.Track == track+1 || !asWritten && first(p, i) {
			out = append(out, own.Notes...)
		}
	}
	slices.SortStableFunc(out, func(a, b intake.Note) int { return cmp.Compare(a.At, b.At) })
	return out
}

// first tells whether a lane is the first of those on its channel.
func first(p *render.Performance, i int) bool {
	for k := range i {
		if p.Lanes[k].Channel == p.Lanes[i].Channel && !p.Lanes[k].Empty {
			return false
		}
	}
	return true
}

// changesOf pairs what is made with what the file has: what is the same first, then what has the
// same pitch, then what stands at the same time; the rest is gone, or new.
func changesOf(made, file []heard, work *budget.Budget) (out []change) {
	taken := make([]bool, len(file))
	pair := func(left []heard, same func(a, b *heard) (distance int, ok bool), changed bool) (rest []heard) {
		for i := range left {
			best, least := -1, 0
			work.Spend(int64(len(file)/16) + 1)
			for k := range file {
				if taken[k] {
					continue
				}
				if distance, ok := same(&left[i], &file[k]); ok && (best < 0 || distance < least) {
					best, least = k, distance
				}
			}
			if best < 0 {
				rest = append(rest, left[i])
				continue
			}
			taken[best] = true
			if changed {
				was, is := left[i], file[best]
				out = append(out, change{&was, &is})
			}
		}
		return rest
	}
	left := exact(made, file, taken)
	left = pair(left, func(a, b *heard) (int, bool) {
		away := max(a.at-b.at, b.at-a.at)
		return away, a.Pitch == b.Pitch && (a.at < b.end && b.at < a.end || away <= nearby*(a.end-a.at))
	}, true)
	left = pair(left, func(a, b *heard) (int, bool) { return max(a.Pitch-b.Pitch, b.Pitch-a.Pitch), a.at == b.at }, true)
	for i := range left {
		gone := left[i]
		out = append(out, change{was: &gone})
	}
	for k := range file {
		if !taken[k] {
			fresh := file[k]
			out = append(out, change{is: &fresh})
		}
	}
	return out
}

// nearby is how far, in lengths of it, a note may have moved and still be taken for the same.
const nearby = 4

// exact takes away what is the same on both sides, and gives what is left of what is made.
func exact(made, file []heard, taken []bool) (left []heard) {
	there := map[look][]int{}
	for k := range file {
		l := file[k].look()
		there[l] = append(there[l], k)
	}
	for _, n := range made {
		l := n.look()
		if places := there[l]; len(places) > 0 {
			taken[places[0]], there[l] = true, places[1:]
			continue
		}
		left = append(left, n)
	}
	return left
}

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
