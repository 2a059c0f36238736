package edittest

import (
	"fmt"

	"agrimony/internal/core/piece"
)

// makings make up the arguments of each edit, each followed by a comma.
var makings = map[string]func(m *Maker) string{
	"piece.set": func(m *Maker) string {
		return `"patch":` + m.one(fmt.Sprintf(`{"title":%s}`, quoted(m.name())), fmt.Sprintf(`{"tempo":%d.5}`, m.number(60, 180)), `{"meter":"7/8"}`, `{"groove":{"swing":60}}`, `{"groove":{"template":"Rolling"}}`, `{"groove":{"template":null}}`, `{"seed":12}`)
	},
	"key.set": func(m *Maker) string {
		return m.one("", m.onClip()) + fmt.Sprintf(`"key":%s,"keep":%q`, m.key(), m.one("degrees", "pitches"))
	},
	"clip.add": func(m *Maker) string { return fmt.Sprintf(`"name":%s`, quoted(m.name())) },
	"clip.set": func(m *Maker) string {
		return m.onClip() + `"patch":` + m.one(fmt.Sprintf(`{"name":%s}`, quoted(m.name())), `{"bars":3}`, `{"until":"cycle"}`, `{"seam":"loop"}`)
	},
	"clip.remove": (*Maker).onClip,
	"clip.copy":   (*Maker).onClip,
	"order.write": func(m *Maker) string { return fmt.Sprintf(`"entries":[%s]`, m.entries(m.Pick(4))) },
	"order.add":   func(m *Maker) string { return fmt.Sprintf(`"entries":[%s]`, m.entries(1+m.Pick(2))) },
	"order.set":   func(m *Maker) string { return m.onEntries() + `"patch":` + m.entryPatch() },
	"order.move":  func(m *Maker) string { return fmt.Sprintf(`%s"by":%d`, m.onEntries(), 960*m.number(-8, 8)) },
	"order.stretch": func(m *Maker) string {
		return fmt.Sprintf(`%s"by":%d,"start":%t`, m.onEntries(), 480*m.number(-8, 8), m.Pick(2) == 0)
	},
	"order.copy": func(m *Maker) string { return fmt.Sprintf(`%s"by":%d`, m.onEntries(), 960*m.number(-4, 24)) },
	"order.split": func(m *Maker) string {
		k := m.entry()
		e := &m.Piece.Order.Entries[k]
		return fmt.Sprintf(`"entries":[%d],"at":%d`, k+1, e.At+m.Pick(e.For+1))
	},
	"order.remove": func(m *Maker) string { return m.onEntries() },
	"order.keep": func(m *Maker) string {
		at, first, second := 240*m.Pick(20), m.clip().ID, m.clip().ID
		return fmt.Sprintf(`"played":[{"clip":%q,"at":%d,"for":5760},{"clip":%q,"at":%d,"for":%d,"shift":%d,"goesOn":true}]`, first, at, second, at+5760, 960*m.number(1, 9), m.number(-3, 3))
	},
	"clip.variant": func(m *Maker) string {
		return m.onClip() + m.one(`"name":"Other"`, fmt.Sprintf(`"name":%s`, quoted(m.name())))
	},
	"clip.apart": (*Maker).onClip,
	"clip.take": func(m *Maker) string {
		clip, lane := m.lane()
		return fmt.Sprintf(`"clip":%q,"from":%q,"lane":%q`, clip.ID, m.clip().ID, lane.ID) +
			m.one(``, `,"bars":[1]`, `,"bars":[1,2]`, `,"path":"rate"`, `,"path":"steps"`, `,"path":"steps[1].velocity"`, `,"path":"sound.level"`)
	},
	"lane.sketch": func(m *Maker) string {
		return m.onLane(bass...) + fmt.Sprintf(`"seed":%d,"asClip":%t,"request":%s`, m.number(0, 99), m.Pick(4) == 0, m.one(`{}`, `{"temper":"walking"}`, `{"dials":{"full":[20,90],"contour":"rise"}}`, `{"keep":"rhythm"}`))
	},
	"lane.vary": func(m *Maker) string {
		return m.onLane() + fmt.Sprintf(`"seed":%d,"asClip":%t,"request":{"share":%d,"respect":%q}`, m.number(0, 99), m.Pick(4) == 0, m.number(0, 100), m.one("rhythm", "dynamics", "lengths", "pitches"))
	},
	"clip.move": func(m *Maker) string {
		return m.onClip() + fmt.Sprintf(`"to":%d`, m.number(1, max(len(m.Piece.Clips), 1)))
	},
	"lane.add": func(m *Maker) string {
		clip, kind := m.clip(), m.one("line", "chords", "phrase", "pulse", "control", "layer", "notes")
		return fmt.Sprintf(`"clip":%q,"kind":%q,"name":%s,"patch":%s,"first":%t`, clip.ID, kind, quoted(m.name()), m.laneOf(kind, clip), m.Pick(2) == 0)
	},
	"lane.set": func(m *Maker) string {
		clip, lane := m.lane()
		return fmt.Sprintf(`"clip":%q,"lane":%q,"patch":%s`, clip.ID, lane.ID, m.one(fmt.Sprintf(`{"name":%s}`, quoted(m.name())), `{"mute":true}`, `{"rate":"1/8T"}`, `{"channel":3}`, `{"restart":2}`, `{"modulators":[{"on":"velocity","from":20,"to":90,"every":"1/16"}]}`, m.laneOf(lane.Kind, clip)))
	},
	"lane.remove": func(m *Maker) string { return m.onLane() },
	"lane.copy":   func(m *Maker) string { return m.onLane() },
	"lane.move": func(m *Maker) string {
		clip, lane := m.lane()
		return fmt.Sprintf(`"clip":%q,"lane":%q,"to":%d`, clip.ID, lane.ID, m.number(1, len(clip.Lanes)))
	},
	"lane.resize": func(m *Maker) string { return m.onLane() + fmt.Sprintf(`"count":%d`, m.number(1, 20)) },
	"lane.double": func(m *Maker) string { return m.onLane() },
	"steps.set":   func(m *Maker) string { return m.onSteps() + `"patch":` + m.step() },
	"steps.write": func(m *Maker) string {
		text, n := m.onSome()
		return text + fmt.Sprintf(`"loose":true,"only":%q,"content":[%s]`, m.one("", "rhythm", "velocities", "lengths", "chance"), m.list(n, m.step))
	},
	"steps.transpose": func(m *Maker) string {
		return m.onSteps() + fmt.Sprintf(`"unit":%q,"by":%d`, m.one("degree", "semitone", "octave"), m.number(-2, 2))
	},
	"steps.rotate": func(m *Maker) string {
		return m.onSteps() + fmt.Sprintf(`"by":%d,"only":%q`, m.number(-3, 3), m.one("", "pitches", "rhythm", "lengths"))
	},
	"steps.move": func(m *Maker) string {
		return m.onSteps() + fmt.Sprintf(`"by":%d,"nudge":%d,"copy":%t`, m.number(-2, 2), m.one0(0, 0, 30, -20), m.Pick(2) == 0)
	},
	"steps.reverse": func(m *Maker) string { return m.onSteps() },
	"step.drag":     func(m *Maker) string { return m.stepAnd(nil, `"ticks":%d`, m.number(1, 900)) },
	"notes.put": func(m *Maker) string {
		on, step := m.onStep(bass...)
		return on + fmt.Sprintf(`"notes":[{"step":%d,"at":%s,"ticks":0}]`, step, m.place())
	},
	"notes.enter": func(m *Maker) string {
		low := m.number(40, 80)
		return m.stepAnd(nil, `"pitches":%s,"over":%t,"at":480,"length":240`, m.one(fmt.Sprintf("[%d]", low), fmt.Sprintf("[%d,%d,%d]", low, low+m.number(2, 5), low+7)), m.Pick(2) == 0)
	},
	"clip.harmony": func(m *Maker) string {
		clip, own := m.lane("chords", "notes")
		return fmt.Sprintf(`"clip":%q,"harmony":`, clip.ID) + m.one("null", fmt.Sprintf(`{"clip":%q}`, m.clip().ID), fmt.Sprintf(`{"lane":%q}`, own.ID), fmt.Sprintf(`{"lane":%q}`, own.ID))
	},
	"bass.make": func(m *Maker) string {
		return m.onClip() + fmt.Sprintf(`"of":"root","octave":2,"rate":"1/4","rhythm":"every","every":1,"approach":%q,"follow":%t`, m.one("none", "below", "above", "fifth"), m.Pick(2) == 0)
	},
	"chords.write": func(m *Maker) string {
		return m.onLane(chords...) + fmt.Sprintf(`"text":%q`, m.one("i VI", "I IV V7", "F#m7 B7", "Dm/F C(b2,2)", "I V7/V V", "viio7/ii bII"))
	},
	"chords.stack": func(m *Maker) string {
		return m.onSteps(chords...) + fmt.Sprintf(`"degree":%d,"kind":"triad"`, m.number(1, 7))
	},
	"chords.place": func(m *Maker) string {
		return m.onSteps(chords...) + fmt.Sprintf(`"text":%q`, m.one("Dm7", "V7", "Bb", "V7/IV"))
	},
	"chords.take": func(m *Maker) string {
		clip, lane := m.lane(chords...)
		return m.onSteps(chords...) + fmt.Sprintf(`"fromClip":%q,"fromLane":%q,"place":1`, clip.ID, lane.ID)
	},
	"chords.tone": func(m *Maker) string { return m.stepAnd(chords, `"at":%s`, m.place()) },
	"chords.drag": func(m *Maker) string {
		return m.stepAnd(chords, `"from":{"degree":3,"octave":0,"alter":0},"to":%s`, m.place())
	},
	"chords.hold": func(m *Maker) string { return m.stepAnd(chords, `"steps":%d`, m.number(1, 3)) },
	"chords.moveTone": func(m *Maker) string {
		return m.onSteps(chords...) + fmt.Sprintf(`"tone":%d,"unit":"degree","by":1`, m.number(1, 3))
	},
	"chords.widen":  func(m *Maker) string { return m.onSteps(chords...) + fmt.Sprintf(`"by":%d`, m.one0(1, -1)) },
	"chords.open":   func(m *Maker) string { return m.onSteps(chords...) + fmt.Sprintf(`"open":%t`, m.Pick(2) == 0) },
	"chords.invert": func(m *Maker) string { return m.onSteps(chords...) + fmt.Sprintf(`"by":%d`, m.one0(1, -1)) },
	"chords.name": func(m *Maker) string {
		return m.onLane(chords...) + fmt.Sprintf(`"place":1,"name":%s`, quoted(m.name()))
	},
	"chords.drop": func(m *Maker) string { return m.onLane(chords...) + fmt.Sprintf(`"place":%d`, m.number(1, 3)) },
	"chords.move": func(m *Maker) string { return m.stepAnd(chords, `"to":%d`, m.number(1, 2)) },
	"notes.add": func(m *Maker) string {
		return m.onLane(free...) + fmt.Sprintf(`"notes":[%s],"ladder":%t`, m.list(m.number(1, 4), m.free), m.Pick(2) == 0)
	},
	"notes.set": func(m *Maker) string {
		return m.onNotes() + `"patch":` + m.one(`{"velocity":70}`, `{"chance":40}`, `{"tie":true}`, `{"glide":{"time":60,"curve":30}}`, `{"bend":[{"at":50,"by":2}]}`, `{"length":960}`, `{"note":61}`, `{"at":30}`, `{"glide":null,"rounds":{"of":2,"on":[1]}}`)
	},
	"notes.write": func(m *Maker) string {
		clip, lane := m.lane(free...)
		own := piece.FreeOf(lane)
		if own.Count() == 0 {
			panic(nothing)
		}
		return fmt.Sprintf(`"clip":%q,"lane":%q,"notes":[{"number":%d,"velocity":%d}]`, clip.ID, lane.ID, own.Number(m.Pick(own.Count())), m.number(1, 127))
	},
	"notes.remove": (*Maker).onNotes,
	"notes.move": func(m *Maker) string {
		return m.onNotes() + fmt.Sprintf(`"later":%d,"by":%d,"unit":%q,"copy":%t`, m.number(-200, 900), m.number(-2, 2), m.one("degree", "semitone", "octave"), m.Pick(2) == 0)
	},
	"notes.place": func(m *Maker) string { return m.onNotes() + `"place":` + m.place() },
	"notes.cut": func(m *Maker) string {
		return m.onNotes() + m.one(fmt.Sprintf(`"at":%d`, m.number(0, 2000)), fmt.Sprintf(`"parts":%d`, m.number(2, 5)))
	},
	"notes.join":    (*Maker).onNotes,
	"notes.reverse": (*Maker).onNotes,
	"notes.repeat": func(m *Maker) string {
		return m.onNotes() + fmt.Sprintf(`"times":%d,"every":%d`, m.number(1, 2), m.one0(0, 480))
	},
	"notes.bring": func(m *Maker) string { return m.onNotes() + fmt.Sprintf(`"to":%d`, m.number(0, 1900)) },
	"notes.stretch": func(m *Maker) string {
		start := m.number(0, 900)
		return m.onNotes() + fmt.Sprintf(`"start":%d,"end":%d,"feel":%t`, start, start+m.number(1, 3000), m.Pick(2) == 0)
	},
	"notes.paint": func(m *Maker) string { return m.onLane(m.one("notes", "line")) + `"stroke":` + m.stroke() },
	"notes.stamp": func(m *Maker) string {
		if m.Pick(2) == 0 {
			return m.onSteps(bass...) + `"stroke":` + m.stroke()
		}
		return m.onLane(free...) + fmt.Sprintf(`"motif":[%s],"stroke":%s`, m.list(2, m.free), m.stroke())
	},
	"lane.print": func(m *Maker) string {
		clip, lane := m.lane()
		return fmt.Sprintf(`"clip":%q,"lanes":[%q],"bars":%d,"groove":%t`, clip.ID, lane.ID, m.number(0, 2), m.Pick(2) == 0)
	},
	"lane.become": func(m *Maker) string {
		return m.onLane(free...) + fmt.Sprintf(`"as":%q`, m.one("line", "pulses", "chords"))
	},
	"clip.double":  (*Maker).onClip,
	"phrase.print": func(m *Maker) string { return m.onLane(phrases...) + `"bars":1` },
	"lane.start": func(m *Maker) string {
		_, lane := m.lane()
		starter := piece.StarterOf("Kept", m.Piece.Key, lane)
		if m.Pick(3) == 0 { // into a lane, which may be of another kind
			part := []string{"", "rhythm", "pitches", "sound"}[m.Pick(4)]
			return m.onLane() + fmt.Sprintf(`"part":%q,"sound":%t,"starter":`, part, m.Pick(2) == 0) + string(piece.WriteStarter(starter))
		}
		return m.onClip() + fmt.Sprintf(`"first":%t,"starter":`, m.Pick(2) == 0) + string(piece.WriteStarter(starter))
	},
	"lane.hold": func(m *Maker) string {
		clip, lane := m.lane()
		for range 20 { // rather one of which something is left to luck
			if len(lane.Odds) > 0 {
				break
			}
			clip, lane = m.lane()
		}
		return fmt.Sprintf(`"clip":%q,"lane":%q,"rounds":[%d]`, clip.ID, lane.ID, m.number(1, 2))
	},
	"lane.writeModulator": func(m *Maker) string {
		for range 60 {
			if clip, lane := m.lane(); len(lane.Modulators) > 0 {
				return fmt.Sprintf(`"clip":%q,"lane":%q,"modulator":1`, clip.ID, lane.ID)
			}
		}
		panic(nothing)
	},
	"groove.take":  func(m *Maker) string { return m.onLane() },
	"groove.print": func(m *Maker) string { return m.onLane() },
	"fill.accents": func(m *Maker) string { return m.onSteps() + `"hits":1` },
	"fill.chance":  func(m *Maker) string { return m.onSteps() + `"chance":50,"weak":true` },
	"fill.thin":    func(m *Maker) string { return m.onSteps() },
	"fill.double":  func(m *Maker) string { return m.onSteps() },
	"fill.share":   func(m *Maker) string { return m.onSteps() + `"take":2,"of":3` },
	"fill.plays": func(m *Maker) string {
		return m.onSteps(phrases...) + fmt.Sprintf(`"shape":%q`, m.one("climb", "stab", "leap"))
	},
	"fill.every": func(m *Maker) string { return m.onSteps() + fmt.Sprintf(`"every":%d`, m.number(1, 3)) },
	"fill.even":  func(m *Maker) string { return m.onSteps() + `"hits":1,"turn":1` },
	"fill.from": func(m *Maker) string {
		clip, lane := m.lane()
		other := clip.Lanes[m.Pick(len(clip.Lanes))].ID
		return fmt.Sprintf(`"clip":%q,"lane":%q,"steps":[1],"from":%q%s`, clip.ID, lane.ID, other, m.one("", `,"rests":true`, `,"loudness":true,"lengths":true`))
	},
	"fill.contour": func(m *Maker) string {
		text, n := m.onSome(bass...)
		return text + fmt.Sprintf(`"places":[%s]`, m.list(n, m.place))
	},
	"fill.pattern": func(m *Maker) string { return m.onSteps(bass...) + `"tones":["1","3","5"]` },
}
