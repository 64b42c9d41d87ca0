// Package picture turns pictures into dots: brought in as files, kept by the hash of their bytes, scaled to
// the size they have on the label, and set as dots of one ink.
package picture

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"image"
	_ "image/gif"  // read
	_ "image/jpeg" // read
	_ "image/png"  // read
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"
	_ "golang.org/x/image/bmp"  // read
	_ "golang.org/x/image/tiff" // read
	_ "golang.org/x/image/webp" // read

	"oddspool/core/measure"
	"oddspool/core/refusal"
	"oddspool/core/render"
)

// Limits of a picture: an untrusted file is small until it is unpacked.
const (
	MostBytes  = 20 << 20
	MostPixels = 16_000_000
)

// A Way is how shades become dots.
type Way string

// The ways.
const (
	Threshold Way = ""         // dark is dark, light is bare
	Ordered   Way = "ordered"  // a pattern of dots, the same everywhere (Bayer, 8 x 8)
	Diffused  Way = "diffused" // each dot's error goes on to its neighbours (Floyd and Steinberg)
)

// An AbsentError says that a picture is not at hand: fetch it by its hash and register it.
type AbsentError struct{ Hash string }

func (e *AbsentError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *AbsentError) Refusal() *refusal.Error {
	return absent.With(e.Hash)
}

// A Picture is one that was read, as shades on white.
type Picture struct {
	Width, Height         int
	TrueWidth, TrueHeight measure.Length // by the file's own resolution; 0: it does not say
	shades                []uint8        // 0 is black, over white
	// how much of each dot hides what lies under it, 255 all; nil: all do, and what is light lets all through
	alphas []uint8
	shapes []Shape // of a drawing, which has no shades until it is drawn
	view   frame   // what of it is shown
}

// Hash returns what a picture's bytes are known by.
func Hash(data []byte) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:])
}

// Decode reads a picture, or a drawing that WriteDrawing wrote. What is see-through shows white. Its error is always a
// *refusal.Error.
func Decode(data []byte) (*Picture, error) {
	if len(data) > MostBytes {
		return nil, tooLarge.With(len(data)>>20, MostBytes>>20)
	}
	if isDrawing(data) {
		return readDrawing(data)
	}
	config, kind, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return nil, unknownKind.With()
	}
	if config.Width < 1 || config.Height < 1 || config.Width*config.Height > MostPixels { // before anything is unpacked
		return nil, tooManyDots.With(config.Width, config.Height, MostPixels/1_000_000)
	}
	decoding.Lock()
	defer decoding.Unlock()
	decoded, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, broken.With(kind, err)
	}
	b := decoded.Bounds()
	p := &Picture{Width: b.Dx(), Height: b.Dy(), shades: make([]uint8, b.Dx()*b.Dy())}
	for y := range p.Height {
		for x := range p.Width {
			r, g, bl, a := decoded.At(b.Min.X+x, b.Min.Y+y).RGBA() // of 65,535, times what is seen of it
			light := (299*r+587*g+114*bl)/1000 + 0xffff - a        // Rec. 601 luma, over white
			p.shades[y*p.Width+x] = uint8(min(light, 0xffff) >> 8)
			if a < 0xffff && p.alphas == nil {
				p.alphas = bytes.Repeat([]byte{0xff}, len(p.shades))
			}
			if p.alphas != nil {
				p.alphas[y*p.Width+x] = uint8(a >> 8)
			}
		}
	}
	return p.upright(factsOf(data, kind)), nil
}

// Cropped returns what is left of a picture of which so much is cut off at each side, in per cent of its width or
// height; at least one of its dots.
func (p *Picture) Cropped(left, top, right, bottom float64) *Picture {
	part := func(of int, before, after float64) (from, to int) {
		from = min(int(float64(of)*before/100+0.5), of-1)
		return from, max(of-int(float64(of)*after/100+0.5), from+1)
	}
	x0, x1 := part(p.Width, left, right)
	y0, y1 := part(p.Height, top, bottom)
	cut := &Picture{Width: x1 - x0, Height: y1 - y0}
	if p.Drawn() {
		across, down := p.view.w/float64(p.Width), p.view.h/float64(p.Height)
		cut.shapes = p.shapes
		cut.view = frame{p.view.x + float64(x0)*across, p.view.y + float64(y0)*down, float64(cut.Width) * across,
			float64(cut.Height) * down}
		return cut
	}
	for y := y0; y < y1; y++ {
		cut.shades = append(cut.shades, p.shades[y*p.Width+x0:y*p.Width+x1]...)
		if p.alphas != nil {
			cut.alphas = append(cut.alphas, p.alphas[y*p.Width+x0:y*p.Width+x1]...)
		}
	}
	return cut
}

