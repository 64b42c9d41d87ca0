// Package demo fills an empty database with Brinewick Kelp Works, the made-up plant of the
// demonstration.
package demo

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"oddspool/core/refusal"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/series"
	"oddspool/core/stock"
	"oddspool/core/stock/catalogue"
	_ "oddspool/core/typefaces" // the program's own
	"oddspool/examples"
	"oddspool/internal/secrets"
	"oddspool/internal/sources"
	"oddspool/internal/store"
)

// The account of the demonstration, which the sign-in page tells.
const (
	Name     = "Maren"
	Password = "kelp-and-salt"
)

// A Device is a stand-in printer of the plant: what it is, what is loaded, and how many pieces are
// left; 0 is as many as a full load has.
type Device struct {
	Printer stock.Printer
	Stock   stock.Stock
	Left    int
}

// A Reached is a printer with where it is reached.
type Reached struct {
	Printer stock.Printer `json:"printer"`
	Address string        `json:"address"`
	Camera  string        `json:"camera"`
	Encoder string        `json:"encoder,omitempty"` // that writes its tags
}

// Devices are the printers on the floor, each with powers of its own.
func Devices() []Device {
	black := []stock.Ink{stock.Black}
	loaded := func(find string) stock.Stock {
		query := stock.ParseQuery(find)
		for _, s := range catalogue.All() {
			if query.Matches(s) {
				return s
			}
		}
		panic("the catalogue has no " + find) // TestDevicesTakeWhatIsLoaded guards it
	}
	return []Device{
		{stock.Printer{Name: "Dock 2", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832,
			MaxLength: 1000 * measure.Millimetre, Inks: black, Ribbon: 300,
			Speed: 152, SlowSpeed: 25, Peeler: true}, loaded("76x38"), 1739},
		{stock.Printer{Name: "Packing 1", Resolution: measure.DotsPerMillimetre(12), HeadDots: 1248,
			Sensors: []stock.Tracking{stock.Gap, stock.Mark, stock.Notch},
			Heats:   []stock.Ink{stock.Red}, Speed: 203, SlowSpeed: 50, Cutter: true}, loaded("102x51 direct thermal"),
			96},
		{stock.Printer{Name: "Shelf cart", Resolution: measure.DotsPerMillimetre(8), HeadDots: 864, Inks: black,
			Speed: 127, SlowSpeed: 25},
			loaded("50x25 lanes"), 2190},
		{stock.Printer{Name: "Lab bench", Resolution: measure.DotsPerMillimetre(24), HeadDots: 1344, Inks: black,
			Speed: 102, SlowSpeed: 25, Encoder: true},
			loaded("25x13 polyester"), 4450},
		{stock.Printer{Name: "Sign bench", Resolution: measure.DotsPerMillimetre(12), HeadDots: 1248,
			Takes: []stock.Kind{stock.Tape}, MostWeb: 104 * measure.Millimetre,
			Sensors: []stock.Tracking{stock.Continuous}, Inks: []stock.Ink{stock.Black, stock.Red}, Speed: 40,
			SlowSpeed: 10, Cutter: true}, loaded("101mm yellow tape"), 0},
		{stock.Printer{Name: "Cable bench", Resolution: measure.DotsPerMillimetre(12), HeadDots: 672,
			Takes:   []stock.Kind{stock.Sleeve, stock.Wrap, stock.Flag, stock.Tape},
			MostWeb: 60 * measure.Millimetre, Inks: black, Speed: 76, SlowSpeed: 25, Cutter: true},
			loaded("sleeve white 6.4mm"), 210},
		{stock.Printer{Name: "Drawer cart", Resolution: measure.DotsPerMillimetre(8), HeadDots: 192,
			Takes: []stock.Kind{stock.Tape}, LeastWeb: 6 * measure.Millimetre,
			MostWeb: 24 * measure.Millimetre, Sensors: []stock.Tracking{stock.Continuous}, Inks: black, Speed: 20,
			SlowSpeed: 10, Cutter: true},
			loaded("12mm white tape"), 0},
		{stock.Printer{Name: "Drum store", Resolution: measure.DotsPerMillimetre(12), HeadDots: 2640,
			Takes: []stock.Kind{stock.DieCut, stock.Sheet}, MostWeb: 220 * measure.Millimetre,
			Sensors: []stock.Tracking{stock.Gap, stock.Mark}, Inks: []stock.Ink{stock.Full}, Speed: 100, SlowSpeed: 40},
			loaded("105x148 polypropylene"), 320},
		{stock.Printer{Name: "Plate bench", Resolution: measure.DotsPerMillimetre(10), HeadDots: 2000,
			Takes: []stock.Kind{stock.Plate}, MostWeb: 200 * measure.Millimetre,
			Speed: 30, Vector: true}, loaded("S-146"), 40},
		{stock.Printer{Name: "Crate line", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832, Inks: black,
			Speed: 102, SlowSpeed: 25, Encoder: true},
			loaded("98x50 chip"), 900},
	}
}

