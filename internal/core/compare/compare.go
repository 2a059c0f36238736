// Package compare tells in what two clips differ: in their settings, field by field, and in the notes
// that they sound.
package compare

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strconv"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// Setting is a field of the second clip that is another than in the first. Its path runs from the clip,
// with lanes by their ids: "lanes[low].steps[3].gate", places in lists from 0. What one lacks is null.
type Setting struct {
	Path string `json:"path"`
	From any    `json:"from"`
	To   any    `json:"to"`
}

// Note is a note that is not the same: one that came, went, moved, or is longer, shorter, louder or
// softer. Times and lengths are 960ths of a quarter.
type Note struct {
	Lane   string `json:"lane"`
	Change string `json:"change"` // "added", "gone", "moved", "length" or "velocity"
	At     int64  `json:"at"`
	Pitch  int    `json:"pitch"`
	From   any    `json:"from"`
	To     any    `json:"to"`
}

// Place is where a note moved to.
type Place struct {
	At    int64 `json:"at"`
	Pitch int   `json:"pitch"`
}

// Report is all in which two clips differ.
type Report struct {
	Settings []Setting `json:"settings"`
	Notes    []Note    `json:"notes"`
}

// Clips compares two clips of a piece over so many bars; 0: over the longer of them, the other looping.
func Clips(p *piece.Piece, a, b *piece.Clip, bars int) (*Report, error) {
	notes, err := notesOf(p, a, b, bars)
	if err != nil {
		return nil, err
	}
	return &Report{Settings(a, b), notes}, nil
}

// left are the fields of a clip, and of lanes, that are not compared.
var left = map[string]bool{"id": true, "name": true, "of": true, "draws": true, "ownShare": true}

// Settings are the fields in which two clips differ.
func Settings(a, b *piece.Clip) []Setting {
	out := []Setting{}
	x, y := fields(clipOf(a)), fields(clipOf(b))
	delete(x, "lanes")
	delete(y, "lanes")
	apart("", x, y, &out)
	for i := range a.Lanes {
		own := &a.Lanes[i]
		path := fmt.Sprintf("lanes[%s]", own.ID)
		k := slices.IndexFunc(b.Lanes, func(l piece.Lane) bool { return l.ID == own.ID })
		switch {
		case k < 0:
			out = append(out, Setting{path, laneOf(own), nil})
		case b.Lanes[k].Kind != own.Kind:
			out = append(out, Setting{path, laneOf(own), laneOf(&b.Lanes[k])})
		default:
			apart(path, fields(laneOf(own)), fields(laneOf(&b.Lanes[k])), &out)
		}
	}
	for i := range b.Lanes {
		own := &b.Lanes[i]
		if !slices.ContainsFunc(a.Lanes, func(l piece.Lane) bool { return l.ID == own.ID }) {
			out = append(out, Setting{fmt.Sprintf("lanes[%s]", own.ID), nil, laneOf(own)})
		}
	}
	return out
}

// clipOf and laneOf are a clip and a lane as JSON, with every field stated.
func clipOf(c *piece.Clip) any {
	bare := *c
	bare.Lanes = nil
	out := plain(bare).(map[string]any)
	if c.Bars == 0 {
		out["bars"] = nil
	}
	if c.Until == "" {
		out["until"] = nil
	}
	return out
}

func laneOf(l *piece.Lane) any {
	data, err := l.Stated()
	if err != nil {
		panic(err) // documents can be written
	}
	return read(data)
}

// plain is a value as its JSON reads.
func plain(value any) any {
	data, err := json.Marshal(value)
	if err != nil {
		panic(err) // documents can be written
	}
	return read(data)
}

func read(data []byte) (out any) {
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.UseNumber()
	if err := decoder.Decode(&out); err != nil {
		panic(err)
	}
	return out
}

func fields(value any) map[string]any {
	out := map[string]any{}
	for name, v := range value.(map[string]any) {
		if !left[name] {
			out[name] = v
		}
	}
	return out
}

