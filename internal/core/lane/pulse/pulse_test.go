package pulse_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
)

func perform(t *testing.T, fields, steps string) *render.Performance {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"D","scale":"dorian"},"clips":[{"id":"a","bars":1,"lanes":[{"id":"x","kind":"pulse"` + fields + `,"steps":[` + steps + `]}]}]}`))
	require.NoError(t, err)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	return performance
}

func notes(p *render.Performance) string {
	var out []string
	for i := range p.Lanes[0].Notes {
		n := &p.Lanes[0].Notes[i]
		at, length := p.Span(n, 960)
		out = append(out, fmt.Sprintf("%d %d %d", at, n.Pitch, length))
	}
	return strings.Join(out, ", ")
}

const on = `{"on":true}`

func TestAPulseByItsRules(t *testing.T) {
	four := `,"rate":"1/4"`
	for name, row := range map[string]struct{ fields, steps, want string }{
		"without a note it is the kick":         {four, on + ",{},{},{}", "0 36 720"},
		"a note is what it says":                {four + `,"note":61`, on + ",{},{},{}", "0 61 720"},
		"a pitch follows the key":               {four + `,"pitch":{"degree":5}`, on + ",{},{},{}", "0 57 720"},
		"and is locked to it":                   {four + `,"pitch":{"degree":5,"alter":1}`, on + ",{},{},{}", "0 57 720"},
		"without a lock an alteration stays":    {four + `,"lock":"off","pitch":{"degree":5,"alter":1}`, on + ",{},{},{}", "0 58 720"},
		"a tie to a hit runs on":                {four, `{"on":true,"tie":true},{"on":true,"gate":50},{},{}`, "0 36 1440"},
		"a tie to a rest runs on with its gate": {four, `{"on":true,"tie":true},{"gate":25},{},{}`, "0 36 1200"},
		"ratchets and nudges":                   {four, `{"on":true,"ratchet":2,"nudge":25},{},{},{}`, "240 36 360, 720 36 360"},
		"a hit cuts a long one":                 {four, `{"on":true,"gate":300},{},{"on":true},{}`, "0 36 1920, 1920 36 720"},
		"a restart begins again":                {`,"rate":"1/2D","restart":1`, on + "," + on, "0 36 2160, 2880 36 960"},
	} {
		assert.Equal(t, row.want, notes(perform(t, row.fields, row.steps)), name)
	}
}

func TestWhyAHitIsThere(t *testing.T) {
	p := perform(t, `,"note":42`, on)
	assert.Equal(t, "Step 1, round 1 is at tick 0; MIDI note 42 of the lane is F♯2; step 1 has velocity 100; gate 75 % of the step is 180 ticks.", p.Explain(&p.Lanes[0], &p.Lanes[0].Notes[0]))
	p = perform(t, `,"pitch":{"degree":3}`, on)
	assert.Contains(t, p.Explain(&p.Lanes[0], &p.Lanes[0].Notes[0]), "degree 3 of D dorian is F3")
}

func TestWhatIsRefused(t *testing.T) {
	for fields, message := range map[string]string{
		`,"note":128`:              "clips[0].lanes[0].note: 128 is above 127; allowed: 0..127",
		`,"note":36,"pitch":{}`:    "clips[0].lanes[0].pitch: is there beside note; allowed: one of them",
		`,"pitch":{"degree":8}`:    "clips[0].lanes[0].pitch.degree: 8 is above 7; allowed: 1..7, the degrees of C major (use octave to go higher)",
		`,"steps":[{"degree":2}]`:  "clips[0].lanes[0].steps[0].degree: is not a known field; allowed: on, velocity, gate, tie, chance, rounds, ratchet, nudge, skip",
		`,"glide":{"mode":"bend"}`: "clips[0].lanes[0].glide: is not a known field; allowed: id, name, kind, rate, direction, window, restart, octave, lock, snap, follow, roots, note, pitch, channel, mute, solo, starter, quiet, sound, modulators, odds, take, range, share, bypass, steps",
	} {
		_, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"lanes":[{"kind":"pulse"` + fields + `}]}]}`))
		assert.EqualError(t, err, message)
	}
}

