package main

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/examples"
	"oddspool/internal/demo"
	"oddspool/internal/press/pwg"
	"oddspool/internal/store"
	"oddspool/internal/testkit"
	"oddspool/standin"
)

// How long the matrix of kills is: a sample in script/test, the whole in script/prove.
var (
	moments = flag.Int("moments", 3, "random moments at which something is killed, for each way")
	seeded  = flag.Uint64("seed", 0, "of the random moments; 0: another each time")
)

// seedOf returns the seed of a test, and tells it.
func seedOf(t *testing.T) uint64 {
	seed := cmp.Or(*seeded, uint64(time.Now().UnixNano()))
	t.Logf("SEED=%d", seed)
	return seed
}

const matrixLabels = 600 // of a run

// TestKillMatrix kills servers, the database, backends of it and the printer at random moments, at real speed and at
// full speed, with one server and with two, with few connections and with many. What came out is counted at the camera:
// each label once.
func TestKillMatrix(t *testing.T) {
	seed := seedOf(t)
	binary := program(t)
	for i, way := range []struct{ servers, speed, connections int }{{2, 4000, 0}, {1, 4000, 4},
		{2, demo.Devices()[0].Printer.Speed, 40}, {1, demo.Devices()[0].Printer.Speed, 0}} {
		if *moments < 10 && i > 0 {
			break
		}
		t.Run(fmt.Sprintf("%d servers, %d mm per second, %d connections", way.servers, way.speed, way.connections),
			func(t *testing.T) {
				newMatrix(t, binary, way.servers, way.speed, way.connections,
					rand.New(rand.NewPCG(seed, uint64(i)))).run(*moments)
			})
	}
}

// Two servers share a database: when the one that prints is killed, the other goes on within 15 s, and each label comes
// out once.
func TestTheOtherServerGoesOn(t *testing.T) {
	t.Parallel()
	binary := program(t)
	m := newMatrix(t, binary, 1, 2000, 0, rand.New(rand.NewPCG(1, 1)))
	print := m.order()
	require.Eventually(t, func() bool { return m.printer.Out() > 20 }, 30*time.Second, 5*time.Millisecond)
	m.servers = append(m.servers, m.start()) // it finds the print held by the first
	require.Equal(t, store.PrintPrinting, m.print(print).State)
	require.NoError(t, m.servers[0].command.Process.Kill())
	_ = m.servers[0].command.Wait()
	settled, since := m.print(print).Printed, time.Now()
	require.Less(t, settled, matrixLabels, "there is something left to go on with")
	require.Eventually(t, func() bool { return m.print(print).Printed > settled }, 15*time.Second, 20*time.Millisecond,
		"nobody went on")
	t.Logf("the other went on after %v", time.Since(since).Round(100*time.Millisecond))
	require.Eventually(t, func() bool { return m.print(print).State == store.PrintDone }, 2*time.Minute,
		100*time.Millisecond)
	m.count()
}

// A matrix is a plant in which things are killed.
type matrix struct {
	*store.Store
	t        *testing.T
	random   *rand.Rand
	address  string // of the database
	start    func() *process
	servers  []*process
	config   standin.Config
	printer  *standin.Server
	revision int64
	set      int64
	device   int64
	killed   map[string]int
	slowest  time.Duration // until labels came out again
	meant    int
}

func newMatrix(t *testing.T, binary string, servers, speed, connections int, random *rand.Rand) *matrix {
	ctx := context.Background()
	config := standin.Config{Printer: demo.Devices()[0].Printer, Stock: demo.Devices()[0].Stock, Speed: speed,
		Labels: 10_000_000, Folder: t.TempDir()}
	printer, err := standin.Start(config, "")
	require.NoError(t, err)
	m := &matrix{t: t, random: random, config: config, printer: printer, killed: map[string]int{}}
	t.Cleanup(func() { _ = m.printer.Close() })
	address := testkit.Durable(testkit.Address(t))
	m.Store, err = store.Open(ctx, address, 4)
	require.NoError(t, err)
	t.Cleanup(func() { _ = m.Close() })
	m.device, err = m.PutPrinter(ctx, config.Printer, printer.IPP(), printer.Camera())
	require.NoError(t, err)
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(t, err)
	d, err := design.Parse(data)
	require.NoError(t, err)
	records := make([][]string, matrixLabels)
	for i := range records {
		records[i] = make([]string, len(d.Fields))
		for j := range records[i] {
			records[i][j] = fmt.Sprintf("N-%d-%06d", j, i)
		}
	}
	set, err := m.AddRecordSet(ctx, "bins.csv", d.Fields, records, "Maren")
	require.NoError(t, err)
	document, err := json.Marshal(d)
	require.NoError(t, err)
	kept, err := m.AddDesign(ctx, d.Name, document, &set.ID, &m.device, "Maren")
	require.NoError(t, err)
	revision, err := m.KeepRevision(ctx, kept.ID, "", "Maren")
	require.NoError(t, err)
	m.revision, m.set = revision.ID, set.ID
	m.start = func() *process {
		return startServer(t, binary, address, m.printer, "-connections", fmt.Sprint(connections))
	}
	for range servers {
		m.servers = append(m.servers, m.start())
	}
	return m
}

