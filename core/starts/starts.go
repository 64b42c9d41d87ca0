// Package starts has ready-made designs for common purposes over all kinds of stock, which a new design can begin with. Their fields
// are those of Brinewick's records; a person puts others in their place.
package starts

import (
	"slices"
	"strings"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/core/stock/catalogue"
)

// A Start is a ready-made design.
type Start struct {
	ID      string
	Name    string
	For     string // what it is good for, in a few words
	Records string // which of the example records it is made for; empty: none
	Design  design.Design
}

// All returns every start, those of the same kind of stock together.
func All() []Start { return slices.Concat(bins(), goods(), assets(), cables(), signs(), sheets()) }

// Find returns a start by its id; nil where there is none.
func Find(id string) *Start {
	for _, s := range All() {
		if s.ID == id {
			return &s
		}
	}
	return nil
}

// Printers that the starts are drawn for, until one on the floor takes their place.
var (
	black = []stock.Ink{stock.Black}
	label = stock.Printer{Name: "a label printer", Resolution: measure.DotsPerMillimetre(8), HeadDots: 864, Inks: black, Speed: 100, SlowSpeed: 25}
	chip  = stock.Printer{Name: "a printer with an encoder", Resolution: measure.DotsPerMillimetre(8), HeadDots: 832, Inks: black, Speed: 100, SlowSpeed: 25, Encoder: true}
	fine  = stock.Printer{Name: "a fine label printer", Resolution: measure.DotsPerMillimetre(12), HeadDots: 1344, Inks: black, Speed: 100, SlowSpeed: 25}
	twoIn = stock.Printer{Name: "a printer with two inks", Resolution: measure.DotsPerMillimetre(12), HeadDots: 1248, Heats: []stock.Ink{stock.Red}, Speed: 100, SlowSpeed: 50}
	tape  = stock.Printer{Name: "a tape printer", Resolution: measure.DotsPerMillimetre(12), HeadDots: 1248, Takes: []stock.Kind{stock.Tape}, MostWeb: 104 * measure.Millimetre,
		Sensors: []stock.Tracking{stock.Continuous}, Inks: []stock.Ink{stock.Black, stock.Red}, Speed: 40, SlowSpeed: 10, Cutter: true}
	cable = stock.Printer{Name: "a cable printer", Resolution: measure.DotsPerMillimetre(12), HeadDots: 672, Takes: []stock.Kind{stock.Sleeve, stock.Wrap, stock.Flag},
		MostWeb: 60 * measure.Millimetre, Inks: black, Speed: 76, SlowSpeed: 25}
	tags   = stock.Printer{Name: "a tag printer", Resolution: measure.DotsPerMillimetre(12), HeadDots: 1248, Sensors: []stock.Tracking{stock.Gap, stock.Mark, stock.Notch}, Inks: black, Speed: 100, SlowSpeed: 25}
	plate  = stock.Printer{Name: "a plate printer", Resolution: measure.DotsPerMillimetre(10), HeadDots: 2000, Takes: []stock.Kind{stock.Plate}, MostWeb: 200 * measure.Millimetre, Speed: 30, Vector: true}
	office = stock.Printer{Name: "an office printer", Resolution: measure.DotsPerMillimetre(12), HeadDots: 2640, Takes: []stock.Kind{stock.DieCut, stock.Sheet}, MostWeb: 220 * measure.Millimetre,
		Inks: []stock.Ink{stock.Full}, Speed: 100, SlowSpeed: 40}
)

func ready(id, name, purpose, records, find string, printer stock.Printer, turn measure.Turn, elements ...design.Element) Start {
	d := design.Design{Format: design.Format, Name: name, Stock: loaded(find), Printer: printer, Turn: turn, Elements: elements}
	d.Repeat = d.Stock.Usual()
	for i := range d.Elements {
		if d.Elements[i].ID == "" {
			d.Elements[i].ID = string(d.Elements[i].Kind) + "-" + string(rune('1'+i))
		}
	}
	d.Fields = d.UsedFields()
	return Start{id, name, purpose, records, d}
}

