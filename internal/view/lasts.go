package view

import (
	"fmt"
	"math/big"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// BarsInWords says how long so many bars of a piece are, a whole number or a fraction as "55/4": "13 bars and 3 beats",
// or in sixteenths where it is no whole beats, or as the fraction that it is.
func BarsInWords(p *piece.Piece, bars string) string {
	length, ok := new(big.Rat).SetString(bars)
	meter, err := beat.ParseMeter(p.Meter)
	if !ok || err != nil || length.Sign() < 0 {
		return bars
	}
	whole := new(big.Int).Quo(length.Num(), length.Denom())
	rest := new(big.Rat).Sub(length, new(big.Rat).SetInt(whole))
	if rest.Sign() == 0 {
		return countOf(whole.String(), "bar")
	}
	in := func(parts int64) *big.Rat { return new(big.Rat).Mul(rest, big.NewRat(parts, 1)) }
	said := ""
	if beats := in(int64(meter.Count)); beats.IsInt() {
		said = countOf(beats.RatString(), "beat")
	} else if sixteenths := in(int64(16 * meter.Count / meter.Unit)); 16*meter.Count%meter.Unit == 0 && sixteenths.IsInt() {
		said = countOf(sixteenths.RatString(), "sixteenth")
	} else {
		return bars + " bars"
	}
	if whole.Sign() == 0 {
		return said
	}
	return fmt.Sprintf("%s and %s", countOf(whole.String(), "bar"), said)
}

func countOf(n, what string) string {
	if n == "1" {
		return "1 " + what
	}
	return n + " " + what + "s"
}
