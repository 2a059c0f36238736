package op

import (
	"encoding/json"
	"reflect"
	"strings"

	"agrimony/internal/core/document"
)

// Schema is the JSON Schema of a list of edits, made from their types. What else an edit is held to
// (ranges, what is there) it says when it is made.
func Schema() []byte {
	var each []any
	for _, name := range Names() {
		properties := document.Pairs("op", document.Pairs("const", name))
		properties = append(properties, membersOf(reflect.TypeOf(names[name]))...)
		each = append(each, document.Pairs("type", "object", "properties", properties, "required", []any{"op"}, "additionalProperties", false))
	}
	return document.Print(document.Pairs("$schema", "https://json-schema.org/draft/2020-12/schema", "title", "Agrimony edits",
		"description", "Edits that are made one after another, all or none.", "type", "array", "items", document.Pairs("oneOf", each)))
}

// membersOf are the members of an object, those of what it embeds among them.
func membersOf(t reflect.Type) (out document.Object) {
	for i := range t.NumField() {
		f := t.Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		switch {
		case f.Anonymous && name == "":
			out = append(out, membersOf(f.Type)...)
		case name != "" && name != "-":
			out = append(out, document.Member{Key: name, Value: schemaOf(f.Type)})
		}
	}
	return out
}

var raw = reflect.TypeOf(json.RawMessage{})

// free are types that are read in a way of their own; anything is left to that.
func free(t reflect.Type) bool {
	return t == raw || reflect.PointerTo(t).Implements(reflect.TypeOf((*json.Unmarshaler)(nil)).Elem())
}

func schemaOf(t reflect.Type) any {
	if free(t) {
		return true
	}
	switch t.Kind() {
	case reflect.Pointer:
		return document.Pairs("anyOf", []any{schemaOf(t.Elem()), document.Pairs("type", "null")})
	case reflect.String:
		return document.Pairs("type", "string")
	case reflect.Bool:
		return document.Pairs("type", "boolean")
	case reflect.Int:
		return document.Pairs("type", "integer")
	case reflect.Float64:
		return document.Pairs("type", "number")
	case reflect.Slice:
		return document.Pairs("type", []any{"array", "null"}, "items", schemaOf(t.Elem()))
	case reflect.Map:
		return document.Pairs("type", []any{"object", "null"}, "additionalProperties", schemaOf(t.Elem()))
	case reflect.Struct:
		return document.Pairs("type", "object", "properties", membersOf(t), "additionalProperties", false)
	}
	panic("no schema for " + t.String())
}
