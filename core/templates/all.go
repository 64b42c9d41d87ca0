package templates

import (
	"slices"

	"oddspool/core/design"
	"oddspool/core/measure"
)

func bins() []Template {
	return []Template{
		ready("bin", "Bin label", "A storage place with what lies in it, to be scanned from an arm's length", "bins",
			"76x38", label, 0,
			words(30, 20, 440, 90, 22, "{bin}", bold), words(470, 20, 260, 90, 11, "Lot {lot}", right),
			words(30, 115, 700, 55, 12, "{contents}", optional),
			code(30, 175, 700, 185, "code128", 375, "{code}")),
		ready("bin-matrix", "Bin label with two codes", "A storage place whose place and lot are scanned apart", "bins",
			"76x51", label, 0,
			words(30, 20, 500, 100, 24, "{bin}", bold), words(30, 125, 500, 50, 11, "{contents}", wrapped, optional),
			code(540, 20, 190, 190, "datamatrix", 500, "{lot}", mute), words(540, 205, 190, 40, 8, "{lot}", centred,
				mono),
			code(30, 265, 700, 220, "code128", 375, "{code}")),
		ready("shelf", "Shelf label", "A shelf, read from the aisle", "bins", "51x25 transfer", label, 0,
			words(20, 15, 470, 110, 26, "{bin}", bold, centred), code(20, 130, 470, 110, "code128", 250, "{code}",
				mute)),
		ready("rack-upright", "Rack upright", "A rack's post, its words turned to be read along it", "bins",
			"102x152 transfer", label, 0,
			words(60, 60, 420, 1400, 90, "{bin}", bold, sideways, centred), words(480, 60, 120, 1400, 26, "{contents}",
				sideways, centred, optional),
			code(620, 60, 340, 1400, "code128", 750, "{code}",
				func(e *design.Element) { e.Turn = 270; e.Code.Points = 14 })),
		ready("drawer-tape", "Drawer strip", "A strip of tape as long as its words", "bins", "12mm white tape", tape,
			90,
			words(20, 15, 360, 90, 16, "{bin}  {contents}", optional)),
	}
}

