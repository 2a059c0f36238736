package files_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	gomidi "gitlab.com/gomidi/midi/v2"
	library "gitlab.com/gomidi/midi/v2/smf"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/files"
	"agrimony/internal/core/intake"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/piece/piecetest"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
	"agrimony/internal/demo"
)

func rendered(t testing.TB, p *piece.Piece, clip *piece.Clip, options render.Options, plain bool) []byte {
	performance, err := lane.Render(p, clip, options)
	require.NoError(t, err)
	out := smf.Default
	if !plain {
		out.Own, err = files.Pack(p, clip, options, out.Type)
		require.NoError(t, err)
	}
	data, err := smf.Encode(performance, out)
	require.NoError(t, err)
	return data
}

// A rendered file comes back as the document that it was rendered from, every field.
func TestAFileOfOursComesBackWhole(t *testing.T) {
	p, err := demo.Piece()
	require.NoError(t, err)
	for i := range p.Clips {
		clip := &p.Clips[i]
		for _, ppq := range []int{96, 480, 960} {
			options := render.Options{Bars: 2, PPQ: ppq}
			file, err := files.Open(rendered(t, p, clip, options, false), nil)
			require.NoError(t, err)
			require.NotNil(t, file.Own, clip.ID)
			assert.Equal(t, options.Bars, file.Own.Bars)
			assert.Equal(t, ppq, file.Own.PPQ)
			changed, err := file.Changed()
			require.NoError(t, err)
			assert.Zero(t, changed, "%s at %d", clip.ID, ppq)
			back, remarks, err := file.Reopened(false)
			require.NoError(t, err)
			assert.Empty(t, remarks)
			assert.Equal(t, string(piece.Write(files.Alone(p, clip))), string(piece.Write(back)), clip.ID)
		}
	}
}

var renderOptions = render.Options{PPQ: 960}

// tracks are the notes of a file's tracks, by channel and key, as a reader written by others has
// them, in 960ths, less what one key cannot sound twice.
func tracks(t testing.TB, data []byte) map[string]int {
	file, err := smf.Decode(data, nil)
	require.NoError(t, err)
	out := map[string]int{}
	for i := range file.Tracks {
		var by [17][]intake.Note
		for _, n := range file.Tracks[i].Notes {
			at := (n.At*1920 + int64(file.PPQ)) / int64(2*file.PPQ)
			end := ((n.At+n.Length)*1920 + int64(file.PPQ)) / int64(2*file.PPQ)
			by[n.Channel] = append(by[n.Channel], intake.Note{At: int(at), Length: int(max(end-at, 1)), Pitch: int(n.Pitch), Velocity: int(n.Velocity)})
		}
		for channel, notes := range by {
			for _, n := range intake.Heard(notes) {
				out[fmt.Sprint(channel, n)]++
			}
		}
	}
	return out
}

func eventsOf(t testing.TB, p *piece.Piece) map[string]int {
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	out := map[string]int{}
	for _, n := range performance.Events().Notes {
		out[fmt.Sprint(n.Channel, intake.Note{At: int(n.At), Length: int(n.Length), Pitch: int(n.Pitch), Velocity: int(n.Velocity)})]++
	}
	return out
}

// As notes, every note of a file is in the performance, to the tick.
func TestAsNotesEveryNoteIsThere(t *testing.T) {
	check := func(data []byte, name string) {
		file, err := files.Open(data, nil)
		if err != nil {
			require.ErrorContains(t, err, "sounds no note", name)
			return
		}
		var choices []files.Choice
		for i := range file.Song.Parts {
			choices = append(choices, files.Choice{Part: i, As: lane.Always})
		}
		taken, err := file.Take(files.Options{Choices: choices})
		require.NoError(t, err, name)
		p, err := file.Piece(taken, "In")
		require.NoError(t, err, name)
		assert.Equal(t, tracks(t, data), eventsOf(t, p), name)
	}
	p, err := demo.Piece()
	require.NoError(t, err)
	for i := range p.Clips {
		for _, ppq := range []int{96, 960} {
			check(rendered(t, p, &p.Clips[i], render.Options{Bars: 3, PPQ: ppq}, true), p.Clips[i].ID)
		}
	}
	for i := range 60 {
		random := rand.New(rand.NewPCG(9, uint64(i)))
		heavy, err := piece.Read([]byte(piecetest.Heavy(random.IntN, 1500)))
		require.NoError(t, err)
		performance, err := lane.Render(heavy, &heavy.Clips[0], render.Options{Bars: 1, PPQ: 480, Events: piece.MaxNotes})
		if err != nil {
			continue
		}
		data, err := smf.Encode(performance, smf.Default)
		require.NoError(t, err)
		check(data, fmt.Sprint("heavy ", i))
	}
}

