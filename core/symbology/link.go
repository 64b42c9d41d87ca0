package symbology

import (
	"strings"

	"oddspool/core/gs1"
)

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
		return "", "", fromGS1(name, err, 0)
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
