package document

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"
)

// Scalar builds a field of a comparable value: parse takes it from JSON, and
// wrong says what is wrong with a value, "" when nothing is.
func Scalar[T any, V comparable](name, doc string, initial V, at func(*T) *V, parse func(*At, any) V, wrong func(V) string, schema, facts Object) Field[T] {
	return Field[T]{
		Name: name, Title: titleOf(name), Doc: doc,
		reset: func(into *T) { *at(into) = initial },
		read: func(a *At, value any, into *T) {
			got := parse(a, value)
			if problem := wrong(got); problem != "" {
				a.Refuse("%s", problem)
			}
			*at(into) = got
		},
		check: func(a *At, into *T) {
			// What a field starts with may stand for "absent" and lie outside.
			if got := *at(into); got != initial {
				if problem := wrong(got); problem != "" {
					a.Field(name).Refuse("%s", problem)
				}
			}
		},
		write: func(from *T) (any, bool) { v := *at(from); return v, v != initial },
		schema: func() Object {
			if wrong(initial) != "" {
				return schema // absent is not the same as any value
			}
			return append(slices.Clone(schema), Member{"default", initial})
		},
		facts: func() Object {
			if wrong(initial) != "" {
				return facts
			}
			return append(slices.Clone(facts), Member{"initial", initial})
		},
	}
}

func titleOf(name string) string { return strings.ToUpper(name[:1]) + name[1:] }

func within[N int | float64](low, high N) func(N) string {
	return func(got N) string {
		switch {
		case got < low:
			return fmt.Sprintf("%v is below %v; allowed: %v..%v", got, low, low, high)
		case got > high:
			return fmt.Sprintf("%v is above %v; allowed: %v..%v", got, high, low, high)
		}
		return ""
	}
}

// Whole is a whole number within low..high.
func Whole[T any](name string, low, high, initial int, doc string, at func(*T) *int) Field[T] {
	return Scalar(name, doc, initial, at, WholeOf, within(low, high),
		Object{{"type", "integer"}, {"minimum", low}, {"maximum", high}}, Object{{"low", low}, {"high", high}})
}

// Flag is true or false; false unless stated.
func Flag[T any](name, doc string, at func(*T) *bool) Field[T] {
	return Scalar(name, doc, false, at, flagOf, func(bool) string { return "" }, Object{{"type", "boolean"}}, Object{})
}

// Number is a number within low..high.
func Number[T any](name string, low, high, initial float64, doc string, at func(*T) *float64) Field[T] {
	return Scalar(name, doc, initial, at, NumberOf, within(low, high),
		Object{{"type", "number"}, {"minimum", low}, {"maximum", high}}, Object{{"low", low}, {"high", high}})
}

// Decimal is a number within low..high with so many decimals at most.
func Decimal[T any](name string, low, high float64, decimals int, initial float64, doc string, at func(*T) *float64) Field[T] {
	inside, scale := within(low, high), math.Pow10(decimals)
	return Scalar(name, doc, initial, at, NumberOf, func(got float64) string {
		if problem := inside(got); problem != "" {
			return problem
		}
		if rounded := math.Round(got*scale) / scale; rounded != got {
			return fmt.Sprintf("%v has more than %d decimals; allowed: %v..%v with %d at most", got, decimals, low, high, decimals)
		}
		return ""
	}, Object{{"type", "number"}, {"minimum", low}, {"maximum", high}}, Object{{"low", low}, {"high", high}, {"decimals", decimals}})
}

// Choice is one of the allowed words.
func Choice[T any](name string, allowed []string, initial, doc string, at func(*T) *string) Field[T] {
	return Scalar(name, doc, initial, at, TextOf, func(text string) string {
		if !slices.Contains(allowed, text) {
			return strconv.Quote(text) + " is not allowed; allowed: " + strings.Join(allowed, ", ")
		}
		return ""
	}, Object{{"type", "string"}, {"enum", allowed}}, Object{{"choices", allowed}})
}

