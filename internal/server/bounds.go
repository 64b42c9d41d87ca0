package server

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"net/http"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/gin-gonic/gin"

	"oddspool/internal/server/handler"
)

// Limits of what comes in, judged by the route and not by what a request calls itself; docs/limits.md tells them.
const (
	mostSignIn = 8 << 10          // of one that anybody may send
	mostDepth  = 32               // levels of a JSON document
	mostTokens = 500_000          // values, names and brackets of a JSON document
	mostDigits = 40               // of a number
	mostFaults = 50               // of a design that are told at once
	bodyTime   = 15 * time.Second // for a body to come in
	uploadTime = 3 * time.Minute
)

// A bound is what a route takes in.
type bound struct {
	types []string // of its body; none: it takes none
	most  int64
	time  time.Duration
}

// boundOf reads it from the contract.
func boundOf(path string, operation *openapi3.Operation) bound {
	b := bound{most: handler.MostBody, time: bodyTime}
	if path == signInPath {
		b.most = mostSignIn
	}
	if operation.RequestBody == nil {
		return b
	}
	for name := range operation.RequestBody.Value.Content {
		b.types = append(b.types, name)
		if strings.HasPrefix(name, "multipart/") {
			b.most, b.time = handler.MostUpload, uploadTime
		}
	}
	return b
}

// boundIntegers bounds every integer of the contract that has no bounds of its own to what the database holds.
func boundIntegers(contract *openapi3.T) {
	most := float64(math.MaxInt32)
	seen := map[*openapi3.Schema]bool{}
	var walk func(ref *openapi3.SchemaRef)
	walk = func(ref *openapi3.SchemaRef) {
		if ref == nil || ref.Value == nil || seen[ref.Value] {
			return
		}
		s := ref.Value
		seen[s] = true
		if s.Type.Is("integer") && s.Format == "" {
			if s.Max == nil {
				s.Max = &most
			}
			if s.Min == nil {
				least := -most
				s.Min = &least
			}
		}
		walk(s.Items)
		walk(s.AdditionalProperties.Schema)
		for _, property := range s.Properties {
			walk(property)
		}
		for _, list := range []openapi3.SchemaRefs{s.AllOf, s.AnyOf, s.OneOf} {
			for _, one := range list {
				walk(one)
			}
		}
	}
	for _, schema := range contract.Components.Schemas {
		walk(schema)
	}
	for _, item := range contract.Paths.Map() {
		parameters := slices.Clone(item.Parameters)
		for _, operation := range item.Operations() {
			parameters = append(parameters, operation.Parameters...)
		}
		for _, parameter := range parameters {
			walk(parameter.Value.Schema)
		}
	}
}

// closed has every object of a request refuse members that the contract does not name, with their path: a name that is
// mistyped is otherwise left out without a word. Objects that say themselves what else they take stay as they are.
func closed(contract *openapi3.T) {
	seen := map[*openapi3.Schema]bool{}
	var walk func(ref *openapi3.SchemaRef)
	walk = func(ref *openapi3.SchemaRef) {
		if ref == nil || ref.Value == nil || seen[ref.Value] {
			return
		}
		s := ref.Value
		seen[s] = true
		joined := len(s.AllOf)+len(s.AnyOf)+len(s.OneOf) > 0 // its parts name what they take together
		if s.Type.Is("object") && len(s.Properties) > 0 && s.AdditionalProperties.Has == nil &&
			s.AdditionalProperties.Schema == nil && !joined {
			s.AdditionalProperties.Has = new(false)
		}
		walk(s.Items)
		for _, property := range s.Properties {
			walk(property)
		}
	}
	for _, item := range contract.Paths.Map() {
		for _, operation := range item.Operations() {
			if operation.RequestBody == nil {
				continue
			}
			for kind, content := range operation.RequestBody.Value.Content {
				if kind == gin.MIMEJSON {
					walk(content.Schema)
				}
			}
		}
	}
}

