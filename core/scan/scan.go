// Package scan finds the code of a clean picture, such as a rendered label or a scan that lies straight, and reads it
// with the decoders of all symbologies. It knows no printer and corrects nothing:
//
//	picture ──▶ dark and light ──▶ parts between light rows ──▶ each in four turns ──▶ runs or modules ──▶ decoders
//
// A picture that is tilted, blurred or uneven needs a reader that looks for codes in it.
package scan

import (
	"image"
	"slices"

	"oddspool/core/decode"
	"oddspool/core/gs1"
	"oddspool/core/symbology"
)

// A Code is what was read.
type Code struct {
	Kind    *symbology.Kind
	Message decode.Message
}

// Read returns the code of a picture; ok is false where none is found. Where several symbologies read the same bars, it
// is the one whose decoder checks most: those without a check character come last.
func Read(picture image.Image) (code Code, ok bool) {
	whole := dotsOf(picture)
	for _, part := range append([]dots{whole.cropped()}, whole.bands()...) {
		for range 4 {
			if code, ok := part.read(); ok {
				return code, true
			}
			part = part.turned()
		}
	}
	return Code{}, false
}

// dots are the dots of a picture, row by row.
type dots struct {
	width, height int
	dark          []bool
}

func (d dots) at(x, y int) bool { return d.dark[y*d.width+x] }

// dotsOf takes what is darker than halfway between the darkest and the lightest for dark.
func dotsOf(picture image.Image) dots {
	b := picture.Bounds()
	d := dots{b.Dx(), b.Dy(), make([]bool, b.Dx()*b.Dy())}
	grey := make([]uint32, len(d.dark))
	darkest, lightest := uint32(1<<16-1), uint32(0)
	for i := range grey {
		red, green, blue, alpha := picture.At(b.Min.X+i%d.width, b.Min.Y+i/d.width).RGBA()
		grey[i] = (red*3+green*6+blue)/10 + 0xFFFF - alpha // on white
		darkest, lightest = min(darkest, grey[i]), max(lightest, grey[i])
	}
	for i, g := range grey {
		d.dark[i] = 2*g < darkest+lightest
	}
	return d
}

// part returns a part of the dots.
func (d dots) part(x, y, w, h int) dots {
	p := dots{w, h, make([]bool, 0, w*h)}
	for row := range h {
		at := (y+row)*d.width + x
		p.dark = append(p.dark, d.dark[at:at+w]...)
	}
	return p
}

// cropped returns what lies within the outermost dark dots.
func (d dots) cropped() dots {
	left, right, top, bottom := d.width, 0, d.height, 0
	for i, dark := range d.dark {
		if dark {
			x, y := i%d.width, i/d.width
			left, right, top, bottom = min(left, x), max(right, x+1), min(top, y), max(bottom, y+1)
		}
	}
	if left >= right {
		return dots{}
	}
	return d.part(left, top, right-left, bottom-top)
}

// bands returns what lies between rows that are light from end to end, the tallest first: a code apart from its text.
func (d dots) bands() (bands []dots) {
	for _, whole := range []dots{d, d.turned()} {
		from := -1
		for y := range whole.height + 1 {
			dark := y < whole.height && slices.Contains(whole.dark[y*whole.width:(y+1)*whole.width], true)
			switch {
			case dark && from < 0:
				from = y
			case !dark && from >= 0:
				bands = append(bands, whole.part(0, from, whole.width, y-from).cropped())
				from = -1
			}
		}
	}
	slices.SortStableFunc(bands, func(a, b dots) int { return b.width*b.height - a.width*a.height })
	return bands
}

// turned returns the dots turned by a quarter, clockwise.
func (d dots) turned() dots {
	t := dots{d.height, d.width, make([]bool, len(d.dark))}
	for y := range t.height {
		for x := range t.width {
			t.dark[y*t.width+x] = d.at(y, d.height-1-x)
		}
	}
	return t
}

// runs returns the lengths of dark and light along a row, beginning and ending with dark; nil where it does not.
func (d dots) runs(y int) (runs []int) {
	if d.width == 0 || !d.at(0, y) || !d.at(d.width-1, y) {
		return nil
	}
	run := 1
	for x := 1; x <= d.width; x++ {
		if x < d.width && d.at(x, y) == d.at(x-1, y) {
			run++
			continue
		}
		runs, run = append(runs, run), 1
	}
	return runs
}

// read tries the decoders of linear codes on the row in the middle, and those of 2D codes on the modules.
func (d dots) read() (Code, bool) {
	if d.width == 0 {
		return Code{}, false
	}
	if code, ok := readModules(d.modules()); ok {
		return code, true
	}
	runs := d.runs(d.height / 2)
	if !slices.Equal(runs, d.runs(d.height/3)) { // bars are the same from end to end, letters are not
		return Code{}, false
	}
	return readRuns(runs)
}

