package piece_test

import (
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/piece"
	"agrimony/internal/demo"
)

const head = `{"format":"agrimony-piece","version":1,`

func withLane(lane string) string {
	return head + `"clips":[{"id":"a","lanes":[{"id":"low",` + lane + `}]}]}`
}

func TestAbsentFieldsTakeTheirDefaults(t *testing.T) {
	p, err := piece.Read([]byte(head + `"clips":[{"lanes":[{},{"steps":[{"on":true}]}]},{}]}`))
	require.NoError(t, err)
	assert.Equal(t, []any{"Untitled", 120.0, "4/4", "C", "major", 50, "1/16", "off"},
		[]any{p.Title, p.Tempo, p.Meter, p.Key.Tonic, p.Key.Scale.Name, p.Groove.Swing, p.Groove.Grid, p.Beat.Pattern})
	clip := p.Clips[0]
	assert.Equal(t, []any{"clip1", "clip1", "realign", 0}, []any{clip.ID, clip.Name, clip.Until, clip.Bars})
	lane := clip.Lanes[0]
	line := lane.Content.(*piece.Line)
	assert.Equal(t, []any{"lane1", "line", "1/16", "forward", "scale", "nearest", "key", "bend", 12, 16},
		[]any{lane.ID, lane.Kind, lane.Rate, lane.Direction, line.Lock, line.Snap, line.Follow, line.Glide.Mode, line.Glide.Range, len(line.Steps)})
	step := clip.Lanes[1].Content.(*piece.Line).Steps[0]
	assert.Equal(t, []any{true, 1, 0, 0, 100, 75, false, 100, 1, 0, false},
		[]any{step.On, step.Degree, step.Octave, step.Alter, step.Velocity, step.Gate, step.Tie, step.Chance, step.Ratchet, step.Nudge, step.Skip})
	assert.Equal(t, "clip2", p.Clips[1].ID)
}

func TestWhatIsRefusedAndWhere(t *testing.T) {
	many := func(n int, item string) string { return strings.TrimSuffix(strings.Repeat(item+",", n), ",") }
	for doc, message := range map[string]string{
		``:                              "line 1, column 1: the document ends in the middle",
		`{"format":"agrimony-piece",`:   "the document ends in the middle",
		`{"format" "x"}`:                "line 1, column 11: not valid JSON",
		`[]`:                            "is a list; allowed: an object",
		`{"version":1}`:                 "format: is missing",
		`{"format":"agrimony-piece"}`:   "version: is missing",
		`{"format":"song","version":1}`: `format: "song" is not allowed; allowed: agrimony-piece`,
		`{"format":"agrimony-piece","version":2}`:              "version: 2 is above 1; allowed: 1..1",
		head + `"title":"x"} {}`:                               "something follows the end of the document",
		head + `"tempoo":100}`:                                 "tempoo: is not a known field; allowed: $schema, format, version, title",
		head + `"tempo":"fast"}`:                               "tempo: is a text; allowed: a number",
		head + `"tempo":10}`:                                   "tempo: 10 is below 20; allowed: 20..400",
		head + `"tempo":100,"tempo":110}`:                      "tempo: is there twice",
		head + `"meter":"4/3"}`:                                `meter: "4/3" is not a meter`,
		head + `"seed":1.5}`:                                   "seed: is the number 1.5; allowed: a whole number",
		head + `"groove":{"swing":80}}`:                        "groove.swing: 80 is above 75; allowed: 50..75",
		head + `"key":{"tonic":"H"}}`:                          `key.tonic: "H" is not a note name`,
		head + `"key":{"tonic":"Bbb"}}`:                        `key.tonic: "Bbb" is not a tonic`,
		head + `"key":{"scale":"odd"}}`:                        `key.scale: "odd" is not a scale`,
		head + `"key":{"scale":["1","3","3"]}}`:                `key.scale: degree "3" repeats the pitch of "3"`,
		head + `"key":{"scale":["1","5","3"]}}`:                `key.scale: degree "3" comes after the higher "5"`,
		head + `"clips":{}}`:                                   "clips: is an object; allowed: a list",
		head + `"clips":[{"id":"a"},{"id":"a"}]}`:              `clips[1].id: "a" is the id of clips[0] already`,
		head + `"clips":[{"id":"a b"}]}`:                       `clips[0].id: "a b" is not an id`,
		head + `"clips":[{"bars":0}]}`:                         "clips[0].bars: 0 is below 1; allowed: 1..1024",
		head + `"clips":[{"bars":1025}]}`:                      "clips[0].bars: 1025 is above 1024",
		head + `"clips":[{"until":"noon"}]}`:                   `clips[0].until: "noon" is not allowed; allowed: cycle, realign`,
		head + `"clips":[{"bars":1,"until":"cycle"}]}`:         "clips[0].until: is there beside bars",
		head + `"clips":[{"lanes":[` + many(33, "{}") + `]}]}`: "clips[0].lanes: 33 items are above 32; allowed: 0..32",
		withLane(`"kind":"organ"`):                             `clips[0].lanes[0].kind: "organ" is not allowed; allowed: line`,
		withLane(`"rate":"1/3"`):                               `clips[0].lanes[0].rate: "1/3" is not a rate; allowed: 4bar`,
		withLane(`"channel":17`):                               "clips[0].lanes[0].channel: 17 is above 16",
		withLane(`"glide":{"range":25}`):                       "clips[0].lanes[0].glide.range: 25 is above 24",
		withLane(`"steps":[]`):                                 "clips[0].lanes[0].steps: 0 items are below 1; allowed: 1..512",
		withLane(`"window":{"start":1,"count":0}`):             "clips[0].lanes[0].window.count: 0 is below 1",
		withLane(`"window":{"start":17,"count":1}`):            "clips[0].lanes[0].window.start: 17 is above 16",
		withLane(`"window":{"start":3,"count":15}`):            "clips[0].lanes[0].window.count: 15 is above 14; allowed: 1..14",
		withLane(`"steps":[{},{},{},{"gate":0}]`):              "clips[0].lanes[0].steps[3].gate: 0 is below 1; allowed: 1..400",
		withLane(`"steps":[{"degree":8}]`):                     "clips[0].lanes[0].steps[0].degree: 8 is above 7; allowed: 1..7, the degrees of C major",
		withLane(`"steps":[{"on":1}]`):                         "clips[0].lanes[0].steps[0].on: is the number 1; allowed: true or false",
		withLane(`"steps":[{"on":null}]`):                      "clips[0].lanes[0].steps[0].on: is null; allowed: true or false",
		withLane(`"steps":[{"velocity":128}]`):                 "steps[0].velocity: 128 is above 127",
		withLane(`"steps":[{"glide":{"curve":101}}]`):          "steps[0].glide.curve: 101 is above 100",
		withLane(`"steps":[{"rounds":{"of":2,"on":[3]}}]`):     "steps[0].rounds.on[0]: 3 is above 2; allowed: 1..2",
		withLane(`"steps":[{"rounds":{"of":2,"on":[1,1]}}]`):   "steps[0].rounds.on[1]: 1 is there already",
		withLane(`"steps":[{"rounds":{"of":2,"on":[]}}]`):      "steps[0].rounds.on: 0 items are below 1",
		withLane(`"steps":[{"bend":[{"at":50},{"at":20}]}]`):   "steps[0].bend[1].at: 20 is below 50",
		head + `"key":{"scale":"minor pentatonic"},"clips":[{"lanes":[{"steps":[{"degree":6}]}]}]}`: "degree: 6 is above 5",
		strings.Repeat("[", 100000): "is nested more than 32 levels deep",
		"\xff\xfe":                  "not valid UTF-8",
		head + `"title":"\ud800"}`:  "not valid JSON",
		head + `"clips":[{"lanes":[{"steps":[{},{"gate":1,"gate":2}]}]}]}`: "clips[0].lanes[0].steps[1].gate: is there twice",
	} {
		_, err := piece.Read([]byte(doc))
		require.Error(t, err, doc)
		assert.Contains(t, err.Error(), message)
		assert.NotContains(t, err.Error(), "\n", "one line")
		var fault *piece.Fault
		assert.ErrorAs(t, err, &fault)
	}
}

