package proof

import (
	"errors"
	"fmt"
	"strings"

	"oddspool/core/compose"
	"oddspool/core/decode"
	"oddspool/core/measure"
	"oddspool/core/render"
	"oddspool/core/symbology"
)

// A reader reads codes back from the dots of a plane with package decode, which shares nothing with the
// encoders.
type reader struct {
	widths  []int
	modules decode.Modules
	good    int // codes that said what was meant
}

var (
	errNoCode  = errors.New("no code is found")
	errCrossed = errors.New("its bars are not the same from end to end")
	errModules = errors.New("something stands in its modules")
)

// read decodes the code of a part whose bars fill box on the plane, turned as given, and returns what
// it says: what was meant, where a reader says what it should.
func (r *reader) read(plane *render.Plane, box render.Box, part *compose.Part, turn measure.Turn) (string, error) {
	if part.Symbol.Is2D() {
		return r.matrix(plane, box, part, turn)
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
	if err := r.measure(part, length, set); err != nil {
		return "", err
	}
	message, err := symbology.Of(part.ID).Widths(r.widths)
	return compareMessage(part, message, err)
}

// compareMessage returns what a part says when a decoder reads what a reader should, and else what it reads.
func compareMessage(part *compose.Part, message decode.Message, err error) (string, error) {
	switch {
	case err != nil:
		return "", err
	case symbology.Of(part.ID).GS1 && !symbology.Of(part.ID).Link && !message.GS1:
		return message.Text, nil
	}
	meant := part.Symbol.Reads
	if _, addOn, has := strings.Cut(part.Symbol.Text, " "); has && symbology.Of(part.ID).AddOn {
		meant += " " + addOn
	}
	if message.Says(meant) {
		return part.Says, nil
	}
	return message.Text, nil
}

// measure reads the widths of bars and spaces in modules, or in 1 for narrow and 2 for wide. Bars that are
// narrower than they are meant, for ink that spreads, count as if it had.
func (r *reader) measure(part *compose.Part, length int, set func(at int) bool) error {
	r.widths = r.widths[:0]
	narrower := min(part.Narrower, part.Module-1)
	take := func(dots int) error {
		if dots += narrower; len(r.widths)%2 == 1 {
			dots -= 2 * narrower
		}
		switch {
		case part.Symbol.Ratio > 0 && dots == part.Module:
			r.widths = append(r.widths, 1)
		case part.Symbol.Ratio > 0 && dots == part.Symbol.WideDots(part.Module):
			r.widths = append(r.widths, 2)
		case part.Symbol.Ratio == 0 && dots%part.Module == 0 && dots > 0:
			r.widths = append(r.widths, dots/part.Module)
		default:
			return errNoCode
		}
		return nil
	}
	from := 0
	for at := 1; at <= length; at++ {
		if at < length && set(at) == set(at-1) {
			continue
		}
		if at == length && !set(at-1) { // what the last bar lacks
			break
		}
		if err := take(at - from); err != nil {
			return err
		}
		from = at
	}
	if !set(0) || len(r.widths)%2 == 0 {
		return errNoCode
	}
	return nil
}

// matrix reads the modules of a 2D code, each of which must be all dark or all light, and decodes them.
func (r *reader) matrix(plane *render.Plane, box render.Box, part *compose.Part, turn measure.Turn) (string, error) {
	m := &part.Symbol.Matrix
	tall := max(part.Symbol.RowHeight, 1) * part.Module
	r.modules.Width, r.modules.Height, r.modules.Dark = m.Width, m.Height, r.modules.Dark[:0]
	same := true // a decoder would make good what is wrong with some modules; on paper there will be more
	// Modules lie in rows on the plane however the code is turned: the dots of a row are alike from its first to its
	// last, so the first ones tell.
	high := render.Box{W: part.Module, H: tall}.Turned(turn, part.Module, tall).H
	for y := 0; y < box.H; y += high {
		if !plane.SameRows(render.Box{X: box.X, Y: box.Y + y, W: box.W, H: high}) {
			return "", errModules
		}
	}
	for y := range m.Height {
		for x := range m.Width {
			module := render.Box{X: x * part.Module, Y: y * tall, W: part.Module, H: tall}.Turned(turn,
				m.Width*part.Module, m.Height*tall)
			module.X, module.Y, module.H = module.X+box.X, module.Y+box.Y, 1
			dark := plane.Set(module.X, module.Y)
			if !plane.All(module, dark) {
				return "", errModules
			}
			r.modules.Dark = append(r.modules.Dark, dark)
			same = same && dark == m.At(x, y)
		}
	}
	if !same {
		return "", errNoCode
	}
	message, err := symbology.Of(part.ID).Modules(&r.modules)
	return compareMessage(part, message, err)
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
