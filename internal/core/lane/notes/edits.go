package notes

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// Edits are those of free notes. Painting is package edit's, since lines are painted, too.
func (Kind) Edits() map[string]change.Rule {
	return map[string]change.Rule{
		"notes.add":     change.On("add notes", onFree(add)),
		"notes.set":     change.On("change notes", onFree(set)),
		"notes.write":   change.On("change notes", onFree(write)),
		"notes.remove":  change.On("take notes away", onFree(remove)),
		"notes.move":    change.On("move notes", onFree(move)),
		"notes.place":   change.On("move notes", onFree(place)),
		"notes.cut":     change.On("cut notes", onFree(cut)),
		"notes.join":    change.On("join notes", onFree(join)),
		"notes.reverse": change.On("reverse notes", onFree(reverse)),
		"notes.repeat":  change.On("repeat notes", onFree(repeat)),
		"notes.bring":   change.On("bring notes", onFree(bring)),
		"notes.stretch": change.On("stretch notes", onFree(stretch)),
	}
}

// onFree lets an edit apply to lanes of free notes alone.
func onFree[A any](apply func(t *change.Target, own *piece.Notes, args A) error) func(t *change.Target, args A) error {
	return func(t *change.Target, args A) error {
		own, ok := t.Lane.Content.(*piece.Notes)
		if !ok {
			return t.Wrong("lane", "%s is a %s lane; allowed: a notes lane", t.Lane.Name, t.Lane.Kind)
		}
		return apply(t, own, args)
	}
}

// WriteValue sets a number of a note, by its place from 0.
func (Kind) WriteValue(lane *piece.Lane, _ pitch.Key, field string, place, value int) (done bool) {
	note := &lane.Content.(*piece.Notes).Notes[place]
	switch field {
	case "velocity":
		note.Velocity = value
	case "chance":
		note.Chance = value
	default:
		return false
	}
	return true
}

// pick finds notes by their numbers, each once: their places, rising.
func pick(t *change.Target, own *piece.Notes, numbers []int) ([]int, error) {
	if len(numbers) == 0 {
		return nil, t.Wrong("notes", "none is named; allowed: 1..%d of the lane's", max(len(own.Notes), 1))
	}
	at := own.Find(numbers)
	out := make([]int, len(numbers))
	for i, number := range numbers {
		k, there := at[number]
		if !there {
			return nil, t.Wrong("notes", "there is no note %d in %s", number, t.Lane.Name)
		}
		out[i] = k
	}
	slices.Sort(out)
	for i := 1; i < len(out); i++ {
		if out[i] == out[i-1] {
			return nil, t.Wrong("notes", "note %d is named twice; allowed: each once", own.Notes[out[i]].Number)
		}
	}
	return out, nil
}

// Put gives the lane its notes; argument is what is to blame where they are too many.
func Put(t *change.Target, own *piece.Notes, argument string, notes []piece.FreeNote) error {
	if len(notes) > piece.MaxNotes {
		return t.Wrong(argument, "%s would have %d notes; allowed: at most %d", t.Lane.Name, len(notes), piece.MaxNotes)
	}
	for i := range notes {
		if n := &notes[i]; n.At < 0 || n.Length < 1 {
			return t.Wrong(argument, "a note would begin %d ticks before the lane's axis does; allowed: from 0 on", -n.At)
		}
	}
	own.Put(notes)
	return nil
}

func add(t *change.Target, own *piece.Notes, o op.AddNotes) error {
	if len(o.Notes) == 0 {
		return t.Wrong("notes", "none is given; allowed: 1..%d", piece.MaxNotes)
	}
	if len(o.Notes) > piece.MaxNotes {
		return t.Wrong("notes", "%d are given; allowed: 1..%d", len(o.Notes), piece.MaxNotes)
	}
	fresh, err := read(t, own, "notes", o.Notes)
	if err != nil {
		return err
	}
	if o.Ladder {
		Meant(t, own, fresh)
	}
	return Put(t, own, "notes", append(own.Notes, fresh...))
}

