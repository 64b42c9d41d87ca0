package standin

import (
	"crypto/sha1"
	"encoding/binary"
	"fmt"
	"time"

	"oddspool/core/stock"
	"oddspool/internal/press/ipp"
)

// everywhere are the attributes that PWG 5100.12 (IPP 2.0) and PWG 5100.14 (IPP Everywhere) require beyond those that
// labels are printed by. What a label printer has no choice of has its one value. The caller holds the mutex.
func (p *Printer) everywhere(host string) []ipp.Attribute {
	number := func(name string, tag ipp.Tag, n ...int) ipp.Attribute {
		a := ipp.Attribute{Name: name}
		for _, v := range n {
			a.Values = append(a.Values, ipp.Int(tag, v))
		}
		return a
	}
	uri := func(name, value string) ipp.Attribute { return ipp.Attr(name, ipp.Str(ipp.URI, value)) }
	text := func(name, value string) ipp.Attribute { return ipp.Attr(name, ipp.Str(ipp.Text, value)) }
	id := sha1.Sum([]byte(p.config.Printer.Name + host))
	id[6], id[8] = id[6]&0x0f|0x50, id[8]&0x3f|0x80 // RFC 9562, 5.5
	const normal, portrait, noFinishing = 4, 3, 3
	return []ipp.Attribute{
		number("finishings-default", ipp.Enum, noFinishing),
		number("orientation-requested-default", ipp.Enum, portrait),
		number("orientation-requested-supported", ipp.Enum, portrait),
		ipp.Keywords("output-bin-default", "face-up"),
		ipp.Keywords("output-bin-supported", "face-up"),
		number("print-quality-default", ipp.Enum, normal),
		number("print-quality-supported", ipp.Enum, normal),
		ipp.Keywords("sides-default", "one-sided"),
		ipp.Keywords("sides-supported", "one-sided"),
		ipp.Attr("media-info-supported", ipp.Str(ipp.Name, p.stock.Name)),
		ipp.Keywords("media-key-supported", p.stock.Number),
		ipp.Keywords("media-type-supported", "labels"),
		ipp.Keywords("media-source-supported", "main-roll"),
		number("color-supported", ipp.Boolean, 0),
		number("pages-per-minute", ipp.Integer, 60),
		ipp.Keywords("identify-actions-default", "display"),
		ipp.Keywords("identify-actions-supported", "display"),
		ipp.Keywords("ipp-features-supported", "ipp-everywhere"),
		number("job-ids-supported", ipp.Boolean, 1),
		number("preferred-attributes-supported", ipp.Boolean, 0),
		number("media-bottom-margin-supported", ipp.Integer, 0),
		number("media-left-margin-supported", ipp.Integer, 0),
		number("media-right-margin-supported", ipp.Integer, 0),
		number("media-top-margin-supported", ipp.Integer, 0),
		ipp.Attr("media-col-database", p.media()),
		number("multiple-operation-time-out", ipp.Integer, 300),
		ipp.Keywords("multiple-operation-time-out-action", "abort-job"),
		ipp.Keywords("overrides-supported", "document-number", "pages"),
		ipp.Keywords("print-color-mode-default", "monochrome"),
		ipp.Keywords("print-color-mode-supported", "monochrome"),
		ipp.Keywords("print-content-optimize-default", "auto"),
		ipp.Keywords("print-content-optimize-supported", "auto"),
		ipp.Keywords("print-rendering-intent-default", "auto"),
		ipp.Keywords("print-rendering-intent-supported", "auto"),
		ipp.Attr("printer-config-change-date-time", dateTime(p.started)),
		number("printer-config-change-time", ipp.Integer, 1),
		ipp.Attr("printer-state-change-date-time", dateTime(p.started)),
		number("printer-state-change-time", ipp.Integer, 1),
		ipp.Attr("printer-current-time", dateTime(time.Now())),
		text("printer-device-id", "MFG:Odd Spool;MDL:Stand-in;CMD:PWGRaster;"),
		ipp.Attr("printer-geo-location", ipp.Value{Tag: ipp.UnknownValue}),
		ipp.Keywords("printer-get-attributes-supported", "document-format"),
		uri("printer-icons", "http://"+host+"/icon.png"),
		text("printer-organization", "Brinewick Kelp Works"),
		text("printer-organizational-unit", "Labels"),
		p.supplyDescription(),
		uri("printer-supply-info-uri", "http://"+host+"/"),
		uri("printer-uuid", fmt.Sprintf("urn:uuid:%x-%x-%x-%x-%x", id[0:4], id[4:6], id[6:8], id[8:10], id[10:16])),
		ipp.Keywords("pwg-raster-document-sheet-back", "normal"),
		ipp.Keywords("which-jobs-supported", "completed", "not-completed", "all"),
	}
}

// supplyDescription names what printer-supply tells of, one for one.
func (p *Printer) supplyDescription() ipp.Attribute {
	a := ipp.Attribute{Name: "printer-supply-description"}
	for _, ink := range stock.Inks(p.stock, p.config.Printer) {
		a.Values = append(a.Values, ipp.Str(ipp.Text, fmt.Sprintf("Ribbon, %s", ink)))
	}
	if a.Values == nil {
		a.Values = []ipp.Value{ipp.Str(ipp.Text, "None: heat brings the print out")}
	}
	return a
}

// dateTime writes a moment as RFC 2579 has it.
func dateTime(t time.Time) ipp.Value {
	t = t.UTC()
	text := binary.BigEndian.AppendUint16(nil, uint16(t.Year()))
	text = append(text, byte(t.Month()), byte(t.Day()), byte(t.Hour()), byte(t.Minute()), byte(t.Second()),
		byte(t.Nanosecond()/1e8), '+', 0, 0)
	return ipp.Value{Tag: ipp.DateTime, Text: string(text)}
}
