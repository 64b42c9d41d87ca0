package store_test

import (
	"context"
	"encoding/base64"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"oddspool/core/refusal"

	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/require"
	"golang.org/x/crypto/argon2"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/store"
	"oddspool/internal/testkit"
)

func TestMain(m *testing.M) { testkit.Main(m) }

var ctx = context.Background()

// plant fills a database with a printer, a design kept once, and records.
func plant(t testing.TB, s *store.Store, records int) store.RunPlan {
	printer, err := s.PutPrinter(ctx, stock.Printer{Name: "Dock 2", Resolution: measure.DotsPerMillimetre(8),
		HeadDots: 832}, "ipp://127.0.0.1:9/ipp/print", "")
	require.NoError(t, err)
	rows := make([][]string, records)
	for i := range rows {
		rows[i] = []string{fmt.Sprintf("N-%03d", i+1), "00" + fmt.Sprint(i)}
	}
	set, err := s.AddRecordSet(ctx, "bins.csv", []string{"bin", "serial"}, rows, "Maren")
	require.NoError(t, err)
	d, err := s.AddDesign(ctx, "Bin label", []byte(`{"name": "Bin label"}`), &set.ID, &printer, "Maren")
	require.NoError(t, err)
	revision, err := s.KeepRevision(ctx, d.ID, "", "Maren")
	require.NoError(t, err)
	var shares []batch.Share
	for i := range records {
		shares = append(shares, batch.Share{Record: i + 1, Copies: 2})
	}
	return store.RunPlan{RevisionID: revision.ID, RecordSetID: &set.ID, PrinterID: printer,
		HowMany: batch.HowMany{Each: 2}, Plan: batch.NewPlan(shares)}
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
	require.Equal(t, []any{plan.PrinterID, 3, 1, 1, 1}, []any{p.PrinterID, p.Settled, p.FirstLabel, p.ReadMeant,
		p.ReadOther})
	r, err := s.Run(ctx, run)
	require.NoError(t, err)
	require.Equal(t, []int{3, 5}, []int{r.Printed, r.Chosen})
	l = take(t, s, "two")
	require.NoError(t, s.SettleSlice(ctx, l, &slices[0], 5, false))
}

func TestAccounts(t *testing.T) {
	s := testkit.Store(t)
	require.NoError(t, s.AddAccount(ctx, " Maren ", "drying rack 3"))
	first, err := s.SignIn(ctx, "Maren", "drying rack 3", store.Caller{Address: "192.0.2.1", Agent: "a\x00\xffb"})
	require.NoError(t, err)
	for name, password := range map[string]string{"Maren": "drying Rack 3", "Ines": "drying rack 3", "": ""} {
		_, err = s.SignIn(ctx, name, password, store.Caller{Address: "192.0.2.1", Agent: "a\x00\xffb"})
		require.ErrorIs(t, err, store.ErrSignIn, name)
	}
	require.NoError(t, s.AddAccount(ctx, "Maren", "a salt shed in fog"))
	second, err := s.SignIn(ctx, "Maren", "a salt shed in fog", store.Caller{Address: "192.0.2.1", Agent: "a\x00\xffb"})
	require.NoError(t, err)
	open := func(session int64) bool {
		is, err := s.SessionOpen(ctx, session)
		require.NoError(t, err)
		return is
	}
	require.False(t, open(first), "a new password ends the sessions there are")
	require.True(t, open(second))
	sessions, err := s.Sessions(ctx, "Maren", time.Hour, time.Hour)
	require.NoError(t, err)
	require.Len(t, sessions, 1)
	require.Equal(t, "ab", sessions[0].Agent)
	var hash string
	require.NoError(t, s.DB.Get(&hash, `select password_hash from accounts`))
	require.NotContains(t, hash, "salt")
	require.NoError(t, s.AddAccount(ctx, "Ines", "fog over the harbour"))
	earlier := base64.RawStdEncoding.EncodeToString(argon2.IDKey([]byte("drying racks"), []byte("sea"), 3, 64<<10, 4,
		32))
	_, err = s.DB.Exec(`update accounts set password_hash = $1
			where name = 'Ines'`, base64.RawStdEncoding.EncodeToString([]byte("sea"))+"$"+earlier)
	require.NoError(t, err)
	_, err = s.SignIn(ctx, "Ines", "drying racks", store.Caller{Address: "192.0.2.1", Agent: "a\x00\xffb"})
	require.NoError(t, err, "a password that was kept at an earlier cost")
	require.NoError(t, s.CloseAccount(ctx, "Maren"))
	require.False(t, open(second))
	_, err = s.SignIn(ctx, "Maren", "a salt shed in fog", store.Caller{Address: "192.0.2.1", Agent: "a\x00\xffb"})
	require.ErrorIs(t, err, store.ErrSignIn)
	require.Error(t, s.CloseAccount(ctx, "Maren"))

	var why *refusal.Error
	for _, password := range []string{"", "short", "elevenlette", "            ", "password1234", "Password!2026",
		"1234567890123", "qwertyuiop12", "aaaaaaaaaaaaaaa", "Maren-123456", strings.Repeat("word ", 50)} {
		require.ErrorAs(t, s.AddAccount(ctx, "Maren", password), &why, password)
	}
	for _, name := range []string{"", "  ", "a\x00b", strings.Repeat("n", 101)} {
		require.ErrorAs(t, s.AddAccount(ctx, name, "a salt shed in fog"), &why, name)
	}
}

