package gs1

import (
	"net/url"
	"slices"
	"strings"
)

// GS1 Digital Link (GS1 Digital Link Standard: URI Syntax, release 1.6): element strings as a web address.
// The key and its qualifiers stand in the path, all else in the query.

// DefaultHost is GS1's own resolver, which knows where a link leads.
const DefaultHost = "https://id.gs1.org"

// A Link is a GS1 Digital Link taken apart.
type Link struct {
	Base     string // scheme, host and the path before the key, without a slash at its end
	Elements []Element
	Others   []string // parameters of the query that are no identifiers, as they are written
	Fragment string   // with its #; empty: none
}

// CheckHost says what is wrong with an address that links are to begin with; nil: nothing. Its error is
// a *DataError.
func CheckHost(host string) error {
	parsed, err := url.Parse(host)
	switch {
	case err != nil || parsed.Host == "" || strings.ContainsAny(host, " \t\n"):
		return wrong(0, "“%s” is no address that a link can begin with; write it like https://id.brinewick.example.",
			host)
	case !strings.EqualFold(parsed.Scheme, "https") && !strings.EqualFold(parsed.Scheme, "http"):
		return wrong(0, "A GS1 Digital Link begins with https:// or http://, and “%s” with %s://.", host, parsed.Scheme)
	case strings.ContainsAny(host, "?#") || parsed.User != nil:
		return wrong(0, "“%s” has more than a host and a path; what stands behind ? or # belongs behind the "+
			"identifiers.", host)
	}
	return nil
}

// NewLink makes a link of elements that begins at a host. Its error is a *DataError.
func NewLink(host string, elements []Element) (Link, error) {
	if err := CheckHost(host); err != nil {
		return Link{}, err
	}
	return Link{Base: strings.TrimRight(host, "/"), Elements: elements}, nil
}

// path returns the index of the key and those of the qualifiers that follow it, in their order. Of the
// orders that a key has the one is taken that uses most of what is there.
func (l Link) path() (key int, qualifiers []int) {
	key = slices.IndexFunc(l.Elements, func(e Element) bool { return e.AI.key })
	if key < 0 {
		return -1, nil
	}
	for _, order := range l.Elements[key].AI.qualifiers {
		var found []int
		for _, id := range order {
			if i := slices.IndexFunc(l.Elements, func(e Element) bool { return e.AI.AI == id }); i >= 0 {
				found = append(found, i)
			}
		}
		if len(found) > len(qualifiers) {
			qualifiers = found
		}
	}
	return key, qualifiers
}

// Address writes the link. In capitals its scheme and host are capital letters, which mean the same and
// take fewer modules in QR Code; the path before the key keeps its letters. Its error is a *DataError
// when there is no key, or when something may not stand beside it.
func (l Link) Address(capitals bool) (string, error) {
	key, qualifiers := l.path()
	if key < 0 {
		return "", wrong(0, "A link needs a key such as (01), (00) or (414).")
	}
	base := l.Base
	if capitals {
		at := strings.Index(base, "://") + len("://")
		if slash := strings.IndexByte(base[at:], '/'); slash >= 0 {
			base = strings.ToUpper(base[:at+slash]) + base[at+slash:]
		} else {
			base = strings.ToUpper(base)
		}
	}
	var path, query strings.Builder
	for _, i := range append([]int{key}, qualifiers...) {
		path.WriteString("/" + l.Elements[i].AI.AI + "/" + escape(l.Elements[i].Value))
	}
	add := func(parameter string) {
		sign := "&"
		if query.Len() == 0 {
			sign = "?"
		}
		query.WriteString(sign + parameter)
	}
	for i, e := range l.Elements {
		switch {
		case i == key || slices.Contains(qualifiers, i):
		case e.AI.noQuery:
			return "", wrong(0, "(%s) %s may not stand in a link beside the key (%s) %s.", e.AI.AI, e.AI.Title,
				l.Elements[key].AI.AI, l.Elements[key].AI.Title)
		default:
			add(e.AI.AI + "=" + escape(e.Value))
		}
	}
	for _, parameter := range l.Others {
		add(parameter)
	}
	return base + path.String() + query.String() + l.Fragment, nil
}

// escape writes a value so that nothing in it is taken for a part of the address: all but what RFC 3986,
// 2.3 calls unreserved stands as % and two digits.
func escape(value string) string {
	const hex = "0123456789ABCDEF"
	var out strings.Builder
	for i := range len(value) {
		switch c := value[i]; {
		case isDigit(c), c|0x20 >= 'a' && c|0x20 <= 'z', strings.IndexByte("-._~", c) >= 0:
			out.WriteByte(c)
		default:
			out.Write([]byte{'%', hex[c>>4], hex[c&15]})
		}
	}
	return out.String()
}

