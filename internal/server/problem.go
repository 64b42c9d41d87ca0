package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"reflect"
	"regexp"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/gin-gonic/gin"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/filter"
	"oddspool/core/picture"
	"oddspool/core/questions"
	"oddspool/core/safety"
	"oddspool/core/safety/hazard"
	"oddspool/core/safety/pipe"
	"oddspool/core/safety/reference"
	"oddspool/core/safety/sign"
	"oddspool/core/safety/symbols"
	"oddspool/core/series"
	"oddspool/core/symbology"
	"oddspool/core/typeset"
	"oddspool/internal/api"
	"oddspool/internal/artwork"
	"oddspool/internal/bundle"
	"oddspool/internal/databases"
	"oddspool/internal/feeds"
	"oddspool/internal/mail"
	"oddspool/internal/orderdesk"
	"oddspool/internal/press"
	"oddspool/internal/reach"
	"oddspool/internal/sandbox"
	"oddspool/internal/secrets"
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

// statuses lists every error whose words people are told, by its type or as the value itself, with
// the status of the answer. What is not here is nobody's to see.
var statuses = map[any]int{
	reflect.TypeFor[*store.NotFoundError](): http.StatusNotFound,
	store.ErrSignIn:                         http.StatusUnauthorized,

	reflect.TypeFor[*store.ConflictError]():      http.StatusConflict,
	reflect.TypeFor[*store.NumberTakenError]():   http.StatusConflict,
	reflect.TypeFor[*store.PartChangedError]():   http.StatusConflict,
	reflect.TypeFor[*store.NameTakenError]():     http.StatusConflict,
	reflect.TypeFor[*store.TypefaceTakenError](): http.StatusConflict,
	store.ErrSetupTaken:                          http.StatusConflict,
	store.ErrPrinterBusy:                         http.StatusConflict,
	store.ErrRunBusy:                             http.StatusConflict,
	store.ErrRecordsReplaced:                     http.StatusConflict,
	store.ErrConnectionTaken:                     http.StatusConflict,
	reflect.TypeFor[*feeds.MissingError]():       http.StatusConflict,
	store.ErrRunStarted:                          http.StatusConflict,
	store.ErrNotHeld:                             http.StatusConflict,
	store.ErrUnsettled:                           http.StatusConflict,

	store.ErrRunClosed:                          http.StatusConflict,
	store.ErrCopied:                             http.StatusConflict,
	store.ErrRunDoubted:                         http.StatusConflict,
	store.ErrLabelsWait:                         http.StatusConflict,
	store.ErrNoSuchLabels:                       http.StatusUnprocessableEntity,
	reflect.TypeFor[*store.SeriesError]():       http.StatusUnprocessableEntity,
	reflect.TypeFor[*series.Error]():            http.StatusUnprocessableEntity,
	reflect.TypeFor[*design.ClashError]():       http.StatusUnprocessableEntity,
	store.ErrNothingToPrint:                     http.StatusUnprocessableEntity,
	reflect.TypeFor[*store.SpoiledSinceError](): http.StatusUnprocessableEntity,
	reflect.TypeFor[*store.NotOfPrintError]():   http.StatusUnprocessableEntity,
	reflect.TypeFor[*sources.FileError]():       http.StatusUnprocessableEntity,
	reflect.TypeFor[*design.SyntaxError]():      http.StatusUnprocessableEntity,
	reflect.TypeFor[*design.FutureError]():      http.StatusUnprocessableEntity,
	reflect.TypeFor[*design.FaultsError]():      http.StatusUnprocessableEntity,
	reflect.TypeFor[*picture.FileError]():       http.StatusUnprocessableEntity,
	reflect.TypeFor[*batch.GatherError]():       http.StatusUnprocessableEntity,
	reflect.TypeFor[*typeset.FileError]():       http.StatusUnprocessableEntity,
	reflect.TypeFor[*store.FullError]():         http.StatusUnprocessableEntity,
	reflect.TypeFor[*artwork.FileError]():       http.StatusUnprocessableEntity,
	reflect.TypeFor[*bundle.FileError]():        http.StatusUnprocessableEntity,
	reflect.TypeFor[*picture.AbsentError]():     http.StatusUnprocessableEntity,
	reflect.TypeFor[*typeset.FamilyError]():     http.StatusUnprocessableEntity,
	reflect.TypeFor[*symbology.UnknownError]():  http.StatusUnprocessableEntity,
	reflect.TypeFor[*hazard.Error]():            http.StatusUnprocessableEntity,
	reflect.TypeFor[*reference.Error]():         http.StatusUnprocessableEntity,
	reflect.TypeFor[*pipe.Error]():              http.StatusUnprocessableEntity,
	reflect.TypeFor[*sign.Error]():              http.StatusUnprocessableEntity,
	reflect.TypeFor[*safety.Error]():            http.StatusUnprocessableEntity,
	reflect.TypeFor[*symbols.UnknownError]():    http.StatusNotFound,
	reflect.TypeFor[*symbols.DrawingError]():    http.StatusUnprocessableEntity,
	reflect.TypeFor[*filter.SpecError]():        http.StatusUnprocessableEntity,
	reflect.TypeFor[*questions.AnswerError]():   http.StatusUnprocessableEntity,
	reflect.TypeFor[*batch.RangeError]():        http.StatusUnprocessableEntity,
	reflect.TypeFor[*batch.QuantityError]():     http.StatusUnprocessableEntity,
	reflect.TypeFor[*batch.TooManyError]():      http.StatusUnprocessableEntity,
	reflect.TypeFor[*reach.ForbiddenError]():    http.StatusUnprocessableEntity,
	reflect.TypeFor[*feeds.Error]():             http.StatusUnprocessableEntity,
	reflect.TypeFor[*databases.MissingError]():  http.StatusUnprocessableEntity,
	reflect.TypeFor[*sandbox.BusyError]():       http.StatusServiceUnavailable,
	secrets.ErrOtherKey:                         http.StatusUnprocessableEntity,

	reflect.TypeFor[*databases.Error]():        http.StatusBadGateway,
	reflect.TypeFor[*orderdesk.Error]():        http.StatusBadGateway,
	reflect.TypeFor[*mail.Error]():             http.StatusBadGateway,
	reflect.TypeFor[*press.UnreachableError](): http.StatusBadGateway,
	reflect.TypeFor[*press.NonsenseError]():    http.StatusBadGateway,
	reflect.TypeFor[*press.RefusedError]():     http.StatusBadGateway,
}

