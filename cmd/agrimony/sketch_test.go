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

func TestSketchingFromTheCommandLine(t *testing.T) {
	folder := t.TempDir()
	file := func(name, text string) string {
		path := filepath.Join(folder, name)
		require.NoError(t, os.WriteFile(path, []byte(text), 0o600))
		return path
	}
	sample := file("piece.json", `{"format":"agrimony-piece","version":1,"key":{"tonic":"D","scale":"dorian"},"clips":[{"id":"keel","bars":1,"lanes":[{"id":"low","name":"Low","octave":2,"steps":[{"on":true,"skip":false},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{}]}]},
		{"id":"other","of":"keel","bars":1,"lanes":[{"id":"low","name":"Low","octave":2,"direction":"reverse","steps":[{"on":true},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{}]}]}]}`)
	request := file("request.json", `{"seed":5,"count":3,"dials":{"full":50}}`)
	out, problem, code := run(t, "", "sketch", sample, "--clip", "keel", "--lane", "low", "--request", request)
	require.Zero(t, code, problem)
	var made struct {
		Sketches []struct {
			Seed    int
			Dials   map[string]any
			Steps   []json.RawMessage
			Differs int
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &made))
	require.Len(t, made.Sketches, 3)
	first := made.Sketches[0]
	assert.Equal(t, []any{5, 16, 50.0}, []any{first.Seed, len(first.Steps), first.Dials["full"]})
	assert.Positive(t, first.Differs)

	path := filepath.Join(folder, "taken.json")
	_, problem, code = run(t, "", "sketch", sample, "--clip", "keel", "--lane", "low", "--request", request, "--take", "2", "--out", path)
	require.Zero(t, code, problem)
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	p, err := piece.Read(data)
	require.NoError(t, err)
	steps := piece.LineOf(&p.Clips[0].Lanes[0]).Steps
	for i := range steps {
		assert.JSONEq(t, string(made.Sketches[1].Steps[i]), string(piece.WriteLineStep(&steps[i])))
	}

	out, _, code = run(t, "", "sketch", "--tempers")
	require.Zero(t, code)
	var tempers struct {
		Tempers []struct {
			Name  string
			Dials map[string]any
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &tempers))
	assert.GreaterOrEqual(t, len(tempers.Tempers), 10)

	vary := file("vary.json", `{"seed":1,"count":2,"share":50,"respect":"dynamics"}`)
	out, problem, code = run(t, "", "vary", path, "--clip", "keel", "--lane", "low", "--request", vary)
	require.Zero(t, code, problem)
	require.NoError(t, json.Unmarshal([]byte(out), &made))
	assert.Len(t, made.Sketches, 2)
	assert.Equal(t, 4, made.Sketches[0].Differs, "half of eight")

	out, problem, code = run(t, "", "compare", sample, "--clip", "keel", "--with", "other")
	require.Zero(t, code, problem)
	assert.Contains(t, out, `{"path":"lanes[low].direction","from":"forward","to":"reverse"}`)
	assert.Contains(t, out, `"change":"moved"`)

	for _, row := range []struct {
		args    []string
		message string
		code    int
	}{
		{[]string{"sketch", sample, "--clip", "keel", "--lane", "low"}, "--request is missing", 2},
		{[]string{"sketch", sample, "--clip", "no", "--lane", "low", "--request", request}, `"no"`, 1},
		{[]string{"sketch", sample, "--clip", "keel", "--lane", "no", "--request", request}, `no lane "no" in clip "keel"`, 1},
		{[]string{"sketch", sample, "--clip", "keel", "--lane", "low", "--request", request, "--take", "4"}, "--take: 4 is out of range; allowed: 1..3", 1},
		{[]string{"sketch", sample, "--clip", "keel", "--lane", "low", "--request", vary}, "unknown field", 1},
		{[]string{"vary", sample, "--clip", "keel", "--lane", "low", "--request", vary}, "has no step to vary", 1},
		{[]string{"compare", sample, "--clip", "keel"}, "--with is missing", 2},
		{[]string{"compare", sample, "--clip", "keel", "--with", "other", "--bars", "2000"}, "allowed: 1..1024", 1},
	} {
		_, problem, code := run(t, "", row.args...)
		assert.Equal(t, row.code, code, row.args)
		assert.Contains(t, problem, row.message, row.args)
	}
}
