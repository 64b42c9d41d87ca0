// Package stock holds what labels are printed on and by what: stocks, printers, and whether the
// one fits the other. Directions are the web's own: across is from the left edge of the web to
// the right as it leaves the printer, along is the way it moves.
//
//	            across ─────────▶
//	┌──────┬────────────┬──────┐  ▲
//	│ edge │   label    │ edge │  │ feed
//	│ left │            │ right│  │
//	├──────┴────────────┴──────┤
//	│           gap            │
//	├──────┬────────────┬──────┤
//	│      │   label    │      │
package stock

import (
	"fmt"

	"oddspool/core/measure"
)

// A Kind is what a stock is made up as.
type Kind string

// The kinds of stock.
const (
	DieCut Kind = "die-cut" // labels cut out on a liner, with a gap between two
)

// A Shape is the outline of a label.
type Shape string

// The outlines a label can have.
const (
	Rectangle Shape = "rectangle"
	Rounded   Shape = "rounded" // a rectangle with CornerRadius
)

// A Stock is a material as it is bought: everything about it that a label, a printer or a person
// must know. Lengths are micrometres.
type Stock struct {
	Number       string         `json:"number,omitempty"` // the plant's own number, such as S-076
	Name         string         `json:"name"`
	Kind         Kind           `json:"kind"`
	Material     string         `json:"material,omitempty"`
	Shape        Shape          `json:"shape"`
	CornerRadius measure.Length `json:"cornerRadius,omitempty"`
	Width        measure.Length `json:"width"`  // of one label, across
	Length       measure.Length `json:"length"` // of one label, along
	Gap          measure.Length `json:"gap"`    // between two labels, along
	EdgeLeft     measure.Length `json:"edgeLeft,omitempty"`
	EdgeRight    measure.Length `json:"edgeRight,omitempty"`
	PerRoll      int            `json:"perRoll,omitempty"` // labels on a full roll; 0: not known
}

// WebWidth returns the width of the whole web: label and both liner edges.
func (s Stock) WebWidth() measure.Length { return s.EdgeLeft + s.Width + s.EdgeRight }

// Pitch returns the way the web moves for one label: label and gap.
func (s Stock) Pitch() measure.Length { return s.Length + s.Gap }

// A Reason says why something cannot be, with the figures that clash and what to do.
type Reason struct {
	Field string `json:"field"` // the figure to change, as named in JSON
	Text  string `json:"text"`
}

// Check returns what is impossible about the stock by itself; nil when nothing is.
func (s Stock) Check() []Reason {
	var reasons []Reason
	say := func(field, format string, args ...any) {
		reasons = append(reasons, Reason{field, fmt.Sprintf(format, args...)})
	}
	if s.Kind != DieCut {
		say("kind", "The kind of stock %q is not known; use %q.", s.Kind, DieCut)
	}
	if s.Shape != Rectangle && s.Shape != Rounded {
		say("shape", "The shape %q is not known; use %q or %q.", s.Shape, Rectangle, Rounded)
	}
	for _, size := range []struct {
		field  string
		length measure.Length
	}{{"width", s.Width}, {"length", s.Length}} {
		if size.length < 2*measure.Millimetre || size.length > 2000*measure.Millimetre {
			say(size.field, "A label's %s of %v is impossible: it can be from 2 mm to 2 m.", size.field, size.length)
		}
	}
	for _, edge := range []struct {
		field, name string
		length      measure.Length
	}{{"gap", "gap", s.Gap}, {"edgeLeft", "left liner edge", s.EdgeLeft}, {"edgeRight", "right liner edge", s.EdgeRight}} {
		if edge.length < 0 || edge.length > 200*measure.Millimetre {
			say(edge.field, "A %s of %v is impossible: it can be from 0 to 200 mm.", edge.name, edge.length)
		}
	}
	if half := min(s.Width, s.Length) / 2; s.CornerRadius < 0 || s.CornerRadius > half {
		say("cornerRadius", "A corner radius of %v does not fit this label: it can be from 0 to %v.", s.CornerRadius, half)
	}
	if s.PerRoll < 0 {
		say("perRoll", "%d labels on a roll are impossible.", s.PerRoll)
	}
	return reasons
}
