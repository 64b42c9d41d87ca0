package symbology

import (
	"fmt"
	"net/url"
	"slices"
	"strings"
)

// GS1 Digital Link (GS1 Digital Link Standard: URI Syntax): element strings as a web address. The key
// and its qualifiers are in the path, all else is in the query.

// linkQualifiers are the identifiers that may follow a key in the path, in their order.
var linkQualifiers = map[string][]string{
	"00": nil, "01": {"22", "10", "21", "235"}, "253": nil, "255": nil, "401": nil, "402": nil, "414": {"254"}, "417": {"7040"},
	"8003": nil, "8004": {"7040"}, "8006": {"22", "10", "21"}, "8010": {"8011"}, "8013": nil, "8017": {"8019"}, "8018": {"8019"},
}

// Link builds the address of elements at a host such as https://id.brinewick.example. In the shortest
// form the host is in capitals and what can be is a digit or a capital, which takes the fewest modules
// in QR Code. The error is a *DataError when there is no key among the elements.
func Link(host string, elements []Element, shortest bool) (string, error) {
	key := slices.IndexFunc(elements, func(e Element) bool { _, is := linkQualifiers[e.AI.AI]; return is })
	if key < 0 {
		return "", wrong("GS1 Digital Link", 0, "A link needs a key such as (01), (00) or (414).")
	}
	host = strings.TrimSuffix(host, "/")
	if shortest {
		host = strings.ToUpper(host)
	}
	var path, query strings.Builder
	used := map[int]bool{key: true}
	path.WriteString("/" + elements[key].AI.AI + "/" + url.PathEscape(elements[key].Value))
	for _, qualifier := range linkQualifiers[elements[key].AI.AI] {
		for i, e := range elements {
			if e.AI.AI == qualifier {
				used[i] = true
				path.WriteString("/" + qualifier + "/" + url.PathEscape(e.Value))
			}
		}
	}
	for i, e := range elements {
		if used[i] {
			continue
		}
		sign := "&"
		if query.Len() == 0 {
			sign = "?"
		}
		query.WriteString(sign + e.AI.AI + "=" + url.QueryEscape(e.Value))
	}
	return host + path.String() + query.String(), nil
}

// ParseLink reads elements from a GS1 Digital Link and checks them as ParseGS1 does. Its error is a
// *DataError.
func ParseLink(link string) ([]Element, error) {
	const name = "GS1 Digital Link"
	parsed, err := url.Parse(link)
	if err != nil || parsed.Host == "" {
		return nil, wrong(name, 0, "“%s” is no web address.", link)
	}
	segments := strings.Split(strings.Trim(parsed.EscapedPath(), "/"), "/")
	at := slices.IndexFunc(segments, func(segment string) bool { _, is := linkQualifiers[segment]; return is })
	if at < 0 || (len(segments)-at)%2 != 0 {
		return nil, wrong(name, 0, "The path of %s has no key with its value, such as /01/09521234543213.", link)
	}
	var text strings.Builder
	key := segments[at]
	for i := at; i < len(segments); i += 2 {
		if i > at && !slices.Contains(linkQualifiers[key], segments[i]) {
			return nil, wrong(name, 0, "%s does not follow %s in the path of a link.", segments[i], key)
		}
		value, err := url.PathUnescape(segments[i+1])
		if err != nil {
			return nil, wrong(name, 0, "“%s” is not written as a path is.", segments[i+1])
		}
		if segments[i] == "01" { // shorter GTINs are filled up
			value = fmt.Sprintf("%014s", value)
		}
		text.WriteString("(" + segments[i] + ")" + value)
	}
	for pair := range strings.SplitSeq(parsed.RawQuery, "&") {
		id, value, _ := strings.Cut(pair, "=")
		if ais()[id] == nil { // other parameters belong to whoever made the link
			continue
		}
		plain, err := url.QueryUnescape(value)
		if err != nil {
			return nil, wrong(name, 0, "“%s” is not written as a query is.", value)
		}
		text.WriteString("(" + id + ")" + plain)
	}
	return ParseGS1(text.String())
}

// DefaultHost is GS1's own resolver, which knows where a link leads.
const DefaultHost = "https://id.gs1.org"

// link returns the shortest address of element strings, or of another address of the same, at a host.
func (s *Symbol) link(name, text, host string) (address, readable string, err error) {
	if host == "" {
		host = DefaultHost
	}
	if parsed, err := url.Parse(host); err != nil || parsed.Host == "" || parsed.RawQuery != "" {
		return "", "", wrong(name, 0, "“%s” is no address that a link can begin with; write it like https://id.brinewick.example.", host)
	}
	var elements []Element
	if strings.HasPrefix(text, "(") {
		elements, err = ParseGS1(text)
	} else {
		elements, err = ParseLink(text)
	}
	if err != nil {
		return "", "", err
	}
	s.Elements = append(s.Elements, elements...)
	address, err = Link(host, elements, true)
	return address, GS1Text(elements), err
}

func (s *Symbol) linkQR(text string, o Options) error {
	address, readable, err := s.link("QR Code with GS1 Digital Link", text, o.Host)
	if err != nil {
		return err
	}
	err = s.qr(address, o)
	s.Text = readable
	return err
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
