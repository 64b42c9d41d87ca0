package runner_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/epc"
	"oddspool/core/measure"
	counting "oddspool/core/series"
	"oddspool/core/stock"
	"oddspool/internal/runner"
	"oddspool/internal/sources"
	"oddspool/internal/store"
	"oddspool/standin"
)

// crates is a plant whose labels have the number of their record in chip, code and words.
func crates(t testing.TB, labels int, change func(*design.TagLooks)) *plant {
	looks := &design.TagLooks{Scheme: "sgtin-96", Prefix: 7, Filter: 1,
		User: []design.Piece{{Text: "crate "}, {Field: "serial"}}}
	if change != nil {
		change(looks)
	}
	says := []design.Piece{{Text: "(01)09521234543213(21)"}, {Field: "serial"}}
	d := &design.Design{Format: design.Format, Name: "Crates", Stock: find(t, "98x50 chip"),
		Printer: stock.Printer{Name: "Crate line", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832,
			Inks: []stock.Ink{stock.Black}, Encoder: true},
		Elements: []design.Element{
			{ID: "code", Kind: design.Code, X: 4 * mm, Y: 4 * mm, Width: 20 * mm, Height: 20 * mm, Says: says,
				Code: &design.CodeLooks{Symbology: "gs1-datamatrix", Module: 625}},
			{ID: "tag", Kind: design.Tag, X: 4 * mm, Y: 30 * mm, Width: 90 * mm, Height: 16 * mm, Says: says,
				Tag: looks},
		}}
	require.Empty(t, d.Check())
	table := &sources.Table{Fields: []string{"serial"}}
	for i := range labels {
		table.Records = append(table.Records, []string{fmt.Sprint(417 + i)})
	}
	p := newPlantOf(t, d, table, standin.Config{}, 1)
	printers, err := p.Printers(ctx)
	require.NoError(t, err)
	require.NoError(t, p.SetEncoder(ctx, printers[0].ID, p.printer.Encoder()))
	return p
}

// good returns what the chips of good labels say, as they came off the web, and how many are void.
func (p *plant) good() (serials []string, void int) {
	for _, tag := range p.printer.Tags() {
		memory, err := epc.FromHex(tag.EPC)
		require.NoError(p.t, err)
		id, err := epc.Decode(memory)
		if err != nil || id.Scheme != epc.SGTIN96 {
			void++
			continue
		}
		require.Equal(p.t, "crate "+id.Serial, tag.User)
		serials = append(serials, id.Serial)
	}
	return serials, void
}

func serials(from, to int) (all []string) {
	for n := from; n <= to; n++ {
		all = append(all, fmt.Sprint(n))
	}
	return all
}

// Bad tags are printed over, and their labels made on the next; chip, code and record say one thing.
func TestTagsAreWrittenAndBadOnesVoid(t *testing.T) {
	p := crates(t, 12, nil)
	p.printer.SetTags(map[int]string{2: standin.DeadTag, 5: standin.WeakTag, 6: standin.LockedTag, 9: standin.TwoTags})
	done := p.wait(p.order("all"), is(store.PrintDone))
	require.Equal(t, []int{12, 12, 0, 12, 4}, []int{done.Printed, done.ReadMeant, done.ReadOther, done.TagsWritten,
		done.TagsVoided})
	require.Equal(t, 16, p.printer.Out())
	got, void := p.good()
	require.Equal(t, serials(417, 428), got)
	require.Equal(t, 4, void)
	tags, err := p.TagsOfRun(ctx, p.run, 0, 100)
	require.NoError(t, err)
	require.Len(t, tags, 16)
	why := map[string]int{}
	for _, tag := range tags {
		require.Nil(t, tag.Job)
		why[tag.Outcome+": "+tag.Why]++
	}
	require.Equal(t, map[string]int{"written: ": 12, "void: No tag answers under the head.": 1,
		"void: The tag is too weak to be written.": 1, "void: The memory is locked.": 1,
		"void: More than one tag answers under the head.": 1}, why)

	// A label printed again gets its own identifier again; another label does not get it.
	again := p.wait(p.order("again", 3), is(store.PrintDone))
	require.Equal(t, []int{1, 1}, []int{again.Printed, again.TagsWritten})
	other, err := p.TagElsewhere(ctx, tags[0].EPC, p.run, 1)
	require.NoError(t, err)
	require.Nil(t, other)
	other, err = p.TagElsewhere(ctx, tags[0].EPC, p.run, 2)
	require.NoError(t, err)
	require.Equal(t, 1, other.Label)
}

