package piece

import (
	"fmt"
	"slices"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/pitch"
)

// Format and Version stand at the head of every document.
const (
	Format  = "agrimony-piece"
	Version = 1
)

// Limits of a document.
const (
	MaxClips = 64
	MaxLanes = 32
	MaxSteps = 256
	MaxSeed  = 1<<53 - 1
)

// The allowed words, in the order in which a chooser shows them.
var (
	Kinds      = []string{"line"}
	Directions = []string{"forward", "reverse", "pendulum", "shuffle"}
	Locks      = []string{"scale", "chord", "off"}
	Snaps      = []string{string(pitch.Nearest), string(pitch.Up), string(pitch.Down)}
	Follows    = []string{"key", "root"}
	GlideModes = []string{"bend", "legato"}
	Untils     = []string{"cycle", "realign"}
	SwingGrids = []string{"1/8", "1/16"}
	BeatNames  = []string{"off", "four", "half", "broken"}
	Voices     = []string{"bass", "pluck"}
	Waves      = []string{"saw", "pulse"}
)

var keyShape = &shape[Key]{
	doc: "A tonic and a scale.",
	fields: []field[Key]{
		parsed("tonic", "C", "A letter A..G with at most one # or b.", func(text string) error {
			name, err := pitch.ParseName(text)
			if err == nil && (name.Accidental > 1 || name.Accidental < -1 || name.String() != text) {
				err = fmt.Errorf("%q is not a tonic; allowed: a letter A..G with at most one # or b", text)
			}
			return err
		}, func(k *Key) *string { return &k.Tonic }),
		{
			name: "scale", doc: "The name of a scale, or its degrees against the major scale, rising from \"1\".",
			reset: func(k *Key) { k.Scale = Scale{Name: "major"} },
			read:  func(n node, k *Key) { k.Scale = readScale(n) },
			write: func(k *Key) (any, bool) {
				if k.Scale.Name != "" {
					return k.Scale.Name, true
				}
				return anyList(k.Scale.Degrees), true
			},
			schema: func() object {
				names := make([]string, len(pitch.Scales))
				for i, s := range pitch.Scales {
					names[i] = s.Name
				}
				return object{{"default", "major"}, {"anyOf", []any{
					object{{"type", "string"}, {"examples", names}},
					object{{"type", "array"}, {"minItems", 1}, {"maxItems", 12}, {"items", object{{"type", "string"}, {"pattern", "^(#{0,2}|b{0,2})[1-7]$"}}}},
				}}}
			},
		},
	},
}

func readScale(n node) Scale {
	if name, ok := n.value.(string); ok {
		scale, err := pitch.FindScale(name)
		if err != nil {
			refuse(n.path, "%v", err)
		}
		return Scale{Name: scale.Name}
	}
	items, ok := n.value.([]any)
	if !ok {
		n.wrong("the name of a scale or a list of degrees")
	}
	degrees := make([]string, len(items))
	for i, item := range items {
		degrees[i] = n.item(i, item).text()
	}
	if _, err := pitch.NewScale(degrees); err != nil {
		refuse(n.path, "%v", err)
	}
	return Scale{Degrees: degrees}
}

var grooveShape = &shape[Groove]{
	doc: "The feel of the piece.",
	fields: []field[Groove]{
		whole("swing", 50, 75, 50, "Where the second of each pair of grid steps falls, in % of the pair.", func(g *Groove) *int { return &g.Swing }),
		choice("grid", SwingGrids, "1/16", "The steps that swing pairs.", func(g *Groove) *string { return &g.Grid }),
	},
}

var backingShape = &shape[Backing]{
	doc: "The drum beat for listening; never part of a file.",
	fields: []field[Backing]{
		choice("pattern", BeatNames, "off", "Four on the floor, half-time, broken, or none.", func(b *Backing) *string { return &b.Pattern }),
		whole("level", 0, 100, 60, "Loudness in %.", func(b *Backing) *int { return &b.Level }),
	},
}

var windowShape = &shape[Window]{
	doc: "The run of steps that plays.",
	fields: []field[Window]{
		whole("start", 1, MaxSteps, 1, "The first step, from 1.", func(w *Window) *int { return &w.Start }),
		whole("count", 1, MaxSteps, MaxSteps, "How many steps; absent: to the last.", func(w *Window) *int { return &w.Count }),
	},
}

var glideModeShape = &shape[GlideMode]{
	doc: "How glides are written.",
	fields: []field[GlideMode]{
		choice("mode", GlideModes, "bend", "With the bend wheel, or as overlapping notes with portamento.", func(g *GlideMode) *string { return &g.Mode }),
		whole("range", 1, 24, 12, "The bend wheel's range in semitones.", func(g *GlideMode) *int { return &g.Range }),
	},
}

