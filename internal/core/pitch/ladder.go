package pitch

// Rung is one row of a ladder: a place, its MIDI pitch and its name.
type Rung struct {
	Place `tstype:",extends"`
	Pitch int    `json:"pitch"`
	Name  string `json:"name"`  // with real signs: "F♯2"
	Tonic bool   `json:"tonic"` // the key's tonic
	InKey bool   `json:"inKey"` // false only on chromatic rows
}

// Ladder lists the rows on which a lane's notes are placed, from low to high:
// the key's notes from MIDI pitch low to high (kept within 0..127), or every
// semitone when chromatic. Places are relative to the lane octave.
func (k Key) Ladder(octave, low, high int, chromatic bool) []Rung {
	low, high = max(low, 0), min(high, 127)
	var out []Rung
	for p := low; p <= high; p++ {
		place, ok := k.Find(p, octave)
		if !ok && !chromatic {
			continue
		}
		if !ok {
			place = k.near(p, octave)
		}
		if place.Octave < -4 || place.Octave > 4 {
			continue // no step can store it
		}
		out = append(out, Rung{
			Place: place, Pitch: p, Name: Pretty(k.Named(p)),
			Tonic: ok && place.Degree == 1, InKey: ok,
		})
	}
	return out
}

// Along moves a MIDI pitch by steps of the scale, from its nearest note by snap where it
// lies outside.
func (k Key) Along(p, by int, snap Snap) int {
	p = k.Snap(p, snap)
	place, _ := k.Find(p, 0)
	return k.Pitch(k.Move(place, by), 0)
}

// near gives a pitch outside the key as an alteration of the degree that its
// spelling names; where the key has no such degree, of the nearest one, the lower
// of two.
func (k Key) near(p, octave int) Place {
	number := outside[Mod(p-k.Tonic.Semitones(), 12)].Number
	best, found := Place{}, false
	for away := 1; away <= 11; away++ {
		for _, alter := range [2]int{away, -away} {
			place, ok := k.Find(p-alter, octave)
			if !ok {
				continue
			}
			place.Alter = alter
			if k.Scale.Degrees[place.Degree-1].Number == number {
				return place
			}
			if !found {
				best, found = place, true
			}
		}
		if away >= 3 && found {
			break
		}
	}
	return best
}

// Express gives any MIDI pitch as a place in the key, altered where it must be.
func (k Key) Express(p, octave int) Place {
	if place, ok := k.Find(p, octave); ok {
		return place
	}
	return k.near(p, octave)
}

// KeepDegree finds the degree of to that stands for degree d of from when a
// scale changes: the one with the same number (the nearest in pitch if there
// are several), or else the nearest pitch, the lower of two. It returns the
// degree in to (1-based) and an octave to add (-1..1).
func KeepDegree(from, to Scale, d int) (degree, octave int) {
	want := from.Degrees[d-1]
	best, bestCost := Place{}, 1<<20
	for i, candidate := range to.Degrees {
		for shift := -1; shift <= 1; shift++ {
			distance := candidate.Semitones() + 12*shift - want.Semitones()
			cost := 2 * max(distance, -distance)
			if distance > 0 {
				cost++ // a tie goes down
			}
			if candidate.Number != want.Number || shift != 0 {
				cost += 1000
			}
			if cost < bestCost {
				best, bestCost = Place{Degree: i + 1, Octave: shift}, cost
			}
		}
	}
	return best.Degree, best.Octave
}

// parents are the scales whose key signature another scale borrows, as scores
// write them: the minor scales with their natural form, the five- and six-note
// ones with the scale they are drawn from.
var parents = map[string]string{
	"harmonic minor": "natural minor", "melodic minor": "natural minor",
	"minor pentatonic": "natural minor", "minor blues": "natural minor",
	"major pentatonic": "major", "major blues": "major",
}

// Signature is the key signature: sharps (flats are negative, -7..7), and
// whether it is a minor one. ok is false where none exists: for scales that are
// no mode of a major scale, and for more than seven sharps or flats.
func (k Key) Signature() (sharps int, minor, ok bool) {
	scale := k.Scale
	if parent, borrowed := parents[scale.Name]; borrowed {
		scale, _ = FindScale(parent)
	}
	own, err := NewKey(k.Tonic, scale)
	if err != nil || own.Size() != 7 {
		return 0, false, false
	}
	// A signature alters letters in the order of fifths F C G D A E B.
	fifths := [7]Letter{3, 0, 4, 1, 5, 2, 6}
	var accidentals [7]int
	for _, name := range own.names {
		accidentals[name.Letter] = name.Accidental
		sharps += name.Accidental
	}
	if sharps < -7 || sharps > 7 {
		return 0, false, false
	}
	for i, letter := range fifths {
		want := 0
		if sharps > i {
			want = 1
		} else if -sharps > 6-i {
			want = -1
		}
		if accidentals[letter] != want {
			return 0, false, false
		}
	}
	return sharps, scale.Name == "natural minor" || scale.Name == "aeolian", true
}
