package order

import (
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
)

// sounding are the entries, from 1, of which some note is there.
func (p *Performance) sounding() map[int]bool {
	out := map[int]bool{}
	for i := range p.Tracks {
		for k := range p.Tracks[i].sources {
			out[int(p.Tracks[i].sources[k].entry)] = true
		}
	}
	return out
}

// review finds what of the order does not sound, or not as it seems.
func (p *Performance) review(sounded map[int]bool) {
	add := func(entry int, rule, format string, args ...any) {
		p.find(Finding{Clip: p.Piece.Order.Entries[entry].Clip, Entry: entry + 1, Finding: render.Finding{Rule: rule, Message: fmt.Sprintf(format, args...)}})
	}
	lengths := map[string]beat.Time{}
	for i := range p.Piece.Clips {
		clip := &p.Piece.Clips[i]
		if len(p.Piece.EntriesOf(clip.ID)) > 0 {
			lengths[clip.ID] = LengthOf(p.Piece, clip, p.work)
		}
	}
	for i := range p.Piece.Order.Entries {
		e := &p.Piece.Order.Entries[i]
		clip, err := p.Piece.Clip(e.Clip)
		if err != nil {
			panic(err) // a checked order names clips that are there
		}
		switch own := lengths[e.Clip]; {
		case !p.plays(e):
			add(i, "order-muted", "%s is silent at %s: all its lanes are muted there.", clip.Name, p.placeOf(e.Begins()))
		case !sounded[i+1]:
			add(i, "order-silent", "%s sounds no note at %s: %s", clip.Name, p.placeOf(e.Begins()), why(clip))
		case e.Run == "loop" && own > 0 && beat.Time(e.From)*piece.OrderTick >= own:
			add(
				i,
				"order-from",
				"%s is begun %s in at %s, but is only %s long: it begins where that comes round.",
				clip.Name,
				barsOf(beat.Time(e.From)*piece.OrderTick, p.Bar),
				p.placeOf(e.Begins()),
				barsOf(own, p.Bar),
			)
		}
	}
	if p.Piece.Groove.Swing > 50 || p.Piece.Groove.Template != nil {
		for _, c := range p.chains {
			for k := range min(c.count, 2) { // where the first stands on a bar line and the second does not, no bar is its length
				if pass := c.pass(k); pass.at%p.Bar != 0 {
					add(
						p.entryIn(c, pass.from),
						"order-groove",
						"%s begins off the bar at %s, so that its swing goes against that of what begins on it.",
						p.Piece.Clips[c.clip].Name,
						p.placeOf(pass.from),
					)
					break
				}
			}
		}
	}
}

// elsewhere are rules of a clip alone that are another's matter in the order: its channels, and when its
// lanes meet.
var elsewhere = []string{"channel", "two-wheels", "realign", "late"}

// reviewedBars is how much is looked at of a clip that has no end of its own.
const reviewedBars = 16

// OfClips are the findings of the clips that sound, each as it is alone.
func (p *Performance) OfClips() (out []Finding, err error) {
	defer budget.Catch(&err)
	looked := map[int]bool{}
	for _, c := range p.chains {
		if looked[c.clip] || !slices.Contains(c.wanted, true) {
			continue
		}
		looked[c.clip] = true
		clip := &p.Piece.Clips[c.clip]
		options := render.Options{Budget: p.work}
		if LengthOf(p.Piece, clip, p.work) == 0 {
			options.Bars = reviewedBars
		}
		played, err := render.Clip(p.Piece, clip, options, kinds)
		if err != nil {
			return nil, err
		}
		for _, f := range review.Clip(played) {
			if !slices.Contains(elsewhere, f.Rule) {
				out = append(out, Finding{Clip: clip.ID, Finding: f})
			}
		}
	}
	return out, nil
}

func (p *Performance) entryIn(c *chain, at beat.Time) int {
	for _, i := range c.entries {
		if p.Piece.Order.Entries[i].Ends() > at {
			return i
		}
	}
	return c.entries[0]
}

// why is why an entry that is not muted has no note.
func why(clip *piece.Clip) string {
	if !slices.ContainsFunc(clip.Lanes, func(l piece.Lane) bool { return !l.Silent() }) {
		return "the clip has no notes."
	}
	return "nothing of it begins in this time."
}

// placeOf writes a time as a bar and a beat, from 1.
func (p *Performance) placeOf(at beat.Time) string {
	unit := p.Piece.BeatLength()
	return fmt.Sprintf("bar %d, beat %d", at/p.Bar+1, at%p.Bar/unit+1)
}

func barsOf(length, bar beat.Time) string {
	if length%bar == 0 {
		return render.Many(int(length/bar), "bar")
	}
	return fmt.Sprintf("%.2f bars", float64(length)/float64(bar))
}