func goods() []Template {
	return []Template{
		ready("pallet", "Pallet label", "A pallet with its serial shipping container code (SSCC), as GS1 has it",
			"pallets", "102x152 transfer", label, 0,
			words(40, 30, 940, 100, 20, "Brinewick Kelp Works", bold), line(40, 135, 940, 6),
			words(40, 150, 940, 90, 18, "{contents}", wrapped),
			words(40, 250, 460, 60, 12, "Lot {lot}"), words(520, 250, 460, 60, 12, "Cases {cases}", right),
			words(40, 315, 460, 60, 12, "Best before "+bestBefore), words(520, 315, 460, 60, 12, "{berth}", right),
			line(40, 385, 940, 6),
			code(40, 410, 940, 460, "gs1-128", 500, "(02){gtin}(37){cases}", purpose),
			code(40, 900, 940, 520, "gs1-128", 500, "(00){sscc}", purpose,
				func(e *design.Element) { e.Code.Points = 10 })),
		ready("case", "Case label", "A case of goods with product, lot and best-before date in one code", "pallets",
			"102x76", label, 0,
			words(30, 20, 620, 90, 18, "{contents}", bold, wrapped), words(30, 125, 620, 55, 11, "Lot {lot}"),
			words(30, 180, 620, 55, 11, "Best before "+bestBefore),
			words(30, 240, 620, 55, 11, "Brinewick Kelp Works"), code(690, 20, 300, 300, "gs1-datamatrix", 1000,
				"(01){gtin}(15){best before}(10){lot}", mute, inDistribution),
			code(30, 335, 960, 405, "itf14", 500, "{gtin}", inDistribution)),
		ready("tote", "Tote label", "A tote on its way through the plant", "bins", "102x51", label, 0,
			words(30, 20, 680, 110, 26, "{contents}", bold), words(30, 140, 330, 60, 14, "Lot {lot}"),
			words(370, 140, 340, 60, 14, "No. {serial}"),
			code(730, 20, 260, 260, "qr", 625, "{code} {serial}", mute),
			code(30, 300, 960, 190, "code128", 500, "{code}")),
		ready("lot-ticket", "Lot ticket", "A bag or a bucket of one lot, filled in by hand", "bins", "102x76", label, 0,
			box(20, 20, 980, 720, 500), words(40, 35, 940, 90, 20, "Lot {lot}", bold), line(20, 135, 980, 4),
			words(40, 150, 940, 70, 14, "{contents}"),
			line(20, 230, 980, 4), words(40, 240, 300, 40, 8, "weighed by"), words(520, 240, 300, 40, 8, "date"),
			line(500, 232, 4, 170), line(20, 400, 980, 4),
			words(40, 410, 300, 40, 8, "weight in kg"), words(520, 410, 300, 40, 8, "released by"),
			line(500, 402, 4, 170), line(20, 570, 980, 4),
			code(40, 590, 940, 135, "code128", 375, "{lot}-{serial}", mute)),
		ready("waste", "Waste container",
			"What a waste container holds, of what kind, since when and from whom, filled in by hand", "bins", "102x76",
			label, 0,
			box(20, 20, 980, 120, 0, filled("black")), words(40, 30, 940, 100, 24, "WASTE", bold, centred, bare),
			box(20, 20, 980, 720, 500), words(40, 150, 620, 90, 18, "{contents}", bold, wrapped),
			words(680, 150, 300, 45, 10, "Lot {lot}", right), words(680, 195, 300, 45, 10, "No. {serial}", right),
			line(20, 250, 980, 4), words(40, 258, 300, 40, 8, "waste code"), words(520, 258, 460, 40, 8, "hazards"),
			line(500, 252, 4, 160), line(20, 410, 980, 4), words(40, 418, 300, 40, 8, "first filled on"),
			words(520, 418, 300, 40, 8, "full on"), line(500, 412, 4, 160), line(20, 570, 980, 4),
			words(40, 578, 440, 40, 8, "given by, telephone"), code(520, 590, 460, 140, "code128", 250,
				"{lot}-{serial}", mute)),
		ready("crate-chip", "Crate with a chip",
			"A crate that is told by radio: the same identifier in its chip and in its code", "pallets", "98x50 chip",
			chip, 0,
			code(30, 30, 230, 230, "gs1-datamatrix", 750, "(00){sscc}", mute, purpose),
			words(270, 40, 670, 70, 14, "{contents}", bold), words(270, 120, 670, 60, 11, "Lot {lot}"),
			words(270, 185, 670, 55, 9, "{sscc}", mono),
			changed(at(design.Tag, 40, 300, 900, 160), []func(*design.Element){func(e *design.Element) {
				e.Says, e.Tag = pieces("(00){sscc}"), &design.TagLooks{Scheme: "sscc-96", Prefix: 7,
					User: pieces("{lot}")}
			}})),
		ready("address", "Address label", "Where a parcel goes", "pallets", "89x36", label, 0,
			words(30, 20, 500, 40, 7, "Brinewick Kelp Works, Drying Hall, Quay 4"), line(30, 65, 830, 4),
			words(30, 80, 830, 120, 16, "{berth}", bold), words(30, 205, 600, 60, 11, "{contents}", optional),
			words(30, 270, 600, 60, 11, "{cases} cases, lot {lot}")),
		ready("crate-tag", "Crate tag to hang", "A tag with a code that is read from both ways", "bins", "80x120 tag",
			tags, 0,
			words(40, 120, 720, 160, 34, "{bin}", bold, centred), words(40, 290, 720, 80, 16, "{contents}", centred,
				optional),
			code(40, 390, 720, 300, "code128", 375, "{code}", func(e *design.Element) { e.Code.Points = 12 }),
			code(250, 720, 300, 300, "qr", 1000, "{code}", mute),
			words(40, 1040, 720, 90, 14, "Lot {lot}   No. {serial}", centred)),
		ready("lid", "Lid of a bucket", "A round label: contents in the middle, lot below", "bins", "Ø 60 vinyl", fine,
			0,
			at0(design.Oval, 20, 20, 560, 560, 500), words(110, 150, 380, 160, 15, "{contents}", bold, centred,
				wrapped), line(130, 320, 340, 5), words(130, 335, 340, 60, 11, "Lot {lot}", centred),
			words(170, 400, 260, 60, 10, "No. {serial}", centred)),
		ready("bottle", "Bottle label", "An oval label for a bottle of brine", "bins", "60x40 oval", fine, 0,
			at0(design.Oval, 15, 15, 570, 370, 300), words(110, 90, 380, 110, 15, "{contents}", bold, centred, wrapped),
			words(130, 210, 340, 60, 10, "Lot {lot}", centred), words(160, 275, 280, 50, 8, "Brinewick Kelp Works",
				centred)),
	}
}

