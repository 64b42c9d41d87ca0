// Package catalogue has the stocks that Brinewick Kelp Works keeps: made up, but in sizes and makes
// that the trade sells. It is what a new stockroom starts with.
package catalogue

import (
	"fmt"

	"oddspool/core/measure"
	"oddspool/core/stock"
)

const mm = measure.Millimetre

var black = []stock.Ink{stock.Black}

// All returns every stock, each with a number of its own, ordered by kind.
func All() []stock.Stock {
	var all []stock.Stock
	for _, made := range [][]stock.Stock{dieCut(), lanes(), rounds(), marked(), tapes(), sleeves(), wraps(), flags(),
		plates(), sheets(), chipped(), highShrink()} {
		for _, s := range made {
			s.Number = fmt.Sprintf("S-%03d", 76+len(all))
			all = append(all, s)
		}
	}
	return all
}

// size shows a size as stocks are called by it.
func size(w, l measure.Length) string {
	return fmt.Sprintf("%g × %g", w.Millimetres(), l.Millimetres())
}

func web(w, l measure.Length, material, purpose string) stock.Stock {
	return stock.Stock{Name: size(w, l) + " " + short(material), Kind: stock.DieCut, Material: material,
		Purpose: purpose,
		Shape:   stock.Rounded, CornerRadius: min(2*mm, l/6), Width: w, Length: l, Gap: 3 * mm, EdgeLeft: 2 * mm,
		EdgeRight: 2 * mm,
		Roll:      &stock.Roll{Core: 40 * mm, Outside: 127 * mm, Thickness: 160, Winding: stock.FaceOut}}
}

// short is a material without what comes after its comma.
func short(material string) string {
	for i, r := range material {
		if r == ',' {
			return material[:i]
		}
	}
	return material
}

const (
	transfer  = "paper, thermal transfer"
	thermal   = "paper, direct thermal"
	polyester = "polyester, matt white"
	silver    = "polyester, silver"
	outdoor   = "polypropylene, outdoors"
	twoColour = "paper, direct thermal black and red"
)

// chipped are labels with an inlay: a chip and its antenna.
func chipped() []stock.Stock {
	s := web(98*mm, 50*mm, transfer, "crates and totes that are told by radio")
	s.Name += " with chip"
	s.Inlay = &stock.Inlay{X: 4 * mm, Y: 30 * mm, Width: 90 * mm, Height: 16 * mm, ChipX: 49 * mm, ChipY: 38 * mm,
		EPCBits: 128, UserBits: 512}
	return []stock.Stock{s}
}

func dieCut() []stock.Stock {
	var all []stock.Stock
	for _, row := range []struct {
		w, l              measure.Length
		material, purpose string
	}{
		{76 * mm, 38 * mm, transfer, "bins and racks"},
		{76 * mm, 51 * mm, transfer, "bins and racks, three lines"},
		{102 * mm, 51 * mm, thermal, "totes and dispatch"},
		{102 * mm, 76 * mm, thermal, "totes and dispatch"},
		{102 * mm, 102 * mm, thermal, "pallets"},
		{102 * mm, 152 * mm, thermal, "pallets and shipping"},
		{102 * mm, 152 * mm, transfer, "pallets stored for long"},
		{102 * mm, 210 * mm, transfer, "chemicals, large drums"},
		{51 * mm, 25 * mm, transfer, "shelves"},
		{51 * mm, 25 * mm, polyester, "assets and pumps"},
		{57 * mm, 32 * mm, thermal, "shelves"},
		{38 * mm, 19 * mm, polyester, "sensors"},
		{25 * mm, 13 * mm, polyester, "small parts and boards"},
		{45 * mm, 20 * mm, silver, "type plates, stuck on"},
		{70 * mm, 30 * mm, silver, "type plates, stuck on"},
		{74 * mm, 105 * mm, outdoor, "chemicals, up to 3 l"},
		{105 * mm, 148 * mm, outdoor, "chemicals, up to 50 l"},
		{148 * mm, 210 * mm, outdoor, "chemicals, over 50 l"},
		{100 * mm, 50 * mm, outdoor, "tanks and drying racks outdoors"},
		{89 * mm, 36 * mm, thermal, "addresses"},
		{60 * mm, 40 * mm, twoColour, "warnings on totes"},
		{100 * mm, 70 * mm, twoColour, "warnings on pallets"},
	} {
		s := web(row.w, row.l, row.material, row.purpose)
		switch row.material {
		case thermal:
			s.Reacts = black
		case twoColour:
			s.Reacts = []stock.Ink{stock.Black, stock.Red}
		case silver:
			s.Colour = "#C9CCD1"
		}
		all = append(all, s)
	}
	return all
}

