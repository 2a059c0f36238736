package chords

import (
	"slices"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// Board is the chords that a step of a lane can be given, names with real signs.
type Board struct {
	Degrees []BoardDegree `json:"degrees"`
	// Others are the chords of other palettes, those of this clip first.
	Others []BoardOther `json:"others"`
	// Bank are progressions in the key; empty where it has not seven notes.
	Bank []BankLine `json:"bank"`
}

// BoardDegree is a degree of the key with the chords that stack on it, one of each of
// Stacks.
type BoardDegree struct {
	Degree int          `json:"degree"` // from 1
	Chords []BoardChord `json:"chords"`
}

// BoardChord is a chord on a board.
type BoardChord struct {
	Kind    string `json:"kind"`
	Symbol  string `json:"symbol"`
	Numeral string `json:"numeral"`
	Pitches []int  `json:"pitches"` // MIDI, as written
	Shared  []bool `json:"shared"`  // which of them the chord before has too
	// Follows is its rank, from 1, among the chords of its kind by how well they follow the chord before, or the tonic's
	// where there is none.
	Follows int `json:"follows"`
}

// BoardOther is a chord of another palette as it stands in this clip's key.
type BoardOther struct {
	Clip     string `json:"clip"`
	ClipName string `json:"clipName"`
	Lane     string `json:"lane"`
	LaneName string `json:"laneName"`
	Place    int    `json:"place"` // from 1
	Symbol   string `json:"symbol"`
	Numeral  string `json:"numeral"`
}

// BankLine is a progression of the bank in a key.
type BankLine struct {
	Name  string `json:"name"`
	Text  string `json:"text"`  // as it is written into a lane
	Shown string `json:"shown"` // the same with real signs
}

// maxOthers bounds how many chords of other palettes are offered.
const maxOthers = 96

// Board lays out the chords for a step (from 0) of a chords lane of a clip: a Board.
func (Kind) Board(p *piece.Piece, clip *piece.Clip, lane *piece.Lane, step int) any {
	key, c := p.KeyOf(clip), of(lane)
	out := Board{Degrees: []BoardDegree{}, Others: []BoardOther{}, Bank: []BankLine{}}
	before, classes := before(lane, key, step)
	lying := make([][]chord.Lying, len(chord.Stacks)) // by kind, then by degree
	for degree := 1; degree <= key.Size(); degree++ {
		row := BoardDegree{Degree: degree}
		for k, kind := range chord.Stacks {
			tones, err := Stack(key, degree, kind.Name)
			if err != nil {
				panic(err) // both are in reach
			}
			symbol, numeral := titled(c, key, tones)
			cell := BoardChord{Kind: kind.Name, Symbol: symbol, Numeral: numeral}
			for _, t := range tones {
				at := key.Pitch(t, c.Octave)
				cell.Pitches = append(cell.Pitches, at)
				cell.Shared = append(cell.Shared, classes>>pitch.Mod(at, 12)&1 == 1)
			}
			lying[k] = append(lying[k], chord.Lying{Root: pitch.Mod(key.Pitch(tones[0], 0), 12), Pitches: cell.Pitches})
			row.Chords = append(row.Chords, cell)
		}
		out.Degrees = append(out.Degrees, row)
	}
	if before.Pitches == nil {
		before = lying[0][0]
	}
	for k := range chord.Stacks {
		for degree, rank := range chord.Follow(before, lying[k]) {
			out.Degrees[degree].Chords[k].Follows = rank
		}
	}
	clips := []*piece.Clip{clip}
	for i := range p.Clips {
		if &p.Clips[i] != clip {
			clips = append(clips, &p.Clips[i])
		}
	}
	for _, other := range clips {
		for i := range other.Lanes {
			if l := &other.Lanes[i]; l != lane {
				out.offer(c, key, p.KeyOf(other), other, l)
			}
		}
	}
	if key.Size() == 7 {
		for _, line := range chord.Rows(key) {
			out.Bank = append(out.Bank, BankLine{line.Name, line.Text, chord.Pretty(line.Text)})
		}
	}
	return out
}

// offer adds the chords of another lane's palette.
func (b *Board) offer(c *piece.Chords, key, theirs pitch.Key, clip *piece.Clip, lane *piece.Lane) {
	from, ok := lane.Content.(*piece.Chords)
	if !ok {
		return
	}
	for place := 1; place <= len(from.Palette) && len(b.Others) < maxOthers; place++ {
		symbol, numeral := titled(c, key, Borrow(from, place, theirs, key))
		b.Others = append(b.Others, BoardOther{clip.ID, clip.Name, lane.ID, lane.Name, place, symbol, numeral})
	}
}

// titled are the names of a chord with these tones, with real signs.
func titled(c *piece.Chords, key pitch.Key, tones []pitch.Place) (symbol, numeral string) {
	twin := piece.Chords{Pitched: c.Pitched, Palette: []piece.PaletteChord{{Tones: tones}}}
	named := nameOf(&twin, key, &piece.ChordStep{Chord: 1}, nil)
	return pitch.Pretty(named.Symbol), chord.Pretty(named.Numeral)
}

// before is the chord before a step in the round, and its pitch classes, a bit each; without one it has no pitches.
func before(lane *piece.Lane, key pitch.Key, step int) (lying chord.Lying, classes uint16) {
	voiced := Voice(lane, key)
	at := -1
	for _, i := range voiced.Order {
		if i < step || at < 0 {
			at = i
		}
	}
	if len(voiced.Order) > 0 && (step <= voiced.Order[0]) {
		at = voiced.Order[len(voiced.Order)-1]
	}
	if at < 0 {
		return lying, 0
	}
	for _, p := range voiced.Steps[at] {
		lying.Pitches = append(lying.Pitches, int(p))
		classes |= 1 << (p % 12)
	}
	c := of(lane)
	lying.Root = Write(c, key, c.Place(&c.Steps[at])).Found.Class
	return lying, classes
}

// Borrow is a chord of a palette (a place from 1) of a clip in one key as it stands in
// another: its degrees are taken.
func Borrow(from *piece.Chords, place int, theirs, key pitch.Key) []pitch.Place {
	twin := piece.Chords{Pitched: from.Pitched, Palette: []piece.PaletteChord{{Tones: slices.Clone(from.Palette[place-1].Tones)}}}
	borrowed := piece.Lane{Content: &twin}
	Kind{}.Rekey(&borrowed, theirs, key, true)
	return twin.Palette[0].Tones
}
