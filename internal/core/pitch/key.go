package pitch

import (
	"fmt"
	"strings"
)

// Key is a tonic with a scale, with everything worked out that placing and
// spelling notes in it needs. Make one with NewKey.
type Key struct {
	Tonic Name
	Scale Scale

	names []Name   // of each degree
	steps []int    // semitones of each degree above the tonic, 0..11
	index [12]int8 // degree index by semitones above the tonic, -1 outside
}

// NewKey joins a tonic (a letter with at most one accidental) and a scale.
func NewKey(tonic Name, scale Scale) (Key, error) {
	if tonic.Accidental < -1 || tonic.Accidental > 1 {
		return Key{}, fmt.Errorf("%q is not a tonic; allowed: a letter A..G with at most one # or b", tonic)
	}
	k := Key{Tonic: tonic, Scale: scale, names: make([]Name, len(scale.Degrees)), steps: make([]int, len(scale.Degrees))}
	for i := range k.index {
		k.index[i] = -1
	}
	for i, degree := range scale.Degrees {
		k.names[i] = k.Tonic.Above(degree)
		k.steps[i] = degree.Semitones()
		k.index[k.steps[i]] = int8(i)
	}
	return k, nil
}

// ParseKey reads a tonic and a scale name, such as "Eb dorian". A tonic alone
// means its major scale.
func ParseKey(text string) (Key, error) {
	tonicText, scaleText, _ := strings.Cut(strings.TrimSpace(text), " ")
	tonic, err := ParseName(tonicText)
	if err != nil {
		return Key{}, err
	}
	scaleText = strings.TrimSpace(scaleText)
	if scaleText == "" {
		scaleText = "major"
	}
	scale, err := FindScale(scaleText)
	if err != nil {
		if custom, customErr := NewScale(strings.Fields(scaleText)); customErr == nil {
			scale, err = custom, nil
		}
	}
	if err != nil {
		return Key{}, err
	}
	return NewKey(tonic, scale)
}

// String is the key's name: "F# dorian".
func (k Key) String() string { return k.Tonic.String() + " " + k.Scale.Title() }

// Size is the number of degrees in the key's scale.
func (k Key) Size() int { return len(k.steps) }

// Names are the spelled notes of the key, from the tonic up.
func (k Key) Names() []Name { return k.names }

// Semitones is the distance of a degree (1..Size) above the tonic.
func (k Key) Semitones(degree int) int { return k.steps[degree-1] }

// Pitch is the MIDI pitch of a place in the given lane octave, not yet folded
// into 0..127: 12 x (octave + 1) + the tonic above its C + the degree + alter.
func (k Key) Pitch(p Place, octave int) int {
	return 12*(octave+p.Octave+1) + k.Tonic.Semitones() + k.steps[p.Degree-1] + p.Alter
}

// Find gives the unaltered place of a MIDI pitch that the key has, relative to
// the lane octave; ok is false for a pitch that the key lacks.
func (k Key) Find(p, octave int) (place Place, ok bool) {
	above := p - k.Tonic.Semitones() - 12*(octave+1)
	i := k.index[Mod(above, 12)]
	if i < 0 {
		return Place{}, false
	}
	return Place{Degree: int(i) + 1, Octave: floorDiv(above, 12)}, true
}

// Has tells whether the key contains the MIDI pitch, in any octave.
func (k Key) Has(p int) bool { return k.index[Mod(p-k.Tonic.Semitones(), 12)] >= 0 }

// Move walks a place by whole degrees, across octaves. The alteration stays.
func (k Key) Move(p Place, degrees int) Place {
	at := p.Degree - 1 + degrees
	p.Octave += floorDiv(at, k.Size())
	p.Degree = Mod(at, k.Size()) + 1
	return p
}

// outside is how a pitch that the key lacks is spelled, by its semitones above the
// tonic, as players expect: lowered second and raised fourth everywhere; where the
// key has a major third, the lowered third, sixth and seventh; where it has a
// minor one, the natural third and the raised sixth and seventh.
var outside = [12]Degree{{1, 0}, {2, -1}, {2, 0}, {3, -1}, {3, 0}, {4, 0}, {4, 1}, {5, 0}, {6, -1}, {6, 0}, {7, -1}, {7, 0}}

// Spell names a MIDI pitch in the key: a pitch of the key by the key's own
// spelling, any other by that of the outside table.
func (k Key) Spell(p int) Name {
	above := Mod(p-k.Tonic.Semitones(), 12)
	if i := k.index[above]; i >= 0 {
		return k.names[i]
	}
	return k.Tonic.Above(outside[above])
}

// Named spells a MIDI pitch in the key with its octave: "F#2".
func (k Key) Named(p int) string { return k.Spell(p).In(p) }

// Snap says which way a pitch outside the key goes.
type Snap string

// The ways to snap. Nearest takes the lower of two equally near pitches.
const (
	Nearest Snap = "nearest"
	Up      Snap = "up"
	Down    Snap = "down"
)

// Snaps are all ways to snap.
var Snaps = []Snap{Nearest, Up, Down}

// Snap brings a MIDI pitch into the key; one that is in it stays.
func (k Key) Snap(p int, way Snap) int {
	for distance := 0; ; distance++ {
		if way != Up && k.Has(p-distance) {
			return p - distance
		}
		if way != Down && k.Has(p+distance) {
			return p + distance
		}
	}
}

// SnapTo brings a MIDI pitch to the nearest pitch class of a set, a bit each, that is
// not empty; one that is in it stays.
func SnapTo(p int, way Snap, classes uint16) int {
	has := func(p int) bool { return classes>>Mod(p, 12)&1 == 1 }
	for distance := 0; ; distance++ {
		if way != Up && has(p-distance) {
			return p - distance
		}
		if way != Down && has(p+distance) {
			return p + distance
		}
	}
}

// Fold moves a pitch by octaves into 0..127.
func Fold(p int) int {
	switch {
	case p < 0:
		return Mod(p, 12)
	case p > 127:
		return p - 12*((p-127+11)/12)
	}
	return p
}
