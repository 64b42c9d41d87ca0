package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"regexp"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/gin-gonic/gin"

	"oddspool/core/design"
	"oddspool/core/refusal"
	"oddspool/internal/api"
	"oddspool/internal/feeds"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// fail answers an error of a handler.
func (s *Server) fail(c *gin.Context, err error) {
	if errors.Is(err, context.Canceled) { // nobody waits for the answer
		c.Abort()
		return
	}
	status, as := handler.PublicError(err)
	if as == nil {
		status, as = handler.PublicError(s.unforeseen(c, err))
	}
	faults, _ := as.(*design.FaultsError)
	text := handler.Sentence(as.Error())
	if faults != nil { // they begin with a path, which is written as it is
		text = faults.Error() + "."
	}
	refused, _ := as.(*refusal.Error)
	if more, is := as.(refusal.Refuser); is {
		refused = more.Refusal()
	}
	problem := problemOf(status, refused)
	problem.Text = text
	if unread := errors.As(err, new(*feeds.UnreadError)); unread {
		problem.AsRead = &unread
	}
	sendProblem(c, problem, faults)
}

// unforeseen is what an answer says of an error that no handler refuses by itself.
func (s *Server) unforeseen(c *gin.Context, err error) error {
	missing, isMissing := store.IsMissing(err)
	switch {
	case store.IsFull(err):
		s.Log.Error("a disk is full", "path", c.Request.URL.Path, "error", err)
		return diskFull.With()
	case isMissing:
		return notThere.With(missing)
	case store.IsUnreachable(err):
		return handler.DatabaseAway.With()
	case store.IsImpossible(err):
		return notKept.With()
	}
	s.Log.Error("a request failed", "method", c.Request.Method, "path", c.Request.URL.Path, "error", err)
	return wentWrong.With()
}

// refuse answers a request that does not keep to the contract.
func (s *Server) refuse(c *gin.Context, err error) {
	if large := new(http.MaxBytesError); errors.As(err, &large) {
		writeProblem(c, http.StatusRequestEntityTooLarge, handler.TooLarge(0, large.Limit))
		return
	}
	writeProblem(c, http.StatusBadRequest, plain(err))
}

// unsupported is how the validator tells of a member that the contract does not name.
var unsupported = regexp.MustCompile(`^property "(.*)" is unsupported$`)

// plain says what about a request is wrong.
func plain(err error) *refusal.Error {
	var request *openapi3filter.RequestError
	var schema *openapi3.SchemaError
	text, typed := err.Error(), false
	if errors.As(err, &schema) {
		if text = beyond(schema); text != "" {
			typed = true
		} else {
			text = schema.Reason
		}
		if unknown := unsupported.FindStringSubmatch(text); unknown != nil {
			text = fmt.Sprintf("“%s” is not known here", unknown[1])
		}
		path := schema.JSONPointer()
		if n := len(path); n > 0 && path[n-1] == "name" && schema.SchemaField == "minLength" {
			return nameNeeded.With()
		}
		if len(path) > 0 {
			text = strings.Join(path, ".") + ": " + text
		}
	}
	if errors.As(err, &request) && request.Parameter != nil {
		text = request.Parameter.Name + ": " + text
	}
	text, _, _ = strings.Cut(text, "\n")
	if typed {
		return outOfBounds.With(text)
	}
	return notUnderstood.With(text)
}

// beyond says which bound a value does not keep that a person may well have typed; empty: it is another fault.
func beyond(e *openapi3.SchemaError) string {
	text, _ := e.Value.(string)
	plain := func(n any) string {
		if f, is := n.(float64); is { // as JSON has numbers
			return strconv.FormatFloat(f, 'f', -1, 64)
		}
		return fmt.Sprint(n)
	}
	switch s := e.Schema; e.SchemaField {
	case "maxLength":
		return fmt.Sprintf("it has %d letters, and can have at most %d", utf8.RuneCountInString(text), *s.MaxLength)
	case "minLength":
		if text != "" {
			return fmt.Sprintf("it has %d letters, and must have at least %d", utf8.RuneCountInString(text),
				s.MinLength)
		}
		return "it is empty"
	case "maximum":
		return fmt.Sprintf("it is %s, and can be at most %s", plain(e.Value), plain(*s.Max))
	case "minimum":
		return fmt.Sprintf("it is %s, and must be at least %s", plain(e.Value), plain(*s.Min))
	case "maxItems":
		return fmt.Sprintf("there are more than the %d that can be", *s.MaxItems)
	}
	return ""
}

// writeProblem ends an answer with a refusal, by another status than its kind has.
func writeProblem(c *gin.Context, status int, refused *refusal.Error) {
	sendProblem(c, problemOf(status, refused), nil)
}

// problemOf is a refusal as the contract has it.
func problemOf(status int, refused *refusal.Error) api.Problem {
	values := refused.Named()
	for name, value := range values {
		if text, is := value.(string); is {
			values[name] = shortened(text, longestValue)
		}
	}
	return api.Problem{Status: status, Text: handler.Sentence(refused.Error()), Kind: &refused.Kind.Code,
		Values: &values}
}

// How long the sentence of a problem and each of its values are, in bytes.
const (
	longestText  = 2000
	longestValue = 500
)

// shortened returns a text of so many bytes at most, and … where something is left off.
func shortened(text string, most int) string {
	if len(text) <= most {
		return text
	}
	return strings.ToValidUTF8(text[:most], "") + "…"
}

// sendProblem ends an answer with a problem and the faults of a document.
func sendProblem(c *gin.Context, problem api.Problem, faults *design.FaultsError) {
	problem.Text = shortened(problem.Text, longestText)
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
	c.AbortWithStatusJSON(problem.Status, problem)
}
