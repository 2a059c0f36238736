package document

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strconv"
)

// Member and Object are a JSON object in the document's own order.
type (
	Member struct {
		Key   string
		Value any // nil, bool, string, json.Number (or int, float64), []any, Object
	}
	Object []Member
)

// Pairs makes an object of names and values in turn.
func Pairs(namesAndValues ...any) Object {
	out := make(Object, len(namesAndValues)/2)
	for i := range out {
		out[i] = Member{namesAndValues[2*i].(string), namesAndValues[2*i+1]}
	}
	return out
}

func (o Object) has(key string) bool { _, ok := o.get(key); return ok }

func (o Object) get(key string) (any, bool) {
	i := slices.IndexFunc(o, func(m Member) bool { return m.Key == key })
	if i < 0 {
		return nil, false
	}
	return o[i].Value, true
}

// Requiring is the schema of an object that must have one more member.
func (o Object) Requiring(name string) Object {
	i := slices.IndexFunc(o, func(m Member) bool { return m.Key == "required" })
	if i < 0 {
		return append(o, Member{"required", []any{name}})
	}
	out := slices.Clone(o)
	out[i].Value = append([]any{name}, out[i].Value.([]any)...)
	return out
}

// Get finds a member of a value that is an object; nil when it is not there.
func Get(value any, key string) any {
	object, _ := value.(Object)
	found, _ := object.get(key)
	return found
}

func wrong(a *At, value any, want string) { a.Refuse("is %s; allowed: %s", nameOf(value), want) }

func nameOf(value any) string {
	switch v := value.(type) {
	case nil:
		return "null"
	case bool:
		return "a boolean"
	case string:
		return "a text"
	case []any:
		return "a list"
	case Object:
		return "an object"
	default:
		return fmt.Sprintf("the number %v", v)
	}
}

// ObjectOf takes an object, or refuses.
func ObjectOf(a *At, value any) Object {
	v, ok := value.(Object)
	if !ok {
		wrong(a, value, "an object")
	}
	return v
}

// ListOf takes a list of low..high items, or refuses.
func ListOf(a *At, value any, low, high int) []any {
	v, ok := value.([]any)
	if !ok {
		wrong(a, value, "a list")
	}
	Count(a, len(v), low, high)
	return v
}

// Count refuses a list whose items are not low..high.
func Count(a *At, n, low, high int) {
	if n < low {
		a.Refuse("%d items are below %d; allowed: %d..%d", n, low, low, high)
	}
	if n > high {
		a.Refuse("%d items are above %d; allowed: %d..%d", n, high, low, high)
	}
}

// TextOf takes a text, or refuses.
func TextOf(a *At, value any) string {
	v, ok := value.(string)
	if !ok {
		wrong(a, value, "a text")
	}
	return v
}

func flagOf(a *At, value any) bool {
	v, ok := value.(bool)
	if !ok {
		wrong(a, value, "true or false")
	}
	return v
}

// NumberOf takes a number, or refuses.
func NumberOf(a *At, value any) float64 {
	switch v := value.(type) {
	case json.Number:
		f, err := strconv.ParseFloat(string(v), 64)
		if err != nil {
			a.Refuse("is a number beyond what can be held")
		}
		return f
	case int:
		return float64(v)
	case float64:
		return v
	}
	wrong(a, value, "a number")
	return 0
}

// WholeOf takes a whole number, or refuses.
func WholeOf(a *At, value any) int {
	f := NumberOf(a, value)
	if f != math.Trunc(f) {
		wrong(a, value, "a whole number")
	}
	if math.Abs(f) > 1<<53 {
		a.Refuse("is a number beyond what can be held")
	}
	return int(f)
}

// Anys makes a list of any of a list.
func Anys[T any](items []T) []any {
	out := make([]any, len(items))
	for i, item := range items {
		out[i] = item
	}
	return out
}
