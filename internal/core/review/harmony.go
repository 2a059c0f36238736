package review

import (
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
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
	bar, meter := l.performance.Bar, l.meter()
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

// lasting is how long a clash must be heard on a strong beat to be one: an eighth. A semitone that lasts a quarter is
// one on any beat.
const lasting = eighth

// clashes finds notes a semitone or a tritone away from a tone of the sounding chord, where they begin or where
// a chord begins under them: what is held is read like what is struck. A tone of the chord never clashes, nor does what
// belongs to the craft (suits).
func clashes(l *look) {
	oneBeat := l.meter().Beat()
	bounded(func(spent *budget.Budget) {
		l.tunes(func(own *piece.Lane, part *render.Part) {
			told := map[int32]bool{}
			pedal := l.pedals(part, spent)
			for i := range part.Notes {
				note := &part.Notes[i]
				grid := l.performance.Grid(part, note)
				for at := grid; !told[note.Step] && (at == grid || at < note.End); {
					spent.Spend(1)
					chord, until := l.performance.Harmony.From(at)
					end := min(note.End, until)
					if at == grid {
						end = min(grid+note.End-note.At, until)
					}
					m := overChord{part: part, at: i, chord: chord, when: at, beat: oneBeat}
					how := m.clashing()
					onBeat := at%l.performance.Bar%oneBeat == 0
					heard := l.strong(at) && end-at >= lasting || how == "a semitone" && onBeat && end-at >= beat.Quarter
					if how != "" && heard && !pedal[i] && !l.suits(&m) {
						told[note.Step] = true
						l.addClash(own, note, at, chord, m.against, how)
					}
					at = until
				}
			}
		})
	})
}

// overChord is a note over a chord at a time.
type overChord struct {
	part    *render.Part
	at      int // index of the note
	chord   *render.Chord
	when    beat.Time // from when on both sound
	beat    beat.Time // the length of a beat
	against int       // the tone of the chord that the note stands against
}

// clashing tells how a note clashes with its chord, and against which tone; empty: it does not.
func (m *overChord) clashing() string {
	p := int(m.part.Notes[m.at].Pitch)
	if m.chord.Has(p) {
		return ""
	}
	tritone := -1
	for _, tone := range m.chord.Pitches {
		switch pitch.Mod(p-int(tone), 12) {
		case 1, 11:
			m.against = int(tone)
			return "a semitone"
		case 6:
			tritone = int(tone)
		}
	}
	if tritone >= 0 {
		m.against = tritone
		return "a tritone"
	}
	return ""
}

// suits reports whether what clashes belongs to the craft: a suspension or an appoggiatura that goes on by step to a tone of
// the chord within a beat; a seventh over the root; a raised fourth over a major chord; the key's major sixth over a minor
// one; a third against a seventh, or a seventh against a third; a leading tone that goes to the tonic.
func (l *look) suits(m *overChord) bool {
	note := &m.part.Notes[m.at]
	p := int(note.Pitch)
	if to, ok := steps(m.part, m.at, max(m.when, note.At)+m.beat); ok && l.performance.ChordOf(m.part, to).Has(int(to.Pitch)) {
		return true
	}
	root := m.chord.Root.Class()
	above, against := pitch.Mod(p-root, 12), pitch.Mod(m.against-root, 12)
	third, seventh := func(n int) bool { return n == 3 || n == 4 }, func(n int) bool { return n == 10 || n == 11 }
	switch {
	case seventh(above) && against == 0 && p > int(m.chord.Pitches[0]):
		return true
	case above == 6 && m.chord.Has(root+4):
		return true
	case above == 9 && m.chord.Has(root+3) && l.performance.Key.Has(p):
		return true
	case third(above) && seventh(against) || seventh(above) && third(against):
		return true
	}
	tonic := l.performance.Key.Tonic.Semitones()
	to := next(m.part, m.at)
	return pitch.Mod(p-tonic, 12) == 11 && to != nil && pitch.Mod(int(to.Pitch)-tonic, 12) == 0 && to.At-note.At <= l.performance.Bar
}

// fewChords is over how many chords a pitch must stay to be a pedal.
const fewChords = 3

// pedals tells of each note of a part whether it belongs to one pitch that stays over three chords and more.
func (l *look) pedals(part *render.Part, spent *budget.Budget) []bool {
	out := make([]bool, len(part.Notes))
	for i := 0; i < len(part.Notes); {
		j, end := i, beat.Time(0)
		for ; j < len(part.Notes) && part.Notes[j].Pitch == part.Notes[i].Pitch; j++ {
			end = part.Notes[j].End
		}
		count, symbol := 0, ""
		for at := part.Notes[i].At; at < end && count < fewChords; {
			spent.Spend(1)
			chord, until := l.performance.Harmony.From(at)
			if chord.Symbol != symbol {
				count, symbol = count+1, chord.Symbol
			}
			at = until
		}
		for k := i; k < j; k++ {
			out[k] = count >= fewChords
		}
		i = j
	}
	return out
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
	where := fmt.Sprintf("on a strong beat of bar %d", grid/l.performance.Bar+1)
	if !l.strong(grid) {
		where = "at " + l.place(grid)
	}
	l.add("clash", own, step, &mends[0], "%s of %s, %s, stands %s from %s of %s %s.",
		l.called(own, step), own.Name, pitch.Pretty(l.performance.Name(note)), how, pitch.Pretty(key.Named(against)), pitch.Pretty(chord.Symbol), where)
	l.found[len(l.found)-1].More = mends[1:]
}

// highLanes is the octave from which on a lane is written for no bass.
const highLanes = 4

// bassOver finds the clip's lowest line where it stands over the lowest note of a chord that sounds: the chord is
// then heard over that, not over the bass. It is told once, and only of lanes that are written for low notes.
func bassOver(l *look) {
	var bass *render.Part
	var own *piece.Lane
	l.tunes(func(lane *piece.Lane, part *render.Part) {
		if bass == nil || meanPitch(part.Notes) < meanPitch(bass.Notes) {
			bass, own = part, lane
		}
	})
	harmony := l.performance.Harmony
	if bass == nil || own.Content.(melodic).Rooted().Octave >= highLanes ||
		!slices.ContainsFunc(l.performance.Lanes, func(p render.Part) bool { return &l.clip.Lanes[p.Lane] == harmony.Lane }) {
		return
	}
	if meanPitch(bass.Notes) >= meanOf(harmony) {
		return
	}
	var over stepSet
	byOctaves := map[int][]int{} // steps by how many octaves bring them under the chord
	var first *render.Note
	for i := range bass.Notes {
		note := &bass.Notes[i]
		low := int(l.performance.ChordOf(bass, note).Pitches[0])
		step := int(note.Step)
		if over.known[step] || int(note.Pitch) <= low {
			continue
		}
		over.add(step)
		if first == nil {
			first = note
		}
		down := (int(note.Pitch) - low + 11) / 12
		byOctaves[down] = append(byOctaves[down], step)
	}
	if first == nil {
		return
	}
	chord := l.performance.ChordOf(bass, first)
	more := ""
	if n := len(over.steps) - 1; n > 0 {
		more = fmt.Sprintf(" The same holds for %s more.", render.Many(n, "note"))
	}
	l.add("bass-over", own, int(first.Step), l.moved(voice{own, bass, true}, "down", byOctaves),
		"%s of %s, %s, stands over %s, the lowest note of %s.%s", l.called(own, int(first.Step)), own.Name, pitch.Pretty(l.performance.Name(first)),
		pitch.Pretty(l.performance.Key.Named(int(chord.Pitches[0]))), pitch.Pretty(chord.Symbol), more)
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
