package main

import (
	"bytes"
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"net/http/cookiejar"
	"os"
	"regexp"
	"slices"
	"strconv"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/internal/demo"
	"oddspool/internal/store"
	"oddspool/internal/testkit"
	"oddspool/standin"
)

// How much load: a little in script/test, so that it stays true; script/load puts on what a plant does.
var (
	loadPrinters = flag.Int("printers", 2, "printers that print at once")
	loadPeople   = flag.Int("people", 4, "people who look")
	loadSeconds  = flag.Int("seconds", 3, "how long they do")
	loadRecords  = flag.Int("records", 3000, "labels of the large run")
)

// A load is people and printers at one server.
type load struct {
	t     *testing.T
	url   string
	mutex sync.Mutex
	took  map[string][]time.Duration // answers, by what was asked
}

// person returns somebody who is signed in.
func (l *load) person() *http.Client {
	jar, err := cookiejar.New(nil)
	require.NoError(l.t, err)
	client := &http.Client{Jar: jar}
	l.ask(client, "", "POST", "/api/session", map[string]string{"name": demo.Name, "password": demo.Password}, nil)
	return client
}

// ask asks something; how long the whole answer took is noted under a name.
func (l *load) ask(client *http.Client, name, method, path string, body, answer any) time.Duration {
	data, err := json.Marshal(body)
	require.NoError(l.t, err)
	request, err := http.NewRequestWithContext(context.Background(), method, l.url+path, bytes.NewReader(data))
	require.NoError(l.t, err)
	request.Header.Set("Content-Type", "application/json")
	asked := time.Now()
	response, err := client.Do(request)
	require.NoError(l.t, err)
	text, err := io.ReadAll(response.Body)
	response.Body.Close()
	took := time.Since(asked)
	require.NoError(l.t, err)
	require.Less(l.t, response.StatusCode, 300, "%s %s: %s", method, path, text)
	if answer != nil {
		require.NoError(l.t, json.Unmarshal(text, answer))
	}
	if name != "" {
		l.mutex.Lock()
		l.took[name] = append(l.took[name], took)
		l.mutex.Unlock()
	}
	return took
}

func percentile(sorted []time.Duration, p int) time.Duration {
	return sorted[(len(sorted)-1)*p/100].Round(100 * time.Microsecond)
}

// memory returns what a process has in memory, in MB.
func memory(pid int) int {
	status, _ := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	found := regexp.MustCompile(`VmRSS:\s+(\d+) kB`).FindSubmatch(status)
	if found == nil {
		return 0
	}
	kilobytes, _ := strconv.Atoi(string(found[1]))
	return kilobytes / 1024
}