func at0(kind design.Kind, x, y, w, h int, weight measure.Length) design.Element {
	e := at(kind, x, y, w, h)
	e.Weight = weight
	return e
}

func assets() []Template {
	return []Template{
		ready("asset", "Asset tag", "A pump or a machine with a number for good", "bins", "51x25 polyester", fine, 0,
			box(15, 15, 480, 220, 300, func(e *design.Element) { e.Shape = &design.Shape{Corner: 1500} }),
			words(35, 25, 270, 50, 8, "Brinewick Kelp Works", bold),
			words(35, 80, 270, 40, 7, "Property. Do not remove."),
			words(35, 140, 270, 80, 14, "{serial}", bold, mono), code(310, 35, 175, 180, "datamatrix", 500,
				"{code}{serial}", mute)),
		ready("sensor", "Sensor label", "A small label with a code that holds all", "bins", "38x19 polyester", fine, 0,
			code(12, 12, 165, 165, "datamatrix", 500, "{code}{serial}", mute),
			words(180, 15, 185, 70, 12, "{bin}", bold), words(180, 90, 185, 45, 7, "Lot {lot}"),
			words(180, 135, 185, 45, 7, "No. {serial}")),
		ready("small-part", "Small part", "The smallest: a code and a number", "bins", "25x13 polyester", fine, 0,
			code(8, 8, 112, 112, "datamatrix", 500, "{serial}", mute), words(125, 15, 115, 50, 8, "{bin}", bold,
				condensed), words(125, 65, 115, 50, 7, "{serial}", condensed)),
		ready("small-lanes", "Small labels in lanes", "Many of one size across the web", "bins", "50x25 lanes", label,
			0,
			words(15, 12, 470, 70, 14, "{bin}", bold), words(15, 85, 470, 45, 8, "{contents}", optional),
			code(15, 135, 470, 105, "code128", 250, "{code}", mute)),
		ready("type-plate", "Type plate with boxes",
			"A machine's plate with maker, address, type, serial number and year (Directive 2006/42/EC, annex I, "+
				"1.7.3), and boxes for what is stamped in", "bins", "Plate 100x50 laminate", plate, 0,
			words(140, 15, 600, 60, 13, "Brinewick Kelp Works", bold), words(140, 75, 600, 35, 7, "Quay 3, Brinewick"),
			symbol(760, 20, 90, "CE"), box(100, 120, 395, 85, 400), box(505, 120, 395, 85, 400),
			box(100, 215, 395, 85, 400), box(505, 215, 395, 85, 400),
			words(115, 124, 160, 30, 6, "type"), words(520, 124, 240, 30, 6, "year of construction"),
			words(115, 219, 200, 30, 6, "serial number"), words(520, 219, 160, 30, 6, "kilowatts"),
			words(250, 245, 235, 50, 11, "{serial}", bold, right, condensed),
			words(140, 315, 720, 60, 9, "Rinse before opening", centred),
			words(140, 385, 720, 70, 10, "Keep for spare parts: {bin}", centred)),
		ready("valve", "Valve plate", "A plate that hangs at a valve", "circuits", "Plate 80x40 laminate", plate, 0,
			words(120, 40, 560, 140, 34, "{circuit}", bold, centred), line(120, 195, 560, 6),
			words(120, 215, 560, 130, 14, "{leads to}", centred, wrapped)),
		ready("panel", "Panel plate", "A plate beside a switch", "circuits", "Plate 60x20 white on black", plate, 0,
			words(80, 15, 440, 90, 20, "{panel} {circuit}", bold, centred), words(80, 110, 440, 70, 10, "{leads to}",
				centred, wrapped)),
	}
}

