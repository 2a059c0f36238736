package edit

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
)

// ordered is a piece of two clips of a bar whose entries are given as clip, bar and bars.
func ordered(t *testing.T, entries ...string) *piece.Piece {
	var all []string
	for _, e := range entries {
		var clip string
		var bar, bars int
		_, err := fmt.Sscanf(e, "%s %d %d", &clip, &bar, &bars)
		require.NoError(t, err)
		all = append(all, fmt.Sprintf(`{"clip":%q,"at":%d,"for":%d}`, clip, (bar-1)*3840, bars*3840))
	}
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"keel","name":"Keel","bars":1,"lanes":[]},{"id":"weir","name":"Weir","bars":1,"lanes":[]}],"order":{"entries":[` + strings.Join(all, ",") + `]}}`))
	require.NoError(t, err)
	return p
}

func entriesOf(p *piece.Piece) (out []string) {
	for _, e := range p.Order.Entries {
		out = append(out, fmt.Sprintf("%s %d %d", e.Clip, e.At/3840+1, e.For/3840))
	}
	return out
}

func TestEntriesAreCopiedAfterThemselves(t *testing.T) {
	for name, row := range map[string]struct {
		of    []string
		which []int
		want  []string
		said  string
	}{
		"one":                 {[]string{"keel 1 2"}, []int{1}, []string{"keel 1 2", "keel 3 2"}, ""},
		"two that follow":     {[]string{"keel 1 2", "weir 3 1"}, []int{1, 2}, []string{"keel 1 2", "weir 3 1", "keel 4 2", "weir 6 1"}, ""},
		"beside another clip": {[]string{"keel 1 2", "weir 3 4"}, []int{1}, []string{"keel 1 2", "keel 3 2", "weir 3 4"}, ""},
		"into a gap that is too short": {
			[]string{"keel 1 2", "weir 2 4", "keel 4 1", "weir 6 1"}, []int{1}, []string{"keel 1 2", "weir 2 4", "keel 3 2", "keel 5 1", "weir 7 1"},
			"Entry: the copy of Keel lasts 2 bars, and there is room for 1 bar before it comes again; allowed: as much as there is room for.",
		},
	} {
		p := ordered(t, row.of...)
		next, err := Apply(p, []op.Op{op.Of(op.CopyEntries{Entries: row.which})})
		if row.said != "" {
			var asks *change.AskError
			require.True(t, errors.As(err, &asks), "%s: %v", name, err)
			assert.Contains(t, piece.InWords(p, asks.Fault), row.said[len("Entry: "):], name)
			assert.Equal(t, "Move what follows 1 bar later", asks.Mends[0].Label)
			next, err = Apply(p, asks.Mends[0].Ops)
		}
		require.NoError(t, err, name)
		assert.Equal(t, row.want, entriesOf(next), name)
	}
}
