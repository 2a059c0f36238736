package files_test

import (
	"bytes"
	"encoding/binary"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	gomidi "gitlab.com/gomidi/midi/v2"
	library "gitlab.com/gomidi/midi/v2/smf"

	"agrimony/internal/core/files"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
)

func opened(t testing.TB, data []byte) *files.File {
	file, err := files.Open(data, nil)
	require.NoError(t, err)
	return file
}

// taken is what becomes of a file, as asked.
func taken(t testing.TB, file *files.File, as string, change ...func(*files.Options)) (*files.Taken, error) {
	var o files.Options
	for i := range file.Song.Parts {
		o.Choices = append(o.Choices, files.Choice{Part: i, As: as})
	}
	for _, f := range change {
		f(&o)
	}
	return file.Take(o)
}

func notesOf(l piece.Lane) (out [][3]int) {
	for _, n := range l.Content.(*piece.Notes).Notes {
		out = append(out, [3]int{n.At, n.Length, n.Velocity})
	}
	return out
}

func TestTimesComeInByOneRounding(t *testing.T) {
	for ppq, want := range map[uint16][][3]int{
		// The absolute time is rounded, half up: 89 ticks a quarter are no divisor of 960.
		89:   {{0, 11, 100}, {11, 11, 100}, {22, 10, 100}},
		128:  {{0, 8, 100}, {8, 7, 100}, {15, 8, 100}},
		384:  {{0, 3, 100}, {3, 2, 100}, {5, 3, 100}},
		1024: {{0, 1, 100}, {1, 1, 100}, {2, 1, 100}},
	} {
		file := opened(t, written(t, ppq, func(track *library.Track) {
			for range 3 {
				note(track, 0, 0, 60, 100, 1)
			}
		}))
		got, err := taken(t, file, lane.Always)
		require.NoError(t, err)
		assert.Equal(t, want, notesOf(got.Lanes[0]), "%d a quarter", ppq)
	}
}

// On and off are paired first to first; an off without an on is passed over, what never ends lasts to
// its track's end, what has no length a 960th.
func TestHowNotesArePaired(t *testing.T) {
	file := opened(t, written(t, 960, func(track *library.Track) {
		track.Add(0, gomidi.NoteOff(0, 62))
		track.Add(0, gomidi.NoteOn(0, 60, 10))
		track.Add(100, gomidi.NoteOn(0, 60, 20))
		track.Add(100, gomidi.NoteOff(0, 60))
		track.Add(100, gomidi.NoteOn(0, 60, 0)) // which ends the second
		track.Add(0, gomidi.NoteOn(0, 64, 30))
		track.Add(0, gomidi.NoteOff(0, 64))
		track.Add(100, gomidi.NoteOn(0, 65, 40))
		track.Add(500, gomidi.ControlChange(0, 7, 9))
	}))
	got, err := taken(t, file, lane.Always)
	require.NoError(t, err)
	assert.Equal(t, [][3]int{{0, 200, 10}, {100, 200, 20}, {300, 1, 30}, {400, 500, 40}}, notesOf(got.Lanes[0]))
	assert.Equal(t, 1, got.Parts[0].Left.Controls)
}

// A file of one track is divided by channel, and so is a track of several; lanes keep the channels.
func TestTracksAreDividedByChannel(t *testing.T) {
	file := opened(t, written(t, 480, func(track *library.Track) {
		track.Add(0, library.MetaTrackSequenceName("Quayside"))
		note(track, 0, 3, 60, 90, 480)
		note(track, 0, 9, 36, 90, 480)
	}))
	got, err := taken(t, file, lane.Always)
	require.NoError(t, err)
	require.Len(t, got.Lanes, 2)
	assert.Equal(t, []int{4, 10}, []int{got.Lanes[0].Channel, got.Lanes[1].Channel})
	assert.Equal(t, []string{"Quayside 4", "Quayside 10"}, []string{got.Lanes[0].Name, got.Lanes[1].Name})
	drums := got.Lanes[1].Content.(*piece.Notes)
	require.NotNil(t, drums.Notes[0].Note, "a drum is no degree")
	assert.Equal(t, 36, *drums.Notes[0].Note)
	assert.Equal(t, "off", drums.Lock)
	assert.Equal(t, piece.Share{}, got.Lanes[0].Share)
}

