package epc

import (
	"math/big"
	"strings"
)

// The schemes of TDS 2.0 and later (section 14.6), which keep the whole key, check digit included, with four bits a
// digit, and need no company prefix. GRAI+, GIAI+, CPI+, SGCN+, ITIP+ and DSGTIN+ are not here.
const (
	SGTINPlus Scheme = "sgtin+"
	SSCCPlus  Scheme = "sscc+"
	SGLNPlus  Scheme = "sgln+"
	GSRNPlus  Scheme = "gsrn+"
	GSRNPPlus Scheme = "gsrnp+"
	GDTIPlus  Scheme = "gdti+"
)

// Plus tells whether a scheme is one of those that need no company prefix.
func (s Scheme) Plus() bool { return strings.HasSuffix(string(s), "+") }

// OfGS1 tells whether a scheme is made from identifiers of GS1.
func (s Scheme) OfGS1() bool { return s != "" && s != ADIVar && s != GID96 }

// lengthBits are those that tell how many characters a serial has (TDS 2.0, 14.5.6).
const lengthBits = 5

// An encoding is one of the ways a serial lies in a tag, by its indicator of three bits (TDS 2.0, 14.5.6.1 to
// 14.5.6.6).
type encoding struct {
	letters string // by their values; empty: it is a number, or in triples
	each    int    // bits of one
}

const (
	asNumber = iota
	upperHex
	lowerHex
	base64
	ascii
	triples
)

var (
	figures40 = "\x00ABCDEFGHIJKLMNOPQRSTUVWXYZ-.:0123456789" // ISO/IEC 15962, URN Code 40
	encodings = [...]encoding{
		asNumber: {},
		upperHex: {"0123456789ABCDEF", 4},
		lowerHex: {"0123456789abcdef", 4},
		base64:   {"ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_", 6}, // RFC 4648, section 5
		ascii:    {seven, 7},
		triples:  {},
	}
	seven = func() string {
		all := make([]byte, 128)
		for i := range all {
			all[i] = byte(i)
		}
		return string(all)
	}()
)

// numberBits are how many bits a number of so many digits takes.
func numberBits(digits int) int {
	most := new(big.Int).Exp(big.NewInt(10), big.NewInt(int64(digits)), nil)
	return most.Sub(most, big.NewInt(1)).BitLen()
}

// takes returns how many bits a text takes in an encoding; 0: it cannot be in it.
func (e encoding) takes(indicator int, text string) int {
	within := func(letters string) bool {
		return strings.IndexFunc(text, func(r rune) bool { return r == 0 || !strings.ContainsRune(letters, r) }) < 0
	}
	switch {
	case indicator == asNumber:
		if strings.IndexFunc(text, notDigit) >= 0 || len(text) > 1 && text[0] == '0' {
			return 0
		}
		return numberBits(len(text))
	case indicator == triples:
		if !within(figures40) {
			return 0
		}
		return (len(text) + 2) / 3 * 16
	case !within(e.letters):
		return 0
	}
	return len(text) * e.each
}

// putSerial writes a serial in the shortest way there is for it.
func (w *written) putSerial(text string) {
	best, bits := 0, 0
	for indicator, e := range encodings {
		if takes := e.takes(indicator, text); takes > 0 && (bits == 0 || takes < bits) {
			best, bits = indicator, takes
		}
	}
	w.put(uint64(best), 3)
	w.put(uint64(len(text)), lengthBits)
	switch best {
	case asNumber:
		n, _ := new(big.Int).SetString(text, 10) // digits
		for i := bits - 1; i >= 0; i-- {
			w.put(uint64(n.Bit(i)), 1)
		}
	case triples:
		for at := 0; at < len(text); at += 3 {
			of := 0
			for i := at; i < at+3; i++ {
				of *= 40
				if i < len(text) {
					of += strings.IndexByte(figures40, text[i])
				}
			}
			w.put(uint64(of+1), 16)
		}
	default:
		for i := range len(text) {
			w.put(uint64(strings.IndexByte(encodings[best].letters, text[i])), encodings[best].each)
		}
	}
}

// serial reads a serial of up to so many characters.
func (r *read) serial(most int) (string, error) {
	indicator, n := int(r.take(3)), int(r.take(lengthBits))
	if indicator >= len(encodings) {
		return "", unknownSerialEncoding.With(indicator)
	}
	if n == 0 || n > most {
		return "", serialLength.With(n, most)
	}
	var text strings.Builder
	switch e := encodings[indicator]; indicator {
	case asNumber:
		number := new(big.Int)
		for range numberBits(n) {
			number.Lsh(number, 1).Or(number, big.NewInt(int64(r.take(1))))
		}
		digits := number.String()
		if len(digits) != n {
			return "", serialDigitsMissing.With(digits, n)
		}
		return digits, nil
	case triples:
		for left := n; left > 0; left -= 3 {
			of := int(r.take(16)) - 1
			if of < 0 || of >= 40*40*40 {
				return "", serialBadCharacters.With()
			}
			for i, value := range []int{of / 1600, of / 40 % 40, of % 40} {
				if (value == 0) != (i >= left) {
					return "", serialCharactersMissing.With(n)
				}
				if value > 0 {
					text.WriteByte(figures40[value])
				}
			}
		}
	default:
		for range n {
			text.WriteByte(e.letters[r.take(e.each)])
		}
	}
	if r.n > 8*len(r.bytes) {
		return "", serialCutOff.With(n)
	}
	return text.String(), fits82("The serial", text.String(), most)
}

// encodePlus writes an identifier whose reference is the whole key.
func (e *EPC) encodePlus(w *written, f *form) error {
	if e.Filter < 0 || e.Filter > 7 {
		return badFilter.With(e.Filter)
	}
	w.put(0, 1) // no further data behind it
	w.put(uint64(e.Filter), 3)
	key := keys[f.name]
	if len(e.Reference) != f.digits {
		return badCountOfDigits.With(key, len(e.Reference), f.digits)
	}
	if err := checked(key, e.Reference); err != nil {
		return err
	}
	for _, digit := range e.Reference {
		w.put(uint64(digit-'0'), 4)
	}
	switch {
	case f.chars == 0 && e.Serial != "":
		return serialTooMuch.With(strings.ToUpper(string(f.scheme)), e.Serial)
	case f.chars > 0:
		if err := serial82(e.Serial, f); err != nil {
			return err
		}
		w.putSerial(e.Serial)
	}
	return nil
}

// decodePlus reads an identifier whose reference is the whole key.
func (e *EPC) decodePlus(r *read, f *form) error {
	e.More = r.take(1) == 1
	e.Filter = int(r.take(3))
	var key strings.Builder
	for i := range f.digits {
		digit := r.take(4)
		if digit > 9 {
			return badDigit.With(i+1, keys[f.name], digit)
		}
		key.WriteByte('0' + byte(digit))
	}
	if r.n > 8*len(r.bytes) {
		return wrongBits.With(strings.ToUpper(string(f.scheme)), r.n, 8*len(r.bytes))
	}
	e.Reference = key.String()
	if f.chars > 0 {
		var err error
		if e.Serial, err = r.serial(f.chars); err != nil {
			return err
		}
	}
	return checked(keys[f.name], e.Reference)
}
