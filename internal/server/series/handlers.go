// Package series is a part of the server: it answers what is asked of series.
package series

import (
	"oddspool/internal/server/handler"
	"oddspool/internal/server/runs"
)

// Series answers what is asked of series of numbers and of the numbers that labels have.
type Series struct {
	handler.Base
	runs *runs.Runs
}

// New returns handlers on a base.
func New(base handler.Base, of *runs.Runs) *Series {
	return &Series{Base: base, runs: of}
}
