package chord

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/pitch"
)

func TestDiatonicChords(t *testing.T) {
	for _, row := range []struct{ key, triads, sevenths, numerals, seventhNumerals string }{
		{"C major", "C Dm Em F G Am Bdim", "Cmaj7 Dm7 Em7 Fmaj7 G7 Am7 Bm7b5", "I ii iii IV V vi viio", "Imaj7 ii7 iii7 IVmaj7 V7 vi7 viiø7"},
		{"A harmonic minor", "Am Bdim Caug Dm E F G#dim", "AmMaj7 Bm7b5 Cmaj7#5 Dm7 E7 Fmaj7 G#dim7", "i iio III+ iv V VI viio", "imaj7 iiø7 III+maj7 iv7 V7 VImaj7 viio7"},
		{"Eb dorian", "Ebm Fm Gb Ab Bbm Cdim Db", "Ebm7 Fm7 Gbmaj7 Ab7 Bbm7 Cm7b5 Dbmaj7", "i ii III IV v vio VII", "i7 ii7 IIImaj7 IV7 v7 viø7 VIImaj7"},
	} {
		key, err := pitch.ParseKey(row.key)
		require.NoError(t, err)
		report := Describe(key)
		var triads, sevenths, numerals, seventhNumerals []string
		for i := range report.Triads {
			triads = append(triads, report.Triads[i].Symbol)
			sevenths = append(sevenths, report.Sevenths[i].Symbol)
			numerals = append(numerals, report.Triads[i].Numeral)
			seventhNumerals = append(seventhNumerals, report.Sevenths[i].Numeral)
		}
		assert.Equal(t, row.triads, strings.Join(triads, " "))
		assert.Equal(t, row.sevenths, strings.Join(sevenths, " "))
		assert.Equal(t, row.numerals, strings.Join(numerals, " "))
		assert.Equal(t, row.seventhNumerals, strings.Join(seventhNumerals, " "))
	}
}

func TestChordsWithoutACommonName(t *testing.T) {
	key, err := pitch.ParseKey("C hungarian minor")
	require.NoError(t, err)
	assert.Equal(t, Named{"II(b5)", "D(b5)", []string{"D", "F#", "Ab"}}, Stack(key, 2, 3))
	assert.Equal(t, Named{"IV(2,b5)", "F#(2,b5)", []string{"F#", "Ab", "C"}}, Stack(key, 4, 3))
}

func TestEveryKeyCanBeDescribed(t *testing.T) {
	for _, scale := range pitch.Scales {
		key, err := pitch.NewKey(pitch.Name{Letter: 1, Accidental: -1}, scale)
		require.NoError(t, err)
		for _, chord := range Describe(key).Sevenths {
			assert.NotEmpty(t, chord.Symbol, scale.Name)
			assert.Len(t, chord.Notes, 4, scale.Name)
		}
	}
}

// A scale without seven notes has no stacks of its own: its chords are those that
// its notes make as thirds are heard.
func TestChordsOfOtherScales(t *testing.T) {
	for name, want := range map[string]string{
		"C major pentatonic":     "C/I Am/vi | Am7/vi7",
		"C whole tone":           "Caug/I+ Daug/II+ Eaug/III+ F#aug/IV+ G#aug/V+ Bbaug/VII+ | ",
		"A minor pentatonic":     "Am/i C/III | Am7/i7",
		"C half-whole octatonic": "C/I Cm/i Cdim/io",
	} {
		key, err := pitch.ParseKey(name)
		require.NoError(t, err)
		var out []string
		report := Describe(key)
		for _, c := range report.Triads {
			out = append(out, c.Symbol+"/"+c.Numeral)
		}
		out = append(out, "|")
		for _, c := range report.Sevenths {
			out = append(out, c.Symbol+"/"+c.Numeral)
		}
		assert.True(t, strings.HasPrefix(strings.Join(out, " ")+" ", want), "%s: %v", name, out)
	}
	octatonic, err := pitch.ParseKey("C half-whole octatonic")
	require.NoError(t, err)
	assert.Equal(t, []string{"C", "Eb", "Gb"}, Heard(octatonic, 1, 3)[2].Notes, "letters in thirds")
}