func TestThreeBadTagsInARowStopTheRun(t *testing.T) {
	p := crates(t, 4, nil)
	p.printer.SetTags(map[int]string{2: standin.DeadTag, 3: standin.DeadTag, 4: standin.DeadTag})
	id := p.order("all")
	held := p.wait(id, is(store.PrintHeld))
	require.Contains(t, held.Note, "3 tags in a row could not be written.")
	require.Equal(t, []int{1, 1}, []int{held.Printed, held.LastOut})
	require.NoError(t, p.GoOn(ctx, id, held.LastOut))
	p.runner.Wake()
	done := p.wait(id, is(store.PrintDone))
	require.Equal(t, []int{4, 4, 3}, []int{done.Printed, done.TagsWritten, done.TagsVoided})
	got, _ := p.good()
	require.Equal(t, serials(417, 420), got)
}

func TestChipsAreLockedAsTheDesignSays(t *testing.T) {
	const open, withPassword, forGood = 0, 1, 2
	for _, test := range []struct {
		change       func(*design.TagLooks)
		access, kill string
		locked       []int
		voided       int // of two labels, where the third chip has its maker's password
	}{
		{func(looks *design.TagLooks) { looks.Lock, looks.Access = design.WithAccess, "0000cafe" }, "0000CAFE", "",
			[]int{open, withPassword, withPassword, open, withPassword}, 0},
		{func(looks *design.TagLooks) {
			looks.Lock, looks.Access, looks.Kill = design.WithAccess, "0000cafe", "00c0ffee"
		}, "0000CAFE", "00C0FFEE", []int{withPassword, withPassword, withPassword, open, withPassword}, 0},
		{func(looks *design.TagLooks) { looks.Lock, looks.Kill = design.ForGood, "00000007" }, "", "00000007",
			[]int{forGood, open, forGood, open, forGood}, 1},
		{func(*design.TagLooks) {}, "", "", []int{open, open, open, open, open}, 1},
	} {
		p := crates(t, 3, test.change)
		p.printer.SetTags(map[int]string{3: standin.PasswordTag})
		done := p.wait(p.order("all"), is(store.PrintDone))
		require.Equal(t, []int{3, test.voided}, []int{done.TagsWritten, done.TagsVoided})
		good, _ := p.good()
		require.Equal(t, serials(417, 419), good)
		for i, tag := range p.printer.Tags()[:2] {
			require.Equal(t, []any{test.access, test.kill, test.locked}, []any{tag.Access, tag.Kill, tag.Locked},
				"chip %d", i+1)
		}
	}
}

// numbered has a run of crates whose numbers are a series', which gives labels whose tag was bad the same or new ones.
func numbered(t testing.TB, labels int, badTag, end string) (p *plant, series int64) {
	p = crates(t, 1, nil)
	counts := counting.Spec{Start: "417", Step: 1, End: end}
	series, err := p.AddSeries(ctx, store.Series{Name: "serial", Counts: store.Kept[counting.Spec]{V: counts},
		Unused: store.VoidUnused, BadTag: badTag, MadeBy: "Maren"}, nil)
	require.NoError(t, err)
	d := *p.design
	d.Series = []design.Numbered{{Name: "serial", Counts: counts}}
	document, err := json.Marshal(&d)
	require.NoError(t, err)
	printers, err := p.Printers(ctx)
	require.NoError(t, err)
	kept, err := p.AddDesign(ctx, "Numbered crates", document, nil, &printers[0].ID, "Maren")
	require.NoError(t, err)
	revision, err := p.KeepRevision(ctx, kept.ID, "", "Maren")
	require.NoError(t, err)
	plan := batch.NewPlan([]batch.Share{{Record: 1, Copies: labels}})
	p.run, err = p.PrepareRun(ctx, store.RunPlan{RevisionID: revision.ID, PrinterID: printers[0].ID, Plan: plan,
		Numbers: []store.Demand{{Series: "serial", Spans: plan.Spans(0, nil, func(int) string { return "" })}}},
		"Maren")
	require.NoError(t, err)
	return p, series
}

