package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
)

// A rendered file comes back as its document; plainly it comes in as what its notes become.
func TestAFileComesBackOrComesIn(t *testing.T) {
	folder := t.TempDir()
	midi, out := filepath.Join(folder, "keel.mid"), filepath.Join(folder, "back.json")
	_, problems, status := run(t, sample, "render", "-", "--clip", "keel", "--bars", "2", "--out", midi)
	require.Equal(t, 0, status, problems)
	_, problems, status = run(t, "", "import", midi, "--out", out)
	require.Equal(t, 0, status, problems)
	text, err := os.ReadFile(out)
	require.NoError(t, err)
	was, err := piece.Read([]byte(sample))
	require.NoError(t, err)
	assert.Equal(t, string(piece.Write(was)), string(text), "every field")

	plain, problems, status := run(t, "", "import", midi, "--plain", "--as", "notes", "--key", "C minor", "--tracks", "2")
	require.Equal(t, 0, status, problems)
	p, err := piece.Read([]byte(plain))
	require.NoError(t, err)
	require.Len(t, p.Clips[0].Lanes, 1)
	assert.Equal(t, []string{"notes", "high"}, []string{p.Clips[0].Lanes[0].Kind, p.Clips[0].Lanes[0].Name})
	assert.Equal(t, "C natural minor", p.KeyOf(&p.Clips[0]).String())

	printed, problems, status := run(t, "", "import", midi, "--report")
	require.Equal(t, 0, status, problems)
	var report map[string]any
	require.NoError(t, json.Unmarshal([]byte(printed), &report))
	for _, name := range []string{"type", "ppq", "tempo", "tempoChanges", "meter", "meterChanges", "bars", "keys", "tracks", "own", "changed"} {
		assert.Contains(t, report, name)
	}
	assert.Equal(t, true, report["own"])
	assert.Len(t, report["keys"], 3)
	track := report["tracks"].([]any)[0].(map[string]any)
	for _, name := range []string{"track", "name", "channels", "notes", "low", "high", "voices", "grid", "becomes", "left", "differs"} {
		assert.Contains(t, track, name)
	}
	_, problems, status = run(t, sample, "render", "-", "--clip", "keel", "--plain", "--bars", "2", "--out", midi)
	require.Equal(t, 0, status, problems)
	_, problems, status = run(t, "", "import", midi, "--as-was")
	assert.Equal(t, 1, status)
	assert.Contains(t, problems, "it holds no document of Agrimony's own")
}

func TestWhatImportRefuses(t *testing.T) {
	for input, want := range map[string]string{
		"":     "byte 0: the file ends within the header",
		"RIFF": "byte 0: this is not a Standard MIDI File",
		"MThd\x00\x00\x00\x06\x00\x01\xff\xff\x01\xe0":                                     "the file ends within a chunk",
		"MThd\x00\x00\x00\x06\x00\x01\x00\x01\x01\xe0MTrk\x00\x00\x00\x04\x00\xff\x2f\x00": "sounds no note",
		"MThd\x00\x00\x00\x06\x00\x01\x00\x01\x01\xe0MTrk\x00\x0f\x00\x04\x00\xff\x2f\x00": "byte 14: a chunk claims 983044 bytes, but only 4 are left",
	} {
		out, problems, status := run(t, input, "import", "-")
		assert.Equal(t, []any{1, ""}, []any{status, out})
		assert.Contains(t, problems, want)
		assert.Len(t, []rune(problems)[len([]rune(problems))-1:], 1)
	}
	for _, flags := range [][]string{{"--as", "song"}, {"--only", "middle"}, {"--plain", "--as-was"}, {"--key", "H moll"}} {
		_, _, status := run(t, "", append([]string{"import", os.DevNull}, flags...)...)
		assert.NotZero(t, status, flags)
	}
}

// Edits are made all or none; what is refused is said with its number.
func TestEditsFromTheCommandLine(t *testing.T) {
	folder := t.TempDir()
	file, edits, out := filepath.Join(folder, "p.json"), filepath.Join(folder, "e.json"), filepath.Join(folder, "out.json")
	require.NoError(t, os.WriteFile(file, []byte(sample), 0o644))
	write := func(text string) { require.NoError(t, os.WriteFile(edits, []byte(text), 0o644)) }
	write(`[{"op":"steps.set","clip":"keel","lane":"low","steps":[1],"patch":{"degree":5}},{"op":"lane.print","clip":"keel","lanes":["low"],"bars":1},
		{"op":"notes.move","clip":"keel","lane":"low-notes","notes":[1],"later":60}]`)
	text, problems, status := run(t, "", "edit", file, edits)
	require.Equal(t, 0, status, problems)
	p, err := piece.Read([]byte(text))
	require.NoError(t, err)
	require.Len(t, p.Clips[0].Lanes, 3)
	assert.Equal(t, 60, p.Clips[0].Lanes[2].Content.(*piece.Notes).Notes[0].At)
	assert.Contains(t, text, `"number"`, "an edit that moves notes writes their numbers out")

	for list, want := range map[string]string{
		`[{"op":"steps.set","clip":"keel","lane":"low","steps":[1],"patch":{}},{"op":"steps.set","clip":"keel","lane":"low","steps":[99],"patch":{}}]`: "edit 2: steps: there is no step 99",
		`[{"op":"sing"}]`: `edit 1: op: "sing" is not allowed`,
		`{}`:              "is no list of edits",
		`[]`:              "0 items; allowed: 1..1000",
	} {
		write(list)
		_, problems, status := run(t, "", "edit", file, edits, "--out", out)
		assert.Equal(t, 1, status, list)
		assert.Contains(t, problems, want)
		assert.NoFileExists(t, out, "nothing is written unless all are accepted")
	}
}
