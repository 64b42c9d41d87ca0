package press

import (
	"bytes"
	"io"
	"iter"
	"slices"
	"sync"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/ordered"
	"oddspool/core/render"
	"oddspool/core/stock"
	_ "oddspool/core/typefaces" // the program's own
	"oddspool/internal/press/pwg"
)

const pdfFormat = "application/pdf"

// Labels writes the labels of a design as the document that its printer takes: PDF for one that
// marks with vectors, else PWG raster of one ink, of several, or of mixed colours.
type Labels struct {
	design   *design.Design
	composer *compose.Composer
	press    *compose.Press
	look     pwg.Look
	palette  render.Palette
}

// NewLabels prepares a design for records with the given fields. Its error is that of compose.New.
func NewLabels(d *design.Design, fields []string) (*Labels, error) {
	composer, err := compose.New(d, fields)
	if err != nil {
		return nil, err
	}
	l := &Labels{design: d, composer: composer, press: compose.NewPress(composer), palette: composer.Palette()}
	l.look = pwg.Look{Type: pwg.Black, Colours: l.palette}
	can := stock.Inks(d.Stock, d.Printer)
	switch {
	case slices.Contains(can, stock.Full):
		l.look.Type = pwg.SRGB
	case len(can) > 1:
		l.look.Type = pwg.Device(len(can))
		for _, ink := range composer.Inks() {
			l.look.Ink = append(l.look.Ink, max(slices.Index(can, ink), 0))
		}
	}
	return l, nil
}

// Format returns the MIME type of the document.
func (l *Labels) Format() string {
	if l.design.Printer.Vector {
		return pdfFormat
	}
	return rasterFormat
}

// Write writes the labels of records, moved as the set-up says. The first skip places of the first
// page stay blank.
func (l *Labels) Write(w io.Writer, records [][]string, skip int, setup stock.Setup) error {
	r := l.design.Printer.Resolution
	dx, dy := r.Dots(setup.Across), r.Dots(setup.Along)
	if l.design.Printer.Vector {
		return l.writePDF(w, records, skip, dx, dy)
	}
	return writeRaster(w, cut(all(records, l), skip), dx, dy, len(records), func(int) {})
}

// all gives records of one design one by one.
func all(records [][]string, of *Labels) iter.Seq2[fileLabel, error] {
	return func(yield func(fileLabel, error) bool) {
		for _, record := range records {
			if !yield(fileLabel{of, record}, nil) {
				return
			}
		}
	}
}

// writeRaster writes about so many labels, and tells how many more it wrote.
func writeRaster(w io.Writer, chunks iter.Seq2[chunk, error], dx, dy, about int, wrote func(labels int)) error {
	type part struct {
		raster *bytes.Buffer
		labels int
	}
	workers := make([]map[*Labels]*painter, ordered.Workers(about))
	first := true
	return ordered.Stream(len(workers), chunks, func(worker int, c chunk) (part, error) {
		if workers[worker] == nil {
			workers[worker] = map[*Labels]*painter{}
		}
		if workers[worker][c.of] == nil {
			workers[worker][c.of] = c.of.painter()
		}
		raster, err := workers[worker][c.of].paint(c, dx, dy)
		return part{raster, len(c.records)}, err
	}, func(p part) error {
		if !first { // the word that begins a stream stands once
			p.raster.Next(pwg.SyncBytes)
		}
		first = false
		_, err := w.Write(p.raster.Bytes())
		buffers.Put(p.raster)
		wrote(p.labels)
		return err
	})
}

// A fileLabel is a label of one design.
type fileLabel struct {
	of     *Labels
	record []string
}

// A chunk is the records of some pages of one design; the first places of the first of them stay blank.
type chunk struct {
	of      *Labels
	records [][]string
	skip    int
}

