package browsers

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// webkit is driven by WebDriver, on a display that nobody sees.
type webkit struct {
	display, driver *exec.Cmd
	base            string // of the session
}

func startWebKit(t *testing.T) browser {
	b := &webkit{}
	read, write, err := os.Pipe()
	require.NoError(t, err)
	b.display = exec.Command("Xvfb", "-displayfd", "3", "-screen", "0", "1400x1000x24", "-nolisten", "tcp")
	b.display.ExtraFiles = []*os.File{write}
	require.NoError(t, b.display.Start())
	require.NoError(t, write.Close())
	number := make([]byte, 16)
	n, err := read.Read(number)
	require.NoError(t, err, "the display says its number")
	display := ":" + string(bytes.TrimSpace(number[:n]))
	port, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	at := port.Addr().(*net.TCPAddr).Port
	require.NoError(t, port.Close())
	b.driver = exec.Command("WebKitWebDriver", fmt.Sprintf("--port=%d", at))
	b.driver.Env = append(os.Environ(), "DISPLAY="+display, "WEBKIT_DISABLE_SANDBOX_THIS_IS_DANGEROUS=1", "WEBKIT_DISABLE_COMPOSITING_MODE=1", "HOME="+t.TempDir())
	require.NoError(t, b.driver.Start())
	found, err := filepath.Glob("/usr/lib/*/webkit2gtk-4.*/MiniBrowser")
	require.NoError(t, err)
	require.NotEmpty(t, found, "Debian's package brings a small browser")
	root := fmt.Sprintf("http://127.0.0.1:%d", at)
	var session struct {
		SessionID string `json:"sessionId"`
	}
	ask := map[string]any{"capabilities": map[string]any{"alwaysMatch": map[string]any{"webkitgtk:browserOptions": map[string]any{"binary": found[0], "args": []string{"--automation"}}}}}
	for tries := 0; ; tries++ { // until it listens
		if err = call("POST", root+"/session", ask, &session); err == nil || tries > 100 {
			break
		}
		time.Sleep(100 * time.Millisecond)
	}
	require.NoError(t, err)
	b.base = root + "/session/" + session.SessionID
	require.NoError(t, call("POST", b.base+"/window/rect", map[string]int{"width": 1280, "height": 900}, nil))
	return b
}

// call asks WebDriver for something.
func call(method, address string, body, into any) error {
	text, err := json.Marshal(body)
	if err != nil {
		return err
	}
	request, err := http.NewRequest(method, address, bytes.NewReader(text))
	if err != nil {
		return err
	}
	response, err := http.DefaultClient.Do(request)
	if err != nil {
		return err
	}
	defer response.Body.Close()
	data, err := io.ReadAll(response.Body)
	if err != nil {
		return err
	}
	var answer struct{ Value json.RawMessage }
	if err := json.Unmarshal(data, &answer); err != nil {
		return err
	}
	if response.StatusCode != http.StatusOK {
		return fmt.Errorf("%s: %s", address, answer.Value)
	}
	if into == nil {
		return nil
	}
	return json.Unmarshal(answer.Value, into)
}

func (b *webkit) open(address string) error {
	return call("POST", b.base+"/url", map[string]string{"url": address}, nil)
}

func (b *webkit) eval(expression string) (json.RawMessage, error) {
	script := "const done = arguments[arguments.length - 1]; (async () => JSON.stringify((await (" + expression + ")) ?? null))().then(done, (e) => done('!' + e));"
	var text string
	if err := call("POST", b.base+"/execute/async", map[string]any{"script": script, "args": []any{}}, &text); err != nil {
		return nil, err
	}
	if len(text) > 0 && text[0] == '!' {
		return nil, fmt.Errorf("%s", text[1:])
	}
	return json.RawMessage(text), nil
}

func (b *webkit) act(source map[string]any) error {
	return call("POST", b.base+"/actions", map[string]any{"actions": []any{source}}, nil)
}

func (b *webkit) click(x, y float64) error         { return b.act(mouse(x, y)) }
func (b *webkit) key(key string, shift bool) error { return b.act(keys(key, shift)) }

func (b *webkit) choose(selector, path string) error {
	var found map[string]string
	if err := call("POST", b.base+"/element", map[string]string{"using": "css selector", "value": selector}, &found); err != nil {
		return err
	}
	for _, element := range found {
		return call("POST", b.base+"/element/"+element+"/value", map[string]string{"text": path}, nil)
	}
	return fmt.Errorf("there is no %s", selector)
}

func (b *webkit) close() {
	_ = call("DELETE", b.base, nil, nil)
	for _, process := range []*exec.Cmd{b.driver, b.display} {
		_ = process.Process.Kill()
		_ = process.Wait()
	}
}
