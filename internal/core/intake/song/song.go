// Package song reads a MIDI file in musical time: what each of its parts holds.
//
// Times are 960ths of a quarter note, each from the file's own by one rounding, half up, of the
// absolute time.
package song

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"math/big"
	"slices"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/intake"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/smf"
)

// Song is a file in musical time.
type Song struct {
	File         *smf.File
	Tempo        float64 // the first, quarter notes a minute
	TempoChanges int     // of value after the first
	Meter        beat.Meter
	MeterChanges int
	Signature    *smf.Signature // the first; nil: none
	Parts        []Part         // those with notes
	Remarks      []string       // what a piece cannot have and became something near, in words
	Lost         intake.Left    // what belongs to no part
	quarter      int64          // of the first tempo, microseconds
}

// Part is what one track sends to one channel.
type Part struct {
	Track    int           // of the file, from 0
	Name     string        // the track's
	Channel  int           // 1..16
	Alone    bool          // its track has no other
	Notes    []intake.Note // in order of their onsets, and of those at once in the file's
	Wheel    []Point
	Pressure []Point
	Controls []Control
	Programs int
	Keys     int // pressures of single keys
}

// Point is a value from a time on: of the wheel -8192..8191, of the pressure 0..127.
type Point struct {
	At    int
	Value int16
}

// Control is a value of a controller from a time on.
type Control struct {
	At                int
	Controller, Value uint8
}

// Left is what the part holds beside its notes.
func (p *Part) Left() intake.Left {
	return intake.Left{Wheel: len(p.Wheel), Controls: len(p.Controls), Pressures: len(p.Pressure) + p.Keys, Programs: p.Programs}
}

// Drums tells whether the part is on the channel of drums.
func (p *Part) Drums() bool { return p.Channel == midi.DrumChannel }

// Title is what a lane of the part is called.
func (p *Part) Title() string {
	name := strings.TrimSpace(strings.Map(func(r rune) rune {
		if r < ' ' || r == 0x7f || r == '\uFFFD' {
			return -1
		}
		return r
	}, p.Name))
	if short := []rune(name); len(short) > longestName {
		name = string(short[:longestName])
	}
	switch {
	case name == "":
		return fmt.Sprintf("Channel %d", p.Channel)
	case !p.Alone:
		return fmt.Sprintf("%s %d", name, p.Channel)
	}
	return name
}

// longestName leaves room for a channel's number within what a lane's name may have.
const longestName = 70

// ErrNoNotes is a file that sounds nothing.
var ErrNoNotes = errors.New("the MIDI file sounds no note; allowed: one that does")

// Read reads a file. The error says that it sounds nothing, or is that of the budget.
func Read(file *smf.File, work *budget.Budget) (out *Song, err error) {
	defer budget.Catch(&err)
	s := &Song{File: file, Tempo: defaultTempo, quarter: 60_000_000 / defaultTempo, Meter: beat.Meter{Count: 4, Unit: 4}}
	s.times()
	for i := range file.Tracks {
		t := &file.Tracks[i]
		work.Spend(int64(len(t.Notes) + len(t.Bends) + len(t.Controls) + len(t.Pressures) + len(t.Programs)))
		s.parts(i)
	}
	if len(s.Parts) == 0 {
		return nil, ErrNoNotes
	}
	return s, nil
}

// What a file is in that does not say so, by the Standard MIDI Files 1.0 specification.
const defaultTempo = 120

// The tempos that a piece can have.
const (
	slowest = 20
	fastest = 400
)

// times finds the first tempo, meter and signature, and how often they change.
func (s *Song) times() {
	var tempos []smf.Tempo
	var meters []smf.Meter
	var keys []smf.Signature
	for i := range s.File.Tracks {
		t := &s.File.Tracks[i]
		tempos, meters, keys = append(tempos, t.Tempos...), append(meters, t.Meters...), append(keys, t.Keys...)
	}
	slices.SortStableFunc(tempos, func(a, b smf.Tempo) int { return cmp.Compare(a.At, b.At) })
	slices.SortStableFunc(meters, func(a, b smf.Meter) int { return cmp.Compare(a.At, b.At) })
	slices.SortStableFunc(keys, func(a, b smf.Signature) int { return cmp.Compare(a.At, b.At) })
	if len(keys) > 0 {
		s.Signature = &keys[0]
	}
	if len(tempos) > 0 {
		s.Tempo, s.quarter = plain(tempos[0].BPM), int64(math.Round(60e6/tempos[0].BPM))
	}
	for i := 1; i < len(tempos); i++ {
		if tempos[i].BPM != tempos[i-1].BPM {
			s.TempoChanges++
		}
	}
	if near := min(max(s.Tempo, slowest), fastest); near != s.Tempo {
		s.Remarks = append(s.Remarks, fmt.Sprintf("its tempo of %.4g became %.4g, the nearest that a piece can have", s.Tempo, near))
	}
	if len(meters) > 0 {
		first := beat.Meter{Count: meters[0].Count, Unit: meters[0].Unit}
		if s.Meter = nearest(first); s.Meter != first {
			s.Remarks = append(s.Remarks, fmt.Sprintf("its meter of %s became %s, the nearest that a piece can have", first, s.Meter))
		}
	}
	for i := 1; i < len(meters); i++ {
		if meters[i].Count != meters[i-1].Count || meters[i].Unit != meters[i-1].Unit {
			s.MeterChanges++
		}
	}
}

