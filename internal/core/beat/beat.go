// Package beat measures musical time: rates, meters, cycles of lanes of different
// lengths, swing, and the ticks of files.
//
// A quarter note has 20160 grains, in which every rate is a whole number. Gates,
// ratchets and swing cut grains into fractions; those stay exact too, because a
// Time counts 20000ths of a grain: a percentage of a step cut into up to eight
// repeats needs 400ths, and swing, a percentage of half a pair, 50ths of those.
package beat

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// GrainsPerQuarter is the number of grains in a quarter note: times that all rates fall on.
const GrainsPerQuarter = 20160

// Time is a position or a length in 20000ths of a grain. Musical positions count
// from the clip's start.
type Time int64

// Lengths of time.
const (
	Grain   Time = 20000
	Quarter Time = GrainsPerQuarter * Grain
	Whole   Time = 4 * Quarter
	Overlap Time = Whole / 128 // by how much legato notes overlap
)

// Resolutions are the export resolutions, in ticks a quarter note.
var Resolutions = []int{96, 480, 960}

// Export converts an absolute time to a resolution (ticks a quarter note) by
// one rounding, half up.
func (t Time) Export(resolution int) int64 {
	if t < 0 {
		unit := Quarter / Time(resolution)
		return -int64((unit/2 - 1 - t) / unit)
	}
	if resolution == 960 { // the usual one: dividing by a constant is faster
		return int64((t + Quarter/960/2) / (Quarter / 960))
	}
	unit := Quarter / Time(resolution)
	return int64((t + unit/2) / unit)
}

// Milliseconds is a length of m thousandths of a second at a tempo (quarter notes
// a minute), rounded up.
func Milliseconds(m, tempo float64) Time {
	return Time(math.Ceil(m * tempo / 60000 * float64(Quarter)))
}

// Of converts a position in export ticks back to time.
func Of(ticks int64, resolution int) Time { return Time(ticks) * (Quarter / Time(resolution)) }

// Percent is p hundredths of the time; exact for any rate.
func (t Time) Percent(p int) Time { return t * Time(p) / 100 }

// Meter is a time signature.
type Meter struct{ Count, Unit int }

// ParseMeter reads "N/D" with N 1..32 and D one of 1 2 4 8 16.
func ParseMeter(text string) (Meter, error) {
	above, below, found := strings.Cut(text, "/")
	count, countErr := strconv.Atoi(above)
	unit, unitErr := strconv.Atoi(below)
	ok := found && countErr == nil && unitErr == nil && count >= 1 && count <= 32
	switch unit {
	case 1, 2, 4, 8, 16:
	default:
		ok = false
	}
	plain := func(number string) bool { return number != "" && number[0] >= '1' && number[0] <= '9' }
	if !ok || !plain(above) || !plain(below) {
		return Meter{}, fmt.Errorf("%q is not a meter; allowed: N/D with N 1..32 and D 1, 2, 4, 8 or 16", text)
	}
	return Meter{count, unit}, nil
}

// String writes the meter as "7/8".
func (m Meter) String() string { return fmt.Sprintf("%d/%d", m.Count, m.Unit) }

// Bar is the length of one bar.
func (m Meter) Bar() Time { return Time(m.Count) * Whole / Time(m.Unit) }

// Beat is the length of the meter's unit.
func (m Meter) Beat() Time { return Whole / Time(m.Unit) }

// Rates are all the names of rates, from long to short. To add one, add it here.
var Rates = rateNames()

func rateNames() []string {
	names := []string{"4bar", "2bar", "1bar"}
	for unit := 1; unit <= 64; unit *= 2 {
		plain := "1/" + strconv.Itoa(unit)
		names = append(names, plain+"D", plain, plain+"T")
	}
	return names
}

// Rate gives the length of one step: "1/16", dotted "1/16D" (three halves of
// it), triplet "1/16T" (two thirds), or "1bar", "2bar", "4bar" in the meter.
func Rate(text string, meter Meter) (Time, error) {
	for _, name := range Rates {
		if name == text {
			return rateLength(text, meter), nil
		}
	}
	return 0, fmt.Errorf("%q is not a rate; allowed: %s", text, strings.Join(Rates, " "))
}

// MaxEvery is the longest period of whole bars, in bars.
const MaxEvery = 64

// Every gives the length of a period: a rate, or "1bar" to "64bar" in the meter.
func Every(text string, meter Meter) (Time, error) {
	if bars, ok := strings.CutSuffix(text, "bar"); ok {
		if n, err := strconv.Atoi(bars); err == nil && n >= 1 && n <= MaxEvery && strconv.Itoa(n) == bars {
			return Time(n) * meter.Bar(), nil
		}
	}
	length, err := Rate(text, meter)
	if err != nil {
		return 0, fmt.Errorf("%q is no period; allowed: 1bar..%dbar, or a rate: %s", text, MaxEvery, strings.Join(Rates, " "))
	}
	return length, nil
}

func rateLength(name string, meter Meter) Time {
	if bars, ok := strings.CutSuffix(name, "bar"); ok {
		n, _ := strconv.Atoi(bars)
		return Time(n) * meter.Bar()
	}
	unit, _ := strconv.Atoi(strings.TrimRight(name[2:], "DT"))
	length := Whole / Time(unit)
	switch name[len(name)-1] {
	case 'D':
		return length * 3 / 2
	case 'T':
		return length * 2 / 3
	}
	return length
}
