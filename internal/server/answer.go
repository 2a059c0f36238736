package server

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/go-json-experiment/json"
	jsonv1 "github.com/go-json-experiment/json/v1"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/piece"
)

// A cost is what an answer of a route may cost, and where a request waits for its turn. Every
// route has one, and nothing is answered outside of it.
type cost struct {
	queue  queueName
	body   int64 // the most bytes of a request
	limits budget.Limits
	time   time.Duration // from when its turn has come
}

// A queueName names a queue in which requests wait for their turn, so that heavy work of one sort is not done
// all at once and does not hold up work of another sort.
type queueName int

const (
	atOnce  queueName = iota // what costs next to nothing waits nowhere
	screens                  // what a screen shows, and edits
	live                     // what is played next
	making                   // files that are made
	reads                    // files that come in, proposals, comparisons
	queues                   // how many there are
)

// places is how many requests of a queue work at once. A piece has one place at most.
var places = [queues]int{screens: 2, live: 1, making: 1, reads: 1}

// What answers may cost. Work is in units of package budget, some 40 ns each.
const (
	maxAnswer  = 8 << 20   // bytes of an answer, and
	maxFile    = 64 << 20  // of one that is a file
	mostMemory = 100 << 20 // bytes held at a time
	longest    = 2500 * time.Millisecond
)

var (
	// light is what costs next to nothing.
	light = cost{atOnce, maxBody, budget.Limits{Work: 5_000_000, Events: 20_000, Memory: mostMemory, Answer: maxAnswer}, longest}
	// shown is a view, an offer, or an edit with the view after it.
	shown = cost{screens, maxBody, budget.Limits{Work: 60_000_000, Events: 400_000, Memory: mostMemory, Answer: maxAnswer}, longest}
	// whole is the document of a piece that comes in.
	whole = cost{screens, maxDocument, shown.limits, longest}
	// played is a stretch of the running order.
	played = cost{live, maxBody, budget.Limits{Work: 40_000_000, Events: 100_000, Memory: mostMemory, Answer: maxAnswer}, longest}
	// made is a MIDI file, or what is in one. A file has fewer events than the command line writes: many are
	// waiting here, one there.
	made = cost{making, maxBody, budget.Limits{Work: 40_000_000, Events: 600_000, Memory: mostMemory, Answer: maxFile}, longest}
	// madeOrder is the same of the running order, which is many clips.
	madeOrder = cost{making, maxBody, budget.Limits{Work: 60_000_000, Events: 1_000_000, Memory: 2 * mostMemory, Answer: maxFile}, longest}
	// drawn is what is drawn of the whole piece, or made to choose from.
	drawn = cost{reads, maxBody, budget.Limits{Work: 60_000_000, Events: 600_000, Memory: mostMemory, Answer: maxAnswer}, longest}
	// comesIn is a MIDI file that comes in.
	comesIn = cost{reads, maxMIDI, budget.Limits{Work: 60_000_000, Events: 1_200_000, Memory: 2 * mostMemory, Answer: maxAnswer}, longest}
	// groovesIn is a MIDI file whose groove is taken.
	groovesIn = cost{reads, maxMIDI, comesIn.limits, longest}
	// document is the document of a piece as a file.
	document = cost{making, 0, budget.Limits{Work: 1_000_000, Answer: 2 * piece.MaxBytes}, longest}
)

// slowError says that an answer takes too long.
type slowError struct{ most time.Duration }

func (e *slowError) Error() string {
	return fmt.Sprintf("this takes longer than one answer may (%g s); choose fewer bars, lanes or steps", e.most.Seconds())
}

// workKey is under which a request's budget is found.
const workKey = "work"

// workOf returns the budget of a request.
func workOf(c *gin.Context) *budget.Budget { return c.MustGet(workKey).(*budget.Budget) }

