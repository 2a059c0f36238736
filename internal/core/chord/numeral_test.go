package chord_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/pitch"
)

func inKey(t require.TestingT, name string) pitch.Key {
	key, err := pitch.ParseKey(name)
	require.NoError(t, err)
	return key
}

func TestNumeralsMeanChordsOfTheKey(t *testing.T) {
	for _, row := range []struct{ key, numerals, symbols string }{
		{"C major", "I ii iii IV V vi vii", "C Dm Em F G Am Bdim"},
		{"C major", "Imaj7 ii7 V7 vii7 viiø7 viio7", "Cmaj7 Dm7 G7 Bm7b5 Bm7b5 Bdim7"},
		{"C major", "vii(5) vii(5)7 VII", "Bm Bm7 B"},
		{"C major", "I7 IV7 i iv7", "C7 F7 Cm Fm7"},
		{"C major", "bVI bVII bIII bII #ivo7", "Ab Bb Eb Db F#dim7"},
		{"C major", "V7b5 V7#9 V9 I6 I6add9 Iadd9 Isus4 V7sus4", "G7b5 G7#9 G9 C6 C6add9 Cadd9 Csus4 G7sus4"},
		{"C major", "V7/ii V7/V V/vi viio7/V ii7/ii", "A7 D7 E F#dim7 Em7b5"},
		{"C major", "I/3 V7/5 IV/5 V7/7", "C/E G7/D F/C G7/F"},
		{"A natural minor", "i iio III iv v VI VII", "Am Bdim C Dm Em F G"},
		{"A natural minor", "ii ii7 bVI bbVII", "Bdim Bm7b5 F Gb"},
		{"A natural minor", "V7 viio7 imaj7 I", "E7 G#dim7 AmMaj7 A"},
		{"A natural minor", "viio viiø7 #viio7 VII vii bVII", "G#dim G#m7b5 G#dim7 G Gm G"},
		{"A natural minor", "bviio7 bviiø7", "Gdim7 Gm7b5"},
		{"C mixolydian", "viio7 vii", "Bdim7 Bbm"},
		{"C harmonic minor", "bIII III bIIImaj7 bVI", "Eb Ebaug Ebmaj7 Ab"},
		{"C melodic minor", "bIII III bIII+", "Eb Ebaug Ebaug"},
		{"C major", "bVII bvii #iv #IV", "Bb Bbm F#m F#"},
		{"A harmonic minor", "i V7 vii7 III III+ VI", "Am E7 G#dim7 Caug Caug F"},
		{"A harmonic minor", "III(5) III+maj7 imaj7", "C Cmaj7#5 AmMaj7"},
		{"A melodic minor", "IV7 V7 viio vi", "D7 E7 G#dim F#dim"},
		{"F# dorian", "i7 IV7 VIImaj7 bVI V7/IV", "F#m7 B7 Emaj7 D F#7"},
		{"Eb major", "ii7 V7 Imaj7 vi7 bVII7", "Fm7 Bb7 Ebmaj7 Cm7 Db7"},
		{"E phrygian", "i bII II vii", "Em F F Dm"},
		{"B lydian", "I II vii7 #ivø7", "B C# A#m7 E##m7b5"},
		{"C major", "F#m7 B/D# C", "F#m7 B/D# C"},
	} {
		chords, err := chord.Read(row.numerals, inKey(t, row.key))
		require.NoError(t, err, "%s in %s", row.numerals, row.key)
		var got []string
		for _, c := range chords {
			got = append(got, c.String())
		}
		assert.Equal(t, row.symbols, strings.Join(got, " "), "%s in %s", row.numerals, row.key)
	}
}

