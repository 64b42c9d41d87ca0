package runs

import (
	"context"
	"sync/atomic"

	"oddspool/core/proof"
	"oddspool/internal/api"
	"oddspool/internal/prover"
	"oddspool/internal/server/designs"
)

// ProofRun implements api.StrictServerInterface.
func (s *Runs) ProofRun(ctx context.Context, req api.ProofRunRequestObject) (api.ProofRunResponseObject, error) {
	r, err := s.Store.Run(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	setup, err := s.keptSetup(ctx, r.SetupID, r.PrinterID, r.Document)
	if err != nil {
		return nil, err
	}
	looked := &atomic.Int64{}
	s.proving.Store(req.Id, looked)
	defer s.proving.CompareAndDelete(req.Id, looked)
	found, err := prover.Prove(proof.Tell(ctx, looked), s.Store, &r, setup)
	if err != nil {
		return nil, err
	}
	plan, err := s.Store.RunPlanOf(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	labels := make([]map[int]int, len(found.Separators)+1) // of each record, by parts
	for i := range labels {
		labels[i] = map[int]int{}
	}
	for _, share := range plan.Shares() {
		labels[share.Part][share.Record] += share.Copies
	}
	leftOut := 0
	for part, records := range append([][]int{found.LeftOut}, found.Outs()...) {
		for _, record := range records {
			leftOut += labels[part][record]
		}
	}
	answer := api.ProofRun200JSONResponse{Labels: r.LabelCount, LeftOut: leftOut, Codes: found.Codes,
		Groups: designs.ToGroups(found.Groups, labels[0]), Worth: []api.WorthALook{}}
	for i := range found.Separators {
		for _, group := range designs.ToGroups(found.Separators[i].Groups, labels[i+1]) {
			group.Design = &found.Separators[i].Name
			answer.Groups = append(answer.Groups, group)
		}
	}
	for _, worth := range found.Worth {
		answer.Worth = append(answer.Worth, api.WorthALook{Label: worth.Label, Record: worth.Record, Why: worth.Why})
	}
	if found.Lengths != nil {
		tape, err := s.tape(ctx, req.Id, found)
		if err != nil {
			return nil, err
		}
		answer.WebMillimetres = &tape
	}
	return answer, nil
}

// GetProofProgress implements api.StrictServerInterface.
func (s *Runs) GetProofProgress(_ context.Context,
	req api.GetProofProgressRequestObject) (api.GetProofProgressResponseObject, error) {
	answer := api.GetProofProgress200JSONResponse{}
	if looked, is := s.proving.Load(req.Id); is {
		answer.Looked = int(looked.(*atomic.Int64).Load())
	}
	return answer, nil
}
