package review

import (
	"agrimony/internal/core/beat"
	"agrimony/internal/core/render"
)

// halves points to lanes whose own round is as long as the clip and has the same second half as its
// first: doubled, and not varied yet.
func halves(l *look) {
	if l.performance.Opening {
		return
	}
	length := l.performance.Length
	if bars := length / l.performance.Bar; length%(2*l.performance.Bar) != 0 || bars < 2 {
		return
	}
	for i := range l.performance.Lanes {
		part := &l.performance.Lanes[i]
		own := &l.clip.Lanes[part.Lane]
		if !render.HasPattern(own) || len(part.Notes) < 2 || part.Clock != nil {
			continue
		}
		pattern := l.performance.Pattern(own)
		if pattern.RoundLength() != length || !sameHalves(part, length) {
			continue
		}
		if steps := own.Content.StepList(); steps != nil && steps.Len()%2 != 0 {
			continue
		}
		l.add("halves", own, 0, nil, "Both halves of %s are the same; vary the second to let it answer.", own.Name)
	}
}

// sameHalves tells whether a part's second half sounds as its first.
func sameHalves(part *render.Part, length beat.Time) bool {
	n := len(part.Notes)
	if n%2 != 0 {
		return false
	}
	for i := range n / 2 {
		a, b := &part.Notes[i], &part.Notes[i+n/2]
		if b.At-a.At != length/2 || b.End-a.End != length/2 || a.Pitch != b.Pitch || a.Velocity != b.Velocity {
			return false
		}
	}
	return true
}
