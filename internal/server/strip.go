package server

import (
	"bytes"
	"context"
	"encoding/base64"
	"errors"
	"fmt"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/errgroup"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/render"
	"oddspool/core/stock"
	"oddspool/core/symbology"
	"oddspool/internal/api"
	"oddspool/internal/store"
)

// DrawStrip implements api.StrictServerInterface.
func (s *Server) DrawStrip(ctx context.Context, req api.DrawStripRequestObject) (api.DrawStripResponseObject, error) {
	d, err := design.Parse(req.Body.Document)
	if err != nil {
		return nil, err
	}
	set, numbers, records, err := s.chosen(ctx, req.Body.RecordSetId, req.Body.Records)
	if err != nil {
		return nil, err
	}
	drawer, err := newDrawer(d, set.Fields)
	if err != nil {
		return nil, err
	}
	strip := api.Strip{Inks: []api.Ink{}, MostLegends: d.Stock.MostLegends(), Total: set.Count, Fields: []api.FieldValue{}, Labels: []api.StripLabel{}}
	strip.Width, strip.Height = drawer.width, drawer.height
	for _, ink := range stock.Inks(d.Stock, d.Printer) {
		if ink == stock.Full {
			strip.Mixes, ink = true, stock.Black
		}
		strip.Inks = append(strip.Inks, api.Ink{Name: string(ink), Colour: d.Stock.InkColour(ink)})
	}
	if set.ID == 0 {
		strip.Total = 1 // a design without records has one label
	}
	drawing, cancel := context.WithTimeoutCause(ctx, drawTime, errDrawing)
	defer cancel()
	if strip.Labels, err = drawer.all(drawing, numbers, records); err != nil {
		return nil, err
	}
	for i, name := range set.Fields {
		value := api.FieldValue{Name: name}
		if len(records) > 0 && i < len(records[0]) {
			value.Value = records[0][i]
		}
		strip.Fields = append(strip.Fields, value)
	}
	return api.DrawStrip200JSONResponse(strip), nil
}

// chosen reads records by their numbers; those that a set does not have are left out. Without a
// set there is one empty record.
func (s *Server) chosen(ctx context.Context, id *int64, wanted []int) (set store.RecordSet, numbers []int, records [][]string, err error) {
	if id == nil {
		return set, []int{1}, [][]string{nil}, nil
	}
	if set, err = s.seen.recordSet(ctx, s.store, *id); err != nil {
		return set, nil, nil, err
	}
	for _, n := range wanted {
		if n >= 1 && n <= set.Count {
			numbers = append(numbers, n)
		}
	}
	records, err = s.seen.records(ctx, s.store, set.ID, numbers)
	return set, numbers, records, err
}

// seen keeps the records that were looked at lately, so that a change on the Bench does not wait
// for the database. They never change.
type seen struct {
	sets   *lru.Cache[int64, store.RecordSet]
	values *lru.Cache[recordKey, []string]
}

type recordKey struct {
	set    int64
	number int
}

// How many are kept: some screens full of records, each of a few hundred bytes.
const (
	keptSets    = 64
	keptRecords = 8192
)

func newSeen() (*seen, error) {
	sets, err := lru.New[int64, store.RecordSet](keptSets)
	if err != nil {
		return nil, fmt.Errorf("keep record sets: %w", err)
	}
	values, err := lru.New[recordKey, []string](keptRecords)
	return &seen{sets, values}, err
}

func (k *seen) recordSet(ctx context.Context, s *store.Store, id int64) (store.RecordSet, error) {
	if set, kept := k.sets.Get(id); kept {
		return set, nil
	}
	set, err := s.RecordSet(ctx, id)
	if err == nil {
		k.sets.Add(id, set)
	}
	return set, err
}

func (k *seen) records(ctx context.Context, s *store.Store, set int64, numbers []int) ([][]string, error) {
	records := make([][]string, len(numbers))
	for i, n := range numbers {
		values, kept := k.values.Get(recordKey{set, n})
		if !kept {
			return k.readAll(ctx, s, set, numbers)
		}
		records[i] = values
	}
	return records, nil
}

func (k *seen) readAll(ctx context.Context, s *store.Store, set int64, numbers []int) ([][]string, error) {
	records, err := s.SomeRecords(ctx, set, numbers)
	for i, values := range records {
		k.values.Add(recordKey{set, numbers[i]}, values)
	}
	return records, err
}

// mostDrawn is how many dots are drawn for one request: twenty labels of 100 x 300 mm at 24 dots/mm.
const mostDrawn = 400_000_000

