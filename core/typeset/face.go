// Package typeset turns words into glyphs on the dot grid: it finds the typeface, shapes the text
// (joining, kerning, right-to-left scripts), breaks lines and draws each glyph once as one-bit
// dots. Positions are whole dots, so that the same word gives the same dots wherever it stands.
package typeset

import (
	"bytes"
	"fmt"
	"slices"
	"strings"
	"sync"
	"sync/atomic"

	"github.com/go-fonts/dejavu/dejavusans"
	"github.com/go-fonts/dejavu/dejavusansbold"
	"github.com/go-fonts/dejavu/dejavusanscondensed"
	"github.com/go-fonts/dejavu/dejavusanscondensedbold"
	"github.com/go-fonts/dejavu/dejavusanscondensedboldoblique"
	"github.com/go-fonts/dejavu/dejavusanscondensedoblique"
	"github.com/go-fonts/liberation/liberationmonobold"
	"github.com/go-fonts/liberation/liberationmonobolditalic"
	"github.com/go-fonts/liberation/liberationmonoitalic"
	"github.com/go-fonts/liberation/liberationmonoregular"
	"github.com/go-fonts/liberation/liberationsansbold"
	"github.com/go-fonts/liberation/liberationsansbolditalic"
	"github.com/go-fonts/liberation/liberationsansitalic"
	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/go-fonts/liberation/liberationserifbold"
	"github.com/go-fonts/liberation/liberationserifbolditalic"
	"github.com/go-fonts/liberation/liberationserifitalic"
	"github.com/go-fonts/liberation/liberationserifregular"
	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/shaping"
)

// A family has one font file for each style: regular, bold, italic, bold italic.
type family struct {
	name  string
	files [4][]byte
}

// The typefaces that come with the program; their licences stand in the modules they come from.
// The last one is never offered: it stands in for characters that the chosen face lacks.
var families = []family{
	{"Liberation Sans", [4][]byte{liberationsansregular.TTF, liberationsansbold.TTF, liberationsansitalic.TTF, liberationsansbolditalic.TTF}},
	{"DejaVu Sans Condensed", [4][]byte{dejavusanscondensed.TTF, dejavusanscondensedbold.TTF, dejavusanscondensedoblique.TTF, dejavusanscondensedboldoblique.TTF}},
	{"Liberation Serif", [4][]byte{liberationserifregular.TTF, liberationserifbold.TTF, liberationserifitalic.TTF, liberationserifbolditalic.TTF}},
	{"Liberation Mono", [4][]byte{liberationmonoregular.TTF, liberationmonobold.TTF, liberationmonoitalic.TTF, liberationmonobolditalic.TTF}},
}

var fallbackFiles = [2][]byte{dejavusans.TTF, dejavusansbold.TTF}

// Families returns the names of the typefaces that can be chosen.
func Families() []string {
	names := make([]string, len(families))
	for i, f := range families {
		names[i] = f.name
	}
	return names
}

// A Face is one typeface in one style. It is safe for concurrent use and remembers what it drew.
type Face struct {
	key             string
	font            *font.Font
	bold            bool
	ascent, descent int32 // emUnits above and below the baseline, both positive
	lineGap         int32
	shapers         sync.Pool // of *shaper: go-text's faces and shapers serve one goroutine each
	latin           atomic.Pointer[pairs]

	mutex sync.RWMutex
	masks map[maskKey]*Mask

	said sync.Once
	says map[uint32]rune // characters of glyphs
}

// emUnits is what an em is divided into for positions: 2,048 x 64, so that fonts of 2,048 units,
// as all that come with the program are, are shaped without rounding.
const emUnits = shapeSize * 64

const shapeSize = 2048

// A FamilyError says that a typeface does not come with this program.
type FamilyError struct{ Family string }

func (e *FamilyError) Error() string {
	return fmt.Sprintf("the typeface %q does not come with this Odd Spool; choose one of %q", e.Family, Families())
}

var faces sync.Map // of string to func() *Face: each font is read when it is first asked for

// Find returns a typeface in a style. Its error is always a *FamilyError.
func Find(name string, bold, italic bool) (*Face, error) {
	i := slices.IndexFunc(families, func(f family) bool { return f.name == name })
	if i < 0 {
		return nil, &FamilyError{Family: name}
	}
	style := 0
	if bold {
		style |= 1
	}
	if italic {
		style |= 2
	}
	return load(fmt.Sprintf("%d/%d", i, style), families[i].files[style], bold), nil
}

func fallback(bold bool) *Face {
	if bold {
		return load("fallback bold", fallbackFiles[1], true)
	}
	return load("fallback", fallbackFiles[0], false)
}

func load(key string, file []byte, bold bool) *Face {
	once, _ := faces.LoadOrStore(key, sync.OnceValue(func() *Face { return newFace(key, file, bold) }))
	return once.(func() *Face)()
}

func newFace(key string, file []byte, bold bool) *Face {
	parsed, err := font.ParseTTF(bytes.NewReader(file))
	if err != nil {
		panic(fmt.Errorf("a typeface of the program itself is broken: %w", err))
	}
	f := &Face{key: strings.NewReplacer("/", "-", " ", "-").Replace(key), font: parsed.Font, bold: bold, masks: map[maskKey]*Mask{}}
	f.shapers.New = func() any { return &shaper{face: font.NewFace(f.font)} }
	extents, _ := parsed.FontHExtents()
	scale := float32(emUnits) / float32(f.font.Upem())
	f.ascent, f.descent, f.lineGap = int32(extents.Ascender*scale), int32(-extents.Descender*scale), int32(extents.LineGap*scale)
	return f
}

// Has tells whether the face itself has a glyph for r.
func (f *Face) Has(r rune) bool {
	_, ok := f.font.NominalGlyph(r)
	return ok
}

// Outline returns the outline of a glyph in font units, y up, and how many of them make an em.
func (f *Face) Outline(id uint32) ([]font.Segment, int) {
	s := f.shapers.Get().(*shaper)
	defer f.shapers.Put(s)
	outline, _ := s.face.GlyphDataOutline(font.GID(id))
	return outline.Segments, int(f.font.Upem())
}

// Key returns a short name of the face, of letters, digits and hyphens, that is the same in every run.
func (f *Face) Key() string { return "F" + f.key }

// Upem returns how many font units make an em.
func (f *Face) Upem() int { return int(f.font.Upem()) }

// Advance returns how far the pen moves behind a glyph, in font units.
func (f *Face) Advance(id uint32) int {
	s := f.shapers.Get().(*shaper)
	defer f.shapers.Put(s)
	return int(s.face.HorizontalAdvance(font.GID(id)) + 0.5)
}

// Says returns the character that a glyph stands for by itself; empty: it is a form or a ligature of others.
func (f *Face) Says(id uint32) string {
	f.said.Do(func() {
		f.says = map[uint32]rune{}
		for iter := f.font.Cmap.Iter(); iter.Next(); {
			r, glyph := iter.Char()
			if before, some := f.says[uint32(glyph)]; !some || r < before {
				f.says[uint32(glyph)] = r
			}
		}
	})
	if r, some := f.says[id]; some {
		return string(r)
	}
	return ""
}

// shaper holds what one goroutine needs for shaping.
type shaper struct {
	face      *font.Face
	harfbuzz  shaping.HarfbuzzShaper
	segmenter shaping.Segmenter
}
