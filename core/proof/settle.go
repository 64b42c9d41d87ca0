package proof

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/symbology"
	"oddspool/core/typeset"
)

// Bounds of a search for a design without findings.
const (
	mostRounds  = 40
	someRecords = 200 // looked at while it searches; what it finds is proved on all
	sizeStep    = 0.5 // points
)

// Settle looks for a design like d that has fewer findings: what reaches over the label moves in, type goes down to a
// legible size, and codes to modules of fewer whole dots, as far as the standard and the purpose allow. What it did is
// told; where nothing helps d comes back as it was. Symbologies and turns stay: those are a person's to change
// (Offers).
func Settle(ctx context.Context, d *design.Design, fields []string, records [][]string) (*design.Design,
	[]design.Change, error) {
	sample := records[:min(len(records), someRecords)]
	best, bestErrors, bestAll := d, -1, 0
	try := apart(d)
	for range mostRounds {
		report, err := All(ctx, try, fields, sample)
		if err != nil {
			return nil, nil, err
		}
		if bestErrors < 0 || report.Errors() < bestErrors || report.Errors() == bestErrors &&
			len(report.Groups) < bestAll {
			best, bestErrors, bestAll = try, report.Errors(), len(report.Groups)
		}
		next, changed := apart(try), false
		for _, group := range report.Groups {
			if e := next.Element(group.Element); e != nil && help(next, e, group.Kind) {
				changed = true
			}
		}
		if !changed || len(report.Groups) == 0 {
			break
		}
		try = next
	}
	changes := design.Compare(d, best)
	if len(changes) == 0 {
		best = d
	}
	return best, changes, nil
}

// apart copies a design as far as it is changed here.
func apart(d *design.Design) *design.Design {
	made := *d
	made.Elements = slices.Clone(d.Elements)
	for i := range made.Elements {
		e := &made.Elements[i]
		if e.Text != nil {
			e.Text = new(*e.Text)
		}
		if e.Code != nil {
			e.Code = new(*e.Code)
		}
	}
	return &made
}

// help changes an element a little so that a finding may go; false: it does not know how.
func help(d *design.Design, e *design.Element, kind Kind) bool {
	if e.Locked {
		return false
	}
	switch kind {
	case OffLabel, NoPrint:
		if moveIn(d, e) {
			return true
		}
	case TooLong, CodeTooBig, QuietCut, Overlap:
	default:
		return false
	}
	switch {
	case e.Text != nil:
		return smallerType(d, e.Text)
	case e.Code != nil:
		return smallerModule(d, e.Code) || widen(d, e)
	}
	return false
}

// widen gives a code the whole label along its bars' row, in whose middle it stands.
func widen(d *design.Design, e *design.Element) bool {
	w, h := d.Size()
	keep, before := d.Stock.Keep, *e
	if e.Turn.Sideways() {
		e.Y, e.Height = keep, h-2*keep
	} else {
		e.X, e.Width = keep, w-2*keep
	}
	changed := e.X != before.X || e.Y != before.Y || e.Width != before.Width || e.Height != before.Height ||
		e.Code.Align != design.Centre
	e.Code.Align = design.Centre
	return changed
}

// moveIn has an element's box lie on the label, within what is kept free.
func moveIn(d *design.Design, e *design.Element) bool {
	w, h := d.Size()
	keep := d.Stock.Keep
	before := *e
	e.Width, e.Height = min(e.Width, w-2*keep), min(e.Height, h-2*keep)
	e.X = min(max(e.X, keep), w-keep-e.Width)
	e.Y = min(max(e.Y, keep), h-keep-e.Height)
	return e.X != before.X || e.Y != before.Y || e.Width != before.Width || e.Height != before.Height
}

// smallerType makes type smaller, as long as its small letters are told apart.
func smallerType(d *design.Design, looks *design.TextLooks) bool {
	face, err := typeset.Find(looks.Typeface, looks.Bold, looks.Italic)
	if err != nil || looks.Stretch {
		return false
	}
	size := &looks.Points
	if looks.ShrinkTo > 0 && looks.Capitals == 0 {
		size = &looks.ShrinkTo
	}
	if looks.Capitals > 0 {
		dot := d.Printer.Resolution.Length(1)
		if looks.Capitals-dot < dot ||
			face.Small(face.PerEm(d.Printer.Resolution.Dots(looks.Capitals-dot))) < leastSmall {
			return false
		}
		looks.Capitals -= dot
		return true
	}
	to := *size - sizeStep
	if to <= 0 || face.Small(d.Printer.Resolution.PerEm(to)) < leastSmall {
		return false
	}
	*size = to
	return true
}

