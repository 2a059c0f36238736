package pitch

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func mustKey(t require.TestingT, text string) Key {
	key, err := ParseKey(text)
	require.NoError(t, err, text)
	return key
}

func joined(names []Name) string {
	out := make([]string, len(names))
	for i, n := range names {
		out[i] = n.String()
	}
	return strings.Join(out, " ")
}

func TestKeysAreSpelledAsTheoryWritesThem(t *testing.T) {
	for key, notes := range map[string]string{
		"C major":                "C D E F G A B",
		"F# major":               "F# G# A# B C# D# E#",
		"Gb major":               "Gb Ab Bb Cb Db Eb F",
		"C# major":               "C# D# E# F# G# A# B#",
		"Eb minor":               "Eb F Gb Ab Bb Cb Db",
		"F# dorian":              "F# G# A B C# D# E",
		"Eb dorian":              "Eb F Gb Ab Bb C Db",
		"G# harmonic minor":      "G# A# B C# D# E F##",
		"Db locrian":             "Db Ebb Fb Gb Abb Bbb Cb",
		"C hungarian minor":      "C D Eb F# G Ab B",
		"E phrygian dominant":    "E F G# A B C D",
		"C double harmonic":      "C Db E F G Ab B",
		"A minor pentatonic":     "A C D E G",
		"Bb major pentatonic":    "Bb C D F G",
		"A minor blues":          "A C D Eb E G",
		"C major blues":          "C D Eb E G A",
		"C whole-tone":           "C D E F# G# Bb",
		"C half-whole octatonic": "C Db Eb E F# G A Bb",
		"C whole-half octatonic": "C D Eb F Gb Ab A B",
		"B# whole tone":          "B# C## D## E## G# A#",
		"D 1 2 b3 #4 5":          "D E F G# A",
	} {
		assert.Equal(t, notes, joined(mustKey(t, key).Names()), key)
	}
}

func TestPlacesBecomePitches(t *testing.T) {
	for _, row := range []struct {
		key    string
		octave int
		place  Place
		pitch  int
		name   string
	}{
		{"C major", 4, Place{Degree: 1}, 60, "C4"},
		{"F# dorian", 2, Place{Degree: 1}, 42, "F#2"},
		{"F# dorian", 2, Place{Degree: 5, Octave: -1}, 37, "C#2"},
		{"F# dorian", 2, Place{Degree: 5, Alter: 1}, 50, "D3"},
		{"Cb major", 4, Place{Degree: 1}, 59, "Cb4"},
		{"B# natural minor", 3, Place{Degree: 1}, 60, "B#3"},
		{"A minor", 3, Place{Degree: 3}, 60, "C4"},
		{"F major", 3, Place{Degree: 4, Alter: -1}, 57, "A3"},
		{"C major", 3, Place{Degree: 7, Alter: -1}, 58, "Bb3"},
		{"C major", 3, Place{Degree: 4, Alter: 1}, 54, "F#3"},
		{"C major", 3, Place{Degree: 3, Alter: 1}, 53, "F3"},
		{"C major", 3, Place{Degree: 1, Alter: 1}, 49, "Db3"},
		{"C major", 3, Place{Degree: 2, Alter: 1}, 51, "Eb3"},
		{"C major", 3, Place{Degree: 5, Alter: 1}, 56, "Ab3"},
		{"C major", 3, Place{Degree: 6, Alter: 1}, 58, "Bb3"},
		{"F# dorian", 3, Place{Degree: 7, Alter: 1}, 65, "E#4"},
		{"F# dorian", 3, Place{Degree: 3, Alter: 1}, 58, "A#3"},
		{"A minor", 3, Place{Degree: 6, Alter: 1}, 66, "F#4"},
		{"A minor", 3, Place{Degree: 7, Alter: 1}, 68, "G#4"},
		{"A minor", 3, Place{Degree: 1, Alter: 1}, 58, "Bb3"},
		{"A minor", 3, Place{Degree: 5, Alter: -1}, 63, "D#4"},
		{"C major pentatonic", 3, Place{Degree: 3, Alter: 1}, 53, "F3"},
	} {
		key := mustKey(t, row.key)
		p := key.Pitch(row.place, row.octave)
		assert.Equal(t, row.pitch, p, "%+v", row)
		assert.Equal(t, row.name, key.Named(p), "%+v", row)
	}
}

