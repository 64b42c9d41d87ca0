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
}

// Set fills the block with text. Line feeds break lines; tabs are spaces; other control
// characters are Missing.
func (b *Block) Set(text string, style Style) {
	b.Glyphs, b.Lines, b.Missing = b.Glyphs[:0], b.Lines[:0], b.Missing[:0]
	b.Width, b.Height = 0, 0
	if text == "" {
		return
	}
	if strings.ContainsAny(text, "\t\r") {
		text = strings.NewReplacer("\r\n", "\n", "\r", "\n", "\t", " ").Replace(text)
	}
	for {
		line, rest, more := strings.Cut(text, "\n")
		b.paragraph(line, style)
		if !more {
			break
		}
		text = rest
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

// Ascent returns the dots from the top of a block to its first baseline.
func (s Style) Ascent() int { return toDots(s.Face.ascent, s.PerEm) }

// Height returns the dots that one line takes.
func (s Style) Height() int { return toDots(s.Face.ascent+s.Face.descent, s.PerEm) }

func (b *Block) paragraph(text string, style Style) {
	if style.Width <= 0 || b.measure(text, style) <= style.Width {
		b.line(text, style)
		return
	}
	// Greedy: the longest row of whole pieces (UAX 14) that still fits makes a line.
	line := ""
	for _, piece := range breakable(text) {
		if line != "" && b.measure(strings.TrimRight(line+piece, " "), style) > style.Width {
			b.line(strings.TrimRight(line, " "), style)
			line = ""
		}
		line += piece
	}
	b.line(strings.TrimRight(line, " "), style)
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

func (b *Block) measure(text string, style Style) int {
	var width int32
	b.shaped, _, width = style.Face.shapeLine(b.shaped[:0], nil, text)
	return toDots(width, style.PerEm)
}

func (b *Block) line(text string, style Style) {
	var width int32
	b.shaped, b.Missing, width = style.Face.shapeLine(b.shaped[:0], b.Missing, text)
	line := Line{From: len(b.Glyphs), Width: toDots(width, style.PerEm)}
	baseline := style.Ascent() + toDots(style.lineHeight()*int32(len(b.Lines)), style.PerEm)
	for _, g := range b.shaped {
		b.Glyphs = append(b.Glyphs, Glyph{
			g.face, g.id, int32(toDots(g.x, style.PerEm)), int32(baseline - toDots(g.y, style.PerEm))})
	}
	line.To = len(b.Glyphs)
	b.Lines = append(b.Lines, line)
	b.Width = max(b.Width, line.Width)
}

// toDots turns emUnits into dots at a size of type, to the nearest dot.
func toDots(units int32, perEm int) int {
	return int((int64(units)*int64(perEm) + emUnits*64/2) / (emUnits * 64))
}
