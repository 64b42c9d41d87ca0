package runs

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"oddspool/core/gs1"
	"oddspool/internal/api"
	"oddspool/internal/prover"
	"oddspool/internal/server/handler"
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
func (s *Runs) codesOf(ctx context.Context, r *store.Run) (*prover.CodeIndex, error) {
	key := indexed{r.ID, r.Edits, r.Moment != nil}
	if index, has := s.codes.Get(key); has {
		return index, nil
	}
	index, err := prover.NewCodeIndex(ctx, s.Store, r)
	if err == nil {
		s.codes.Add(key, index)
	}
	return index, err
}

// ScanLabel implements api.StrictServerInterface.
func (s *Runs) ScanLabel(ctx context.Context, req api.ScanLabelRequestObject) (api.ScanLabelResponseObject, error) {
	r, err := s.Store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	codes, err := s.codesOf(ctx, &r)
	if err != nil {
		return nil, err
	}
	ctx = context.WithoutCancel(ctx) // a scan that is kept also stops what it has to
	scan, err := s.Store.KeepScan(ctx, r.ID, codes.Labels(req.Body.Scanned, sameLabels),
		strings.ToValidUTF8(strings.ReplaceAll(req.Body.Scanned, "\x00", ""), "�"), s.User(ctx))
	if err != nil {
		return nil, err
	}
	answer := api.ScanLabel200JSONResponse{Scanned: scan.Scanned, Outcome: api.ScannedOutcome(scan.Outcome),
		Label: scan.Label, By: scan.By, At: scan.At, Values: []string{}}
	if answer.Text, err = s.scanWords(ctx, &r, &scan); err != nil {
		return nil, err
	}
	if scan.Label != nil {
		n, err := s.Store.PartOfLabel(ctx, r.ID, *scan.Label)
		if err != nil {
			return nil, err
		}
		part, err := s.Store.RunPart(ctx, &r, n)
		if err != nil {
			return nil, err
		}
		d, err := s.Store.ToCompose(ctx, part)
		if err != nil {
			return nil, err
		}
		labels, err := s.Store.RunLabels(ctx, part, d, scan.By, *scan.Label, *scan.Label, true)
		if err != nil {
			return nil, err
		}
		answer.Values = labels[0].Values[:len(r.Fields)]
	}
	if handler.Or(req.Body.Stop, false) && scan.Outcome != store.ScanMeant && scan.Outcome != store.ScanAgain {
		paused, err := s.Store.PausePrint(ctx, 0, r.ID, scan.By)
		if err != nil {
			return nil, err
		}
		answer.Stopped = paused > 0
		s.Runner.Wake()
	}
	return answer, nil
}

// scanWords says what a scan means.
func (s *Runs) scanWords(ctx context.Context, r *store.Run, scan *store.Scan) (string, error) {
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
	numbers, err := s.Store.FindNumbers(ctx, Scanned(scan.Scanned), 1)
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
func (s *Runs) GetScans(ctx context.Context, req api.GetScansRequestObject) (api.GetScansResponseObject, error) {
	r, err := s.Store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	meant, wrong, latest, err := s.Store.Scans(ctx, r.ID, listedScans)
	answer := api.GetScans200JSONResponse{Meant: meant, Wrong: wrong, Printed: r.Printed,
		Latest: make([]api.Scan, len(latest))}
	for i, scan := range latest {
		answer.Latest[i] = api.Scan{Scanned: scan.Scanned, Outcome: api.ScanOutcome(scan.Outcome), Label: scan.Label,
			By: scan.By, At: scan.At}
	}
	return answer, err
}

// PausePrint implements api.StrictServerInterface.
func (s *Runs) PausePrint(ctx context.Context, req api.PausePrintRequestObject) (api.PausePrintResponseObject,
	error) {
	if _, err := s.Store.Print(ctx, req.Id); err != nil {
		return nil, err
	}
	_, err := s.Store.PausePrint(ctx, req.Id, 0, s.User(ctx))
	s.Runner.Wake()
	return api.PausePrint204Response{}, err
}

// Scanned returns the numbers that somebody may mean who typed or scanned something: the whole, and the values of a
// code of GS1.
func Scanned(typed string) []string {
	whole := strings.TrimSpace(strings.Trim(typed, "\x02\x03\r\n\t"))
	meant := []string{whole}
	if len(whole) > 3 && whole[0] == ']' {
		meant = append(meant, whole[3:])
	}
	elements, _ := gs1.ReadAny(whole) // what is no data of GS1 is a number as it stands
	for _, e := range elements {
		if !slices.Contains(meant, e.Value) {
			meant = append(meant, e.Value)
		}
	}
	return meant
}