func loaded(find string) stock.Stock {
	all, query := catalogue.All(), stock.ParseQuery(find)
	for _, is := range []func(stock.Stock) bool{func(s stock.Stock) bool { return s.Name == find }, query.Matches} {
		if i := slices.IndexFunc(all, is); i >= 0 {
			return all[i]
		}
	}
	panic("the catalogue has no " + find) // TestStarts guards it
}

// at is a place in tenths of a millimetre.
func at(kind design.Kind, x, y, w, h int) design.Element {
	const tenth = measure.Millimetre / 10
	return design.Element{Kind: kind, X: measure.Length(x) * tenth, Y: measure.Length(y) * tenth, Width: measure.Length(w) * tenth, Height: measure.Length(h) * tenth}
}

// pieces reads words with fields in braces.
func pieces(says string) (made []design.Piece) {
	for says != "" {
		text, rest, some := strings.Cut(says, "{")
		if text != "" {
			made = append(made, design.Piece{Text: text})
		}
		if !some {
			break
		}
		name, after, _ := strings.Cut(rest, "}")
		made = append(made, design.Piece{Field: name})
		says = after
	}
	return made
}

func words(x, y, w, h int, points float64, says string, with ...func(*design.Element)) design.Element {
	e := at(design.Text, x, y, w, h)
	e.Says = pieces(says)
	e.Text = &design.TextLooks{Typeface: "Liberation Sans", Points: points, ShrinkTo: max(points*0.5, 4), Stand: design.Middle}
	return changed(e, with)
}

func code(x, y, w, h int, symbology string, module measure.Length, says string, with ...func(*design.Element)) design.Element {
	e := at(design.Code, x, y, w, h)
	e.Says = pieces(says)
	e.Code = &design.CodeLooks{Symbology: symbology, Module: module, Points: 8, Align: design.Centre}
	switch symbology {
	case "datamatrix", "gs1-datamatrix":
		e.Code.Fit, e.Code.Shape = design.Largest, "square"
	case "qr":
		e.Code.Fit = design.Largest
	}
	return changed(e, with)
}

func box(x, y, w, h int, weight measure.Length, with ...func(*design.Element)) design.Element {
	e := at(design.Box, x, y, w, h)
	e.Weight = weight
	return changed(e, with)
}

func line(x, y, w, h int, with ...func(*design.Element)) design.Element {
	return changed(at(design.Line, x, y, w, h), with)
}

func changed(e design.Element, with []func(*design.Element)) design.Element {
	for _, change := range with {
		change(&e)
	}
	return e
}

func bold(e *design.Element)     { e.Text.Bold = true }
func centred(e *design.Element)  { e.Text.Align = design.Centre }
func right(e *design.Element)    { e.Text.Align = design.Right }
func wrapped(e *design.Element)  { e.Text.Wrap = true }
func sideways(e *design.Element) { e.Turn = 270 }
func bare(e *design.Element)     { e.Ink = design.Bare }
func mute(e *design.Element)     { e.Code.Readable = design.None }
func optional(e *design.Element) { e.IfEmpty = design.LeaveOut }
func filled(ink stock.Ink) func(*design.Element) {
	return func(e *design.Element) { e.Shape = &design.Shape{Fill: ink, NoOutline: true} }
}
func inked(ink stock.Ink) func(*design.Element) { return func(e *design.Element) { e.Ink = ink } }
func purpose(e *design.Element)                 { e.Code.Purpose = "logistic" }
func condensed(e *design.Element)               { e.Text.Typeface = "DejaVu Sans Condensed" }
func mono(e *design.Element)                    { e.Text.Typeface = "Liberation Mono" }

