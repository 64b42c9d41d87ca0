// Package printers is a part of the server: it answers what is asked of printers.
package printers

import "oddspool/internal/server/handler"

// Printers answers what is asked of printers, their stocks and rolls.
type Printers struct {
	handler.Base
	Floor *Floor
}

// New returns handlers on a base.
func New(base handler.Base) *Printers {
	return &Printers{Base: base, Floor: newFloor(base.Clients)}
}