// Text is a free text of at most limit characters.
func Text[T any](name string, limit int, initial, doc string, at func(*T) *string) Field[T] {
	return Scalar(name, doc, initial, at, TextOf, func(got string) string {
		if count := utf8.RuneCountInString(got); count > limit {
			return fmt.Sprintf("%d characters are above %d; allowed: 0..%d", count, limit, limit)
		}
		if strings.ContainsFunc(got, func(r rune) bool { return r < ' ' || r == 0x7f }) {
			return "holds a control character; allowed: printable text"
		}
		return ""
	}, Object{{"type", "string"}, {"maxLength", limit}, {"pattern", "^[^\\x00-\\x1f\\x7f]*$"}}, Object{{"longest", limit}})
}

// Parsed is a text that must pass a parser, such as a meter; its schema is what
// JSON Schema can say of that.
func Parsed[T any](name, initial, doc string, parse func(string) error, at func(*T) *string, schema Object) Field[T] {
	facts := Object{}
	if words, ok := schema.get("enum"); ok {
		facts = Object{{"choices", words}}
	}
	return Scalar(name, doc, initial, at, TextOf, func(text string) string {
		if err := parse(text); err != nil {
			return err.Error()
		}
		return ""
	}, append(Object{{"type", "string"}}, schema...), facts)
}

// Inner is an object that is always there.
func Inner[T, U any](name, doc string, s *Shape[U], at func(*T) *U) Field[T] {
	return Field[T]{
		Name: name, Title: titleOf(name), Doc: doc,
		reset: func(into *T) { *at(into) = s.Fresh() },
		read: func(a *At, value any, into *T) {
			s.Patch(a, value, at(into))
			s.across(a, at(into))
		},
		check:  func(a *At, into *T) { s.Verify(a.Field(name), at(into)) },
		write:  func(from *T) (any, bool) { out := s.Write(at(from)); return out, len(out) > 0 },
		schema: s.schema,
		facts:  func() Object { return Object{{"fields", s.Facts()}} },
	}
}

// Optional is an object that may be missing; null takes it away.
func Optional[T, U any](name, doc string, s *Shape[U], at func(*T) **U) Field[T] {
	return Field[T]{
		Name: name, Title: titleOf(name), Doc: doc,
		reset: func(into *T) { *at(into) = nil },
		read: func(a *At, value any, into *T) {
			*at(into) = nil
			if value != nil {
				read := s.Read(a, value)
				*at(into) = &read
			}
		},
		check: func(a *At, into *T) {
			if *at(into) != nil {
				s.Verify(a.Field(name), *at(into))
			}
		},
		write: func(from *T) (any, bool) {
			if *at(from) == nil {
				return nil, false
			}
			return s.Write(*at(from)), true
		},
		schema: func() Object { return Object{{"anyOf", []any{s.schema(), Object{{"type", "null"}}}}} },
		facts:  func() Object { return Object{{"fields", s.Facts()}} },
	}
}

// OptionalWhole is a whole number within low..high that may be missing; null
// takes it away.
func OptionalWhole[T any](name string, low, high int, doc string, at func(*T) **int) Field[T] {
	wrong := within(low, high)
	return Field[T]{
		Name: name, Title: titleOf(name), Doc: doc,
		reset: func(into *T) { *at(into) = nil },
		read: func(a *At, value any, into *T) {
			*at(into) = nil
			if value != nil {
				got := WholeOf(a, value)
				if problem := wrong(got); problem != "" {
					a.Refuse("%s", problem)
				}
				*at(into) = &got
			}
		},
		check: func(a *At, into *T) {
			if got := *at(into); got != nil && wrong(*got) != "" {
				a.Field(name).Refuse("%s", wrong(*got))
			}
		},
		write: func(from *T) (any, bool) {
			if *at(from) == nil {
				return nil, false
			}
			return **at(from), true
		},
		schema: func() Object {
			return Object{{"type", []string{"integer", "null"}}, {"minimum", low}, {"maximum", high}}
		},
		facts: func() Object { return Object{{"low", low}, {"high", high}} },
	}
}

// List is an array of low..high objects. initial makes it when it is absent.
func List[T, U any](name string, low, high int, doc string, s *Shape[U], initial func() []U, at func(*T) *[]U) Field[T] {
	return Items(name, low, high, doc, s.Make, s.Verify, s.Write, s.schema, s.Facts, initial, at)
}

