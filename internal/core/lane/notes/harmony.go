package notes

import (
	"cmp"
	mathbits "math/bits"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/chord"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// A chord that is played: an onset belongs to it that comes less than a sixteenth note after the
// one before, and less than an eighth after its first.
const (
	together = beat.Quarter / 4
	longest  = beat.Quarter / 2
	// MostTones is how many tones of a chord count; of more the lowest.
	MostTones = 24
)

// tone is a note that was struck, by the grid.
type tone struct {
	pitch   uint8
	at, end beat.Time
	cut     bool // the loop's end, or a restart, ended it before its time
	tied    bool
}

// hand gathers the notes of a lane, in order of time, into chords.
type hand struct {
	in     *render.Input
	single bool
	down   [128]tone // what was struck last of each pitch
	lit    [2]uint64 // the pitches that may sound, a bit each
	latest int       // the pitch that was struck last; below 0: none
	chords []render.Beginning
	known  map[string]*render.Chord

	open        bool // a chord has begun that may take in more
	first, last beat.Time
	step        int32

	waits   tone // of one voice, which of those at once sounds is known only as the next comes
	waiting bool
	note    int32
	slides  bool
}

func newHand(in *render.Input, single bool) *hand {
	return &hand{in: in, single: single, latest: -1, known: map[string]*render.Chord{}}
}

// hear is told of a note that begins, after all that began before; step is its index. Slides tells that a tie
// takes the note before it to its pitch, so that nothing is struck.
func (h *hand) hear(t tone, step int32, slides bool) {
	h.in.Worked(2)
	if !h.single {
		h.strike(t, step, slides)
		return
	}
	if h.waiting && h.waits.at != t.at {
		h.strike(h.waits, h.note, h.slides)
	}
	h.waits, h.waiting, h.note, h.slides = t, true, step, slides
}

// end gives the chords, once all notes have been heard.
func (h *hand) end() []render.Beginning {
	if h.waiting {
		h.strike(h.waits, h.note, h.slides)
	}
	h.close()
	return h.chords
}

func (h *hand) strike(t tone, step int32, slides bool) {
	if h.single && h.latest >= 0 {
		if before := &h.down[h.latest]; before.tied && (before.pitch == t.pitch || slides) {
			before.tied = t.tied
			return
		}
	}
	if h.open && (t.at-h.last >= together || t.at-h.first >= longest) {
		h.close()
	}
	if !h.open {
		h.open, h.first, h.step = true, t.at, step
	}
	if h.last = t.at; h.single {
		h.lit = [2]uint64{}
	}
	h.down[t.pitch], h.latest = t, int(t.pitch)
	h.lit[t.pitch/64] |= 1 << (t.pitch % 64)
}

// sounding are the tones of the chord that is gathered: what sounds right after its last onset, and what it struck
// that was cut.
func (h *hand) sounding() (out []tone) {
	for half, bits := range h.lit {
		for ; bits != 0; bits &= bits - 1 {
			p := half*64 + mathbits.TrailingZeros64(bits)
			if t := h.down[p]; t.end > h.last || t.cut && t.at >= h.first {
				out = append(out, t)
			} else {
				h.lit[half] &^= 1 << (p % 64)
			}
		}
	}
	return out
}

// close ends the gathering of a chord.
func (h *hand) close() {
	if !h.open {
		return
	}
	h.open = false
	tones := h.sounding()
	h.in.Worked(8 + 2*len(tones))
	h.in.Kept(1)
	// They come from the lowest up: of those that began at once the lowest is the first.
	slices.SortStableFunc(tones, func(a, b tone) int { return cmp.Compare(a.at, b.at) })
	listed := make([]uint8, len(tones))
	for i, t := range tones {
		listed[i] = t.pitch
	}
	c := h.known[string(listed)]
	if c == nil {
		c = chordOf(h.in.Key, listed)
		h.known[string(listed)] = c
	}
	h.chords = append(h.chords, render.Beginning{At: h.first, Step: h.step, Chord: c})
}

// chordOf is the chord of tones that are listed as they began, each once.
func chordOf(key pitch.Key, listed []uint8) *render.Chord {
	out := &render.Chord{Pitches: slices.Sorted(slices.Values(listed)), Listed: slices.Clone(listed)}
	if out.Over = len(listed) - MostTones; out.Over > 0 {
		out.Pitches = out.Pitches[:MostTones]
		highest := out.Pitches[MostTones-1]
		out.Listed = slices.DeleteFunc(out.Listed, func(p uint8) bool { return p > highest })
	}
	out.Over = max(out.Over, 0)
	pitches := make([]int, len(out.Pitches))
	for i, p := range out.Pitches {
		pitches[i] = int(p)
		out.Classes |= 1 << (p % 12)
	}
	found, bass := chord.Find(pitches, &key), pitch.Mod(pitches[0], 12)
	root := pitches[slices.IndexFunc(pitches, func(p int) bool { return pitch.Mod(p, 12) == found.Class })]
	out.Root = key.Spell(root)
	out.Symbol, out.Numeral = found.Symbol(out.Root, bass), found.Numeral(key, out.Root, bass)
	if out.Classes&(out.Classes-1) == 0 { // one tone is named as itself
		out.Symbol, out.Numeral = out.Root.String(), chord.Figure(key, out.Root)
	}
	if out.RootDegree = key.Index(found.Class); out.RootDegree == 0 {
		at := key.PlaceOf(out.Root, root, 0)
		out.RootDegree, out.RootAlter = at.Degree, at.Alter
	}
	return out
}

// Harmony lists the chords that the lane plays, up to the input's length, the first at 0: where none begins there,
// the loop's last, as if all its notes sounded.
func (Kind) Harmony(in *render.Input) []render.Beginning {
	in = in.Stayed()
	own := of(in.Lane)
	h, keep := newHand(in, own.Voices == "one"), keeper(in.Lane)
	placed := placer(own, in)
	in.Pattern.Each(in.Length, func(s render.Slot) bool {
		in.Worked(2)
		if !s.Sounds {
			return true
		}
		if p, ok := keep(placed(&s).Pitch); ok {
			_, length := own.Span(int(s.Step))
			end := s.At + length.Percent(int(s.Gate))
			h.hear(tone{pitch: p, at: s.At, end: min(end, s.Cut), cut: end > s.Cut, tied: s.Tie}, s.Step, slid(own, s.Step))
		}
		return true
	})
	chords := h.end()
	if len(chords) > 0 && chords[0].At == 0 {
		return chords
	}
	all := wholeLoop(in)
	if len(all) == 0 {
		return chords
	}
	brought := all[len(all)-1]
	brought.At, brought.Brought = 0, true
	return slices.Insert(chords, 0, brought)
}

// wholeLoop are the chords of a lane's loop as it is written, as if all its notes sounded.
func wholeLoop(in *render.Input) []render.Beginning {
	own := of(in.Lane)
	h, keep := newHand(in, own.Voices == "one"), keeper(in.Lane)
	start, length := in.Pattern.Loop()
	for _, i := range in.Pattern.Order() {
		n := &own.Notes[i]
		p := Pitch(own, in.Key, nil, n)
		if n.Note == nil {
			p = int(pitched.At(&own.Pitched, in.Key, nil, pitched.Along(in.Key, n.Place(), in.ShiftOf(&own.Pitched))).Pitch)
		}
		if kept, ok := keep(uint8(pitch.Fold(p))); ok {
			at, lasts := own.Span(int(i))
			at -= start
			h.hear(tone{pitch: kept, at: at, end: min(at+lasts, length), cut: at+lasts > length, tied: n.Tie}, i, slid(own, i))
		}
	}
	return h.end()
}

// slid tells whether a tie takes the note before to this one's pitch without an onset.
func slid(own *piece.Notes, i int32) bool {
	return own.Glide.Mode == "bend" && own.Notes[i].Glide != nil
}

// keeper brings pitches into a lane's range; false: it is left out.
func keeper(lane *piece.Lane) func(p uint8) (uint8, bool) {
	if lane.Kept() == nil {
		return func(p uint8) (uint8, bool) { return p, true }
	}
	ranger := render.RangeOf(lane)
	return ranger.Keep
}

// Moving are the fields that decide the chords as modulators move them.
func (Kind) Moving() []render.Field { return []render.Field{render.Degree, render.Octave, render.Gate} }

// Changes tells whether the chord ever changes among the notes that are come to, or, with lying, how it lies.
func (Kind) Changes(in *render.Input, lying bool) bool {
	own := of(in.Lane)
	reached := in.Pattern.Reached()
	if len(reached) == 0 {
		return false
	}
	if in.Pattern.Shifts() {
		return true
	}
	pitches, drawn := map[int]bool{}, in.Lane.MayDraw()
	for _, i := range reached {
		pitches[Pitch(own, in.Piece.KeyOf(in.Clip), nil, &own.Notes[i])] = true
		drawn = drawn || own.Notes[i].Rounds != nil
	}
	if len(pitches) < 2 {
		return false
	}
	if drawn || len(in.Lane.Modulators) > 0 {
		return true
	}
	frame := &render.Frame{Key: in.Piece.KeyOf(in.Clip), Bar: in.Piece.Bar(), Length: 2 * in.Pattern.RoundLength()}
	unmoved := *in
	unmoved.Frame = frame
	chords := Kind{}.Harmony(&unmoved)
	for _, b := range chords {
		if !slices.Equal(b.Pitches, chords[0].Pitches) || lying && !slices.Equal(b.Listed, chords[0].Listed) {
			return true
		}
	}
	return false
}

// Borrowed is the lane of a clip in one key as it stands in another: its degrees stay.
func (k Kind) Borrowed(lane *piece.Lane, from, to pitch.Key) *piece.Lane {
	return pitched.Borrowed(lane, from, to, k.Rekey)
}

// Chart is how the chords that the lane plays stand in a performance, in ticks of a resolution; nil where nobody
// listens to them.
func (Kind) Chart(p *render.Performance, own *piece.Lane, ppq int) *render.Chart {
	if p.Harmony == nil || p.Harmony.Lane != own {
		return nil
	}
	out := &render.Chart{Marks: []render.ChordMark{}, Palette: []render.Entry{}}
	chords := p.Harmony.Chords
	for i, b := range chords {
		until := p.Length
		if i+1 < len(chords) {
			until = chords[i+1].At
		}
		m := render.ChordMark{
			At: b.At.Export(ppq), Until: until.Export(ppq), Step: int(b.Step), Held: 1, Symbol: pitch.Pretty(b.Symbol), Numeral: chord.Pretty(b.Numeral),
			Pitches: make([]int, len(b.Pitches)), Against: []string{}, Threads: [][2]int{},
		}
		for k, tone := range b.Pitches {
			m.Pitches[k] = int(tone)
		}
		out.Marks = append(out.Marks, m)
	}
	return out
}
