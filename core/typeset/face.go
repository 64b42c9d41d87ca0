// Package typeset turns words into glyphs on the dot grid: it finds the typeface, shapes the text
// (joining, kerning, right-to-left scripts), breaks lines and draws each glyph once as one-bit
// dots. Positions are whole dots, so that the same word gives the same dots wherever it stands.
package typeset

import (
	"bytes"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"sync"
	"sync/atomic"

	"oddspool/core/refusal"

	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/language"
	"github.com/go-text/typesetting/shaping"
)

// A File is a font file in one style of a typeface.
type File struct {
	Family   string        `json:"family"`
	Bold     bool          `json:"bold"`
	Italic   bool          `json:"italic"`
	StandsIn bool          `json:"standsIn"` // for characters that the chosen face lacks; it is never offered
	Scripts  []string      `json:"scripts"`  // ISO 15924 codes of those it also stands in for, besides being offered
	Hash     string        `json:"hash"`     // of its bytes, where they are not at hand: what they are fetched by
	Data     func() []byte `json:"-"`        // its bytes; nil while they are not at hand
}

// files are those that were registered, in the order in which they are offered.
var files struct {
	mutex  sync.RWMutex
	list   []File
	source func(family string)
	found  map[style]*Face // those that were asked for; a new file may change what is found
	absent string          // hash of a file that a text needed and that was not at hand
}

type style struct {
	family       string
	bold, italic bool
}

// Register makes a font file known, as package typefaces does with all that come with the program; the same style of
// the same family anew replaces it, so that its bytes may come later.
func Register(f File) {
	files.mutex.Lock()
	defer files.mutex.Unlock()
	files.found = map[style]*Face{}
	i := slices.IndexFunc(files.list, func(g File) bool {
		return g.Family == f.Family && g.Bold == f.Bold && g.Italic == f.Italic && g.StandsIn == f.StandsIn
	})
	if i < 0 {
		files.list = append(files.list, f)
	} else {
		files.list[i] = f
	}
}

// Registered tells whether a style of a family is known by now.
func Registered(family string, bold, italic bool) bool {
	return slices.ContainsFunc(registered(), func(f File) bool {
		return f.Family == family && f.Bold == bold &&
			f.Italic == italic
	})
}

func registered() []File {
	files.mutex.RLock()
	defer files.mutex.RUnlock()
	return slices.Clone(files.list)
}

// further registers font files that are read only when those that are known do not do.
var further = struct {
	once sync.Once
	read func()
}{read: func() {}}

// Later says what registers further font files, once, as soon as a family or a character is wanted that those known by
// then do not have, or all are asked for. Call it before any text is set.
func Later(read func()) { further.read = read }

// Files returns all font files that are known.
func Files() []File {
	further.once.Do(further.read)
	return registered()
}

// Families returns the names of the typefaces that can be chosen.
func Families() (names []string) {
	for _, f := range Files() {
		if !f.StandsIn && !slices.Contains(names, f.Family) {
			names = append(names, f.Family)
		}
	}
	return names
}

