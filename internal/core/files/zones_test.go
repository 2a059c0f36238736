package files_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/files"
	"agrimony/internal/core/intake/song"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
)

// A file of chords that glide note by note comes back as it was, of a clip and of the whole piece.
func TestAFileOfGlidingChordsComesBack(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"quay","name":"Quay","bars":2,"lanes":[
		{"id":"ch","name":"Lanterns","kind":"chords","rate":"1/2","octave":4,"glide":{"mode":"mpe"},"palette":[{},{"tones":[{"degree":1},{"degree":4},{"degree":6}]}],"steps":[{"on":true,"tie":true},{"on":true,"chord":2,"glide":{"time":100}},{"on":true}]},
		{"id":"low","name":"Low","octave":2,"steps":[{"on":true},{},{"on":true,"degree":5},{}]}]}],
		"order":{"entries":[{"clip":"quay","at":0,"for":7680},{"clip":"quay","at":9600,"for":5000,"from":960}]}}`))
	require.NoError(t, err)
	for _, fileType := range []int{0, 1} {
		own, err := files.Pack(p, &p.Clips[0], render.Options{PPQ: 960}, fileType)
		require.NoError(t, err)
		clip, err := lane.Render(p, &p.Clips[0], render.Options{})
		require.NoError(t, err)
		alone, err := smf.Encode(clip, smf.Options{Type: fileType, ChordNames: true, Own: own})
		require.NoError(t, err)
		own, err = files.PackOrder(p, order.Options{PPQ: 960}, fileType)
		require.NoError(t, err)
		whole, err := order.Render(p, order.Options{})
		require.NoError(t, err)
		all, err := smf.EncodeOrder(whole, smf.Options{Type: fileType, ChordNames: true, Own: own})
		require.NoError(t, err)
		for name, data := range map[string][]byte{"clip": alone, "order": all} {
			f, err := files.Open(data, nil)
			require.NoError(t, err)
			changed, err := f.Changed()
			require.NoError(t, err)
			assert.Zero(t, changed, "%s, type %d", name, fileType)

			// One note is louder: the lane of notes beside it glides as the file does.
			part := slices.IndexFunc(f.Song.Parts, func(p song.Part) bool { return p.Channel == 2 })
			f.Song.Parts[part].Notes[0].Velocity = 33
			back, remarks, err := f.Reopened(false)
			require.NoError(t, err)
			require.Len(t, remarks, 1)
			var clip *piece.Clip
			for i := range back.Clips {
				for k := range back.Clips[i].Lanes {
					if _, free := back.Clips[i].Lanes[k].Content.(*piece.Notes); free {
						clip = &back.Clips[i]
					}
				}
			}
			require.NotNil(t, clip, remarks)
			own := clip.Lanes[len(clip.Lanes)-1].Content.(*piece.Notes)
			assert.Equal(t, piece.MPE, own.Glide.Mode)
			moving, louder := 0, 0
			for _, n := range own.Notes {
				if n.Glide != nil || len(n.Bend) > 0 {
					moving++
				}
				if n.Velocity == 33 {
					louder++
				}
			}
			assert.Equal(t, 1, louder)
			assert.GreaterOrEqual(t, moving, 2, "%s, type %d", name, fileType)
		}
	}
}