func percent(name string, initial int, doc string, at func(*Sound) *int) field[Sound] {
	return whole(name, 0, 100, initial, doc+", in %.", at)
}

var soundShape = &shape[Sound]{
	doc: "The built-in voice for listening; never part of a file.",
	fields: []field[Sound]{
		choice("voice", Voices, "bass", "A monophonic bass or a plucked lead.", func(s *Sound) *string { return &s.Voice }),
		choice("wave", Waves, "saw", "The oscillator's wave.", func(s *Sound) *string { return &s.Wave }),
		percent("level", 70, "Loudness", func(s *Sound) *int { return &s.Level }),
		percent("cutoff", 45, "The filter's cutoff", func(s *Sound) *int { return &s.Cutoff }),
		percent("resonance", 30, "The filter's resonance", func(s *Sound) *int { return &s.Resonance }),
		percent("envelope", 50, "How far the envelope opens the filter", func(s *Sound) *int { return &s.Envelope }),
		percent("decay", 40, "The envelope's decay", func(s *Sound) *int { return &s.Decay }),
		percent("drive", 20, "Overdrive", func(s *Sound) *int { return &s.Drive }),
		percent("delay", 0, "Echo", func(s *Sound) *int { return &s.Delay }),
	},
}

var glideShape = &shape[Glide]{
	doc: "A slide into the step's pitch.",
	fields: []field[Glide]{
		whole("time", 0, 400, 50, "How long it takes, in % of the step.", func(g *Glide) *int { return &g.Time }),
		whole("curve", -100, 100, 0, "0 linear, above starts slowly, below starts fast.", func(g *Glide) *int { return &g.Curve }),
		{
			name: "from", doc: "Where it starts, in semitones from the step's pitch; absent: the lane's previous pitch.",
			reset: func(g *Glide) { g.From = nil },
			read: func(n node, g *Glide) {
				g.From = nil
				if n.value != nil {
					from := inRange(n, n.whole(), -24, 24)
					g.From = &from
				}
			},
			write: func(g *Glide) (any, bool) {
				if g.From == nil {
					return nil, false
				}
				return *g.From, true
			},
			schema: func() object {
				return object{{"type", []string{"integer", "null"}}, {"minimum", -24}, {"maximum", 24}}
			},
		},
	},
}

var pointShape = &shape[Point]{
	doc: "A point of a bend envelope.",
	fields: []field[Point]{
		whole("at", 0, 100, 0, "Where, in % of the note's length.", func(p *Point) *int { return &p.At }),
		whole("by", -24, 24, 0, "How far, in semitones.", func(p *Point) *int { return &p.By }),
		whole("curve", -100, 100, 0, "The curve of the way to this point.", func(p *Point) *int { return &p.Curve }),
	},
}

var roundsShape = &shape[Rounds]{
	doc: "The rounds in which the step plays.",
	fields: []field[Rounds]{
		whole("of", 1, 64, 1, "Out of every so many rounds.", func(r *Rounds) *int { return &r.Of }),
		{
			name: "on", doc: "It plays in these, counted from 1.",
			reset: func(r *Rounds) { r.On = []int{1} },
			read: func(n node, r *Rounds) {
				r.On = nil
				for i, item := range n.list(1, 64) {
					at := n.item(i, item)
					round := inRange(at, at.whole(), 1, 64)
					if slices.Contains(r.On, round) {
						refuse(at.path, "%d is there already; allowed: each round once", round)
					}
					r.On = append(r.On, round)
				}
				slices.Sort(r.On)
			},
			write: func(r *Rounds) (any, bool) { return anyList(r.On), true },
			schema: func() object {
				return object{{"type", "array"}, {"minItems", 1}, {"uniqueItems", true}, {"items", object{{"type", "integer"}, {"minimum", 1}, {"maximum", 64}}}}
			},
		},
	},
	check: func(path string, r *Rounds) {
		for i, round := range r.On {
			if round > r.Of {
				refuse(fmt.Sprintf("%s.on[%d]", path, i), "%d is above %d; allowed: 1..%d", round, r.Of, r.Of)
			}
		}
	},
}

