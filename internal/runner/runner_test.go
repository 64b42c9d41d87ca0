package runner_test

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/press"
	"oddspool/internal/press/pwg"
	"oddspool/internal/prover"
	"oddspool/internal/runner"
	"oddspool/internal/sources"
	"oddspool/internal/store"
	"oddspool/internal/testkit"
	"oddspool/standin"
)

func TestMain(m *testing.M) { testkit.Main(m) }

var ctx = context.Background()

const mm = measure.Millimetre

func binLabel(t testing.TB) *design.Design {
	data, err := os.ReadFile("../../examples/bin-label.json")
	require.NoError(t, err)
	d, err := design.Parse(data)
	require.NoError(t, err)
	return d
}

// A plant is a database, a printer and a runner.
type plant struct {
	*store.Store
	t       testing.TB
	design  *design.Design
	printer *standin.Server
	runner  *runner.Runner
	run     int64
}

// newPlant prepares a run of the example's records, each some times over.
func newPlant(t testing.TB, config standin.Config, copies int) *plant {
	return newPlantOf(t, binLabel(t), bins(t), config, copies)
}

func bins(t testing.TB) *sources.Table {
	data, err := os.ReadFile("../../examples/bins.csv")
	require.NoError(t, err)
	table, err := sources.Read(data, sources.Settings{})
	require.NoError(t, err)
	return table
}

// newPlantOf prepares a run of a design with the records of a table.
func newPlantOf(t testing.TB, d *design.Design, table *sources.Table, config standin.Config, copies int) *plant {
	p := &plant{Store: testkit.Store(t), t: t, design: d}
	config.Stock = p.design.Stock
	config.Printer = p.design.Printer
	var err error
	p.printer, err = standin.Start(config, "")
	require.NoError(t, err)
	t.Cleanup(func() { _ = p.printer.Close() })
	p.prepare(table, copies, p.printer.IPP(), p.printer.Camera())
	p.start()
	t.Cleanup(p.stop)
	return p
}

func (p *plant) prepare(table *sources.Table, copies int, address, camera string) {
	printer, err := p.PutPrinter(ctx, p.design.Printer, address, camera)
	require.NoError(p.t, err)
	set, err := p.AddRecordSet(ctx, "bins.csv", table.Fields, table.Records, "Maren")
	require.NoError(p.t, err)
	document, err := json.Marshal(p.design)
	require.NoError(p.t, err)
	d, err := p.AddDesign(ctx, p.design.Name, document, &set.ID, &printer, "Maren")
	require.NoError(p.t, err)
	revision, err := p.KeepRevision(ctx, d.ID, "", "Maren")
	require.NoError(p.t, err)
	shares := make([]batch.Share, len(table.Records))
	for i := range shares {
		shares[i] = batch.Share{Record: i + 1, Copies: copies}
	}
	p.run, err = p.PrepareRun(ctx, store.RunPlan{RevisionID: revision.ID, RecordSetID: &set.ID, PrinterID: printer,
		HowMany: batch.HowMany{Each: copies}, Plan: batch.NewPlan(shares)}, "Maren")
	require.NoError(p.t, err)
}

func (p *plant) start() {
	p.runner = runner.New(p.Store, &press.Clients{}, slog.New(slog.DiscardHandler))
	p.runner.Start(ctx)
}

func (p *plant) stop() { _ = p.runner.Stop(ctx) }

func (p *plant) order(kind string, labels ...int) int64 {
	id, err := p.StartPrint(ctx, store.Order{Run: p.run, Kind: kind, Labels: labels, By: "Maren"})
	require.NoError(p.t, err)
	p.runner.Wake()
	return id
}

// wait asks until a print is as wanted.
func (p *plant) wait(id int64, wanted func(store.Print) bool) store.Print {
	var now store.Print
	deadline := time.Now().Add(60 * time.Second)
	for {
		var err error
		now, err = p.Print(ctx, id)
		require.NoError(p.t, err)
		if wanted(now) {
			return now
		}
		if time.Now().After(deadline) {
			require.Fail(p.t, "the print does not come to it", "%+v", now)
		}
		time.Sleep(2 * time.Millisecond)
	}
}

func is(state store.PrintState) func(store.Print) bool {
	return func(p store.Print) bool { return p.State == state }
}

func notes(text string) func(store.Print) bool {
	return func(p store.Print) bool { return strings.Contains(p.Note, text) }
}

// came checks that just the labels of a run came out, each once and in order.
func (p *plant) came(labels int) {
	response, err := http.Get(fmt.Sprintf("%s.pwg?most=5000", p.printer.Camera()))
	require.NoError(p.t, err)
	defer response.Body.Close()
	reader := pwg.NewReader(response.Body)
	seen := map[string]bool{}
	for range labels {
		page, err := reader.Next()
		require.NoError(p.t, err)
		dots := fmt.Sprint(page.Layers[0].Bits)
		require.False(p.t, seen[dots], "a label came out twice")
		seen[dots] = true
	}
	_, err = reader.Next()
	require.Error(p.t, err, "more labels than meant")
}

