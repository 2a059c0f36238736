package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"math/rand/v2"
	"net/http"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/demo"
	"agrimony/internal/server/hostile"
)

// The bounds that a soak holds the server to.
const (
	longestAnswer = 3 * time.Second  // of a request that is alone
	longestAmong  = 4 * time.Second  // among others, from when its turn has come, as the server tells, and
	longestWait   = 10 * time.Second // with what it waited for others
	mostMemory    = 500 << 20
)

// worked is how long the server worked on an answer, by its header.
var worked = regexp.MustCompile(`work;dur=(\d+)`)

// visitor sends one request after another, as a friend or a foe might.
type visitor struct {
	t      *testing.T
	base   string
	random *rand.Rand
	log    *soakLog
}

// soakLog is what a soak saw.
type soakLog struct {
	sync.Mutex
	statuses map[int]int
	longest  time.Duration
	slow     int // how many took longer than answers among others may
	slowest  string
	waited   time.Duration // the longest
	faults   []string
	process  int
	memory   int    // at its peak, in kB
	largest  string // after what it was
}

// note takes down an answer: how long the server worked on it, and how long it took with all waiting.
func (l *soakLog) note(what string, status int, took, waited time.Duration) {
	l.Lock()
	defer l.Unlock()
	l.statuses[status]++
	l.waited = max(l.waited, waited)
	if took > l.longest {
		l.longest, l.slowest = took, what
	}
	if took > longestAmong || waited > longestWait {
		l.slow++
	}
	if memory := peakOf(l.process); memory > l.memory {
		l.memory, l.largest = memory, what
	}
	if status >= 500 {
		l.faults = append(l.faults, fmt.Sprintf("%d: %s", status, what))
	}
}

// ask sends a request and gives its answer; what is given up after a moment gives
// none.
func (v *visitor) ask(method, path, body string, give time.Duration) []byte {
	ctx, cancel := context.WithCancel(context.Background())
	defer cancel()
	if give > 0 {
		ctx, cancel = context.WithTimeout(ctx, give)
		defer cancel()
	}
	request, err := http.NewRequestWithContext(ctx, method, v.base+path, strings.NewReader(body))
	require.NoError(v.t, err)
	began := time.Now()
	response, err := http.DefaultClient.Do(request)
	if err != nil {
		return nil // hung up, on one side or the other
	}
	defer response.Body.Close()
	data, err := io.ReadAll(response.Body)
	if ctx.Err() == nil && err == nil {
		all := time.Since(began)
		took := all
		if told := worked.FindStringSubmatch(response.Header.Get("Server-Timing")); told != nil {
			milliseconds, _ := strconv.Atoi(told[1])
			took = time.Duration(milliseconds) * time.Millisecond
		}
		v.log.note(method+" "+path+" "+body[:min(len(body), 200)], response.StatusCode, took, all)
	}
	return data
}

func (v *visitor) number(below int) int { return v.random.IntN(below) }

// hostile sends a request of the table; what is given up after a moment gives no answer.
func (v *visitor) hostile(row *hostile.Row, give time.Duration) {
	row.Send(func(method, path string, body []byte) (int, []byte) {
		waits := give
		if method+" "+path == "POST /api/pieces/import" {
			waits = 0 // the piece that it is about
		}
		answer := v.ask(method, path, string(body), waits)
		if answer == nil {
			return 0, nil
		}
		return 201, answer
	})
}

// edit makes ops of the demo's piece, or of another.
func (v *visitor) edit(id string, ops string) { v.editOf(id, "keel", ops) }

func (v *visitor) editOf(id, clip, ops string) {
	var state struct{ Version int64 }
	_ = json.Unmarshal(v.ask("GET", "/api/pieces/"+id, "", 0), &state)
	body := fmt.Sprintf(`{"key":"%d","version":%d,"clip":%q,"ops":%s}`, v.random.Uint64(), state.Version, clip, ops)
	for range 1 + v.number(2) { // sometimes sent again
		v.ask("POST", "/api/pieces/"+id+"/edits", body, 0)
	}
}

