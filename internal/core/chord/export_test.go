package chord

// SmoothAnew voices a round without looking whether it is known.
func SmoothAnew(chords [][]int, r Range) ([][]int, []bool) { return smooth(chords, r, fewPairs) }

// SmoothPruned prunes the voicings of a round however few they are.
func SmoothPruned(chords [][]int, r Range) ([][]int, []bool) { return smooth(chords, r, 0) }