func TestEveryLabelComesOutOnceAndReadsAsMeant(t *testing.T) {
	p := newPlant(t, standin.Config{}, 1)
	sample := p.wait(p.order("sample", 1, 2, 3), is(store.PrintDone))
	require.Equal(t, []int{3, 3, 0}, []int{sample.Printed, sample.ReadMeant, sample.ReadOther})
	rest := p.wait(p.order("rest"), is(store.PrintDone))
	require.Equal(t, []int{237, 237, 0}, []int{rest.Printed, rest.ReadMeant, rest.ReadOther})
	p.came(240)
}

// Whatever is noted of a print is noted when the database breaks off at it, too.
func TestADatabaseThatBreaksOffHoldsNothingUp(t *testing.T) {
	p := newPlant(t, standin.Config{}, 1)
	for _, table := range []string{"slices", "prints", "pieces"} {
		_, err := p.DB.Exec(fmt.Sprintf(`create sequence breaks_%[1]s;
			create function break_%[1]s() returns trigger language plpgsql as $$ begin
				if nextval('breaks_%[1]s') %% 5 = 0 then raise exception 'terminated' using errcode = '57P01'; end if; return coalesce(new, old);
			end $$;
			create trigger breaks before insert or update or delete on %[1]s for each statement execute function break_%[1]s()`, table))
		require.NoError(t, err)
	}
	var id int64
	require.Eventually(t, func() (ok bool) {
		var err error
		id, err = p.StartPrint(ctx, store.Order{Run: p.run, Kind: "sample", Labels: []int{1, 2, 3}, By: "Maren"})
		return err == nil
	}, time.Second, time.Millisecond)
	done := p.wait(id, is(store.PrintDone))
	require.Equal(t, []int{3, 3, 0}, []int{done.Printed, done.ReadMeant, done.ReadOther})
	p.came(3)
}

// Three labels a row: the last row is not full, the roll ends within a slice, every label reads.
func TestLanesAreFilledFromLeftToRight(t *testing.T) {
	p := newPlant(t, standin.Config{}, 1)
	require.NoError(t, p.printer.Close())
	d := p.design
	d.Stock.Width, d.Stock.Length, d.Stock.Lanes, d.Stock.LaneGap, d.Stock.CornerRadius = 33*mm, 20*mm, 3, 2*mm, 0
	for i := range d.Elements {
		d.Elements[i].IfEmpty = design.LeaveOut
	}
	code := d.Elements[len(d.Elements)-1]
	code.X, code.Y, code.Width, code.Height, code.Code.Module = 0, 2*mm, 33*mm, 14*mm, 125
	d.Elements = []design.Element{code}
	var err error
	p.printer, err = standin.Start(standin.Config{Printer: d.Printer, Stock: d.Stock, Labels: 90}, "")
	require.NoError(t, err)
	p.prepare(bins(p.t), 1, p.printer.IPP(), p.printer.Camera())
	id := p.order("all")
	waiting := p.wait(id, notes("Roll is empty"))
	require.Equal(t, 90, waiting.Printed)
	require.NoError(t, p.printer.SetFault(standin.NoFault)) // each roll has thirty rows
	p.wait(id, func(p store.Print) bool { return p.Printed == 180 && notes("Roll is empty")(p) })
	require.NoError(t, p.printer.SetFault(standin.NoFault))
	done := p.wait(id, is(store.PrintDone))
	require.Equal(t, []int{240, 240, 0}, []int{done.Printed, done.ReadMeant, done.ReadOther})
	require.Equal(t, 80, p.printer.Out(), "rows of three")

	some := p.order("again", 1, 2, 3, 4)
	require.NoError(t, p.printer.SetFault(standin.NoFault))
	done = p.wait(some, is(store.PrintDone))
	require.Equal(t, []int{4, 4}, []int{done.Printed, done.ReadMeant})
}

func TestCancelStopsAtTheLabelThatIsOut(t *testing.T) {
	p := newPlant(t, standin.Config{Speed: 2000}, 1)
	id := p.order("all")
	p.wait(id, func(p store.Print) bool { return p.Printed >= 3 })
	require.NoError(t, p.CancelPrint(ctx, id, nil))
	ended := p.wait(id, is(store.PrintCancelled))
	require.Equal(t, p.printer.Out(), ended.Printed)
	require.Less(t, ended.Printed, 240)
	pieces, err := p.Pieces(ctx, id, false, ended.Printed-1, 2)
	require.NoError(t, err)
	require.Equal(t, []store.PieceState{store.PiecePrinted, store.PieceCancelled},
		[]store.PieceState{pieces[0].State, pieces[1].State})
	rest := p.wait(p.order("rest"), func(p store.Print) bool { return p.State == store.PrintDone })
	require.Equal(t, 240, ended.Printed+rest.Printed)
	p.came(240)
}