// read reads notes as the document writes them. A number that the lane has is refused.
func read(t *change.Target, own *piece.Notes, argument string, items []json.RawMessage) ([]piece.FreeNote, error) {
	at := own.ByNumber()
	out := make([]piece.FreeNote, len(items))
	for i, item := range items {
		path := fmt.Sprintf("%s.%s[%d]", t.Edit, argument, i)
		note, err := piece.ReadNote(path, item)
		if err != nil {
			return nil, err
		}
		if k, there := at[note.Number]; there && note.Number != 0 {
			return nil, &piece.Fault{
				Path:    path + ".number",
				Problem: fmt.Sprintf("%d is the number of the note at %d already; allowed: each number once", note.Number, own.Notes[k].At),
			}
		}
		if note.Note == nil {
			if err := pitched.Check(t.Key(), note.Place()); err != nil {
				return nil, pitched.Under(path, err)
			}
		}
		out[i] = note
	}
	return out, nil
}

// uncounted gives the place that a note must hold to stand on a row of the ladder at a time: in
// a lane that follows roots, counted from the chord's there.
func uncounted(t *change.Target, own *piece.Notes, notes []piece.FreeNote) func(at int, place pitch.Place) pitch.Place {
	if !own.Listens() {
		return func(_ int, place pitch.Place) pitch.Place { return place }
	}
	last := 0
	for i := range notes {
		last = max(last, notes[i].At)
	}
	h := t.Harmony(beat.Time(last)*piece.NoteTick + 1)
	start, _ := own.LoopOf(t.Clip.Bars, t.Piece.Bar())
	return func(at int, place pitch.Place) pitch.Place {
		return pitched.Uncounted(&own.Pitched, t.Key(), h.At(max(beat.Time(at)*piece.NoteTick-start, 0)), place)
	}
}

// Meant turns the places of notes from rows of the ladder into those that the notes must hold.
func Meant(t *change.Target, own *piece.Notes, notes []piece.FreeNote) {
	uncount := uncounted(t, own, notes)
	for i := range notes {
		if notes[i].Note == nil {
			notes[i].SetPlace(uncount(notes[i].At, notes[i].Place()))
		}
	}
}

// RowOf counts the rows of the key from the lane's tonic to a note's.
func RowOf(own *piece.Notes, key pitch.Key, n *piece.FreeNote) int {
	at := n.Place()
	if n.Note != nil {
		at, _ = key.Find(key.Snap(*n.Note, pitch.Snap(own.Snap)), own.Octave)
	}
	return at.Degree - 1 + key.Size()*at.Octave
}

func set(t *change.Target, own *piece.Notes, o op.SetNotes) error {
	at, err := pick(t, own, o.Notes)
	if err != nil {
		return err
	}
	for _, i := range at {
		if err := patch(t, own, i, "patch", o.Patch); err != nil {
			return err
		}
	}
	return settled(t, own)
}

// patch changes the fields of a note that data names; its number stays.
func patch(t *change.Target, own *piece.Notes, i int, argument string, data []byte) error {
	note := &own.Notes[i]
	was := note.Number
	if err := piece.PatchNote(fmt.Sprintf("%s.notes[%d]", t.Path, i), data, note); err != nil {
		return err
	}
	if note.Number != was {
		return t.Wrong(argument+".number", "note %d cannot become %d; its number stays with it", was, note.Number)
	}
	return nil
}

// settled puts the notes in order again where a change took them out of it.
func settled(t *change.Target, own *piece.Notes) error {
	if slices.IsSortedFunc(own.Notes, func(a, b piece.FreeNote) int { return a.At - b.At }) {
		return nil
	}
	return Put(t, own, "notes", own.Notes)
}

func write(t *change.Target, own *piece.Notes, o op.WriteNotes) error {
	if len(o.Notes) == 0 {
		return t.Wrong("notes", "none is given; allowed: 1..%d", piece.MaxNotes)
	}
	at := own.ByNumber()
	for i, item := range o.Notes {
		var named struct {
			Number int `json:"number"`
		}
		where := fmt.Sprintf("notes[%d]", i)
		if err := json.Unmarshal(item, &named); err != nil {
			return t.Wrong(where, "is no note with a number: %v", err)
		}
		k, there := at[named.Number]
		if !there {
			return t.Wrong(where+".number", "there is no note %d in %s", named.Number, t.Lane.Name)
		}
		if err := patch(t, own, k, where, item); err != nil {
			return err
		}
	}
	return settled(t, own)
}

