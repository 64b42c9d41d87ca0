package main

import (
	"bytes"
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"image"
	"image/color"
	"io"
	"math/rand/v2"
	"net/http"
	"net/http/cookiejar"
	"strconv"
	"sync"
	"testing"
	"time"

	"github.com/makiuchi-d/gozxing"
	"github.com/makiuchi-d/gozxing/datamatrix"
	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/series"
	"oddspool/examples"
	"oddspool/internal/demo"
	"oddspool/internal/press/pwg"
	"oddspool/internal/store"
	"oddspool/internal/testkit"
	"oddspool/standin"
)

var numberedRuns = flag.Int("numbered", 8, "runs whose labels have numbers of one series, while things are killed")

// TestNumbersOutliveKills has people at several servers prepare, print, cancel, spoil and give up runs that take their
// numbers of one series, while servers, the database, connections of it and the printer are killed. The camera says
// which numbers are on labels.
func TestNumbersOutliveKills(t *testing.T) {
	seed := seedOf(t)
	binary := program(t)
	n := newNumbersMatrix(t, binary, seed)

	const people = 3
	left := make(chan int, *numberedRuns)
	for i := range *numberedRuns {
		left <- i
	}
	close(left)
	var wait sync.WaitGroup
	for i := range people {
		random := rand.New(rand.NewPCG(seed, uint64(i+1)))
		wait.Go(func() {
			for range left {
				n.oneRun(random)
			}
		})
	}
	over := make(chan struct{})
	go func() { wait.Wait(); close(over) }()
	random := rand.New(rand.NewPCG(seed, 0))
	for done := false; !done; {
		select {
		case <-over:
			done = true
		case <-time.After(time.Duration(500+random.IntN(2500)) * time.Millisecond):
			n.servers.Lock()
			n.kill([]string{"server", "backends", "database", "printer", "server and printer"}[random.IntN(5)])
			n.servers.Unlock()
			n.kills++
		}
	}
	n.settle()
	n.judge()
}

// numbersMatrix is a plant whose labels have numbers.
type numbersMatrix struct {
	*matrix
	servers sync.Mutex // held while one is being killed
	design  int64
	series  int64
	kills   int
}

func newNumbersMatrix(t *testing.T, binary string, seed uint64) *numbersMatrix {
	ctx := context.Background()
	config := standin.Config{Printer: demo.Devices()[0].Printer, Stock: demo.Devices()[0].Stock, Speed: 4000,
		Labels: 10_000_000, Folder: t.TempDir()}
	printer, err := standin.Start(config, "")
	require.NoError(t, err)
	m := &matrix{t: t, random: rand.New(rand.NewPCG(seed, 99)), config: config, printer: printer,
		killed: map[string]int{}}
	t.Cleanup(func() { _ = m.printer.Close() })
	address := testkit.Durable(testkit.Address(t))
	m.Store, err = store.Open(ctx, address, 4)
	require.NoError(t, err)
	t.Cleanup(func() { _ = m.Close() })
	m.address = address
	m.start = func() *process { return startServer(t, binary, address, m.printer) }
	for range 2 {
		m.servers = append(m.servers, m.start())
	}
	n := &numbersMatrix{matrix: m}
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(t, err)
	d, err := design.Parse(data)
	require.NoError(t, err)
	counts := series.Spec{Start: "1", Step: 1, Width: 7}
	d.Name, d.Series = "Numbered", []design.Numbered{{Name: "totes", Counts: counts}}
	d.Elements = []design.Element{{ID: "code", Kind: design.Code, X: 3000, Y: 3000, Width: 30_000, Height: 30_000,
		Says: []design.Piece{{Field: "totes"}},
		Code: &design.CodeLooks{Symbology: "datamatrix", Module: 1000}}}
	document, err := json.Marshal(d)
	require.NoError(t, err)
	n.series, err = m.AddSeries(ctx, store.Series{Name: "totes", Counts: store.Kept[series.Spec]{V: counts},
		Unused: store.ReturnUnused, MadeBy: "Maren"}, nil)
	require.NoError(t, err)
	printers, err := m.Printers(ctx)
	require.NoError(t, err)
	m.device = printers[0].ID
	kept, err := m.AddDesign(ctx, d.Name, document, nil, &m.device, "Maren")
	require.NoError(t, err)
	n.design = kept.ID
	return n
}

