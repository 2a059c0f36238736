package pitch

// PlaceOf gives the place, relative to the lane octave, of a MIDI pitch that is
// spelled with a name: an alteration of the degree with the name's letter. Where the
// key has no such degree, it is placed as Express does.
func (k Key) PlaceOf(name Name, p, octave int) Place {
	best, found := Place{}, false
	for i, own := range k.names {
		if own.Letter != name.Letter {
			continue
		}
		alter := name.Accidental - own.Accidental
		if !found || abs(alter) < abs(best.Alter) {
			best, found = Place{Degree: i + 1, Alter: alter}, true
		}
	}
	if !found || abs(best.Alter) > 4 {
		return k.Express(p, octave)
	}
	best.Octave = floorDiv(p-best.Alter-k.Pitch(Place{Degree: best.Degree}, octave), 12)
	return best
}

// NameOf spells a place by its degree's letter and its alteration.
func (k Key) NameOf(p Place) Name { return k.names[p.Degree-1].Sharpened(p.Alter) }

// Index is the degree (from 1) of a pitch class; 0 where the key lacks it.
func (k Key) Index(class int) int { return int(k.index[Mod(class-k.Tonic.Semitones(), 12)]) + 1 }

func abs(n int) int { return max(n, -n) }
