package edit

import (
	"fmt"
	"slices"

	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

func setSteps(t *target) error {
	for _, n := range t.op.Steps {
		if err := piece.PatchStep(t.stepPath(n), t.op.Patch, t.step(n)); err != nil {
			return err
		}
	}
	return nil
}

// writeSteps puts Content onto Steps, one by one, as far as both reach.
func writeSteps(t *target) error {
	for i, n := range t.op.Steps {
		if i >= len(t.op.Content) {
			break
		}
		step, err := piece.ReadStep(t.op.Content[i])
		if err != nil {
			return err
		}
		*t.step(n) = *step
	}
	return nil
}

// setPlace moves a step's note, leaving its rhythm alone.
func (t *target) setPlace(n int, p pitch.Place) error {
	if p.Octave < -4 || p.Octave > 4 {
		return &piece.Fault{Path: t.stepPath(n) + ".octave", Problem: fmt.Sprintf("%d is out of reach; allowed: -4..4", p.Octave)}
	}
	step := t.step(n)
	step.Degree, step.Octave, step.Alter = p.Degree, p.Octave, p.Alter
	return nil
}

// transpose moves steps by By degrees of the key, semitones, or octaves. A
// semitone that leaves the key is written as an alteration.
func transpose(t *target) error {
	key := t.key()
	for _, n := range t.op.Steps {
		at := t.step(n).Place()
		switch t.op.Unit {
		case "degree":
			at = key.Move(at, t.op.By)
		case "semitone":
			at = key.Express(key.Pitch(at, t.lane.Octave)+t.op.By, t.lane.Octave)
		case "octave":
			at.Octave += t.op.By
		default:
			return &piece.Fault{Path: "unit", Problem: fmt.Sprintf("%q is not allowed; allowed: degree, semitone, octave", t.op.Unit)}
		}
		if err := t.setPlace(n, at); err != nil {
			return err
		}
	}
	return nil
}

// rotate moves what the named steps hold By places later among themselves, the
// last ones coming round to the front.
func rotate(t *target) error {
	old := t.contents()
	for i, n := range t.op.Steps {
		*t.step(n) = old[pitch.Mod(i-t.op.By, len(old))]
	}
	return nil
}

func reverse(t *target) error {
	old := t.contents()
	slices.Reverse(old)
	for i, n := range t.op.Steps {
		*t.step(n) = old[i]
	}
	return nil
}

func (t *target) contents() []piece.Step {
	out := make([]piece.Step, len(t.op.Steps))
	for i, n := range t.op.Steps {
		out[i] = *t.step(n)
	}
	return out
}
