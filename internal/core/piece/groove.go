package piece

import (
	"encoding/json"
	"iter"
	"math"
	"slices"
	"strings"

	"agrimony/internal/core/document"
)

// Sixteenths is how many places a groove template has: those of a bar of 4/4, counted on
// in longer bars from the first again.
const Sixteenths = 16

// Template moves the notes of each sixteenth of a bar, and their velocities.
type Template struct {
	Name  string      `json:"name"`
	Steps []Sixteenth `json:"steps"` // 16
}

// Sixteenth is what a template does to the notes of one sixteenth.
type Sixteenth struct {
	At       int `json:"at"`       // % of a sixteenth late; below 0: early
	Velocity int `json:"velocity"` // added
}

// Templates are the built-in groove templates. To add one, add a row.
var Templates = []Template{
	template(
		"Leaning back",
		[16]int{0, 8, 12, 14, 6, 14, 16, 14, 4, 10, 14, 16, 8, 14, 18, 14},
		[16]int{6, -8, -2, -10, 4, -10, -2, -8, 4, -8, -2, -10, 6, -8, 0, -6},
	),
	template(
		"Pressing on",
		[16]int{0, -6, -8, -6, -2, -8, -10, -8, 0, -6, -8, -10, -4, -8, -12, -8},
		[16]int{4, -6, 2, -4, 6, -6, 2, -4, 4, -6, 2, -2, 8, -4, 4, 0},
	),
	template("Late second beat", [16]int{0, 0, 0, 0, 18, 6, 2, 0, 0, 0, 0, 0, 20, 8, 2, 0}, [16]int{0, -6, 0, -6, 12, -4, 0, -6, 0, -6, 0, -6, 14, -4, 0, -6}),
	template("Heavy beats", [16]int{}, [16]int{18, -14, -4, -16, 10, -14, -4, -16, 14, -14, -4, -16, 10, -14, -4, -12}),
	template("Soft between", [16]int{0, 6, 0, 6, 0, 6, 0, 6, 0, 6, 0, 6, 0, 6, 0, 6}, [16]int{0, -28, -8, -28, 0, -28, -8, -28, 0, -28, -8, -28, 0, -28, -8, -28}),
	template("Rolling", [16]int{0, 22, 4, 26, 0, 22, 4, 26, 0, 22, 4, 26, 0, 22, 4, 26}, [16]int{8, -18, 0, -12, 4, -18, 0, -12, 8, -18, 0, -12, 4, -18, 2, -8}),
	template("Limping", [16]int{0, 0, 0, 30, 0, 0, 24, 0, 0, 0, 0, 30, 0, 0, 24, 0}, [16]int{10, -10, -4, 4, 2, -10, 6, -8, 8, -10, -4, 4, 2, -10, 6, -8}),
	template("Breathing", [16]int{0, 3, 6, 9, 12, 14, 15, 14, 12, 9, 6, 3, 0, -4, -6, -4}, [16]int{10, 8, 5, 1, -3, -6, -8, -10, -9, -7, -5, -2, 1, 4, 6, 8}),
}

func template(name string, at, velocity [Sixteenths]int) Template {
	out := Template{Name: name, Steps: make([]Sixteenth, Sixteenths)}
	for i := range out.Steps {
		out.Steps[i] = Sixteenth{at[i], velocity[i]}
	}
	return out
}

// Played is a note of what a groove is taken from.
type Played struct {
	Place    int     // the sixteenth of the bar that it belongs to, from 0
	Late     float64 // by how much it is late, in % of a sixteenth
	Velocity int     // 1..127
}