var stepShape = &shape[Step]{
	doc: "One slot of a lane.",
	fields: []field[Step]{
		flag("on", "Whether a note starts here.", func(s *Step) *bool { return &s.On }),
		whole("degree", 1, 12, 1, "The degree of the key, from 1 up to its number of degrees.", func(s *Step) *int { return &s.Degree }),
		whole("octave", -4, 4, 0, "Octaves from the lane's.", func(s *Step) *int { return &s.Octave }),
		whole("alter", -11, 11, 0, "Semitones from the degree.", func(s *Step) *int { return &s.Alter }),
		whole("velocity", 1, 127, 100, "How hard.", func(s *Step) *int { return &s.Velocity }),
		whole("gate", 1, 400, 75, "How long, in % of the step.", func(s *Step) *int { return &s.Gate }),
		flag("tie", "Joins the step to the next one.", func(s *Step) *bool { return &s.Tie }),
		optional("glide", "Slides into the step's pitch.", glideShape, func(s *Step) **Glide { return &s.Glide }),
		list("bend", 0, 16, "A bend over the sounding note, in rising order of at.", pointShape, none[Point], func(s *Step) *[]Point { return &s.Bend }),
		whole("chance", 0, 100, 100, "In what share of rounds it plays, in %.", func(s *Step) *int { return &s.Chance }),
		optional("rounds", "Plays only in some rounds.", roundsShape, func(s *Step) **Rounds { return &s.Rounds }),
		whole("ratchet", 1, 8, 1, "Repeats within the step.", func(s *Step) *int { return &s.Ratchet }),
		whole("nudge", -50, 50, 0, "Earlier or later, in % of the step.", func(s *Step) *int { return &s.Nudge }),
		flag("skip", "Takes the step out of the round.", func(s *Step) *bool { return &s.Skip }),
	},
	check: func(path string, s *Step) {
		for i := 1; i < len(s.Bend); i++ {
			if s.Bend[i].At < s.Bend[i-1].At {
				refuse(fmt.Sprintf("%s.bend[%d].at", path, i), "%d is below %d, the point before; allowed: rising order", s.Bend[i].At, s.Bend[i-1].At)
			}
		}
	},
}

const idLimit = 64

func id[T any](doc string, at func(*T) *string) field[T] {
	return parsed("id", "", doc, func(text string) error {
		for _, r := range text {
			if !strings.ContainsRune("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-_.~", r) {
				return fmt.Errorf("%q is not an id; allowed: letters, digits and -_.~", text)
			}
		}
		if len(text) == 0 || len(text) > idLimit {
			return fmt.Errorf("%d characters are not an id; allowed: 1..%d of letters, digits and -_.~", len(text), idLimit)
		}
		return nil
	}, at)
}

var laneShape = &shape[Lane]{
	doc: "One sequence with its own step count, rate, direction and window.",
	fields: []field[Lane]{
		id("Its id, alone of its kind in the clip; absent: lane1, lane2 ..", func(l *Lane) *string { return &l.ID }),
		text("name", 80, "", "Its name; absent: its id.", func(l *Lane) *string { return &l.Name }),
		choice("kind", Kinds, "line", "What the lane holds.", func(l *Lane) *string { return &l.Kind }),
		parsed("rate", "1/16", "The length of one step: "+strings.Join(beat.Rates, " ")+".", func(text string) error {
			_, err := beat.Rate(text, beat.Meter{Count: 4, Unit: 4})
			return err
		}, func(l *Lane) *string { return &l.Rate }),
		choice("direction", Directions, "forward", "The order of the steps.", func(l *Lane) *string { return &l.Direction }),
		optional("window", "The run of steps that plays; absent: all.", windowShape, func(l *Lane) **Window { return &l.Window }),
		whole("octave", -1, 9, 3, "The octave of the tonic at step octave 0; middle C is C4.", func(l *Lane) *int { return &l.Octave }),
		whole("channel", 0, 16, 0, "The MIDI channel, 1..16; 0 or absent: by position, leaving 10 out.", func(l *Lane) *int { return &l.Channel }),
		choice("lock", Locks, "scale", "What altered pitches are snapped to when rendering.", func(l *Lane) *string { return &l.Lock }),
		choice("snap", Snaps, "nearest", "Which way they are snapped; nearest takes the lower of two.", func(l *Lane) *string { return &l.Snap }),
		choice("follow", Follows, "key", "What degrees count from.", func(l *Lane) *string { return &l.Follow }),
		inner("glide", "How glides are written.", glideModeShape, func(l *Lane) *GlideMode { return &l.Glide }),
		flag("mute", "Leaves the lane out.", func(l *Lane) *bool { return &l.Mute }),
		flag("solo", "Leaves out every lane that is not solo.", func(l *Lane) *bool { return &l.Solo }),
		inner("sound", "The voice for listening.", soundShape, func(l *Lane) *Sound { return &l.Sound }),
		list("steps", 1, MaxSteps, "The steps; absent: 16 rests.", stepShape, func() []Step { return NewSteps(16) }, func(l *Lane) *[]Step { return &l.Steps }),
	},
	check: func(path string, l *Lane) {
		if l.Window == nil {
			return
		}
		steps := len(l.Steps)
		if l.Window.Start > steps {
			refuse(path+".window.start", "%d is above %d; allowed: 1..%d, the lane's steps", l.Window.Start, steps, steps)
		}
		rest := steps - l.Window.Start + 1
		if l.Window.Count == MaxSteps && rest < MaxSteps {
			l.Window.Count = rest
		}
		if l.Window.Count > rest {
			refuse(path+".window.count", "%d is above %d; allowed: 1..%d, the steps from %d on", l.Window.Count, rest, rest, l.Window.Start)
		}
	},
}