func TestADocumentTooLargeIsRefused(t *testing.T) {
	_, err := piece.Read(make([]byte, piece.MaxBytes+1))
	assert.ErrorContains(t, err, "allowed: at most")
}

func TestWritingIsReadingBackwards(t *testing.T) {
	for _, doc := range []string{
		string(demo.Document()),
		withLane(`"window":{"start":2,"count":3},"glide":{"mode":"legato","range":5},"steps":[{},{},{},{"on":true,"glide":{"time":0,"from":-3},"bend":[{"at":10,"by":-2,"curve":5}],"rounds":{"of":3,"on":[2,1]}}]`),
		head + `"$schema":"piece.schema.json","key":{"tonic":"Eb","scale":["1","2","b3","#4","5"]},"title":"<&> \"quoted\" ♯","clips":[{"id":"x","key":{"tonic":"B","scale":"major"},"until":"cycle"}]}`,
	} {
		p, err := piece.Read([]byte(doc))
		require.NoError(t, err)
		text := piece.Write(p)
		again, err := piece.Read(text)
		require.NoError(t, err)
		assert.Equal(t, p, again)
		assert.Equal(t, string(text), string(piece.Write(again)), "the same bytes")
		assert.True(t, json.Valid(text))
	}
}

func TestTheDemoIsWrittenAsItWouldBeWritten(t *testing.T) {
	p, err := demo.Piece()
	require.NoError(t, err)
	assert.Equal(t, string(piece.Write(p)), string(demo.Document()))
	assert.GreaterOrEqual(t, len(p.Clips), 4)
}

func TestThePublishedSchemaIsFresh(t *testing.T) {
	published, err := os.ReadFile("../../../docs/piece.schema.json")
	require.NoError(t, err)
	assert.Equal(t, string(piece.Schema()), string(published), "run: make types")
	assert.True(t, json.Valid(published))
}

