package store_test

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/require"
	"golang.org/x/crypto/argon2"

	"oddspool/core/batch"
	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/store"
	"oddspool/internal/testkit"
)

func TestMain(m *testing.M) { testkit.Main(m) }

var ctx = context.Background()

// plant fills a database with a printer, a design kept once, and records.
func plant(t *testing.T, s *store.Store, records int) store.RunPlan {
	printer, err := s.PutPrinter(ctx, stock.Printer{Name: "Dock 2", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832}, "ipp://127.0.0.1:9/ipp/print", "")
	require.NoError(t, err)
	rows := make([][]string, records)
	for i := range rows {
		rows[i] = []string{fmt.Sprintf("N-%03d", i+1), "00" + fmt.Sprint(i)}
	}
	set, err := s.AddRecordSet(ctx, "bins.csv", []string{"bin", "serial"}, rows, "Maren")
	require.NoError(t, err)
	d, err := s.AddDesign(ctx, "Bin label", []byte(`{"name": "Bin label"}`), &set.ID, &printer, "Maren")
	require.NoError(t, err)
	revision, err := s.KeepRevision(ctx, d.ID, "Maren")
	require.NoError(t, err)
	var shares []batch.Share
	for i := range records {
		shares = append(shares, batch.Share{Record: i + 1, Copies: 2})
	}
	return store.RunPlan{RevisionID: revision.ID, RecordSetID: &set.ID, PrinterID: printer, HowMany: batch.HowMany{Each: 2}, Plan: batch.NewPlan(shares)}
}

func TestMigrateTwiceAtOnce(t *testing.T) {
	address := testkit.Address(t)
	var group sync.WaitGroup
	for range 4 {
		group.Go(func() {
			s, err := store.Open(ctx, address, 0)
			if err == nil {
				err = s.Migrate(ctx)
				_ = s.Close()
			}
			if err != nil {
				t.Error(err)
			}
		})
	}
	group.Wait()
	_, err := store.Open(ctx, "postgres://app@127.0.0.1:1/none", 0)
	require.ErrorContains(t, err, "does not answer")
}

