package order_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/edit"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/piece/piecetest"
	"agrimony/internal/core/render"
)

// read reads a piece of some clips and entries.
func read(t require.TestingT, more, clips, entries string) *piece.Piece {
	p, err := piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"key":{"tonic":"D","scale":"dorian"}%s,"clips":[%s],"order":{"entries":[%s]}}`, more, clips, entries)))
	require.NoError(t, err)
	return p
}

func rendered(t require.TestingT, p *piece.Piece, o order.Options) *order.Performance {
	out, err := order.Render(p, o)
	require.NoError(t, err)
	return out
}

// line is a clip of one bar with a line of quarters.
func line(id, rest, steps string) string {
	return fmt.Sprintf(`{"id":%q,"bars":1,"lanes":[{"id":"low","octave":3%s,"rate":"1/4","steps":[%s]}]}`, id, rest, steps)
}

// heard writes notes as "clip pitch at+length".
func heard(p *order.Performance) string {
	var out []string
	for _, n := range p.Events().Notes {
		out = append(out, fmt.Sprintf("%s %s %d+%d", n.Clip, n.Name, n.At, n.Length))
	}
	return strings.Join(out, ", ")
}

const four = `{"on":true,"gate":50},{"on":true,"degree":2,"gate":50},{"on":true,"degree":3,"gate":50},{"on":true,"degree":4,"gate":50}`

func TestFacts(t *testing.T) {
	long := `{"on":true,"gate":100,"tie":true},{"tie":true},{"tie":true},{"gate":100}`
	for name, c := range map[string]struct{ clips, entries, want string }{
		"a round and a half":                         {line("a", "", four), `{"clip":"a","at":0,"for":5760}`, "a D3 0+480, a E3 960+480, a F3 1920+480, a G3 2880+480, a D3 3840+480, a E3 4800+480"},
		"begun in the middle":                        {line("a", "", four), `{"clip":"a","at":960,"for":1920,"from":1920}`, "a F3 960+480, a G3 1920+480"},
		"begun beyond its end":                       {line("a", "", four), `{"clip":"a","at":0,"for":960,"from":4800}`, "a E3 0+480"},
		"shifted along the scale":                    {line("a", "", four), `{"clip":"a","at":0,"for":1920,"shift":2}`, "a F3 0+480, a G3 960+480"},
		"shifted down":                               {line("a", "", four), `{"clip":"a","at":0,"for":1920,"shift":-1}`, "a C3 0+480, a D3 960+480"},
		"cut at its end":                             {line("a", "", long), `{"clip":"a","at":0,"for":1000}`, "a D3 0+1000"},
		"or left to ring":                            {line("a", "", `{"on":true,"gate":200},{},{},{}`), `{"clip":"a","at":0,"for":960,"ring":true}`, "a D3 0+1920"},
		"a bar at most":                              {line("a", "", `{"on":true,"gate":400,"tie":true},{"tie":true},{"tie":true},{"tie":true,"gate":400}`), `{"clip":"a","at":0,"for":960,"ring":true}`, "a D3 0+4800"},
		"as long as its ties hold":                   {line("a", "", `{"on":true,"tie":true},{"tie":true},{"gate":80},{"on":true}`), `{"clip":"a","at":0,"for":960,"ring":true}`, "a D3 0+2688"},
		"up to the onset that they lead into":        {line("a", "", `{"on":true,"tie":true},{"tie":true},{"on":true,"degree":2},{}`), `{"clip":"a","at":0,"for":960,"ring":true}`, "a D3 0+1950"},
		"what sounds across its start is struck":     {line("a", "", long), `{"clip":"a","at":0,"for":1000,"from":2000}`, "a D3 0+1000"},
		"unless less than a sixteenth is left":       {line("a", "", long), `{"clip":"a","at":0,"for":1840,"from":3601}`, "a D3 239+1601"},
		"a lane is muted":                            {line("a", "", four), `{"clip":"a","at":0,"for":960},{"clip":"a","at":960,"for":960,"from":960,"mute":["low"]},{"clip":"a","at":1920,"for":960,"from":1920}`, "a D3 0+480, a F3 1920+480"},
		"two clips at once on channels of their own": {line("a", "", four) + "," + line("b", "", `{"on":true,"degree":5}`), `{"clip":"a","at":0,"for":960},{"clip":"b","at":0,"for":960}`, "a D3 0+480, b A3 0+720"},
		"on one channel a key is struck once":        {line("a", `,"channel":3`, four) + "," + line("b", `,"channel":3`, `{"on":true,"gate":90}`), `{"clip":"a","at":0,"for":960},{"clip":"b","at":0,"for":960}`, "a D3 0+864"},
		"and ends before it is struck again":         {line("a", `,"channel":3`, long) + "," + line("b", `,"channel":3`, `{"on":true}`), `{"clip":"a","at":0,"for":3840},{"clip":"b","at":1920,"for":960}`, "a D3 0+1919, b D3 1920+720"},
		"a channel is handed over a tick early":      {line("a", `,"channel":3`, long) + "," + line("b", `,"channel":3`, `{"on":true,"degree":5}`), `{"clip":"a","at":0,"for":960},{"clip":"b","at":960,"for":960}`, "a D3 0+959, b A3 960+720"},
	} {
		t.Run(name, func(t *testing.T) {
			assert.Equal(t, c.want, heard(rendered(t, read(t, "", c.clips, c.entries), order.Options{})))
		})
	}
}

// A bass over chords is moved by them, once; drums and notes of MIDI stay.
func TestWhatAShiftMoves(t *testing.T) {
	chords := `{"id":"veil","kind":"chords","octave":3,"rate":"1bar","palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]}],"steps":[{"on":true}]}`
	for name, c := range map[string]struct{ lane, want string }{
		"a line":                          {`{"id":"x","octave":2,"steps":[{"on":true}]}`, "E2"},
		"a line that follows the root":    {`{"id":"x","octave":2,"follow":"root","steps":[{"on":true,"degree":1}]}`, "E2"},
		"a line that is locked to chords": {`{"id":"x","octave":2,"lock":"chord","steps":[{"on":true,"degree":1}]}`, "E2"},
		"a pulse on a degree":             {`{"id":"x","kind":"pulse","octave":2,"pitch":{"degree":3},"steps":[{"on":true}]}`, "G2"},
		"a pulse on a note":               {`{"id":"x","kind":"pulse","note":40,"steps":[{"on":true}]}`, "E2"},
		"a line on the drums' channel":    {`{"id":"x","octave":2,"channel":10,"steps":[{"on":true}]}`, "D2"},
		"and one that is locked there":    {`{"id":"x","octave":2,"channel":10,"lock":"chord","steps":[{"on":true,"degree":3}]}`, "F2"},
		"a phrase":                        {`{"id":"x","kind":"phrase","octave":3,"steps":[{"on":true}]}`, "E3"},
		"a phrase of its own tones":       {`{"id":"x","kind":"phrase","octave":3,"source":"own","tones":[{"degree":3}],"steps":[{"on":true}]}`, "G3"},
		"a note of the key":               {`{"id":"x","kind":"notes","octave":2,"notes":[{"at":0,"length":480,"degree":2}]}`, "F2"},
		"a MIDI note":                     {`{"id":"x","kind":"notes","notes":[{"at":0,"length":480,"note":40}]}`, "E2"},
	} {
		t.Run(name, func(t *testing.T) {
			p := read(t, "", `{"id":"a","bars":1,"lanes":[`+chords+","+c.lane+`]}`, `{"clip":"a","at":0,"for":3840,"shift":1}`)
			o := rendered(t, p, order.Options{})
			for _, n := range o.Events().Notes {
				if n.Lane == "x" && n.At == 0 {
					assert.Equal(t, c.want, n.Name)
					return
				}
			}
			t.Fatal("it sounds")
		})
	}
	p := read(t, "", `{"id":"a","bars":1,"lanes":[`+chords+`]}`, `{"clip":"a","at":0,"for":3840,"shift":1}`)
	assert.Equal(t, "Em", rendered(t, p, order.Options{}).Events().Harmony[0].Symbol)
	alone := read(t, "", `{"id":"a","bars":1,"lanes":[{"id":"x","kind":"phrase","octave":3,"source":"own","tones":[{"degree":1},{"degree":3}],"pedal":{"tone":"root","octave":-1},"steps":[{"on":true},{},{},{}]}]}`, `{"clip":"a","at":0,"for":960,"shift":1}`)
	assert.Equal(t, "a E2 0+180, a E3 0+180", heard(rendered(t, alone, order.Options{})), "a pedal's root without harmony")
}

