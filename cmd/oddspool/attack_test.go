package main

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"math/rand/v2"
	"mime/multipart"
	"net"
	"net/http"
	"net/http/cookiejar"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/examples"
	"oddspool/internal/api"
	"oddspool/internal/demo"
	"oddspool/internal/testkit"
	"oddspool/standin"
)

// How many random requests are tried: a sample in script/test, many in script/attack.
var tries = flag.Int("tries", 300, "random requests")

// An attacker sends what nobody should to a server of its own.
type attacker struct {
	t      *testing.T
	server *process
	client *http.Client
	log    []string
	worst  time.Duration // of processor time
	status map[int]int

	helpers int // MB of all that the server started, at once, at most
}

// What comes in is refused in words and at little cost, whatever it is: no request fails in the server, takes more
// processor time than its limit, or makes it larger than a gigabyte. What a clock on the wall shows is not judged: it
// tells how busy the machine is.
func TestAttack(t *testing.T) {
	seed := seedOf(t)
	binary := program(t)
	printer, err := standin.Start(standin.Config{Printer: demo.Devices()[0].Printer, Stock: demo.Devices()[0].Stock},
		"")
	require.NoError(t, err)
	t.Cleanup(func() { _ = printer.Close() })
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	a := &attacker{t: t, server: startServer(t, binary, testkit.Address(t), printer),
		client: &http.Client{Jar: jar, Timeout: 5 * time.Minute}, status: map[int]int{}}

	a.send("deep JSON before sign-in", "POST", "/api/session", "application/json", strings.Repeat("[", 8000))
	a.send("many keys before sign-in", "POST", "/api/session", "application/json",
		"{"+strings.Repeat(`"k":1,`, 100_000)+`"a":1}`)
	a.send("JSON called multipart", "POST", "/api/session", "multipart/form-data; boundary=x",
		strings.Repeat("[", 5<<20))
	require.Equal(t, 200, a.send("sign-in", "POST", "/api/session", "application/json",
		fmt.Sprintf(`{"name": %q, "password": %q}`, demo.Name, demo.Password)))
	a.designs()
	a.lists()
	a.files()
	a.bombs()
	a.slowBody()
	a.random(*tries, rand.New(rand.NewPCG(seed, 7)))

	require.Equal(t, 200, a.send("the floor afterwards", "GET", "/api/floor", "", ""))
	for _, line := range a.log {
		t.Log(line)
	}
	peak := a.memory()
	t.Logf("%d requests by status %v, the dearest %v, the server's most memory %d MB, its helpers' %d MB", a.count(),
		a.status, a.worst.Round(time.Millisecond), peak, a.helpers)
	for status, n := range a.status {
		require.False(t, status >= 500 && status != http.StatusBadGateway, "%d answers of status %d", n, status)
	}
	require.Less(t, a.worst, 20*time.Second,
		"the limits on one file are seconds of processor time; one that does not hold takes minutes")
	require.Less(t, peak, 1000)
	require.Less(t, a.helpers, 1000)
}

func (a *attacker) count() (n int) {
	for _, times := range a.status {
		n += times
	}
	return n
}

// memory returns the most memory that the server had, in MB.
func (a *attacker) memory() int { return statusMB(a.server.command.Process.Pid, "VmHWM:") }

// processor returns the processor time of the server and of the helpers that have ended (proc(5), /proc/pid/stat, in
// hundredths of a second).
func (a *attacker) processor() (spent time.Duration) {
	data, err := os.ReadFile(fmt.Sprintf("/proc/%d/stat", a.server.command.Process.Pid))
	require.NoError(a.t, err)
	_, rest, _ := strings.Cut(string(data), ") ") // the name before it may hold blanks
	for _, field := range strings.Fields(rest)[11:15] {
		ticks, err := strconv.Atoi(field)
		require.NoError(a.t, err)
		spent += time.Duration(ticks) * 10 * time.Millisecond
	}
	return spent
}

// statusMB reads a figure of a process (proc(5), /proc/pid/status); 0: it has ended.
func statusMB(pid int, figure string) int {
	data, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	if err != nil {
		return 0
	}
	for line := range strings.Lines(string(data)) {
		if rest, is := strings.CutPrefix(line, figure); is {
			n, _ := strconv.Atoi(strings.Fields(rest)[0])
			return n >> 10
		}
	}
	return 0
}