// Seed fills a database that has no account yet; one that has is left as it is, but for where its printers and the
// plant's own systems are reached, which may change from start to start. Without a box there are no connections to
// those.
func Seed(ctx context.Context, s *store.Store, plant Plant, box *secrets.Box) error {
	for _, p := range plant.Printers {
		id, err := s.PutPrinter(ctx, p.Printer, p.Address, p.Camera)
		if err != nil {
			return err
		}
		if err := s.SetEncoder(ctx, id, p.Encoder); err != nil {
			return err
		}
	}
	if err := connect(ctx, s, plant, box); err != nil {
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
	circuits, err := addRecords(ctx, s, "circuits.csv")
	if err != nil {
		return err
	}
	pallets, err := addRecords(ctx, s, "pallets.csv")
	if err != nil {
		return err
	}
	for _, made := range []struct {
		name, file string
		set        store.RecordSet
	}{
		{"Rack label, drying hall", "bin-label.json", racks}, {"Bin label, north shed", "bin-label.json", bins},
		{"Drawer tape", "drawer-tape.json", circuits}, {"Circuit sleeve", "circuit-sleeve.json", circuits},
		{"Hose wrap", "hose-wrap.json", circuits},
		{"Cable flag", "cable-flag.json", circuits}, {"Valve plate", "valve-plate.json", circuits},
		{"Stairs sign", "stairs-sign.json", circuits},
		{"Drum label", "drum-label.json", circuits}, {"Pallet label", "pallet-label.json", pallets},
	} {
		if err := addDesign(ctx, s, made.name, made.file, &made.set.ID); err != nil {
			return err
		}
	}
	if err := addSeries(ctx, s); err != nil {
		return err
	}
	if err := addDesign(ctx, s, "Crate label", "crate-label.json", nil); err != nil {
		return err
	}
	if err := addDesign(ctx, s, "Crate label with chip", "crate-chip.json", nil); err != nil {
		return err
	}
	if err := addDayOrder(ctx, s, "Bins of the morning", "Bin label, north shed", bins.Name,
		`{"records": "1-24", "howMany": {"each": 1}, "printerId": 0}`); err != nil {
		return err
	}
	return s.AddAccount(ctx, Name, Password) // last: a seeding that was interrupted is done again
}

// addDayOrder keeps an order of the day for a design, whose printer is found by its name.
func addDayOrder(ctx context.Context, s *store.Store, name, of, set, choice string) error {
	var id int64
	if err := s.DB.GetContext(ctx, &id, `select min(id) from designs where name = $1`, of); err != nil {
		return fmt.Errorf("look for the design %q: %w", of, err)
	}
	_, err := s.KeepDayOrder(ctx, store.DayOrder{Name: name, DesignID: id, SetName: set, Choice: []byte(choice),
		KeptBy: Name})
	return err
}

func addRecords(ctx context.Context, s *store.Store, file string) (store.RecordSet, error) {
	data, err := examples.Files.ReadFile(file)
	if err != nil {
		return store.RecordSet{}, fmt.Errorf("demo records: %w", err)
	}
	table, err := sources.Read(data, sources.Settings{})
	if err != nil {
		return store.RecordSet{}, fmt.Errorf("demo records %s: %w", file, err)
	}
	return s.AddRecordSet(ctx, file, table.Fields, table.Records, Name)
}

// addSeries makes the number series of the plant: crates that come back, and logistic units with the prefix that GS1
// keeps for demonstrations.
func addSeries(ctx context.Context, s *store.Store) error {
	for name, made := range map[string]struct {
		counts series.Spec
		unused string
	}{
		"crates": {series.Spec{Start: "0001", Step: 1, Width: 4, Prefix: "KW-", Check: "luhn"},
			store.ReturnUnused},
		"crate chips": {series.Spec{Start: "417", Step: 1}, store.VoidUnused},
		"pallet SSCCs": {series.Spec{Start: "0", Step: 1, Width: 9, Prefix: "09521234", Check: "gs1"},
			store.VoidUnused},
	} {
		var taken *refusal.Error // by a seeding that was interrupted
		if _, err := s.AddSeries(ctx, store.Series{Name: name, Counts: store.Kept[series.Spec]{V: made.counts},
			Unused: made.unused, MadeBy: Name}, nil); err != nil && !errors.As(err, &taken) {
			return err
		}
	}
	return nil
}

func addDesign(ctx context.Context, s *store.Store, name, file string, set *int64) error {
	data, err := examples.Files.ReadFile(file)
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
	_, err = s.AddDesign(ctx, name, document, set, nil, Name) // the printer is found by its name
	return err
}
