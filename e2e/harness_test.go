// Package e2e drives the real interface in headless Chromium: it clicks, drags
// and types as a person does, and checks what is on screen and in the file.
package e2e

import (
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"strconv"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/cdproto/storage"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
	"agrimony/internal/core/smf"
	"agrimony/internal/server"
	"agrimony/internal/store"
	"agrimony/web"
)

// browsers are lent to one test at a time: only the tab in front draws frames, so two
// tests can share no browser. There are as many as tests run side by side.
var browsers chan *lent

// lent is a browser with the address at which it finds the site of whatever test has it. That stays the same, so
// that it need not read the page's scripts anew each time.
type lent struct {
	ctx  context.Context
	url  string
	site atomic.Pointer[http.Handler]
}

func (l *lent) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if site := l.site.Load(); site != nil {
		(*site).ServeHTTP(w, r)
		return
	}
	panic(http.ErrAbortHandler) // nobody is there
}

func TestMain(m *testing.M) {
	flag.Parse()
	code, err := withBrowsers(m)
	if err != nil {
		fmt.Fprintln(os.Stderr, "Chromium cannot be started (Debian's package chromium, or set CHROMIUM):", err)
	}
	os.Exit(code)
}

func withBrowsers(m *testing.M) (int, error) {
	sideBySide, err := strconv.Atoi(flag.Lookup("test.parallel").Value.String())
	if err != nil {
		return 1, err
	}
	browsers = make(chan *lent, sideBySide)
	for range sideBySide {
		folder, err := os.MkdirTemp("", "agrimony-e2e-")
		if err != nil {
			return 1, err
		}
		defer os.RemoveAll(folder)
		options := append(chromedp.DefaultExecAllocatorOptions[:],
			chromedp.NoSandbox, chromedp.DisableGPU, chromedp.UserDataDir(folder), chromedp.WindowSize(1280, 800),
			chromedp.Flag("disable-quic", true), chromedp.Flag("disable-component-update", true),
			chromedp.Flag("autoplay-policy", "no-user-gesture-required"), chromedp.Flag("mute-audio", true))
		if path := os.Getenv("CHROMIUM"); path != "" {
			options = append(options, chromedp.ExecPath(path))
		}
		allocator, stopAllocator := chromedp.NewExecAllocator(context.Background(), options...)
		defer stopAllocator()
		browser, stop := chromedp.NewContext(allocator)
		defer stop()
		if err := chromedp.Run(browser); err != nil {
			return 1, err
		}
		listener, err := net.Listen("tcp", "127.0.0.1:0")
		if err != nil {
			return 1, err
		}
		own := &lent{ctx: browser, url: "http://" + listener.Addr().String()}
		running := &http.Server{Handler: own}
		go func() { _ = running.Serve(listener) }()
		defer running.Close()
		browsers <- own
	}
	return m.Run(), nil
}

// site is a server of its own with an empty store, and the browser it is looked at with.
type site struct {
	url     string
	store   *store.Store
	browser context.Context
}

// serve starts a site, in a test that runs beside others.
func serve(t *testing.T, around ...func(http.Handler) http.Handler) *site {
	t.Parallel()
	browser := <-browsers
	t.Cleanup(func() { browsers <- browser })
	st, err := store.Open(t.TempDir())
	require.NoError(t, err)
	// What an earlier test left in the browser is forgotten, but for scripts.
	require.NoError(t, chromedp.Run(browser.ctx, storage.ClearDataForOrigin(browser.url, "local_storage,indexeddb,file_systems")))
	handler := server.New(server.Config{Store: st, Files: web.Files(), Hosts: server.Loopback})
	for _, wrap := range around {
		handler = wrap(handler)
	}
	browser.site.Store(&handler)
	t.Cleanup(func() {
		browser.site.Store(nil)
		_ = st.Close()
	})
	return &site{browser.url, st, browser.ctx}
}

