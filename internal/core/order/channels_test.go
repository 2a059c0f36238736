package order_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
)

// Where clips strike one key of a channel on one tick of the file it is one note, as loud as the louder and as long as
// the longer.
func TestWhatClipsStrikeTogetherIsTheLouder(t *testing.T) {
	clip := func(id string, velocity, gate, nudge int) string {
		return fmt.Sprintf(`{"id":%q,"bars":1,"lanes":[{"id":"low","name":"Low","channel":1,"steps":[{"on":true,"velocity":%d,"gate":%d,"nudge":%d},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{}]}]}`, id, velocity, gate, nudge)
	}
	for _, c := range []struct {
		what     string
		clips    [2]string
		ppq      int
		velocity []uint8
	}{
		{"the second is louder", [2]string{clip("a", 60, 100, 0), clip("b", 100, 50, 0)}, 960, []uint8{100}},
		{"the first is louder", [2]string{clip("a", 100, 50, 0), clip("b", 60, 100, 0)}, 960, []uint8{100}},
		{"they are 2 of 960 ticks apart, the softer first", [2]string{clip("a", 60, 100, 0), clip("b", 100, 50, 1)}, 960, []uint8{60, 100}},
		{"in a coarse file both are on one tick", [2]string{clip("a", 60, 100, 0), clip("b", 100, 50, 1)}, 96, []uint8{100}},
		{"in a coarse file, the softer later", [2]string{clip("a", 100, 50, 0), clip("b", 60, 100, 1)}, 96, []uint8{100}},
	} {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[` + c.clips[0] + "," + c.clips[1] + `],"order":{"entries":[{"clip":"a","at":0,"for":3840},{"clip":"b","at":0,"for":3840}]}}`))
		require.NoError(t, err, c.what)
		o, err := order.Render(p, order.Options{PPQ: c.ppq})
		require.NoError(t, err, c.what)
		var got []uint8
		longest := int64(0)
		for _, n := range o.Events().Notes {
			got, longest = append(got, uint8(n.Velocity)), max(longest, n.Length)
		}
		assert.ElementsMatch(t, c.velocity, got, c.what)
		if len(c.velocity) == 1 {
			assert.Equal(t, int64(c.ppq/4), longest, c.what)
		}
	}
}