// take takes a request's body in within the bounds of its route; false when it was refused.
func (b *bound) take(c *gin.Context) bool {
	for name, values := range c.Request.URL.Query() {
		for _, value := range values {
			if why := handler.BadText(value); why != "" || handler.BadText(name) != "" {
				writeProblem(c, http.StatusBadRequest, notUnderstood.With(name+" "+why))
				return false
			}
		}
	}
	r := c.Request
	if b.types == nil || r.ContentLength == 0 {
		r.Body = http.NoBody
		return true
	}
	if !slices.Contains(b.types, c.ContentType()) {
		writeProblem(c, http.StatusUnsupportedMediaType, otherType.With(strings.Join(b.types, " or ")))
		return false
	}
	if r.ContentLength > b.most {
		writeProblem(c, http.StatusRequestEntityTooLarge, handler.TooLarge(r.ContentLength, b.most))
		return false
	}
	if b.time > bodyTime {
		_ = http.NewResponseController(c.Writer).SetReadDeadline(time.Now().Add(
			b.time)) //nolint:errcheck // a test's recorder has no deadline
	}
	in := http.MaxBytesReader(c.Writer, r.Body, b.most)
	r.Body = in
	if c.ContentType() != gin.MIMEJSON {
		return true
	}
	data, err := io.ReadAll(in)
	var large *http.MaxBytesError
	switch {
	case errors.As(err, &large):
		writeProblem(c, http.StatusRequestEntityTooLarge, handler.TooLarge(0, b.most))
		return false
	case err != nil:
		writeProblem(c, http.StatusRequestTimeout, requestNotWhole.With())
		return false
	}
	if why := badJSON(data); why != "" {
		writeProblem(c, http.StatusBadRequest, notUnderstood.With(why))
		return false
	}
	r.Body = io.NopCloser(bytes.NewReader(data))
	return true
}

// bodiesInTime closes connections whose bodies do not come within bodyTime, or longer where a route lets them: also of
// requests that are refused before their body is read, which the HTTP server reads to its end.
func bodiesInTime(handler http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.ContentLength != 0 {
			control := http.NewResponseController(w)
			_ = control.SetReadDeadline(time.Now().Add(bodyTime)) //nolint:errcheck // a test's recorder has no deadline
			r.Body = &timedBody{r.Body, func() { _ = control.SetReadDeadline(time.Time{}) }}
		}
		handler.ServeHTTP(w, r)
	})
}

// timedBody lets a connection wait again once its body came in whole, since whoever works on it may take its time.
type timedBody struct {
	io.ReadCloser
	whole func()
}

func (b *timedBody) Read(p []byte) (int, error) {
	n, err := b.ReadCloser.Read(p)
	if errors.Is(err, io.EOF) {
		b.whole()
	}
	return n, err
}

// badJSON says why a document is not worked on; empty: it may be.
func badJSON(data []byte) string {
	if !utf8.Valid(data) {
		return "it is not UTF-8"
	}
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.UseNumber()
	depth, tokens := 0, 0
	for {
		token, err := decoder.Token()
		if errors.Is(err, io.EOF) && tokens > 0 && depth == 0 {
			return ""
		}
		if err != nil {
			return "it is no JSON: " + err.Error()
		}
		if tokens++; tokens > mostTokens {
			return fmt.Sprintf("it has more than %d values and names", mostTokens)
		}
		switch t := token.(type) {
		case json.Delim:
			if t == '{' || t == '[' {
				depth++
			} else {
				depth--
			}
			if depth > mostDepth {
				return fmt.Sprintf("it is deeper than %d levels", mostDepth)
			}
		case json.Number:
			if len(t) > mostDigits {
				return fmt.Sprintf("a number has %d digits; %d are read", len(t), mostDigits)
			}
		case string:
			if why := handler.BadText(t); why != "" {
				return "a text " + why
			}
		}
	}
}
