// Package files is MIDI files that come in: what is in them, and the clip that becomes of them. A
// file that was rendered here holds the document that it came from; it comes back whole.
package files

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/intake"
	"agrimony/internal/core/intake/song"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/smf"
)

// mostTried is how many tracks are tried as lanes in a report: many times what a piece can hold, and
// few enough that a file of as many tracks as there can be is reported in seconds.
const mostTried = 8192

// File is a file that comes in.
type File struct {
	Song *song.Song
	Own  *Own // the document that it was rendered from; nil: it has none that can be read
	// Why says why a document of ours that it holds cannot be taken; "" where it has none, or a
	// good one.
	Why string

	work *budget.Budget
}

// Open reads a file. Errors say what is wrong and at which byte, or are those of the budget, from which all
// that is done with the file is spent.
func Open(data []byte, work *budget.Budget) (*File, error) {
	read, err := smf.Decode(data, work)
	if err != nil {
		return nil, err
	}
	out := &File{work: work}
	if out.Own, err = ownOf(read, work); err == nil && out.Own != nil {
		err = out.Own.perform(work)
	}
	if gone := work.Waits(); gone != nil {
		return nil, gone
	}
	if err != nil {
		out.Own, out.Why = nil, err.Error()
	}
	if out.Song, err = song.Read(read, work); err != nil && (out.Own == nil || !errors.Is(err, song.ErrNoNotes)) {
		return nil, err
	}
	return out, nil
}

// Choice is what a part of a file is to become.
type Choice struct {
	Part int    // which of the song's, from 0
	As   string // what it becomes: lane.Auto, or one of lane.Becomings; "" leaves it out
	Only string // "lowest" or "highest" of its notes that sound together; "": all
}

// Onlys are the notes of those that sound together that may be taken alone.
var Onlys = []string{"lowest", "highest"}

// Options say what becomes of a file.
type Options struct {
	Choices  []Choice   // nil: all parts, by themselves
	Key      *pitch.Key // nil: the one that fits best
	Controls bool       // wheel, pressure and controllers become lanes, too
	Told     int        // how many tracks a report tells of at the most; 0: of all
}

// Taken is what became of a file: a clip's worth of lanes.
type Taken struct {
	Key     pitch.Key
	Bars    int
	Lanes   []piece.Lane
	Parts   []TakenPart
	Remarks []string
}

// TakenPart is what became of one part.
type TakenPart struct {
	Part    int
	As      string
	Lanes   int // how many
	Differs intake.Differs
	Left    intake.Left
}

// chosen are the choices, with what they leave open filled in.
func (f *File) chosen(o *Options) ([]Choice, error) {
	if o.Choices == nil {
		all := make([]Choice, len(f.Song.Parts))
		for i := range all {
			all[i] = Choice{Part: i, As: lane.Auto}
		}
		return all, nil
	}
	var out []Choice
	for _, c := range o.Choices {
		if c.Part < 0 || c.Part >= len(f.Song.Parts) {
			return nil, fmt.Errorf("there is no track %d; allowed: 1..%d", c.Part+1, len(f.Song.Parts))
		}
		if c.Only != "" && !slices.Contains(Onlys, c.Only) {
			return nil, fmt.Errorf("only %q is not allowed; allowed: %s", c.Only, strings.Join(Onlys, ", "))
		}
		if c.As != "" {
			out = append(out, c)
		}
	}
	if len(out) == 0 {
		return nil, errors.New("no track is chosen; allowed: one or more")
	}
	return out, nil
}

// notesOf are the notes of a part that a choice takes.
func (f *File) notesOf(c Choice) []intake.Note {
	notes := f.Song.Parts[c.Part].Notes
	if c.Only != "" {
		return intake.Outer(notes, c.Only == Onlys[0])
	}
	return notes
}