func bins() []Start {
	return []Start{
		ready("bin", "Bin label", "A storage place with what lies in it, to be scanned from an arm's length", "bins", "76x38", label, 0,
			words(30, 20, 440, 90, 22, "{bin}", bold), words(470, 20, 260, 90, 11, "Lot {lot}", right), words(30, 115, 700, 55, 12, "{contents}", optional),
			code(30, 175, 700, 185, "code128", 375, "{code}")),
		ready("bin-matrix", "Bin label with two codes", "A storage place whose place and lot are scanned apart", "bins", "76x51", label, 0,
			words(30, 20, 500, 100, 24, "{bin}", bold), words(30, 125, 500, 50, 11, "{contents}", wrapped, optional),
			code(540, 20, 190, 190, "datamatrix", 500, "{lot}", mute), words(540, 205, 190, 40, 8, "{lot}", centred, mono),
			code(30, 265, 700, 220, "code128", 375, "{code}")),
		ready("shelf", "Shelf label", "A shelf, read from the aisle", "bins", "51x25 transfer", label, 0,
			words(20, 15, 470, 110, 26, "{bin}", bold, centred), code(20, 130, 470, 110, "code128", 250, "{code}", mute)),
		ready("rack-upright", "Rack upright", "A rack's post, its words turned to be read along it", "bins", "102x152 transfer", label, 0,
			words(60, 60, 420, 1400, 90, "{bin}", bold, sideways, centred), words(480, 60, 120, 1400, 26, "{contents}", sideways, centred, optional),
			code(620, 60, 340, 1400, "code128", 750, "{code}", func(e *design.Element) { e.Turn = 270; e.Code.Points = 14 })),
		ready("drawer-tape", "Drawer strip", "A strip of tape as long as its words", "bins", "12mm white tape", tape, 90,
			words(20, 15, 360, 90, 16, "{bin}  {contents}", optional)),
	}
}

