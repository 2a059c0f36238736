package piece

import (
	"fmt"
	"strings"
)

// FreshID finds an id that is not taken: the stem, or the stem with a number.
func FreshID(stem string, taken func(string) bool) string {
	stem = strings.Trim(strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r == '-':
			return r
		case r >= 'A' && r <= 'Z':
			return r + 'a' - 'A'
		case r == ' ':
			return '-'
		}
		return -1
	}, stem), "-")
	if len(stem) > 40 {
		stem = stem[:40]
	}
	if stem != "" && !taken(stem) {
		return stem
	}
	for n := 2; ; n++ {
		if id := strings.TrimPrefix(fmt.Sprintf("%s-%d", stem, n), "-"); !taken(id) {
			return id
		}
	}
}
