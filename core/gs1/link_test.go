package gs1_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/gs1"
)

func elements(t testing.TB, text string) []gs1.Element {
	all, err := gs1.Parse(text)
	require.NoError(t, err)
	return all
}

func TestLinksAreWritten(t *testing.T) {
	for _, test := range []struct {
		host, text, want string
		capitals         bool
	}{
		{"https://id.brinewick.example/", "(01)09521234543213(10)26/K104(21)00417(17)261231(3103)001750",
			"https://id.brinewick.example/01/09521234543213/10/26%2FK104/21/00417?17=261231&3103=001750", false},
		{"https://Brinewick.example/Lots/now", "(01)09521234543213",
			"HTTPS://BRINEWICK.EXAMPLE/Lots/now/01/09521234543213", true},
		{"http://kelp.example", "(414)9521234543213(254)A+B", "http://kelp.example/414/9521234543213/254/A%2BB", false},
		{"https://kelp.example", "(01)09521234543213(235)x1", "https://kelp.example/01/09521234543213/235/x1", false},
	} {
		link, err := gs1.NewLink(test.host, elements(t, test.text))
		require.NoError(t, err)
		address, err := link.Address(test.capitals)
		require.NoError(t, err)
		require.Equal(t, test.want, address)
	}
}

func TestLinksAreReadAsTheyAreWritten(t *testing.T) {
	for link, text := range map[string]string{
		"https://x.example/01/09521234543213/10/26%2FK104/21/00417?" +
			"17=261231&3103=001750": "(01)09521234543213(10)26/K104(21)00417(17)261231(3103)001750",
		"https://x.example/some/Path/01/9521234543213?from=mail&linkType=gs1:pip#top": "(01)09521234543213",
		"http://x.example/01/01/09521234543213":                                       "(01)09521234543213",
		"HTTPS://X.EXAMPLE/8004/9521234543213?7007=260101":                            "",
		"https://x.example/01/09521234543213/10/A+B?linkType=all":                     "(01)09521234543213(10)A+B",
		"https://x.example/01/09521234543213?10=26K104":                               "",
	} {
		parsed, err := gs1.ParseLink(link)
		require.NoError(t, err, link)
		if text != "" {
			require.Equal(t, text, gs1.Text(parsed.Elements), link)
		}
		back, err := parsed.Address(false)
		require.NoError(t, err)
		again, err := gs1.ParseLink(back)
		require.NoError(t, err)
		require.Equal(t, parsed, again, "what is written of it says the same")
		require.Equal(t, strings.SplitN(link, "/", 4)[2], strings.SplitN(back, "/", 4)[2], "the host stays its own")
	}
	parsed, err := gs1.ParseLink("https://x.example/some/Path/01/9521234543213?from=mail#top")
	require.NoError(t, err)
	address, err := parsed.Address(true)
	require.NoError(t, err)
	require.Equal(t, "HTTPS://X.EXAMPLE/some/Path/01/09521234543213?from=mail#top", address)
}

func TestLinksAreRefusedInWords(t *testing.T) {
	for link, want := range map[string]string{
		"kelp": "no web address", "https://x.example/lot/7": "has no key",
		"https://x.example/01/09521234543213/99/7":        "99 does not follow 01",
		"https://x.example/01/09521234543213/21/7/10/26K": "10 does not follow 21",
		"https://x.example/01/09521234543210":             "check digit",
		"https://x.example/01":                            "has no key", "https://x.example/01/%zz": "no web address",
		"ftp://x.example/01/09521234543213":           "begins with https:// or http://",
		"https://x.example/01/09521234543213?99999=7": "99999 in the query is no application identifier",
		"https://x.example/01/09521234543213?21=7":    "it has its place in the path",
		"https://x.example/01/09521234543213?37=7":    "exclude each other",
		"https://x.example/01/12345":                  "(01) GTIN: it has 14 characters",
		"https://x.example/01/09521234543213?10=%2":   "followed by two hexadecimal digits",
	} {
		_, err := gs1.ParseLink(link)
		require.ErrorContains(t, err, want, link)
	}
	for host, want := range map[string]string{"brinewick": "no address", "ftp://x.example": "https:// or http://",
		"https://x.example/#top": "more than a host", "https://x.example?a=b": "more than a host",
		"https:// x": "no address"} {
		_, err := gs1.NewLink(host, nil)
		require.ErrorContains(t, err, want, host)
	}
	link, err := gs1.NewLink("https://x.example", elements(t, "(10)26K104"))
	require.NoError(t, err)
	_, err = link.Address(false)
	require.ErrorContains(t, err, "needs a key")
}

// Any lot and any host of a link come back from its address.
func FuzzLinksComeBack(f *testing.F) {
	f.Add("26K104", "Lots")
	f.Add("%2F+/?#&=", "01")
	f.Fuzz(func(t *testing.T, lot, path string) {
		all, err := gs1.Parse("(01)09521234543213(10)" + gs1.Escape(lot))
		if err != nil {
			return
		}
		link, err := gs1.NewLink("https://brinewick.example/"+gs1.EscapeInLink(path), all)
		require.NoError(t, err)
		address, err := link.Address(false)
		require.NoError(t, err)
		back, err := gs1.ParseLink(address)
		if path == "01" || strings.HasSuffix(path, "/01") { // a path that looks like a key is one
			return
		}
		require.NoError(t, err, address)
		require.Equal(t, gs1.Text(all), gs1.Text(back.Elements), address)
	})
}

func ExampleLink_Address() {
	all, _ := gs1.Parse("(01)09521234543213(10)26K104")
	link, _ := gs1.NewLink("https://brinewick.example/Kelp", all)
	fmt.Println(link.Address(true))
	// Output: HTTPS://BRINEWICK.EXAMPLE/Kelp/01/09521234543213/10/26K104 <nil>
}
