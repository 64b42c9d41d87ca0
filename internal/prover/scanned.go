package prover

import (
	"cmp"
	"context"
	"hash/maphash"
	"slices"

	"oddspool/core/ordered"
	"oddspool/core/proof"
	"oddspool/internal/store"
)

// A CodeIndex tells which labels of a run say what a scanner reads.
type CodeIndex struct {
	seed    maphash.Seed
	entries []codeEntry // by hash, then label
}

type codeEntry struct {
	hash        uint64
	first, last int // labels
}

// NewCodeIndex looks at the codes of all labels of a run.
func NewCodeIndex(ctx context.Context, s *store.Store, run *store.Run) (*CodeIndex, error) {
	index := &CodeIndex{seed: maphash.MakeSeed()}
	parts, err := s.RunParts(ctx, run)
	if err != nil {
		return nil, err
	}
	for _, part := range parts {
		if err := index.add(ctx, s, part); err != nil {
			return nil, err
		}
	}
	slices.SortFunc(index.entries,
		func(a, b codeEntry) int { return cmp.Or(cmp.Compare(a.hash, b.hash), cmp.Compare(a.first, b.first)) })
	return index, nil
}

// add adds the codes of the labels of a part of a run.
func (x *CodeIndex) add(ctx context.Context, s *store.Store, run *store.Run) error {
	d, err := s.ToCompose(ctx, run)
	if err != nil {
		return err
	}
	labels, err := s.RunLabels(ctx, run, d, run.PreparedBy, 1, run.LabelCount, d.DiffersByLabel())
	if err != nil {
		return err
	}
	checkers := make([]*proof.Checker, ordered.Workers(len(labels)))
	for i := range checkers {
		if checkers[i], err = proof.NewChecker(d, d.LabelFields(run.Fields)); err != nil {
			return err
		}
	}
	n := 0
	return ordered.Each(len(labels), func(worker, i int) (codes []string, err error) {
		return checkers[worker].Codes(labels[i].Values), ctx.Err()
	}, func(codes []string) error {
		for _, code := range codes { // labels that all say the same are one
			x.entries = append(x.entries, codeEntry{maphash.String(x.seed, code), labels[n].First, labels[n].Label})
		}
		n++
		return nil
	})
}

// Labels returns labels that say what was scanned, in order, up to a number of them.
func (x *CodeIndex) Labels(scanned string, most int) (labels []int) {
	hash := maphash.String(x.seed, proof.ScanKey(scanned))
	at, _ := slices.BinarySearchFunc(x.entries, hash,
		func(e codeEntry, hash uint64) int { return cmp.Compare(e.hash, hash) })
	for ; at < len(x.entries) && x.entries[at].hash == hash; at++ {
		for n := x.entries[at].first; n <= x.entries[at].last; n++ {
			if len(labels) == most {
				return labels
			}
			labels = append(labels, n)
		}
	}
	return labels
}
