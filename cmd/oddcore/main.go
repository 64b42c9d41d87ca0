//go:build js && wasm

// Oddcore is the core as a web worker runs it: it is told the typefaces there are, given a design, and draws labels
// of records. All that goes in and out is JSON, but for font files and dots.
package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"runtime/debug"
	"syscall/js"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/picture"
	"oddspool/core/render"
	"oddspool/core/safety/symbols"
	"oddspool/core/strip"
	"oddspool/core/typeset"
)

// core is one design that is open.
type core struct {
	drawer *strip.Drawer
	rows   []byte
	held   *design.Design   // what a hand moves
	drawn  *compose.Artwork // its labels, as it was last
	fields []string         // of its records
}

func main() {
	debug.SetGCPercent(800) // the hand waits for each collection; what lives is some megabytes
	c := &core{}
	js.Global().Set("oddcore", map[string]any{
		"typefaces": function(c.typefaces), "typeface": function(c.typeface), "picture": function(c.picture),
		"symbol": function(c.symbol), "open": function(c.open), "dots": function(c.dots), "draw": function(c.draw),
		"hand": function(c.hand), "moved": function(c.moved), "beside": function(c.beside),
	})
	js.Global().Call("oddcoreReady")
	select {} // it answers calls from now on
}

// function makes a function of the page of do. Its answer is what do returns, or an object that says why there is none:
// absent is the hash of a font file that is needed first, absentPicture that of a picture, absentSymbol the name of a
// symbol of one's own.
func function(do func(args []js.Value) (any, error)) js.Func {
	return js.FuncOf(func(_ js.Value, args []js.Value) (result any) {
		defer func() {
			if broken := recover(); broken != nil { // the server, which checks all, says what is wrong
				result = map[string]any{"error": fmt.Sprint("the core in the page broke off: ", broken)}
			}
		}()
		answer, err := do(args)
		if absent := new(typeset.AbsentError); errors.As(err, &absent) {
			return map[string]any{"absent": absent.Hash}
		}
		if absent := new(picture.AbsentError); errors.As(err, &absent) {
			return map[string]any{"absentPicture": absent.Hash}
		}
		if absent := new(symbols.AbsentError); errors.As(err, &absent) {
			return map[string]any{"absentSymbol": absent.ID}
		}
		if err != nil {
			return map[string]any{"error": err.Error()}
		}
		return answer
	})
}

// typefaces takes the font files there are, whose bytes come as they are needed.
func (c *core) typefaces(args []js.Value) (any, error) {
	var files []typeset.File
	if err := json.Unmarshal([]byte(args[0].String()), &files); err != nil {
		return nil, err
	}
	for _, f := range files {
		typeset.Register(f)
	}
	return nil, nil
}

// typeface takes the bytes of a font file.
func (c *core) typeface(args []js.Value) (any, error) {
	data := make([]byte, args[1].Get("length").Int())
	js.CopyBytesToGo(data, args[1])
	for _, f := range typeset.Files() {
		if f.Hash == args[0].String() {
			f.Data = func() []byte { return data }
			typeset.Register(f)
		}
	}
	return nil, nil
}

// picture takes the bytes of a picture.
func (c *core) picture(args []js.Value) (any, error) {
	data := make([]byte, args[1].Get("length").Int())
	js.CopyBytesToGo(data, args[1])
	return nil, picture.Register(args[0].String(), data)
}

// symbol takes the drawing of a symbol of one's own.
func (c *core) symbol(args []js.Value) (any, error) {
	data := make([]byte, args[1].Get("length").Int())
	js.CopyBytesToGo(data, args[1])
	return nil, symbols.Register(args[0].String(), data)
}

// open takes a design and the names of its records' fields, and returns what its labels have in common.
func (c *core) open(args []js.Value) (any, error) {
	d, err := design.Trusted([]byte(args[0].String()))
	if err != nil {
		return nil, err
	}
	var fields []string
	if err := json.Unmarshal([]byte(args[1].String()), &fields); err != nil {
		return nil, err
	}
	if c.drawer, err = strip.New(d, fields); err != nil {
		return nil, err
	}
	if err := needed(); err != nil {
		return nil, err
	}
	about, err := json.Marshal(c.drawer.About())
	return map[string]any{"about": string(about)}, err
}