// TestLoad has printers print and people look, and tells how long answers took. Nothing is asserted of times.
func TestLoad(t *testing.T) {
	binary := program(t)
	var printers []demo.Reached
	for i := range *loadPrinters {
		about := demo.Devices()[0].Printer
		if i > 0 {
			about.Name = fmt.Sprintf("%s, line %d", about.Name, i+1)
		}
		device, err := standin.Start(standin.Config{Printer: about, Stock: demo.Devices()[0].Stock, Labels: 10_000_000},
			"")
		require.NoError(t, err)
		t.Cleanup(func() { _ = device.Close() })
		printers = append(printers, demo.Reached{Printer: about, Address: device.IPP(), Camera: device.Camera()})
	}
	database := testkit.Address(t)
	server := startServerOf(t, binary, database, printers)
	db, err := store.Open(context.Background(), database, 4)
	require.NoError(t, err)
	t.Cleanup(func() { _ = db.Close() })
	l := &load{t: t, url: server.url, took: map[string][]time.Duration{}}
	maren := l.person()
	time.Sleep(time.Second)
	idle := memory(server.command.Process.Pid)

	records := make([][]string, *loadRecords)
	for i := range records {
		records[i] = []string{fmt.Sprintf("N-%06d", i), "Sugar kelp, flaked", "26K090", "12",
			fmt.Sprintf("952N%06d", i), fmt.Sprintf("%06d", i)}
	}
	set, err := db.AddRecordSet(context.Background(), "many.csv", []string{"bin", "contents", "lot", "bags", "code",
		"serial"}, records, demo.Name)
	require.NoError(t, err)
	var run struct{ ID int64 }
	prepared := l.ask(maren, "", "POST", "/api/runs", map[string]any{"designId": 2, "recordSetId": set.ID}, &run)
	path := fmt.Sprintf("/api/runs/%d", run.ID)
	proved := l.ask(maren, "", "GET", path+"/proof", nil, nil)
	went := time.Now()
	l.ask(maren, "", "POST", path+"/prints", map[string]string{"kind": "all"}, nil)
	for printed := 0; printed == 0; {
		var now struct{ Printed int }
		l.ask(maren, "", "GET", path, nil, &now)
		printed = now.Printed
	}
	t.Logf("a run of %d labels: prepared in %v, all looked at in %v, the first label out %v after go", len(records),
		prepared.Round(time.Millisecond), proved.Round(time.Millisecond), time.Since(went).Round(time.Millisecond))

	runs := []int64{run.ID}
	var all []struct {
		ID   int64
		Name string
	}
	l.ask(maren, "", "GET", "/api/printers", nil, &all)
	for _, p := range all {
		if p.Name == printers[0].Printer.Name {
			continue
		}
		choice := map[string]any{"records": "1-200", "howMany": map[string]any{"each": 10}, "printerId": p.ID}
		l.ask(maren, "", "POST", "/api/runs", map[string]any{"designId": 2, "recordSetId": 2, "choice": choice}, &run)
		l.ask(maren, "", "POST", fmt.Sprintf("/api/runs/%d/prints", run.ID), map[string]string{"kind": "all"}, nil)
		runs = append(runs, run.ID)
	}

	var most atomic.Int64
	over := time.Now().Add(time.Duration(*loadSeconds) * time.Second)
	var wait sync.WaitGroup
	wait.Go(func() {
		for ; time.Now().Before(over); time.Sleep(100 * time.Millisecond) {
			most.Store(max(most.Load(), int64(memory(server.command.Process.Pid))))
		}
	})
	for i := range *loadPeople {
		client := l.person()
		random := rand.New(rand.NewPCG(7, uint64(i)))
		wait.Go(func() {
			for time.Now().Before(over) {
				of := runs[random.IntN(len(runs))]
				switch random.IntN(6) { // what pages ask again and again, most of it
				case 0, 1:
					l.ask(client, "floor", "GET", "/api/floor", nil, nil)
				case 2, 3:
					l.ask(client, "a run", "GET", fmt.Sprintf("/api/runs/%d", of), nil, nil)
				case 4:
					l.ask(client, "labels of a run", "GET", fmt.Sprintf("/api/runs/%d/labels?from=%d&most=6", of,
						1+random.IntN(min(2000, len(records)))), nil, nil)
				default:
					l.ask(client, "runs", "GET", "/api/runs", nil, nil)
				}
				time.Sleep(time.Duration(400+random.IntN(600)) * time.Millisecond)
			}
		})
	}
	wait.Wait()
	var answers []time.Duration
	for name, took := range l.took {
		slices.Sort(took)
		answers = append(answers, took...)
		t.Logf("%s: %d answers, median %v, 95th percentile %v", name, len(took), percentile(took, 50),
			percentile(took, 95))
	}
	slices.Sort(answers)
	t.Logf("%d printers, %d people: %d answers, median %v, 95th percentile %v, 99th %v; the server has %d MB, %d MB "+
		"when idle", len(printers), *loadPeople, len(answers),
		percentile(answers, 50), percentile(answers, 95), percentile(answers, 99), most.Load(), idle)
}
