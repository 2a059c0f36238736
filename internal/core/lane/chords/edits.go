package chords

import (
	"fmt"
	"slices"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/document"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// Stack is the chord of a kind on a degree of the key (from 1), its root in the octave
// from the tonic upwards.
func Stack(key pitch.Key, degree int, kind string) ([]pitch.Place, error) {
	i := slices.IndexFunc(chord.Stacks, func(s chord.StackKind) bool { return s.Name == kind })
	if i < 0 {
		return nil, &document.Fault{Path: "kind", Problem: fmt.Sprintf("%q is not allowed; allowed: %s", kind, kindNames())}
	}
	if degree < 1 || degree > key.Size() {
		return nil, &document.Fault{Path: "degree", Problem: fmt.Sprintf("%d is out of reach; allowed: 1..%d", degree, key.Size())}
	}
	var out []pitch.Place
	for _, above := range chord.Stacks[i].On(key, degree) {
		out = append(out, key.Move(pitch.Place{Degree: degree}, above))
	}
	return distinct(key, out), nil
}

func kindNames() string {
	text := ""
	for i, s := range chord.Stacks {
		if i > 0 {
			text += ", "
		}
		text += s.Name
	}
	return text
}

// distinct leaves out places on a pitch that is there already.
func distinct(key pitch.Key, tones []pitch.Place) []pitch.Place {
	return apart(&piece.Chords{}, key, slices.Clone(tones))
}

// Use gives the place in the palette (from 1) of a chord with these tones: one that is
// there, a new one, or one in the stead of a chord that no step uses.
func Use(c *piece.Chords, key pitch.Key, tones []pitch.Place) (int, error) {
	tones = sorted(key, tones)
	for i := range c.Palette {
		if slices.Equal(sorted(key, c.Palette[i].Tones), tones) {
			return i + 1, nil
		}
	}
	fresh := piece.PaletteChord{Tones: tones}
	if len(c.Palette) < piece.MaxPalette {
		c.Palette = append(c.Palette, fresh)
		return len(c.Palette), nil
	}
	for i := range c.Palette {
		if len(UsedBy(c, i+1)) == 0 {
			c.Palette[i] = fresh
			return i + 1, nil
		}
	}
	return 0, &document.Fault{Path: "palette", Problem: fmt.Sprintf("all %d chords are in use; allowed: at most %d", piece.MaxPalette, piece.MaxPalette)}
}

func sorted(key pitch.Key, tones []pitch.Place) []pitch.Place {
	out := slices.Clone(tones)
	slices.SortStableFunc(out, func(a, b pitch.Place) int { return key.Pitch(a, 0) - key.Pitch(b, 0) })
	return out
}

// UsedBy are the steps, from 1, that are on with a chord of the palette.
func UsedBy(c *piece.Chords, place int) []int {
	out := []int{}
	for i := range c.Steps {
		if c.Steps[i].On && c.Steps[i].Chord == place {
			out = append(out, i+1)
		}
	}
	return out
}

// Change changes the tones of the chords of steps (from 0). Unless it is for them
// alone, the chord changes wherever it stands.
func Change(c *piece.Chords, key pitch.Key, steps []int, only bool, change func(tones []pitch.Place) ([]pitch.Place, error)) error {
	done := map[int]int{} // what a place of the palette has become
	for _, i := range steps {
		place := c.Steps[i].Chord
		if now, was := done[place]; was {
			if only {
				c.Steps[i].Chord = now
			}
			continue
		}
		tones, err := change(slices.Clone(c.Palette[place-1].Tones))
		if err != nil {
			return err
		}
		tones = distinct(key, tones)
		if len(tones) == 0 || len(tones) > piece.MaxTones {
			return &document.Fault{Path: fmt.Sprintf("palette[%d].tones", place-1), Problem: fmt.Sprintf("%d tones; allowed: 1..%d", len(tones), piece.MaxTones)}
		}
		for k, t := range tones {
			if err := pitched.Check(key, t); err != nil {
				return pitched.Under(fmt.Sprintf("palette[%d].tones[%d]", place-1, k), err)
			}
		}
		if !only {
			own := &c.Palette[place-1]
			if writtenAs(c, key, own) != "" {
				own.Name = "" // it is no longer what was written
			}
			own.Tones = sorted(key, tones)
			done[place] = place
			continue
		}
		now, err := Use(c, key, tones)
		if err != nil {
			return err
		}
		c.Steps[i].Chord, done[place] = now, now
	}
	return nil
}

// Turned adds a tone to those of a step's chord, or takes it away where it sounds. A
// place of the ladder is where it sounds: the step's octave is taken off.
func Turned(c *piece.Chords, key pitch.Key, lane *piece.Lane, step int, at pitch.Place, tones []pitch.Place) ([]pitch.Place, error) {
	i := toneAt(c, key, lane, step, at, tones)
	if i < 0 {
		return append(tones, written(c, step, at)), nil
	}
	if len(tones) == 1 {
		return nil, &document.Fault{
			Path:    fmt.Sprintf("palette[%d].tones", c.Steps[step].Chord-1),
			Problem: "the last tone of a chord cannot be taken away; allowed: 1..16 tones (make the step a rest instead)",
		}
	}
	return slices.Delete(tones, i, i+1), nil
}

// Dragged moves the tone that sounds at a place of the ladder to another one.
func Dragged(c *piece.Chords, key pitch.Key, lane *piece.Lane, step int, from, to pitch.Place, tones []pitch.Place) ([]pitch.Place, error) {
	i := toneAt(c, key, lane, step, from, tones)
	if i < 0 {
		return nil, &document.Fault{
			Path:    "from",
			Problem: fmt.Sprintf("no tone of the chord sounds at %s; allowed: a place where one does", key.Named(key.Pitch(from, c.Octave))),
		}
	}
	tones[i] = written(c, step, to)
	return tones, nil
}

// written is a place of the ladder as the palette holds it.
func written(c *piece.Chords, step int, at pitch.Place) pitch.Place {
	if c.Voicing.Mode == "written" {
		at.Octave -= c.Steps[step].Octave
	}
	return at
}

// toneAt is the index of the tone that a step sounds at a place; -1: none.
func toneAt(c *piece.Chords, key pitch.Key, lane *piece.Lane, step int, at pitch.Place, tones []pitch.Place) int {
	want := key.Pitch(at, c.Octave)
	sounding := Voice(lane, key).Steps[step]
	if sounding == nil {
		sounding = folded(lift(c, key, &c.Steps[step]))
	}
	if !slices.Contains(sounding, uint8(pitch.Fold(want))) {
		return -1
	}
	nearest, away := -1, 1<<20
	for i, t := range tones {
		p := pitched.At(&c.Pitched, key, nil, t).Locked
		if d := p + 12*c.Steps[step].Octave - want; pitch.Mod(d, 12) == 0 && max(d, -d) < away {
			nearest, away = i, max(d, -d)
		}
	}
	return nearest
}

// Widened stacks so many thirds more on a chord, or takes them away below 0: the next
// tones of the key, every other one counted from the root.
func Widened(c *piece.Chords, key pitch.Key, tones []pitch.Place, by int) ([]pitch.Place, error) {
	written := Write(c, key, &piece.PaletteChord{Tones: tones})
	root := written.Tone
	root.Alter = 0
	has := func(p int) bool {
		return slices.ContainsFunc(tones, func(t pitch.Place) bool { return pitch.Mod(key.Pitch(t, 0)-p, 12) == 0 })
	}
	letter := func(third int) int { return key.Move(root, 2*third).Degree }
	for ; by > 0; by-- {
		for third := 1; ; third++ {
			if third > 6 {
				return nil, &document.Fault{Path: "by", Problem: "the chord is a thirteenth already; allowed: up to seven tones in thirds"}
			}
			next := key.Move(root, 2*third)
			if has(key.Pitch(next, 0)) || slices.ContainsFunc(tones, func(t pitch.Place) bool { return t.Degree == letter(third) }) {
				continue
			}
			tones = append(tones, next)
			break
		}
	}
	for ; by < 0; by++ {
		top := -1
		for third := 6; third >= 2 && top < 0; third-- {
			top = slices.IndexFunc(tones, func(t pitch.Place) bool { return t.Degree == letter(third) })
		}
		if top < 0 || len(tones) < 3 {
			return nil, &document.Fault{Path: "by", Problem: "there is no third to take away; allowed: down to a third on its root"}
		}
		tones = slices.Delete(tones, top, top+1)
	}
	return tones, nil
}

// Opened spreads a chord's tones over two octaves, every second one an octave up from
// its close position; closed, all lie within an octave above the lowest, or as thirds
// stack them.
func Opened(key pitch.Key, tones []pitch.Place, open bool) []pitch.Place {
	close := sorted(key, tones)
	for again := true; again; {
		again = false
		for i := 1; i < len(close); i++ {
			for key.Pitch(close[i], 0)-key.Pitch(close[0], 0) > 12 && !slices.ContainsFunc(close, func(t pitch.Place) bool { return key.Pitch(t, 0) == key.Pitch(close[i], 0)-12 }) {
				close[i].Octave--
				again = true
			}
		}
		close = sorted(key, close)
	}
	if !open {
		return close
	}
	for i := 1; i < len(close); i += 2 {
		up := close[i]
		up.Octave++
		for slices.ContainsFunc(close, func(t pitch.Place) bool { return key.Pitch(t, 0) == key.Pitch(up, 0) }) {
			up.Octave++
		}
		close[i] = up
	}
	return sorted(key, close)
}

// IsOpen tells whether some tone lies more than an octave above the lowest.
func IsOpen(key pitch.Key, tones []pitch.Place) bool {
	all := sorted(key, tones)
	return key.Pitch(all[len(all)-1], 0)-key.Pitch(all[0], 0) > 12
}

// WriteProgression writes chords into a lane: its steps that are on take them in turn.
// A lane without rests, or without chords, becomes as long as the progression; in
// another, steps without a chord become rests.
func WriteProgression(lane *piece.Lane, key pitch.Key, words []chord.Word) error {
	c := of(lane)
	on := 0
	for i := range c.Steps {
		if c.Steps[i].On {
			on++
		}
	}
	if on == 0 || on == len(c.Steps) {
		c.StepList().Resize(len(words))
		lane.Window = nil
		for i := range c.Steps {
			c.Steps[i].On = true
		}
	}
	old := c.Palette
	c.Palette = nil
	next := 0
	places := make([]int, len(words))
	put := func(i int) error {
		tones := words[next].Chord.Places(key, c.Octave)
		place, err := Use(c, key, distinct(key, tones))
		if err != nil {
			return err
		}
		c.Steps[i].On, c.Steps[i].Chord, places[next] = true, place, place
		next++
		return nil
	}
	for i := range c.Steps {
		if !c.Steps[i].On {
			continue
		}
		if next == len(words) {
			c.Steps[i].On = false
			continue
		}
		if err := put(i); err != nil {
			return err
		}
	}
	for i := 0; i < len(c.Steps) && next < len(words); i++ { // rests take what is left
		if !c.Steps[i].On {
			if err := put(i); err != nil {
				return err
			}
		}
	}
	for next < len(words) {
		if len(c.Steps) == piece.MaxSteps {
			return &document.Fault{Path: "text", Problem: fmt.Sprintf("the lane would have more than %d steps", piece.MaxSteps)}
		}
		c.StepList().Resize(len(c.Steps) + 1)
		if err := put(len(c.Steps) - 1); err != nil {
			return err
		}
	}
	for i := range c.Steps {
		if !c.Steps[i].On {
			c.Steps[i].Chord = 1
		}
	}
	for i := range c.Palette {
		for k := range old {
			if old[k].Name != "" && slices.Equal(sorted(key, old[k].Tones), c.Palette[i].Tones) {
				c.Palette[i].Name = old[k].Name
			}
		}
	}
	for k, word := range words {
		keepWritten(c, key, places[k], word.Text)
	}
	return nil
}

// Transpose moves the chords of steps (from 0): by octaves the steps, by degrees or
// semitones the palette's chords, wherever they stand.
func (Kind) Transpose(lane *piece.Lane, key pitch.Key, steps []int, unit string, by int) error {
	c := of(lane)
	if unit == "octave" {
		for _, i := range steps {
			octave := c.Steps[i].Octave + by
			if octave < -4 || octave > 4 {
				return &document.Fault{Path: fmt.Sprintf("steps[%d].octave", i), Problem: fmt.Sprintf("%d is out of reach; allowed: -4..4", octave)}
			}
			c.Steps[i].Octave = octave
		}
		return nil
	}
	return Change(c, key, steps, false, func(tones []pitch.Place) ([]pitch.Place, error) {
		for k := range tones {
			moved, err := pitched.Shift(&c.Pitched, key, tones[k], unit, by)
			if err != nil {
				return nil, err
			}
			tones[k] = moved
		}
		return tones, nil
	})
}
