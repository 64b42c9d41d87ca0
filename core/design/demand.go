package design

import (
	"fmt"
	"slices"

	"oddspool/core/measure"
	"oddspool/core/stock"
)

// A Demand is what the rules of a safety label ask of one of its elements. It is written when the label is laid out and
// stays with the design, so that the proof still knows it after the stock, the printer or the element was changed.
type Demand struct {
	Of      string         `json:"of"`                // the label it belongs to: chemical, sign, pipe or diamond
	Element string         `json:"element,omitempty"` // its id; empty: the label as a whole
	Asks    Ask            `json:"asks"`              //
	Colour  stock.Ink      `json:"colour,omitempty"`  // of AsksFill and AsksInk
	Least   measure.Length `json:"least,omitempty"`   // of a size
	Says    string         `json:"says,omitempty"`    // of AsksWords
	// why, with the clause, as the end of a sentence: "for a pipe of 60 mm (…)"
	Rule      string     `json:"rule"`
	When      *Condition `json:"when,omitempty"`      // it is asked on labels of such records alone
	Advice    bool       `json:"advice,omitempty"`    // the rule says "should" or "if possible": a warning
	Overruled string     `json:"overruled,omitempty"` // the reason why it is not kept to; empty: it is
}

// An Ask is what of an element a demand is about.
type Ask string

// The asks.
const (
	AsksFill     Ask = "fill"     // it is filled with Colour, or the stock has that colour
	AsksInk      Ask = "ink"      // its words or symbol are in Colour
	AsksColours  Ask = "colours"  // a symbol is in the colours of its standard
	AsksCapitals Ask = "capitals" // capitals are Least high
	AsksSmall    Ask = "small"    // the smallest type of the whole label has small letters Least high
	AsksWidth    Ask = "width"    // it is Least wide; without an element, the longer side of the label is
	AsksHeight   Ask = "height"   // it is Least high; without an element, the shorter side of the label is
	AsksWords    Ask = "words"    // it says Says
	AsksPresence Ask = "presence" // it stands on the label
	AsksKnown    Ask = "known"    // no record is as When has it: the label was not laid out for those
)

// demandFaults are what demands lack.
func (d *Design) demandFaults() (faults []Fault) {
	for i, demand := range d.Demands {
		path := fmt.Sprintf("demands[%d]", i)
		whole := slices.Contains([]Ask{AsksSmall, AsksWidth, AsksHeight, AsksKnown}, demand.Asks)
		switch {
		case demand.Asks == AsksKnown && demand.When == nil:
			faults = append(faults, Fault{path + ".when", "It says for which records the label was not laid out."})
		case (demand.Asks == AsksFill || demand.Asks == AsksInk) && demand.Colour == "":
			faults = append(faults, Fault{path + ".colour", "It says which colour is asked for."})
		case demand.Element == "" && !whole || demand.Element != "" &&
			(demand.Asks == AsksSmall || demand.Asks == AsksKnown):
			faults = append(faults, Fault{path + ".element",
				"Small letters and known records are asked of the whole label, sizes of that or an element, all else " +
					"of an element."})
		}
	}
	return faults
}

// same tells whether two demands ask the same, whatever was overruled.
func (a Demand) same(b Demand) bool {
	a.Overruled, b.Overruled = "", ""
	when := a.When == b.When || a.When != nil && b.When != nil && a.When.Field == b.When.Field &&
		a.When.Is == b.When.Is && slices.Equal(a.When.Values, b.When.Values)
	a.When, b.When = nil, nil
	return when && a == b
}

// Overruling returns made with the reasons that before gives for the same demands: laying a label out again as it was
// keeps them.
func Overruling(made, before []Demand) []Demand {
	for i := range made {
		if at := slices.IndexFunc(before, made[i].same); at >= 0 {
			made[i].Overruled = before[at].Overruled
		}
	}
	return made
}