var clipShape = &shape[Clip]{
	doc: "A loop of lanes.",
	fields: []field[Clip]{
		id("Its id, alone of its kind in the piece; absent: clip1, clip2 ..", func(c *Clip) *string { return &c.ID }),
		text("name", 80, "", "Its name; absent: its id.", func(c *Clip) *string { return &c.Name }),
		whole("bars", 1, beat.MaxBars, 0, "Its length in bars.", func(c *Clip) *int { return &c.Bars }),
		choice("until", Untils, "", "Or where it ends: when its lanes' full cycle does, or when that meets the bar (realign, the default).", func(c *Clip) *string { return &c.Until }),
		optional("key", "Its own key; absent: the piece's.", keyShape, func(c *Clip) **Key { return &c.Key }),
		list("lanes", 0, MaxLanes, "Its lanes.", laneShape, none[Lane], func(c *Clip) *[]Lane { return &c.Lanes }),
	},
	check: func(path string, c *Clip) {
		if c.Bars != 0 && c.Until != "" {
			refuse(path+".until", "is there beside bars; allowed: one of them")
		}
		if c.Bars == 0 && c.Until == "" {
			c.Until = "realign"
		}
		distinctIDs(path+".lanes", "lane", c.Lanes, func(l *Lane) (id, name *string) { return &l.ID, &l.Name })
	},
}

// head is what stands before the piece in a document.
type head struct {
	Format  string
	Version int
	Piece
}

var documentShape = &shape[head]{
	doc: "An Agrimony piece.",
	fields: []field[head]{
		needed(choice("format", []string{Format}, "", "Always "+Format+".", func(h *head) *string { return &h.Format })),
		needed(whole("version", Version, Version, 0, "The version of the format.", func(h *head) *int { return &h.Version })),
		text("title", 120, "Untitled", "Its title.", func(h *head) *string { return &h.Title }),
		number("tempo", 20, 400, 120, "Quarter notes a minute.", func(h *head) *float64 { return &h.Tempo }),
		parsed("meter", "4/4", "N/D with N 1..32 and D 1, 2, 4, 8 or 16.", func(text string) error {
			_, err := beat.ParseMeter(text)
			return err
		}, func(h *head) *string { return &h.Meter }),
		inner("key", "Its key.", keyShape, func(h *head) *Key { return &h.Key }),
		whole("seed", 0, MaxSeed, 1, "What every draw of chance depends on.", func(h *head) *int { return &h.Seed }),
		inner("groove", "Its feel.", grooveShape, func(h *head) *Groove { return &h.Groove }),
		inner("beat", "The drum beat under it.", backingShape, func(h *head) *Backing { return &h.Beat }),
		list("clips", 0, MaxClips, "Its clips.", clipShape, none[Clip], func(h *head) *[]Clip { return &h.Clips }),
	},
	check: func(path string, h *head) {
		distinctIDs("clips", "clip", h.Clips, func(c *Clip) (id, name *string) { return &c.ID, &c.Name })
		for i := range h.Clips {
			checkDegrees(fmt.Sprintf("clips[%d]", i), h.Piece.KeyOf(&h.Clips[i]), &h.Clips[i])
		}
	},
}

func needed[T any](f field[T]) field[T] { f.required = true; return f }

// distinctIDs gives ids and names to those without, and refuses an id twice.
func distinctIDs[T any](path, word string, items []T, of func(*T) (id, name *string)) {
	seen := map[string]int{}
	for i := range items {
		id, name := of(&items[i])
		if *id == "" {
			*id = fmt.Sprintf("%s%d", word, i+1)
		}
		if *name == "" {
			*name = *id
		}
		if before, twice := seen[*id]; twice {
			refuse(fmt.Sprintf("%s[%d].id", path, i), "%q is the id of %s[%d] already; allowed: each id once", *id, path, before)
		}
		seen[*id] = i
	}
}

// checkDegrees refuses a degree that the clip's key does not have.
func checkDegrees(path string, key pitch.Key, clip *Clip) {
	for l := range clip.Lanes {
		for s, step := range clip.Lanes[l].Steps {
			if step.Degree > key.Size() {
				refuse(fmt.Sprintf("%s.lanes[%d].steps[%d].degree", path, l, s), "%d is above %d; allowed: 1..%d, the degrees of %s (use octave to go higher)",
					step.Degree, key.Size(), key.Size(), key)
			}
		}
	}
}

func anyList[T any](items []T) []any {
	out := make([]any, len(items))
	for i, item := range items {
		out[i] = item
	}
	return out
}
