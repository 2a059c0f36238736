package chord_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/pitch"
)

func TestSymbolsAreTakenApart(t *testing.T) {
	for _, row := range []struct{ symbol, written, notes, intervals string }{
		{"C", "C", "C E G", "1 3 5"},
		{"Cm", "Cm", "C Eb G", "1 b3 5"},
		{"Bdim", "Bdim", "B D F", "1 b3 b5"},
		{"Gbaug", "Gbaug", "Gb Bb D", "1 3 #5"},
		{"Db5", "Db5", "Db Ab", "1 5"},
		{"F#6", "F#6", "F# A# C# D#", "1 3 5 6"},
		{"Ebm6", "Ebm6", "Eb Gb Bb C", "1 b3 5 6"},
		{"G7", "G7", "G B D F", "1 3 5 b7"},
		{"Fmaj7", "Fmaj7", "F A C E", "1 3 5 7"},
		{"G#m7", "G#m7", "G# B D# F#", "1 b3 5 b7"},
		{"F#m7b5", "F#m7b5", "F# A C E", "1 b3 b5 b7"},
		{"Cdim7", "Cdim7", "C Eb Gb Bbb", "1 b3 b5 bb7"},
		{"AmMaj7", "AmMaj7", "A C E G#", "1 b3 5 7"},
		{"Cmaj7#5", "Cmaj7#5", "C E G# B", "1 3 #5 7"},
		{"D7#5", "D7#5", "D F# A# C", "1 3 #5 b7"},
		{"C7b5", "C7b5", "C E Gb Bb", "1 3 b5 b7"},
		{"C9", "C9", "C E G Bb D", "1 3 5 b7 9"},
		{"Bbmaj9", "Bbmaj9", "Bb D F A C", "1 3 5 7 9"},
		{"Em9", "Em9", "E G B D F#", "1 b3 5 b7 9"},
		{"C11", "C11", "C E G Bb D F", "1 3 5 b7 9 11"},
		{"Dm11", "Dm11", "D F A C E G", "1 b3 5 b7 9 11"},
		{"C13", "C13", "C E G Bb D A", "1 3 5 b7 9 13"},
		{"Abmaj13", "Abmaj13", "Ab C Eb G Bb F", "1 3 5 7 9 13"},
		{"Cadd9", "Cadd9", "C E G D", "1 3 5 9"},
		{"Bmadd9", "Bmadd9", "B D F# C#", "1 b3 5 9"},
		{"C6add9", "C6add9", "C E G A D", "1 3 5 6 9"},
		{"Asus2", "Asus2", "A B E", "1 2 5"},
		{"Asus4", "Asus4", "A D E", "1 4 5"},
		{"E7sus4", "E7sus4", "E A B D", "1 4 5 b7"},
		{"E9sus4", "E9sus4", "E A B D F#", "1 4 5 b7 9"},
		{"A7b9", "A7b9", "A C# E G Bb", "1 3 5 b7 b9"},
		{"E7#9", "E7#9", "E G# B D F##", "1 3 5 b7 #9"},
		{"Fmaj7#11", "Fmaj7#11", "F A C E B", "1 3 5 7 #11"},
		{"C(b5)", "C(b5)", "C E Gb", "1 3 b5"},
		// Read besides.
		{"CM7", "Cmaj7", "C E G B", "1 3 5 7"},
		{"CΔ", "Cmaj7", "C E G B", "1 3 5 7"},
		{"Cma7", "Cmaj7", "C E G B", "1 3 5 7"},
		{"Cmin", "Cm", "C Eb G", "1 b3 5"},
		{"Cmi7", "Cm7", "C Eb G Bb", "1 b3 5 b7"},
		{"C-", "Cm", "C Eb G", "1 b3 5"},
		{"C-7", "Cm7", "C Eb G Bb", "1 b3 5 b7"},
		{"Co", "Cdim", "C Eb Gb", "1 b3 b5"},
		{"C°7", "Cdim7", "C Eb Gb Bbb", "1 b3 b5 bb7"},
		{"Cø", "Cm7b5", "C Eb Gb Bb", "1 b3 b5 b7"},
		{"C+", "Caug", "C E G#", "1 3 #5"},
		{"Csus", "Csus4", "C F G", "1 4 5"},
		{"C69", "C6add9", "C E G A D", "1 3 5 6 9"},
		{"Cadd6", "C6", "C E G A", "1 3 5 6"},
		{"C6/9", "C6add9", "C E G A D", "1 3 5 6 9"},
		{"Cadd2", "Cadd9", "C E G D", "1 3 5 9"},
		{"Cadd4", "Cadd11", "C E G F", "1 3 5 11"},
		{"F♯m7", "F#m7", "F# A C# E", "1 b3 5 b7"},
		{"B♭", "Bb", "Bb D F", "1 3 5"},
		{"C7b9#11", "C7b9#11", "C E G Bb Db F#", "1 3 5 b7 b9 #11"},
		{"C7#5b9", "C7#5b9", "C E G# Bb Db", "1 3 #5 b7 b9"},
		{"C7b13", "C7b13", "C E G Bb Ab", "1 3 5 b7 b13"},
		// Over another bass, the lowest first.
		{"B/D#", "B/D#", "D# B F#", "1 3 5"},
		{"F#m7b5/A", "F#m7b5/A", "A F# C E", "1 b3 b5 b7"},
		{"C/C", "C", "C E G", "1 3 5"},
	} {
		c, err := chord.ParseSymbol(row.symbol)
		require.NoError(t, err, row.symbol)
		got := c.Explain()
		assert.Equal(t, []string{row.written, row.notes, row.intervals}, []string{got.Symbol, strings.Join(got.Notes, " "), strings.Join(got.Intervals, " ")}, row.symbol)
	}
}