func goods() []Start {
	return []Start{
		ready("pallet", "Pallet label", "A pallet with its serial shipping container code (SSCC), as GS1 has it", "pallets", "102x152 transfer", label, 0,
			words(40, 30, 940, 100, 20, "Brinewick Kelp Works", bold), line(40, 135, 940, 6), words(40, 150, 940, 90, 18, "{contents}", wrapped),
			words(40, 250, 460, 60, 12, "Lot {lot}"), words(520, 250, 460, 60, 12, "Cases {cases}", right),
			words(40, 315, 460, 60, 12, "Best before {best before}"), words(520, 315, 460, 60, 12, "{berth}", right), line(40, 385, 940, 6),
			code(40, 410, 940, 460, "gs1-128", 500, "(02){gtin}(37){cases}", purpose),
			code(40, 900, 940, 520, "gs1-128", 500, "(00){sscc}", purpose, func(e *design.Element) { e.Code.Points = 10 })),
		ready("case", "Case label", "A case of goods with product, lot and best-before date in one code", "pallets", "102x76", label, 0,
			words(30, 25, 960, 90, 18, "{contents}", bold), words(30, 120, 620, 55, 11, "Lot {lot}"), words(30, 175, 620, 55, 11, "Best before {best before}"),
			words(30, 230, 620, 55, 11, "Brinewick Kelp Works"), code(670, 120, 320, 320, "gs1-datamatrix", 1000, "(01){gtin}(15){best before}(10){lot}", mute),
			code(30, 450, 960, 285, "itf14", 625, "{gtin}")),
		ready("tote", "Tote label", "A tote on its way through the plant", "bins", "102x51", label, 0,
			words(30, 20, 680, 110, 26, "{contents}", bold), words(30, 140, 330, 60, 14, "Lot {lot}"), words(370, 140, 340, 60, 14, "No. {serial}"),
			code(730, 20, 260, 260, "qr", 625, "{code} {serial}", mute), code(30, 300, 960, 190, "code128", 500, "{code}")),
		ready("lot-ticket", "Lot ticket", "A bag or a bucket of one lot, filled in by hand", "bins", "102x76", label, 0,
			box(20, 20, 980, 720, 500), words(40, 35, 940, 90, 20, "Lot {lot}", bold), line(20, 135, 980, 4), words(40, 150, 940, 70, 14, "{contents}"),
			line(20, 230, 980, 4), words(40, 240, 300, 40, 8, "weighed by"), words(520, 240, 300, 40, 8, "date"), line(500, 232, 4, 170), line(20, 400, 980, 4),
			words(40, 410, 300, 40, 8, "weight in kg"), words(520, 410, 300, 40, 8, "released by"), line(500, 402, 4, 170), line(20, 570, 980, 4),
			code(40, 590, 940, 135, "code128", 375, "{lot}-{serial}", mute)),
		ready("waste", "Waste container", "What a waste container holds, of what kind, since when and from whom, filled in by hand", "bins", "102x76", label, 0,
			box(20, 20, 980, 120, 0, filled("black")), words(40, 30, 940, 100, 24, "WASTE", bold, centred, bare), box(20, 20, 980, 720, 500), words(40, 150, 620, 90, 18, "{contents}", bold, wrapped),
			words(680, 150, 300, 45, 10, "Lot {lot}", right), words(680, 195, 300, 45, 10, "No. {serial}", right), line(20, 250, 980, 4), words(40, 258, 300, 40, 8, "waste code"), words(520, 258, 460, 40, 8, "hazards"),
			line(500, 252, 4, 160), line(20, 410, 980, 4), words(40, 418, 300, 40, 8, "first filled on"), words(520, 418, 300, 40, 8, "full on"), line(500, 412, 4, 160), line(20, 570, 980, 4),
			words(40, 578, 440, 40, 8, "given by, telephone"), code(520, 590, 460, 140, "code128", 250, "{lot}-{serial}", mute)),
		ready("crate-chip", "Crate with a chip", "A crate that is told by radio: the same identifier in its chip and in its code", "pallets", "98x50 chip", chip, 0,
			code(40, 40, 200, 200, "gs1-datamatrix", 625, "(00){sscc}", mute), words(270, 40, 670, 70, 14, "{contents}", bold), words(270, 120, 670, 60, 11, "Lot {lot}"), words(270, 185, 670, 55, 9, "{sscc}", mono),
			changed(at(design.Tag, 40, 300, 900, 160), []func(*design.Element){func(e *design.Element) {
				e.Says, e.Tag = pieces("(00){sscc}"), &design.TagLooks{Scheme: "sscc-96", Prefix: 7, User: pieces("{lot}")}
			}})),
		ready("address", "Address label", "Where a parcel goes", "pallets", "89x36", label, 0,
			words(30, 20, 500, 40, 7, "Brinewick Kelp Works, Drying Hall, Quay 4"), line(30, 65, 830, 4), words(30, 80, 830, 120, 16, "{berth}", bold), words(30, 205, 600, 60, 11, "{contents}", optional),
			words(30, 270, 600, 60, 11, "{cases} cases, lot {lot}")),
		ready("crate-tag", "Crate tag to hang", "A tag with a code that is read from both ways", "bins", "80x120 tag", tags, 0,
			words(40, 120, 720, 160, 34, "{bin}", bold, centred), words(40, 290, 720, 80, 16, "{contents}", centred, optional),
			code(40, 390, 720, 300, "code128", 375, "{code}", func(e *design.Element) { e.Code.Points = 12 }), code(250, 720, 300, 300, "qr", 1000, "{code}", mute),
			words(40, 1040, 720, 90, 14, "Lot {lot}   No. {serial}", centred)),
		ready("lid", "Lid of a bucket", "A round label: contents in the middle, lot below", "bins", "Ø 60 vinyl", fine, 0,
			at0(design.Oval, 20, 20, 560, 560, 500), words(110, 150, 380, 160, 15, "{contents}", bold, centred, wrapped), line(130, 320, 340, 5), words(130, 335, 340, 60, 11, "Lot {lot}", centred),
			words(170, 400, 260, 60, 10, "No. {serial}", centred)),
		ready("bottle", "Bottle label", "An oval label for a bottle of brine", "bins", "60x40 oval", fine, 0,
			at0(design.Oval, 15, 15, 570, 370, 300), words(110, 90, 380, 110, 15, "{contents}", bold, centred, wrapped), words(130, 210, 340, 60, 10, "Lot {lot}", centred), words(160, 275, 280, 50, 8, "Brinewick Kelp Works", centred)),
	}
}

