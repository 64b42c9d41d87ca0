// Package symbology turns data into codes: what each symbology can hold, how it is encoded, and
// how large it becomes in whole modules. It knows no dots; render draws a module as a whole
// number of them.
package symbology

import (
	"fmt"
	"slices"
)

// An ID names a symbology in design files.
type ID string

// The symbologies.
const (
	Code128 ID = "code128"
)

// A Symbol is an encoded linear code: the widths of its bars and spaces in modules, alternately,
// beginning and ending with a bar. The zero value is ready for Encode, which reuses it.
type Symbol struct {
	Widths      []uint8
	QuietBefore int    // modules that must stay light before the first bar
	QuietAfter  int    // and after the last
	Text        string // the human-readable text

	values []uint8 // symbol characters, kept between calls so that encoding allocates nothing
}

// Modules returns the width of the symbol without its quiet zones.
func (s *Symbol) Modules() int {
	sum := 0
	for _, width := range s.Widths {
		sum += int(width)
	}
	return sum
}

// Total returns the width of the symbol with its quiet zones.
func (s *Symbol) Total() int { return s.QuietBefore + s.Modules() + s.QuietAfter }

// A DataError says why some data cannot be held by a symbology.
type DataError struct {
	Symbology string // its name for people
	Position  int    // of the character that does not fit, from 1; 0: the data as a whole
	Reason    string
}

func (e *DataError) Error() string { return e.Reason }

// An UnknownError says that a design asks for a symbology that this version does not have.
type UnknownError struct{ ID ID }

func (e *UnknownError) Error() string {
	return fmt.Sprintf("the symbology %q is not known to this Odd Spool", string(e.ID))
}

// symbologies lists what there is, with its encoder.
var symbologies = []struct {
	id     ID
	name   string
	encode func(s *Symbol, text string) error
}{
	{Code128, "Code 128", (*Symbol).code128},
}

// Known tells whether a symbology can be encoded; its error is an *UnknownError.
func Known(id ID) error {
	for _, known := range symbologies {
		if known.id == id {
			return nil
		}
	}
	return &UnknownError{ID: id}
}

// Name returns what people call a symbology.
func Name(id ID) string {
	for _, known := range symbologies {
		if known.id == id {
			return known.name
		}
	}
	return string(id)
}

// Encode makes s the symbol that says text. Its error is a *DataError or an *UnknownError, and s
// is empty then.
func (s *Symbol) Encode(id ID, text string) error {
	*s = Symbol{Widths: s.Widths[:0], values: s.values[:0]}
	for _, known := range symbologies {
		if known.id == id {
			err := known.encode(s, text)
			if err != nil {
				*s = Symbol{Widths: s.Widths[:0], values: s.values[:0]}
			}
			return err
		}
	}
	return &UnknownError{ID: id}
}

// Clone returns a symbol that shares nothing with s.
func (s *Symbol) Clone() Symbol {
	return Symbol{Widths: slices.Clone(s.Widths), QuietBefore: s.QuietBefore, QuietAfter: s.QuietAfter, Text: s.Text}
}
