package server

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

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
func refuse(c *gin.Context, err error) {
	var fault *piece.Fault
	var long *render.TooLongError
	var many *render.TooManyError
	var large *http.MaxBytesError
	var asked *badRequest
	switch {
	case errors.As(err, &fault):
		fail(c, http.StatusUnprocessableEntity, fault.Path, fault.Error())
	case errors.As(err, &long), errors.As(err, &many):
		fail(c, http.StatusUnprocessableEntity, "", err.Error())
	case errors.As(err, &large):
		fail(c, http.StatusRequestEntityTooLarge, "", "the request is larger than 8 MiB")
	case errors.As(err, &asked):
		fail(c, http.StatusBadRequest, "", err.Error())
	case errors.Is(err, store.ErrNotFound):
		fail(c, http.StatusNotFound, "", err.Error())
	case errors.Is(err, store.ErrNothing):
		fail(c, http.StatusConflict, "", err.Error())
	default:
		fail(c, http.StatusInternalServerError, "", "the server failed: "+err.Error())
	}
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
		case errors.As(err, &large):
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
