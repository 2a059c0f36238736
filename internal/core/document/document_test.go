package document_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/document"
)

// boat is a made-up document with a field of every kind.
type boat struct {
	Name    string
	Oars    int
	Draught float64
	Lit     bool
	Wood    string
	Crew    []oar
	Mast    *oar
	Stern   oar
	Spare   *int
}

type oar struct{ Length int }

var oarShape = &document.Shape[oar]{Doc: "An oar.", Fields: []document.Field[oar]{
	document.Whole("length", 1, 9, 3, "In feet.", func(o *oar) *int { return &o.Length }).In("feet"),
}}

var boatShape = &document.Shape[boat]{
	Doc: "A boat.",
	Fields: []document.Field[boat]{
		document.Text("name", 8, "", "Its name.", func(b *boat) *string { return &b.Name }).Needed(),
		document.Whole("oars", 0, 8, 2, "How many.", func(b *boat) *int { return &b.Oars }).Titled("Pairs"),
		document.Number("draught", 0, 3, 0.5, "How deep.", func(b *boat) *float64 { return &b.Draught }),
		document.Flag("lit", "Whether it has a lantern.", func(b *boat) *bool { return &b.Lit }),
		document.Choice("wood", []string{"oak", "elm"}, "oak", "Of what.", func(b *boat) *string { return &b.Wood }),
		document.List("crew", 0, 2, "Its crew.", oarShape, document.None[oar], func(b *boat) *[]oar { return &b.Crew }),
		document.Optional("mast", "Its mast.", oarShape, func(b *boat) **oar { return &b.Mast }),
		document.Inner("stern", "Its stern.", oarShape, func(b *boat) *oar { return &b.Stern }),
		document.OptionalWhole("spare", -2, 2, "A spare.", func(b *boat) **int { return &b.Spare }),
	},
	Check: func(at *document.At, b *boat) {
		if b.Lit && b.Oars == 0 {
			at.Field("lit").Refuse("nobody would hold the lantern")
		}
	},
}

func TestReadingFillsInDefaults(t *testing.T) {
	b, err := document.Read(boatShape, []byte(`{"name":"Wren","crew":[{},{"length":5}],"spare":-1}`))
	require.NoError(t, err)
	one := -1
	assert.Equal(t, &boat{Name: "Wren", Oars: 2, Draught: 0.5, Wood: "oak", Crew: []oar{{3}, {5}}, Stern: oar{3}, Spare: &one}, b)
}

func TestWhatIsRefusedAndWhere(t *testing.T) {
	for text, message := range map[string]string{
		`{}`:                                           "name: is missing",
		`{"name":"Nightingale"}`:                       "name: 11 characters are above 8; allowed: 0..8",
		`{"name":"a\u0007"}`:                           "name: holds a control character; allowed: printable text",
		`{"name":"a","oars":9}`:                        "oars: 9 is above 8; allowed: 0..8",
		`{"name":"a","oars":1.5}`:                      "oars: is the number 1.5; allowed: a whole number",
		`{"name":"a","oars":1e999}`:                    "oars: is a number beyond what can be held",
		`{"name":"a","wood":"ash"}`:                    `wood: "ash" is not allowed; allowed: oak, elm`,
		`{"name":"a","lit":1}`:                         "lit: is the number 1; allowed: true or false",
		`{"name":"a","crew":[{},{},{}]}`:               "crew: 3 items are above 2; allowed: 0..2",
		`{"name":"a","crew":[{},{"length":0}]}`:        "crew[1].length: 0 is below 1; allowed: 1..9",
		`{"name":"a","a\u0007\u001b[31m":1}`:           `"a\a\x1b[31m": is not a known field; allowed: name, oars`,
		`{"name":"a","stern":{"width":1}}`:             "stern.width: is not a known field; allowed: length",
		`{"name":"a","mast":[]}`:                       "mast: is a list; allowed: an object",
		`{"name":"a","spare":3}`:                       "spare: 3 is above 2; allowed: -2..2",
		`{"name":"a","lit":true,"oars":0}`:             "lit: nobody would hold the lantern",
		`{"name":"a","stern":{"length":1,"length":2}}`: "stern.length: is there twice; allowed: each field once",
		`{"name":"a"`:                                  "line 1, column 12: the document ends in the middle",
		"{\"name\":\n  nope}":                          "line 2, column 4: not valid JSON",
		`{"name":"a"}x`:                                "line 1, column 13: something follows the end of the document",
		strings.Repeat(`{"name":`, 40):                 "is nested more than 32 levels deep",
	} {
		_, err := document.Read(boatShape, []byte(text))
		require.Error(t, err, text)
		assert.Contains(t, err.Error(), message)
	}
}

func TestAPatchAppliesWholeOrNotAtAll(t *testing.T) {
	b := boatShape.Fresh()
	same := func(b *boat) boat { return *b }
	require.NoError(t, document.Patch(boatShape, "", []byte(`{"mast":{},"spare":1}`), &b, same))
	require.NoError(t, document.Patch(boatShape, "", []byte(`{"mast":null}`), &b, same))
	assert.Nil(t, b.Mast)
	assert.Equal(t, 1, *b.Spare, "what is not named stays")
	before := b
	assert.EqualError(t, document.Patch(boatShape, "boats[3]", []byte(`{"oars":1,"wood":"ash"}`), &b, same), `boats[3].wood: "ash" is not allowed; allowed: oak, elm`)
	assert.Equal(t, before, b)
}

