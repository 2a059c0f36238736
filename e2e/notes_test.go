package e2e

import (
	"encoding/base64"
	"fmt"
	"io"
	"net/http"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	gomidi "gitlab.com/gomidi/midi/v2"
	library "gitlab.com/gomidi/midi/v2/smf"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
)

// notesIn begins a piece in a key with one lane of free notes.
func notesIn(t *testing.T, key string) (*site, *hand) {
	s := serve(t)
	fresh, err := edit.Apply(piece.Default(), []op.Op{
		op.Of(op.SetPiece{Patch: []byte(`{"key":` + key + `,"tempo":104}`)}), op.Of(op.AddClip{Name: "First clip"}),
		op.Of(op.AddLane{OnClip: op.OnClip{Clip: "first-clip"}, Kind: "notes", Name: "Drift", First: true}),
		op.Of(op.SetClip{OnClip: op.OnClip{Clip: "first-clip"}, Patch: []byte(`{"bars":4}`)})})
	require.NoError(t, err)
	require.NoError(t, s.store.Create("untitled", fresh))
	p := s.open(t, "/piece/untitled")
	p.rest()
	return s, &hand{tab: p}
}

// free are the notes of the lane that is last in a clip, by "place@at+length".
func (h *hand) free(s *site, clip, lane int) (out []string) {
	h.t.Helper()
	h.saved()
	own := s.piece(h.t, h.id()).Clips[clip].Lanes[lane]
	for _, n := range own.Content.(*piece.Notes).Notes {
		out = append(out, fmt.Sprintf("%d.%d@%d+%d", n.Degree, n.Octave, n.At, n.Length))
	}
	return out
}

func (h *hand) tap(lane string, step, pitch int) {
	h.t.Helper()
	h.gestures++
	h.click(lane, step, pitch)
}

func (h *hand) pull(held int, places ...point) {
	h.t.Helper()
	h.gestures++
	h.drag([]input.Modifier{0, alt, shift}[held], places...)
	h.saved()
}

func (h *hand) type_(keys ...string) {
	h.t.Helper()
	for _, key := range keys {
		h.gestures++
		h.key(key)
		h.saved()
	}
}

// chordFile is a MIDI file of four chords, a bar each.
func chordFile(t *testing.T) []byte {
	file := library.New()
	file.TimeFormat = library.MetricTicks(480)
	var track library.Track
	track.Add(0, library.MetaTrackSequenceName("Lanterns"))
	for _, chord := range [][]uint8{{50, 53, 57}, {55, 59, 62}, {48, 52, 55}, {57, 60, 64}} {
		for _, key := range chord {
			track.Add(0, gomidi.NoteOn(0, key, 80))
		}
		for i, key := range chord {
			track.Add(uint32(1920*boolean(i == 0)), gomidi.NoteOff(0, key))
		}
	}
	track.Close(0)
	require.NoError(t, file.Add(track))
	data, err := file.Bytes()
	require.NoError(t, err)
	return data
}

func boolean(b bool) int {
	if b {
		return 1
	}
	return 0
}

// drop drops a file on the page.
func (p *tab) drop(name string, data []byte) {
	p.t.Helper()
	var done bool
	p.do(chromedp.Evaluate(fmt.Sprintf(`(() => {
		const bytes = Uint8Array.from(atob(%q), (c) => c.charCodeAt(0));
		const data = new DataTransfer();
		data.items.add(new File([bytes], %q));
		return window.dispatchEvent(new DragEvent("drop", { dataTransfer: data, cancelable: true, bubbles: true })) || true;
	})()`, base64.StdEncoding.EncodeToString(data), name), &done))
}