// White returns how much of each side shows nothing, in per cent: what trimming cuts off. Of a picture that shows
// nothing at all it is 0.
func (p *Picture) White() (left, top, right, bottom float64) {
	const light = 245 // of 255; the grain of scanned paper is lighter
	if p.Drawn() {
		p = p.drawn(p.Width, p.Height)
	}
	x0, y0, x1, y1 := p.Width, p.Height, -1, -1
	for y := range p.Height {
		for x, shade := range p.shades[y*p.Width:][:p.Width] {
			if shade < light {
				x0, x1, y0, y1 = min(x0, x), max(x1, x), min(y0, y), max(y1, y)
			}
		}
	}
	if x1 < 0 {
		return 0, 0, 0, 0
	}
	share := func(n, of int) float64 { return float64(n) * 100 / float64(of) }
	return share(x0, p.Width), share(y0, p.Height), share(p.Width-1-x1, p.Width), share(p.Height-1-y1, p.Height)
}

// fit returns the size that a picture takes in a box: all of it when it is stretched, else as large as its proportions
// let it be.
func (p *Picture) fit(w, h int, stretch bool) (int, int) {
	if stretch {
		return w, h
	}
	if p.Width*h > w*p.Height {
		return w, max((w*p.Height+p.Width/2)/p.Width, 1)
	}
	return max((h*p.Width+p.Height/2)/p.Height, 1), h
}

// Printed is a picture as it is printed in a box.
type Printed struct {
	Picture *Picture // as far as it is shown
	Dots    *render.Plane
	// where it is light and hides what lies under it; nil of one that has nothing see-through, which hides nothing
	Bare *render.Plane
	// what the dots of a drawing are made of, in the order in which they cover each other; nil: they are no lines
	Outlines []render.Outline
}

// Dots returns the picture as dots in the middle of a box of w × h; lighter is -100 to 100 per cent, and stretch has it
// fill the box.
func (p *Picture) Dots(w, h int, way Way, lighter int, stretch bool) *render.Plane {
	return p.Printed(w, h, way, lighter, stretch).Dots
}

// Printed returns the picture as Dots does, with what else there is to be printed of it.
func (p *Picture) Printed(w, h int, way Way, lighter int, stretch bool) Printed {
	if outlines := p.outlines(w, h, way, lighter, stretch); outlines != nil {
		layers := render.NewLayers(2, w, h)
		for _, o := range outlines {
			layer := 0
			if o.Ink == render.Bare {
				layer = 1
			}
			layers.Fill(layer, o.Pens)
		}
		return Printed{p, layers[0], layers[1], outlines}
	}
	inW, inH := p.fit(w, h, stretch)
	made := Printed{Picture: p, Dots: render.NewPlane(w, h)}
	if p.Drawn() {
		p = p.drawn(inW, inH)
	}
	left, top := (w-inW)/2, (h-inH)/2
	if p.alphas != nil {
		made.Bare = render.NewPlane(w, h)
	}
	line, next := make([]int, inW+2), make([]int, inW+2) // errors of this row and the next, one dot further right
	for y := range inH {
		for x := range inW {
			part := func(of []uint8) int {
				return p.average(of, x*p.Width, (x+1)*p.Width, inW, y*p.Height, (y+1)*p.Height, inH)
			}
			shade := part(p.shades) + lighter*255/100
			dark := false
			switch way {
			case Ordered:
				dark = shade < (2*render.Bayer[y%8][x%8]+1)*255/128
			case Diffused:
				shade += line[x+1] / 16
				dark = shade < 128
				off := shade
				if !dark {
					off -= 255
				}
				line[x+2] += off * 7
				next[x] += off * 3
				next[x+1] += off * 5
				next[x+2] += off
			default:
				dark = shade < 128
			}
			if dark {
				made.Dots.Dot(left+x, top+y)
			} else if made.Bare != nil && part(p.alphas) >= 128 {
				made.Bare.Dot(left+x, top+y)
			}
		}
		line, next = next, line
		clear(next)
	}
	return made
}

