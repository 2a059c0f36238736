package files_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/edit"
	"agrimony/internal/core/files"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
	"agrimony/internal/core/starter"
	"agrimony/internal/demo"
)

// tally counts, of pieces with a known key, those whose key is among the first two offered.
type tally struct{ hits, of int }

func (c *tally) take(t *testing.T, p *piece.Piece, clip *piece.Clip, name string) {
	performance, err := lane.Render(p, clip, render.Options{Bars: 8, Events: 200_000})
	require.NoError(t, err, name)
	data, err := smf.Encode(performance, smf.Options{Type: 1})
	require.NoError(t, err, name)
	file, err := files.Open(data, nil)
	if err != nil {
		return // a starter that sounds nothing by itself
	}
	want := p.KeyOf(clip)
	if !tells(file, want) {
		return
	}
	c.of++
	var all []files.Choice
	for i := range file.Song.Parts {
		all = append(all, files.Choice{Part: i})
	}
	for _, offered := range file.Keys(all)[:2] {
		if got := offered.Key; got.Tonic.Semitones() == want.Tonic.Semitones() && sameNotes(got, want) {
			c.hits++
			return
		}
	}
}

// tells tells whether a file says what key it is in: nearly all notes of it sound.
func tells(file *files.File, key pitch.Key) bool {
	heard := map[int]bool{}
	for _, part := range file.Song.Parts {
		for _, n := range part.Notes {
			heard[n.Pitch%12] = true
		}
	}
	missing := 0
	for class := range 12 {
		if key.Has(class) && !heard[class] {
			missing++
		}
	}
	return missing <= 1
}

// severalPitches tells whether a starter says anything of a key: it has more than one pitch.
func severalPitches(own *piece.Starter) bool {
	return piece.PitchedOf(&own.Lane) != nil && own.Lane.Kind != "pulse"
}

func sameNotes(a, b pitch.Key) bool {
	for class := range 12 {
		if a.Has(class) != b.Has(class) {
			return false
		}
	}
	return true
}

var (
	tonics = []string{"C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B"}
	scales = []string{"major", "natural minor", "harmonic minor", "dorian", "phrygian", "lydian", "mixolydian"}
)

// The key that a trained listener would name is the first or second offered for at least nine of
// ten: of progressions in every key, of the starters that walk whole scales, of the demo.
func TestTheKeyIsAmongTheFirstTwoOffered(t *testing.T) {
	var progressions, starters, demos tally
	build := func(key string, ops ...any) (*piece.Piece, error) {
		p := piece.Default()
		edits := []op.Op{op.Of(op.SetPiece{Patch: json.RawMessage(`{"key":` + key + `}`)}), op.Of(op.AddClip{Name: "a"})}
		for _, o := range ops {
			edits = append(edits, op.Of(o))
		}
		return edit.Apply(p, edits)
	}
	on := op.OnClip{Clip: "a"}
	for _, scale := range scales {
		for _, tonic := range tonics {
			key := `{"tonic":"` + tonic + `","scale":"` + scale + `"}`
			resolved, err := pitch.ParseKey(tonic + " " + scale)
			require.NoError(t, err)
			for _, progression := range chord.Bank {
				p, err := build(key, op.AddLane{OnClip: on, Kind: "chords", Name: "tide", Patch: json.RawMessage(`{"rate":"1bar"}`)},
					op.WriteChords{OnLane: op.OnLane{Clip: "a", Lane: "tide"}, Text: progression.Numerals(resolved)},
					op.MakeBass{OnClip: on, Of: "root", Octave: 2, Rate: "1/4", Rhythm: "every", Every: 1, Approach: "none"})
				require.NoError(t, err, progression.Name)
				progressions.take(t, p, &p.Clips[0], progression.Name)
			}
		}
	}
	for _, tonic := range tonics {
		for _, scale := range []string{"major", "natural minor", "dorian"} {
			for _, own := range starter.BuiltIn() {
				if own.Lane.Sound.Voice == "kit" || !severalPitches(own) {
					continue
				}
				p, err := build(`{"tonic":"`+tonic+`","scale":"`+scale+`"}`, op.StartLane{Clip: "a", Starter: piece.WriteStarter(own)})
				if err == nil {
					starters.take(t, p, &p.Clips[0], own.Name)
				}
			}
		}
	}
	p, err := demo.Piece()
	require.NoError(t, err)
	for i := range p.Clips {
		demos.take(t, p, &p.Clips[i], p.Clips[i].Name)
	}
	t.Logf("of progressions %v, of starters %v, of the demo %v", progressions, starters, demos)
	all := tally{progressions.hits + starters.hits + demos.hits, progressions.of + starters.of + demos.of}
	assert.Greater(t, all.of, 1000)
	assert.GreaterOrEqual(t, 10*all.hits, 9*all.of, "%d of %d", all.hits, all.of)
}
