package symbols_test

import (
	"errors"
	"strings"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/safety/symbols"
	"oddspool/core/stock"
)

const ownDrawing = `<?xml version="1.0" encoding="UTF-8"?>
<!-- made elsewhere -->
<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20 20"><title>Knife</title><metadata><x/></metadata>
<g transform="translate(10 10)"><circle r="9" fill="#1D5FA8"/><path d="M-4 4L4 -4" fill="none" stroke="#FFFFFF" stroke-width="2"/></g></svg>`

func TestOwnDrawingsBecomeSymbols(t *testing.T) {
	facts := symbols.Facts{Name: " Knife & sheath ", Means: "Wear <it>", Words: []string{"knife"}}
	made, file, err := symbols.Own([]byte(ownDrawing), facts)
	require.NoError(t, err)
	require.Equal(t, []any{"Knife & sheath", "Wear <it>", symbols.OwnFamily, 48},
		[]any{made.Name, made.Means, made.Family, made.Smallest})
	used, err := made.Colours(true)
	require.NoError(t, err)
	require.Equal(t, []stock.Ink{"blue", stock.White}, used)
	read, err := symbols.Read(file)
	require.NoError(t, err)
	require.Equal(t, made.Facts, read.Facts, "the file has its facts in it")
	again, _, err := symbols.Own([]byte(ownDrawing), facts)
	require.NoError(t, err)
	require.Equal(t, made.ID, again.ID, "the same drawing and facts have one name")
	facts.Means = "Carry it"
	other, _, err := symbols.Own([]byte(ownDrawing), facts)
	require.NoError(t, err)
	require.NotEqual(t, made.ID, other.ID)
	require.True(t, made.Answers("KNIFE sheath"))
	require.False(t, made.Answers("spoon"))
}

func TestOwnDrawingsThatCannotBeTaken(t *testing.T) {
	square := func(inside string) string {
		return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10">` + inside + `</svg>`
	}
	for says, svg := range map[string]string{
		"reach outside, or is no shape. Make": square(
			`<image href="http://brinewick.example/x.png" width="5" height="5"/>`),
		"script": square(`<script>alert(1)</script>`),
		"href=":  square(`<a href="https://brinewick.example"/>`),
		"url(h": square(
			`<rect width="5" height="5" fill="url(http://brinewick.example/#x)"/>`),
		"style":              square(`<style>@import "x.css"</style>`),
		"no SVG":             "kelp",
		"#123456 is none of": square(`<rect width="5" height="5" fill="#123456"/>`),
		"cannot be drawn":    square(`<blink/>`),
		"0 points":           square(``),
		"kB are taken":       square(strings.Repeat(" ", symbols.MostBytes+1)),
		"no square":          `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 30"><rect width="5" height="5"/></svg>`,
		"\"<use\"":           square(`<defs><g id="a"><use href="#a"/></g></defs><use href="#a"/>`),
		"reaches over its": square(
			`<g transform="scale(99999)"><g transform="scale(99999)"><path d="M0 0C9 0 9 9 0 9Z"/></g></g>`),
		"Gradients": square(
			`<defs><linearGradient id="g"><stop offset="0" stop-color="#000000"/><stop offset="1" stop-color="#FFFFFF"/></linearGradient></defs><rect width="5" height="5" fill="url(#g)"/>`),
	} {
		_, _, err := symbols.Own([]byte(svg), symbols.Facts{Name: "x"})
		require.IsType(t, &refusal.Error{}, err, svg[:min(len(svg), 200)])
		require.ErrorContains(t, err, says)
	}
	_, _, err := symbols.Own([]byte(ownDrawing), symbols.Facts{Name: "  "})
	require.ErrorContains(t, err, "needs a name")
}

func TestFilesOfOwnSymbolsAreProved(t *testing.T) {
	made, file, err := symbols.Own([]byte(ownDrawing), symbols.Facts{Name: "Knife", Means: "Wear <it> & see",
		Words: []string{"knife", "blade"}, Smallest: 60})
	require.NoError(t, err)
	read, err := symbols.FromFile(file)
	require.NoError(t, err)
	require.Equal(t, made.Facts, read.Facts)
	require.True(t, symbols.IsOwn(made.ID))
	require.False(t, symbols.IsOwn("W012"))
	for _, change := range [][2]string{{"Knife", "Spoon"}, {`r="9"`, `r="8"`}, {made.ID, "own-000000000000"}} {
		_, err := symbols.FromFile([]byte(strings.Replace(string(file), change[0], change[1], 1)))
		require.IsType(t, &refusal.Error{}, err, "%v", change)
	}
	_, err = symbols.FromFile([]byte("kelp"))
	require.IsType(t, &refusal.Error{}, err)
}