func TestAValueInMemoryIsHeldToTheSameRules(t *testing.T) {
	for message, change := range map[string]func(*boat){
		"oars: 9 is above 8":                 func(b *boat) { b.Oars = 9 },
		"crew[0].length: 10 is above 9":      func(b *boat) { b.Crew = []oar{{10}} },
		"crew: 3 items are above 2":          func(b *boat) { b.Crew = make([]oar, 3) },
		"mast.length: -1 is below 1":         func(b *boat) { b.Mast = &oar{-1} },
		"stern.length: 99 is above 9":        func(b *boat) { b.Stern.Length = 99 },
		"spare: 5 is above 2":                func(b *boat) { five := 5; b.Spare = &five },
		"lit: nobody would hold the lantern": func(b *boat) { b.Lit, b.Oars = true, 0 },
	} {
		b := boatShape.Fresh()
		require.NoError(t, document.Check(boatShape, "", &b))
		change(&b)
		assert.ErrorContains(t, document.Check(boatShape, "", &b), message)
	}
}

// What is written is read back as it was, and defaults are left out.
func TestWritingIsReadingBackwards(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := boatShape.Fresh()
		b.Name = rapid.StringMatching(`[a-zé"\\<♯ ]{0,8}`).Draw(t, "name")
		b.Oars, b.Lit = rapid.IntRange(1, 8).Draw(t, "oars"), rapid.Bool().Draw(t, "lit")
		b.Wood = rapid.SampledFrom([]string{"oak", "elm"}).Draw(t, "wood")
		for range rapid.IntRange(0, 2).Draw(t, "crew") {
			b.Crew = append(b.Crew, oar{rapid.IntRange(1, 9).Draw(t, "length")})
		}
		if rapid.Bool().Draw(t, "mast") {
			b.Mast = &oar{rapid.IntRange(1, 9).Draw(t, "height")}
		}
		text := document.Print(boatShape.Write(&b))
		assert.True(t, json.Valid(text))
		again, err := document.Read(boatShape, text)
		require.NoError(t, err, string(text))
		assert.Equal(t, &b, again)
	})
	plain := boatShape.Fresh()
	assert.Equal(t, "{\"name\": \"\"}\n", string(document.Print(boatShape.Write(&plain))))
}

func TestSchemaAndFactsComeFromTheSameTable(t *testing.T) {
	schema := string(document.Print(boatShape.Schema()))
	assert.Contains(t, schema, `"required": ["name"]`)
	assert.Contains(t, schema, `"oars": {"description": "How many.", "type": "integer", "minimum": 0, "maximum": 8, "default": 2}`)
	assert.Equal(t, 1, strings.Count(schema, `"Its stern."`), "an inner object is described once")
	facts := string(document.Print(boatShape.Facts()))
	assert.Contains(t, facts, `"oars": {"title": "Pairs", "doc": "How many.", "low": 0, "high": 8, "initial": 2}`)
	assert.Contains(t, facts, `"length": {"title": "Length", "doc": "In feet.", "unit": "feet", "low": 1, "high": 9, "initial": 3}`)
}

func FuzzParse(f *testing.F) {
	f.Add([]byte(`{"name":"Wren","crew":[{"length":5}]}`))
	f.Add([]byte(`[1,2.5e3,"\ud83d\ude00",null,true,{}]`))
	f.Fuzz(func(t *testing.T, data []byte) {
		tree, err := document.Parse(data)
		if err != nil {
			var fault *document.Fault
			assert.ErrorAs(t, err, &fault)
			return
		}
		again, err := document.Parse(document.Print(tree))
		require.NoError(t, err)
		assert.Equal(t, tree, again)

		decoder := json.NewDecoder(bytes.NewReader(bytes.TrimPrefix(data, []byte("\ufeff"))))
		decoder.UseNumber()
		var other any
		require.NoError(t, decoder.Decode(&other))
		assert.Equal(t, other, unordered(tree), "another library reads the same")
	})
}

// unordered is a tree as the standard library gives it.
func unordered(value any) any {
	switch value := value.(type) {
	case document.Object:
		out := map[string]any{}
		for _, m := range value {
			out[m.Key] = unordered(m.Value)
		}
		return out
	case []any:
		out := make([]any, len(value))
		for i, item := range value {
			out[i] = unordered(item)
		}
		return out
	}
	return value
}

func TestReadingEndsWithItsBudget(t *testing.T) {
	text := []byte(`{"name":"Wren","crew":[{"length":2},{"length":5}]}`)
	spent := func(most int64) error {
		_, err := document.ReadWithin(budget.New(most, nil), boatShape, text)
		return err
	}
	require.NoError(t, spent(1000))
	var short *budget.SpentError
	require.ErrorAs(t, spent(20), &short, "while it is parsed")
	require.ErrorAs(t, spent(50), &short, "while its members are read")

	gone := errors.New("nobody waits")
	_, err := document.ReadWithin(budget.New(1000, func() error { return gone }), boatShape, text)
	assert.ErrorIs(t, err, gone)
}