// TemplateOf makes a template of how notes are played: in each sixteenth their mean offset,
// and how much harder or softer they are struck than all are on average. Places where
// nothing is played are left as they are.
func TemplateOf(name string, notes iter.Seq[Played]) *Template {
	var late, velocity [Sixteenths]float64
	var count [Sixteenths]int
	mean, all := 0.0, 0
	for n := range notes {
		place := n.Place % Sixteenths
		late[place] += n.Late
		velocity[place] += float64(n.Velocity)
		mean += float64(n.Velocity)
		count[place]++
		all++
	}
	mean /= float64(max(all, 1))
	out := &Template{Name: name, Steps: make([]Sixteenth, Sixteenths)}
	within := func(x float64, low, high int) int { return min(max(int(math.Floor(x+0.5)), low), high) }
	for i, n := range count {
		if n > 0 {
			out.Steps[i] = Sixteenth{within(late[i]/float64(n), -50, 50), within(velocity[i]/float64(n)-mean, -64, 63)}
		}
	}
	return out
}

// TemplateNamed finds a built-in template; nil where there is none of the name.
func TemplateNamed(name string) *Template {
	if i := slices.IndexFunc(Templates, func(t Template) bool { return t.Name == name }); i >= 0 {
		return &Templates[i]
	}
	return nil
}

// builtIn tells whether a template is one of the built-in ones.
func (t *Template) builtIn() bool {
	own := TemplateNamed(t.Name)
	return own != nil && slices.Equal(own.Steps, t.Steps)
}

// MarshalJSON writes a template as the document does: the name of a built-in one, or all
// of it.
func (t *Template) MarshalJSON() ([]byte, error) {
	type whole Template
	if t.builtIn() {
		return json.Marshal(t.Name)
	}
	return json.Marshal((*whole)(t))
}

func templateNames() []string {
	out := make([]string, len(Templates))
	for i := range Templates {
		out[i] = Templates[i].Name
	}
	return out
}

var sixteenthShape = &document.Shape[Sixteenth]{
	Doc: "What happens to the notes of one sixteenth.",
	Fields: []document.Field[Sixteenth]{
		document.Whole("at", -50, 50, 0, "How late, in % of a sixteenth; below 0: early.", func(s *Sixteenth) *int { return &s.At }).In("%"),
		document.Whole("velocity", -64, 63, 0, "Added to the velocity.", func(s *Sixteenth) *int { return &s.Velocity }),
	},
}

var templateShape = &document.Shape[Template]{
	Doc: "A groove template.",
	Fields: []document.Field[Template]{
		document.Text("name", MaxName, "Own", "Its name.", func(t *Template) *string { return &t.Name }),
		document.List("steps", Sixteenths, Sixteenths, "The sixteenths of a bar.", sixteenthShape, document.None[Sixteenth], func(t *Template) *[]Sixteenth { return &t.Steps }).
			Needed(),
	},
}

// templated is the field of a groove that names a built-in template or holds one.
func templated() document.Field[Groove] {
	read := func(at *document.At, value any) *Template {
		switch name := value.(type) {
		case nil:
			return nil
		case string:
			if own := TemplateNamed(name); own != nil {
				return own
			}
			at.Refuse("%q is not allowed; allowed: %s, or a template with a name and 16 steps", name, strings.Join(templateNames(), ", "))
		}
		own := templateShape.Read(at, value)
		return &own
	}
	return document.Own("template", "Moves the notes of each sixteenth: the name of a built-in template, or one with 16 steps; absent: none.",
		func(g *Groove) { g.Template = nil },
		func(at *document.At, value any, g *Groove) { g.Template = read(at, value) },
		func(at *document.At, g *Groove) {
			if g.Template != nil {
				templateShape.Verify(at.Field("template"), g.Template)
			}
		},
		func(g *Groove) (any, bool) {
			switch {
			case g.Template == nil:
				return nil, false
			case g.Template.builtIn():
				return g.Template.Name, true
			}
			return templateShape.Write(g.Template), true
		},
		func() document.Object {
			return document.Pairs("anyOf", []any{document.Pairs("type", "string", "enum", templateNames()), templateShape.Schema(), document.Pairs("type", "null")})
		})
}