// piece gives the stored document.
func (s *site) piece(t *testing.T, id string) *piece.Piece {
	state, err := s.store.Load(id)
	require.NoError(t, err)
	return state.Piece
}

// tab is a page with a person at it.
type tab struct {
	t     *testing.T
	ctx   context.Context
	hasty bool // gestures do not wait for the page to be at rest
}

// open opens a tab, where scripts run before the page's own. Errors in the page's console fail the test.
func (s *site) open(t *testing.T, path string, scripts ...string) *tab {
	return s.openFor(t, 4*time.Minute, path, scripts...)
}

// openFor opens a tab for so long.
func (s *site) openFor(t *testing.T, most time.Duration, path string, scripts ...string) *tab {
	ctx, cancel := chromedp.NewContext(s.browser)
	ctx, stop := context.WithTimeout(ctx, most)
	t.Cleanup(func() {
		stop()
		cancel()
	})
	chromedp.ListenTarget(ctx, func(event any) {
		if thrown, ok := event.(*runtime.EventExceptionThrown); ok {
			t.Errorf("the page failed: %s", thrown.ExceptionDetails.Error())
		}
	})
	p := &tab{t: t, ctx: ctx}
	// Lanes show all that they set, as they do for who has opened that once.
	settings := chromedp.ActionFunc(func(ctx context.Context) error {
		_, err := page.AddScriptToEvaluateOnNewDocument(`try { localStorage.getItem("agrimony settings") ?? localStorage.setItem("agrimony settings", "true") } catch {}`).Do(ctx)
		return err
	})
	before := chromedp.Tasks{settings}
	for _, script := range scripts {
		before = append(before, chromedp.ActionFunc(func(ctx context.Context) error {
			_, err := page.AddScriptToEvaluateOnNewDocument(script).Do(ctx)
			return err
		}))
	}
	p.do(emulation.SetDeviceMetricsOverride(1280, 800, 1, false), before, chromedp.Navigate(s.url+path))
	p.front()
	return p
}

// size gives the window a size, in pixels.
func (p *tab) size(width, height int64) {
	p.t.Helper()
	p.do(emulation.SetDeviceMetricsOverride(width, height, 1, false))
	p.until(fmt.Sprintf("innerWidth === %d && innerHeight === %d", width, height))
}

// front brings the tab before the others: only the tab in front draws frames.
func (p *tab) front() {
	p.t.Helper()
	p.do(page.BringToFront())
}

func (p *tab) do(actions ...chromedp.Action) {
	p.t.Helper()
	require.NoError(p.t, chromedp.Run(p.ctx, actions...))
}

// eval evaluates an expression in the page.
func eval[T any](p *tab, expression string) T {
	p.t.Helper()
	var out T
	p.do(chromedp.Evaluate(expression, &out))
	return out
}

// awaited lets an evaluation wait for a promise.
func awaited(p *runtime.EvaluateParams) *runtime.EvaluateParams { return p.WithAwaitPromise(true) }

// until waits until an expression in the page is true. What it waits for may never come: then the page says after a
// while how it stands.
func (p *tab) until(expression string) {
	p.t.Helper()
	var there bool
	look := fmt.Sprintf(`new Promise((done) => {
		let looks = 0; // time itself may be a test's own
		const look = () => {
			try { if (%s) return done(true) } catch {}
			if (++looks > 6000) return done(false);
			setTimeout(look, 10);
		};
		look();
	})`, expression)
	err := chromedp.Run(p.ctx, chromedp.Evaluate(look, &there, awaited))
	for err != nil && strings.Contains(err.Error(), "navigated") { // the page was left while it was looked at
		err = chromedp.Run(p.ctx, chromedp.Evaluate(look, &there, awaited))
	}
	require.NoError(p.t, err, "waiting for %s", expression)
	if !there {
		body := eval[string](p, "document.body.innerText.slice(0, 300) + ' ... ' + (document.querySelector('[role=dialog]')?.innerText ?? '').slice(-500) + ' ... focus on ' + document.activeElement?.outerHTML.slice(0, 200)")
		require.Fail(p.t, "it does not come", "waiting for %s; the page says:\n%s", expression, body)
	}
}