func at0(kind design.Kind, x, y, w, h int, weight measure.Length) design.Element {
	e := at(kind, x, y, w, h)
	e.Weight = weight
	return e
}

func assets() []Start {
	return []Start{
		ready("asset", "Asset tag", "A pump or a machine with a number for good", "bins", "51x25 polyester", fine, 0,
			box(15, 15, 480, 220, 300, func(e *design.Element) { e.Shape = &design.Shape{Corner: 1500} }), words(35, 25, 270, 50, 8, "Brinewick Kelp Works", bold), words(35, 80, 270, 40, 7, "Property. Do not remove."),
			words(35, 140, 270, 80, 14, "{serial}", bold, mono), code(310, 35, 175, 180, "datamatrix", 500, "{code}{serial}", mute)),
		ready("sensor", "Sensor label", "A small label with a code that holds all", "bins", "38x19 polyester", fine, 0,
			code(12, 12, 165, 165, "datamatrix", 500, "{code}{serial}", mute), words(180, 15, 185, 70, 12, "{bin}", bold), words(180, 90, 185, 45, 7, "Lot {lot}"), words(180, 135, 185, 45, 7, "No. {serial}")),
		ready("small-part", "Small part", "The smallest: a code and a number", "bins", "25x13 polyester", fine, 0,
			code(8, 8, 112, 112, "datamatrix", 500, "{serial}", mute), words(125, 15, 115, 50, 8, "{bin}", bold, condensed), words(125, 65, 115, 50, 7, "{serial}", condensed)),
		ready("small-lanes", "Small labels in lanes", "Many of one size across the web", "bins", "50x25 lanes", label, 0,
			words(15, 12, 470, 70, 14, "{bin}", bold), words(15, 85, 470, 45, 8, "{contents}", optional), code(15, 135, 470, 105, "code128", 250, "{code}", mute)),
		ready("type-plate", "Type plate with boxes", "A machine's plate with boxes for what is stamped in", "", "Plate 100x50 laminate", plate, 0,
			words(140, 20, 720, 80, 16, "Brinewick Kelp Works", bold, centred), box(100, 110, 395, 100, 400), box(505, 110, 395, 100, 400), box(100, 220, 395, 100, 400), box(505, 220, 395, 100, 400),
			words(115, 114, 160, 35, 7, "type"), words(520, 114, 160, 35, 7, "built"), words(115, 224, 160, 35, 7, "serial number"), words(520, 224, 160, 35, 7, "kilowatts"),
			words(140, 340, 720, 90, 12, "Rinse before opening", centred)),
		ready("valve", "Valve plate", "A plate that hangs at a valve", "circuits", "Plate 80x40 laminate", plate, 0,
			words(120, 40, 560, 140, 34, "{circuit}", bold, centred), line(120, 195, 560, 6), words(120, 215, 560, 130, 14, "{leads to}", centred, wrapped)),
		ready("panel", "Panel plate", "A plate beside a switch", "circuits", "Plate 60x20 white on black", plate, 0,
			words(80, 15, 440, 90, 20, "{panel} {circuit}", bold, centred), words(80, 110, 440, 70, 10, "{leads to}", centred, wrapped)),
	}
}