// answering lets a handler work within a cost: the request is read whole before its turn comes,
// and the answer is sent after the next one's has come, so that nothing is held while a client
// sends or reads.
func (s *server) answering(cost cost, handle func(*gin.Context)) gin.HandlerFunc {
	return func(c *gin.Context) {
		var body spool
		defer body.close()
		if c.Request.ContentLength > cost.body {
			tooLarge(c, cost.body)
			return
		}
		if _, err := io.Copy(&body, http.MaxBytesReader(c.Writer, c.Request.Body, cost.body)); err != nil {
			refuse(c, err)
			return
		}
		arrived, leave := time.Now(), func() {}
		if q := s.queues[cost.queue]; q != nil {
			var err error
			if leave, err = q.enter(c.Request.Context(), c.Param("id")); err != nil {
				refuse(c, err)
				return
			}
		}
		answer := &answer{ResponseWriter: c.Writer, most: cost.limits.Answer, status: http.StatusOK}
		defer answer.spool.close()
		begun := time.Now()
		tell := func() {
			answer.ResponseWriter.Header().Set("Server-Timing",
				fmt.Sprintf("wait;dur=%.1f, work;dur=%.1f", float64(begun.Sub(arrived).Microseconds())/1000, float64(time.Since(begun).Microseconds())/1000))
		}
		if c.GetHeader("Accept") == jsonLines {
			inTwo(c, answer, tell, func() { work(c, cost, &body, answer, leave, handle) })
			return
		}
		work(c, cost, &body, answer, leave, handle)
		tell()
		answer.send(c)
	}
}

// work does a request's work, and leaves its place.
func work(c *gin.Context, cost cost, body *spool, answer *answer, leave func(), handle func(*gin.Context)) {
	defer leave()
	asked, sent := c.Request, c.Writer
	ctx, cancel := context.WithTimeoutCause(asked.Context(), cost.time, &slowError{cost.time})
	defer cancel()
	defer func() { c.Request, c.Writer = asked, sent }()
	c.Request, c.Writer = asked.WithContext(ctx), answer
	answer.waits = func() error { return context.Cause(ctx) }
	c.Set(workKey, budget.Of(cost.limits, answer.waits))
	from, err := body.reader()
	if err != nil {
		refuse(c, err)
		return
	}
	c.Request.Body, c.Request.ContentLength = io.NopCloser(from), body.size
	defer func() {
		if problem := recover(); problem != nil {
			answer.spool.close()
			answer.spool, answer.err = spool{}, nil
			recovered(c, problem)
		}
	}()
	handle(c)
}

// An answer is what a handler writes, until it is sent.
type answer struct {
	gin.ResponseWriter
	spool  spool
	status int
	most   int64
	waits  func() error // why nobody waits for it any more
	wrote  bool
	err    error       // why it cannot be sent
	first  chan spool  // takes the first of two parts; nil: there is one
	header http.Header // what is set once that is on its way, which changes nothing; nil: it is not
}

// reply answers with a value as JSON. It is written bit by bit, so that one that is too large or takes too long
// ends where that is known.
func reply(c *gin.Context, status int, value any) {
	c.Header("Content-Type", "application/json; charset=utf-8")
	c.Status(status)
	if err := json.MarshalWrite(c.Writer, value, jsonv1.DefaultOptionsV1()); err != nil {
		if answer, ok := c.Writer.(*answer); !ok || answer.err == nil {
			broken(c, err)
		}
	}
}

func (a *answer) Header() http.Header {
	if a.header != nil {
		return a.header
	}
	return a.ResponseWriter.Header()
}
func (a *answer) WriteHeader(status int) { a.status = status }
func (a *answer) WriteHeaderNow()        { a.wrote = true }
func (a *answer) Status() int            { return a.status }
func (a *answer) Size() int              { return int(a.spool.size) }
func (a *answer) Written() bool          { return a.wrote }
func (a *answer) Flush()                 {}

func (a *answer) Write(data []byte) (int, error) {
	a.wrote = true
	if a.err == nil && a.waits != nil && a.status < http.StatusBadRequest { // a refusal is told in any case
		a.err = a.waits()
	}
	if a.err == nil && a.spool.size+int64(len(data)) > a.most {
		a.err = &largeError{a.most}
	}
	if a.err == nil {
		_, a.err = a.spool.Write(data)
	}
	return len(data), a.err
}

func (a *answer) WriteString(text string) (int, error) { return a.Write([]byte(text)) }

// largeError says that an answer has too many bytes.
type largeError struct{ most int64 }

func (e *largeError) Error() string {
	return fmt.Sprintf("the answer would have more than %d MB; choose fewer bars, lanes or clips", e.most>>20)
}

// send sends what was written, or why that cannot be.
func (a *answer) send(c *gin.Context) {
	from, err := a.spool.reader()
	if a.err != nil {
		err = a.err
	}
	if err != nil {
		a.Header().Del("Content-Disposition")
		refuse(c, err)
		return
	}
	c.Writer.WriteHeader(a.status)
	if a.spool.size == 0 {
		c.Writer.WriteHeaderNow()
		return
	}
	_, _ = io.Copy(c.Writer, from) // who does not read it is gone
}