// average returns the mean of shades between two columns and two rows, given in parts of so many.
func (p *Picture) average(of []uint8, x0, x1, partsX, y0, y1, partsY int) int {
	left, right := x0/partsX, max((x1+partsX-1)/partsX, x0/partsX+1)
	top, bottom := y0/partsY, max((y1+partsY-1)/partsY, y0/partsY+1)
	sum, n := 0, 0
	for y := top; y < min(bottom, p.Height); y++ {
		for _, shade := range of[y*p.Width+left : y*p.Width+min(right, p.Width)] {
			sum += int(shade)
			n++
		}
	}
	return sum / max(n, 1)
}

// kept are pictures that were read lately, by their hashes, and where others come from.
var kept struct {
	mutex  sync.Mutex
	read   *lru.Cache[string, *Picture]
	source func(hash string) ([]byte, error)
}

// mostKept is how many pictures stay read: at most 128 MB.
const mostKept = 8

// decoding has one slot: unpacked, a picture of 16 bits a colour takes 128 MB.
var decoding sync.Mutex

// SetSource says where pictures come from by their hashes; what it does not have is an *AbsentError.
func SetSource(source func(hash string) ([]byte, error)) {
	kept.mutex.Lock()
	defer kept.mutex.Unlock()
	kept.source = source
}

// Register makes a picture known. Its error is that of Decode.
func Register(hash string, data []byte) error {
	p, err := Decode(data)
	if err != nil {
		return err
	}
	remember(hash, p)
	return nil
}

func remember(hash string, p *Picture) {
	kept.mutex.Lock()
	defer kept.mutex.Unlock()
	if kept.read == nil {
		kept.read, _ = lru.New[string, *Picture](mostKept) // fails for sizes below one alone
	}
	kept.read.Add(hash, p)
}

// Looks are how a picture is printed.
type Looks struct {
	Width, Height            int     // of its box, dots
	Left, Top, Right, Bottom float64 // what is cut off at each side, in per cent
	Way                      Way
	Lighter                  int // per cent, from -100 on
	Stretch                  bool
}

type printedKey struct {
	hash string
	Looks
}

// mostPrinted is how many pictures stay at hand as they are printed: a design is composed anew with each change of a
// hand.
const mostPrinted = 24

var printed, _ = lru.New[printedKey, Printed](mostPrinted) // fails for sizes below one alone

// Print returns a picture by its hash as it is printed; nobody may change what it returns. Its error is that of Find.
func Print(hash string, looks Looks) (Printed, error) {
	key := printedKey{hash, looks}
	if made, kept := printed.Get(key); kept {
		return made, nil
	}
	p, err := Find(hash)
	if err != nil {
		return Printed{}, err
	}
	if looks.Left > 0 || looks.Top > 0 || looks.Right > 0 || looks.Bottom > 0 {
		p = p.Cropped(looks.Left, looks.Top, looks.Right, looks.Bottom)
	}
	made := p.Printed(looks.Width, looks.Height, looks.Way, looks.Lighter, looks.Stretch)
	printed.Add(key, made)
	return made, nil
}

// Find returns a picture by its hash. Its error is an *AbsentError, or what the source says.
func Find(hash string) (*Picture, error) {
	kept.mutex.Lock()
	source := kept.source
	if kept.read != nil {
		if p, some := kept.read.Get(hash); some {
			kept.mutex.Unlock()
			return p, nil
		}
	}
	kept.mutex.Unlock()
	if source == nil {
		return nil, &AbsentError{hash}
	}
	data, err := source(hash)
	if err != nil {
		return nil, err
	}
	p, err := Decode(data)
	if err == nil {
		remember(hash, p)
	}
	return p, err
}
