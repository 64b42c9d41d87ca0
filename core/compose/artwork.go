package compose

import "oddspool/core/render"

// An Artwork draws the labels of one design upright, as they are read, and judges nothing: what
// pictures are made of. It is not safe for concurrent use.
type Artwork struct {
	composer *Composer
	label    Label
	layers   render.Layers
}

// NewArtwork returns an artwork of a composer's design.
func NewArtwork(c *Composer) *Artwork {
	return &Artwork{composer: c, layers: render.NewLayers(len(c.inks), c.pieceW, c.pieceH)}
}

// Draw returns the label of a record and its dots, one plane an ink. They are the artwork's own and
// hold until the next call.
func (a *Artwork) Draw(record []string) (*Label, render.Layers) {
	a.composer.Compose(&a.label, record)
	a.layers.Resize(a.label.List.Width, a.label.List.Height)
	a.layers.Draw(&a.label.List)
	return &a.label, a.layers
}
