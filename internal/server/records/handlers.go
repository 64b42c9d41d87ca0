// Package records is a part of the server: it answers what is asked of records.
package records

import (
	"oddspool/internal/server/designs"
	"oddspool/internal/server/handler"
)

// Records answers what is asked of record sets, choices of records, and connections to where they come from.
type Records struct {
	handler.Base
	designs *designs.Designs
	held    held
}

// New returns handlers on a base.
func New(base handler.Base, of *designs.Designs) *Records {
	return &Records{Base: base, designs: of}
}
