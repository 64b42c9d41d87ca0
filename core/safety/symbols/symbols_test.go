package symbols_test

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/safety/symbols"
	"oddspool/core/stock"
)

func TestEveryDrawingIsASymbol(t *testing.T) {
	all := symbols.All()
	require.GreaterOrEqual(t, len(all), 190)
	seen := map[string]bool{}
	for _, s := range all {
		require.False(t, seen[s.ID], s.ID)
		seen[s.ID] = true
		require.Contains(t, symbols.Families, s.Family, s.ID)
		require.NotEmpty(t, s.Words, s.ID)
		require.NotEmpty(t, s.Means, s.ID)
		require.NotEmpty(t, s.Source, s.ID)
		require.Greater(t, s.Smallest, 0, s.ID)
		require.Equal(t, s.Least > 0, s.Rule != "", "%s says how large it is and why", s.ID)
		require.True(t, s.Family != "transport" || s.Least > 0 || s.ID == "UN-up",
			"%s: labels and marks of transport have their size", s.ID)
		used, err := s.Colours(true)
		require.NoError(t, err, s.ID)
		want := map[string][]stock.Ink{"warning": {"yellow", "black"}, "prohibition": {"red", "white"},
			"mandatory": {"blue", "white"}, "safe condition": {"green", "white"}, "fire": {"red", "white"},
			"ghs": {"white", "red", "black"}}[s.Family]
		require.Subset(t, used, want, "%s is drawn in the colours of its family (ISO 3864-1, 5; GHS 1.4.10.4)", s.ID)
		layers, err := s.Layers(s.Smallest, 1, true, func(colour stock.Ink) int {
			if ink, _ := symbols.Shown(colour, []stock.Ink{stock.Black}, "#FFFFFF"); ink == "" {
				return -1
			}
			return 0
		})
		require.NoError(t, err, s.ID)
		dark := 0
		for y := range s.Smallest {
			layers[0].EachDot(y, func(int) { dark++ })
		}
		share := float64(dark) / float64(s.Smallest*s.Smallest)
		require.True(t, share > 0.02 && share < 0.92, "%s in one colour is neither empty nor a blob: %.2f", s.ID, share)
	}
	registered := 0
	for _, s := range symbols.Search("ISO 7010", "") {
		if s.Standard == "ISO 7010" {
			registered++
		}
	}
	require.GreaterOrEqual(t, registered, 150)
	for n := 1; n <= 9; n++ {
		s, err := symbols.Find(fmt.Sprintf("GHS%02d", n))
		require.NoError(t, err)
		inside, err := s.Colours(false)
		require.NoError(t, err)
		require.Equal(t, []stock.Ink{stock.Black}, inside, "what stands in the frame is black")
	}
}

func TestSymbolsAreFound(t *testing.T) {
	for words, want := range map[string]string{"slippery": "W011", "eye wash": "E011", "W012": "W012",
		"ghs flame": "GHS02", "smoking": "P002", "UN class 8": "UN8", "fragile": "H01", "helmet": "M014",
		"door slides left": "E034", "lifejacket": "M053", "no climbing": "P009"} {
		found := symbols.Search(words, "")
		require.NotEmpty(t, found, words)
		ids := []string{}
		for _, s := range found {
			ids = append(ids, s.ID)
		}
		require.Contains(t, ids, want, words)
	}
	for _, s := range symbols.Search("", "fire") {
		require.Equal(t, "fire", s.Family)
	}
	require.Empty(t, symbols.Search("nosuchthing", ""))
	_, err := symbols.Find("W999")
	require.IsType(t, &symbols.UnknownError{}, err)
}

func TestColoursBecomeTheInksThereAre(t *testing.T) {
	one, two := []stock.Ink{stock.Black}, []stock.Ink{stock.Black, stock.Red}
	for _, test := range []struct {
		colour stock.Ink
		can    []stock.Ink
		face   string
		ink    stock.Ink
		meant  bool
	}{
		{stock.Red, two, "#FFFFFF", stock.Red, true}, {stock.Red, one, "#FFFFFF", stock.Black, false},
		{"blue", two, "#FFFFFF", stock.Black, false},
		{"yellow", one, "#FFFFFF", "", false}, {"yellow", one, "#F7C600", "", true},
		{stock.White, one, "#FFFFFF", "", true}, {stock.White, one, "#F7C600", "", false},
		{stock.White, []stock.Ink{stock.Black, stock.White}, "#F7C600", stock.White, true},
		{"green", []stock.Ink{stock.Full}, "#FFFFFF", "green", true}, {stock.Red, []stock.Ink{"blue"}, "#FFFFFF",
			"blue", false},
		{stock.Black, nil, "#FFFFFF", stock.Black, false},
	} {
		ink, meant := symbols.Shown(test.colour, test.can, test.face)
		require.Equal(t, test.ink, ink, "%+v", test)
		require.Equal(t, test.meant, meant, "%+v", test)
	}
}

func TestLayersHoldTheirColours(t *testing.T) {
	s, err := symbols.Find("GHS02")
	require.NoError(t, err)
	layers, err := s.Layers(200, 2, true, func(colour stock.Ink) int {
		return map[stock.Ink]int{stock.Black: 0, stock.Red: 1, stock.White: -1}[colour]
	})
	require.NoError(t, err)
	require.True(t, layers[1].Set(10, 100), "the frame is red")
	require.False(t, layers[1].Set(100, 100))
	require.True(t, layers[0].Set(100, 141), "the bar under the flame is black")
	require.False(t, layers[0].Set(10, 100))
	bare, err := s.Layers(200, 1, false, func(stock.Ink) int { return 0 })
	require.NoError(t, err)
	require.False(t, bare[0].Set(10, 100), "without its frame")
	require.True(t, bare[0].Set(100, 141))
}