// A file that is divided by frames is read at its first tempo; 29 frames are 30000/1001.
func TestFilesThatAreTimedByFrames(t *testing.T) {
	for _, c := range []struct {
		frames byte
		at     int // of tick 1000 of 40 a frame, at 120
	}{{24, 2000}, {25, 1920}, {29, 1602}, {30, 1600}} {
		track := "\x00\x90\x3c\x40\x87\x68\x80\x3c\x40\x00\xff\x2f\x00"
		data := "MThd\x00\x00\x00\x06\x00\x01\x00\x01" + string([]byte{byte(256 - int(c.frames)), 40}) + "MTrk" + string(binary.BigEndian.AppendUint32(nil, uint32(len(track)))) + track
		got, err := taken(t, opened(t, []byte(data)), lane.Always)
		require.NoError(t, err)
		assert.Equal(t, [][3]int{{0, c.at, 64}}, notesOf(got.Lanes[0]), "%d frames", c.frames)
	}
}

func TestTheLowestNoteAtATime(t *testing.T) {
	file := opened(t, written(t, 960, func(track *library.Track) {
		track.Add(0, gomidi.NoteOn(0, 60, 90)) // ends where a lower one interrupts it
		track.Add(0, gomidi.NoteOn(0, 67, 90)) // begins over it
		track.Add(480, gomidi.NoteOn(0, 55, 90))
		track.Add(240, gomidi.NoteOn(0, 57, 90)) // begins over the lower one
		track.Add(240, gomidi.NoteOff(0, 55))
		track.Add(0, gomidi.NoteOff(0, 60))
		track.Add(0, gomidi.NoteOff(0, 67))
		track.Add(0, gomidi.NoteOff(0, 57))
	}))
	for only, want := range map[string][][3]int{"lowest": {{0, 480, 90}, {480, 480, 90}}, "highest": {{0, 960, 90}}} {
		got, err := taken(t, file, lane.Always, func(o *files.Options) { o.Choices[0].Only = only })
		require.NoError(t, err)
		assert.Equal(t, want, notesOf(got.Lanes[0]), only)
	}
}

func TestWhatNotesBecome(t *testing.T) {
	bass := written(t, 480, func(track *library.Track) {
		for i, key := range []uint8{38, 38, 41, 45} {
			note(track, uint32(240*boolean(i > 0)), 0, key, 90, 240)
		}
	})
	chords := written(t, 480, func(track *library.Track) {
		for _, root := range []uint8{50, 55, 50, 55} {
			for k := range 3 {
				track.Add(0, gomidi.NoteOn(0, root+uint8([]int{0, 3, 7}[k]), 80))
			}
			for k := range 3 {
				track.Add(uint32(1920*boolean(k == 0)), gomidi.NoteOff(0, root+uint8([]int{0, 3, 7}[k])))
			}
		}
	})
	drums := written(t, 480, func(track *library.Track) {
		for i := range 16 {
			note(track, uint32(60*boolean(i > 0)), 9, []uint8{36, 42}[i%2], 90, 60)
		}
	})
	for name, c := range map[string]struct {
		data         []byte
		as           string
		becomes      string
		lanes        int
		rate, refuse string
	}{
		"a bass by itself":          {bass, lane.Auto, "line", 1, "1/4", ""},
		"drums by themselves":       {drums, lane.Auto, "pulses", 2, "1/16", ""},
		"chords by themselves":      {chords, lane.Auto, "chords", 1, "1bar", ""},
		"a bass as pulses":          {bass, "pulses", "pulses", 3, "1/4", ""},
		"chords as a line":          {chords, "line", "", 0, "", "several notes at once"},
		"a bass as chords":          {bass, "chords", "", 0, "", "0 % of the time; allowed: from 80 % on"},
		"something that nothing is": {bass, "song", "", 0, "", "nothing that notes can become; allowed: auto, chords, line, notes, pulses"},
	} {
		got, err := taken(t, opened(t, c.data), c.as)
		if c.refuse != "" {
			assert.ErrorContains(t, err, c.refuse, name)
			continue
		}
		require.NoError(t, err, name)
		assert.Equal(t, c.becomes, got.Parts[0].As, name)
		assert.Len(t, got.Lanes, c.lanes, name)
		assert.Equal(t, c.rate, got.Lanes[0].Rate, name)
		assert.Zero(t, got.Parts[0].Differs.Notes, name)
		if c.becomes == "chords" {
			assert.Len(t, got.Lanes[0].Content.(*piece.Chords).Palette, 2, "equal ones share a place in the palette")
		}
	}
}

