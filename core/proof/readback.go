package proof

import (
	"errors"
	"fmt"
	"strings"

	"github.com/makiuchi-d/gozxing"
	aztecdecoder "github.com/makiuchi-d/gozxing/aztec/decoder"
	aztecdetector "github.com/makiuchi-d/gozxing/aztec/detector"
	"github.com/makiuchi-d/gozxing/common"
	dmdecoder "github.com/makiuchi-d/gozxing/datamatrix/decoder"
	"github.com/makiuchi-d/gozxing/oned"
	qrdecoder "github.com/makiuchi-d/gozxing/qrcode/decoder"

	"oddspool/core/compose"
	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/symbology"
)

// A reader reads codes back from the dots of a plane. Where gozxing has a decoder it decodes, which
// shares nothing with the encoder; the other codes must be, bar by bar and module by module, what
// encoding their data gives.
type reader struct {
	rows map[symbology.ID]rowDecoder
	dots []uint16
	good int // codes that said what was meant
}

type rowDecoder interface {
	DecodeRow(rowNumber int, row *gozxing.BitArray, hints map[gozxing.DecodeHintType]interface{}) (*gozxing.Result, error)
}

// rowDecoders makes the decoder of a linear symbology.
var rowDecoders = map[symbology.ID]func() gozxing.Reader{
	symbology.Code128: oned.NewCode128Reader, symbology.GS1128: oned.NewCode128Reader, symbology.Code39: oned.NewCode39Reader, symbology.Code39Full: oned.NewCode39Reader,
	symbology.Code93: oned.NewCode93Reader, symbology.Codabar: oned.NewCodaBarReader, symbology.Interleaved: oned.NewITFReader, symbology.ITF14: oned.NewITFReader,
	symbology.EAN13: oned.NewEAN13Reader, symbology.EAN8: oned.NewEAN8Reader, symbology.UPCA: oned.NewUPCAReader, symbology.UPCE: oned.NewUPCEReader,
}

var (
	errNoCode  = errors.New("no code is found")
	errCrossed = errors.New("its bars are not the same from end to end")
	errModules = errors.New("something stands in its modules")
)

// margin is the light left on either side of a line that is read, in modules: the zone is looked
// at by itself, and neighbours further out must not disturb the reading.
const margin = 10

// read decodes the code of a part whose bars fill box on the plane, turned as given, and returns what
// it says: what was meant, where a reader says what it should.
func (r *reader) read(plane *render.Plane, box render.Box, part *compose.Part, turn measure.Turn) (string, error) {
	if part.Symbol.Is2D() {
		return readMatrix(plane, box, part, turn)
	}
	length, same := box.W, plane.SameRows
	if turn.Sideways() {
		length, same = box.H, plane.SameColumns
	}
	if !same(box) { // a scanner may cross the bars anywhere
		return "", errCrossed
	}
	set := func(at int) bool {
		switch turn {
		case 90:
			return plane.Set(box.X, box.Y+at)
		case 180:
			return plane.Set(box.X+box.W-1-at, box.Y)
		case 270:
			return plane.Set(box.X, box.Y+box.H-1-at)
		}
		return plane.Set(box.X+at, box.Y)
	}
	decoder := r.decoder(part.ID)
	if decoder == nil || part.Narrower > 0 { // narrower bars are what the ink makes up for
		return r.compare(part, set)
	}
	bits := gozxing.NewBitArray(length + 2*margin*part.Module)
	for at := range length {
		if set(at) {
			bits.Set(margin*part.Module + at)
		}
	}
	var hints map[gozxing.DecodeHintType]interface{}
	meant := part.Symbol.Reads
	switch part.ID {
	case symbology.Interleaved, symbology.ITF14:
		hints = map[gozxing.DecodeHintType]interface{}{gozxing.DecodeHintType_ALLOWED_LENGTHS: []int{len(meant)}}
	case symbology.GS1128:
		hints, meant = gs1Hints, symbology.GuideOf(part.ID).Identifier+meant
	}
	result, err := decoder.DecodeRow(0, bits, hints)
	if err != nil {
		return "", errNoCode
	}
	text := result.GetText()
	if part.ID == symbology.GS1128 { // the decoder takes a check character of 102 for a separator
		text = strings.TrimSuffix(text, string(rune(gs1First)))
	}
	if text == meant {
		return part.Says, nil
	}
	return text, nil
}

// gs1Hints have function characters told rather than dropped.
var gs1Hints = map[gozxing.DecodeHintType]interface{}{gozxing.DecodeHintType_ASSUME_GS1: true}

func (r *reader) decoder(id symbology.ID) rowDecoder {
	if decoder, made := r.rows[id]; made {
		return decoder
	}
	if r.rows == nil {
		r.rows = map[symbology.ID]rowDecoder{}
	}
	if make := rowDecoders[id]; make != nil {
		r.rows[id], _ = make().(rowDecoder)
	} else {
		r.rows[id] = nil
	}
	return r.rows[id]
}

// compare holds bars against what encoding their data anew gives.
func (r *reader) compare(part *compose.Part, set func(at int) bool) (string, error) {
	var again symbology.Symbol
	if err := again.Encode(part.ID, part.Says, part.Options); err != nil {
		return "", errNoCode
	}
	r.dots = again.AppendDots(r.dots[:0], part.Module, part.Narrower)
	at := 0
	for i, width := range r.dots {
		for range width {
			if set(at) != (i%2 == 0) {
				return "", errNoCode
			}
			at++
		}
	}
	return part.Says, nil
}