func TestWhatIsNoSymbolIsSaidAndWhatIsNearIt(t *testing.T) {
	for _, row := range []struct{ text, message string }{
		{"Hm7", "there is no note H"},
		{"", "there is no note"},
		{"Cmja7", "near it: Cmaj7"},
		{"Cm7b6", "near it"},
		{"C/H", `"H" is not a bass note; allowed: a note as in C/E`},
		{"c", "there is no note c"},
		{"C###", "near it"},
	} {
		_, err := chord.ParseSymbol(row.text)
		assert.ErrorContains(t, err, row.message, row.text)
	}
}

// roots draws the root names that lead sheets use.
var roots = []string{"C", "C#", "Db", "D", "D#", "Eb", "E", "F", "F#", "Gb", "G", "G#", "Ab", "A", "A#", "Bb", "B", "Cb"}

func anySymbol(t *rapid.T) string {
	q := rapid.SampledFrom(chord.Qualities).Draw(t, "quality")
	root := rapid.SampledFrom(roots).Draw(t, "root")
	text := root + q.Symbol
	if strings.Contains(q.Tones, "7") && !strings.Contains(q.Symbol, "5") && rapid.Bool().Draw(t, "altered") {
		text += rapid.SampledFrom([]string{"b5", "b9", "#9", "#11", "b9#11"}).Draw(t, "alteration")
	}
	return text
}

func TestSymbolsReadBackAsTheyAreWritten(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c, err := chord.ParseSymbol(anySymbol(t))
		if err != nil {
			t.Skip(err)
		}
		again, err := chord.ParseSymbol(c.String())
		require.NoError(t, err)
		assert.Equal(t, c, again)
	})
}

// What is written for notes is read as those notes, whatever they are.
func TestEverySetOfNotesHasASymbolThatIsReadAsIt(t *testing.T) {
	key, err := pitch.ParseKey("C major")
	require.NoError(t, err)
	rapid.Check(t, func(t *rapid.T) {
		classes := rapid.SliceOfNDistinct(rapid.IntRange(0, 11), 1, 7, rapid.ID[int]).Draw(t, "classes")
		names := make([]pitch.Name, len(classes))
		want := map[int]bool{}
		for i, c := range classes {
			names[i] = key.Spell(60 + c)
			want[c] = true
		}
		named := chord.Name(names, &key)
		c, err := chord.ParseSymbol(named.Symbol)
		require.NoError(t, err, named.Symbol)
		got := map[int]bool{}
		for _, tone := range c.From(48) {
			got[pitch.Mod(tone.Pitch, 12)] = true
		}
		for class := range want {
			eleventh := strings.Contains(named.Symbol, "13") && pitch.Mod(class-c.Root.Class(), 12) == 5
			assert.True(t, got[class] || eleventh, "%s has %d; only a thirteenth may have a tone that its name does not tell: the eleventh", named.Symbol, class)
		}
		// Only what players leave out is added.
		assert.LessOrEqual(t, len(got)-len(want), 2, named.Symbol)
		lowest := c.From(48)[0].Pitch
		assert.Equal(t, classes[0], pitch.Mod(lowest, 12), "%s over its lowest", named.Symbol)
	})
}

func FuzzSymbol(f *testing.F) {
	for _, seed := range []string{"C", "F#m7b5/A", "C(b2,2)", "C69", "Bbmaj7#11/E", "C7b9#11b13", "Δ", "C//", "C(((", "Cadd"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		c, err := chord.ParseSymbol(text)
		if err != nil {
			return
		}
		again, err := chord.ParseSymbol(c.String())
		if err != nil || again.String() != c.String() {
			t.Fatalf("%q is written %q, which is read as %q, %v", text, c, again, err)
		}
	})
}
