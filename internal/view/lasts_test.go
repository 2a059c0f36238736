package view_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"agrimony/internal/core/piece"
	"agrimony/internal/view"
)

func TestLengthsInWords(t *testing.T) {
	for _, row := range [][3]string{
		{"4/4", "7", "7 bars"},
		{"4/4", "1", "1 bar"},
		{"4/4", "55/4", "13 bars and 3 beats"},
		{"4/4", "1/4", "1 beat"},
		{"4/4", "105/16", "6 bars and 9 sixteenths"},
		{"6/8", "7/6", "1 bar and 1 beat"},
		{"4/4", "22/7", "22/7 bars"},
		{"4/4", "endless", "endless"},
	} {
		p := *piece.Default()
		p.Meter = row[0]
		assert.Equal(t, row[2], view.BarsInWords(&p, row[1]), row[1])
	}
}
