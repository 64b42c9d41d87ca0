package runner_test

import (
	"fmt"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/press"
	"oddspool/internal/press/pwg"
	"oddspool/internal/runner"
	"oddspool/internal/store"
	"oddspool/standin"
)

// Labels of another size that are loaded while the run waits are not printed on: what is at the printer is withdrawn,
// and sent anew when the right ones are in.
func TestAnotherStockLoadedMeanwhileIsNotPrintedOn(t *testing.T) {
	p := newPlant(t, standin.Config{Labels: 100}, 1)
	id := p.order("all")
	p.wait(id, notes("Roll is empty"))
	require.NoError(t, p.printer.Change(find(t, "50x25 lanes")))
	waiting := p.wait(id, notes("is loaded, and this needs"))
	require.Contains(t, waiting.NoteDo, "the run goes on by itself")
	require.NoError(t, p.printer.Change(p.design.Stock))
	p.wait(id, func(p store.Print) bool { return p.Printed == 200 && notes("Roll is empty")(p) })
	require.NoError(t, p.printer.SetFault(standin.NoFault))
	require.Equal(t, 240, p.wait(id, is(store.PrintDone)).ReadMeant)
	p.came(240)
}

// A printer that gives up on everything is not fed for ever.
func TestPrinterThatGivesUpHoldsThePrint(t *testing.T) {
	p := newPlant(t, standin.Config{}, 1)
	p.design.Printer.Resolution = measure.DotsPerMillimetre(12) // more dots than the stand-in has
	p.design.Printer.HeadDots = 1248
	p.prepare(bins(p.t), 1, p.printer.IPP(), "")
	id := p.order("all")
	held := p.wait(id, is(store.PrintHeld))
	require.Contains(t, held.Note, "gave up 2 times without a label")
	require.Contains(t, held.Note, "the head has 832")
	require.Zero(t, held.Printed)
	require.False(t, held.InDoubt, "the printer told that none came out")
	require.NoError(t, p.CancelPrint(ctx, id, nil))
	ended := p.wait(id, is(store.PrintCancelled))
	require.Zero(t, ended.Unknown)
}

// Servers that work on one database share its prints: each is brought out by one of them, whoever comes and goes.
func TestServersThatComeAndGoIssueNothingTwice(t *testing.T) {
	p := newPlant(t, standin.Config{Speed: 4000}, 1)
	id := p.order("all")
	for i := range 4 {
		other := runner.New(p.Store, &press.Clients{}, slog.New(slog.DiscardHandler))
		other.Start(ctx)
		p.wait(id, func(now store.Print) bool { return now.Printed >= 50*(i+1) })
		require.NoError(t, p.runner.Stop(ctx))
		p.runner = other
	}
	require.Equal(t, 240, p.wait(id, is(store.PrintDone)).ReadMeant)
	p.came(240)
}

// A server that sleeps for so long that another takes its print over finds out, and does nothing more.
func TestWorkEndsWhenItsLeaseIsLost(t *testing.T) {
	p := newPlant(t, standin.Config{Speed: 3000}, 1)
	id := p.order("all")
	p.wait(id, func(now store.Print) bool { return now.Printed >= 20 })
	leases := []store.Lease{}
	require.NoError(t, p.DB.Select(&leases, `update prints set lease = lease + 1, lease_worker = 'another',
			lease_until = now() + interval '2 seconds' where id = $1 returning id, lease`, id))
	slices, err := p.Slices(ctx, id)
	require.NoError(t, err)
	time.Sleep(500 * time.Millisecond)
	after, err := p.Slices(ctx, id)
	require.NoError(t, err)
	require.Equal(t, slices, after, "nothing is noted meanwhile")
	require.Equal(t, 240, p.wait(id, is(store.PrintDone)).ReadMeant, "and taken up again when nobody has it")
	p.came(240)
}

// A printer that loses count, as the camera sees, is not trusted.
func TestMoreLabelsThanCountedHoldThePrint(t *testing.T) {
	p := newPlant(t, standin.Config{}, 1)
	camera := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		response, err := http.Get(strings.Replace(p.printer.Camera(), "/web", r.URL.Path, 1) + "?" + r.URL.RawQuery)
		if err != nil {
			return
		}
		defer response.Body.Close()
		reader, raster := pwg.NewReader(response.Body), pwg.NewWriter(w)
		var last *pwg.Page
		for page, err := reader.Next(); err == nil; page, err = reader.Next() {
			last = page
			_ = raster.Page(page.Layers[0], p.design.Printer.Resolution, "")
		}
		_ = raster.Page(last.Layers[0], p.design.Printer.Resolution, "") // the printer printed this one twice
		_ = raster.Flush()
	}))
	defer camera.Close()
	_, err := p.PutPrinter(ctx, p.design.Printer, p.printer.IPP(), camera.URL+"/web")
	require.NoError(t, err)
	held := p.wait(p.order("rest"), is(store.PrintHeld))
	require.Contains(t, held.Note, "The camera saw more labels than the printer counted")
}

