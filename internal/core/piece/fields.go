package piece

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"
)

// Fault is what is wrong with a document, and where.
type Fault struct {
	Path    string `json:"path"` // "clips[0].lanes[1].steps[3].gate"; empty for the whole document
	Problem string `json:"problem"`
}

// Error writes the fault in one line.
func (f *Fault) Error() string {
	if f.Path == "" {
		return f.Problem
	}
	return f.Path + ": " + f.Problem
}

// refuse gives up reading; catch turns it into the error that readers return.
func refuse(path, format string, args ...any) { panic(&Fault{path, fmt.Sprintf(format, args...)}) }

func catch(err *error) {
	switch problem := recover().(type) {
	case nil:
	case *Fault:
		*err = problem
	default:
		panic(problem)
	}
}

// shape describes one kind of object in the document.
type shape[T any] struct {
	doc    string
	fields []field[T]
	check  func(path string, into *T) // rules across fields; may refuse
}

// field describes one member of an object. read replaces the member in into;
// write gives the member's value and whether it differs from its default.
type field[T any] struct {
	name, doc string
	required  bool
	reset     func(into *T)
	read      func(n node, into *T)
	write     func(from *T) (value any, present bool)
	schema    func() object
}

func (s *shape[T]) fresh() T {
	var out T
	for _, f := range s.fields {
		f.reset(&out)
	}
	return out
}

// read makes an object: defaults first, then what the document says.
func (s *shape[T]) read(n node) T {
	out := s.fresh()
	s.patch(n, &out)
	for _, f := range s.fields {
		if f.required && !n.has(f.name) {
			refuse(n.member(f.name), "is missing")
		}
	}
	s.verify(n.path, &out)
	return out
}

// patch changes only the members that are given.
func (s *shape[T]) patch(n node, into *T) {
	for _, m := range n.object() {
		i := slices.IndexFunc(s.fields, func(f field[T]) bool { return f.name == m.key })
		if i < 0 {
			names := make([]string, len(s.fields))
			for i, f := range s.fields {
				names[i] = f.name
			}
			refuse(n.member(m.key), "is not a known field; allowed: %s", strings.Join(names, ", "))
		}
		s.fields[i].read(node{n.member(m.key), m.value}, into)
	}
}

func (s *shape[T]) verify(path string, into *T) {
	if s.check != nil {
		s.check(path, into)
	}
}

func (s *shape[T]) write(from *T) object {
	out := object{}
	for _, f := range s.fields {
		if value, present := f.write(from); present || f.required {
			out = append(out, member{f.name, value})
		}
	}
	return out
}

func inRange[N int | float64](n node, got, low, high N) N {
	if got < low {
		refuse(n.path, "%v is below %v; allowed: %v..%v", got, low, low, high)
	}
	if got > high {
		refuse(n.path, "%v is above %v; allowed: %v..%v", got, high, low, high)
	}
	return got
}

// scalar builds a field of a comparable value.
func scalar[T any, V comparable](name, doc string, initial V, at func(*T) *V, read func(node) V, schema object) field[T] {
	return field[T]{
		name: name, doc: doc,
		reset: func(into *T) { *at(into) = initial },
		read:  func(n node, into *T) { *at(into) = read(n) },
		write: func(from *T) (any, bool) { v := *at(from); return v, v != initial },
		schema: func() object {
			var zero V
			if initial == zero && schemaNeeds(schema) {
				return schema // absent is not the same as any value
			}
			return append(slices.Clone(schema), member{"default", initial})
		},
	}
}

// schemaNeeds tells whether a schema's own limits shut out the zero value.
func schemaNeeds(schema object) bool {
	for _, m := range schema {
		if m.key == "enum" || m.key == "minimum" && m.value == 1 {
			return true
		}
	}
	return false
}

func whole[T any](name string, low, high, initial int, doc string, at func(*T) *int) field[T] {
	return scalar(name, doc, initial, at,
		func(n node) int { return inRange(n, n.whole(), low, high) },
		object{{"type", "integer"}, {"minimum", low}, {"maximum", high}})
}

func flag[T any](name, doc string, at func(*T) *bool) field[T] {
	return scalar(name, doc, false, at, node.flag, object{{"type", "boolean"}})
}

func number[T any](name string, low, high, initial float64, doc string, at func(*T) *float64) field[T] {
	return scalar(name, doc, initial, at,
		func(n node) float64 { return inRange(n, n.number(), low, high) },
		object{{"type", "number"}, {"minimum", low}, {"maximum", high}})
}

func choice[T any](name string, allowed []string, initial, doc string, at func(*T) *string) field[T] {
	return scalar(name, doc, initial, at,
		func(n node) string {
			text := n.text()
			if !slices.Contains(allowed, text) {
				refuse(n.path, "%s is not allowed; allowed: %s", strconv.Quote(text), strings.Join(allowed, ", "))
			}
			return text
		},
		object{{"type", "string"}, {"enum", allowed}})
}