func remove(t *change.Target, own *piece.Notes, o op.RemoveNotes) error {
	at, err := pick(t, own, o.Notes)
	if err != nil {
		return err
	}
	return Put(t, own, "notes", without(own.Notes, at))
}

// without are the notes less those at the places given, which rise.
func without(notes []piece.FreeNote, places []int) []piece.FreeNote {
	kept, next := make([]piece.FreeNote, 0, len(notes)-len(places)), 0
	for i := range notes {
		if next < len(places) && places[next] == i {
			next++
			continue
		}
		kept = append(kept, notes[i])
	}
	return kept
}

func move(t *change.Target, own *piece.Notes, o op.MoveNotes) error {
	at, err := pick(t, own, o.Notes)
	if err != nil {
		return err
	}
	if o.By != 0 && !slices.Contains(pitched.Units, o.Unit) {
		return t.Wrong("unit", "%q is not allowed; allowed: %s", o.Unit, strings.Join(pitched.Units, ", "))
	}
	if o.By < -128 || o.By > 128 {
		return t.Wrong("by", "%d is out of range; allowed: -128..128", o.By)
	}
	notes := own.Notes
	for _, i := range at {
		moved := notes[i]
		moved.At += o.Later
		if o.By != 0 {
			if err := Shift(own, t.Key(), &moved, o.Unit, o.By); err != nil {
				return t.Under(pitched.Under(fmt.Sprintf("notes[%d]", i), err))
			}
		}
		if o.Copy {
			moved.Number = 0
			notes = append(notes, moved)
		} else {
			notes[i] = moved
		}
	}
	return Put(t, own, "later", notes)
}

// Shift moves a note by so many of a unit. MIDI notes move along the scale, too.
func Shift(own *piece.Notes, key pitch.Key, n *piece.FreeNote, unit string, by int) error {
	if n.Note == nil {
		at, err := pitched.Shift(&own.Pitched, key, n.Place(), unit, by)
		if err != nil {
			return err
		}
		n.SetPlace(at)
		return nil
	}
	midi := *n.Note
	switch unit {
	case "degree":
		midi = key.Along(midi, by, pitch.Snap(own.Snap))
	case "octave":
		midi += 12 * by
	default:
		midi += by
	}
	if midi < 0 || midi > 127 {
		return &piece.Fault{Path: "note", Problem: fmt.Sprintf("%d is out of reach; allowed: 0..127", midi)}
	}
	n.Note = &midi
	return nil
}

func place(t *change.Target, own *piece.Notes, o op.PlaceNotes) error {
	at, err := pick(t, own, o.Notes)
	if err != nil {
		return err
	}
	if err := pitched.Check(t.Key(), o.Place); err != nil {
		return pitched.Under(t.Edit+".place", err)
	}
	uncount := uncounted(t, own, own.Notes)
	for _, i := range at {
		own.Notes[i].SetPlace(uncount(own.Notes[i].At, o.Place))
	}
	return nil
}

// DefaultSnap is the grid where none is named.
const DefaultSnap = "1/16"

// Snap is the length of a rate, in 960ths; "" is a sixteenth.
func Snap(t *change.Target, rate string) (int, error) {
	if rate == "" {
		rate = DefaultSnap
	}
	length, err := beat.Rate(rate, t.Meter())
	if err != nil {
		return 0, t.Wrong("snap", "%v", err)
	}
	return int(length / piece.NoteTick), nil
}

// Transpose moves notes, by their places (from 0), by so many of a unit.
func (Kind) Transpose(lane *piece.Lane, key pitch.Key, at []int, unit string, by int) error {
	own := of(lane)
	for _, i := range at {
		if err := Shift(own, key, &own.Notes[i], unit, by); err != nil {
			return pitched.Under(fmt.Sprintf("notes[%d]", i), err)
		}
	}
	return nil
}
