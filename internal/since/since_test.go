package since_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/budget"
	"agrimony/internal/since"
	"agrimony/internal/since/sincetest"
)

type item struct {
	ID    string         `json:"id"`
	At    int            `json:"at"`
	By    []float64      `json:"by,omitempty"`
	Names []string       `json:"names"`
	More  map[string]int `json:"more"`
	Inner *inner         `json:"inner"`
	Any   any            `json:"any"`
	inner
	hidden int
}

type inner struct {
	Deep bool   `json:"deep"`
	ID   string `json:"id"` // the outer one counts
}

type tree struct {
	Title string  `json:"title"`
	Items []item  `json:"items"`
	Held  []*item `json:"held"`
}

// written is a value as encoding/json writes and reads it.
func written(t require.TestingT, value any) any {
	text, err := json.Marshal(value)
	require.NoError(t, err)
	var out any
	require.NoError(t, json.Unmarshal(text, &out))
	return out
}

var items = rapid.Custom(func(t *rapid.T) item {
	out := item{
		ID: rapid.StringOfN(rapid.RuneFrom([]rune("abc")), 1, 2, -1).Draw(t, "id"), At: rapid.IntRange(0, 2).Draw(t, "at"),
		By: rapid.SliceOfN(rapid.Float64Range(0, 1), 0, 2).Draw(t, "by"), Names: rapid.SliceOfN(rapid.SampledFrom([]string{"x", "y"}), 0, 3).Draw(t, "names"),
		More: rapid.MapOfN(rapid.SampledFrom([]string{"m", "n"}), rapid.IntRange(0, 1), 0, 2).Draw(t, "more"), hidden: rapid.IntRange(0, 1).Draw(t, "hidden"),
	}
	out.Deep = rapid.Bool().Draw(t, "deep")
	if rapid.Bool().Draw(t, "nil") {
		out.Names, out.More = nil, nil
	}
	if rapid.Bool().Draw(t, "inner") {
		out.Inner = &inner{Deep: rapid.Bool().Draw(t, "inner deep")}
	}
	out.Any = rapid.SampledFrom([]any{nil, 1, "one", &inner{}, inner{true, ""}}).Draw(t, "any")
	return out
})

// TestWhatIsMergedIsWhatIsNow: items stay, change, come, go and change places.
func TestWhatIsMergedIsWhatIsNow(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		was := tree{Title: rapid.SampledFrom([]string{"a", "b"}).Draw(t, "title"), Items: rapid.SliceOfN(items, 0, 12).Draw(t, "items"), Held: rapid.SliceOfN(rapid.Ptr(items, true), 0, 4).Draw(t, "held")}
		now := was
		now.Title = rapid.SampledFrom([]string{"a", "b"}).Draw(t, "next title")
		now.Items = append([]item{}, was.Items...)
		for range rapid.IntRange(0, 6).Draw(t, "edits") {
			n := len(now.Items)
			switch at := rapid.IntRange(0, n).Draw(t, "at"); rapid.IntRange(0, 3).Draw(t, "edit") {
			case 0:
				now.Items = append(now.Items[:at:at], append([]item{items.Draw(t, "new")}, now.Items[at:]...)...)
			case 1:
				if at < n {
					now.Items = append(now.Items[:at:at], now.Items[at+1:]...)
				}
			case 2:
				if at < n {
					now.Items[at] = items.Draw(t, "other")
				}
			case 3:
				if at < n {
					now.Items[at].At++
				}
			}
		}
		change := since.Since(was, now)
		got, err := sincetest.Merge(written(t, was), written(t, change))
		require.NoError(t, err)
		assert.Equal(t, written(t, now), got)
		assert.Nil(t, since.Since(now, now))
		if change == nil {
			assert.Equal(t, written(t, was), written(t, now))
		}
	})
}

// shout writes itself through a pointer.
type shout struct{ Word string }

func (s *shout) MarshalJSON() ([]byte, error) { return json.Marshal(s.Word + "!") }

