package server

import (
	"context"
	"fmt"
	"strings"

	"oddspool/internal/api"
	"oddspool/internal/prover"
	"oddspool/internal/store"
)

// How many scans are shown, the latest first, how many labels that say the same are looked at, and of how many runs the
// codes are kept at hand.
const (
	listedScans = 50
	sameLabels  = 2000
	indexedRuns = 4
)

// indexed names what the codes of a run depend on: with other answers or numbers it has been edited.
type indexed struct {
	run    int64
	edits  int
	moment bool // it has that of its first print
}

// codesOf returns the codes of a run's labels.
func (s *Server) codesOf(ctx context.Context, r *store.Run) (*prover.CodeIndex, error) {
	key := indexed{r.ID, r.Edits, r.Moment != nil}
	if index, has := s.codes.Get(key); has {
		return index, nil
	}
	index, err := prover.NewCodeIndex(ctx, s.store, r)
	if err == nil {
		s.codes.Add(key, index)
	}
	return index, err
}

// ScanLabel implements api.StrictServerInterface.
func (s *Server) ScanLabel(ctx context.Context, req api.ScanLabelRequestObject) (api.ScanLabelResponseObject, error) {
	r, err := s.store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	codes, err := s.codesOf(ctx, &r)
	if err != nil {
		return nil, err
	}
	ctx = context.WithoutCancel(ctx) // a scan that is kept also stops what it has to
	scan, err := s.store.KeepScan(ctx, r.ID, codes.Labels(req.Body.Scanned, sameLabels),
		strings.ToValidUTF8(strings.ReplaceAll(req.Body.Scanned, "\x00", ""), "�"), s.user(ctx))
	if err != nil {
		return nil, err
	}
	answer := api.ScanLabel200JSONResponse{Scanned: scan.Scanned, Outcome: api.ScannedOutcome(scan.Outcome),
		Label: scan.Label, By: scan.By, At: scan.At, Values: []string{}}
	if answer.Text, err = s.scanWords(ctx, &r, &scan); err != nil {
		return nil, err
	}
	if scan.Label != nil {
		n, err := s.store.PartOfLabel(ctx, r.ID, *scan.Label)
		if err != nil {
			return nil, err
		}
		part, err := s.store.RunPart(ctx, &r, n)
		if err != nil {
			return nil, err
		}
		d, err := s.store.ToCompose(ctx, part)
		if err != nil {
			return nil, err
		}
		labels, err := s.store.RunLabels(ctx, part, d, scan.By, *scan.Label, *scan.Label, true)
		if err != nil {
			return nil, err
		}
		answer.Values = labels[0].Values[:len(r.Fields)]
	}
	if or(req.Body.Stop, false) && scan.Outcome != store.ScanMeant && scan.Outcome != store.ScanAgain {
		paused, err := s.store.PausePrint(ctx, 0, r.ID, scan.By)
		if err != nil {
			return nil, err
		}
		answer.Stopped = paused > 0
		s.runner.Wake()
	}
	return answer, nil
}

// scanWords says what a scan means.
func (s *Server) scanWords(ctx context.Context, r *store.Run, scan *store.Scan) (string, error) {
	switch scan.Outcome {
	case store.ScanMeant:
		return fmt.Sprintf("Label %d is as meant.", *scan.Label), nil
	case store.ScanAgain:
		return fmt.Sprintf("Label %d was scanned before. If this is another label, two say the same.", *scan.Label), nil
	case store.ScanSpoiled:
		return fmt.Sprintf("Label %d was said to be spoiled. Do not use it.", *scan.Label), nil
	case store.ScanUnprinted:
		return fmt.Sprintf("Label %d says this, and is not known to have come out. Say on the page of the run what "+
			"came out.", *scan.Label), nil
	}
	numbers, err := s.store.FindNumbers(ctx, scanned(scan.Scanned), 1)
	if err != nil {
		return "", err
	}
	if len(numbers) > 0 {
		n := numbers[0]
		if n.RunID == r.ID {
			return fmt.Sprintf("The number %s is no longer on a label of this run: it is %s. Do not use this label.",
				n.Number, n.State), nil
		}
		return fmt.Sprintf("No label of this run says this. The number %s is of run %d.", n.Number, n.RunID), nil
	}
	return "No label of this run says this.", nil
}

// GetScans implements api.StrictServerInterface.
func (s *Server) GetScans(ctx context.Context, req api.GetScansRequestObject) (api.GetScansResponseObject, error) {
	r, err := s.store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	meant, wrong, latest, err := s.store.Scans(ctx, r.ID, listedScans)
	answer := api.GetScans200JSONResponse{Meant: meant, Wrong: wrong, Printed: r.Printed,
		Latest: make([]api.Scan, len(latest))}
	for i, scan := range latest {
		answer.Latest[i] = api.Scan{Scanned: scan.Scanned, Outcome: api.ScanOutcome(scan.Outcome), Label: scan.Label,
			By: scan.By, At: scan.At}
	}
	return answer, err
}

// PausePrint implements api.StrictServerInterface.
func (s *Server) PausePrint(ctx context.Context, req api.PausePrintRequestObject) (api.PausePrintResponseObject,
	error) {
	if _, err := s.store.Print(ctx, req.Id); err != nil {
		return nil, err
	}
	_, err := s.store.PausePrint(ctx, req.Id, 0, s.user(ctx))
	s.runner.Wake()
	return api.PausePrint204Response{}, err
}