// told finds the outermost error in err that people are told, without what the layers above it added
// for logs, and the status of the answer; 500 and nil for what nobody should see.
func told(err error) (int, error) {
	switch err := err.(type) {
	case *wordsError:
		return err.status, err
	case *http.MaxBytesError:
		return http.StatusRequestEntityTooLarge, &wordsError{text: tooLarge(0, mostUpload)}
	}
	if status, listed := statuses[reflect.TypeOf(err)]; listed {
		if asked, ok := err.(interface{ Outside() bool }); ok && !asked.Outside() { // of what another system was asked
			status = http.StatusUnprocessableEntity
		}
		return status, err
	}
	if reflect.ValueOf(err).Comparable() {
		if status, listed := statuses[err]; listed {
			return status, err
		}
	}
	switch wrapped := err.(type) {
	case interface{ Unwrap() error }:
		if inner := wrapped.Unwrap(); inner != nil {
			return told(inner)
		}
	case interface{ Unwrap() []error }:
		for _, inner := range wrapped.Unwrap() {
			if status, as := told(inner); as != nil {
				return status, as
			}
		}
	}
	return http.StatusInternalServerError, nil
}

const diskFull = "The disk is full on which the database or its server keeps data. Nothing that was kept is lost; " +
	"make room there, then do this again."

const databaseAway = "The database does not answer. Nothing that was kept is lost; try again in a moment."

// fail answers an error of a handler.
func (s *Server) fail(c *gin.Context, err error) {
	if errors.Is(err, context.Canceled) { // nobody waits for the answer
		c.Abort()
		return
	}
	status, as := told(err)
	missing, isMissing := store.IsMissing(err)
	switch {
	case as != nil:
	case store.IsFull(err):
		s.log.Error("a disk is full", "path", c.Request.URL.Path, "error", err)
		status, as = http.StatusInsufficientStorage, &wordsError{text: diskFull}
	case isMissing:
		status, as = http.StatusUnprocessableEntity, &wordsError{text: missing}
	case store.IsUnreachable(err):
		status, as = http.StatusServiceUnavailable, &wordsError{text: databaseAway}
	case store.IsImpossible(err):
		status, as = http.StatusUnprocessableEntity,
			&wordsError{text: "A number or a text in this request is not one that can be kept. See that all are of a " +
				"usual size."}
	default:
		s.log.Error("a request failed", "method", c.Request.Method, "path", c.Request.URL.Path, "error", err)
		as = &wordsError{text: "Something went wrong in the server. Nothing that was kept is lost; try again."}
	}
	faults, _ := as.(*design.FaultsError)
	text := sentence(as.Error())
	if faults != nil { // they begin with a path, which is written as it is
		text = faults.Error() + "."
	}
	writeProblem(c, status, text, faults, errors.As(err, new(*feeds.UnreadError)))
}

// sentence begins with a capital and ends with a full stop.
func sentence(text string) string {
	if text == "" {
		return text
	}
	first, size := utf8.DecodeRuneInString(text)
	return strings.TrimSuffix(string(unicode.ToUpper(first))+text[size:], ".") + "."
}

// refuse answers a request that does not keep to the contract.
func (s *Server) refuse(c *gin.Context, err error) {
	if large := new(http.MaxBytesError); errors.As(err, &large) {
		writeProblem(c, http.StatusRequestEntityTooLarge, tooLarge(0, large.Limit), nil)
		return
	}
	writeProblem(c, http.StatusBadRequest, plain(err), nil)
}

// unsupported is how the validator tells of a member that the contract does not name.
var unsupported = regexp.MustCompile(`^property "(.*)" is unsupported$`)

// plain says in a line what about a request is wrong.
func plain(err error) string {
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
			return "A name is needed."
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
		return sentence(text)
	}
	return "The request is not understood: " + text + "."
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

func writeProblem(c *gin.Context, status int, text string, faults *design.FaultsError, asRead ...bool) {
	const longest = 2000
	if len(text) > longest {
		text = strings.ToValidUTF8(text[:longest], "") + "…"
	}
	problem := api.Problem{Status: status, Text: text}
	if len(asRead) > 0 && asRead[0] {
		problem.AsRead = &asRead[0]
	}
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
