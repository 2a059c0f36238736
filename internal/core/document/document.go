// Package document reads, checks, writes and publishes JSON documents from
// tables of fields.
//
// A Shape lists the fields of one object; a Field says how one member is read,
// checked, written and published. Every range, default, unit and word stands
// once, in such a table: reading, checking a value changed in memory, writing,
// errors, the JSON Schema and the facts that forms show all come from there.
package document

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"agrimony/internal/core/budget"
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

// At is a place in a document. Paths are built only when something is wrong. Who is given one must not keep it:
// the next member or item is read with the same At.
type At struct {
	up    *At
	name  string
	index int
	work  *budget.Budget // what reading may cost
}

// Root is the place of a document that a path leads to, usually "".
func Root(path string) *At { return &At{name: path} }

// Field is the place of a member of the object at a.
func (a *At) Field(name string) *At { return &At{up: a, name: name, work: a.work} }

// Item is the place of an item (from 0) of the list at a.
func (a *At) Item(index int) *At { return &At{up: a, index: index, work: a.work} }

// String is the path: "clips[0].lanes[1].rate".
func (a *At) String() string {
	if a.up == nil {
		return a.name
	}
	path := a.up.String()
	switch {
	case a.name == "":
		return fmt.Sprintf("%s[%d]", path, a.index)
	case path == "":
		return a.name
	}
	return path + "." + a.name
}

// Refuse gives up; Catch turns it into the *Fault that readers return.
func (a *At) Refuse(format string, args ...any) {
	panic(&Fault{a.String(), fmt.Sprintf(format, args...)})
}

// Catch is deferred by whatever reads or checks.
func Catch(err *error) {
	switch problem := recover().(type) {
	case nil:
	case *Fault:
		*err = problem
	default:
		panic(problem)
	}
}

// Shape describes one kind of object.
type Shape[T any] struct {
	Doc    string
	Fields []Field[T]
	// Check holds the rules across fields; it may refuse, and may fill in what
	// depends on other fields.
	Check func(at *At, into *T)
	// Given is told, before a patch, which members it names: of members that
	// exclude each other, the one not named goes.
	Given func(named func(string) bool, into *T)
	// Also is what the JSON Schema says beside the fields.
	Also Object
}

// Field describes one member of an object of type T.
type Field[T any] struct {
	Name  string
	Title string // how forms and rails call it
	Unit  string // of the value: "%", "semitones"; empty: a plain number
	Doc   string

	required bool
	reset    func(into *T)
	read     func(at *At, value any, into *T) // at is the member's
	check    func(at *At, into *T)            // at is the object's, to spare a place for each good value
	write    func(from *T) (value any, present bool)
	schema   func() Object
	facts    func() Object // what forms need beside title, unit and doc
}

// Titled names the field as forms show it.
func (f Field[T]) Titled(title string) Field[T] { f.Title = title; return f }

// In states the unit.
func (f Field[T]) In(unit string) Field[T] { f.Unit = unit; return f }

// Within tells forms the range of the numbers in a field that reads itself.
func (f Field[T]) Within(low, high int) Field[T] {
	f.facts = func() Object { return Object{{"low", low}, {"high", high}} }
	return f
}

// Among tells forms the words that a field takes that reads itself.
func (f Field[T]) Among(words []string) Field[T] {
	f.facts = func() Object { return Object{{"choices", words}} }
	return f
}

// LeftOut leaves the field out of what is written where told, for one whose initial value
// depends on others.
func (f Field[T]) LeftOut(where func(from *T) bool) Field[T] {
	write := f.write
	f.write = func(from *T) (any, bool) {
		value, present := write(from)
		return value, present && !where(from)
	}
	return f
}

// Starting puts something else there where nothing is read, for a field whose initial value depends on
// others.
func (f Field[T]) Starting(reset func(into *T)) Field[T] { f.reset = reset; return f }

// Stated writes the field also where it is as if absent, for a reader's sake.
func (f Field[T]) Stated(where bool) Field[T] {
	write := f.write
	f.write = func(from *T) (any, bool) {
		value, present := write(from)
		return value, present || where
	}
	return f
}

// Needed makes the field required.
func (f Field[T]) Needed() Field[T] { f.required = true; return f }

// Lift makes a field of an object that holds another object's fields as its own.
func Lift[T, U any](at func(*T) *U, fields ...Field[U]) []Field[T] {
	out := make([]Field[T], len(fields))
	for i, f := range fields {
		out[i] = Field[T]{
			Name: f.Name, Title: f.Title, Unit: f.Unit, Doc: f.Doc, required: f.required, schema: f.schema, facts: f.facts,
			reset: func(into *T) { f.reset(at(into)) },
			read:  func(a *At, value any, into *T) { f.read(a, value, at(into)) },
			check: func(a *At, into *T) { f.check(a, at(into)) },
			write: func(from *T) (any, bool) { return f.write(at(from)) },
		}
	}
	return out
}

