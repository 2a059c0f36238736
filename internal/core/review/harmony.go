package review

import (
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// melodic is the content of a lane that sounds one note at a time, each of a pitch of
// its own: what can agree with chords or clash.
type melodic interface{ Rooted() *piece.Pitched }

// tunes gives the melodic lanes that play beside a harmony.
func (l *look) tunes(each func(own *piece.Lane, part *render.Part)) {
	if l.performance.Harmony == nil {
		return
	}
	for i := range l.performance.Lanes {
		part := &l.performance.Lanes[i]
		own := &l.clip.Lanes[part.Lane]
		if _, ok := own.Content.(melodic); ok && len(part.Notes) > 0 {
			each(own, part)
		}
	}
}

// agreement points to lines of which less than half are tones of the chords.
func agreement(l *look) {
	l.tunes(func(own *piece.Lane, part *render.Part) {
		share, ok := AgreementOf(l.performance, part)
		if !ok || share.Notes >= 50 || share.Time >= 50 {
			return
		}
		l.add("chord-share", own, 0, l.laneMend("Lock it to the chords", own, map[string]any{"lock": "chord"}),
			"%s keeps to the chords in %d %% of its notes and %d %% of its time.", own.Name, share.Notes, share.Time)
	})
}

// strong tells whether a place on the grid is a strong beat: a bar's first, and its
// middle where the meter has one, as the fourth eighth of 6/8.
func (l *look) strong(at beat.Time) bool {
	bar := l.performance.Bar
	meter, err := beat.ParseMeter(l.piece.Meter)
	if err != nil {
		panic(err) // a checked piece has a meter
	}
	switch {
	case at%bar == 0:
		return true
	case meter.Unit >= 8 && meter.Count > 3 && meter.Count%3 == 0:
		return at%(3*meter.Beat()) == 0
	case meter.Count >= 4 && meter.Count%2 == 0:
		return at%bar == bar/2
	}
	return false
}

// lasting is how long a clash must be heard to be one: a sixteenth.
const lasting = beat.Quarter / 4

// clashes finds notes a semitone or a tritone away from a tone of the sounding chord,
// on a strong beat and for a sixteenth or more. A tone of the chord never clashes.
func clashes(l *look) {
	l.tunes(func(own *piece.Lane, part *render.Part) {
		told := map[int32]bool{}
		for i := range part.Notes {
			note := &part.Notes[i]
			grid := l.performance.Grid(part, note)
			if told[note.Step] || note.End-note.At < lasting || !l.strong(grid) {
				continue
			}
			chord, until := l.performance.Harmony.From(grid)
			against, how := clashing(chord, int(note.Pitch))
			if how == "" || until-grid < lasting {
				continue
			}
			told[note.Step] = true
			l.addClash(own, note, grid, chord, against, how)
		}
	})
}

// clashing finds the tone of a chord that a pitch clashes with.
func clashing(chord *render.Chord, p int) (against int, how string) {
	if chord.Has(p) {
		return 0, ""
	}
	tritone := -1
	for _, tone := range chord.Pitches {
		switch pitch.Mod(p-int(tone), 12) {
		case 1, 11:
			return int(tone), "a semitone"
		case 6:
			tritone = int(tone)
		}
	}
	if tritone >= 0 {
		return tritone, "a tritone"
	}
	return 0, ""
}

func (l *look) addClash(own *piece.Lane, note *render.Note, grid beat.Time, chord *render.Chord, against int, how string) {
	key, step := l.performance.Key, int(note.Step)
	octave := own.Content.(melodic).Rooted().Octave
	var mends []render.Mend
	nearest := pitch.SnapTo(int(note.Pitch), pitch.Nearest, chord.Classes)
	if place := key.Express(nearest, octave); place.Octave >= -4 && place.Octave <= 4 {
		edits := []any{l.put(own, step, place, grid)}
		if place.Alter != 0 && own.Content.(melodic).Rooted().Lock == "scale" {
			edits = append(edits, op.SetLane{OnLane: l.on(own), Patch: asJSON(map[string]any{"lock": "chord"})})
		}
		mends = append(mends, *render.MendBy(fmt.Sprintf("Move it to %s, a tone of %s", pitch.Pretty(key.Named(nearest)), pitch.Pretty(chord.Symbol)), edits...))
	}
	if shorter := l.shorter(own, step); shorter != nil {
		mends = append(mends, *render.MendBy("Shorten it", shorter))
	}
	mends = append(mends, *render.MendBy("Take it away", l.away(own, step)))
	bar := grid/l.performance.Bar + 1
	l.add("clash", own, step, &mends[0], "%s of %s, %s, stands %s from %s of %s on a strong beat of bar %d.",
		l.called(own, step), own.Name, pitch.Pretty(l.performance.Name(note)), how, pitch.Pretty(key.Named(against)), pitch.Pretty(chord.Symbol), bar)
	l.found[len(l.found)-1].More = mends[1:]
}

// bassOver finds the clip's lowest line where it stands over the lowest note of a chord
// that sounds: the chord is then heard over that, not over the bass.
func bassOver(l *look) {
	var bass *render.Part
	var own *piece.Lane
	mean := func(part *render.Part) (sum float64) {
		for i := range part.Notes {
			sum += float64(part.Notes[i].Pitch)
		}
		return sum / float64(len(part.Notes))
	}
	l.tunes(func(lane *piece.Lane, part *render.Part) {
		if bass == nil || mean(part) < mean(bass) {
			bass, own = part, lane
		}
	})
	harmony := l.performance.Harmony
	if bass == nil || !slices.ContainsFunc(l.performance.Lanes, func(p render.Part) bool { return &l.clip.Lanes[p.Lane] == harmony.Lane }) {
		return
	}
	lowest := mean(bass)
	if average := meanOf(harmony); lowest >= average {
		return
	}
	told := map[int32]bool{}
	for i := range bass.Notes {
		note := &bass.Notes[i]
		chord := l.performance.ChordOf(bass, note)
		low := int(chord.Pitches[0])
		if told[note.Step] || int(note.Pitch) <= low {
			continue
		}
		told[note.Step] = true
		down := (int(note.Pitch) - low + 11) / 12
		l.add("bass-over", own, int(note.Step), render.MendBy(fmt.Sprintf("Move it down %s", octaves(down)), l.octaves(own, -down, int(note.Step))),
			"%s of %s, %s, stands over %s, the lowest note of %s.", l.called(own, int(note.Step)), own.Name, pitch.Pretty(l.performance.Name(note)),
			pitch.Pretty(l.performance.Key.Named(low)), pitch.Pretty(chord.Symbol))
	}
}

func meanOf(h *render.Harmony) float64 {
	sum, count := 0, 0
	for _, b := range h.Chords {
		for _, p := range b.Pitches {
			sum, count = sum+int(p), count+1
		}
	}
	return float64(sum) / float64(count)
}

func octaves(n int) string {
	if n == 1 {
		return "an octave"
	}
	return fmt.Sprintf("%d octaves", n)
}
