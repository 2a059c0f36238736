package piece

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"
	"unicode/utf8"
)

// member and object are a JSON object in the document's own order.
type (
	member struct {
		key   string
		value any
	}
	object     []member
	jsonNumber = json.Number
)

// maxDepth bounds nesting; a document needs 7 levels.
const maxDepth = 32

// parse reads JSON text into a tree. Its errors say line and column.
func parse(data []byte) (root any, err error) {
	defer catch(&err)
	if !utf8.Valid(data) {
		return nil, &Fault{Problem: "the document is not valid UTF-8 text"}
	}
	data = bytes.TrimPrefix(data, []byte("\ufeff"))
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.UseNumber()
	p := parser{decoder, data}
	root = p.value(p.token(), "", 0)
	if _, err := decoder.Token(); !errors.Is(err, io.EOF) {
		refuse("", "%s: something follows the end of the document", p.where())
	}
	return root, nil
}

type parser struct {
	*json.Decoder
	data []byte
}

func (p parser) where() string {
	before := p.data[:min(int(p.InputOffset()), len(p.data))]
	line := bytes.Count(before, []byte("\n")) + 1
	return fmt.Sprintf("line %d, column %d", line, utf8.RuneCount(before[bytes.LastIndexByte(before, '\n')+1:])+1)
}

func (p parser) token() json.Token {
	token, err := p.Token()
	switch {
	case errors.Is(err, io.EOF), errors.Is(err, io.ErrUnexpectedEOF):
		refuse("", "%s: the document ends in the middle", p.where())
	case err != nil:
		refuse("", "%s: not valid JSON (%s)", p.where(), strings.TrimPrefix(err.Error(), "json: "))
	}
	return token
}

func (p parser) value(token json.Token, path string, depth int) any {
	if depth > maxDepth {
		refuse(path, "is nested more than %d levels deep", maxDepth)
	}
	switch token {
	case json.Delim('{'):
		out := object{}
		seen := map[string]bool{}
		for p.More() {
			key := p.token().(string)
			at := node{path: path}.member(key)
			if seen[key] {
				refuse(at, "is there twice; allowed: each field once")
			}
			seen[key] = true
			out = append(out, member{key, p.value(p.token(), at, depth+1)})
		}
		p.token()
		return out
	case json.Delim('['):
		out := []any{}
		for p.More() {
			out = append(out, p.value(p.token(), fmt.Sprintf("%s[%d]", path, len(out)), depth+1))
		}
		p.token()
		return out
	}
	return token
}

// lineWidth is how long an object or list may be to stay on one line.
const lineWidth = 110

// print writes a tree as JSON for people: short objects on one line.
func print(value any) []byte {
	var out bytes.Buffer
	printTo(&out, value, "")
	out.WriteByte('\n')
	return out.Bytes()
}

func printTo(out *bytes.Buffer, value any, indent string) {
	start := out.Len()
	if inline(out, value, start+lineWidth-len(indent)) {
		return
	}
	out.Truncate(start)
	deeper := indent + "  "
	switch v := value.(type) {
	case object:
		out.WriteString("{\n")
		for i, m := range v {
			out.WriteString(deeper)
			inline(out, m.key, math.MaxInt)
			out.WriteString(": ")
			printTo(out, m.value, deeper)
			separate(out, i, len(v))
		}
		out.WriteString(indent + "}")
	case []any:
		out.WriteString("[\n")
		for i, item := range v {
			out.WriteString(deeper)
			printTo(out, item, deeper)
			separate(out, i, len(v))
		}
		out.WriteString(indent + "]")
	default:
		inline(out, v, math.MaxInt) // a text longer than the line
	}
}

func separate(out *bytes.Buffer, i, n int) {
	if i < n-1 {
		out.WriteByte(',')
	}
	out.WriteByte('\n')
}

// inline writes a value on one line, and gives up with false when the buffer
// grows beyond limit.
func inline(out *bytes.Buffer, value any, limit int) bool {
	switch v := value.(type) {
	case object:
		out.WriteByte('{')
		for i, m := range v {
			if i > 0 {
				out.WriteString(", ")
			}
			inline(out, m.key, math.MaxInt)
			out.WriteString(": ")
			if !inline(out, m.value, limit) {
				return false
			}
		}
		out.WriteByte('}')
	case []any:
		out.WriteByte('[')
		for i, item := range v {
			if i > 0 {
				out.WriteString(", ")
			}
			if !inline(out, item, limit) {
				return false
			}
		}
		out.WriteByte(']')
	case []string:
		return inline(out, anyList(v), limit)
	case bool:
		out.WriteString(strconv.FormatBool(v))
	case int:
		out.WriteString(strconv.Itoa(v))
	default:
		encoder := json.NewEncoder(out)
		encoder.SetEscapeHTML(false)
		if err := encoder.Encode(v); err != nil {
			panic(err) // the shapes write texts, numbers and booleans only
		}
		out.Truncate(out.Len() - 1) // the encoder's line end
	}
	return out.Len() <= limit
}
