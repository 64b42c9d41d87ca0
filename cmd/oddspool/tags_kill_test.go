package main

import (
	"context"
	"encoding/json"
	"math/rand/v2"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/epc"
	"oddspool/core/measure"
	"oddspool/internal/demo"
	"oddspool/internal/store"
	"oddspool/internal/testkit"
	"oddspool/standin"
)

// TestTagsOutliveKills kills servers, the database and the printer while chips are written: each label comes out once
// with its own identifier in a good chip, and every other label that came out is void.
func TestTagsOutliveKills(t *testing.T) {
	seed := seedOf(t)
	ctx := context.Background()
	binary := program(t)
	var crates demo.Device
	for _, d := range demo.Devices() {
		if d.Printer.Name == "Crate line" {
			crates = d
		}
	}
	const labels, first = 60, 1000
	config := standin.Config{Printer: crates.Printer, Stock: crates.Stock, Speed: 2000, Labels: 100_000,
		Folder: t.TempDir()}
	printer, err := standin.Start(config, "")
	require.NoError(t, err)
	m := &matrix{t: t, random: rand.New(rand.NewPCG(seed, 7)), config: config, printer: printer,
		killed: map[string]int{}}
	t.Cleanup(func() { _ = m.printer.Close() })
	m.printer.SetTags(map[int]string{4: standin.DeadTag, 19: standin.WeakTag, 33: standin.LockedTag,
		50: standin.TwoTags})
	address := testkit.Durable(testkit.Address(t))
	m.Store, err = store.Open(ctx, address, 4)
	require.NoError(t, err)
	t.Cleanup(func() { _ = m.Close() })
	m.start = func() *process {
		return startServerOf(t, binary, address,
			[]demo.Reached{{Printer: crates.Printer, Address: m.printer.IPP(), Camera: m.printer.Camera(),
				Encoder: m.printer.Encoder()}})
	}
	for range 2 {
		m.servers = append(m.servers, m.start())
	}
	const mm = measure.Millimetre
	says := []design.Piece{{Text: "(01)09521234543213(21)"}, {Field: "serial"}}
	d := &design.Design{Format: design.Format, Name: "Crates", Stock: crates.Stock, Printer: crates.Printer,
		Fields: []string{"serial"}, Elements: []design.Element{
			{ID: "code", Kind: design.Code, X: 4 * mm, Y: 4 * mm, Width: 20 * mm, Height: 20 * mm, Says: says,
				Code: &design.CodeLooks{Symbology: "gs1-datamatrix", Module: 625}},
			{ID: "tag", Kind: design.Tag, X: 4 * mm, Y: 30 * mm, Width: 90 * mm, Height: 16 * mm, Says: says,
				Tag: &design.TagLooks{Scheme: "sgtin-96", Prefix: 7, Filter: 1}},
		}}
	document, err := json.Marshal(d)
	require.NoError(t, err)
	records, shares := make([][]string, labels), make([]batch.Share, labels)
	for i := range records {
		records[i], shares[i] = []string{strconv.Itoa(first + i)}, batch.Share{Record: i + 1, Copies: 1}
	}
	set, err := m.AddRecordSet(ctx, "crates.csv", d.Fields, records, "Maren")
	require.NoError(t, err)
	printers, err := m.Printers(ctx)
	require.NoError(t, err)
	kept, err := m.AddDesign(ctx, d.Name, document, &set.ID, &printers[0].ID, "Maren")
	require.NoError(t, err)
	revision, err := m.KeepRevision(ctx, kept.ID, "", "Maren")
	require.NoError(t, err)
	run, err := m.PrepareRun(ctx, store.RunPlan{RevisionID: revision.ID, RecordSetID: &set.ID,
		PrinterID: printers[0].ID, HowMany: batch.HowMany{Each: 1}, Plan: batch.NewPlan(shares)}, "Maren")
	require.NoError(t, err)
	print, err := m.StartPrint(ctx, store.Order{Run: run, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	for kills := 0; kills < 4**moments && m.print(print).State != store.PrintDone; kills++ {
		time.Sleep(time.Duration(m.random.IntN(700)) * time.Millisecond)
		what := []string{"server", "database", "printer"}[m.random.IntN(3)]
		m.kill(what)
		m.killed[what]++
		if p := m.print(print); p.State == store.PrintHeld { // a person looks: the web says what came out
			require.NoError(t, m.GoOn(ctx, print, m.lastGood(first)))
		}
	}
	require.Eventually(t, func() bool {
		p := m.print(print)
		if p.State == store.PrintHeld {
			require.NoError(t, m.GoOn(ctx, print, m.lastGood(first)))
		}
		return p.State == store.PrintDone
	}, 2*time.Minute, 50*time.Millisecond)
	good := map[int]int{}
	for _, serial := range m.goodSerials() {
		good[serial]++
	}
	for n := first; n < first+labels; n++ {
		require.Equal(t, 1, good[n], "crate %d", n)
	}
	require.Len(t, good, labels)
	t.Logf("killed %v: %d labels out, %d of them void", m.killed, m.printer.Out(), m.printer.Out()-labels)
}

// goodSerials returns the serial numbers in the chips of labels that are no void ones, in the order in which they came
// out: those whose label says the same.
func (m *matrix) goodSerials() (serials []int) {
	for _, tag := range m.printer.Tags() {
		memory, err := epc.FromHex(tag.EPC)
		require.NoError(m.t, err)
		id, err := epc.Decode(memory)
		if err != nil || id.Scheme != epc.SGTIN96 {
			continue
		}
		n, err := strconv.Atoi(id.Serial)
		require.NoError(m.t, err)
		serials = append(serials, n)
	}
	return serials
}

// lastGood is the last label that came out, as a person sees it on the web; 0: none did.
func (m *matrix) lastGood(first int) int {
	serials := m.goodSerials()
	if len(serials) == 0 {
		return 0
	}
	return serials[len(serials)-1] - first + 1
}
