package server

import (
	"errors"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/gin-gonic/gin"
	"github.com/stretchr/testify/assert"
)

// counted counts how many of it are written.
type counted struct{ written *int }

func (c counted) MarshalJSON() ([]byte, error) {
	*c.written++
	return []byte(`"a text of some length, so that many of them are large"`), nil
}

// An answer that is too large, or that nobody waits for, ends long before all of it is written.
func TestAnAnswerEndsWhereItIsTooMuch(t *testing.T) {
	const many = 100_000
	written := 0
	items := make([]counted, many)
	for i := range items {
		items[i] = counted{&written}
	}
	gone := errors.New("nobody waits")
	asked := 0
	for name, it := range map[string]struct {
		answer answer
		status int
		says   string
	}{
		"too large": {answer{most: 200_000}, http.StatusUnprocessableEntity, "the answer would have more than"},
		"given up": {answer{most: 1 << 30, waits: func() error {
			if asked++; asked > 5 {
				return &slowError{longest}
			}
			return nil
		}}, http.StatusUnprocessableEntity, "this takes longer than one answer may"},
		"broken": {answer{most: 1 << 30, waits: func() error { return gone }}, http.StatusInternalServerError, "its log says why"},
	} {
		recorder := httptest.NewRecorder()
		c, _ := gin.CreateTestContext(recorder)
		c.Request = httptest.NewRequest(http.MethodGet, "/", nil)
		sent := c.Writer
		a := it.answer
		a.ResponseWriter, a.status = sent, http.StatusOK
		c.Writer = &a
		written = 0
		reply(c, http.StatusOK, items)
		c.Writer = sent
		a.send(c)
		a.spool.close()
		assert.Less(t, written, many/2, name)
		assert.Equal(t, it.status, recorder.Code, name)
		assert.Contains(t, recorder.Body.String(), it.says, name)
	}
}