// order starts the print of a new run.
func (m *matrix) order() int64 {
	ctx := context.Background()
	shares := make([]batch.Share, matrixLabels)
	for i := range shares {
		shares[i] = batch.Share{Record: i + 1, Copies: 1}
	}
	run, err := m.PrepareRun(ctx, store.RunPlan{RevisionID: m.revision, RecordSetID: &m.set, PrinterID: m.device,
		HowMany: batch.HowMany{Each: 1}, Plan: batch.NewPlan(shares)}, "Maren")
	require.NoError(m.t, err)
	id, err := m.StartPrint(ctx, store.Order{Run: run, Kind: "all", By: "Maren"})
	require.NoError(m.t, err)
	m.meant += matrixLabels
	return id
}

func (m *matrix) print(id int64) (p store.Print) {
	require.Eventually(m.t, func() (ok bool) { // this connection may have been among the killed
		var err error
		p, err = m.Print(context.Background(), id)
		return err == nil
	}, 5*time.Second, 10*time.Millisecond)
	return p
}

func (m *matrix) run(moments int) {
	print := m.order()
	for done := 0; done < moments; {
		before := m.printer.Out()
		time.Sleep(time.Duration(m.random.IntN(1500)) * time.Millisecond)
		what := []string{"server", "backend", "backends", "database", "printer", "server and printer"}[m.random.IntN(6)]
		if p := m.print(print); p.State == store.PrintDone {
			print = m.order()
			require.Eventually(m.t, func() bool { return m.printer.Out() > before }, 30*time.Second, time.Millisecond)
			continue
		} else {
			require.Equal(m.t, store.PrintPrinting, p.State, "%s %s", p.Note, p.NoteDo)
		}
		m.kill(what)
		m.killed[what]++
		done++
		from, since := m.printer.Out(), time.Now()
		require.Eventually(m.t, func() bool {
			return m.printer.Out() > from ||
				m.print(print).State == store.PrintDone
		}, 60*time.Second, 5*time.Millisecond, "after %s", what)
		m.slowest = max(m.slowest, time.Since(since))
	}
	require.Eventually(m.t, func() bool { return m.print(print).State == store.PrintDone }, 10*time.Minute,
		100*time.Millisecond)
	m.count()
	m.t.Logf("killed %v: %d labels meant, each out once; it went on within %v", m.killed, m.meant,
		m.slowest.Round(100*time.Millisecond))
}

func (m *matrix) kill(what string) {
	kill := func() {
		i := m.random.IntN(len(m.servers))
		require.NoError(m.t, m.servers[i].command.Process.Kill())
		_ = m.servers[i].command.Wait()
		m.servers[i] = m.start()
	}
	switchOff := func() {
		require.NoError(m.t, m.printer.Close())
		time.Sleep(time.Duration(m.random.IntN(500)) * time.Millisecond)
		var err error
		m.printer, err = standin.Start(m.config, m.printer.Addr)
		require.NoError(m.t, err)
	}
	terminate := func(most int) {
		const query = `select count(pg_terminate_backend(pid)) from (select pid from pg_stat_activity
				where datname = current_database() and pid <> pg_backend_pid() order by random() limit $1) a`
		var n int
		_ = m.DB.Get(&n, query, most)
	}
	switch what {
	case "server":
		kill()
	case "backend":
		terminate(1)
	case "backends":
		terminate(100)
	case "database":
		testkit.Crash(m.t)
	case "printer":
		switchOff()
	default:
		kill()
		switchOff()
	}
}

// eachPage gives all that came out, as the camera saw it.
func (m *matrix) eachPage(give func(*pwg.Page)) {
	for skip := 0; skip < m.printer.Out(); skip += 2000 {
		response, err := http.Get(fmt.Sprintf("%s.pwg?skip=%d&most=2000", m.printer.Camera(), skip))
		require.NoError(m.t, err)
		reader := pwg.NewReader(response.Body)
		for {
			page, err := reader.Next()
			if errors.Is(err, io.EOF) {
				break
			}
			require.NoError(m.t, err)
			give(page)
		}
		response.Body.Close()
	}
}

// count counts what came out: of each record as many labels as were ordered.
func (m *matrix) count() {
	times := map[string]int{}
	m.eachPage(func(page *pwg.Page) { times[fmt.Sprint(page.Layers[0].Bits)]++ })
	missing, twice, each := 0, 0, m.meant/matrixLabels
	for _, n := range times {
		missing += max(each-n, 0)
		twice += max(n-each, 0)
	}
	missing += each * (matrixLabels - len(times))
	require.Equal(m.t, []int{m.meant, 0, 0}, []int{m.printer.Out(), missing, twice}, "labels out, missing, twice")
}
