package typeset

import (
	"sync/atomic"
	"unicode/utf8"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/language"
	"github.com/go-text/typesetting/shaping"
	"golang.org/x/image/math/fixed"
	"golang.org/x/text/unicode/bidi"
)

// shaped is one glyph of a line, its pen position in emUnits from the line's start.
type shaped struct {
	face *Face
	id   uint32
	x, y int32
	mark bool // it stands on the letter before it
}

// shapeLine appends the glyphs of one line, from left to right as they are seen, and returns how
// far the pen moved in emUnits. Characters that no face has are appended to missing.
func (f *Face) shapeLine(glyphs []shaped, missing []rune, text string) ([]shaped, []rune, int32) {
	if glyphs, width, ok := f.shapeLatin(glyphs, text); ok {
		return glyphs, missing, width
	}
	return f.shapeAny(glyphs, missing, text)
}

// shapeAny is the plain path: any script, any direction, faces standing in for each other.
func (f *Face) shapeAny(glyphs []shaped, missing []rune, text string) ([]shaped, []rune, int32) {
	var paragraph bidi.Paragraph
	pen := int32(0)
	_, err := paragraph.SetString(text)
	order, orderErr := paragraph.Order()
	if err != nil || orderErr != nil { // text whose direction cannot be told is not left out silently
		return glyphs, append(missing, []rune(text)...), 0
	}
	s := f.shapers.Get().(*shaper)
	defer f.shapers.Put(s)
	backwards := readsFromRight(text)
	for i := range order.NumRuns() {
		if backwards { // the runs come in reading order, the pen goes by sight (rule L2, two levels deep)
			i = order.NumRuns() - 1 - i
		}
		run := order.Run(i)
		direction := di.DirectionLTR
		if run.Direction() == bidi.RightToLeft {
			direction = di.DirectionRTL
		}
		glyphs, missing, pen = f.shapeRun(s, glyphs, missing, pen, []rune(run.String()), direction)
	}
	return glyphs, missing, pen
}

// readsFromRight tells whether the first letter with a direction is one of a right-to-left script
// (Unicode Standard Annex 9, rules P2 and P3).
func readsFromRight(text string) bool {
	for _, r := range text {
		switch properties, _ := bidi.LookupRune(r); properties.Class() {
		case bidi.L:
			return false
		case bidi.R, bidi.AL:
			return true
		}
	}
	return false
}

// shapeRun shapes text of one direction.
func (f *Face) shapeRun(s *shaper, glyphs []shaped, missing []rune, pen int32, text []rune,
	direction di.Direction) ([]shaped, []rune, int32) {
	faces := stack{faces: []*Face{f}, shapers: []*shaper{s}}
	if f.standIn != nil {
		faces.add(f.standIn)
	}
	defer faces.release()
	inputs := s.segmenter.Split(shaping.Input{
		Text: text, RunEnd: len(text), Direction: direction, Size: fixed.I(shapeSize),
		Language: language.NewLanguage("en"),
	}, &faces)
	for i := range inputs {
		input := inputs[i]
		if direction == di.DirectionRTL { // what is split is in reading order, the pen goes by sight
			input = inputs[len(inputs)-1-i]
		}
		input.Direction = direction
		out := s.harfbuzz.Shape(input)
		face := faces.faceOf(input.Face)
		for _, g := range out.Glyphs {
			if g.GlyphID == 0 {
				missing = append(missing, text[g.TextIndex()])
			}
			glyphs = append(glyphs, shaped{face, uint32(g.GlyphID), pen + int32(g.XOffset), int32(g.YOffset),
				g.Advance == 0})
			pen += int32(g.Advance)
		}
	}
	return glyphs, missing, pen
}

// stack resolves characters: the chosen face first, then the one that stands in for all, then those that stand in for
// scripts.
type stack struct {
	faces   []*Face
	shapers []*shaper
}

func (s *stack) add(f *Face) *font.Face {
	other := f.shapers.Get().(*shaper)
	s.faces, s.shapers = append(s.faces, f), append(s.shapers, other)
	return other.face
}

// release gives back the shapers of those that stand in.
func (s *stack) release() {
	for i, face := range s.faces[1:] {
		face.shapers.Put(s.shapers[i+1])
	}
}

// ResolveFace implements shaping.Fontmap.
func (s *stack) ResolveFace(r rune) *font.Face {
	for i, face := range s.faces {
		if face.Has(r) {
			return s.shapers[i].face
		}
	}
	if other := standInFor(r, s.faces[0].bold); other != nil {
		return s.add(other)
	}
	return s.shapers[0].face
}

func (s *stack) faceOf(face *font.Face) *Face {
	for i, other := range s.shapers {
		if other.face == face {
			return s.faces[i]
		}
	}
	return s.faces[0]
}

// pairs remembers how far the pen moves from one Latin character to the next, for the fast path.
// Values are learned from the plain path: 0 not yet asked, declined where two characters do more
// than stand side by side (ligatures), else the advance plus one.
type pairs struct {
	glyph   [256]atomic.Int32
	advance [256][256]atomic.Int32 // the second character 0 stands for the end of the line
}

const declined = -1 << 31

// shapeLatin is the fast path for lines of Latin-1 letters; it declines what it cannot do.
func (f *Face) shapeLatin(glyphs []shaped, text string) ([]shaped, int32, bool) {
	learned := f.latin.Load()
	if learned == nil {
		f.latin.CompareAndSwap(nil, new(pairs))
		learned = f.latin.Load()
	}
	start, pen := len(glyphs), int32(0)
	for i := 0; i < len(text); {
		r, size := utf8.DecodeRuneInString(text[i:])
		next := rune(0)
		if i += size; i < len(text) {
			next, _ = utf8.DecodeRuneInString(text[i:])
		}
		if !plainLatin(r) || next != 0 && !plainLatin(next) {
			return glyphs[:start], 0, false
		}
		move := learned.advance[r][next].Load()
		if move == 0 {
			move = f.learn(learned, r, next)
		}
		if move == declined {
			return glyphs[:start], 0, false
		}
		glyphs = append(glyphs, shaped{face: f, id: uint32(learned.glyph[r].Load()), x: pen})
		pen += move - 1
	}
	return glyphs, pen, true
}

// plainLatin leaves out the no-break space and the soft hyphen, which are no glyphs by themselves.
func plainLatin(r rune) bool { return r >= 0x20 && r <= 0x7e || r > 0xa0 && r <= 0xff && r != 0xad }

// learn asks the plain path about one pair of characters.
func (f *Face) learn(learned *pairs, r, next rune) int32 {
	text, count := string(r), 1
	if next != 0 {
		text, count = text+string(next), 2
	}
	glyphs, _, width := f.shapeAny(nil, nil, text)
	move := int32(declined)
	simple := len(glyphs) == count
	for i, c := range []rune(text) {
		if simple {
			id, ok := f.font.NominalGlyph(c)
			simple = ok && glyphs[i].face == f && glyphs[i].id == uint32(id) && glyphs[i].y == 0
		}
	}
	if simple {
		learned.glyph[r].Store(int32(glyphs[0].id))
		if move = width + 1; count == 2 {
			move = glyphs[1].x + 1
		}
	}
	learned.advance[r][next].Store(move)
	return move
}
