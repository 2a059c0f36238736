// Package control is what control lanes do: they move a controller, the wheel or the
// pressure of another lane's channel.
package control

import (
	"encoding/json"
	"fmt"
	"math/big"

	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Kind is the control lane.
type Kind struct{}

func of(lane *piece.Lane) *piece.ControlLane { return lane.Content.(*piece.ControlLane) }

// Moves are the fields of its own that its playing asks for as modulators move them.
func (Kind) Moves() []render.Field { return []render.Field{render.Value} }

// Play renders the lane.
func (Kind) Play(in *render.Input) render.Part {
	c := of(in.Lane)
	if f := c.Follows; f != nil {
		return render.ControlByNotes(in, c.Target, f.Lane, func(p uint8) int { return ValueAt(f, int(p)) })
	}
	knots := render.Knots(in, func(s *render.Slot) (int, piece.Course) {
		step := &c.Steps[s.Step]
		return in.Pattern.Moved(render.Value, s, step.Value), step.Shape
	})
	return render.ControlBySteps(in, c.Target, knots)
}

// ValueAt is the value that a MIDI pitch sets in a lane that follows another, rounded half
// up: even between low and high, or between the middle and both ends, and clamped outside.
func ValueAt(f *piece.Followed, p int) int {
	// In halves, so that the middle is a whole number.
	past, whole := 2*(p-f.Low), 2*(f.High-f.Low)
	if f.Sides == "both" {
		past, whole = 2*p-f.Low-f.High, f.High-f.Low
		past = max(past, -past)
	}
	past = min(max(past, 0), whole)
	return floor(2*past*(f.To-f.From)+whole, 2*whole) + f.From
}

// floor divides, rounding down.
func floor(a, b int) int {
	if a < 0 {
		return -((-a + b - 1) / b)
	}
	return a / b
}

// Period is that of its steps, or of the lane that it follows.
func (Kind) Period(in *render.Input) *big.Int {
	if of(in.Lane).Follows != nil {
		return in.PeriodOfSource()
	}
	return in.Pattern.Period()
}

// Reasons are none: it has no notes.
func (Kind) Reasons(*render.Performance, *render.Part, *piece.Lane, *render.Note) []render.Reason {
	return nil
}

// Sounds are none.
func (Kind) Sounds(*piece.Lane, pitch.Key, func(int) *render.Chord) []render.Sound { return nil }

// Ladder has no rows: values are drawn, not pitches.
func (Kind) Ladder(*piece.Lane, pitch.Key, []int) []pitch.Rung { return []pitch.Rung{} }

// Rekey has nothing to bring over.
func (Kind) Rekey(*piece.Lane, pitch.Key, pitch.Key, bool) {}

// Findings says where what it follows hardly moves it.
func (Kind) Findings(p *render.Performance, part *render.Part, lane *piece.Lane) []render.Finding {
	c := of(lane)
	f, r := c.Follows, part.Reach
	if f == nil || r == nil || f.From == f.To {
		return nil
	}
	whole, reached := f.To-f.From, r.Most-r.Least
	whole = max(whole, -whole)
	if 10*reached >= whole {
		return nil
	}
	out := render.Finding{Rule: "hardly-moves", Lane: lane.ID}
	message := fmt.Sprintf("%s moves only by %d of %d, from %d to %d", lane.Name, reached, whole, r.Least, r.Most)
	if r.Lowest == r.Highest {
		out.Message = fmt.Sprintf("%s: every note of the lane that it follows is %s.", message, pitch.Pretty(p.Key.Named(r.Lowest)))
		return []render.Finding{out}
	}
	to := *f
	to.Low, to.High = r.Lowest, r.Highest
	out.Message = fmt.Sprintf("%s: set low..high to %s..%s, the notes that it follows.", message, pitch.Pretty(p.Key.Named(to.Low)), pitch.Pretty(p.Key.Named(to.High)))
	patch, err := json.Marshal(map[string]any{"follows": to})
	if err != nil {
		panic(err) // numbers and texts can be written
	}
	out.Mend = render.MendBy("Set low and high to its notes", op.SetLane{OnLane: op.OnLane{Clip: p.Clip.ID, Lane: lane.ID}, Patch: patch})
	return []render.Finding{out}
}
