package server

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"

	"github.com/gin-gonic/gin"
)

// jsonLines is the media type of an answer in two parts, a line of JSON each.
const jsonLines = "application/jsonl"

// inTwo sends the first part of an answer while the work on the second goes on, so that neither waits for the other.
func inTwo(c *gin.Context, answer *answer, tell, work func()) {
	to := c.Writer // the context is the work's until that is done
	first, done := make(chan spool, 1), make(chan struct{})
	answer.first = first
	go func() {
		defer close(done)
		work()
	}()
	select {
	case part := <-first:
		answer.sendPart(to, &part, tell)
		<-done
		answer.sendRest(to)
	case <-done:
		select {
		case part := <-first:
			answer.sendPart(to, &part, tell)
			answer.sendRest(to)
		default:
			tell()
			answer.send(c)
		}
	}
}

// part sends what was written so far, where the answer has two parts; it reports whether that is so.
func (a *answer) part() bool {
	if a.first == nil || a.err != nil {
		return false
	}
	a.header = http.Header{}
	a.first <- a.spool
	a.spool = spool{}
	return true
}

func (a *answer) sendPart(to gin.ResponseWriter, part *spool, tell func()) {
	defer part.close()
	tell()
	to.Header().Set("Content-Type", jsonLines)
	from, err := part.reader()
	if err != nil {
		return // the second part tells that it is not kept, or that it is
	}
	to.WriteHeader(http.StatusOK)
	_, _ = io.Copy(to, from) // who does not read it is gone
	_, _ = io.WriteString(to, "\n")
	to.Flush()
}

// sendRest sends the second part, or why there is none.
func (a *answer) sendRest(to gin.ResponseWriter) {
	from, err := a.spool.reader()
	if a.err == nil && err == nil && a.status < http.StatusBadRequest {
		_, _ = io.Copy(to, from)
		return
	}
	out := Kept{Status: a.status, Problem: &Problem{Error: "The server's answer was lost: open the piece again to see what is kept."}}
	if a.err == nil && err == nil {
		if text, err := io.ReadAll(from); err == nil {
			_ = json.Unmarshal(text, out.Problem) // a Problem, as fail wrote it
		}
	}
	if out.Status < http.StatusBadRequest {
		out.Status = http.StatusInternalServerError
	}
	_ = json.NewEncoder(to).Encode(out)
}

// asLines reports whether an answer is a line of JSON for each part.
func asLines(c *gin.Context) bool {
	answer, ok := c.Writer.(*answer)
	return ok && answer.first != nil
}

// endLine ends a part that stands in one answer with the next.
func endLine(c *gin.Context) { _, _ = fmt.Fprintln(c.Writer) }
