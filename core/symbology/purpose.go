package symbology

import "oddspool/core/measure"

// A Purpose is where a GS1 symbol is scanned, which decides how large its modules and bars must be (GS1
// General Specifications, release 25, 5.12.3, symbol specification tables).
type Purpose string

// The purposes.
const (
	AnyPurpose   Purpose = ""
	Checkout     Purpose = "checkout"     // table 1: trade items at the till, not in distribution
	Distribution Purpose = "distribution" // table 2: trade items in distribution only
	Both         Purpose = "both"         // table 3: at the till and in distribution
	HandScanned  Purpose = "hand"         // table 4: trade items that are neither
	Logistic     Purpose = "logistic"     // table 5: logistic units
	Healthcare   Purpose = "healthcare"   // table 6: regulated healthcare items, not in retail
	Assets       Purpose = "assets"       // table 9: assets, documents and locations
)

// Purposes returns all purposes but AnyPurpose.
func Purposes() []Purpose {
	return []Purpose{Checkout, Distribution, Both, HandScanned, Logistic, Healthcare, Assets}
}

// Where tells the place in words, as in "GS1-128 on logistic units".
func (p Purpose) Where() string { return purposeWhere[p] }

var purposeWhere = map[Purpose]string{
	AnyPurpose: "anywhere", Checkout: "at the checkout", Distribution: "in distribution",
	Both:        "at tills and in distribution",
	HandScanned: "for items scanned by hand", Logistic: "on logistic units", Healthcare: "on healthcare items",
	Assets: "on assets and documents",
}

// A Size says how large a symbol should be for a purpose.
type Size struct {
	Purpose Purpose        `json:"purpose"`
	Least   measure.Length `json:"leastModule"`
	Usual   measure.Length `json:"usualModule"`
	Most    measure.Length `json:"mostModule"`            // 0: no limit
	Height  measure.Length `json:"leastHeight,omitempty"` // of the bars; 0: in proportion to the module, or none
}

// The sizes of symbologies that GS1 treats alike.
var (
	retailSizes = []Size{{Checkout, 264, 330, 660, 0}, {Distribution, 495, 660, 660, 0}, {Both, 495, 660, 660, 0},
		{HandScanned, 264, 330, 660, 0}, {Healthcare, 264, 330, 660, 0}}
	dataBarSizes = []Size{{Checkout, 264, 330, 660, 0}, {Distribution, 495, 660, 660, 0}, {Both, 495, 660, 660, 0},
		{Healthcare, 170, 200, 660, 0}}
	smallSizes = []Size{{Healthcare, 170, 200, 660, 0}}
	itf14Sizes = []Size{{Distribution, 495, 495, 1016, 31_750}, {HandScanned, 250, 495, 495, 12_700},
		{Healthcare, 170, 495, 495, 12_700}}
	gs1128Sizes = []Size{{Distribution, 495, 495, 1016, 31_750}, {HandScanned, 250, 495, 495, 12_700},
		{Logistic, 495, 495, 940, 31_750},
		{Healthcare, 170, 495, 495, 12_700}, {Assets, 250, 250, 495, 12_700}}
	gs1MatrixSizes = []Size{{Checkout, 396, 495, 990, 0}, {Distribution, 743, 743, 1500, 0},
		{HandScanned, 380, 380, 495, 0}, {Logistic, 743, 743, 1500, 0},
		{Healthcare, 254, 380, 990, 0}, {Assets, 380, 380, 495, 0}}
	gs1QRSizes = []Size{{Distribution, 743, 743, 1500, 0}, {HandScanned, 380, 380, 495, 0},
		{Logistic, 743, 743, 1500, 0}, {Assets, 380, 380, 495, 0}}
	linkSizes = []Size{{Checkout, 396, 495, 990, 0}}
)

// SizeFor returns the size of a symbology for a purpose. For AnyPurpose it is the range of its own
// standard; ok is false when GS1 has it not for that purpose.
func SizeFor(id ID, p Purpose) (size Size, ok bool) {
	kind := Of(id)
	if p == AnyPurpose {
		return Size{Least: kind.Least, Most: kind.MostModule}, true
	}
	for _, s := range kind.Sizes {
		if s.Purpose == p {
			return s, true
		}
	}
	return Size{}, false
}

// LeastModule returns the smallest module for a purpose in whole dots of a resolution.
func LeastModule(id ID, p Purpose, r measure.Resolution) int {
	size, _ := SizeFor(id, p)
	return DotsNotLess(size.Least, r)
}

// DotsNotLess returns the least dots, at least one, that are no shorter than a length.
func DotsNotLess(l measure.Length, r measure.Resolution) int {
	dots := max(r.Dots(l), 1)
	if r.Length(dots) < l {
		dots++
	}
	return dots
}

// LeastHeight returns how tall the bars of a linear symbol should be, at a module and a width of the bars:
// what the purpose says, or the symbology's proportion, or 5 mm and 15 per cent of the width (ISO/IEC
// 15417, 4.7.1.2, and its like of the others).
func LeastHeight(id ID, p Purpose, module, width measure.Length) measure.Length {
	const least, share = 5 * measure.Millimetre, 15 // per cent
	if size, ok := SizeFor(id, p); ok && size.Height > 0 {
		return size.Height
	}
	kind := Of(id)
	modules := kind.Tall
	if p == Checkout || p == Both {
		modules = max(modules, kind.TallAtTills)
	}
	if modules > 0 {
		return measure.Length(modules * float64(module))
	}
	return max(least, width*share/100)
}