func TestOwnSymbolsComeFromTheirSource(t *testing.T) {
	made, file, err := symbols.Own([]byte(ownDrawing), symbols.Facts{Name: "From a source"})
	require.NoError(t, err)
	_, err = symbols.Find(made.ID)
	require.IsType(t, &symbols.AbsentError{}, err, "nobody says where it comes from")
	require.Equal(t, made.ID, symbols.TakeAbsent(), "what was asked for is told once")
	require.Empty(t, symbols.TakeAbsent())

	asked := 0
	symbols.SetSource(func(id string) ([]byte, error) {
		asked++
		switch id {
		case made.ID:
			return file, nil
		case "own-broken":
			return nil, errors.New("the database is away")
		}
		return nil, &symbols.UnknownError{ID: id}
	})
	t.Cleanup(func() { symbols.SetSource(nil) })
	for range 3 {
		found, err := symbols.Find(made.ID)
		require.NoError(t, err)
		require.Equal(t, "From a source", found.Name)
	}
	require.Equal(t, 1, asked, "it is kept")
	_, err = symbols.Find("own-nosuch")
	require.IsType(t, &symbols.UnknownError{}, err)
	_, err = symbols.Find("own-broken")
	require.ErrorContains(t, err, "away")
	require.IsType(t, &refusal.Error{}, symbols.Register("own-bad", []byte("kelp")))
}

// Numbers and names of ISO 7010:2019 that plants use, as registered.
func TestRegisteredNames(t *testing.T) {
	for number, name := range map[string]string{
		"W001": "General warning sign", "W002": "Explosive material",
		"W003": "Radioactive material or ionizing radiation", "W004": "Laser beam", "W005": "Non-ionizing radiation",
		"W006": "Magnetic field",
		"W007": "Floor-level obstacle", "W008": "Drop (fall)", "W009": "Biological hazard",
		"W010": "Low temperature or freezing conditions", "W011": "Slippery surface", "W012": "Electricity",
		"W013": "Guard dog",
		"W014": "Forklift trucks and other industrial vehicles", "W015": "Suspended load", "W016": "Toxic material",
		"W017": "Hot surface", "W018": "Automatic start-up", "W019": "Crushing", "W020": "Overhead obstacle",
		"W021": "Flammable material", "W022": "Sharp element", "W023": "Corrosive substance",
		"W024": "Crushing of hands", "W025": "Counterrotating rollers", "W026": "Battery charging",
		"W027": "Optical radiation",
		"W028": "Oxidizing substance", "W029": "Pressurized cylinder", "P001": "General prohibition sign",
		"P002": "No smoking", "P004": "No thoroughfare", "P005": "Not drinking water", "P010": "Do not touch",
		"P011": "Do not extinguish with water", "P012": "No heavy load", "P018": "No sitting",
		"P022": "No eating or drinking", "P023": "Do not obstruct", "P029": "No photography",
		"M001": "General mandatory action sign",
		"M003": "Wear ear protection", "M004": "Wear eye protection", "M008": "Wear safety footwear",
		"M009": "Wear protective gloves", "M010": "Wear protective clothing", "M011": "Wash your hands",
		"M012": "Use handrail",
		"M013": "Wear a face shield", "M014": "Wear head protection", "M015": "Wear high-visibility clothing",
		"M016": "Wear a mask", "M017": "Wear respiratory protection", "M018": "Wear a safety harness",
		"M019": "Wear a welding mask",
		"M026": "Use protective apron", "M030": "Use litter bin", "E001": "Emergency exit (left hand)",
		"E002": "Emergency exit (right hand)", "E003": "First aid", "E004": "Emergency telephone",
		"E007": "Evacuation assembly point",
		"E009": "Doctor", "E010": "Automated external heart defibrillator", "E011": "Eyewash station",
		"E012": "Safety shower", "E013": "Stretcher", "F001": "Fire extinguisher", "F002": "Fire hose reel",
		"F003": "Fire ladder",
		"F004": "Collection of firefighting equipment", "F005": "Fire alarm call point",
		"F006": "Fire emergency telephone",
	} {
		s, err := symbols.Find(number)
		require.NoError(t, err, number)
		require.Equal(t, name, s.Name)
		require.Equal(t, "ISO 7010", s.Standard)
	}
}
