package piece

import "agrimony/internal/core/beat"

// NoteTick is the unit in which free notes count, a 960th of a quarter note.
const NoteTick = beat.Quarter / 960

// farthest is the end of the longest bars that a meter can make, in units of NoteTick: 1024
// bars of 32/1.
const farthest = beat.MaxBars * 32 * 4 * 960
