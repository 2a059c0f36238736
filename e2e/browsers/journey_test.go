package browsers

import (
	"encoding/json"
	"fmt"
	"net/http/httptest"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/demo"
	"agrimony/internal/server"
	"agrimony/internal/store"
	"agrimony/web"
)

// patience is how long the journey waits for what a browser is to show.
const patience = 20 * time.Second

// traveller goes on the journey in one browser.
type traveller struct {
	*testing.T
	browser
	url string
}

// ask evaluates an expression in the page.
func ask[V any](w *traveller, expression string) (out V) {
	w.Helper()
	data, err := w.eval(expression)
	require.NoError(w, err, expression)
	require.NoError(w, json.Unmarshal(data, &out), expression)
	return out
}

// until waits for an expression to hold.
func (w *traveller) until(expression, why string) {
	w.Helper()
	for end := time.Now().Add(patience); time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
		if data, err := w.eval("Boolean(" + expression + ")"); err == nil && string(data) == "true" {
			return
		}
	}
	data, _ := w.eval(`document.body.innerText.slice(0, 600)`)
	w.Fatalf("%s: %s does not hold; the page says %s", why, expression, data)
}

func (w *traveller) press(key string, shift bool) {
	w.Helper()
	require.NoError(w, w.key(key, shift), key)
}

// version is that of the sample piece on the server.
func (w *traveller) version() int {
	w.Helper()
	return ask[int](w, `fetch("/api/pieces/`+demo.ID+`").then((r) => r.json()).then((s) => s.version)`)
}

// The core works in each browser: sixteen clips and their dialogs, an edit by mouse and one by key, sound, a file in,
// files out, the running order, a page that may keep nothing. Nothing fails on the way.
func TestTheSameJourneyInEveryBrowser(t *testing.T) {
	if os.Getenv("BROWSERS") == "" {
		t.Skip("make browsers installs them and goes there")
	}
	for _, name := range []string{"chromium", "firefox", "webkit"} {
		t.Run(name, func(t *testing.T) {
			st, err := store.Open(t.TempDir())
			require.NoError(t, err)
			defer st.Close()
			require.NoError(t, server.EnsureDemo(st))
			running := httptest.NewServer(server.New(server.Config{Store: st, Files: web.Files(), Hosts: server.Loopback}))
			defer running.Close()
			w := &traveller{t, starts[name](t), running.URL}
			defer w.close()
			w.travel()
		})
	}
}

// watch keeps what fails in the page.
const watch = `(() => {
	if (window.faults) return true;
	window.faults = [];
	addEventListener("error", (e) => window.faults.push(String(e.message)));
	addEventListener("unhandledrejection", (e) => window.faults.push(String(e.reason)));
	return true;
})()`

func (w *traveller) travel() {
	p, err := demo.Piece()
	require.NoError(w, err)
	for i := range p.Clips[:16] {
		clip := &p.Clips[i]
		require.NoError(w, w.open(w.url+"/piece/"+demo.ID+"/"+clip.ID))
		ask[bool](w, watch)
		w.until(fmt.Sprintf(`document.querySelector("[data-sheet]")?.getAttribute("aria-label")?.startsWith("Sheet of %s")`, clip.Name), clip.Name)
		w.until(`[...document.querySelectorAll("canvas[data-lane]")].some((c) => c.width > 0)`, clip.Name+" is drawn")
	}
	w.dialogs()
	w.edits()
	w.sounds()
	w.files()
	w.order()
	w.forgets()
	faults := ask[[]string](w, `window.faults ?? []`)
	faults = slices.DeleteFunc(faults, func(f string) bool { return strings.Contains(f, "ResizeObserver") }) // a notice of the browser's own
	assert.Empty(w, faults)
}

func (w *traveller) dialogs() {
	require.NoError(w, w.open(w.url+"/piece/"+demo.ID+"/keel"))
	ask[bool](w, watch)
	w.until(`document.querySelector("canvas[data-lane=low]")?.width > 0`, "Keel")
	for _, d := range []struct {
		key   string
		shift bool
	}{{"?", true}, {"y", false}, {"e", false}, {"z", false}, {"P", true}} {
		w.press(d.key, d.shift)
		w.until(`document.querySelector("[role=dialog]")`, "the dialog of "+d.key)
		w.press("Escape", false)
		w.until(`!document.querySelector("[role=dialog]")`, "the dialog of "+d.key+" is closed")
	}
}

func (w *traveller) edits() {
	before := w.version()
	at := ask[[2]float64](w, `(() => { const r = document.querySelector("canvas[data-lane=low]").getBoundingClientRect(); return [r.left + r.width * 0.4, r.top + r.height * 0.3]; })()`)
	require.NoError(w, w.click(at[0], at[1]))
	for end := time.Now().Add(patience); w.version() == before && time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
	}
	placed := w.version()
	require.Greater(w, placed, before, "a click on the ladder is an edit")
	w.press("m", false) // mutes the lane
	for end := time.Now().Add(patience); w.version() == placed && time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
	}
	require.Greater(w, w.version(), placed, "a key is an edit")
	w.press("m", false)
	w.until(`document.body.innerText.includes("Saved")`, "it is saved")
}

// sounds plays, or says in words why it cannot: nothing waits for ever.
func (w *traveller) sounds() {
	w.press(" ", false)
	w.until(`document.querySelector("[aria-label=Stop]") || document.body.innerText.includes("could not be started")`, "it plays, or a word is said")
	if ask[bool](w, `Boolean(document.querySelector("[aria-label=Stop]"))`) {
		w.press(" ", false)
		w.until(`document.querySelector("[aria-label=Play]")`, "it stops")
	} else {
		w.Log("no sound here, and it is said")
	}
}

func (w *traveller) files() {
	out := ask[[]int](w, `fetch("/api/pieces/`+demo.ID+`/clips/keel/midi").then((r) => r.arrayBuffer()).then((b) => [...new Uint8Array(b)])`)
	require.Greater(w, len(out), 100)
	data := make([]byte, len(out))
	for i, b := range out {
		data[i] = byte(b)
	}
	assert.Equal(w, "MThd", string(data[:4]))
	file := filepath.Join(w.TempDir(), "keel.mid")
	require.NoError(w, os.WriteFile(file, data, 0o600))
	require.NoError(w, w.choose(`input[type=file][accept*="midi"]`, file))
	w.until(`document.querySelector("[role=dialog]")?.innerText.includes("keel")`, "the file is shown before anything changes")
	w.press("Escape", false)
	w.until(`!document.querySelector("[role=dialog]")`, "and left")
}

func (w *traveller) order() {
	w.press("O", true)
	w.until(`document.querySelector("[data-testid=bands]")`, "the running order")
	w.press("O", true)
	w.until(`document.querySelector("[data-sheet]")`, "and back")
}

// forgets opens a page that the browser lets keep nothing.
func (w *traveller) forgets() {
	ask[bool](w, `(() => { Object.defineProperty(window, "localStorage", { get() { throw new DOMException("no", "SecurityError"); } }); return true; })()`)
	w.press("PageDown", false)
	ask[bool](w, `(() => { [...document.querySelectorAll("[role=tab]")].find((t) => t.innerText.startsWith("Towpath"))?.click(); return true; })()`)
	w.until(`document.querySelector("[data-sheet]")?.getAttribute("aria-label")?.startsWith("Sheet of Towpath")`, "another clip, where nothing can be kept")
}
