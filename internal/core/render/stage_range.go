package render

import (
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// Keep brings a pitch into a lane's range by octaves; false: it is left out.
func Keep(r *piece.Range, p int) (int, bool) {
	if r == nil || p >= r.Low && p <= r.High {
		return p, true
	}
	if r.Outside == "drop" {
		return p, false
	}
	if p < r.Low {
		return p + 12*((r.Low-p+11)/12), true
	}
	return p - 12*((p-r.High+11)/12), true
}

// Ranger keeps the pitches of a lane in its range, and counts those that were outside.
type Ranger struct {
	own  *piece.Range
	most int
	seen [2]uint64 // the pitches that were outside, a bit each
}

// RangeOf is what keeps a lane's pitches.
func RangeOf(lane *piece.Lane) Ranger { return Ranger{own: lane.Kept()} }

// Keep is a pitch brought into the range; false: it is left out.
func (r *Ranger) Keep(p uint8) (uint8, bool) {
	kept, ok := Keep(r.own, int(p))
	if kept != int(p) || !ok {
		r.most++
		r.seen[p/64] |= 1 << (p % 64)
	}
	return uint8(kept), ok
}

// KeepAll keeps pitches that sound together: sorted, each once, those left out gone. The
// list itself is left alone.
func (r *Ranger) KeepAll(pitches []uint8) []uint8 {
	if r.own == nil {
		return pitches
	}
	out := make([]uint8, 0, len(pitches))
	for _, p := range pitches {
		if kept, ok := r.Keep(p); ok {
			out = append(out, kept)
		}
	}
	return sortedOnce(out)
}

// Mark notes in a part how many pitches were outside.
func (r *Ranger) Mark(part *Part) {
	if r.most == 0 {
		return
	}
	part.mark(Mark{OutsideRange, 0, r.most})
	for p := range uint8(128) {
		if r.seen[p/64]>>(p%64)&1 == 1 {
			part.Outside = append(part.Outside, p)
		}
	}
}

// Ranged tells of a pitch that a range moved.
func Ranged(out []Reason, lane *piece.Lane, key pitch.Key, from int) []Reason {
	if kept, ok := Keep(lane.Kept(), from); ok && kept != from {
		return append(out, Reason{Rule: "range", From: key.Named(from), To: key.Named(kept)})
	}
	return out
}
