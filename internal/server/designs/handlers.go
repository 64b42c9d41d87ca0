// Package designs is a part of the server: it answers what is asked of designs.
package designs

import (
	"oddspool/internal/server/handler"
	"oddspool/internal/server/printers"
)

// Designs answers what is asked of designs, their pictures, parts and typefaces, and what their labels look like.
type Designs struct {
	handler.Base
	printers *printers.Printers
	seen     *seen
}

// New returns handlers on a base. Its error is that a cache cannot be made.
func New(base handler.Base, on *printers.Printers) (*Designs, error) {
	seen, err := newSeen()
	return &Designs{Base: base, printers: on, seen: seen}, err
}
