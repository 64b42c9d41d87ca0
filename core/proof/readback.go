package proof

import (
	"errors"
	"fmt"

	"github.com/makiuchi-d/gozxing"
	"github.com/makiuchi-d/gozxing/oned"

	"oddspool/core/measure"
	"oddspool/core/render"
)

// A reader reads codes back from the dots of a plane. The decoding is gozxing's, which shares
// nothing with the encoder.
type reader struct {
	code128 rowDecoder
	good    int // codes that said what was meant
}

type rowDecoder interface {
	DecodeRow(rowNumber int, row *gozxing.BitArray, hints map[gozxing.DecodeHintType]interface{}) (*gozxing.Result, error)
}

var (
	errNoCode  = errors.New("no code is found")
	errCrossed = errors.New("its bars are not the same from end to end")
)

// margin is the light left on either side of a line that is read, in modules: the zone is looked
// at by itself, and neighbours further out must not disturb the reading.
const margin = 10

// read decodes the linear code whose bars fill box on the plane, turned as given. Every line of
// dots through the bars must be the same: a scanner may cross them anywhere.
func (r *reader) read(plane *render.Plane, box render.Box, turn measure.Turn, module int) (string, error) {
	length, same := box.W, plane.SameRows
	if turn.Sideways() {
		length, same = box.H, plane.SameColumns
	}
	if !same(box) {
		return "", errCrossed
	}
	bits := gozxing.NewBitArray(length + 2*margin*module)
	for at := range length {
		x, y := box.X, box.Y
		switch turn {
		case 90:
			y += at
		case 180:
			x += box.W - 1 - at
		case 270:
			y += box.H - 1 - at
		default:
			x += at
		}
		if plane.Set(x, y) {
			bits.Set(margin*module + at)
		}
	}
	if r.code128 == nil {
		r.code128 = oned.NewCode128Reader().(rowDecoder)
	}
	result, err := r.code128.DecodeRow(0, bits, nil)
	if err != nil {
		return "", errNoCode
	}
	return result.GetText(), nil
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
