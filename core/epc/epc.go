// Package epc encodes identifiers into the memory of RFID tags and reads them back: the binary forms of
// the GS1 EPC Tag Data Standard (TDS) 1.13, which TDS 2.x keeps, and some of those that TDS 2.0 adds, with
// their element strings, URIs and Digital Links.
package epc

import (
	"cmp"
	"encoding/hex"
	"strconv"
	"strings"
)

// A Scheme is one binary form.
type Scheme string

// The schemes of TDS 1.13 (section 14.2, table 14-1).
const (
	SGTIN96  Scheme = "sgtin-96"
	SGTIN198 Scheme = "sgtin-198"
	SSCC96   Scheme = "sscc-96"
	SGLN96   Scheme = "sgln-96"
	SGLN195  Scheme = "sgln-195"
	GRAI96   Scheme = "grai-96"
	GRAI170  Scheme = "grai-170"
	GIAI96   Scheme = "giai-96"
	GIAI202  Scheme = "giai-202"
	GSRN96   Scheme = "gsrn-96"
	GSRNP96  Scheme = "gsrnp-96"
	GDTI96   Scheme = "gdti-96"
	GDTI174  Scheme = "gdti-174"
	SGCN96   Scheme = "sgcn-96"
	ITIP110  Scheme = "itip-110"
	ITIP212  Scheme = "itip-212"
	CPI96    Scheme = "cpi-96"
	CPIVar   Scheme = "cpi-var"
	ADIVar   Scheme = "adi-var"
	GID96    Scheme = "gid-96"
)

// An EPC is one identifier as a tag holds it.
type EPC struct {
	Scheme  Scheme
	Filter  int    // of the scheme, such as 1 for a point of sale item
	Company string // GS1 Company Prefix, 6 to 12 digits; of ADI the CAGE code or DoDAAC; empty for schemes with +
	// item with its indicator before it, serial reference, location, asset, part; of schemes with + the whole key
	Reference string
	Pieces    string // of an ITIP: two digits which piece it is, two of how many
	Serial    string
	More      bool // data of further application identifiers stands behind it on the tag, which is not read here
	Spare     bool // bits are set that the scheme keeps at zero, or that stand behind it
}

// A form is how a scheme lies in memory: header, filter, partition, company prefix, reference, serial.
type form struct {
	scheme   Scheme
	header   uint64
	bits     int    // of all; 0: as many as it takes
	refBits  [7]int // by partition, 0 for a company prefix of 12 digits up to 6 for one of 6
	refChars [7]int // digits of the reference, or characters at most
	serial   int    // bits of a number; 0: none
	chars    int    // characters of 7 bits, instead of a number
	reserved int    // bits of zero at its end
	name     string // in URIs
	digits   int    // of the whole key, for schemes with +
}

// companyBits are how many bits a company prefix takes, by partition: 12 digits to 6 (TDS 1.13, tables 14-2 to 14-13).
var companyBits = [7]int{40, 37, 34, 30, 27, 24, 20}

