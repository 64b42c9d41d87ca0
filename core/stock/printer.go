package stock

import (
	"fmt"

	"oddspool/core/measure"
)

// A Printer is what a label printer can do, as far as a label must know.
type Printer struct {
	Name       string             `json:"name"`
	Resolution measure.Resolution `json:"resolution"`
	HeadDots   int                `json:"headDots"`            // dots across the head
	MaxLength  measure.Length     `json:"maxLength,omitempty"` // longest label along the feed; 0: 1 m
	Speed      int                `json:"speed,omitempty"`     // mm/s at most; 0: not known
}

// LongestLabel returns the longest label the printer takes along the feed.
func (p Printer) LongestLabel() measure.Length {
	if p.MaxLength > 0 {
		return p.MaxLength
	}
	return 1000 * measure.Millimetre
}

// HeadWidth returns what the head can print across.
func (p Printer) HeadWidth() measure.Length { return p.Resolution.Length(p.HeadDots) }

// Check returns what is impossible about the printer by itself; nil when nothing is.
func (p Printer) Check() []Reason {
	var reasons []Reason
	if !p.Resolution.Valid() {
		reasons = append(reasons, Reason{"resolution", `The printer's resolution is missing; write it like "8 dots/mm" or "300 dpi".`})
	}
	if p.HeadDots < 8 || p.HeadDots > 40_000 {
		reasons = append(reasons, Reason{"headDots", fmt.Sprintf("A head of %d dots is impossible: it can have 8 to 40,000.", p.HeadDots)})
	}
	if p.MaxLength < 0 || p.Speed < 0 {
		reasons = append(reasons, Reason{"maxLength", "The longest label and the speed cannot be below zero."})
	}
	return reasons
}

// Fit returns why the printer cannot print the stock; nil when it can. The web runs under the
// middle of the head.
func Fit(s Stock, p Printer) []Reason {
	reasons := append(s.Check(), p.Check()...)
	if reasons != nil {
		return reasons
	}
	if head := p.HeadWidth(); s.Width > head {
		reasons = append(reasons, Reason{"width", fmt.Sprintf(
			"The label is %v wide and the head of %s prints %v: choose a label at most %v wide.", s.Width, p.Name, head, head)})
	}
	if longest := p.LongestLabel(); s.Length > longest {
		reasons = append(reasons, Reason{"length", fmt.Sprintf(
			"The label is %v long and %s takes %v: choose a shorter label.", s.Length, p.Name, longest)})
	}
	return reasons
}
