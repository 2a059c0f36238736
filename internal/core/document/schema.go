package document

// Schema is the shape's JSON Schema.
func (s *Shape[T]) schema() Object {
	properties := Object{}
	var required []any
	for _, f := range s.Fields {
		member := Object{{"description", f.Doc}}
		for _, m := range f.schema() {
			if m.Key != "description" { // an inner object's own says less
				member = append(member, m)
			}
		}
		properties = append(properties, Member{f.Name, member})
		if f.required {
			required = append(required, f.Name)
		}
	}
	out := Object{{"description", s.Doc}, {"type", "object"}, {"additionalProperties", false}}
	if required != nil {
		out = append(out, Member{"required", required})
	}
	return append(append(out, Member{"properties", properties}), s.Also...)
}

// Schema is the shape's JSON Schema.
func (s *Shape[T]) Schema() Object { return s.schema() }

// Facts are what forms and rails need of each field: its title, unit and what it
// is for, its range or choices, and what it is when absent.
func (s *Shape[T]) Facts() Object {
	out := Object{}
	for _, f := range s.Fields {
		facts := Object{{"title", f.Title}, {"doc", f.Doc}}
		if f.Unit != "" {
			facts = append(facts, Member{"unit", f.Unit})
		}
		out = append(out, Member{f.Name, append(facts, f.facts()...)})
	}
	return out
}
