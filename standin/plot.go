package standin

import (
	"bufio"
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"io"
	"os"
	"os/exec"
	"path/filepath"

	"oddspool/core/render"
	"oddspool/internal/press/pwg"
)

// The documents of a device that marks with vectors.
const (
	pdfFormat = "application/pdf"
	svgFormat = "image/svg+xml"
)

// plot follows the vectors of a document as a marking head does, with Poppler's and librsvg's
// drawing, which share nothing with the writer of the document. It returns its pages one a call.
func (p *Printer) plot(ctx context.Context, path, format string) (func() (*pwg.Page, error), error) {
	folder, err := os.MkdirTemp(p.folder, "plot-")
	if err != nil {
		return nil, fmt.Errorf("a folder for what is marked: %w", err)
	}
	dpi := fmt.Sprint(p.config.Printer.Resolution.PerInch())
	pages := filepath.Join(folder, "page")
	command, read := exec.CommandContext(ctx, "pdftoppm", "-mono", "-r", dpi, path, pages), readPBM
	if format == svgFormat {
		command, read = exec.CommandContext(ctx, "rsvg-convert", "-f", "png", "-b", "white", "-d", dpi, "-p", dpi, "-o",
			pages+".png", path), readPNG
	}
	if out, err := command.CombinedOutput(); err != nil {
		return nil, errors.Join(fmt.Errorf("the %s cannot be read: %w: %s",
			map[string]string{pdfFormat: "PDF", svgFormat: "SVG"}[format], err, bytes.TrimSpace(out)),
			os.RemoveAll(folder))
	}
	found, err := filepath.Glob(pages + "*.p[bn][mg]")
	if err != nil {
		return nil, fmt.Errorf("what was marked: %w", err)
	}
	return func() (*pwg.Page, error) {
		if len(found) == 0 {
			return nil, errors.Join(io.EOF, os.RemoveAll(folder))
		}
		plane, err := read(found[0])
		found = found[1:]
		return &pwg.Page{Layers: render.Layers{plane}, Type: pwg.Black}, err
	}, nil
}

// jpegFormat is a picture, which IPP Everywhere wants of every printer (PWG 5100.14, 5.2): it is printed over a whole
// label.
const jpegFormat = "image/jpeg"

// picture returns the one page of a picture: as large as the label has room for, its dots black where it is darker than
// half.
func (p *Printer) picture(in io.Reader) func() (*pwg.Page, error) {
	done := false
	return func() (*pwg.Page, error) {
		if done {
			return nil, io.EOF
		}
		done = true
		picture, err := jpeg.Decode(in)
		if err != nil {
			return nil, fmt.Errorf("the picture cannot be read: %w", err)
		}
		p.mutex.Lock()
		width, height := p.stock.PageSize()
		p.mutex.Unlock()
		r, from := p.config.Printer.Resolution, picture.Bounds()
		plane := render.NewPlane(max(r.Dots(width), 1), max(r.Dots(height), 1))
		scale := min(float64(plane.Width)/float64(from.Dx()), float64(plane.Height)/float64(from.Dy()))
		for y := range min(int(scale*float64(from.Dy())), plane.Height) {
			for x := range min(int(scale*float64(from.Dx())), plane.Width) {
				at := picture.At(from.Min.X+int(float64(x)/scale), from.Min.Y+int(float64(y)/scale))
				if color.GrayModel.Convert(at).(color.Gray).Y < 128 {
					plane.Dot(x, y)
				}
			}
		}
		return &pwg.Page{Layers: render.Layers{plane}, Type: pwg.Black}, nil
	}
}

// readPBM reads a portable bitmap of packed bits (netpbm's P4): a set bit is black.
func readPBM(path string) (*render.Plane, error) {
	file, err := os.Open(path)
	if err != nil {
		return nil, fmt.Errorf("what was marked: %w", err)
	}
	defer file.Close()
	in := bufio.NewReader(file)
	var size image.Point
	if _, err := fmt.Fscanf(in, "P4\n%d %d\n", &size.X, &size.Y); err != nil || size.X < 1 || size.Y < 1 ||
		size.X > pwg.Most || size.Y > pwg.Most {
		return nil, fmt.Errorf("what was marked is no bitmap: %w", errors.Join(err, io.ErrUnexpectedEOF))
	}
	plane, row := render.NewPlane(size.X, size.Y), make([]byte, (size.X+7)/8)
	for y := range size.Y {
		if _, err := io.ReadFull(in, row); err != nil {
			return nil, fmt.Errorf("what was marked breaks off: %w", err)
		}
		plane.SetRow(y, row)
	}
	return plane, nil
}

// readPNG reads a picture: what is darker than half is black.
func readPNG(path string) (*render.Plane, error) {
	file, err := os.Open(path)
	if err != nil {
		return nil, fmt.Errorf("what was marked: %w", err)
	}
	defer file.Close()
	picture, err := png.Decode(file)
	if err != nil {
		return nil, fmt.Errorf("what was marked is no picture: %w", err)
	}
	size := picture.Bounds()
	plane := render.NewPlane(size.Dx(), size.Dy())
	for y := range size.Dy() {
		for x := range size.Dx() {
			if color.GrayModel.Convert(picture.At(x, y)).(color.Gray).Y < 128 {
				plane.Dot(x, y)
			}
		}
	}
	return plane, nil
}