// A database of the version before keeps the prints that were open in it, and what was at their printers.
func TestMigrationsKeepOpenPrints(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 5)
	run, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	print, err := s.StartPrint(ctx, store.Order{Run: run, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	settle(t, s, 3)
	l := take(t, s, "one")
	require.NoError(t, s.BeginSlice(ctx, l, &store.Slice{Job: 12, First: 4, Last: 8}))
	provider, err := goose.NewProvider(goose.DialectPostgres, s.DB.DB, os.DirFS("migrations"))
	require.NoError(t, err)
	_, err = provider.DownTo(ctx, 3)
	require.NoError(t, err)
	require.NoError(t, s.Migrate(ctx))
	slices, err := s.Slices(ctx, print)
	require.NoError(t, err)
	require.Equal(t, []store.Slice{{Number: 1, Job: 12, First: 4, Last: 8}}, slices)
	p, err := s.Print(ctx, print)
	require.NoError(t, err)
	require.Equal(t, []any{plan.PrinterID, 3, 1, 1, 1}, []any{p.PrinterID, p.Settled, p.FirstLabel, p.ReadMeant, p.ReadOther})
	r, err := s.Run(ctx, run)
	require.NoError(t, err)
	require.Equal(t, []int{3, 5}, []int{r.Printed, r.Chosen})
	l = take(t, s, "two")
	require.NoError(t, s.SettleSlice(ctx, l, &slices[0], 5, false))
}

func TestAccounts(t *testing.T) {
	s := testkit.Store(t)
	require.NoError(t, s.AddAccount(ctx, " Maren ", "drying rack 3"))
	first, err := s.SignIn(ctx, "Maren", "drying rack 3")
	require.NoError(t, err)
	for name, password := range map[string]string{"Maren": "drying Rack 3", "Ines": "drying rack 3", "": ""} {
		_, err = s.SignIn(ctx, name, password)
		require.ErrorIs(t, err, store.ErrSignIn, name)
	}
	require.NoError(t, s.AddAccount(ctx, "Maren", "a salt shed in fog"))
	second, err := s.SignIn(ctx, "Maren", "a salt shed in fog")
	require.NoError(t, err)
	require.NotEqual(t, first, second, "a new password ends the sessions there are")
	var hash string
	require.NoError(t, s.DB.Get(&hash, `select password_hash from accounts`))
	require.NotContains(t, hash, "salt")
	require.NoError(t, s.AddAccount(ctx, "Ines", "fog over the harbour"))
	earlier := base64.RawStdEncoding.EncodeToString(argon2.IDKey([]byte("drying racks"), []byte("sea"), 3, 64<<10, 4, 32))
	_, err = s.DB.Exec(`update accounts set password_hash = $1 where name = 'Ines'`, base64.RawStdEncoding.EncodeToString([]byte("sea"))+"$"+earlier)
	require.NoError(t, err)
	_, err = s.SignIn(ctx, "Ines", "drying racks")
	require.NoError(t, err, "a password that was kept at an earlier cost")
	require.NoError(t, s.CloseAccount(ctx, "Maren"))
	number, err := s.Sessions(ctx, "Maren")
	require.NoError(t, err)
	require.Zero(t, number)
	_, err = s.SignIn(ctx, "Maren", "a salt shed in fog")
	require.ErrorIs(t, err, store.ErrSignIn)
	require.Error(t, s.CloseAccount(ctx, "Maren"))

	var why *store.PasswordError
	for _, password := range []string{"", "short", "elevenlette", "            ", "password1234", "Password!2026", "1234567890123", "qwertyuiop12", "aaaaaaaaaaaaaaa", "Maren-123456", strings.Repeat("word ", 50)} {
		require.ErrorAs(t, s.AddAccount(ctx, "Maren", password), &why, password)
	}
	for _, name := range []string{"", "  ", "a\x00b", strings.Repeat("n", 101)} {
		require.ErrorAs(t, s.AddAccount(ctx, name, "a salt shed in fog"), &why, name)
	}
}

func TestRecordsStayText(t *testing.T) {
	s := testkit.Store(t)
	values := []string{"00417", "12345678901234567890", "3/4", "", `"ø"`}
	set, err := s.AddRecordSet(ctx, "odd.csv", []string{"a", "b", "c", "d", "e"}, [][]string{values, {"1", "2", "3", "4", "5"}}, "Maren")
	require.NoError(t, err)
	require.Equal(t, 2, set.Count)
	require.Equal(t, store.Strings{"a", "b", "c", "d", "e"}, set.Fields)
	got, err := s.Records(ctx, set.ID, 1, 10)
	require.NoError(t, err)
	require.Equal(t, values, got[0])
	some, err := s.SomeRecords(ctx, set.ID, []int{2, 99, 1})
	require.NoError(t, err)
	require.Equal(t, "1", some[0][0])
	require.Empty(t, some[1])
	require.Equal(t, values, some[2])

	require.NoError(t, s.RetireRecordSet(ctx, set.ID))
	sets, err := s.RecordSets(ctx)
	require.NoError(t, err)
	require.Empty(t, sets)
	_, err = s.RecordSet(ctx, set.ID)
	require.NoError(t, err, "what was printed from a retired set can be looked at")
	require.Equal(t, &store.NotFoundError{What: "record set", ID: 99}, s.RetireRecordSet(ctx, 99))
}

func TestTwoPeopleOnOneDesign(t *testing.T) {
	s := testkit.Store(t)
	d, err := s.AddDesign(ctx, "Bin label", []byte(`{"a": 1}`), nil, nil, "Maren")
	require.NoError(t, err)
	require.True(t, d.Draft)
	saved, err := s.SaveDesign(ctx, d.ID, d.Edit, "Bin label", []byte(`{"a": 2}`), nil, nil, "Ines")
	require.NoError(t, err)
	_, err = s.SaveDesign(ctx, d.ID, d.Edit, "Bin label", []byte(`{"a": 3}`), nil, nil, "Maren")
	var conflict *store.ConflictError
	require.ErrorAs(t, err, &conflict)
	require.Equal(t, saved.Edit, conflict.Theirs.Edit)
	require.ErrorContains(t, err, "Ines changed this design")

	first, err := s.KeepRevision(ctx, d.ID, "Ines")
	require.NoError(t, err)
	same, err := s.KeepRevision(ctx, d.ID, "Maren")
	require.NoError(t, err)
	require.Equal(t, first, same, "an unchanged draft is no new version")
	_, err = s.SaveDesign(ctx, d.ID, saved.Edit, "Bin label", []byte(`{"a": 4}`), nil, nil, "Maren")
	require.NoError(t, err)
	second, err := s.KeepRevision(ctx, d.ID, "Maren")
	require.NoError(t, err)
	require.Equal(t, 2, second.Number)
	old, err := s.Revision(ctx, d.ID, 1)
	require.NoError(t, err)
	require.JSONEq(t, `{"a": 2}`, string(old.Document))
	all, err := s.Revisions(ctx, d.ID)
	require.NoError(t, err)
	require.Len(t, all, 2)

	require.NoError(t, s.RetireDesign(ctx, d.ID))
	_, err = s.Design(ctx, d.ID)
	require.IsType(t, &store.NotFoundError{}, err)
	_, err = s.SaveDesign(ctx, d.ID, 3, "x", []byte(`{}`), nil, nil, "Maren")
	require.IsType(t, &store.NotFoundError{}, err)
}

func TestRunsArePlannedAndChangedUntilPrinted(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 5)
	id, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	run, err := s.Run(ctx, id)
	require.NoError(t, err)
	require.Equal(t, []int{10, 5, 0, 1}, []int{run.LabelCount, run.Chosen, run.Printed, run.Version})
	require.NoError(t, s.KeepProof(ctx, &run, []byte(`{}`)))

	plan.Records, plan.Plan = "2", batch.NewPlan([]batch.Share{{Record: 2, Copies: 3}})
	require.NoError(t, s.ChangeRun(ctx, id, plan))
	changed, err := s.Run(ctx, id)
	require.NoError(t, err)
	require.Equal(t, 3, changed.LabelCount)
	require.Nil(t, changed.Proof, "another choice needs another proof")
	require.NoError(t, s.KeepProof(ctx, &run, []byte(`{}`)), "a proof of the old choice comes late")
	changed, err = s.Run(ctx, id)
	require.NoError(t, err)
	require.Nil(t, changed.Proof)
	numbers, records, err := s.RunRecords(ctx, id)
	require.NoError(t, err)
	require.Equal(t, []int{2}, numbers)
	require.Equal(t, [][]string{{"N-002", "001"}}, records)

	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	require.ErrorIs(t, s.ChangeRun(ctx, id, plan), store.ErrRunBusy)
	runs, err := s.Runs(ctx, 10, false)
	require.NoError(t, err)
	require.Equal(t, "printing", runs[0].State)
	var howMany batch.HowMany
	require.NoError(t, json.Unmarshal(changed.HowMany, &howMany))
	require.Equal(t, 2, howMany.Each)

	// Once it is over, printer and set-up may still be changed, and nothing else.
	settle(t, s, 3)
	other, err := s.AddPrinter(ctx, stock.Printer{Name: "Dock 3", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832}, "", "")
	require.NoError(t, err)
	plan.PrinterID = other
	require.NoError(t, s.ChangeRun(ctx, id, plan))
	changed, err = s.Run(ctx, id)
	require.NoError(t, err)
	require.Equal(t, []any{other, 3, 3}, []any{changed.PrinterID, changed.LabelCount, changed.Printed})
	plan.Records = "3"
	require.ErrorIs(t, s.ChangeRun(ctx, id, plan), store.ErrRunStarted)
}