func lanes() []stock.Stock {
	var all []stock.Stock
	for _, row := range []struct {
		w, l     measure.Length
		lanes    int
		material string
	}{
		{50 * mm, 25 * mm, 2, polyester}, {32 * mm, 25 * mm, 3, transfer}, {22 * mm, 12 * mm, 4, polyester},
		{48 * mm, 38 * mm, 2, thermal},
	} {
		s := web(row.w, row.l, row.material, "small labels in quantity")
		s.Name = fmt.Sprintf("%s, %d lanes", size(row.w, row.l), row.lanes)
		s.Lanes, s.LaneGap, s.EdgeLeft, s.EdgeRight = row.lanes, 3*mm, 1500, 1500
		if row.material == thermal {
			s.Reacts = black
		}
		all = append(all, s)
	}
	return all
}

func rounds() []stock.Stock {
	var all []stock.Stock
	for _, d := range []measure.Length{20 * mm, 30 * mm, 40 * mm, 60 * mm} {
		s := web(d, d, polyester, "inspection marks and lids")
		s.Name, s.Shape, s.CornerRadius = fmt.Sprintf("Ø %g vinyl", d.Millimetres()), stock.Circle, 0
		all = append(all, s)
	}
	oval := web(60*mm, 40*mm, outdoor, "brine bottles")
	oval.Name, oval.Shape, oval.CornerRadius = "60 × 40 oval", stock.Ellipse, 0
	return append(all, oval)
}

func marked() []stock.Stock {
	var all []stock.Stock
	for _, row := range []struct {
		w, l     measure.Length
		tracking stock.Tracking
		purpose  string
	}{
		{51 * mm, 25 * mm, stock.Mark, "crate tags"}, {80 * mm, 120 * mm, stock.Mark, "crate tags to hang"},
		{54 * mm, 86 * mm, stock.Notch, "tags with a hole to hang"}, {40 * mm, 70 * mm, stock.Notch, "net tags to tie"},
	} {
		s := web(row.w, row.l, "tag board, direct thermal", row.purpose)
		s.Name = fmt.Sprintf("%s tag, %s", size(row.w, row.l), row.tracking)
		s.Shape, s.CornerRadius, s.EdgeLeft, s.EdgeRight, s.Gap, s.Tracking, s.Reacts, s.Perforated = stock.Rectangle,
			0, 0, 0, 0, row.tracking, black, true
		if row.tracking == stock.Mark {
			s.Mark = &stock.BlackMark{Offset: 0, Height: 4 * mm}
		}
		all = append(all, s)
	}
	return all
}

func tapes() []stock.Stock {
	var all []stock.Stock
	add := func(w measure.Length, colour, name, purpose string, byContent bool) {
		all = append(all, stock.Stock{Name: fmt.Sprintf("%g mm tape, %s", w.Millimetres(), name), Kind: stock.Tape,
			Material: "vinyl tape, " + name, Purpose: purpose,
			Colour: colour, Shape: stock.Rectangle, Width: w, Length: max(2*w, 40*mm), Keep: min(w/12, mm),
			Roll: &stock.Roll{Core: 25 * mm, Outside: 74 * mm, Thickness: 150},
			Tape: &stock.TapeCut{ByContent: byContent, Margin: 2 * mm, Least: 10 * mm, Most: 600 * mm, Waste: 12 * mm}})
	}
	for _, w := range []measure.Length{6 * mm, 9 * mm, 12 * mm, 18 * mm, 24 * mm, 36 * mm} {
		add(w, "#FFFFFF", "white", "cables, drawers and files", true)
	}
	add(12*mm, "#F7C600", "yellow", "notices", true)
	add(24*mm, "#F7C600", "yellow", "notices", true)
	add(12*mm, "#C9CCD1", "silver", "devices", true)
	for _, row := range [][2]string{{"#FFFFFF", "white"}, {"#F7C600", "yellow"}, {"#D0312D", "red"},
		{"#1F7A4D", "green"}, {"#1D5FA8", "blue"}} {
		add(101*mm, row[0], row[1], "signs and pipe markers", false)
	}
	add(57*mm, "#F7C600", "yellow", "pipe markers", false)
	return all
}