// Take makes lanes of the chosen parts. The error says what does not fit, or how far it is beyond
// what a piece can have.
func (f *File) Take(o Options) (out *Taken, err error) {
	defer budget.Catch(&err)
	choices, err := f.chosen(&o)
	if err != nil {
		return nil, err
	}
	lists := make([][]intake.Note, len(choices))
	for i, c := range choices {
		if lists[i] = f.notesOf(c); len(lists[i]) > piece.MaxNotes {
			return nil, fmt.Errorf("track %d has %d notes; allowed: at most %d in a lane", c.Part+1, len(lists[i]), piece.MaxNotes)
		}
	}
	out = &Taken{Bars: f.Song.Bars(lists...), Remarks: slices.Clone(f.Song.Remarks)}
	if out.Bars > beat.MaxBars {
		return nil, fmt.Errorf("it is %d bars of %s long; allowed: at most %d", out.Bars, f.Song.Meter, beat.MaxBars)
	}
	if o.Key != nil {
		out.Key = *o.Key
	} else {
		out.Key = f.BestKey(choices)
	}
	if len(choices) > piece.MaxLanes {
		return nil, fmt.Errorf("it would make %d lanes; allowed: at most %d", len(choices), piece.MaxLanes)
	}
	names := namesOf(f, choices)
	for i, c := range choices {
		f.work.Spend(trackWork + noteWork*int64(len(lists[i])))
		part := &f.Song.Parts[c.Part]
		became, err := lane.Become(c.As, f.source(out, part, lists[i]), f.Song.PieceTempo())
		if err != nil {
			return nil, fmt.Errorf("track %d (%s) does not fit as %s: %w", c.Part+1, part.Title(), c.As, err)
		}
		taken := TakenPart{Part: c.Part, As: became.As, Lanes: len(became.Lanes), Differs: became.Differs, Left: part.Left()}
		first := ""
		for k := range became.Lanes {
			own := &became.Lanes[k]
			named(own, names[i], len(became.Lanes) > 1)
			own.ID = freshID(own.Name, out.Lanes)
			own.Channel, own.Sound = part.Channel, soundOf(part, lists[i], own.Sound)
			out.Lanes = append(out.Lanes, *own)
			if first == "" {
				first = own.ID
			}
		}
		if o.Controls {
			lanes, remarks := f.controls(out, part, first)
			out.Lanes, out.Remarks = append(out.Lanes, lanes...), append(out.Remarks, remarks...)
			taken.Left = intake.Left{Programs: part.Programs, Pressures: part.Keys}
		}
		out.Parts = append(out.Parts, taken)
	}
	if len(out.Lanes) > piece.MaxLanes {
		return nil, fmt.Errorf("it would make %d lanes; allowed: at most %d", len(out.Lanes), piece.MaxLanes)
	}
	return out, nil
}

// trackWork is how much work a track is, and noteWork a note of it, whatever becomes of them.
const (
	trackWork = 50
	noteWork  = 4
)

func (f *File) source(t *Taken, part *song.Part, notes []intake.Note) *intake.Source {
	return &intake.Source{Key: t.Key, Meter: f.Song.Meter, Length: t.Bars * f.barTicks(), Notes: notes, Drums: part.Drums(), Budget: f.work}
}

func (f *File) barTicks() int { return int(f.Song.Meter.Bar() / piece.NoteTick) }

// Keys are those that fit the chosen parts best; drums do not count unless there is nothing else.
func (f *File) Keys(choices []Choice) []intake.KeyFit {
	var pitched, all [][]intake.Note
	for _, c := range choices {
		notes := f.Song.Parts[c.Part].Notes // the whole of it tells, whatever of it is taken
		if all = append(all, notes); !f.Song.Parts[c.Part].Drums() {
			pitched = append(pitched, notes)
		}
	}
	if fits := intake.Keys(pitched...); fits != nil {
		return fits
	}
	return intake.Keys(all...)
}

// BestKey is the first of them.
func (f *File) BestKey(choices []Choice) pitch.Key { return f.Keys(choices)[0].Key }

// namesOf are the names of the lanes of each choice, no two the same.
func namesOf(f *File, choices []Choice) []string {
	out := make([]string, len(choices))
	seen := map[string]int{}
	for i, c := range choices {
		name := f.Song.Parts[c.Part].Title()
		if seen[name]++; seen[name] > 1 {
			name = fmt.Sprintf("%s %d", name, seen[name])
		}
		out[i] = name
	}
	return out
}

// named names a lane after its part; of several each keeps a name of its own.
func named(own *piece.Lane, part string, several bool) {
	if !several || own.Name == "" {
		own.Name = part
	}
}

// freshID is an id made of a name that no lane has.
func freshID(name string, lanes []piece.Lane) string {
	return piece.FreshID(name, func(id string) bool {
		return slices.ContainsFunc(lanes, func(l piece.Lane) bool { return l.ID == id })
	})
}

// bassBelow is the mean pitch below which a part is heard with the bass voice: middle C less an
// octave.
const bassBelow = 48

// soundOf is the voice that a part is heard with, of those that are built in.
func soundOf(part *song.Part, notes []intake.Note, own piece.Sound) piece.Sound {
	sum := 0
	for i := range notes {
		sum += notes[i].Pitch
	}
	switch {
	case part.Drums():
		own = own.WithVoice("kit")
	case sum < bassBelow*len(notes):
		own = own.WithVoice("bass")
	case intake.Voices(notes) > 1:
		own = own.WithVoice("keys")
	default:
		own = own.WithVoice("pluck")
	}
	return own
}

// Heard is the voice that a part is heard with before it is anything.
func Heard(part *song.Part) piece.Sound {
	lane := piece.NewLane(piece.DefaultKind, "", "")
	return soundOf(part, part.Notes, lane.Sound)
}

// Piece is a piece with one clip of what was taken.
func (f *File) Piece(t *Taken, title string) (*piece.Piece, error) {
	p := piece.Default()
	p.Title, p.Tempo, p.Meter, p.Key = title, f.Song.PieceTempo(), f.Song.Meter.String(), piece.KeyAs(t.Key)
	clip := piece.NewClip(piece.FreshID(title, func(string) bool { return false }), title)
	clip.Until, clip.Bars, clip.Lanes = "", t.Bars, t.Lanes
	p.Clips = []piece.Clip{clip}
	if err := piece.Check(p); err != nil {
		return nil, err
	}
	return p, nil
}
