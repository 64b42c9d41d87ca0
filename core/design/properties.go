package design

import (
	"encoding/json"
	"fmt"
	"strings"

	"oddspool/core/measure"
	"oddspool/core/symbology"
)

// A property is a member of an element as people call it.
type property struct {
	title string
	none  string           // what it is called where it is not there
	text  func(any) string // its value; nil: it is not told, but that it is another
}

func lengthText(v any) string {
	n, _ := v.(float64) // JSON's only number
	return measure.Length(n).String()
}
func unit(of string) func(any) string { return func(v any) string { return fmt.Sprint(v) + of } }
func yes(any) string                  { return "yes" }
func quoted(v any) string             { return "“" + fmt.Sprint(v) + "”" }
func symbologyText(v any) string      { return symbology.Name(symbology.ID(fmt.Sprint(v))) }
func schemeText(v any) string         { return strings.ToUpper(fmt.Sprint(v)) }
func wordingText(v any) string        { return "“" + Wording(as[[]Piece](v)) + "”" }

// as reads a value of a member anew as what it is in an element.
func as[T any](v any) (is T) {
	data, err := json.Marshal(v)
	if err == nil {
		err = json.Unmarshal(data, &is)
	}
	if err != nil {
		panic(err) // it was written from such a value
	}
	return is
}

func conditionText(v any) string {
	c := as[Condition](v)
	text := fmt.Sprintf("those whose %s is %s", c.Field, c.Is)
	if len(c.Values) > 0 {
		text += " “" + strings.Join(c.Values, "”, “") + "”"
	}
	return text
}

func cropText(v any) string {
	c := as[Crop](v)
	return fmt.Sprintf("%g %% left, %g %% top, %g %% right, %g %% bottom", c.Left, c.Top, c.Right, c.Bottom)
}

func listText(v any) string { return strings.Join(as[[]string](v), ", ") }

// properties are all members of an element but its id, those of its looks with a dot. Passwords are never told.
var properties = map[string]property{
	"kind": {"kind", "none", unit("")},
	"x":    {"from left", "0 mm", lengthText}, "y": {"from top", "0 mm", lengthText},
	"width": {"width", "none", lengthText}, "height": {"height", "none", lengthText},
	"turn": {"turn", "0°", unit("°")}, "angle": {"angle", "0°", unit("°")}, "locked": {"locked", "no", yes},
	"hidden": {"kept from print", "no", yes},
	"group":  {"group", "none", quoted}, "when": {"on which labels", "all", conditionText},
	"ink": {"ink", "black", unit("")}, "says": {"says", "nothing", wordingText},
	"ifEmpty": {"if empty", "say so", unit("")}, "weight": {"line weight", "none", lengthText},
	"around": {"frame round", "none", listText}, "distance": {"distance to what it frames", "none", lengthText},

	"text.typeface": {"typeface", "the usual", unit("")}, "text.bold": {"bold", "no", yes},
	"text.italic": {"italic", "no", yes}, "text.points": {"size of type", "none", unit(" pt")},
	"text.shrinkTo": {"smallest type", "none", unit(" pt")}, "text.align": {"alignment", "left", unit("")},
	"text.stand": {"stands at", "top", unit("")}, "text.wrap": {"wraps", "no", yes},
	"text.spacing": {"line spacing", "100 %", unit(" %")}, "text.tracking": {"room between letters", "0 %", unit(" %")},
	"text.capitals": {"height of capitals", "after the size of type", lengthText},
	"text.stretch":  {"stretched to its box", "no", yes}, "text.readFrom": {"read from", "close by", unit(" m")},

	"code.symbology": {"symbology", "none", symbologyText}, "code.module": {"module", "none", lengthText},
	"code.fit":   {"module in dots", "nearest", unit("")},
	"code.align": {"place in its box", "left", unit("")}, "code.readable": {"readable text", "as usual", unit("")},
	"code.typeface": {"typeface of the readable text", "the usual", unit("")},
	"code.points":   {"size of the readable text", "the usual", unit(" pt")},
	"code.check":    {"check character", "no", yes}, "code.ratio": {"wide to narrow", "the usual", unit("")},
	"code.level": {"error correction", "the usual", unit("")}, "code.version": {"version", "the smallest", unit("")},
	"code.form": {"form", "the smaller", unit("")}, "code.letters": {"western letters", "told where there is room",
		unit("")},
	"code.shape": {"shape", "the usual", unit("")}, "code.size": {"size in modules", "the smallest", unit("")},
	"code.bytes":      {"characters as bytes", "no", yes},
	"code.checkRule":  {"rule of the check characters", "the usual", unit("")},
	"code.checkDigit": {"check digit of GTINs", "by their length", unit("")},
	"code.columns":    {"columns", "as many as suit", unit("")}, "code.host": {"host of the link", "the usual",
		unit("")},
	"code.purpose": {"scanned where", "not said", unit("")}, "code.spread": {"readable text spread", "no", yes},
	"code.addOn":  {"add-on", "none", wordingText},
	"code.header": {"line above", "none", wordingText}, "code.footer": {"line below", "none", wordingText},
	"code.narrower": {"bars narrower by", "0 dots", unit(" dots")},

	"picture.hash": {"picture", "", nil}, "picture.way": {"shades", "black or white", unit("")},
	"picture.lighter": {"lighter", "0 %", unit(" %")},
	"picture.stretch": {"stretched to its box", "no", yes}, "picture.crop": {"cut off", "nothing", cropText},

	"shape.corner": {"corners", "square", lengthText}, "shape.fill": {"filled with", "nothing", unit("")},
	"shape.noOutline": {"without outline", "no", yes}, "shape.slope": {"slope", "none", unit("")},
	"shape.dash": {"dashes", "none", unit("")}, "shape.arrow": {"arrow at", "no end", unit("")},
	"shape.sides": {"sides", "round", unit("")}, "shape.tint": {"tint", "full", unit(" %")},

	"symbol.id": {"symbol", "none", unit("")}, "symbol.noFrame": {"frame printed already", "no", yes},

	"tag.scheme": {"form in the chip", "hexadecimal digits", schemeText}, "tag.prefix": {"digits of the company prefix",
		"none", unit("")}, "tag.filter": {"filter value", "0", unit("")},
	"tag.afi": {"application family", "none", unit("")}, "tag.user": {"user memory", "nothing", wordingText},
	"tag.lock":   {"locked", "no", unit("")},
	"tag.access": {"access password", "", nil}, "tag.kill": {"kill password", "", nil},
}
