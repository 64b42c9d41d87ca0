// Package orderdesk reads items, customer orders and goods-received notes from a business system that answers the
// contract in docs/order-desk.yaml, and tells it what was printed.
package orderdesk

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"oddspool/core/refusal"
	"oddspool/internal/reach"
)

// A Kind is what is asked for.
type Kind string

// The kinds.
const (
	Order   Kind = "order"
	Receipt Kind = "receipt"
	Items   Kind = "items"
)

// A Question is what is asked: a document by its number, or items by words.
type Question struct {
	Kind   Kind     `json:"kind"`
	Number string   `json:"number,omitempty"` // of a document
	Words  string   `json:"words,omitempty"`  // that items have
	Lines  []string `json:"lines,omitempty"`  // of the document, or numbers of items, that are taken; none: all
}

// An Error says in a sentence why the desk gives nothing, and what to do.
type Error struct {
	Text string
	err  error
}

func (e *Error) Error() string { return e.Text }

// Refusal tells its kind and values.
func (e *Error) Refusal() *refusal.Error {
	if e.Outside() {
		return failed.With(e.Text)
	}
	return notPossible.With(e.Text)
}

// Unwrap returns what went wrong below.
func (e *Error) Unwrap() error { return e.err }

// Outside tells whether it is the order desk that failed, and not what was asked of it.
func (e *Error) Outside() bool { return e.err != nil }

// errAnswer is below an error that the order desk's answer is.
var errAnswer = errors.New("the answer of the order desk")

// Limits of an answer.
const (
	answerTime = 15 * time.Second // of one request
	mostBytes  = 32 << 20
	mostLines  = 50_000
	page       = 1000
)

// A Desk is a business system.
type Desk struct {
	at     *url.URL
	token  string
	client *http.Client
}

// At returns the desk at an address, such as https://desk.plant.example/api. A nil guard lets it be anywhere. Its error
// is an *Error.
func At(address, token string, guard *reach.Guard) (*Desk, error) {
	at, err := url.Parse(strings.TrimSpace(address))
	if err != nil || at.Scheme != "http" && at.Scheme != "https" || at.Host == "" || at.User != nil ||
		at.RawQuery != "" {
		return nil, &Error{Text: fmt.Sprintf("%q is no address of an order desk; one is like "+
			"https://desk.plant.example/api.", address)}
	}
	return &Desk{at, token, &http.Client{Transport: guard.Transport(), Timeout: answerTime,
		CheckRedirect: reach.NoRedirects}}, nil
}

// do asks the desk. Its error is an *Error or a *reach.ForbiddenError.
func (d *Desk) do(ctx context.Context, method string, values url.Values, body any, key string, path ...string) ([]byte,
	error) {
	at := d.at.JoinPath(path...)
	at.RawQuery = values.Encode()
	var sent io.Reader
	if body != nil {
		document, err := json.Marshal(body)
		if err != nil {
			return nil, fmt.Errorf("write to the order desk: %w", err)
		}
		sent = bytes.NewReader(document)
	}
	request, err := http.NewRequestWithContext(ctx, method, at.String(), sent)
	if err != nil {
		return nil, fmt.Errorf("ask the order desk: %w", err)
	}
	request.Header.Set("Accept", "application/json")
	if body != nil {
		request.Header.Set("Content-Type", "application/json")
	}
	if key != "" {
		request.Header.Set("Idempotency-Key", key)
	}
	if d.token != "" {
		request.Header.Set("Authorization", "Bearer "+d.token)
	}
	answer, err := d.client.Do(request)
	if err != nil {
		return nil, d.away(err)
	}
	defer answer.Body.Close()
	data, err := io.ReadAll(io.LimitReader(answer.Body, mostBytes+1))
	switch {
	case err != nil:
		return nil, d.away(err)
	case len(data) > mostBytes:
		return nil, &Error{Text: fmt.Sprintf("The order desk's answer has more than %d MB. Ask for less.",
			mostBytes>>20), err: errAnswer}
	case answer.StatusCode == http.StatusUnauthorized, answer.StatusCode == http.StatusForbidden:
		return nil, &Error{Text: "The order desk does not know this token. Type it anew where the connection is " +
			"set up.", err: errAnswer}
	case answer.StatusCode == http.StatusNotFound:
		return nil, &NotThereError{}
	case answer.StatusCode/100 == 2:
		return data, nil
	}
	text := fmt.Sprintf("The order desk at %s answers with %s.", d.at.Host, answer.Status)
	var problem struct{ Text string }
	if json.Unmarshal(data, &problem) == nil && problem.Text != "" && utf8.RuneCountInString(problem.Text) < 500 {
		text += " It says: " + problem.Text
	}
	return nil, &Error{Text: text, err: errAnswer}
}

// A NotThereError says that there is none of what was asked for.
type NotThereError struct{}

func (e *NotThereError) Error() string { return "The order desk has nothing there." }

// away says why no answer came.
func (d *Desk) away(err error) error {
	if forbidden := new(reach.ForbiddenError); errors.As(err, &forbidden) {
		return forbidden
	}
	if errors.Is(err, context.Canceled) {
		return err
	}
	text := fmt.Sprintf("The order desk at %s does not answer. See that it runs and can be reached from here.",
		d.at.Host)
	if timeout := new(url.Error); errors.As(err, &timeout) && timeout.Timeout() {
		text = fmt.Sprintf("The order desk at %s does not answer in time. Try again in a moment.", d.at.Host)
	}
	return &Error{Text: text, err: err}
}

