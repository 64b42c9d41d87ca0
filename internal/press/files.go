package press

import (
	"bufio"
	"errors"
	"fmt"
	"io"
	"iter"

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

// A FilePainter draws labels upright as they are read, on one core.
type FilePainter struct {
	of       *Labels
	composer *compose.Composer
	label    compose.Label
	artwork  *compose.Artwork
}

// FilePainter returns a painter for one core.
func (l *Labels) FilePainter() *FilePainter {
	composer := l.composer.Clone()
	return &FilePainter{of: l, composer: composer, artwork: compose.NewArtwork(composer)}
}

// Paint writes the label of a record as a file of its own: PNG or SVG.
func (p *FilePainter) Paint(w io.Writer, format string, record []string) error {
	grid := p.of.design.Printer.Resolution
	if format == SVG {
		p.composer.Compose(&p.label, record)
		return render.WriteSVG(w, &p.label.List, p.composer.Palette(), grid)
	}
	_, layers := p.artwork.Draw(record)
	return render.WritePNG(w, layers, p.composer.Palette(), grid)
}

// WriteDocument writes the labels of records as they come into one document, PDF or PWG raster, of about so many.
func (l *Labels) WriteDocument(w io.Writer, format string, records iter.Seq2[[]string, error], about int) error {
	if format == PWG {
		return l.WriteRaster(w, records)
	}
	if format != PDF {
		return fmt.Errorf("%s is no document of all labels", format)
	}
	buffered := bufio.NewWriterSize(w, 1<<18)
	document := render.NewPDF(buffered, l.design.Name, l.palette, l.design.Printer.Resolution)
	if fixed := l.composer.Fixed(); fixed != nil {
		if err := document.Every(fixed); err != nil {
			return err
		}
	}
	painters := make([]*FilePainter, ordered.Workers(about))
	err := ordered.Stream(len(painters), records, func(worker int, record []string) (*render.DrawnPage, error) {
		if painters[worker] == nil {
			painters[worker] = l.FilePainter()
		}
		p := painters[worker]
		p.composer.ComposeChanging(&p.label, record)
		return document.Draw(&p.label.List), nil
	}, document.Put)
	return errors.Join(err, document.Close(), buffered.Flush())
}
