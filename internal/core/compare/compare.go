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

	"agrimony/internal/core/budget"
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

// Clips compares two clips of a piece over so many bars; 0: over the longer of them, the other looping. The
// error is that of a rendering, or of the budget.
func Clips(p *piece.Piece, a, b *piece.Clip, bars int, work *budget.Budget) (out *Report, err error) {
	defer budget.Catch(&err)
	x, err := heard(p, a, bars, work)
	if err != nil {
		return nil, err
	}
	y, err := heard(p, b, bars, work)
	if err != nil {
		return nil, err
	}
	return &Report{Settings(a, b), Notes(x, y, 0, work)}, nil
}

// left are the fields of a clip, and of lanes, that are not compared.
var left = map[string]bool{"id": true, "name": true, "of": true, "draws": true, "ownShare": true, "quiet": true}

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

// Heard is what a clip sounds for a time, and again and again after that.
type Heard struct {
	Performance *render.Performance
	Ticks       int64 // how long it is, in 960ths of a quarter
	notes       []note
}

// note is a note that a clip sounds.
type note struct {
	same
	source
	length   int64
	velocity uint8
}

// Hear returns what a performance sounds.
func Hear(performance *render.Performance) *Heard {
	out := &Heard{Performance: performance, Ticks: performance.Length.Export(render.DefaultPPQ)}
	for i := range performance.Lanes {
		part := &performance.Lanes[i]
		performance.Written(part, render.DefaultPPQ, func(n *render.Note, at, length int64) {
			out.notes = append(out.notes, note{same{part.ID, at, n.Pitch}, source{part.ID, n.Step, n.Round}, length, n.Velocity})
		})
	}
	slices.SortStableFunc(out.notes, func(a, b note) int { return cmp.Compare(a.at, b.at) })
	return out
}

// heard renders a clip over so many bars; 0: over its own length.
func heard(p *piece.Piece, clip *piece.Clip, bars int, work *budget.Budget) (*Heard, error) {
	performance, err := lane.Render(p, clip, render.Options{Bars: bars, Budget: work, Events: work.Limits().Events})
	if err != nil {
		return nil, fmt.Errorf("%s: %w", clip.Name, err)
	}
	return Hear(performance), nil
}

// until returns the notes of a clip that comes round until a time.
func (h *Heard) until(length int64, work *budget.Budget) []note {
	var out []note
	for from := int64(0); h.Ticks > 0 && from < length && len(h.notes) > 0; from += h.Ticks {
		work.Spend(int64(len(h.notes)))
		for _, n := range h.notes {
			if n.at += from; n.at >= length {
				break
			}
			n.length = min(n.length, length-n.at)
			out = append(out, n)
		}
		if len(out) > mostCompared {
			budget.End(&render.TooManyError{Events: int64(len(out)) * length / max(from+h.Ticks, 1), Most: mostCompared, Lane: out[0].source.lane})
		}
	}
	return out
}

// mostCompared is how many notes of a clip are compared.
const mostCompared = render.MaxEvents

// comparedWork is how much work it is to compare a note.
const comparedWork = 60

// same is what makes a note the same: its lane, when it begins and its pitch.
type same struct {
	lane  string
	at    int64
	pitch uint8
}

// source is where a note comes from.
type source struct {
	lane        string
	step, round int32
}

// Notes compares what two clips sound up to a time, in 960ths of a quarter; 0: to the end of the longer one,
// the other looping.
func Notes(x, y *Heard, length int64, work *budget.Budget) []Note {
	if length == 0 {
		length = max(x.Ticks, y.Ticks)
	}
	a, b := x.until(length, work), y.until(length, work)
	work.Spend(comparedWork * int64(len(a)+len(b)))
	out := []Note{}
	there := map[same][]*note{}
	for i := range b {
		there[b[i].same] = append(there[b[i].same], &b[i])
	}
	gone := []*note{}
	for i := range a {
		n := &a[i]
		list := there[n.same]
		if len(list) == 0 {
			gone = append(gone, n)
			continue
		}
		is := list[0]
		there[n.same] = list[1:]
		if is.length != n.length {
			out = append(out, Note{n.same.lane, "length", n.at, int(n.pitch), n.length, is.length})
		}
		if is.velocity != n.velocity {
			out = append(out, Note{n.same.lane, "velocity", n.at, int(n.pitch), int(n.velocity), int(is.velocity)})
		}
	}
	added := map[source][]*note{}
	for i := range b {
		n := &b[i]
		if list := there[n.same]; len(list) > 0 && list[0] == n {
			there[n.same] = list[1:]
			added[n.source] = append(added[n.source], n)
		}
	}
	for _, n := range gone {
		if list := added[n.source]; len(list) > 0 {
			added[n.source] = list[1:]
			out = append(out, Note{n.same.lane, "moved", n.at, int(n.pitch), Place{n.at, int(n.pitch)}, Place{list[0].at, int(list[0].pitch)}})
			continue
		}
		out = append(out, Note{Lane: n.same.lane, Change: "gone", At: n.at, Pitch: int(n.pitch)})
	}
	for _, list := range added {
		for _, n := range list {
			out = append(out, Note{Lane: n.same.lane, Change: "added", At: n.at, Pitch: int(n.pitch)})
		}
	}
	slices.SortStableFunc(out, func(a, b Note) int {
		return cmp.Or(cmp.Compare(a.At, b.At), cmp.Compare(a.Lane, b.Lane), cmp.Compare(a.Pitch, b.Pitch), cmp.Compare(a.Change, b.Change))
	})
	return out
}
