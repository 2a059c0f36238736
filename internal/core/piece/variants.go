package piece

import (
	"encoding/json"
	"reflect"
	"slices"

	"agrimony/internal/core/document"
)

// Draw is the id by which what luck decides in a clip is drawn: a variant draws as the clip that it was
// made of.
func (c *Clip) Draw() string {
	if c.Draws != "" {
		return c.Draws
	}
	return c.ID
}

// Head is the id of the clip that stands first in a clip's stack: its own, where it is no variant.
func (c *Clip) Head() string {
	if c.Of != "" {
		return c.Of
	}
	return c.ID
}

// Stack lists the indexes of the clips of a stack, by the id of its head, the head first.
func (p *Piece) Stack(head string) []int {
	var out []int
	for i := range p.Clips {
		switch c := &p.Clips[i]; {
		case c.ID == head:
			out = slices.Insert(out, 0, i)
		case c.Of == head:
			out = append(out, i)
		}
	}
	return out
}

// Orphaned lets the first of the variants of a clip that is gone be the one that the rest are of.
func (p *Piece) Orphaned(gone string) {
	head := ""
	for i := range p.Clips {
		if c := &p.Clips[i]; c.Of == gone {
			c.Of = head
			if head == "" {
				head = c.ID
			}
		}
	}
}

// checkVariants refuses a variant of a clip that is not there, of itself, or of a variant.
func checkVariants(at *document.At, clips []Clip) {
	for i := range clips {
		of := clips[i].Of
		if of == "" {
			continue
		}
		field := at.Item(i).Field("of")
		k := slices.IndexFunc(clips, func(c Clip) bool { return c.ID == of })
		switch {
		case k < 0:
			field.Refuse("no clip %q in the piece; allowed: another clip's id", of)
		case k == i:
			field.Refuse("names the clip itself; allowed: another clip's id")
		case clips[k].Of != "":
			field.Refuse("%q is a variant of %q itself; allowed: a clip that is none", of, clips[k].Of)
		}
	}
}

// Stated is a lane as JSON with every field stated, free notes one by one.
func (l *Lane) Stated() ([]byte, error) {
	data, err := json.Marshal(*l)
	own, free := l.Content.(*Notes)
	if err != nil || !free {
		return data, err
	}
	var members map[string]json.RawMessage
	if err := json.Unmarshal(data, &members); err != nil {
		return nil, err
	}
	if members["notes"], err = json.Marshal([]FreeNote(own.Notes)); err != nil {
		return nil, err
	}
	return json.Marshal(members)
}

// TakeFree puts the free notes of a lane that begin within some times in the place of those that another
// has there, and tells how many that makes; false: the lanes have none. What would be too many is left.
func (l *Lane) TakeFree(from *Lane, within func(at int) bool) (count int, free bool) {
	own, mine := l.Content.(*Notes)
	there, theirs := from.Content.(*Notes)
	if !mine || !theirs {
		return 0, false
	}
	notes := slices.DeleteFunc(slices.Clone([]FreeNote(own.Notes)), func(n FreeNote) bool { return within(n.At) })
	for _, n := range there.Notes {
		if within(n.At) {
			n.Number = 0
			notes = append(notes, n)
		}
	}
	if len(notes) <= MaxNotes {
		next := *own
		next.Put(notes)
		l.Content = &next
	}
	return len(notes), true
}

// SamePalette tells whether the steps of two lanes name the same chords, if they name any.
func SamePalette(a, b *Lane) bool {
	x, ok := a.Content.(*Chords)
	if !ok {
		return true
	}
	y, ok := b.Content.(*Chords)
	return ok && reflect.DeepEqual(x.Palette, y.Palette)
}
