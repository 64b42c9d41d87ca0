package press_test

import (
	"fmt"
	"io"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/stock"
	"oddspool/internal/press"
)

// shipping is a label of 100 × 50 mm at 8 dots/mm: a frame, four texts of which two change, a Code 128 of 14 characters
// with its text, a QR Code of 40 characters; with as many records.
func shipping(tb testing.TB, n int) (*design.Design, []string, [][]string) {
	text := func(id string, y measure.Length, says ...design.Piece) design.Element {
		return design.Element{ID: id, Kind: design.Text, X: 4 * mm, Y: y, Width: 60 * mm, Height: 6 * mm, Says: says,
			Text: &design.TextLooks{Typeface: "Liberation Sans", Points: 12}}
	}
	d := &design.Design{Name: "Shipping",
		Printer: stock.Printer{Name: "Dock 2", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832,
			MaxLength: 1000 * mm, Inks: []stock.Ink{"black"}},
		Stock: stock.Stock{Name: "100 × 50", Kind: stock.DieCut, Shape: stock.Rectangle, Width: 100 * mm,
			Length: 50 * mm, Gap: 3 * mm}}
	d.Elements = []design.Element{
		{ID: "frame", Kind: design.Box, X: mm, Y: mm, Width: 98 * mm, Height: 48 * mm, Weight: mm / 2},
		text("plant", 3*mm, design.Piece{Text: "Brinewick Kelp Works"}),
		text("contents", 10*mm, design.Piece{Field: "contents"}),
		text("lot", 17*mm, design.Piece{Text: "Lot "}, design.Piece{Field: "code"}),
		text("dry", 24*mm, design.Piece{Text: "Keep dry"}),
		{ID: "bars", Kind: design.Code, X: 4 * mm, Y: 31 * mm, Width: 90 * mm, Height: 16 * mm,
			Says: []design.Piece{{Field: "code"}},
			Code: &design.CodeLooks{Symbology: "code128", Module: 375, Align: design.Centre, Points: 9}},
		{ID: "qr", Kind: design.Code, X: 70 * mm, Y: 3 * mm, Width: 25 * mm, Height: 25 * mm,
			Says: []design.Piece{{Field: "link"}},
			Code: &design.CodeLooks{Symbology: "qr", Module: 500, Readable: design.None}},
	}
	fields := []string{"contents", "code", "link"}
	records := make([][]string, n)
	for i := range records {
		records[i] = []string{fmt.Sprintf("Sugar kelp, flaked %d", i%97), fmt.Sprintf("952N2026K%05d", i),
			fmt.Sprintf("HTTPS://BRINEWICK.EXAMPLE/BIN/%010d", 1_000_000+i)}
	}
	require.Len(tb, records[0][1], 14)
	require.Len(tb, records[0][2], 40)
	return d, fields, records
}

func BenchmarkFiles(b *testing.B) {
	const labels = 2000
	d, fields, records := shipping(b, labels)
	made, err := press.NewLabels(d, fields)
	require.NoError(b, err)
	each := func(yield func(press.Page, error) bool) {
		for _, record := range records {
			if !yield(press.Page{Record: record}, nil) {
				return
			}
		}
	}
	for _, format := range []string{press.PWG, press.PDF} {
		b.Run(format, func(b *testing.B) {
			for b.Loop() {
				require.NoError(b, press.NewFiles(made).WriteDocument(io.Discard, format, each, labels))
			}
			b.ReportMetric(float64(labels*b.N)/b.Elapsed().Seconds(), "labels/s")
		})
	}
	for _, format := range []string{press.PNG, press.SVG} {
		b.Run(format+" on one core", func(b *testing.B) {
			painter := press.NewFiles(made).Painter()
			for b.Loop() {
				for _, record := range records {
					require.NoError(b, painter.Paint(io.Discard, format, press.Page{Record: record}))
				}
			}
			b.ReportMetric(float64(labels*b.N)/b.Elapsed().Seconds(), "labels/s")
		})
	}
}

func BenchmarkProof(b *testing.B) {
	const labels = 2000
	d, fields, records := shipping(b, labels)
	for b.Loop() {
		report, err := proof.All(b.Context(), d, fields, records)
		require.NoError(b, err)
		require.Equal(b, 2*labels, report.Codes)
	}
	b.ReportMetric(float64(labels*b.N)/b.Elapsed().Seconds(), "labels/s")
}
