package beat

import (
	"math/big"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

var common = Meter{4, 4}

func rate(t require.TestingT, name string) Time {
	length, err := Rate(name, common)
	require.NoError(t, err)
	return length
}

func TestRatesInTicks(t *testing.T) {
	for name, ticks := range map[string]Time{
		"1/1": 80640, "1/2": 40320, "1/4": 20160, "1/8": 10080, "1/16": 5040, "1/32": 2520, "1/64": 1260,
		"1/8D": 15120, "1/8T": 6720, "1/16T": 3360, "1/64T": 840, "1/64D": 1890, "1/1T": 53760,
		"1bar": 80640, "2bar": 161280, "4bar": 322560,
	} {
		assert.Equal(t, ticks*Grain, rate(t, name), name)
	}
	assert.Len(t, Rates, 24)
	threeFour, err := Rate("2bar", Meter{3, 4})
	require.NoError(t, err)
	assert.Equal(t, 6*Quarter, threeFour)
	for _, bad := range []string{"", "1/3", "1/8X", "3bar", "1/16 ", "2/4"} {
		_, err := Rate(bad, common)
		assert.ErrorContains(t, err, "is not a rate", bad)
	}
}

func TestMeters(t *testing.T) {
	for text, bar := range map[string]Time{"4/4": Whole, "7/8": 7 * Quarter / 2, "3/16": 3 * Quarter / 4, "32/1": 32 * Whole} {
		meter, err := ParseMeter(text)
		require.NoError(t, err)
		assert.Equal(t, bar, meter.Bar(), text)
		assert.Equal(t, text, meter.String())
	}
	for _, bad := range []string{"", "4", "0/4", "33/4", "4/3", "4/32", "-4/4", "04/4", "4/4/4", "four/4"} {
		_, err := ParseMeter(bad)
		assert.ErrorContains(t, err, "is not a meter", bad)
	}
}

func TestExportRoundsHalfUpOnce(t *testing.T) {
	unit := Quarter / 960
	for at, ticks := range map[Time]int64{0: 0, unit/2 - 1: 0, unit / 2: 1, unit: 1, 3*unit/2 - 1: 1, 3 * unit / 2: 2} {
		assert.Equal(t, ticks, at.Export(960), "%d", at)
	}
}

func TestEveryRateIsExactAtEveryResolution(t *testing.T) {
	for _, name := range Rates {
		length := rate(t, name)
		for _, resolution := range Resolutions {
			assert.Equal(t, length, Of(length.Export(resolution), resolution), "%s at %d", name, resolution)
		}
		for pieces := Time(1); pieces <= 8; pieces++ {
			assert.Zero(t, (length*7)%(pieces*100*50), "%s cut in %d, gated and swung is exact", name, pieces)
		}
	}
}

func TestWhenLanesMeet(t *testing.T) {
	for _, row := range []struct {
		steps   []int
		bars    string
		realign int64
	}{
		{[]int{7, 16}, "7", 7},
		{[]int{7, 15}, "105/16", 105},
		{[]int{5, 7, 16}, "35", 35},
		{[]int{16}, "1", 1},
		{[]int{8}, "1/2", 1},
		{[]int{12, 28}, "21/4", 21},
		{nil, "1", 1},
	} {
		var periods []*big.Int
		for _, n := range row.steps {
			periods = append(periods, big.NewInt(int64(n)*int64(rate(t, "1/16"))))
		}
		cycle := Meet(periods, common.Bar())
		assert.Equal(t, row.bars, cycle.Bars(), "%v", row.steps)
		assert.Equal(t, row.realign, cycle.RealignBars().Int64(), "%v", row.steps)
	}
	var primes []*big.Int
	for _, n := range []int{251, 241, 239, 233, 229, 227, 223, 211, 199, 197, 193, 191} {
		primes = append(primes, big.NewInt(int64(n)*int64(rate(t, "1/64T"))))
	}
	cycle := Meet(primes, common.Bar())
	assert.True(t, cycle.Over(cycle.Full), "a cycle beyond any machine number is still exact")
	assert.False(t, cycle.Full.IsInt64())
}

func TestSwing(t *testing.T) {
	sixteenth := rate(t, "1/16")
	swing := Swing{Percent: 66, Grid: sixteenth, Bar: Whole, Length: 4 * Whole}
	assert.Equal(t, Time(0), swing.Warp(0))
	assert.Equal(t, 2*sixteenth*66/100, swing.Warp(sixteenth), "the second of a pair is late")
	assert.Equal(t, 2*sixteenth, swing.Warp(2*sixteenth), "the next pair is not")
	assert.Equal(t, sixteenth*66/100, swing.Warp(sixteenth/2), "time between is warped evenly")
	assert.Equal(t, sixteenth, Swing{Percent: 50, Grid: sixteenth}.Warp(sixteenth))

	bar := 7 * sixteenth // three pairs and what is left of a bar
	swing = Swing{Percent: 75, Grid: sixteenth, Bar: bar, Length: 2*bar - sixteenth}
	assert.Equal(t, 5*sixteenth+sixteenth/2, swing.Warp(5*sixteenth))
	assert.Equal(t, 6*sixteenth+sixteenth/2, swing.Warp(6*sixteenth+sixteenth/2), "what is left of a bar stays straight")
	assert.Equal(t, bar+sixteenth+sixteenth/2, swing.Warp(bar+sixteenth), "pairs count from each bar's start")
	assert.Equal(t, bar+5*sixteenth+sixteenth/2, swing.Warp(bar+5*sixteenth), "a whole pair fits before the clip's end")
	swing.Length -= sixteenth / 2
	assert.Equal(t, bar+5*sixteenth, swing.Warp(bar+5*sixteenth), "no whole pair fits")
}

func TestSwingKeepsOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		bar := Time(rapid.IntRange(1, 9).Draw(t, "bar")) * Quarter / 2
		swing := Swing{Percent: rapid.IntRange(50, 75).Draw(t, "percent"), Grid: rate(t, "1/8"), Bar: bar, Length: 7 * bar}
		a := Time(rapid.Int64Range(0, int64(8*Whole)).Draw(t, "a"))
		b := a + Time(rapid.Int64Range(0, int64(Whole)).Draw(t, "later"))
		assert.LessOrEqual(t, swing.Warp(a), swing.Warp(b))
		assert.Equal(t, a/bar, swing.Warp(a)/bar, "a note stays in its bar")
		stretch := swing.StretchAt(swing.Warp(a))
		back := stretch.Straight(swing.Warp(a)) - a
		assert.True(t, back >= -2 && back <= 2, "and straight again it is where it was: %d off", back)
	})
}
