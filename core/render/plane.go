package render

import (
	"encoding/binary"
	"math/bits"

	"oddspool/core/measure"
	"oddspool/core/typeset"
)

// A Plane is the dots of one ink on one label, one bit a dot. Each row takes Stride words, its
// leftmost dot the highest bit of the first; bits beyond Width are always zero.
type Plane struct {
	Width, Height int
	Stride        int
	Bits          []uint64

	row []uint64 // one row of bars, kept between codes
}

// NewPlane returns an empty plane.
func NewPlane(width, height int) *Plane {
	stride := (width + 63) / 64
	return &Plane{Width: width, Height: height, Stride: stride, Bits: make([]uint64, stride*height)}
}

// Resize empties the plane and gives it another size, in the memory it has where that is enough.
func (p *Plane) Resize(width, height int) {
	p.Width, p.Height, p.Stride = width, height, (width+63)/64
	if n := p.Stride * height; n <= cap(p.Bits) {
		p.Bits = p.Bits[:n]
		clear(p.Bits)
	} else {
		p.Bits = make([]uint64, n)
	}
}

// Clear empties the plane.
func (p *Plane) Clear() { clear(p.Bits) }

// Copy makes p, which must be of the same size, equal to other.
func (p *Plane) Copy(other *Plane) { copy(p.Bits, other.Bits) }

// Set tells whether a dot is set. Dots outside are not.
func (p *Plane) Set(x, y int) bool {
	return x >= 0 && y >= 0 && x < p.Width && y < p.Height && p.Bits[y*p.Stride+x/64]>>(63-x%64)&1 == 1
}

// Dot sets a dot that lies on the plane.
func (p *Plane) Dot(x, y int) { p.Bits[y*p.Stride+x/64] |= 1 << (63 - x%64) }

// Blank tells whether no dot of a box is set.
func (p *Plane) Blank(box Box) bool { return p.All(box, false) }

// All tells whether every dot of a box is as given; those beside the plane are not set.
func (p *Plane) All(box Box, set bool) bool {
	within := box.And(p.all())
	want := uint64(0)
	if set {
		if within != box {
			return false
		}
		want = ^want
	}
	if within.Empty() {
		return true
	}
	first, last := within.X/64, (within.X+within.W-1)/64
	for y := within.Y; y < within.Y+within.H; y++ {
		row := p.Row(y)
		for i := first; i <= last; i++ {
			if (row[i]^want)&columns(within.X-i*64, within.X+within.W-i*64) != 0 {
				return false
			}
		}
	}
	return true
}

// SameRows tells whether all rows of a box that lies on the plane have the same dots.
func (p *Plane) SameRows(box Box) bool {
	if box.Empty() {
		return true
	}
	first, last := box.X/64, (box.X+box.W-1)/64
	above := p.Row(box.Y)
	for y := box.Y + 1; y < box.Y+box.H; y++ {
		row := p.Row(y)
		for i := first; i <= last; i++ {
			if (above[i]^row[i])&columns(box.X-i*64, box.X+box.W-i*64) != 0 {
				return false
			}
		}
	}
	return true
}

// SameColumns tells whether all columns of a box that lies on the plane have the same dots, which
// is that each row is all set or all clear.
func (p *Plane) SameColumns(box Box) bool {
	for y := box.Y; y < box.Y+box.H; y++ {
		set := p.Set(box.X, y)
		for i, word := range p.Row(y) {
			mask := columns(box.X-i*64, box.X+box.W-i*64)
			if word&mask != 0 != (set && mask != 0) || set && word&mask != mask {
				return false
			}
		}
	}
	return true
}

// Row returns the words of row y.
func (p *Plane) Row(y int) []uint64 { return p.Bits[y*p.Stride:][:p.Stride] }

// AppendRow appends row y as bytes, the leftmost dot the highest bit of the first.
func (p *Plane) AppendRow(dst []byte, y int) []byte {
	start := len(dst)
	for _, word := range p.Row(y) {
		dst = binary.BigEndian.AppendUint64(dst, word)
	}
	return dst[:start+(p.Width+7)/8]
}

// SetRow fills row y from bytes as AppendRow makes them. Bits beyond the width are left out.
func (p *Plane) SetRow(y int, row []byte) {
	words := p.Row(y)
	clear(words)
	for i, b := range row[:min(len(row), (p.Width+7)/8)] {
		words[i/8] |= uint64(b) << (56 - i%8*8)
	}
	if beyond := p.Width % 64; beyond > 0 {
		words[len(words)-1] &= ^uint64(0) << (64 - beyond)
	}
}

// Place adds the dots of another plane with its top left corner at x, y, which lies on p.
func (p *Plane) Place(other *Plane, x, y int) {
	for row := 0; row < other.Height && y+row < p.Height; row++ {
		out := p.Row(y + row)
		for i, word := range other.Row(row) {
			n, shift := x/64+i, x%64
			if word == 0 || n >= len(out) {
				continue
			}
			out[n] |= word >> shift
			if shift > 0 && n+1 < len(out) {
				out[n+1] |= word << (64 - shift)
			}
		}
	}
	p.trim()
}