func TestPatchesChangeOnlyWhatTheyName(t *testing.T) {
	lane := piece.NewLane("line", "low", "Low")
	line := lane.Content.(*piece.Line)
	steps, step := line.StepList(), &line.Steps[0]
	step.Degree, step.Glide = 5, &piece.Glide{Time: 40}
	require.NoError(t, steps.Patch("steps[0]", 0, []byte(`{"on":true,"gate":30}`)))
	assert.Equal(t, []any{true, 5, 30, 40}, []any{step.On, step.Degree, step.Gate, step.Glide.Time})
	require.NoError(t, steps.Patch("steps[0]", 0, []byte(`{"glide":null}`)))
	assert.Nil(t, step.Glide)
	before := *step
	assert.EqualError(t, steps.Patch("steps[0]", 0, []byte(`{"on":false,"gate":500}`)), "steps[0].gate: 500 is above 400; allowed: 1..400")
	assert.Equal(t, before, *step, "a patch applies whole or not at all")
	shown := lane
	require.NoError(t, piece.PatchLane("", []byte(`{"octave":5,"rate":"1/8"}`), &lane))
	assert.Equal(t, []any{5, 3}, []any{lane.Content.(*piece.Line).Octave, shown.Content.(*piece.Line).Octave}, "a copy is changed, not what others hold")

	clip := piece.NewClip("a", "A")
	require.NoError(t, piece.PatchClip("", []byte(`{"bars":4}`), &clip))
	assert.Equal(t, []any{4, ""}, []any{clip.Bars, clip.Until})
	require.NoError(t, piece.PatchClip("", []byte(`{"until":"cycle"}`), &clip))
	assert.Equal(t, []any{0, "cycle"}, []any{clip.Bars, clip.Until})
	assert.ErrorContains(t, piece.PatchClip("clips[0]", []byte(`{"bars":2,"until":"cycle"}`), &clip), "clips[0].until: is there beside bars")
}

func TestAPieceChangedInMemoryIsHeldToTheSameRules(t *testing.T) {
	p, err := demo.Piece()
	require.NoError(t, err)
	require.NoError(t, piece.Check(p))
	line := p.Clips[0].Lanes[0].Content.(*piece.Line)
	for message, change := range map[string]func(){
		"clips[0].lanes[0].steps[0].gate: 500 is above 400":                    func() { line.Steps[0].Gate = 500 },
		"clips[0].lanes[0].steps[0].degree: 8 is above 7":                      func() { line.Steps[0].Degree = 8 },
		"clips[0].lanes[0].octave: 10 is above 9":                              func() { line.Octave = 10 },
		"clips[0].lanes[0].direction: \"sideways\" is not allowed":             func() { p.Clips[0].Lanes[0].Direction = "sideways" },
		"clips[0].lanes[0].steps[0].bend[1].at: 10 is below 20":                func() { line.Steps[0].Bend = []piece.Point{{At: 20}, {At: 10}} },
		"clips[0].lanes[0].window.start: 500 is above":                         func() { p.Clips[0].Lanes[0].Window = &piece.Window{Start: 500, Count: 1} },
		"clips[1].id: \"" + p.Clips[0].ID + "\" is the id of clips[0] already": func() { p.Clips[1].ID = p.Clips[0].ID },
		"tempo: 3 is below 20":                                                 func() { p.Tempo = 3 },
	} {
		kept, keptLine, keptLane, keptID := p.Tempo, *line, p.Clips[0].Lanes[0], p.Clips[1].ID
		line.Steps = append([]piece.LineStep{}, keptLine.Steps...)
		change()
		assert.ErrorContains(t, piece.Check(p), message)
		*line, p.Clips[0].Lanes[0], p.Tempo, p.Clips[1].ID = keptLine, keptLane, kept, keptID
	}
	require.NoError(t, piece.Check(p))
}

func TestAnyStepSurvivesTheDocument(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string, low, high int) int { return rapid.IntRange(low, high).Draw(t, name) }
		doc := withLane(fmt.Sprintf(`"steps":[{"on":%t,"degree":%d,"octave":%d,"alter":%d,"velocity":%d,"gate":%d,"chance":%d,"ratchet":%d,"nudge":%d}]`,
			rapid.Bool().Draw(t, "on"), draw("degree", 1, 7), draw("octave", -4, 4), draw("alter", -11, 11), draw("velocity", 1, 127),
			draw("gate", 1, 400), draw("chance", 0, 100), draw("ratchet", 1, 8), draw("nudge", -50, 50)))
		p, err := piece.Read([]byte(doc))
		require.NoError(t, err)
		again, err := piece.Read(piece.Write(p))
		require.NoError(t, err)
		assert.Equal(t, p, again)
	})
}

func FuzzRead(f *testing.F) {
	f.Add(demo.Document())
	f.Add([]byte(withLane(`"steps":[{"on":true,"glide":{"from":2},"rounds":{"of":2,"on":[1]}}]`)))
	f.Add([]byte(head + `"key":{"scale":["1","b3"]}}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		p, err := piece.Read(data)
		if err != nil {
			return
		}
		again, err := piece.Read(piece.Write(p))
		require.NoError(t, err, "what is read can be written and read again")
		assert.Equal(t, p, again)
	})
}
