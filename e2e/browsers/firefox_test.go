package browsers

import (
	"bufio"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net"
	"os/exec"
	"regexp"
	"testing"

	"github.com/gobwas/ws"
	"github.com/gobwas/ws/wsutil"
	"github.com/stretchr/testify/require"
)

// firefox is driven by WebDriver BiDi.
type firefox struct {
	conn    net.Conn
	process *exec.Cmd
	next    int
	page    string // its browsing context
}

var listening = regexp.MustCompile(`WebDriver BiDi listening on (ws://\S+)`)

func startFirefox(t *testing.T) browser {
	b := &firefox{process: exec.Command("firefox", "--headless", "--no-remote", "--width", "1280", "--height", "800", "--remote-debugging-port", "0", "--profile", t.TempDir())}
	said, err := b.process.StderrPipe()
	require.NoError(t, err)
	require.NoError(t, b.process.Start())
	lines := bufio.NewScanner(said)
	address := ""
	for address == "" && lines.Scan() {
		if found := listening.FindStringSubmatch(lines.Text()); found != nil {
			address = found[1]
		}
	}
	require.NotEmpty(t, address, "Firefox says where it listens")
	go func() {
		for lines.Scan() { // what it says further is not looked at
		}
	}()
	b.conn, _, _, err = ws.Dial(context.Background(), address+"/session")
	require.NoError(t, err)
	_, err = b.ask("session.new", map[string]any{"capabilities": map[string]any{}})
	require.NoError(t, err)
	tree, err := b.ask("browsingContext.getTree", map[string]any{})
	require.NoError(t, err)
	var found struct {
		Contexts []struct{ Context string }
	}
	require.NoError(t, json.Unmarshal(tree, &found))
	b.page = found.Contexts[0].Context
	_, err = b.ask("browsingContext.setViewport", map[string]any{"context": b.page, "viewport": map[string]int{"width": 1280, "height": 800}})
	require.NoError(t, err)
	return b
}

// ask sends a command and gives its result.
func (b *firefox) ask(method string, params any) (json.RawMessage, error) {
	b.next++
	text, err := json.Marshal(map[string]any{"id": b.next, "method": method, "params": params})
	if err != nil {
		return nil, err
	}
	if err := wsutil.WriteClientText(b.conn, text); err != nil {
		return nil, err
	}
	for {
		data, err := wsutil.ReadServerText(b.conn)
		if err != nil {
			return nil, err
		}
		var answer struct {
			ID      int
			Type    string
			Message string
			Result  json.RawMessage
		}
		if err := json.Unmarshal(data, &answer); err != nil {
			return nil, err
		}
		if answer.ID != b.next {
			continue // an event
		}
		if answer.Type == "error" {
			return nil, fmt.Errorf("%s: %s", method, answer.Message)
		}
		return answer.Result, nil
	}
}

func (b *firefox) open(address string) error {
	_, err := b.ask("browsingContext.navigate", map[string]any{"context": b.page, "url": address, "wait": "complete"})
	return err
}

func (b *firefox) evaluated(expression string) (json.RawMessage, error) {
	return b.ask("script.evaluate", map[string]any{"expression": expression, "target": map[string]string{"context": b.page}, "awaitPromise": true, "userActivation": true})
}

func (b *firefox) eval(expression string) (json.RawMessage, error) {
	result, err := b.evaluated("(async () => JSON.stringify((await (" + expression + ")) ?? null))()")
	if err != nil {
		return nil, err
	}
	var out struct {
		Type    string
		Result  struct{ Value string }
		Trouble struct{ Text string } `json:"exceptionDetails"`
	}
	if err := json.Unmarshal(result, &out); err != nil {
		return nil, err
	}
	if out.Type == "exception" {
		return nil, errors.New(out.Trouble.Text)
	}
	return json.RawMessage(out.Result.Value), nil
}

func (b *firefox) act(source map[string]any) error {
	_, err := b.ask("input.performActions", map[string]any{"context": b.page, "actions": []any{source}})
	return err
}

func (b *firefox) click(x, y float64) error {
	return b.act(mouse(x, y))
}

func (b *firefox) key(key string, shift bool) error { return b.act(keys(key, shift)) }

func (b *firefox) choose(selector, path string) error {
	result, err := b.evaluated("document.querySelector(" + fmt.Sprintf("%q", selector) + ")")
	if err != nil {
		return err
	}
	var found struct {
		Result struct {
			SharedID string `json:"sharedId"`
		}
	}
	if err := json.Unmarshal(result, &found); err != nil {
		return err
	}
	_, err = b.ask("input.setFiles", map[string]any{"context": b.page, "element": map[string]string{"sharedId": found.Result.SharedID}, "files": []string{path}})
	return err
}

func (b *firefox) close() {
	_ = b.conn.Close()
	_ = b.process.Process.Kill()
	_ = b.process.Wait()
}

// mouse is a click as WebDriver has it, and keys the press of a key.
func mouse(x, y float64) map[string]any {
	return map[string]any{"type": "pointer", "id": "mouse", "parameters": map[string]string{"pointerType": "mouse"}, "actions": []any{
		map[string]any{"type": "pointerMove", "x": int(x), "y": int(y)}, map[string]any{"type": "pointerDown", "button": 0}, map[string]any{"type": "pointerUp", "button": 0}}}
}

// named are the keys that have no sign, as WebDriver writes them.
var named = map[string]string{"Escape": "\ue00c", "Enter": "\ue007", "Shift": "\ue008", "PageDown": "\ue00f"}

func keys(key string, shift bool) map[string]any {
	if sign := named[key]; sign != "" {
		key = sign
	}
	press := []any{map[string]any{"type": "keyDown", "value": key}, map[string]any{"type": "keyUp", "value": key}}
	if shift {
		press = append(append([]any{map[string]any{"type": "keyDown", "value": named["Shift"]}}, press...), map[string]any{"type": "keyUp", "value": named["Shift"]})
	}
	return map[string]any{"type": "key", "id": "keyboard", "actions": press}
}
