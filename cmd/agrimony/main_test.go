package main

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/httptrace"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/smf"
	"agrimony/internal/demo"
	"agrimony/internal/server/hostile"
)

// program is the built command, as a person runs it.
var program string

func TestMain(m *testing.M) {
	folder, err := os.MkdirTemp("", "agrimony-cmd-")
	if err != nil {
		panic(err)
	}
	program = filepath.Join(folder, "agrimony")
	if out, err := exec.Command("go", "build", "-o", program, ".").CombinedOutput(); err != nil {
		fmt.Fprintln(os.Stderr, string(out))
		os.Exit(1)
	}
	code := m.Run()
	_ = os.RemoveAll(folder)
	os.Exit(code)
}

func run(t *testing.T, input string, args ...string) (stdout, stderr string, status int) {
	command := exec.Command(program, args...)
	command.Stdin = strings.NewReader(input)
	var out, problems bytes.Buffer
	command.Stdout, command.Stderr = &out, &problems
	err := command.Run()
	if err != nil {
		require.IsType(t, &exec.ExitError{}, err)
	}
	return out.String(), problems.String(), command.ProcessState.ExitCode()
}

const sample = `{"format":"agrimony-piece","version":1,"clips":[{"id":"keel","lanes":[{"id":"low","steps":[{"on":true},{},{},{},{},{},{}]},{"id":"high","steps":[{"on":true}]}]}]}`

func TestRenderWritesAFileOrStandardOutput(t *testing.T) {
	out, problems, status := run(t, sample, "render", "-", "--clip", "keel")
	require.Equal(t, 0, status, problems)
	file, err := smf.Decode([]byte(out), nil)
	require.NoError(t, err)
	assert.EqualValues(t, 7*3840, file.Tracks[0].End, "until 7 and 1 sixteenths meet the bar")
	path := filepath.Join(t.TempDir(), "keel.mid")
	_, problems, status = run(t, sample, "render", "-", "--clip", "keel", "--bars", "2", "--ppq", "96", "--type", "0", "--out", path)
	require.Equal(t, 0, status, problems)
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	file, err = smf.Decode(data, nil)
	require.NoError(t, err)
	assert.Equal(t, []int{96, 0}, []int{file.PPQ, file.Type})
	assert.EqualValues(t, 2*384, file.Tracks[0].End)
	again, _, _ := run(t, sample, "render", "-", "--clip", "keel", "--bars", "2", "--ppq", "96", "--type", "0")
	assert.Equal(t, string(data), again, "the same bytes")
}

func TestEventsArePublishedAsDocumented(t *testing.T) {
	out, _, status := run(t, sample, "events", "-", "--clip", "keel", "--until", "cycle")
	require.Equal(t, 0, status)
	var events struct {
		PPQ   int `json:"ppq"`
		Ticks int `json:"ticks"`
		Bars  float64
		Notes []struct {
			Lane, Name                     string
			Step, Round, At, Length, Pitch int
			Velocity, Channel              int
			Why                            []struct{ Rule, From, To string }
		}
		Bends, Controls []any
		Cycle           struct {
			Bars               string
			Ticks, RealignBars int
			Lanes              []struct {
				Lane  string
				Ticks int
			}
		}
		Findings []any
	}
	decoder := json.NewDecoder(strings.NewReader(out))
	decoder.DisallowUnknownFields()
	require.NoError(t, decoder.Decode(&events))
	assert.Equal(t, []any{960, 1680, 0.4375}, []any{events.PPQ, events.Ticks, events.Bars})
	assert.Equal(t, "7/16", events.Cycle.Bars)
	assert.Equal(t, []int{1680, 7}, []int{events.Cycle.Ticks, events.Cycle.RealignBars})
	first := events.Notes[0]
	assert.Equal(t, []any{"low", "C3", 1, 1, 0, 180, 48, 100, 1}, []any{first.Lane, first.Name, first.Step, first.Round, first.At, first.Length, first.Pitch, first.Velocity, first.Channel})
	assert.Equal(t, []string{"step", "tick 0", "degree", "C3"}, []string{first.Why[0].Rule, first.Why[0].To, first.Why[1].Rule, first.Why[1].To})
	assert.NotNil(t, events.Bends)
	assert.NotNil(t, events.Controls)
}

func TestKeyAsTextAndJSON(t *testing.T) {
	out, _, status := run(t, "", "key", "Eb dorian")
	require.Equal(t, 0, status)
	assert.True(t, strings.HasPrefix(out, "Eb dorian: Eb F Gb Ab Bb C Db\ni        Ebm"), out)
	out, _, _ = run(t, "", "key", "Eb", "dorian", "--json")
	var key struct {
		Tonic, Scale     string
		Notes            []string
		PitchClasses     []int
		Triads, Sevenths []struct {
			Numeral, Symbol string
			Notes           []string
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &key))
	assert.Equal(t, []int{3, 5, 6, 8, 10, 0, 1}, key.PitchClasses)
	assert.Equal(t, "viø7", key.Sevenths[5].Numeral)
}

