package typeset

import (
	"strings"

	"github.com/go-text/typesetting/segmenter"
)

// A Style is how a block of words is set.
type Style struct {
	Face    *Face
	PerEm   int     // size of type in 64ths of a dot per em; see measure.Resolution.PerEm
	Spacing float64 // from line to line in per cent of the face's own; 0: 100
	Width   int     // break lines at this many dots; 0: only where the text says so

	Tracking float64 // more room between letters, in per cent of an em
	Justify  bool    // lines that were broken are as wide as Width
	Spans    []Span  // parts of the text in other faces than Face, from its beginning on; none: all in Face
}

// A Span is a part of a text that is set in a face of its own, from where the one before it ends.
type Span struct {
	To   int // byte of the text that follows it
	Face *Face
}

// Plain returns a text as it is set: line feeds break lines, and tabs are spaces.
func Plain(text string) string {
	if !strings.ContainsAny(text, "\t\r") {
		return text
	}
	return strings.NewReplacer("\r\n", "\n", "\r", "\n", "\t", " ").Replace(text)
}

// A Glyph stands with its origin, on the baseline, at X, Y dots from the top left of its block.
type Glyph struct {
	Face *Face
	ID   uint32
	X, Y int32
}

// A Line is a line of a Block: its glyphs and how far its pen moved, in dots.
type Line struct {
	From, To int // in Glyphs
	Width    int
}

// A Block is words set in lines, flush left. The zero value is ready for Set, which reuses what
// the block already holds.
type Block struct {
	Glyphs        []Glyph
	Lines         []Line
	Width, Height int    // dots; Width is the widest line's
	Missing       []rune // characters no typeface has, which stand as empty boxes

	shaped []shaped
	spaces []bool // of the glyphs of the line being set
}

// Set fills the block with text. Line feeds break lines; tabs are spaces; other control
// characters are Missing. A text that has Spans must be Plain.
func (b *Block) Set(text string, style Style) {
	b.Glyphs, b.Lines, b.Missing = b.Glyphs[:0], b.Lines[:0], b.Missing[:0]
	b.Width, b.Height = 0, 0
	if text == "" {
		return
	}
	text = Plain(text)
	for at := 0; ; {
		line, _, more := strings.Cut(text[at:], "\n")
		b.paragraph(text, at, at+len(line), style)
		if !more {
			break
		}
		at += len(line) + 1
	}
	f := style.Face
	last := toDots(style.lineHeight()*int32(len(b.Lines)-1), style.PerEm)
	b.Height = last + toDots(f.ascent+f.descent, style.PerEm)
}

// lineHeight is the distance of two baselines in emUnits.
func (s Style) lineHeight() int32 {
	own := float64(s.Face.ascent + s.Face.descent + s.Face.lineGap)
	if s.Spacing > 0 {
		return int32(float64(own * s.Spacing / 100))
	}
	return int32(own)
}

// Pitch returns the dots from one baseline to the next.
func (s Style) Pitch() int { return toDots(s.lineHeight(), s.PerEm) }

// Ascent returns the dots from the top of a block to its first baseline.
func (s Style) Ascent() int { return toDots(s.Face.ascent, s.PerEm) }

// Height returns the dots that one line takes.
func (s Style) Height() int { return toDots(s.Face.ascent+s.Face.descent, s.PerEm) }

// paragraph sets text from one byte to another.
func (b *Block) paragraph(text string, from, to int, style Style) {
	if style.Width <= 0 || b.measure(text, from, to, style) <= style.Width {
		b.line(text, from, to, style, false)
		return
	}
	// Greedy: the longest row of whole pieces (UAX 14) that still fits makes a line.
	trimmed := func(from, to int) int { return from + len(strings.TrimRight(text[from:to], " ")) }
	start, end := from, from
	for _, piece := range breakable(text[from:to]) {
		if end > start && b.measure(text, start, trimmed(start, end+len(piece)), style) > style.Width {
			b.line(text, start, trimmed(start, end), style, style.Justify)
			start = end
		}
		end += len(piece)
	}
	b.line(text, start, trimmed(start, end), style, false)
}

// breakable cuts text where a line may be broken (Unicode Standard Annex 14).
func breakable(text string) []string {
	var cutter segmenter.Segmenter
	cutter.Init([]rune(text))
	var pieces []string
	for lines := cutter.LineIterator(); lines.Next(); {
		pieces = append(pieces, string(lines.Line().Text))
	}
	return pieces
}

func (b *Block) measure(text string, from, to int, style Style) int {
	return toDots(b.shape(nil, text, from, to, style), style.PerEm)
}

// shape puts the glyphs of a line into b.shaped, and returns how far the pen moved.
func (b *Block) shape(missing *[]rune, text string, from, to int, style Style) (width int32) {
	var lacks []rune
	b.shaped = b.shaped[:0]
	if style.Spans == nil {
		b.shaped, lacks, width = style.Face.shapeLine(b.shaped, nil, text[from:to])
	}
	at := from
	for _, span := range style.Spans {
		if end := min(span.To, to); end > at {
			first, moved := len(b.shaped), int32(0)
			b.shaped, lacks, moved = span.Face.shapeLine(b.shaped, lacks, text[at:end])
			for i := range b.shaped[first:] {
				b.shaped[first+i].x += width
			}
			width += moved
			at = end
		}
	}
	if missing != nil {
		*missing = append(*missing, lacks...)
	}
	if style.Tracking != 0 && !readsFromRight(text[from:to]) { // letters that join are not drawn apart
		width += track(b.shaped, int32(style.Tracking*emUnits/100))
	}
	return width
}

// track moves each glyph by so much more than the one before it, marks on a letter with their letter, and returns by
// how much the last was moved.
func track(glyphs []shaped, by int32) (moved int32) {
	for i := range glyphs {
		if i > 0 && !glyphs[i].mark {
			moved += by
		}
		glyphs[i].x += moved
	}
	return moved
}

func (b *Block) line(text string, from, to int, style Style, justify bool) {
	width := b.shape(&b.Missing, text, from, to, style)
	line := Line{From: len(b.Glyphs), Width: toDots(width, style.PerEm)}
	baseline := style.Ascent() + toDots(style.lineHeight()*int32(len(b.Lines)), style.PerEm)
	spaces := 0
	b.spaces = b.spaces[:0]
	for _, g := range b.shaped {
		b.Glyphs = append(b.Glyphs, Glyph{
			g.face, g.id, int32(toDots(g.x, style.PerEm)), int32(baseline - toDots(g.y, style.PerEm))})
		if justify {
			space := g.id == g.face.space
			b.spaces = append(b.spaces, space)
			if space {
				spaces++
			}
		}
	}
	line.To = len(b.Glyphs)
	if more := style.Width - line.Width; spaces > 0 && more > 0 {
		before := 0
		for i, space := range b.spaces {
			b.Glyphs[line.From+i].X += int32(more * before / spaces)
			if space {
				before++
			}
		}
		line.Width = style.Width
	}
	b.Lines = append(b.Lines, line)
	b.Width = max(b.Width, line.Width)
}

// toDots turns emUnits into dots at a size of type, to the nearest dot.
func toDots(units int32, perEm int) int {
	return int((int64(units)*int64(perEm) + emUnits*64/2) / (emUnits * 64))
}
