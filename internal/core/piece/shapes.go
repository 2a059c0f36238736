package piece

import (
	"fmt"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/document"
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
	MaxSteps = 512
	MaxSeed  = 1<<53 - 1
)

// The allowed words, in the order in which a chooser shows them.
var (
	Directions = []string{"forward", "reverse", "pendulum", "shuffle"}
	Locks      = []string{"scale", "chord", "off"}
	Snaps      = []string{string(pitch.Nearest), string(pitch.Up), string(pitch.Down)}
	Follows    = []string{"key", "root"}
	Roots      = []string{"up", "near"}
	GlideModes = []string{"bend", "legato"}
	// ManyGlideModes are those of lanes that sound several notes at a time.
	ManyGlideModes = []string{"bend", "legato", MPE}
	Untils         = []string{"cycle", "realign"}
	Seams          = []string{"fresh", "loop"}
	SwingGrids     = []string{"1/8", "1/16"}
	BeatNames      = []string{"off", "click", "four", "half", "broken"}
)

var grooveShape = &document.Shape[Groove]{
	Doc: "The feel of the piece.",
	Fields: []document.Field[Groove]{
		document.Whole("swing", 50, 75, 50, "Where the second of each pair of grid steps falls, in % of the pair.", func(g *Groove) *int { return &g.Swing }).
			In("%"),
		document.Choice("grid", SwingGrids, "1/16", "The steps that swing pairs.", func(g *Groove) *string { return &g.Grid }).Titled("Pairs of"),
		templated(),
		document.Whole("timing", 0, 100, 100, "How far the template moves notes, in %.", func(g *Groove) *int { return &g.Timing }).In("%"),
		document.Whole("velocity", 0, 100, 100, "How far the template moves velocities, in %.", func(g *Groove) *int { return &g.Velocity }).In("%"),
	},
}

var backingShape = &document.Shape[Backing]{
	Doc: "The drum beat for listening; never part of a file.",
	Fields: []document.Field[Backing]{
		document.Choice("pattern", BeatNames, "off", "A click that counts the beats, four on the floor, half-time, broken, or none.",
			func(b *Backing) *string { return &b.Pattern }).
			Titled("Beat"),
		document.Whole("level", 0, 100, 60, "Loudness in %.", func(b *Backing) *int { return &b.Level }).In("%"),
	},
}

var clipShape = &document.Shape[Clip]{
	Doc: "A loop of lanes.",
	Fields: []document.Field[Clip]{
		id("Its id, alone of its kind in the piece; absent: clip1, clip2 ..", func(c *Clip) *string { return &c.ID }),
		document.Text("name", MaxName, "", "Its name; absent: its id.", func(c *Clip) *string { return &c.Name }),
		document.Parsed(
			"of",
			"",
			"The clip that it is a variant of, which is none itself.",
			checkID,
			func(c *Clip) *string { return &c.Of },
			document.Pairs("pattern", idPattern),
		),
		document.Parsed(
			"draws",
			"",
			"The id that its draws use; absent: its own.",
			checkID,
			func(c *Clip) *string { return &c.Draws },
			document.Pairs("pattern", idPattern),
		),
		document.Whole("bars", 1, beat.MaxBars, 0, "Its length in bars.", func(c *Clip) *int { return &c.Bars }),
		document.Choice(
			"until",
			Untils,
			"",
			"Or where it ends: when its lanes' full cycle does, or when that meets the bar (realign, the default).",
			func(c *Clip) *string { return &c.Until },
		),
		document.Choice(
			"seam",
			Seams,
			"fresh",
			"Whether it starts fresh, or as if the loop had come round: a glide into a lane's first note then comes from the pitch that the lane ends on.",
			func(c *Clip) *string { return &c.Seam },
		),
		document.Optional("key", "Its own key; absent: the piece's.", keyShape, func(c *Clip) **Key { return &c.Key }),
		document.Optional("harmony", "Where its chords come from; absent: its first chords lane.", harmonyShape, func(c *Clip) **Harmony { return &c.Harmony }),
		document.Items("lanes", 0, MaxLanes, "Its lanes.", readLane, checkLane, writeLane, laneSchema, func() document.Object { return document.Object{} },
			document.None[Lane], func(c *Clip) *[]Lane { return &c.Lanes }),
	},
	Given: func(named func(string) bool, c *Clip) {
		if named("bars") && !named("until") {
			c.Until = ""
		} else if named("until") && !named("bars") {
			c.Bars = 0
		}
	},
	Check: func(at *document.At, c *Clip) {
		if c.Bars != 0 && c.Until != "" {
			at.Field("until").Refuse("is there beside bars; allowed: one of them")
		}
		if c.Bars == 0 && c.Until == "" {
			c.Until = "realign"
		}
		lanes := at.Field("lanes")
		distinctIDs(lanes, "lane", c.Lanes, func(l *Lane) (id, name *string) { return &l.ID, &l.Name })
		checkNeeds(lanes, c.Lanes)
		checkHarmonyLane(at, c)
		checkZones(at, c)
	},
	Also: document.Pairs("not", document.Pairs("required", []string{"bars", "until"})),
}

