package piece_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/document"
	"agrimony/internal/core/piece"
	"agrimony/internal/since"
)

func notesDoc(rest string) string {
	return `{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":2,"lanes":[{"id":"drift","kind":"notes",` + rest + `}]}]}`
}

func readNotes(t testing.TB, rest string) *piece.Notes {
	p, err := piece.Read([]byte(notesDoc(rest)))
	require.NoError(t, err)
	return p.Clips[0].Lanes[0].Content.(*piece.Notes)
}

func TestNumbersOfFreeNotes(t *testing.T) {
	for name, c := range map[string]struct {
		notes   string
		numbers []int
		told    bool
	}{
		"none is given: in the order of writing":           {`{"at":0,"length":1},{"at":5,"length":1}`, []int{1, 2}, false},
		"the lowest that are free, those given left alone": {`{"at":0,"length":1},{"at":1,"length":1,"number":1},{"at":2,"length":1}`, []int{2, 1, 3}, true},
		"they stay with notes that are put in order":       {`{"at":9,"length":1},{"at":0,"length":1}`, []int{2, 1}, true},
		"of notes at once the document's order stays":      {`{"at":0,"length":1,"number":7},{"at":0,"length":1,"number":3}`, []int{7, 3}, true},
	} {
		own := readNotes(t, `"notes":[`+c.notes+`]`)
		var numbers []int
		for i := range own.Notes {
			numbers = append(numbers, own.Notes[i].Number)
		}
		assert.Equal(t, c.numbers, numbers, name)
		p, err := piece.Read([]byte(notesDoc(`"notes":[` + c.notes + `]`)))
		require.NoError(t, err)
		text := string(piece.Write(p))
		assert.Equal(t, c.told, strings.Contains(text, `"number"`), name)
		again, err := piece.Read([]byte(text))
		require.NoError(t, err)
		assert.Equal(t, text, string(piece.Write(again)), name)
	}
}

func TestWhatNotesLanesRefuse(t *testing.T) {
	for rest, message := range map[string]string{
		`"notes":[{"at":0,"length":0}]`:                                           "clips[0].lanes[0].notes[0].length: 0 is below 1; allowed: 1..",
		`"notes":[{"at":-1,"length":1}]`:                                          "notes[0].at: -1 is below 0",
		`"notes":[{"length":1}]`:                                                  "notes[0].at: is missing",
		`"notes":[{"at":0,"length":1,"note":60,"degree":3}]`:                      "notes[0].degree: is there beside note",
		`"notes":[{"at":0,"length":1,"degree":8}]`:                                "notes[0].degree: 8 is above 7",
		`"notes":[{"at":0,"length":1,"gate":50}]`:                                 "notes[0].gate: is not a known field",
		`"notes":[{"at":0,"length":1,"number":4},{"at":1,"length":1,"number":4}]`: "notes[1].number: 4 is the number of notes[0] already",
		`"notes":[{"at":3932160,"length":1}]`:                                     "ends beyond 1024 bars",
		`"notes":[{"at":3932100,"length":61}]`:                                    "ends beyond 1024 bars; allowed: together at most 3932160",
		`"loop":{"start":3932159,"length":2}`:                                     "loop.length: 2 from 3932159 on ends beyond 1024 bars",
		`"loop":{"start":0}`:                                                      "loop.length: is missing",
		`"voices":"two"`:                                                          `voices: "two" is not allowed; allowed: many, one`,
		`"rate":"1/8"`:                                                            "rate: is not a known field",
		`"window":{"start":1}`:                                                    "window: is not a known field",
		`"odds":[{"ratchet":2}]`:                                                  "odds[0].ratchet: is not a known field",
		`"modulators":[{"on":"nudge","from":0,"to":1}]`:                           `on: "nudge" is not allowed; allowed: velocity, gate, chance, degree, octave`,
		`"steps":[]`: "steps: is not a known field",
	} {
		_, err := piece.Read([]byte(notesDoc(rest)))
		assert.ErrorContains(t, err, message, rest)
	}
	_, err := piece.Read([]byte(notesDoc(`"notes":[` + strings.TrimSuffix(strings.Repeat(`{"at":0,"length":1},`, piece.MaxNotes+1), ",") + `]`)))
	assert.ErrorContains(t, err, "notes: 20001 items are above 20000; allowed: 0..20000")
}

