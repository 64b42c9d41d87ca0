package main

import (
	"bytes"
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"os"
	"strings"
	"text/tabwriter"

	"oddspool/core/design"
	"oddspool/core/proof"
	"oddspool/core/stock"
	"oddspool/core/stock/catalogue"
)

// readJSON reads a file into value and refuses fields that it does not have.
func readJSON(path string, value any) error {
	data, err := os.ReadFile(path)
	if err != nil {
		return err
	}
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(value); err != nil {
		return fmt.Errorf("%s: %w", path, err)
	}
	return nil
}

// fit says whether a printer can print a stock, and a design on it.
func fit(ctx context.Context, c *console, args []string) error {
	var stockPath, printerPath, designPath string
	var asJSON bool
	err := flags(c, "fit", args, func(f *flag.FlagSet) {
		f.StringVar(&stockPath, "stock", "", "stock `FILE`, as oddspool stock -show writes it")
		f.StringVar(&printerPath, "printer", "", "printer `FILE`, as in a design file")
		f.StringVar(&designPath, "design", "", "design `FILE` to look at on that stock and printer")
		f.BoolVar(&asJSON, "json", false, "reasons as JSON")
	})
	if err != nil {
		return err
	}
	if stockPath == "" || printerPath == "" {
		return &usageError{"-stock FILE and -printer FILE are needed"}
	}
	var s stock.Stock
	var p stock.Printer
	if err := readJSON(stockPath, &s); err != nil {
		return err
	}
	if err := readJSON(printerPath, &p); err != nil {
		return err
	}
	reasons := stock.Fit(s, p)
	if designPath != "" && reasons == nil {
		l, err := open(ctx, designPath, "", "")
		if err != nil {
			return err
		}
		if reasons, err = fitDesign(l.design, s, p); err != nil {
			return err
		}
	}
	if asJSON {
		encoder := json.NewEncoder(c.out)
		encoder.SetIndent("", "  ")
		err = encoder.Encode(map[string]any{"fits": reasons == nil, "reasons": append([]stock.Reason{}, reasons...)})
	} else {
		sayReasons(c.out, s, p, reasons)
	}
	if err == nil && reasons != nil {
		return errFound
	}
	return err
}

func sayReasons(w io.Writer, s stock.Stock, p stock.Printer, reasons []stock.Reason) {
	for _, reason := range reasons {
		fmt.Fprintf(w, "%s: %s\n", reason.Field, reason.Text)
	}
	if reasons == nil {
		area := stock.Printable(s, p, stock.Setup{}, 0)
		fmt.Fprintf(w, "%s fits %s: %d × %d dots a piece, %v of it printable across\n", s.Name, p.Name, area.Width,
			area.Height, area.Across(p.Resolution))
	}
}

// fitDesign lays a design's elements, as they are, on another stock and printer and returns what of
// them cannot be printed there.
func fitDesign(d *design.Design, s stock.Stock, p stock.Printer) ([]stock.Reason, error) {
	moved := *d
	moved.Stock, moved.Printer = s, p
	checker, err := proof.NewChecker(&moved, d.UsedFields())
	if err != nil {
		return nil, err
	}
	var reasons []stock.Reason
	for _, f := range checker.Placing() {
		reasons = append(reasons, stock.Reason{Field: "element " + f.Element, Text: f.Text + " " + f.Do})
	}
	return reasons, nil
}

// stockCommand looks things up in the catalogue.
func stockCommand(_ context.Context, c *console, args []string) error {
	var listAll, asJSON bool
	var show, find string
	err := flags(c, "stock", args, func(f *flag.FlagSet) {
		f.BoolVar(&listAll, "list", false, "list the catalogue")
		f.StringVar(&find, "find", "", "list only what matches, such as '76x38' or 'sleeve yellow'")
		f.StringVar(&show, "show", "", "write the stock of a `NUMBER` as JSON")
		f.BoolVar(&asJSON, "json", false, "the list as JSON")
	})
	if err != nil {
		return err
	}
	encoder := json.NewEncoder(c.out)
	encoder.SetIndent("", "  ")
	query := stock.ParseQuery(find)
	found := []stock.Stock{}
	for _, s := range catalogue.All() {
		if show != "" && strings.EqualFold(s.Number, show) {
			return encoder.Encode(s)
		}
		if query.Matches(s) {
			found = append(found, s)
		}
	}
	switch {
	case show != "":
		return &usageError{fmt.Sprintf("there is no stock %q in the catalogue; list it with -list", show)}
	case !listAll && find == "":
		return &usageError{"-list, -find TEXT or -show NUMBER is needed"}
	case asJSON:
		return encoder.Encode(found)
	}
	table := tabwriter.NewWriter(c.out, 0, 8, 2, ' ', 0)
	for _, s := range found {
		fmt.Fprintf(table, "%s\t%s\t%s\t%s\t%s\n", s.Number, s.Name, s.Kind, s.Material, s.Purpose)
	}
	return table.Flush()
}
