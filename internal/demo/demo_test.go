package demo_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
	"agrimony/internal/demo"
)

const (
	sixteenth = 240 // in 960ths of a quarter
	bar       = 3840
	drums     = 10
)

func sample(t *testing.T) *piece.Piece {
	t.Helper()
	p, err := demo.Piece()
	require.NoError(t, err)
	return p
}

func played(t *testing.T) order.Events {
	t.Helper()
	performance, err := order.Render(sample(t), order.Options{})
	require.NoError(t, err)
	return performance.Events()
}

// The sample is what the product shows first: nothing in it is left for the review to find.
func TestNothingIsFoundInTheSample(t *testing.T) {
	p := sample(t)
	for i := range p.Clips {
		performance, err := lane.Render(p, &p.Clips[i], render.Options{})
		require.NoError(t, err, p.Clips[i].Name)
		assert.Empty(t, review.Clip(performance), p.Clips[i].Name)
	}
	assert.Empty(t, played(t).Findings)
}

// A clip that no entry plays, nor another clip lends, says in its name what it shows.
func TestEveryClipIsPlayedOrSaysWhatItShows(t *testing.T) {
	p := sample(t)
	for i := range p.Clips {
		inOrder := slices.ContainsFunc(p.Order.Entries, func(e piece.Entry) bool { return e.Clip == p.Clips[i].ID })
		assert.True(t, inOrder || strings.Contains(p.Clips[i].Name, " "), p.Clips[i].Name)
	}
}

// No two lanes hold a semitone, or its octaves, against one another for three sixteenths.
func TestNoLaneOfTheSampleRubsAgainstAnother(t *testing.T) {
	notes := played(t).Notes
	notes = slices.DeleteFunc(notes, func(n order.NoteEvent) bool { return n.Channel == drums })
	for i, a := range notes {
		for _, b := range notes[i+1:] {
			low, high := a, b
			if low.Pitch > high.Pitch {
				low, high = b, a
			}
			together := min(a.At+a.Length, b.At+b.Length) - max(a.At, b.At)
			if a.Clip == b.Clip && a.Lane == b.Lane || (high.Pitch-low.Pitch)%12 != 1 {
				continue
			}
			assert.Less(t, together, int64(3*sixteenth), "bar %d: %s of %s over %s of %s", max(a.At, b.At)/bar+1, high.Name, high.Lane, low.Name, low.Lane)
		}
	}
}

// One line at a time is the bass: the lowest notes of a bar are of one clip.
func TestTheSampleHasOneBassAtATime(t *testing.T) {
	basses := map[string]string{"hull": "cutwater", "low": "keel", "ground": "basin", "barge": "tideway", "undertow": "weir", "anchor": "moorings"}
	in := map[int64]map[string]bool{}
	for _, n := range played(t).Notes {
		if basses[n.Lane] == n.Clip {
			at := n.At / bar
			if in[at] == nil {
				in[at] = map[string]bool{}
			}
			in[at][n.Lane] = true
		}
	}
	assert.NotEmpty(t, in)
	for at, lanes := range in {
		assert.Len(t, lanes, 1, "bar %d", at+1)
	}
}

func TestTheSampleEndsAtHome(t *testing.T) {
	notes := played(t).Notes
	var bass order.NoteEvent
	chord := map[string]bool{}
	last := (notes[len(notes)-1].At) / bar * bar
	for _, n := range notes {
		if n.Pitch < 52 && n.Channel != drums {
			bass = n
		}
		if n.At >= last {
			chord[strings.TrimRight(n.Name, "0123456789")] = true
		}
	}
	assert.Equal(t, "F#2", bass.Name)
	assert.Equal(t, last, bass.At, "on the last bar")
	assert.Equal(t, map[string]bool{"F#": true, "A": true, "C#": true}, chord, "F♯ minor")
}

// The pads go on from one another: none of their voices leaps further than a fifth.
func TestThePadOfTheSampleNeverLeaps(t *testing.T) {
	chords := map[int64][]int{}
	for _, n := range played(t).Notes {
		if n.Lane == "mist" || n.Lane == "swell" || n.Lane == "veil" {
			chords[n.At] = append(chords[n.At], n.Pitch)
		}
	}
	var before []int
	times := make([]int64, 0, len(chords))
	for at := range chords {
		times = append(times, at)
	}
	slices.Sort(times)
	for _, at := range times {
		tones := chords[at]
		slices.Sort(tones)
		for k := range before {
			assert.InDelta(t, before[k], tones[k], 7, "bar %d", at/bar+1)
		}
		before = tones
	}
	assert.Greater(t, len(times), 20)
}

// From its beginning to its fullest four bars, which come late, no four bars are emptier than those before.
func TestTheSampleGrowsToItsPeak(t *testing.T) {
	var density []int
	for _, n := range played(t).Notes {
		for int(n.At/(4*bar)) >= len(density) {
			density = append(density, 0)
		}
		density[n.At/(4*bar)]++
	}
	peak := slices.Index(density, slices.Max(density))
	assert.True(t, slices.IsSorted(density[:peak+1]), "%v", density)
	assert.Greater(t, peak, len(density)/2, "%v", density)
	assert.Less(t, peak, len(density)-1, "%v", density)
}

// Before something new comes in, the drums say so.
func TestTheFillsOfTheSample(t *testing.T) {
	bars := map[int64]int{}
	for _, n := range played(t).Notes {
		if n.Lane == "fill" && n.Pitch != 49 {
			bars[n.At/bar+1]++
		}
	}
	assert.Equal(t, map[int64]int{20: 8, 28: 8, 40: 8}, bars)
}
