package chord_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/pitch"
)

func TestNotesAreNamedTogether(t *testing.T) {
	for _, row := range []struct{ notes, key, symbol, numeral string }{
		{"C E G", "C major", "C", "I"},
		{"E G C", "C major", "C/E", "I/3"},
		{"A C E G", "C major", "Am7", "vi7"},
		{"C E A", "C major", "Am/C", "vi/3"}, // a name without its fifth loses to a complete one
		{"C E A", "", "Am/C", ""},
		{"C E G A", "C major", "C6", "I6"},
		{"D F A C", "C major", "Dm7", "ii7"},
		{"B D F", "C major", "Bdim", "viio"},
		{"B D F A", "C major", "Bm7b5", "viiø7"},
		{"G B D F A", "C major", "G9", "V9"},
		{"G B F A", "C major", "G9", "V9"}, // the fifth is left out
		{"G B F E", "C major", "G13", "V13"},
		{"G C D F A", "C major", "G9sus4", "V9sus4"},
		{"C E G Bb F", "", "C11", ""}, // of an eleventh the ninth may be left out, too
		{"C Eb G Bb F", "", "Cm11", ""},
		{"C E G B F", "", "Cmaj11", ""},
		{"G Bb F A", "", "Gm9", ""},
		{"C G Bb D F", "", "C9sus4", ""}, // without a third, it is no eleventh
		{"C G Bb F", "", "C7sus4", ""},
		{"C E G Bb D F", "", "C11", ""},
		{"C E Bb D F", "", "C11", ""},
		{"C F G", "C major", "Csus4", "Isus4"},
		{"C D G", "C major", "Csus2", "Isus2"},
		{"C E G D", "C major", "Cadd9", "Iadd9"},
		{"C E G#", "C major", "Caug", "I+"},
		{"G# B D F", "A harmonic minor", "G#dim7", "viio7"},
		{"C E G# B", "A harmonic minor", "Cmaj7#5", "III+maj7"},
		{"A C E G#", "A harmonic minor", "AmMaj7", "imaj7"},
		{"E G# B D F", "A harmonic minor", "E7b9", "V7b9"},
		{"F A C E B", "C major", "Fmaj7#11", "IVmaj7#11"},
		{"C Db D", "C major", "C(b2,2)", "I(b2,2)"},
		{"C G", "C major", "C5", "I5"},
		{"Ab C Eb", "C major", "Ab", "bVI"},
		{"F A C", "A natural minor", "F", "VI"},
		{"F# A C#", "C major", "F#m", "#iv"},
		{"B D# F#", "B lydian", "B", "I"},
	} {
		var names []pitch.Name
		for _, text := range strings.Fields(row.notes) {
			name, err := pitch.ParseName(text)
			require.NoError(t, err)
			names = append(names, name)
		}
		var key *pitch.Key
		if row.key != "" {
			k := inKey(t, row.key)
			key = &k
		}
		got := chord.Name(names, key)
		assert.Equal(t, []string{row.symbol, row.numeral}, []string{got.Symbol, got.Numeral}, "%s in %s", row.notes, row.key)
	}
}

func TestOtherNamesAreTold(t *testing.T) {
	names := []pitch.Name{{Letter: 5}, {Letter: 0}, {Letter: 2}, {Letter: 4}} // A C E G
	got := chord.Name(names, nil)
	assert.Equal(t, []string{"Am7", "A"}, []string{got.Symbol, got.Root})
	assert.Equal(t, []string{"C6/A"}, got.Others)
}

// Of several names the one wins that has the lowest tone as its root, then that with
// less to tell, then that whose root is in the key.
func TestWhichNameWins(t *testing.T) {
	dim := []int{59, 62, 65, 68} // a diminished seventh has as many roots as tones
	for name, root := range map[string]int{"A harmonic minor": 11, "C major": 11} {
		key := inKey(t, name)
		assert.Equal(t, root, chord.Find(dim, &key).Class, "the lowest wins in %s", name)
	}
	aug := []int{60, 64, 68}
	assert.Equal(t, 0, chord.Find(aug, nil).Class)
	key := inKey(t, "C major")
	assert.Equal(t, 9, chord.Find([]int{64, 69, 72, 79}, &key).Class, "E A C G is Am7 over E, not C6 over E")
}

func TestNamingAllocatesNothing(t *testing.T) {
	key := inKey(t, "Eb major")
	sets := [][]int{{60, 64, 67}, {60, 63, 67, 70, 74}, {60, 61, 62}, {64, 67, 69, 72}, {58, 62, 65, 69, 72, 76, 79}}
	assert.Zero(t, testing.AllocsPerRun(200, func() {
		for _, set := range sets {
			chord.Find(set, &key)
		}
	}))
}

func BenchmarkName(b *testing.B) {
	key := inKey(b, "Eb major")
	sets := [][]int{{60, 64, 67}, {60, 63, 67, 70, 74}, {60, 61, 62}, {64, 67, 69, 72}, {58, 62, 65, 69, 72, 76, 79}}
	b.ReportAllocs()
	for i := 0; b.Loop(); i++ {
		chord.Find(sets[i%len(sets)], &key)
	}
}