// text is a free text of at most limit characters.
func text[T any](name string, limit int, initial, doc string, at func(*T) *string) field[T] {
	return scalar(name, doc, initial, at,
		func(n node) string {
			got := n.text()
			if count := utf8.RuneCountInString(got); count > limit {
				refuse(n.path, "%d characters are above %d; allowed: 0..%d", count, limit, limit)
			}
			if strings.ContainsFunc(got, func(r rune) bool { return r < ' ' || r == 0x7f }) {
				refuse(n.path, "holds a control character; allowed: printable text")
			}
			return got
		},
		object{{"type", "string"}, {"maxLength", limit}})
}

// parsed is a text that must pass a parser, such as a meter.
func parsed[T any](name, initial, doc string, parse func(string) error, at func(*T) *string) field[T] {
	return scalar(name, doc, initial, at,
		func(n node) string {
			got := n.text()
			if err := parse(got); err != nil {
				refuse(n.path, "%v", err)
			}
			return got
		},
		object{{"type", "string"}})
}

// inner is an object that is always there.
func inner[T, U any](name, doc string, s *shape[U], at func(*T) *U) field[T] {
	return field[T]{
		name: name, doc: doc,
		reset: func(into *T) { *at(into) = s.fresh() },
		read: func(n node, into *T) {
			s.patch(n, at(into))
			s.verify(n.path, at(into))
		},
		write:  func(from *T) (any, bool) { out := s.write(at(from)); return out, len(out) > 0 },
		schema: func() object { return s.schema() },
	}
}

// optional is an object that may be missing; null takes it away.
func optional[T, U any](name, doc string, s *shape[U], at func(*T) **U) field[T] {
	return field[T]{
		name: name, doc: doc,
		reset: func(into *T) { *at(into) = nil },
		read: func(n node, into *T) {
			if n.value == nil {
				*at(into) = nil
				return
			}
			value := s.read(n)
			*at(into) = &value
		},
		write: func(from *T) (any, bool) {
			if *at(from) == nil {
				return nil, false
			}
			return s.write(*at(from)), true
		},
		schema: func() object {
			return object{{"anyOf", []any{s.schema(), object{{"type", "null"}}}}}
		},
	}
}

// list is an array of low..high objects. When it may not be empty and is
// absent, initial makes it.
func list[T, U any](name string, low, high int, doc string, s *shape[U], initial func() []U, at func(*T) *[]U) field[T] {
	return field[T]{
		name: name, doc: doc,
		reset: func(into *T) { *at(into) = initial() },
		read: func(n node, into *T) {
			items := n.list(low, high)
			out := make([]U, len(items))
			for i, item := range items {
				out[i] = s.read(n.item(i, item))
			}
			*at(into) = out
		},
		write: func(from *T) (any, bool) {
			out := make([]any, len(*at(from)))
			for i := range *at(from) {
				out[i] = s.write(&(*at(from))[i])
			}
			return out, len(out) > 0
		},
		schema: func() object {
			return object{{"type", "array"}, {"minItems", low}, {"maxItems", high}, {"items", s.schema()}}
		},
	}
}

func none[U any]() []U { return []U{} }

// node is a value in a document and the way to it.
type node struct {
	path  string
	value any // nil, bool, string, jsonNumber (or int, float64), []any or object
}

func (n node) member(key string) string {
	if n.path == "" {
		return key
	}
	return n.path + "." + key
}

func (n node) item(i int, value any) node { return node{fmt.Sprintf("%s[%d]", n.path, i), value} }

func (n node) has(key string) bool {
	return slices.ContainsFunc(n.object(), func(m member) bool { return m.key == key })
}

func (n node) wrong(want string) { refuse(n.path, "is %s; allowed: %s", kindOf(n.value), want) }

func kindOf(value any) string {
	switch v := value.(type) {
	case nil:
		return "null"
	case bool:
		return "a boolean"
	case string:
		return "a text"
	case []any:
		return "a list"
	case object:
		return "an object"
	default:
		return fmt.Sprintf("the number %v", v)
	}
}

func (n node) object() object {
	v, ok := n.value.(object)
	if !ok {
		n.wrong("an object")
	}
	return v
}

func (n node) list(low, high int) []any {
	v, ok := n.value.([]any)
	if !ok {
		n.wrong("a list")
	}
	if len(v) < low || len(v) > high {
		where := "below"
		limit := low
		if len(v) > high {
			where, limit = "above", high
		}
		refuse(n.path, "%d items are %s %d; allowed: %d..%d", len(v), where, limit, low, high)
	}
	return v
}

func (n node) text() string {
	v, ok := n.value.(string)
	if !ok {
		n.wrong("a text")
	}
	return v
}

func (n node) flag() bool {
	v, ok := n.value.(bool)
	if !ok {
		n.wrong("true or false")
	}
	return v
}

func (n node) number() float64 {
	switch v := n.value.(type) {
	case jsonNumber:
		f, err := strconv.ParseFloat(string(v), 64)
		if err != nil {
			refuse(n.path, "%s is not a number that can be held", v)
		}
		return f
	case int: // from a tree that was written, not parsed
		return float64(v)
	case float64:
		return v
	}
	n.wrong("a number")
	return 0
}

func (n node) whole() int {
	f := n.number()
	if f != math.Trunc(f) || math.Abs(f) > 1<<53 {
		n.wrong("a whole number")
	}
	return int(f)
}
