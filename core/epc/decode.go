package epc

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// read are bits that are taken one after the other.
type read struct {
	bytes []byte
	n     int
}

func (r *read) take(bits int) (value uint64) {
	for range bits {
		value <<= 1
		if r.n < 8*len(r.bytes) {
			value |= uint64(r.bytes[r.n/8] >> (7 - r.n%8) & 1)
		}
		r.n++
	}
	return value
}

// Decode reads what a tag holds. Its error is a *refusal.Error: no scheme has this header, or a value lies outside its
// table.
func Decode(memory []byte) (*EPC, error) {
	if len(memory) == 0 {
		return nil, empty.With()
	}
	at := slices.IndexFunc(forms, func(f form) bool { return f.header == uint64(memory[0]) })
	if at < 0 {
		return nil, unknownHeader.With(memory[0])
	}
	f := &forms[at]
	if need := (f.bits + 7) / 8; len(memory) < need {
		return nil, wrongLength.With(strings.ToUpper(string(f.scheme)), f.bits, 8*len(memory))
	}
	r := &read{bytes: memory, n: 8}
	e := &EPC{Scheme: f.scheme}
	switch {
	case f.scheme == ADIVar:
		return e, e.decodeADI(r)
	case f.scheme == GID96:
		e.Company, e.Reference = strconv.FormatUint(r.take(gidManagerBits), 10),
			strconv.FormatUint(r.take(gidClassBits), 10)
		e.Serial = strconv.FormatUint(r.take(gidSerialBits), 10)
		e.Spare = r.more()
		return e, nil
	}
	if f.scheme.Plus() {
		return e, e.decodePlus(r, f)
	}
	e.Filter = int(r.take(3))
	partition := int(r.take(3))
	if partition > 6 {
		return nil, badPartition.With()
	}
	digits := 12 - partition
	company := r.take(companyBits[partition])
	if e.Company = fmt.Sprintf("%0*d", digits, company); len(e.Company) > digits {
		return nil, prefixOverPartition.With(company, digits)
	}
	bits, chars := f.refBits[partition], f.refChars[partition]
	var err error
	switch f.scheme {
	case GIAI202:
		if e.Reference, err = r.chars(chars); err != nil {
			return nil, err
		}
		e.Spare = r.take(bits-7*chars) != 0
	case CPIVar:
		if e.Reference, err = r.six(chars); err != nil {
			return nil, err
		}
	case GIAI96, CPI96:
		e.Reference = strconv.FormatUint(r.take(bits), 10)
	default:
		value := r.take(bits)
		if chars > 0 {
			e.Reference = fmt.Sprintf("%0*d", chars, value)
		}
		if len(e.Reference) > chars || chars == 0 && value != 0 {
			return nil, referenceOverPartition.With(value, chars)
		}
	}
	if f.name == "itip" {
		piece, total := r.take(pieceBits), r.take(pieceBits)
		if err := pieceOf(piece, total); err != nil {
			return nil, err
		}
		e.Pieces = fmt.Sprintf("%02d%02d", piece, total)
	}
	switch {
	case f.scheme == SGCN96:
		text := strconv.FormatUint(r.take(f.serial), 10)
		if text[0] != '1' || len(text) == 1 {
			return nil, serialWithoutOne.With(text)
		}
		e.Serial = text[1:]
	case f.chars > 0:
		e.Serial, err = r.chars(f.chars)
	case f.serial > 0:
		e.Serial = strconv.FormatUint(r.take(f.serial), 10)
	}
	e.Spare = e.Spare || r.more()
	return e, err
}

// more tells whether a bit is set among those that were not taken.
func (r *read) more() bool {
	for r.n < 8*len(r.bytes) {
		if r.take(1) != 0 {
			return true
		}
	}
	return false
}

// chars reads characters of seven bits up to the first that is zero; behind it all are.
func (r *read) chars(most int) (string, error) {
	var text strings.Builder
	ended := false
	for i := range most {
		c := byte(r.take(7))
		switch {
		case c == 0:
			ended = true
		case ended:
			return "", characterAfterEnd.With(i + 1)
		case !strings.ContainsRune(set82, rune(c)):
			return "", characterNotInSet.With(i+1, c)
		default:
			text.WriteByte(c)
		}
	}
	return text.String(), nil
}

// six reads characters of six bits up to six zeros.
func (r *read) six(most int) (string, error) {
	var text strings.Builder
	for range most + 1 {
		c := byte(r.take(6))
		if c == 0 {
			return text.String(), nil
		}
		if c < 0x20 {
			c |= 0x40
		}
		text.WriteByte(c)
	}
	return "", textWithoutEnd.With(text.String())
}

func (e *EPC) decodeADI(r *read) (err error) {
	e.Filter = int(r.take(6))
	var cage []byte
	for range 6 {
		c := byte(r.take(6))
		if c < 0x20 {
			c |= 0x40
		}
		cage = append(cage, c)
	}
	e.Company = strings.TrimLeft(string(cage), " ")
	if e.Reference, err = r.six(32); err != nil {
		return err
	}
	e.Serial, err = r.six(30)
	return err
}
