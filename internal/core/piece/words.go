package piece

import (
	"regexp"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"
)

// InWords says what a fault says as a screen does: the place in the names of what is seen there
// instead of its path in the document, counted from 1, and ranges with "to". Names are p's.
func InWords(p *Piece, f *Fault) string {
	said := paths.ReplaceAllStringFunc(f.Problem, func(path string) string { return placeInWords(p, path) })
	said = spans.ReplaceAllString(said, "$1 to $2")
	if place := placeInWords(p, f.Path); place != "" {
		said = place + ": " + said
	}
	first, size := utf8.DecodeRuneInString(said)
	said = string(unicode.ToUpper(first)) + said[size:]
	if said != "" && !strings.ContainsAny(said[len(said)-1:], ".!?") {
		said += "."
	}
	return said
}

var (
	// paths are places of the document that a message names itself.
	paths   = regexp.MustCompile(`\b(?:order|clips|lanes|ops)(?:\.[A-Za-z]+|\[\d+\])*\[\d+\](?:\.[A-Za-z]+)*`)
	spans   = regexp.MustCompile(`(-?\d+(?:\.\d+)?)\.\.(-?\d+(?:\.\d+)?)`)
	segment = regexp.MustCompile(`([A-Za-z$]+)((?:\[\d+\])*)`)
	capital = regexp.MustCompile(`[A-Z]`)
)

// unspoken are the parts of a path that say nothing to who looks at a screen: of an edit, or what
// the words after it name themselves.
var unspoken = map[string]bool{"ops": true, "patch": true, "clips": true, "lanes": true, "lane": true, "clip": true, "kind": true}

// counted is how single ones of a list are called.
var counted = map[string]string{
	"steps": "step", "tones": "tone", "palette": "chord", "modulators": "modulator", "odds": "alternative",
	"values": "value", "bend": "point", "order": "rung", "notes": "note", "content": "step", "entries": "entry",
}

func placeInWords(p *Piece, path string) string {
	var words []string
	clip := -1
	for _, part := range segment.FindAllStringSubmatch(path, -1) {
		name, index := part[1], -1
		if at, _, found := strings.Cut(strings.TrimPrefix(part[2], "["), "]"); found {
			index, _ = strconv.Atoi(at)
		}
		switch {
		case name == "clips" && index >= 0:
			clip = index
			if p != nil && index < len(p.Clips) && !strings.Contains(path, "lanes[") {
				words = append(words, p.Clips[index].Name)
			}
		case name == "lanes" && index >= 0:
			if p != nil && clip >= 0 && clip < len(p.Clips) && index < len(p.Clips[clip].Lanes) {
				words = append(words, p.Clips[clip].Lanes[index].Name)
			}
		case unspoken[name] || name == "order" && strings.HasPrefix(path, "order."):
		case index >= 0 && counted[name] != "":
			words = append(words, counted[name]+" "+strconv.Itoa(index+1))
		default:
			words = append(words, strings.ToLower(capital.ReplaceAllString(name, " $0")))
		}
	}
	return strings.Join(words, ", ")
}