func (a *attacker) send(what, method, path, kind, body string) int {
	request, err := http.NewRequest(method, a.server.url+path, strings.NewReader(body))
	if err != nil { // an address that cannot be asked for
		return 0
	}
	request.Header.Set("Content-Type", kind)
	began, cost := time.Now(), a.processor()
	response, err := a.client.Do(request)
	if err != nil && what == "" { // a connection that was closed on what is too large
		a.status[http.StatusRequestEntityTooLarge]++
		return 0
	}
	require.NoError(a.t, err, what)
	data, err := io.ReadAll(response.Body)
	response.Body.Close()
	took := time.Since(began)
	cost = a.processor() - cost
	a.worst = max(a.worst, cost)
	a.status[response.StatusCode]++
	if what != "" {
		a.log = append(a.log, fmt.Sprintf("%-34s %d in %6v, %5v of processor time, %d MB so far: %.110s", what,
			response.StatusCode, took.Round(time.Millisecond), cost, a.memory(), data))
	}
	if err != nil || response.StatusCode == http.StatusInternalServerError {
		a.t.Errorf("%s: %v: %s", what, err, data)
	}
	return response.StatusCode
}

// designs are drawn that are too much.
func (a *attacker) designs() {
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(a.t, err)
	strip := func(what string, change func(d map[string]any)) {
		var d map[string]any
		require.NoError(a.t, json.Unmarshal(data, &d))
		change(d)
		body, err := json.Marshal(map[string]any{"document": d, "recordSetId": 2, "records": []int{1, 2, 3, 4, 5, 6}})
		require.NoError(a.t, err)
		a.send(what, "POST", "/api/strip", "application/json", string(body))
	}
	elements := func(n int, make func(i int) map[string]any) []any {
		list := []any{}
		for i := range n {
			list = append(list, make(i))
		}
		return list
	}
	long := func(i int) map[string]any {
		pieces := []any{}
		for range 100 {
			pieces = append(pieces, map[string]any{"text": strings.Repeat("kelp ", 2000)})
		}
		return map[string]any{"id": fmt.Sprint("t", i), "kind": "text", "x": 0, "y": 0, "width": 70_000,
			"height": 30_000, "says": pieces,
			"text": map[string]any{"typeface": "Liberation Sans", "points": 400, "shrinkTo": 2, "wrap": true}}
	}
	strip("three texts of a megabyte", func(d map[string]any) { d["elements"] = elements(3, long) })
	coloured := func(i int) map[string]any {
		return map[string]any{"id": fmt.Sprint("l", i), "kind": "line", "x": 0, "y": 0, "width": 1000, "height": 1000,
			"ink": fmt.Sprintf("#%06X", i)}
	}
	strip("500 colours", func(d map[string]any) {
		d["printer"].(map[string]any)["inks"] = []string{"full colour"}
		d["elements"] = elements(500, coloured)
	})
	strip("a label of 5 m at 24 dots/mm", func(d map[string]any) {
		d["stock"].(map[string]any)["length"], d["stock"].(map[string]any)["width"] = 5_000_000, 2_000_000
		d["printer"].(map[string]any)["resolution"] = map[string]any{"dots": 24, "per": "mm"}
	})
	strip("a turn of 45", func(d map[string]any) { d["turn"] = 45 })
	strip("100 large codes", func(d map[string]any) {
		d["elements"] = elements(100, func(i int) map[string]any {
			return map[string]any{"id": fmt.Sprint("c", i), "kind": "code", "x": 0, "y": 0, "width": 70_000,
				"height": 30_000, "says": []any{map[string]any{"text": strings.Repeat("昆布", 700)}},
				"code": map[string]any{"symbology": "qr", "module": 125}}
		})
	})
	strip("a module of 900 mm", func(d map[string]any) {
		d["elements"] = elements(1, func(int) map[string]any {
			return map[string]any{"id": "c", "kind": "code", "x": 0, "y": 0, "width": 70_000, "height": 30_000,
				"says": []any{map[string]any{"text": "1"}}, "code": map[string]any{"symbology": "code128",
					"module": 900_000}}
		})
	})
	numbers := make([]string, 100_000)
	for i := range numbers {
		numbers[i] = "1"
	}
	a.send("a strip of 100,000 records", "POST", "/api/strip", "application/json",
		fmt.Sprintf(`{"document": %s, "recordSetId": 2, "records": [%s]}`, data, strings.Join(numbers, ",")))
	a.send("a length of a million digits", "POST", "/api/stocks", "application/json",
		`{"width": `+strings.Repeat("7", 1_000_000)+`}`)
	unknown := &strings.Builder{}
	for i := range 100_000 {
		fmt.Fprintf(unknown, `"k%d":1,`, i)
	}
	a.send("100,000 unknown keys", "POST", "/api/designs", "application/json",
		`{"document": {`+unknown.String()+`"format": "oddspool.design/1"}}`)
}