func cables() []Template {
	return []Template{
		ready("sleeve", "Circuit sleeve", "Shrink tubing over a wire, read from both sides", "circuits",
			"sleeve white 6.4mm", cable, 90,
			words(20, 15, 460, 90, 18, "{circuit}", bold, centred)),
		ready("wrap", "Cable wrap", "A wrap with a clear tail, its legend round the cable", "circuits", "Wrap 25 × 38",
			cable, 0,
			words(10, 2, 230, 29, 7, "{circuit} {panel}", bold, centred)),
		ready("flag", "Cable flag", "Two faces, with what the cable feeds", "circuits", "Flag 20 × 30", cable, 90,
			words(15, 15, 270, 80, 18, "{circuit}", bold, centred), words(15, 100, 270, 80, 9, "{leads to}", centred,
				wrapped)),
	}
}

func signs() []Template {
	return []Template{
		ready("notice", "Notice with a heading", "White words out of a filled heading, and a message", "circuits",
			"102x51", label, 0,
			box(15, 15, 980, 150, 0, filled("black")), words(30, 25, 950, 130, 28, "NOTICE", bold, centred, bare),
			box(15, 165, 980, 325, 700), words(40, 185, 930, 285, 24, "{sort}", bold, centred, wrapped)),
		ready("two-colour", "Notice in two colours", "A red heading on stock that prints black and red", "circuits",
			"100x70 red", twoIn, 0,
			box(15, 15, 970, 190, 0, filled("red")), words(30, 30, 940, 160, 34, "STOP", bold, centred, bare),
			words(40, 230, 920, 300, 28, "{sort}", bold, centred, wrapped),
			line(40, 560, 920, 6, inked("red")), words(40, 580, 920, 90, 12, "Ask the shift lead first", centred)),
		ready("floor-arrow", "Way to somewhere", "An arrow and words on wide tape", "circuits", "101mm yellow tape",
			tape, 90,
			line(40, 300, 600, 420, func(e *design.Element) {
				e.Weight, e.Shape = 14000, &design.Shape{Arrow: design.AtEnd}
			}),
			words(680, 60, 1300, 890, 90, "{leads to}", bold, wrapped)),
		ready("shelf-tape", "Words on tape", "Any words on tape, as long as they are", "circuits", "24mm white tape",
			tape, 90,
			words(20, 25, 440, 190, 40, "{circuit}", bold)),
	}
}

func sheets() []Template {
	return []Template{
		ready("sheet-address", "Addresses on a sheet", "24 on a sheet for an office printer", "pallets", "Sheet 70x37",
			office, 0,
			words(60, 60, 580, 100, 16, "{berth}", bold), words(60, 165, 580, 60, 10, "{contents}", wrapped),
			words(60, 235, 580, 60, 10, "{cases} cases, lot {lot}")),
		ready("sheet-bins", "Bin labels on a sheet", "21 on a sheet, each with a code", "bins", "Sheet 63.5x38.1",
			office, 0,
			words(40, 30, 555, 90, 20, "{bin}", bold, centred), words(40, 120, 555, 50, 9, "{contents}", centred,
				optional), code(40, 180, 555, 170, "code128", 250, "{code}")),
		ready("sheet-file", "File backs on a sheet", "Eight large labels with a code", "bins", "Sheet 99.1x67.7",
			office, 0,
			words(60, 60, 870, 150, 36, "{bin}", bold, centred), words(60, 220, 870, 80, 14, "{contents}", centred,
				optional), code(60, 320, 870, 290, "code128", 500, "{code}")),
		ready("carton", "Drum label", "A large label in colour with its contents and handling", "bins",
			"105x148 polypropylene", office, 0,
			box(40, 40, 970, 220, 0, filled("blue")), words(60, 60, 930, 180, 36, "{contents}", bold, centred,
				inked("white")), words(60, 290, 930, 110, 22, "Lot {lot}", bold),
			words(60, 410, 930, 70, 14, "No. {serial}, {bags} bags"),
			line(60, 500, 930, 6), words(60, 530, 930, 300, 18,
				"Keep dry and out of the sun. Stack no more than four high.", wrapped),
			code(60, 900, 930, 460, "code128", 500, "{code}", func(e *design.Element) { e.Code.Points = 12 })),
	}
}