func TestSnapping(t *testing.T) {
	for _, row := range []struct {
		key  string
		way  Snap
		from int
		to   int
	}{
		{"F# dorian", Nearest, 50, 49}, // D lies between C# and D#: down
		{"F# dorian", Up, 50, 51},
		{"F# dorian", Down, 50, 49},
		{"C minor pentatonic", Nearest, 62, 63}, // D: Eb is a semitone off, C two
		{"C minor pentatonic", Nearest, 57, 58},
		{"C major", Up, 60, 60},
		{"C major", Nearest, 61, 60},
	} {
		assert.Equal(t, row.to, mustKey(t, row.key).Snap(row.from, row.way), "%+v", row)
	}
}

func TestFoldingKeepsThePitchClass(t *testing.T) {
	for from, to := range map[int]int{-1: 11, -13: 11, 128: 116, 139: 127, 140: 116, 0: 0, 127: 127} {
		assert.Equal(t, to, Fold(from), "%d", from)
	}
	rapid.Check(t, func(t *rapid.T) {
		p := rapid.IntRange(-200, 400).Draw(t, "pitch")
		folded := Fold(p)
		assert.True(t, folded >= 0 && folded <= 127)
		assert.Equal(t, Mod(p, 12), Mod(folded, 12))
	})
}

func TestScalesThatAreRefused(t *testing.T) {
	for degrees, message := range map[string]string{
		"1 2 2 5":  "repeats the pitch",
		"1 #2 b3":  "repeats the pitch",
		"1 5 3":    "rising order",
		"2 3 5":    `"1" first`,
		"1 8":      "not a scale degree",
		"1 ##7":    "outside the octave",
		"1 bbb3":   "not a scale degree",
		"1 two":    "not a scale degree",
		"1 #7 7 1": "outside the octave",
	} {
		_, err := NewScale(strings.Fields(degrees))
		assert.ErrorContains(t, err, message, degrees)
	}
	_, err := NewScale(nil)
	assert.ErrorContains(t, err, "0 degrees")
	_, err = FindScale("sideways")
	assert.ErrorContains(t, err, "harmonic minor")
	_, err = ParseKey("H dorian")
	assert.ErrorContains(t, err, "A..G")
	_, err = ParseKey("Fbb major")
	assert.ErrorContains(t, err, "at most one")
}

func anyKey(t *rapid.T) Key {
	tonic := Name{Letter(rapid.IntRange(0, 6).Draw(t, "letter")), rapid.IntRange(-1, 1).Draw(t, "accidental")}
	key, err := NewKey(tonic, rapid.SampledFrom(Scales).Draw(t, "scale"))
	require.NoError(t, err)
	return key
}

func TestEveryKeySpellsItsPitches(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		key := anyKey(t)
		for degree := 1; degree <= key.Size(); degree++ {
			p := key.Pitch(Place{Degree: degree}, 3)
			name := key.Spell(p)
			assert.Equal(t, Mod(p, 12), name.Class(), "%s %s", key, name)
			assert.Equal(t, p, 12*(name.Octave(p)+1)+name.Semitones())
			assert.LessOrEqual(t, max(name.Accidental, -name.Accidental), 2)
		}
		if key.Size() == 7 {
			seen := map[Letter]bool{}
			for _, name := range key.Names() {
				seen[name.Letter] = true
			}
			if key.Scale.Name != "locrian" && key.Tonic.Accidental == 0 {
				assert.Len(t, seen, 7, "one letter a degree in %s", key)
			}
		}
	})
}

