package document

import (
	"bytes"
	"encoding/json"
	"math"
	"strconv"
	"unicode/utf8"
)

// lineWidth is how long an object or list may be to stay on one line.
const lineWidth = 110

// Print writes a tree as JSON for people: short objects on one line.
func Print(value any) []byte {
	out, _ := PrintWithin(value, math.MaxInt)
	return out
}

// PrintWithin is Print as long as that has no more than so many bytes; false: it would have.
func PrintWithin(value any, most int) (text []byte, fits bool) {
	var out bytes.Buffer
	defer func() {
		if problem := recover(); problem != nil {
			if _, long := problem.(tooLong); !long {
				panic(problem)
			}
			text, fits = nil, false
		}
	}()
	printTo(&out, value, "", most)
	out.WriteByte('\n')
	return out.Bytes(), out.Len() <= most
}

// tooLong ends printing.
type tooLong struct{}

// Raw is a part of a tree that is printed already, on one line.
type Raw []byte

// Lazy is a part of a tree that is made when it is printed, and let go then: of a large tree
// little is there at once.
type Lazy struct {
	make func() any
	made any
}

// Later makes a part when it is printed.
func Later(make func() any) *Lazy { return &Lazy{make: make} }

func (l *Lazy) value() any {
	if l.made == nil {
		l.made = l.make()
	}
	return l.made
}

func printTo(out *bytes.Buffer, value any, indent string, most int) {
	if lazy, ok := value.(*Lazy); ok {
		value = lazy.value()
		lazy.made = nil
	}
	start := out.Len()
	if start > most {
		panic(tooLong{})
	}
	if inline(out, value, start+lineWidth-len(indent)) {
		return
	}
	out.Truncate(start)
	deeper := indent + "  "
	switch v := value.(type) {
	case Object:
		out.WriteString("{\n")
		for i, m := range v {
			out.WriteString(deeper)
			text(out, m.Key)
			out.WriteString(": ")
			printTo(out, m.Value, deeper, most)
			separate(out, i, len(v))
		}
		out.WriteString(indent + "}")
	case []any:
		out.WriteString("[\n")
		for i, item := range v {
			out.WriteString(deeper)
			printTo(out, item, deeper, most)
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
	case Raw:
		out.Write(v)
	case *Lazy:
		return inline(out, v.value(), limit)
	case Object:
		out.WriteByte('{')
		for i, m := range v {
			if i > 0 {
				out.WriteString(", ")
			}
			text(out, m.Key)
			out.WriteString(": ")
			if !inline(out, m.Value, limit) {
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
		return inline(out, Anys(v), limit)
	case bool:
		out.WriteString(strconv.FormatBool(v))
	case int:
		out.WriteString(strconv.Itoa(v))
	case string:
		text(out, v)
	default:
		encode(out, v)
	}
	return out.Len() <= limit
}

// text writes a text; most need no escape, and are many.
func text(out *bytes.Buffer, s string) {
	for i := range len(s) {
		if c := s[i]; c < ' ' || c == '"' || c == '\\' || c >= utf8.RuneSelf {
			encode(out, s)
			return
		}
	}
	out.WriteByte('"')
	out.WriteString(s)
	out.WriteByte('"')
}

func encode(out *bytes.Buffer, value any) {
	encoder := json.NewEncoder(out)
	encoder.SetEscapeHTML(false)
	if err := encoder.Encode(value); err != nil {
		panic(err) // the shapes write texts, numbers and booleans only
	}
	out.Truncate(out.Len() - 1) // the encoder's line end
}
