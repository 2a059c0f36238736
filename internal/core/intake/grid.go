package intake

import (
	"slices"

	"agrimony/internal/core/beat"
)

// Grid is a rate whose steps onsets stand on.
type Grid struct {
	Rate  string  `json:"rate"`
	Share float64 `json:"share"` // of the onsets that lie within a tenth of a step, 0..1
	Step  int     `json:"-"`     // its length, 960ths of a quarter
}

// fits is the share of onsets that must stand on a grid.
const fits = 0.95

// rate is one with its length.
type rate struct {
	name string
	step int
}

// ratesIn are all rates from long to short, in a meter.
func ratesIn(meter beat.Meter) []rate {
	var out []rate
	for _, name := range beat.Rates {
		length, err := beat.Rate(name, meter)
		if err != nil {
			panic(err) // it is one of them
		}
		out = append(out, rate{name, int(length / (beat.Quarter / PPQ))})
	}
	slices.SortStableFunc(out, func(a, b rate) int { return b.step - a.step })
	return out
}

// GridOf finds the longest rate for which nearly all onsets lie within a tenth of a step; nil: there
// is none.
func GridOf(notes []Note, meter beat.Meter) *Grid {
	for _, r := range ratesIn(meter) {
		if share := onGrid(notes, r.step); share >= fits {
			return &Grid{r.name, share, r.step}
		}
	}
	return nil
}

// GridsFor are all rates that fit so, from long to short, of which steps fill a length, and at most
// so many of them.
func GridsFor(notes []Note, meter beat.Meter, length, most int) []Grid {
	var out []Grid
	for _, r := range ratesIn(meter) {
		if length%r.step != 0 || length/r.step > most {
			continue
		}
		if share := onGrid(notes, r.step); share >= fits {
			out = append(out, Grid{r.name, share, r.step})
		}
	}
	return out
}

// onGrid is the share of onsets within a tenth of a step. A step so long that notes which follow one
// another all stand on the one line of it is no grid of them.
func onGrid(notes []Note, step int) float64 {
	on, line, lines := 0, 0, 0 // so many lines of the grid, as far as two, the first of which is line
	first, last := notes[0].At, notes[0].At
	for i := range notes {
		at := notes[i].At
		first, last = min(first, at), max(last, at)
		away := at % step
		if away = min(away, step-away); 10*away <= step {
			on++
			if own := (at + step/2) / step; lines == 0 || lines == 1 && own != line {
				line, lines = own, lines+1
			}
		}
	}
	if lines < 2 && last-first > together {
		return 0
	}
	return float64(on) / float64(len(notes))
}