func TestDrawingsThatCannotBeTaken(t *testing.T) {
	file := func(facts, shapes string) []byte {
		return []byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><desc>` + facts + `</desc>` +
			shapes + `</svg>`)
	}
	good := `{"id":"X1","name":"Own","family":"food","words":["x"],"means":"x","smallest":10}`
	for says, data := range map[string][]byte{"no SVG": []byte("hello"), "facts of a symbol": file("{}", ""),
		"facts": file("x", "")} {
		_, err := symbols.Read(data)
		require.IsType(t, &refusal.Error{}, err)
		require.ErrorContains(t, err, says)
	}
	for says, data := range map[string][]byte{
		"is none of black": file(good, `<rect x="1" y="1" width="5" height="5" fill="#123456"/>`),
		"no square": []byte(strings.Replace(string(file(good, `<rect x="1" y="1" width="5" height="5"/>`)),
			"0 0 10 10", "0 0 10 20", 1)),
	} {
		s, err := symbols.Read(data)
		require.NoError(t, err)
		_, err = s.Colours(true)
		require.IsType(t, &refusal.Error{}, err)
		require.ErrorContains(t, err, says)
	}
	s, err := symbols.Read(file(good, `<rect x="1" y="1" width="5" height="5" fill="#C8102E"/>`))
	require.NoError(t, err)
	used, err := s.Colours(true)
	require.NoError(t, err)
	require.Equal(t, []stock.Ink{stock.Red}, used)
}

func ExampleSearch() {
	for _, s := range symbols.Search("slippery", "warning") {
		fmt.Println(s.Number, s.Name)
	}
	// Output: W011 Slippery surface
}

// ISO 3864-1, 6.3: the ring of a prohibition is a tenth of its diameter wide, the bar 8 per cent.
func TestProhibitionsHaveTheProportionsOfTheStandard(t *testing.T) {
	ring, bar := regexp.MustCompile(`r="([0-9.]+)" fill="none" stroke="#C8102E" stroke-width="([0-9.]+)"`),
		regexp.MustCompile(`<path[^>]*stroke="#C8102E" stroke-width="([0-9.]+)"`)
	number := func(text string) float64 {
		v, err := strconv.ParseFloat(text, 64)
		require.NoError(t, err)
		return v
	}
	for _, s := range symbols.Search("", "prohibition") {
		drawing := string(s.SVG())
		is := ring.FindStringSubmatch(drawing)
		require.NotNil(t, is, s.ID)
		diameter := 2*number(is[1]) + number(is[2])
		require.InDelta(t, 0.1, number(is[2])/diameter, 0.001, s.ID)
		require.InDelta(t, 0.08, number(bar.FindStringSubmatch(drawing)[1])/diameter, 0.001, s.ID)
	}
}

func TestSymbolsOfEveryTrade(t *testing.T) {
	for _, test := range []struct{ words, id string }{
		{"cargo aircraft", "UN-cao"}, {"lithium battery mark", "UN-battery"}, {"9A", "UN9A"}, {"un3373", "UN-3373"},
		{"excepted quantity", "UN-eq"}, {"limited quantity", "UN-lq"}, {"orange plate", "UN-plate"},
		{"overpack", "UN-overpack"}, {"fumigation", "UN-fumigation"}, {"radioactive", "UN7-1"}, {"fissile", "UN7-E"},
		{"ce marking", "CE"}, {"ukca", "UKCA"}, {"weee", "RC21"}, {"esd susceptibility", "ESD-sensitive"},
		{"manufacturer", "MD-manufacturer"}, {"use by", "MD-useby"}, {"sterile ethylene", "MD-sterile-eo"},
		{"serial number", "MD-sn"}, {"udi", "MD-udi"}, {"wash 40", "TC-wash40"}, {"iron 150", "TC-iron2"},
		{"food contact", "FD01"},
	} {
		var ids []string
		for _, s := range symbols.Search(test.words, "") {
			ids = append(ids, s.ID)
		}
		require.Contains(t, ids, test.id, test.words)
	}
}

// A black symbol shows on a black plate by its core, and on black stock by the ink there is; a black field is black
// stock.
func TestBlackOnBlack(t *testing.T) {
	ink, _ := symbols.Shown(stock.Black, []stock.Ink{stock.Black}, "#22262B")
	require.Equal(t, stock.Ink(stock.Black), ink, "on a plate that marks its core bare")
	ink, meant := symbols.Shown(stock.Black, []stock.Ink{stock.White}, "#000000")
	require.Equal(t, []any{stock.Ink(stock.White), false}, []any{ink, meant})
	ink, meant = symbols.Field(stock.Black, []stock.Ink{stock.White}, "#000000")
	require.Equal(t, []any{stock.Ink(""), true}, []any{ink, meant})
	ink, meant = symbols.Field("green", []stock.Ink{stock.White}, "#00843D")
	require.Equal(t, []any{stock.Ink(""), true}, []any{ink, meant})
}
