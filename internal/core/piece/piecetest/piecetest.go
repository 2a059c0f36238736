// Package piecetest makes up documents for tests: small ones that say little and come to
// much.
package piecetest

import (
	"fmt"
	"strings"
)

// Heavy makes up a document of a clip "keel", at most of so many bytes, in which whatever
// multiplies is multiplied: short steps in long bars, repeats, rounds, restarts, lanes that
// hang on one another, wide searches, waves. Pick draws a number from 0 up to below n.
func Heavy(pick func(n int) int, most int) string {
	h := heavy{pick: pick}
	head := fmt.Sprintf(`{"format":"agrimony-piece","version":1,"tempo":%s,"meter":%q,"key":{"tonic":"D","scale":%q},"groove":%s,"clips":[`,
		h.one("20", "120", "400"), h.one("32/1", "32/1", "31/1", "4/4", "1/16", "7/8"), h.one("dorian", "chromatic", "minor pentatonic"),
		h.one(`{}`, `{"swing":66}`, `{"template":"Rolling"}`, `{"swing":58,"template":"Pressing on","grid":"1/8"}`))
	length := h.one(`"bars":1024`, `"bars":1024`, `"until":"realign"`, `"until":"cycle"`, `"bars":1`, `"bars":64`)
	head += fmt.Sprintf(`{"id":"keel",%s,"seam":%q,"lanes":[`, length, h.one("fresh", "loop"))
	left := most - len(head)
	var lanes []string
	for count := 1 + pick(32); len(lanes) < count; {
		text := h.lane(len(lanes), min(left-100, most/h.number(1, count)))
		if len(text)+1 > left-10 {
			break
		}
		left -= len(text) + 1
		lanes = append(lanes, text)
	}
	return head + strings.Join(lanes, ",") + `]` + h.harmony(len(lanes)) + `}]}`
}

type heavy struct {
	pick   func(n int) int
	kinds  []string // of the lanes so far
	zones  int      // lanes whose notes glide each by itself
	played []int    // lanes of free notes that may be the harmony
}

// harmony names a lane whose chords are played, where there is one.
func (h *heavy) harmony(lanes int) string {
	if len(h.played) == 0 || h.pick(3) == 0 {
		return ""
	}
	lane := h.one0(h.played...)
	if lane >= lanes { // it found no room
		return ""
	}
	return fmt.Sprintf(`,"harmony":{"lane":"l%d"}`, lane)
}

// glide is how a lane of several notes glides; note by note only two may.
func (h *heavy) glide(otherwise string) string {
	if h.zones == 2 || h.pick(3) > 0 {
		return otherwise
	}
	h.zones++
	return fmt.Sprintf(`"glide":{"mode":"mpe","range":%d},`, h.one0(1, 12, 48, 96))
}

func (h *heavy) one(of ...string) string { return of[h.pick(len(of))] }

func (h *heavy) number(low, high int) int { return low + h.pick(high-low+1) }

// sounding is an earlier lane with notes; "" where there is none.
func (h *heavy) sounding() string {
	for range 20 {
		if n := len(h.kinds); n > 0 {
			if i := h.pick(n); h.kinds[i] != "control" {
				return fmt.Sprintf("l%d", i)
			}
			if h.kinds[n-1] != "control" && h.pick(2) == 0 {
				return fmt.Sprintf("l%d", n-1) // chains
			}
		}
	}
	return ""
}

// steps are so many bytes of steps, all alike or in turns.
func (h *heavy) steps(most int, own func() string) string {
	kinds := make([]string, h.number(1, 3))
	for i := range kinds {
		shared := h.one("", "", `,"ratchet":8`, `,"ratchet":7,"gate":400`, `,"tie":true`, `,"tie":true`, `,"chance":50`, `,"nudge":-50`,
			fmt.Sprintf(`,"rounds":{"of":%d,"on":[1]}`, h.number(1, 64)))
		on := h.one("true", "true", "true", "false")
		kinds[i] = `{"on":` + on + shared + own() + `}`
	}
	count := h.number(1, 512)
	var out strings.Builder
	for i := range count {
		text := kinds[i%len(kinds)]
		if i > 0 && out.Len()+len(text)+1 > most {
			break
		}
		if i > 0 {
			out.WriteByte(',')
		}
		out.WriteString(text)
	}
	return `"steps":[` + out.String() + `]`
}