// Fresh is an object with every field at its default.
func (s *Shape[T]) Fresh() T {
	var out T
	s.Reset(&out)
	return out
}

// Reset puts every field to its default.
func (s *Shape[T]) Reset(into *T) {
	for _, f := range s.Fields {
		f.reset(into)
	}
}

// Read makes an object: defaults first, then what the document says.
func (s *Shape[T]) Read(at *At, value any) T {
	var out T
	s.Make(at, value, &out)
	return out
}

// Make is Read of an object that has a place already.
func (s *Shape[T]) Make(at *At, value any, out *T) {
	s.Reset(out)
	s.ReadInto(at, value, out)
}

// ReadInto reads an object over what is there, and holds it to all rules.
func (s *Shape[T]) ReadInto(at *At, value any, into *T) {
	s.Patch(at, value, into)
	for _, f := range s.Fields {
		if f.required && !ObjectOf(at, value).has(f.Name) {
			at.Field(f.Name).Refuse("is missing")
		}
	}
	s.across(at, into)
}

// Patch changes only the members that are given, and leaves the rules across
// fields to the caller.
func (s *Shape[T]) Patch(at *At, value any, into *T) {
	members := ObjectOf(at, value)
	if s.Given != nil {
		s.Given(members.has, into)
	}
	at.work.Spend(workOfValue * int64(len(members)))
	place := at.Field("") // one for all: a large document has many members
	for _, m := range members {
		i := slices.IndexFunc(s.Fields, func(f Field[T]) bool { return f.Name == m.Key })
		if i < 0 {
			at.Field(shown(m.Key)).Refuse("is not a known field; allowed: %s", strings.Join(s.names(), ", "))
		}
		place.name = m.Key
		s.Fields[i].read(place, m.Value, into)
	}
}

// shown is a name that someone made up, fit for a line of text.
func shown(name string) string {
	const most = 80
	cut := []rune(name)
	if len(cut) > most {
		cut = append(cut[:most], '…')
	}
	if plain := string(cut); plain != "" && !strings.ContainsFunc(plain, func(r rune) bool { return !unicode.IsPrint(r) }) {
		return plain
	}
	return strconv.Quote(string(cut))
}

func (s *Shape[T]) names() []string {
	names := make([]string, len(s.Fields))
	for i, f := range s.Fields {
		names[i] = f.Name
	}
	return names
}

func (s *Shape[T]) across(at *At, into *T) {
	if s.Check != nil {
		s.Check(at, into)
	}
}

// Verify holds an object changed in memory to the rules that reading would.
func (s *Shape[T]) Verify(at *At, into *T) {
	for _, f := range s.Fields {
		f.check(at, into)
	}
	s.across(at, into)
}

// Write gives the object with fields at their defaults left out.
func (s *Shape[T]) Write(from *T) Object {
	out := Object{}
	for _, f := range s.Fields {
		if value, present := f.write(from); present || f.required {
			out = append(out, Member{f.Name, value})
		}
	}
	return out
}

// Read reads a document of the shape.
func Read[T any](s *Shape[T], data []byte) (*T, error) { return ReadWithin(nil, s, data) }

// ReadWithin is Read within a budget.
func ReadWithin[T any](work *budget.Budget, s *Shape[T], data []byte) (out *T, err error) {
	defer budget.Catch(&err)
	defer Catch(&err)
	root, err := parse(work, data)
	if err != nil {
		return nil, err
	}
	value := s.Read(&At{work: work}, root)
	return &value, nil
}

// Patch changes the fields that the JSON object data names and leaves the
// others: all of them or none. path begins the path in errors.
func Patch[T any](s *Shape[T], path string, data []byte, into *T, clone func(*T) T) (err error) {
	defer Catch(&err)
	root, err := Parse(data)
	if err != nil {
		return err
	}
	next := clone(into)
	at := Root(path)
	s.Patch(at, root, &next)
	s.across(at, &next)
	*into = next
	return nil
}

// Check holds a value changed in memory to the shape's rules.
func Check[T any](s *Shape[T], path string, value *T) (err error) {
	defer Catch(&err)
	s.Verify(Root(path), value)
	return nil
}

// Known keeps the members that the shape has a field for.
func (s *Shape[T]) Known(value Object) Object {
	out := Object{}
	for _, m := range value {
		if slices.Contains(s.names(), m.Key) {
			out = append(out, m)
		}
	}
	return out
}