// A bass out of chords: a file of chords dropped, its lowest notes taken, an octave down, cut and moved
// off the downbeats, doubled, the second half varied, three bends, rendered.
func TestABassOutOfChords(t *testing.T) {
	s, p := notesIn(t, `{"tonic":"D","scale":"dorian"}`)
	p.gestures++
	p.drop("quay.mid", chordFile(t))
	p.until(`document.querySelector("[role=dialog]")?.innerText.includes("Lanterns")`)
	p.choose("What Lanterns becomes", "notes")
	p.choose("Which notes of Lanterns", "lowest")
	p.until(`document.querySelector("[data-testid=differs-1]")?.innerText.includes("no note moves")`)
	p.press("Add it as a clip")
	p.until(`window.agrimony?.lanterns && !document.querySelector("[role=dialog]")`)
	p.rest()
	require.Equal(t, []string{"1.0@0+3840", "4.0@3840+3840", "7.-1@7680+3840", "5.0@11520+3840"}, p.free(s, 1, 0))

	p.choose("Voices of Lanterns", "one")
	p.tap("lanterns", 2, 50)
	p.key("a", ctrl)
	p.gestures++
	p.key("ArrowDown", alt) // an octave down
	p.key("2", alt)         // each cut in two
	p.gestures += 2
	p.saved()
	require.Len(t, p.free(s, 1, 0), 8)
	p.key("ArrowRight", alt) // and off the downbeats, by two sixteenths
	p.key("ArrowRight", alt)
	p.gestures += 2
	p.type_("W") // doubled
	require.Equal(t, 8, s.piece(t, p.id()).Clips[1].Bars)
	require.Len(t, p.free(s, 1, 0), 16)
	p.until(`window.agrimony?.lanterns && document.body.innerText.includes("8 bars")`)
	p.press("all")
	p.rest()

	// The second half answers differently.
	p.tap("lanterns", 68, 38)
	p.type_("ArrowUp", "ArrowRight", "ArrowUp", "ArrowUp")

	edge := func(step, pitch int) point { // the line where a step begins
		at := p.at("lanterns", step, pitch)
		at.X -= at.Step / 2
		return at
	}
	// Bent into the next note.
	p.tap("lanterns", 12, 38)
	p.type_("t", "ArrowRight", "g")
	// Away from a note: its end is drawn up by two rows.
	p.tap("lanterns", 28, 43)
	p.pull(0, edge(33, 43), edge(33, 47))
	// An octave, with a curve: its row is below those in sight.
	p.press("Show lower notes")
	p.press("Show lower notes")
	p.tap("lanterns", 43, 36)
	p.pull(0, edge(49, 36), edge(49, 48))
	notes := s.piece(t, p.id()).Clips[1].Lanes[0].Content.(*piece.Notes).Notes
	var ties, glides int
	var bends []int
	for _, n := range notes {
		ties += boolean(n.Tie)
		glides += boolean(n.Glide != nil)
		for _, point := range n.Bend {
			if point.By != 0 {
				bends = append(bends, point.By)
			}
		}
	}
	assert.Equal(t, []int{1, 1}, []int{ties, glides})
	require.Equal(t, []int{4, 12}, bends)

	way := edge(47, 42) // half way of the bend, by its time and its height
	p.pull(0, way, point{X: way.X, Y: way.Y + 40})
	notes = s.piece(t, p.id()).Clips[1].Lanes[0].Content.(*piece.Notes).Notes
	curved := 0
	for _, n := range notes {
		for _, point := range n.Bend {
			curved += boolean(point.By == 12 && point.Curve != 0)
		}
	}
	assert.Equal(t, 1, curved, "the octave is curved")

	p.type_("e")
	p.gestures++
	file := p.download()
	require.NotEmpty(t, file.Tracks)
	assert.NotEmpty(t, file.Tracks[1].Bends)
	assert.LessOrEqual(t, p.gestures, 40)
	t.Logf("a bass out of chords: %d gestures", p.gestures)
}

// A contour painted in lydian, moved to the start, four notes of it stamped an octave higher as a
// motif, two notes stretched, rendered.
func TestAPaintedContour(t *testing.T) {
	s, p := notesIn(t, `{"tonic":"D","scale":"lydian"}`)
	p.pull(1, p.at("drift", 5, 50), p.at("drift", 9, 57), p.at("drift", 12, 52))
	painted := p.free(s, 0, 0)
	require.Len(t, painted, 8)
	for _, n := range s.piece(t, p.id()).Clips[0].Lanes[0].Content.(*piece.Notes).Notes {
		assert.Zero(t, n.Alter, "all in the key")
	}
	p.gestures += 2
	p.key("a", ctrl)
	p.key("Home", alt) // moved to the start
	p.saved()
	require.Equal(t, "1.0@0+240", p.free(s, 0, 0)[0])

	p.pull(2, p.at("drift", 1, 48), p.at("drift", 4, 59)) // four of them framed
	p.type_("f")
	from := p.at("drift", 17, 62)
	p.pull(1, from, p.at("drift", 20, 62)) // stamped an octave higher
	after := p.free(s, 0, 0)
	require.Len(t, after, 12)
	assert.Equal(t, "1.1@3840+240", after[8], "the motif's first note on the stroke's row")
	assert.Equal(t, after[3][1:3], ".0")
	assert.Equal(t, after[11][1:3], ".1")

	p.pull(2, p.at("drift", 17, 60), p.at("drift", 18, 66)) // two of them
	p.fill("Stretch to, in %", "200")                       // and Enter, which stretches
	stretched := p.free(s, 0, 0)
	assert.Equal(t, []string{"1.1@3840+480", stretched[9][:3] + "@4320+480"}, []string{stretched[8], stretched[9]})
	p.type_("e")
	p.gestures++
	file := p.download()
	require.Len(t, file.Tracks, 2)
	assert.Len(t, file.Tracks[1].Notes, 12)
	assert.LessOrEqual(t, p.gestures, 25)
	t.Logf("a painted contour: %d gestures", p.gestures)
}