// withImported imports a document, works on it and deletes it again.
func (v *visitor) withImported(document string, work func(id string)) {
	var state struct{ ID string }
	if err := json.Unmarshal(v.ask("POST", "/api/pieces/import", document, 0), &state); err == nil && state.ID != "" {
		work(state.ID)
		v.ask("DELETE", "/api/pieces/"+state.ID, "", 0)
	}
}

func listOf(n int, item string) string {
	return "[" + strings.TrimSuffix(strings.Repeat(item+",", n), ",") + "]"
}

// doings are what visitors do, good and bad.
var doings = []func(v *visitor){
	func(v *visitor) {
		v.edit(demo.ID, fmt.Sprintf(`[{"op":"steps.set","clip":"keel","lane":"low","steps":[%d],"patch":{"gate":%d}}]`, 1+v.number(32), v.number(500)))
	},
	func(v *visitor) {
		v.edit(demo.ID, fmt.Sprintf(`[{"op":"steps.transpose","clip":"keel","lane":"low","steps":[1,2,3],"unit":"degree","by":%d}]`, v.number(9)-4))
	},
	func(v *visitor) {
		way := []string{"undo", "redo"}[v.number(2)]
		var state struct{ Version int64 }
		_ = json.Unmarshal(v.ask("GET", "/api/pieces/"+demo.ID, "", 0), &state)
		v.ask("POST", "/api/pieces/"+demo.ID+"/"+way, fmt.Sprintf(`{"key":"%d","version":%d}`, v.random.Uint64(), state.Version), 0)
	},
	func(v *visitor) {
		for _, path := range []string{"/api/pieces", "/api/words", "/api/key?name=Eb+dorian", "/api/pieces/" + demo.ID + "/thumbs", "/api/pieces/" + demo.ID + "/document",
			"/api/pieces/" + demo.ID + "/clips/keel/midi", "/api/pieces/" + demo.ID + "/clips/keel/summary?bars=64", "/api/pieces/" + demo.ID + "/clips/keel/why?lane=low&note=0"} {
			v.ask("GET", path, "", 0)
		}
	},
	func(v *visitor) {
		for _, path := range []string{"/clips/keel/midi?until=noon", "/clips/keel/midi?bars=9999", "/clips/none/midi", "/clips/keel/why?lane=low&note=-1", "/clips/keel/midi?lanes=%00", "?clip=%ff"} {
			v.ask("GET", "/api/pieces/"+demo.ID+path, "", 0)
		}
	},
	func(v *visitor) {
		many := listOf(1+v.number(400_000), "1")
		v.edit(demo.ID, `[{"op":"fill.even","clip":"keel","lane":"low","hits":1,"turn":0,"steps":`+many+`}]`)
		v.edit(demo.ID, `[{"op":"steps.set","clip":"keel","lane":"low","patch":{"gate":50},"steps":`+many+`}]`)
	},
	func(v *visitor) { v.edit(demo.ID, listOf(1000, `{"op":"clip.copy","clip":"keel"}`)) },
	func(v *visitor) {
		v.edit(demo.ID, `[{"op":"lane.set","clip":"keel","lane":"low","patch":{"name":`+strings.Repeat("[", 5000)+strings.Repeat("]", 5000)+`}}]`)
		v.edit(demo.ID, `[{"op":"lane.set","clip":"keel","lane":"low","patch":{"glide":`+listOf(100_000, "[]")+`}}]`)
		v.edit(demo.ID, fmt.Sprintf(`[{"op":"lane.move","clip":"keel","lane":"low","to":%d},{"op":"fill.contour","clip":"keel","lane":"low","steps":[1],"places":[{"degree":%d,"octave":0,"alter":0}]}]`, v.number(9)-3, v.number(120)-10))
	},
	func(v *visitor) {
		var noise bytes.Buffer
		for range v.number(3000) {
			noise.WriteByte("{}[]\",:0123456789eE+-\\utruefalsn "[v.number(32)])
		}
		v.ask("POST", "/api/pieces/import", noise.String(), 0)
		v.ask("POST", "/api/pieces/"+demo.ID+"/edits", noise.String(), 0)
		v.ask("POST", "/api/pieces/import", strings.Repeat(" ", 9<<20), 0)
		v.ask("DELETE", "/api/pieces/none", "", 0)
		v.ask("PATCH", "/api/pieces", "", 0)
	},
	func(v *visitor) { v.hostile(&hostile.Routes[v.number(len(hostile.Routes))], 0) },
	func(v *visitor) { // asks for much and goes away
		v.hostile(&hostile.Routes[v.number(len(hostile.Routes))], time.Duration(1+v.number(200))*time.Millisecond)
	},
}

