// Package prover looks at every label of a run before one is printed, and keeps what it found with the run.
package prover

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/stock"
	"oddspool/internal/store"
)

// Found is what was found on the labels of a run.
type Found struct {
	Groups []*proof.Group `json:"groups"`
	// what was found on labels of further designs, by parts from 1
	Separators []Separator            `json:"besides,omitempty"`
	LeftOut    []int                  `json:"leftOut"` // records that must not be printed
	Codes      int                    `json:"codes"`
	Lengths    map[int]measure.Length `json:"lengths,omitempty"` // of the piece of each record, where pieces differ
	Worth      []Worth                `json:"worth,omitempty"`   // labels for a sample
	Setup      stock.Setup            `json:"setup"`             // that it is printed with
	At         *time.Time             `json:"at,omitempty"`      // when, where that makes a difference
}

// A Separator is what was found on the labels of a further design.
type Separator struct {
	Name    string                 `json:"name"` // of the design
	Groups  []*proof.Group         `json:"groups"`
	LeftOut []int                  `json:"leftOut"` // records whose label of it must not be printed
	Lengths map[int]measure.Length `json:"lengths,omitempty"`
}

// Outs returns the records whose labels must not be printed, of each part from 1 on.
func (f *Found) Outs() (outs [][]int) {
	for i := range f.Separators {
		outs = append(outs, f.Separators[i].LeftOut)
	}
	return outs
}

// A Worth is a label that is worth a look before all others.
type Worth struct {
	Label  int    `json:"label"`
	Record int    `json:"record"`
	Why    string `json:"why"`
}

// longestTrue is how long what was found is taken for true where labels say the time.
const longestTrue = time.Minute

// isOld tells whether the labels say another time by now.
func (f *Found) isOld(run *store.Run) bool {
	return f.At != nil && run.Moment == nil && time.Since(*f.At) > longestTrue
}

// Kept returns what was found on a run before; nil: it was not looked at since it was prepared or changed.
func Kept(run *store.Run) (*Found, error) {
	if run.Proof == nil {
		return nil, nil //nolint:nilnil // there is nothing, and that is no error
	}
	var kept Found
	if err := json.Unmarshal(run.Proof, &kept); err != nil {
		return nil, fmt.Errorf("read proof of run %d: %w", run.ID, err)
	}
	return &kept, nil
}

// Prove looks at the labels of a run that is printed with a set-up, once: what it finds is kept with the run.
func Prove(ctx context.Context, s *store.Store, run *store.Run, setup stock.Setup) (*Found, error) {
	if kept, err := Kept(run); err != nil || kept != nil && kept.Setup == setup && !kept.isOld(run) {
		return kept, err
	}
	found, err := look(ctx, s, run, setup)
	if err != nil {
		return nil, err
	}
	separators := run.Separators.V
	for i := range separators {
		of, err := s.RunPart(ctx, run, i+1)
		if err != nil {
			return nil, err
		}
		with := setup
		if separators[i].PrinterID != 0 { // a set-up is of one printer
			with = stock.Setup{}
		}
		separator, err := look(ctx, s, of, with)
		if err != nil {
			return nil, err
		}
		if separators[i].What != store.SeparatorDesign { // that there is nothing on them is meant
			separator.Groups, separator.LeftOut = []*proof.Group{}, []int{}
		}
		found.Codes += separator.Codes
		found.Separators = append(found.Separators, Separator{separators[i].Name, separator.Groups, separator.LeftOut,
			separator.Lengths})
		if separator.At != nil {
			found.At = separator.At
		}
	}
	text, err := json.Marshal(found)
	if err != nil {
		return nil, fmt.Errorf("write proof of run %d: %w", run.ID, err)
	}
	return found, s.KeepProof(ctx, run, text)
}

// look looks at the labels of one part of a run.
func look(ctx context.Context, s *store.Store, run *store.Run, setup stock.Setup) (*Found, error) {
	d, err := s.ToCompose(ctx, run)
	if err != nil {
		return nil, err
	}
	labels, err := s.RunLabels(ctx, run, d, run.PreparedBy, 1, run.LabelCount, d.DiffersByLabel())
	if err != nil {
		return nil, err
	}
	numbers, records := make([]int, len(labels)), make([][]string, len(labels))
	for i, label := range labels {
		numbers[i], records[i] = label.Record, label.Values
	}
	report, err := proof.AllWith(ctx, d, d.LabelFields(run.Fields), records, numbers, setup)
	if err != nil {
		return nil, err
	}
	found := &Found{Groups: report.Groups, Codes: report.Codes, LeftOut: []int{}, Setup: setup}
	if d.TellsTime() {
		found.At = new(d.Setting.Now)
	}
	for i, level := range report.Worst {
		if level == proof.Error {
			found.LeftOut = append(found.LeftOut, numbers[i])
		}
	}
	slices.Sort(found.LeftOut) // of sets, records come again and again
	found.LeftOut = slices.Compact(found.LeftOut)
	for _, extreme := range report.Extremes {
		if label := labels[extreme.Record-1]; report.Worst[extreme.Record-1] != proof.Error {
			found.Worth = append(found.Worth, Worth{label.Label, label.Record, extreme.Why})
		}
	}
	if d.Stock.ByContent() {
		found.Lengths = map[int]measure.Length{}
		for i, length := range report.Lengths {
			found.Lengths[numbers[i]] = length
		}
	}
	for _, group := range report.Groups {
		for i, place := range group.Records {
			group.Records[i] = numbers[place-1]
		}
		slices.Sort(group.Records)
		group.Records = slices.Compact(group.Records)
	}
	return found, nil
}