// head is what stands before the piece in a document.
type head struct {
	Schema  string
	Format  string
	Version int
	Piece
}

var documentShape = &document.Shape[head]{
	Doc: "An Agrimony piece.",
	Fields: []document.Field[head]{
		document.Text("$schema", 2000, "", "Where its schema is; ignored.", func(h *head) *string { return &h.Schema }),
		document.Choice("format", []string{Format}, "", "Always "+Format+".", func(h *head) *string { return &h.Format }).Needed(),
		document.Whole("version", Version, Version, 0, "The version of the format.", func(h *head) *int { return &h.Version }).Needed(),
		document.Text("title", 120, "Untitled", "Its title.", func(h *head) *string { return &h.Title }),
		document.Number("tempo", 20, 400, 120, "Quarter notes a minute.", func(h *head) *float64 { return &h.Tempo }).In("bpm"),
		document.Parsed("meter", "4/4", "N/D with N 1..32 and D 1, 2, 4, 8 or 16.", func(text string) error {
			_, err := beat.ParseMeter(text)
			return err
		}, func(h *head) *string { return &h.Meter }, document.Pairs("pattern", "^([1-9]|[12][0-9]|3[0-2])/(1|2|4|8|16)$")),
		document.Inner("key", "Its key.", keyShape, func(h *head) *Key { return &h.Key }),
		document.Whole("seed", 0, MaxSeed, 1, "What every draw of chance depends on.", func(h *head) *int { return &h.Seed }),
		document.Inner("groove", "Its feel.", grooveShape, func(h *head) *Groove { return &h.Groove }),
		document.Inner("beat", "The drum beat under it.", backingShape, func(h *head) *Backing { return &h.Beat }),
		document.List("clips", 0, MaxClips, "Its clips.", clipShape, document.None[Clip], func(h *head) *[]Clip { return &h.Clips }),
		document.Inner("order", "Its running order.", runningShape, func(h *head) *Running { return &h.Order }),
		quieting("everywhere", func(h *head) *[]string { return &h.Quiet }),
	},
	Check: func(at *document.At, h *head) { acrossPiece(at, h, checked{}) },
}

// checked says of each clip, by its place, which rules that only it, the key and the meter bear on are known to
// hold; nil: of none.
type checked struct{ key, time []bool }

// acrossPiece holds a piece to the rules across its clips, and fills in what depends on others.
func acrossPiece(at *document.At, h *head, since checked) {
	clips := at.Field("clips")
	distinctIDs(clips, "clip", h.Clips, func(c *Clip) (id, name *string) { return &c.ID, &c.Name })
	checkHarmonyClips(clips, h.Clips)
	checkVariants(clips, h.Clips)
	for i := range h.Clips {
		if since.key == nil || !since.key[i] {
			checkKeys(clips.Item(i), h.Piece.KeyOf(&h.Clips[i]), &h.Clips[i])
		}
		if since.time == nil || !since.time[i] {
			checkTimes(clips.Item(i), &h.Piece, &h.Clips[i])
		}
	}
	checkOrder(at.Field("order"), &h.Piece)
}

// distinctIDs gives ids and names to those without, and refuses an id twice.
func distinctIDs[T any](at *document.At, word string, items []T, of func(*T) (id, name *string)) {
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
			at.Item(i).Field("id").Refuse("%q is the id of %s already; allowed: each id once", *id, at.Item(before))
		}
		seen[*id] = i
	}
}

// checkKeys refuses what the clip's key does not have.
func checkKeys(at *document.At, key pitch.Key, clip *Clip) {
	lanes := at.Field("lanes")
	for i := range clip.Lanes {
		clip.Lanes[i].Content.CheckKey(lanes.Item(i), key)
	}
}

// checkTimes refuses what runs on for longer than can be rendered.
func checkTimes(at *document.At, p *Piece, clip *Clip) {
	lanes := at.Field("lanes")
	for i := range clip.Lanes {
		if timed, ok := clip.Lanes[i].Content.(interface {
			CheckTime(at *document.At, bar beat.Time)
		}); ok {
			timed.CheckTime(lanes.Item(i), p.Bar())
		}
	}
}