// What is off a grid is told in notes and milliseconds.
func TestWhatWouldDifferIsTold(t *testing.T) {
	file := opened(t, written(t, 960, func(track *library.Track) {
		for i := range 30 {
			late := uint32(0)
			if i == 7 {
				late = 1
			}
			track.Add(late, gomidi.NoteOn(0, 60, 90))
			track.Add(120, gomidi.NoteOff(0, 60))
			track.Add(120-late, gomidi.ControlChange(0, 1, 0))
		}
	}))
	got, err := taken(t, file, "line")
	require.NoError(t, err)
	d := got.Parts[0].Differs
	assert.Equal(t, []int{1, 30}, []int{d.Notes, d.Of})
	assert.InDelta(t, 0.52, d.MS, 0.01, "a tick at 120")
	auto, err := taken(t, file, lane.Auto)
	require.NoError(t, err)
	assert.Equal(t, lane.Always, auto.Parts[0].As, "no note may move by itself")
}

func TestControllersBecomeLanes(t *testing.T) {
	file := opened(t, written(t, 960, func(track *library.Track) {
		track.Add(0, gomidi.ControlChange(0, 101, 0))
		track.Add(0, gomidi.ControlChange(0, 100, 0))
		track.Add(0, gomidi.ControlChange(0, 6, 7))
		track.Add(0, gomidi.NoteOn(0, 60, 90))
		track.Add(960, gomidi.ControlChange(0, 74, 100))
		track.Add(0, gomidi.Pitchbend(0, 4096))
		track.Add(960, gomidi.NoteOff(0, 60))
	}))
	got, err := taken(t, file, lane.Always, func(o *files.Options) { o.Controls = true })
	require.NoError(t, err)
	require.Len(t, got.Lanes, 3)
	wheel, cutoff := got.Lanes[1].Content.(*piece.ControlLane), got.Lanes[2].Content.(*piece.ControlLane)
	assert.Equal(t, "wheel", wheel.Target.Name)
	assert.Equal(t, 74, cutoff.Target.Controller)
	on := func(c *piece.ControlLane) (out []int) {
		for i := range c.Steps {
			if c.Steps[i].On {
				out = append(out, i, c.Steps[i].Value)
			}
		}
		return out
	}
	assert.Equal(t, []int{len(wheel.Steps) / 4, 50}, on(wheel), "half of the range from the second beat on")
	assert.Equal(t, []int{len(cutoff.Steps) / 4, 100}, on(cutoff))
	assert.Equal(t, 7, got.Lanes[0].Content.(*piece.Notes).Glide.Range, "as the file states it")
	assert.Contains(t, strings.Join(got.Remarks, " "), "follows within")
}

func TestWhatIsTooMuchIsSaidWithItsNumber(t *testing.T) {
	many := written(t, 96, func(track *library.Track) {
		for range piece.MaxNotes + 1 {
			note(track, 0, 0, 60, 90, 1)
		}
	})
	_, err := taken(t, opened(t, many), lane.Always)
	assert.ErrorContains(t, err, "track 1 has 20001 notes; allowed: at most 20000")
	long := written(t, 96, func(track *library.Track) { note(track, 96*4*1024, 0, 60, 90, 1) })
	_, err = taken(t, opened(t, long), lane.Always)
	assert.ErrorContains(t, err, "1025 bars of 4/4 long; allowed: at most 1024")
	var channels []func(*library.Track)
	for range 33 {
		channels = append(channels, func(track *library.Track) { note(track, 0, 0, 60, 90, 1) })
	}
	file := opened(t, written(t, 96, channels...))
	_, err = taken(t, file, lane.Always)
	assert.ErrorContains(t, err, "33 lanes; allowed: at most 32")
	_, err = taken(t, file, lane.Always, func(o *files.Options) { o.Choices = o.Choices[:32] })
	assert.NoError(t, err, "the tracks chosen leave less")
}

// A tempo or meter that a piece cannot have becomes the nearest, and that is said.
func TestWhatAPieceCannotHave(t *testing.T) {
	file := opened(t, written(t, 96, func(track *library.Track) {
		track.Add(0, library.MetaTempo(900))
		track.Add(0, library.MetaTimeSig(7, 32, 8, 8))
		note(track, 0, 0, 60, 90, 96)
	}))
	got, err := taken(t, file, lane.Always)
	require.NoError(t, err)
	p, err := file.Piece(got, "In")
	require.NoError(t, err)
	assert.Equal(t, 400.0, p.Tempo)
	assert.Equal(t, "3/16", p.Meter)
	assert.Len(t, got.Remarks, 2)
}

