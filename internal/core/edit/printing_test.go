package edit_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/lane/notes"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/demo"
)

// What is printed sounds the same (the edit itself sees to that, or refuses): of the demo every
// lane with notes can be printed without the groove, bends and walks and luck included.
func TestEveryLaneOfTheDemoPrints(t *testing.T) {
	p, err := demo.Piece()
	require.NoError(t, err)
	printed := 0
	for i := range p.Clips {
		clip := &p.Clips[i]
		for k := range clip.Lanes {
			own := &clip.Lanes[k]
			if own.Silent() || len(clip.Lanes) == piece.MaxLanes {
				continue
			}
			next, err := edit.Apply(p, []op.Op{op.Of(op.PrintLanes{OnClip: op.OnClip{Clip: clip.ID}, Lanes: []string{own.ID}})})
			if assert.NoError(t, err, "%s of %s", own.Name, clip.Name) {
				printed++
				lanes := next.Clips[i].Lanes
				assert.True(t, lanes[k].Mute)
				assert.Equal(t, own.Name+" notes", lanes[len(lanes)-1].Name)
			}
			if _, err := edit.Apply(p, []op.Op{op.Of(op.PrintLanes{OnClip: op.OnClip{Clip: clip.ID}, Lanes: []string{own.ID}, Groove: true, Bars: 4})}); err != nil {
				t.Logf("with the groove: %s of %s: %v", own.Name, clip.Name, err)
			}
		}
	}
	assert.Greater(t, printed, 20)
}

// Lanes whose notes glide each by itself are printed with each note's way: where it comes from as its glide,
// where it goes on to as its bend. What a glide or a bend cannot tell is refused.
func TestWhatGlidesNoteByNotePrints(t *testing.T) {
	chords := func(id, more, steps string) string {
		return fmt.Sprintf(`{"id":%q,"name":%q,"kind":"chords","octave":4%s,"rate":"1/2","palette":[{"tones":[{"degree":1},{"degree":3}]},{"tones":[{"degree":2},{"degree":5}]}],"steps":[%s]}`, id, id, more, steps)
	}
	const mpe = `,"glide":{"mode":"mpe"}`
	plain := `{"id":"low","name":"low","octave":2,"rate":"1/2","steps":[{"on":true},{"on":true,"degree":5}]}`
	struck := chords("haze", mpe, `{"on":true,"gate":100},{"on":true,"chord":2,"gate":100,"glide":{"time":40,"curve":20}}`)
	for name, c := range map[string]struct {
		lanes, print, notes, refused string
		bars                         int
	}{
		"struck, each comes from its partner": {struck, "haze", "0+1920 60; 0+1920 64; 1920+1920 62 from -2 in 40%; 1920+1920 67 from -3 in 40%; ", "", 1},
		"held, each goes on to its partner": {chords("haze", mpe, `{"on":true,"tie":true},{"on":true,"chord":2,"gate":100,"glide":{"time":50}}`), "haze",
			"0+3840 60 bends 50:0 75:2; 0+2880 64 bends 66.667:0 100:-2; 1920+1920 67 from -3 in 50%; ", "", 1},
		"beside a lane that does not glide": {struck + "," + plain, "haze,low", "0+1920 60; 0+1920 64; 0+1440 36; 1920+1920 62 from -2 in 40%; 1920+1920 67 from -3 in 40%; 1920+1440 43; ", "", 1},
		"two of them in one": {struck + "," + chords("mist", mpe+`,"follow":"key"`, `{"on":true,"chord":2,"gate":50},{"on":true,"gate":50,"glide":{"time":50,"from":2}}`), "haze,mist",
			"0+1920 60; 0+1920 64; 0+960 62; 0+960 67; 1920+1920 62 from -2 in 40%; 1920+1920 67 from -3 in 40%; 1920+960 60 from 2 in 100%; 1920+960 64 from 2 in 100%; ", "", 1},
		"bent over its length":           {chords("haze", mpe, `{"on":true,"gate":100,"bend":[{"at":0,"by":0},{"at":100,"by":2}]}`), "haze", "0+1920 60 bends 0:0 100:2; 0+1920 64 bends 0:0 100:2; 1920+1920 60 bends 0:0 100:2; 1920+1920 64 bends 0:0 100:2; ", "", 1},
		"over longer than a glide takes": {chords("haze", mpe, `{"on":true,"gate":100},{"on":true,"chord":2,"gate":1,"glide":{"time":90}}`), "haze", "", "in 9095 % of its length, which no glide does", 1},
		"bent, and going on":             {chords("haze", mpe, `{"on":true,"tie":true,"bend":[{"at":100,"by":2}]},{"on":true,"chord":2,"glide":{"time":50}}`), "haze", "", "bends and slides on to another pitch", 1},
		"at thousandths of a percent":    {chords("haze", mpe, `{"on":true,"tie":true},{"tie":true},{"tie":true},{"tie":true},{"tie":true},{"tie":true},{"on":true,"chord":2,"gate":100,"glide":{"time":4}}`), "haze", "0+13440 60 bends 85.714:0 86.286:2; 0+11597 64 bends 99.336:0 99.998:-2; 11520+1920 67 from -3 in 4%; 13440+1920 60; 13440+1920 64; ", "", 4},
	} {
		t.Run(name, func(t *testing.T) {
			p, err := piece.Read(fmt.Appendf(nil, `{"format":"agrimony-piece","version":1,"key":{"tonic":"C","scale":"major"},"clips":[{"id":"a","bars":%d,"lanes":[%s]}]}`, max(c.bars, 1), c.lanes))
			require.NoError(t, err)
			next, err := edit.Apply(p, []op.Op{op.Of(op.PrintLanes{OnClip: op.OnClip{Clip: "a"}, Lanes: strings.Split(c.print, ",")})})
			if c.refused != "" {
				require.ErrorContains(t, err, c.refused)
				return
			}
			require.NoError(t, err)
			lanes := next.Clips[0].Lanes
			got := ""
			own := lanes[len(lanes)-1].Content.(*piece.Notes)
			for _, n := range own.Notes {
				got += fmt.Sprintf("%d+%d %d", n.At, n.Length, notes.Pitch(own, next.KeyOf(&next.Clips[0]), nil, &n))
				if n.Glide != nil {
					got += fmt.Sprintf(" from %d in %d%%", *n.Glide.From, n.Glide.Time)
				}
				if len(n.Bend) > 0 {
					got += " bends"
				}
				for _, point := range n.Bend {
					got += fmt.Sprintf(" %v:%d", point.At, point.By)
				}
				got += "; "
			}
			assert.Equal(t, c.notes, got)
		})
	}
}