// send does something at one of the servers, as a person does; false: it was not answered, or is refused.
func (n *numbersMatrix) send(random *rand.Rand, method, path string, body, into any) bool {
	n.servers.Lock()
	url := n.matrix.servers[random.IntN(len(n.matrix.servers))].url
	n.servers.Unlock()
	jar, _ := cookiejar.New(nil)
	client := &http.Client{Jar: jar, Timeout: 20 * time.Second}
	do := func(method, path string, body, into any) bool {
		data, err := json.Marshal(body)
		require.NoError(n.t, err)
		request, err := http.NewRequestWithContext(context.Background(), method, url+path, bytes.NewReader(data))
		require.NoError(n.t, err)
		request.Header.Set("Content-Type", "application/json")
		response, err := client.Do(request)
		if err != nil {
			return false
		}
		defer response.Body.Close()
		text, err := io.ReadAll(response.Body)
		if err != nil || response.StatusCode >= 300 {
			return false
		}
		return into == nil || json.Unmarshal(text, into) == nil
	}
	return do("POST", "/api/session", map[string]string{"name": demo.Name, "password": demo.Password}, nil) &&
		do(method, path, body, into)
}

// oneRun takes a run through a life: whatever is not answered is simply not done, or done without a word.
func (n *numbersMatrix) oneRun(random *rand.Rand) {
	var run struct {
		ID     int64 `json:"id"`
		Labels int   `json:"labels"`
	}
	choice := map[string]any{"records": "", "howMany": map[string]any{"each": 5 + random.IntN(40)},
		"printerId": n.device}
	if !n.send(random, "POST", "/api/runs", map[string]any{"designId": n.design, "choice": choice}, &run) {
		return
	}
	path := fmt.Sprintf("/api/runs/%d", run.ID)
	if random.IntN(4) == 0 { // somebody changes their mind
		choice["howMany"] = map[string]any{"each": 5 + random.IntN(40)}
		n.send(random, "PUT", path, choice, &run)
	}
	for range 1 + random.IntN(3) {
		if !n.send(random, "POST", path+"/prints", map[string]any{"kind": "rest"}, nil) {
			continue
		}
		n.wait(random, run.ID)
		if random.IntN(3) > 0 {
			label := 1 + random.IntN(run.Labels)
			n.send(random, "POST", path+"/spoiled",
				map[string]any{"labels": fmt.Sprintf("%d-%d", label, min(label+2, run.Labels)),
					"numbers": []string{"same", "new"}[random.IntN(2)]}, nil)
		}
	}
	var open []struct{ ID, RunID int64 }
	if random.IntN(2) > 0 && n.send(random, "GET", fmt.Sprintf("/api/series/%d/numbers?state=open&most=500", n.series),
		nil, &open) {
		for _, number := range open { // a label of this run is not to have its number
			if number.RunID == run.ID {
				n.send(random, "POST", fmt.Sprintf("/api/numbers/%d/void", number.ID),
					map[string]string{"why": "the roll was torn"}, nil)
				break
			}
		}
	}
	if random.IntN(3) > 0 {
		n.send(random, "POST", path+"/close", nil, nil)
		if n.send(random, "POST", path+"/prints",
			map[string]any{"kind": "again", "labels": fmt.Sprintf("1-%d", 1+random.IntN(run.Labels))}, nil) {
			n.wait(random, run.ID)
		}
	}
}

// wait waits until nothing of a run is being printed; sometimes somebody cancels it meanwhile.
func (n *numbersMatrix) wait(random *rand.Rand, run int64) {
	cancelAfter := time.Duration(random.IntN(6)) * time.Second
	for since := time.Now(); time.Since(since) < 2*time.Minute; time.Sleep(50 * time.Millisecond) {
		prints, err := n.PrintsOf(context.Background(), run)
		if err != nil || len(prints) == 0 {
			continue
		}
		last := prints[len(prints)-1]
		// a cancelled one, while the printer was off: nobody looks which label was the last
		if last.State == store.PrintHeld {
			n.send(random, "POST", fmt.Sprintf("/api/prints/%d/cancel", last.ID), nil, nil)
		}
		if last.State != store.PrintPrinting && last.State != store.PrintHeld {
			return
		}
		if time.Since(since) > cancelAfter && random.IntN(20) == 0 {
			n.send(random, "POST", fmt.Sprintf("/api/prints/%d/cancel", last.ID), nil, nil)
		}
	}
	prints, err := n.PrintsOf(context.Background(), run)
	n.t.Errorf("run %d is not over: %+v %v", run, prints, err)
}

