package phrase

import (
	"slices"
	"sync"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// tone is one that sounds, and where it comes from.
type tone struct {
	pitch  uint8
	folded int32 // what it was before it was folded into 0..127
	render.Walked
}

// walker walks a lane's slots in order of time.
type walker struct {
	lane    *piece.Lane
	phrase  *piece.Phrase
	key     pitch.Key
	harmony *render.Harmony
	octave  int // of the harmony's lane
	shift   int // degrees, of all that no chord leads
	restart beat.Time
	draw    func(step, round int32, turn int) uint64
	crafted *render.Pattern // what moves the lane's values; nil: nothing does
	ranger  render.Ranger

	flights map[setting]*Stairs // nil flights: there is nothing to walk
	climbed setting             // that the stairs at hand is of
	athand  *Stairs
	known   [recalled]recall
	tones   []tone // memory that slots take theirs from
	keys    []uint8
	chord   func(at beat.Time) *render.Chord
	begun   int // chords that began so far
	place   int
	given   []int // the rungs that the place gave, voice by voice
	started bool
	round   int32
	times   beat.Time // restarts so far
}

// room is memory for what lives only while a lane is played. It is used again, because
// clearing it anew for every lane costs as much as walking.
type room struct {
	sounding []struck
	pitches  [][]uint8
	tones    []tone
	keys     []uint8
}

var rooms = sync.Pool{New: func() any { return new(room) }}

// of gives room for so many slots, in which nothing sounds yet.
func (r *room) of(slots int) ([]struck, [][]uint8) {
	r.sounding = slices.Grow(r.sounding[:0], slots)[:slots]
	r.pitches = slices.Grow(r.pitches[:0], slots)[:slots]
	clear(r.sounding)
	clear(r.pitches)
	return r.sounding, r.pitches
}

// recalled is how many moved pitches are remembered: a walk comes to the same ones again and
// again, and working one out takes much longer than looking.
const recalled = 512

// recall is a pitch that was moved, and what it came to.
type recall struct {
	spot
	tone
}

// place is where a spot is remembered, if it is.
func (s *spot) place() int {
	return (int(s.step)*31 + int(s.rung)*7 + s.moved.luck.Degrees*5 + s.moved.offset) & (recalled - 1)
}

// spot is a pitch of a walk that a step moves.
type spot struct {
	stairs *Stairs
	step   int32
	from   int16
	rung   int16
	moved  movement
}

// movement is by how much what a step plays is moved.
type movement struct {
	offset, octave int
	luck           render.Luck
}

// setting is what stairs are made of: a chord, and what modulators make of the lane.
type setting struct {
	chord             *render.Chord
	span, leap, order int // order from 1 in the list of orders; 0: as the lane has it
}

// struck is what a slot sounds: its tones in the first repeat, those of the others where
// they differ.
type struck struct {
	first []tone
	more  [][]tone
}

func newWalker(in *render.Input) *walker {
	w := &walker{
		lane: in.Lane, phrase: of(in.Lane), key: in.Key, harmony: in.Harmony, restart: beat.Time(in.Lane.Restart) * in.Bar,
		draw: in.Pattern.Draw, shift: in.Shift, flights: map[setting]*Stairs{}, chord: in.Harmony.Walk(), round: -1,
		ranger: render.RangeOf(in.Lane), crafted: crafted(in),
	}
	if in.Harmony != nil {
		w.octave = in.Harmony.Octave()
	}
	return w
}

// startOver lets the walk begin again where its rule says so.
func (w *walker) startOver(s *render.Slot) {
	if w.restart != 0 {
		if times := s.At / w.restart; times != w.times {
			w.times, w.started = times, false
		}
	}
	if w.phrase.Walk == "round" && s.Round != w.round {
		w.started = false
	}
	w.round = s.Round
	if w.harmony == nil {
		return
	}
	for w.begun < len(w.harmony.Chords) && w.harmony.Chords[w.begun].At <= s.At {
		if w.phrase.Walk == "chord" && !w.harmony.Chords[w.begun].Brought {
			w.started = false
		}
		w.begun++
	}
}

// crafted is a lane's pattern where something moves its values.
func crafted(in *render.Input) *render.Pattern {
	if len(in.Lane.Modulators)+len(in.Lane.Odds) > 0 {
		return in.Pattern
	}
	return nil
}

// setting is what a slot's stairs are made of.
func (w *walker) setting(s *render.Slot, chord *render.Chord) setting {
	out := setting{chord: chord, span: w.phrase.Span, leap: w.phrase.Leap.By}
	if w.crafted == nil {
		return out
	}
	out.span, out.leap = w.crafted.Moved(render.Steps, s, out.span), w.crafted.Moved(render.Leap, s, out.leap)
	if w.crafted.Moves(render.OrderOf) {
		out.order = w.crafted.Moved(render.OrderOf, s, slices.Index(piece.Orders, w.phrase.Order.Name)+1)
	}
	return out
}

// movement is by how much a slot moves what its step plays.
func (w *walker) movement(s *render.Slot, step *piece.PhraseStep) movement {
	out := movement{offset: step.Offset, octave: step.Octave}
	if w.crafted != nil {
		out.offset, out.octave = w.crafted.Moved(render.Offset, s, out.offset), w.crafted.Moved(render.Octave, s, out.octave)
		out.luck = w.crafted.Luck(s)
	}
	return out
}

// voices is how many places of the order sound together in a slot.
func (w *walker) voices(s *render.Slot) int {
	if w.crafted == nil {
		return w.phrase.Voices
	}
	return w.crafted.Moved(render.Voices, s, w.phrase.Voices)
}

// stairs are what a slot walks over a chord; nil: nothing.
func (w *walker) stairs(s *render.Slot, chord *render.Chord) *Stairs {
	at := w.setting(s, chord)
	if w.athand != nil && at == w.climbed {
		return w.athand
	}
	if known, ok := w.flights[at]; ok {
		w.climbed, w.athand = at, known
		return known
	}
	var out *Stairs
	if tones, ok := tonesOf(w.phrase, w.key, chord, w.octave, w.shift); ok {
		order := w.phrase.Order
		if at.order > 0 {
			order = piece.Order{Name: piece.Orders[at.order-1]}
		}
		out = Climb(w.key, tones, at.span, piece.Leap{By: at.leap, In: w.phrase.Leap.In}, order, pitch.Snap(w.phrase.Snap))
	}
	w.flights[at] = out
	return out
}

// tonesOf are the tones that a phrase walks over a chord.
func tonesOf(p *piece.Phrase, key pitch.Key, chord *render.Chord, octave, shift int) (out Tones, ok bool) {
	out.Root = pitch.Mod(key.Pitch(pitched.Along(key, pitch.Place{Degree: 1}, shift), 0), 12)
	if chord != nil {
		out.Root = chord.Root.Class()
	}
	if p.Source == "own" {
		for _, t := range p.Tones {
			out.Listed = append(out.Listed, pitched.At(&p.Pitched, key, chord, t).Locked)
		}
		return out, len(out.Listed) > 0
	}
	if chord == nil {
		return out, false
	}
	for _, own := range chord.Listed {
		out.Listed = append(out.Listed, int(own)+12*(p.Octave-octave))
	}
	return out, true
}

// step walks through a slot and gives what sounds in each of its repeats; nothing where
// it rests. What chance or rounds silence walks on all the same.
func (w *walker) step(s *render.Slot, out *struck) {
	w.startOver(s)
	step := &w.phrase.Steps[s.Step]
	chord := w.chord(s.At)
	if !step.On {
		return
	}
	stairs := w.stairs(s, chord)
	times := 1
	if w.phrase.Repeats == "walk" {
		times = int(s.Ratchet)
	}
	for k := range times {
		w.move(step.Play)
		if stairs == nil {
			continue
		}
		if walks(step.Play) {
			w.give(s, step.Play, stairs, k)
		}
		if !s.Sounds {
			continue
		}
		tones := w.sound(s, step, stairs, chord)
		if k > 0 {
			out.more = append(out.more, tones)
			continue
		}
		out.first = tones
	}
}

// pitches are the MIDI pitches of tones.
func (w *walker) pitches(tones []tone) []uint8 {
	start := len(w.keys)
	for _, t := range tones {
		w.keys = append(w.keys, t.pitch)
	}
	return w.keys[start:len(w.keys):len(w.keys)]
}

// moves is by how much a step's play moves the walk.
func moves(play string) int {
	switch play {
	case "next":
		return 1
	case "back":
		return -1
	}
	return 0
}

// walks tells whether a step's play takes a place of the walk.
func walks(play string) bool { return play == "next" || play == "back" || play == "again" }

func (w *walker) move(play string) {
	switch {
	case !walks(play):
	case w.started:
		w.place += moves(play)
	default:
		w.started, w.place, w.given = true, 0, w.given[:0]
		if play == "back" {
			w.place = -1
		}
	}
}

// give works out the rungs at the walk's place, for each voice. Where the order is drawn,
// once more is what the place gave last, heard or not.
func (w *walker) give(s *render.Slot, play string, l *Stairs, repeat int) {
	before := len(w.given)
	for voice := range w.voices(s) {
		if play == "again" && l.drawn != "" && voice < before {
			w.given[voice] %= len(l.Rungs)
			continue
		}
		rung := l.At(w.place+voice, 4*repeat+voice, func(shuffle bool, n int) uint64 {
			if shuffle {
				return w.draw(int32(pitch.Mod(n, len(l.Rungs))), int32(floor(n, len(l.Rungs))), -1)
			}
			return w.draw(s.Step, s.Round, n)
		})
		if voice < len(w.given) {
			w.given[voice] = rung
		} else {
			w.given = append(w.given, rung)
		}
	}
}

// sound is what a step sounds in one repeat, sorted and without doubles.
func (w *walker) sound(s *render.Slot, step *piece.PhraseStep, l *Stairs, chord *render.Chord) []tone {
	start := len(w.tones)
	add := func(t tone) {
		for i := start; i < len(w.tones); i++ {
			if w.tones[i].pitch == t.pitch {
				return
			}
		}
		w.tones = append(w.tones, t)
	}
	by := w.movement(s, step)
	put := func(rung, p int) { add(w.at(s.Step, step, by, l, chord, rung, p)) }
	switch step.Play {
	case "low":
		put(0, l.Rungs[0])
	case "high":
		put(len(l.Rungs)-1, l.Rungs[len(l.Rungs)-1])
	case "root":
		put(l.RootRung())
	case "chord":
		for _, p := range l.First {
			rung, _ := slices.BinarySearch(l.Rungs, p)
			put(rung, p)
		}
	default:
		for voice := range w.voices(s) {
			put(l.Rung(w.given[voice]))
		}
	}
	if pedal := w.phrase.Pedal; pedal != nil {
		p := l.Rungs[0]
		if pedal.Tone == "root" {
			_, p = l.RootRung()
		}
		add(toneOf(p+12*pedal.Octave, p, -1))
	}
	w.keep(start)
	out := w.tones[start:len(w.tones):len(w.tones)]
	if len(out) > 1 {
		slices.SortFunc(out, func(a, b tone) int { return int(a.pitch) - int(b.pitch) })
	}
	return out
}

// keep brings the tones from start on into the lane's range; those that it leaves out, and
// those that meet another one there, go.
func (w *walker) keep(start int) {
	if w.lane.Kept() == nil {
		return
	}
	kept := w.tones[:start]
next:
	for _, t := range w.tones[start:] {
		p, ok := w.ranger.Keep(t.pitch)
		if !ok {
			continue
		}
		for _, other := range kept[start:] {
			if other.pitch == p {
				continue next
			}
		}
		if t.folded == int32(t.pitch) {
			t.folded = int32(p)
		}
		t.pitch = p
		kept = append(kept, t)
	}
	w.tones = kept
}

// toneOf is a tone at a pitch that comes from another.
func toneOf(p, from, rung int) tone {
	return tone{uint8(pitch.Fold(p)), int32(p), render.Walked{Rung: int16(rung), From: int16(pitch.Fold(from))}}
}

// at is a pitch of the walk as a step moves it.
func (w *walker) at(index int32, step *piece.PhraseStep, by movement, l *Stairs, chord *render.Chord, rung, p int) tone {
	if by.offset == 0 && by.luck.Degrees == 0 {
		return toneOf(p+12*(by.octave+by.luck.Octave), p, rung)
	}
	at := spot{l, index, int16(p), int16(rung), by}
	known := &w.known[at.place()]
	if known.spot != at {
		*known = recall{at, toneOf(w.moved(p, step, by, chord), p, rung)}
	}
	return known.tone
}

// moved is a tone moved by a step's offset and octave. The lock acts on what an offset in
// semitones moved, and on nothing else.
func (w *walker) moved(p int, step *piece.PhraseStep, by movement, chord *render.Chord) int {
	snap := pitch.Snap(w.phrase.Snap)
	switch {
	case by.offset == 0:
	case step.In == "scale":
		p = Along(w.key, p, by.offset, snap)
	default:
		p = pitched.Locked(&w.phrase.Pitched, w.key, chord, p+by.offset)
	}
	if by.luck.Degrees != 0 {
		p = Along(w.key, p, by.luck.Degrees, snap)
	}
	return p + 12*(by.octave+by.luck.Octave)
}
