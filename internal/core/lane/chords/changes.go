package chords

import (
	"cmp"
	"fmt"
	"slices"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// Edits are those of chords lanes alone.
func (Kind) Edits() map[string]change.Rule {
	return map[string]change.Rule{
		"chords.write":    change.On("write a progression", writeChords).Checked(),
		"chords.stack":    change.On("place a chord", placeStack).Checked(),
		"chords.place":    change.On("place a chord", placeChord).Checked(),
		"chords.take":     change.On("take a chord", takeChord).Checked(),
		"chords.tone":     change.On("change a chord", turnTone).Checked(),
		"chords.drag":     change.On("change a chord", dragTone).Checked(),
		"chords.hold":     change.On("make a chord last", holdChord),
		"chords.moveTone": change.On("change a chord", moveTone).Checked(),
		"chords.widen":    change.On("widen chords", widenChords).Checked(),
		"chords.open":     change.On("open chords", openChords).Checked(),
		"chords.invert":   change.On("invert chords", invertChords),
		"chords.name":     change.On("name a chord", nameChord).Checked(),
		"chords.drop":     change.On("drop a chord", dropChord),
		"chords.move":     change.On("move a chord", moveChord),
	}
}

// Enter puts a chord of all the notes into a step.
func (Kind) Enter(t *change.Target, heard change.Heard) error {
	c := of(t.Lane)
	at, err := Use(c, t.Key(), t.Tones(&c.Pitched, heard.Chord, heard.Pitches))
	if err != nil {
		return t.Under(err)
	}
	c.Steps[heard.Step].Chord = at
	return nil
}

// WriteValue sets a number of a step.
func (Kind) WriteValue(lane *piece.Lane, _ pitch.Key, field string, step, value int) (done bool) {
	if field != "strum" {
		return false
	}
	own, strum := &of(lane).Steps[step], piece.Strum{Way: piece.StrumWays[0]}
	if own.Strum != nil {
		strum = *own.Strum
	}
	strum.Time = value
	own.Strum = &strum
	return true
}

// palette is the content of the chords lane that an edit is of.
func palette(t *change.Target) (*piece.Chords, error) {
	if c, ok := t.Lane.Content.(*piece.Chords); ok {
		return c, nil
	}
	return nil, t.Wrong("lane", "%s lanes have no palette of chords; allowed: a chords lane", t.Lane.Kind)
}

// changeChords changes the tones of the chords of the edit's steps.
func changeChords(t *change.Target, only bool, change func(c *piece.Chords, tones []pitch.Place) ([]pitch.Place, error)) error {
	c, err := palette(t)
	if err != nil {
		return err
	}
	return t.Under(Change(c, t.Key(), t.Steps, only, func(tones []pitch.Place) ([]pitch.Place, error) { return change(c, tones) }))
}

func writeChords(t *change.Target, o op.WriteChords) error {
	if _, err := palette(t); err != nil {
		return err
	}
	if len(o.Text) > 8000 {
		return t.Wrong("text", "%d characters; allowed: at most 8000", len(o.Text))
	}
	if _, err := chord.Read(o.Text, t.Key()); err != nil {
		return t.Wrong("text", "%v", err)
	}
	words, err := chord.Words(o.Text, t.Key())
	if err != nil {
		return t.Wrong("text", "%v", err)
	}
	return t.Under(WriteProgression(t.Lane, t.Key(), words))
}

// putChord puts a chord with these tones at each of the edit's steps.
func putChord(t *change.Target, tones []pitch.Place) error {
	c, err := palette(t)
	if err != nil {
		return err
	}
	at, err := Use(c, t.Key(), tones)
	if err != nil {
		return t.Under(err)
	}
	for _, i := range t.Steps {
		c.Steps[i].On, c.Steps[i].Chord = true, at
	}
	return nil
}

func placeStack(t *change.Target, o op.PlaceStack) error {
	tones, err := Stack(t.Key(), o.Degree, o.Kind)
	if err != nil {
		return pitched.Under(t.Edit, err)
	}
	return putChord(t, tones)
}

func placeChord(t *change.Target, o op.PlaceChord) error {
	c, err := palette(t)
	if err != nil {
		return err
	}
	read, err := chord.Parse(o.Text, t.Key())
	if err != nil {
		return t.Wrong("text", "%v", &chord.WordError{Index: 1, Word: o.Text, Cause: err.Error()})
	}
	if err := putChord(t, read.Places(t.Key(), c.Octave)); err != nil {
		return err
	}
	keepWritten(c, t.Key(), c.Steps[t.Steps[0]].Chord, o.Text)
	return nil
}

func takeChord(t *change.Target, o op.TakeChord) error {
	clip, err := t.Piece.Clip(o.FromClip)
	if err != nil {
		return t.Wrong("fromClip", "%v", err)
	}
	at := slices.IndexFunc(clip.Lanes, func(l piece.Lane) bool { return l.ID == o.FromLane })
	if at < 0 {
		return t.Wrong("fromLane", "no lane %q in clip %q", o.FromLane, o.FromClip)
	}
	from, ok := clip.Lanes[at].Content.(*piece.Chords)
	if !ok {
		return t.Wrong("fromLane", "%q is a %s lane; allowed: a chords lane", o.FromLane, clip.Lanes[at].Kind)
	}
	if o.Place < 1 || o.Place > len(from.Palette) {
		return t.Wrong("place", "%d is not in the palette; allowed: 1..%d", o.Place, len(from.Palette))
	}
	return putChord(t, Borrow(from, o.Place, t.Piece.KeyOf(clip), t.Key()))
}

func turnTone(t *change.Target, o op.TurnTone) error {
	if err := t.TakeSteps([]int{o.Step}); err != nil {
		return err
	}
	if err := pitched.Check(t.Key(), o.At); err != nil {
		return pitched.Under(t.Edit+".at", err)
	}
	c, err := palette(t)
	if err != nil {
		return err
	}
	if !c.Steps[o.Step-1].On { // an empty place: a chord of one's own begins there
		return putChord(t, []pitch.Place{o.At})
	}
	return changeChords(t, o.Only, func(c *piece.Chords, tones []pitch.Place) ([]pitch.Place, error) {
		return Turned(c, t.Key(), t.Lane, o.Step-1, o.At, tones)
	})
}

func dragTone(t *change.Target, o op.DragTone) error {
	if err := t.TakeSteps([]int{o.Step}); err != nil {
		return err
	}
	for name, at := range map[string]pitch.Place{"from": o.From, "to": o.To} {
		if err := pitched.Check(t.Key(), at); err != nil {
			return pitched.Under(t.Edit+"."+name, err)
		}
	}
	return changeChords(t, o.Only, func(c *piece.Chords, tones []pitch.Place) ([]pitch.Place, error) {
		return Dragged(c, t.Key(), t.Lane, o.Step-1, o.From, o.To, tones)
	})
}

func moveTone(t *change.Target, o op.MoveTone) error {
	if !slices.Contains(pitched.Units, o.Unit) {
		return t.Wrong("unit", "%q is not allowed; allowed: degree, semitone, octave", o.Unit)
	}
	if o.By < -128 || o.By > 128 {
		return t.Wrong("by", "%d is out of range; allowed: -128..128", o.By)
	}
	return changeChords(t, o.Only, func(c *piece.Chords, tones []pitch.Place) ([]pitch.Place, error) {
		if o.Tone < 1 || o.Tone > len(tones) {
			return nil, t.Wrong("tone", "the chord has no tone %d; allowed: 1..%d", o.Tone, len(tones))
		}
		moved, err := pitched.Shift(&c.Pitched, t.Key(), tones[o.Tone-1], o.Unit, o.By)
		tones[o.Tone-1] = moved
		return tones, err
	})
}

func widenChords(t *change.Target, o op.WidenChords) error {
	if o.By < -6 || o.By > 6 {
		return t.Wrong("by", "%d thirds; allowed: -6..6", o.By)
	}
	return changeChords(t, o.Only, func(c *piece.Chords, tones []pitch.Place) ([]pitch.Place, error) {
		return Widened(c, t.Key(), tones, o.By)
	})
}

func openChords(t *change.Target, o op.OpenChords) error {
	return changeChords(t, o.Only, func(_ *piece.Chords, tones []pitch.Place) ([]pitch.Place, error) {
		return Opened(t.Key(), tones, o.Open), nil
	})
}

func invertChords(t *change.Target, o op.InvertChords) error {
	c, err := palette(t)
	if err != nil {
		return err
	}
	for _, i := range t.Steps {
		next := c.Steps[i].Inversion + o.By
		if next < -8 || next > 8 {
			return &piece.Fault{Path: t.StepPath(i) + ".inversion", Problem: fmt.Sprintf("%d is out of range; allowed: -8..8", next)}
		}
		c.Steps[i].Inversion = next
	}
	return nil
}

// inPalette is the chord of a place in the palette.
func inPalette(t *change.Target, place int) (*piece.Chords, error) {
	c, err := palette(t)
	if err == nil && (place < 1 || place > len(c.Palette)) {
		err = t.Wrong("place", "%d is not in the palette; allowed: 1..%d", place, len(c.Palette))
	}
	return c, err
}

func nameChord(t *change.Target, o op.NameChord) error {
	c, err := inPalette(t, o.Place)
	if err != nil {
		return err
	}
	c.Palette[o.Place-1].Name = o.Name
	return nil
}

func dropChord(t *change.Target, o op.DropChord) error {
	c, err := inPalette(t, o.Place)
	if err != nil {
		return err
	}
	if used := UsedBy(c, o.Place); len(used) > 0 || len(c.Palette) == 1 {
		return t.Wrong("place", "the chord is in use, at steps %v; allowed: one that no step uses, and not the last", used)
	}
	c.Palette = slices.Delete(c.Palette, o.Place-1, o.Place)
	for i := range c.Steps {
		if step := &c.Steps[i]; step.Chord > o.Place {
			step.Chord--
		} else if step.Chord == o.Place {
			step.Chord = 1
		}
	}
	return nil
}

func moveChord(t *change.Target, o op.MoveChord) error {
	c, err := palette(t)
	if err != nil {
		return err
	}
	if err := cmp.Or(inLane(t, c, "step", o.Step), inLane(t, c, "to", o.To)); err != nil {
		return err
	}
	return t.Under(MoveRun(c, o.Step-1, o.To-1))
}

func holdChord(t *change.Target, o op.HoldChord) error {
	c, err := palette(t)
	if err != nil {
		return err
	}
	if err := inLane(t, c, "step", o.Step); err != nil {
		return err
	}
	return t.Under(Hold(c, o.Step-1, o.Steps))
}

// inLane refuses a step (from 1) that the lane has not.
func inLane(t *change.Target, c *piece.Chords, name string, step int) error {
	if step < 1 || step > len(c.Steps) {
		return t.Wrong(name, "there is no step %d; allowed: 1..%d", step, len(c.Steps))
	}
	return nil
}
