// Package browsers drives the same short journey in Chromium, Firefox and WebKit: make browsers.
package browsers

import (
	"encoding/json"
	"testing"
)

// browser is a browser that is driven: by the protocol that it speaks.
type browser interface {
	// open opens an address.
	open(address string) error
	// eval evaluates an expression, which may be a promise, and gives its value as JSON.
	eval(expression string) (json.RawMessage, error)
	// click presses and releases the mouse at a place of the window.
	click(x, y float64) error
	// key presses and releases a key, with Shift where that is wanted.
	key(key string, shift bool) error
	// choose puts a file into an input, by its selector.
	choose(selector, path string) error
	close()
}

// starts are how each browser is started.
var starts = map[string]func(t *testing.T) browser{"chromium": startChromium, "firefox": startFirefox, "webkit": startWebKit}