// A tubing is a size of shrink tubing.
type tubing struct {
	supplied, wall measure.Length
	colour, name   string
	ratio          measure.Length // of supplied to recovered diameter
}

func sleeves() []stock.Stock {
	return ofTubing([]tubing{
		{2400, 500, "#FFFFFF", "white", 2}, {3200, 500, "#FFFFFF", "white", 2}, {4800, 500, "#FFFFFF", "white", 2},
		{6400, 640, "#FFFFFF", "white", 2},
		{9500, 640, "#FFFFFF", "white", 2}, {12700, 640, "#FFFFFF", "white", 2}, {19000, 760, "#FFFFFF", "white", 2},
		{25400, 890, "#FFFFFF", "white", 2},
		{6400, 640, "#F7C600", "yellow", 2}, {12700, 640, "#F7C600", "yellow", 2},
	})
}

// highShrink are sleeves that shrink to a third and a quarter: they came later, and stand behind all others so that
// these keep their numbers.
func highShrink() []stock.Stock {
	return ofTubing([]tubing{
		{3000, 550, "#FFFFFF", "white", 3}, {6000, 650, "#FFFFFF", "white", 3}, {9000, 750, "#FFFFFF", "white", 3},
		{12000, 750, "#FFFFFF", "white", 3}, {18000, 850, "#FFFFFF", "white", 3}, {24000, 1000, "#FFFFFF", "white", 3},
		{6000, 650, "#F7C600", "yellow", 3}, {12000, 750, "#F7C600", "yellow", 3},
		{4000, 1000, "#FFFFFF", "white", 4}, {8000, 1000, "#FFFFFF", "white", 4}, {12000, 1200, "#FFFFFF", "white", 4},
		{16000, 1400, "#FFFFFF", "white", 4}, {24000, 1800, "#FFFFFF", "white", 4},
	})
}

func ofTubing(rows []tubing) []stock.Stock {
	var all []stock.Stock
	for _, row := range rows {
		tube := &stock.Tubing{Supplied: row.supplied, Recovered: row.supplied / row.ratio, Wall: row.wall, Ladder: true,
			Faces: 2}
		name := fmt.Sprintf("Sleeve %g, %s", row.supplied.Millimetres(), row.name)
		if row.ratio > 2 {
			name += fmt.Sprintf(", %d:1", row.ratio)
		}
		all = append(all, stock.Stock{Name: name, Kind: stock.Sleeve,
			Material: fmt.Sprintf("polyolefin shrink tubing %d:1", row.ratio), Purpose: "cables and hoses",
			Colour: row.colour, Shape: stock.Rectangle,
			Width: tube.FlatWidth() / 1000 * 1000, Length: 50 * mm, Gap: 6 * mm, Sleeve: tube, Keep: mm / 2,
			PerRoll: 250})
	}
	return all
}

func wraps() []stock.Stock {
	var all []stock.Stock
	for _, row := range [][3]measure.Length{ // width, print zone, clear tail
		{25 * mm, 9500, 28500}, {25 * mm, 12700, 25400}, {25 * mm, 19 * mm, 44500}, {38 * mm, 25400, 76 * mm},
		{51 * mm, 25400, 127 * mm}, {13 * mm, 6400, 19 * mm},
	} {
		s := stock.Stock{Name: fmt.Sprintf("Wrap %g × %g", row[0].Millimetres(), (row[1] + row[2]).Millimetres()),
			Kind:     stock.Wrap,
			Material: "vinyl, self-laminating", Purpose: "cables, before and after they are connected",
			Shape: stock.Rectangle,
			Width: row[0], Length: row[1], Gap: row[2] + 3*mm, EdgeLeft: 2 * mm, EdgeRight: 2 * mm,
			Wrap: &stock.Laminate{Tail: row[2]}, PerRoll: 1000}
		all = append(all, s)
	}
	return all
}

