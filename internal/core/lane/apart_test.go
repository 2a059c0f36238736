package lane_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// Where no step glides or bends, a lane whose notes may glide each by itself plays what it plays without: its notes
// have channels of their own, and that is all.
func TestWhereNothingGlidesTheModeChangesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		whole := func(low, high int, what string) int { return rapid.IntRange(low, high).Draw(t, what) }
		step := func(more string) string {
			return fmt.Sprintf(`{"on":%v,"tie":%v,"gate":%d,"velocity":%d,"ratchet":%d,"nudge":%d,"chance":%d%s}`,
				whole(0, 4, "on") > 0, whole(0, 2, "tie") == 0, whole(10, 300, "gate"), whole(20, 127, "velocity"), max(whole(-5, 3, "ratchet"), 1), max(whole(-30, 20, "nudge"), -20), min(whole(60, 160, "chance"), 100), more)
		}
		list := func(most int, of func() string) string {
			var out []string
			for range whole(1, most, "count") {
				out = append(out, of())
			}
			return strings.Join(out, ",")
		}
		chords := fmt.Sprintf(`{"id":"tide","kind":"chords","rate":"1/4","octave":4,"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]},{"tones":[{"degree":3}]}],"steps":[%s]%%s}`,
			list(6, func() string {
				return step(fmt.Sprintf(`,"chord":%d,"strum":{"time":%d}`, whole(1, 3, "chord"), max(whole(-60, 60, "strum"), 0)))
			}))
		phrase := fmt.Sprintf(`{"id":"lanterns","kind":"phrase","rate":"1/8","octave":5,"steps":[%s]%%s}`,
			list(6, func() string {
				return step([]string{``, ``, `,"play":"chord"`, `,"offset":1`}[whole(0, 3, "play")])
			}))
		notes := fmt.Sprintf(`{"id":"drift","kind":"notes","octave":4,"notes":[%s]%%s}`,
			list(8, func() string {
				return fmt.Sprintf(`{"at":%d,"length":%d,"degree":%d}`, 240*whole(0, 15, "at"), whole(1, 1500, "length"), whole(1, 7, "degree"))
			}))
		lanes := []string{chords, phrase, notes}
		head := fmt.Sprintf(`{"format":"agrimony-piece","version":1,"groove":{"swing":%d},"clips":[{"id":"keel","bars":2,"lanes":[`, whole(50, 70, "swing"))
		play := func(apart int) []render.Part {
			var all []string
			for i, own := range lanes {
				more := ""
				if i == apart {
					more = `,"glide":{"mode":"mpe"}`
				}
				all = append(all, fmt.Sprintf(own, more))
			}
			p, err := piece.Read([]byte(head + strings.Join(all, ",") + `]}]}`))
			require.NoError(t, err)
			performance, err := lane.Render(p, &p.Clips[0], render.Options{Apart: true})
			require.NoError(t, err)
			return performance.Lanes
		}
		plain := play(-1)
		for i := range lanes {
			apart := play(i)
			require.Equal(t, noted(plain[i].Notes), noted(apart[i].Notes), apart[i].ID)
		}
	})
}

// noted are notes in words, but for how they glide.
func noted(notes []render.Note) (out []string) {
	for _, n := range notes {
		out = append(out, fmt.Sprintf("step %d, round %d: %d at %d..%d, velocity %d", n.Step, n.Round, n.Pitch, n.At, n.End, n.Velocity))
	}
	return out
}
