package server

import (
	"context"
	"errors"
	"net/http"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/gin-gonic/gin"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/symbology"
	"oddspool/core/typeset"
	"oddspool/internal/api"
	"oddspool/internal/press"
	"oddspool/internal/reach"
	"oddspool/internal/sources"
	"oddspool/internal/store"
)

// A wordsError is a refusal in words that a handler makes itself.
type wordsError struct {
	status int
	text   string
}

func (e *wordsError) Error() string { return e.text }

func refused(text string) error { return &wordsError{http.StatusUnprocessableEntity, text} }

// is tells whether err is of a type.
func is[T error](err error) bool {
	var target T
	return errors.As(err, &target)
}

// statusOf picks the status of an error by its type; 500 for what nobody should see.
func statusOf(err error) int {
	var words *wordsError
	var large *http.MaxBytesError
	switch {
	case errors.As(err, &words):
		return words.status
	case errors.As(err, &large):
		return http.StatusRequestEntityTooLarge
	case is[*store.NotFoundError](err):
		return http.StatusNotFound
	case errors.Is(err, store.ErrSignIn):
		return http.StatusUnauthorized
	case is[*store.ConflictError](err), is[*store.NumberTakenError](err), is[*store.NameTakenError](err), errors.Is(err, store.ErrSetupTaken), errors.Is(err, store.ErrPrinterBusy), errors.Is(err, store.ErrRunBusy), errors.Is(err, store.ErrRunStarted), errors.Is(err, store.ErrNotHeld), errors.Is(err, store.ErrUnsettled):
		return http.StatusConflict
	case is[*sources.FileError](err), is[*design.SyntaxError](err), is[*design.FutureError](err), is[*design.FaultsError](err),
		is[*typeset.FamilyError](err), is[*symbology.UnknownError](err), is[*batch.RangeError](err), is[*batch.QuantityError](err),
		is[*batch.TooManyError](err), is[*store.NotOfPrintError](err), is[*reach.ForbiddenError](err), errors.Is(err, store.ErrNothingToPrint):
		return http.StatusUnprocessableEntity
	case is[*press.UnreachableError](err), is[*press.NonsenseError](err), is[*press.RefusedError](err):
		return http.StatusBadGateway
	}
	return http.StatusInternalServerError
}

const databaseAway = "The database does not answer. Nothing that was kept is lost; try again in a moment."

// fail answers an error of a handler.
func (s *Server) fail(c *gin.Context, err error) {
	if errors.Is(err, context.Canceled) { // nobody waits for the answer
		c.Abort()
		return
	}
	status := statusOf(err)
	text := deepest(err)
	switch {
	case status != http.StatusInternalServerError:
	case store.IsUnreachable(err):
		status, text = http.StatusServiceUnavailable, databaseAway
	case store.IsImpossible(err):
		status, text = http.StatusUnprocessableEntity, "A number or a text in this request is not one that can be kept. See that all are of a usual size."
	}
	if status == http.StatusInternalServerError {
		s.log.Error("a request failed", "method", c.Request.Method, "path", c.Request.URL.Path, "error", err)
		text = "Something went wrong in the server. Nothing that was kept is lost; try again."
	}
	if status == http.StatusRequestEntityTooLarge {
		text = tooLarge(0, mostUpload)
	}
	var faults *design.FaultsError
	errors.As(err, &faults)
	writeProblem(c, status, text, faults)
}

// deepest returns the words of the error that has a type of its own, without what the layers above
// it added for logs.
func deepest(err error) string {
	for {
		switch err.(type) {
		case *design.FaultsError: // begins with a path, which is written as it is
			return err.Error() + "."
		case *wordsError, *store.NotFoundError, *store.ConflictError, *store.NumberTakenError, *store.NameTakenError, *sources.FileError, *design.SyntaxError, *design.FutureError,
			*typeset.FamilyError, *symbology.UnknownError, *batch.RangeError, *batch.QuantityError, *batch.TooManyError,
			*reach.ForbiddenError, *press.UnreachableError, *press.NonsenseError, *press.RefusedError:
			return sentence(err.Error())
		}
		next := errors.Unwrap(err)
		if next == nil {
			return sentence(err.Error())
		}
		err = next
	}
}

// sentence begins with a capital and ends with a full stop.
func sentence(text string) string {
	if text == "" {
		return text
	}
	first, size := utf8.DecodeRuneInString(text)
	text = string(unicode.ToUpper(first)) + text[size:]
	if !strings.HasSuffix(text, ".") {
		text += "."
	}
	return text
}

// refuse answers a request that does not keep to the contract.
func (s *Server) refuse(c *gin.Context, err error) {
	if large := new(http.MaxBytesError); errors.As(err, &large) {
		writeProblem(c, http.StatusRequestEntityTooLarge, tooLarge(0, large.Limit), nil)
		return
	}
	writeProblem(c, http.StatusBadRequest, plain(err), nil)
}

// plain says in a line what about a request is wrong.
func plain(err error) string {
	var request *openapi3filter.RequestError
	var schema *openapi3.SchemaError
	text := err.Error()
	if errors.As(err, &schema) {
		text = schema.Reason
		if path := schema.JSONPointer(); len(path) > 0 {
			text = strings.Join(path, ".") + ": " + text
		}
	}
	if errors.As(err, &request) && request.Parameter != nil {
		text = request.Parameter.Name + ": " + text
	}
	text, _, _ = strings.Cut(text, "\n")
	return "The request is not understood: " + text + "."
}

func writeProblem(c *gin.Context, status int, text string, faults *design.FaultsError) {
	const longest = 2000
	if len(text) > longest {
		text = strings.ToValidUTF8(text[:longest], "") + "…"
	}
	problem := api.Problem{Status: status, Text: text}
	if faults != nil {
		told := faults.Faults[:min(len(faults.Faults), mostFaults)]
		list := make([]struct {
			Path string `json:"path"`
			Text string `json:"text"`
		}, len(told))
		for i, fault := range told {
			list[i].Path, list[i].Text = fault.Path, fault.Text
		}
		problem.Faults = &list
	}
	c.AbortWithStatusJSON(status, problem)
}
