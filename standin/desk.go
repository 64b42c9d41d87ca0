package standin

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
)

// A Desk stands in for a business system that answers docs/order-desk.yaml.
type Desk struct {
	token string
	path  string // of what was told, a line each; it only grows

	mutex    sync.Mutex
	items    []map[string]any
	orders   []map[string]any
	receipts []map[string]any
	told     []Told
	fault    DeskFault
}

// Told is what the desk was told of labels that came out.
type Told struct {
	Key     string          `json:"key"`
	Printed json.RawMessage `json:"printed"`
}

// A DeskFault is what goes wrong with the desk for now.
type DeskFault struct {
	Late   int  `json:"late,omitempty"`   // milliseconds that each answer waits
	Wrong  bool `json:"wrong,omitempty"`  // answers are none of the contract's
	Broken bool `json:"broken,omitempty"` // answers are lost on the way, after what was told is noted
}

// NewDesk returns a desk with items, orders and receipts as JSON, which keeps what it is told in a folder.
func NewDesk(data []byte, token, folder string) (*Desk, error) {
	d := &Desk{token: token, path: filepath.Join(folder, "told.jsonl")}
	if err := d.fill(data); err != nil {
		return nil, err
	}
	kept, err := os.ReadFile(d.path)
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("the order desk: %w", err)
	}
	for line := range bytes.Lines(kept) {
		var told Told
		if json.Unmarshal(line, &told) == nil { // the last line may be cut off: it was not answered
			d.told = append(d.told, told)
		}
	}
	return d, nil
}

func (d *Desk) fill(data []byte) error {
	var all struct{ Items, Orders, Receipts []map[string]any }
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.UseNumber()
	if err := decoder.Decode(&all); err != nil {
		return fmt.Errorf("the order desk's data: %w", err)
	}
	d.items, d.orders, d.receipts = all.Items, all.Orders, all.Receipts
	return nil
}

// Told returns what the desk was told, in order.
func (d *Desk) Told() []Told {
	d.mutex.Lock()
	defer d.mutex.Unlock()
	return append([]Told{}, d.told...)
}

// Break makes something go wrong from now on.
func (d *Desk) Break(fault DeskFault) {
	d.mutex.Lock()
	defer d.mutex.Unlock()
	d.fault = fault
}

// Handler serves the contract; besides, /desk tells what was told and takes new data or faults, as people at the desk
// would.
func (d *Desk) Handler() http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("GET /items", d.known(d.serveItems))
	mux.HandleFunc("GET /orders/{number}", d.known(d.document(&d.orders)))
	mux.HandleFunc("GET /receipts/{number}", d.known(d.document(&d.receipts)))
	mux.HandleFunc("POST /printed", d.known(d.takeTold))
	mux.HandleFunc("GET /desk/told", func(w http.ResponseWriter, _ *http.Request) { writeJSON(w, d.Told()) })
	mux.HandleFunc("POST /desk/fault", func(w http.ResponseWriter, r *http.Request) {
		var fault DeskFault
		if err := json.NewDecoder(r.Body).Decode(&fault); err != nil {
			http.Error(w, err.Error(), http.StatusBadRequest)
			return
		}
		d.Break(fault)
	})
	mux.HandleFunc("POST /desk/data", func(w http.ResponseWriter, r *http.Request) {
		data := new(bytes.Buffer)
		_, err := data.ReadFrom(http.MaxBytesReader(w, r.Body, 64<<20))
		d.mutex.Lock()
		defer d.mutex.Unlock()
		if err := errors.Join(err, d.fill(data.Bytes())); err != nil {
			http.Error(w, err.Error(), http.StatusBadRequest)
		}
	})
	return mux
}

// known lets those through who have the token, as soon and as right as the desk's faults allow.
func (d *Desk) known(serve http.HandlerFunc) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		d.mutex.Lock()
		fault := d.fault
		d.mutex.Unlock()
		select {
		case <-time.After(time.Duration(fault.Late) * time.Millisecond):
		case <-r.Context().Done():
			return
		}
		switch {
		case r.Header.Get("Authorization") != "Bearer "+d.token:
			problem(w, http.StatusUnauthorized, "The token is not known.")
		case fault.Wrong:
			_, _ = w.Write([]byte("<html>The desk is being moved.</html>"))
		case fault.Broken:
			serve(discard{w.Header()}, r)
			panic(http.ErrAbortHandler)
		default:
			serve(w, r)
		}
	}
}

// discard is an answer that gets lost.
type discard struct{ header http.Header }

func (d discard) Header() http.Header          { return d.header }
func (discard) Write(data []byte) (int, error) { return len(data), nil }
func (discard) WriteHeader(int)                {}

func problem(w http.ResponseWriter, status int, text string) {
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(map[string]string{"text": text})
}

func (d *Desk) serveItems(w http.ResponseWriter, r *http.Request) {
	d.mutex.Lock()
	defer d.mutex.Unlock()
	words := strings.Fields(strings.ToLower(r.URL.Query().Get("find")))
	found := slices.DeleteFunc(slices.Clone(d.items), func(item map[string]any) bool {
		all := strings.ToLower(fmt.Sprint(item))
		return slices.ContainsFunc(words, func(word string) bool { return !strings.Contains(all, word) })
	})
	from, _ := strconv.Atoi(r.URL.Query().Get("after"))
	limit, err := strconv.Atoi(r.URL.Query().Get("limit"))
	if err != nil {
		limit = 100
	}
	from = min(max(from, 0), len(found))
	to := min(from+min(max(limit, 1), 1000), len(found))
	answer := map[string]any{"items": append([]map[string]any{}, found[from:to]...)}
	if to < len(found) {
		answer["next"] = strconv.Itoa(to)
	}
	writeJSON(w, answer)
}

func (d *Desk) document(all *[]map[string]any) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		d.mutex.Lock()
		defer d.mutex.Unlock()
		i := slices.IndexFunc(*all, func(one map[string]any) bool { return one["number"] == r.PathValue("number") })
		if i < 0 {
			problem(w, http.StatusNotFound, "There is none of that number.")
			return
		}
		writeJSON(w, (*all)[i])
	}
}

// takeTold notes what came out, once for each key.
func (d *Desk) takeTold(w http.ResponseWriter, r *http.Request) {
	key := r.Header.Get("Idempotency-Key")
	data := new(bytes.Buffer)
	if _, err := data.ReadFrom(http.MaxBytesReader(w, r.Body, 1<<20)); err != nil || key == "" ||
		!json.Valid(data.Bytes()) {
		problem(w, http.StatusBadRequest, "That is not what was agreed.")
		return
	}
	d.mutex.Lock()
	defer d.mutex.Unlock()
	if !slices.ContainsFunc(d.told, func(t Told) bool { return t.Key == key }) {
		told := Told{key, data.Bytes()}
		if err := d.keep(told); err != nil {
			problem(w, http.StatusInternalServerError, err.Error())
			return
		}
		d.told = append(d.told, told)
	}
	w.WriteHeader(http.StatusNoContent)
}

func (d *Desk) keep(told Told) error {
	line, err := json.Marshal(told)
	if err != nil {
		return err
	}
	file, err := os.OpenFile(d.path, os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o644)
	if err != nil {
		return err
	}
	_, err = file.Write(append(line, '\n'))
	return errors.Join(err, file.Sync(), file.Close())
}
