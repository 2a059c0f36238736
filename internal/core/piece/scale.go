package piece

import (
	"encoding/json"
	"fmt"

	"agrimony/internal/core/document"
	"agrimony/internal/core/pitch"
)

// Scale is a named scale or a list of degrees; exactly one is set.
type Scale struct {
	Name    string
	Degrees []string
}

// MarshalJSON writes the name or the list.
func (s Scale) MarshalJSON() ([]byte, error) {
	if s.Name != "" {
		return json.Marshal(s.Name)
	}
	return json.Marshal(s.Degrees)
}

// UnmarshalJSON reads the name or the list.
func (s *Scale) UnmarshalJSON(data []byte) error {
	if err := json.Unmarshal(data, &s.Name); err == nil {
		return nil
	}
	return json.Unmarshal(data, &s.Degrees)
}

// Resolve works the key out. The key must have been checked.
func (k Key) Resolve() pitch.Key {
	tonic, err := pitch.ParseName(k.Tonic)
	if err != nil {
		panic(err)
	}
	scale, err := pitch.FindScale(k.Scale.Name)
	if k.Scale.Name == "" {
		scale, err = pitch.NewScale(k.Scale.Degrees)
	}
	if err != nil {
		panic(err)
	}
	key, err := pitch.NewKey(tonic, scale)
	if err != nil {
		panic(err)
	}
	return key
}

var keyShape = &document.Shape[Key]{
	Doc: "A tonic and a scale.",
	Fields: []document.Field[Key]{
		document.Parsed("tonic", "C", "A letter A..G with at most one # or b.", func(text string) error {
			name, err := pitch.ParseName(text)
			if err == nil && (name.Accidental > 1 || name.Accidental < -1 || name.String() != text) {
				err = fmt.Errorf("%q is not a tonic; allowed: a letter A..G with at most one # or b", text)
			}
			return err
		}, func(k *Key) *string { return &k.Tonic }, document.Pairs("pattern", "^[A-G][#b]?$")),
		document.Own("scale", "The name of a scale, or its degrees against the major scale, rising from \"1\".",
			func(k *Key) { k.Scale = Scale{Name: "major"} },
			func(at *document.At, value any, k *Key) { k.Scale = readScale(at, value) },
			func(at *document.At, k *Key) {
				if k.Scale.Name == "" {
					readScale(at.Field("scale"), document.Anys(k.Scale.Degrees))
				} else {
					readScale(at.Field("scale"), k.Scale.Name)
				}
			},
			func(k *Key) (any, bool) {
				if k.Scale.Name != "" {
					return k.Scale.Name, true
				}
				return document.Anys(k.Scale.Degrees), true
			},
			func() document.Object {
				names := make([]string, len(pitch.Scales))
				for i, s := range pitch.Scales {
					names[i] = s.Name
				}
				degree := document.Pairs("type", "string", "pattern", "^(#{0,2}|b{0,2})[1-7]$")
				return document.Pairs("default", "major", "anyOf", []any{
					document.Pairs("type", "string", "examples", names, "pattern", pitch.ScalePattern()),
					document.Pairs("type", "array", "prefixItems", []any{document.Pairs("const", "1")}, "minItems", 1, "maxItems", 12, "items", degree),
				})
			}),
	},
}

func readScale(at *document.At, value any) Scale {
	if name, ok := value.(string); ok {
		scale, err := pitch.FindScale(name)
		if err != nil {
			at.Refuse("%v", err)
		}
		return Scale{Name: scale.Name}
	}
	items, ok := value.([]any)
	if !ok {
		at.Refuse("is neither; allowed: the name of a scale or a list of degrees")
	}
	degrees := make([]string, len(items))
	for i, item := range items {
		degrees[i] = document.TextOf(at.Item(i), item)
	}
	if _, err := pitch.NewScale(degrees); err != nil {
		at.Refuse("%v", err)
	}
	return Scale{Degrees: degrees}
}

// KeyAs is a key as the document writes it.
func KeyAs(k pitch.Key) Key {
	out := Key{Tonic: k.Tonic.String(), Scale: Scale{Name: k.Scale.Name}}
	if k.Scale.Name == "" {
		for _, d := range k.Scale.Degrees {
			out.Scale.Degrees = append(out.Scale.Degrees, d.String())
		}
	}
	return out
}
