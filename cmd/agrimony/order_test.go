package main

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/smf"
	"agrimony/internal/demo"
)

func TestTheOrderFromTheCommandLine(t *testing.T) {
	piece := string(demo.Document())
	out, problems, status := run(t, piece, "render", "-", "--order")
	require.Equal(t, 0, status, problems)
	file, err := smf.Decode([]byte(out), nil)
	require.NoError(t, err)
	assert.Equal(t, "Lantern Regatta", file.Tracks[0].Name)
	assert.Equal(t, "Keel · Low", file.Tracks[1].Name)
	back, problems, status := run(t, out, "import", "-", "--report")
	require.Equal(t, 0, status, problems)
	var report struct{ Own bool }
	require.NoError(t, json.Unmarshal([]byte(back), &report))
	assert.True(t, report.Own, "the whole piece is in the file")

	out, problems, status = run(t, piece, "events", "-", "--order", "--from", "15360", "--to", "46080")
	require.Equal(t, 0, status, problems)
	var events struct {
		Ticks int
		Bars  string
		Notes []struct {
			Clip, Lane      string
			Entry, Pass, At int
		}
		Harmony []struct{ Clip string }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &events))
	assert.Equal(t, []any{30720, "8", "quay", 2, 2, 0}, []any{events.Ticks, events.Bars, events.Notes[0].Clip, events.Notes[0].Entry, events.Notes[0].Pass, events.Notes[0].At})
	assert.Equal(t, "quay", events.Harmony[0].Clip)
	assert.NotContains(t, out, `"cycle"`)

	for _, row := range []struct {
		input  string
		args   []string
		status int
		words  string
	}{
		{piece, []string{"--order", "--clip", "keel"}, 2, "--clip is given with --order"},
		{piece, []string{"--order", "--bars", "4"}, 2, "--bars is given with --order"},
		{piece, []string{"--order", "--until", "cycle"}, 2, "--until is given with --order"},
		{piece, []string{"--clip", "keel", "--from", "4"}, 2, "--from is given without --order"},
		{piece, []string{"--order", "--from", "960", "--to", "960"}, 2, "to: 960 is not after 960"},
		{piece, []string{"--order", "--from", "99999999"}, 1, "from: 99999999 is not in the order"},
		{piece[:strings.LastIndex(piece, `"order": {`)] + `"order":{}}`, []string{"--order"}, 1, "the running order has no entries"},
		{strings.Replace(piece, `{"clip": "quay", "at": 0,`, `{"clip": "nowhere", "at": 0,`, 1), []string{"--order"}, 1, `order.entries[0].clip: no clip "nowhere" in the piece`},
		{strings.Replace(piece, `"mute": ["knock"]`, `"mute": ["bang"]`, 1), []string{"--order"}, 1, `order.entries[0].mute[0]: no lane "bang" in clip "quay"`},
		{strings.Replace(piece, `"clip": "quay", "at": 15360,`, `"clip": "quay", "at": 15359,`, 1), []string{"--order"}, 1, "order.entries[1]: overlaps order.entries[0]"},
	} {
		for _, command := range []string{"render", "events"} {
			_, problems, status := run(t, row.input, append([]string{command, "-"}, row.args...)...)
			assert.Equal(t, row.status, status, "%v %s", row.args, problems)
			assert.Contains(t, problems, row.words)
		}
	}
}