// A chord that is read from a numeral is written as a numeral that is read as it.
func TestNumeralsReadBackAsTheyAreWritten(t *testing.T) {
	figures := []string{"I", "II", "III", "IV", "V", "VI", "VII"}
	rapid.Check(t, func(t *rapid.T) {
		scale := rapid.SampledFrom(sevens()).Draw(t, "scale")
		key := inKey(t, rapid.SampledFrom(roots).Draw(t, "tonic")+" "+scale)
		figure := rapid.SampledFrom(figures).Draw(t, "figure")
		if rapid.Bool().Draw(t, "lower") {
			figure = strings.ToLower(figure)
		}
		figure = rapid.SampledFrom([]string{"", "", "b", "#"}).Draw(t, "sign") + figure
		suffix := rapid.SampledFrom([]string{"", "7", "maj7", "6", "9", "sus4", "sus2", "add9", "ø7", "o7", "o", "+", "7b9", "(5)", "(5)7"}).Draw(t, "suffix")
		c, err := chord.ParseNumeral(figure+suffix, key)
		if err != nil {
			t.Skip(err)
		}
		text := c.Numeral(key)
		again, err := chord.ParseNumeral(text, key)
		require.NoError(t, err, "%s in %s", text, key)
		// Roots beyond double accidentals are respelled: what sounds is what must agree.
		assert.Equal(t, classesOf(c), classesOf(again), "%s%s in %s is %s, written %s", figure, suffix, key, c, text)
	})
}

func classesOf(c chord.Chord) []int {
	var out []int
	for _, tone := range c.From(0) {
		out = append(out, pitch.Mod(tone.Pitch, 12))
	}
	return out
}

// sevens are the names of the scales of seven notes.
func sevens() []string {
	var out []string
	for _, s := range pitch.Scales {
		if len(s.Degrees) == 7 {
			out = append(out, s.Name)
		}
	}
	return out
}

// Every stack of every degree of every scale of seven notes, in every key, is named
// from that degree; its symbol is read as its notes, and its numeral as its symbol.
func TestStacksAreNamedFromTheirDegree(t *testing.T) {
	for _, scale := range sevens() {
		for _, tonic := range roots {
			key, err := pitch.ParseKey(tonic + " " + scale)
			require.NoError(t, err)
			for degree := 1; degree <= 7; degree++ {
				for count := 3; count <= 7; count++ {
					named := chord.Stack(key, degree, count)
					where := fmt.Sprintf("%d tones on %d of %s: %s %s", count, degree, key, named.Symbol, named.Numeral)
					want := map[int]bool{}
					for k := range count {
						want[pitch.Mod(key.Tonic.Semitones()+key.Semitones((degree-1+2*k)%7+1), 12)] = true
					}
					bySymbol, err := chord.ParseSymbol(named.Symbol)
					require.NoError(t, err, where)
					require.Equal(t, key.Names()[degree-1], bySymbol.Root, where)
					requireTones(t, want, bySymbol, where)
					byNumeral, err := chord.ParseNumeral(named.Numeral, key)
					require.NoError(t, err, where)
					requireTones(t, want, byNumeral, where)
					pitches := make([]int, count)
					for k := range pitches {
						pitches[k] = key.Pitch(key.Move(pitch.Place{Degree: degree}, 2*k), 4)
					}
					found := chord.Find(pitches, &key)
					require.Equal(t, named.Symbol, found.Symbol(key.Names()[degree-1], pitches[0]%12), where)
				}
			}
		}
	}
}

// requireTones compares the tones of a chord with those wanted. A thirteenth is read
// without its eleventh.
func requireTones(t *testing.T, want map[int]bool, c chord.Chord, where string) {
	got := map[int]bool{}
	for _, tone := range c.From(0) {
		got[pitch.Mod(tone.Pitch, 12)] = true
	}
	if len(want) == 7 && len(got) == 6 {
		for class := range want {
			if eleventh := pitch.Mod(class-c.Root.Class(), 12); eleventh == 5 {
				got[class] = true
			}
		}
	}
	require.Equal(t, want, got, where)
}

func TestTheBankIsReadableInEveryScaleOfSevenNotes(t *testing.T) {
	assert.GreaterOrEqual(t, len(chord.Bank), 24)
	names := map[string]bool{}
	for _, row := range chord.Bank {
		assert.False(t, names[row.Name], row.Name)
		names[row.Name] = true
		for _, scale := range sevens() {
			key := inKey(t, "D "+scale)
			text := row.Numerals(key)
			chords, err := chord.Read(text, key)
			require.NoError(t, err, "%s in %s: %s", row.Name, key, text)
			assert.Len(t, chords, len(strings.Fields(row.Words)))
		}
	}
}