// lists that are too long.
func (a *attacker) lists() {
	ranges := make([]string, 10_000)
	for i := range ranges {
		ranges[i] = "1-240"
	}
	a.send("10,000 ranges of records", "POST", "/api/runs", "application/json",
		fmt.Sprintf(`{"designId": 2, "recordSetId": 2, "choice": {"records": %q, "howMany": {"each": 1}, "printerId": 1}}`, strings.Join(ranges, ",")))
	rows := "number,name,kind,width,length\n" + strings.Repeat("x,y,die-cut,50,25\n", 100_000)
	body, err := json.Marshal(map[string]string{"text": rows})
	require.NoError(a.t, err)
	a.send("100,000 stocks", "POST", "/api/stocks/file", "application/json", string(body))
	for _, path := range []string{"/api/runs/2147483648", "/api/runs/9223372036854775807",
		"/api/runs/9223372036854775808", "/api/stocks?find=%00", "/api/stocks?find=%ff%fe",
		"/api/record-sets/2/records?from=2147483648", "/api/prints/1/pieces?skip=9223372036854775807"} {
		a.send(path, "GET", path, "", "")
	}
}

// files that are none, or too much.
func (a *attacker) files() {
	for _, file := range []struct{ what, data string }{
		{"60 MB of commas", "a,b\n" + strings.Repeat(",", 60<<20)},
		{"500 columns of 400,000 rows", strings.Repeat("a,", 499) + "a\n" + strings.Repeat("1\n", 400_000)},
		{"500 columns, 40,000 full rows", strings.Repeat(strings.Repeat("a,", 499)+"a\n", 40_000)},
		{"a line of 60 MB", strings.Repeat("x", 60<<20)},
		{"60 MB of quotes", strings.Repeat(`"`, 60<<20)},
		{"an open quote", "a,b\n" + strings.Repeat("\"open,b\nc,d\n", 100_000)},
		{"1,000,001 rows", "a\n" + strings.Repeat("7\n", 1_000_001)},
		{"deep JSON", strings.Repeat(`{"a":`, 1_000_000)},
		{"a picture", "\x89PNG\r\n\x1a\n" + strings.Repeat("\x00", 1000)},
		{"bytes of no encoding", "a,b\n" + strings.Repeat("\x81\x8d\x8f\xff,x\n", 100_000)},
		{"empty lines", strings.Repeat("\n", 60<<20)},
	} {
		var form bytes.Buffer
		writer := multipart.NewWriter(&form)
		part, err := writer.CreateFormFile("file", "attack.csv")
		require.NoError(a.t, err)
		_, _ = io.WriteString(part, file.data)
		require.NoError(a.t, writer.Close())
		a.send(file.what, "POST", "/api/record-sets/preview", writer.FormDataContentType(), form.String())
	}
}

// bombs are files whose reading does not end or unfolds into all memory, of each kind that is read. Others are answered
// meanwhile.
func (a *attacker) bombs() {
	watch := a.watch()
	stood := []string{}
	upload := func(what, path, name string, data []byte) {
		var form bytes.Buffer
		writer := multipart.NewWriter(&form)
		part, err := writer.CreateFormFile("file", name)
		require.NoError(a.t, err)
		_, _ = part.Write(data)
		require.NoError(a.t, writer.Close())
		began, before := time.Now(), watch.answered.Load()
		status := a.send(what, "POST", path, writer.FormDataContentType(), form.String())
		require.Contains(a.t, []int{200, 422}, status, what)
		if time.Since(began) > 5*pause && watch.answered.Load() == before {
			stood = append(stood, what)
		}
	}
	warm := []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm"><rect width="5" height="5"/></svg>`)
	upload("the first artwork", "/api/artwork", "a.svg", warm)
	a.worst = 0 // the reader may have been compiled for the first time on this machine
	for what, data := range testkit.ArtworkBombs() {
		upload(what, "/api/artwork", "a.pdf", data)
	}
	for what, data := range testkit.RecordBombs(a.t) {
		upload(what, "/api/record-sets/preview", "a.xlsx", data)
	}
	watch.end()
	a.log = append(a.log, fmt.Sprintf("/api/hints beside the bombs: %d answered", watch.answered.Load()))
	require.Empty(a.t, stood, "nobody else was answered during these")
	require.Positive(a.t, watch.answered.Load())
}

// The time between two requests of the watch.
const pause = 500 * time.Millisecond

// A watch asks for the hints twice a second, and looks at the memory of the server's helpers, until it is ended.
type watch struct {
	answered atomic.Int32
	done     chan struct{}
	ended    sync.WaitGroup
}

func (w *watch) end() {
	close(w.done)
	w.ended.Wait()
}

