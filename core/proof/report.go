package proof

import (
	"context"
	"fmt"
	"runtime"
	"slices"
	"sync"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/stock"
)

// A Group is the same finding on several records: the same rule at the same element.
type Group struct {
	Level   Level  `json:"level"`
	Kind    Kind   `json:"kind"`
	Element string `json:"element"`
	Text    string `json:"text"` // of the first record
	Do      string `json:"do"`
	Records []int  `json:"records"` // from 1, ascending

	Rule   string         `json:"rule"`             // by its code
	Values map[string]any `json:"values,omitempty"` // of the first record
}

// A Report is what was found in a whole record set.
type Report struct {
	Records  int              // looked at
	Worst    []Level          // of each record
	Groups   []*Group         // worst first, then by their first record
	Codes    int              // codes read back as meant
	Lengths  []measure.Length // of the piece of each record
	Extremes []Extreme        // records worth a look before all others
}

// Errors returns how many records must not be printed.
func (r *Report) Errors() int { return r.count(Error) }

// Warnings returns how many records have only warnings.
func (r *Report) Warnings() int { return r.count(Warning) }

func (r *Report) count(level Level) int {
	n := 0
	for _, worst := range r.Worst {
		if worst == level {
			n++
		}
	}
	return n
}

// chunk is how many records one goroutine takes at a time: some 50 ms of work, so that a cancelled
// proof ends at once and the last chunk keeps nobody waiting.
const chunk = 256

// All looks at the labels of all records and returns what is wrong, or the context's error. Its
// other errors are those of compose.New.
func All(ctx context.Context, d *design.Design, fields []string, records [][]string) (*Report, error) {
	return AllWith(ctx, d, fields, records, nil, stock.Setup{})
}

// AllWith does as All does, of labels that are printed with a set-up. Owners are the records that they are of where
// there are several labels of one; nil: there are not.
func AllWith(ctx context.Context, d *design.Design, fields []string, records [][]string, owners []int,
	setup stock.Setup) (*Report, error) {
	first, err := NewCheckerWith(d, fields, setup)
	if err != nil {
		return nil, err
	}
	chunks := (len(records) + chunk - 1) / chunk
	found := make([][]Finding, chunks)
	repeats := newRepeats(d, len(records))
	codes, lengths := make([]int, chunks), make([]measure.Length, len(records))
	next := make(chan int, chunks)
	for i := range chunks {
		next <- i
	}
	close(next)
	looked := progressOf(ctx)
	var workers sync.WaitGroup
	seen := newExtremes(d)
	var joining sync.Mutex
	for range min(runtime.GOMAXPROCS(0), max(chunks, 1)) {
		checker := first.Clone()
		workers.Go(func() {
			mine := newExtremes(d)
			defer func() {
				joining.Lock()
				defer joining.Unlock()
				seen.join(mine)
			}()
			for i := range next {
				if ctx.Err() != nil {
					return
				}
				for j := i * chunk; j < min((i+1)*chunk, len(records)); j++ {
					before := checker.lengths
					found[i] = checker.Label(found[i], j+1, records[j])
					lengths[j] = checker.lengths - before
					repeats.note(j, checker.press.Last().Parts)
					mine.note(j+1, checker.press.Last().Parts)
				}
				codes[i], checker.reader.good = checker.reader.good, 0
				looked.Add(int64(min((i+1)*chunk, len(records)) - i*chunk))
			}
		})
	}
	workers.Wait()
	if err := ctx.Err(); err != nil {
		return nil, fmt.Errorf("proof stopped: %w", err)
	}
	report := &Report{Records: len(records), Worst: make([]Level, len(records)), Lengths: lengths,
		Extremes: seen.list()}
	for i := range found {
		report.Codes += codes[i]
		report.add(found[i])
	}
	report.add(repeats.twice(owners))
	slices.SortStableFunc(report.Groups, func(a, b *Group) int {
		if a.Level != b.Level {
			return int(b.Level - a.Level)
		}
		return a.Records[0] - b.Records[0]
	})
	return report, nil
}

func (r *Report) add(findings []Finding) {
	for _, f := range findings {
		r.Worst[f.Record-1] = max(r.Worst[f.Record-1], f.Level)
		i := slices.IndexFunc(r.Groups, func(g *Group) bool {
			return g.Rule == f.Rule && g.Element == f.Element && g.Level == f.Level
		})
		if i < 0 {
			i = len(r.Groups)
			r.Groups = append(r.Groups, &Group{Level: f.Level, Kind: f.Kind, Element: f.Element, Text: f.Text,
				Do: f.Do, Rule: f.Rule, Values: f.Values})
		}
		if g := r.Groups[i]; len(g.Records) == 0 || g.Records[len(g.Records)-1] != f.Record {
			g.Records = append(g.Records, f.Record)
		}
	}
}
