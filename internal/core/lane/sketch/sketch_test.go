package sketch_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/sketch"
	"agrimony/internal/core/piece"
)

// sceneOf is a line of so many steps in a clip, over chords or none.
func sceneOf(t require.TestingT, key, meter, chords, rest string, steps int) sketch.Scene {
	lanes := ""
	if chords != "" {
		var played []string
		for k := range strings.Count(chords, "tones") {
			played = append(played, fmt.Sprintf(`{"on":true,"chord":%d}`, k+1))
		}
		lanes = `{"id":"veil","kind":"chords","rate":"1bar","palette":[` + chords + `],"steps":[` + strings.Join(played, ",") + `]},`
	}
	if !strings.Contains(rest, "octave") {
		rest += `,"octave":2`
	}
	all := strings.Repeat("{},", steps)
	text := fmt.Sprintf(`{"format":"agrimony-piece","version":1,"meter":%q,"key":%s,"clips":[{"id":"a","bars":4,"lanes":[%s{"id":"low","name":"Low"%s,"steps":[%s]}]}]}`,
		meter, key, lanes, rest, all[:len(all)-1])
	p, err := piece.Read([]byte(text))
	require.NoError(t, err)
	clip := &p.Clips[0]
	return sketch.Scene{Piece: p, Clip: clip, Lane: &clip.Lanes[len(clip.Lanes)-1], Kinds: lane.KindOf}
}

// chordsOf are so many triads of the key, as a palette.
func chordsOf(count int) string {
	var out []string
	tone := func(n int) string { return fmt.Sprintf(`{"degree":%d,"octave":%d}`, n%7+1, n/7) }
	for k := range count {
		root := []int{0, 5, 3, 4, 1, 4, 2, 5}[k%8]
		out = append(out, fmt.Sprintf(`{"tones":[%s,%s,%s]}`, tone(root), tone(root+2), tone(root+4)))
	}
	return strings.Join(out, ",")
}

// BenchmarkSketches makes six sketches of 64 steps over sixteen chords.
func BenchmarkSketches(b *testing.B) {
	s := sceneOf(b, `{"tonic":"D","scale":"dorian"}`, "4/4", chordsOf(16), `,"rate":"1/4"`, 64)
	for _, temper := range append([]string{""}, "restless", "calling", "climbing") {
		b.Run("temper="+temper, func(b *testing.B) {
			seed := int(0)
			for b.Loop() {
				seed++
				made, err := sketch.Make(s, &sketch.Request{Seed: seed, Count: 6, Keep: "nothing", Temper: temper})
				if err != nil || len(made) != 6 {
					b.Fatal(err)
				}
			}
		})
	}
}