// PieceTempo is the tempo as a piece can have it.
func (s *Song) PieceTempo() float64 { return min(max(s.Tempo, slowest), fastest) }

// plain is the shortest number that a file writes as the same tempo, which is kept in whole
// microseconds a quarter note.
func plain(bpm float64) float64 {
	micro := math.Round(60e6 / bpm)
	for digits := 1.0; digits <= 1e6; digits *= 10 {
		if short := math.Round(bpm*digits) / digits; short > 0 && math.Round(60e6/short) == micro {
			return short
		}
	}
	return bpm
}

// nearest is the meter nearest to one that a piece may not have: of those nearest in the length
// of a bar the one of the shortest unit, and of these the shortest bar.
func nearest(m beat.Meter) beat.Meter {
	if _, err := beat.ParseMeter(m.String()); err == nil {
		return m
	}
	length := float64(m.Count) / float64(m.Unit)
	best, least := beat.Meter{}, math.Inf(1)
	for unit := 16; unit >= 1; unit /= 2 {
		for count := 1; count <= 32; count++ {
			if away := math.Abs(float64(count)/float64(unit) - length); away < least {
				best, least = beat.Meter{Count: count, Unit: unit}, away
			}
		}
	}
	return best
}

// At brings a time of the file into 960ths, half up.
func (s *Song) At(tick int64) int {
	f := s.File
	if f.PPQ > 0 {
		return int((tick*intake.PPQ*2 + int64(f.PPQ)) / (2 * int64(f.PPQ)))
	}
	// Ticks of frames, at the file's first tempo. 29 frames are 30000/1001 a second.
	frames, seconds := int64(f.Frames), int64(1)
	if f.Frames == 29 {
		frames, seconds = 30000, 1001
	}
	above := new(big.Int).Mul(big.NewInt(tick*seconds), big.NewInt(2*intake.PPQ*1_000_000))
	below := big.NewInt(frames * int64(f.FrameTicks) * s.quarter)
	above.Add(above, below)
	return int(above.Div(above, below.Lsh(below, 1)).Int64())
}

// parts divides a track by channel.
func (s *Song) parts(track int) {
	t := &s.File.Tracks[track]
	var by [17]*Part
	channels := 0
	part := func(channel int) *Part {
		if by[channel] == nil {
			by[channel] = &Part{Track: track, Name: t.Name, Channel: channel}
		}
		return by[channel]
	}
	var notes, bends, controls [17]int // how many there are on each channel
	for i := range t.Notes {
		notes[t.Notes[i].Channel]++
	}
	for i := range t.Bends {
		bends[t.Bends[i].Channel]++
	}
	for i := range t.Controls {
		controls[t.Controls[i].Channel]++
	}
	for channel := 1; channel < 17; channel++ {
		if notes[channel]+bends[channel]+controls[channel] > 0 {
			p := part(channel)
			p.Notes, p.Wheel, p.Controls = slices.Grow(p.Notes, notes[channel]), slices.Grow(p.Wheel, bends[channel]), slices.Grow(p.Controls, controls[channel])
		}
	}
	for i := range t.Notes {
		n := &t.Notes[i]
		at := s.At(n.At)
		p := part(n.Channel)
		p.Notes = append(p.Notes, intake.Note{At: at, Length: max(s.At(n.At+n.Length)-at, 1), Pitch: int(n.Pitch), Velocity: int(n.Velocity)})
	}
	for _, b := range t.Bends {
		p := part(b.Channel)
		p.Wheel = append(p.Wheel, Point{s.At(b.At), int16(b.Value)})
	}
	for _, v := range t.Pressures {
		p := part(v.Channel)
		if v.Key {
			p.Keys++
		} else {
			p.Pressure = append(p.Pressure, Point{s.At(v.At), int16(v.Value)})
		}
	}
	for _, c := range t.Controls {
		p := part(c.Channel)
		p.Controls = append(p.Controls, Control{s.At(c.At), uint8(c.Controller), uint8(c.Value)})
	}
	for _, g := range t.Programs {
		part(g.Channel).Programs++
	}
	for _, p := range by {
		if p != nil && len(p.Notes) > 0 {
			channels++
		}
	}
	for _, p := range by {
		switch {
		case p == nil:
		case len(p.Notes) == 0:
			left := p.Left()
			s.Lost.Wheel, s.Lost.Controls = s.Lost.Wheel+left.Wheel, s.Lost.Controls+left.Controls
			s.Lost.Pressures, s.Lost.Programs = s.Lost.Pressures+left.Pressures, s.Lost.Programs+left.Programs
		default:
			p.Alone = channels == 1
			p.Notes = intake.Once(p.Notes)
			s.Parts = append(s.Parts, *p)
		}
	}
}

// Bars is how many bars of the song's meter hold notes.
func (s *Song) Bars(notes ...[]intake.Note) int {
	last := 1
	for _, list := range notes {
		for i := range list {
			last = max(last, list[i].End())
		}
	}
	bar := int(s.Meter.Bar() / (beat.Quarter / intake.PPQ))
	return (last + bar - 1) / bar
}
