package edit_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/compare"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// stacked is a clip with luck in it, and another.
func stacked(t *testing.T) *piece.Piece {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"D","scale":"dorian"},"clips":[
		{"id":"keel","name":"Keel","bars":2,"lanes":[
			{"id":"low","name":"Low","octave":2,"steps":[{"on":true,"chance":50},{"on":true,"degree":3,"chance":50},{"on":true,"degree":5},{}]},
			{"id":"hat","name":"Hat","kind":"pulse","note":42,"rate":"1/8","steps":[{"on":true},{"on":true,"chance":40},{}]}]},
		{"id":"weir","bars":1,"lanes":[{"id":"x","steps":[{"on":true}]}]}]}`))
	require.NoError(t, err)
	return p
}

// sounds are the notes of a clip.
func sounds(t *testing.T, p *piece.Piece, id string) (out []string) {
	clip, err := p.Clip(id)
	require.NoError(t, err)
	performance, err := lane.Render(p, clip, render.Options{})
	require.NoError(t, err)
	for _, n := range performance.Events().Notes {
		out = append(out, fmt.Sprint(n.Lane, " ", n.At, " ", n.Length, " ", n.Pitch))
	}
	return out
}

func clipsOf(p *piece.Piece) (out []string) {
	for i := range p.Clips {
		c := &p.Clips[i]
		out = append(out, c.ID+"<"+c.Of+"~"+c.Draws)
	}
	return out
}

// A variant is a copy with the same luck, which it keeps whatever becomes of the others.
func TestAVariantKeepsItsLuck(t *testing.T) {
	p := stacked(t)
	next := made(t, p, `{"op":"clip.variant","clip":"keel"}`, `{"op":"clip.variant","clip":"keel-2","name":"Third"}`)
	assert.Equal(t, []string{"keel<~", "keel-2<keel~keel", "third<keel~keel", "weir<~"}, clipsOf(next), "variants stand after one another, none of a variant")
	for _, id := range []string{"keel-2", "third"} {
		assert.Equal(t, sounds(t, p, "keel"), sounds(t, next, id), id)
	}
	other := made(t, next, `{"op":"clip.copy","clip":"keel"}`)
	assert.NotEqual(t, sounds(t, next, "keel"), sounds(t, other, other.Clips[1].ID), "a copy has luck of its own")

	gone := made(t, next, `{"op":"clip.remove","clip":"keel"}`)
	assert.Equal(t, []string{"keel-2<~keel", "third<keel-2~keel", "weir<~"}, clipsOf(gone), "the first of them is the one that the rest are of")
	assert.Equal(t, sounds(t, next, "third"), sounds(t, gone, "third"))
	apart := made(t, next, `{"op":"clip.apart","clip":"third"}`)
	assert.Equal(t, []string{"keel<~", "keel-2<~keel", "third<~keel", "weir<~"}, clipsOf(apart))
	assert.Equal(t, sounds(t, next, "third"), sounds(t, apart, "third"))
}

func TestVariantsOfNothingAreRefused(t *testing.T) {
	for of, message := range map[string]string{
		`"of":"no"`:  `clips[1].of: no clip "no" in the piece; allowed: another clip's id`,
		`"of":"b"`:   "clips[1].of: names the clip itself",
		`"of":"c"`:   `clips[1].of: "c" is a variant of "a" itself; allowed: a clip that is none`,
		`"draws":""`: "draws",
	} {
		_, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a"},{"id":"b",` + of + `},{"id":"c","of":"a"}]}`))
		assert.ErrorContains(t, err, message, of)
	}
}

// Any difference goes from one to another by one act.
func TestDifferencesAreTakenAcross(t *testing.T) {
	p := made(t, stacked(t), `{"op":"clip.variant","clip":"keel"}`,
		`{"op":"lane.set","clip":"keel-2","lane":"low","patch":{"direction":"reverse","octave":3}}`,
		`{"op":"steps.set","clip":"keel-2","lane":"hat","steps":[1],"patch":{"velocity":30}}`,
		`{"op":"lane.add","clip":"keel-2","kind":"line","name":"New"}`)
	differ := func(p *piece.Piece) (out []string) {
		for _, w := range compare.Words(&p.Clips[0], &p.Clips[1]) {
			out = append(out, w.Text)
		}
		return out
	}
	assert.Equal(t, []string{"Low: plays backwards", "Low: octave 3 instead of 2", "Hat: 1 step otherwise", "New: is new"}, differ(p))
	for _, row := range []struct {
		take string
		left []string
	}{
		{`"lane":"low","path":"direction"`, []string{"Low: octave 3 instead of 2", "Hat: 1 step otherwise", "New: is new"}},
		{`"lane":"low"`, []string{"Hat: 1 step otherwise", "New: is new"}},
		{`"lane":"hat","path":"steps"`, []string{"Low: plays backwards", "Low: octave 3 instead of 2", "New: is new"}},
		{`"lane":"hat","path":"steps[0].velocity"`, []string{"Low: plays backwards", "Low: octave 3 instead of 2", "New: is new"}},
		{`"lane":"new"`, []string{"Low: plays backwards", "Low: octave 3 instead of 2", "Hat: 1 step otherwise"}},
	} {
		next := made(t, p, `{"op":"clip.take","clip":"keel","from":"keel-2",`+row.take+`}`)
		assert.Equal(t, row.left, differ(next), row.take)
	}
	for take, message := range map[string]string{
		`"from":"keel","lane":"low"`:                          "is the clip itself",
		`"from":"keel-2"`:                                     "nothing is named",
		`"from":"keel-2","lane":"zz"`:                         `no lane "zz" is in either clip`,
		`"from":"keel-2","lane":"low","bars":[3]`:             "there is no bar 3; allowed: 1..2",
		`"from":"keel-2","lane":"low","path":"steps[9].gate"`: "there is no 9 in both",
		`"from":"keel-2","path":"lanes"`:                      "is no setting",
	} {
		_, err := try(p, `{"op":"clip.take","clip":"keel",`+take+`}`)
		assert.ErrorContains(t, err, message, take)
	}
}

// A bar that is taken across sounds as it did there, and the others as they did here.
func TestABarIsTakenAcross(t *testing.T) {
	p := made(t, stacked(t), `{"op":"steps.set","clip":"keel","lane":"low","steps":[1,2],"patch":{"chance":100}}`, `{"op":"steps.set","clip":"keel","lane":"hat","steps":[2],"patch":{"chance":100}}`,
		`{"op":"clip.variant","clip":"keel"}`, `{"op":"lane.set","clip":"keel-2","lane":"low","patch":{"direction":"reverse"}}`,
		`{"op":"steps.transpose","clip":"keel-2","lane":"low","steps":[1,2,3],"by":2,"unit":"degree"}`)
	bar := func(p *piece.Piece, id string, bar int) (out []string) {
		for _, s := range sounds(t, p, id) {
			var l string
			var at int
			_, err := fmt.Sscan(s, &l, &at)
			require.NoError(t, err)
			if at/3840 == bar {
				out = append(out, s)
			}
		}
		return out
	}
	next := made(t, p, `{"op":"clip.take","clip":"keel","from":"keel-2","bars":[2]}`)
	assert.Equal(t, bar(p, "keel", 0), bar(next, "keel", 0))
	assert.Equal(t, bar(p, "keel-2", 1), bar(next, "keel", 1))
	assert.NotEqual(t, bar(p, "keel", 1), bar(next, "keel", 1))
}
