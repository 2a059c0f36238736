package main

import (
	"errors"
	"fmt"
	"html"
	"os"
	"os/exec"
	"runtime"
)

// browserCommand is what opens an address in a system's browser; nil where nobody looks at a screen.
func browserCommand(system, address string, env func(string) string) []string {
	switch system {
	case "darwin":
		return []string{"open", address}
	case "windows":
		return []string{"rundll32", "url.dll,FileProtocolHandler", address}
	}
	if env("DISPLAY") == "" && env("WAYLAND_DISPLAY") == "" {
		return nil
	}
	return []string{"xdg-open", address}
}

// passed writes a page of this user alone that leads to an address, and returns its file: so the address does not stand
// among the arguments of a program.
func passed(address string) (string, error) {
	file, err := os.CreateTemp("", "agrimony-*.html")
	if err != nil {
		return "", err
	}
	_, err = fmt.Fprintf(file, `<!doctype html><meta charset="utf-8"><title>Agrimony</title><meta http-equiv="refresh" content="0;url=%s">`, html.EscapeString(address))
	return file.Name(), errors.Join(err, file.Close())
}

// openBrowser opens an address where there is a browser. Where there is none the address is printed all the
// same, so that nothing is lost.
func openBrowser(address string) {
	words := browserCommand(runtime.GOOS, address, os.Getenv)
	if words == nil {
		return
	}
	c := exec.Command(words[0], words[1:]...)
	if c.Start() == nil {
		go func() { _ = c.Wait() }() // how the browser ends is its own affair
	}
}
