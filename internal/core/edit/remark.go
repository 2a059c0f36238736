package edit

import (
	"encoding/json"
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// Remark is what is to be said of an edit that was made, with edits to choose from.
type Remark struct {
	Message string        `json:"message"`
	Mends   []render.Mend `json:"mends"`
}

// remarks are the edits that may have something to say, each with what says it of the piece that
// they have made; nil: nothing.
var remarks = map[string]func(p *piece.Piece, args any, work *budget.Budget) *Remark{
	"steps.transpose": heldByLock,
	"lane.double":     cutByClip,
}

// RemarkOn gives what is to be said of edits that were made: of the first that has anything to say;
// nothing where to find that out would take more than the budget.
func RemarkOn(p *piece.Piece, ops []op.Op, work *budget.Budget) *Remark {
	said, err := remarkOn(p, ops, work)
	if err != nil {
		return nil
	}
	return said
}

func remarkOn(p *piece.Piece, ops []op.Op, work *budget.Budget) (said *Remark, err error) {
	defer budget.Catch(&err)
	for _, o := range ops {
		if remark := remarks[o.Name()]; remark != nil {
			if said = remark(p, o.Args, work); said != nil {
				return said, nil
			}
		}
	}
	return nil, nil
}

// heldByLock counts the notes that were moved by semitones and that the lock takes elsewhere.
func heldByLock(p *piece.Piece, args any, work *budget.Budget) *Remark {
	o := args.(op.TransposeSteps)
	on := op.OnLane{Clip: o.Clip, Lane: o.Lane}
	clip, own := laneOf(p, on)
	if own == nil || o.Unit != "semitone" || piece.PitchedOf(own) == nil || piece.PitchedOf(own).Lock == "off" {
		return nil
	}
	open := *clip
	open.Lanes = slices.Clone(clip.Lanes)
	at := slices.IndexFunc(open.Lanes, func(l piece.Lane) bool { return l.ID == own.ID })
	open.Lanes[at] = own.Clone()
	piece.PitchedOf(&open.Lanes[at]).Lock = "off"
	locked, free := lane.SoundsWithin(p, clip, own, work), lane.SoundsWithin(p, &open, &open.Lanes[at], work)
	held, total := 0, 0
	for _, n := range o.Steps {
		if n < 1 || n > len(locked) || n > len(free) || !own.Content.StepList().Cell(n-1).On {
			continue
		}
		for k, pitch := range free[n-1].Pitches {
			total++
			if k >= len(locked[n-1].Pitches) || locked[n-1].Pitches[k] != pitch {
				held++
			}
		}
	}
	if held == 0 {
		return nil
	}
	patch, err := json.Marshal(map[string]string{"lock": "off"})
	if err != nil {
		panic(err) // texts only
	}
	return &Remark{
		Message: heldWords(held, total, own.Name),
		Mends:   []render.Mend{*render.MendBy("Open the lock", op.SetLane{OnLane: on, Patch: patch})},
	}
}

func heldWords(held, total int, name string) string {
	if total == 1 {
		return fmt.Sprintf("The note is held by the lock of %s.", name)
	}
	return fmt.Sprintf("%d of %d notes are held by the lock of %s.", held, total, name)
}

// cutByClip tells that a lane that was doubled runs on past the end of its clip, whose bars are fixed.
func cutByClip(p *piece.Piece, args any, _ *budget.Budget) *Remark {
	on := args.(op.DoubleLane).OnLane
	clip, own := laneOf(p, on)
	if own == nil || clip.Bars == 0 {
		return nil
	}
	bar := p.Bar()
	round := render.PatternOf(p, clip, own).RoundLength()
	bars := int((round + bar - 1) / bar)
	if bars <= clip.Bars || bars > beat.MaxBars {
		return nil
	}
	patch, err := json.Marshal(map[string]int{"bars": bars})
	if err != nil {
		panic(err) // numbers only
	}
	return &Remark{
		Message: fmt.Sprintf("%s now takes %s; the clip is %s long, and so is its file.", own.Name, render.Many(bars, "bar"), render.Many(clip.Bars, "bar")),
		Mends:   []render.Mend{*render.MendBy(fmt.Sprintf("Make the clip %s long", render.Many(bars, "bar")), op.SetClip{OnClip: op.OnClip{Clip: on.Clip}, Patch: patch})},
	}
}

// laneOf finds the lane that an edit was of; nil: it is gone.
func laneOf(p *piece.Piece, on op.OnLane) (*piece.Clip, *piece.Lane) {
	clip, err := p.Clip(on.Clip)
	if err != nil {
		return nil, nil
	}
	at := slices.IndexFunc(clip.Lanes, func(l piece.Lane) bool { return l.ID == on.Lane })
	if at < 0 {
		return clip, nil
	}
	return clip, &clip.Lanes[at]
}
