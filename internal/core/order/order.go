// Package order renders the running order of a piece: clips that sound for a time each, some of them at
// once, as one performance with a track for each lane of each clip.
//
// An entry is played in passes: at its clip's own end it begins again, and each pass is the clip rendered
// alone (package render). Entries that go on where one before them left off are one chain. What is in
// sight of a chain is cut out of its passes, lane by lane; then channels are given out over the whole.
package order

import (
	"cmp"
	"fmt"
	"math/big"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// Options say what of the order is rendered. The zero value is all of it.
type Options struct {
	From, To int // in 960ths of a quarter; To 0: the order's end
	PPQ      int // ticks a quarter note; 0: 960
	Events   int64
	Budget   *budget.Budget
	// Live leaves out what only a file needs: passes that nothing of the stretch sounds from, channels,
	// and cutting at the stretch's ends: each note that begins in it is there with its whole length.
	Live bool
	// Begin strikes what sounds across the stretch's start there, where Live leaves it to what came before.
	Begin bool
	// Kept are the channels that lanes have already, by clips and lanes, where they are given out while somebody
	// performs: a lane stays on its own, and room is left for every zone that the piece may need. nil: nobody does.
	Kept map[piece.LanePlace]int
	Ways bool // how the wheel of each note goes that has its own is kept; see Track.Ways
	// Progress is told how much of the order has been made, in time; nil: nobody asks.
	Progress func(done, all beat.Time)
}

// Performance is what the running order sounds like.
type Performance struct {
	Piece    *piece.Piece
	From     beat.Time // of the order, where it begins
	Length   beat.Time
	Bar      beat.Time
	PPQ      int
	Tracks   []Track // those that have anything, by clip and lane
	Harmony  []Chord
	Findings []Finding
	Setup    []render.Control        // announces zones, before all else
	zones    map[piece.LanePlace]int // of clips and lanes; see piece.ZonesInOrder
	kept     map[piece.LanePlace]int // see Options
	chains   []*chain
	work     *budget.Budget // what is left of the answer that it is for
}

// Track is what a lane of a clip plays over the whole order. Its lists are in order of time.
type Track struct {
	Clip, Lane int // indexes
	Part       render.Part
	sources    []source // of its notes
	bends      []int32  // the entry of each, from 1
	controls   []int32
	pressures  []int32
	spans      []span // where it sounds
	zone       *render.Zone
}

// span is a time in which a lane of an entry sounds.
type span struct{ from, to beat.Time }

// source is where a note comes from: a pass of a chain, and its place among the notes of its part there.
type source struct {
	chain *chain
	place int32 // of the pass
	part  int32
	note  int32
	entry int32 // from 1
	full  uint8 // the velocity that it had
}

func (s *source) pass() pass { return s.chain.pass(int(s.place)) }

// Chord is a chord of a clip where it begins to sound.
type Chord struct {
	At          beat.Time
	Clip, Entry int // the clip's index; the entry from 1
	*render.Chord
}

// Finding is one thing that a review of the order found.
type Finding struct {
	render.Finding
	Clip  string `json:"clip"`
	Entry int    `json:"entry"` // from 1; 0: none
}

// EmptyError says that a piece has no running order.
type EmptyError struct{}

func (*EmptyError) Error() string {
	return "the running order has no entries; bring clips in first, or render one clip"
}

// Render renders the running order of a checked piece. The error is an *EmptyError, a
// *render.TooManyError, that of a budget, or says which option is not allowed.
func Render(p *piece.Piece, o Options) (out *Performance, err error) {
	defer budget.Catch(&err)
	if len(p.Order.Entries) == 0 {
		return nil, &EmptyError{}
	}
	if o.PPQ == 0 {
		o.PPQ = render.DefaultPPQ
	}
	if !slices.Contains(beat.Resolutions, o.PPQ) {
		return nil, fmt.Errorf("ppq: %d is not allowed; allowed: 96, 480, 960", o.PPQ)
	}
	if o.Events == 0 {
		o.Events = render.MaxEvents
	}
	m := &maker{Options: o, piece: p, clips: make([]*clipFacts, len(p.Clips)), known: map[passKey]*render.Performance{}, tracks: map[piece.LanePlace]*Track{}}
	if m.zones, err = p.ZonesInOrder(); err != nil {
		return nil, err
	}
	m.chains = m.chainsOf()
	if err := m.window(); err != nil {
		return nil, err
	}
	for i, c := range m.chains {
		if err := m.play(c); err != nil {
			return nil, err
		}
		if o.Progress != nil {
			o.Progress(beat.Time(i+1), beat.Time(len(m.chains)))
		}
	}
	out = &Performance{Piece: p, Bar: p.Bar(), PPQ: o.PPQ, chains: m.chains, zones: m.zones, kept: o.Kept, Harmony: m.harmony, work: o.Budget}
	for clip := range p.Clips {
		for lane := range p.Clips[clip].Lanes {
			if t := m.tracks[piece.LanePlace{Clip: clip, Lane: lane}]; t != nil && t.any() {
				t.sort()
				out.Tracks = append(out.Tracks, *t)
			}
		}
	}
	slices.SortStableFunc(out.Harmony, func(a, b Chord) int { return cmp.Compare(a.At, b.At) })
	out.From, out.Length = 0, m.end
	if o.Live {
		return out, nil
	}
	sounded := out.sounding() // before keys that several strike at once are one note
	out.channels()
	out.Length = out.end(m.end)
	out.review(sounded)
	if o.From > 0 || o.To > 0 {
		if err := out.stretch(o); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// maker is an order while it is rendered.
type maker struct {
	Options
	piece   *piece.Piece
	zones   map[piece.LanePlace]int
	clips   []*clipFacts
	chains  []*chain
	known   map[passKey]*render.Performance // passes that come out the same
	tracks  map[piece.LanePlace]*Track
	harmony []Chord
	made    int64
	end     beat.Time // of the last entry
}

// clipFacts are what all passes of a clip have in common.
type clipFacts struct {
	length  beat.Time // its own; 0: it has no end of its own
	reach   beat.Time // how far ahead of a place what stands there may depend on
	audible []bool    // lanes that play in the clip
}

func (m *maker) facts(i int) *clipFacts {
	if m.clips[i] != nil {
		return m.clips[i]
	}
	clip := &m.piece.Clips[i]
	out := &clipFacts{audible: render.Audible(clip), length: LengthOf(m.piece, clip, m.Budget)}
	out.reach = lookahead * m.piece.Bar()
	for k := range clip.Lanes {
		if render.HasPattern(&clip.Lanes[k]) {
			out.reach = max(out.reach, render.PatternOf(m.piece, clip, &clip.Lanes[k]).RoundLength())
		}
	}
	m.clips[i] = out
	return out
}

// lookahead is how many bars beyond the end of an entry are played, or a whole round of its longest lane, so
// that what would come shapes what stands before.
const lookahead = 16

// LengthOf is a clip's own length; 0: its lanes meet so late that it has no end of its own.
func LengthOf(p *piece.Piece, clip *piece.Clip, work *budget.Budget) beat.Time {
	if clip.Bars > 0 {
		return beat.Time(clip.Bars) * p.Bar()
	}
	return render.OwnLength(p, clip, kinds, work)
}

// window checks the stretch that is asked for.
func (m *maker) window() error {
	for i := range m.piece.Order.Entries {
		m.end = max(m.end, m.piece.Order.Entries[i].Ends())
	}
	switch {
	case m.Live:
	case m.From < 0 || int64(m.From) >= int64(m.end/piece.OrderTick):
		return fmt.Errorf("from: %d is not in the order; allowed: 0..%d", m.From, int64(m.end/piece.OrderTick)-1)
	case m.To != 0 && m.To <= m.From:
		return fmt.Errorf("to: %d is not after %d; allowed: a place after it", m.To, m.From)
	}
	return nil
}

// any tells whether the track has anything.
func (t *Track) any() bool {
	return len(t.Part.Notes)+len(t.Part.Bends)+len(t.Part.Controls)+len(t.Part.Pressures) > 0
}

// sort puts the notes in order of time: what rings on may begin before what came in meanwhile.
func (t *Track) sort() {
	if slices.IsSortedFunc(t.Part.Notes, func(a, b render.Note) int { return cmp.Compare(a.At, b.At) }) {
		return
	}
	places := make([]int, len(t.Part.Notes))
	for i := range places {
		places[i] = i
	}
	slices.SortStableFunc(places, func(a, b int) int { return cmp.Compare(t.Part.Notes[a].At, t.Part.Notes[b].At) })
	notes, sources := make([]render.Note, len(places)), make([]source, len(places))
	for i, k := range places {
		notes[i], sources[i] = t.Part.Notes[k], t.sources[k]
	}
	t.Part.Notes, t.sources = notes, sources
}

// end is where the order ends: after its last ring.
func (p *Performance) end(last beat.Time) beat.Time {
	for i := range p.Tracks {
		for k := range p.Tracks[i].Part.Notes {
			last = max(last, p.Tracks[i].Part.Notes[k].End)
		}
	}
	return last
}

// Bars is its length in bars, exact.
func (p *Performance) Bars() *big.Rat { return big.NewRat(int64(p.Length), int64(p.Bar)) }

// Entry is the entry, from 1, that a note of a track is of, and the pass.
func (t *Track) Entry(note int) (entry, pass int) {
	s := &t.sources[note]
	return int(s.entry), s.pass().number
}

// Ways are how the wheels of notes go that have their own and sound as long as in the clip alone, where that was
// kept.
func (t *Track) Ways() (out []render.Way) {
	if t.Part.Zone == nil {
		return nil
	}
	for k := range t.Part.Notes {
		s, note := &t.sources[k], &t.Part.Notes[k]
		pass := s.pass()
		part := &pass.played.Lanes[s.part]
		alone := &part.Notes[s.note]
		at, kept := part.WayOf(int(s.note))
		if !kept || note.At != alone.At+pass.at || note.End != alone.End+pass.at {
			continue
		}
		way := *at
		way.Note, way.Slides = k, slices.Clone(way.Slides)
		for i := range way.Slides {
			way.Slides[i].At += pass.at
		}
		out = append(out, way)
	}
	return out
}

// Path is the way of a note of a track that glides by itself; nil of others.
func (t *Track) Path(note int) []render.Turn {
	if t.Part.Zone == nil {
		return nil
	}
	return render.PathOf(t.wheelOf(note, t.Part.Zone.Range), t.Part.Notes[note].At, t.Part.Zone.Range)
}
