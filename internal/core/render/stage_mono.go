package render

import "sync"

// Mono plays a lane that sounds one note at a time: the stages from the slots to
// the wheel. The part's own fields are the input's.
func Mono(in *Input, v Voice) Part {
	part := in.Part
	part.Range = max(v.Mode.Range, 1)
	step := in.Pattern.Step
	room := rooms.Get().(*room)
	defer rooms.Put(room)
	runs, slides := join(in, &v, room)
	begin, leftOut := starts(runs, in, &v, v.Lengths, room)
	if leftOut > 0 {
		part.Mark(GlideLeftOut, leftOut, 0)
	}
	notes := repeat(in, &v, runs)
	for i := range notes {
		if t := &notes[i].trace; begin != nil && t.repeat == 1 {
			t.from = int8(begin[t.run].from)
		}
	}
	notes = in.reshaped(notes, true)
	notes = groove(notes, in.Frame, step)
	part.Notes = cut(notes, in.Frame)
	if v.Mode.Mode == "legato" && begin != nil {
		part.Controls = portamento(in, part.Notes, begin)
	}
	if v.Glide != nil || v.Bend != nil {
		wheel(in, &part, &v, runs, slides, begin)
		part.tellWays(in, &v, runs, slides, begin)
	}
	return part
}

// room is memory for what lives only while a lane is played. It is used again,
// because clearing it anew for every lane costs as much as playing it.
type room struct {
	runs   []run
	slides []slide
	starts []start
}

var rooms = sync.Pool{New: func() any { return new(room) }}
