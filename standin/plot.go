package standin

import (
	"bufio"
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
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
	pages := filepath.Join(folder, "page")
	command := exec.CommandContext(ctx, "pdftoppm", "-mono", "-r", fmt.Sprint(p.config.Printer.Resolution.PerInch()), path, pages)
	if format == svgFormat {
		dpi := fmt.Sprint(p.config.Printer.Resolution.PerInch())
		asPDF := filepath.Join(folder, "drawing.pdf")
		if out, err := exec.CommandContext(ctx, "rsvg-convert", "-f", "pdf", "-d", dpi, "-p", dpi, "-o", asPDF, path).CombinedOutput(); err != nil {
			return nil, errors.Join(fmt.Errorf("the SVG cannot be read: %w: %s", err, bytes.TrimSpace(out)), os.RemoveAll(folder))
		}
		command.Args[len(command.Args)-2] = asPDF
	}
	if out, err := command.CombinedOutput(); err != nil {
		return nil, errors.Join(fmt.Errorf("the PDF cannot be read: %w: %s", err, bytes.TrimSpace(out)), os.RemoveAll(folder))
	}
	found, err := filepath.Glob(pages + "*.pbm")
	if err != nil {
		return nil, fmt.Errorf("what was marked: %w", err)
	}
	return func() (*pwg.Page, error) {
		if len(found) == 0 {
			return nil, errors.Join(io.EOF, os.RemoveAll(folder))
		}
		plane, err := readPBM(found[0])
		found = found[1:]
		return &pwg.Page{Layers: render.Layers{plane}, Type: pwg.Black}, err
	}, nil
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
	if _, err := fmt.Fscanf(in, "P4\n%d %d\n", &size.X, &size.Y); err != nil || size.X < 1 || size.Y < 1 || size.X > pwg.Most || size.Y > pwg.Most {
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