const lasts = time.Minute // of a lease in these tests

// take has a worker take the only print that may be worked on.
func take(t *testing.T, s *store.Store, worker string) store.Lease {
	leases, err := s.TakePrints(ctx, worker, lasts)
	require.NoError(t, err)
	require.Len(t, leases, 1)
	return leases[0]
}

// settle brings a slice of a print out, as the runner does: of all that is left so many labels, of which the first two
// are read.
func settle(t *testing.T, s *store.Store, printed int) store.Print {
	l := take(t, s, "one")
	first, last, err := s.Waiting(ctx, l.Print, 1000)
	require.NoError(t, err)
	slice := store.Slice{Job: 7, First: first, Last: last}
	require.NoError(t, s.BeginSlice(ctx, l, &slice))
	require.NoError(t, s.SettleSlice(ctx, l, &slice, printed, true))
	require.NoError(t, s.KeepReadings(ctx, l, &slice, []store.Reading{{Place: first, Back: "meant"}, {Place: first + 1, Back: "other", As: "nothing"}}[:min(printed, 2)]))
	require.NoError(t, s.LetGo(ctx, l))
	p, err := s.Print(ctx, l.Print)
	require.NoError(t, err)
	return p
}

// hold holds the only print that may be worked on.
func hold(t *testing.T, s *store.Store) {
	require.NoError(t, s.Hold(ctx, take(t, s, "one"), "The printer was reset.", "Look."))
}

