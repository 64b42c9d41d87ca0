// Package bundle keeps a design as one file with everything it needs: a zip with the document, and the pictures and
// symbols of one's own that stand on it. What comes in is untrusted.
package bundle

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"net/http"
	"slices"
	"strings"

	"oddspool/core/design"
	"oddspool/core/picture"
	"oddspool/core/safety/symbols"
	"oddspool/core/typeset"
)

// Limits of a file that comes in: it is small until it is unpacked.
const (
	MostEntries  = 300
	MostDocument = 4 << 20
	MostPictures = 200 << 20 // pictures and typefaces all together, unpacked
)

const documentName = "design.json"

// A Source has what a design needs besides its document.
type Source struct {
	Picture func(hash string) ([]byte, error)
	Fonts   func(family string) ([][]byte, error) // files that do not come with the program
	Symbol  func(id string) ([]byte, error)       // files of symbols of one's own
}

// Write writes a design with what it needs.
func Write(w io.Writer, d *design.Design, from Source) error {
	document, err := json.MarshalIndent(d, "", "  ")
	if err != nil {
		return fmt.Errorf("write design: %w", err)
	}
	packed := zip.NewWriter(w)
	add := func(name string, data []byte) error {
		entry, err := packed.Create(name)
		if err == nil {
			_, err = entry.Write(data)
		}
		if err != nil {
			return fmt.Errorf("pack %s: %w", name, err)
		}
		return nil
	}
	if err := add(documentName, document); err != nil {
		return err
	}
	for _, hash := range d.Pictures() {
		data, err := from.Picture(hash)
		if err != nil {
			return fmt.Errorf("pack a picture: %w", err)
		}
		if err := add("pictures/"+hash+ending(data), data); err != nil {
			return err
		}
	}
	for _, family := range d.Typefaces() {
		files, err := from.Fonts(family)
		if err != nil {
			return fmt.Errorf("pack a typeface: %w", err)
		}
		for _, data := range files {
			if err := add("typefaces/"+picture.Hash(data)+".ttf", data); err != nil {
				return err
			}
		}
	}
	for _, id := range d.Symbols() {
		if !symbols.IsOwn(id) {
			continue
		}
		data, err := from.Symbol(id)
		if err != nil {
			return fmt.Errorf("pack a symbol: %w", err)
		}
		if err := add("symbols/"+id+".svg", data); err != nil {
			return err
		}
	}
	if err := packed.Close(); err != nil {
		return fmt.Errorf("pack design: %w", err)
	}
	return nil
}

// ending is what a picture's kind of file is called.
func ending(data []byte) string {
	switch kind := http.DetectContentType(data); kind {
	case "image/jpeg":
		return ".jpg"
	case "text/xml; charset=utf-8", "text/plain; charset=utf-8":
		return ".svg" // a drawing
	default:
		_, name, _ := strings.Cut(kind, "/")
		if name == "octet-stream" {
			name = "tiff" // the one kind that is read and not told by its first bytes
		}
		return "." + name
	}
}

// Contents is what came in one file.
type Contents struct {
	Design   *design.Design
	Pictures map[string][]byte // by their hashes
	Fonts    [][]byte          // files of typefaces that the design uses
	Symbols  map[string][]byte // files of symbols of one's own, by their names
}

// Read reads a design and what came with it: from a zip as Write makes it, or from the document alone. Its error is a
// *refusal.Error, or one of design.Parse.
func Read(data []byte) (*Contents, error) {
	if !bytes.HasPrefix(data, []byte("PK")) {
		d, err := design.Parse(data)
		return &Contents{Design: d}, err
	}
	packed, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, brokenZip.With()
	}
	if len(packed.File) > MostEntries {
		return nil, tooManyFiles.With(len(packed.File), MostEntries)
	}
	var document []byte
	c := &Contents{Pictures: map[string][]byte{}, Symbols: map[string][]byte{}}
	room := int64(MostPictures)
	for _, entry := range packed.File {
		folder, name, _ := strings.Cut(entry.Name, "/")
		switch {
		case entry.Name == documentName:
			if document, err = unpack(entry, MostDocument); err != nil {
				return nil, err
			}
		case name == "" || folder != "pictures" && folder != "typefaces" && folder != "symbols":
		default:
			most := int64(picture.MostBytes)
			switch folder {
			case "typefaces":
				most = typeset.MostBytes
			case "symbols":
				most = 2 * symbols.MostBytes // its facts besides
			}
			data, err := unpack(entry, min(room, most))
			if err != nil {
				return nil, err
			}
			room -= int64(len(data))
			switch folder {
			case "pictures":
				c.Pictures[picture.Hash(data)] = data
			case "symbols":
				c.Symbols[strings.TrimSuffix(name, ".svg")] = data
			default:
				c.Fonts = append(c.Fonts, data)
			}
		}
	}
	if document == nil {
		return nil, noDesign.With()
	}
	if c.Design, err = design.Parse(document); err != nil {
		return nil, err
	}
	return c, c.check()
}

// check leaves out what the design does not use, and reads what it does.
func (c *Contents) check() error {
	used := c.Design.Pictures()
	for _, hash := range slices.Collect(maps.Keys(c.Pictures)) {
		if !slices.Contains(used, hash) {
			delete(c.Pictures, hash)
			continue
		}
		if _, err := picture.Decode(c.Pictures[hash]); err != nil {
			return err
		}
	}
	ids := c.Design.Symbols()
	for _, id := range slices.Collect(maps.Keys(c.Symbols)) {
		if !slices.Contains(ids, id) {
			delete(c.Symbols, id)
			continue
		}
		s, err := symbols.FromFile(c.Symbols[id])
		if err != nil {
			return err
		}
		if s.ID != id {
			return otherSymbol.With(id)
		}
	}
	families, fonts := c.Design.Typefaces(), c.Fonts
	c.Fonts = nil
	for _, data := range fonts {
		f, _, err := typeset.Inspect(data)
		if err != nil {
			return err
		}
		if slices.Contains(families, f.Family) {
			c.Fonts = append(c.Fonts, data)
		}
	}
	return nil
}

func unpack(entry *zip.File, most int64) ([]byte, error) {
	tooLarge := fileTooLarge.With(entry.Name, most>>20)
	if entry.UncompressedSize64 > uint64(max(most, 0)) {
		return nil, tooLarge
	}
	opened, err := entry.Open()
	if err != nil {
		return nil, fileNotUnpacked.With(entry.Name)
	}
	defer opened.Close()
	data, err := io.ReadAll(io.LimitReader(opened, most+1)) // what it says of its size may be a lie
	switch {
	case err != nil:
		return nil, fileBroken.With(entry.Name)
	case int64(len(data)) > most:
		return nil, tooLarge
	}
	return data, nil
}
