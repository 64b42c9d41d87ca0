package epc

import (
	"cmp"
	"encoding/hex"
	"fmt"
	"net/url"
	"strings"

	"oddspool/core/check"
)

// All is an identifier in every form.
type All struct {
	Scheme        Scheme `json:"scheme"`
	Hex           string `json:"hex"`
	Bits          int    `json:"bits"`
	PC            string `json:"protocolControl"` // hexadecimal
	Filter        int    `json:"filter"`
	Partition     *int   `json:"partition,omitempty"` // nil: the scheme has none
	Company       string `json:"companyPrefix,omitempty"`
	Reference     string `json:"reference"`
	Pieces        string `json:"pieces,omitempty"` // which, of how many: two digits each
	Serial        string `json:"serial,omitempty"`
	ElementString string `json:"elementString,omitempty"`
	PureIdentity  string `json:"pureIdentity,omitempty"`
	Tag           string `json:"tagUri,omitempty"`
	DigitalLink   string `json:"digitalLink,omitempty"`
	More          bool   `json:"dataBehind,omitempty"` // of further application identifiers, left out here
}

// Forms returns the identifier in every form. Its error is that of Encode.
func (e *EPC) Forms() (*All, error) {
	memory, err := e.Encode()
	if err != nil {
		return nil, err
	}
	a := &All{Scheme: e.Scheme, Hex: strings.ToUpper(hex.EncodeToString(memory)), Bits: e.Bits(), PC: fmt.Sprintf("%04X", ProtocolControl(len(memory)/2, false, nil)),
		Filter: e.Filter, Company: e.Company, Reference: e.Reference, Pieces: e.Pieces, Serial: e.Serial, PureIdentity: e.PureIdentity(), Tag: e.TagURI(), More: e.More}
	if e.Company != "" && e.Scheme != ADIVar {
		a.Partition = new(12 - len(e.Company))
	}
	a.ElementString, a.DigitalLink = e.ElementString(), e.DigitalLink()
	return a, nil
}

// escaped writes characters that URNs reserve as %XX (TDS 1.13, annex A, table A-1).
func escaped(text string) string {
	return strings.NewReplacer("%", "%25", `"`, "%22", "&", "%26", "/", "%2F", "<", "%3C", ">", "%3E", "?", "%3F", "#", "%23").Replace(text)
}

func (e *EPC) tail() string {
	f, err := formOf(e.Scheme)
	if err != nil {
		return ""
	}
	parts := []string{e.Company, escaped(e.Reference)}
	if len(e.Pieces) == 2*pieceDigits {
		parts = append(parts, e.Pieces[:pieceDigits], e.Pieces[pieceDigits:])
	}
	if f.serial > 0 || f.chars > 0 || e.Scheme == ADIVar {
		parts = append(parts, escaped(e.Serial))
	}
	return strings.Join(parts, ".")
}

// PureIdentity returns the pure identity URI (TDS 1.13, 6.3); empty for schemes with +, which do not tell how long the company prefix is.
func (e *EPC) PureIdentity() string {
	f, err := formOf(e.Scheme)
	if err != nil || e.Scheme.Plus() {
		return ""
	}
	return "urn:epc:id:" + f.name + ":" + e.tail()
}

// TagURI returns the tag URI, which says scheme and filter too (TDS 1.13, 12); empty for schemes with +.
func (e *EPC) TagURI() string {
	if e.Scheme.Plus() {
		return ""
	}
	return fmt.Sprintf("urn:epc:tag:%s:%d.%s", e.Scheme, e.Filter, e.tail())
}

// ElementString returns GS1's element string with its identifiers in brackets; empty for ADI, which is none of GS1's.
func (e *EPC) ElementString() string {
	pairs := e.Elements()
	var text strings.Builder
	for _, p := range pairs {
		text.WriteString("(" + p[0] + ")" + p[1])
	}
	return text.String()
}

// DigitalLink returns the identifier as a GS1 Digital Link (GS1 Digital Link URI syntax 1.3); empty for ADI.
func (e *EPC) DigitalLink() string {
	pairs := e.Elements()
	if pairs == nil {
		return ""
	}
	link := "https://id.gs1.org"
	for _, p := range pairs {
		link += "/" + p[0] + "/" + url.PathEscape(p[1])
	}
	return link
}