func cables() []Start {
	return []Start{
		ready("sleeve", "Circuit sleeve", "Shrink tubing over a wire, read from both sides", "circuits", "sleeve white 6.4mm", cable, 90,
			words(20, 15, 460, 90, 18, "{circuit}", bold, centred)),
		ready("wrap", "Cable wrap", "A wrap with a clear tail, its legend round the cable", "circuits", "Wrap 25 × 38", cable, 0,
			words(10, 2, 230, 29, 7, "{circuit} {panel}", bold, centred)),
		ready("flag", "Cable flag", "Two faces, with what the cable feeds", "circuits", "Flag 20 × 30", cable, 90,
			words(15, 15, 270, 80, 18, "{circuit}", bold, centred), words(15, 100, 270, 80, 9, "{leads to}", centred, wrapped)),
	}
}

func signs() []Start {
	return []Start{
		ready("notice", "Notice with a heading", "White words out of a filled heading, and a message", "circuits", "102x51", label, 0,
			box(15, 15, 980, 150, 0, filled("black")), words(30, 25, 950, 130, 28, "NOTICE", bold, centred, bare), box(15, 165, 980, 325, 700), words(40, 185, 930, 285, 24, "{sort}", bold, centred, wrapped)),
		ready("two-colour", "Notice in two colours", "A red heading on stock that prints black and red", "circuits", "100x70 red", twoIn, 0,
			box(15, 15, 970, 190, 0, filled("red")), words(30, 30, 940, 160, 34, "STOP", bold, centred, bare), words(40, 230, 920, 300, 28, "{sort}", bold, centred, wrapped),
			line(40, 560, 920, 6, inked("red")), words(40, 580, 920, 90, 12, "Ask the shift lead first", centred)),
		ready("floor-arrow", "Way to somewhere", "An arrow and words on wide tape", "circuits", "101mm yellow tape", tape, 90,
			line(40, 300, 600, 420, func(e *design.Element) { e.Weight = 14000; e.Shape = &design.Shape{Arrow: design.AtEnd} }), words(680, 60, 1300, 890, 90, "{leads to}", bold, wrapped)),
		ready("shelf-tape", "Words on tape", "Any words on tape, as long as they are", "circuits", "24mm white tape", tape, 90,
			words(20, 25, 440, 190, 40, "{circuit}", bold)),
	}
}

func sheets() []Start {
	return []Start{
		ready("sheet-address", "Addresses on a sheet", "24 on a sheet for an office printer", "pallets", "Sheet 70x37", office, 0,
			words(60, 60, 580, 100, 16, "{berth}", bold), words(60, 165, 580, 60, 10, "{contents}", wrapped), words(60, 235, 580, 60, 10, "{cases} cases, lot {lot}")),
		ready("sheet-bins", "Bin labels on a sheet", "21 on a sheet, each with a code", "bins", "Sheet 63.5x38.1", office, 0,
			words(40, 30, 555, 90, 20, "{bin}", bold, centred), words(40, 120, 555, 50, 9, "{contents}", centred, optional), code(40, 180, 555, 170, "code128", 250, "{code}")),
		ready("sheet-file", "File backs on a sheet", "Eight large labels with a code", "bins", "Sheet 99.1x67.7", office, 0,
			words(60, 60, 870, 150, 36, "{bin}", bold, centred), words(60, 220, 870, 80, 14, "{contents}", centred, optional), code(60, 320, 870, 290, "code128", 500, "{code}")),
		ready("carton", "Drum label", "A large label in colour with its contents and handling", "bins", "105x148 polypropylene", office, 0,
			box(40, 40, 970, 220, 0, filled("blue")), words(60, 60, 930, 180, 36, "{contents}", bold, centred, inked("white")), words(60, 290, 930, 110, 22, "Lot {lot}", bold), words(60, 410, 930, 70, 14, "No. {serial}, {bags} bags"),
			line(60, 500, 930, 6), words(60, 530, 930, 300, 18, "Keep dry and out of the sun. Stack no more than four high.", wrapped), code(60, 900, 930, 460, "code128", 500, "{code}", func(e *design.Element) { e.Code.Points = 12 })),
	}
}
