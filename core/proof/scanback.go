package proof

import (
	"strings"

	"oddspool/core/compose"
	"oddspool/core/gs1"
	"oddspool/core/symbology"
)

// Codes returns what a reader says of each code on the label of a record, in the order of the design, as ScanKey brings
// it to one form. Codes that cannot be made are left out.
func (c *Checker) Codes(record []string) (keys []string) {
	var label compose.Label
	c.composer.Compose(&label, record)
	for i := range label.Parts {
		part := &label.Parts[i]
		if part.Absent || part.Symbol.Reads == "" {
			continue
		}
		keys = append(keys, ScanKey(part.Symbol.Reads))
		if _, addOn, has := strings.Cut(part.Symbol.Text, " "); has && symbology.Of(part.ID).AddOn {
			keys = append(keys, ScanKey(part.Symbol.Reads)+addOn) // a scanner may be set to read it too
		}
	}
	return keys
}

// ScanKey brings what a hand scanner sends, or somebody types, to one form in which the same code is the same text:
// without the identifier of its symbology (ISO/IEC 15424) and what begins and ends a line, without the separators of
// GS1 data, which many scanners drop, with element strings as data, and with a GTIN-12 in the twelve digits that it has
// as a GTIN-13 (GS1 General Specifications, 7.8 and 3.3.2).
func ScanKey(text string) string {
	const separator = 0x1d
	text = strings.TrimSpace(strings.Trim(text, "\x02\x03\x04\r\n\t"))
	if len(text) > 3 && text[0] == ']' && (text[1]|0x20) >= 'a' && (text[1]|0x20) <= 'z' {
		text = text[3:]
	}
	if strings.HasPrefix(text, "(") {
		if elements, err := gs1.Parse(text); err == nil {
			text = string(gs1.Data(gs1.Order(elements), separator))
		}
	}
	text = strings.ReplaceAll(text, string(rune(separator)), "")
	if len(text) == 13 && text[0] == '0' && strings.Trim(text, "0123456789") == "" {
		text = text[1:]
	}
	return text
}