func (h *heavy) timing() string {
	return fmt.Sprintf(`"rate":%q,"direction":%q,"restart":%d`, h.one("1/64T", "1/64T", "1/64D", "1/32", "1/16", "4bar", "1/1"),
		h.one("forward", "forward", "pendulum", "shuffle", "reverse"), h.number(0, 3)/3*h.number(1, 64))
}

func (h *heavy) craft(fields ...string) string {
	var mods []string
	for range h.number(0, 2) / 2 * h.number(1, 8) {
		mods = append(mods, fmt.Sprintf(`{"on":%q,"shape":%q,"every":%q,"from":1,"to":4}`, h.one(fields...), h.one("sine", "jump", "drift", "square"), h.one("1/64T", "1/16", "63bar", "1/64D")))
	}
	return fmt.Sprintf(`,"modulators":[%s]`, strings.Join(mods, ",")) + h.one("", "", `,"odds":[{"weight":3},{"ratchet":8},{"degrees":[-3,9]},{"rest":true}]`)
}

func (h *heavy) tones(most int) string {
	var out []string
	for i := range h.number(1, most) {
		out = append(out, fmt.Sprintf(`{"degree":%d,"octave":%d}`, i%5+1, i/5-1))
	}
	return strings.Join(out, ",")
}

func (h *heavy) one0(of ...int) int { return of[h.pick(len(of))] }

// free are so many bytes of free notes, close together.
func (h *heavy) free(most int) string {
	var out strings.Builder
	at := 0
	for i := range h.number(0, 200) {
		at += h.one0(0, 1, 7, 60, 240)
		text := fmt.Sprintf(`{"at":%d,"length":%d`, at, h.one0(1, 30, 240, 5000)) + h.one(`,"degree":3`, `,"degree":1,"octave":1`, `,"note":60`, `,"note":127`) +
			h.one("", "", `,"tie":true`, `,"glide":{"time":100}`, `,"tie":true,"glide":{"time":400,"from":-24}`, `,"bend":[{"at":0,"by":-24},{"at":60,"by":24}]`, `,"chance":50`, `,"rounds":{"of":3,"on":[2]}`) + "}"
		if i > 0 {
			text = "," + text
		}
		if out.Len()+len(text) > most {
			break
		}
		out.WriteString(text)
	}
	return `"notes":[` + out.String() + `]`
}