// What the bank writes, as a musician would say it.
func TestTheBankWritesWhatPlayersPlay(t *testing.T) {
	for _, row := range []struct{ key, words, want string }{
		{"C major", "1 7 6 5", "I bVII vi V"},
		{"C major", "2 5 1 1", "ii V I I"},
		{"A natural minor", "1 4 7 3 6 2 5 1", "i iv VII III VI iiø7 V7 i"},
		{"A natural minor", "1 5 6 4", "i v VI iv"},
		{"A natural minor", "1 4 1 5", "i iv i V7"},
		{"A natural minor", "17 67 27 57", "i7 VImaj7 iiø7 V7"},
		{"A harmonic minor", "1 4 7 3", "i iv bVII III(5)"},
		{"F lydian", "I IV iv I", "I bIV biv I"}, // B flat, a semitone under the key's own fourth
		{"D dorian", "1 6 4 5", "i viø7 IV V7"},
		{"E phrygian", "1 5 1 5", "i II i II"},
		{"G mixolydian", "1 3 4 4", "I iiiø7 IV IV"},
		{"F lydian", "1 4 5 1", "I ivø7 V I"},
	} {
		own := chord.Progression{Words: row.words}
		assert.Equal(t, row.want, own.Numerals(inKey(t, row.key)), "%s in %s", row.words, row.key)
	}
}

// No progression of the bank holds a bare diminished or augmented triad, in minor none goes home from a minor
// fifth degree, and no two come to the same.
func TestTheBankLoops(t *testing.T) {
	for _, scale := range []string{"major", "natural minor", "harmonic minor", "melodic minor", "dorian", "phrygian", "lydian", "mixolydian"} {
		key := inKey(t, "D "+scale)
		rotations := map[string]string{}
		assert.Greater(t, len(chord.Rows(key)), 28)
		for _, row := range chord.Rows(key) {
			text := row.Text
			chords, err := chord.Read(text, key)
			require.NoError(t, err)
			tonic, fifth := key.Names()[0], key.Names()[4]
			for i, c := range chords {
				assert.NotContains(t, []string{"dim", "aug"}, c.Form.Symbol, "%s in %s: %s", row.Name, key, text)
				next := chords[(i+1)%len(chords)]
				if key.Semitones(3) == 3 && key.Semitones(2) == 2 && c.Root == fifth && next.Root == tonic {
					assert.Equal(t, "7", c.Form.Symbol, "%s in %s: %s", row.Name, key, text)
				}
			}
			if other := rotations[text]; other != "" {
				t.Errorf("%s and %s in %s are both %s", row.Name, other, key, text)
			}
			rotations[text] = row.Name
		}
	}
}

func TestWordsOfALineAreReadOneByOne(t *testing.T) {
	words, err := chord.Words("i  Hm7 | F#m7", inKey(t, "A natural minor"))
	require.NoError(t, err)
	require.Len(t, words, 3)
	assert.Equal(t, []any{"i", 0, ""}, []any{words[0].Text, words[0].At, words[0].Problem})
	assert.Equal(t, []any{"Hm7", 3}, []any{words[1].Text, words[1].At})
	assert.Contains(t, words[1].Problem, "there is no note H")
	assert.Equal(t, "F#m7", words[2].Chord.String())
	_, err = chord.Read("i VI Hm7 x", inKey(t, "A natural minor"))
	assert.EqualError(t, err, `word 3: "Hm7" is not a chord: `+words[1].Problem)
	for text, message := range map[string]string{
		"":                         "there is no chord",
		" | ":                      "there is no chord",
		strings.Repeat("I ", 513):  "more than 512 chords",
		strings.Repeat("m", 41):    "too long",
		"VIII":                     "word 1",
		"V7/ix":                    "word 1",
		"I iV":                     "word 2",
		"V7/" + "V7/V7/V7/V7/V7/V": "word 1",
	} {
		_, err := chord.Read(text, inKey(t, "C major"))
		assert.ErrorContains(t, err, message, text)
	}
}

func FuzzLine(f *testing.F) {
	key := inKey(f, "A harmonic minor")
	for _, seed := range []string{"i VI V7/ii F#m7", "bbVII #ivo7", "III(5)7", "V7/", "/ / /", "ø", "I/11"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		words, err := chord.Words(text, key)
		if err != nil {
			return
		}
		for _, w := range words {
			if text[w.At:w.At+len(w.Text)] != w.Text {
				t.Fatalf("%q is not at %d of %q", w.Text, w.At, text)
			}
			if w.Problem != "" {
				continue
			}
			if tones := w.Chord.Places(key, 3); len(tones) == 0 || len(tones) > 16 {
				t.Fatalf("%q has %d tones", w.Text, len(tones))
			}
		}
	})
}