// written is a file that another library writes.
func written(t testing.TB, ppq uint16, tracks ...func(track *library.Track)) []byte {
	file := library.New()
	file.TimeFormat = library.MetricTicks(ppq)
	for _, fill := range tracks {
		var track library.Track
		fill(&track)
		track.Close(0)
		require.NoError(t, file.Add(track))
	}
	data, err := file.Bytes()
	require.NoError(t, err)
	return data
}

// note adds a note so many ticks after the last event.
func note(track *library.Track, after uint32, channel, key, velocity uint8, length uint32) {
	track.Add(after, gomidi.NoteOn(channel, key, velocity))
	track.Add(length, gomidi.NoteOff(channel, key))
}

// What another program changed in a file of ours is written into the steps, and sounds as the file
// does.
func TestWhatChangedInAFileOfOursComesBack(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"D","scale":"dorian"},"clips":[{"id":"a","bars":1,"lanes":[
		{"id":"low","octave":2,"channel":1,"steps":[{"on":true,"gate":50},{},{"on":true,"degree":3,"gate":50},{},{"on":true,"degree":5,"gate":50},{},{},{},{},{},{},{},{},{},{},{}]},
		{"id":"walk","kind":"phrase","source":"own","tones":[{"degree":1},{"degree":5}],"channel":2,"steps":[{"on":true},{"on":true}]}]}]}`))
	require.NoError(t, err)
	whole := rendered(t, p, &p.Clips[0], render.Options{PPQ: 960}, false)
	for name, c := range map[string]struct {
		change  func(song *files.File)
		changed int
		lanes   int
	}{
		"louder":      {func(f *files.File) { f.Song.Parts[0].Notes[1].Velocity = 30 }, 1, 2},
		"gone":        {func(f *files.File) { f.Song.Parts[0].Notes = f.Song.Parts[0].Notes[1:] }, 1, 2},
		"shorter":     {func(f *files.File) { f.Song.Parts[0].Notes[0].Length = 60 }, 1, 2},
		"another row": {func(f *files.File) { f.Song.Parts[0].Notes[2].Pitch = 46 }, 1, 2},
		"moved":       {func(f *files.File) { f.Song.Parts[0].Notes[2].At += 240 }, 1, 2},
		"added": {func(f *files.File) {
			f.Song.Parts[0].Notes = append(f.Song.Parts[0].Notes, intake.Note{At: 2400, Length: 120, Pitch: 45, Velocity: 90})
		}, 1, 2},
		"one round":  {func(f *files.File) { f.Song.Parts[1].Notes[5].Velocity = 3 }, 1, 3},
		"odd length": {func(f *files.File) { f.Song.Parts[0].Notes[2].Length = 1001 }, 1, 3},
	} {
		file, err := files.Open(whole, nil)
		require.NoError(t, err)
		c.change(file)
		changed, err := file.Changed()
		require.NoError(t, err)
		assert.Equal(t, c.changed, changed, name)
		back, remarks, err := file.Reopened(false)
		require.NoError(t, err)
		assert.NotEmpty(t, remarks, name)
		assert.Len(t, back.Clips[0].Lanes, c.lanes, name)
		want := map[string]int{}
		for _, part := range file.Song.Parts {
			for _, n := range part.Notes {
				want[fmt.Sprint(part.Channel, n)]++
			}
		}
		assert.Equal(t, want, eventsOf(t, back), name)
		was, _, err := file.Reopened(true)
		require.NoError(t, err)
		assert.Equal(t, string(piece.Write(p)), string(piece.Write(was)), "%s: as it was", name)
	}
}

// An until clip of seven sixteenths comes back as long as its file, also where a lane of notes stands beside its lanes.
func TestAChangedUntilClipComesBackAsLongAsItWas(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","until":"cycle","lanes":[
		{"id":"low","octave":2,"channel":1,"steps":[{"on":true,"chance":50},{"on":true},{},{"on":true},{},{},{}]}]}]}`))
	require.NoError(t, err)
	file, err := files.Open(rendered(t, p, &p.Clips[0], render.Options{PPQ: 960}, false), nil)
	require.NoError(t, err)
	file.Song.Parts[0].Notes[0].Length = 1 // as no step has it
	back, _, err := file.Reopened(false)
	require.NoError(t, err)
	performance, err := lane.Render(back, &back.Clips[0], render.Options{})
	require.NoError(t, err)
	assert.Equal(t, int64(7*240), performance.Length.Export(960))
}

