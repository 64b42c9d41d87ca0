// Command symbols writes codes in bulk for readers that are no Go programs: each line of its input is a
// request as JSON, each line of its output the modules of the symbol, or why there is none.
package main

import (
	"bufio"
	"encoding/json"
	"fmt"
	"os"
	"strings"

	"oddspool/core/symbology"
)

type request struct {
	Symbology symbology.ID      `json:"symbology"`
	Data      []byte            `json:"data"` // base64
	Options   symbology.Options `json:"options"`
}

type answer struct {
	Rows      []string `json:"rows,omitempty"` // of modules, # dark; each as tall as Tall
	Tall      int      `json:"tall,omitempty"`
	Is2D      bool     `json:"is2d"`
	Reads     []byte   `json:"reads,omitempty"`
	Text      string   `json:"text,omitempty"`
	Elements  string   `json:"elements,omitempty"`
	Error     string   `json:"error,omitempty"`
	Position  int      `json:"position,omitempty"`
	QuietSide int      `json:"quietSide,omitempty"`
	Guessed   bool     `json:"guessed,omitempty"` // readers guess what its western letters are
}

func main() {
	if err := write(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func write() error {
	in, out := json.NewDecoder(bufio.NewReader(os.Stdin)), bufio.NewWriter(os.Stdout)
	encoder := json.NewEncoder(out)
	var symbol symbology.Symbol
	for in.More() {
		var r request
		if err := in.Decode(&r); err != nil {
			return fmt.Errorf("read request: %w", err)
		}
		if err := encoder.Encode(symbolOf(&symbol, r)); err != nil {
			return fmt.Errorf("write symbol: %w", err)
		}
	}
	return out.Flush()
}

func symbolOf(s *symbology.Symbol, r request) (a answer) {
	if err := s.Encode(r.Symbology, string(r.Data), r.Options); err != nil {
		a.Error = err.Error()
		if data, ok := err.(*symbology.DataError); ok {
			a.Position = data.Position
		}
		return a
	}
	a.Is2D, a.Reads, a.Text, a.Tall, a.QuietSide = s.Is2D(), []byte(s.Reads), s.Text, max(s.RowHeight, 1), s.QuietBefore
	a.Guessed = s.Guessed
	for _, e := range s.Elements {
		a.Elements += "(" + e.AI.AI + ")" + e.Value
	}
	if !a.Is2D {
		const tall = 40
		a.Tall = tall
		var row strings.Builder
		for i, width := range s.AppendDots(nil, 1, 0) {
			row.WriteString(strings.Repeat(string("#."[i%2]), int(width)))
		}
		a.Rows = []string{row.String()}
		return a
	}
	for y := range s.Matrix.Height {
		row := make([]byte, s.Matrix.Width)
		for x := range row {
			row[x] = '.'
			if s.Matrix.At(x, y) {
				row[x] = '#'
			}
		}
		a.Rows = append(a.Rows, string(row))
	}
	return a
}