func TestTheConductor(t *testing.T) {
	clips := line("a", "", four) + `,{"id":"b","name":"Bee","key":{"tonic":"A","scale":"lydian"},"bars":1,"lanes":[{"id":"veil","kind":"chords","rate":"1/2","palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]}],"steps":[{"on":true},{"on":true,"chord":2}]}]}`
	o := rendered(t, read(t, "", clips, `{"clip":"a","at":0,"for":1920},{"clip":"b","at":960,"for":3840},{"clip":"a","at":7680,"for":960},{"clip":"b","at":7680,"for":960,"mute":["veil"]}`), order.Options{})
	text := func(marks []order.Mark) (out []string) {
		for _, m := range marks {
			out = append(out, fmt.Sprint(m.At.Export(960), " ", m.Text))
		}
		return out
	}
	assert.Equal(t, []string{"0 a", "960 a + Bee", "1920 Bee", "4800 -", "7680 a"}, text(o.Markers()))
	assert.Equal(t, []string{"960 A", "2880 D#dim"}, text(o.ChordNames()))
	var keys []string
	for _, k := range o.Keys() {
		keys = append(keys, fmt.Sprint(k.At.Export(960), " ", k.Key))
	}
	assert.Equal(t, []string{"0 D dorian", "1920 A lydian", "7680 D dorian"}, keys)
}