// Elements returns application identifiers and values in the order of a key and its qualifier; nil: it has none.
func (e *EPC) Elements() [][2]string {
	f, err := formOf(e.Scheme)
	if err != nil {
		return nil
	}
	with := func(body string) string { return body + string(check.GS1(body)) }
	switch e.Scheme {
	case SSCCPlus, GSRNPlus, GSRNPPlus, SGTINPlus, SGLNPlus, GDTIPlus:
		if e.Reference == "" {
			return nil
		}
		switch e.Scheme {
		case SGTINPlus:
			return [][2]string{{"01", e.Reference}, {"21", e.Serial}}
		case GDTIPlus:
			return [][2]string{{"253", e.Reference + e.Serial}}
		case SGLNPlus:
			if e.Serial != "0" {
				return [][2]string{{"414", e.Reference}, {"254", e.Serial}}
			}
		}
		return [][2]string{{keys[f.name], e.Reference}}
	case SGTIN96, SGTIN198, ITIP110, ITIP212:
		if e.Reference == "" {
			return nil
		}
		pairs := [][2]string{{keys[f.name], with(e.Reference[:1]+e.Company+e.Reference[1:]) + e.Pieces}}
		if e.Serial != "" {
			pairs = append(pairs, [2]string{"21", e.Serial})
		}
		return pairs
	case SSCC96:
		if e.Reference == "" {
			return nil
		}
		return [][2]string{{"00", with(e.Reference[:1] + e.Company + e.Reference[1:])}}
	case SGLN96, SGLN195:
		pairs := [][2]string{{"414", with(e.Company + e.Reference)}}
		if e.Serial != "0" && e.Serial != "" {
			pairs = append(pairs, [2]string{"254", e.Serial})
		}
		return pairs
	case GRAI96, GRAI170:
		return [][2]string{{"8003", "0" + with(e.Company+e.Reference) + e.Serial}}
	case GIAI96, GIAI202:
		return [][2]string{{"8004", e.Company + e.Reference}}
	case GSRN96:
		return [][2]string{{"8018", with(e.Company + e.Reference)}}
	case GSRNP96:
		return [][2]string{{"8017", with(e.Company + e.Reference)}}
	case GDTI96, GDTI174:
		return [][2]string{{"253", with(e.Company+e.Reference) + e.Serial}}
	case SGCN96:
		return [][2]string{{"255", with(e.Company+e.Reference) + e.Serial}}
	case CPI96, CPIVar:
		return [][2]string{{"8010", e.Company + e.Reference}, {"8011", e.Serial}}
	}
	return nil
}

// keys are the identifiers whose values become the schemes.
var keys = map[string]string{"sgtin": "01", "sscc": "00", "sgln": "414", "grai": "8003", "giai": "8004", "gsrn": "8018", "gsrnp": "8017", "gdti": "253",
	"sgcn": "255", "itip": "8006", "cpi": "8010"}

// lengths of keys with their check digit, where they have one.
var keyLengths = map[string]int{"01": 14, "00": 18, "414": 13, "8018": 18, "8017": 18}

// FromElements makes an identifier of a scheme from an element string in brackets, a Digital Link, or of ADI from "CAGE.part.serial". prefix is how
// many digits the company prefix has. Its error is an *Error.
func FromElements(scheme Scheme, data string, prefix, filter int) (*EPC, error) {
	f, err := formOf(scheme)
	if err != nil {
		return nil, err
	}
	e := &EPC{Scheme: scheme, Filter: filter}
	if scheme == ADIVar {
		parts := strings.Split(data, ".")
		if len(parts) != 3 {
			return nil, wrong("%q is no identifier of ADI; write it like 35962.PQ7VZ4.M37GXB92.", data)
		}
		e.Company, e.Reference, e.Serial = parts[0], parts[1], parts[2]
		return e, nil
	}
	if (prefix < 6 || prefix > 12) && !scheme.Plus() {
		return nil, wrong("A company prefix of %d digits is none; it has 6 to 12.", prefix)
	}
	values, err := elements(data)
	if err != nil {
		return nil, err
	}
	key := keys[f.name]
	value, there := values[key]
	if !there {
		return nil, wrong("%s is made from (%s), which %q does not have.", strings.ToUpper(string(scheme)), key, data)
	}
	if at := strings.IndexFunc(value, notDigit); at >= 0 && keyLengths[key] > 0 {
		return nil, wrong("(%s) has %q in place %d; it takes digits.", key, value[at], at+1)
	}
	if n := keyLengths[key]; n > 0 {
		if len(value) != n {
			return nil, wrong("(%s) has %d digits, and takes %d.", key, len(value), n)
		}
		if err := checked(key, value); err != nil {
			return nil, err
		}
	}
	take := func(body string) error {
		if len(body) < prefix {
			return wrong("(%s) %q is shorter than a company prefix of %d digits.", key, body, prefix)
		}
		e.Company, e.Reference = body[:prefix], body[prefix:]
		return nil
	}
	if scheme.Plus() {
		e.Reference = value[:min(len(value), f.digits)]
		switch f.name {
		case "sgtin":
			e.Serial = values["21"]
		case "sgln":
			e.Serial = cmp.Or(values["254"], "0")
		case "gdti":
			e.Serial = value[len(e.Reference):]
		}
		return e, nil
	}
	switch f.name {
	case "sgtin", "sscc":
		e.Company, e.Reference = value[1:1+prefix], value[:1]+value[1+prefix:len(value)-1]
		if f.name == "sgtin" {
			e.Serial = values["21"]
		}
	case "sgln":
		err = take(value[:12])
		e.Serial = cmp.Or(values["254"], "0")
	case "gsrn", "gsrnp":
		err = take(value[:17])
	case "grai":
		if len(value) < 14 || value[0] != '0' {
			return nil, wrong("(8003) begins with 0 and thirteen digits; %q does not.", value)
		}
		if err = checked(key, value[1:14]); err == nil {
			err = take(value[1:13])
		}
		e.Serial = value[14:]
	case "itip":
		if len(value) != 18 {
			return nil, wrong("(8006) has eighteen digits: a GTIN, which piece it is, and of how many; %q does not.", value)
		}
		err = checked(key, value[:14])
		e.Company, e.Reference, e.Pieces, e.Serial = value[1:1+prefix], value[:1]+value[1+prefix:13], value[14:], values["21"]
	case "gdti", "sgcn":
		if len(value) < 13 {
			return nil, wrong("(%s) begins with thirteen digits; %q does not.", key, value)
		}
		if err = checked(key, value[:13]); err == nil {
			err = take(value[:12])
		}
		e.Serial = value[13:]
	case "giai":
		err = take(value)
	case "cpi":
		err = take(value)
		e.Serial = values["8011"]
	}
	return e, err
}

