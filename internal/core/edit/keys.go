package edit

import (
	"slices"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// KeyChange is what a change of key does to one note.
type KeyChange struct {
	Clip string `json:"clip"` // its name
	Lane string `json:"lane"` // its name
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
func setKey(t target, o op.SetKey) error {
	next := t.Piece.Key // to which a clip goes back with null
	clears := t.Clip != nil && string(o.Key) == "null"
	if !clears {
		read, err := piece.ReadKey(o.Key)
		if err != nil {
			return err
		}
		next = *read
	}
	if o.Keep != "degrees" && o.Keep != "pitches" {
		return t.Wrong("keep", "%q is not allowed; allowed: degrees, pitches", o.Keep)
	}
	to := next.Resolve()
	for i := range t.Piece.Clips {
		clip := &t.Piece.Clips[i]
		if t.Clip == nil && clip.Key != nil || t.Clip != nil && clip != t.Clip {
			continue
		}
		from := t.Piece.KeyOf(clip)
		t.Budget.Spend(copying * lanesSteps(clip.Lanes))
		clip.Lanes = slices.Clone(clip.Lanes)
		for l := range clip.Lanes {
			clip.Lanes[l].Content = clip.Lanes[l].Content.Clone()
			lane.Of(&clip.Lanes[l]).Rekey(&clip.Lanes[l], from, to, o.Keep == "degrees")
		}
	}
	switch {
	case t.Clip == nil:
		t.Piece.Key = next
	case clears:
		t.Clip.Key = nil
	default:
		t.Clip.Key = &next
	}
	return nil
}

// PreviewKey tells what a change of key would do, without doing it.
func PreviewKey(p *piece.Piece, o op.SetKey) (*KeyPreview, error) {
	next, err := Apply(p, []op.Op{op.Of(o)})
	if err != nil {
		return nil, err
	}
	out := &KeyPreview{Changes: []KeyChange{}}
	key := next.Key.Resolve()
	for i := range p.Clips {
		if o.Clip != "" && p.Clips[i].ID != o.Clip || o.Clip == "" && p.Clips[i].Key != nil {
			continue
		}
		key = next.KeyOf(&next.Clips[i])
		for l := range p.Clips[i].Lanes {
			old, now := &p.Clips[i].Lanes[l], &next.Clips[i].Lanes[l]
			out.compare(p.Clips[i].Name, old, lane.Sounds(p, &p.Clips[i], old), lane.Sounds(next, &next.Clips[i], now))
		}
	}
	out.Key = pitch.Pretty(key.String())
	for _, name := range key.Names() {
		out.Notes = append(out.Notes, pitch.Pretty(name.String()))
	}
	return out, nil
}

func (k *KeyPreview) compare(clip string, own *piece.Lane, was, is []render.Sound) {
	steps := own.Content.StepList()
	for s := range was {
		if !steps.Cell(s).On {
			continue
		}
		k.Total += len(was[s].Pitches)
		if !slices.Equal(was[s].Pitches, is[s].Pitches) {
			k.Changes = append(k.Changes, KeyChange{clip, own.Name, s + 1, pitch.Pretty(was[s].Name), pitch.Pretty(is[s].Name)})
		}
	}
}
