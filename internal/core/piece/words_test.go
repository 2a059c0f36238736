package piece

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestFaultsInWords(t *testing.T) {
	p, err := Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"keel","name":"Keel","lanes":[{"id":"low","name":"Low","steps":[{}]}]}]}`))
	require.NoError(t, err)
	for _, row := range []struct{ path, problem, words string }{
		{"clips[0].lanes[0].steps[3].gate", "0 is below 1", "Low, step 4, gate: 0 is below 1."},
		{"clips[0].lanes[0].steps[0].octave", "5 is out of reach; allowed: -4..4", "Low, step 1, octave: 5 is out of reach; allowed: -4 to 4."},
		{"clips[0].lanes[0].window.start", "9 is above 8", "Low, window, start: 9 is above 8."},
		{"clips[0].lanes[0].modulators[1].from", "is missing", "Low, modulator 2, from: is missing."},
		{"clips[0].bars", "0 is below 1", "Keel, bars: 0 is below 1."},
		{"clips[4].lanes[9].name", "is too long", "Name: is too long."},
		{"ops[0].hits", "5 hits over 3 steps; allowed: 0..3", "Hits: 5 hits over 3 steps; allowed: 0 to 3."},
		{"ops[2].patch.meter", `"4/3" is not a meter; allowed: N/D`, `Meter: "4/3" is not a meter; allowed: N/D.`},
		{"ops[0].lane", "Low sounds no note; allowed: a lane that does", "Low sounds no note; allowed: a lane that does."},
		{"order.entries[1]", "overlaps order.entries[3], of the same clip; allowed: entries of one clip one after another", "Entry 2: overlaps entry 4, of the same clip; allowed: entries of one clip one after another."},
		{"clips[0].lanes[1].id", `"low" is the id of clips[0].lanes[0] already`, `Id: "low" is the id of Low already.`},
		{"clips[0].lanes[0].order", "is no order", "Low, order: is no order."},
		{"", "the document has 1 bytes too many", "The document has 1 bytes too many."},
	} {
		assert.Equal(t, row.words, InWords(p, &Fault{Path: row.path, Problem: row.problem}))
	}
}

// Whatever is wrong with a document, a screen says it without its path.
func TestNoPathIsSaid(t *testing.T) {
	p := Default()
	rapid.Check(t, func(rt *rapid.T) {
		path := rapid.StringMatching(`(ops\[\d\]\.|clips\[\d\]\.)?(lanes\[\d\]\.)?((steps|tones|odds|values)\[\d{1,3}\]\.)?[a-z]{1,9}`).Draw(rt, "path")
		other := rapid.StringMatching(`(order\.entries|clips)\[\d\](\.lanes\[\d\])?(\.steps\[\d{1,3}\])?`).Draw(rt, "other")
		said := InWords(p, &Fault{Path: path, Problem: "is out of range, as is " + other + "; allowed: 1..16"})
		assert.NotContains(rt, said, "[")
		assert.NotContains(rt, said, "..")
		assert.NotEmpty(rt, said)
	})
}
