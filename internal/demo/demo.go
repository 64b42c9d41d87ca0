// Package demo fills an empty database with Brinewick Kelp Works, the made-up plant of the
// demonstration.
package demo

import (
	"context"
	"encoding/json"
	"fmt"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/examples"
	"oddspool/internal/sources"
	"oddspool/internal/store"
)

// The account of the demonstration, which the sign-in page tells.
const (
	Name     = "Maren"
	Password = "kelp-and-salt"
)

const mm = measure.Millimetre

// Stocks are the rolls in the plant's stockroom.
func Stocks() []stock.Stock {
	return []stock.Stock{
		{Number: "S-076", Name: "76 × 38 paper, gap 3", Kind: stock.DieCut, Material: "paper, thermal transfer", Shape: stock.Rounded,
			CornerRadius: 2 * mm, Width: 76 * mm, Length: 38 * mm, Gap: 3 * mm, EdgeLeft: 2 * mm, EdgeRight: 2 * mm, PerRoll: 2000},
		{Number: "S-102", Name: "102 × 51 paper, gap 3", Kind: stock.DieCut, Material: "paper, direct thermal", Shape: stock.Rounded,
			CornerRadius: 3 * mm, Width: 102 * mm, Length: 51 * mm, Gap: 3 * mm, EdgeLeft: 2 * mm, EdgeRight: 2 * mm, PerRoll: 1400},
		{Number: "S-050", Name: "50 × 25 polyester, gap 2", Kind: stock.DieCut, Material: "polyester, matt white", Shape: stock.Rectangle,
			Width: 50 * mm, Length: 25 * mm, Gap: 2 * mm, EdgeLeft: 1500, EdgeRight: 1500, PerRoll: 3000},
	}
}

// Printer is the label printer on dock 2.
func Printer() stock.Printer {
	return stock.Printer{Name: "Dock 2", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832, MaxLength: 1000 * mm, Inks: []stock.Ink{stock.Black}, Speed: 152}
}

// Seed fills a database that has no account yet; one that has is left as it is.
func Seed(ctx context.Context, s *store.Store, printerAddress, camera string) error {
	// The printer's address may change from start to start; all else is seeded once.
	printer, err := s.PutPrinter(ctx, Printer(), printerAddress, camera)
	if err != nil {
		return err
	}
	var accounts int
	if err := s.DB.GetContext(ctx, &accounts, `select count(*) from accounts`); err != nil {
		return fmt.Errorf("count accounts: %w", err)
	}
	if accounts > 0 {
		return nil
	}
	for _, roll := range Stocks() {
		if _, err := s.PutStock(ctx, roll); err != nil {
			return err
		}
	}
	racks, err := addRecords(ctx, s, "racks.csv")
	if err != nil {
		return err
	}
	bins, err := addRecords(ctx, s, "bins.csv")
	if err != nil {
		return err
	}
	for _, made := range []struct {
		name string
		set  store.RecordSet
	}{{"Rack label, drying hall", racks}, {"Bin label, north shed", bins}} {
		if err := addDesign(ctx, s, made.name, made.set, printer); err != nil {
			return err
		}
	}
	return s.AddAccount(ctx, Name, Password) // last: a seeding that was interrupted is done again
}

func addRecords(ctx context.Context, s *store.Store, file string) (store.RecordSet, error) {
	data, err := examples.Files.ReadFile(file)
	if err != nil {
		return store.RecordSet{}, fmt.Errorf("demo records: %w", err)
	}
	table, err := sources.ReadText(data, sources.Settings{})
	if err != nil {
		return store.RecordSet{}, fmt.Errorf("demo records %s: %w", file, err)
	}
	return s.AddRecordSet(ctx, file, table.Fields, table.Records, Name)
}

func addDesign(ctx context.Context, s *store.Store, name string, set store.RecordSet, printer int64) error {
	data, err := examples.Files.ReadFile("bin-label.json")
	if err != nil {
		return fmt.Errorf("demo design: %w", err)
	}
	d, err := design.Parse(data)
	if err != nil {
		return fmt.Errorf("demo design: %w", err)
	}
	d.Name = name
	document, err := json.Marshal(d)
	if err != nil {
		return fmt.Errorf("write design: %w", err)
	}
	_, err = s.AddDesign(ctx, name, document, &set.ID, &printer, Name)
	return err
}
