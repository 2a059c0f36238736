package smf_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
)

// sung has chords that begin off the start, change and come round, under swing.
const sung = `{"format":"agrimony-piece","version":1,"groove":{"swing":66},"clips":[{"id":"a","name":"Basin","bars":2,"lanes":[
	{"id":"low","steps":[{"on":true}]},
	{"id":"swell","name":"Swell","kind":"chords","rate":"1/2","palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":2},{"degree":4},{"degree":6}]}],
	 "steps":[{},{"on":true,"tie":true,"strum":{"time":30}},{"on":true},{"on":true,"chord":2}]}]}]}`

func TestChordNamesStandWhereChordsBegin(t *testing.T) {
	for _, options := range []smf.Options{{Type: 1, ChordNames: true}, {Type: 0, ChordNames: true}, {Type: 1}} {
		for _, ppq := range []int{96, 480, 960} {
			_, performance := performed(t, sung, render.Options{PPQ: ppq})
			data, err := smf.Encode(performance, options)
			require.NoError(t, err)
			file, err := smf.Decode(data, nil)
			require.NoError(t, err)
			var got []any
			for _, m := range file.Tracks[0].Markers {
				got = append(got, m.At, m.Text)
			}
			for _, track := range file.Tracks[1:] {
				assert.Empty(t, track.Markers, "they stand in the first track alone")
			}
			if !options.ChordNames {
				assert.Empty(t, got)
				continue
			}
			q := int64(ppq)
			assert.Equal(t, []any{2 * q, "C", 6 * q, "Dm"}, got, "what the loop brings round and what is tied to do not begin")
			assert.Equal(t, 8*q, file.Tracks[0].End, "the end stays where it is")
		}
	}
}

func TestChordsHaveATrackOfTheirOwn(t *testing.T) {
	_, performance := performed(t, sung, render.Options{})
	data, err := smf.Encode(performance, smf.Default)
	require.NoError(t, err)
	file, err := smf.Decode(data, nil)
	require.NoError(t, err)
	require.Len(t, file.Tracks, 3)
	assert.Equal(t, "Swell", file.Tracks[2].Name)
	assert.True(t, smf.Default.ChordNames, "names are written unless one says otherwise")
	var first []int64
	for _, n := range file.Tracks[2].Notes[:3] {
		first = append(first, n.At, int64(n.Pitch))
	}
	assert.Equal(t, []int64{1920, 48, 2269, 52, 2527, 55}, first, "strummed by 30 % of the step, then swung")
}