// A print that its printer cannot finish goes on at another.
func TestPrintGoesOnAtAnotherPrinter(t *testing.T) {
	p := newPlant(t, standin.Config{Speed: 2000}, 1)
	id := p.order("all")
	p.wait(id, func(now store.Print) bool { return now.Printed >= 30 })
	require.NoError(t, p.printer.Close())
	p.wait(id, notes("does not answer"))
	require.NoError(t, p.CancelPrint(ctx, id, nil))
	held := p.wait(id, is(store.PrintHeld))
	require.Contains(t, held.Note, "cannot be cancelled while the printer does not answer")
	second, err := standin.Start(standin.Config{Printer: p.design.Printer, Stock: p.design.Stock}, "")
	require.NoError(t, err)
	t.Cleanup(func() { _ = second.Close() })
	about := p.design.Printer
	about.Name = "Dock 3"
	other, err := p.AddPrinter(ctx, about, second.IPP(), second.Camera())
	require.NoError(t, err)
	forty := 40
	require.NoError(t, p.MovePrint(ctx, id, other, stock.Setup{}, &forty))
	p.runner.Wake()
	done := p.wait(id, is(store.PrintDone))
	require.Equal(t, 240, done.Printed)
	require.Equal(t, 200, second.Out(), fmt.Sprintf("%+v", done))
}

// A printer that took all data and says that it prints, and brings nothing, is told of within a minute.
func TestPrinterThatStallsIsTold(t *testing.T) {
	t.Parallel() // with others that wait
	p := newPlant(t, standin.Config{Speed: 2000}, 1)
	require.NoError(t, p.printer.SetFault(standin.Stalled))
	began := time.Now()
	id := p.order("all")
	told := p.wait(id, notes("nothing came out for"))
	require.Less(t, time.Since(began), time.Minute)
	require.Equal(t, store.PrintPrinting, told.State)
	require.NoError(t, p.printer.SetFault(standin.NoFault))
	require.Equal(t, 240, p.wait(id, is(store.PrintDone)).ReadMeant)
	p.came(240)
}

// What a printer counted and its camera did not see is no label: a person looks, also where nothing is left to print.
func TestPrinterThatCountsWhatDoesNotComeOutIsHeld(t *testing.T) {
	p := newPlant(t, standin.Config{}, 1)
	require.NoError(t, p.printer.SetFault(standin.Feigning))
	id := p.order("all")
	held := p.wait(id, is(store.PrintHeld))
	require.Contains(t, held.Note, "the camera saw 1")
	require.NoError(t, p.printer.SetFault(standin.NoFault))
	require.NoError(t, p.GoOn(ctx, id, 1))
	p.runner.Wake()
	p.wait(id, is(store.PrintDone))
	p.came(240)
}

// A job that a server opened and was killed before it noted it is ended by whoever takes the print over; those of
// others stay.
func TestJobsOfKilledServersAreEnded(t *testing.T) {
	p := newPlant(t, standin.Config{}, 1)
	p.stop()
	id := p.order("all")
	installation, err := p.Installation(ctx)
	require.NoError(t, err)
	client, err := (&press.Clients{}).At(p.printer.IPP())
	require.NoError(t, err)
	status, err := client.Printer(ctx)
	require.NoError(t, err)
	open := func(mark string) int {
		job, err := client.Create(ctx, status, press.Wanted{Name: mark + " Bin label, 1 to"})
		require.NoError(t, err)
		return job
	}
	left, others := open(fmt.Sprintf("%d of %s:", id, installation[:8])), open(fmt.Sprintf("%d of 00000000:", id))
	p.start()
	p.wait(id, is(store.PrintDone))
	p.came(240)
	jobs, err := client.OpenJobs(ctx)
	require.NoError(t, err)
	require.Len(t, jobs, 1)
	require.Equal(t, others, jobs[0].ID)
	job, err := client.Job(ctx, left)
	require.NoError(t, err)
	require.Equal(t, press.JobCanceled, job.State)
}
