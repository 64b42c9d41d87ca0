package epc

import (
	"strconv"
	"strings"
)

func notDigit(r rune) bool { return r < '0' || r > '9' }

// serialNumber reads a serial that is kept as a number: without leading zeros, which would be lost (TDS 1.13, 12.3).
func serialNumber(text string, bits int) (uint64, error) {
	if text == "" {
		return 0, numberSerialEmpty.With(uint64(1)<<bits - 1)
	}
	return plainNumber("The serial", text, bits)
}

func plainNumber(what, text string, bits int) (uint64, error) {
	if at := strings.IndexFunc(text, notDigit); at >= 0 {
		return 0, digitsOnly.With(what, text, text[at], at+1)
	}
	if len(text) > 1 && text[0] == '0' {
		return 0, leadingZero.With(what, text)
	}
	n, err := strconv.ParseUint(text, 10, 64)
	if err != nil || n >= uint64(1)<<bits {
		return 0, numberTooLarge.With(what, text, uint64(1)<<bits-1)
	}
	return n, nil
}

// set82 are the characters of GS1 AI encodable character set 82 (GS1 General Specifications, figure 7.11-1).
const set82 = "!\"%&'()*+,-./0123456789:;<=>?ABCDEFGHIJKLMNOPQRSTUVWXYZ_abcdefghijklmnopqrstuvwxyz"

func fits82(what, text string, most int) error {
	for i, r := range text {
		if !strings.ContainsRune(set82, r) {
			return letterNotInSet.With(what, text, r, i+1)
		}
	}
	if len(text) > most {
		return tooLong.With(what, text, len(text), most)
	}
	return nil
}

// sixBits puts characters of six bits, ended by six zeros (TDS 1.13, 14.3.7 and annex G).
func sixBits(w *written, what, text string, most int) error {
	if text == "" || len(text) > most {
		return badCountOfCharacters.With(what, text, len(text), most)
	}
	for i := range len(text) {
		c := text[i]
		if !(c >= '0' && c <= '9' || c >= 'A' && c <= 'Z' || c == '-' || c == '/' || c == '#') {
			return adiCharacter.With(what, text, c, i+1)
		}
		w.put(uint64(c&0x3F), 6)
	}
	w.put(0, 6)
	return nil
}

// encodeADI writes an identifier of the Aerospace and Defense scheme (TDS 1.13, 14.6.12).
func (e *EPC) encodeADI(w *written) error {
	if e.Filter < 0 || e.Filter > 63 {
		return badAdiFilter.With(e.Filter)
	}
	w.put(uint64(e.Filter), 6)
	if len(e.Company) != 5 && len(e.Company) != 6 {
		return cageLength.With(e.Company)
	}
	for i, c := range []byte(strings.Repeat(" ", 6-len(e.Company)) + e.Company) {
		if !(c >= '0' && c <= '9' || c >= 'A' && c <= 'Z' && c != 'I' && c != 'O' || c == ' ' && i == 0) {
			return cageCharacter.With(e.Company, c)
		}
		w.put(uint64(c&0x3F), 6)
	}
	if e.Reference == "" {
		w.put(0, 6) // an item without a part number
	} else if err := sixBits(w, "The part number", e.Reference, 32); err != nil {
		return err
	}
	return sixBits(w, "The serial", e.Serial, 30)
}

// What a general identifier is made of (TDS 1.13, 14.6.10): the number of who gives them, a class, a serial.
const (
	gidManagerBits = 28
	gidClassBits   = 24
	gidSerialBits  = 36
)

// encodeGID writes a general identifier.
func (e *EPC) encodeGID(w *written) error {
	if e.Filter != 0 {
		return gidFilter.With(e.Filter)
	}
	for _, part := range []struct {
		what, text string
		bits       int
	}{{"The general manager number", e.Company, gidManagerBits}, {"The object class", e.Reference, gidClassBits},
		{"The serial", e.Serial, gidSerialBits}} {
		if part.text == "" {
			return badGid.With(e.Company + "." + e.Reference + "." + e.Serial)
		}
		n, err := plainNumber(part.what, part.text, part.bits)
		if err != nil {
			return err
		}
		w.put(n, part.bits)
	}
	return nil
}
