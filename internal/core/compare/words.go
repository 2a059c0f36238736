package compare

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"agrimony/internal/core/piece"
)

// Said is a difference in words, with what takes it across: the lane, or a path.
type Said struct {
	Lane string `json:"lane"` // "" of the clip itself
	Text string `json:"text"`
	Path string `json:"path"` // of the setting; "" where the whole lane differs
}

// Words tell the settings in which the second clip differs from the first, lane by lane: "Low: plays
// backwards".
func Words(a, b *piece.Clip) []Said {
	out := []Said{}
	steps := map[string][]string{} // by lane, which steps differ
	name := func(id string) string {
		for _, c := range []*piece.Clip{b, a} {
			for i := range c.Lanes {
				if c.Lanes[i].ID == id {
					return c.Lanes[i].Name
				}
			}
		}
		return id
	}
	var order []string
	for _, s := range Settings(a, b) {
		lane, field := parts(s.Path)
		if part, inside := strings.CutPrefix(field, "window."); inside {
			out = append(out, Said{lane, fmt.Sprintf("%s: its window's %s is %s instead of %s", name(lane), part, value(s.To), value(s.From)), "window"})
			continue
		}
		if lane == "" {
			out = append(out, Said{"", "The clip: " + change(field, s.From, s.To), field})
			continue
		}
		if field == "" {
			text := "is another kind of lane"
			switch {
			case s.From == nil:
				text = "is new"
			case s.To == nil:
				text = "is gone"
			}
			out = append(out, Said{lane, name(lane) + ": " + text, ""})
			continue
		}
		if list, of, found := strings.Cut(field, "["); found {
			key := lane + "." + list
			if _, known := steps[key]; !known {
				order = append(order, key)
			}
			at, _, _ := strings.Cut(of, "]")
			if !slices.Contains(steps[key], at) {
				steps[key] = append(steps[key], at)
			}
			continue
		}
		out = append(out, Said{lane, name(lane) + ": " + change(field, s.From, s.To), field})
	}
	for _, key := range order {
		lane, list, _ := strings.Cut(key, ".")
		x, y := count(a, lane, list), count(b, lane, list)
		if x != y {
			out = append(out, Said{lane, fmt.Sprintf("%s: %d %s instead of %d", name(lane), y, list, x), list})
			if changed := slices.DeleteFunc(slices.Clone(steps[key]), func(at string) bool {
				var n int
				_, err := fmt.Sscan(at, &n)
				return err != nil || n >= min(x, y)
			}); len(changed) > 0 {
				out = append(out, Said{lane, fmt.Sprintf("%s: %s otherwise", name(lane), some(len(changed), list)), list})
			}
			continue
		}
		out = append(out, Said{lane, fmt.Sprintf("%s: %s otherwise", name(lane), some(len(steps[key]), list)), list})
	}
	slices.SortStableFunc(out, func(x, y Said) int { return place(a, b, x.Lane) - place(a, b, y.Lane) })
	return out
}

// some is so many of a list: "1 step", "3 steps".
func some(n int, list string) string {
	if n == 1 {
		list = strings.TrimSuffix(list, "s")
	}
	return fmt.Sprintf("%d %s", n, list)
}

// place is where a lane stands: the clip first.
func place(a, b *piece.Clip, id string) int {
	for i := range b.Lanes {
		if b.Lanes[i].ID == id {
			return i + 1
		}
	}
	for i := range a.Lanes {
		if a.Lanes[i].ID == id {
			return piece.MaxLanes + i + 1
		}
	}
	return 0
}

// parts divides a path into the id of its lane and the rest.
func parts(path string) (lane, field string) {
	rest, found := strings.CutPrefix(path, "lanes[")
	if !found {
		return "", path
	}
	lane, field, _ = strings.Cut(rest, "]")
	return lane, strings.TrimPrefix(field, ".")
}

// count is how many items a list of a lane has.
func count(c *piece.Clip, lane, list string) int {
	for i := range c.Lanes {
		if c.Lanes[i].ID == lane {
			items, _ := laneOf(&c.Lanes[i]).(map[string]any)[list].([]any)
			return len(items)
		}
	}
	return 0
}

// plays are directions as one says them.
var plays = map[string]string{"forward": "plays forwards", "reverse": "plays backwards", "pendulum": "plays there and back", "shuffle": "plays shuffled"}

// change says how a setting differs.
func change(field string, from, to any) string {
	if field == "direction" {
		return plays[fmt.Sprint(to)]
	}
	if field == "window" {
		return "plays " + window(to) + " instead of " + window(from)
	}
	if to == true || from == true && to == false {
		if to == true {
			return "now " + field
		}
		return "not " + field
	}
	return fmt.Sprintf("%s %s instead of %s", strings.ReplaceAll(field, ".", " "), value(to), value(from))
}

func value(v any) string {
	switch v := v.(type) {
	case nil:
		return "none"
	case string:
		return v
	case json.Number:
		return v.String()
	}
	if m, ok := v.(map[string]any); ok {
		var out []string
		for _, k := range slices.Sorted(slices.Values(keys(m))) {
			if m[k] != nil {
				out = append(out, fmt.Sprintf("%s %s", k, value(m[k])))
			}
		}
		return strings.Join(out, ", ")
	}
	return fmt.Sprint(v)
}

// window says which steps of a lane play.
func window(v any) string {
	m, ok := v.(map[string]any)
	if !ok {
		return "all steps"
	}
	return fmt.Sprintf("%s steps from step %s", value(m["count"]), value(m["start"]))
}