// cut cuts labels into what one core draws at once: little at first, so that a printer begins at once, then more. Those
// of another design begin a page.
func cut(labels iter.Seq2[fileLabel, error], skip int) iter.Seq2[chunk, error] {
	const most = 16
	pages := 1
	return func(yield func(chunk, error) bool) {
		c := chunk{skip: skip}
		for label, err := range labels {
			if err != nil {
				yield(chunk{}, err)
				return
			}
			if len(c.records) > 0 && c.of != label.of {
				if !yield(c, nil) {
					return
				}
				c = chunk{}
			}
			c.of = label.of
			if c.records = append(c.records, label.record); len(c.records)+c.skip == pages*c.of.design.Stock.PerPage() {
				if !yield(c, nil) {
					return
				}
				c, pages = chunk{}, min(pages*2, most)
			}
		}
		if len(c.records) > 0 {
			yield(c, nil)
		}
	}
}

// A painter draws pages on one core.
type painter struct {
	labels      *Labels
	press       *compose.Press
	page, label render.Layers
	raster      *pwg.Writer
}

// buffers keep what was written between chunks.
var buffers = sync.Pool{New: func() any { return &bytes.Buffer{} }}

func (l *Labels) painter() *painter {
	press := l.press.Clone()
	return &painter{l, press, press.NewPage(), press.NewLayers(), pwg.NewWriter(nil)}
}

// paint returns pages as a raster stream of its own.
func (p *painter) paint(c chunk, dx, dy int) (*bytes.Buffer, error) {
	out, per := buffers.Get().(*bytes.Buffer), p.labels.design.Stock.PerPage()
	out.Reset()
	p.raster.Reset(out)
	for records, place := c.records, c.skip; len(records) > 0; place = 0 {
		n := min(per-place, len(records))
		p.press.Page(p.page, p.label, records[:n], place)
		records = records[n:]
		if err := p.raster.Layers(p.page.Shifted(dx, dy), p.labels.look, p.labels.design.Printer.Resolution,
			""); err != nil {
			return nil, err
		}
	}
	return out, p.raster.Flush()
}

// writePDF writes vectors. What is marked is black, whatever colour that lays bare.
func (l *Labels) writePDF(w io.Writer, records [][]string, skip, dx, dy int) error {
	marks := render.Palette{Face: "#FFFFFF", Inks: slices.Repeat([]string{"#000000"}, len(l.palette.Inks))}
	document := render.NewPDF(w, l.design.Name)
	pages, err := document.Pages(marks, l.design.Printer.Resolution, nil)
	if err != nil {
		return err
	}
	width, length := l.design.Stock.PageSize()
	var label compose.Label
	var page render.List
	for per := l.design.Stock.PerPage(); len(records) > 0; skip = 0 {
		n := min(per-skip, len(records))
		page.Reset(l.design.Printer.Resolution.Dots(width), l.design.Printer.Resolution.Dots(length))
		for i, record := range records[:n] {
			l.composer.Compose(&label, record)
			label.List.Turn(l.design.Turn)
			place := l.press.Place(skip + i)
			page.Add(&label.List, place.X+dx, place.Y+dy)
		}
		if err := pages.Add(&page); err != nil {
			return err
		}
		records = records[n:]
	}
	return document.Close()
}

// Seen returns the layers of a page that came out as the design has them, the moves of the set-up
// taken back.
func (l *Labels) Seen(page *pwg.Page, setup stock.Setup) render.Layers {
	r := l.design.Printer.Resolution
	w, h := page.Layers.Size()
	seen := make(render.Layers, len(l.palette.Inks))
	for i := range seen {
		at := 0
		switch page.Type {
		case pwg.SRGB:
			at = slices.Index(page.Colours, l.palette.Inks[i])
		case pwg.Black:
		default:
			at = l.look.Ink[i]
		}
		if at < 0 || at >= len(page.Layers) {
			seen[i] = render.NewPlane(w, h)
		} else {
			seen[i] = page.Layers[at]
		}
	}
	return seen.Shifted(-r.Dots(setup.Across), -r.Dots(setup.Along))
}

// Label returns the layers of the label at a place of a page that came out.
func (l *Labels) Label(page render.Layers, place int) render.Layers {
	if l.design.Stock.PerPage() == 1 {
		return page
	}
	return page.Cut(l.press.Place(place))
}