func TestFindUndoesPitchAndMoveUndoesItself(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		key := anyKey(t)
		place := Place{Degree: rapid.IntRange(1, key.Size()).Draw(t, "degree"), Octave: rapid.IntRange(-4, 4).Draw(t, "octave")}
		octave := rapid.IntRange(0, 6).Draw(t, "lane octave")
		found, ok := key.Find(key.Pitch(place, octave), octave)
		assert.True(t, ok)
		assert.Equal(t, place, found)
		by := rapid.IntRange(-20, 20).Draw(t, "by")
		assert.Equal(t, place, key.Move(key.Move(place, by), -by))
		p := rapid.IntRange(0, 127).Draw(t, "pitch")
		assert.Equal(t, p, key.Pitch(key.Express(p, octave), octave), "any pitch can be expressed")
	})
}

func TestLadderHoldsTheKeyOnly(t *testing.T) {
	key := mustKey(t, "F# dorian")
	rows := key.Ladder(2, 42, 54, false)
	var names []string
	for _, row := range rows {
		names = append(names, row.Name)
	}
	assert.Equal(t, "F♯2 G♯2 A2 B2 C♯3 D♯3 E3 F♯3", strings.Join(names, " "))
	assert.True(t, rows[0].Tonic && rows[7].Tonic)
	assert.Equal(t, Place{Degree: 1, Octave: 1}, rows[7].Place)
	assert.Len(t, key.Ladder(2, 42, 54, true), 13)
}

func TestKeepingDegreesBetweenScales(t *testing.T) {
	find := func(name string) Scale { scale, err := FindScale(name); require.NoError(t, err); return scale }
	for _, row := range []struct {
		from, to string
		degree   int
		want     string
	}{
		{"major", "dorian", 3, "b3"},
		{"dorian", "minor pentatonic", 5, "5"},
		{"dorian", "minor pentatonic", 2, "b3"}, // a semitone up, the tonic is two below
		{"dorian", "minor pentatonic", 6, "b7"},
		{"minor pentatonic", "major", 2, "3"},
		{"whole tone", "major", 4, "4"},
	} {
		to := find(row.to)
		degree, octave := KeepDegree(find(row.from), to, row.degree)
		assert.Equal(t, row.want, to.Degrees[degree-1].String(), "%+v", row)
		assert.Zero(t, octave)
	}
	chromatic, pentatonic := find("chromatic"), find("minor pentatonic")
	degree, octave := KeepDegree(chromatic, pentatonic, 12)
	assert.Equal(t, []int{5, 0}, []int{degree, octave}, "a major seventh goes down to the minor one")
}

func TestPrettySigns(t *testing.T) {
	for from, to := range map[string]string{
		"F#2": "F♯2", "Bb": "B♭", "Ebb": "E♭♭", "C#m7b5": "C♯m7♭5", "Bbm7": "B♭m7", "b3": "♭3", "Bbdim": "B♭dim", "bVII": "♭VII",
	} {
		assert.Equal(t, to, Pretty(from))
	}
}

func TestKeySignatures(t *testing.T) {
	type signature struct {
		sharps int
		minor  bool
		ok     bool
	}
	for key, want := range map[string]signature{
		"C major": {0, false, true}, "F# dorian": {4, false, true}, "Eb minor": {-6, true, true},
		"A harmonic minor": {0, true, true}, "Cb major": {-7, false, true}, "C# major": {7, false, true},
		"A minor pentatonic": {0, true, true}, "F lydian": {0, false, true}, "Bb major": {-2, false, true},
		"G# major": {0, false, false}, "C whole tone": {0, false, false}, "E phrygian dominant": {0, false, false},
		"C chromatic": {0, false, false}, "D 1 2 b3 4 5 6 b7": {0, false, true},
	} {
		sharps, minor, ok := mustKey(t, key).Signature()
		assert.Equal(t, want, signature{sharps, minor, ok}, key)
	}
}
