package typeset

import (
	"bytes"
	"crypto/sha256"
	"encoding/binary"
	"encoding/hex"
	"slices"

	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/font/opentype"
	"github.com/go-text/typesetting/language"
)

// MostBytes is how large a font file may be that somebody brings in: those with all of Chinese have some 20 MB.
const MostBytes = 32 << 20

// Rights are what a font file says about being embedded in documents (OpenType OS/2, fsType).
type Rights string

// The rights.
const (
	Installable Rights = "installable" // it may be embedded and used further
	Editable    Rights = "editable"    // it may be embedded in documents that are changed
	Printable   Rights = "printable"   // it may be embedded in documents that are looked at and printed
	Restricted  Rights = "restricted"  // it may not be embedded
)

// Inspect reads a font file that somebody brings in, TrueType or OpenType: its family and style as it names them, and
// the rights it gives. Its error is always a *refusal.Error.
func Inspect(data []byte) (f File, rights Rights, err error) {
	broken := unknownKind.With()
	defer func() {
		if recover() != nil { // what is broken in a font shows where it is used first
			err = broken
		}
	}()
	if len(data) > MostBytes {
		return f, "", tooLarge.With(len(data)>>20, MostBytes>>20)
	}
	parsed, parseErr := font.ParseTTF(bytes.NewReader(data))
	if parseErr != nil {
		return f, "", broken
	}
	describes := parsed.Describe()
	f = File{Family: describes.Family, Bold: describes.Aspect.Weight >= font.WeightSemibold,
		Italic: describes.Aspect.Style == font.StyleItalic}
	sum := sha256.Sum256(data)
	f.Hash, f.Data = hex.EncodeToString(sum[:]), func() []byte { return data }
	face := newFace("trial", data, nil)
	if f.Family == "" || face.ascent+face.descent <= 0 || len(f.Family) > 100 {
		return f, "", broken
	}
	letters := 0
	for r := rune(0x21); r < 0xffff; r++ {
		if id, some := face.font.NominalGlyph(r); some {
			if letters++; letters <= 300 {
				face.Mask(uint32(id), 20*64, 0) // outlines that cannot be drawn are found here
			}
		}
	}
	if letters == 0 {
		return f, "", noLetters.With()
	}
	f.Scripts = scriptsOf(face)
	if rights = rightsOf(data); rights == Restricted {
		return f, rights, notEmbeddable.With(f.Family)
	}
	return f, rights, nil
}

// fewLetters is how many characters of a script a font has at least that covers it: of Thai there are 87.
const fewLetters = 40

// scriptsOf returns the scripts that a font covers, by their ISO 15924 codes.
func scriptsOf(face *Face) (scripts []string) {
	counts := map[language.Script]int{}
	for iter := face.font.Cmap.Iter(); iter.Next(); {
		r, _ := iter.Char()
		counts[language.LookupScript(r)]++
	}
	for script, n := range counts {
		if n >= fewLetters && script != language.Common && script != language.Inherited && script != language.Unknown {
			scripts = append(scripts, script.String())
		}
	}
	slices.Sort(scripts)
	return scripts
}

// rightsOf reads fsType; a file without it is installable.
func rightsOf(data []byte) Rights {
	loader, err := opentype.NewLoader(bytes.NewReader(data))
	if err != nil {
		return Installable
	}
	table, err := loader.RawTable(opentype.MustNewTag("OS/2"))
	if err != nil || len(table) < 10 {
		return Installable
	}
	switch bits := binary.BigEndian.Uint16(table[8:]); {
	case bits&0x8 != 0:
		return Editable
	case bits&0x4 != 0:
		return Printable
	case bits&0x2 != 0:
		return Restricted
	}
	return Installable
}

// SetSource says where typefaces come from that are not known: it registers those it has of a family.
func SetSource(source func(family string)) {
	files.mutex.Lock()
	defer files.mutex.Unlock()
	files.source = source
}
