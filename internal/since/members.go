package since

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"
	"sync"
)

var (
	marshaler = reflect.TypeFor[json.Marshaler]()
	parted    = reflect.TypeFor[Parted]()
)

// A member is a name in an object with its value.
type member struct {
	name  string
	value reflect.Value
}

type members []member

// isLeaf reports whether values of a type write themselves: they are compared as a whole.
func isLeaf(t reflect.Type) bool {
	return t.Implements(marshaler) || reflect.PointerTo(t).Implements(marshaler)
}

// written returns a value that encoding/json writes as it writes it where it stands: what writes itself through a
// pointer needs that pointer.
func written(v reflect.Value) any {
	if v.CanAddr() && reflect.PointerTo(v.Type()).Implements(marshaler) {
		return v.Addr().Interface()
	}
	return v.Interface()
}

// partsOf returns the values that are written as one object where v is such.
func partsOf(v reflect.Value) ([]any, bool) {
	if v.Kind() != reflect.Struct || !v.CanInterface() {
		return nil, false
	}
	if v.CanAddr() && reflect.PointerTo(v.Type()).Implements(parted) {
		return v.Addr().Interface().(Parted).Parts(), true
	}
	if !v.Type().Implements(parted) {
		return nil, false
	}
	return v.Interface().(Parted).Parts(), true
}

// fieldsOf returns the members that encoding/json writes of a struct, or of what a pointer leads to.
func fieldsOf(v reflect.Value) (out members) {
	for v.Kind() == reflect.Pointer || v.Kind() == reflect.Interface {
		v = v.Elem()
	}
	for _, f := range layoutOf(v.Type()) {
		value, err := v.FieldByIndexErr(f.index)
		if err != nil || f.omitEmpty && isEmpty(value) { // an embedded pointer that is nil has no members
			continue
		}
		out = append(out, member{f.name, value})
	}
	return out
}

func entriesOf(v reflect.Value) (out members) {
	for _, key := range v.MapKeys() {
		out = append(out, member{fmt.Sprint(key.Interface()), v.MapIndex(key)})
	}
	slices.SortFunc(out, func(a, b member) int { return strings.Compare(a.name, b.name) })
	return out
}

// A field is a member of a kind of struct.
type field struct {
	name      string
	index     []int
	omitEmpty bool
}

var layouts sync.Map // of reflect.Type: []field

// layoutOf returns the fields that encoding/json writes of a struct, those of embedded structs with it: of fields of
// one name the one that is embedded least deeply counts.
func layoutOf(t reflect.Type) []field {
	if known, ok := layouts.Load(t); ok {
		return known.([]field)
	}
	var out []field
	for _, f := range reflect.VisibleFields(t) {
		name, options, _ := strings.Cut(f.Tag.Get("json"), ",")
		if f.Tag.Get("json") == "-" || !f.IsExported() || f.Anonymous && name == "" {
			continue
		}
		if name == "" {
			name = f.Name
		}
		known := slices.IndexFunc(out, func(o field) bool { return o.name == name })
		own := field{name, f.Index, strings.Contains(options, "omitempty")}
		switch {
		case known < 0:
			out = append(out, own)
		case len(f.Index) < len(out[known].index):
			out[known] = own
		}
	}
	layouts.Store(t, out)
	return out
}

func isEmpty(v reflect.Value) bool {
	switch v.Kind() {
	case reflect.Array, reflect.Map, reflect.Slice, reflect.String:
		return v.Len() == 0
	case reflect.Pointer, reflect.Interface:
		return v.IsNil()
	case reflect.Struct:
		return false
	}
	return v.IsZero()
}

// equal reports whether two values of one type are written alike.
func equal(was, now reflect.Value) bool {
	switch was.Kind() {
	case reflect.Bool:
		return was.Bool() == now.Bool()
	case reflect.Int, reflect.Int8, reflect.Int16, reflect.Int32, reflect.Int64:
		return was.Int() == now.Int()
	case reflect.Uint, reflect.Uint8, reflect.Uint16, reflect.Uint32, reflect.Uint64:
		return was.Uint() == now.Uint()
	case reflect.Float32, reflect.Float64:
		return was.Float() == now.Float()
	case reflect.String:
		return was.String() == now.String()
	case reflect.Pointer, reflect.Interface:
		if was.IsNil() || now.IsNil() {
			return was.IsNil() == now.IsNil()
		}
		if was.Kind() == reflect.Pointer && was.Pointer() == now.Pointer() {
			return true
		}
		return was.Elem().Type() == now.Elem().Type() && equal(was.Elem(), now.Elem())
	case reflect.Map:
		if was.Len() != now.Len() || was.IsNil() != now.IsNil() {
			return false
		}
		for _, key := range was.MapKeys() {
			if other := now.MapIndex(key); !other.IsValid() || !equal(was.MapIndex(key), other) {
				return false
			}
		}
		return true
	case reflect.Slice, reflect.Array:
		if was.Kind() == reflect.Slice {
			if was.Len() != now.Len() || was.IsNil() != now.IsNil() {
				return false
			}
			if was.Len() == 0 || was.Pointer() == now.Pointer() {
				return true
			}
		}
		for i := range was.Len() {
			if !equal(was.Index(i), now.Index(i)) {
				return false
			}
		}
		return true
	case reflect.Struct:
		for i := range was.NumField() {
			if !equal(was.Field(i), now.Field(i)) {
				return false
			}
		}
		return true
	}
	panic("a " + was.Kind().String() + " is not written as JSON")
}
