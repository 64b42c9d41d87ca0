package epc

import (
	"cmp"
	"encoding/hex"
	"fmt"
	"net/url"
	"strings"

	"oddspool/core/check"
	"oddspool/core/gs1"
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
	Spare         bool   `json:"spareBits,omitempty"`  // are set that the scheme keeps at zero, or behind it
}

// Forms returns the identifier in every form. Its error is that of Encode.
func (e *EPC) Forms() (*All, error) {
	memory, err := e.Encode()
	if err != nil {
		return nil, err
	}
	a := &All{Scheme: e.Scheme, Hex: strings.ToUpper(hex.EncodeToString(memory)), Bits: e.Bits(),
		PC:     fmt.Sprintf("%04X", ProtocolControl(len(memory)/2, false, nil)),
		Filter: e.Filter, Company: e.Company, Reference: e.Reference, Pieces: e.Pieces, Serial: e.Serial,
		PureIdentity: e.PureIdentity(), Tag: e.TagURI(), More: e.More, Spare: e.Spare}
	if e.Company != "" && e.Scheme.OfGS1() {
		a.Partition = new(12 - len(e.Company))
	}
	a.ElementString, a.DigitalLink = e.ElementString(), e.DigitalLink()
	return a, nil
}

// escaped writes characters that URNs reserve as %XX (TDS 1.13, annex A, table A-1).
func escaped(text string) string {
	return strings.NewReplacer("%", "%25", `"`, "%22", "&", "%26", "/", "%2F", "<", "%3C", ">", "%3E", "?", "%3F", "#",
		"%23").Replace(text)
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

// PureIdentity returns the pure identity URI (TDS 1.13, 6.3); empty for schemes with +, which do not tell how long the
// company prefix is.
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
	if e.Scheme == GID96 { // which has no filter
		return fmt.Sprintf("urn:epc:tag:%s:%s", e.Scheme, e.tail())
	}
	return fmt.Sprintf("urn:epc:tag:%s:%d.%s", e.Scheme, e.Filter, e.tail())
}

// ElementString returns GS1's element string with its identifiers in brackets, as gs1.Parse reads it; empty for ADI,
// and GID, which are none of GS1's.
func (e *EPC) ElementString() string { return gs1.Typed(e.Elements()) }

// DigitalLink returns the identifier as a GS1 Digital Link; empty for ADI.
func (e *EPC) DigitalLink() string {
	link, err := gs1.NewLink(gs1.DefaultHost, e.Elements())
	if err != nil {
		return ""
	}
	address, err := link.Address(false)
	if err != nil { // it has no key
		return ""
	}
	return address
}

// Elements returns a key and its qualifier; nil: it has none.
func (e *EPC) Elements() (all []gs1.Element) {
	for _, p := range e.pairs() {
		all = append(all, gs1.Element{AI: gs1.Find(p[0]), Value: p[1]})
	}
	return all
}

