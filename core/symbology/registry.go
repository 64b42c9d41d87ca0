package symbology

import (
	"fmt"
	"slices"
	"strconv"

	"oddspool/core/measure"
)

// A Guide says in plain words what a symbology is for, and holds everything that is peculiar to it.
type Guide struct {
	ID         ID     `json:"id"`
	Name       string `json:"name"`
	Standard   string `json:"standard"`
	Is2D       bool   `json:"2d"`
	Identifier string `json:"identifier"` // as readers send it before the data (ISO/IEC 15424)
	Holds      string `json:"holds"`
	Most       string `json:"most"`    // how much it holds
	Readers    string `json:"readers"` // who reads it
	Uses       string `json:"uses"`
	Quiet      int    `json:"quietZone"` // modules, on each side
	// that the standard, or the trade, goes down to; micrometres
	Least      measure.Length `json:"leastModule"`
	MostModule measure.Length `json:"mostModule,omitempty"` // that the standard goes up to; 0: no limit
	// against which its magnification is told; 0: it has none
	Nominal measure.Length `json:"nominalModule,omitempty"`
	// modules that bars are tall at least, where that is in proportion
	Tall        float64 `json:"tall,omitempty"`
	TallAtTills float64 `json:"tallAtTills,omitempty"` // the same at the checkout, where it is more
	Sizes       []Size  `json:"sizes,omitempty"`       // by purpose

	Ratio bool `json:"ratio,omitempty"` // has two widths
	Check bool `json:"check,omitempty"` // has a check character that may be left out
	// holds a GTIN, whose check digit is worked out where it is not given
	CheckDigit bool     `json:"checkDigit,omitempty"`
	AddOn      bool     `json:"addOn,omitempty"`    // may have an add-on of 2 or 5 digits
	Bearer     bool     `json:"bearer,omitempty"`   // has bearer bars above and below
	Levels     []string `json:"levels,omitempty"`   // of error correction
	Versions   []string `json:"versions,omitempty"` // that can be asked for
	Forms      []string `json:"forms,omitempty"`    // that can be asked for
	Matrices   []string `json:"matrices,omitempty"` // sizes in modules, rows by columns, that can be asked for
	Columns    int      `json:"columns,omitempty"`  // most columns that can be chosen; 0: there is no choice
	GS1        bool     `json:"gs1,omitempty"`      // holds application identifiers
	Link       bool     `json:"link,omitempty"`     // writes them as a web address

	// may be printed light on dark as well: its readers look for both
	Reversed bool `json:"reversed,omitempty"`

	Western bool `json:"western,omitempty"` // whether letters of western Europe are told can be chosen

	western westernLetters // how it says those
	encode  func(s *Symbol, text string, o Options) error
}

// The symbologies.
const (
	Code128                ID = "code128"
	GS1128                 ID = "gs1-128"
	Code39                 ID = "code39"
	Code39Full             ID = "code39-full"
	Code93                 ID = "code93"
	Codabar                ID = "codabar"
	Interleaved            ID = "interleaved2of5"
	ITF14                  ID = "itf14"
	EAN13                  ID = "ean13"
	EAN8                   ID = "ean8"
	UPCA                   ID = "upca"
	UPCE                   ID = "upce"
	Code11                 ID = "code11"
	MSI                    ID = "msi"
	Pharmacode             ID = "pharmacode"
	DataBar                ID = "databar"
	DataBarStacked         ID = "databar-stacked" // omnidirectional
	DataBarStackedLow      ID = "databar-stacked-low"
	DataBarLimited         ID = "databar-limited"
	DataBarExpanded        ID = "databar-expanded"
	DataBarExpandedStacked ID = "databar-expanded-stacked"
	MicroPDF417            ID = "micro-pdf417"
	GS1LinkQR              ID = "gs1-link-qr"
	GS1LinkDataMatrix      ID = "gs1-link-datamatrix"
	GS1Aztec               ID = "gs1-aztec"
	QR                     ID = "qr"
	GS1QR                  ID = "gs1-qr"
	MicroQR                ID = "micro-qr"
	RMQR                   ID = "rmqr"
	DataMatrix             ID = "datamatrix"
	GS1DataMatrix          ID = "gs1-datamatrix"
	Aztec                  ID = "aztec"
	PDF417                 ID = "pdf417"
)