// A note is printed in a way of its own, which is as the shape would.
func TestNotesArePrintedAsTheirShapeDoes(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string, low, high int) int { return rapid.IntRange(low, high).Draw(t, name) }
		var notes []string
		for i := range draw("count", 1, 6) {
			var also string
			if draw("midi", 0, 2) == 0 {
				also = fmt.Sprintf(`,"note":%d`, draw("note", 0, 127))
			} else {
				also = fmt.Sprintf(`,"degree":%d,"octave":%d,"alter":%d`, draw("degree", 1, 7), draw("octave", -4, 4), draw("alter", -11, 11))
			}
			also += rapid.SampledFrom([]string{"", `,"velocity":3`, `,"chance":0`, `,"tie":true`, `,"rounds":{"of":3,"on":[2]}`, `,"glide":{"time":10}`, `,"bend":[{"at":3,"by":-2}]`, fmt.Sprintf(`,"number":%d`, 100+i)}).Draw(t, "also")
			notes = append(notes, fmt.Sprintf(`{"at":%d,"length":%d%s}`, draw("at", 0, 9000), draw("length", 1, 9000), also))
		}
		p, err := piece.Read([]byte(notesDoc(`"notes":[` + strings.Join(notes, ",") + `]`)))
		require.NoError(t, err)
		text := piece.Write(p)
		again, err := piece.Read(text)
		require.NoError(t, err, string(text))
		require.Equal(t, p, again)
		require.Equal(t, string(text), string(piece.Write(again)))
	})
}

// noteFields is a value other than the initial one for each field of a note.
var noteFields = map[string]string{
	"at": `960`, "length": `30`, "degree": `3`, "octave": `-1`, "alter": `1`, "note": `38`, "velocity": `7`, "chance": `0`,
	"rounds": `{"of":3,"on":[2]}`, "tie": `true`, "glide": `{"time":9}`, "bend": `[{"at":3,"by":-2}]`, "number": `77`,
}

// Each field of a note, set alone, is kept, printed, and told to whoever holds the note as it was.
func TestEachFieldOfANoteIsKeptPrintedAndTold(t *testing.T) {
	var facts struct {
		Step struct{ Notes map[string]any }
	}
	require.NoError(t, json.Unmarshal(document.Print(piece.Facts()), &facts))
	require.ElementsMatch(t, slices.Collect(maps.Keys(facts.Step.Notes)), slices.Collect(maps.Keys(noteFields)), "the table has a row for each field")
	for name, value := range noteFields {
		given := map[string]json.RawMessage{"at": json.RawMessage(`0`), "length": json.RawMessage(`9`)}
		was := readNotes(t, fmt.Sprintf(`"loop":{"length":3840},"notes":[%s]`, marshaled(t, given)))
		given[name] = json.RawMessage(value)
		own := readNotes(t, fmt.Sprintf(`"loop":{"length":3840},"notes":[%s]`, marshaled(t, given)))
		var told struct {
			In  map[string]json.RawMessage
			Out []string
		}
		require.NoError(t, json.Unmarshal(marshaled(t, since.Since(was.Notes[0], own.Notes[0])), &told))
		assert.Equal(t, []string{name}, append(slices.Collect(maps.Keys(told.In)), told.Out...), "%s is told, and nothing else", name)
		printed := string(piece.WriteNote(&own.Notes[0]))
		assert.Contains(t, printed, fmt.Sprintf("%q", name))
		again := readNotes(t, fmt.Sprintf(`"loop":{"length":3840},"notes":[%s]`, printed))
		assert.Equal(t, own.Notes, again.Notes, name)
	}
}

func marshaled(t *testing.T, value any) []byte {
	text, err := json.Marshal(value)
	require.NoError(t, err)
	return text
}
