package order_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
)

// Where lanes fall silent: as "tick clip/lane".
func TestWhereLanesFallSilent(t *testing.T) {
	const clips = `{"id":"keel","bars":1,"lanes":[{"id":"low","steps":[{"on":true}]},{"id":"high","steps":[{"on":true}]}]},{"id":"weir","bars":1,"lanes":[{"id":"drop","steps":[{"on":true}]}]}`
	for name, row := range map[string]struct {
		entries string
		from    int64
		to      int64
		silent  []string
	}{
		"where a clip is left":                        {`{"clip":"keel","at":0,"for":3840}`, 0, 7680, []string{"3840 keel/low", "3840 keel/high"}},
		"not before and not after":                    {`{"clip":"keel","at":0,"for":3840}`, 0, 3840, nil},
		"a split is no end":                           {`{"clip":"keel","at":0,"for":1920},{"clip":"keel","at":1920,"for":1920,"from":1920}`, 0, 3840, nil},
		"nor is one after a whole round":              {`{"clip":"keel","at":0,"for":3840},{"clip":"keel","at":3840,"for":3840,"pass":2}`, 0, 7680, nil},
		"a split from where another lane is muted":    {`{"clip":"keel","at":0,"for":1920},{"clip":"keel","at":1920,"for":1920,"from":1920,"mute":["high"]}`, 0, 3840, []string{"1920 keel/high"}},
		"a lane that stays muted":                     {`{"clip":"keel","at":0,"for":1920,"mute":["high"]},{"clip":"keel","at":1920,"for":1920,"from":1920,"mute":["high"]}`, 0, 7680, []string{"3840 keel/low"}},
		"one that begins anew":                        {`{"clip":"keel","at":0,"for":1920},{"clip":"keel","at":1920,"for":1920}`, 0, 3840, []string{"1920 keel/low", "1920 keel/high"}},
		"one that is moved along the scale":           {`{"clip":"keel","at":0,"for":1920},{"clip":"keel","at":1920,"for":1920,"from":1920,"shift":1}`, 0, 3840, []string{"1920 keel/low", "1920 keel/high"}},
		"one that rings has its own end":              {`{"clip":"keel","at":0,"for":3840,"ring":true}`, 0, 9600, nil},
		"what another clip sounds goes on meanwhile":  {`{"clip":"keel","at":0,"for":3840},{"clip":"weir","at":0,"for":7680}`, 0, 7680, []string{"3840 keel/low", "3840 keel/high"}},
		"a lane that is muted in the clip has no end": {`{"clip":"weir","at":0,"for":960},{"clip":"weir","at":960,"for":960,"from":960,"mute":["drop"]}`, 0, 3840, []string{"960 weir/drop"}},
	} {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[` + clips + `],"order":{"entries":[` + row.entries + `]}}`))
		require.NoError(t, err, name)
		o, err := order.Render(p, order.Options{From: int(row.from), To: int(row.to), Live: true})
		require.NoError(t, err, name)
		var got []string
		for _, s := range o.Silences(row.from, row.to) {
			clip := &p.Clips[s.Clip]
			got = append(got, fmt.Sprintf("%d %s/%s", s.At.Export(960), clip.ID, clip.Lanes[s.Lane].ID))
		}
		assert.Equal(t, row.silent, got, name)
	}
}