func (h *heavy) lane(index, most int) string {
	most = max(most, 40)
	kind := h.one("line", "line", "chords", "phrase", "phrase", "pulse", "control", "layer", "notes")
	other := h.sounding()
	if other == "" && (kind == "control" || kind == "layer") {
		kind = "line"
	}
	h.kinds = append(h.kinds, kind)
	start := fmt.Sprintf(`{"id":"l%d","kind":%q,"mute":%t,`, index, kind, h.pick(5) == 0)
	shared := []string{"gate", "ratchet", "velocity", "nudge", "chance"}
	switch kind {
	case "chords":
		var palette []string
		size := h.number(1, 16)
		for range h.number(1, 32) {
			palette = append(palette, `{"tones":[`+h.tones(size)+`]}`)
		}
		return start + h.glide("") + fmt.Sprintf(`"palette":[%s],"voicing":{"mode":%q,"low":%d,"high":%d,"bass":%q},%s,`, strings.Join(palette, ","), h.one("written", "smooth", "smooth"), h.number(0, 60), h.number(72, 127), h.one("free", "keep"), h.timing()) +
			h.steps(most, func() string {
				return fmt.Sprintf(`,"chord":%d`, h.number(1, len(palette))) + h.one("", `,"strum":{"time":100,"way":"up"}`, `,"inversion":8`, `,"glide":{"time":100}`, `,"glide":{"time":400,"from":-24},"bend":[{"at":0,"by":-24},{"at":60,"by":24}]`)
			}) + h.craft(append(shared, "inversion", "strum")...) + `}`
	case "phrase":
		source, rhythm := `"source":"harmony"`, ""
		if h.pick(2) == 0 {
			source = `"source":"own","tones":[` + h.tones(16) + `]`
		}
		if other != "" && h.pick(2) == 0 {
			rhythm = fmt.Sprintf(`"rhythm":{"lane":%q},`, other)
		}
		return start + h.glide("") + fmt.Sprintf(`%s,%s"order":%q,"span":%d,"walk":%q,"voices":%d,"repeats":%q,"pedal":%s,%s,`, source, rhythm, h.one("up", "random", "shuffle", "converge", "entered"), h.number(1, 8),
			h.one("chord", "never", "round"), h.number(1, 4), h.one("tone", "walk"), h.one("null", `{"tone":"root","octave":-2}`), h.timing()) +
			h.steps(most, func() string {
				return h.one("", `,"play":"chord"`, `,"play":"again"`, `,"offset":5`, `,"glide":{"time":400},"bend":[{"at":0,"by":-24},{"at":100,"by":24}]`)
			}) + h.craft(append(shared, "offset", "span", "voices", "order")...) + `}`
	case "pulse":
		return start + fmt.Sprintf(`"note":%d,"channel":10,%s,`, h.number(35, 60), h.timing()) + h.steps(most, func() string { return "" }) + h.craft(shared...) + `}`
	case "control":
		if h.pick(3) == 0 {
			return start + fmt.Sprintf(`"to":%q,"target":%s,"follows":{"lane":%q}}`, other, h.one(`"pressure"`, `{"controller":64}`), other)
		}
		steps := strings.NewReplacer(`,"ratchet":8`, "", `,"ratchet":7,"gate":400`, "", `,"tie":true`, "").Replace(h.steps(most, func() string { return fmt.Sprintf(`,"value":%d,"shape":"line"`, h.number(-100, 100)) }))
		return start + fmt.Sprintf(`"to":%q,"target":"wheel",%s,`, other, h.timing()) + steps + `}`
	case "notes":
		odds := strings.Replace(h.craft("gate", "velocity", "chance", "degree", "octave"), `{"ratchet":8},`, "", 1)
		voices, glide := h.one("many", "one", "one"), fmt.Sprintf(`"glide":{"mode":%q,"range":24},`, h.one("bend", "bend", "legato"))
		if voices == "many" {
			glide = h.glide(glide)
		}
		lock, follow := h.one("scale", "chord", "off"), h.one("key", "key", "root")
		if lock != "chord" && follow == "key" {
			h.played = append(h.played, index)
		}
		return start + fmt.Sprintf(`"voices":%q,"lock":%q,"follow":%q,"restart":%d,%s%s`, voices, lock, follow,
			h.number(0, 3)/3*h.number(1, 64), glide, h.one("", fmt.Sprintf(`"loop":{"start":%d,"length":%d},`, h.number(0, 900), h.one0(1, 40, 960, 1931, 15360)))) + h.free(most) + odds + `}`
	case "layer":
		return start + fmt.Sprintf(`"of":%q,"degrees":%d,"keep":%s,"lock":%q}`, other, h.number(-7, 7), h.one(`"all"`, `"all"`, `"chord"`, `{"every":3}`), h.one("off", "chord", "scale"))
	}
	return start + fmt.Sprintf(`"lock":%q,"follow":%q,"glide":{"mode":%q,"range":24},%s,`, h.one("scale", "chord", "off"), h.one("key", "root"), h.one("bend", "bend", "legato"), h.timing()) +
		h.steps(most, func() string {
			return fmt.Sprintf(`,"degree":%d`, h.number(1, 5)) + h.one("", `,"glide":{"time":400}`, `,"glide":{"time":100,"from":-24}`, `,"bend":[{"at":0,"by":-24},{"at":50,"by":24},{"at":100,"by":-24}]`,
				`,"glide":{"time":100},"bend":[{"at":0,"by":-24},{"at":30,"by":24},{"at":60,"by":-24}]`)
		}) + h.craft(append(shared, "degree", "octave")...) + `}`
}
