package smf_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
)

// A file of 96 ticks a quarter: a sixteenth is 24.
func TestAGrooveIsTakenFromAFile(t *testing.T) {
	at := func(meters []smf.Meter, notes ...smf.Note) []piece.Sixteenth {
		out, err := smf.Groove(&smf.File{PPQ: 96, Tracks: []smf.Track{{Meters: meters}, {Notes: notes}}}, "Taken")
		require.NoError(t, err)
		return out.Steps
	}
	hit := func(at int64, velocity int) smf.Note { return smf.Note{At: at, Length: 6, Velocity: velocity} }
	steps := at(nil, hit(0, 100), hit(30, 60), hit(384+36, 80), hit(380, 80))
	assert.Equal(t, piece.Sixteenth{At: -8, Velocity: 10}, steps[0], "on the beat, and 4 ticks before the next bar: 17 % early, on average 8.3")
	assert.Equal(t, piece.Sixteenth{At: 25, Velocity: -20}, steps[1])
	assert.Equal(t, piece.Sixteenth{At: -50, Velocity: 0}, steps[2], "midway belongs to the later one")
	assert.Equal(t, piece.Sixteenth{}, steps[3], "nothing is played there")

	steps = at([]smf.Meter{{At: 0, Count: 3, Unit: 4}}, hit(288+6, 90))
	assert.Equal(t, 25, steps[0].At, "three quarters make a bar")
	steps = at([]smf.Meter{{At: 0, Count: 5, Unit: 4}}, hit(16*24+12-6, 90))
	assert.Equal(t, 25, steps[0].At, "a longer bar counts on from the first again")
	_, err := smf.Groove(&smf.File{PPQ: 96}, "")
	assert.EqualError(t, err, "the MIDI file sounds no note; allowed: one that does")
}

// What is rendered with a template and taken from the file again is that template.
func TestAGrooveComesBackFromAFile(t *testing.T) {
	steps := strings.TrimSuffix(strings.Repeat(`{"on":true,"velocity":64,"gate":50},`, 16), ",")
	for _, template := range piece.Templates {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"groove":{"template":"` + template.Name + `"},"clips":[{"id":"a","bars":1,"lanes":[{"steps":[` + steps + `]}]}]}`))
		require.NoError(t, err)
		performance, err := lane.Render(p, &p.Clips[0], render.Options{})
		require.NoError(t, err)
		data, err := smf.Encode(performance, smf.Default)
		require.NoError(t, err)
		file, err := smf.Decode(data, nil)
		require.NoError(t, err)
		taken, err := smf.Groove(file, template.Name)
		require.NoError(t, err)
		mean := 0
		for _, step := range template.Steps {
			mean += step.Velocity
		}
		for i, step := range template.Steps {
			assert.Equal(t, step.At, taken.Steps[i].At, "%s, sixteenth %d", template.Name, i+1)
			assert.InDelta(t, float64(step.Velocity)-float64(mean)/16, taken.Steps[i].Velocity, 0.5)
		}
	}
}

// Reading onsets alone gives the groove that reading everything gives.
func TestOnsetsAreThoseOfTheWholeFile(t *testing.T) {
	for _, kind := range []int{0, 1} {
		_, performance := performed(t, sample, render.Options{})
		data, err := smf.Encode(performance, smf.Options{Type: kind})
		require.NoError(t, err)
		whole, err := smf.Decode(data, nil)
		require.NoError(t, err)
		onsets, err := smf.DecodeOnsets(data, nil)
		require.NoError(t, err)
		for i, track := range whole.Tracks {
			require.Len(t, onsets.Tracks[i].Notes, len(track.Notes))
			assert.Empty(t, onsets.Tracks[i].Bends)
			for k, note := range track.Notes {
				got := onsets.Tracks[i].Notes[k]
				assert.Equal(t, []any{note.At, note.Channel, note.Pitch, note.Velocity}, []any{got.At, got.Channel, got.Pitch, got.Velocity})
				assert.Equal(t, onsets.Tracks[i].End-note.At, got.Length)
			}
		}
		a, err := smf.Groove(whole, "x")
		require.NoError(t, err)
		b, err := smf.Groove(onsets, "x")
		require.NoError(t, err)
		assert.Equal(t, a, b)
	}
}
