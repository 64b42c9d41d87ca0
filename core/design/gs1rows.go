package design

import "oddspool/core/gs1"

// A GS1Row is one element string of GS1 data that is being built: an application identifier, and what its value says.
type GS1Row struct {
	AI    string  `json:"ai"` // empty: the value stands before any identifier
	Value []Piece `json:"value"`
}

// GS1Rows takes what an element says apart at its identifiers in brackets. Texts come as they are meant, without the
// backslashes of gs1.Escape.
func GS1Rows(pieces []Piece) []GS1Row {
	var rows []GS1Row
	add := func(p Piece) {
		if len(rows) == 0 {
			rows = append(rows, GS1Row{})
		}
		last := &rows[len(rows)-1]
		last.Value = append(last.Value, p)
	}
	for _, p := range pieces {
		if !p.IsText() {
			add(p)
			continue
		}
		for _, run := range gs1.Runs(p.Text) {
			if run.AI != "" {
				rows = append(rows, GS1Row{AI: run.AI, Value: []Piece{}})
			}
			if run.Value != "" {
				plain := p
				plain.Text = run.Value
				add(plain)
			}
		}
	}
	return rows
}

// GS1Pieces returns what an element says that is made of rows. Whatever is typed into a value is data: its brackets are
// written so that they are not taken for an identifier's. Texts beside one another become one piece.
func GS1Pieces(rows []GS1Row) []Piece {
	pieces := []Piece{}
	add := func(p Piece) {
		if n := len(pieces); n > 0 && p.IsText() && pieces[n-1].IsText() {
			pieces[n-1].Text += p.Text
			return
		}
		pieces = append(pieces, p)
	}
	for _, row := range rows {
		if row.AI != "" {
			add(Piece{Text: "(" + row.AI + ")"})
		}
		for _, p := range row.Value {
			if p.IsText() {
				p.Text = gs1.Escape(p.Text)
			}
			add(p)
		}
	}
	return pieces
}
