package press

import (
	"bytes"
	"io"
	"slices"
	"sync"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/ordered"
	"oddspool/core/render"
	"oddspool/core/stock"
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

// pages calls do with the records of each page and the place that the first of them has.
func (l *Labels) pages(records [][]string, skip int, do func(records [][]string, from int) error) error {
	for per := l.design.Stock.PerPage(); len(records) > 0; skip = 0 {
		n := min(per-skip, len(records))
		if err := do(records[:n], skip); err != nil {
			return err
		}
		records = records[n:]
	}
	return nil
}

// Write writes the labels of records, moved as the set-up says. The first skip places of the first
// page stay blank.
func (l *Labels) Write(w io.Writer, records [][]string, skip int, setup stock.Setup) error {
	r := l.design.Printer.Resolution
	dx, dy := r.Dots(setup.Across), r.Dots(setup.Along)
	if l.design.Printer.Vector {
		return l.writePDF(w, records, skip, dx, dy)
	}
	return l.writeRaster(w, records, skip, dx, dy)
}

// WriteRaster writes labels as PWG raster, whatever their printer takes.
func (l *Labels) WriteRaster(w io.Writer, records [][]string) error {
	return l.writeRaster(w, records, 0, 0, 0)
}

func (l *Labels) writeRaster(w io.Writer, records [][]string, skip, dx, dy int) error {
	per := l.design.Stock.PerPage()
	pages := (skip + len(records) + per - 1) / per
	chunks := chunked(pages)
	workers := make([]*painter, ordered.Workers(len(chunks)))
	first := true
	return ordered.Each(len(chunks), func(worker, i int) (*bytes.Buffer, error) {
		if workers[worker] == nil {
			workers[worker] = l.painter()
		}
		return workers[worker].paint(records, skip, chunks[i], dx, dy)
	}, func(raster *bytes.Buffer) error {
		if !first { // the word that begins a stream stands once
			raster.Next(pwg.SyncBytes)
		}
		first = false
		_, err := w.Write(raster.Bytes())
		buffers.Put(raster)
		return err
	})
}

// A span is some pages of a document, from 0.
type span struct{ from, to int }

// chunked cuts pages into what one core draws at once: little at first, so that a printer begins at once, then more.
func chunked(pages int) (chunks []span) {
	const most = 64
	for from, n := 0, 1; from < pages; n = min(n*2, most) {
		to := min(from+n, pages)
		chunks = append(chunks, span{from, to})
		from = to
	}
	return chunks
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
func (p *painter) paint(records [][]string, skip int, pages span, dx, dy int) (*bytes.Buffer, error) {
	out, per := buffers.Get().(*bytes.Buffer), p.labels.design.Stock.PerPage()
	out.Reset()
	p.raster.Reset(out)
	for i := pages.from; i < pages.to; i++ {
		from := max(i*per-skip, 0)
		to, place := min((i+1)*per-skip, len(records)), 0
		if i == 0 {
			place = skip
		}
		p.press.Page(p.page, p.label, records[from:to], place)
		if err := p.raster.Layers(p.page.Shifted(dx, dy), p.labels.look, p.labels.design.Printer.Resolution, ""); err != nil {
			return nil, err
		}
	}
	return out, p.raster.Flush()
}

// writePDF writes vectors. What is marked is black, whatever colour that lays bare.
func (l *Labels) writePDF(w io.Writer, records [][]string, skip, dx, dy int) error {
	marks := render.Palette{Face: "#FFFFFF", Inks: slices.Repeat([]string{"#000000"}, len(l.palette.Inks))}
	document := render.NewPDF(w, l.design.Name, marks, l.design.Printer.Resolution)
	width, length := l.design.Stock.PageSize()
	var label compose.Label
	var page render.List
	err := l.pages(records, skip, func(records [][]string, from int) error {
		page.Reset(l.design.Printer.Resolution.Dots(width), l.design.Printer.Resolution.Dots(length))
		for i, record := range records {
			l.composer.Compose(&label, record)
			label.List.Turn(l.design.Turn)
			place := l.press.Place(from + i)
			page.Add(&label.List, place.X+dx, place.Y+dy)
		}
		return document.Add(&page)
	})
	if err != nil {
		return err
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