type pair struct {
	Own *shout `json:"own"`
}

func TestAChangeSaysWhatIsNewAlone(t *testing.T) {
	list := func(values ...int) []int { return values }
	for _, row := range []struct {
		was, now any
		change   string
	}{
		{1, 1, `null`},
		{1, 2, `{"to":2}`},
		{list(1, 2, 3), list(1, 3), `{"list":[1,-1]}`},
		{list(1, 3), list(1, 2, 3), `{"list":[1,[2]]}`},
		{list(1, 2, 3, 4), list(1, 8, 9, 4), `{"list":[1,-2,[8,9]]}`},
		{[]int{}, list(7), `{"list":[[7]]}`},
		{[]int(nil), []int{}, `{"to":[]}`},
		{item{ID: "a", At: 1}, item{ID: "a", At: 2}, `{"in":{"at":{"to":2}}}`},
		{item{By: []float64{1}}, item{}, `{"out":["by"]}`},
		{item{}, item{By: []float64{1}}, `{"in":{"by":{"to":[1]}}}`},
		{[]item{{ID: "a"}, {ID: "b"}}, []item{{ID: "a"}, {ID: "b", At: 1}}, `{"list":[1,{"in":{"at":{"to":1}}}]}`},
		{item{More: map[string]int{"a": 1, "b": 2}}, item{More: map[string]int{"a": 1, "c": 2}}, `{"in":{"more":{"in":{"c":{"to":2}},"out":["b"]}}}`},
		{item{Any: 1}, item{Any: "1"}, `{"in":{"any":{"to":"1"}}}`},
		{item{hidden: 1}, item{hidden: 2}, `null`},
		{&pair{Own: &shout{"a"}}, &pair{Own: &shout{"b"}}, `{"in":{"own":{"to":"b!"}}}`},
		{[]shout{{"a"}}, []shout{{"b"}, {"c"}}, `{"list":[-1,["b!","c!"]]}`},
	} {
		text, err := json.Marshal(since.Since(row.was, row.now))
		require.NoError(t, err)
		assert.JSONEq(t, row.change, string(text), "%v to %v", row.was, row.now)
	}
}

// TestAListOfWhichMuchIsNewIsSentWhole: changes one by one would be longer than it.
func TestAListOfWhichMuchIsNewIsSentWhole(t *testing.T) {
	was, now := make([]int, 3000), make([]int, 3000)
	for i := range now {
		now[i] = i % 2
	}
	text, err := json.Marshal(since.Since(was, now))
	require.NoError(t, err)
	assert.Less(t, len(text), 7000)
	assert.Equal(t, `{"to":[0,1,0`, string(text[:12]))
}

// TestWhatIsNotWorthTellingIsNotLookedFor: a budget that is spent ends the search.
func TestWhatIsNotWorthTellingIsNotLookedFor(t *testing.T) {
	was, now := make([]int, 100), make([]int, 100)
	now[99] = 1
	_, err := since.Within(budget.Of(budget.Limits{Work: 50}, nil), was, now)
	var spent *budget.SpentError
	assert.ErrorAs(t, err, &spent)
	change, err := since.Within(budget.Of(budget.Limits{Work: 5000}, nil), was, now)
	require.NoError(t, err)
	assert.NotNil(t, change)
}

func TestAChangeThatDoesNotFitIsAnError(t *testing.T) {
	for _, row := range [][2]any{
		{map[string]any{}, map[string]any{"list": []any{1.0}}},
		{[]any{1.0}, map[string]any{"list": []any{2.0}}},
		{[]any{1.0}, map[string]any{"list": []any{-2.0}}},
		{[]any{}, map[string]any{"list": []any{map[string]any{"to": 1.0}}}},
		{1.0, map[string]any{"in": map[string]any{}}},
		{1.0, "to"},
	} {
		_, err := sincetest.Merge(row[0], row[1])
		assert.Error(t, err, "%v", row)
	}
}