func flags() []stock.Stock {
	var all []stock.Stock
	for _, row := range [][3]measure.Length{ // width, face, part round the cable
		{15 * mm, 25 * mm, 12 * mm}, {20 * mm, 30 * mm, 20 * mm}, {25 * mm, 35 * mm, 30 * mm},
		{12 * mm, 20 * mm, 9 * mm},
	} {
		s := web(row[0], 2*row[1]+row[2], "polypropylene, white", "cables, read from both sides")
		s.Name = fmt.Sprintf("Flag %g × %g", row[0].Millimetres(), row[1].Millimetres())
		s.Kind, s.Shape, s.CornerRadius, s.Flag = stock.Flag, stock.Rectangle, 0, &stock.TwoFaces{Round: row[2]}
		all = append(all, s)
	}
	return all
}

func plates() []stock.Stock {
	var all []stock.Stock
	for _, row := range []struct {
		w, l       measure.Length
		material   string
		face, core string
		holes      int
		diameter   measure.Length
	}{
		{80 * mm, 40 * mm, "laminate, black on white", "#22262B", "#FFFFFF", 2, 4 * mm},
		{100 * mm, 50 * mm, "laminate, black on white", "#22262B", "#FFFFFF", 4, 4 * mm},
		{60 * mm, 20 * mm, "laminate, white on black", "#FFFFFF", "#22262B", 2, 3 * mm},
		{60 * mm, 20 * mm, "aluminium, anodised", "#C9CCD1", "#FFFFFF", 2, 3 * mm},
		{100 * mm, 100 * mm, "laminate, yellow on black", "#F7C600", "#22262B", 4, 5 * mm},
		{50 * mm, 30 * mm, "stainless steel", "#B9BDC3", "#55585C", 1, 4 * mm},
		{40 * mm, 15 * mm, "laminate, red on white", "#D0312D", "#FFFFFF", 0, 0},
		{150 * mm, 75 * mm, "laminate, blue on white", "#1D5FA8", "#FFFFFF", 4, 5 * mm},
	} {
		inset := row.diameter/2 + 3*mm
		places := []stock.Hole{{X: inset, Y: row.l / 2}, {X: row.w - inset, Y: row.l / 2}}
		switch row.holes {
		case 4:
			places = []stock.Hole{{X: inset, Y: inset}, {X: row.w - inset, Y: inset}, {X: inset, Y: row.l - inset},
				{X: row.w - inset, Y: row.l - inset}}
		case 1:
			places = places[:1]
		case 0:
			places = nil
		}
		for i := range places {
			places[i].Diameter = row.diameter
		}
		all = append(all, stock.Stock{Name: fmt.Sprintf("Plate %s, %d holes", size(row.w, row.l), row.holes),
			Kind: stock.Plate, Material: row.material,
			Purpose: "pumps, valves and panels", Colour: row.face, Shape: stock.Rounded, CornerRadius: 2 * mm,
			Width: row.w, Length: row.l, Keep: mm,
			Plate: &stock.Rigid{Holes: places, Clearance: mm, Core: row.core}})
	}
	return all
}

func sheets() []stock.Stock {
	var all []stock.Stock
	for _, row := range []struct {
		w, l           measure.Length
		columns, rows  int
		left, top      measure.Length
		pitchX, pitchY measure.Length
	}{
		{70 * mm, 37 * mm, 3, 8, 0, 500, 70 * mm, 37 * mm},
		{63500, 38100, 3, 7, 7200, 15150, 66 * mm, 38100},
		{99100, 67700, 2, 4, 4650, 13100, 101600, 67700},
		{38100, 21200, 5, 13, 4650, 10700, 40600, 21200},
		{105 * mm, 148 * mm, 2, 2, 0, 500, 105 * mm, 148 * mm},
		{210 * mm, 297 * mm, 1, 1, 0, 0, 0, 0},
	} {
		all = append(all, stock.Stock{Name: fmt.Sprintf("Sheet of %d, %s", row.columns*row.rows, size(row.w, row.l)),
			Kind:     stock.Sheet,
			Material: "paper, for office printers", Purpose: "files, shelves and addresses", Shape: stock.Rectangle,
			Width: row.w, Length: row.l,
			Sheet: &stock.Page{Width: 210 * mm, Height: 297 * mm, Left: row.left, Top: row.top, Columns: row.columns,
				Rows: row.rows, PitchX: row.pitchX, PitchY: row.pitchY}})
	}
	return all
}