func TestWhatIsFound(t *testing.T) {
	clips := line("a", "", four) + `,{"id":"mute","bars":1,"lanes":[{"id":"x","steps":[{}]}]}`
	o := rendered(t, read(t, `,"groove":{"swing":60}`, clips, `{"clip":"a","at":0,"for":960,"mute":["low"]},{"clip":"a","at":1920,"for":960,"from":7680},{"clip":"mute","at":3840,"for":960}`), order.Options{})
	var rules []string
	for _, f := range o.Findings {
		rules = append(rules, fmt.Sprint(f.Rule, " ", f.Entry))
	}
	assert.ElementsMatch(t, []string{"order-muted 1", "order-from 2", "order-silent 3", "order-groove 2"}, rules)
	var many []string
	for i := range 20 {
		many = append(many, line(fmt.Sprintf("c%d", i), fmt.Sprintf(`,"name":"N%d"`, i), four))
	}
	entries := ""
	for i := range many {
		entries += fmt.Sprintf(`,{"clip":"c%d","at":0,"for":%d}`, i, 960*(20-i))
	}
	o = rendered(t, read(t, "", strings.Join(many, ","), entries[1:]), order.Options{})
	used := map[int]int{}
	for i := range o.Tracks {
		used[o.Tracks[i].Part.Channel]++
	}
	assert.Len(t, used, 15)
	assert.Zero(t, used[10], "it is kept for drums")
	assert.Len(t, o.Findings, 5, "no channel is left for five")
	_, err := order.Render(read(t, "", line("a", "", four), ""), order.Options{})
	var empty *order.EmptyError
	assert.ErrorAs(t, err, &empty)
}

func TestAnOrderOfTooMuchIsRefused(t *testing.T) {
	busy := fmt.Sprintf(`{"id":"busy","bars":1,"lanes":[{"id":"x","rate":"1/64","steps":[%s]}]}`, strings.TrimSuffix(strings.Repeat(`{"on":true,"ratchet":8},`, 64), ","))
	_, err := order.Render(read(t, "", busy, `{"clip":"busy","at":0,"for":250000000}`), order.Options{})
	var many *render.TooManyError
	require.ErrorAs(t, err, &many)
	assert.Equal(t, "busy · x", many.Lane)
	assert.InDelta(t, 250000000/3840*512, many.Events, 2_000_000)
}

// note is a note without what the order adds to it.
type note struct {
	lane                         string
	step, round, pitch, velocity int
	at, length                   int64
}

func notesOf(events []order.NoteEvent, offset int64) (out []note) {
	for _, n := range events {
		out = append(out, note{n.Lane, n.Step, n.Round, n.Pitch, n.Velocity, n.At - offset, n.Length})
	}
	return out
}

// draw draws a piece of some clips, one of which may listen to the chords of another.
func draw(t *rapid.T) *piece.Piece {
	random := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
	for {
		p, err := piece.Read([]byte(piecetest.Heavy(random.IntN, 1500)))
		require.NoError(t, err)
		for k := range 1 + random.IntN(3) {
			text := piecetest.Heavy(random.IntN, 1200)
			if random.IntN(4) == 0 {
				text = piecetest.GlidingClip(func(low, high int, _ string) int { return low + random.IntN(high-low+1) }, 2)
			}
			other, err := piece.Read([]byte(text))
			require.NoError(t, err)
			clip := other.Clips[0]
			clip.ID, clip.Name = fmt.Sprintf("clip%d", k+1), fmt.Sprintf("Clip %d", k+1)
			p.Clips = append(p.Clips, clip)
		}
		p.Meter = []string{"4/4", "3/4", "7/8", "5/16"}[random.IntN(4)]
		for i := range p.Clips {
			c := &p.Clips[i]
			if c.Bars > 0 {
				c.Bars = 1 + random.IntN(4)
			}
			if i > 0 && random.IntN(3) == 0 && p.Clips[0].Harmonic() {
				c.Harmony = &piece.Harmony{Clip: p.Clips[0].ID}
			}
		}
		if piece.Check(p) == nil {
			return p
		}
	}
}

