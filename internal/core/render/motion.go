package render

import (
	"math/big"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// Field is a value of a step or a lane that modulators may move.
type Field uint8

// The fields, in the order of fieldNames.
const (
	Velocity Field = iota
	Gate
	Chance
	Ratchet
	Nudge
	Degree
	Octave
	Offset
	Steps // of span
	Leap
	Voices
	OrderOf
	Inversion
	Strum
	Value
	fields
)

var fieldNames = [fields]string{
	"velocity",
	"gate",
	"chance",
	"ratchet",
	"nudge",
	"degree",
	"octave",
	"offset",
	"span",
	"leap",
	"voices",
	"order",
	"inversion",
	"strum",
	"value",
}

// String is the field's name in the document.
func (f Field) String() string { return fieldNames[f] }

// Shared tells whether the playing of all lanes asks for the field, and a kind need not.
func (f Field) Shared() bool { return f == Chance || slices.Contains(shared[:], f) }

// craft is what moves a lane's values, made ready. Its clamped fields are noted while a
// lane is played, by which nobody else uses its pattern.
type craft struct {
	movers   []mover           // in the order of their fields, and within one in theirs
	since    [fields + 1]uint8 // where those on each field begin
	certain  bool              // chance is left alone
	shifting bool              // degrees or octaves are moved, of steps that say where they stand
	places   []place           // of the steps, once it is prepared
	odds     []piece.Odd
	to       [purposes]draws // what the draws for each end begin with
	tickets  []int8          // as many of each of the odds as it weighs
	seeds    []draws         // what the draws of a step's alternatives begin with
	clamped  uint32          // a bit for each field
}

// place is where a step stands in the key, before anything moves it.
type place struct {
	degree int16
	octave int8
}

// craftOf makes a lane's modulators and odds ready; nil where it has none.
func craftOf(p *piece.Piece, lane *piece.Lane, own draws, step beat.Time) *craft {
	odds := lane.Luck()
	if len(lane.Modulators) == 0 && len(odds) == 0 {
		return nil
	}
	out := &craft{odds: odds}
	weight := 0
	for i := range odds {
		weight += odds[i].Weight
	}
	if weight > 0 {
		for what := range purposes {
			out.to[what] = own.to(what)
		}
		out.tickets = make([]int8, 0, weight)
		for i := range odds {
			for range odds[i].Weight {
				out.tickets = append(out.tickets, int8(i))
			}
		}
	}
	meter, err := beat.ParseMeter(p.Meter)
	if err != nil {
		panic(err) // a checked piece has a meter
	}
	out.movers = make([]mover, 0, len(lane.Modulators))
	for f, name := range fieldNames {
		for i := range lane.Modulators {
			if lane.Modulators[i].On == name && lane.Acts(i) {
				out.movers = append(out.movers, moverOf(lane, i, Field(f), own, step, meter))
			}
		}
		out.since[f+1] = uint8(len(out.movers))
	}
	out.shifting = out.shifts() && standsSomewhere(lane)
	return out
}

// standsSomewhere tells whether the lane's steps or notes say where they stand in the key, or by
// what octave they are moved from where they stand.
func standsSomewhere(lane *piece.Lane) bool {
	if piece.FreeOf(lane) != nil {
		return true
	}
	_, placed := lane.Place(0)
	return placed
}

// on are the modulators on a field.
func (c *craft) on(f Field) []mover { return c.movers[c.since[f]:c.since[f+1]] }

// prepare works out what moving slots asks for again and again. A lane that is only asked
// for its period does without.
func (p *Pattern) prepare() {
	c := p.craft
	if c.shifting && c.places == nil {
		c.places = placesOf(p.lane, len(p.cells))
	}
	if len(c.tickets) > 0 && c.seeds == nil {
		c.seeds = make([]draws, len(p.cells))
		for i := range c.seeds {
			c.seeds[i] = p.draws.of(p.drawnAs(int32(i)), forOdds)
		}
	}
}

// placesOf are where the steps of a lane stand.
func placesOf(lane *piece.Lane, steps int) []place {
	out := make([]place, steps)
	for i := range out {
		at, _ := lane.Place(i)
		out[i] = place{int16(at.Degree), int8(at.Octave)}
	}
	return out
}

// shifts tells whether anything moves degrees or octaves.
func (c *craft) shifts() bool {
	return len(c.on(Degree)) > 0 || len(c.on(Octave)) > 0 ||
		slices.ContainsFunc(c.odds, func(o piece.Odd) bool { return o.Degrees != nil || o.Octave != nil })
}

// moved is a field's value in a slot, each modulator on it rounded and clamped before the
// next.
func (c *craft) moved(f Field, s *Slot, own int) int {
	if c == nil {
		return own
	}
	for i := range c.on(f) {
		m := &c.on(f)[i]
		gives := m.gives(s)
		if m.Way == "add" {
			gives += own
		}
		own = gives
		if kept := min(max(own, m.low), m.high); kept != own && !m.free {
			own = kept
			c.clamped |= 1 << f
		}
	}
	return own
}

// certain leaves chance and luck out.
func (p *Pattern) certain() {
	if p.craft != nil {
		p.craft.certain, p.craft.tickets = true, nil
	}
}

// noteClamped marks a part with the fields that modulators asked too much of.
func (p *Pattern) noteClamped(part *Part) {
	if p == nil || p.craft == nil {
		return
	}
	for f := range fields {
		if p.craft.clamped>>f&1 == 1 {
			part.Marks = append(part.Marks, Mark{Clamped, 0, int(f)})
		}
	}
}

// Moved is a field's value in a slot, after the lane's modulators.
func (p *Pattern) Moved(f Field, s *Slot, own int) int { return p.craft.moved(f, s, own) }

// Moves tells whether modulators move a field of the lane.
func (p *Pattern) Moves(f Field) bool { return p.craft != nil && len(p.craft.on(f)) > 0 }

// modulation is the least time after which the modulators that are not drawn recur, of the
// fields named, or of all; nil where there are none.
func (p *Pattern) modulation(of ...Field) *big.Int {
	if p.craft == nil {
		return nil
	}
	var out *big.Int
	for f := range fields {
		if len(of) > 0 && !slices.Contains(of, f) {
			continue
		}
		for i := range p.craft.on(f) {
			m := &p.craft.on(f)[i]
			if m.ends != nil {
				continue
			}
			every := big.NewInt(int64(m.every))
			if out == nil {
				out = every
			} else {
				out = beat.Common(out, every)
			}
		}
	}
	return out
}
