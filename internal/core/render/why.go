package render

import (
	"fmt"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// trace keeps, in a few bytes, what Why needs to tell how a note came about.
type trace struct {
	onset       beat.Time // before groove and cut
	end         beat.Time // before groove
	run         int32
	last        int32 // index of the last step joined
	joinedSteps int16
	alter       int8
	ends        uint8 // the MIDI pitch at which it ends
	repeat      uint8
	repeats     uint8
	tied        bool
	legato      bool
	joined      bool
	cutBy       cutter
}

type cutter uint8

const (
	uncut cutter = iota
	cutByNote
	cutByEnd
)

// Reason is one rule that shaped a note, with what it had and what it made.
type Reason struct {
	Rule string `json:"rule"`
	From string `json:"from"`
	To   string `json:"to"`
}

// Why tells which rules shaped a note of a part, in the order in which they
// applied. It is worked out only when asked for.
func (p *Performance) Why(clip *piece.Clip, part *Part, note *Note) []Reason {
	lane := &clip.Lanes[part.Lane]
	step := &lane.Steps[note.Step-1]
	at := step.Place()
	placed := placeOne(lane, p.Key, at)
	name := func(midi int16, alter int) string { return p.Key.Spell(int(midi), alter).In(int(midi)) }
	var out []Reason
	add := func(when bool, rule, from, to string) {
		if when {
			out = append(out, Reason{rule, from, to})
		}
	}
	add(step.Rounds != nil, "rounds", fmt.Sprintf("round %d", note.Round), rounds(step.Rounds))
	add(step.Chance < 100, "chance", fmt.Sprintf("%d %%", step.Chance), "played")
	add(true, "degree", fmt.Sprint(step.Degree), name(placed.degree, 0))
	add(step.Alter != 0, "alter", name(placed.degree, 0), name(placed.raw, at.Alter))
	add(placed.locked != placed.raw, "lock", name(placed.raw, at.Alter), name(placed.locked, 0))
	add(int16(placed.pitch) != placed.locked, "fold", name(placed.locked, int(placed.alter)), p.Name(note))
	t := note.trace
	add(t.joined, "joined", "the step before", "legato, on the grid")
	add(t.joinedSteps > 0, "tie", fmt.Sprintf("step %d", note.Step), fmt.Sprintf("step %d", t.last+1))
	add(t.legato, "legato", fmt.Sprintf("step %d", note.Step), "1/128 into the next note")
	add(!t.tied && !t.legato && t.joinedSteps == 0, "gate", fmt.Sprintf("%d %% of the step", step.Gate), ticks(t.end-t.onset, int(t.repeats)))
	add(step.Glide != nil && p.slidesInto(lane, part, note), "glide", p.slideFrom(lane, part, note), p.Name(note))
	end := note.EndPitch()
	add(end != int(note.Pitch), "wheel", p.Name(note), p.Key.Spell(end, 0).In(end))
	add(len(step.Bend) > 0, "bend", fmt.Sprintf("%d points", len(step.Bend)), "over the note")
	add(t.repeats > 1, "ratchet", fmt.Sprintf("%d in the step", t.repeats), fmt.Sprintf("repeat %d", t.repeat))
	add(step.Nudge != 0 && !t.joined, "nudge", fmt.Sprintf("%d %%", step.Nudge), tick(t.onset))
	moved := p.Swing.Warp(t.onset)
	add(moved != t.onset, "swing", tick(t.onset), tick(moved))
	add(t.onset < 0, "start", tick(t.onset), tick(0))
	add(t.cutBy == cutByNote, "cut", "the next note", tick(note.End))
	add(t.cutBy == cutByEnd, "cut", "the clip's end", tick(note.End))
	return out
}

func rounds(r *piece.Rounds) string {
	if r == nil {
		return ""
	}
	return fmt.Sprintf("plays in %v of %d", r.On, r.Of)
}

// tick writes a position for people, in ticks of the usual 960 a quarter.
func tick(t beat.Time) string { return fmt.Sprintf("tick %d", t.Export(960)) }

func ticks(t beat.Time, repeats int) string {
	if repeats > 1 {
		return fmt.Sprintf("%d ticks each", t.Export(960))
	}
	return fmt.Sprintf("%d ticks", t.Export(960))
}

func (p *Performance) before(part *Part, note *Note) *Note {
	for i := len(part.Notes) - 1; i >= 0; i-- {
		if n := &part.Notes[i]; n.trace.run < note.trace.run {
			return n
		}
	}
	return nil
}

func (p *Performance) slidesInto(lane *piece.Lane, part *Part, note *Note) bool {
	from := p.slideFrom(lane, part, note)
	return note.trace.repeat == 1 && from != "" && from != p.Name(note)
}

func (p *Performance) slideFrom(lane *piece.Lane, part *Part, note *Note) string {
	glide := lane.Steps[note.Step-1].Glide
	if glide == nil {
		return ""
	}
	if glide.From != nil {
		from := int(note.Pitch) + *glide.From
		return p.Key.Spell(from, 0).In(from)
	}
	before := p.before(part, note)
	if before == nil {
		return ""
	}
	return p.Key.Spell(before.EndPitch(), 0).In(before.EndPitch())
}

// Explain writes the reasons as one plain sentence with real signs: "Step 3,
// round 2: degree 5 of F♯ dorian is C♯3; lock moved D3 to C♯3."
func (p *Performance) Explain(clip *piece.Clip, part *Part, note *Note) string {
	text := fmt.Sprintf("Step %d, round %d: ", note.Step, note.Round)
	first := true
	for _, r := range p.Why(clip, part, note) {
		if !first {
			text += "; "
		}
		first = false
		text += r.sentence(p.Key)
	}
	return pitch.Pretty(text) + "."
}

// sentences word each rule.
var sentences = map[string]string{
	"alter": "altered from %s to %s", "lock": "lock moved %s to %s", "fold": "folded by octaves from %s to %s",
	"tie": "tied on from %s to %s", "legato": "runs from %s %s", "joined": "joined to %s (%s)",
	"gate": "gate %s is %s", "glide": "glides from %s to %s", "wheel": "a tied glide takes it from %s to %s", "bend": "bends along %s %s",
	"ratchet": "ratchet of %s, %s", "nudge": "nudged by %s to %s", "swing": "swing moved %s to %s",
	"start": "moved from %s to the clip's start, %s", "cut": "cut by %s at %s",
	"chance": "chance %s, %s", "rounds": "%s, %s",
}

func (r Reason) sentence(key pitch.Key) string {
	if r.Rule == "degree" {
		return fmt.Sprintf("degree %s of %s is %s", r.From, key, r.To)
	}
	return fmt.Sprintf(sentences[r.Rule], r.From, r.To)
}