// An entry of one pass sounds as the clip does alone; of several passes, as the clip with the next take.
func TestAnEntryIsTheClipAlone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := draw(t)
		clip := &p.Clips[rapid.IntRange(0, len(p.Clips)-1).Draw(t, "clip")]
		length := order.LengthOf(p, clip, nil)
		if length == 0 || length > 40*p.Bar() || length%piece.OrderTick != 0 {
			return
		}
		passes := rapid.IntRange(1, 3).Draw(t, "passes")
		own := int(length / piece.OrderTick)
		p.Order.Entries = []piece.Entry{piece.NewEntry(clip.ID, 0, passes*own)}
		o, err := order.Render(p, order.Options{Events: 20_000})
		if err != nil {
			return
		}
		if slices.ContainsFunc(o.Findings, func(f order.Finding) bool { return f.Rule == "zone-voices" }) {
			return
		}
		events := o.Events()
		var want, got []note
		for k := range passes {
			taken := clip.Clone()
			for i := range taken.Lanes {
				taken.Lanes[i].Take += k
			}
			q := *p
			q.Clips = slices.Clone(p.Clips)
			q.Clips[slices.IndexFunc(q.Clips, func(c piece.Clip) bool { return c.ID == clip.ID })] = taken
			alone, err := lane.Render(&q, &taken, render.Options{})
			require.NoError(t, err)
			if alone.Length != length {
				return // with this take a walk has another length, and the clip with it: each pass is as long as the clip
			}
			for i := range alone.Lanes {
				if slices.ContainsFunc(alone.Lanes[i].Marks, func(m render.Mark) bool { return m.Kind == render.VoicesTaken }) {
					return // a zone has as many channels as lanes beside it leave, and lanes that are silent take none in an order
				}
			}
			told := alone.Events()
			for _, n := range told.Notes {
				want = append(want, note{n.Lane, n.Step, n.Round, n.Pitch, n.Velocity, n.At + int64(k*own), n.Length})
			}
		}
		got = notesOf(events.Notes, 0)
		less := func(a, b note) int {
			return strings.Compare(fmt.Sprintf("%09d %v", a.at, a), fmt.Sprintf("%09d %v", b.at, b))
		}
		slices.SortFunc(want, less)
		slices.SortFunc(got, less)
		require.Equal(t, want, got)
		for _, n := range events.Notes {
			require.Equal(t, (n.At/int64(own))+1, int64(n.Pass))
		}
	})
}

// entries draws a running order.
func entries(t *rapid.T, p *piece.Piece) {
	beats := int(p.BeatLength() / piece.OrderTick)
	for i := range p.Clips {
		at := 0
		for k := range rapid.IntRange(0, 3).Draw(t, "entries") {
			e := piece.NewEntry(p.Clips[i].ID, at+beats*rapid.IntRange(0, 6).Draw(t, "gap"), max(beats*rapid.IntRange(1, 24).Draw(t, "for")/rapid.SampledFrom([]int{1, 1, 3}).Draw(t, "part"), 1))
			e.From, e.Shift = beats*rapid.IntRange(0, 9).Draw(t, "from"), rapid.SampledFrom([]int{0, 0, 2, -3}).Draw(t, "shift")
			e.Run, e.Luck = rapid.SampledFrom(piece.Runs).Draw(t, "run"), rapid.SampledFrom(piece.Lucks).Draw(t, "luck")
			e.Pass, e.Ring = rapid.IntRange(1, 3).Draw(t, "pass"), rapid.Bool().Draw(t, "ring")
			if k == 0 && len(p.Clips[i].Lanes) > 1 && rapid.Bool().Draw(t, "mute") {
				e.Mute = []string{p.Clips[i].Lanes[0].ID}
			}
			at = e.End()
			p.Order.Entries = append(p.Order.Entries, e)
		}
	}
}

// keys are what a file's channels strike and release.
func checkKeys(t require.TestingT, o *order.Performance) {
	type key struct{ channel, pitch int }
	sounding, before := map[key]int64{}, map[key]order.NoteEvent{}
	for _, n := range o.Events().Notes {
		k := key{n.Channel, n.Pitch}
		require.LessOrEqual(t, sounding[k], n.At, "no key is struck while it sounds: %v after %v", n, before[k])
		before[k] = n
		sounding[k] = n.At + n.Length
		require.LessOrEqual(t, n.At+n.Length, o.Length.Export(o.PPQ))
		require.Positive(t, n.Length)
	}
}