func states(t *testing.T, s *store.Store, print int64) (all []string) {
	pieces, err := s.Pieces(ctx, print, false, 0, 1000)
	require.NoError(t, err)
	for _, p := range pieces {
		all = append(all, p.State)
	}
	return all
}

func TestPrintsKnowEveryLabel(t *testing.T) {
	s := testkit.Store(t)
	id, err := s.PrepareRun(ctx, plant(t, s, 5), "Maren")
	require.NoError(t, err)
	sample, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "sample", Labels: []int{1, 2, 3}, By: "Maren"})
	require.NoError(t, err)
	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "rest", By: "Ines"})
	require.ErrorIs(t, err, store.ErrRunBusy)
	p := settle(t, s, 3)
	require.Equal(t, []any{"done", 3, 1, 1, 0}, []any{p.State, p.Printed, p.ReadMeant, p.ReadOther, p.ReadNone})
	other, err := s.Pieces(ctx, sample, true, 0, 10)
	require.NoError(t, err)
	require.Len(t, other, 1)
	require.Equal(t, "nothing", *other[0].ReadAs)

	// The rest leaves out what the sample brought, and record 4, whose labels have errors.
	rest, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "rest", LeftOut: []int{4}, By: "Maren"})
	require.NoError(t, err)
	pieces, err := s.Pieces(ctx, rest, false, 0, 100)
	require.NoError(t, err)
	var got []string
	for _, piece := range pieces {
		got = append(got, fmt.Sprintf("%d:%d/%d", piece.Place, piece.Label, piece.Record))
	}
	require.Equal(t, []string{"1:4/2", "2:5/3", "3:6/3", "4:9/5", "5:10/5"}, got)
	slice, err := s.Slice(ctx, rest, 4, 5)
	require.NoError(t, err)
	require.Equal(t, "N-005", slice[0][0])

	p = settle(t, s, 2)
	require.Equal(t, []any{"printing", 4, 10, 5}, []any{p.State, p.FirstLabel, p.LastLabel, p.LastOut})
	require.NoError(t, s.CancelPrint(ctx, rest, nil))
	l := take(t, s, "one")
	require.NoError(t, s.EndCancelled(ctx, l))
	require.Equal(t, []string{"printed", "printed", "cancelled", "cancelled", "cancelled"}, states(t, s, rest))
	run, err := s.Run(ctx, id)
	require.NoError(t, err)
	require.Equal(t, 5, run.Printed)
	require.Error(t, s.CancelPrint(ctx, rest, nil), "it is over")

	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "again", Labels: []int{2}, By: "Maren"})
	require.NoError(t, err)
	settle(t, s, 1)
	run, err = s.Run(ctx, id)
	require.NoError(t, err)
	require.Equal(t, 5, run.Printed, "a label counts once, however often it is printed")
	for _, order := range []store.Order{{Run: id, Kind: "again", Labels: []int{99}}, {Run: id, Kind: "rest", LeftOut: []int{1, 2, 3, 4, 5}}} {
		_, err = s.StartPrint(ctx, order)
		require.ErrorIs(t, err, store.ErrNothingToPrint)
	}
	prints, err := s.PrintsOf(ctx, id)
	require.NoError(t, err)
	require.Len(t, prints, 3, "a refused order leaves nothing behind")
}

