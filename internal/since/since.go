// Package since tells what turns one value into another as JSON has them, so that whoever holds the first is sent
// only what is new.
//
// A change is JSON itself, one of
//
//	{"to": value}                           the value is replaced
//	{"in": {"name": change}, "out": [name]} members of an object that change, and those that go
//	{"list": [2, {..}, -1, [a, b]]}         a list from its first item on: 2 items stay, one changes, one goes, a and b come
//
// What is not mentioned stays; the rest of a list does, too. Values are compared by what encoding/json would write of
// them. What shares its memory with what it was is the same without a look at it, so that a value of which most was
// not touched costs what was. A list of which more than mostEdits items differ is replaced.
package since

import (
	"reflect"
	"slices"

	"agrimony/internal/core/budget"
)

// A Change turns a value into another one. Nil: they are equal.
type Change any

type (
	replaced struct {
		To any `json:"to"`
	}
	object struct {
		In  map[string]Change `json:"in,omitempty"`
		Out []string          `json:"out,omitempty"`
	}
	list struct {
		List []any `json:"list"`
	}
)

// Parted is what is written as one object of the members of several.
type Parted interface{ Parts() []any }

// mostEdits bounds how many items of a list change one by one, and ahead is how far it is searched for where two lists
// agree again.
const (
	mostEdits = 1000
	ahead     = 4
)

// Since returns what turns was into now, which are of one type; nil where they are equal.
func Since(was, now any) Change {
	out, _ := Within(nil, was, now) // without a budget there is no error
	return out
}

// Within is Since within a budget, of which each comparison of two items takes a unit. Where that is spent, so much
// differs that now had better be sent whole: the error is the budget's.
func Within(work *budget.Budget, was, now any) (out Change, err error) {
	defer budget.Catch(&err)
	s := &search{work: work}
	return s.change(reflect.ValueOf(&was).Elem(), reflect.ValueOf(&now).Elem()), nil
}

// A search looks for what differs.
type search struct {
	work  *budget.Budget
	count int64
}

// together is how many comparisons are spent for at a time.
const together = 64

// same reports whether two items are written alike.
func (s *search) same(was, now reflect.Value) bool {
	if s.count++; s.count%together == 0 {
		s.work.Spend(together)
	}
	return equal(was, now)
}

func (s *search) change(was, now reflect.Value) Change {
	if was.Kind() == reflect.Interface || was.Kind() == reflect.Pointer {
		return s.changeOfPointer(was, now)
	}
	if parts, ok := partsOf(was); ok {
		next, _ := partsOf(now)
		return s.changeOfParts(parts, next, now)
	}
	switch was.Kind() {
	case reflect.Struct:
		if isLeaf(was.Type()) {
			break
		}
		return s.changeOfObject(fieldsOf(was), fieldsOf(now))
	case reflect.Map:
		if was.IsNil() || now.IsNil() || isLeaf(was.Type()) {
			break
		}
		return s.changeOfObject(entriesOf(was), entriesOf(now))
	case reflect.Slice:
		if was.IsNil() || now.IsNil() || was.Type().Elem().Kind() == reflect.Uint8 || isLeaf(was.Type()) {
			break
		}
		return s.changeOfList(was, now)
	}
	if s.same(was, now) {
		return nil
	}
	return replaced{written(now)}
}

func (s *search) changeOfPointer(was, now reflect.Value) Change {
	switch {
	case was.IsNil() && now.IsNil():
		return nil
	case was.IsNil() || now.IsNil() || was.Elem().Type() != now.Elem().Type():
		return replaced{written(now)}
	case was.Kind() == reflect.Pointer && was.Pointer() == now.Pointer():
		return nil
	}
	return s.change(was.Elem(), now.Elem())
}

// changeOfParts compares what several values write into one object.
func (s *search) changeOfParts(was, now []any, whole reflect.Value) Change {
	var before, after members
	for i := range was {
		if reflect.TypeOf(was[i]) != reflect.TypeOf(now[i]) {
			return replaced{written(whole)}
		}
		before = append(before, fieldsOf(reflect.ValueOf(was[i]))...)
		after = append(after, fieldsOf(reflect.ValueOf(now[i]))...)
	}
	return s.changeOfObject(before, after)
}

