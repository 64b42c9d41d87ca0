package sources

import (
	"archive/zip"
	"bytes"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// A mergeFinder finds the cells of a sheet that stand over several in what is written to it.
type mergeFinder struct {
	cells []merged
	end   []byte // of what was written before: a cell may be said across
}

var (
	mergeMark  = []byte("mergeCell ")
	mergedCell = regexp.MustCompile(`mergeCell [^>]*ref="([A-Z]+[0-9]+):([A-Z]+[0-9]+)"`)
)

// Write implements io.Writer.
func (f *mergeFinder) Write(text []byte) (int, error) {
	const overlap = 200
	f.look(append(f.end, text[:min(len(text), overlap)]...))
	f.look(text)
	f.end = append(f.end[:0], text[max(len(text)-overlap, 0):]...)
	return len(text), nil
}

func (f *mergeFinder) look(text []byte) {
	if len(f.cells) > mostMerged || !bytes.Contains(text, mergeMark) {
		return
	}
	for _, found := range mergedCell.FindAllSubmatch(text, -1) {
		left, top := placeOf(found[1])
		right, bottom := placeOf(found[2])
		if cell := (merged{span{left, right}, top, bottom}); top > 0 && bottom > 0 &&
			!slices.Contains(f.cells[max(len(f.cells)-8, 0):], cell) {
			f.cells = append(f.cells, cell)
		}
	}
}

// sharedWords reads the texts that cells share.
func sharedWords(parts *zip.Reader) (words []string, err error) {
	in, err := parts.Open("xl/sharedStrings.xml")
	if err != nil {
		return nil, nil // a workbook without texts has none
	}
	defer in.Close()
	xml := newMarkup(in)
	var text []byte
	inText, reading := false, 0
	for {
		is, err := xml.next()
		if err != nil {
			return nil, &FileError{Text: fmt.Sprintf("The texts of the workbook cannot be read: %s. Save it anew "+
				"where it was made.", reason(err))}
		}
		switch is {
		case opens:
			switch string(xml.name) {
			case "t":
				inText = reading == 0
			case "rPh": // how it is read aloud
				reading++
			}
		case closes:
			switch string(xml.name) {
			case "t":
				inText = false
			case "rPh":
				reading--
			case "si":
				words = append(words, unescaped(string(text)))
				text = text[:0]
			case "sst":
				return words, nil
			}
		case chars:
			if inText {
				text = append(text, xml.text...)
			}
		}
	}
}

var escapedLetter = regexp.MustCompile(`_x[0-9A-Fa-f]{4}_`)

// unescaped turns characters that XML cannot hold back into themselves (ISO/IEC 29500-1, 22.9.2.19, ST_Xstring).
func unescaped(text string) string {
	if !strings.Contains(text, "_x") {
		return text
	}
	return escapedLetter.ReplaceAllStringFunc(text, func(said string) string {
		code, _ := strconv.ParseUint(said[2:6], 16, 32)
		return string(rune(code))
	})
}
