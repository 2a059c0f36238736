package piece

import "encoding/json"

// Scale is a named scale or a list of degrees; exactly one is set.
type Scale struct {
	Name    string
	Degrees []string
}

// MarshalJSON writes the name or the list.
func (s Scale) MarshalJSON() ([]byte, error) {
	if s.Name != "" {
		return json.Marshal(s.Name)
	}
	return json.Marshal(s.Degrees)
}

// UnmarshalJSON reads the name or the list.
func (s *Scale) UnmarshalJSON(data []byte) error {
	if err := json.Unmarshal(data, &s.Name); err == nil {
		return nil
	}
	return json.Unmarshal(data, &s.Degrees)
}