func checked(key, value string) error {
	if at := strings.IndexFunc(value, notDigit); at >= 0 {
		return wrong("(%s) has %q in place %d; it takes digits.", key, value[at], at+1)
	}
	if want := check.GS1(value[:len(value)-1]); value[len(value)-1] != want {
		return wrong("The check digit of (%s) %s should be %c.", key, value, want)
	}
	return nil
}

// elements reads "(01)…(21)…" or the path of a Digital Link.
func elements(data string) (map[string]string, error) {
	values := map[string]string{}
	if strings.HasPrefix(data, "http://") || strings.HasPrefix(data, "https://") {
		link, err := url.Parse(data)
		if err != nil {
			return nil, wrong("%q is no link.", data)
		}
		parts := strings.Split(strings.Trim(link.EscapedPath(), "/"), "/")
		for i := len(parts) - 2; i >= 0; i -= 2 {
			value, err := url.PathUnescape(parts[i+1])
			if err != nil {
				return nil, wrong("%q is no link.", data)
			}
			values[parts[i]] = value
		}
		return values, nil
	}
	rest := data
	for rest != "" {
		end := strings.IndexByte(rest, ')')
		if rest[0] != '(' || end < 3 {
			return nil, wrong("%q is no element string; write it like (01)09521234543213(21)417.", data)
		}
		ai := rest[1:end]
		rest = rest[end+1:]
		next := len(rest)
		for at := range rest {
			if rest[at] == '(' && at+3 < len(rest) {
				if close := strings.IndexByte(rest[at:], ')'); close >= 3 && close <= 5 && strings.IndexFunc(rest[at+1:at+close], notDigit) < 0 {
					next = at
					break
				}
			}
		}
		values[ai], rest = rest[:next], rest[next:]
	}
	return values, nil
}

// FromURI reads a pure identity URI or a tag URI. Of a pure identity, scheme says which form it takes on the tag. Its error is an *Error.
func FromURI(uri string, scheme Scheme, filter int) (*EPC, error) {
	unescape := func(text string) string {
		if plain, err := url.PathUnescape(text); err == nil {
			return plain
		}
		return text
	}
	kind, rest, _ := strings.Cut(strings.TrimPrefix(uri, "urn:epc:"), ":")
	name, tail, cut := strings.Cut(rest, ":")
	if !strings.HasPrefix(uri, "urn:epc:") || !cut || kind != "id" && kind != "tag" {
		return nil, wrong("%q is no EPC URI; it begins with urn:epc:id: or urn:epc:tag:.", uri)
	}
	parts := strings.Split(tail, ".")
	e := &EPC{Scheme: scheme, Filter: filter}
	if kind == "tag" {
		e.Scheme = Scheme(name)
		if _, err := fmt.Sscanf(parts[0], "%d", &e.Filter); err != nil {
			return nil, wrong("%q has no filter value.", uri)
		}
		parts = parts[1:]
	}
	f, err := formOf(e.Scheme)
	if err != nil {
		return nil, err
	}
	if e.Scheme.Plus() {
		return nil, wrong("%s is made from an element string or a Digital Link: a URI does not tell its check digit and where the company prefix ends.", strings.ToUpper(string(e.Scheme)))
	}
	if kind == "id" && f.name != name {
		return nil, wrong("%q is no %s.", uri, strings.ToUpper(string(e.Scheme)))
	}
	if len(parts) < 2 {
		return nil, wrong("%q has too few parts.", uri)
	}
	e.Company, e.Reference = parts[0], unescape(parts[1])
	if f.name == "itip" {
		if len(parts) < 5 {
			return nil, wrong("%q has too few parts.", uri)
		}
		if len(parts[2]) != pieceDigits || len(parts[3]) != pieceDigits {
			return nil, wrong("%q does not say which piece of how many it is, in two digits each.", uri)
		}
		e.Pieces, parts = parts[2]+parts[3], parts[2:]
	}
	if len(parts) > 2 {
		e.Serial = unescape(strings.Join(parts[2:], "."))
	}
	return e, nil
}