// rest waits until the page is at rest: no edit and no question is under way, what was asked for is there, and all
// stands where it will. Every gesture waits for it, but of whoever is hasty.
func (p *tab) rest() {
	p.t.Helper()
	if p.hasty {
		return
	}
	p.do(chromedp.Evaluate(`new Promise((done) => {
		const look = () => window.atRest ? window.atRest().then(done) : setTimeout(look, 10);
		look();
	})`, nil, awaited))
}

// hastily makes gestures that do not wait for the page to be at rest.
func (p *tab) hastily(gestures func()) {
	p.t.Helper()
	p.hasty = true
	defer func() { p.hasty = false }()
	gestures()
}

// saved waits until every edit made so far is acknowledged.
func (p *tab) saved() {
	p.t.Helper()
	p.until(`document.querySelector('[aria-label="Saving"]')?.textContent === "Saved"`)
}

// named is the visible control with an accessible name or text, in the dialog
// that is open if there is one.
func named(name string) string {
	text, _ := json.Marshal(name)
	return fmt.Sprintf(`[...(document.querySelector(".mantine-Modal-content") ?? document).querySelectorAll('button, a, input, select, [role=tab], label')].find(e => ((e.getAttribute('aria-label') ?? e.textContent.trim()) === %[1]s || e.textContent.trim() === %[1]s || e.role === "tab" && [...e.querySelectorAll("span")].some(part => part.textContent === %[1]s)) && e.checkVisibility())`, text)
}

// press clicks a control by its accessible name, with the mouse.
func (p *tab) press(name string) {
	p.t.Helper()
	at := p.spot(name)
	p.do(chromedp.MouseClickXY(at.X, at.Y))
}

// spot is the middle of a control that is in sight, with nothing over it.
func (p *tab) spot(name string) point {
	p.t.Helper()
	p.rest()
	p.until(named(name))
	return p.middle(named(name))
}

// middle is the middle of an element, once it is in sight and nothing lies over it.
func (p *tab) middle(element string) point {
	p.t.Helper()
	p.until(fmt.Sprintf(`(() => {
		const e = %s, whole = e.getBoundingClientRect();
		if (whole.top < 0 || whole.bottom > innerHeight || !e.contains(document.elementFromPoint(whole.left + whole.width / 2, whole.top + whole.height / 2)))
			e.scrollIntoView({block: "nearest"});
		const b = e.getBoundingClientRect();
		const over = document.elementFromPoint(b.left + b.width / 2, b.top + b.height / 2);
		window.spotted = {x: b.left + b.width / 2, y: b.top + b.height / 2};
		return e.contains(over);
	})()`, element))
	return eval[point](p, "window.spotted")
}

// fill types a value into a field by its accessible name and presses Enter.
func (p *tab) fill(name, value string) {
	p.t.Helper()
	p.rest()
	p.until(named(name))
	eval[any](p, named(name)+".focus(); document.activeElement.select?.()")
	p.do(input.InsertText(value))
	p.key("Enter")
}

type point struct {
	X    float64 `json:"x"`
	Y    float64 `json:"y"`
	Step float64 `json:"step"`
}

// at is where a step (from 1) and a MIDI pitch stand on screen.
func (p *tab) at(lane string, step, pitch int) point {
	p.t.Helper()
	p.rest()
	p.until(fmt.Sprintf(`window.agrimony?.[%q] && document.querySelector('canvas[data-lane="%s"]')`, lane, lane))
	return eval[point](p, fmt.Sprintf("window.agrimony[%q](%d, %d)", lane, step-1, pitch))
}

// modifiers of the mouse and keyboard.
const (
	alt   = input.ModifierAlt
	ctrl  = input.ModifierCtrl
	shift = input.ModifierShift
)

