// Package safety is a part of the server: it answers what is asked of safety.
package safety

import "oddspool/internal/server/handler"

// Safety answers what is asked of symbols, hazards, signs and pipes, and of the reference packs with their rules.
type Safety struct {
	handler.Base
	packs  packs
	issuer Issuer // of packs
}

// New returns handlers on a base.
func New(base handler.Base, issuer Issuer) *Safety {
	return &Safety{Base: base, issuer: issuer, packs: packs{Store: base.Store}}
}