// readMatrix reads the modules of a 2D code, each of which must be all dark or all light, and decodes
// them.
func readMatrix(plane *render.Plane, box render.Box, part *compose.Part, turn measure.Turn) (string, error) {
	m := &part.Symbol.Matrix
	tall := max(part.Symbol.RowHeight, 1) * part.Module
	bits, err := gozxing.NewBitMatrix(m.Width, m.Height)
	if err != nil {
		return "", errNoCode
	}
	same := true
	for y := range m.Height {
		for x := range m.Width {
			module := render.Box{X: x * part.Module, Y: y * tall, W: part.Module, H: tall}.Turned(turn, m.Width*part.Module, m.Height*tall)
			module.X, module.Y = module.X+box.X, module.Y+box.Y
			dark := plane.Set(module.X, module.Y)
			if !plane.All(module, dark) {
				return "", errModules
			}
			if dark {
				bits.Set(x, y)
			}
			same = same && dark == m.At(x, y)
		}
	}
	if !same {
		return "", errNoCode
	}
	text, decoded, err := decodeMatrix(part.ID, bits)
	if err != nil {
		return "", errNoCode
	}
	meant := part.Symbol.Reads
	if part.ID == symbology.GS1DataMatrix || part.ID == symbology.GS1Aztec {
		meant = string(rune(gs1First)) + meant
	}
	if decoded && isASCII(part.Says) && text != meant { // beyond ASCII the decoders give some bytes as they are
		return text, nil
	}
	return part.Says, nil
}

// gs1First is how gozxing tells of a function character, also of the first, which says that the data is
// GS1's.
const gs1First = 0x1D

// decodeMatrix decodes the modules of a code; decoded is false where gozxing has no decoder.
func decodeMatrix(id symbology.ID, bits *gozxing.BitMatrix) (text string, decoded bool, err error) {
	var result *common.DecoderResult
	switch id {
	case symbology.QR, symbology.GS1QR, symbology.GS1LinkQR:
		result, err = qrdecoder.NewDecoder().Decode(bits, nil)
	case symbology.DataMatrix, symbology.GS1DataMatrix, symbology.GS1LinkDataMatrix:
		result, err = dmdecoder.NewDecoder().Decode(bits)
	case symbology.Aztec, symbology.GS1Aztec:
		compact, layers, words := aztecMessage(bits)
		result, err = aztecdecoder.NewDecoder().Decode(aztecdetector.NewAztecDetectorResult(bits, nil, compact, words, layers))
	default:
		return "", false, nil
	}
	if err != nil {
		return "", true, err
	}
	return result.GetText(), true, nil
}

// aztecMessage reads the message round the bull's eye of an Aztec Code: layers, and words of data
// (ISO/IEC 24778, 7.2). A symbol as small as a compact one is one: this program makes no full ones of
// less than four layers.
func aztecMessage(bits *gozxing.BitMatrix) (compact bool, layers, words int) {
	const compactBits, fullBits, compactMost = 8, 16, 27
	centre, number := bits.GetWidth()/2, 0
	read := func(n, side, eye, from int) {
		for i := range n {
			x, y := from+i%side, centre-eye
			if side == 10 {
				x += i % side / 5 // the reference grid runs between
			}
			if i >= side {
				x, y = centre+eye, x
			}
			number *= 2
			if bits.Get(x, y) {
				number++
			}
		}
	}
	if bits.GetWidth() <= compactMost {
		read(compactBits, 7, 5, centre-3)
		return true, number>>6 + 1, number&63 + 1
	}
	read(fullBits, 10, 7, centre-5)
	return false, number>>11 + 1, number&2047 + 1
}

func isASCII(text string) bool {
	for i := range len(text) {
		if text[i] >= 0x80 {
			return false
		}
	}
	return true
}

// A Reading is what the codes of a printed label were read as.
type Reading struct {
	Codes int    // codes on the label
	Other string // what reads otherwise, in words; empty when all say what was meant
}

// ReadBack reads every code on the label of a record from the dots that came out, one plane an ink
// of the design; nil stands for the dots that were sent.
func (c *Checker) ReadBack(record []string, printed render.Layers) Reading {
	label := c.draw(record)
	if printed == nil {
		printed = c.layers
	}
	var reading Reading
	w, h := c.layers.Size()
	if pw, ph := printed.Size(); pw != w || ph != h {
		reading.Other = fmt.Sprintf("The label that came out has %d × %d dots, not %d × %d.", pw, ph, w, h)
	}
	for i := range label.Parts {
		part := &label.Parts[i]
		if part.Module == 0 || part.Says == "" || part.CodeError != nil {
			continue
		}
		reading.Codes++
		if reading.Other != "" || !c.frame.Holds(part.Bars) {
			continue
		}
		got, err := c.readAll(part, printed[c.composer.Ink(i)])
		if err != nil {
			reading.Other = fmt.Sprintf("“%s” cannot be read: %v.", part.Says, err)
		} else if got != part.Says {
			reading.Other = fmt.Sprintf("“%s” is read as “%s”.", part.Says, got)
		}
	}
	return reading
}
