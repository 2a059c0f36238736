package lane_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// onsets are where the notes of a lane begin in a bar, in 960ths of a quarter.
func onsets(t *testing.T, groove, lanes, of string) (out []int64) {
	p, err := piece.Read(fmt.Appendf(nil, `{"format":"agrimony-piece","version":1,"groove":%s,"clips":[{"id":"a","bars":1,"lanes":[%s]}]}`, groove, lanes))
	require.NoError(t, err)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: 1})
	require.NoError(t, err)
	for i := range performance.Lanes {
		if part := &performance.Lanes[i]; part.ID == of {
			for k := range part.Notes {
				if part.Notes[k].At < beat.Quarter*2 {
					out = append(out, part.Notes[k].At.Export(960))
				}
			}
		}
	}
	return out
}

// A lane at a triplet rate divides the beat evenly itself: no swing bends it, nor what layers it or takes its rhythm.
// A template still moves it.
func TestTripletsAreNotSwung(t *testing.T) {
	const (
		swung    = `{"swing":66,"grid":"1/8"}`
		triplets = `{"id":"t","rate":"1/8T","steps":[{"on":true},{"on":true},{"on":true}]}`
		eighths  = `{"id":"e","rate":"1/8","steps":[{"on":true},{"on":true}]}`
		late     = `{"swing":66,"grid":"1/8","template":{"name":"Late","steps":[{},{"at":25},{"at":25},{"at":25},{},{"at":25},{"at":25},{"at":25},{},{},{},{},{},{},{},{}]}}`
	)
	for name, row := range map[string]struct {
		groove, lanes, of string
		want              []int64
	}{
		"eighths are swung":                    {swung, eighths, "e", []int64{0, 634, 960, 1594}},
		"triplets are not":                     {swung, triplets, "t", []int64{0, 320, 640, 960, 1280, 1600}},
		"nor a layer of them":                  {swung, triplets + `,{"id":"l","kind":"layer","of":"t"}`, "l", []int64{0, 320, 640, 960, 1280, 1600}},
		"nor a layer of that":                  {swung, triplets + `,{"id":"l","kind":"layer","of":"t"},{"id":"m","kind":"layer","of":"l"}`, "m", []int64{0, 320, 640, 960, 1280, 1600}},
		"nor a phrase in their rhythm":         {swung, triplets + `,{"id":"p","kind":"phrase","source":"own","tones":[{"degree":1}],"rhythm":{"lane":"t"},"steps":[{"on":true}]}`, "p", []int64{0, 320, 640, 960, 1280, 1600}},
		"a phrase in the rhythm of eighths is": {swung, eighths + `,{"id":"p","kind":"phrase","rate":"1/8T","source":"own","tones":[{"degree":1}],"rhythm":{"lane":"e"},"steps":[{"on":true}]}`, "p", []int64{0, 634, 960, 1594}},
		"dotted eighths are swung":             {swung, `{"id":"d","rate":"1/8D","steps":[{"on":true}]}`, "d", []int64{0, 797, 1594}},
		"a template moves triplets":            {late, triplets, "t", []int64{0, 380, 700, 960, 1340, 1660}},
	} {
		assert.Equal(t, row.want, onsets(t, row.groove, row.lanes, row.of), name)
	}
}

// A lane that follows roots near its tonic stays where it is: each root lies from 5 semitones below it to 6 above.
func TestRootsNearTheTonic(t *testing.T) {
	for _, scale := range []string{"major", "natural minor", "harmonic minor"} {
		for _, tonic := range []string{"C", "F#", "Ab", "B"} {
			for degree := 1; degree <= 7; degree++ {
				p, err := piece.Read(fmt.Appendf(nil, `{"format":"agrimony-piece","version":1,"key":{"tonic":%q,"scale":%q},"clips":[{"id":"a","bars":1,"lanes":[
					{"id":"c","kind":"chords","rate":"1bar","palette":[{"tones":[{"degree":%d}]}],"steps":[{"on":true}]},
					{"id":"home","octave":2,"steps":[{"on":true}]},
					{"id":"up","octave":2,"follow":"root","steps":[{"on":true},{"on":true,"degree":3}]},
					{"id":"near","octave":2,"follow":"root","roots":"near","steps":[{"on":true},{"on":true,"degree":3}]}]}]}`, tonic, scale, degree))
				require.NoError(t, err)
				performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: 1})
				require.NoError(t, err)
				pitches := map[string][]int{}
				for i := range performance.Lanes {
					for _, n := range performance.Lanes[i].Notes {
						pitches[performance.Lanes[i].ID] = append(pitches[performance.Lanes[i].ID], int(n.Pitch))
					}
				}
				root := pitches["near"][0] - pitches["home"][0]
				assert.GreaterOrEqual(t, root, -5)
				assert.LessOrEqual(t, root, 6)
				assert.Zero(t, (pitches["near"][0]-pitches["up"][0])%12)
				assert.Equal(t, pitches["up"][1]-pitches["up"][0], pitches["near"][1]-pitches["near"][0], "what counts from the root goes with it")
			}
		}
	}
}