// drawTime is how long labels may take that are drawn for one request.
const drawTime = 2 * time.Second

var errDrawing = refused("These labels take too long to draw. Put less on them, or look at fewer at once.")

// A drawer draws and checks labels for the screen: the very layers that are printed, turned so that
// they can be read.
type drawer struct {
	design        *design.Design
	fields        []string
	checker       *proof.Checker
	palette       render.Palette
	width, height int // of the artwork, dots
}

func newDrawer(d *design.Design, fields []string) (*drawer, error) {
	checker, err := proof.NewChecker(d, fields)
	if err != nil {
		return nil, err
	}
	w := &drawer{design: d, fields: fields, checker: checker, palette: checker.Composer().Palette()}
	w.width, w.height = checker.Composer().Size()
	return w, nil
}

// A drawn label is one with its picture and what is wrong with it. Its parts hold until the next is
// drawn.
type drawn struct {
	label         *compose.Label
	findings      []proof.Finding
	png           []byte
	width, height int
}

func (w *drawer) draw(number int, record []string) (d drawn, err error) {
	var layers render.Layers
	d.findings, d.label, layers = w.checker.Look(nil, number, record)
	read := layers.Turned(measure.Turn(0).Plus(-w.design.Turn))
	d.width, d.height = read.Size()
	var file bytes.Buffer
	err = render.WritePNG(&file, read, w.palette, w.design.Printer.Resolution)
	d.png = file.Bytes()
	return d, err
}

func (d *drawn) picture() string {
	return "data:image/png;base64," + base64.StdEncoding.EncodeToString(d.png)
}

// all draws labels, two at a time where there are several: the hand waits for them.
func (w *drawer) all(ctx context.Context, numbers []int, records [][]string) ([]api.StripLabel, error) {
	if dots := w.width * w.height * len(w.palette.Inks) * len(records); dots > mostDrawn && len(records) > 1 {
		return nil, refused(fmt.Sprintf("%d labels of this size have %d million dots, and up to %d million are drawn at once. Look at fewer.", len(records), dots/1_000_000, mostDrawn/1_000_000))
	}
	labels := make([]api.StripLabel, len(records))
	half := (len(records) + 1) / 2
	var other errgroup.Group
	if half < len(records) {
		second := w.clone()
		other.Go(func() error { return second.some(ctx, labels[half:], numbers[half:], records[half:]) })
	}
	err := w.some(ctx, labels[:half], numbers[:half], records[:half])
	return labels, errors.Join(err, other.Wait())
}

func (w *drawer) some(ctx context.Context, labels []api.StripLabel, numbers []int, records [][]string) (err error) {
	for i := range labels {
		if ctx.Err() != nil { // nobody waits for it any more, or it takes too long
			return context.Cause(ctx)
		}
		if labels[i], err = w.label(numbers[i], records[i]); err != nil {
			return err
		}
	}
	return nil
}

func (w *drawer) clone() *drawer {
	clone := *w
	clone.checker = w.checker.Clone()
	return &clone
}

func (w *drawer) label(number int, record []string) (api.StripLabel, error) {
	label := api.StripLabel{Record: number, Parts: []api.StripPart{}, Findings: []api.Finding{}}
	d, err := w.draw(number, record)
	if err != nil {
		return label, err
	}
	label.Picture, label.Width, label.Height = d.picture(), d.width, d.height
	for i := range d.label.Parts {
		label.Parts = append(label.Parts, w.part(&w.design.Elements[i], &d.label.Parts[i], record))
	}
	for _, f := range d.findings {
		label.Findings = append(label.Findings, toFinding(f))
	}
	return label, nil
}

// someWidths is how many bars and spaces the picture of a module shows.
const someWidths = 25

func (w *drawer) part(element *design.Element, part *compose.Part, record []string) api.StripPart {
	box := part.Real
	made := api.StripPart{Element: element.ID, Says: part.Says, Real: api.DotBox{X: box.X, Y: box.Y, W: box.W, H: box.H}}
	if len(element.Says) > 0 {
		pieces := make([]string, len(element.Says))
		for i, piece := range element.Says {
			pieces[i] = piece.Text
			if piece.Field != "" {
				pieces[i] = valueOf(w.fields, record, piece.Field)
			}
		}
		made.Pieces = &pieces
	}
	if part.Module > 0 && part.CodeError == nil {
		made.Code = w.codeFacts(element, part)
	}
	return made
}