// apart adds in what two values differ.
func apart(path string, a, b any, out *[]Setting) {
	if reflect.DeepEqual(a, b) {
		return
	}
	x, isX := a.(map[string]any)
	y, isY := b.(map[string]any)
	if isX && isY {
		for _, name := range slices.Compact(slices.Sorted(slices.Values(append(keys(x), keys(y)...)))) {
			at := name
			if path != "" {
				at = path + "." + name
			}
			apart(at, x[name], y[name], out)
		}
		return
	}
	m, isM := a.([]any)
	n, isN := b.([]any)
	if isM && isN {
		for i := range max(len(m), len(n)) {
			var v, w any
			if i < len(m) {
				v = m[i]
			}
			if i < len(n) {
				w = n[i]
			}
			apart(path+"["+strconv.Itoa(i)+"]", v, w, out)
		}
		return
	}
	*out = append(*out, Setting{path, a, b})
}

func keys(of map[string]any) (out []string) {
	for name := range of {
		out = append(out, name)
	}
	return out
}

// heard are the notes of a clip over so many bars; 0: over its own length, again and again up to a time.
func heard(p *piece.Piece, clip *piece.Clip, bars int) (*render.Events, error) {
	performance, err := lane.Render(p, clip, render.Options{Bars: bars})
	if err != nil {
		return nil, err
	}
	events := performance.Events()
	return &events, nil
}

// notesOf compares what two clips sound.
func notesOf(p *piece.Piece, a, b *piece.Clip, bars int) ([]Note, error) {
	x, err := heard(p, a, bars)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", a.Name, err)
	}
	y, err := heard(p, b, bars)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", b.Name, err)
	}
	length := max(x.Ticks, y.Ticks)
	return notes(looped(x, length), looped(y, length)), nil
}

// looped are the notes of a performance that comes round until a time.
func looped(events *render.Events, length int64) []render.NoteEvent {
	out := slices.Clone(events.Notes)
	for from := events.Ticks; events.Ticks > 0 && from < length; from += events.Ticks {
		for _, n := range events.Notes {
			if n.At += from; n.At < length {
				n.Length = min(n.Length, length-n.At)
				out = append(out, n)
			}
		}
	}
	return out
}

// same is what makes a note the same: its lane, when it begins and its pitch.
type same struct {
	lane  string
	at    int64
	pitch int
}

// source is where a note comes from.
type source struct {
	lane        string
	step, round int
}

func notes(a, b []render.NoteEvent) []Note {
	out := []Note{}
	there := map[same][]*render.NoteEvent{}
	for i := range b {
		n := &b[i]
		k := same{n.Lane, n.At, int(n.Pitch)}
		there[k] = append(there[k], n)
	}
	gone := []*render.NoteEvent{}
	for i := range a {
		n := &a[i]
		k := same{n.Lane, n.At, int(n.Pitch)}
		list := there[k]
		if len(list) == 0 {
			gone = append(gone, n)
			continue
		}
		is := list[0]
		there[k] = list[1:]
		if is.Length != n.Length {
			out = append(out, Note{n.Lane, "length", n.At, int(n.Pitch), n.Length, is.Length})
		}
		if is.Velocity != n.Velocity {
			out = append(out, Note{n.Lane, "velocity", n.At, int(n.Pitch), n.Velocity, is.Velocity})
		}
	}
	added := map[source][]*render.NoteEvent{}
	for i := range b {
		n := &b[i]
		k := same{n.Lane, n.At, int(n.Pitch)}
		if list := there[k]; len(list) > 0 && list[0] == n {
			there[k] = list[1:]
			s := source{n.Lane, n.Step, n.Round}
			added[s] = append(added[s], n)
		}
	}
	for _, n := range gone {
		s := source{n.Lane, n.Step, n.Round}
		if list := added[s]; len(list) > 0 {
			added[s] = list[1:]
			out = append(out, Note{n.Lane, "moved", n.At, int(n.Pitch), Place{n.At, int(n.Pitch)}, Place{list[0].At, int(list[0].Pitch)}})
			continue
		}
		out = append(out, Note{Lane: n.Lane, Change: "gone", At: n.At, Pitch: int(n.Pitch)})
	}
	for _, list := range added {
		for _, n := range list {
			out = append(out, Note{Lane: n.Lane, Change: "added", At: n.At, Pitch: int(n.Pitch)})
		}
	}
	slices.SortStableFunc(out, func(a, b Note) int {
		return cmp.Or(cmp.Compare(a.At, b.At), cmp.Compare(a.Lane, b.Lane), cmp.Compare(a.Pitch, b.Pitch), cmp.Compare(a.Change, b.Change))
	})
	return out
}
