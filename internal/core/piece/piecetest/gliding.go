package piecetest

import (
	"fmt"
	"strings"
)

// Gliding makes up the lanes "tide", "lanterns" and "drift", chords, a phrase that walks them and free notes, which may
// all glide note by note; each leaves a place (%s) for more of its fields. moves: steps glide and bend. Whole draws a
// number within bounds, for a purpose.
func Gliding(whole func(low, high int, what string) int, moves bool) []string {
	moving := func() (out string) {
		if moves && whole(0, 1, "glides") > 0 {
			out += fmt.Sprintf(`,"glide":{"time":%d,"curve":%d}`, whole(0, 120, "time"), whole(-60, 60, "curve"))
		}
		if moves && whole(0, 5, "bends") == 0 {
			out += fmt.Sprintf(`,"bend":[{"at":10,"by":0},{"at":80,"by":%d}]`, whole(-3, 3, "by"))
		}
		return out
	}
	step := func(more string) string {
		return fmt.Sprintf(`{"on":%v,"tie":%v,"gate":%d,"velocity":%d,"ratchet":%d,"nudge":%d,"chance":%d%s%s}`,
			whole(0, 4, "on") > 0, whole(0, 2, "tie") == 0, whole(10, 300, "gate"), whole(20, 127, "velocity"), max(whole(-5, 3, "ratchet"), 1), max(whole(-30, 20, "nudge"), -20), min(whole(60, 160, "chance"), 100), more, moving())
	}
	list := func(most int, of func() string) string {
		out := make([]string, whole(1, most, "count"))
		for i := range out {
			out[i] = of()
		}
		return strings.Join(out, ",")
	}
	return []string{
		fmt.Sprintf(`{"id":"tide","kind":"chords","rate":"1/4","octave":4,"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]},{"tones":[{"degree":3}]}],"steps":[%s]%%s}`,
			list(6, func() string {
				return step(fmt.Sprintf(`,"chord":%d,"strum":{"time":%d}`, whole(1, 3, "chord"), max(whole(-60, 60, "strum"), 0)))
			})),
		fmt.Sprintf(`{"id":"lanterns","kind":"phrase","rate":"1/8","octave":5,"steps":[%s]%%s}`,
			list(6, func() string { return step([]string{``, ``, `,"play":"chord"`, `,"offset":1`}[whole(0, 3, "play")]) })),
		fmt.Sprintf(`{"id":"drift","kind":"notes","octave":4,"notes":[%s]%%s}`,
			list(8, func() string {
				return fmt.Sprintf(`{"at":%d,"length":%d,"degree":%d%s}`, 240*whole(0, 15, "at"), whole(1, 1500, "length"), whole(1, 7, "degree"), moving())
			})),
	}
}

// GlidingClip makes up a document of a clip "keel" of so many bars in which notes glide each by itself: chords, with a
// phrase or free notes beside them that do so too, or nothing; a layer over them; and what leans on their wheel.
func GlidingClip(whole func(low, high int, what string) int, bars int) string {
	lanes := Gliding(whole, true)
	if left := whole(0, 2, "left out"); left > 0 { // the others walk the chords
		lanes = append(lanes[:left], lanes[left+1:]...)
	} else {
		lanes = lanes[:1]
	}
	for i := range lanes {
		lanes[i] = fmt.Sprintf(lanes[i], fmt.Sprintf(`,"glide":{"mode":"mpe","range":%d}`, []int{24, 48, 96}[whole(0, 2, "range")]))
	}
	if whole(0, 1, "layer") > 0 {
		lanes = append(lanes, `{"id":"up","kind":"layer","of":"tide","octave":1}`)
	}
	if whole(0, 1, "control") > 0 {
		lanes = append(lanes, fmt.Sprintf(`{"id":"lean","kind":"control","to":"tide","target":"wheel","rate":"1/4","steps":[{"on":true,"value":0},{"on":true,"value":%d}]}`, whole(-2, 2, "value")))
	}
	return fmt.Sprintf(`{"format":"agrimony-piece","version":1,"groove":{"swing":%d},"clips":[{"id":"keel","bars":%d,"seam":%q,"lanes":[%s]}]}`,
		whole(50, 66, "swing"), bars, []string{"fresh", "loop"}[whole(0, 1, "seam")], strings.Join(lanes, ","))
}
