package main

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestABrowserIsOpenedWhereThereIsAScreen(t *testing.T) {
	screen := func(set ...string) func(string) string {
		return func(name string) string {
			for _, own := range set {
				if own == name {
					return ":0"
				}
			}
			return ""
		}
	}
	const at = "http://127.0.0.1:7373/"
	for _, test := range []struct {
		system string
		env    func(string) string
		want   []string
	}{
		{"linux", screen(), nil},
		{"linux", screen("DISPLAY"), []string{"xdg-open", at}},
		{"freebsd", screen("WAYLAND_DISPLAY"), []string{"xdg-open", at}},
		{"darwin", screen(), []string{"open", at}},
		{"windows", screen(), []string{"rundll32", "url.dll,FileProtocolHandler", at}},
	} {
		assert.Equal(t, test.want, browserCommand(test.system, at, test.env), test.system)
	}
}

func TestTheVersionIsTold(t *testing.T) {
	out, problems, status := run(t, "", "--version")
	require.Equal(t, 0, status, problems)
	assert.Equal(t, "agrimony version unknown\n", out, "a build for tests has none")
}
