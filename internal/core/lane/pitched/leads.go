package pitched

import "agrimony/internal/core/pitch"

// Leads tells whether a pitch leads to the one that follows over the seam, in
// whatever octave: from the tonic, from the fifth, within a step of the key, or from
// the fourth to the tonic. Pitches outside the key lead within two semitones.
func Leads(key pitch.Key, octave, end, start int) bool {
	place, within := key.Find(end, octave)
	home, both := key.Find(start, octave)
	if within {
		number := func(p pitch.Place) int { return key.Scale.Degrees[p.Degree-1].Number }
		if number(place) == 1 || number(place) == 5 || key.Semitones(place.Degree) == 7 {
			return true
		}
		if both && number(home) == 1 && (number(place) == 4 || key.Semitones(place.Degree) == 5) {
			return true
		}
		if both {
			away := (home.Degree - place.Degree + key.Size()) % key.Size()
			return away <= 1 || away == key.Size()-1
		}
	}
	away := ((start-end)%12 + 12) % 12
	return away <= 2 || away >= 10
}

// Rests reports whether a loop may end on a pitch whatever it begins with: on the key's third, which
// rests as the tonic does, or on its leading tone, a semitone under the tonic, which is heard on.
func Rests(key pitch.Key, end int) bool {
	above := pitch.Mod(end-key.Tonic.Semitones(), 12)
	return above == 11 || key.Has(end) && (above == 3 || above == 4)
}