func TestRollEndsAndTheRunWaits(t *testing.T) {
	p := newPlant(t, standin.Config{Labels: 100}, 1)
	id := p.order("all")
	waiting := p.wait(id, notes("Roll is empty"))
	require.Equal(t, 100, waiting.Printed)
	require.Contains(t, waiting.NoteDo, "Load a roll")
	require.NoError(t, p.printer.SetFault(standin.NoFault))
	p.wait(id, func(p store.Print) bool { return p.Printed == 200 && notes("Roll is empty")(p) })
	require.NoError(t, p.printer.SetFault(standin.NoFault))
	require.Equal(t, 240, p.wait(id, is(store.PrintDone)).ReadMeant)
	p.came(240)
}

// The server is stopped in the middle of a run and another starts: it goes on at the right label.
func TestServerRestartsInTheMiddle(t *testing.T) {
	p := newPlant(t, standin.Config{Speed: 4000}, 1)
	id := p.order("all")
	for _, at := range []int{2, 80, 150} {
		p.wait(id, func(p store.Print) bool { return p.Printed >= at })
		p.stop()
		p.start()
	}
	require.Equal(t, 240, p.wait(id, is(store.PrintDone)).ReadMeant)
	p.came(240)
}

// The printer is switched off in the middle and on again: it knows what came out.
func TestPrinterGoesAwayAndComesBack(t *testing.T) {
	p := newPlant(t, standin.Config{Speed: 4000, Folder: t.TempDir()}, 1)
	id := p.order("all")
	p.wait(id, func(p store.Print) bool { return p.Printed >= 10 })
	require.NoError(t, p.printer.Close())
	p.wait(id, notes("does not answer"))
	var err error
	p.printer, err = standin.Start(standin.Config{Printer: p.design.Printer, Stock: p.design.Stock,
		Folder: p.printer.Folder()}, p.printer.Addr)
	require.NoError(t, err)
	require.Equal(t, 240, p.wait(id, is(store.PrintDone)).ReadMeant)
	p.came(240)
}

// A printer that forgot everything cannot say what came out: a person must.
func TestPrinterThatForgotHoldsThePrint(t *testing.T) {
	p := newPlant(t, standin.Config{Speed: 2000}, 1)
	id := p.order("all")
	p.wait(id, func(p store.Print) bool { return p.Printed >= 10 })
	address := p.printer.Addr
	require.NoError(t, p.printer.Close())
	var err error
	p.printer, err = standin.Start(standin.Config{Printer: p.design.Printer, Stock: p.design.Stock}, address)
	require.NoError(t, err)
	held := p.wait(id, is(store.PrintHeld))
	require.Contains(t, held.Note, "no longer knows")
	require.True(t, held.InDoubt, "a person must look")
	require.NoError(t, p.GoOn(ctx, id, 12))
	require.Equal(t, 240, p.wait(id, is(store.PrintDone)).Printed)
	p.came(228)
}

func TestTwoRunsShareAPrinterOneAfterTheOther(t *testing.T) {
	p := newPlant(t, standin.Config{Speed: 3000}, 1)
	first := p.order("all")
	firstRun := p.run
	p.wait(first, func(now store.Print) bool { return now.Printed > 0 })
	p.prepare(bins(p.t), 1, p.printer.IPP(), p.printer.Camera())
	second := p.order("sample", 1, 2)
	require.False(t, p.wait(second, func(store.Print) bool { return true }).First)
	require.Equal(t, store.PrintPrinting, p.wait(first, func(store.Print) bool { return true }).State)
	require.NoError(t, p.CancelPrint(ctx, first, nil))
	require.Equal(t, 2, p.wait(second, is(store.PrintDone)).ReadMeant)
	run, err := p.Run(ctx, firstRun)
	require.NoError(t, err)
	require.Positive(t, run.Printed)
}

