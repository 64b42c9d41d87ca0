package symbology

// A Purpose is where a GS1 symbol is scanned, which decides how large its modules and bars must be
// (GS1 General Specifications, 5.12.3, symbol specification tables).
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

// Where tells the place in words, as in "GS1-128 on logistic units".
func (p Purpose) Where() string { return purposeWhere[p] }

var purposeWhere = map[Purpose]string{
	AnyPurpose: "anywhere", Checkout: "at the checkout", Distribution: "in distribution", Both: "at tills and in distribution",
	HandScanned: "for items scanned by hand", Logistic: "on logistic units", Healthcare: "on healthcare items", Assets: "on assets and documents",
}

// A Size says how large a symbol should be for a purpose, in micrometres.
type Size struct {
	Purpose Purpose `json:"purpose"`
	Least   int     `json:"leastModule"`
	Usual   int     `json:"usualModule"`
	Most    int     `json:"mostModule"`
	Height  int     `json:"leastHeight,omitempty"` // of the bars; 0: in proportion to the module, or none
}

type purposeSize struct {
	id ID
	Size
}

// purposeSizes are the rows of the tables for the symbologies here.
var purposeSizes = []purposeSize{
	{EAN13, Size{Checkout, 264, 330, 660, 0}}, {EAN8, Size{Checkout, 264, 330, 660, 0}}, {UPCA, Size{Checkout, 264, 330, 660, 0}}, {UPCE, Size{Checkout, 264, 330, 660, 0}},
	{DataBar, Size{Checkout, 264, 330, 660, 0}}, {DataBarStacked, Size{Checkout, 264, 330, 660, 0}},
	{DataBarExpanded, Size{Checkout, 264, 330, 660, 0}}, {DataBarExpandedStacked, Size{Checkout, 264, 330, 660, 0}},
	{GS1LinkQR, Size{Checkout, 396, 495, 990, 0}}, {GS1LinkDataMatrix, Size{Checkout, 396, 495, 990, 0}}, {GS1DataMatrix, Size{Checkout, 396, 495, 990, 0}},

	{EAN13, Size{Distribution, 495, 660, 660, 0}}, {EAN8, Size{Distribution, 495, 660, 660, 0}}, {UPCA, Size{Distribution, 495, 660, 660, 0}}, {UPCE, Size{Distribution, 495, 660, 660, 0}},
	{ITF14, Size{Distribution, 495, 495, 1016, 31_750}}, {GS1128, Size{Distribution, 495, 495, 1016, 31_750}},
	{DataBarExpanded, Size{Distribution, 495, 660, 660, 0}}, {DataBarExpandedStacked, Size{Distribution, 495, 660, 660, 0}},
	{GS1DataMatrix, Size{Distribution, 743, 743, 1500, 0}}, {GS1QR, Size{Distribution, 743, 743, 1500, 0}},

	{EAN13, Size{Both, 495, 660, 660, 0}}, {EAN8, Size{Both, 495, 660, 660, 0}}, {UPCA, Size{Both, 495, 660, 660, 0}}, {UPCE, Size{Both, 495, 660, 660, 0}},
	{DataBarExpanded, Size{Both, 495, 660, 660, 0}}, {DataBarExpandedStacked, Size{Both, 495, 660, 660, 0}},

	{EAN13, Size{HandScanned, 264, 330, 660, 0}}, {EAN8, Size{HandScanned, 264, 330, 660, 0}}, {UPCA, Size{HandScanned, 264, 330, 660, 0}}, {UPCE, Size{HandScanned, 264, 330, 660, 0}},
	{ITF14, Size{HandScanned, 250, 495, 495, 12_700}}, {GS1128, Size{HandScanned, 250, 495, 495, 12_700}},
	{GS1DataMatrix, Size{HandScanned, 380, 380, 495, 0}}, {GS1QR, Size{HandScanned, 380, 380, 495, 0}},

	{GS1128, Size{Logistic, 495, 495, 940, 31_750}}, {GS1DataMatrix, Size{Logistic, 743, 743, 1500, 0}}, {GS1QR, Size{Logistic, 743, 743, 1500, 0}},

	{GS1DataMatrix, Size{Healthcare, 254, 380, 990, 0}}, {GS1128, Size{Healthcare, 170, 495, 495, 12_700}}, {ITF14, Size{Healthcare, 170, 495, 495, 12_700}},
	{EAN13, Size{Healthcare, 264, 330, 660, 0}}, {DataBarLimited, Size{Healthcare, 170, 200, 660, 0}}, {DataBarStacked, Size{Healthcare, 170, 200, 660, 0}},

	{GS1128, Size{Assets, 250, 250, 495, 12_700}}, {GS1DataMatrix, Size{Assets, 380, 380, 495, 0}}, {GS1QR, Size{Assets, 380, 380, 495, 0}},
}

// Sizes returns the purposes that GS1 has a symbology for, with their sizes.
func Sizes(id ID) (sizes []Size) {
	for _, s := range purposeSizes {
		if s.id == id {
			sizes = append(sizes, s.Size)
		}
	}
	return sizes
}

// SizeFor returns the size of a symbology for a purpose. For AnyPurpose it is the range of its own
// standard; ok is false when GS1 has it not for that purpose.
func SizeFor(id ID, p Purpose) (size Size, ok bool) {
	if p == AnyPurpose {
		guide := GuideOf(id)
		return Size{Least: guide.Least, Most: guide.MostModule}, true
	}
	for _, s := range Sizes(id) {
		if s.Purpose == p {
			return s, true
		}
	}
	return Size{}, false
}

// leastModules are how tall the bars must be in modules, where that is in proportion: EAN and UPC at
// their nominal size of 0.33 mm are 22.85 mm, EAN-8 is 18.23 mm (ISO/IEC 15420, 5.2.3); the heights of
// GS1 DataBar are those of ISO/IEC 24724 (5.3.1, 6.3, 7.2.8), where 13 modules are the truncated form.
var leastModules = map[ID]float64{
	EAN13: 22.85 / 0.33, UPCA: 22.85 / 0.33, UPCE: 22.85 / 0.33, EAN8: 18.23 / 0.33,
	DataBar: 13, DataBarLimited: 10, DataBarExpanded: 34,
}

// LeastHeight returns how tall the bars of a linear symbol should be in micrometres, at a module and a
// width of so many: what the purpose says, or the symbology's proportion, or 5 mm and 15 per cent of
// the width (ISO/IEC 15417, 4.7.1.2, and its like of the others).
func LeastHeight(id ID, p Purpose, module, width int) int {
	const least, share = 5000, 0.15
	if size, ok := SizeFor(id, p); ok && size.Height > 0 {
		return size.Height
	}
	if modules, ok := leastModules[id]; ok {
		return int(modules * float64(module))
	}
	return max(least, int(share*float64(width)))
}