// Items is an array of low..high values that are read, checked and written by
// the functions given.
func Items[T, U any, W any](name string, low, high int, doc string, read func(*At, any, *U), verify func(*At, *U), write func(*U) W,
	schema, facts func() Object, initial func() []U, at func(*T) *[]U) Field[T] {
	return Field[T]{
		Name: name, Title: titleOf(name), Doc: doc,
		reset: func(into *T) { *at(into) = initial() },
		read: func(a *At, value any, into *T) {
			items := ListOf(a, value, low, high)
			out := make([]U, len(items))
			place := a.Item(0) // one for all: a large document has many items
			for i, item := range items {
				place.index = i
				read(place, item, &out[i])
			}
			*at(into) = out
		},
		check: func(a *At, into *T) {
			items := *at(into)
			list := a.Field(name)
			Count(list, len(items), low, high)
			place := list.Item(0)
			for i := range items {
				place.index = i
				verify(place, &items[i])
			}
		},
		write: func(from *T) (any, bool) {
			out := make([]any, len(*at(from)))
			for i := range *at(from) {
				out[i] = write(&(*at(from))[i])
			}
			return out, len(out) > 0
		},
		schema: func() Object {
			return Object{{"type", "array"}, {"minItems", low}, {"maxItems", high}, {"items", schema()}}
		},
		facts: func() Object { return Object{{"low", low}, {"high", high}, {"fields", facts()}} },
	}
}

// Printed has a list write items in a way of its own, which gives the text that would be printed of
// each; nil: as usual.
func Printed[T, U any](f Field[T], s *Shape[U], at func(*T) *[]U, print func(*U) []byte) Field[T] {
	f.write = func(from *T) (any, bool) {
		items := *at(from)
		out := make([]any, len(items))
		for i := range items {
			if text := print(&items[i]); text != nil {
				out[i] = Raw(text)
			} else {
				out[i] = s.Write(&items[i])
			}
		}
		return out, len(out) > 0
	}
	return f
}

// Plain has a list pass over items that need no check: those of which quick says that all their fields
// are within their ranges.
func Plain[T, U any](f Field[T], s *Shape[U], low, high int, at func(*T) *[]U, quick func(*U) bool) Field[T] {
	f.check = func(a *At, into *T) {
		items := *at(into)
		list := a.Field(f.Name)
		Count(list, len(items), low, high)
		place := list.Item(0)
		for i := range items {
			if !quick(&items[i]) {
				place.index = i
				s.Verify(place, &items[i])
			}
		}
	}
	return f
}

// None is the initial value of a list that starts empty.
func None[U any]() []U { return []U{} }

// Own is a field whose every part is given, for what no builder covers.
func Own[T any](name, doc string, reset func(*T), read func(*At, any, *T), check func(*At, *T), write func(*T) (any, bool), schema func() Object) Field[T] {
	return Field[T]{
		Name: name, Title: titleOf(name), Doc: doc, reset: reset, read: read, check: check, write: write,
		schema: schema, facts: func() Object { return Object{} },
	}
}

// Words is a list of words, each at most once, of those allowed; empty unless stated.
func Words[T any](name string, allowed []string, doc string, at func(*T) *[]string) Field[T] {
	check := func(place *At, got []string) {
		for i, word := range got {
			if !slices.Contains(allowed, word) {
				place.Item(i).Refuse("%s is not allowed; allowed: %s", strconv.Quote(word), strings.Join(allowed, ", "))
			}
			if slices.Contains(got[:i], word) {
				place.Item(i).Refuse("%s is there twice; allowed: each word once", strconv.Quote(word))
			}
		}
	}
	return Own(name, doc,
		func(t *T) { *at(t) = []string{} },
		func(place *At, value any, t *T) {
			items := ListOf(place, value, 0, len(allowed))
			words := make([]string, len(items))
			for i, item := range items {
				words[i] = TextOf(place.Item(i), item)
			}
			check(place, words)
			*at(t) = words
		},
		func(place *At, t *T) { check(place.Field(name), *at(t)) },
		func(t *T) (any, bool) { return Anys(*at(t)), len(*at(t)) > 0 },
		func() Object {
			items := Pairs("type", "string", "enum", allowed)
			return Pairs("type", "array", "uniqueItems", true, "maxItems", len(allowed), "items", items, "default", []string{})
		}).Among(allowed)
}