func TestMistakesAreOneLineAndAStatus(t *testing.T) {
	folder := t.TempDir()
	locked := filepath.Join(folder, "missing", "out.mid")
	for _, row := range []struct {
		input   string
		args    []string
		status  int
		message string
	}{
		{"", nil, 2, "no command given"},
		{"", []string{"fly"}, 2, `unknown command "fly"`},
		{"", []string{"render"}, 2, "accepts 1 arg"},
		{sample, []string{"render", "-"}, 2, "--clip is missing"},
		{sample, []string{"render", "-", "--clip", "keel", "--bars", "many"}, 2, "invalid argument"},
		{sample, []string{"render", "-", "--clip", "keel", "--bars", "1", "--until", "cycle"}, 2, "--bars and --until are both given"},
		{sample, []string{"render", "-", "--clip", "weir"}, 1, `no clip "weir"; the piece has: keel`},
		{sample, []string{"render", "-", "--clip", "keel", "--bars", "1025"}, 2, "bars: 1025 is out of range; allowed: 1..1024"},
		{sample, []string{"render", "-", "--clip", "keel", "--bars", "0"}, 2, "bars: 0 is out of range"},
		{sample, []string{"render", "-", "--clip", "keel", "--until", "noon"}, 2, `until: "noon" is not allowed; allowed: cycle, realign`},
		{sample, []string{"render", "-", "--clip", "keel", "--ppq", "100"}, 2, "ppq: 100 is not allowed; allowed: 96, 480, 960"},
		{sample, []string{"render", "-", "--clip", "keel", "--type", "2"}, 2, "type: 2 is not allowed; allowed: 0, 1"},
		{sample, []string{"render", "-", "--clip", "keel", "--out", locked}, 1, "cannot write"},
		{sample, []string{"render", "-", "--clip", "keel", "--out", folder}, 1, "is a folder"},
		{sample[:60], []string{"render", "-", "--clip", "keel"}, 1, "the document ends in the middle"},
		{"", []string{"render", filepath.Join(folder, "none.json"), "--clip", "keel"}, 1, "no such file"},
		{"", []string{"key", "H major"}, 1, `"H" is not a note name`},
		{"", []string{"backup", "x.db", "--data", folder}, 1, "there is no database"},
	} {
		out, problems, status := run(t, row.input, row.args...)
		assert.Equal(t, row.status, status, "%v", row.args)
		assert.Contains(t, problems, row.message)
		assert.Equal(t, 1, strings.Count(problems, "\n"), "one line: %q", problems)
		assert.Empty(t, out)
	}
	left, err := os.ReadDir(folder)
	require.NoError(t, err)
	assert.Empty(t, left, "nothing half-written stays behind")
}

var address = regexp.MustCompile(`http://([0-9.:]+)`)

// serveAt starts the server and gives its address once it answers.
func serveAt(t *testing.T, args ...string) (*exec.Cmd, string) {
	command := exec.Command(program, append(args, "--no-browser")...)
	out, err := command.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, command.Start())
	t.Cleanup(func() { _ = command.Process.Kill(); _ = command.Wait() })
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(t, err)
	found := address.FindStringSubmatch(line)
	require.NotNil(t, found, line)
	return command, found[1]
}

func post(t *testing.T, url, body string) int {
	response, err := http.Post(url, "application/json", strings.NewReader(body))
	require.NoError(t, err)
	defer response.Body.Close()
	_, _ = io.Copy(io.Discard, response.Body)
	return response.StatusCode
}

func TestAnAcknowledgedEditSurvivesAKill(t *testing.T) {
	folder := t.TempDir()
	command, at := serveAt(t, "demo", "--addr", "127.0.0.1:0", "--data", folder)
	for i := 1; i <= 20; i++ {
		edit := fmt.Sprintf(`{"version":%d,"clip":"keel","ops":[{"op":"steps.set","clip":"keel","lane":"low","steps":[1],"patch":{"gate":%d}}]}`, i, 100+i)
		require.Equal(t, 200, post(t, "http://"+at+"/api/pieces/"+demo.ID+"/edits", edit))
	}
	copied := filepath.Join(t.TempDir(), "copy.db")
	_, problems, status := run(t, "", "backup", copied, "--data", folder)
	require.Equal(t, 0, status, problems)
	require.NoError(t, command.Process.Kill()) // kill -9
	_ = command.Wait()

	gate := func(data string) (gate int, undo string) {
		_, at := serveAt(t, "serve", "--addr", "127.0.0.1:0", "--data", data)
		response, err := http.Get("http://" + at + "/api/pieces/" + demo.ID)
		require.NoError(t, err)
		defer response.Body.Close()
		var state struct {
			Undo  string
			Piece struct {
				Clips []struct {
					Lanes []struct{ Steps []struct{ Gate int } }
				}
			}
		}
		require.NoError(t, json.NewDecoder(response.Body).Decode(&state))
		return state.Piece.Clips[0].Lanes[0].Steps[0].Gate, state.Undo
	}
	kept, undo := gate(folder)
	assert.Equal(t, 120, kept)
	assert.Equal(t, "change steps", undo, "and can be undone")
	restored := t.TempDir()
	data, err := os.ReadFile(copied)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(restored, "agrimony.db"), data, 0o600))
	kept, _ = gate(restored)
	assert.Equal(t, 120, kept, "the backup holds it too")
}