// dots draws the label of a record, whose values go in: its size, and the rows of its planes one after the other, come
// out.
func (c *core) dots(args []js.Value) (any, error) {
	values, err := values(args[0])
	if err != nil {
		return nil, err
	}
	layers := c.drawer.Dots(values)
	if err := needed(); err != nil {
		return nil, err
	}
	w, h := layers.Size()
	return map[string]any{"width": w, "height": h, "dots": c.bytes(layers)}, nil
}

// draw does as dots does, and judges: its number goes in as well, and the label comes out.
func (c *core) draw(args []js.Value) (any, error) {
	values, err := values(args[1])
	if err != nil {
		return nil, err
	}
	label, layers := c.drawer.Draw(args[0].Int(), values)
	if err := needed(); err != nil {
		return nil, err
	}
	text, err := json.Marshal(label)
	return map[string]any{"label": string(text), "dots": c.bytes(layers)}, err
}

// hand draws one label of a design and judges nothing, all at once: for what a hand moves, in the frame in which it
// moves it. The document, the names of the fields and the values go in; size, colours and planes come out.
func (c *core) hand(args []js.Value) (answer any, err error) {
	if c.held, err = design.Trusted([]byte(args[0].String())); err != nil {
		return nil, err
	}
	if c.fields, err = values(args[1]); err != nil {
		return nil, err
	}
	return c.drawHeld(args[2])
}

// moved does as hand does for the design it was last given, with some elements changed since: a list of what
// design.With takes, and the values, go in.
func (c *core) moved(args []js.Value) (any, error) {
	if c.held == nil {
		return nil, errors.New("no design is in hand")
	}
	d, err := c.held.With([]byte(args[0].String()))
	if err != nil {
		return nil, err
	}
	c.held = d
	return c.drawHeld(args[1])
}

func (c *core) drawHeld(of js.Value) (any, error) {
	record, err := values(of)
	if err != nil {
		return nil, err
	}
	composer, err := compose.New(c.held, c.fields)
	if err != nil {
		return nil, err
	}
	c.drawn = compose.NewArtwork(composer)
	_, layers := c.drawn.Draw(record)
	if err := needed(); err != nil {
		return nil, err
	}
	w, h := layers.Size()
	palette := composer.Palette()
	colours := make([]any, len(palette.Inks))
	for i, colour := range palette.Inks {
		colours[i] = colour
	}
	return map[string]any{"width": w, "height": h, "face": palette.Face, "layers": colours, "dots": c.bytes(layers)},
		nil
}

// beside draws the label of another record of the design that hand or moved drew last: its values go in, size and
// planes come out.
func (c *core) beside(args []js.Value) (any, error) {
	record, err := values(args[0])
	if err != nil {
		return nil, err
	}
	if c.drawn == nil {
		return nil, errors.New("no design is in hand")
	}
	_, layers := c.drawn.Draw(record)
	if err := needed(); err != nil {
		return nil, err
	}
	w, h := layers.Size()
	return map[string]any{"width": w, "height": h, "dots": c.bytes(layers)}, nil
}

// needed returns an error where what was drawn asked for a font file of another script, which is not here yet.
func needed() error {
	if hash := typeset.TakeAbsent(); hash != "" {
		return &typeset.AbsentError{Hash: hash}
	}
	if id := symbols.TakeAbsent(); id != "" {
		return &symbols.AbsentError{ID: id}
	}
	return nil
}

func values(list js.Value) (values []string, err error) {
	return values, json.Unmarshal([]byte(list.String()), &values)
}

func (c *core) bytes(layers render.Layers) js.Value {
	c.rows = c.rows[:0]
	for _, plane := range layers {
		for y := range plane.Height {
			c.rows = plane.AppendRow(c.rows, y)
		}
	}
	bytes := js.Global().Get("Uint8Array").New(len(c.rows))
	js.CopyBytesToJS(bytes, c.rows)
	return bytes
}