func (a *attacker) watch() *watch {
	w := &watch{done: make(chan struct{})}
	every := func(pause time.Duration, do func()) {
		w.ended.Go(func() {
			ticker := time.NewTicker(pause)
			defer ticker.Stop()
			for {
				select {
				case <-w.done:
					return
				case <-ticker.C:
					do()
				}
			}
		})
	}
	client := &http.Client{Timeout: time.Minute}
	every(pause, func() {
		response, err := client.Get(a.server.url + "/api/hints")
		if err == nil {
			_ = response.Body.Close()
			w.answered.Add(1)
		}
	})
	every(20*time.Millisecond, func() { a.helpers = max(a.helpers, a.ofHelpers()) })
	return w
}

// ofHelpers returns the memory of all that the server started, in MB.
func (a *attacker) ofHelpers() (mb int) {
	parents := []int{a.server.command.Process.Pid}
	for len(parents) > 0 {
		lists, _ := filepath.Glob(fmt.Sprintf("/proc/%d/task/*/children", parents[0]))
		parents = parents[1:]
		for _, list := range lists {
			data, _ := os.ReadFile(list) // one that has ended has none
			for _, field := range strings.Fields(string(data)) {
				pid, _ := strconv.Atoi(field)
				parents = append(parents, pid)
				mb += statusMB(pid, "VmRSS:")
			}
		}
	}
	return mb
}

// slowBody announces more than it sends.
func (a *attacker) slowBody() {
	line, err := net.Dial("tcp", strings.TrimPrefix(a.server.url, "http://"))
	require.NoError(a.t, err)
	defer line.Close()
	_, err = io.WriteString(line, "POST /api/session HTTP/1.1\r\nHost: x\r\nContent-Type: "+
		"application/json\r\nContent-Length: 100\r\n\r\n{")
	require.NoError(a.t, err)
	began := time.Now()
	require.NoError(a.t, line.SetReadDeadline(began.Add(5*time.Minute)))
	_, err = io.Copy(io.Discard, line)
	require.NoError(a.t, err, "the server closes it")
	a.log = append(a.log, fmt.Sprintf("a body that does not come: closed after %v",
		time.Since(began).Round(time.Millisecond)))
}

// random requests to every route of the contract.
func (a *attacker) random(tries int, random *rand.Rand) {
	contract, err := api.GetSpec()
	require.NoError(a.t, err)
	type route struct{ method, path string }
	var routes []route
	for _, path := range contract.Paths.InMatchingOrder() {
		for method := range contract.Paths.Value(path).Operations() {
			if !strings.HasPrefix(path, "/session") { // it would sign out, or throttle the rest
				routes = append(routes, route{method, path})
			}
		}
	}
	values := []string{"1", "2", "0", "-1", "2147483648", "9223372036854775807", "1e400", "null", `""`, `"\u0000"`,
		`"ø"`, "[]", "{}", "[[[]]]", "true", `"` + strings.Repeat("x", 5000) + `"`, "0.5", `"1-3"`, `"all"`}
	names := []string{"name", "document", "recordSetId", "records", "printerId", "stockId", "setupId", "choice",
		"howMany", "each", "kind", "labels", "start", "lastLabel", "about", "address", "camera", "text", "size",
		"designId", "edit", "field", "data", "symbology", "x", "y", "units", "elements", "element"}
	var value func(depth int) string
	value = func(depth int) string {
		if depth == 0 || random.IntN(3) == 0 {
			return values[random.IntN(len(values))]
		}
		members := []string{}
		for range random.IntN(6) {
			members = append(members, fmt.Sprintf("%q: %s", names[random.IntN(len(names))], value(depth-1)))
		}
		return "{" + strings.Join(members, ", ") + "}"
	}
	ids := []string{"1", "2", "3", "0", "-1", "99999", "2147483648", "9223372036854775807", "x", "%00", "1.5"}
	for range tries {
		r := routes[random.IntN(len(routes))]
		path := "/api" + r.path
		for strings.Contains(path, "{") {
			before, rest, _ := strings.Cut(path, "{")
			_, after, _ := strings.Cut(rest, "}")
			path = before + ids[random.IntN(len(ids))] + after
		}
		if random.IntN(3) == 0 {
			path += fmt.Sprintf("?%s=%s&from=%s&most=%s", names[random.IntN(len(names))], ids[random.IntN(len(ids))],
				ids[random.IntN(len(ids))], ids[random.IntN(len(ids))])
		}
		kind := []string{"application/json", "application/json", "application/json", "text/plain",
			"multipart/form-data; boundary=x", ""}[random.IntN(6)]
		body := ""
		if r.method != "GET" {
			body = value(4)
		}
		a.send("", r.method, path, kind, body)
	}
}
