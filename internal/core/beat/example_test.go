package beat_test

import (
	"fmt"
	"math/big"

	"agrimony/internal/core/beat"
)

// Seven sixteenths against sixteen: the lanes meet after seven bars.
func ExampleMeet() {
	meter := beat.Meter{Count: 4, Unit: 4}
	sixteenth, err := beat.Rate("1/16", meter)
	if err != nil {
		panic(err)
	}
	cycle := beat.Meet([]*big.Int{big.NewInt(int64(7 * sixteenth)), big.NewInt(int64(16 * sixteenth))}, meter.Bar())
	fmt.Println(cycle.Bars(), "bars")
	// Output: 7 bars
}

// Swing of 66 % delays the second of a pair of eighths, and nothing else.
func ExampleSwing_Warp() {
	swing := beat.Swing{Percent: 66, Grid: beat.Quarter / 2, Bar: beat.Whole, Length: beat.Whole}
	for _, eighth := range []beat.Time{0, 1, 2, 3} {
		fmt.Print(swing.Warp(eighth*beat.Quarter/2).Export(960), " ")
	}
	// Output: 0 634 960 1594
}
