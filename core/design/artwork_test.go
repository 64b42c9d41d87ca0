package design_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/stock"
)

func TestArtworkStandsInTheMiddle(t *testing.T) {
	const mm = measure.Millimetre
	made := func(fit bool, pages ...design.Artwork) []design.Element {
		d := of()
		d.Stock = stock.Stock{Kind: stock.DieCut, Width: 76 * mm, Length: 38 * mm, Keep: mm}
		d.PutArtwork(pages, fit)
		return d.Elements
	}
	page := design.Artwork{Hash: "a", Width: 40 * mm, Height: 20 * mm}
	e := made(false, page)[0]
	require.Equal(t, []measure.Length{18 * mm, 9 * mm, 40 * mm, 20 * mm}, []measure.Length{e.X, e.Y, e.Width, e.Height})
	require.Nil(t, e.When)
	require.Nil(t, e.Picture.Crop)
	e = made(true, page)[0]
	require.Equal(t, []measure.Length{2 * mm, mm, 72 * mm, 36 * mm}, []measure.Length{e.X, e.Y, e.Width, e.Height},
		"as large as what is kept free lets it be")
	page.Crop = design.Crop{Left: 25, Right: 25}
	both := made(false, page, design.Artwork{Hash: "b", Width: 10 * mm, Height: 10 * mm})
	require.Equal(t, 20*mm, both[0].Width)
	require.Equal(t, &page.Crop, both[0].Picture.Crop)
	require.Equal(t, &design.Condition{Field: "page", Is: design.OneOf, Values: []string{"2"}}, both[1].When)
}
