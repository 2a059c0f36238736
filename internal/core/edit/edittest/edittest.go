// Package edittest makes up edits of every sort for tests that must hold for the whole
// vocabulary.
package edittest

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
)

// Maker makes up edits of a piece. Pick draws a number from 0 up to below n.
type Maker struct {
	Piece *piece.Piece
	Pick  func(n int) int
}

// start has a lane of each kind.
const start = `{"format":"agrimony-piece","version":1,"title":"Start <&> é","key":{"tonic":"D","scale":"dorian"},"clips":[
	{"id":"keel","name":"Keel","bars":2,"lanes":[{"id":"low","octave":2,"steps":[{"on":true},{},{"on":true,"degree":5,"tie":true},{"on":true,"degree":3,"glide":{"time":60}}]},
		{"id":"rim","kind":"pulse","note":37,"steps":[{"on":true},{},{}]},{"id":"wide","kind":"layer","of":"low","octave":1},
		{"id":"lean","kind":"control","to":"low","steps":[{"on":true,"value":40,"shape":"line"},{"on":true,"value":90}]},
		{"id":"drift","kind":"notes","loop":{"length":1920},"voices":"one","notes":[{"at":0,"length":480},{"at":600,"length":200,"degree":3,"tie":true},{"at":900,"length":480,"degree":5,"glide":{"time":40}},{"at":1500,"length":90,"note":38}]}]},
	{"id":"basin","name":"Basin","lanes":[{"id":"tide","kind":"chords","rate":"1bar","palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"name":"far","tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]}],"steps":[{"on":true},{"on":true,"chord":2}]},
		{"id":"lamps","kind":"phrase","steps":[{"on":true},{"on":true,"play":"again"},{},{"on":true,"offset":1}]}]}],
	"order":{"entries":[{"clip":"keel","at":0,"for":7680},{"clip":"basin","at":3840,"for":11520,"mute":["lamps"],"shift":1},{"clip":"keel","at":9600,"for":3840,"from":960,"pass":2,"ring":true}]}}`

// Start is a small piece with a lane of each kind.
func Start() *piece.Piece {
	p, err := piece.Read([]byte(start))
	if err != nil {
		panic(err) // it stands above
	}
	return p
}

// Names are the edits that can be made up: a test holds them to be all that there are.
func Names() []string { return slices.Sorted(maps.Keys(makings)) }

// Any makes up an edit of any sort that may be refused; false: the piece has nothing for it.
func (m Maker) Any() (op.Op, bool) { return m.Of(Names()[m.Pick(len(makings))]) }

// Of makes up an edit of a sort.
func (m Maker) Of(name string) (out op.Op, ok bool) {
	defer func() {
		if problem := recover(); problem == nothing {
			ok = false
		} else if problem != nil {
			panic(problem)
		}
	}()
	text := fmt.Sprintf(`{"op":%q,%s}`, name, makings[name](&m))
	text = strings.ReplaceAll(text, ",}", "}")
	if err := json.Unmarshal([]byte(text), &out); err != nil {
		panic(fmt.Sprintf("%s: %v", text, err))
	}
	return out, true
}

// nothing tells that the piece lacks what an edit is of.
var nothing = new(int)

func (m *Maker) number(low, high int) int { return low + m.Pick(high-low+1) }

func (m *Maker) one(of ...string) string { return of[m.Pick(len(of))] }

func (m *Maker) clip() *piece.Clip {
	if len(m.Piece.Clips) == 0 {
		panic(nothing)
	}
	return &m.Piece.Clips[m.Pick(len(m.Piece.Clips))]
}

// entry picks an entry of the running order, from 0.
func (m *Maker) entry() int {
	if len(m.Piece.Order.Entries) == 0 {
		panic(nothing)
	}
	return m.Pick(len(m.Piece.Order.Entries))
}

func (m *Maker) onEntries() string { return fmt.Sprintf(`"entries":[%d],`, m.entry()+1) }