func TestEditsOfARow(t *testing.T) {
	p := perform(t, `,"note":36,"channel":10`, on+",{},{},{}").Piece
	on := op.OnLane{Clip: "a", Lane: "x"}
	steps := op.OnSteps{Clip: "a", Lane: "x", Steps: []int{1}}
	content := func(p *piece.Piece) *piece.Pulse { return p.Clips[0].Lanes[0].Content.(*piece.Pulse) }
	apply := func(p *piece.Piece, args any) *piece.Piece {
		next, err := edit.Apply(p, []op.Op{op.Of(args)})
		require.NoError(t, err)
		return next
	}
	up := apply(p, op.TransposeSteps{OnSteps: steps, Unit: "octave", By: 1})
	assert.Equal(t, []int{48, 36}, []int{*content(up).Note, *content(p).Note}, "the row moves, whichever step is named")
	pitched := apply(p, op.SetLane{OnLane: on, Patch: json.RawMessage(`{"pitch":{"degree":5}}`)})
	assert.Nil(t, content(pitched).Note, "a pitch takes the note's place")
	assert.Equal(t, &pitch.Place{Degree: 6}, content(apply(pitched, op.TransposeSteps{OnSteps: steps, Unit: "degree", By: 1})).Pitch)
	assert.Equal(t, 42, *content(apply(pitched, op.SetLane{OnLane: on, Patch: json.RawMessage(`{"note":42}`)})).Note)
	major := apply(pitched, op.SetKey{Key: json.RawMessage(`{"tonic":"E","scale":"major"}`), Keep: "pitches"})
	assert.Equal(t, &pitch.Place{Degree: 4}, content(major).Pitch, "A is the fourth of E")
	_, err := edit.Apply(p, []op.Op{op.Of(op.FillPattern{OnSteps: steps, Tones: []string{"root"}})})
	assert.ErrorContains(t, err, "steps of pulse lanes have no pitch of their own")
	_, err = edit.Apply(p, []op.Op{op.Of(op.TransposeSteps{OnSteps: steps, Unit: "octave", By: 9})})
	assert.ErrorContains(t, err, "clips[0].lanes[0].note: 144 is out of reach; allowed: 0..127")
}

func TestADrumIsOfferedItsChannel(t *testing.T) {
	p := perform(t, `,"name":"Kick"`, on)
	found := review.Clip(p)
	require.Len(t, found, 1)
	assert.Equal(t, "Kick is a drum on channel 1; most instruments keep their drums on channel 10.", found[0].Message)
	next, err := edit.Apply(p.Piece, found[0].Mend.Ops)
	require.NoError(t, err)
	assert.Equal(t, 10, next.Clips[0].Lanes[0].Channel)
	assert.Empty(t, review.Clip(perform(t, `,"note":90`, on)), "not a drum")
}

func TestDrumsStandAtTheirUsualNotes(t *testing.T) {
	for name, note := range map[string]int{"Kick": 36, "Snare": 38, "Rim": 37, "Clap": 39, "Closed hat": 42, "Open hat": 46, "Tom": 45, "Cymbal": 49, "Click": 33} {
		own, ok := midi.DrumOf(note)
		assert.True(t, ok && own.Name == name, name)
	}
	key, err := pitch.ParseKey("D dorian")
	require.NoError(t, err)
	row := piece.NewLane("pulse", "x", "X")
	assert.Equal(t, "Kick", lane.Of(&row).Ladder(&row, key, nil)[0].Name)
	row.Sound.Voice = "pluck"
	assert.Equal(t, "C2", lane.Of(&row).Ladder(&row, key, nil)[0].Name, "a note that no drum is heard for")
}
