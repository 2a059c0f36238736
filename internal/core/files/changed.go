package files

import (
	"cmp"
	"slices"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/intake"
	"agrimony/internal/core/render"
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
