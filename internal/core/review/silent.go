package review

import (
	lanes "agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// silencer is a kind of lane that can have a reason of its own for sounding nothing; nil: it has
// none here. Such a reason comes before what all lanes share.
type silencer interface {
	Silence(p *render.Performance, lane *piece.Lane) *render.Finding
}

// silent finds lanes of which nothing sounds, and says why.
func silent(l *look) {
	plays := map[int]int{}
	for i := range l.performance.Lanes {
		part := &l.performance.Lanes[i]
		plays[part.Lane] = len(part.Notes)
	}
	solo := render.AnySolo(l.clip)
	for i := range l.clip.Lanes {
		lane := &l.clip.Lanes[i]
		if plays[i] > 0 {
			continue
		}
		if kind, ok := lanes.Of(lane).(silencer); ok {
			if own := kind.Silence(l.performance, lane); own != nil {
				own.Silent = true
				l.found = append(l.found, *own)
				if !lane.Mute {
					continue
				}
			}
		}
		if lane.Silent() {
			l.idle(lane)
			continue
		}
		why, mend := l.whySilent(lane, solo)
		if why == "" {
			continue
		}
		l.quiet(lane, mend, "%s is silent: %s.", lane.Name, why)
	}
}

// quiet is a finding that a lane sounds nothing because of.
func (l *look) quiet(lane *piece.Lane, mend *render.Mend, message string, args ...any) {
	l.add("silent", lane, 0, mend, message, args...)
	l.found[len(l.found)-1].Silent = true
}

// idle says of a lane that has no notes of its own why it moves nothing.
func (l *look) idle(lane *piece.Lane) {
	if lane.Mute || !render.Empty(l.piece, l.clip, lane) {
		return
	}
	why := "no step of its window is on"
	if piece.OriginalOf(lane) != "" {
		why = "the lane that it follows has no notes"
	}
	l.quiet(lane, nil, "%s moves nothing: %s.", lane.Name, why)
}

func (l *look) whySilent(lane *piece.Lane, solo bool) (string, *render.Mend) {
	switch {
	case lane.Mute:
		return "it is muted", l.laneMend("Unmute it", lane, map[string]any{"mute": false})
	case solo && !lane.Solo:
		return "another lane is solo", l.laneMend("Make it solo too", lane, map[string]any{"solo": true})
	case !render.HasPattern(lane):
		return "the lane that it plays gives it no notes", nil
	}
	pattern := l.performance.Pattern(lane)
	active, free := pattern.Active, piece.FreeOf(lane) != nil
	if free && pattern.Count() == 0 {
		return "it has no notes yet", nil
	}
	if free && len(active) == 0 {
		return "its notes begin outside its loop", l.laneMend("Take the loop away", lane, map[string]any{"loop": nil})
	}
	if len(active) == 0 {
		return "every step of its window is skipped", nil
	}
	on, rounds := 0, 0
	var never []int
	for _, i := range active {
		cell := pattern.Cell(int(i))
		if !cell.On {
			continue
		}
		on++
		if cell.Chance == 0 {
			never = append(never, int(i)+1)
		} else if cell.Rounds != nil {
			rounds++
		}
	}
	anywhere := false
	for i := range pattern.Count() {
		anywhere = anywhere || pattern.Cell(i).On
	}
	switch {
	case on > 0 && len(never) < on && l.performance.Opening:
		return "", nil // it may yet begin
	case on == 0 && anywhere && lane.Window != nil:
		return "its notes lie outside its window or on skipped steps", l.laneMend("Open the window", lane, map[string]any{"window": nil})
	case on == 0 && anywhere:
		return "its notes are on skipped steps", nil
	case on == 0:
		return "no step is on", nil
	case render.Empty(l.piece, l.clip, lane):
		return "the lane whose rhythm it takes has no notes", nil
	case len(never) == on:
		return "the chance of every note is 0 %", render.MendBy("Set the chance to 100 %",
			l.setAll(lane, map[string]any{"chance": 100}, never...))
	case rounds+len(never) == on:
		return "its notes wait for rounds that the clip is too short to reach", nil
	}
	return "chance left out every note, or the clip ends before the first", nil
}

// waiting finds steps that wait for rounds which the clip is too short to reach.
func waiting(l *look) {
	for i := range l.performance.Lanes {
		part := &l.performance.Lanes[i]
		lane := &l.clip.Lanes[part.Lane]
		if !render.HasPattern(lane) || l.performance.Opening {
			continue
		}
		pattern := l.performance.Pattern(lane)
		if !anyRounds(pattern) {
			continue
		}
		reached := make([]bool, pattern.Count()) // steps with a round that lets them play
		rounds := int32(0)
		pattern.Each(l.performance.Length, func(s render.Slot) bool {
			rounds = s.Round + 1
			cell := pattern.Cell(int(s.Step))
			reached[s.Step] = reached[s.Step] || cell.Rounds == nil || render.InRound(cell.Rounds, s.Round)
			return true
		})
		for _, k := range pattern.Active {
			if cell := pattern.Cell(int(k)); cell.On && cell.Rounds != nil && !reached[k] && (len(part.Notes) > 0 || lane.Silent()) {
				l.add("rounds", lane, int(k)+1, render.MendBy("Let it play in every round", l.setAll(lane, map[string]any{"rounds": nil}, int(k)+1)),
					"%s of %s waits for round %d of %d, but the clip has only %d of its rounds.", l.called(lane, int(k)+1), lane.Name, cell.Rounds.On[0], cell.Rounds.Of, rounds)
			}
		}
	}
}

func anyRounds(pattern *render.Pattern) bool {
	for i := range pattern.Count() {
		if cell := pattern.Cell(i); cell.On && cell.Rounds != nil {
			return true
		}
	}
	return false
}
