package lane

import (
	"slices"

	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// Runs gives for each step, in the order of the lane, the step that its sound began at: itself
// where a note begins, an earlier one whose tie runs on through it, and -1 where it is silent.
// Sounds are what the steps sound, for ties into the same again.
func Runs(l *piece.Lane, sounds []render.Sound) []int {
	steps := l.Content.StepList()
	if steps == nil {
		return nil
	}
	out := make([]int, steps.Len())
	head := -1
	for i := range out {
		cell := steps.Cell(i)
		joined := i > 0 && head >= 0 && steps.Cell(i-1).Tie
		switch {
		case cell.On && joined && same(sounds, i, head): // the note runs on
		case cell.On:
			head = i
		case !joined:
			head = -1
		}
		out[i] = head
	}
	return out
}

func same(sounds []render.Sound, a, b int) bool {
	return a < len(sounds) && b < len(sounds) && slices.Equal(sounds[a].Pitches, sounds[b].Pitches)
}

// Spans gives for each step how many steps its note runs through, itself counted: 0 where no note
// begins.
func Spans(l *piece.Lane, sounds []render.Sound) []int {
	runs := Runs(l, sounds)
	out := make([]int, len(runs))
	for _, head := range runs {
		if head >= 0 {
			out[head]++
		}
	}
	return out
}
