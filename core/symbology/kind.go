package symbology

import (
	"oddspool/core/decode"
	"oddspool/core/measure"
	"oddspool/core/refusal"
)

// A Kind is a symbology: in plain words what it is for, what can be chosen about it, and how it is encoded and decoded.
// Each is one value, in the file of its rules; All lists them.
type Kind struct {
	ID         ID     `json:"id"`
	Name       string `json:"name"`
	Standard   string `json:"standard"`
	Is2D       bool   `json:"2d"`
	Identifier string `json:"identifier"` // as readers send it before the data (ISO/IEC 15424)

	Holds   string `json:"holds"`
	Most    string `json:"most"`    // how much it holds
	Readers string `json:"readers"` // who reads it
	Uses    string `json:"uses"`
	Example string `json:"example"` // data that it holds

	Quiet       int            `json:"quietZone"`               // modules, on each side
	Least       measure.Length `json:"leastModule"`             // that the standard, or the trade, goes down to
	MostModule  measure.Length `json:"mostModule,omitempty"`    // that the standard goes up to; 0: no limit
	Nominal     measure.Length `json:"nominalModule,omitempty"` // against which its magnification is told; 0: none
	Tall        float64        `json:"tall,omitempty"`          // modules that bars are tall at least; 0: not told so
	TallAtTills float64        `json:"tallAtTills,omitempty"`   // the same at the checkout, where it is more
	Sizes       []Size         `json:"sizes,omitempty"`         // by purpose

	Options []Option `json:"options,omitempty"` // what can be chosen

	CheckDigit bool `json:"checkDigit,omitempty"` // holds a GTIN, whose check digit is worked out where it is missing
	AddOn      bool `json:"addOn,omitempty"`      // may have an add-on of 2 or 5 digits
	Bearer     bool `json:"bearer,omitempty"`     // has bearer bars above and below
	GS1        bool `json:"gs1,omitempty"`        // holds application identifiers
	Link       bool `json:"link,omitempty"`       // writes them as a web address
	Reversed   bool `json:"reversed,omitempty"`   // may be printed light on dark as well: its readers look for both
	// its reader notices hardly any mistake: others that read it are right
	Unchecked bool `json:"unchecked,omitempty"`
	Trade     bool `json:"trade,omitempty"`  // for the data of one trade: proposed behind all others
	Denser    ID   `json:"denser,omitempty"` // that holds the same in less room; empty: none

	// Encode makes an empty symbol, whose quiet zones are set, the one that says text. Its options are checked already.
	// Its error is a *DataError.
	Encode func(s *Symbol, text string, o Options) error `json:"-"`
	// Widths decodes a linear symbol from the widths of its bars and spaces, in modules, or in 1 for narrow and 2 for
	// wide where it has two widths.
	Widths func(widths []int) (decode.Message, error) `json:"-"`
	// Modules decodes a 2D symbol from its modules.
	Modules func(m *decode.Modules) (decode.Message, error) `json:"-"`

	western westernLetters // how it says letters of western Europe
}

// Read decodes a symbol of its own, to hold what was encoded against what was meant. Its error is of package decode.
func (k *Kind) Read(s *Symbol) (decode.Message, error) {
	if k.Is2D {
		return k.Modules(&decode.Modules{Width: s.Matrix.Width, Height: s.Matrix.Height, Dark: s.Matrix.Dark})
	}
	widths := make([]int, len(s.Widths))
	for i, width := range s.Widths {
		widths[i] = int(width)
	}
	return k.Widths(widths)
}

const (
	anyScanner = "every scanner"
	cameras    = "cameras and telephones, no laser scanners"
)

// kinds has all symbologies, linear ones first.
var kinds = [...]*Kind{
	&code128Kind, &gs1128Kind, &code39Kind, &code39FullKind, &code93Kind, &codabarKind, &interleavedKind,
	&industrial2of5Kind, &matrix2of5Kind, &iata2of5Kind, &identcodeKind, &leitcodeKind, &itf14Kind, &ean13Kind,
	&ean8Kind, &upcaKind, &upceKind, &code11Kind, &msiKind,
	&telepenKind, &telepenNumericKind, &pharmacodeKind, &pznKind, &code32Kind, &hibcCode39Kind, &hibcCode128Kind,
	&dataBarKind, &dataBarStackedKind, &dataBarStackedLowKind, &dataBarLimitedKind, &dataBarExpandedKind,
	&dataBarExpandedStackedKind, &qrKind, &gs1QRKind, &microQRKind, &rmqrKind, &dataMatrixKind,
	&gs1DataMatrixKind, &aztecKind, &linkQRKind, &linkDataMatrixKind, &gs1AztecKind, &pdf417Kind,
	&microPDF417Kind, &hibcDataMatrixKind, &hibcQRKind,
}

// All returns all symbologies, linear ones first. They are not to be changed.
func All() []*Kind { return kinds[:] }

// Of returns a symbology; an empty one when it is not known.
func Of(id ID) *Kind {
	for _, kind := range kinds {
		if kind.ID == id {
			return kind
		}
	}
	return &Kind{}
}

// An UnknownError says that a design asks for a symbology that this version does not have.
type UnknownError struct{ ID ID }

func (e *UnknownError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *UnknownError) Refusal() *refusal.Error {
	return unknownSymbology.With(string(e.ID))
}

// Known tells whether a symbology can be encoded; its error is an *UnknownError.
func Known(id ID) error {
	if Of(id).Encode == nil {
		return &UnknownError{ID: id}
	}
	return nil
}

// Name returns what people call a symbology.
func Name(id ID) string {
	if kind := Of(id); kind.Name != "" {
		return kind.Name
	}
	return string(id)
}