func (s *search) changeOfObject(was, now members) Change {
	out := object{In: map[string]Change{}}
	for _, m := range now {
		i := slices.IndexFunc(was, func(w member) bool { return w.name == m.name })
		if i < 0 {
			out.In[m.name] = replaced{written(m.value)}
		} else if c := s.change(was[i].value, m.value); c != nil {
			out.In[m.name] = c
		}
	}
	for _, m := range was {
		if !slices.ContainsFunc(now, func(n member) bool { return n.name == m.name }) {
			out.Out = append(out.Out, m.name)
		}
	}
	if len(out.In) == 0 && len(out.Out) == 0 {
		return nil
	}
	return out
}

// changeOfList goes through two lists side by side. Where they differ it searches a little ahead for where they agree
// again: what stands between is changed by its place, comes or goes.
func (s *search) changeOfList(was, now reflect.Value) Change {
	before, after := was.Len(), now.Len()
	if before == after && (before == 0 || was.Pointer() == now.Pointer()) {
		return nil
	}
	var out edits
	i, j, count := 0, 0, 0
	for i < before || j < after {
		if i < before && j < after && s.same(was.Index(i), now.Index(j)) {
			out.stay()
			i, j = i+1, j+1
			continue
		}
		gone, came := s.apart(was, now, i, j)
		if count += max(gone, came); count > mostEdits {
			return replaced{written(now)}
		}
		for ; gone > 0 && came > 0; gone, came = gone-1, came-1 {
			out.change(now.Index(j), s.change(was.Index(i), now.Index(j)))
			i, j = i+1, j+1
		}
		for ; came > 0; came-- {
			out.come(now.Index(j))
			j++
		}
		for ; gone > 0; gone-- {
			out.drop()
			i++
		}
	}
	return out.whole()
}

// apart returns how many items of each list stand before the next ones that agree: as few as possible.
func (s *search) apart(was, now reflect.Value, i, j int) (gone, came int) {
	before, after := was.Len()-i, now.Len()-j
	if before == 0 || after == 0 {
		return min(before, 1), min(after, 1)
	}
	agree := func(a, b int) bool {
		return a == before && b == after || a < before && b < after && s.same(was.Index(i+a), now.Index(j+b))
	}
	for k := 1; k <= ahead; k++ {
		for less := k; less >= 0; less-- {
			if agree(k, less) {
				return k, less
			}
			if agree(less, k) {
				return less, k
			}
		}
	}
	return 1, 1
}

// edits are the entries of a change of a list as they are gathered.
type edits []any

func (e edits) last() any {
	if len(e) == 0 {
		return nil
	}
	return e[len(e)-1]
}

// stay keeps an item.
func (e *edits) stay() {
	if n, ok := e.last().(int); ok && n > 0 {
		(*e)[len(*e)-1] = n + 1
		return
	}
	*e = append(*e, 1)
}

// drop takes an item away. What comes in the same place may stand before it or after it.
func (e *edits) drop() {
	at := len(*e) - 1
	if _, ok := e.last().([]any); ok {
		at--
	}
	if at >= 0 {
		if n, ok := (*e)[at].(int); ok && n < 0 {
			(*e)[at] = n - 1
			return
		}
	}
	*e = append(*e, -1)
}

// come puts an item in.
func (e *edits) come(item reflect.Value) {
	if items, ok := e.last().([]any); ok {
		(*e)[len(*e)-1] = append(items, written(item))
		return
	}
	*e = append(*e, []any{written(item)})
}

// change turns an item into now.
func (e *edits) change(now reflect.Value, by Change) {
	switch c := by.(type) {
	case nil:
		e.stay()
	case replaced:
		e.drop()
		e.come(now)
	default:
		*e = append(*e, c)
	}
}

// whole is the change that they make; what stays at the end need not be told.
func (e edits) whole() Change {
	if n, ok := e.last().(int); ok && n > 0 {
		e = e[:len(e)-1]
	}
	if len(e) == 0 {
		return nil
	}
	return list{e}
}
