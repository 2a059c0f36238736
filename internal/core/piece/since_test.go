package piece_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"agrimony/internal/core/edit/edittest"
	"agrimony/internal/core/piece"
)

// What is checked of a changed piece alone finds what checking all of it finds, and fills in the same.
func TestCheckingWhatChangedIsCheckingAll(t *testing.T) {
	taken, refused := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		was := edittest.Start()
		next := *was
		next.Clips = slices.Clone(was.Clips)
		next.Order.Entries = slices.Clone(was.Order.Entries)
		any := func(name string, n int) int { return rapid.IntRange(0, n-1).Draw(t, name) }
		// touched is a clip that may be changed.
		touched := func() *piece.Clip {
			i := any("clip", len(next.Clips))
			next.Clips[i] = next.Clips[i].Clone()
			return &next.Clips[i]
		}
		lane := func() *piece.Lane {
			clip := touched()
			return &clip.Lanes[any("lane", len(clip.Lanes))]
		}
		changes := []func(){
			func() { c := touched(); c.Bars, c.Until = any("bars", 1200), "" },
			func() { touched().ID = rapid.SampledFrom([]string{"", "keel", "basin", "Not an id"}).Draw(t, "id") },
			func() { touched().Name = "" },
			func() { touched().Of = rapid.SampledFrom([]string{"", "keel", "basin", "none"}).Draw(t, "of") },
			func() { lane().ID = rapid.SampledFrom([]string{"", "low", "rim", "new"}).Draw(t, "id") },
			func() { lane().Rate = rapid.SampledFrom([]string{"1/8", "1bar", "9/9"}).Draw(t, "rate") },
			func() { lane().Channel = any("channel", 20) },
			func() {
				if own, ok := lane().Content.(*piece.Line); ok {
					own.Steps[0].Degree = any("degree", 14)
				}
			},
			func() {
				c := touched()
				c.Lanes = slices.Delete(c.Lanes, 0, 1)
			},
			func() { next.Clips = slices.Delete(next.Clips, 0, 1) },
			func() {
				next.Key.Scale.Name = rapid.SampledFrom([]string{"dorian", "minor pentatonic"}).Draw(t, "scale")
			},
			func() { next.Meter = rapid.SampledFrom([]string{"4/4", "1/16", "33/4"}).Draw(t, "meter") },
			func() { next.Tempo = float64(any("tempo", 500)) },
			func() { next.Order.Entries[any("entry", len(next.Order.Entries))].For = any("for", 9000) },
			func() { next.Order.Entries[any("entry", len(next.Order.Entries))].Clip = "basin" },
		}
		for range rapid.IntRange(0, 3).Draw(t, "changes") {
			if len(next.Clips) > 0 && !slices.ContainsFunc(next.Clips, func(c piece.Clip) bool { return len(c.Lanes) == 0 }) {
				changes[any("change", len(changes))]()
			}
		}
		whole := next.Clone()
		want, got := piece.Check(whole), piece.CheckSince(was, &next)
		assert.Equal(t, want, got)
		if want == nil {
			taken++
			assert.Equal(t, string(piece.Write(whole)), string(piece.Write(&next)))
		} else {
			refused++
		}
	})
	assert.Positive(t, taken)
	assert.Positive(t, refused)
}
