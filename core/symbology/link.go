package symbology

import (
	"strings"

	"oddspool/core/decode"
	"oddspool/core/gs1"
)

// GS1LinkQR is QR Code with GS1 Digital Link.
const GS1LinkQR ID = "gs1-link-qr"

var linkQRKind = Kind{
	ID: GS1LinkQR, Name: "QR Code with GS1 Digital Link",
	Standard: "GS1 Digital Link Standard: URI Syntax", Is2D: true, Reversed: true, Identifier: "]Q1",
	Holds:   "GS1 application identifiers with their values, as a web address",
	Example: "(01)09521234543213(10)26K104",
	Most:    "as QR Code",
	Readers: cameras,
	Uses:    "trade items that tills scan and people look up",
	Quiet:   4, Least: 396, GS1: true, Link: true,
	Sizes:   linkSizes,
	Options: []Option{levels("L", "M", "Q", "H"), versions(numbers(1, 40)...), linkHost},
	Encode:  (*Symbol).linkQR, Modules: decode.QR,
}

// GS1LinkDataMatrix is Data Matrix with GS1 Digital Link.
const GS1LinkDataMatrix ID = "gs1-link-datamatrix"

var linkDataMatrixKind = Kind{
	ID: GS1LinkDataMatrix, Name: "Data Matrix with GS1 Digital Link",
	Standard: "GS1 Digital Link Standard: URI Syntax", Is2D: true, Reversed: true, Identifier: "]d1",
	Holds:   "GS1 application identifiers with their values, as a web address",
	Example: "(01)09521234543213(10)26K104",
	Most:    "as Data Matrix",
	Readers: cameras,
	Uses:    "trade items that tills scan, where there is little room",
	Quiet:   1, Least: 396, GS1: true, Link: true,
	Sizes:   linkSizes,
	Options: []Option{dmSizeOption, dmShapeOption, linkHost},
	Encode:  (*Symbol).linkDataMatrix, Modules: decode.DataMatrix,
}

// link returns the shortest address that says element strings, and what a person reads beside it. A typed
// link keeps its own host, path and further parameters, unless another host is asked for.
func (s *Symbol) link(name, text, host string) (address, readable string, err error) {
	var link gs1.Link
	if strings.HasPrefix(text, "(") {
		var elements []gs1.Element
		if elements, err = gs1.Parse(text); err == nil {
			if host == "" {
				host = gs1.DefaultHost
			}
			link, err = gs1.NewLink(host, elements)
		}
	} else if link, err = gs1.ParseLink(text); err == nil && host != "" {
		others, fragment := link.Others, link.Fragment
		link, err = gs1.NewLink(host, link.Elements)
		link.Others, link.Fragment = others, fragment
	}
	if err == nil {
		address, err = link.Address(true)
	}
	if err != nil {
		return "", "", fromGS1(err, 0)
	}
	s.Elements = append(s.Elements, link.Elements...)
	return address, gs1.Text(link.Elements), nil
}

func (s *Symbol) linkQR(text string, o Options) error {
	address, readable, err := s.link("QR Code with GS1 Digital Link", text, o.Host)
	if err != nil {
		return err
	}
	return s.qrSymbol("QR Code with GS1 Digital Link", address, readable, false, o)
}

func (s *Symbol) linkDataMatrix(text string, o Options) error {
	address, readable, err := s.link("Data Matrix with GS1 Digital Link", text, o.Host)
	if err != nil {
		return err
	}
	err = s.dataMatrix(address, o)
	s.Text = readable
	return err
}
