package render

import (
	"fmt"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// trace keeps, in a few bytes, what Why needs to tell how a note came about.
type trace struct {
	onset, end      beat.Time // after ratchet, nudge and spread, before groove
	spread          beat.Time // by how much it begins after its chord
	run             int32
	lastStep        int32 // index of the last step joined
	gate            int16 // % by which it ends: that of its last step
	from            int8  // semitones from its pitch that a fresh glide starts at
	ends            uint8 // the MIDI pitch at which it ends
	nudge           int8  // % of the step
	repeat, repeats uint8
	cutBy           cutter
	struck          uint8 // the velocity before the groove's template
	last            bool  // of the ratchet's repeats
	joined          bool  // to the step before, by a legato tie
	held            bool  // it ends where its tie says, not its own gate
	more            bool  // steps were joined to its own
	legato          bool  // it overlaps the next
	reaches         bool  // the clip's end
	dropped         bool  // the next chord of a tie has it not
	many            bool  // it sounds with others: the wheel leaves it alone
	layered         bool  // it is a layer's
	source          uint8 // the pitch that the lane has whose steps it plays
	walked          Walked
	whole           beat.Time // that lane's end of it
	step            beat.Time // the length of its step, where that is not the lane's
	endLate         beat.Time // by how much the groove's template moves its end
	wheel           int32     // its place among the wheels of the part's notes, from 1; 0: it has none of its own
	threaded        bool      // it comes from a tone of the chord before
	slid            bool      // it ends when it has slid to a pitch that another note has
}

// grid is where the note's step stands, and where its repeat does before the nudge.
func (t *trace) grid(step beat.Time) (grid, repeat beat.Time) {
	if t.step != 0 {
		step = t.step
	}
	repeat = t.onset - t.spread
	if !t.joined {
		repeat -= step.Percent(int(t.nudge))
	}
	return repeat - beat.Time(t.repeat-1)*step/beat.Time(t.repeats), repeat
}

type cutter uint8

const (
	uncut cutter = iota
	cutByNote
	cutByKey
	cutByEnd
	cutShared
	cutTaken
)

// Reason is one rule that shaped a note, with what it had and what it made.
// Onsets are written "tick 960", lengths "180 ticks", pitches "C#3", velocities
// as numbers; of each, the last one is the note's.
type Reason struct {
	Rule string `json:"rule"`
	From string `json:"from"`
	To   string `json:"to"`

	Chord string `json:"-"` // the chord that it is by, where there is one
}

// reasons gathers reasons in the resolution of a performance.
type reasons struct {
	frame *Frame
	list  []Reason
}

func (r *reasons) add(when bool, rule, from, to string) {
	if when {
		r.list = append(r.list, Reason{Rule: rule, From: from, To: to})
	}
}

func (r *reasons) tick(t beat.Time) string { return fmt.Sprintf("tick %d", t.Export(r.frame.PPQ)) }

// ticks is the length between two times, as their rounded ends have it.
func (r *reasons) ticks(from, to beat.Time) string {
	return fmt.Sprintf("%d ticks", to.Export(r.frame.PPQ)-from.Export(r.frame.PPQ))
}

// moved tells of a change of onset and of one of length, where they are changes.
func (r *reasons) moved(rule string, from, to [2]beat.Time) {
	r.add(r.tick(from[0]) != r.tick(to[0]), rule, r.tick(from[0]), r.tick(to[0]))
	r.add(r.ticks(from[0], from[1]) != r.ticks(to[0], to[1]), rule, r.ticks(from[0], from[1]), r.ticks(to[0], to[1]))
}

// Why tells which rules shaped a note of a part, in the order in which they
// applied. It is worked out only when asked for, at the performance's PPQ.
func (p *Performance) Why(part *Part, note *Note) []Reason {
	p.telling.Lock()
	defer p.telling.Unlock()
	lane := &p.Clip.Lanes[part.Lane]
	source := p.SourceOf(part)
	t := &note.trace
	r := &reasons{frame: &p.Frame}
	grid, nudged := t.grid(p.Piece.StepLength(source))
	step := p.called(source, int(note.Step))
	r.add(true, "step", fmt.Sprintf("%s, round %d", step, note.Round), r.tick(grid))
	if HasPattern(source) {
		cell := p.Pattern(source).cells[note.Step-1]
		r.add(cell.Rounds != nil, "rounds", fmt.Sprintf("round %d", note.Round), rounds(cell.Rounds))
		r.add(cell.Chance < 100, "chance", fmt.Sprintf("%d %%", cell.Chance), "played")
		r.list = append(r.list, p.movedBy(part, note, source)...)
	}
	r.list = append(r.list, part.kind.Reasons(p, part, lane, note)...)
	frame := p.Frame.Grooved(p.Piece, p.Clip, lane)
	struck := note.Velocity
	if frame.Feel.On {
		struck = t.struck
	}
	r.add(true, "velocity", step, fmt.Sprint(struck))
	r.add(t.from != 0, "glide", p.Key.Named(int(note.Pitch)+int(t.from)), p.Name(note))
	r.add(t.ends != note.Pitch, "wheel", p.Name(note), fmt.Sprintf("%+d semitones by the tied glide", int(t.ends)-int(note.Pitch)))
	if t.repeats > 1 {
		r.add(true, "ratchet", fmt.Sprintf("%d in the step", t.repeats), fmt.Sprintf("repeat %d", t.repeat))
		r.add(nudged != grid, "ratchet", r.tick(grid), r.tick(nudged))
	}
	r.add(t.joined, "joined", "the "+stepWord(source)+" before", "legato, on the grid")
	whole := t.onset - t.spread // where its chord begins
	r.add(nudged != whole, "nudge", r.tick(nudged), r.tick(whole))
	end := t.end
	if t.layered {
		end = t.whole
	}
	length := r.ticks(whole, end)
	switch {
	case t.dropped:
		r.add(true, "change", fmt.Sprintf("%s, until the chord of %s", step, p.called(source, int(t.lastStep)+1)), length)
	case t.slid:
		r.add(true, "slid", fmt.Sprintf("%s until it has slid to a tone that another note has, in %s", step, p.called(source, int(t.lastStep)+1)), length)
	case t.reaches:
		r.add(true, "tie", step+" over the clip's end", length)
	case t.legato:
		r.add(true, "legato", "1/128 into the next note", length)
	case t.more && t.held:
		r.add(true, "tie", fmt.Sprintf("%s to %s, gate %d %%", step, p.called(source, int(t.lastStep)+1), t.gate), length)
	case t.repeats > 1 && !t.held:
		r.add(true, "gate", fmt.Sprintf("%d %% of the repeat", t.gate), length)
	case piece.FreeOf(source) != nil:
		whole := t.onset + t.step.Percent(int(t.gate))
		r.add(true, "gate", fmt.Sprintf("%d %% of the note", t.gate), r.ticks(t.onset, whole))
		r.moved("loop", [2]beat.Time{t.onset, whole}, [2]beat.Time{t.onset, end})
	default:
		r.add(true, "gate", fmt.Sprintf("%d %% of the step", t.gate), length)
	}
	r.moved("strum", [2]beat.Time{whole, end}, [2]beat.Time{t.onset, end})
	r.moved("layer", [2]beat.Time{t.onset, end}, [2]beat.Time{t.onset, t.end})
	straight := [2]beat.Time{t.onset, t.end}
	swung := [2]beat.Time{frame.Swing.Warp(t.onset), frame.Swing.Warp(t.end)}
	r.moved("swing", straight, swung)
	begun := [2]beat.Time{max(swung[0], 0), swung[1]}
	r.moved("start", swung, begun)
	if frame.Feel.On {
		late := frame.late(nudged, begun[0], begun[1])
		moved := [2]beat.Time{begun[0] + late, begun[1] + t.endLate}
		r.moved("groove", begun, moved)
		r.add(struck != note.Velocity, "groove", fmt.Sprintf("velocity %d", struck), fmt.Sprint(note.Velocity))
		begun = moved
	}
	at, ticks := p.Span(note, p.PPQ)
	if was, is := r.ticks(begun[0], begun[1]), fmt.Sprintf("%d ticks", ticks); was != is {
		r.add(true, cutters[t.cutBy], was, is)
	}
	r.add(at != begun[0].Export(p.PPQ), "start", r.tick(begun[0]), fmt.Sprintf("tick %d", at))
	return r.list
}

// called is what a note is called by the step, or the free note, that it comes from.
func (p *Performance) called(source *piece.Lane, step int) string {
	return fmt.Sprintf("%s %d", stepWord(source), piece.Numbered(source, step))
}

func stepWord(source *piece.Lane) string {
	if piece.FreeOf(source) != nil {
		return "note"
	}
	return "step"
}

// cutters name what ended a note early; a note that nothing cut was too short
// for a tick.
var cutters = [...]string{uncut: "shortest", cutByNote: "cut", cutByKey: "key", cutByEnd: "end", cutShared: "shared", cutTaken: "voices"}

func rounds(r *piece.Rounds) string {
	if r == nil {
		return ""
	}
	return fmt.Sprintf("plays in %v of %d", r.On, r.Of)
}

// Explain writes the reasons as one plain sentence with real signs: "Step 3,
// round 2: degree 5 of F♯ dorian is C♯3; lock moved D3 to C♯3."
func (p *Performance) Explain(part *Part, note *Note) string {
	var out []string
	for _, r := range p.Why(part, note) {
		out = append(out, r.sentence(p.Key))
	}
	text := strings.Join(out, "; ")
	return pitch.Pretty(strings.ToUpper(text[:1])+text[1:]) + "."
}

// sentences word each rule.
var sentences = map[string]string{
	"step": "%s is at %s", "alter": "altered from %s to %s", "lock": "lock moved %s to %s", "fold": "folded by octaves from %s to %s",
	"note": "%s of the lane is %s", "tie": "tied from %s, %s", "legato": "runs %s, %s", "joined": "joined to %s (%s)", "velocity": "%s has velocity %s",
	"gate": "gate %s is %s", "glide": "glides from %s to %s", "tone": "%s is %s", "rung": "%s is %s", "modulator": "a modulator makes %s %s", "odds": "luck makes %s %s", "drew": "%s drew %s", "range": "its range moved %s to %s", "layer": "%s is played as %s", "offset": "the step moves %s to %s", "octave": "moved by octaves from %s to %s", "inversion": "inverted from %s to %s", "voicing": "voiced from %s to %s",
	"loop": "its loop's end, or a restart, cuts %s to %s", "change": "tied from %s, %s", "slid": "held from %s: %s", "voices": "more notes than its zone has channels: %s become %s", "strum": "strummed: %s become %s",
	"wheel":   "from %s the wheel goes %s",
	"ratchet": "ratchet: from %s, %s", "nudge": "nudged from %s to %s", "swing": "swing makes %s %s", "groove": "the groove makes %s %s",
	"start": "moved from %s to the clip's start, %s", "cut": "the next note cuts %s to %s", "key": "its key is struck again: %s become %s",
	"end": "the clip's end cuts %s to %s", "shared": "another lane strikes it at once: %s become %s", "shortest": "no note is shorter than a tick: %s become %s",
	"shift": "the running order shifts %s to %s", "entry": "in the running order %s is %s", "left": "the running order makes %s %s", "louder": "struck with a louder one, velocity %s becomes %s",
	"chance": "chance %s, %s", "rounds": "%s, %s",
}

func (r Reason) sentence(key pitch.Key) string {
	if r.Rule == "degree" {
		return fmt.Sprintf("degree %s of %s is %s", r.From, key, r.To)
	}
	switch {
	case r.Rule == "follow":
		return fmt.Sprintf("counted from the root of %s, %s becomes %s", r.Chord, r.From, r.To)
	case r.Rule == "lock" && r.Chord != "":
		return fmt.Sprintf("lock moved %s to %s, a tone of %s", r.From, r.To, r.Chord)
	}
	return fmt.Sprintf(sentences[r.Rule], r.From, r.To)
}
