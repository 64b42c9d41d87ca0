package orderdesk_test

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/stretchr/testify/require"

	"oddspool/examples"
	"oddspool/internal/orderdesk"
	"oddspool/internal/reach"
	"oddspool/standin"
)

var ctx = context.Background()

// agreed has every request and answer held against the contract on its way.
func agreed(t *testing.T, desk http.Handler) http.Handler {
	contract, err := openapi3.NewLoader().LoadFromFile("../../docs/order-desk.yaml")
	require.NoError(t, err)
	require.NoError(t, contract.Validate(ctx))
	router, err := gorillamux.NewRouter(contract)
	require.NoError(t, err)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		body, err := io.ReadAll(r.Body)
		require.NoError(t, err)
		r.Body = io.NopCloser(bytes.NewReader(body))
		route, path, err := router.FindRoute(r)
		require.NoError(t, err, r.URL)
		in := &openapi3filter.RequestValidationInput{Request: r, PathParams: path, Route: route,
			Options: &openapi3filter.Options{AuthenticationFunc: openapi3filter.NoopAuthenticationFunc}}
		require.NoError(t, openapi3filter.ValidateRequest(ctx, in))
		r.Body = io.NopCloser(bytes.NewReader(body))
		recorded := httptest.NewRecorder()
		desk.ServeHTTP(recorded, r)
		answer := &openapi3filter.ResponseValidationInput{RequestValidationInput: in, Status: recorded.Code,
			Header: recorded.Header(), Body: io.NopCloser(bytes.NewReader(recorded.Body.Bytes()))}
		require.NoError(t, openapi3filter.ValidateResponse(ctx, answer))
		for name, values := range recorded.Header() {
			w.Header()[name] = values
		}
		w.WriteHeader(recorded.Code)
		_, _ = w.Write(recorded.Body.Bytes())
	})
}

func desk(t *testing.T, wrap func(*testing.T, http.Handler) http.Handler) (*orderdesk.Desk, *standin.Desk, string) {
	data, err := examples.Files.ReadFile("desk.json")
	require.NoError(t, err)
	stand, err := standin.NewDesk(data, "salt", t.TempDir())
	require.NoError(t, err)
	handler := stand.Handler()
	if wrap != nil {
		handler = wrap(t, handler)
	}
	server := httptest.NewServer(handler)
	t.Cleanup(server.Close)
	d, err := orderdesk.At(server.URL, "salt", nil)
	require.NoError(t, err)
	return d, stand, server.URL
}

func TestADocumentBecomesRecords(t *testing.T) {
	d, _, _ := desk(t, agreed)
	require.NoError(t, d.Try(ctx))
	fields, rows, err := d.Ask(ctx, orderdesk.Question{Kind: orderdesk.Order, Number: "\x02 SO-2607\r\n"})
	require.NoError(t, err)
	require.Equal(t, []string{"order", "date", "party number", "party name", "party street", "party postcode",
		"party town", "party country", "line", "item", "name", "gtin", "quantity", "unit"}, fields)
	require.Len(t, rows, 4)
	require.Equal(t, []string{"SO-2607", "2026-11-24", "C-1007", "Larkhollow Provisions", "4 Rope Walk", "PX4 2LL",
		"Saltmere", "Westmark", "2", "DU-100", "Dulse, whole leaf, 100 g", rows[1][11], "36", "bag"}, rows[1])
	fields, rows, err = d.Ask(ctx, orderdesk.Question{Kind: orderdesk.Receipt, Number: "GR-0418", Lines: []string{"2"}})
	require.NoError(t, err)
	require.Len(t, rows, 1)
	require.Equal(t, "receipt", fields[0])
	require.Equal(t, "berth", fields[len(fields)-1], "what the contract does not name is a field too")
	fields, rows, err = d.Ask(ctx, orderdesk.Question{Kind: orderdesk.Items, Words: "kelp EUR sack"})
	require.NoError(t, err)
	require.Len(t, rows, 2)
	require.Equal(t, []string{"item", "name", "gtin", "unit", "onHand", "price", "currency", "location"}, fields)
	for want, asked := range map[string]orderdesk.Question{
		"has no order SO-1":                  {Kind: orderdesk.Order, Number: "SO-1"},
		"has no goods-received note SO-2607": {Kind: orderdesk.Receipt, Number: "SO-2607"},
		"Type or scan the number":            {Kind: orderdesk.Order, Number: " \n"},
		"is no number":                       {Kind: orderdesk.Order, Number: ".."},
		`has no item with "porridge"`:        {Kind: orderdesk.Items, Words: "porridge"},
		`no kind of document "letter"`:       {Kind: "letter", Number: "1"},
	} {
		_, _, err := d.Ask(ctx, asked)
		require.ErrorContains(t, err, want)
		require.ErrorAs(t, err, new(*orderdesk.Error))
	}
	_, _, err = d.Ask(ctx, orderdesk.Question{Kind: orderdesk.Order, Number: "SO-2607", Lines: []string{"1", "9"}})
	require.ErrorContains(t, err, "There is no line 9 any more")
}