// Cut returns a copy of the dots in a box; what of it lies beside the plane is empty.
func (p *Plane) Cut(box Box) *Plane {
	cut := NewPlane(box.W, box.H)
	first, shift := box.X>>6, box.X&63 // rounded down, also left of the plane
	for row := range box.H {
		y := box.Y + row
		if y < 0 || y >= p.Height {
			continue
		}
		in, out := p.Row(y), cut.Row(row)
		for i := range out {
			if n := first + i; n >= 0 && n < len(in) {
				out[i] = in[n] << shift
			}
			if n := first + i + 1; shift > 0 && n >= 0 && n < len(in) {
				out[i] |= in[n] >> (64 - shift)
			}
		}
	}
	cut.trim()
	return cut
}

// Or adds the dots of another plane of the same size.
func (p *Plane) Or(other *Plane) {
	for i, word := range other.Bits {
		p.Bits[i] |= word
	}
}

// Without takes away the dots that another plane of the same size has.
func (p *Plane) Without(other *Plane) {
	for i, word := range other.Bits {
		p.Bits[i] &^= word
	}
}

// Turned returns the plane turned clockwise.
func (p *Plane) Turned(t measure.Turn) *Plane {
	w, h := t.Size(p.Width, p.Height)
	turned := NewPlane(w, h)
	if t == 0 {
		turned.Copy(p)
		return turned
	}
	for y := range p.Height {
		p.EachDot(y, func(x int) {
			to, down := x, y
			switch t {
			case 90:
				to, down = w-1-y, x
			case 180:
				to, down = w-1-x, h-1-y
			case 270:
				to, down = y, h-1-x
			}
			turned.Bits[down*turned.Stride+to/64] |= 1 << (63 - to%64)
		})
	}
	return turned
}

// EachDot calls do with the column of each dot of a row.
func (p *Plane) EachDot(y int, do func(x int)) {
	for i, word := range p.Row(y) {
		for word != 0 {
			bit := bits.LeadingZeros64(word)
			word &^= 1 << (63 - bit)
			do(i*64 + bit)
		}
	}
}

// trim clears the bits beyond the width of each row.
func (p *Plane) trim() {
	beyond := p.Width % 64
	if beyond == 0 {
		return
	}
	for y := range p.Height {
		p.Bits[(y+1)*p.Stride-1] &= ^uint64(0) << (64 - beyond)
	}
}

// fillRow sets the dots of a row from one column up to another; there is at least one.
func fillRow(row []uint64, from, to int) {
	first, last := from/64, (to-1)/64
	head, tail := ^uint64(0)>>(from%64), ^uint64(0)<<(63-(to-1)%64)
	if first == last {
		row[first] |= head & tail
		return
	}
	row[first] |= head
	for i := first + 1; i < last; i++ {
		row[i] = ^uint64(0)
	}
	row[last] |= tail
}

// mask sets the dots of a glyph whose origin is at x, y, as far as they lie in clip.
func (p *Plane) mask(m *typeset.Mask, x, y int, clip Box) {
	x, y = x+m.X, y+m.Y
	box := Box{x, y, m.Width, m.Height}.And(clip)
	if box.Empty() {
		return
	}
	if m.Stride == 1 && x >= 0 && box == (Box{x, y, m.Width, m.Height}) { // as most glyphs are
		p.narrow(m, x, y)
		return
	}
	left, right := box.X-x, box.X-x+box.W // columns of the mask that count
	for row := box.Y; row < box.Y+box.H; row++ {
		out := p.Row(row)
		for i, word := range m.Bits[(row-y)*m.Stride:][:m.Stride] {
			if word == 0 {
				continue
			}
			word &= columns(left-i*64, right-i*64)
			at := x + i*64 // of the word's highest bit; may lie before the plane's edge
			if at < 0 {
				if at > -64 {
					out[0] |= word << -at
				}
				continue
			}
			if n := at / 64; n < len(out) {
				out[n] |= word >> (at % 64)
				if at%64 > 0 && n+1 < len(out) {
					out[n+1] |= word << (64 - at%64)
				}
			}
		}
	}
}

// narrow sets the dots of a mask of up to 64 columns that lies on the plane whole.
func (p *Plane) narrow(m *typeset.Mask, x, y int) {
	shift := x % 64
	at, over := y*p.Stride+x/64, shift+m.Width > 64
	for _, word := range m.Bits {
		p.Bits[at] |= word >> shift
		if over {
			p.Bits[at+1] |= word << (64 - shift)
		}
		at += p.Stride
	}
}

// columns has the bits from one column of a word up to another set.
func columns(from, to int) uint64 {
	from, to = max(from, 0), min(to, 64)
	if from >= to {
		return 0
	}
	return ^uint64(0) >> from & (^uint64(0) << (64 - to))
}
