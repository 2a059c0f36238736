package server_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"agrimony/internal/core/op"
	"agrimony/internal/server"
)

// soundingNotes are how many notes both lanes of the benchmark sound.
const soundingNotes = 20_480

// manyNotes is a document of a clip of 128 bars in which one lane sounds so many notes: a line by
// its rounds, or free notes.
func manyNotes(free bool) string {
	const head = `{"format":"agrimony-piece","version":1,"clips":[{"id":"keel","bars":128,"lanes":[`
	if !free {
		steps := strings.Repeat(`{"on":true,"ratchet":2},{"on":true,"degree":3,"ratchet":3},`, 31) + `{"on":true,"ratchet":2},{"on":true,"degree":5,"ratchet":3}`
		return head + `{"id":"low","rate":"1/64","steps":[` + steps + `]}]}]}`
	}
	var notes strings.Builder
	for i := range soundingNotes / 128 * 125 { // as many as a lane may have
		if i > 0 {
			notes.WriteByte(',')
		}
		fmt.Fprintf(&notes, `{"at":%d,"length":20,"degree":%d}`, i*24, i%7+1)
	}
	return head + `{"id":"low","kind":"notes","notes":[` + notes.String() + `]}]}]}`
}

// An edit of a lane of 20,000 free notes, answered, and one of a line that sounds as many.
func BenchmarkEditOfManyNotes(b *testing.B) {
	for name, edit := range map[string]op.Op{
		"line": op.Of(op.SetSteps{OnSteps: op.OnSteps{Clip: "keel", Lane: "low", Steps: []int{3}}}),
		"free": op.Of(op.SetNotes{OnNotes: op.OnNotes{Clip: "keel", Lane: "low", Notes: []int{3}}}),
	} {
		b.Run(name, func(b *testing.B) {
			c := start(b)
			var made shown
			c.call("POST", "/api/pieces/import", manyNotes(name == "free"), &made)
			version, sum, took := int64(1), "", []time.Duration{}
			for i := 0; b.Loop(); i++ {
				patch := json.RawMessage(fmt.Sprintf(`{"velocity":%d}`, i%100+1))
				switch own := edit.Args.(type) {
				case op.SetSteps:
					own.Patch = patch
					edit = op.Of(own)
				case op.SetNotes:
					own.Patch = patch
					edit = op.Of(own)
				}
				began := time.Now()
				var state struct {
					Version int64
					Sum     string
				}
				c.call("POST", "/api/pieces/"+made.ID+"/edits", server.EditRequest{Version: version, Clip: "keel", Holds: server.Holds{Sum: sum}, Ops: []op.Op{edit}}, &state)
				took = append(took, time.Since(began))
				require.Equal(b, version+1, state.Version)
				version, sum = state.Version, state.Sum
			}
			slices.Sort(took)
			b.ReportMetric(float64(took[len(took)/2].Microseconds())/1000, "ms/median")
		})
	}
}