// A Face is one typeface in one style. It is safe for concurrent use and remembers what it drew.
type Face struct {
	key             string
	font            *font.Font
	standIn         *Face // for characters that it lacks; nil: none
	bold            bool
	ascent, descent int32 // emUnits above and below the baseline, both positive
	lineGap         int32
	space           uint32    // glyph of a space
	capital, small  float64   // heights of H and x in ems
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

func (e *FamilyError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *FamilyError) Refusal() *refusal.Error {
	return unknownFamily.With(e.Family, Families())
}

// An AbsentError says that a font file is known and not at hand yet: fetch it by its hash and register it.
type AbsentError struct{ Hash string }

func (e *AbsentError) Error() string { return "the font file " + e.Hash + " is not at hand yet" }

var faces sync.Map // of places in files to func() *Face: each font is read when it is first asked for

// Find returns a typeface in a style. Its error is a *FamilyError or an *AbsentError.
func Find(name string, bold, italic bool) (*Face, error) {
	wanted := style{name, bold, italic}
	files.mutex.RLock()
	face := files.found[wanted]
	files.mutex.RUnlock()
	if face != nil {
		return face, nil
	}
	face, err := findAnew(name, bold, italic)
	if err == nil {
		files.mutex.Lock()
		files.found[wanted] = face
		files.mutex.Unlock()
	}
	return face, err
}

func findAnew(name string, bold, italic bool) (*Face, error) {
	face, err := lookUp(name, bold, italic)
	unknown := new(FamilyError)
	if errors.As(err, &unknown) {
		further.once.Do(further.read)
		face, err = lookUp(name, bold, italic)
	}
	if errors.As(err, &unknown) {
		files.mutex.RLock()
		source := files.source
		files.mutex.RUnlock()
		if source != nil {
			source(name)
			return lookUp(name, bold, italic)
		}
	}
	return face, err
}

// lookUp returns a style of a family; where it has no such style, the one nearest to it.
func lookUp(name string, bold, italic bool) (*Face, error) {
	for _, style := range [][2]bool{{bold, italic}, {bold, false}, {false, italic}, {false, false}, {true, false},
		{true, true}, {false, true}} {
		face, err := lookUpStyle(name, style[0], style[1])
		if unknown := new(FamilyError); !errors.As(err, &unknown) {
			return face, err
		}
	}
	return nil, &FamilyError{Family: name}
}

func lookUpStyle(name string, bold, italic bool) (*Face, error) {
	return find(func(f *File) bool { return !f.StandsIn && f.Family == name && f.Bold == bold && f.Italic == italic },
		name)
}

func find(is func(*File) bool, name string) (*Face, error) {
	list := registered()
	i := slices.IndexFunc(list, func(f File) bool { return is(&f) })
	if i < 0 {
		return nil, &FamilyError{Family: name}
	}
	f := list[i]
	if f.Data == nil {
		return nil, &AbsentError{f.Hash}
	}
	var other *Face
	if !f.StandsIn {
		var err error
		other, err = find(func(g *File) bool { return g.StandsIn && g.Bold == f.Bold }, "")
		if absent := new(AbsentError); errors.As(err, &absent) {
			return nil, err
		}
	}
	once, _ := faces.LoadOrStore(i, sync.OnceValue(func() *Face {
		face := newFace(strconv.Itoa(i), f.Data(), other)
		face.bold = f.Bold
		return face
	}))
	return once.(func() *Face)(), nil
}

// standInFor finds a face for a character by its script; nil: there is none. A file that is not at hand is remembered
// as needed.
func standInFor(r rune, bold bool) *Face {
	script := language.LookupScript(r).String()
	for _, sameWeight := range []bool{true, false} {
		for _, f := range Files() {
			if f.Bold == bold != sameWeight || !slices.Contains(f.Scripts, script) {
				continue
			}
			face, err := lookUpStyle(f.Family, f.Bold, f.Italic)
			if absent := new(AbsentError); errors.As(err, &absent) {
				files.mutex.Lock()
				files.absent = absent.Hash
				files.mutex.Unlock()
				return nil
			}
			if err == nil && face.Has(r) {
				return face
			}
		}
	}
	return nil
}

// TakeAbsent returns the hash of a font file that some text needed since it was last asked and that was not at hand,
// and forgets it; empty: there was none.
func TakeAbsent() string {
	files.mutex.Lock()
	defer files.mutex.Unlock()
	hash := files.absent
	files.absent = ""
	return hash
}

func newFace(key string, file []byte, standIn *Face) *Face {
	parsed, err := font.ParseTTF(bytes.NewReader(file))
	if err != nil {
		panic(fmt.Errorf("a typeface of the program itself is broken: %w", err))
	}
	f := &Face{key: key, font: parsed.Font, standIn: standIn, masks: map[maskKey]*Mask{}}
	f.shapers.New = func() any { return &shaper{face: font.NewFace(f.font)} }
	extents, _ := parsed.FontHExtents()
	scale := float32(emUnits) / float32(f.font.Upem())
	f.ascent, f.descent, f.lineGap = int32(extents.Ascender*scale), int32(-extents.Descender*scale),
		int32(extents.LineGap*scale)
	if id, ok := f.font.NominalGlyph(' '); ok {
		f.space = uint32(id)
	}
	f.capital, f.small = f.tall('H'), f.tall('x')
	return f
}

// tall returns how high a letter stands over the baseline, in ems.
func (f *Face) tall(letter rune) (ems float64) {
	id, _ := f.font.NominalGlyph(letter)
	segments, upem := f.Outline(uint32(id))
	for i := range segments {
		for _, p := range segments[i].ArgsSlice() {
			ems = max(ems, float64(p.Y)/float64(upem))
		}
	}
	return ems
}

// PerEm returns the size of type, in 64ths of a dot per em, whose capitals are so many dots tall.
func (f *Face) PerEm(capitals int) int {
	if f.capital <= 0 {
		return max(capitals, 1) * 64
	}
	return max(int(float64(float64(capitals*64)/f.capital)+0.5), 1)
}

// Capitals returns how many dots capitals are tall in a size of type.
func (f *Face) Capitals(perEm int) float64 { return f.capital * float64(perEm) / 64 }

// Small returns how many dots small letters without ascenders are tall in a size of type.
func (f *Face) Small(perEm int) float64 { return f.small * float64(perEm) / 64 }

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