// blank is a line to be written on, with what belongs there above it.
func blank(x, y, w int, says string) []design.Element {
	return []design.Element{words(x, y, w, 35, 7, says), line(x, y+105, w, 4)}
}

func together(lists ...[]design.Element) []design.Element { return slices.Concat(lists...) }

// trades are designs of single trades: what their rules ask for stands on them.
func trades() []Template {
	return []Template{
		ready("device-udi", "Medical device with UDI",
			"A device with its unique identifier as code and text (Regulation (EU) 2017/745, annex VI, C), and the "+
				"symbols of ISO 15223-1", "pallets", "102x51", fine, 0,
			code(20, 20, 200, 200, "gs1-datamatrix", 500, "(01){gtin}(17){best before}(10){lot}", mute, healthcare),
			words(235, 20, 560, 70, 14, "{contents}", bold), words(235, 95, 500, 40, 8, "(01){gtin}", mono),
			words(235, 135, 500, 40, 8, "(17){best before}", mono), words(235, 175, 500, 40, 8, "(10){lot}", mono),
			symbol(820, 15, 90, "MD-md"), symbol(915, 15, 85, "MD-udi"),
			symbol(20, 240, 75, "MD-manufacturer"),
			words(105, 240, 420, 75, 8, "Brinewick Kelp Works, Quay 3, Brinewick", wrapped),
			symbol(20, 325, 75, "MD-lot"), words(105, 325, 380, 75, 10, "{lot}"),
			symbol(520, 325, 75, "MD-useby"),
			words(605, 325, 380, 75, 10, `{=formatDate(date(field("best before"), "yyMMdd"), "yyyy-MM-dd")}`),
			symbol(520, 240, 75, "MD-ref"), words(605, 240, 380, 75, 10, "{gtin}"),
			symbol(20, 415, 75, "MD-once"), symbol(105, 415, 75, "MD-dry"), symbol(190, 415, 75, "MD-ifu"),
			words(520, 415, 460, 75, 8, "{cases} pieces", right)),
		ready("medicine", "Medicine carton with serial number",
			"A pack with product code, serial number, lot and expiry date in one code and as text (Regulation (EU) "+
				"2016/161, articles 4 to 7)", "pallets", "76x38", fine, 0,
			code(20, 20, 240, 240, "gs1-datamatrix", 500, "(01){gtin}(21){sscc}(17){best before}(10){lot}", mute,
				healthcare), words(280, 20, 460, 50, 9, "PC  {gtin}", mono), words(280, 80, 460, 50, 9, "SN  {sscc}",
				mono),
			words(280, 140, 460, 50, 9, `EXP {=formatDate(date(field("best before"), "yyMMdd"), "MM/yyyy")}`, mono),
			words(280, 200, 460, 50, 9, "LOT {lot}", mono), words(20, 285, 720, 70, 11, "{contents}", bold)),
		ready("food-date", "Food with date and allergens",
			"What is in a pack, until when, and what people are allergic to, set apart (Regulation (EU) 1169/2011, "+
				"articles 21 and 24)", "pallets", "102x51", label, 0,
			words(30, 20, 950, 90, 20, "{contents}", bold), line(30, 120, 950, 4),
			words(30, 135, 950, 60, 13, "Best before "+bestBefore, bold),
			words(30, 200, 950, 50, 10, "Lot {lot}   Keep dry and out of the sun."),
			words(30, 260, 950, 50, 10, "Ingredients: seaweed. Allergens:"),
			words(30, 315, 950, 70, 14, "MAY CONTAIN CRUSTACEANS, FISH, MOLLUSCS", bold),
			words(30, 400, 950, 60, 9, "Brinewick Kelp Works, Quay 3, Brinewick", right)),
		ready("shipping-two", "Shipping label in two languages",
			"Where a load goes, in two languages, with its shipping container code", "pallets", "102x152 transfer",
			label, 0,
			words(40, 30, 450, 45, 8, "From / Von"),
			words(40, 75, 900, 70, 12, "Brinewick Kelp Works, Quay 3, Brinewick"), line(40, 160, 940, 6),
			words(40, 175, 450, 45, 8, "To / An"), words(40, 225, 940, 150, 32, "{berth}", bold),
			line(40, 390, 940, 6), words(40, 405, 460, 45, 8, "Contents / Inhalt"),
			words(40, 455, 940, 80, 16, "{contents}", bold, wrapped), words(40, 550, 300, 45, 8, "Cases / Kisten"),
			words(40, 600, 300, 80, 20, "{cases}", bold),
			words(360, 550, 300, 45, 8, "Lot / Charge"), words(360, 600, 300, 80, 16, "{lot}"),
			words(680, 550, 300, 45, 8, "Best before / Haltbar bis"), words(680, 600, 300, 80, 13, bestBefore),
			line(40, 700, 940, 6),
			words(40, 715, 940, 70, 12, "Keep dry. / Vor Nässe schützen."),
			code(40, 860, 940, 560, "gs1-128", 500, "(00){sscc}", purpose,
				func(e *design.Element) { e.Code.Points = 10 })),
		ready("dangerous-parcel", "Parcel of dangerous goods",
			"A parcel with class, number and name of its goods, the label of their class in its full size, and which "+
				"way up (UN Model Regulations, 5.2); numbers, names and labels are those of the goods it holds",
			"pallets", "Sheet of 1, 210 × 297", office, 0,
			words(100, 80, 1900, 80, 14, "From: Brinewick Kelp Works, Quay 3, Brinewick, +44 1632 960012"),
			words(100, 180, 1900, 180, 44, "{berth}", bold), line(100, 380, 1900, 8),
			words(100, 410, 1900, 170, 48, "UN 1170", bold), words(100, 590, 1900, 130, 30, "ETHANOL SOLUTION", bold),
			symbol(80, 750, 1450, "UN3"), symbol(1560, 850, 440, "UN-up"),
			words(100, 2230, 1900, 90, 20, "{cases} cases, lot {lot}"),
			code(100, 2350, 1900, 520, "gs1-128", 750, "(00){sscc}", purpose,
				func(e *design.Element) { e.Code.Points = 18 })),
	}
}