var forms = []form{
	{SGTIN96, 0x30, 96, [7]int{4, 7, 10, 14, 17, 20, 24}, [7]int{1, 2, 3, 4, 5, 6, 7}, 38, 0, 0, "sgtin", 0},
	{SGTIN198, 0x36, 198, [7]int{4, 7, 10, 14, 17, 20, 24}, [7]int{1, 2, 3, 4, 5, 6, 7}, 0, 20, 0, "sgtin", 0},
	{SSCC96, 0x31, 96, [7]int{18, 21, 24, 28, 31, 34, 38}, [7]int{5, 6, 7, 8, 9, 10, 11}, 0, 0, 24, "sscc", 0},
	{SGLN96, 0x32, 96, [7]int{1, 4, 7, 11, 14, 17, 21}, [7]int{0, 1, 2, 3, 4, 5, 6}, 41, 0, 0, "sgln", 0},
	{SGLN195, 0x39, 195, [7]int{1, 4, 7, 11, 14, 17, 21}, [7]int{0, 1, 2, 3, 4, 5, 6}, 0, 20, 0, "sgln", 0},
	{GRAI96, 0x33, 96, [7]int{4, 7, 10, 14, 17, 20, 24}, [7]int{0, 1, 2, 3, 4, 5, 6}, 38, 0, 0, "grai", 0},
	{GRAI170, 0x37, 170, [7]int{4, 7, 10, 14, 17, 20, 24}, [7]int{0, 1, 2, 3, 4, 5, 6}, 0, 16, 0, "grai", 0},
	{GIAI96, 0x34, 96, [7]int{42, 45, 48, 52, 55, 58, 62}, [7]int{13, 14, 15, 16, 17, 18, 19}, 0, 0, 0, "giai", 0},
	{GIAI202, 0x38, 202, [7]int{148, 151, 154, 158, 161, 164, 168}, [7]int{18, 19, 20, 21, 22, 23, 24}, 0, 0, 0, "giai",
		0},
	{GSRN96, 0x2D, 96, [7]int{18, 21, 24, 28, 31, 34, 38}, [7]int{5, 6, 7, 8, 9, 10, 11}, 0, 0, 24, "gsrn", 0},
	{GSRNP96, 0x2E, 96, [7]int{18, 21, 24, 28, 31, 34, 38}, [7]int{5, 6, 7, 8, 9, 10, 11}, 0, 0, 24, "gsrnp", 0},
	{GDTI96, 0x2C, 96, [7]int{1, 4, 7, 11, 14, 17, 21}, [7]int{0, 1, 2, 3, 4, 5, 6}, 41, 0, 0, "gdti", 0},
	{GDTI174, 0x3E, 174, [7]int{1, 4, 7, 11, 14, 17, 21}, [7]int{0, 1, 2, 3, 4, 5, 6}, 0, 17, 0, "gdti", 0},
	{SGCN96, 0x3F, 96, [7]int{1, 4, 7, 11, 14, 17, 21}, [7]int{0, 1, 2, 3, 4, 5, 6}, 41, 0, 0, "sgcn", 0},
	{ITIP110, 0x40, 110, [7]int{4, 7, 10, 14, 17, 20, 24}, [7]int{1, 2, 3, 4, 5, 6, 7}, 38, 0, 0, "itip", 0},
	{ITIP212, 0x41, 212, [7]int{4, 7, 10, 14, 17, 20, 24}, [7]int{1, 2, 3, 4, 5, 6, 7}, 0, 20, 0, "itip", 0},
	{CPI96, 0x3C, 96, [7]int{11, 14, 17, 21, 24, 27, 31}, [7]int{3, 4, 5, 6, 7, 8, 9}, 31, 0, 0, "cpi", 0},
	{CPIVar, 0x3D, 0, [7]int{114, 120, 126, 132, 138, 144, 150}, [7]int{18, 19, 20, 21, 22, 23, 24}, 40, 0, 0, "cpi",
		0},
	{ADIVar, 0x3B, 0, [7]int{}, [7]int{}, 0, 0, 0, "adi", 0},
	{GID96, 0x35, 96, [7]int{}, [7]int{}, gidSerialBits, 0, 0, "gid", 0},
	{SGTINPlus, 0xF7, 0, [7]int{}, [7]int{}, 0, 20, 0, "sgtin", 14},
	{SSCCPlus, 0xF9, 84, [7]int{}, [7]int{}, 0, 0, 0, "sscc", 18},
	{SGLNPlus, 0xF2, 0, [7]int{}, [7]int{}, 0, 20, 0, "sgln", 13},
	{GSRNPlus, 0xF4, 84, [7]int{}, [7]int{}, 0, 0, 0, "gsrn", 18},
	{GSRNPPlus, 0xF5, 84, [7]int{}, [7]int{}, 0, 0, 0, "gsrnp", 18},
	{GDTIPlus, 0xF6, 0, [7]int{}, [7]int{}, 0, 17, 0, "gdti", 13},
}

// Schemes returns all schemes.
func Schemes() (schemes []Scheme) {
	for _, f := range forms {
		schemes = append(schemes, f.scheme)
	}
	return schemes
}

// A Described is a scheme as people choose it.
type Described struct {
	Scheme Scheme
	Name   string // such as SGTIN-96
	Of     string // what it identifies
	Prefix bool   // it needs to know how many digits the company prefix has
}