// drag presses at the first place, moves over the others, lets go, and waits for
// what that changes to be saved.
func (p *tab) drag(held input.Modifier, places ...point) {
	p.t.Helper()
	p.mouse(held, places...)
	p.saved()
}

// mouse presses at the first place, moves over the others, and lets go.
func (p *tab) mouse(held input.Modifier, places ...point) {
	p.t.Helper()
	send := func(kind input.MouseType, at point) {
		p.do(input.DispatchMouseEvent(kind, at.X, at.Y).WithButton(input.Left).WithButtons(1).WithClickCount(1).WithModifiers(held))
	}
	send(input.MousePressed, places[0])
	last := places[0]
	for _, next := range places[1:] {
		for i := 1; i <= 4; i++ {
			share := float64(i) / 4
			send(input.MouseMoved, point{X: last.X + (next.X-last.X)*share, Y: last.Y + (next.Y-last.Y)*share})
		}
		last = next
	}
	p.do(input.DispatchMouseEvent(input.MouseReleased, last.X, last.Y).WithButton(input.Left).WithClickCount(1).WithModifiers(held))
}

// click puts a note, or selects the one that is there.
func (p *tab) click(lane string, step, pitch int) {
	p.t.Helper()
	p.drag(0, p.at(lane, step, pitch))
}

var keyCodes = map[string]int64{
	"Enter": 13, "Escape": 27, "ArrowLeft": 37, "ArrowUp": 38, "ArrowRight": 39, "ArrowDown": 40, "Home": 36, "PageDown": 34, "PageUp": 33, "Delete": 46, "Tab": 9, " ": 32,
}

// key presses a key with modifiers held.
func (p *tab) key(key string, held ...input.Modifier) {
	p.t.Helper()
	var all input.Modifier
	for _, m := range held {
		all |= m
	}
	if len(key) == 1 && key >= "A" && key <= "Z" {
		all |= input.ModifierShift // as a hand writes capitals
	}
	code, special := keyCodes[key]
	text := ""
	if !special {
		code = int64(key[0])
		if code >= 'a' && code <= 'z' {
			code -= 32
		}
	}
	if !special && all&(ctrl|alt) == 0 {
		text = key
	}
	if key == "Enter" {
		text = "\r"
	}
	if key == " " {
		text = " "
	}
	p.do(input.DispatchKeyEvent(input.KeyDown).WithKey(key).WithText(text).WithWindowsVirtualKeyCode(code).WithModifiers(all),
		input.DispatchKeyEvent(input.KeyUp).WithKey(key).WithWindowsVirtualKeyCode(code).WithModifiers(all))
}

// keys presses plain keys one after another.
func (p *tab) keys(keys ...string) {
	p.t.Helper()
	for _, k := range keys {
		p.key(k)
	}
	p.saved()
}

// id is the open piece's id.
func (p *tab) id() string {
	return eval[string](p, `decodeURIComponent(location.pathname.split("/")[2] ?? "")`)
}

// download fetches the file that the render panel's link points to, as the
// browser does.
func (p *tab) download() *smf.File {
	p.t.Helper()
	p.until(`[...document.querySelectorAll("a")].find(a => a.textContent === "Download")?.href`)
	url := eval[string](p, `[...document.querySelectorAll("a")].find(a => a.textContent === "Download").href`)
	response, err := http.Get(url)
	require.NoError(p.t, err)
	defer response.Body.Close()
	require.Equal(p.t, http.StatusOK, response.StatusCode)
	data, err := io.ReadAll(response.Body)
	require.NoError(p.t, err)
	file, err := smf.Decode(data, nil)
	require.NoError(p.t, err)
	return file
}

// notes writes a track's notes as "onset pitch length".
func notes(track smf.Track) []string {
	var out []string
	for _, n := range track.Notes {
		out = append(out, fmt.Sprintf("%d %d %d", n.At, n.Pitch, n.Length))
	}
	return out
}
