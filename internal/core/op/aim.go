package op

// Aim is what an edit is of, as deep as it goes.
type Aim struct {
	Clip, Lane string
	Steps      []int // from 1; nil when it is not of steps
	Depth      Depth
}

// Depth is how deep an edit's aim lies.
type Depth int

// The depths.
const (
	AtPiece Depth = iota
	AtClip
	AtLane
	AtSteps // a lane, with at least one of its steps
)

// Aimed is an edit of something within the piece.
type Aimed interface{ Aim() Aim }

// Aim is the clip.
func (o OnClip) Aim() Aim { return Aim{Clip: o.Clip, Depth: AtClip} }

// Aim is the lane.
func (o OnLane) Aim() Aim { return Aim{Clip: o.Clip, Lane: o.Lane, Depth: AtLane} }

// Aim is the steps.
func (o OnSteps) Aim() Aim { return Aim{o.Clip, o.Lane, o.Steps, AtSteps} }

// Aim is the clip, where one is named.
func (o SetKey) Aim() Aim {
	if o.Clip == "" {
		return Aim{}
	}
	return Aim{Clip: o.Clip, Depth: AtClip}
}

// Aim is the lane, where one is named, or else the clip.
func (o StartLane) Aim() Aim {
	if o.Lane == "" {
		return Aim{Clip: o.Clip, Depth: AtClip}
	}
	return Aim{Clip: o.Clip, Lane: o.Lane, Depth: AtLane}
}