// entries makes so many up.
func (m *Maker) entries(count int) string {
	var out []string
	for range count {
		out = append(out, fmt.Sprintf(`{"clip":%q,"at":%d,"for":%d,"shift":%d,"from":%d,"run":%q}`, m.clip().ID, 960*m.Pick(60), 480*m.number(1, 30), m.number(-2, 2), 480*m.Pick(6), m.one("loop", "on")))
	}
	return strings.Join(out, ",")
}

func (m *Maker) entryPatch() string {
	return m.one(`{"shift":3}`, `{"ring":true}`, `{"luck":"same"}`, `{"mute":[]}`, `{"mute":["low"]}`, `{"run":"on"}`, `{"pass":2}`, `{"for":960}`)
}

func (m *Maker) onClip() string { return fmt.Sprintf(`"clip":%q,`, m.clip().ID) }

// lane picks a lane, of some kinds where they are named.
func (m *Maker) lane(kinds ...string) (*piece.Clip, *piece.Lane) {
	for range 40 {
		if clip := m.clip(); len(clip.Lanes) > 0 {
			lane := &clip.Lanes[m.Pick(len(clip.Lanes))]
			if len(kinds) == 0 || slices.Contains(kinds, lane.Kind) {
				return clip, lane
			}
		}
	}
	panic(nothing)
}

func (m *Maker) onLane(kinds ...string) string {
	clip, lane := m.lane(kinds...)
	return fmt.Sprintf(`"clip":%q,"lane":%q,`, clip.ID, lane.ID)
}

// onStep is a lane with steps, and one of them.
func (m *Maker) onStep(kinds ...string) (on string, step int) {
	for range 40 {
		clip, lane := m.lane(kinds...)
		if steps := lane.Content.StepList(); steps != nil {
			return fmt.Sprintf(`"clip":%q,"lane":%q,`, clip.ID, lane.ID), 1 + m.Pick(steps.Len())
		}
	}
	panic(nothing)
}

// onSteps is a lane with some of its steps.
func (m *Maker) onSteps(kinds ...string) string {
	text, _ := m.onSome(kinds...)
	return text
}

func (m *Maker) onSome(kinds ...string) (text string, count int) {
	for range 40 {
		clip, lane := m.lane(kinds...)
		if steps := lane.Content.StepList(); steps != nil {
			first := m.Pick(steps.Len())
			count = 1 + m.Pick(steps.Len()-first)
			var list []string
			for i := range count {
				list = append(list, fmt.Sprint(first+i+1))
			}
			return fmt.Sprintf(`"clip":%q,"lane":%q,"steps":[%s],`, clip.ID, lane.ID, strings.Join(list, ",")), count
		}
	}
	panic(nothing)
}

func (m *Maker) stepAnd(kinds []string, format string, args ...any) string {
	on, step := m.onStep(kinds...)
	return on + fmt.Sprintf(`"step":%d,`, step) + fmt.Sprintf(format, args...)
}

func (m *Maker) place() string {
	return fmt.Sprintf(`{"degree":%d,"octave":%d,"alter":%d}`, m.number(1, 7), m.number(-1, 1), m.one0(0, 0, 1, -1))
}

func (m *Maker) one0(of ...int) int { return of[m.Pick(len(of))] }

// names are names that a document writes otherwise than they look.
func (m *Maker) name() string {
	return m.one("Keel", "Läne 漢字", `A "quoted" <b> & more`, "Weir", "e\u0301\u2028x", "x", "a rather long name that fills a line of the document all by itself")
}

func (m *Maker) key() string {
	return m.one(`{"tonic":"D","scale":"dorian"}`, `{"tonic":"Eb","scale":"major"}`, `{"tonic":"F#","scale":"minor pentatonic"}`, `{"tonic":"C","scale":["1","b2","3","#4","5"]}`)
}

// step is what a step may say that every kind with notes has.
func (m *Maker) step() string {
	return m.one(`{"on":true}`, `{"on":false}`, fmt.Sprintf(`{"gate":%d}`, m.number(1, 400)), `{"tie":true}`, `{"nudge":-20,"ratchet":3}`, `{"rounds":{"of":3,"on":[2]}}`, `{"rounds":null}`, `{"chance":40}`, `{"skip":true}`, `{"velocity":90,"tie":false,"skip":false}`)
}