// readRuns tries linear codes: those of modules with the shortest run as one, those of two widths with all that is
// nearer the longest as wide.
func readRuns(runs []int) (Code, bool) {
	const fewest = 5 // bars and spaces; of fewer anything can be said
	if len(runs) < fewest {
		return Code{}, false
	}
	shortest, longest := slices.Min(runs), slices.Max(runs)
	modules, widths := make([]int, len(runs)), make([]int, len(runs))
	for i, run := range runs {
		modules[i], widths[i] = (run+shortest/2)/shortest, 1
		if 2*run > shortest+longest {
			widths[i] = 2
		}
	}
	for _, unchecked := range []bool{false, true} {
		for _, kind := range symbology.All() {
			if kind.Widths == nil || kind.Trade || kind.Unchecked != unchecked {
				continue
			}
			read := modules
			if kind.Has("ratio") {
				read = widths
			}
			message, err := kind.Widths(read)
			if err == nil && message.GS1 == isGS1(kind) && holds(kind, message.Text) {
				return Code{kind, message}, true
			}
		}
	}
	return Code{}, false
}

// holds tells whether a symbology that is for numbers of one length holds what was read.
func holds(kind *symbology.Kind, text string) bool {
	if !kind.CheckDigit || kind.GS1 {
		return true
	}
	return new(symbology.Symbol).EncodeAs(kind, text, symbology.Options{CheckDigit: gs1.Given}) == nil
}

// isGS1 tells whether a symbol of a kind says that its data is GS1's.
func isGS1(kind *symbology.Kind) bool { return kind.GS1 && !kind.Link }

// modules returns the modules of a 2D code, of which all runs across and along are multiples, and again with rows that
// are alike as one: those of stacked codes are taller than modules are wide.
func (d dots) modules() (found []*decode.Modules) {
	side := divisor(d) // across
	tall := divisor(d.turned())
	if side == 0 || tall == 0 || d.width%side != 0 || d.height%tall != 0 {
		return nil
	}
	square := &decode.Modules{Width: d.width / side, Height: d.height / min(side, tall)}
	if d.height%min(side, tall) != 0 {
		return nil
	}
	for y := range square.Height {
		for x := range square.Width {
			square.Dark = append(square.Dark, d.at(x*side, y*min(side, tall)))
		}
	}
	rows := &decode.Modules{Width: square.Width}
	for y := range square.Height {
		row := square.Dark[y*square.Width : (y+1)*square.Width]
		if y == 0 || !slices.Equal(row, square.Dark[(y-1)*square.Width:y*square.Width]) {
			rows.Dark, rows.Height = append(rows.Dark, row...), rows.Height+1
		}
	}
	found = []*decode.Modules{square, rows}
	for _, light := range [][2]int{{1, 0}, {0, 1}, {1, 1}} { // guards of GS1 DataBar that are light outside
		found = append(found, widened(square, light[0], light[1]))
	}
	return found
}

// widened returns modules with light ones on the left and on the right.
func widened(m *decode.Modules, left, right int) *decode.Modules {
	w := &decode.Modules{Width: left + m.Width + right, Height: m.Height}
	w.Dark = make([]bool, w.Width*w.Height)
	for y := range m.Height {
		copy(w.Dark[y*w.Width+left:], m.Dark[y*m.Width:(y+1)*m.Width])
	}
	return w
}

// divisor returns the greatest length of which all runs of all rows are multiples.
func divisor(d dots) (common int) {
	for y := range d.height {
		run := 0
		for x := range d.width {
			if run++; x+1 == d.width || d.at(x, y) != d.at(x+1, y) {
				common, run = gcd(common, run), 0
			}
		}
	}
	return common
}

func gcd(a, b int) int {
	for b > 0 {
		a, b = b, a%b
	}
	return a
}

// readModules tries 2D codes.
func readModules(found []*decode.Modules) (Code, bool) {
	for _, modules := range found {
		if modules.Height < 2 {
			continue
		}
		for _, kind := range symbology.All() {
			if kind.Modules == nil || kind.Trade {
				continue
			}
			message, err := readSafely(kind, modules)
			if err == nil && message.GS1 == isGS1(kind) && !kind.Link {
				return Code{kind, message}, true
			}
		}
	}
	return Code{}, false
}

// readSafely decodes modules that may be anything: decoders are made for those of a symbol, and a panic of theirs or of
// the library behind them says that these are none.
func readSafely(kind *symbology.Kind, modules *decode.Modules) (message decode.Message, err error) {
	defer func() {
		if recover() != nil {
			err = decode.ErrPattern
		}
	}()
	return kind.Modules(modules)
}
