package render

import (
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// What the running order asks of a clip beside its own length: to be shifted along the scale, to end in
// the middle, and to hear another clip's chords as that draws them at the moment.

// Shifting is a kind of lane with tones of its own that a shift moves before they are played.
type Shifting interface {
	// Shifted is the lane with them so many degrees along the key; led tells that the clip has chords which
	// the lane can listen to.
	Shifted(lane *piece.Lane, key pitch.Key, by int, led bool) *piece.Lane
}

// shifted is a clip whose lanes with tones of their own have them moved by so many degrees.
func shifted(p *piece.Piece, clip *piece.Clip, by int, kinds Lookup) *piece.Clip {
	out := *clip
	out.Lanes = slices.Clone(clip.Lanes)
	harmony, from := p.HarmonyOf(clip)
	for i := range out.Lanes {
		own := &out.Lanes[i]
		kind, ok := kinds(own.Kind).(Shifting)
		if !ok || own.Channel == midi.DrumChannel {
			continue
		}
		led := harmony != nil && !(from == clip && harmony.ID == own.ID) && !Empty(p, from, harmony)
		*own = *kind.Shifted(own, p.KeyOf(clip), by, led)
	}
	return &out
}

// stayed is the frame of a lane: what is on the drums' channel stays where it is, whatever moves.
func (f *Frame) stayed(lane *piece.Lane) *Frame {
	if f.Shift == 0 || lane.Channel != midi.DrumChannel {
		return f
	}
	out := *f
	out.Shift, out.Harmony = 0, f.still
	return &out
}

// Stayed is an input as its lane is played, which on the drums' channel no shift moves.
func (in *Input) Stayed() *Input {
	out := *in
	out.Frame = in.Frame.stayed(in.Lane)
	return &out
}

// ShiftOf is by how many degrees a lane's places are moved: where they are counted from roots, the chords
// move them already.
func (f *Frame) ShiftOf(own *piece.Pitched) int {
	if own.Follow == "root" && f.Harmony != nil {
		return 0
	}
	return f.Shift
}

// ShiftIn is the same of a lane of the performance.
func (p *Performance) ShiftIn(lane *piece.Lane, own *piece.Pitched) int {
	return p.Frame.stayed(lane).ShiftOf(own)
}

// toPlay is up to where steps are played.
func (f *Frame) toPlay() beat.Time {
	if f.stepsUntil > 0 {
		return f.stepsUntil
	}
	return f.Length
}

// Lent is how another clip that lends its chords draws them, from a time of the clip that takes them on.
type Lent struct {
	From  beat.Time
	Start beat.Time // where that clip's pass began; may be before the clip's start
	Take  int       // by how much its lanes' takes are higher
}

// lentWork is how much work it is to take on a chord, beside what playing it is.
const lentWork = 10

// filled works the chords out as they are lent; nil where no step of the lane is on.
func (h *Harmony) filled(lent []Lent) *Harmony {
	if h == nil || h.lending == "" || len(lent) == 0 {
		return h.fill()
	}
	out := *h
	out.Chords = nil
	kind := h.in.Part.kind.(Harmonic)
	for i, l := range lent {
		end := h.in.Length
		if i+1 < len(lent) {
			end = lent[i+1].From
		}
		in, frame, lane := *h.in, *h.in.Frame, *h.Lane
		lane.Take += l.Take
		in.Lane, in.Frame = &lane, &frame
		in.Pattern = patternOf(in.Piece, in.Clip, &lane, h.lending)
		// Where the other clip stands at the same place of the lane's round, its rounds are counted too.
		begin := l.Start
		round := in.Pattern.RoundLength()
		if in.Pattern.Restart > 0 {
			round = in.Pattern.Restart
		}
		if round == 0 || begin%round != 0 {
			begin = 0
		}
		frame.Length = end - begin
		chords := kind.Harmony(&in)
		h.in.Worked(lentWork * (1 + len(chords)))
		for k, b := range chords {
			until := end
			if k+1 < len(chords) {
				until = min(chords[k+1].At+begin, end)
			}
			if b.At += begin; until <= l.From || b.At >= end {
				continue
			}
			if b.At < l.From {
				b.At, b.Brought = l.From, true
			}
			out.Chords = append(out.Chords, b)
		}
	}
	if len(out.Chords) == 0 {
		return nil
	}
	return out.settled()
}

// settled leaves chords out that only go on as before, where one way of drawing took over from another.
func (h Harmony) settled() *Harmony {
	kept := h.Chords[:0]
	for _, b := range h.Chords {
		if n := len(kept); n > 0 && b.Brought && kept[n-1].Symbol == b.Symbol && slices.Equal(kept[n-1].Pitches, b.Pitches) {
			continue
		}
		kept = append(kept, b)
	}
	h.Chords = kept
	return &h
}
