// Package demo fills an empty database with Brinewick Kelp Works, the made-up plant of the
// demonstration.
package demo

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/core/stock/catalogue"
	"oddspool/examples"
	"oddspool/internal/sources"
	"oddspool/internal/store"
)

// The account of the demonstration, which the sign-in page tells.
const (
	Name     = "Maren"
	Password = "kelp-and-salt"
)

// Printer is the label printer on dock 2.
func Printer() stock.Printer {
	return stock.Printer{Name: "Dock 2", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832, MaxLength: 1000 * measure.Millimetre, Inks: []stock.Ink{stock.Black}, Speed: 152}
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
	for _, roll := range catalogue.All() {
		var taken *store.NumberTakenError // by a seeding that was interrupted
		if _, err := s.AddStock(ctx, roll); err != nil && !errors.As(err, &taken) {
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
