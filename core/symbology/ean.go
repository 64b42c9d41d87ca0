package symbology

import (
	"strings"

	"oddspool/core/decode"
)

// EAN13 is EAN-13.
const EAN13 ID = "ean13"

var ean13Kind = Kind{
	ID: EAN13, Name: "EAN-13",
	Standard: "ISO/IEC 15420", Identifier: "]E0",
	Holds:   "a GTIN of 13 digits, and an add-on of 2 or 5",
	Example: "9521234543213",
	Most:    "13 digits",
	Readers: anyScanner,
	Uses:    "retail",
	Quiet:   11, Least: 264, MostModule: 660, Nominal: 330, Tall: 22.85 / 0.33, CheckDigit: true, AddOn: true,
	Sizes:   retailSizes,
	Options: []Option{checkDigit},
	Encode:  (*Symbol).ean13, Widths: decode.EAN13,
}

// EAN8 is EAN-8.
const EAN8 ID = "ean8"

var ean8Kind = Kind{
	ID: EAN8, Name: "EAN-8",
	Standard: "ISO/IEC 15420", Identifier: "]E4",
	Holds:   "a GTIN of 8 digits, and an add-on of 2 or 5",
	Example: "95212340",
	Most:    "8 digits",
	Readers: anyScanner,
	Uses:    "small retail items",
	Quiet:   7, Least: 264, MostModule: 660, Nominal: 330, Tall: 18.23 / 0.33, CheckDigit: true, AddOn: true,
	Sizes:   retailSizes,
	Options: []Option{checkDigit},
	Encode:  (*Symbol).ean8, Widths: decode.EAN8,
}

// UPCA is UPC-A.
const UPCA ID = "upca"

var upcaKind = Kind{
	ID: UPCA, Name: "UPC-A",
	Standard: "ISO/IEC 15420", Identifier: "]E0",
	Holds:   "a GTIN of 12 digits, and an add-on of 2 or 5",
	Example: "012345000065",
	Most:    "12 digits",
	Readers: anyScanner,
	Uses:    "retail in North America",
	Quiet:   9, Least: 264, MostModule: 660, Nominal: 330, Tall: 22.85 / 0.33, CheckDigit: true, AddOn: true,
	Sizes:   retailSizes,
	Options: []Option{checkDigit},
	Encode:  (*Symbol).upca, Widths: decode.UPCA,
}

// UPCE is UPC-E.
const UPCE ID = "upce"

var upceKind = Kind{
	ID: UPCE, Name: "UPC-E",
	Standard: "ISO/IEC 15420", Identifier: "]E0",
	Holds:   "a GTIN of 12 digits whose zeros can be left out, and an add-on of 2 or 5",
	Example: "01234565",
	Most:    "8 digits",
	Readers: anyScanner,
	Uses:    "small retail items in North America",
	Quiet:   9, Least: 264, MostModule: 660, Nominal: 330, Tall: 22.85 / 0.33, CheckDigit: true, AddOn: true,
	Sizes:   retailSizes,
	Options: []Option{checkDigit},
	Encode:  (*Symbol).upce, Widths: decode.UPCE,
}

// EAN and UPC (ISO/IEC 15420; GS1 General Specifications, 5.2): each digit is two bars and two spaces
// in seven modules, of set A or B on the left, set C on the right. Which sets the left half has says a
// further digit. Guard bars reach five modules further down than the others.

// eanA are the widths of set A; set C is the same with bars for spaces, and set B is C backwards.
var eanA = [10][4]uint8{{3, 2, 1, 1}, {2, 2, 2, 1}, {2, 1, 2, 2}, {1, 4, 1, 1}, {1, 1, 3, 2}, {1, 2, 3, 1},
	{1, 1, 1, 4}, {1, 3, 1, 2}, {1, 2, 1, 3}, {3, 1, 1, 2}}

// eanSets tells the sets of the left half of EAN-13 by the first digit, a set bit for B.
var eanSets = [10]int{0b000000, 0b001011, 0b001101, 0b001110, 0b010011, 0b011001, 0b011100, 0b010101, 0b010110,
	0b011010}

// upceSets tells the sets of UPC-E by its check digit, a set bit for B (number system 0).
var upceSets = [10]int{0b111000, 0b110100, 0b110010, 0b110001, 0b101100, 0b100110, 0b100011, 0b101010, 0b101001,
	0b100101}

