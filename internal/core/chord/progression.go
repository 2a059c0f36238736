package chord

import (
	"fmt"
	"slices"

	"agrimony/internal/core/pitch"
)

// Voiced is a chord of a progression as it lies.
type Voiced struct {
	Numeral string   `json:"numeral"`
	Symbol  string   `json:"symbol"`
	Notes   []string `json:"notes"`   // from the lowest up
	Pitches []int    `json:"pitches"` // MIDI, sorted
}

// Line is a progression as it lies, with the movement of its voices in semitones, the
// way back to the first chord included.
type Line struct {
	Chords   []Voiced `json:"chords"`
	Movement int      `json:"movement"`
}

// CheckRange refuses a range out of 0..127 or narrower than an octave.
func CheckRange(low, high int) error {
	if low < 0 || high > 127 || high-low < 12 {
		return fmt.Errorf("%d..%d is not a range for voices; allowed: within 0..127, at least 12 apart", low, high)
	}
	return nil
}

// Lay lays a progression in a lane octave of a key, and voices it smoothly in a range
// unless that is nil.
func Lay(chords []Chord, key pitch.Key, octave int, r *Range) Line {
	written := make([][]int, len(chords))
	names := make([]map[int]pitch.Name, len(chords)) // by pitch class
	for i, c := range chords {
		names[i] = map[int]pitch.Name{}
		for _, t := range c.From(key.Pitch(pitch.Place{Degree: 1}, octave)) {
			written[i] = append(written[i], t.Pitch)
			names[i][pitch.Mod(t.Pitch, 12)] = t.Name
		}
		slices.Sort(written[i])
	}
	if r != nil {
		written, _ = Smooth(written, *r)
	}
	out := Line{Movement: RoundMovement(written)}
	for i, c := range chords {
		v := Voiced{Numeral: c.Numeral(key), Symbol: c.String(), Pitches: written[i]}
		for _, p := range written[i] {
			v.Notes = append(v.Notes, names[i][pitch.Mod(p, 12)].String())
		}
		out.Chords = append(out.Chords, v)
	}
	return out
}
