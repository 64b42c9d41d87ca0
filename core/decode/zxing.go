package decode

import (
	"github.com/makiuchi-d/gozxing"
	aztecdecoder "github.com/makiuchi-d/gozxing/aztec/decoder"
	aztecdetector "github.com/makiuchi-d/gozxing/aztec/detector"
	dmdecoder "github.com/makiuchi-d/gozxing/datamatrix/decoder"
	"github.com/makiuchi-d/gozxing/oned"
	qrdecoder "github.com/makiuchi-d/gozxing/qrcode/decoder"
)

// What gozxing decodes: from modules to words it is another's work, and of linear codes to text. Its readers
// keep nothing between calls, but are not safe for concurrent use, so each call has its own.

type rowReader interface {
	DecodeRow(rowNumber int, row *gozxing.BitArray, hints map[gozxing.DecodeHintType]interface{}) (*gozxing.Result,
		error)
}

// row has a reader decode widths, where two tells that they are 1 for narrow and 2 for wide.
func readRow(reader gozxing.Reader, widths []int, two bool, hints map[gozxing.DecodeHintType]interface{}) (Message,
	error) {
	const narrow, wide, quiet = 2, 5, 24 // dots
	total := 2 * quiet
	dotsOf := func(width int) int {
		if two && width == 2 {
			return wide
		}
		return width * narrow
	}
	for _, width := range widths {
		total += dotsOf(width)
	}
	bits := gozxing.NewBitArray(total)
	at := quiet
	for i, width := range widths {
		for range dotsOf(width) {
			if i%2 == 0 {
				bits.Set(at)
			}
			at++
		}
	}
	decoder, ok := reader.(rowReader)
	if !ok {
		return Message{}, ErrPattern
	}
	result, err := decoder.DecodeRow(0, bits, hints)
	if err != nil {
		return Message{}, ErrPattern
	}
	return Message{Text: result.GetText()}, nil
}

// Code39 reads Code 39, check character included; pairs that stand for others are told as they are.
func Code39(widths []int) (Message, error) { return readRow(oned.NewCode39Reader(), widths, true, nil) }

// Code93 reads Code 93.
func Code93(widths []int) (Message, error) {
	return readRow(oned.NewCode93Reader(), widths, false, nil)
}

// retail reads an EAN or UPC symbol of so many widths, and its add-on where it has one: its digits follow
// behind a space.
func retail(reader gozxing.Reader, widths []int, own int) (Message, error) {
	if len(widths) < own {
		return Message{}, ErrPattern
	}
	m, err := readRow(reader, widths[:own], false, nil)
	if err == nil && len(widths) > own {
		var addOn string
		addOn, err = AddOn(widths[own+1:])
		m.Text += " " + addOn
	}
	return m, err
}

// EAN13 reads EAN-13.
func EAN13(widths []int) (Message, error) { return retail(oned.NewEAN13Reader(), widths, 59) }

// EAN8 reads EAN-8.
func EAN8(widths []int) (Message, error) { return retail(oned.NewEAN8Reader(), widths, 43) }

// UPCA reads UPC-A.
func UPCA(widths []int) (Message, error) { return retail(oned.NewUPCAReader(), widths, 59) }

// UPCE reads UPC-E in its short form.
func UPCE(widths []int) (Message, error) { return retail(oned.NewUPCEReader(), widths, 33) }

// matrixOf gives modules to gozxing.
func matrixOf(m *Modules) (*gozxing.BitMatrix, error) {
	matrix, err := gozxing.NewBitMatrix(m.Width, m.Height)
	if err != nil {
		return nil, ErrPattern
	}
	for y := range m.Height {
		for x := range m.Width {
			if m.At(x, y) {
				matrix.Set(x, y)
			}
		}
	}
	return matrix, nil
}

// QR reads QR Code. Up to as many errors as it can correct are made good.
func QR(m *Modules) (Message, error) {
	version := QRVersion(m)
	matrix, err := matrixOf(m)
	if err != nil || version == 0 {
		return Message{}, ErrPattern
	}
	if words := qrIntact(matrix); words != nil {
		return QRWords(words, version)
	}
	if matrix, err = matrixOf(m); err != nil { // a parser leaves its own unmasked
		return Message{}, ErrPattern
	}
	result, err := qrdecoder.NewDecoder().Decode(matrix, nil)
	if err != nil {
		return Message{}, ErrCheck
	}
	return QRWords(result.GetRawBytes(), version)
}

// qrIntact returns the words of data of a QR Code without any error; nil: it has some. Decoding as such evaluates
// polynomials word by word, which takes two thirds of the time of a read, and is needed for errors alone.
func qrIntact(matrix *gozxing.BitMatrix) (words []byte) {
	parser, err := qrdecoder.NewBitMatrixParser(matrix)
	if err != nil {
		return nil
	}
	version, err := parser.ReadVersion()
	if err != nil {
		return nil
	}
	format, err := parser.ReadFormatInformation()
	if err != nil {
		return nil
	}
	all, err := parser.ReadCodewords()
	if err != nil {
		return nil
	}
	blocks, err := qrdecoder.DataBlock_GetDataBlocks(all, version, format.GetErrorCorrectionLevel())
	if err != nil {
		return nil
	}
	for _, block := range blocks {
		data := block.GetNumDataCodewords()
		if !qrDivides(block.GetCodewords(), len(block.GetCodewords())-data) {
			return nil
		}
		words = append(words, block.GetCodewords()[:data]...)
	}
	return words
}

// DataMatrix reads Data Matrix ECC 200. Up to as many errors as it can correct are made good.
func DataMatrix(m *Modules) (Message, error) {
	matrix, err := matrixOf(m)
	if err != nil {
		return Message{}, err
	}
	result, err := dmdecoder.NewDecoder().Decode(matrix)
	if err != nil {
		return Message{}, ErrCheck
	}
	return DataMatrixWords(result.GetRawBytes())
}

// Aztec reads Aztec Code and its runes. Up to as many errors as it can correct are made good.
func Aztec(m *Modules) (Message, error) {
	if m.Width == runeSize && m.Height == runeSize {
		return aztecRune(m)
	}
	matrix, err := matrixOf(m)
	if err != nil {
		return Message{}, err
	}
	compact, layers, words, err := aztecMessage(m)
	if err != nil {
		return Message{}, err
	}
	result, err := aztecdecoder.NewDecoder().Decode(aztecdetector.NewAztecDetectorResult(matrix, nil, compact, words,
		layers))
	if err != nil {
		return Message{}, ErrCheck
	}
	data := streamOf(result.GetRawBytes()).data
	return AztecBits(data[:min(result.GetNumBits(), len(data))])
}
