package piece

import (
	"cmp"
	"slices"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/document"
)

// Limits of the running order.
const (
	MaxEntries   = 4096
	MaxOrderBars = 65536 // of the piece's meter, that an entry may end within
	MaxShift     = 14    // degrees
	MaxPass      = 1_000_000
	// mostTicks is the length of MaxOrderBars of the longest meter, 32/1, in 960ths of a quarter.
	mostTicks = MaxOrderBars * 32 * 4 * 960
)

// OrderTick is the unit in which the running order counts: a 960th of a quarter.
const OrderTick = beat.Quarter / 960

// How an entry goes on at its clip's own end, and what its passes draw.
var (
	Runs  = []string{"loop", "on"}
	Lucks = []string{"fresh", "same"}
)

// NewEntry is an entry of a clip from a time on, for so long, in 960ths of a quarter.
func NewEntry(clip string, at, length int) Entry {
	out := entryShape.Fresh()
	out.Clip, out.At, out.For = clip, at, length
	return out
}

// End is where the entry ends.
func (e *Entry) End() int { return e.At + e.For }

// Begins and Ends are the same in time.
func (e *Entry) Begins() beat.Time { return beat.Time(e.At) * OrderTick }

// Ends is where it ends in time.
func (e *Entry) Ends() beat.Time { return beat.Time(e.End()) * OrderTick }

var entryShape = &document.Shape[Entry]{
	Doc: "A clip that sounds for a time.",
	Fields: []document.Field[Entry]{
		document.Parsed("clip", "", "The clip that sounds.", checkID, func(e *Entry) *string { return &e.Clip }, document.Pairs("pattern", idPattern)).Needed(),
		document.Whole("at", 0, mostTicks, 0, "Where it begins, in 960ths of a quarter.", func(e *Entry) *int { return &e.At }).Needed(),
		document.Whole("for", 1, mostTicks, 0, "How long it sounds, in 960ths of a quarter.", func(e *Entry) *int { return &e.For }).Needed(),
		document.Whole("from", 0, mostTicks, 0, "The place in the clip that it begins at, in 960ths of a quarter.", func(e *Entry) *int { return &e.From }),
		document.Own("mute", "Lanes of the clip that do not sound.", func(e *Entry) { e.Mute = []string{} },
			func(at *document.At, value any, into *Entry) {
				items := document.ListOf(at, value, 0, MaxLanes)
				into.Mute = make([]string, len(items))
				for i, item := range items {
					into.Mute[i] = document.TextOf(at.Item(i), item)
				}
			},
			func(at *document.At, e *Entry) {
				field := at.Field("mute")
				for i, own := range e.Mute {
					if err := checkID(own); err != nil {
						field.Item(i).Refuse("%v", err)
					}
					if k := slices.Index(e.Mute[:i], own); k >= 0 {
						field.Item(i).Refuse("%q is muted twice; allowed: each lane once", own)
					}
				}
			},
			func(e *Entry) (any, bool) { return document.Anys(e.Mute), len(e.Mute) > 0 },
			func() document.Object {
				return document.Pairs("type", "array", "maxItems", MaxLanes, "uniqueItems", true, "items", document.Pairs("type", "string", "pattern", idPattern))
			}),
		document.Whole("shift", -MaxShift, MaxShift, 0, "By how many degrees its pitched lanes, and its chords, are moved.", func(e *Entry) *int { return &e.Shift }).
			In("degrees"),
		document.Choice("run", Runs, "loop", "Whether the clip begins again at its own end, or its lanes run on.", func(e *Entry) *string { return &e.Run }),
		document.Choice("luck", Lucks, "fresh", "Whether each pass draws its luck anew, or all draw as the first.", func(e *Entry) *string { return &e.Luck }),
		document.Whole("pass", 1, MaxPass, 1, "The number that its first pass has.", func(e *Entry) *int { return &e.Pass }),
		document.Flag("ring", "Its last notes keep their own length, a bar at most.", func(e *Entry) *bool { return &e.Ring }),
	},
}

var runningShape = &document.Shape[Running]{
	Doc: "The running order: which clips sound when.",
	Fields: []document.Field[Running]{
		document.List(
			"entries",
			0,
			MaxEntries,
			"Its entries; those of one clip do not overlap.",
			entryShape,
			document.None[Entry],
			func(r *Running) *[]Entry { return &r.Entries },
		),
	},
}

