// Package decode reads symbols back: from the widths of their bars and spaces, or from their modules, to
// what they say. It is written from the clauses of the standards that describe decoding and shares no
// table of modes or of placement with the encoders, so that a mistake of theirs shows. It reads exact
// modules, as they stand on a plane of dots, and corrects nothing: a symbol with a single error is wrong.
package decode

import (
	"errors"
	"strings"
	"unicode/utf8"
)

// A Message is what a symbol says.
type Message struct {
	Text string // in characters: bytes by their ECI, or of ISO/IEC 8859-1 where none is told; GS separates GS1 data
	Raw  string // the bytes themselves, where the whole is bytes
	GS1  bool   // it says that its data is GS1's
	Ends string // the start and the stop, of a symbology that has several
}

// Says tells whether the symbol says a text, or the bytes that it is.
func (m Message) Says(text string) bool { return m.Text == text || m.Raw == text }

// The errors of all decoders.
var (
	ErrPattern = errors.New("its bars and modules are no characters of its symbology")
	ErrCheck   = errors.New("its check words or digits are not right")
	ErrData    = errors.New("its words say nothing")
)

// Modules are those of a 2D symbol, row by row, without quiet zones.
type Modules struct {
	Width, Height int
	Dark          []bool
}

// At tells whether a module is dark.
func (m *Modules) At(x, y int) bool { return m.Dark[y*m.Width+x] }

// The ECIs that are known (AIM ITS/04-023).
const (
	eciLatin1 = 3
	eciUTF8   = 26
	noECI     = -1
)

// groupSeparator is what a function character within GS1 data is told as.
const groupSeparator = 0x1D

// A writer collects a message: bytes under an ECI, and characters.
type writer struct {
	text    strings.Builder
	raw     strings.Builder
	pending []byte // bytes whose ECI is in force
	eci     int
	mixed   bool // it has more than bytes without an ECI
}

func newWriter() *writer { return &writer{eci: noECI} }

func (w *writer) byte(b byte) { w.pending = append(w.pending, b) }

func (w *writer) bytes(text string) { w.pending = append(w.pending, text...) }

// characters appends text that no ECI says anything about.
func (w *writer) characters(text string) {
	w.flush()
	w.mixed = true
	w.text.WriteString(text)
}

func (w *writer) setECI(eci int) {
	w.flush()
	w.eci, w.mixed = eci, true
}

func (w *writer) flush() {
	w.raw.Write(w.pending)
	if w.eci == eciUTF8 && utf8.Valid(w.pending) {
		w.text.Write(w.pending)
	} else {
		for _, b := range w.pending {
			w.text.WriteRune(rune(b))
		}
	}
	w.pending = w.pending[:0]
}

func (w *writer) message(isGS1 bool) Message {
	w.flush()
	m := Message{Text: w.text.String(), GS1: isGS1}
	if !w.mixed {
		m.Raw = w.raw.String()
	}
	return m
}

// A stream is a row of bits that is read from its beginning, the highest of a number first.
type stream struct {
	data []bool
	at   int
}

func streamOf(words []byte) *stream {
	b := &stream{data: make([]bool, 0, 8*len(words))}
	for _, w := range words {
		for i := 7; i >= 0; i-- {
			b.data = append(b.data, w>>i&1 == 1)
		}
	}
	return b
}

func (b *stream) left() int { return len(b.data) - b.at }

// peek returns the next n bits without taking them; those beyond the end are 0.
func (b *stream) peek(n int) (value int) {
	for i := b.at; i < b.at+n; i++ {
		value <<= 1
		if i < len(b.data) && b.data[i] {
			value |= 1
		}
	}
	return value
}

func (b *stream) take(n int) int {
	value := b.peek(n)
	b.at += n
	return value
}

// rightWords tells whether words are a multiple of their generator over GF(2^n), whose roots are so many
// powers of 2 from first on: a sum over the words is nothing at each root.
func rightWords[word byte | uint16](words []word, check, first, size, polynomial int) bool {
	times := func(a, b int) (product int) {
		for ; b > 0; b >>= 1 {
			if b&1 == 1 {
				product ^= a
			}
			if a <<= 1; a >= size {
				a ^= polynomial
			}
		}
		return product
	}
	root := 1
	for range first {
		root = times(root, 2)
	}
	for range check {
		sum := 0
		for _, w := range words {
			sum = times(sum, root) ^ int(w)
		}
		if sum != 0 {
			return false
		}
		root = times(root, 2)
	}
	return true
}
