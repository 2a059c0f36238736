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
)

// MaxDepth bounds nesting; a piece needs 8 levels.
const MaxDepth = 32

// Parse reads JSON text into a tree of Object, []any, string, json.Number, bool
// and nil. The error is a *Fault that says line and column; a member given
// twice is refused with its path.
func Parse(data []byte) (root any, err error) {
	defer Catch(&err)
	data = bytes.TrimPrefix(data, []byte("\ufeff"))
	decoder := jsontext.NewDecoder(bytes.NewBuffer(data))
	p := parser{decoder, data}
	root = p.value(0)
	if _, err := decoder.ReadToken(); !errors.Is(err, io.EOF) {
		p.refuse("something follows the end of the document")
	}
	return root, nil
}

type parser struct {
	*jsontext.Decoder
	data []byte
}

func (p parser) refuse(format string, args ...any) { p.refuseAt(p.InputOffset(), format, args...) }

func (p parser) refuseAt(offset int64, format string, args ...any) {
	before := p.data[:min(int(offset), len(p.data))]
	line := bytes.Count(before, []byte("\n")) + 1
	column := utf8.RuneCount(before[bytes.LastIndexByte(before, '\n')+1:]) + 1
	Root("").Refuse("line %d, column %d: %s", line, column, fmt.Sprintf(format, args...))
}

func (p parser) token() jsontext.Token {
	token, err := p.ReadToken()
	if err == nil {
		return token
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
	return token
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

func (p parser) value(depth int) any {
	if depth > MaxDepth {
		panic(&Fault{pathOf(p.StackPointer()), fmt.Sprintf("is nested more than %d levels deep", MaxDepth)})
	}
	token := p.token()
	switch token.Kind() {
	case '{':
		out := Object{}
		for p.PeekKind() != '}' {
			key := p.token().String()
			out = append(out, Member{key, p.value(depth + 1)})
		}
		p.token()
		return out
	case '[':
		out := []any{}
		for p.PeekKind() != ']' {
			out = append(out, p.value(depth+1))
		}
		p.token()
		return out
	case '"':
		return token.String()
	case '0':
		return json.Number(token.String())
	case 't', 'f':
		return token.Bool()
	}
	return nil
}