// laneOf is a lane's own fields, for a lane of a kind in a clip.
func (m *Maker) laneOf(kind string, clip *piece.Clip) string {
	other := "low"
	if len(clip.Lanes) > 0 {
		other = clip.Lanes[m.Pick(len(clip.Lanes))].ID
	}
	switch kind {
	case "chords":
		return m.one(`{}`, `{"rate":"1bar","palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"name":"<far>","tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]}],"steps":[{"on":true},{"on":true,"chord":2}]}`)
	case "phrase":
		return m.one(`{}`, `{"source":"own","tones":[{"degree":1},{"degree":5}],"order":[1,3,2]}`, fmt.Sprintf(`{"rhythm":{"lane":%q}}`, other))
	case "pulse":
		return m.one(`{"note":36}`, `{"pitch":{"degree":5}}`, `{"note":42,"steps":[{"on":true},{}]}`)
	case "control":
		return fmt.Sprintf(m.one(`{"to":%q}`, `{"to":%q,"target":"wheel"}`, `{"to":%q,"target":{"controller":64},"steps":[{"on":true,"value":9,"shape":{"curve":40}}]}`), other)
	case "notes":
		return m.one(`{}`, `{"voices":"one","loop":{"start":240,"length":960}}`, `{"voices":"many","loop":null,"notes":[{"at":480,"length":480,"degree":5,"number":7},{"at":0,"length":100}]}`)
	case "layer":
		return fmt.Sprintf(m.one(`{"of":%q}`, `{"of":%q,"keep":"chord"}`, `{"of":%q,"lock":"chord","share":{"timing":50}}`), other)
	}
	return m.one(`{}`, `{"octave":4,"lock":"chord"}`, `{"odds":[{"weight":3},{"rest":true}],"modulators":[{"on":"gate","from":20,"to":90,"every":"1/16"}],"steps":[{"on":true},{"on":true,"glide":{"time":30}},{"on":true,"bend":[{"at":0,"by":2},{"at":90,"by":0}]}]}`)
}

var bass, chords, phrases, free = []string{"line"}, []string{"chords"}, []string{"phrase"}, []string{"notes"}

// onNotes is a lane of free notes, with some of them.
func (m *Maker) onNotes() string {
	clip, lane := m.lane(free...)
	own := piece.FreeOf(lane)
	if own.Count() == 0 {
		panic(nothing)
	}
	first := m.Pick(own.Count())
	var list []string
	for i := range 1 + m.Pick(own.Count()-first) {
		list = append(list, fmt.Sprint(own.Number(first+i)))
	}
	return fmt.Sprintf(`"clip":%q,"lane":%q,"notes":[%s],`, clip.ID, lane.ID, strings.Join(list, ","))
}

// free is a note as the document writes it.
func (m *Maker) free() string {
	return m.one(fmt.Sprintf(`{"at":%d,"length":%d,"degree":%d}`, m.number(0, 4000), m.number(1, 900), m.number(1, 5)), fmt.Sprintf(`{"at":%d,"length":60,"note":%d,"chance":50}`, m.number(0, 4000), m.number(0, 127)))
}

// stroke is a stroke over a ladder.
func (m *Maker) stroke() string {
	return fmt.Sprintf(`[{"at":%d,"place":{"degree":%d}},{"at":%d,"place":{"degree":%d,"octave":1}}]`, m.number(0, 1900), m.number(1, 5), m.number(0, 1900), m.number(1, 5))
}

func (m *Maker) list(n int, each func() string) string {
	out := make([]string, n)
	for i := range out {
		out[i] = each()
	}
	return strings.Join(out, ",")
}

func quoted(text string) string {
	out, err := json.Marshal(text)
	if err != nil {
		panic(err) // any text can be written
	}
	return string(out)
}