func TestWhatIsToldCountsOnce(t *testing.T) {
	d, stand, _ := desk(t, agreed)
	told := orderdesk.Printed{Kind: orderdesk.Order, Document: "SO-2607", Line: "1", Run: 7, Labels: 24, At: time.Now(),
		By: "Maren", Numbers: []string{"(01)09521234543008"}}
	require.NoError(t, d.Tell(ctx, "7-1-24", told))
	require.NoError(t, d.Tell(ctx, "7-1-24", told))
	require.NoError(t, d.Tell(ctx, "7-2-36", told))
	require.Len(t, stand.Told(), 2)
	plain, stand, _ := desk(t, nil)
	stand.Break(standin.DeskFault{Broken: true})
	require.ErrorContains(t, plain.Tell(ctx, "1", told), "does not answer")
	stand.Break(standin.DeskFault{})
	require.NoError(t, plain.Tell(ctx, "1", told))
	require.Len(t, stand.Told(), 1, "the lost answer was noted")
}

func TestADeskThatIsWrongIsTold(t *testing.T) {
	_, stand, address := desk(t, nil)
	for _, wrong := range []string{"", "desk.plant.example", "ftp://desk", "http://u:p@desk", "http://desk?x=1"} {
		_, err := orderdesk.At(wrong, "", nil)
		require.ErrorContains(t, err, "is no address of an order desk")
	}
	stranger, err := orderdesk.At(address, "other", nil)
	require.NoError(t, err)
	require.ErrorContains(t, stranger.Try(ctx), "does not know this token")
	elsewhere, err := orderdesk.At(address+"/v2", "salt", nil)
	require.NoError(t, err)
	require.ErrorContains(t, elsewhere.Try(ctx), "no order desk at this address")
	guarded, err := orderdesk.At(address, "salt", &reach.Guard{})
	require.NoError(t, err)
	require.ErrorAs(t, guarded.Try(ctx), new(*reach.ForbiddenError))
	d, err := orderdesk.At(address, "salt", nil)
	require.NoError(t, err)
	stand.Break(standin.DeskFault{Wrong: true})
	require.ErrorContains(t, d.Try(ctx), "is not what was agreed")
	stand.Break(standin.DeskFault{Late: 60_000})
	hasty, cancel := context.WithTimeout(ctx, 50*time.Millisecond)
	defer cancel()
	require.ErrorContains(t, d.Try(hasty), "in time")

	answers := map[string]string{}
	odd := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		answer, known := answers[r.URL.Path]
		if !known {
			w.WriteHeader(http.StatusInternalServerError)
			answer = `{"text": "The desk is closed for stock-taking."}`
		}
		_, _ = io.WriteString(w, answer)
	}))
	defer odd.Close()
	d, err = orderdesk.At(odd.URL, "", nil)
	require.NoError(t, err)
	lines := func(n int) string {
		return `{"number": "1", "lines": [` +
			strings.TrimSuffix(strings.Repeat(`{"line": "1", "item": "a", "quantity": 12.50},`, n), ",") + `]}`
	}
	many := ask(t, answers, "/orders/1", lines(10_000))
	_, rows, err := d.Ask(ctx, many)
	require.NoError(t, err)
	require.Len(t, rows, 10_000)
	require.Equal(t, []string{"1", "1", "a", "12.50"}, rows[0], "a number stays as it is written")
	for answer, want := range map[string]string{
		lines(50_001):                     "has 50001 lines; up to 50000 are taken",
		`{"number": "1", "lines": []}`:    "has no lines",
		`{"lines": [{"item": "a"}]}`:      "line 1 has no number",
		`{"lines": 7}`:                    "not what was agreed",
		`[`:                               "not what was agreed",
		`"` + strings.Repeat("x", 33<<20): "more than 32 MB",
	} {
		_, _, err := d.Ask(ctx, ask(t, answers, "/orders/1", answer))
		require.ErrorContains(t, err, want)
	}
	_, _, err = d.Ask(ctx, orderdesk.Question{Kind: orderdesk.Order, Number: "2"})
	require.ErrorContains(t, err, "It says: The desk is closed for stock-taking.")
	answers["/items"] = `{"items": [{"name": "x"}]}`
	_, _, err = d.Ask(ctx, orderdesk.Question{Kind: orderdesk.Items})
	require.ErrorContains(t, err, "an item has no number")
}

func ask(t *testing.T, answers map[string]string, path, answer string) orderdesk.Question {
	answers[path] = answer
	return orderdesk.Question{Kind: orderdesk.Order, Number: "1"}
}

func TestTheDeskKeepsWhatItWasTold(t *testing.T) {
	folder := t.TempDir()
	require.NoError(t, os.WriteFile(folder+"/told.jsonl", []byte(`{"key":"1","printed":{}}`+"\n"+`{"key":"2`), 0o600))
	stand, err := standin.NewDesk([]byte(`{}`), "", folder)
	require.NoError(t, err)
	require.Equal(t, []standin.Told{{Key: "1", Printed: json.RawMessage("{}")}}, stand.Told())
}
