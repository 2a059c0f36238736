package edit

import (
	"cmp"
	"encoding/json"
	"fmt"
	"slices"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/lane/chords"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// chords is the content of the chords lane that an edit is of.
func (t *target) chords() (*piece.Chords, error) {
	if c, ok := t.lane.Content.(*piece.Chords); ok {
		return c, nil
	}
	return nil, t.wrong("lane", "%s lanes have no palette of chords; allowed: a chords lane", t.lane.Kind)
}

// changeChords changes the tones of the chords of the edit's steps.
func (t *target) changeChords(only bool, change func(c *piece.Chords, tones []pitch.Place) ([]pitch.Place, error)) error {
	c, err := t.chords()
	if err != nil {
		return err
	}
	return t.under(chords.Change(c, t.key(), t.steps, only, func(tones []pitch.Place) ([]pitch.Place, error) { return change(c, tones) }))
}

func writeChords(t *target, o op.WriteChords) error {
	if _, err := t.chords(); err != nil {
		return err
	}
	if len(o.Text) > 8000 {
		return t.wrong("text", "%d characters; allowed: at most 8000", len(o.Text))
	}
	read, err := chord.Read(o.Text, t.key())
	if err != nil {
		return t.wrong("text", "%v", err)
	}
	return t.under(chords.WriteProgression(t.lane, t.key(), read))
}

// place puts a chord with these tones at each of the edit's steps.
func (t *target) place(tones []pitch.Place) error {
	c, err := t.chords()
	if err != nil {
		return err
	}
	at, err := chords.Use(c, t.key(), tones)
	if err != nil {
		return t.under(err)
	}
	for _, i := range t.steps {
		c.Steps[i].On, c.Steps[i].Chord = true, at
	}
	return nil
}

func placeStack(t *target, o op.PlaceStack) error {
	tones, err := chords.Stack(t.key(), o.Degree, o.Kind)
	if err != nil {
		return pitched.Under(t.edit, err)
	}
	return t.place(tones)
}

func placeChord(t *target, o op.PlaceChord) error {
	c, err := t.chords()
	if err != nil {
		return err
	}
	read, err := chord.Parse(o.Text, t.key())
	if err != nil {
		return t.wrong("text", "%v", &chord.WordError{Index: 1, Word: o.Text, Cause: err.Error()})
	}
	return t.place(read.Places(t.key(), c.Octave))
}

func takeChord(t *target, o op.TakeChord) error {
	clip, err := t.piece.Clip(o.FromClip)
	if err != nil {
		return t.wrong("fromClip", "%v", err)
	}
	at := slices.IndexFunc(clip.Lanes, func(l piece.Lane) bool { return l.ID == o.FromLane })
	if at < 0 {
		return t.wrong("fromLane", "no lane %q in clip %q", o.FromLane, o.FromClip)
	}
	from, ok := clip.Lanes[at].Content.(*piece.Chords)
	if !ok {
		return t.wrong("fromLane", "%q is a %s lane; allowed: a chords lane", o.FromLane, clip.Lanes[at].Kind)
	}
	if o.Place < 1 || o.Place > len(from.Palette) {
		return t.wrong("place", "%d is not in the palette; allowed: 1..%d", o.Place, len(from.Palette))
	}
	return t.place(chords.Borrow(from, o.Place, t.piece.KeyOf(clip), t.key()))
}

func turnTone(t *target, o op.TurnTone) error {
	if err := t.takeSteps([]int{o.Step}); err != nil {
		return err
	}
	if err := pitched.Check(t.key(), o.At); err != nil {
		return pitched.Under(t.edit+".at", err)
	}
	c, err := t.chords()
	if err != nil {
		return err
	}
	if !c.Steps[o.Step-1].On { // an empty place: a chord of one's own begins there
		return t.place([]pitch.Place{o.At})
	}
	return t.changeChords(o.Only, func(c *piece.Chords, tones []pitch.Place) ([]pitch.Place, error) {
		return chords.Turned(c, t.key(), t.lane, o.Step-1, o.At, tones)
	})
}

func dragTone(t *target, o op.DragTone) error {
	if err := t.takeSteps([]int{o.Step}); err != nil {
		return err
	}
	for name, at := range map[string]pitch.Place{"from": o.From, "to": o.To} {
		if err := pitched.Check(t.key(), at); err != nil {
			return pitched.Under(t.edit+"."+name, err)
		}
	}
	return t.changeChords(o.Only, func(c *piece.Chords, tones []pitch.Place) ([]pitch.Place, error) {
		return chords.Dragged(c, t.key(), t.lane, o.Step-1, o.From, o.To, tones)
	})
}

func moveTone(t *target, o op.MoveTone) error {
	if !slices.Contains(pitched.Units, o.Unit) {
		return t.wrong("unit", "%q is not allowed; allowed: degree, semitone, octave", o.Unit)
	}
	if o.By < -128 || o.By > 128 {
		return t.wrong("by", "%d is out of range; allowed: -128..128", o.By)
	}
	return t.changeChords(o.Only, func(c *piece.Chords, tones []pitch.Place) ([]pitch.Place, error) {
		if o.Tone < 1 || o.Tone > len(tones) {
			return nil, t.wrong("tone", "the chord has no tone %d; allowed: 1..%d", o.Tone, len(tones))
		}
		moved, err := pitched.Move(&c.Pitched, t.key(), tones[o.Tone-1], o.Unit, o.By)
		tones[o.Tone-1] = moved
		return tones, err
	})
}

func widenChords(t *target, o op.WidenChords) error {
	if o.By < -6 || o.By > 6 {
		return t.wrong("by", "%d thirds; allowed: -6..6", o.By)
	}
	return t.changeChords(o.Only, func(c *piece.Chords, tones []pitch.Place) ([]pitch.Place, error) {
		return chords.Widened(c, t.key(), tones, o.By)
	})
}

func openChords(t *target, o op.OpenChords) error {
	return t.changeChords(o.Only, func(_ *piece.Chords, tones []pitch.Place) ([]pitch.Place, error) {
		return chords.Opened(t.key(), tones, o.Open), nil
	})
}

func invertChords(t *target, o op.InvertChords) error {
	c, err := t.chords()
	if err != nil {
		return err
	}
	for _, i := range t.steps {
		next := c.Steps[i].Inversion + o.By
		if next < -8 || next > 8 {
			return &piece.Fault{Path: t.stepPath(i) + ".inversion", Problem: fmt.Sprintf("%d is out of range; allowed: -8..8", next)}
		}
		c.Steps[i].Inversion = next
	}
	return nil
}

// inPalette is the chord of a place in the palette.
func (t *target) inPalette(place int) (*piece.Chords, error) {
	c, err := t.chords()
	if err == nil && (place < 1 || place > len(c.Palette)) {
		err = t.wrong("place", "%d is not in the palette; allowed: 1..%d", place, len(c.Palette))
	}
	return c, err
}

func nameChord(t *target, o op.NameChord) error {
	c, err := t.inPalette(o.Place)
	if err != nil {
		return err
	}
	c.Palette[o.Place-1].Name = o.Name
	return nil
}

func dropChord(t *target, o op.DropChord) error {
	c, err := t.inPalette(o.Place)
	if err != nil {
		return err
	}
	if used := chords.UsedBy(c, o.Place); len(used) > 0 || len(c.Palette) == 1 {
		return t.wrong("place", "the chord is in use, at steps %v; allowed: one that no step uses, and not the last", used)
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

func moveChord(t *target, o op.MoveChord) error {
	c, err := t.chords()
	if err != nil {
		return err
	}
	if err := cmp.Or(t.inLane(c, "step", o.Step), t.inLane(c, "to", o.To)); err != nil {
		return err
	}
	return t.under(chords.MoveRun(c, o.Step-1, o.To-1))
}

func holdChord(t *target, o op.HoldChord) error {
	c, err := t.chords()
	if err != nil {
		return err
	}
	if err := t.inLane(c, "step", o.Step); err != nil {
		return err
	}
	return t.under(chords.Hold(c, o.Step-1, o.Steps))
}

// inLane refuses a step (from 1) that the lane has not.
func (t *target) inLane(c *piece.Chords, name string, step int) error {
	if step < 1 || step > len(c.Steps) {
		return t.wrong(name, "there is no step %d; allowed: 1..%d", step, len(c.Steps))
	}
	return nil
}

func setHarmony(t *target, o op.SetHarmony) error {
	patch, err := json.Marshal(map[string]json.RawMessage{"harmony": o.Harmony})
	if err != nil {
		return err
	}
	return piece.PatchClip(t.path, patch, t.clip)
}
