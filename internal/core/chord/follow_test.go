package chord_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"agrimony/internal/core/chord"
)

// What players expect after a chord, of the triads of C major.
func TestWhatFollowsAChordWell(t *testing.T) {
	triads := []chord.Lying{
		{0, []int{48, 52, 55}}, {2, []int{50, 53, 57}}, {4, []int{52, 55, 59}}, {5, []int{53, 57, 60}},
		{7, []int{55, 59, 62}}, {9, []int{57, 60, 64}}, {11, []int{59, 62, 65}},
	}
	for _, row := range []struct {
		name                string
		from                int
		first, second, last int // degrees
	}{
		{"from home to the fourth, then the sixth", 1, 4, 6, 7},
		{"from the second to the fifth, then the sixth", 2, 5, 6, 2},
		{"from the fifth home", 5, 1, 3, 7},
		{"from the sixth to the second", 6, 2, 4, 6},
		{"a leading tone goes home", 7, 1, 3, 7},
	} {
		ranks := chord.Follow(triads[row.from-1], triads)
		assert.Equal(t, 1, ranks[row.first-1], "%s: %v", row.name, ranks)
		assert.LessOrEqual(t, ranks[row.second-1], 3, "%s: %v", row.name, ranks)
		assert.GreaterOrEqual(t, ranks[row.last-1], 5, "%s: %v", row.name, ranks)
		seen := map[int]bool{}
		for _, r := range ranks {
			seen[r] = true
		}
		assert.Len(t, seen, 7, "each rank once")
	}
}