// pairs returns application identifiers and values in the order of a key and its qualifier; nil: it has none.
func (e *EPC) pairs() [][2]string {
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
var keys = map[string]string{"sgtin": "01", "sscc": "00", "sgln": "414", "grai": "8003", "giai": "8004", "gsrn": "8018",
	"gsrnp": "8017", "gdti": "253",
	"sgcn": "255", "itip": "8006", "cpi": "8010"}

// FromElements makes an identifier of a scheme from an element string in brackets, a Digital Link, or of ADI from
// "CAGE.part.serial", of GID from "manager.class.serial". prefix is how many digits the company prefix has. What the
// data says beside the identifier is left out. Its error is a *refusal.Error.
func FromElements(scheme Scheme, data string, prefix, filter int) (*EPC, error) {
	f, err := formOf(scheme)
	if err != nil {
		return nil, err
	}
	e := &EPC{Scheme: scheme, Filter: filter}
	if !scheme.OfGS1() {
		parts := strings.Split(data, ".")
		if len(parts) != 3 && scheme == GID96 {
			return nil, badGid.With(data)
		}
		if len(parts) != 3 {
			return nil, badAdi.With(data)
		}
		e.Company, e.Reference, e.Serial = parts[0], parts[1], parts[2]
		return e, nil
	}
	if (prefix < 6 || prefix > 12) && !scheme.Plus() {
		return nil, prefixLength.With(prefix)
	}
	values, err := elements(data)
	if err != nil {
		return nil, err
	}
	key := keys[f.name]
	value, there := values[key]
	if !there {
		return nil, keyMissing.With(strings.ToUpper(string(scheme)), key, data)
	}
	if scheme.Plus() {
		e.Reference, e.Serial = value[:f.digits], serialOf(f.name, value, values)
		return e, nil
	}
	body, check := bodyOf(f.name, value)
	if len(body) < prefix {
		return nil, bodyTooShort.With(key, body, prefix)
	}
	if at := strings.IndexFunc(body[:prefix], notDigit); at >= 0 {
		return nil, prefixNotDigits.With(key, body[at], at+1, prefix)
	}
	e.Company, e.Reference, e.Serial = body[:prefix], check+body[prefix:], serialOf(f.name, value, values)
	if f.name == "itip" {
		e.Pieces = value[14:]
	}
	return e, nil
}

// bodyOf returns what a company prefix and its reference are of a key's value, and the digit before them that the
// reference begins with (TDS 1.13, 7).
func bodyOf(name, value string) (body, first string) {
	switch name {
	case "sgtin", "itip":
		return value[1:13], value[:1]
	case "sscc":
		return value[1:17], value[:1]
	case "sgln", "gdti", "sgcn":
		return value[:12], ""
	case "grai":
		return value[1:13], "" // which begins with a 0
	case "gsrn", "gsrnp":
		return value[:17], ""
	}
	return value, "" // giai, cpi
}

// serialOf returns the serial of a key: the rest of its value, or that of another identifier.
func serialOf(name, value string, values map[string]string) string {
	switch name {
	case "sgtin", "itip":
		return values["21"]
	case "sgln":
		return cmp.Or(values["254"], "0")
	case "cpi":
		return values["8011"]
	case "grai":
		return value[14:]
	case "gdti", "sgcn":
		return value[13:]
	}
	return ""
}

// checked looks at a key's value by the rules of GS1.
func checked(key, value string) error {
	ai := gs1.Find(key)
	if problem, _ := ai.Check(value); problem != "" {
		return badValue.With(key, ai.Title, problem)
	}
	return nil
}

// elements reads the data by the rules of GS1.
func elements(data string) (map[string]string, error) {
	read, err := gs1.ReadTyped(data)
	if err != nil {
		return nil, badData.With(err)
	}
	values := map[string]string{}
	for _, e := range read {
		values[e.AI.AI] = e.Value
	}
	return values, nil
}

// FromURI reads a pure identity URI or a tag URI. Of a pure identity, scheme says which form it takes on the tag; a tag
// URI has to be of that scheme, where one is given. Its error is a *refusal.Error.
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
		return nil, notUri.With(uri)
	}
	parts := strings.Split(tail, ".")
	e := &EPC{Scheme: scheme, Filter: filter}
	if kind == "tag" {
		e.Scheme = Scheme(name)
		if scheme != "" && scheme != e.Scheme {
			return nil, uriOfOtherScheme.With(uri, strings.ToUpper(string(scheme)))
		}
		if e.Scheme != GID96 {
			if _, err := fmt.Sscanf(parts[0], "%d", &e.Filter); err != nil {
				return nil, uriWithoutFilter.With(uri)
			}
			parts = parts[1:]
		}
	}
	f, err := formOf(e.Scheme)
	if err != nil {
		return nil, err
	}
	if e.Scheme.Plus() {
		return nil, uriNotEnough.With(strings.ToUpper(string(e.Scheme)))
	}
	if kind == "id" && f.name != name {
		return nil, uriOfOtherScheme.With(uri, strings.ToUpper(string(e.Scheme)))
	}
	if len(parts) < 2 {
		return nil, uriParts.With(uri)
	}
	e.Company, e.Reference = parts[0], unescape(parts[1])
	if f.name == "itip" {
		if len(parts) < 5 {
			return nil, uriParts.With(uri)
		}
		if len(parts[2]) != pieceDigits || len(parts[3]) != pieceDigits {
			return nil, uriPiece.With(uri)
		}
		e.Pieces, parts = parts[2]+parts[3], parts[2:]
	}
	if len(parts) > 2 {
		e.Serial = unescape(strings.Join(parts[2:], "."))
	}
	return e, nil
}