// A person speaks of the labels of the run, as they are numbered on the page, not of places in a print.
func TestHeldPrintGoesOnWhereAPersonSays(t *testing.T) {
	s := testkit.Store(t)
	id, err := s.PrepareRun(ctx, plant(t, s, 5), "Maren")
	require.NoError(t, err)
	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "sample", Labels: []int{1, 2}, By: "Maren"})
	require.NoError(t, err)
	settle(t, s, 2)
	print, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "rest", By: "Maren"}) // labels 3 to 10
	require.NoError(t, err)
	require.ErrorIs(t, s.GoOn(ctx, print, 3), store.ErrNotHeld)
	settle(t, s, 4) // up to 6
	hold(t, s)
	for _, label := range []int{2, 11, -1} {
		var none *store.NotOfPrintError
		require.ErrorAs(t, s.GoOn(ctx, print, label), &none)
		require.Equal(t, store.NotOfPrintError{Label: label, First: 3, Last: 10}, *none)
	}
	require.NoError(t, s.GoOn(ctx, print, 5))
	p, err := s.Print(ctx, print)
	require.NoError(t, err)
	require.Equal(t, []any{"printing", 3, 5, ""}, []any{p.State, p.Printed, p.LastOut, p.Note})
	require.Equal(t, []string{"printed", "printed", "printed", "waiting", "waiting", "waiting", "waiting", "waiting"}, states(t, s, print))
	run, err := s.Run(ctx, id)
	require.NoError(t, err)
	require.Equal(t, 5, run.Printed)

	hold(t, s)
	require.NoError(t, s.GoOn(ctx, print, 0))
	require.Equal(t, 8, strings.Count(fmt.Sprint(states(t, s, print)), "waiting"), "0: none came out")
	hold(t, s)
	require.NoError(t, s.GoOn(ctx, print, 10))
	p, err = s.Print(ctx, print)
	require.NoError(t, err)
	require.Equal(t, "done", p.State)
}

// What was at a printer that cannot tell is neither printed nor to be printed: it is unknown until a person says.
func TestLabelsInDoubtAreUnknownUntilAPersonSays(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 5)
	id, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	print, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	l := take(t, s, "one")
	slice := store.Slice{Job: 3, First: 1, Last: 4}
	require.NoError(t, s.BeginSlice(ctx, l, &slice))
	require.NoError(t, s.Hold(ctx, l, "It was reset.", "Look."))
	require.ErrorIs(t, s.MovePrint(ctx, print, plan.PrinterID, stock.Setup{}, nil), store.ErrUnsettled)
	require.NoError(t, s.CancelPrint(ctx, print, nil))
	require.Equal(t, []string{"unknown", "unknown", "unknown", "unknown", "cancelled", "cancelled", "cancelled", "cancelled", "cancelled", "cancelled"}, states(t, s, print))
	p, err := s.Print(ctx, print)
	require.NoError(t, err)
	require.Equal(t, 4, p.Unknown)

	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "rest", By: "Maren"})
	require.NoError(t, err)
	require.Equal(t, 6, settle(t, s, 6).LabelCount, "the rest issues no label again that may be out already")
	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "again", Labels: []int{3, 4}, By: "Maren"})
	require.NoError(t, err, "a person who looked may")

	other, err := s.AddPrinter(ctx, stock.Printer{Name: "Dock 3", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832}, "", "")
	require.NoError(t, err)
	l = take(t, s, "one")
	require.NoError(t, s.BeginSlice(ctx, l, &store.Slice{Job: 4, First: 1, Last: 2}))
	require.NoError(t, s.Hold(ctx, l, "It does not answer.", "Look."))
	third := 3
	require.NoError(t, s.MovePrint(ctx, l.Print, other, stock.Setup{}, &third))
	p, err = s.Print(ctx, l.Print)
	require.NoError(t, err)
	require.Equal(t, []any{other, "printing", 1}, []any{p.PrinterID, p.State, p.Printed})
	require.Equal(t, 1, settle(t, s, 1).Printed-p.Printed)
}