// guard appends guard bars, which are long.
func (s *Symbol) guard(widths ...uint8) {
	for _, width := range widths {
		if len(s.Widths)%2 == 0 {
			s.Long = append(s.Long, len(s.Widths))
		}
		s.Widths = append(s.Widths, width)
	}
}

// eanDigit appends a digit of the left half, of set B where asked; on the right half sets A and C
// alternate bars and spaces by themselves.
func (s *Symbol) eanDigit(digit byte, setB bool) {
	widths := eanA[digit-'0']
	if setB {
		widths[0], widths[1], widths[2], widths[3] = widths[3], widths[2], widths[1], widths[0]
	}
	s.Widths = append(s.Widths, widths[:]...)
}

// splitAddOn cuts "9521234543213 52" or "9521234543213+52" into the code and its add-on.
func splitAddOn(name, text string) (code, addOn string, err error) {
	code, addOn, has := strings.Cut(text, "+")
	if !has {
		code, addOn, has = strings.Cut(text, " ")
	}
	if !has {
		return text, "", nil
	}
	if err := onlyDigits(name, addOn); err != nil || len(addOn) != 2 && len(addOn) != 5 {
		return "", "", wrong(len(code)+2, "An add-on has 2 or 5 digits, and “%s” is neither.", addOn)
	}
	return code, addOn, nil
}

func (s *Symbol) ean13(text string, o Options) error {
	code, addOn, err := splitAddOn("EAN-13", text)
	if err != nil {
		return err
	}
	digits, err := s.number("EAN-13", code, 13, o)
	if err != nil {
		return err
	}
	s.ean13Bars(digits)
	s.Parts = append(s.Parts, Words{digits[:1], -9, -2}, Words{digits[1:7], 3, 45}, Words{digits[7:], 50, 92})
	s.QuietAfter = 7
	s.Text, s.Reads = digits, digits
	s.addOn(addOn)
	return nil
}

func (s *Symbol) ean13Bars(digits string) {
	sets := eanSets[digits[0]-'0']
	s.guard(1, 1, 1)
	for i := range 6 {
		s.eanDigit(digits[1+i], sets>>(5-i)&1 == 1)
	}
	s.Widths = append(s.Widths, 1)
	s.guard(1, 1, 1)
	s.Widths = append(s.Widths, 1)
	for i := range 6 {
		s.eanDigit(digits[7+i], false)
	}
	s.guard(1, 1, 1)
}

func (s *Symbol) ean8(text string, o Options) error {
	code, addOn, err := splitAddOn("EAN-8", text)
	if err != nil {
		return err
	}
	digits, err := s.number("EAN-8", code, 8, o)
	if err != nil {
		return err
	}
	s.guard(1, 1, 1)
	for i := range 4 {
		s.eanDigit(digits[i], false)
	}
	s.Widths = append(s.Widths, 1)
	s.guard(1, 1, 1)
	s.Widths = append(s.Widths, 1)
	for i := range 4 {
		s.eanDigit(digits[4+i], false)
	}
	s.guard(1, 1, 1)
	s.Parts = append(s.Parts, Words{digits[:4], 3, 31}, Words{digits[4:], 36, 64})
	s.Text, s.Reads = digits, digits
	s.addOn(addOn)
	return nil
}

func (s *Symbol) upca(text string, o Options) error {
	code, addOn, err := splitAddOn("UPC-A", text)
	if err != nil {
		return err
	}
	digits, err := s.number("UPC-A", code, 12, o)
	if err != nil {
		return err
	}
	s.ean13Bars("0" + digits) // UPC-A is EAN-13 that begins with 0
	first, last := len(s.Widths)-3-4, 3
	s.Long = append(s.Long, last+1, last+3, first, first+2) // the first and the last digit are long too
	s.Parts = append(s.Parts, Words{digits[:1], -9, -2}, Words{digits[1:6], 10, 45}, Words{digits[6:11], 50, 85},
		Words{digits[11:], 97, 104})
	s.QuietAfter = 9
	s.Text, s.Reads = digits, digits
	s.addOn(addOn)
	return nil
}

