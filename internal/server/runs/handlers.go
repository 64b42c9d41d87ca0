// Package runs is a part of the server: it answers what is asked of runs.
package runs

import (
	"sync"

	"github.com/hashicorp/golang-lru/v2/expirable"

	"oddspool/internal/mail"
	"oddspool/internal/prover"
	"oddspool/internal/server/designs"
	"oddspool/internal/server/handler"
	"oddspool/internal/server/printers"
)

// Runs answers what is asked of runs: what is printed, checked, scanned, and written into files and tags.
type Runs struct {
	handler.Base
	designs  *designs.Designs
	printers *printers.Printers
	mail     *mail.Sender // nil: no server is known
	out      string       // folder that labels are put into as files; empty: none is
	// files with labels of runs that are being written, *runFile by the numbers of runs: the latest of each
	writing sync.Map
	// how many labels were looked at of runs that are being proved, by their numbers
	proving sync.Map
	codes   *expirable.LRU[indexed, *prover.CodeIndex] // of runs whose labels were scanned lately
}

// New returns handlers on a base.
func New(base handler.Base, d *designs.Designs, p *printers.Printers, sender *mail.Sender, out string) *Runs {
	return &Runs{Base: base, designs: d, printers: p, mail: sender, out: out,
		codes: expirable.NewLRU[indexed, *prover.CodeIndex](indexedRuns, nil, 0)}
}