// what the keys identify, by their names in URIs.
var identified = map[string]string{"sgtin": "trade item", "sscc": "logistic unit", "sgln": "location",
	"grai": "returnable asset", "giai": "asset", "gsrn": "service recipient",
	"gsrnp": "service provider", "gdti": "document", "sgcn": "coupon",
	"itip": "piece of a trade item", "cpi": "part", "adi": "aerospace and defence",
	"gid": "whatever its manager numbers"}

// Describe returns all schemes as people choose them.
func Describe() (all []Described) {
	for _, f := range forms {
		name := strings.Replace(strings.ToUpper(string(f.scheme)), "-VAR", "-var", 1)
		all = append(all, Described{f.scheme, name, identified[f.name], f.scheme.OfGS1() && !f.scheme.Plus()})
	}
	return all
}

func formOf(s Scheme) (*form, error) {
	for i := range forms {
		if forms[i].scheme == s {
			return &forms[i], nil
		}
	}
	var names []string
	for _, f := range forms {
		names = append(names, string(f.scheme))
	}
	return nil, unknownScheme.With(s, strings.Join(names, ", "))
}

// written are bits from the highest of the first byte on.
type written struct {
	bytes []byte
	n     int
}

func (w *written) put(value uint64, bits int) {
	for i := bits - 1; i >= 0; i-- {
		if w.n%8 == 0 {
			w.bytes = append(w.bytes, 0)
		}
		if i < 64 && value>>i&1 == 1 {
			w.bytes[w.n/8] |= 0x80 >> (w.n % 8)
		}
		w.n++
	}
}

// chars puts characters of so many bits each, and fills up to so many characters with zeros.
func (w *written) chars(text string, each, all int) {
	for i := range len(text) {
		w.put(uint64(text[i]), each)
	}
	w.put(0, (all-len(text))*each)
}

// Encode returns the memory of the tag from bit 20h of the EPC bank on, in whole words of 16 bits. Its error is an
// *refusal.Error that names the value, the place and the reason.
func (e *EPC) Encode() ([]byte, error) {
	w, err := e.bits()
	if err != nil {
		return nil, err
	}
	for w.n%16 != 0 {
		w.put(0, 1)
	}
	return w.bytes, nil
}

// bits returns the identifier without filling.
func (e *EPC) bits() (*written, error) {
	f, err := formOf(e.Scheme)
	if err != nil {
		return nil, err
	}
	w := &written{}
	w.put(f.header, 8)
	switch {
	case e.Scheme == ADIVar:
		err = e.encodeADI(w)
	case e.Scheme == GID96:
		err = e.encodeGID(w)
	case e.Scheme.Plus():
		err = e.encodePlus(w, f)
	default:
		err = e.encode(w, f)
	}
	return w, err
}

func (e *EPC) encode(w *written, f *form) error {
	if e.Filter < 0 || e.Filter > 7 {
		return badFilter.With(e.Filter)
	}
	if at := strings.IndexFunc(e.Company, notDigit); at >= 0 || len(e.Company) < 6 || len(e.Company) > 12 {
		return badCompanyPrefix.With(e.Company)
	}
	partition := 12 - len(e.Company)
	company, _ := strconv.ParseUint(e.Company, 10, 64) // digits, up to twelve
	w.put(uint64(e.Filter), 3)
	w.put(uint64(partition), 3)
	w.put(company, companyBits[partition])
	if err := e.encodeReference(w, f, partition); err != nil {
		return err
	}
	if f.name == "itip" {
		if err := e.encodePieces(w); err != nil {
			return err
		}
	}
	switch {
	case f.scheme == SGCN96:
		if at := strings.IndexFunc(e.Serial, notDigit); at >= 0 || e.Serial == "" || len(e.Serial) > couponDigits {
			return badCouponSerial.With(e.Serial, couponDigits)
		}
		n, _ := strconv.ParseUint("1"+e.Serial, 10, 64) // the 1 keeps what zeros it begins with (TDS 1.13, 14.3.5)
		w.put(n, f.serial)
	case f.chars > 0:
		if err := serial82(e.Serial, f); err != nil {
			return err
		}
		w.chars(e.Serial, 7, f.chars)
	case f.serial > 0:
		n, err := serialNumber(e.Serial, f.serial)
		if err != nil {
			return err
		}
		w.put(n, f.serial)
	case e.Serial != "":
		return serialTooMuch.With(strings.ToUpper(string(f.scheme)), e.Serial)
	}
	w.put(0, f.reserved)
	return nil
}

