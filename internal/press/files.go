package press

import (
	"bufio"
	"errors"
	"fmt"
	"io"
	"iter"
	"sync/atomic"

	"oddspool/core/compose"
	"oddspool/core/ordered"
	"oddspool/core/render"
)

// The formats of files that labels are written in besides what goes to a printer.
const (
	PNG = "png" // a file a label
	SVG = "svg" // a file a label
	PDF = "pdf" // all labels in one document, a page each, with text that can be searched
	PWG = "pwg" // all labels as they leave the printer (PWG 5102.4)
)

// A Page is a label of one of the designs of Files.
type Page struct {
	Part   int
	Record []string
}

// Files writes labels as files: of one design, or of several among each other.
type Files struct {
	Written atomic.Int64 // labels so far

	name  string
	parts []*Labels
}

// NewFiles returns the files of labels whose pages name their design by its place in parts, from 0. A document has the
// name of the first.
func NewFiles(parts ...*Labels) *Files { return &Files{name: parts[0].design.Name, parts: parts} }

// A FilePainter draws labels upright as they are read, on one core.
type FilePainter struct {
	of    *Files
	parts []*partPainter // nil: not met yet
}

// partPainter draws the labels of one design.
type partPainter struct {
	of       *Labels
	composer *compose.Composer
	label    compose.Label
	artwork  *compose.Artwork
}

// Painter returns a painter for one core.
func (f *Files) Painter() *FilePainter { return &FilePainter{f, make([]*partPainter, len(f.parts))} }

func (p *FilePainter) part(n int) *partPainter {
	if p.parts[n] == nil {
		composer := p.of.parts[n].composer.Clone()
		p.parts[n] = &partPainter{of: p.of.parts[n], composer: composer, artwork: compose.NewArtwork(composer)}
	}
	return p.parts[n]
}

// Paint writes a label as a file of its own: PNG or SVG.
func (p *FilePainter) Paint(w io.Writer, format string, page Page) error {
	of := p.part(page.Part)
	grid := of.of.design.Printer.Resolution
	if format == SVG {
		of.composer.Compose(&of.label, page.Record)
		return render.WriteSVG(w, &of.label.List, of.composer.Palette(), grid)
	}
	_, layers := of.artwork.Draw(page.Record)
	return render.WritePNG(w, layers, of.composer.Palette(), grid)
}

// WriteDocument writes labels as they come into one document, PDF or PWG raster, of about so many.
func (f *Files) WriteDocument(w io.Writer, format string, pages iter.Seq2[Page, error], about int) error {
	switch format {
	case PWG:
		return writeRaster(w, cut(f.labels(pages), 0), 0, 0, about, func(labels int) { f.Written.Add(int64(labels)) })
	case PDF:
		return f.writePDF(w, pages, about)
	}
	return fmt.Errorf("%s is no document of all labels", format)
}

// labels gives pages as labels of their designs.
func (f *Files) labels(pages iter.Seq2[Page, error]) iter.Seq2[fileLabel, error] {
	return func(yield func(fileLabel, error) bool) {
		for page, err := range pages {
			if !yield(fileLabel{f.parts[page.Part], page.Record}, err) {
				return
			}
		}
	}
}

func (f *Files) writePDF(w io.Writer, pages iter.Seq2[Page, error], about int) error {
	buffered := bufio.NewWriterSize(w, 1<<18)
	document := render.NewPDF(buffered, f.name)
	kinds := make([]*render.PDFPages, len(f.parts))
	for i, of := range f.parts {
		var err error
		if kinds[i], err = document.Pages(of.palette, of.design.Printer.Resolution, of.composer.Fixed()); err != nil {
			return err
		}
	}
	painters := make([]*FilePainter, ordered.Workers(about))
	err := ordered.Small(len(painters), pages, func(worker int, page Page) (*render.DrawnPage, error) {
		if painters[worker] == nil {
			painters[worker] = f.Painter()
		}
		of := painters[worker].part(page.Part)
		of.composer.ComposeChanging(&of.label, page.Record)
		return kinds[page.Part].Draw(&of.label.List), nil
	}, func(page *render.DrawnPage) error {
		f.Written.Add(1)
		return document.Put(page)
	})
	return errors.Join(err, document.Close(), buffered.Flush())
}