const (
	anyScanner = "every scanner"
	cameras    = "cameras and telephones, no laser scanners"
)

// registry has a row for each symbology, linear ones first. It is filled by init, since its encoders look
// things up in it.
var registry []Guide

func init() {
	registry = []Guide{
		{ID: Code128, Name: "Code 128", Standard: "ISO/IEC 15417", Identifier: "]C0",
			Holds: "ASCII letters, digits, signs and control characters, and those of western Europe",
			Most:  "128 characters; two digits take the room of one", Readers: anyScanner,
			Uses:  "bins, cartons, documents: the first choice for a line of letters and digits",
			Quiet: code128Quiet, Least: 190, encode: (*Symbol).code128},
		{ID: GS1128, Name: "GS1-128", Standard: "GS1 General Specifications 5.4", Identifier: "]C1",
			Holds: "GS1 application identifiers with their values",
			Most:  "48 characters", Readers: anyScanner, Uses: "trade units and pallets: item, lot, dates, weights",
			Quiet: code128Quiet, Least: 250, GS1: true, Sizes: gs1128Sizes, encode: (*Symbol).gs1128},
		{ID: Code39, Name: "Code 39", Standard: "ISO/IEC 16388", Identifier: "]A0",
			Holds: "capitals, digits and - . $ / + % and space",
			Most:  "80 characters, which are wide", Readers: anyScanner, Uses: "old systems, badges, parts of vehicles",
			Quiet: 10, Least: 190, Ratio: true, Check: true, encode: (*Symbol).code39},
		{ID: Code39Full, Name: "Code 39, full ASCII", Standard: "ISO/IEC 16388, annex A", Identifier: "]A4",
			Holds: "ASCII, small letters and most signs as pairs",
			Most:  "40 to 80 characters", Readers: "scanners that are told so",
			Uses: "old systems that need small letters", Quiet: 10, Least: 190, Ratio: true, Check: true,
			encode: (*Symbol).code39Full},
		{ID: Code93, Name: "Code 93", Standard: "AIM USS-93", Identifier: "]G0",
			Holds: "ASCII; capitals and digits are short",
			Most:  "80 characters", Readers: "most scanners", Uses: "where Code 39 is too wide", Quiet: 10, Least: 190,
			encode: (*Symbol).code93},
		{ID: Codabar, Name: "Codabar", Standard: "EN 798", Identifier: "]F0",
			Holds: "digits and - $ : / . +, between start and stop A to D",
			Most:  "60 characters", Readers: anyScanner, Uses: "libraries, blood bags, old parcels", Quiet: 10,
			Least: 190, Ratio: true, Check: true, encode: (*Symbol).codabar},
		{ID: Interleaved, Name: "Interleaved 2 of 5", Standard: "ISO/IEC 16390", Identifier: "]I0",
			Holds: "digits, in pairs",
			Most:  "80 digits", Readers: anyScanner,
			Uses: "numbers on cartons; a part of it can be read as a shorter number, so fix the length", Quiet: 10,
			Least: 190, Ratio: true, Check: true, encode: (*Symbol).interleaved},
		{ID: ITF14, Name: "ITF-14", Standard: "GS1 General Specifications 5.3", Identifier: "]I1",
			Holds: "a GTIN of 14 digits",
			Most:  "14 digits", Readers: anyScanner, Uses: "cartons of trade items, printed on corrugated board",
			Quiet: 10, Least: 495, MostModule: 1016, Ratio: true, CheckDigit: true, Bearer: true, Sizes: itf14Sizes,
			encode: (*Symbol).itf14},
		{ID: EAN13, Name: "EAN-13", Standard: "ISO/IEC 15420", Identifier: "]E0",
			Holds: "a GTIN of 13 digits, and an add-on of 2 or 5",
			Most:  "13 digits", Readers: anyScanner, Uses: "retail", Quiet: 11, Least: 264, MostModule: 660,
			Nominal: 330, Tall: 22.85 / 0.33, CheckDigit: true, AddOn: true, Sizes: retailSizes,
			encode: (*Symbol).ean13},
		{ID: EAN8, Name: "EAN-8", Standard: "ISO/IEC 15420", Identifier: "]E4",
			Holds: "a GTIN of 8 digits, and an add-on of 2 or 5",
			Most:  "8 digits", Readers: anyScanner, Uses: "small retail items", Quiet: 7, Least: 264, MostModule: 660,
			Nominal: 330, Tall: 18.23 / 0.33, CheckDigit: true, AddOn: true, Sizes: retailSizes,
			encode: (*Symbol).ean8},
		{ID: UPCA, Name: "UPC-A", Standard: "ISO/IEC 15420", Identifier: "]E0",
			Holds: "a GTIN of 12 digits, and an add-on of 2 or 5",
			Most:  "12 digits", Readers: anyScanner, Uses: "retail in North America", Quiet: 9, Least: 264,
			MostModule: 660, Nominal: 330, Tall: 22.85 / 0.33, CheckDigit: true, AddOn: true, Sizes: retailSizes,
			encode: (*Symbol).upca},
		{ID: UPCE, Name: "UPC-E", Standard: "ISO/IEC 15420", Identifier: "]E0",
			Holds: "a GTIN of 12 digits whose zeros can be left out, and an add-on of 2 or 5",
			Most:  "8 digits", Readers: anyScanner, Uses: "small retail items in North America", Quiet: 9, Least: 264,
			MostModule: 660, Nominal: 330, Tall: 22.85 / 0.33, CheckDigit: true, AddOn: true, Sizes: retailSizes,
			encode: (*Symbol).upce},
		{ID: Code11, Name: "Code 11", Standard: "AIM USD-8", Identifier: "]H0", Holds: "digits and -",
			Most: "80 characters", Readers: "few scanners unless told so", Uses: "telephone equipment", Quiet: 10,
			Least: 190, Ratio: true, Check: true, encode: (*Symbol).code11},
		{ID: MSI, Name: "MSI", Standard: "the shelf-label trade's own", Identifier: "]M0", Holds: "digits",
			Most: "60 digits", Readers: "few scanners unless told so", Uses: "shelves in shops", Quiet: 12, Least: 190,
			Ratio: true, Check: true, encode: (*Symbol).msi},
		{ID: Pharmacode, Name: "Pharmacode", Standard: "the packaging trade's own", Identifier: "]X0",
			Holds: "a number from 3 to 131070",
			Most:  "one number", Readers: "scanners on packing lines",
			Uses: "checking that the right leaflet or box is packed", Quiet: 12, Least: 500,
			encode: (*Symbol).pharmacode},
		{ID: DataBar, Name: "GS1 DataBar", Standard: "ISO/IEC 24724", Identifier: "]e0", Holds: "a GTIN",
			Most: "14 digits", Readers: "scanners of shops, and most others",
			Uses:  "fruit, loose goods and coupons: smaller than EAN-13; with low bars it is the truncated form",
			Quiet: 1, Least: 170, GS1: true, Tall: 13, TallAtTills: 46, CheckDigit: true, Sizes: dataBarSizes,
			encode: (*Symbol).dataBar},
		{ID: DataBarStacked, Name: "GS1 DataBar Stacked Omnidirectional", Standard: "ISO/IEC 24724", Is2D: true,
			Identifier: "]e0", Holds: "a GTIN",
			Most: "14 digits", Readers: "scanners of shops, and most others",
			Uses: "fruit and loose goods, where the label is narrow: read from any side", Quiet: 1, Least: 170,
			GS1: true, CheckDigit: true, Sizes: dataBarSizes, encode: (*Symbol).dataBarStackedOmni},
		{ID: DataBarStackedLow, Name: "GS1 DataBar Stacked", Standard: "ISO/IEC 24724", Is2D: true, Identifier: "]e0",
			Holds: "a GTIN",
			Most:  "14 digits", Readers: "hand-held scanners, not those of checkouts",
			Uses: "very small items, where the label is narrow: 13 modules high", Quiet: 1, Least: 170, GS1: true,
			CheckDigit: true, Sizes: smallSizes, encode: (*Symbol).dataBarStacked},
		{ID: DataBarLimited, Name: "GS1 DataBar Limited", Standard: "ISO/IEC 24724", Identifier: "]e0",
			Holds: "a GTIN that begins with 0 or 1",
			Most:  "14 digits", Readers: "hand-held scanners, not those of checkouts",
			Uses: "very small items, medicines", Quiet: 1, Least: 170, GS1: true, Tall: 10, CheckDigit: true,
			Sizes: smallSizes, encode: (*Symbol).dataBarLimited},
		{ID: DataBarExpanded, Name: "GS1 DataBar Expanded", Standard: "ISO/IEC 24724", Identifier: "]e0",
			Holds: "GS1 application identifiers with their values",
			Most:  "74 digits or 41 letters", Readers: "scanners of shops, and most others",
			Uses: "weighed goods with weight, price and date; coupons", Quiet: 1, Least: 170, GS1: true, Tall: 34,
			Sizes: dataBarSizes, encode: (*Symbol).dataBarExpanded},
		{ID: DataBarExpandedStacked, Name: "GS1 DataBar Expanded Stacked", Standard: "ISO/IEC 24724", Is2D: true,
			Identifier: "]e0", Holds: "GS1 application identifiers with their values",
			Most: "74 digits or 41 letters", Readers: "scanners of shops, and most others",
			Uses: "as GS1 DataBar Expanded, where the label is narrow", Quiet: 1, Least: 170, GS1: true, Columns: 11,
			Sizes: dataBarSizes, encode: (*Symbol).dataBarExpandedStacked},
		{ID: QR, Name: "QR Code", Standard: "ISO/IEC 18004", Is2D: true, Reversed: true, Identifier: "]Q1",
			Holds: "anything: digits, capitals, UTF-8 text, bytes, kanji",
			Most:  "7,089 digits, 4,296 capitals or 2,953 bytes", Readers: cameras,
			Uses: "addresses on the web, much data, people with telephones", Quiet: 4, Least: 250,
			Levels: []string{"L", "M", "Q", "H"}, Versions: numbers(1, 40, 1), encode: (*Symbol).qr},
		{ID: GS1QR, Name: "GS1 QR Code", Standard: "GS1 General Specifications 5.6", Is2D: true, Reversed: true,
			Identifier: "]Q3",
			Holds:      "GS1 application identifiers with their values",
			Most:       "as QR Code", Readers: cameras, Uses: "trade items, with data for people too", Quiet: 4,
			Least:  396,
			Levels: []string{"L", "M", "Q", "H"}, Versions: numbers(1, 40, 1), GS1: true, Sizes: gs1QRSizes,
			encode: (*Symbol).gs1QR},
		{ID: MicroQR, Name: "Micro QR Code", Standard: "ISO/IEC 18004", Is2D: true, Identifier: "]Q1",
			Holds: "digits, capitals, kanji, the characters of western Europe",
			Most:  "35 digits, 21 capitals or 15 others", Readers: "cameras, but few telephones",
			Uses: "small parts, where QR Code is too large", Quiet: 2, Least: 250, Levels: []string{"L", "M", "Q"},
			Versions: []string{"M1", "M2", "M3", "M4"}, Western: true, western: guessedLetters,
			encode: (*Symbol).microQR},
		{ID: RMQR, Name: "rMQR Code", Standard: "ISO/IEC 23941", Is2D: true, Identifier: "]Q1",
			Holds: "digits, capitals, UTF-8 text, bytes, kanji",
			Most:  "361 digits, 219 capitals or 150 others", Readers: "cameras, but few telephones",
			Uses: "long, low labels: tubes, edges of shelves, cables", Quiet: 2, Least: 250, Levels: []string{"M", "H"},
			Versions: rmqrNames(), encode: (*Symbol).rmqr},
		{ID: DataMatrix, Name: "Data Matrix", Standard: "ISO/IEC 16022", Is2D: true, Reversed: true, Identifier: "]d1",
			Holds: "anything: digits, letters, bytes",
			Most:  "3,116 digits, 2,335 letters or 1,555 bytes", Readers: cameras,
			Uses: "the smallest code for its data: parts, boards, small labels", Quiet: 1, Least: 250,
			Matrices: matrices(), Western: true, western: toldLetters, encode: (*Symbol).dataMatrix},
		{ID: GS1DataMatrix, Name: "GS1 DataMatrix", Standard: "GS1 General Specifications 5.5", Is2D: true,
			Reversed:   true,
			Identifier: "]d2", Holds: "GS1 application identifiers with their values",
			Most: "as Data Matrix", Readers: cameras, Uses: "medicines, instruments, direct marking", Quiet: 1,
			Least: 254, GS1: true, Matrices: matrices(), Sizes: gs1MatrixSizes, encode: (*Symbol).gs1DataMatrix},
		{ID: Aztec, Name: "Aztec Code", Standard: "ISO/IEC 24778", Is2D: true, Reversed: true, Identifier: "]z0",
			Holds: "anything: text, digits, bytes; a rune says a number up to 255",
			Most:  "3,832 digits or 1,914 bytes", Readers: cameras,
			Uses: "tickets, and where no room is left for a quiet zone", Quiet: 0, Least: 250,
			Levels: numbers(5, 95, 5), Forms: []string{"compact", "full", "rune"}, Western: true, western: toldLetters,
			encode: (*Symbol).aztec},
		{ID: GS1LinkQR, Name: "QR Code with GS1 Digital Link", Standard: "GS1 Digital Link Standard: URI Syntax",
			Is2D: true, Reversed: true, Identifier: "]Q1",
			Holds: "GS1 application identifiers with their values, as a web address",
			Most:  "as QR Code", Readers: cameras, Uses: "trade items that tills scan and people look up", Quiet: 4,
			Least: 396, Levels: []string{"L", "M", "Q", "H"}, Versions: numbers(1, 40, 1), GS1: true, Link: true,
			Sizes: linkSizes, encode: (*Symbol).linkQR},
		{ID: GS1LinkDataMatrix, Name: "Data Matrix with GS1 Digital Link",
			Standard: "GS1 Digital Link Standard: URI Syntax", Is2D: true, Reversed: true, Identifier: "]d1",
			Holds: "GS1 application identifiers with their values, as a web address",
			Most:  "as Data Matrix", Readers: cameras, Uses: "trade items that tills scan, where there is little room",
			Quiet: 1, Least: 396, GS1: true, Link: true, Matrices: matrices(), Sizes: linkSizes,
			encode: (*Symbol).linkDataMatrix},
		{ID: GS1Aztec, Name: "Aztec Code with GS1 data", Standard: "ISO/IEC 24778, annex F", Is2D: true, Reversed: true,
			Identifier: "]z1", Holds: "GS1 application identifiers with their values",
			Most: "as Aztec Code", Readers: cameras, Uses: "trade items whose partners have agreed on it", Quiet: 0,
			Least: 250, Levels: numbers(5, 95, 5), Forms: []string{"compact", "full"}, GS1: true,
			encode: (*Symbol).gs1Aztec},
		{ID: PDF417, Name: "PDF417", Standard: "ISO/IEC 15438", Is2D: true, Identifier: "]L0",
			Holds: "text, digits, bytes",
			Most:  "2,710 digits, 1,850 letters or 1,108 bytes", Readers: "laser scanners made for it, and cameras",
			Uses: "papers, licences, shipping labels", Quiet: 2, Least: 170, Levels: numbers(0, 8, 1),
			Columns: pdf417MostColumns, Western: true, western: toldLetters, encode: (*Symbol).pdf417},
		{ID: MicroPDF417, Name: "MicroPDF417", Standard: "ISO/IEC 24728", Is2D: true, Identifier: "]L0",
			Holds: "text, digits, bytes",
			Most:  "366 digits, 250 letters or 150 bytes", Readers: "scanners made for it, and cameras",
			Uses: "small labels whose readers want rows, as with PDF417", Quiet: 1, Least: 170, Columns: 4,
			Western: true, western: toldLetters, encode: (*Symbol).microPDF417},
	}
}

// numbers returns whole numbers from first to last as words.
func numbers(first, last, step int) (words []string) {
	for n := first; n <= last; n += step {
		words = append(words, strconv.Itoa(n))
	}
	return words
}

// matrices returns the sizes of Data Matrix as they can be asked for.
func matrices() (sizes []string) {
	for _, size := range dmSizes {
		sizes = append(sizes, fmt.Sprintf("%dx%d", size.h, size.w))
	}
	return sizes
}

func rmqrNames() (names []string) {
	for i := range rmqrVersions {
		names = append(names, rmqrVersions[i].name())
	}
	return names
}

// GuideOf returns the guide of a symbology; an empty one when it is not known.
func GuideOf(id ID) Guide {
	if known := find(id); known != nil {
		return *known
	}
	return Guide{}
}

// Guides returns all symbologies, linear ones first.
func Guides() []Guide { return slices.Clone(registry) }
