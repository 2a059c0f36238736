package chord

import (
	"encoding/binary"
	"sync"
)

// voiced keeps the rounds that were voiced last. What a round comes to depends on its chords
// and the range alone, and it is asked again and again: by playing, naming, drawing and
// reviewing.
var voiced = knownRounds{rounds: map[string]round{}}

type knownRounds struct {
	mutex  sync.Mutex
	rounds map[string]round
}

type round struct {
	out  [][]int
	held []bool
}

// mostKnown is how many rounds are kept.
const mostKnown = 128

func (k *knownRounds) of(chords [][]int, r Range) ([][]int, []bool) {
	name := binary.AppendVarint(binary.AppendVarint(nil, int64(r.Low)), int64(r.High))
	if r.Keep {
		name = append(name, 1)
	}
	if r.Clear {
		name = append(name, 2)
	}
	for _, pitches := range chords {
		name = binary.AppendVarint(name, int64(len(pitches)))
		for _, p := range pitches {
			name = binary.AppendVarint(name, int64(p))
		}
	}
	k.mutex.Lock()
	known, ok := k.rounds[string(name)]
	k.mutex.Unlock()
	if ok {
		return known.out, known.held
	}
	known.out, known.held = smooth(chords, r, fewPairs)
	k.mutex.Lock()
	defer k.mutex.Unlock()
	if len(k.rounds) >= mostKnown {
		clear(k.rounds)
	}
	k.rounds[string(name)] = known
	return known.out, known.held
}
