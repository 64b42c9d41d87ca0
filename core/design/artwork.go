package design

import (
	"fmt"
	"strconv"

	"oddspool/core/measure"
)

// An Artwork is a finished page that becomes what stands on a label.
type Artwork struct {
	Hash          string // of its picture
	Name          string
	Width, Height measure.Length // of the whole page
	Crop          Crop
}

// PageField is the field that says which page stands on a label, where there are several.
const PageField = "page"

// PutArtwork puts pages in the middle of the label, at their true size, or as large as it has room. Of several pages,
// each stands on the label of the record whose PageField is its number.
func (d *Design) PutArtwork(pages []Artwork, fit bool) {
	labelW, labelH := d.Size()
	roomW, roomH := labelW-2*d.Stock.Keep, labelH-2*d.Stock.Keep
	for i, page := range pages {
		w := measure.Length(float64(page.Width) * (100 - page.Crop.Left - page.Crop.Right) / 100)
		h := measure.Length(float64(page.Height) * (100 - page.Crop.Top - page.Crop.Bottom) / 100)
		if fit && w > 0 && h > 0 {
			scale := min(float64(roomW)/float64(w), float64(roomH)/float64(h))
			w, h = measure.Length(float64(w)*scale), measure.Length(float64(h)*scale)
		}
		w, h = max(w, 1), max(h, 1)
		e := Element{ID: fmt.Sprintf("page-%d", i+1), Kind: Picture, X: (labelW - w) / 2, Y: (labelH - h) / 2, Width: w,
			Height:  h,
			Picture: &PictureLooks{Hash: page.Hash, Name: page.Name}}
		if page.Crop != (Crop{}) {
			e.Picture.Crop = new(page.Crop)
		}
		if len(pages) > 1 {
			e.When = &Condition{Field: PageField, Is: OneOf, Values: []string{strconv.Itoa(i + 1)}}
		}
		d.Elements = append(d.Elements, e)
	}
	if len(pages) > 1 {
		d.Fields = []string{PageField}
	}
}