// safeties are tags and labels that say what is dangerous, shut off, held back or looked at.
func safeties() []Template {
	return []Template{
		ready("calibration", "Calibration label", "An instrument that was calibrated, when, and until when", "bins",
			"51x25 polyester", fine, 0,
			box(10, 10, 490, 60, 0, filled("black")), words(15, 12, 480, 56, 11, "CALIBRATED", bold, centred, bare),
			words(20, 75, 300, 50, 10, "No. {serial}", bold), words(20, 130, 160, 30, 6, "on"), line(20, 175, 140, 4),
			words(180, 130, 160, 30, 6, "due on"), line(180, 175, 140, 4), words(20, 185, 160, 30, 6, "by"),
			line(20, 235, 300, 4), code(345, 85, 145, 145, "datamatrix", 500, "{serial}", mute)),
		ready("inspection", "Inspection tag to hang", "A tag with what was inspected, by whom, and a line a time",
			"bins", "80x120 tag", tags, 0, together([]design.Element{
				words(40, 120, 720, 90, 24, "INSPECTED", bold, centred),
				words(40, 215, 720, 60, 12, "{bin}  No. {serial}",
					centred)}, blank(50, 300, 320, "on"), blank(430, 300, 320, "by"), blank(50, 430, 320, "on"),
				blank(430, 430, 320, "by"),
				blank(50, 560, 320, "on"), blank(430, 560, 320, "by"), blank(50, 690, 320, "on"),
				blank(430, 690, 320, "by"), []design.Element{code(250, 840, 300, 300, "qr", 1000, "{code}", mute)})...),
		ready("lockout", "Lockout tag",
			"Who locked a machine out, and that nobody else takes the tag off (29 CFR 1910.147(c)(5))", "circuits",
			"80x120 tag", tags, 0, together([]design.Element{
				box(30, 110, 740, 150, 0, filled("black")), words(40, 120, 720, 130, 40, "DANGER", bold, centred, bare),
				words(40, 275, 720, 110, 26, "DO NOT OPERATE", bold, centred),
				words(40, 390, 720, 80, 13, "Locked out. Only who signed may remove this tag.", centred, wrapped),
				words(40, 475, 720, 60, 12, "{circuit}: {leads to}", centred, wrapped)}, blank(50, 560, 700, "name"),
				blank(50, 690, 330, "department"), blank(420, 690, 330, "telephone"),
				blank(50, 820, 330, "locked out on"), blank(420, 820, 330, "expected back on"),
				blank(50, 950, 700, "reason"))...),
		ready("hold", "Hold", "Goods that are held back until somebody released them", "pallets", "102x76", label, 0,
			together([]design.Element{
				box(20, 20, 980, 150, 0, filled("black")), words(30, 30, 960, 130, 40, "HOLD", bold, centred, bare),
				words(40, 185, 940, 70, 15, "{contents}", bold, wrapped), words(40, 260, 460, 60, 12, "Lot {lot}"),
				words(520, 260, 460, 60, 12, "{cases} cases", right)},
				blank(40, 340, 940, "reason"), blank(40, 470, 450, "held by"), blank(530, 470, 450, "on"),
				blank(40, 600, 450, "released by"), blank(530, 600, 450, "on"))...),
		ready("arc-flash", "Arc flash warning",
			"An electrical panel with its arc flash hazard, figures filled in by hand (NFPA 70E, 130.5(H))", "circuits",
			"105x148 polypropylene", office, 0, together([]design.Element{
				box(30, 30, 990, 230, 0, filled("orange")), symbol(60, 55, 180, "W001"),
				words(260, 45, 740, 200, 60, "WARNING", bold), symbol(50, 290, 240, "W042"),
				words(320, 290, 680, 130, 30, "Arc flash and shock hazard", bold, wrapped),
				words(320, 425, 680, 105, 16, "Wear the protective equipment below.", wrapped)},
				blank(60, 560, 440, "nominal voltage"), blank(550, 560, 440, "arc flash boundary"),
				blank(60, 700, 440, "incident energy"), blank(550, 700, 440, "at working distance"),
				blank(60, 840, 930, "protective equipment"), blank(60, 980, 440, "assessed on"),
				blank(550, 980, 440, "by"),
				[]design.Element{words(60, 1150, 930, 90, 24, "{panel}", bold),
					words(60, 1250, 930, 70, 14, "{leads to}", wrapped)})...),
		ready("electrical-panel", "Electrical panel", "A panel with its name, what feeds it, and a warning", "circuits",
			"102x51", label, 0,
			box(20, 20, 250, 470, 0, filled("black")), words(30, 150, 230, 210, 60, "{panel}", bold, centred, bare),
			words(290, 30, 700, 100, 22, "Electrical panel", bold),
			words(290, 140, 700, 60, 12, "{circuit}: {leads to}", wrapped),
			line(290, 330, 700, 4), words(290, 345, 700, 120, 12, "Keep 1 m free in front. Open only by electricians.",
				wrapped)),
		ready("rack-sequence", "Levels of a rack upright",
			"A post with its places by level, each with an arrow and a code", "bins", "102x152 transfer", label, 0,
			words(40, 30, 940, 160, 54, "{bin}", bold, centred), line(40, 200, 940, 8), symbol(60, 240, 300, "AR3"),
			words(390, 240, 580, 130, 30, "this level", bold), words(390, 380, 580, 90, 16, "{contents}", wrapped,
				optional),
			code(40, 560, 940, 330, "code128", 500, "{code}", func(e *design.Element) { e.Code.Points = 14 }),
			line(40, 930, 940, 8), words(40, 960, 940, 80, 16, "Lot {lot}", centred),
			code(360, 1080, 300, 300, "qr", 1000, "{code}", mute)),
	}
}