// A document of ours that is torn, newer or broken is said, and the file comes in plainly.
func TestADocumentThatCannotBeTaken(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[{"id":"low","steps":[{"on":true}]}]}]}`))
	require.NoError(t, err)
	whole := rendered(t, p, &p.Clips[0], renderOptions, false)
	head := append([]byte{0x7d}, "agrimony"...)
	at := bytes.Index(whole, head) + len(head)
	require.Greater(t, at, len(head))
	for why, change := range map[string]func(data []byte){
		"version 9; this Agrimony reads version 1": func(data []byte) { data[at] = 9 },
		"is torn": func(data []byte) { data[at+3] ^= 0xff; data[at+9] ^= 0xff },
	} {
		data := bytes.Clone(whole)
		change(data)
		file := opened(t, data)
		assert.Nil(t, file.Own)
		assert.Contains(t, file.Why, why)
		got, err := taken(t, file, lane.Always)
		require.NoError(t, err)
		assert.NotEmpty(t, notesOf(got.Lanes[0]))
	}
	large := *p
	large.Title = ""
	assert.NotContains(t, string(rendered(t, p, &p.Clips[0], renderOptions, true)), "agrimony", "plain")
}

// Reading never fails in another way than with an error, and what is read can be taken.
func FuzzOpen(f *testing.F) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[{"id":"low","steps":[{"on":true},{},{"on":true,"degree":5}]}]}]}`))
	require.NoError(f, err)
	f.Add(rendered(f, p, &p.Clips[0], renderOptions, false))
	f.Add(rendered(f, p, &p.Clips[0], renderOptions, true))
	f.Add(written(f, 89, func(track *library.Track) { note(track, 3, 9, 36, 1, 5) }, func(track *library.Track) { note(track, 3, 1, 60, 1, 5) }))
	f.Fuzz(func(t *testing.T, data []byte) {
		file, err := files.Open(data, nil)
		if err != nil {
			return
		}
		if _, err := file.Changed(); err == nil && file.Own != nil {
			back, _, err := file.Reopened(false)
			if err == nil {
				_, err = piece.Read(piece.Write(back))
				require.NoError(t, err)
			}
		}
		if file.Song == nil {
			return
		}
		_, err = file.Report(files.Options{Controls: true}, lane.Auto)
		require.NoError(t, err)
		got, err := file.Take(files.Options{Controls: true})
		if err != nil {
			return
		}
		taken, err := file.Piece(got, "In")
		require.NoError(t, err)
		_, err = piece.Read(piece.Write(taken))
		require.NoError(t, err)
	})
}

func boolean(b bool) int {
	if b {
		return 1
	}
	return 0
}

// Tracks of several voices that fit chords are offered as chords first, strummed a little, too.
func TestTracksThatFitChordsAreOfferedAsChords(t *testing.T) {
	strummed := func(apart uint32) []byte {
		return written(t, 480, func(track *library.Track) {
			for _, root := range []uint8{50, 55, 50, 55} {
				for k, tone := range []uint8{0, 3, 7} {
					track.Add(apart*uint32(boolean(k > 0)), gomidi.NoteOn(0, root+tone, 80))
				}
				for k, tone := range []uint8{0, 3, 7} {
					track.Add((1920-2*apart)*uint32(boolean(k == 0)), gomidi.NoteOff(0, root+tone))
				}
			}
		})
	}
	line := written(t, 480, func(track *library.Track) {
		for i, key := range []uint8{38, 38, 41, 45} {
			note(track, uint32(240*boolean(i > 0)), 0, key, 90, 240)
		}
	})
	for name, c := range map[string]struct {
		data  []byte
		first string
	}{"at once": {strummed(0), "chords"}, "strummed": {strummed(10), "chords"}, "a line": {line, lane.Auto}} {
		f, err := files.Open(c.data, nil)
		require.NoError(t, err, name)
		offers, err := f.Offers(files.Options{})
		require.NoError(t, err, name)
		require.Len(t, offers, 1, name)
		assert.Equal(t, []any{1, c.first, len(lane.Becomings())}, []any{offers[0].Track, offers[0].First, len(offers[0].Offers)}, name)
	}
}
