package typeset

import (
	"image"
	"math"

	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/font/opentype"
	"golang.org/x/image/vector"

	"oddspool/core/measure"
)

// A Mask is a glyph as one-bit dots. Its top left dot lies at X, Y from the glyph's origin. Each
// row takes Stride words; the leftmost dot is the highest bit of the first.
type Mask struct {
	X, Y          int
	Width, Height int
	Stride        int
	Bits          []uint64
}

type maskKey struct {
	id    uint32
	perEm int
	turn  measure.Turn
}

// mostMasks bounds what a face remembers: 20,000 masks of ordinary type are some 10 MB.
const mostMasks = 20_000

// Mask returns the dots of a glyph at perEm 64ths of a dot per em, turned about its origin. A dot
// is set when at least half of it is covered. The turned mask is the upright one's dots turned,
// so that what is seen upright is what is printed sideways.
func (f *Face) Mask(id uint32, perEm int, turn measure.Turn) *Mask {
	key := maskKey{id, perEm, turn}
	f.mutex.RLock()
	mask := f.masks[key]
	f.mutex.RUnlock()
	if mask != nil {
		return mask
	}
	if turn == 0 {
		mask = f.draw(id, perEm)
	} else {
		mask = f.Mask(id, perEm, turn-90).quarterTurn()
	}
	f.mutex.Lock()
	defer f.mutex.Unlock()
	if len(f.masks) >= mostMasks {
		clear(f.masks)
	}
	f.masks[key] = mask
	return mask
}

func (f *Face) draw(id uint32, perEm int) *Mask {
	segments, upem := f.Outline(id)
	scale := float32(perEm) / 64 / float32(upem)
	left, top, right, bottom := bounds(segments, scale)
	if left >= right || top >= bottom {
		return &Mask{}
	}
	m := newMask(left, top, right-left, bottom-top)
	raster := vector.NewRasterizer(m.Width, m.Height)
	at := func(p font.SegmentPoint) (x, y float32) {
		return float32(p.X*scale) - float32(left), float32(-p.Y*scale) - float32(top)
	}
	for _, s := range segments {
		ax, ay := at(s.Args[0])
		switch s.Op {
		case opentype.SegmentOpMoveTo:
			raster.ClosePath()
			raster.MoveTo(ax, ay)
		case opentype.SegmentOpLineTo:
			raster.LineTo(ax, ay)
		case opentype.SegmentOpQuadTo:
			bx, by := at(s.Args[1])
			raster.QuadTo(ax, ay, bx, by)
		case opentype.SegmentOpCubeTo:
			bx, by := at(s.Args[1])
			cx, cy := at(s.Args[2])
			raster.CubeTo(ax, ay, bx, by, cx, cy)
		}
	}
	raster.ClosePath()
	covered := image.NewAlpha(image.Rect(0, 0, m.Width, m.Height))
	raster.Draw(covered, covered.Rect, image.Opaque, image.Point{})
	for y := range m.Height {
		for x, alpha := range covered.Pix[y*covered.Stride:][:m.Width] {
			if alpha >= 0x80 {
				m.set(x, y)
			}
		}
	}
	return m
}

// bounds returns the whole dots that hold the outline, control points included.
func bounds(segments []font.Segment, scale float32) (left, top, right, bottom int) {
	minX, minY := float32(math.MaxFloat32), float32(math.MaxFloat32)
	maxX, maxY := -minX, -minY
	for i := range segments {
		for _, p := range segments[i].ArgsSlice() {
			x, y := float32(p.X*scale), float32(-p.Y*scale)
			minX, maxX, minY, maxY = min(minX, x), max(maxX, x), min(minY, y), max(maxY, y)
		}
	}
	if len(segments) == 0 {
		return 0, 0, 0, 0
	}
	floor := func(v float32) int { return int(math.Floor(float64(v))) }
	return floor(minX), floor(minY), floor(maxX) + 1, floor(maxY) + 1
}

func newMask(x, y, width, height int) *Mask {
	stride := (width + 63) / 64
	return &Mask{x, y, width, height, stride, make([]uint64, stride*height)}
}

func (m *Mask) set(x, y int) { m.Bits[y*m.Stride+x/64] |= 1 << (63 - x%64) }

func (m *Mask) get(x, y int) bool { return m.Bits[y*m.Stride+x/64]>>(63-x%64)&1 == 1 }

// quarterTurn turns the mask by 90 degrees clockwise about the glyph's origin.
func (m *Mask) quarterTurn() *Mask {
	turned := newMask(-m.Y-m.Height, m.X, m.Height, m.Width)
	for y := range m.Height {
		for x := range m.Width {
			if m.get(x, y) {
				turned.set(m.Height-1-y, x)
			}
		}
	}
	return turned
}
