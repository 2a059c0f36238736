package edit

import (
	"fmt"

	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// KeyChange is what a change of key does to one note.
type KeyChange struct {
	Clip string `json:"clip"`
	Lane string `json:"lane"`
	Step int    `json:"step"` // from 1
	From string `json:"from"` // with real signs
	To   string `json:"to"`
}

// KeyPreview is what a change of key does to the notes that are on.
type KeyPreview struct {
	Key     string      `json:"key"`
	Notes   []string    `json:"notes"` // of the new key
	Total   int         `json:"total"`
	Changes []KeyChange `json:"changes"`
}

// setKey changes the key of a clip, or of the piece and so of all clips without
// their own. Keep "degrees" keeps each step's degree; one that the new scale
// lacks goes to its nearest pitch. Keep "pitches" expresses each sounding pitch
// anew, snapped where the new scale lacks it.
func setKey(t *target) error {
	next := t.piece.Key // to which a clip goes back with null
	if string(t.op.Key) != "null" || t.clip == nil {
		read, err := piece.ReadKey(t.op.Key)
		if err != nil {
			return err
		}
		next = *read
	}
	if t.op.Keep != "degrees" && t.op.Keep != "pitches" {
		return &piece.Fault{Path: "keep", Problem: fmt.Sprintf("%q is not allowed; allowed: degrees, pitches", t.op.Keep)}
	}
	to := next.Resolve()
	for i := range t.piece.Clips {
		clip := &t.piece.Clips[i]
		if t.clip == nil && clip.Key != nil || t.clip != nil && clip != t.clip {
			continue
		}
		from := t.piece.KeyOf(clip)
		for l := range clip.Lanes {
			lane := &clip.Lanes[l]
			pitches := render.StepPitches(lane, from)
			for s := range lane.Steps {
				rekey(&lane.Steps[s], lane, from, to, pitches[s], t.op.Keep)
			}
		}
	}
	switch {
	case t.clip == nil:
		t.piece.Key = next
	case string(t.op.Key) == "null":
		t.clip.Key = nil
	default:
		t.clip.Key = &next
	}
	return nil
}

func rekey(step *piece.Step, lane *piece.Lane, from, to pitch.Key, sounding int, keep string) {
	if keep == "degrees" {
		degree, octave := pitch.KeepDegree(from.Scale, to.Scale, step.Degree)
		step.Degree, step.Octave = degree, within(step.Octave+octave)
		return
	}
	place, ok := to.Find(sounding, lane.Octave)
	if !ok && lane.Lock == "off" {
		place = to.Express(sounding, lane.Octave)
	} else if !ok {
		place, _ = to.Find(to.Snap(sounding, pitch.Snap(lane.Snap)), lane.Octave)
	}
	step.Degree, step.Octave, step.Alter = place.Degree, within(place.Octave), place.Alter
}

func within(octave int) int { return min(max(octave, -4), 4) }

// PreviewKey tells what a key.set op would do, without doing it.
func PreviewKey(p *piece.Piece, op Op) (*KeyPreview, error) {
	op.Op = "key.set"
	next, err := Apply(p, []Op{op})
	if err != nil {
		return nil, err
	}
	out := &KeyPreview{Changes: []KeyChange{}}
	key := next.Key.Resolve()
	for i := range p.Clips {
		if op.Clip != "" && p.Clips[i].ID != op.Clip || op.Clip == "" && p.Clips[i].Key != nil {
			continue
		}
		before, after := p.KeyOf(&p.Clips[i]), next.KeyOf(&next.Clips[i])
		key = after
		for l := range p.Clips[i].Lanes {
			old, now := &p.Clips[i].Lanes[l], &next.Clips[i].Lanes[l]
			was, is := render.StepPitches(old, before), render.StepPitches(now, after)
			for s := range old.Steps {
				if !old.Steps[s].On {
					continue
				}
				out.Total++
				if was[s] != is[s] {
					out.Changes = append(out.Changes, KeyChange{
						p.Clips[i].ID, old.ID, s + 1,
						pitch.Pretty(render.SpellStep(old, before, &old.Steps[s])), pitch.Pretty(render.SpellStep(now, after, &now.Steps[s])),
					})
				}
			}
		}
	}
	out.Key = pitch.Pretty(key.String())
	for _, name := range key.Names() {
		out.Notes = append(out.Notes, pitch.Pretty(name.String()))
	}
	return out, nil
}
