package document

import (
	"bytes"
	"encoding/json"
	"math"
	"strconv"
)

// lineWidth is how long an object or list may be to stay on one line.
const lineWidth = 110

// Print writes a tree as JSON for people: short objects on one line.
func Print(value any) []byte {
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
	case Object:
		out.WriteString("{\n")
		for i, m := range v {
			out.WriteString(deeper)
			inline(out, m.Key, math.MaxInt)
			out.WriteString(": ")
			printTo(out, m.Value, deeper)
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
	case Object:
		out.WriteByte('{')
		for i, m := range v {
			if i > 0 {
				out.WriteString(", ")
			}
			inline(out, m.Key, math.MaxInt)
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