var peak = regexp.MustCompile(`VmHWM:\s+(\d+) kB`)

// TestSoak lets friends and foes at a server all at once: for a moment, or as long
// as SOAK says ("10m"), and then holds it to how long it took and what it used.
func TestSoak(t *testing.T) {
	length, err := time.ParseDuration(os.Getenv("SOAK"))
	long := err == nil
	if !long {
		length = 2 * time.Second
	}
	command, at := serveAt(t, "demo", "--addr", "127.0.0.1:0", "--data", t.TempDir())
	log := &soakLog{statuses: map[int]int{}, process: command.Process.Pid}
	if long { // each request of the table by itself, and then all at once
		alone := &visitor{t, "http://" + at, rand.New(rand.NewPCG(1, 99)), log}
		for i := range hostile.Routes {
			alone.hostile(&hostile.Routes[i], 0)
		}
		t.Logf("one by one: longest answer %v: %.200s; peak memory %d MB: %.200s", log.longest.Round(time.Millisecond), log.slowest, log.memory/1024, log.largest)
		assert.LessOrEqual(t, log.waited, longestAnswer, log.slowest)
		log.longest, log.waited = 0, 0
	}
	end := time.Now().Add(length)
	var group sync.WaitGroup
	for i := range 6 {
		v := &visitor{t, "http://" + at, rand.New(rand.NewPCG(1, uint64(i))), log}
		group.Go(func() {
			for time.Now().Before(end) {
				doings[v.number(len(doings))](v)
			}
		})
	}
	group.Wait()
	assert.Positive(t, log.statuses[200])
	assert.Positive(t, log.statuses[422])
	state, err := http.Get("http://" + at + "/api/pieces/" + demo.ID)
	require.NoError(t, err, "it still answers")
	require.NoError(t, state.Body.Close())
	assert.Equal(t, 200, state.StatusCode)
	log.judge(t, long)
	if long { // a disk that stalls for a moment holds up who waits for it
		answers := 0
		for _, n := range log.statuses {
			answers += n
		}
		assert.LessOrEqual(t, log.slow*1000, answers, "%d of %d took too long: %s", log.slow, answers, log.slowest)
	}
}

// peakOf is the most memory that a process had so far, in kB; 0 where that is not known.
func peakOf(process int) int {
	status, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", process))
	if err != nil {
		return 0 // it is known on Linux
	}
	found, _ := strconv.Atoi(peak.FindStringSubmatch(string(status))[1])
	return found
}

// judge holds a server to its bounds.
func (l *soakLog) judge(t *testing.T, long bool) {
	assert.Empty(t, l.faults)
	if !long {
		return
	}
	for _, status := range slices.Sorted(maps.Keys(l.statuses)) {
		t.Logf("%d answers of %d", l.statuses[status], status)
	}
	t.Logf("longest answer %v, with waiting %v: %s", l.longest.Round(time.Millisecond), l.waited.Round(time.Millisecond), l.slowest)
	t.Logf("peak memory %d MB: %s", l.memory/1024, l.largest)
	assert.LessOrEqual(t, l.memory*1024, mostMemory, l.largest)
}