// EscapeInLink writes a value so that ParseLink takes all of it for data.
func EscapeInLink(value string) string { return escape(value) }

// ParseLink reads a GS1 Digital Link and checks its elements as Parse does. Its error is a *DataError.
func ParseLink(link string) (Link, error) {
	parsed, err := url.Parse(link)
	if err != nil || parsed.Host == "" {
		return Link{}, wrong(0, "“%s” is no web address; a link is written like "+
			"https://id.brinewick.example/01/09521234543213.", link)
	}
	before, _, _ := strings.Cut(strings.SplitN(link, "#", 2)[0], "?")
	segments := strings.Split(strings.Trim(parsed.EscapedPath(), "/"), "/")
	at := -1
	// the last key that has a way to the end: what stands before is the host's own
	for i := len(segments) - 2; i >= 0; i-- {
		if ai := Find(segments[i]); ai != nil && ai.key && (len(segments)-i)%2 == 0 {
			at = i
		}
	}
	if at < 0 {
		return Link{}, wrong(0, "The path of %s has no key with its value, such as /01/09521234543213.", link)
	}
	l := Link{Base: strings.TrimRight(before, "/")}
	for range segments[at:] {
		l.Base = l.Base[:strings.LastIndexByte(l.Base, '/')]
	}
	if err := CheckHost(l.Base); err != nil {
		return Link{}, err
	}
	if _, fragment, has := strings.Cut(link, "#"); has {
		l.Fragment = "#" + fragment
	}
	if l.Elements, err = pathElements(segments[at:]); err != nil {
		return Link{}, err
	}
	for pair := range strings.SplitSeq(parsed.RawQuery, "&") {
		id, value, _ := strings.Cut(pair, "=")
		ai := Find(id)
		switch {
		case ai == nil && pair != "" && strings.Trim(id, "0123456789") == "" && id != "":
			return Link{}, wrong(0, "%s in the query is no application identifier.", id)
		case ai == nil && pair != "": // belongs to whoever made the link
			l.Others = append(l.Others, pair)
		case ai != nil && ai.noQuery:
			return Link{}, wrong(0, "(%s) %s may not stand in the query of a link; it has its place in the path.",
				ai.AI, ai.Title)
		case ai != nil:
			element, err := linkElement(ai, value)
			if err != nil {
				return Link{}, err
			}
			l.Elements = append(l.Elements, element)
		}
	}
	if err := together(l.Elements); err != nil {
		return Link{}, err
	}
	_, err = l.Address(false)
	return l, err
}

// pathElements reads the key and its qualifiers.
func pathElements(segments []string) (elements []Element, err error) {
	key := Find(segments[0])
	for i := 0; i < len(segments); i += 2 {
		ai := Find(segments[i])
		if i > 0 && !follows(key, elements[1:], segments[i]) {
			return nil, wrong(0, "%s does not follow %s in the path of a link.", segments[i], segments[i-2])
		}
		element, err := linkElement(ai, segments[i+1])
		if err != nil {
			return nil, err
		}
		elements = append(elements, element)
	}
	return elements, nil
}

// follows tells whether an identifier may stand in the path behind a key and its qualifiers so far.
func follows(key *AI, before []Element, id string) bool {
	for _, order := range key.qualifiers {
		at := 0
		for _, e := range before {
			n := slices.Index(order[at:], e.AI.AI)
			if n < 0 {
				at = len(order)
				break
			}
			at += n + 1
		}
		if slices.Contains(order[at:], id) {
			return true
		}
	}
	return false
}

// linkElement reads and checks a value of a link. A GTIN that is shorter than 14 digits is filled up.
func linkElement(ai *AI, written string) (Element, error) {
	value, err := url.PathUnescape(written)
	if err != nil {
		return Element{}, wrong(0, "“%s” is not written as a value of a link is: a %% must be followed by two "+
			"hexadecimal digits.", written)
	}
	const gtin = 14
	if ai.AI == "01" && (len(value) == 8 || len(value) == 12 || len(value) == 13) {
		value = strings.Repeat("0", gtin-len(value)) + value
	}
	if problem, _ := ai.Check(value); problem != "" {
		return Element{}, wrong(0, "(%s) %s: %s", ai.AI, ai.Title, problem)
	}
	return Element{ai, value}, nil
}