// Ask returns what is asked for as records: the lines of a document, each with what the document itself says, or items.
// Its error is an *Error, or a *reach.ForbiddenError.
func (d *Desk) Ask(ctx context.Context, q Question) (fields []string, rows [][]string, err error) {
	var records []map[string]string
	if q.Kind == Items {
		records, err = d.items(ctx, strings.TrimSpace(q.Words))
	} else {
		records, err = d.document(ctx, q.Kind, q.Number)
	}
	if err != nil {
		return nil, nil, err
	}
	if len(q.Lines) > 0 {
		field := q.LineField()
		for _, line := range q.Lines {
			if !slices.ContainsFunc(records, func(r map[string]string) bool { return r[field] == line }) {
				return nil, nil, &Error{Text: fmt.Sprintf("There is no %s %s any more. Look it up anew.", field, line)}
			}
		}
		records = slices.DeleteFunc(records,
			func(r map[string]string) bool { return !slices.Contains(q.Lines, r[field]) })
	}
	fields, rows = table(records)
	return fields, rows, nil
}

var kinds = map[Kind]struct{ path, words string }{Order: {"orders", "order"},
	Receipt: {"receipts", "goods-received note"}}

func (d *Desk) document(ctx context.Context, kind Kind, number string) ([]map[string]string, error) {
	is, known := kinds[kind]
	if !known {
		return nil, &Error{Text: fmt.Sprintf("There is no kind of document %q.", kind)}
	}
	number = strings.TrimSpace(strings.Map(func(r rune) rune { // what a scanner sends around its data
		if r < 0x20 || r == 0x7f {
			return -1
		}
		return r
	}, number))
	if number == "." || number == ".." { // which an address would take for others
		return nil, &Error{Text: fmt.Sprintf("%s is no number of a document.", number)}
	}
	if number == "" {
		return nil, &Error{Text: "Type or scan the number of the document."}
	}
	data, err := d.do(ctx, http.MethodGet, nil, nil, "", is.path, url.PathEscape(number))
	if none := new(NotThereError); errors.As(err, &none) {
		return nil, &Error{Text: fmt.Sprintf("The order desk has no %s %s. See how its number is written.", is.words,
			number)}
	}
	if err != nil {
		return nil, err
	}
	var head object
	if err := decode(data, &head); err != nil {
		return nil, err
	}
	var body struct{ Lines []object }
	if err := decode(data, &body); err != nil {
		return nil, err
	}
	switch {
	case len(body.Lines) == 0:
		return nil, &Error{Text: fmt.Sprintf("The %s %s has no lines.", is.words, number)}
	case len(body.Lines) > mostLines:
		return nil, &Error{Text: fmt.Sprintf("The %s %s has %d lines; up to %d are taken.", is.words, number,
			len(body.Lines), mostLines), err: errAnswer}
	}
	above := map[string]string{}
	head.values("", above)
	if party, is := head["party"].(map[string]any); is {
		object(party).values("party ", above)
	}
	above[string(kind)] = above["number"]
	delete(above, "number")
	records := make([]map[string]string, len(body.Lines))
	for i, line := range body.Lines {
		records[i] = maps.Clone(above)
		line.values("", records[i])
		if records[i]["line"] == "" {
			return nil, &Error{Text: fmt.Sprintf("The order desk's answer is not what was agreed: line %d has no "+
				"number.", i+1), err: errAnswer}
		}
	}
	return records, nil
}

func (d *Desk) items(ctx context.Context, words string) (records []map[string]string, err error) {
	values := url.Values{"limit": {fmt.Sprint(page)}}
	if words != "" {
		values.Set("find", words)
	}
	for {
		data, err := d.do(ctx, http.MethodGet, values, nil, "", "items")
		if err != nil {
			return nil, err
		}
		var answer struct {
			Items []object
			Next  string
		}
		if err := decode(data, &answer); err != nil {
			return nil, err
		}
		for _, item := range answer.Items {
			record := map[string]string{}
			item.values("", record)
			if record["item"] == "" {
				return nil, &Error{Text: "The order desk's answer is not what was agreed: an item has no number.",
					err: errAnswer}
			}
			records = append(records, record)
		}
		if len(records) > mostLines {
			return nil, &Error{Text: fmt.Sprintf("More than %d items are like that. Write more words.", mostLines)}
		}
		if answer.Next == "" || len(answer.Items) == 0 {
			break
		}
		values.Set("after", answer.Next)
	}
	if len(records) == 0 {
		return nil, &Error{Text: fmt.Sprintf("The order desk has no item with %q.", words)}
	}
	return records, nil
}

// Try asks for an item, to see that the desk answers. Its error is one of Ask's.
func (d *Desk) Try(ctx context.Context) error {
	data, err := d.do(ctx, http.MethodGet, url.Values{"limit": {"1"}}, nil, "", "items")
	if none := new(NotThereError); errors.As(err, &none) {
		return &Error{Text: "There is no order desk at this address: it has no items. See how the address is written.",
			err: errAnswer}
	}
	if err != nil {
		return err
	}
	var answer struct{ Items []object }
	return decode(data, &answer)
}

// A Printed is what is told of labels that came out.
type Printed struct {
	Kind     Kind      `json:"kind,omitempty"`
	Document string    `json:"document,omitempty"`
	Line     string    `json:"line,omitempty"`
	Item     string    `json:"item,omitempty"`
	Run      int64     `json:"run"`
	Labels   int       `json:"labels"`
	At       time.Time `json:"at"`
	By       string    `json:"by"`
	Numbers  []string  `json:"numbers,omitempty"`
}

// Tell tells the desk what came out; the same key is the same labels. Its error is one of Ask's.
func (d *Desk) Tell(ctx context.Context, key string, printed Printed) error {
	_, err := d.do(ctx, http.MethodPost, nil, printed, key, "printed")
	if none := new(NotThereError); errors.As(err, &none) {
		return &Error{Text: "The order desk takes no word of what was printed, or has that document no more.",
			err: errAnswer}
	}
	return err
}
