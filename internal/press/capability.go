package press

import (
	"errors"
	"slices"
	"strings"

	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/press/pwg"
)

// ErrNoLabels says that a printer takes neither PWG raster nor PDF.
var ErrNoLabels = errors.New("This printer takes neither PWG raster nor PDF, so Odd Spool cannot print on it.")

// Does works out what a printer can do from what it says of itself. IPP does not tell all that a
// label must know, so a person looks it over before it is kept.
func (s *Status) Printer() (stock.Printer, error) {
	p := stock.Printer{Name: s.Name, Cutter: s.Cuts, Speed: s.Speeds[1], SlowSpeed: s.Speeds[0]}
	raster := slices.Contains(s.Formats, rasterFormat)
	if !raster && !slices.Contains(s.Formats, pdfFormat) {
		return p, ErrNoLabels
	}
	p.Vector = !raster
	p.Resolution = resolution(s.DPI)
	p.HeadDots = max(p.Resolution.Dots(s.Head), 8)
	if s.Head == 0 {
		p.HeadDots = p.Resolution.Dots(104 * measure.Millimetre) // the most usual head
	}
	if s.Longest > 2*measure.Millimetre {
		p.MaxLength = min(s.Longest, 10_000*measure.Millimetre)
	}
	if slices.Contains(s.Rasters, string(pwg.SRGB)) {
		p.Inks = []stock.Ink{stock.Full}
	} else if !p.Vector {
		for _, ink := range s.Inks {
			p.Inks = append(p.Inks, stock.Ink(strings.ToLower(ink)))
		}
	}
	if p.Vector {
		p.Takes = []stock.Kind{stock.Plate}
	}
	return p, nil
}

// resolution returns what a whole number of dots per inch stands for: IPP cannot say 8 dots/mm, which
// is 203.2 to the inch.
func resolution(dpi int) measure.Resolution {
	if dpi <= 0 {
		dpi = 203
	}
	for perMillimetre := 4; perMillimetre <= 48; perMillimetre++ {
		r := measure.DotsPerMillimetre(perMillimetre)
		if int(r.PerInch()+0.5) == dpi || int(r.PerInch()) == dpi {
			return r
		}
	}
	return measure.DotsPerInch(dpi)
}