// A camera that sees something else than was meant names the labels.
func TestLabelsThatReadOtherwiseAreNamed(t *testing.T) {
	p := newPlant(t, standin.Config{}, 1)
	camera := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		response, err := http.Get(strings.Replace(p.printer.Camera(), "/web", r.URL.Path, 1) + "?" + r.URL.RawQuery)
		if err != nil {
			return
		}
		defer response.Body.Close()
		reader, raster := pwg.NewReader(response.Body), pwg.NewWriter(w)
		for i := 0; ; i++ {
			page, err := reader.Next()
			if err != nil {
				break
			}
			if i == 1 { // a fold across the second label
				page.Layers[0].SetRow(200, make([]byte, 76))
			}
			_ = raster.Page(page.Layers[0], p.design.Printer.Resolution, "")
		}
		_ = raster.Flush()
	}))
	defer camera.Close()
	_, err := p.PutPrinter(ctx, p.design.Printer, p.printer.IPP(), camera.URL+"/web")
	require.NoError(t, err)
	id := p.order("sample", 1, 2, 3)
	done := p.wait(id, is(store.PrintDone))
	require.Equal(t, []int{2, 1}, []int{done.ReadMeant, done.ReadOther})
	other, err := p.Pieces(ctx, id, true, 0, 9)
	require.NoError(t, err)
	require.Equal(t, 2, other[0].Label)
	require.Contains(t, *other[0].ReadAs, "cannot be read")
}

func TestLabelsThatNoCameraSeesAreNotLookedAt(t *testing.T) {
	p := newPlant(t, standin.Config{}, 1)
	_, err := p.PutPrinter(ctx, p.design.Printer, p.printer.IPP(), "")
	require.NoError(t, err)
	done := p.wait(p.order("sample", 4, 5), is(store.PrintDone))
	require.Equal(t, []int{2, 0, 0, 0}, []int{done.Printed, done.ReadMeant, done.ReadOther, done.ReadNone})
}

func TestImpossibleLabelHoldsThePrint(t *testing.T) {
	p := newPlant(t, standin.Config{}, 1)
	p.design.Stock.Width = 300_000 // wider than the head of the stand-in
	p.prepare(bins(p.t), 1, p.printer.IPP(), "")
	held := p.wait(p.order("sample", 1), is(store.PrintHeld))
	require.Contains(t, held.Note, "The label is 300 mm wide and the head prints 104 mm.")
}

func TestProofOfARunIsKept(t *testing.T) {
	p := newPlant(t, standin.Config{}, 2)
	p.design.Elements[1].Width = 20_000 // too narrow for some contents
	p.prepare(bins(p.t), 2, p.printer.IPP(), "")
	run, err := p.Run(ctx, p.run)
	require.NoError(t, err)
	found, err := prover.Prove(ctx, p.Store, &run, stock.Setup{})
	require.NoError(t, err)
	require.NotEmpty(t, found.LeftOut)
	require.Len(t, found.Groups, 1)
	kept, err := p.Run(ctx, p.run)
	require.NoError(t, err)
	again, err := prover.Prove(ctx, p.Store, &kept, stock.Setup{})
	require.NoError(t, err)
	require.Equal(t, found, again)

	// Another set-up moves the print elsewhere: all is looked at anew.
	moved, err := prover.Prove(ctx, p.Store, &kept, stock.Setup{Across: 30 * mm})
	require.NoError(t, err)
	require.Len(t, moved.LeftOut, len(bins(t).Records))
	kept, err = p.Run(ctx, p.run)
	require.NoError(t, err)
	now, err := prover.Kept(&kept)
	require.NoError(t, err)
	require.Equal(t, moved, now)
}

// BenchmarkRun2000 prints 2,000 labels on a stand-in as fast as it can and reads back each.
func BenchmarkRun2000(b *testing.B) {
	p := newPlant(b, standin.Config{Labels: 10_000_000}, 1)
	labels := make([]int, 2000)
	p.prepare(bins(p.t), 9, p.printer.IPP(), p.printer.Camera())
	for i := range labels {
		labels[i] = i + 1
	}
	for b.Loop() {
		done := p.wait(p.order("again", labels...), is(store.PrintDone))
		if done.ReadMeant != 2000 {
			b.Fatalf("%d of 2000 read as meant", done.ReadMeant)
		}
	}
	b.ReportMetric(float64(2000*b.N)/b.Elapsed().Seconds(), "labels/s")
}

// A camera that is blind for a moment is asked again, so that no label stays unread.
func TestCamerasAreAskedAgain(t *testing.T) {
	p := newPlant(t, standin.Config{}, 1)
	asked := 0
	camera := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if asked++; asked <= 2 {
			http.Error(w, "fogged", http.StatusServiceUnavailable)
			return
		}
		response, err := http.Get(strings.Replace(p.printer.Camera(), "/web", r.URL.Path, 1) + "?" + r.URL.RawQuery)
		if err == nil {
			defer response.Body.Close()
			_, _ = io.Copy(w, response.Body)
		}
	}))
	defer camera.Close()
	_, err := p.PutPrinter(ctx, p.design.Printer, p.printer.IPP(), camera.URL+"/web")
	require.NoError(t, err)
	done := p.wait(p.order("sample", 1, 2, 3), is(store.PrintDone))
	require.Equal(t, []int{3, 0}, []int{done.ReadMeant, done.ReadOther})
	require.Equal(t, 3, asked)
}
