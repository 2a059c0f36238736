package change

import (
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// maxStroke is how many points a stroke has at most.
const maxStroke = 4096

// Stroke is a way over the rows of the key, in 960ths and degrees counted from the lane's octave.
type Stroke struct {
	At  []int
	Row []int
	Key pitch.Key
	// level is the one place that all of it is on, alteration and all; nil: it goes over several.
	level *pitch.Place
}

// Stroke checks the points of one.
func (t *Target) Stroke(points []op.StrokePoint) (*Stroke, error) {
	if len(points) == 0 || len(points) > maxStroke {
		return nil, t.Wrong("stroke", "%d points; allowed: 1..%d", len(points), maxStroke)
	}
	out := &Stroke{Key: t.Key(), level: &points[0].Place}
	most := int(beat.MaxBars * t.Piece.Bar() / piece.NoteTick)
	for i, p := range points {
		path := fmt.Sprintf("stroke[%d]", i)
		if p.At < 0 || p.At >= most {
			return nil, t.Wrong(path+".at", "%d is out of range; allowed: 0..%d", p.At, most-1)
		}
		if err := pitched.Check(out.Key, p.Place); err != nil {
			return nil, pitched.Under(t.Edit+"."+path+".place", err)
		}
		out.At = append(out.At, p.At)
		out.Row = append(out.Row, RowOf(out.Key, p.Place))
		if p.Place != points[0].Place {
			out.level = nil
		}
	}
	return out, nil
}

// RowOf counts the rows of the key from the lane's tonic.
func RowOf(key pitch.Key, at pitch.Place) int { return at.Degree - 1 + key.Size()*at.Octave }

// Place is that of a row.
func (s *Stroke) Place(row int) pitch.Place {
	if s.level != nil {
		return *s.level
	}
	return s.Key.Move(pitch.Place{Degree: 1}, row)
}

// Rows gives the row at each of the cells of a grid that the stroke goes through, where a cell
// begins or the stroke does; where it goes back, the later way counts. Cells rise.
func (s *Stroke) Rows(grid int) (cells []int, row map[int]int) {
	row = map[int]int{s.At[0] / grid: s.Row[0]}
	for i := 1; i < len(s.At); i++ {
		from, to := s.At[i-1], s.At[i]
		low, high := min(from, to), max(from, to)
		for cell := low / grid; cell <= high/grid; cell++ {
			x := min(max(cell*grid, low), high)
			if from == to {
				row[cell] = s.Row[i]
			} else {
				row[cell] = between(s.Row[i-1], s.Row[i], x-from, to-from)
			}
		}
	}
	for cell := range row {
		cells = append(cells, cell)
	}
	slices.Sort(cells)
	return cells, row
}

// between goes so far of a way from one row to another, to the nearest row; half way up.
func between(from, to, part, whole int) int {
	if whole < 0 {
		part, whole = -part, -whole
	}
	n, d := 2*((to-from)*part)+whole, 2*whole
	if n < 0 {
		return from - (-n+d-1)/d
	}
	return from + n/d
}

// Along is the stroke's row at a time.
func (s *Stroke) Along(at int) int {
	row := s.Row[0]
	for i := 1; i < len(s.At); i++ {
		if from, to := s.At[i-1], s.At[i]; from != to && at >= min(from, to) && at <= max(from, to) {
			row = between(s.Row[i-1], s.Row[i], at-from, to-from)
		}
	}
	return row
}

// Stamps are where stamps of a length begin: from the stroke's beginning on as long as they begin
// within it, or, of a stroke to the left, before it, as long as they end within it.
func (s *Stroke) Stamps(length, grid int) (out []int) {
	from, to := s.At[0], s.At[len(s.At)-1]
	from = from / grid * grid // the line that it begins behind
	if to >= s.At[0] {
		out = append(out, from)
		for at := from + length; at < to; at += length {
			out = append(out, at)
		}
		return out
	}
	if s.At[0] > from {
		from += grid
	}
	for at := from - length; at >= 0 && (at+length > to || len(out) == 0); at -= length {
		out = append(out, at)
	}
	slices.Reverse(out)
	return out
}