// settle waits until nothing is printed any more: what was ordered and not answered may be.
func (n *numbersMatrix) settle() {
	var open []store.Print
	for since := time.Now(); time.Since(since) < 3*time.Minute; time.Sleep(100 * time.Millisecond) {
		var err error
		if open, err = n.OpenPrints(context.Background()); err == nil && len(open) == 0 {
			return
		}
		for _, p := range open {
			if p.State == store.PrintHeld {
				n.send(n.random, "POST", fmt.Sprintf("/api/prints/%d/cancel", p.ID), nil, nil)
			}
		}
	}
	require.Empty(n.t, open, "prints are not over")
}

// seen reads the numbers on the labels that came out, by the camera's pictures alone.
func (n *numbersMatrix) seen() map[string]int {
	times := map[string]int{}
	n.eachPage(func(page *pwg.Page) { times[readNumber(n.t, page)]++ })
	return times
}

// readNumber reads the one code of a label, with somebody else's reader, which wants it in the middle of the picture.
func readNumber(t *testing.T, page *pwg.Page) string {
	plane := page.Layers[0]
	inked := image.Rectangle{}
	for y := range plane.Height {
		for x := range plane.Width {
			if plane.Set(x, y) {
				inked = inked.Union(image.Rect(x, y, x+1, y+1))
			}
		}
	}
	const white = 40
	picture := image.NewGray(inked.Inset(-white))
	for y := inked.Min.Y - white; y < inked.Max.Y+white; y++ {
		for x := inked.Min.X - white; x < inked.Max.X+white; x++ {
			if !plane.Set(x, y) {
				picture.SetGray(x, y, color.Gray{255})
			}
		}
	}
	bitmap, err := gozxing.NewBinaryBitmapFromImage(picture)
	require.NoError(t, err)
	read, err := datamatrix.NewDataMatrixReader().Decode(bitmap, nil)
	require.NoError(t, err)
	return read.GetText()
}

// judge holds what the camera saw against the account.
func (n *numbersMatrix) judge() {
	var numbers []struct {
		Number  string
		State   string
		Out     int
		Unknown int
		Labels  int
	}
	const query = `select n.number, n.state, count(p.*) filter (where p.state in ('printed', 'spoiled')) as out,
			count(p.*) filter (where p.state = 'unknown') as unknown,
			count(distinct p.label) filter (where p.state in ('printed', 'spoiled')) as labels
		from numbers n left join prints q on q.run_id = n.run_id and q.id > n.after_print and (n.last_print is null
		or q.id <= n.last_print)
		left join pieces p on p.print_id = q.id and p.label between n.first_label and n.last_label
		group by n.id order by n.id`
	require.NoError(n.t, n.DB.Select(&numbers, query))
	seen, last, live := n.seen(), 0, map[string]bool{}
	fates := map[string]int{}
	for _, number := range numbers {
		value, err := strconv.Atoi(number.Number)
		require.NoError(n.t, err)
		last = max(last, value)
		fates[number.State]++
		if number.State == "returned" {
			require.Zero(n.t, number.Out+number.Unknown, "%s was given back and is on a label", number.Number)
			continue
		}
		require.False(n.t, live[number.Number], "%s was issued twice", number.Number)
		live[number.Number] = true
		require.LessOrEqual(n.t, number.Labels, 1, "%s is on different labels", number.Number)
		require.GreaterOrEqual(n.t, seen[number.Number], number.Out, "%s: %s", number.Number, number.State)
		require.LessOrEqual(n.t, seen[number.Number], number.Out+number.Unknown, "%s: %s", number.Number, number.State)
		if number.State == "printed" || number.State == "spoiled" {
			require.Positive(n.t, number.Out, "%s is said to be out", number.Number)
		} else if number.Unknown == 0 && number.State == "voided" {
			require.Equal(n.t, number.Out, seen[number.Number], number.Number)
		}
		delete(seen, number.Number)
	}
	require.Empty(n.t, seen, "numbers on labels that nobody issued")
	var next int
	require.NoError(n.t, n.DB.Get(&next, `select next from counters where series_id = $1`, n.series))
	require.Equal(n.t, last, next)
	var distinct int
	require.NoError(n.t, n.DB.Get(&distinct, `select count(distinct number) from numbers`))
	require.Equal(n.t, next, distinct, "every number that was counted is accounted for")
	accounts, err := n.Accounts(context.Background(), &n.series)
	require.NoError(n.t, err)
	a := accounts[0]
	require.Equal(n.t, a.Taken, a.Open+a.Printed+a.Spoiled+a.Voided+a.Returned)
	n.t.Logf("%d kills, %d labels out, %d numbers: %v", n.kills, n.printer.Out(), next, fates)
}
