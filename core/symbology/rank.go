package symbology

import (
	"cmp"
	"slices"

	"oddspool/core/measure"
)

// A Suit is how a symbology suits some values on a printer.
type Suit struct {
	ID     ID
	Fails  int    // values it cannot hold
	Why    string // of the first of them
	Module int    // dots, the smallest sensible at this printer
	Wide   int    // dots of the largest symbol, with quiet zones
	Tall   int    // dots; of a linear code what LeastHeight says
}

// Rank returns how each symbology suits some values at a resolution: those that hold all of them
// first, the smallest before larger ones and those of one trade last.
func Rank(values []string, r measure.Resolution) []Suit {
	var suits []Suit
	var s Symbol
	for _, kind := range kinds {
		suit := Suit{ID: kind.ID, Module: LeastModule(kind.ID, AnyPurpose, r)}
		for _, value := range values {
			if err := s.Encode(kind.ID, value, Options{}); err != nil {
				if suit.Fails++; suit.Fails == 1 {
					suit.Why = err.Error()
				}
				continue
			}
			wide, tall := s.DotsWithQuiet(suit.Module)
			if !s.Is2D() {
				bars := r.Length(s.DotsWide(suit.Module))
				tall = DotsNotLess(LeastHeight(kind.ID, AnyPurpose, r.Length(suit.Module), bars), r)
			}
			if wide*tall > suit.Wide*suit.Tall {
				suit.Wide, suit.Tall = wide, tall
			}
		}
		suits = append(suits, suit)
	}
	slices.SortStableFunc(suits, func(a, b Suit) int {
		if c := cmp.Compare(a.Fails, b.Fails); c != 0 {
			return c
		}
		if aTrade, bTrade := Of(a.ID).Trade, Of(b.ID).Trade; aTrade != bTrade {
			if bTrade {
				return -1
			}
			return 1
		}
		return cmp.Compare(a.Wide*a.Tall, b.Wide*b.Tall)
	})
	return suits
}
