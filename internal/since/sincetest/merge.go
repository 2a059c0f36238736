// Package sincetest does with changes what a screen does with them.
package sincetest

import "fmt"

// Merge applies a change to a value, both as encoding/json reads them.
func Merge(held, change any) (any, error) {
	if change == nil {
		return held, nil
	}
	of, ok := change.(map[string]any)
	if !ok {
		return nil, fmt.Errorf("%v is not a change", change)
	}
	if to, ok := of["to"]; ok {
		return to, nil
	}
	if entries, ok := of["list"].([]any); ok {
		was, ok := held.([]any)
		if !ok {
			return nil, fmt.Errorf("%T is not a list", held)
		}
		return mergeList(was, entries)
	}
	was, ok := held.(map[string]any)
	if !ok {
		return nil, fmt.Errorf("%T is not an object", held)
	}
	out := map[string]any{}
	for name, value := range was {
		out[name] = value
	}
	in, _ := of["in"].(map[string]any)
	for name, inner := range in {
		next, err := Merge(was[name], inner)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		out[name] = next
	}
	gone, _ := of["out"].([]any)
	for _, name := range gone {
		delete(out, name.(string))
	}
	return out, nil
}

func mergeList(was, entries []any) (any, error) {
	out, at := []any{}, 0
	for _, entry := range entries {
		switch e := entry.(type) {
		case float64:
			n := int(e)
			if at+max(n, -n) > len(was) {
				return nil, fmt.Errorf("a list of %d has no item %d", len(was), at+max(n, -n))
			}
			if n > 0 {
				out = append(out, was[at:at+n]...)
			}
			at += max(n, -n)
		case []any:
			out = append(out, e...)
		default:
			if at >= len(was) {
				return nil, fmt.Errorf("a list of %d has no item %d", len(was), at)
			}
			next, err := Merge(was[at], e)
			if err != nil {
				return nil, fmt.Errorf("[%d]: %w", at, err)
			}
			out = append(out, next)
			at++
		}
	}
	return append(out, was[at:]...), nil
}