func TestRecordsStayText(t *testing.T) {
	s := testkit.Store(t)
	values := []string{"00417", "12345678901234567890", "3/4", "", `"ø"`}
	set, err := s.AddRecordSet(ctx, "odd.csv", []string{"a", "b", "c", "d", "e"},
		[][]string{values, {"1", "2", "3", "4", "5"}}, "Maren")
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

	first, err := s.KeepRevision(ctx, d.ID, "", "Ines")
	require.NoError(t, err)
	same, err := s.KeepRevision(ctx, d.ID, "", "Maren")
	require.NoError(t, err)
	require.Equal(t, first, same, "an unchanged draft is no new version")
	_, err = s.SaveDesign(ctx, d.ID, saved.Edit, "Bin label", []byte(`{"a": 4}`), nil, nil, "Maren")
	require.NoError(t, err)
	second, err := s.KeepRevision(ctx, d.ID, "", "Maren")
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
	require.NoError(t, s.ChangeRun(ctx, id, plan, "Maren"))
	changed, err := s.Run(ctx, id)
	require.NoError(t, err)
	require.Equal(t, 3, changed.LabelCount)
	require.Nil(t, changed.Proof, "another choice needs another proof")
	require.NoError(t, s.KeepProof(ctx, &run, []byte(`{}`)), "a proof of the old choice comes late")
	changed, err = s.Run(ctx, id)
	require.NoError(t, err)
	require.Nil(t, changed.Proof)
	labels, err := s.RunLabels(ctx, &changed, &design.Design{}, "Maren", 1, 3, false)
	require.NoError(t, err)
	require.Equal(t, []store.RunLabel{{Label: 3, Record: 2, Values: []string{"N-002", "001", "3", "3", "Dock 2",
		"Maren", "3", "1", "3"}, First: 1}}, labels, "the last of each record")

	_, err = s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	require.ErrorIs(t, s.ChangeRun(ctx, id, plan, "Maren"), store.ErrRunBusy)
	runs, err := s.Runs(ctx, store.RunsWanted{Most: 10})
	require.NoError(t, err)
	require.Equal(t, "printing", string(runs[0].State))
	require.Equal(t, 2, changed.HowMany.V.Each)

	// Once it is over, printer and set-up may still be changed, and nothing else.
	settle(t, s, 3)
	other, err := s.AddPrinter(ctx, stock.Printer{Name: "Dock 3", Resolution: measure.DotsPerMillimetre(8),
		HeadDots: 832}, "", "")
	require.NoError(t, err)
	plan.PrinterID = other
	require.NoError(t, s.ChangeRun(ctx, id, plan, "Maren"))
	changed, err = s.Run(ctx, id)
	require.NoError(t, err)
	require.Equal(t, []any{other, 3, 3}, []any{changed.PrinterID, changed.LabelCount, changed.Printed})
	plan.Records = "3"
	require.ErrorIs(t, s.ChangeRun(ctx, id, plan, "Maren"), store.ErrRunStarted)
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
	require.Equal(t, []int{1, 200_000}, []int{p.FirstLabel, p.LastLabel})
	slice, err := s.Slice(ctx, print, &design.Design{}, nil, 7999, 8000) // the later ones are listed when they are near
	require.NoError(t, err)
	require.Equal(t, "N-4000", slice[1][0])
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
	does := kept.About.V
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
	does := p.About.V
	require.ErrorIs(t, s.ChangePrinter(ctx, p.ID, does, "ipp://127.0.0.1:10/ipp/print", ""), store.ErrPrinterBusy,
		"it would be asked about jobs of another")
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
	is := kept.About.V
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
	with := p.Setup.V
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
		_, err := s.AddStock(ctx, stock.Stock{Number: number, Name: number, Kind: stock.DieCut, Shape: stock.Rectangle,
			Width: 40_000, Length: 20_000})
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

func TestDesignsAreFoundTaggedRetiredAndBroughtBack(t *testing.T) {
	s := testkit.Store(t)
	ctx := t.Context()
	add := func(name, document string) int64 {
		d, err := s.AddDesign(ctx, name, []byte(document), nil, nil, "Maren")
		require.NoError(t, err)
		return d.ID
	}
	tote := add("Tote label", `{"name": "Tote label", "stock": {"name": "102 × 51 paper"}, "fields": ["lot"], "elements": [{"says": [{"text": "Keep 100 % dry"}, {"field": "lot"}]}]}`)
	rack := add("Rack sign", `{"name": "Rack sign", "stock": {"name": "76 × 38 paper"}, "elements": []}`)
	found := func(find string, retired bool) (ids []int64) {
		designs, err := s.Designs(ctx, find, retired)
		require.NoError(t, err)
		for _, d := range designs {
			ids = append(ids, d.ID)
		}
		return ids
	}
	require.Equal(t, []int64{rack, tote}, found("", false))
	for find, want := range map[string][]int64{"TOTE": {tote}, "paper 76": {rack}, "dry": {tote}, "lot": {tote},
		"100 %": {tote}, "%": {tote}, "_": nil, "kelp": nil} {
		require.Equal(t, want, found(find, false), find)
	}
	require.NoError(t, s.LabelDesign(ctx, rack, nil, []string{"drying hall"}, "Ines"))
	require.Equal(t, []int64{rack}, found("drying", false))
	require.NoError(t, s.LabelDesign(ctx, rack, new("Rack sign, north"), nil, "Ines"))
	d, err := s.Design(ctx, rack)
	require.NoError(t, err)
	require.Equal(t, []string{"drying hall"}, []string(d.Tags))
	require.Contains(t, string(d.Document), "Rack sign, north")
	require.Equal(t, int64(2), d.Edit, "an open page learns of another name")

	require.NoError(t, s.RetireDesign(ctx, rack))
	require.Equal(t, []int64{tote}, found("", false))
	require.Equal(t, []int64{rack}, found("", true))
	require.NoError(t, s.ReturnDesign(ctx, rack))
	require.Error(t, s.ReturnDesign(ctx, rack))
	require.Len(t, found("", false), 2)
}

func TestWhoHasADesignOpenIsKnown(t *testing.T) {
	s := testkit.Store(t)
	ctx := t.Context()
	d, err := s.AddDesign(ctx, "Tote label", []byte(`{}`), nil, nil, "Maren")
	require.NoError(t, err)
	here := func(page, name string, leaves bool) []string {
		others, err := s.AtBench(ctx, d.ID, page, name, leaves)
		require.NoError(t, err)
		return others
	}
	require.Empty(t, here("page of Maren", "Maren", false))
	require.Equal(t, []string{"Maren"}, here("page of Ines", "Ines", false))
	require.Equal(t, []string{"Ines"}, here("page of Maren", "Maren", false))
	_, err = s.DB.ExecContext(ctx, `update at_bench set seen_at = now() - interval '16 seconds' where name = 'Ines'`)
	require.NoError(t, err)
	require.Empty(t, here("page of Maren", "Maren", false), "a page that died")
	require.Equal(t, []string{"Maren"}, here("page of Ines", "Ines", false))
	here("page of Ines", "Ines", true)
	require.Empty(t, here("page of Maren", "Maren", false))
	_, err = s.AtBench(ctx, 99, "page of Maren", "Maren", false)
	require.Error(t, err)
}

func TestTheNextRecordWithSomeWordsIsFound(t *testing.T) {
	s := testkit.Store(t)
	ctx := t.Context()
	set, err := s.AddRecordSet(ctx, "bins", []string{"bin", "contents"},
		[][]string{{"A-1", "Dulse, 100 %"}, {"A-2", "Kelp meal"}, {"A-3", "Dulse"}}, "Maren")
	require.NoError(t, err)
	for _, test := range []struct {
		words       string
		after, want int
	}{{"dulse", 0, 1}, {"dulse", 1, 3}, {"dulse", 3, 1}, {"a-3 DULSE", 0, 3}, {"%", 0, 1}, {"_", 0, 0}, {"wrack", 0, 0},
		{"kelp", 2, 2}} {
		got, err := s.NextRecord(ctx, set.ID, test.words, test.after)
		require.NoError(t, err)
		require.Equal(t, test.want, got, test.words)
	}
}

func TestNoMoreIsKeptThanThereIsRoomFor(t *testing.T) {
	s := testkit.Store(t)
	ctx := t.Context()
	_, err := s.DB.ExecContext(ctx, `insert into parts (name, elements, updated_by) select 'part ' || n, '[]', 'Maren'
			from generate_series(1, 2000) n`)
	require.NoError(t, err)
	_, err = s.AddPart(ctx, "one more", []map[string]any{}, "Maren")
	require.ErrorContains(t, err, "There are 2000 shared parts already")
	require.NoError(t, s.RetirePart(ctx, 7))
	_, err = s.AddPart(ctx, "one more", []map[string]any{}, "Maren")
	require.NoError(t, err)
}

// A program that is older than its database does not touch it.
func TestAnOlderProgramRefuses(t *testing.T) {
	s := testkit.Store(t)
	_, err := s.DB.Exec(`insert into goose_db_version (version_id, is_applied) select max(version_id) + 1, true
			from goose_db_version`)
	require.NoError(t, err)
	var newer *store.NewerError
	require.ErrorAs(t, s.Migrate(ctx), &newer)
	require.Equal(t, newer.Knows+1, newer.Has)
}

// A full disk is told as that, and not as a database that is away.
func TestAFullDiskIsKnown(t *testing.T) {
	s := testkit.Store(t)
	_, err := s.DB.Exec(`do $$ begin raise exception 'could not extend file' using errcode = 'disk_full'; end $$`)
	require.True(t, store.IsFull(err))
	require.False(t, store.IsUnreachable(err))
	require.True(t, store.IsFull(&fs.PathError{Op: "write", Err: syscall.ENOSPC}))
	require.False(t, store.IsFull(errors.New("kelp")))
}
