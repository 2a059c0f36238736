package piece

// Schema is the JSON Schema of the document, made from the tables that read it.
func Schema() []byte {
	root := object{
		{"$schema", "https://json-schema.org/draft/2020-12/schema"},
		{"title", "Agrimony piece"},
	}
	return print(append(root, documentShape.schema()...))
}

func (s *shape[T]) schema() object {
	properties := object{}
	var required []any
	for _, f := range s.fields {
		properties = append(properties, member{f.name, append(object{{"description", f.doc}}, f.schema()...)})
		if f.required {
			required = append(required, f.name)
		}
	}
	out := object{{"description", s.doc}, {"type", "object"}, {"additionalProperties", false}}
	if required != nil {
		out = append(out, member{"required", required})
	}
	return append(out, member{"properties", properties})
}
