package piece

import (
	"slices"
	"strings"

	"agrimony/internal/core/document"
)

// Harmony names where a clip's chords come from; exactly one of its fields is set.
type Harmony struct {
	Clip string `json:"clip"` // another clip, whose harmony is read as if it stood in this one
	Lane string `json:"lane"` // a lane of the clip with chords: a chords lane, or one of free notes
}

var harmonyShape = &document.Shape[Harmony]{
	Doc: "Where the clip's chords come from.",
	Fields: []document.Field[Harmony]{
		document.Parsed(
			"clip",
			"",
			"Another clip, whose harmony is read as if its lane stood in this one.",
			checkID,
			func(h *Harmony) *string { return &h.Clip },
			document.Pairs("pattern", idPattern),
		),
		document.Parsed("lane", "", "A chords lane of the clip, or one of free notes, whose chords are those that are played.", checkID, func(h *Harmony) *string { return &h.Lane }, document.Pairs("pattern", idPattern)),
	},
	Check: func(at *document.At, h *Harmony) {
		if (h.Clip == "") == (h.Lane == "") {
			at.Refuse(
				"names %s; allowed: a clip or a lane, one of them",
				map[bool]string{true: "neither a clip nor a lane", false: "both a clip and a lane"}[h.Clip == ""],
			)
		}
	},
	Also: document.Pairs("minProperties", 1, "maxProperties", 1),
}

// harmonic is the content of a lane whose chords others can listen to.
type harmonic interface {
	// unasked tells whether it is a clip's harmony though the clip names none.
	unasked() bool
}

func (*Chords) unasked() bool { return true }

// What is played is harmony only where a clip says so: most notes are tunes.
func (*Notes) unasked() bool { return false }

// HasChords tells whether others can listen to a lane's chords.
func HasChords(l *Lane) bool { _, ok := l.Content.(harmonic); return ok }

// leads tells whether a lane is the clip's harmony, where that is a lane of its own.
func (c *Clip) leads(l *Lane) bool {
	if c.Harmony == nil {
		return unasked(l)
	}
	return HasChords(l) && c.Harmony.Lane == l.ID
}

// Harmonic tells whether the clip has chords of its own that other clips can take.
func (c *Clip) Harmonic() bool {
	return slices.ContainsFunc(c.Lanes, func(l Lane) bool { return c.leads(&l) || unasked(&l) })
}

func unasked(l *Lane) bool {
	content, ok := l.Content.(harmonic)
	return ok && content.unasked()
}

// Listening is the content of a lane that may listen to chords.
type Listening interface {
	// Listens tells whether its notes depend on the sounding chord.
	Listens() bool
}

// Listens tells whether the lane is locked to chords or follows their roots.
func (p *Pitched) Listens() bool { return p.Lock == "chord" || p.Follow == "root" }

// HarmonyOf finds the lane with chords that a clip listens to, and the clip that it stands
// in; nil without one. A muted lane is one all the same.
func (p *Piece) HarmonyOf(clip *Clip) (lane *Lane, from *Clip) {
	for range p.Clips { // in no circle, or it would not have been read
		if clip.Harmony == nil || clip.Harmony.Lane != "" {
			for i := range clip.Lanes {
				if l := &clip.Lanes[i]; clip.leads(l) {
					return l, clip
				}
			}
			return nil, nil
		}
		at := slices.IndexFunc(p.Clips, func(c Clip) bool { return c.ID == clip.Harmony.Clip })
		if at < 0 {
			return nil, nil
		}
		clip = &p.Clips[at]
	}
	return nil, nil
}

// checkHarmonyLane refuses a harmony that names no lane with chords of its clip, or one that hears its own.
func checkHarmonyLane(at *document.At, c *Clip) {
	if c.Harmony == nil || c.Harmony.Lane == "" {
		return
	}
	field := at.Field("harmony").Field("lane")
	var allowed []string
	for i := range c.Lanes {
		if HasChords(&c.Lanes[i]) {
			allowed = append(allowed, c.Lanes[i].ID)
		}
	}
	if i := slices.IndexFunc(c.Lanes, func(l Lane) bool { return l.ID == c.Harmony.Lane }); i < 0 {
		field.Refuse("no lane %q in the clip; allowed: %s", c.Harmony.Lane, orNone(allowed))
	} else if own := &c.Lanes[i]; !HasChords(own) {
		field.Refuse("%q is a %s lane; allowed: a chords lane or one of free notes: %s", c.Harmony.Lane, own.Kind, orNone(allowed))
	} else if free, ok := own.Content.(*Notes); ok && free.Listens() {
		field.Refuse("needs itself: %q %s; allowed: a lane that does not listen to its own chords", own.ID,
			map[bool]string{true: "follows the roots of the chords that it plays", false: "locks to the chords that it plays"}[free.Follow == "root"])
	}
}

func orNone(names []string) string {
	if len(names) == 0 {
		return "there is none"
	}
	return strings.Join(names, ", ")
}

// checkHarmonyClips refuses a harmony that names no clip, its own, or clips that name
// each other in a circle.
func checkHarmonyClips(at *document.At, clips []Clip) {
	index := map[string]int{}
	for i := range clips {
		index[clips[i].ID] = i
	}
	for i := range clips {
		way := []string{clips[i].ID}
		for c := &clips[i]; c.Harmony != nil && c.Harmony.Clip != ""; {
			next, there := index[c.Harmony.Clip]
			field := at.Item(index[c.ID]).Field("harmony").Field("clip")
			if !there {
				field.Refuse("no clip %q in the piece; allowed: another clip's id", c.Harmony.Clip)
			}
			if slices.Contains(way, c.Harmony.Clip) {
				from := slices.Index(way, c.Harmony.Clip)
				field.Refuse("needs itself: %s; allowed: a clip with chords of its own", strings.Join(append(slices.Clone(way[from:]), c.Harmony.Clip), " needs "))
			}
			way = append(way, c.Harmony.Clip)
			c = &clips[next]
		}
	}
}

func (p *Pitched) pitched() *Pitched { return p }

// HasDegrees tells whether a lane of the clip that is not muted counts in degrees of the key.
func (c *Clip) HasDegrees() bool {
	return slices.ContainsFunc(c.Lanes, func(l Lane) bool {
		if own, ok := l.Content.(interface{ degrees() bool }); ok {
			return !l.Mute && own.degrees()
		}
		return !l.Mute && PitchedOf(&l) != nil
	})
}
