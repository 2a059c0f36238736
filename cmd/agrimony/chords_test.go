package main

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestChordCommandsSpeakJSON(t *testing.T) {
	for _, row := range []struct {
		args []string
		want string
	}{
		{[]string{"chord", "F#m7b5/A", "--json"}, `{"symbol":"F#m7b5/A","root":"F#","bass":"A","notes":["A","F#","C","E"],"intervals":["1","b3","b5","b7"]}`},
		{[]string{"chord", "C13", "--json"}, `{"symbol":"C13","root":"C","bass":"C","notes":["C","E","G","Bb","D","A"],"intervals":["1","3","5","b7","9","13"]}`},
		{[]string{"name", "A C E G", "--key", "C major", "--json"}, `{"symbol":"Am7","numeral":"vi7","root":"A","others":["C6/A"]}`},
		{[]string{"name", "E", "G", "C", "--json"}, `{"symbol":"C/E","numeral":"","root":"C","others":[]}`},
		{[]string{"progression", "I IV", "--key", "C major", "--octave", "4", "--json"},
			`{"chords":[{"numeral":"I","symbol":"C","notes":["C","E","G"],"pitches":[60,64,67]},{"numeral":"IV","symbol":"F","notes":["F","A","C"],"pitches":[65,69,72]}],"movement":26}`},
		{[]string{"progression", "I IV", "--key", "C major", "--octave", "4", "--smooth", "--low", "55", "--high", "76", "--json"},
			`{"chords":[{"numeral":"I","symbol":"C","notes":["C","E","G"],"pitches":[60,64,67]},{"numeral":"IV","symbol":"F","notes":["C","F","A"],"pitches":[60,65,69]}],"movement":6}`},
		{[]string{"progression", "i VI V7/ii F#m7", "--key", "A natural minor", "--json"}, ""},
	} {
		stdout, stderr, status := run(t, "", row.args...)
		require.Zero(t, status, stderr)
		if row.want != "" {
			assert.JSONEq(t, row.want, stdout, row.args)
		}
	}
}

func TestAProgressionIsToldInWords(t *testing.T) {
	stdout, _, status := run(t, "", "progression", "i VI V7/ii F#m7", "--key", "A natural minor", "--octave", "3", "--json")
	require.Zero(t, status)
	var line struct {
		Chords []struct {
			Numeral, Symbol string
			Pitches         []int
		}
	}
	require.NoError(t, json.Unmarshal([]byte(stdout), &line))
	require.Len(t, line.Chords, 4)
	assert.Equal(t, []int{57, 60, 64}, line.Chords[0].Pitches)
	assert.Equal(t, []string{"F", "F#7", "F#m7"}, []string{line.Chords[1].Symbol, line.Chords[2].Symbol, line.Chords[3].Symbol}, "the second degree of A minor is B, whose dominant is F♯7")
	text, _, _ := run(t, "", "chord", "Am7")
	assert.Equal(t, "Am7: A C E G (1 b3 5 b7)\n", text)
}

func TestMistakesInChordsSayTheWordAndItsPlace(t *testing.T) {
	for _, row := range []struct {
		args    []string
		message string
		status  int
	}{
		{[]string{"progression", "i VI Hm7", "--key", "A natural minor"}, `word 3: "Hm7" is not a chord: there is no note H`, 1},
		{[]string{"chord", "Hm7"}, `word 1: "Hm7" is not a chord: there is no note H`, 1},
		{[]string{"name", "A X"}, "word 2", 1},
		{[]string{"progression", "i", "--key", "A nothing"}, "nothing", 1},
		{[]string{"progression", "i", "--key", "A natural minor", "--smooth", "--low", "60", "--high", "65"}, "60..65 is not a range for voices", 2},
	} {
		stdout, stderr, status := run(t, "", row.args...)
		assert.Equal(t, row.status, status, row.args)
		assert.Empty(t, stdout)
		assert.Contains(t, stderr, row.message, row.args)
	}
}

func TestEventsTellTheHarmony(t *testing.T) {
	stdout, stderr, status := run(t, `{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":2,"lanes":[{"id":"c","kind":"chords","rate":"1/2","octave":4,
		"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":2},{"degree":4},{"degree":6}]}],"steps":[{},{"on":true,"chord":2},{"on":true},{}]}]}]}`, "events", "-", "--clip", "a")
	require.Zero(t, status, stderr)
	var events struct{ Harmony json.RawMessage }
	require.NoError(t, json.Unmarshal([]byte(stdout), &events))
	assert.JSONEq(t, `[{"at":0,"symbol":"C","numeral":"I","root":"C","pitches":[60,64,67]},{"at":1920,"symbol":"Dm","numeral":"ii","root":"D","pitches":[62,65,69]},
		{"at":3840,"symbol":"C","numeral":"I","root":"C","pitches":[60,64,67]}]`, string(events.Harmony))
}
