package piece_test

import (
	"bytes"
	"encoding/json"
	"regexp"
	"slices"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/piece"
)

// across are the refusals of what a schema has no words for: one field against
// another.
var across = regexp.MustCompile(`names the clip itself|a clip that is none|has no notes|beyond what|is below low|is not above low|on one pitch with|the palette.s chords|is not an octave above|no (lane|clip) "|needs itself|allowed: a chords lane|repeats the pitch of|each id once|the steps from \d+ on|the degrees of |the lane.s steps|rising order|rounds.on\[\d+\]: \d+ is above \d+; allowed: 1..\d+$`)

// texts are tried wherever a text is asked for.
var texts = []string{
	"", "C", "F#", "Bb", "H", "c", "C##", "4/4", "7/8", "9/7", "33/4", "1/3", "1/16", "1bar", "major", "dorian", "-Harmonic_Minor", "BLUES", "nonsense", "low", "a b", "é",
	"a\u0007b", "agrimony-piece", "line", "pulse", "chords", "forward", "sideways", "1", "b3", "9", "\ufffd", "cycle", "noon",
}

// maker makes values that a schema describes, with a mistake now and then.
type maker struct{ t *rapid.T }

func (m maker) slip() bool { return rapid.IntRange(0, 149).Draw(m.t, "slip") == 0 }

func pick[T any](m maker, from []T) T { return rapid.SampledFrom(from).Draw(m.t, "pick") }

func (m maker) value(schema map[string]any) any {
	if m.slip() {
		return pick(m, []any{nil, true, 0, -1, 2.5, 1e30, "x", []any{}, map[string]any{}})
	}
	for _, word := range []string{"anyOf", "oneOf"} {
		if choices, ok := schema[word].([]any); ok {
			return m.value(pick(m, choices).(map[string]any))
		}
	}
	if fixed, ok := schema["const"]; ok {
		return fixed
	}
	if choices, ok := schema["enum"].([]any); ok && !m.slip() {
		return pick(m, choices)
	}
	kind, ok := schema["type"].(string)
	if !ok {
		kind = pick(m, schema["type"].([]any)).(string)
	}
	switch kind {
	case "null":
		return nil
	case "boolean":
		return rapid.Bool().Draw(m.t, "truth")
	case "integer", "number":
		low, high := schema["minimum"].(float64), schema["maximum"].(float64)
		if m.slip() {
			return pick(m, []any{low - 1, high + 1, low + 0.5, json.Number("1e400")})
		}
		return pick(m, []any{low, high, min(low+1, high), json.Number("1.0")})
	case "string":
		return m.text(schema)
	case "array":
		out := []any{}
		first, _ := schema["prefixItems"].([]any)
		for _, item := range first {
			out = append(out, m.value(item.(map[string]any)))
		}
		for range rapid.IntRange(0, 2).Draw(m.t, "count") {
			out = append(out, m.value(schema["items"].(map[string]any)))
		}
		if least, _ := schema["minItems"].(float64); len(out) < int(least) && !m.slip() {
			out = append(out, m.value(schema["items"].(map[string]any)))
		}
		return out
	}
	return m.object(schema)
}

func (m maker) text(schema map[string]any) string {
	fits := texts
	if examples, ok := schema["examples"].([]any); ok {
		fits = append([]string{examples[0].(string)}, texts...)
	}
	if pattern, ok := schema["pattern"].(string); ok && !m.slip() {
		allowed := regexp.MustCompile(pattern)
		fits = slices.DeleteFunc(slices.Clone(fits), func(s string) bool { return !allowed.MatchString(s) })
	}
	return pick(m, fits)
}

func (m maker) object(schema map[string]any) map[string]any {
	out := map[string]any{}
	required, _ := schema["required"].([]any)
	properties, _ := schema["properties"].(map[string]any)
	names := []string{}
	for name := range properties {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		if slices.Contains(required, any(name)) && !m.slip() || rapid.IntRange(0, 4).Draw(m.t, name) == 0 || name == "clips" || name == "lanes" || name == "steps" {
			out[name] = m.value(properties[name].(map[string]any))
		}
	}
	if m.slip() {
		out[pick(m, texts)] = 1
	}
	return out
}

// What the schema accepts the reader accepts, and the reverse.
func TestTheSchemaAndTheReaderAgree(t *testing.T) {
	text := piece.Schema()
	document, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	require.NoError(t, err)
	compiler := jsonschema.NewCompiler()
	require.NoError(t, compiler.AddResource("piece.json", document))
	schema, err := compiler.Compile("piece.json")
	require.NoError(t, err)
	var plain map[string]any
	require.NoError(t, json.Unmarshal(text, &plain))
	accepted, refused := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		made, err := json.Marshal(maker{t}.object(plain))
		require.NoError(t, err)
		value, err := jsonschema.UnmarshalJSON(bytes.NewReader(made))
		require.NoError(t, err)
		bySchema := schema.Validate(value)
		_, byReader := piece.Read(made)
		switch {
		case bySchema == nil && byReader == nil:
			accepted++
		case bySchema != nil && byReader != nil:
			refused++
		case byReader != nil && across.MatchString(byReader.Error()):
		default:
			t.Fatalf("%s\nthe schema says: %v\nthe reader says: %v", made, bySchema, byReader)
		}
	})
	require.Positive(t, accepted)
	require.Positive(t, refused)
}