// A server that was taken for dead changes nothing any more, whatever it wants to note.
func TestOnlyWhoHasTheLeaseWritesOfAPrint(t *testing.T) {
	s := testkit.Store(t)
	id, err := s.PrepareRun(ctx, plant(t, s, 5), "Maren")
	require.NoError(t, err)
	print, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	leases, err := s.TakePrints(ctx, "one", 30*time.Millisecond)
	require.NoError(t, err)
	old := leases[0]
	slice := store.Slice{Job: 3, First: 1, Last: 4}
	require.NoError(t, s.BeginSlice(ctx, old, &slice))
	none, err := s.TakePrints(ctx, "two", lasts)
	require.NoError(t, err)
	require.Empty(t, none, "it is being worked on")
	require.Eventually(t, func() bool { leases, err = s.TakePrints(ctx, "two", lasts); return len(leases) == 1 }, time.Second, 5*time.Millisecond)
	require.NoError(t, err)
	renewed, err := s.RenewLeases(ctx, "one", lasts)
	require.NoError(t, err)
	require.Empty(t, renewed)
	for name, write := range map[string]error{
		"a slice":       s.BeginSlice(ctx, old, &store.Slice{Job: 4, First: 5, Last: 6}),
		"what came":     s.SettleSlice(ctx, old, &slice, 4, false),
		"readings":      s.KeepReadings(ctx, old, &slice, []store.Reading{{Place: 1, Back: "meant"}}),
		"progress":      s.NoteProgress(ctx, old, 2, "x", "y"),
		"that it holds": s.Hold(ctx, old, "x", "y"),
		"its end":       s.EndCancelled(ctx, old),
	} {
		require.ErrorIs(t, write, store.ErrLeaseLost, name)
	}
	require.NoError(t, s.LetGo(ctx, old))
	p, err := s.Print(ctx, print)
	require.NoError(t, err)
	require.Equal(t, []any{"printing", 0, "", true}, []any{p.State, p.Printed, p.Note, p.Leased})
	left, err := s.Slices(ctx, print)
	require.NoError(t, err)
	require.Len(t, left, 1)
	require.NoError(t, s.SettleSlice(ctx, leases[0], &left[0], 3, false), "who has it goes on where the other stopped")
	first, last, err := s.Waiting(ctx, print, 100)
	require.NoError(t, err)
	require.Equal(t, []int{4, 10}, []int{first, last})
}

// Each printer works on one print at a time, the oldest that is not held; other printers do not wait for it.
func TestPrintsAreTakenInTheOrderOfTheirPrinters(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 2)
	other, err := s.AddPrinter(ctx, stock.Printer{Name: "Dock 3", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832}, "", "")
	require.NoError(t, err)
	start := func(printer int64) int64 {
		plan.PrinterID = printer
		run, err := s.PrepareRun(ctx, plan, "Maren")
		require.NoError(t, err)
		id, err := s.StartPrint(ctx, store.Order{Run: run, Kind: "all", By: "Maren"})
		require.NoError(t, err)
		return id
	}
	first, second, elsewhere := start(plan.PrinterID), start(plan.PrinterID), start(other)
	var group sync.WaitGroup
	var mutex sync.Mutex
	got := map[int64]store.Lease{}
	for i := range 8 { // servers that start at once
		group.Go(func() {
			leases, err := s.TakePrints(ctx, fmt.Sprint("worker ", i), lasts)
			mutex.Lock()
			defer mutex.Unlock()
			if err != nil {
				t.Error(err)
			}
			for _, l := range leases {
				if _, twice := got[l.Print]; twice {
					t.Error("two have the lease of a print")
				}
				got[l.Print] = l
			}
		})
	}
	group.Wait()
	require.Len(t, got, 2)
	require.Contains(t, got, elsewhere)
	require.NoError(t, s.Hold(ctx, got[first], "The cover is open.", "Close it."))
	require.Equal(t, second, take(t, s, "one").Print, "a held print keeps nobody waiting")
	require.NoError(t, s.GoOn(ctx, first, 0))
	none, err := s.TakePrints(ctx, "two", lasts)
	require.NoError(t, err)
	require.Empty(t, none, "and waits itself until the other is let go")
}