func (s *Symbol) upce(text string, o Options) error {
	const name = "UPC-E"
	code, addOn, err := splitAddOn(name, text)
	if err != nil {
		return err
	}
	if err := onlyDigits(name, code); err != nil {
		return err
	}
	long := code
	if n := len(code); n >= 6 && n <= 8 { // written short already: with or without number system and check digit
		short := code
		if n == 6 {
			short = "0" + code
		}
		if short[0] != '0' && short[0] != '1' {
			return wrong(1, "UPC-E begins with 0 or 1, not %c.", short[0])
		}
		long = expandUPCE(short[:7]) + short[7:]
	}
	digits, err := s.number(name, long, 12, o)
	if err != nil {
		return err
	}
	six, ok := shortenUPCA(digits)
	if !ok || digits[0] > '1' {
		return wrong(0, "%s has no short form: UPC-E leaves out zeros, and these are not where it can. "+
			"Use UPC-A.", digits)
	}
	sets := upceSets[digits[11]-'0']
	if digits[0] == '1' {
		sets ^= 0b111111
	}
	s.guard(1, 1, 1)
	for i := range 6 {
		s.eanDigit(six[i], sets>>(5-i)&1 == 1)
	}
	s.Widths = append(s.Widths, 1)
	s.guard(1, 1, 1, 1, 1)
	s.Parts = append(s.Parts, Words{digits[:1], -9, -2}, Words{six, 3, 45}, Words{digits[11:], 53, 60})
	s.QuietAfter = 7
	s.Text = digits[:1] + six + digits[11:]
	s.Reads = s.Text
	s.addOn(addOn)
	return nil
}

// expandUPCE returns the eleven digits that number system and six digits stand for (GS1 General
// Specifications, 5.2.2.4).
func expandUPCE(seven string) string {
	system, d := seven[:1], seven[1:]
	switch last := d[5]; {
	case last <= '2':
		return system + d[:2] + d[5:] + "0000" + d[2:5]
	case last == '3':
		return system + d[:3] + "00000" + d[3:5]
	case last == '4':
		return system + d[:4] + "00000" + d[4:5]
	}
	return system + d[:5] + "0000" + d[5:]
}

// shortenUPCA finds the six digits that stand for twelve.
func shortenUPCA(digits string) (six string, ok bool) {
	maker, item := digits[1:6], digits[6:11]
	var try []string
	if maker[3:] == "00" && maker[2] <= '2' && item[:2] == "00" {
		try = append(try, maker[:2]+item[2:]+maker[2:3])
	}
	if maker[3:] == "00" && item[:3] == "000" {
		try = append(try, maker[:3]+item[3:]+"3")
	}
	if maker[4] == '0' && item[:4] == "0000" {
		try = append(try, maker[:4]+item[4:]+"4")
	}
	if item[:4] == "0000" && item[4] >= '5' {
		try = append(try, maker+item[4:])
	}
	for _, six := range try {
		if expandUPCE(digits[:1]+six) == digits[:11] {
			return six, true
		}
	}
	return "", false
}

// addOnSets tells the sets of an add-on of five digits by its checksum, a set bit for B.
var addOnSets = [10]int{0b11000, 0b10100, 0b10010, 0b10001, 0b01100, 0b00110, 0b00011, 0b01010, 0b01001, 0b00101}

// addOnGap is how many modules an add-on stands behind the symbol: 7 to 12 behind EAN-13, EAN-8 and UPC-E, 9 to 12
// behind UPC-A (GS1 General Specifications, 5.2.2.3). Behind more than 10, some readers take the symbol alone.
const addOnGap = 9

// addOn appends an add-on of two or five digits. Readers that are not asked for it do not see it.
func (s *Symbol) addOn(digits string) {
	if digits == "" {
		return
	}
	sets := 0
	if len(digits) == 2 {
		sets = (int(digits[0]-'0')*10 + int(digits[1]-'0')) % 4
	} else {
		sum := 0
		for i, weight := range []int{3, 9, 3, 9, 3} {
			sum += int(digits[i]-'0') * weight
		}
		sets = addOnSets[sum%10]
	}
	from := s.Modules() + addOnGap
	s.Widths = append(s.Widths, addOnGap, 1, 1, 2)
	for i := range len(digits) {
		if i > 0 {
			s.Widths = append(s.Widths, 1, 1)
		}
		s.eanDigit(digits[i], sets>>(len(digits)-1-i)&1 == 1)
	}
	s.Parts = append(s.Parts, Words{digits, from, s.Modules()})
	s.QuietAfter = 5
	s.Text += " " + digits
}