// A label whose tag was bad is made again with its number, or with the next, as the series says; each number is
// accounted for.
func TestALabelWhoseTagWasBadHasTheNumberThatItsSeriesSays(t *testing.T) {
	for badTag, want := range map[string]struct {
		serials []string
		account store.Account
	}{
		store.SameNumber: {serials(417, 421), store.Account{Taken: 5, Printed: 5}},
		store.NewNumber:  {[]string{"417", "422", "419", "424", "421"}, store.Account{Taken: 8, Printed: 5, Voided: 3}},
	} {
		p, series := numbered(t, 5, badTag, "")
		p.printer.SetTags(map[int]string{2: standin.WeakTag, 5: standin.DeadTag, 6: standin.LockedTag})
		done := p.wait(p.order("all"), is(store.PrintDone))
		require.Equal(t, []int{5, 5, 0, 3}, []int{done.TagsWritten, done.ReadMeant, done.ReadOther, done.TagsVoided},
			badTag)
		got, void := p.good()
		require.Equal(t, want.serials, got, badTag)
		require.Equal(t, 3, void)
		accounts, err := p.Accounts(ctx, &series)
		require.NoError(t, err)
		require.Len(t, accounts, 1)
		want.account.SeriesID = series
		require.Equal(t, want.account, accounts[0], badTag)
	}
	// A series that has no more holds the print, with the label not made.
	p, _ := numbered(t, 2, store.NewNumber, "418")
	p.printer.SetTags(map[int]string{2: standin.DeadTag})
	held := p.wait(p.order("all"), is(store.PrintHeld))
	require.Contains(t, held.Note, "Label 2 is to have another number, since its tag was bad.")
	require.Equal(t, []int{1, 2}, []int{held.Printed, p.printer.Out()})
}

// An identifier that is in another label's chip is said before a tag is spoiled.
func TestAnIdentifierIsWrittenOnce(t *testing.T) {
	p := crates(t, 2, nil)
	p.wait(p.order("all"), is(store.PrintDone))
	r, err := p.Run(ctx, p.run)
	require.NoError(t, err)
	p.run, err = p.PrepareRun(ctx, store.RunPlan{RevisionID: r.RevisionID, RecordSetID: r.RecordSetID,
		PrinterID: r.PrinterID, Plan: onePlan()}, "Maren")
	require.NoError(t, err)
	held := p.wait(p.order("all"), is(store.PrintHeld))
	require.Contains(t, held.Note,
		"urn:epc:tag:sgtin-96:1.9521234.054321.417 is in the chip of label 1 of run 1 already.")
	require.Equal(t, 2, p.printer.Out())
}

// The server goes, and another goes on: no label is lost, none is written twice.
func TestTagsAfterARestart(t *testing.T) {
	p := crates(t, 40, nil)
	p.printer.SetSpeed(400)
	p.printer.SetTags(map[int]string{4: standin.DeadTag, 17: standin.WeakTag, 30: standin.LockedTag})
	id := p.order("all")
	for _, out := range []int{3, 11, 16, 29} {
		p.wait(id, func(print store.Print) bool { return p.printer.Out() >= out })
		p.stop()
		p.start()
	}
	done := p.wait(id, is(store.PrintDone))
	require.Equal(t, []int{40, 40, 0}, []int{done.Printed, done.ReadMeant, done.ReadOther})
	got, _ := p.good()
	require.Equal(t, serials(417, 456), got)
}

func TestAddressesOfEncoders(t *testing.T) {
	for address, want := range map[string]string{"llrp://192.0.2.7": "192.0.2.7:5084",
		"llrp://192.0.2.7:6000/": "192.0.2.7:6000", "llrp://[2001:db8::7]:5084": "[2001:db8::7]:5084"} {
		got, err := runner.EncoderAt(address)
		require.NoError(t, err)
		require.Equal(t, want, got)
	}
	for _, address := range []string{"", "http://192.0.2.7", "llrp://", "llrp://192.0.2.7:0", "llrp://192.0.2.7:x"} {
		_, err := runner.EncoderAt(address)
		require.Error(t, err, address)
	}
}

func onePlan() *batch.Plan { return batch.NewPlan([]batch.Share{{Record: 1, Copies: 1}}) }

// A tag that was locked for good before the work was broken off is a good one, not one to be voided.
func TestATagLockedBeforeABreakIsGoodOnItsReturn(t *testing.T) {
	p := crates(t, 1, func(looks *design.TagLooks) { looks.Lock = design.ForGood })
	p.wait(p.order("all"), is(store.PrintDone))
	require.NoError(t, p.printer.PutUnderHead(1)) // as if it had not come out
	done := p.wait(p.order("again", 1), is(store.PrintDone))
	require.Equal(t, []int{1, 0}, []int{done.TagsWritten, done.TagsVoided})
}