// Two people who press Print at the same moment start one print.
func TestOnlyOnePrintOfARunAtATime(t *testing.T) {
	s := testkit.Store(t)
	id, err := s.PrepareRun(ctx, plant(t, s, 50), "Maren")
	require.NoError(t, err)
	var group sync.WaitGroup
	results := make([]error, 6)
	for i := range results {
		group.Go(func() {
			_, results[i] = s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
		})
	}
	group.Wait()
	started := 0
	for _, err := range results {
		if err == nil {
			started++
		} else {
			require.ErrorIs(t, err, store.ErrRunBusy)
		}
	}
	require.Equal(t, 1, started)
	open, err := s.OpenPrints(ctx)
	require.NoError(t, err)
	require.Len(t, open, 1)
	require.True(t, open[0].First)
}

func TestAHundredThousandRecords(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 100_000)
	id, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	print, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	p, err := s.Print(ctx, print)
	require.NoError(t, err)
	require.Equal(t, 200_000, p.LabelCount)
	slice, err := s.Slice(ctx, print, 199_999, 200_000)
	require.NoError(t, err)
	require.Equal(t, "N-100000", slice[1][0])
	back, err := s.RunPlanOf(ctx, id)
	require.NoError(t, err)
	require.Equal(t, 200_000, back.Len())
}

func TestPrintersAreAddedChangedAndRetired(t *testing.T) {
	s := testkit.Store(t)
	about := stock.Printer{Name: "Dock 2", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832}
	id, err := s.AddPrinter(ctx, about, "", "")
	require.NoError(t, err)
	var taken *store.NameTakenError
	_, err = s.AddPrinter(ctx, about, "", "")
	require.ErrorAs(t, err, &taken)
	other := about
	other.Name = "Dock 3"
	second, err := s.AddPrinter(ctx, other, "ipp://127.0.0.1:9/ipp/print", "http://127.0.0.1:9/web")
	require.NoError(t, err)
	require.ErrorAs(t, s.ChangePrinter(ctx, second, about, "", ""), &taken)
	other.HeadDots = 640
	require.NoError(t, s.ChangePrinter(ctx, second, other, "ipp://127.0.0.1:10/ipp/print", ""))
	kept, err := s.Printer(ctx, second)
	require.NoError(t, err)
	does, err := kept.Does()
	require.NoError(t, err)
	require.Equal(t, 640, does.HeadDots)
	require.Equal(t, []string{"ipp://127.0.0.1:10/ipp/print", ""}, []string{kept.Address, kept.Camera})
	require.NoError(t, s.RetirePrinter(ctx, id))
	all, err := s.Printers(ctx)
	require.NoError(t, err)
	require.Len(t, all, 1)
	var missing *store.NotFoundError
	require.ErrorAs(t, s.RetirePrinter(ctx, id), &missing)
	require.ErrorAs(t, s.ChangePrinter(ctx, id, about, "", ""), &missing)
	_, err = s.AddPrinter(ctx, about, "", "")
	require.NoError(t, err, "the name of a retired printer is free")
	retired, err := s.Printer(ctx, id)
	require.NoError(t, err, "runs of it can still be looked at")
	require.Contains(t, retired.Name, "retired")
}

