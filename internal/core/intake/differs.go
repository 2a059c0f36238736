package intake

// Differs is how what notes became differs from them.
type Differs struct {
	Notes int     `json:"notes"` // that are not the same
	Of    int     `json:"of"`
	MS    float64 `json:"ms"` // by which one begins or ends elsewhere at most, rounded to hundredths
}
