package designs

import (
	"bytes"
	"context"
	"encoding/base64"
	"errors"
	"fmt"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/errgroup"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/render"
	"oddspool/core/strip"
	"oddspool/internal/api"
	"oddspool/internal/store"
)

// DrawStrip implements api.StrictServerInterface.
func (s *Designs) DrawStrip(ctx context.Context, req api.DrawStripRequestObject) (api.DrawStripResponseObject, error) {
	answer, err := s.strip(ctx, req.Body.Document, req.Body.RecordSetId, req.Body.Records)
	return api.DrawStrip200JSONResponse(answer), err
}

// DrawKeptStrip implements api.StrictServerInterface.
func (s *Designs) DrawKeptStrip(ctx context.Context,
	req api.DrawKeptStripRequestObject) (api.DrawKeptStripResponseObject, error) {
	d, err := s.Store.Design(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	record := 1
	if req.Params.Record != nil {
		record = *req.Params.Record
	}
	answer, err := s.strip(ctx, d.Document, d.RecordSetID, []int{record, record - 1, record + 1})
	return api.DrawKeptStrip200JSONResponse(answer), err
}

// strip draws the labels of some records of a design; those that are none are left out.
func (s *Designs) strip(ctx context.Context, document []byte, setID *int64, wanted []int) (answer api.Strip,
	err error) {
	d, err := design.Parse(document)
	if err != nil {
		return answer, err
	}
	d.Setting = s.Store.Setting(ctx, time.Now())
	set, numbers, records, err := s.Chosen(ctx, setID, wanted)
	if err != nil {
		return answer, err
	}
	drawer, err := NewDrawer(d, set.Fields)
	if err != nil {
		return answer, err
	}
	about := drawer.About()
	answer = api.Strip{Width: about.Width, Height: about.Height, Dot: about.Dot, Face: about.Face, Layers: about.Layers,
		Inks: about.Inks, Mixes: about.Mixes,
		MostLegends: about.MostLegends, Total: set.Count, Fields: []api.FieldValue{}, Labels: []api.StripLabel{}}
	if set.ID == 0 {
		answer.Total = 1 // a design without records has one label
	}
	drawing, cancel := context.WithTimeoutCause(ctx, DrawTime, ErrDrawing)
	defer cancel()
	if answer.Labels, err = drawer.All(drawing, numbers, records); err != nil {
		return answer, err
	}
	for i, name := range set.Fields {
		value := api.FieldValue{Name: name}
		if len(records) > 0 && i < len(records[0]) {
			value.Value = records[0][i]
		}
		answer.Fields = append(answer.Fields, value)
	}
	return answer, nil
}

// Chosen reads records by their numbers; those that a set does not have are left out. Without a
// set there is one empty record.
func (s *Designs) Chosen(ctx context.Context, id *int64, wanted []int) (set store.RecordSet, numbers []int,
	records [][]string, err error) {
	if id == nil {
		return set, []int{1}, [][]string{nil}, nil
	}
	if set, err = s.seen.recordSet(ctx, s.Store, *id); err != nil {
		return set, nil, nil, err
	}
	for _, n := range wanted {
		if n >= 1 && n <= set.Count {
			numbers = append(numbers, n)
		}
	}
	records, err = s.seen.records(ctx, s.Store, set.ID, numbers)
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

// DrawTime is how long labels may take that are drawn for one request.
const DrawTime = 2 * time.Second

var ErrDrawing = tooSlow.With()

// A Drawer draws and judges labels for the screen.
type Drawer struct {
	*strip.Drawer
	resolution measure.Resolution
}

func NewDrawer(d *design.Design, fields []string) (*Drawer, error) {
	made, err := strip.New(d, fields)
	if err != nil {
		return nil, err
	}
	return &Drawer{made, d.Printer.Resolution}, nil
}

// Label draws the label of a record.
func (w *Drawer) Label(number int, record []string) (api.StripLabel, error) {
	label, layers := w.Draw(number, record)
	var file bytes.Buffer
	if err := render.WritePNG(&file, layers, w.Palette(), w.resolution); err != nil {
		return api.StripLabel{}, err
	}
	picture := "data:image/png;base64," + base64.StdEncoding.EncodeToString(file.Bytes())
	return api.StripLabel{Record: number, Picture: picture, Width: label.Width, Height: label.Height,
		Parts: label.Parts, Findings: label.Findings}, nil
}

// All draws labels, two at a time where there are several: the hand waits for them.
func (w *Drawer) All(ctx context.Context, numbers []int, records [][]string) ([]api.StripLabel, error) {
	about := w.About()
	if dots := about.Width * about.Height * len(about.Layers) * len(records); dots > mostDrawn && len(records) > 1 {
		return nil, tooManyDots.With(len(records), dots/1_000_000, mostDrawn/1_000_000)
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

func (w *Drawer) clone() *Drawer { return &Drawer{w.Clone(), w.resolution} }

// ProofDesign implements api.StrictServerInterface.
func (s *Designs) ProofDesign(ctx context.Context, req api.ProofDesignRequestObject) (api.ProofDesignResponseObject,
	error) {
	d, err := design.Parse(req.Body.Document)
	if err != nil {
		return nil, err
	}
	set, err := s.Store.RecordSet(ctx, req.Body.RecordSetId)
	if err != nil {
		return nil, err
	}
	records, err := s.Store.Records(ctx, set.ID, 1, set.Count)
	if err != nil {
		return nil, err
	}
	d.Setting = s.Store.Setting(ctx, time.Now())
	report, err := proof.All(ctx, d, set.Fields, records)
	if err != nil {
		return nil, fmt.Errorf("proof of record set %d: %w", set.ID, err)
	}
	answer := api.Proof{Records: report.Records, Errors: report.Errors(), Warnings: report.Warnings(),
		Codes:  report.Codes,
		Groups: ToGroups(report.Groups, nil), Knots: []api.Knot{}, Extremes: []api.Extreme{}}
	const mostKnots = 2000
	for i, level := range report.Worst {
		if level != proof.Fine && len(answer.Knots) < mostKnots {
			answer.Knots = append(answer.Knots, api.Knot{Record: i + 1, Level: api.KnotLevel(level.String())})
		}
	}
	for _, extreme := range report.Extremes {
		answer.Extremes = append(answer.Extremes, api.Extreme{Record: extreme.Record, Why: extreme.Why})
	}
	return api.ProofDesign200JSONResponse(answer), nil
}

// ToGroups shows groups of findings with their first records; labels, where given, tells how many
// labels of a run a record has.
func ToGroups(groups []*proof.Group, labels map[int]int) []api.FindingGroup {
	shown := []api.FindingGroup{}
	for _, g := range groups {
		group := api.FindingGroup{Level: api.FindingGroupLevel(g.Level.String()), Kind: string(g.Kind),
			Rule: g.Rule, Element: g.Element, Text: g.Text, Do: g.Do,
			Count: len(g.Records), Records: g.Records[:min(len(g.Records), 100)]}
		if len(g.Values) > 0 {
			group.Values = &g.Values
		}
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

func (w *Drawer) some(ctx context.Context, labels []api.StripLabel, numbers []int, records [][]string) (err error) {
	for i := range labels {
		if ctx.Err() != nil { // nobody waits for it any more, or it takes too long
			return context.Cause(ctx)
		}
		if labels[i], err = w.Label(numbers[i], records[i]); err != nil {
			return err
		}
	}
	return nil
}
