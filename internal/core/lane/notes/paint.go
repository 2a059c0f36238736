package notes

import (
	"encoding/json"
	"fmt"
	"slices"

	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
)

// Paint lays notes along a stroke, one each step of a grid.
func (Kind) Paint(t *change.Target, s *change.Stroke, o op.PaintNotes) error {
	own := of(t.Lane)
	grid, err := Snap(t, o.Snap)
	if err != nil {
		return err
	}
	cells, row := s.Rows(grid)
	if len(cells) > piece.MaxNotes {
		return t.Wrong("stroke", "%s would have %d notes; allowed: at most %d", t.Lane.Name, len(cells), piece.MaxNotes)
	}
	fresh := make([]piece.FreeNote, len(cells))
	for i, cell := range cells {
		fresh[i] = piece.NewNote(cell*grid, grid)
		fresh[i].SetPlace(s.Place(row[cell]))
		if o.Velocity > 0 {
			fresh[i].Velocity = o.Velocity
		}
	}
	return lay(t, own, fresh)
}

// Stamp lays a motif along a stroke, end to end.
func (Kind) Stamp(t *change.Target, s *change.Stroke, o op.StampNotes) error {
	own := of(t.Lane)
	if len(o.Motif) == 0 || len(o.Motif) > maxMotif {
		return t.Wrong("motif", "%d notes; allowed: 1..%d", len(o.Motif), maxMotif)
	}
	grid := 1
	if o.Snap != "" {
		every, err := Snap(t, o.Snap)
		if err != nil {
			return err
		}
		grid = every
	}
	motif, err := motifOf(t, o.Motif)
	if err != nil {
		return err
	}
	length := 0
	for i := range motif {
		length = max(length, motif[i].At+motif[i].Length)
	}
	length = (length + grid - 1) / grid * grid
	begins := s.Stamps(length, grid)
	if len(begins) == 0 {
		return t.Wrong("stroke", "there is no room for the motif before %d", s.At[0])
	}
	if most := piece.MaxNotes; len(begins)*len(motif) > most {
		return t.Wrong("stroke", "%s would have %d notes more; allowed: at most %d", t.Lane.Name, len(begins)*len(motif), most)
	}
	var fresh []piece.FreeNote
	for _, begin := range begins {
		rows := s.Along(begin) - RowOf(own, t.Key(), &motif[0])
		for i := range motif {
			n := motif[i]
			n.At += begin
			if err := Shift(own, t.Key(), &n, "degree", rows); err != nil {
				return pitched.Under(fmt.Sprintf("%s.motif[%d]", t.Edit, i), err)
			}
			fresh = append(fresh, n)
		}
	}
	return lay(t, own, fresh)
}

// lay puts notes whose places are rows of the ladder into a lane, in place of those that they
// meet: of one voice those that begin within one of them, else those of its pitch that sound in
// it.
func lay(t *change.Target, own *piece.Notes, fresh []piece.FreeNote) error {
	Meant(t, own, fresh)
	key := t.Key()
	byRow := map[int][]piece.FreeNote{}
	met := func(n *piece.FreeNote) bool {
		row := 0
		if own.Voices == "many" {
			row = Pitch(own, key, nil, n)
		}
		for i := range byRow[row] {
			f := &byRow[row][i]
			begins := n.At >= f.At && n.At < f.At+f.Length
			if begins || own.Voices == "many" && n.At < f.At && n.At+n.Length > f.At {
				return true
			}
		}
		return false
	}
	for i := range fresh {
		row := 0
		if own.Voices == "many" {
			row = Pitch(own, key, nil, &fresh[i])
		}
		byRow[row] = append(byRow[row], fresh[i])
	}
	t.Budget.Spend(int64(len(own.Notes)) + int64(len(fresh)))
	kept := slices.DeleteFunc(own.Notes, func(n piece.FreeNote) bool { return met(&n) })
	return Put(t, own, "stroke", append(kept, fresh...))
}

// maxMotif is how many notes a motif has at most.
const maxMotif = 1024

// motifOf reads notes, the first of which then begins at 0.
func motifOf(t *change.Target, items []json.RawMessage) ([]piece.FreeNote, error) {
	out := make([]piece.FreeNote, len(items))
	for i, item := range items {
		note, err := piece.ReadNote(fmt.Sprintf("%s.motif[%d]", t.Edit, i), item)
		if err != nil {
			return nil, err
		}
		if note.Note == nil {
			if err := pitched.Check(t.Key(), note.Place()); err != nil {
				return nil, pitched.Under(fmt.Sprintf("%s.motif[%d]", t.Edit, i), err)
			}
		}
		note.Number = 0
		out[i] = note
	}
	slices.SortStableFunc(out, func(a, b piece.FreeNote) int { return a.At - b.At })
	first := out[0].At
	for i := range out {
		out[i].At -= first
	}
	return out, nil
}
