package chord

import (
	"cmp"
	"slices"
	"strings"

	"agrimony/internal/core/pitch"
)

// nearest lists the candidates that are a slip or two from a text, the nearest first,
// at most three.
func nearest(text string, candidates []string) []string {
	type scored struct {
		text string
		away int
	}
	var found []scored
	for _, c := range candidates {
		if away := slips(text, c); away <= max(1, min(2, len(text)/2+1)) && away > 0 {
			found = append(found, scored{c, away})
		}
	}
	slices.SortStableFunc(found, func(a, b scored) int {
		length := func(s scored) int { return max(len(s.text)-len(text), len(text)-len(s.text)) }
		return cmp.Or(a.away-b.away, length(a)-length(b))
	})
	var out []string
	for _, f := range found {
		if len(out) < 3 && !slices.Contains(out, f.text) {
			out = append(out, f.text)
		}
	}
	return out
}

// slips is how many letters must be put in, left out or changed to make one text of
// another (Levenshtein's distance).
func slips(a, b string) int {
	row := make([]int, len(b)+1)
	for j := range row {
		row[j] = j
	}
	for i := range len(a) {
		before := row[0]
		row[0] = i + 1
		for j := range len(b) {
			cost := before
			if a[i] != b[j] {
				cost++
			}
			before = row[j+1]
			row[j+1] = min(cost, row[j]+1, before+1)
		}
	}
	return row[len(b)]
}

func nearSuffixes(text string) []string {
	var all []string
	for i := range Qualities {
		all = append(all, Qualities[i].Symbol)
	}
	return nearest(plainSigns.Replace(text), all)
}

func nearText(before string, near []string) string {
	if len(near) == 0 {
		return ""
	}
	return "; near it: " + before + strings.Join(near, ", "+before)
}

// nearWords are chords of the key that a word may have meant.
func nearWords(word string, key pitch.Key) []string {
	var all []string
	for degree := 1; degree <= key.Size(); degree++ {
		for count := 3; count <= 4; count++ {
			if key.Size() == 7 {
				named := Stack(key, degree, count)
				all = append(all, named.Numeral, named.Symbol)
			}
		}
	}
	if len(word) > 1 && word[0] >= 'a' && word[0] <= 'g' {
		all = append([]string{strings.ToUpper(word[:1]) + word[1:]}, all...)
	}
	return nearest(word, all)
}