func (w *drawer) codeFacts(element *design.Element, part *compose.Part) *api.CodeFacts {
	symbol, r := &part.Symbol, w.design.Printer.Resolution
	guide, module := symbology.GuideOf(part.ID), r.Length(part.Module)
	least := symbology.LeastModule(part.ID, element.Code.Purpose, r)
	facts := &api.CodeFacts{Symbology: element.Code.Symbology, Module: int(module), ModuleDots: part.Module, Modules: symbol.Modules(),
		QuietModules: symbol.QuietBefore, QuietZone: int(r.Length(symbol.QuietBefore * part.Module)), Is2d: symbol.Is2D(), Width: int(r.Length(part.Quiet.W)),
		Height: int(r.Length(part.Quiet.H)), Reads: symbol.Reads, Widths: []int{}, Deviation: perCent(module, element.Code.Module) - 100,
		LeastModule: int(r.Length(least)), LeastModuleDots: least}
	if guide.Nominal > 0 {
		magnification := perCent(module, guide.Nominal)
		facts.Magnification = &magnification
	}
	if guide.CheckDigit {
		digit := symbol.Reads[len(symbol.Reads)-1:]
		facts.CheckDigit = &digit
	}
	if part.Turn.Sideways() {
		facts.Width, facts.Height = facts.Height, facts.Width
	}
	if symbol.Is2D() { // the first row, which ends within the symbol
		run, dark := 0, true
		for x := 0; x < symbol.Matrix.Width && len(facts.Widths) < someWidths; x++ {
			if symbol.Matrix.At(x, 0) != dark {
				facts.Widths, run, dark = append(facts.Widths, run), 0, !dark
			}
			run += part.Module
		}
		return facts
	}
	for _, width := range symbol.AppendDots(nil, part.Module, part.Narrower) {
		if len(facts.Widths) < someWidths {
			facts.Widths = append(facts.Widths, int(width))
		}
	}
	return facts
}

// perCent returns how many per cent of b a is, to the nearest one.
func perCent(a, b measure.Length) int { return int((200*a + b) / (2 * b)) }

func valueOf(fields, record []string, name string) string {
	for i, field := range fields {
		if field == name && i < len(record) {
			return record[i]
		}
	}
	return ""
}

func toFinding(f proof.Finding) api.Finding {
	return api.Finding{Level: api.FindingLevel(f.Level.String()), Kind: string(f.Kind), Record: f.Record, Element: f.Element, Text: f.Text, Do: f.Do}
}

// ProofDesign implements api.StrictServerInterface.
func (s *Server) ProofDesign(ctx context.Context, req api.ProofDesignRequestObject) (api.ProofDesignResponseObject, error) {
	d, err := design.Parse(req.Body.Document)
	if err != nil {
		return nil, err
	}
	set, err := s.store.RecordSet(ctx, req.Body.RecordSetId)
	if err != nil {
		return nil, err
	}
	records, err := s.store.Records(ctx, set.ID, 1, set.Count)
	if err != nil {
		return nil, err
	}
	report, err := proof.All(ctx, d, set.Fields, records)
	if err != nil {
		return nil, fmt.Errorf("proof of record set %d: %w", set.ID, err)
	}
	answer := api.Proof{Records: report.Records, Errors: report.Errors(), Warnings: report.Warnings(), Codes: report.Codes,
		Groups: toGroups(report.Groups, nil), Knots: []api.Knot{}, Extremes: []api.Extreme{}}
	const mostKnots = 2000
	for i, level := range report.Worst {
		if level != proof.Fine && len(answer.Knots) < mostKnots {
			answer.Knots = append(answer.Knots, api.Knot{Record: i + 1, Level: api.KnotLevel(level.String())})
		}
	}
	for _, extreme := range proof.Extremes(d, set.Fields, records) {
		answer.Extremes = append(answer.Extremes, api.Extreme{Record: extreme.Record, Why: extreme.Why})
	}
	return api.ProofDesign200JSONResponse(answer), nil
}

// toGroups shows groups of findings with their first records; labels, where given, tells how many
// labels of a run a record has.
func toGroups(groups []*proof.Group, labels map[int]int) []api.FindingGroup {
	shown := []api.FindingGroup{}
	for _, g := range groups {
		group := api.FindingGroup{Level: api.FindingGroupLevel(g.Level.String()), Kind: string(g.Kind), Element: g.Element, Text: g.Text, Do: g.Do,
			Count: len(g.Records), Records: g.Records[:min(len(g.Records), 100)]}
		if labels != nil {
			sum := 0
			for _, record := range g.Records {
				sum += labels[record]
			}
			group.Labels = &sum
		}
		shown = append(shown, group)
	}
	return shown
}
