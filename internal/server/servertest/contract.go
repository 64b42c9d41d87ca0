package servertest

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"net/http"
	"strings"
	"sync"
	"testing"

	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/stretchr/testify/require"

	"oddspool/internal/api"
)

// contract finds the routes of api/openapi.yaml.
var contract = sync.OnceValues(func() (routers.Router, error) {
	spec, err := api.GetSpec()
	if err != nil {
		return nil, err
	}
	return gorillamux.NewRouter(spec)
})

// truthful sees that an answer is what the contract says of it. Every answer that a test of the server gets is looked
// at so.
func truthful(t testing.TB, request *http.Request, response *http.Response, body []byte) {
	router, err := contract()
	require.NoError(t, err)
	if !strings.HasPrefix(request.URL.Path, "/api/") || !strings.HasPrefix(response.Header.Get("Content-Type"),
		"application/json") {
		return
	}
	route, parameters, err := router.FindRoute(request)
	if err != nil { // what is asked for is none of the contract's
		return
	}
	input := &openapi3filter.ResponseValidationInput{
		RequestValidationInput: &openapi3filter.RequestValidationInput{Request: request, PathParams: parameters,
			Route: route},
		Status: response.StatusCode, Header: response.Header, Body: io.NopCloser(bytes.NewReader(body)),
		Options: &openapi3filter.Options{IncludeResponseStatus: true},
	}
	if err := openapi3filter.ValidateResponse(context.Background(), input); err != nil {
		t.Errorf("%s %s is not what the contract says: %s", request.Method, request.URL.Path,
			strings.SplitN(fmt.Sprint(err), "\n", 3)[0:1])
		t.Logf("%.600v", err)
	}
}