// serial82 checks a serial of characters.
func serial82(serial string, f *form) error {
	if serial == "" {
		return serialEmpty.With(strings.ToUpper(string(f.scheme)), f.chars)
	}
	return fits82("The serial", serial, f.chars)
}

const (
	couponDigits = 12
	pieceBits    = 7 // of which piece it is, and of how many there are
	pieceDigits  = 2
)

// encodePieces writes which piece of how many it is (TDS 1.13, 14.6.13).
func (e *EPC) encodePieces(w *written) error {
	if at := strings.IndexFunc(e.Pieces, notDigit); at >= 0 || len(e.Pieces) != 2*pieceDigits {
		return badPiece.With(e.Pieces)
	}
	piece, _ := strconv.ParseUint(e.Pieces[:pieceDigits], 10, 64)
	total, _ := strconv.ParseUint(e.Pieces[pieceDigits:], 10, 64)
	if err := pieceOf(piece, total); err != nil {
		return err
	}
	w.put(piece, pieceBits)
	w.put(total, pieceBits)
	return nil
}

func pieceOf(piece, total uint64) error {
	if piece == 0 || piece > total || total > 99 {
		return unknownPiece.With(piece, total)
	}
	return nil
}

func (e *EPC) encodeReference(w *written, f *form, partition int) error {
	bits, chars := f.refBits[partition], f.refChars[partition]
	switch f.scheme {
	case GIAI202:
		if err := fits82("The asset reference", e.Reference, chars); err != nil {
			return err
		}
		if e.Reference == "" {
			return assetReferenceEmpty.With()
		}
		w.chars(e.Reference, 7, chars)
		w.put(0, bits-7*chars)
	case CPIVar:
		return sixBits(w, "The part reference", e.Reference, chars)
	case GIAI96, CPI96:
		if e.Reference == "" || len(e.Reference) > chars {
			return referenceLength.With(e.Reference, len(e.Reference), len(e.Company), chars)
		}
		n, err := plainNumber("The reference", e.Reference, bits)
		if err != nil {
			return err
		}
		w.put(n, bits)
	default:
		if at := strings.IndexFunc(e.Reference, notDigit); at >= 0 {
			return referenceNotDigits.With(e.Reference, e.Reference[at], at+1)
		}
		if len(e.Reference) != chars {
			return referenceLengthByPrefix.With(e.Reference, len(e.Reference), len(e.Company), chars)
		}
		n, _ := strconv.ParseUint("0"+e.Reference, 10, 64)
		w.put(n, bits)
	}
	return nil
}

// FromHex reads hexadecimal digits, spaces between them left out.
func FromHex(text string) ([]byte, error) {
	text = strings.Join(strings.Fields(strings.TrimPrefix(strings.TrimPrefix(text, "0x"), "urn:epc:raw:")), "")
	if at := strings.IndexFunc(text,
		func(r rune) bool { return !strings.ContainsRune("0123456789abcdefABCDEF", r) }); at >= 0 {
		return nil, notHexadecimal.With(text[at], at+1)
	}
	if len(text)%2 == 1 {
		return nil, halfByte.With(len(text))
	}
	return hex.DecodeString(text)
}

// Bits returns how many bits an identifier takes, the filling up to a word left out.
func (e *EPC) Bits() int {
	w, err := e.bits()
	if err != nil {
		return 0
	}
	return w.n
}

// ProtocolControl returns the word before the identifier in the EPC bank: how many words it has, whether there is user
// memory, and that it is an EPC or, with an application family identifier of ISO/IEC 15961-2, that it is none (EPC UHF
// Gen2 air interface, 6.3.2.1.2.2).
func ProtocolControl(words int, userMemory bool, afi *uint8) uint16 {
	pc := uint16(words) << 11
	if userMemory {
		pc |= 1 << 10
	}
	if afi != nil {
		pc |= 1<<8 | uint16(*afi)
	}
	return pc
}

// Words says what it is, for people.
func (e *EPC) Words() string {
	return cmp.Or(e.TagURI(), strings.ToUpper(string(e.Scheme))+" "+e.ElementString())
}
