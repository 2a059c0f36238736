package main

import (
	"os"
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

// What is passed to a browser is a page of this user alone that leads to the address, whose word is nobody else's.
func TestTheWordIsInNobodysArguments(t *testing.T) {
	way, err := passed("http://127.0.0.1:7373/?agrimony-token=WORD&x=1")
	require.NoError(t, err)
	defer os.Remove(way)
	assert.NotContains(t, way, "WORD")
	page, err := os.ReadFile(way)
	require.NoError(t, err)
	assert.Contains(t, string(page), "url=http://127.0.0.1:7373/?agrimony-token=WORD&amp;x=1")
	info, err := os.Stat(way)
	require.NoError(t, err)
	assert.Zero(t, info.Mode().Perm()&0o077)
}
