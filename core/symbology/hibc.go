package symbology

import (
	"strings"

	"oddspool/core/check"
	"oddspool/core/decode"
	"oddspool/core/gs1"
)

// The carriers of HIBC data.
const (
	HIBCCode39     ID = "hibc-code39"
	HIBCCode128    ID = "hibc-code128"
	HIBCDataMatrix ID = "hibc-datamatrix"
	HIBCQR         ID = "hibc-qr"
)

const (
	hibcStandard = "ANSI/HIBC 2 and 3"
	hibcHolds    = "labeler, product and unit, lot and dates of healthcare goods, as HIBC has them"
	hibcExample  = "A9995E1"
)

// hibcGiven says that the data has its link or check character already.
var hibcGiven = Option{ID: "checkDigit", Name: "Check character", Unset: "to be added",
	Choices: []Choice{{string(gs1.Given), "given"}}}

var hibcCode39Kind = Kind{
	ID: HIBCCode39, Name: "HIBC in Code 39",
	Standard: hibcStandard, Identifier: "]A0",
	Holds: hibcHolds, Example: hibcExample,
	Most:    "78 characters, which are wide",
	Readers: anyScanner,
	Uses:    "healthcare goods, where old scanners read them",
	Quiet:   10, Least: 190, Trade: true,
	Options: []Option{hibcGiven, ratio},
	Denser:  HIBCDataMatrix,
	Encode:  (*Symbol).hibcCode39, Widths: decode.Code39,
}

var hibcCode128Kind = Kind{
	ID: HIBCCode128, Name: "HIBC in Code 128",
	Standard: hibcStandard, Identifier: "]C0",
	Holds: hibcHolds, Example: hibcExample,
	Most:    "78 characters",
	Readers: anyScanner,
	Uses:    "healthcare goods",
	Quiet:   code128Quiet, Least: 190, Trade: true,
	Options: []Option{hibcGiven},
	Denser:  HIBCDataMatrix,
	Encode:  (*Symbol).hibcCode128, Widths: decode.Code128,
}

var hibcDataMatrixKind = Kind{
	ID: HIBCDataMatrix, Name: "HIBC in Data Matrix", Is2D: true, Reversed: true,
	Standard: hibcStandard, Identifier: "]d1",
	Holds: hibcHolds, Example: hibcExample,
	Most:    "78 characters",
	Readers: cameras,
	Uses:    "instruments and small healthcare goods",
	Quiet:   1, Least: 250, Trade: true,
	Options: []Option{hibcGiven, dmSizeOption, dmShapeOption},
	Encode:  (*Symbol).hibcDataMatrix, Modules: decode.DataMatrix,
}

var hibcQRKind = Kind{
	ID: HIBCQR, Name: "HIBC in QR Code", Is2D: true, Reversed: true,
	Standard: hibcStandard, Identifier: "]Q1",
	Holds: hibcHolds, Example: hibcExample,
	Most:    "78 characters",
	Readers: cameras,
	Uses:    "healthcare goods",
	Quiet:   4, Least: 250, Trade: true,
	Options: []Option{hibcGiven, levels("L", "M", "Q", "H"), versions(numbers(1, 40)...)},
	Encode:  (*Symbol).hibcQR, Modules: decode.QR,
}

// hibc returns data with its flag character, +, and its check character, the sum of the values of Code 39 modulo 43. It
// begins with the labeler's letter, with / where the provider's own data follow, or with $ or a digit as secondary data
// that stand for themselves (HIBC Supplier Labeling Standard, 2.2 and 2.3; Provider Applications Standard).
func hibc(text string, o Options) (string, error) {
	const longest = 78
	data := "+" + strings.TrimPrefix(text, "+")
	offset := len(data) - len(text)
	position := 0
	for _, r := range data {
		if position++; r > 127 || strings.IndexByte(check.Code39Letters, byte(r)) < 0 {
			return "", wrong(position-offset, "%s (character %d) is not in HIBC data; it takes capitals, digits and "+
				"- . $ / + %% and space.", printableRune(r), position-offset)
		}
	}
	first := byte(' ')
	if len(data) > 1 {
		first = data[1]
	}
	if first != '/' && first != '$' && !isDigit(first) && (first < 'A' || first > 'Z') {
		return "", wrong(0, "HIBC data begins with the labeler's letter, with / for the provider's own data, or with "+
			"$ or a digit for secondary data.")
	}
	if o.CheckDigit == gs1.Given {
		body := data[:len(data)-1]
		if want := check.Mod43(body); len(body) < 2 || data[len(data)-1] != want {
			return "", wrong(position-offset, "The check character of %s is “%c”, not “%c”.", body, want,
				data[len(data)-1])
		}
	} else {
		data += string(check.Mod43(data))
	}
	if len(data) > longest {
		return "", wrong(0, "%d characters are too many for HIBC data; it takes up to %d.", len(data), longest)
	}
	return data, nil
}

// hibcIn makes a symbol that says HIBC data, which people read between two stars.
func (s *Symbol) hibcIn(text string, o Options, carrier func(s *Symbol, data string, o Options) error) error {
	data, err := hibc(text, o)
	if err != nil {
		return err
	}
	o.CheckDigit = ""
	if err := carrier(s, data, o); err != nil {
		return err
	}
	s.Text = "*" + strings.ReplaceAll(data, " ", "_") + "*" // a space as the check character is shown so
	return nil
}

func (s *Symbol) hibcCode39(text string, o Options) error { return s.hibcIn(text, o, (*Symbol).code39) }
func (s *Symbol) hibcCode128(text string, o Options) error {
	return s.hibcIn(text, o, (*Symbol).code128)
}
func (s *Symbol) hibcDataMatrix(text string, o Options) error {
	return s.hibcIn(text, o, (*Symbol).dataMatrix)
}
func (s *Symbol) hibcQR(text string, o Options) error { return s.hibcIn(text, o, (*Symbol).qr) }