// Lanes that meet on one key and channel are told apart in a file of one track, too.
func TestLanesThatMeetAreNotTakenForChanged(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[
		{"id":"x","octave":3,"channel":3,"rate":"1/2","steps":[{"on":true,"gate":100},{"on":true}]},
		{"id":"y","octave":3,"channel":3,"rate":"1/4","steps":[{},{"on":true},{"on":true,"degree":3},{"on":true}]}]}]}`))
	require.NoError(t, err)
	for _, kind := range []int{0, 1} {
		performance, err := lane.Render(p, &p.Clips[0], render.Options{PPQ: 960})
		require.NoError(t, err)
		options := smf.Default
		options.Type = kind
		options.Own, err = files.Pack(p, &p.Clips[0], render.Options{PPQ: 960}, kind)
		require.NoError(t, err)
		data, err := smf.Encode(performance, options)
		require.NoError(t, err)
		file, err := files.Open(data, nil)
		require.NoError(t, err)
		changed, err := file.Changed()
		require.NoError(t, err)
		assert.Zero(t, changed, "type %d", kind)
	}
}

// A document of ours that cannot be rendered is like a torn one: the file comes in plainly, and it is said why.
func TestADocumentThatCannotBeRenderedComesInPlainly(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[{"id":"x","steps":[{"on":true}]}]}]}`))
	require.NoError(t, err)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{PPQ: 960})
	require.NoError(t, err)
	late := *p
	late.Clips = []piece.Clip{p.Clips[0]}
	late.Clips[0].Bars, late.Clips[0].Until = 0, "realign"
	late.Clips[0].Lanes = nil
	for _, n := range []int{509, 503, 499, 491} { // they meet too late to be rendered
		own := piece.NewLane("line", fmt.Sprint("l", n), "")
		require.NoError(t, piece.PatchLane("", fmt.Appendf(nil, `{"steps":[%s]}`, strings.TrimSuffix(strings.Repeat(`{"on":true},`, n), ",")), &own))
		late.Clips[0].Lanes = append(late.Clips[0].Lanes, own)
	}
	require.NoError(t, piece.Check(&late))
	options := smf.Default
	options.Own, err = files.Pack(&late, &late.Clips[0], render.Options{PPQ: 960}, 1)
	require.NoError(t, err)
	data, err := smf.Encode(performance, options)
	require.NoError(t, err)
	file, err := files.Open(data, nil)
	require.NoError(t, err)
	assert.Nil(t, file.Own)
	assert.Contains(t, file.Why, "its own document cannot be rendered")
	taken, err := file.Take(files.Options{})
	require.NoError(t, err)
	assert.Len(t, taken.Lanes, 1)
}

// Triads held for a length that is no whole percent of a step are chords, as near as a hundredth.
func TestBlockTriadsAreChordsWhateverTheirGates(t *testing.T) {
	var notes []intake.Note
	for bar, root := range []int{60, 65, 67, 60} {
		for _, tone := range []int{0, 4, 7} {
			notes = append(notes, intake.Note{At: bar * 3840, Length: 3531, Pitch: root + tone, Velocity: 90})
		}
	}
	key, err := pitch.ParseKey("C major")
	require.NoError(t, err)
	became, err := lane.Become(lane.Auto, &intake.Source{Key: key, Meter: beat.Meter{Count: 4, Unit: 4}, Length: 4 * 3840, Notes: notes}, 120)
	require.NoError(t, err)
	assert.Equal(t, "chords", became.As)
}