// checkOrder refuses entries of clips and lanes that are not there, that end too late, or that overlap
// another one of their clip.
func checkOrder(at *document.At, p *Piece) {
	entries := at.Field("entries")
	clips := map[string]*Clip{}
	var ids []string
	for i := range p.Clips {
		clips[p.Clips[i].ID] = &p.Clips[i]
		ids = append(ids, p.Clips[i].ID)
	}
	most := int(MaxOrderBars * p.Bar() / OrderTick)
	by := map[string][]int{}
	for i := range p.Order.Entries {
		e, place := &p.Order.Entries[i], entries.Item(i)
		clip := clips[e.Clip]
		if clip == nil {
			place.Field("clip").Refuse("no clip %q in the piece; allowed: %s", e.Clip, orNone(ids))
		}
		if e.End() > most {
			place.Field("for").Refuse("it ends at %d; allowed: within %d bars, up to %d", e.End(), MaxOrderBars, most)
		}
		for k, own := range e.Mute {
			if !slices.ContainsFunc(clip.Lanes, func(l Lane) bool { return l.ID == own }) {
				var lanes []string
				for j := range clip.Lanes {
					lanes = append(lanes, clip.Lanes[j].ID)
				}
				place.Field("mute").Item(k).Refuse("no lane %q in clip %q; allowed: %s", own, e.Clip, orNone(lanes))
			}
		}
		by[e.Clip] = append(by[e.Clip], i)
	}
	for _, id := range ids {
		own := by[id]
		slices.SortStableFunc(own, func(a, b int) int { return cmp.Compare(p.Order.Entries[a].At, p.Order.Entries[b].At) })
		for k := 1; k < len(own); k++ {
			if before := &p.Order.Entries[own[k-1]]; before.End() > p.Order.Entries[own[k]].At {
				first, second := min(own[k-1], own[k]), max(own[k-1], own[k])
				entries.Item(second).Refuse("overlaps %s, of the same clip; allowed: entries of one clip one after another", entries.Item(first))
			}
		}
	}
	if _, entry, err := p.zonesInOrder(); err != nil {
		entries.Item(entry).Refuse("%s", err)
	}
}

// Names are the ids of the lanes of each clip, by the clip's.
type Names map[string][]string

// Named is what the running order may name; nil where it names nothing.
func (p *Piece) Named() Names {
	if len(p.Order.Entries) == 0 {
		return nil
	}
	out := Names{}
	for i := range p.Clips {
		own := make([]string, len(p.Clips[i].Lanes))
		for k := range own {
			own[k] = p.Clips[i].Lanes[k].ID
		}
		out[p.Clips[i].ID] = own
	}
	return out
}

// Prune takes out of the order what names clips or lanes that were there before an edit and are gone: the
// entries of such clips, and the mutes of such lanes.
func (p *Piece) Prune(was Names) {
	if was == nil {
		return
	}
	now := p.Named()
	kept := make([]Entry, 0, len(p.Order.Entries))
	for _, e := range p.Order.Entries {
		lanes, there := now[e.Clip]
		before, known := was[e.Clip]
		if !there && known {
			continue
		}
		left := func(lane string) bool { return slices.Contains(before, lane) && !slices.Contains(lanes, lane) }
		if slices.ContainsFunc(e.Mute, left) {
			e.Mute = slices.DeleteFunc(slices.Clone(e.Mute), left)
		}
		kept = append(kept, e)
	}
	p.Order.Entries = kept
}

// ReadRunning reads a running order as the document writes it; what it names is not looked for.
func ReadRunning(data []byte) (*Running, error) { return document.Read(runningShape, data) }

// PatchEntry changes the fields of an entry that the JSON object data names and leaves the others.
func PatchEntry(path string, data []byte, into *Entry) error {
	return document.Patch(entryShape, path, data, into, func(e *Entry) Entry { return *e })
}

// CheckOrder holds the running order of a checked piece to the rules of reading it.
func CheckOrder(p *Piece) (err error) {
	defer document.Catch(&err)
	at := document.Root("order")
	runningShape.Verify(at, &p.Order)
	checkOrder(at, p)
	return nil
}

// EntriesOf are the places (from 0) of a clip's entries, in order of time.
func (p *Piece) EntriesOf(clip string) []int {
	var out []int
	for i := range p.Order.Entries {
		if p.Order.Entries[i].Clip == clip {
			out = append(out, i)
		}
	}
	slices.SortStableFunc(out, func(a, b int) int { return cmp.Compare(p.Order.Entries[a].At, p.Order.Entries[b].At) })
	return out
}

// SortEntries puts entries in order of time, and of those at once by their clips' ids.
func SortEntries(entries []Entry) {
	slices.SortStableFunc(entries, func(a, b Entry) int {
		return cmp.Or(cmp.Compare(a.At, b.At), strings.Compare(a.Clip, b.Clip))
	})
}