func TestAPortInUseIsSaid(t *testing.T) {
	taken, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer taken.Close()
	_, problems, status := run(t, "", "serve", "--addr", taken.Addr().String(), "--data", t.TempDir())
	assert.Equal(t, 1, status)
	assert.Contains(t, problems, "cannot listen on "+taken.Addr().String())
	assert.Equal(t, 1, strings.Count(problems, "\n"))
}

func TestAFolderInUseIsSaid(t *testing.T) {
	folder := t.TempDir()
	first, _ := serveAt(t, "serve", "--addr", "127.0.0.1:0", "--data", folder)
	_, problem, status := run(t, "", "serve", "--addr", "127.0.0.1:0", "--data", folder)
	assert.Equal(t, 1, status)
	assert.Contains(t, problem, fmt.Sprintf("%s is in use by process %d", folder, first.Process.Pid))
	require.NoError(t, first.Process.Kill()) // a lock does not outlive its process
	_ = first.Wait()
	serveAt(t, "serve", "--addr", "127.0.0.1:0", "--data", folder)
}

func TestOtherMachinesAreLetInOnlyOnPurpose(t *testing.T) {
	for _, addr := range []string{"0.0.0.0:0", ":0", "[::]:0", "192.0.2.1:7373", "nonsense"} {
		_, problem, status := run(t, "", "serve", "--addr", addr, "--data", t.TempDir())
		assert.Equal(t, 1, status, addr)
		assert.Contains(t, problem, "--addr", addr)
	}
	_, at := serveAt(t, "serve", "--addr", "0.0.0.0:0", "--open", "--data", t.TempDir())
	_, port, err := net.SplitHostPort(at)
	require.NoError(t, err)
	response, err := http.Get("http://127.0.0.1:" + port + "/api/pieces")
	require.NoError(t, err)
	require.NoError(t, response.Body.Close())
	assert.Equal(t, http.StatusUnauthorized, response.StatusCode)
}

// Whatever the process works on, and whoever it waits for, it ends when it is told to: long
// before it would be done.
func TestItEndsWhatever(t *testing.T) {
	command, at := serveAt(t, "serve", "--addr", "127.0.0.1:0", "--data", t.TempDir())
	document := hostile.Steep()
	var state struct{ ID string }
	response, err := http.Post("http://"+at+"/api/pieces/import", "application/json", strings.NewReader(document))
	require.NoError(t, err)
	require.NoError(t, json.NewDecoder(response.Body).Decode(&state))
	require.NoError(t, response.Body.Close())
	asked := make(chan struct{}, 64)
	for range cap(asked) { // minutes of work
		go func() {
			request, err := http.NewRequest("GET", "http://"+at+"/api/pieces/"+state.ID+"/clips/keel/midi?bars=1024", nil)
			if err != nil {
				panic(err)
			}
			trace := &httptrace.ClientTrace{WroteRequest: func(httptrace.WroteRequestInfo) { asked <- struct{}{} }}
			if answer, err := http.DefaultClient.Do(request.WithContext(httptrace.WithClientTrace(context.Background(), trace))); err == nil {
				_ = answer.Body.Close()
			}
		}()
	}
	for range cap(asked) {
		<-asked
	}
	slow, err := net.Dial("tcp", at) // it never sends what it says it will
	require.NoError(t, err)
	defer slow.Close()
	_, err = slow.Write([]byte("POST /api/pieces/import HTTP/1.1\r\nHost: localhost\r\nContent-Length: 1000\r\n\r\n{"))
	require.NoError(t, err)
	require.NoError(t, command.Process.Signal(syscall.SIGTERM))
	ended := make(chan error, 1)
	go func() { ended <- command.Wait() }()
	select {
	case err := <-ended:
		assert.NoError(t, err)
	case <-time.After(15 * time.Second): // several times the grace: it hangs
		t.Fatal("it goes on")
	}
}

// A visitor who does not read, served by the program's own server with its patience
// cut short.
func TestWhoDoesNotReadIsNotServedForEver(t *testing.T) {
	ended := make(chan error, 1)
	server := bounded(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		chunk := make([]byte, 1<<20)
		for {
			if _, err := w.Write(chunk); err != nil {
				ended <- err
				return
			}
		}
	}))
	require.Positive(t, server.WriteTimeout)
	require.Positive(t, server.ReadTimeout)
	require.Positive(t, server.ReadHeaderTimeout)
	server.WriteTimeout /= 1000
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { _ = server.Serve(listener) }()
	t.Cleanup(func() { _ = server.Close() })
	visitor, err := net.Dial("tcp", listener.Addr().String())
	require.NoError(t, err)
	defer visitor.Close()
	_, err = visitor.Write([]byte("GET / HTTP/1.1\r\nHost: localhost\r\n\r\n"))
	require.NoError(t, err)
	assert.ErrorIs(t, <-ended, os.ErrDeadlineExceeded)
}