func TestPrintersThatPrintAreNotRetired(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 3)
	run, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	id, err := s.StartPrint(ctx, store.Order{Run: run, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	require.ErrorIs(t, s.RetirePrinter(ctx, plan.PrinterID), store.ErrPrinterBusy)
	p, err := s.Printer(ctx, plan.PrinterID)
	require.NoError(t, err)
	does, err := p.Does()
	require.NoError(t, err)
	require.ErrorIs(t, s.ChangePrinter(ctx, p.ID, does, "ipp://127.0.0.1:10/ipp/print", ""), store.ErrPrinterBusy, "it would be asked about jobs of another")
	hold(t, s)
	require.ErrorIs(t, s.RetirePrinter(ctx, plan.PrinterID), store.ErrPrinterBusy, "held is not over")
	require.NoError(t, s.CancelPrint(ctx, id, nil))
	require.NoError(t, s.RetirePrinter(ctx, plan.PrinterID))
}

func TestSetupsBelongToPrintersAndPrintsKeepThem(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 3)
	cold := stock.Setup{Name: "cold hall", Darkness: 70, Across: 500}
	id, err := s.PutSetup(ctx, 0, plan.PrinterID, "", cold, "Maren")
	require.NoError(t, err)
	_, err = s.PutSetup(ctx, 0, plan.PrinterID, "", cold, "Maren")
	require.ErrorIs(t, err, store.ErrSetupTaken)
	_, err = s.PutSetup(ctx, 0, plan.PrinterID, "S-076", cold, "Maren")
	require.NoError(t, err, "for another stock the name is free")
	cold.Darkness = 55
	same, err := s.PutSetup(ctx, id, plan.PrinterID, "", cold, "Ines")
	require.NoError(t, err)
	require.Equal(t, id, same)
	kept, err := s.Setup(ctx, id)
	require.NoError(t, err)
	is, err := kept.Is()
	require.NoError(t, err)
	require.Equal(t, cold, is)
	require.Equal(t, "Ines", kept.ChangedBy)
	all, err := s.Setups(ctx, plan.PrinterID)
	require.NoError(t, err)
	require.Len(t, all, 2)

	plan.SetupID = &id
	run, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	print, err := s.StartPrint(ctx, store.Order{Run: run, Kind: "all", Setup: cold, Start: 2, By: "Maren"})
	require.NoError(t, err)
	require.NoError(t, s.DeleteSetup(ctx, id))
	r, err := s.Run(ctx, run)
	require.NoError(t, err)
	require.Nil(t, r.SetupID, "the run has none any more")
	p, err := s.Print(ctx, print)
	require.NoError(t, err)
	with, err := p.With()
	require.NoError(t, err)
	require.Equal(t, cold, with, "but the print keeps it as it was")
	require.Equal(t, []int{2, 0}, []int{p.Skip(1), p.Skip(4)})
	var missing *store.NotFoundError
	require.ErrorAs(t, s.DeleteSetup(ctx, id), &missing)
	_, err = s.PutSetup(ctx, id, plan.PrinterID, "", cold, "Maren")
	require.ErrorAs(t, err, &missing)
}

func TestNumbersOfStocksAreFoundAndFree(t *testing.T) {
	s := testkit.Store(t)
	for _, number := range []string{"own-1", "own-3"} {
		_, err := s.AddStock(ctx, stock.Stock{Number: number, Name: number, Kind: stock.DieCut, Shape: stock.Rectangle, Width: 40_000, Length: 20_000})
		require.NoError(t, err)
	}
	free, err := s.FreeNumber(ctx, "own-")
	require.NoError(t, err)
	require.Equal(t, "own-2", free)
	found, err := s.StockNumbered(ctx, "own-3")
	require.NoError(t, err)
	require.NoError(t, s.RetireStock(ctx, found.ID))
	var missing *store.NotFoundError
	_, err = s.StockNumbered(ctx, "own-3")
	require.ErrorAs(t, err, &missing)
}

func TestUnitsAreOfThePerson(t *testing.T) {
	s := testkit.Store(t)
	require.NoError(t, s.AddAccount(ctx, "Maren", "kelp-and-salt"))
	units, err := s.Units(ctx, "Maren")
	require.NoError(t, err)
	require.Equal(t, "mm", units)
	require.NoError(t, s.ChooseUnits(ctx, "Maren", "in"))
	units, err = s.Units(ctx, "Maren")
	require.NoError(t, err)
	require.Equal(t, "in", units)
	require.Error(t, s.ChooseUnits(ctx, "Maren", "furlongs"))
	require.Error(t, s.ChooseUnits(ctx, "nobody", "mm"))
}