// What is dropped and no MIDI file, or a torn one, is refused in words, and nothing is lost.
func TestWhatIsDroppedAndNoMIDIFileIsSaid(t *testing.T) {
	s, p := notesIn(t, `{"tonic":"D","scale":"dorian"}`)
	before := s.piece(t, p.id())
	p.drop("quay.png", []byte("a picture, say"))
	p.until(`document.body.innerText.includes("“quay.png” is no MIDI file: drop one that ends in .mid.")`)
	whole := chordFile(t)
	for name, data := range map[string][]byte{"words.mid": []byte("a picture, say"), "torn.mid": whole[:len(whole)-20]} {
		p.drop(name, data)
		p.until(`document.querySelector("[role=dialog] [role=alert]")?.innerText.includes("byte ")`)
		p.key("Escape")
		p.until(`!document.querySelector("[role=dialog]")`)
	}
	assert.Equal(t, before, s.piece(t, p.id()))
	p.tap("drift", 2, 50) // and the page lives on
	assert.Equal(t, []string{"1.0@240+240"}, p.free(s, 0, 0))
}

// Notes played in stand one after another on the grid, in the key, and go on after what was played last.
func TestFreeNotesArePlayedIn(t *testing.T) {
	s, p := notesIn(t, `{"tonic":"D","scale":"dorian"}`)
	p.key("p")
	p.press("Write")
	p.until(`document.querySelectorAll("[aria-label=Keyboard] [data-letter]").length > 7`)
	for _, key := range []string{"a", "s", "d"} {
		p.key(key)
		p.saved()
	}
	p.press("Rest")
	p.key("a")
	p.saved()
	assert.Equal(t, []string{"1.0@0+240", "2.0@240+240", "3.0@480+240", "1.0@960+240"}, p.free(s, 0, 0))
	p.until(`document.querySelector("[data-testid=enter-step]")?.innerText === "bar 1, beat 2 is next"`)
}

// A lane of steps is printed by hand, heard the same, and one undo takes it back; rendered, the file
// brings the lanes back.
func TestALaneIsPrintedAndAFileReopened(t *testing.T) {
	s, p := notesIn(t, `{"tonic":"D","scale":"dorian"}`)
	p.pull(1, p.at("drift", 1, 50), p.at("drift", 5, 57))
	before := s.piece(t, p.id())
	p.key("l")
	p.until(inDialog)
	p.press("Print")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.saved()
	lanes := s.piece(t, p.id()).Clips[0].Lanes
	require.Len(t, lanes, 2)
	assert.Equal(t, []any{true, "Drift notes", "notes"}, []any{lanes[0].Mute, lanes[1].Name, lanes[1].Kind})
	assert.Len(t, lanes[1].Content.(*piece.Notes).Notes, len(before.Clips[0].Lanes[0].Content.(*piece.Notes).Notes))
	p.key("z", ctrl)
	p.saved()
	assert.Equal(t, before, s.piece(t, p.id()))

	state, err := s.store.Load(p.id())
	require.NoError(t, err)
	p.drop("ours.mid", fetched(t, s.url+"/api/pieces/"+p.id()+"/clips/first-clip/midi"))
	p.until(`document.querySelector("[role=dialog]")?.innerText.includes("It was rendered here")`)
	p.press("Add it as a clip")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.saved()
	clips := s.piece(t, p.id()).Clips
	require.Len(t, clips, 2)
	assert.Equal(t, state.Piece.Clips[0].Lanes, clips[1].Lanes)
}

func fetched(t *testing.T, url string) []byte {
	t.Helper()
	response, err := http.Get(url)
	require.NoError(t, err)
	defer response.Body.Close()
	data, err := io.ReadAll(response.Body)
	require.NoError(t, err)
	require.Equal(t, http.StatusOK, response.StatusCode)
	return data
}
