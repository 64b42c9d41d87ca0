package store

import (
	"context"
	"encoding/json"
	"fmt"

	"oddspool/core/design"
)

// What stands among the labels of a run.
const (
	SeparatorDesign = "design" // labels of another design
	SeparatorBlank  = "blank"  // labels with nothing on them
	SeparatorMark   = "mark"   // cut marks
)

// A Separator is labels of a further design among those of a run, by a rule of package batch.
type Separator struct {
	What       string `json:"what"`
	DesignID   int64  `json:"designId,omitempty"`
	RevisionID int64  `json:"revisionId,omitempty"`
	Name       string `json:"name"` // of the design
	When       string `json:"when"`
	Field      string `json:"field,omitempty"`
	Every      int    `json:"every,omitempty"`
	After      bool   `json:"after"`
	Copies     int    `json:"copies"`
	PrinterID  int64  `json:"printerId,omitempty"` // 0: that of the run
	Labels     int    `json:"labels"`              // there are of it
}

// RunPart returns a run as it is for the labels of one of its parts: with their design.
func (s *Store) RunPart(ctx context.Context, r *Run, part int) (*Run, error) {
	of := *r
	if part == 0 {
		return &of, nil
	}
	if part > len(r.Separators.V) {
		return nil, &NotFoundError{What: "part of the run", ID: int64(part)}
	}
	of.Part = part
	b := &r.Separators.V[part-1]
	if b.What == SeparatorDesign {
		var revision struct {
			Document JSON
			Number   int
		}
		if err := get(ctx, s.DB, &revision, "version of a design", b.RevisionID, `select document, number
				from design_revisions where id = $1`, b.RevisionID); err != nil {
			return nil, err
		}
		of.Document, of.RevisionID, of.DesignID, of.Version = revision.Document, b.RevisionID, b.DesignID,
			revision.Number
		return &of, nil
	}
	own, err := r.Design()
	if err != nil {
		return nil, err
	}
	made := design.Blank(own.Stock, own.Printer)
	if b.What == SeparatorMark {
		made = design.CutMark(own.Stock, own.Printer)
	}
	if of.Document, err = json.Marshal(made); err != nil {
		return nil, fmt.Errorf("write a label between: %w", err)
	}
	return &of, nil
}

// RunParts returns a run for each of its parts, its own first.
func (s *Store) RunParts(ctx context.Context, r *Run) (parts []*Run, err error) {
	for part := range len(r.Separators.V) + 1 {
		of, err := s.RunPart(ctx, r, part)
		if err != nil {
			return nil, err
		}
		parts = append(parts, of)
	}
	return parts, nil
}

// PartsOfPrint returns of which parts of a run a print has labels.
func (s *Store) PartsOfPrint(ctx context.Context, print int64) (parts []int, err error) {
	return parts, list(ctx, s.DB, &parts, `select distinct part from pieces where print_id = $1 order by part`, print)
}

// PartOfLabel returns of which part a label of a run is.
func (s *Store) PartOfLabel(ctx context.Context, run int64, label int) (part int, err error) {
	const query = `select coalesce((select part from run_records where run_id = $1 and first_label <= $2
			order by first_label desc limit 1), 0)`
	if err := s.DB.GetContext(ctx, &part, query, run, label); err != nil {
		return 0, fmt.Errorf("read run %d: %w", run, err)
	}
	return part, nil
}

// LabelAt returns which label of its run is at a place of a print.
func (s *Store) LabelAt(ctx context.Context, print int64, place int) (label int, err error) {
	return label, get(ctx, s.DB, &label, "place", int64(place), `select label from pieces where print_id = $1
			and place = $2`, print, place)
}

// FirstOwn returns the first label of a run that is of its own design.
func (s *Store) FirstOwn(ctx context.Context, run int64) (label int, err error) {
	const query = `select coalesce((select first_label from run_records where run_id = $1 and part = 0
			order by first_label limit 1), 1)`
	if err := s.DB.GetContext(ctx, &label, query, run); err != nil {
		return 0, fmt.Errorf("read run %d: %w", run, err)
	}
	return label, nil
}
