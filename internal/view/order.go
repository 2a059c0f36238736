package view

import (
	"slices"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Order is all that the view of the running order draws. Times are in 960ths of a quarter.
type Order struct {
	Ticks     int64        `json:"ticks"` // where the last entry ends
	BarTicks  int64        `json:"barTicks"`
	BeatTicks int64        `json:"beatTicks"`
	Clips     []OrderClip  `json:"clips"`
	Entries   []OrderEntry `json:"entries"`
}

// OrderClip is a clip's band.
type OrderClip struct {
	ID     string      `json:"id"`
	Name   string      `json:"name"`
	Length int64       `json:"length"` // its own; 0: it has no end of its own
	Lanes  []OrderLane `json:"lanes"`
	Silent bool        `json:"silent"` // no note of it sounds
	// Marks are the notes of its first bars, three numbers each: where one begins, how long it is, and its
	// row from below, of ThumbRows.
	Marks []int64 `json:"marks"`
	// Shifts are by how many degrees a key moves it, by its pitch class from C.
	Shifts [12]int `json:"shifts" tstype:"number[]"`
	// Roots are what these keys are called in the clip's key, "F♯".
	Roots [12]string `json:"roots" tstype:"string[]"`
}

// OrderLane is a lane of a clip.
type OrderLane struct {
	ID     string `json:"id"`
	Name   string `json:"name"`
	Sounds bool   `json:"sounds"` // it has notes of its own, and does not act on another lane
	Apart  bool   `json:"apart"`  // its notes glide each by itself, in a zone of channels
}

// OrderEntry is a stretch of ink.
type OrderEntry struct {
	Number int      `json:"number"` // from 1, in the document
	Clip   string   `json:"clip"`
	At     int64    `json:"at"`
	For    int64    `json:"for"`
	From   int64    `json:"from"`
	Shift  int      `json:"shift"`
	Mute   []string `json:"mute"`
	Silent string   `json:"silent"` // why nothing of it sounds; "": something does
}

// mostMarks is how many notes a band draws of a clip, and of how many bars.
const (
	mostMarks = 400
	markBars  = 16
)

// OrderOf works out the view of a piece's running order.
func OrderOf(p *piece.Piece, most Bounds) (*Order, error) {
	bar := p.Bar().Export(PPQ)
	out := &Order{BarTicks: bar, BeatTicks: p.BeatLength().Export(PPQ), Clips: []OrderClip{}, Entries: []OrderEntry{}}
	lengths := map[string]int64{}
	for i := range p.Clips {
		clip := &p.Clips[i]
		own, err := orderClip(p, clip, Share(most.answer, len(p.Clips)))
		if err != nil {
			return nil, err
		}
		lengths[clip.ID] = own.Length
		out.Clips = append(out.Clips, *own)
	}
	for i := range p.Order.Entries {
		e := &p.Order.Entries[i]
		clip, err := p.Clip(e.Clip)
		if err != nil {
			return nil, err
		}
		entry := OrderEntry{Number: i + 1, Clip: e.Clip, At: int64(e.At), For: int64(e.For), From: int64(e.From), Shift: e.Shift, Mute: slices.Clone(e.Mute)}
		if entry.Mute == nil {
			entry.Mute = []string{}
		}
		if length := lengths[e.Clip]; length > 0 && e.Run == "loop" {
			entry.From %= length
		}
		if heard := slices.ContainsFunc(clip.Lanes, func(l piece.Lane) bool { return !l.Mute && !l.Silent() && !slices.Contains(e.Mute, l.ID) }); !heard {
			entry.Silent = "All its lanes are muted here."
			if k := slices.IndexFunc(out.Clips, func(c OrderClip) bool { return c.ID == e.Clip }); out.Clips[k].Silent {
				entry.Silent = "The clip has no notes."
			}
		}
		out.Entries = append(out.Entries, entry)
		out.Ticks = max(out.Ticks, entry.At+entry.For)
	}
	return out, nil
}

func orderClip(p *piece.Piece, clip *piece.Clip, most Bounds) (*OrderClip, error) {
	key := p.KeyOf(clip)
	length := order.LengthOf(p, clip, most.answer)
	out := &OrderClip{ID: clip.ID, Name: clip.Name, Length: length.Export(PPQ), Lanes: []OrderLane{}, Marks: []int64{}, Shifts: shifts(key), Roots: roots(key)}
	for i := range clip.Lanes {
		lane := &clip.Lanes[i]
		out.Lanes = append(out.Lanes, OrderLane{lane.ID, lane.Name, !lane.Silent(), piece.GlidesApart(clip, lane)})
	}
	bars := int(min((length+p.Bar()-1)/p.Bar(), markBars))
	if bars == 0 {
		bars = markBars
	}
	performance, err := lane.Render(p, clip, render.Options{Bars: bars, Opening: true, Budget: most.answer.Part(most.work), Events: most.events, Cycle: &render.Cycle{}})
	if err != nil {
		return out, nil // too much of it to be drawn: the band is plain
	}
	low, high, count := 127, 0, 0
	for i := range performance.Lanes {
		for k := range performance.Lanes[i].Notes {
			pitch := int(performance.Lanes[i].Notes[k].Pitch)
			low, high, count = min(low, pitch), max(high, pitch), count+1
		}
	}
	out.Silent = count == 0
	for i := range performance.Lanes {
		for k := range performance.Lanes[i].Notes {
			if len(out.Marks) < 3*mostMarks {
				note := &performance.Lanes[i].Notes[k]
				at, length := performance.Span(note, PPQ)
				out.Marks = append(out.Marks, at, length, int64((int(note.Pitch)-low)*(ThumbRows-1)/max(high-low, 1)))
			}
		}
	}
	return out, nil
}

// roots are the names of the pitch classes from C, as a key spells them.
func roots(key pitch.Key) (out [12]string) {
	for class := range out {
		out[class] = pitch.Pretty(key.Spell(class).String())
	}
	return out
}

// shifts are by how many degrees each key of a keyboard, by its pitch class, moves a clip from its tonic: up
// to the nearest such degree as far as seven semitones, and else down; a key outside the scale goes to the
// degree below.
func shifts(key pitch.Key) (out [12]int) {
	tonic := pitch.Mod(key.Tonic.Class(), 12)
	for class := range out {
		up := pitch.Mod(class-tonic, 12)
		degree := 0
		for d := range key.Size() {
			if key.Semitones(d+1) <= up {
				degree = d
			}
		}
		if up > 7 {
			degree -= key.Size()
		}
		out[class] = degree
	}
	return out
}
