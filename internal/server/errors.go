package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"os"
	"runtime/debug"
	"strings"

	"github.com/gin-gonic/gin"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/store"
)

// fail ends a request with an error body.
func fail(c *gin.Context, status int, path, message string) {
	c.AbortWithStatusJSON(status, Problem{Error: message, Path: path})
}

// refuse ends a request with the status that fits an error. Errors that are not
// the caller's are 500.
func refuse(c *gin.Context, err error) { refuseOf(c, nil, err) }

// refuseOf is the same of a piece, whose names the words then use; nil: of none.
func refuseOf(c *gin.Context, of *piece.Piece, err error) {
	var fault *piece.Fault
	var long *render.TooLongError
	var many *render.TooManyError
	var large *http.MaxBytesError
	var asked *badRequest
	var spent *budget.SpentError
	var memory *budget.MemoryError
	var slow *slowError
	var huge *largeError
	var faulty *render.BrokenError
	var trouble *store.TroubleError
	var asks *change.AskError
	switch {
	case errors.As(err, &asks):
		c.AbortWithStatusJSON(http.StatusUnprocessableEntity, Problem{Error: asks.Error(), Path: asks.Path, Words: piece.InWords(of, asks.Fault), Mends: asks.Mends})
	case errors.As(err, &faulty):
		told(faulty)
		c.AbortWithStatusJSON(http.StatusInternalServerError, Problem{Error: faulty.Error() + "; nothing was changed, and the log has the details.", Final: true})
	case errors.As(err, &trouble):
		slog.Error("nothing can be kept", "problem", trouble.Words)
		fail(c, http.StatusInsufficientStorage, "", trouble.Words)
	case errors.As(err, &fault):
		c.AbortWithStatusJSON(http.StatusUnprocessableEntity, Problem{Error: fault.Error(), Path: fault.Path, Words: piece.InWords(of, fault)})
	case errors.As(err, &long), errors.As(err, &many), errors.As(err, &spent), errors.As(err, &memory), errors.As(err, &slow), errors.As(err, &huge):
		fail(c, http.StatusUnprocessableEntity, "", err.Error())
	case errors.As(err, &large):
		tooLarge(c, large.Limit)
	case errors.Is(err, os.ErrDeadlineExceeded):
		fail(c, http.StatusRequestTimeout, "", "the request took too long to arrive")
	case errors.Is(err, context.Canceled), errors.Is(err, context.DeadlineExceeded):
		fail(c, http.StatusServiceUnavailable, "", "the request was given up")
	case errors.As(err, &asked):
		fail(c, http.StatusBadRequest, "", err.Error())
	case errors.Is(err, store.ErrNotFound), errors.Is(err, store.ErrGone):
		fail(c, http.StatusNotFound, "", err.Error())
	case errors.Is(err, store.ErrNothing), errors.Is(err, store.ErrLost):
		fail(c, http.StatusConflict, "", err.Error())
	default:
		broken(c, err)
	}
}

// told puts a fault of the program's own into the log.
func told(fault *render.BrokenError) {
	slog.Error("a lane cannot be played", "lane", fault.Lane, "problem", fault.Problem, "stack", fault.Stack)
}

// broken answers for a fault of the server's own. What it was is for the log: it
// may tell of paths and of the database.
func broken(c *gin.Context, problem any, more ...any) {
	slog.Error("the server failed", append([]any{"method", c.Request.Method, "path", c.Request.URL.Path, "problem", problem}, more...)...)
	fail(c, http.StatusInternalServerError, "", "The server could not do this; its log says why.")
}

func recovered(c *gin.Context, problem any) { broken(c, problem, "stack", string(debug.Stack())) }

func tooLarge(c *gin.Context, most int64) {
	fail(c, http.StatusRequestEntityTooLarge, "", fmt.Sprintf("the request is larger than %d MiB", most>>20))
}

// badRequest is a mistake of the caller's outside the document.
type badRequest struct{ problem string }

func (e *badRequest) Error() string { return e.problem }

func bad(format string, args ...any) error { return &badRequest{fmt.Sprintf(format, args...)} }

// body reads a JSON body strictly.
func body(c *gin.Context, into any) error {
	decoder := json.NewDecoder(c.Request.Body)
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(into); err != nil {
		var large *http.MaxBytesError
		var fault *piece.Fault
		switch {
		case errors.As(err, &large), errors.Is(err, os.ErrDeadlineExceeded):
			return err
		case errors.As(err, &fault):
			return fault
		case errors.Is(err, io.EOF), errors.Is(err, io.ErrUnexpectedEOF):
			return bad("the request's JSON ends in the middle")
		}
		return bad("the request is not as it should be: %s", strings.TrimPrefix(err.Error(), "json: "))
	}
	if decoder.More() {
		return bad("something follows the end of the request's JSON")
	}
	return nil
}
