package document

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/go-json-experiment/json/jsontext"

	"agrimony/internal/core/budget"
)

// MaxDepth bounds nesting; a piece needs 8 levels.
const MaxDepth = 32

// workOfValue is what a value of a document costs to parse, and a member to read, in units of work.
const workOfValue = 6

// Parse reads JSON text into a tree of Object, []any, string, json.Number, bool
// and nil. The error is a *Fault that says line and column; a member given
// twice is refused with its path.
func Parse(data []byte) (root any, err error) { return parse(nil, data) }

// parse is Parse within a budget.
func parse(work *budget.Budget, data []byte) (root any, err error) {
	defer Catch(&err)
	data = bytes.TrimPrefix(data, []byte("\ufeff"))
	decoder := jsontext.NewDecoder(bytes.NewBuffer(data))
	p := &parser{Decoder: decoder, data: data, work: work, seen: map[string]any{}}
	root = p.value(0)
	if _, err := decoder.ReadToken(); !errors.Is(err, io.EOF) {
		p.refuse("something follows the end of the document")
	}
	return root, nil
}

type parser struct {
	*jsontext.Decoder
	data []byte
	work *budget.Budget
	// What was met before, by how it is written: a large document says the same few names
	// and numbers over and over.
	seen map[string]any
	// Members and items of what is open, until it is known how many there are.
	members []Member
	items   []any
}

// mostSeen and longestSeen bound what is kept of what was met.
const (
	mostSeen    = 4096
	longestSeen = 16
)

func (p *parser) refuse(format string, args ...any) { p.refuseAt(p.InputOffset(), format, args...) }

func (p *parser) refuseAt(offset int64, format string, args ...any) {
	before := p.data[:min(int(offset), len(p.data))]
	line := bytes.Count(before, []byte("\n")) + 1
	column := utf8.RuneCount(before[bytes.LastIndexByte(before, '\n')+1:]) + 1
	Root("").Refuse("line %d, column %d: %s", line, column, fmt.Sprintf(format, args...))
}

// token reads a bracket.
func (p *parser) token() {
	_, err := p.ReadToken()
	p.hold(err)
}

// hold refuses a document that the decoder does not take.
func (p *parser) hold(err error) {
	if err == nil {
		return
	}
	var syntactic *jsontext.SyntacticError
	switch {
	case errors.Is(err, io.EOF), errors.Is(err, io.ErrUnexpectedEOF):
		p.refuseAt(int64(len(p.data)), "the document ends in the middle")
	case errors.Is(err, jsontext.ErrDuplicateName) && errors.As(err, &syntactic):
		panic(&Fault{pathOf(syntactic.JSONPointer), "is there twice; allowed: each field once"})
	case errors.As(err, &syntactic):
		if !utf8.Valid(p.data) {
			Root("").Refuse("the document is not valid UTF-8 text")
		}
		p.refuseAt(syntactic.ByteOffset, "not valid JSON (%s)", strings.TrimPrefix(syntactic.Err.Error(), "jsontext: "))
	}
	p.refuse("not valid JSON (%v)", err)
}

// pathOf writes a JSON Pointer as this package's paths.
func pathOf(pointer jsontext.Pointer) string {
	at := Root("")
	for name := range pointer.Tokens() {
		if index, err := strconv.Atoi(name); err == nil {
			at = at.Item(index)
		} else {
			at = at.Field(name)
		}
	}
	return at.String()
}

func (p *parser) value(depth int) any {
	if depth > MaxDepth {
		panic(&Fault{pathOf(p.StackPointer()), fmt.Sprintf("is nested more than %d levels deep", MaxDepth)})
	}
	p.work.Spend(workOfValue)
	switch p.PeekKind() {
	case '{':
		p.token()
		from := len(p.members)
		for p.PeekKind() != '}' {
			key := p.plain().(string)
			member := Member{key, p.value(depth + 1)}
			p.members = append(p.members, member)
		}
		p.token()
		return Object(taken(&p.members, from))
	case '[':
		p.token()
		from := len(p.items)
		for p.PeekKind() != ']' {
			item := p.value(depth + 1)
			p.items = append(p.items, item)
		}
		p.token()
		return taken(&p.items, from)
	}
	return p.plain()
}

// taken takes what a list has from a place on, as a list of its own.
func taken[T any](all *[]T, from int) []T {
	out := append(make([]T, 0, len(*all)-from), (*all)[from:]...)
	clear((*all)[from:])
	*all = (*all)[:from]
	return out
}

// plain reads a name, or a value that holds no others.
func (p *parser) plain() any {
	text, err := p.ReadValue()
	p.hold(err)
	if value, ok := p.seen[string(text)]; ok {
		return value
	}
	var value any
	switch text.Kind() {
	case '"':
		unquoted, err := jsontext.AppendUnquote(nil, text)
		p.hold(err)
		value = string(unquoted)
	case '0':
		value = json.Number(text)
	case 't', 'f':
		value = text.Kind() == 't'
	}
	if len(text) <= longestSeen && len(p.seen) < mostSeen {
		p.seen[string(text)] = value
	}
	return value
}