// told gives an order's events without entries, which a split changes.
func told(o *order.Performance) string {
	e := o.Events()
	e.Findings = nil
	for i := range e.Notes {
		e.Notes[i].Entry, e.Notes[i].Pass = 0, 0
	}
	for i := range e.Bends {
		e.Bends[i].Entry = 0
	}
	for i := range e.Controls {
		e.Controls[i].Entry = 0
	}
	for i := range e.Pressures {
		e.Pressures[i].Entry = 0
	}
	for i := range e.Harmony {
		e.Harmony[i].Entry = 0
	}
	out, err := json.Marshal(e)
	if err != nil {
		panic(err)
	}
	return string(out)
}

func TestSplittingChangesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := draw(t)
		entries(t, p)
		if len(p.Order.Entries) == 0 || piece.Check(p) != nil {
			return
		}
		whole, err := order.Render(p, order.Options{Events: 15_000})
		if err != nil {
			return
		}
		checkKeys(t, whole)
		k := rapid.IntRange(0, len(p.Order.Entries)-1).Draw(t, "entry")
		e := p.Order.Entries[k]
		if e.For < 2 {
			return
		}
		split, err := edit.Apply(p, []op.Op{op.Of(op.SplitEntries{Entries: []int{k + 1}, At: e.At + rapid.IntRange(1, e.For-1).Draw(t, "at")})})
		require.NoError(t, err)
		require.Len(t, split.Order.Entries, len(p.Order.Entries)+1)
		halves, err := order.Render(split, order.Options{})
		require.NoError(t, err)
		require.Equal(t, told(whole), told(halves))
	})
}

// What a stretch has is what the whole has in it, but for what sounds across its start.
func TestAStretchIsAPartOfTheWhole(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := draw(t)
		for i := range p.Clips {
			for k := range p.Clips[i].Lanes {
				if steps := p.Clips[i].Lanes[k].Content.StepList(); steps != nil {
					for n := range steps.Len() { // what comes early belongs to where it stands, however far that is
						steps.Cell(n).Nudge = max(steps.Cell(n).Nudge, 0)
					}
				}
			}
		}
		entries(t, p)
		if len(p.Order.Entries) == 0 || piece.Check(p) != nil {
			return
		}
		whole, err := order.Render(p, order.Options{Events: 15_000})
		if err != nil {
			return
		}
		end := int(whole.Length / piece.OrderTick)
		if end < 3 {
			return
		}
		from := rapid.IntRange(0, end-2).Draw(t, "from")
		last := 0
		for _, e := range p.Order.Entries {
			last = max(last, e.End())
		}
		if from >= last {
			return
		}
		to := rapid.IntRange(from+1, end).Draw(t, "to")
		part := rendered(t, p, order.Options{From: from, To: to})
		checkKeys(t, part)
		var want []note
		for _, n := range notesOf(whole.Events().Notes, int64(from)) {
			if n.at > 0 && n.at < int64(to-from) {
				n.length = min(n.length, int64(to-from)-n.at)
				want = append(want, n)
			}
		}
		var got []note
		for _, n := range notesOf(part.Events().Notes, 0) {
			if n.at > 0 {
				got = append(got, n)
			}
		}
		if edge := int64(to - from - 960); edge > 0 { // what is early, or struck again, at the end is left to the end
			settled := func(list []note) (out []note) {
				for _, n := range list {
					if n.at+n.length > edge {
						n.length = 0
					}
					if n.at < edge {
						out = append(out, n)
					}
				}
				return out
			}
			want, got = settled(want), settled(got)
			require.ElementsMatch(t, want, got)
		}
	})
}

func TestTheWhyOfANoteAccountsForIt(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := draw(t)
		entries(t, p)
		if len(p.Order.Entries) == 0 || piece.Check(p) != nil {
			return
		}
		o, err := order.Render(p, order.Options{Events: 10_000, PPQ: rapid.SampledFrom(beat.Resolutions).Draw(t, "ppq")})
		if err != nil {
			return
		}
		for _, n := range o.Events().Notes {
			var tick, ticks, pitch string
			for _, why := range n.Why {
				switch {
				case strings.HasPrefix(why.To, "tick "):
					tick = why.To
				case strings.HasSuffix(why.To, " ticks"):
					ticks = why.To
				case why.To == n.Name:
					pitch = why.To
				}
			}
			require.Equal(t, []string{fmt.Sprintf("tick %d", n.At), fmt.Sprintf("%d ticks", n.Length), n.Name}, []string{tick, ticks, pitch}, "%v", n.Why)
		}
	})
}