// smallerModule takes a dot off a module, where the standard and the purpose have it so.
func smallerModule(d *design.Design, looks *design.CodeLooks) bool {
	r := d.Printer.Resolution
	dots := max(r.Dots(looks.Module), 1)
	if looks.Fit == design.Largest || dots-1 < symbology.LeastModule(symbology.ID(looks.Symbology), looks.Purpose, r) {
		return false
	}
	looks.Module, looks.Fit = measure.Length(r.Length(dots-1)), design.Nearest
	return true
}

// An Offer is a design in which codes are changed so that less breaks, which is a person's to take: it changes who can
// read them, or how they are held before a scanner.
type Offer struct {
	Text    string
	Design  *design.Design
	Changes []design.Change
}

// Offers returns what else would help where codes still break on a design that was settled: turned by a quarter, and as
// a denser symbology. Each is settled in turn, and has fewer labels with errors than the design.
func Offers(ctx context.Context, d *design.Design, fields []string, records [][]string) (offers []Offer, err error) {
	sample := records[:min(len(records), someRecords)]
	report, err := All(ctx, d, fields, sample)
	if err != nil {
		return nil, err
	}
	for _, change := range []func(d *design.Design, e *design.Element) string{turned, asDenser} {
		next, says := apart(d), []string{}
		for i := range next.Elements {
			e := &next.Elements[i]
			if e.Kind == design.Code && !e.Locked && breaks(report, e.ID) {
				if did := change(next, e); did != "" {
					says = append(says, did)
				}
			}
		}
		if len(says) == 0 {
			continue
		}
		settled, _, err := Settle(ctx, next, fields, records)
		if err != nil {
			return nil, err
		}
		better, err := All(ctx, settled, fields, sample)
		if err != nil {
			return nil, err
		}
		if better.Errors() < report.Errors() {
			offers = append(offers, Offer{strings.Join(says, "; "), settled, design.Compare(d, settled)})
		}
	}
	return offers, nil
}

// breaks tells whether a code has no room where it is.
func breaks(r *Report, element string) bool {
	return slices.ContainsFunc(r.Groups, func(g *Group) bool {
		return g.Element == element && g.Level == Error &&
			slices.Contains([]Kind{OffLabel, NoPrint, CodeTooBig, QuietCut, Overlap}, g.Kind)
	})
}

// readily is how tall bars are at least that are swept by hand, their readable text besides.
const readily = 10 * measure.Millimetre

// turned turns a code by a quarter about its middle. Bars that became low with a small label are as tall as they need
// to be again, where the label has room.
func turned(d *design.Design, e *design.Element) string {
	middleX, middleY := e.X+e.Width/2, e.Y+e.Height/2
	e.Width, e.Height, e.Turn = e.Height, e.Width, e.Turn.Plus(90)
	if e.Turn.Sideways() {
		e.Width = max(e.Width, readily)
	} else {
		e.Height = max(e.Height, readily)
	}
	e.X, e.Y = middleX-e.Width/2, middleY-e.Height/2
	moveIn(d, e)
	return fmt.Sprintf("%s turned by 90°", e.ID)
}

// asDenser makes a code one of a denser symbology, as large as its box lets it be.
func asDenser(d *design.Design, e *design.Element) string {
	to := symbology.Of(symbology.ID(e.Code.Symbology)).Denser
	if to == "" {
		return ""
	}
	e.Code.Symbology, e.Code.Fit, e.Code.Options, e.Code.Narrower = string(to), design.Largest,
		symbology.Of(to).Shared(e.Code.Options), 0
	moveIn(d, e)
	return fmt.Sprintf("%s as %s, which cameras read, and laser scanners do not", e.ID, symbology.Of(to).Name)
}
