// Package reference holds the reference pack: symbols, hazard classes, statements, substances, groups and sizes of
// pipes, and ready messages of signs, under one version. One comes with the program; others come as signed zips, are
// held against the one in use, and taken in.
package reference

import (
	"archive/zip"
	"bytes"
	"crypto/ed25519"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"maps"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing/fstest"

	"oddspool/core/safety/hazard"
	"oddspool/core/safety/pipe"
	"oddspool/core/safety/sign"
	"oddspool/core/safety/symbols"
)

// Format names this version of the pack.
const Format = "oddspool.reference/1"

// The limits of a pack: some twenty times what is shipped.
const (
	MostBytes    = 32 << 20 // as it comes
	mostUnpacked = 128 << 20
	mostFiles    = 20_000
	mostOneFile  = 32 << 20
)

// The files of a pack that are not its content.
const (
	aboutName     = "reference.json"
	signatureName = "reference.sig"
)

// About tells which pack it is.
type About struct {
	Format  string            `json:"format"`
	Version string            `json:"version"` // numbers with points between, such as 2026.11
	Date    string            `json:"date"`    // of issue, such as 2026-11-26
	By      string            `json:"by"`      // who issues it
	Notes   string            `json:"notes,omitempty"`
	Files   map[string]string `json:"files"` // SHA-256 of each, by its name, in hexadecimal digits
}

// A Pack is one version of the reference.
type Pack struct {
	About

	Book    *hazard.Book
	Pipes   *pipe.Book
	Symbols []*symbols.Symbol
	Texts   []sign.Text

	files map[string][]byte
}

// Shipped returns the pack that comes with the program.
var Shipped = sync.OnceValue(func() *Pack {
	files := map[string][]byte{"signs/texts.tsv": []byte(sign.ShippedTexts)}
	for folder, from := range map[string]fs.FS{"hazards/": hazard.Files(), "pipes/": pipe.Files(),
		"symbols/": symbols.Files()} {
		err := fs.WalkDir(from, ".", func(name string, entry fs.DirEntry, err error) error {
			if err != nil || entry.IsDir() {
				return err
			}
			files[folder+path.Base(name)], err = fs.ReadFile(from, name)
			return err
		})
		if err != nil {
			panic(err) // they are part of the program
		}
	}
	about := About{Format: Format, Version: symbols.Edition, Date: "2026-12-01", By: "Odd Spool"}
	// its tests write it and read it again
	return &Pack{About: about, Book: hazard.Shipped(), Pipes: pipe.Shipped(), Symbols: symbols.All(),
		Texts: sign.Texts(), files: files}
})

// versions are numbers with points between.
var versions = regexp.MustCompile(`^[0-9]{1,4}(\.[0-9]{1,4}){1,3}$`)

// Newer tells whether one version is later than another.
func Newer(version, than string) bool {
	one, other := strings.Split(version, "."), strings.Split(than, ".")
	for i := range max(len(one), len(other)) {
		var a, b int
		if i < len(one) {
			a, _ = strconv.Atoi(one[i])
		}
		if i < len(other) {
			b, _ = strconv.Atoi(other[i])
		}
		if a != b {
			return a > b
		}
	}
	return false
}

// read reads the content of a pack.
func read(about About, files map[string][]byte) (*Pack, error) {
	p := &Pack{About: about, files: files}
	tables, pipes := fstest.MapFS{}, fstest.MapFS{}
	seen := map[string]bool{}
	for _, name := range slices.Sorted(maps.Keys(files)) {
		folder, base, _ := strings.Cut(name, "/")
		switch {
		case folder == "hazards":
			tables[base] = &fstest.MapFile{Data: files[name]}
		case folder == "pipes":
			pipes[base] = &fstest.MapFile{Data: files[name]}
		case folder == "symbols" && path.Ext(base) == ".svg":
			s, err := symbols.Read(files[name])
			if err != nil {
				return nil, badDrawing.With(name, err)
			}
			if s.ID+".svg" != base || symbols.IsOwn(s.ID) {
				return nil, badDrawingName.With(name, s.ID)
			}
			seen[s.ID] = true
			p.Symbols = append(p.Symbols, s)
		}
	}
	symbols.Sort(p.Symbols)
	var err error
	if p.Book, err = hazard.Read(tables); err != nil {
		return nil, badHazards.With(err)
	}
	if p.Pipes = pipe.Shipped(); len(pipes) > 0 { // packs had no pipes before 2026.12
		if p.Pipes, err = pipe.Read(pipes); err != nil {
			return nil, badPipes.With(err)
		}
	}
	if p.Texts, err = sign.ReadTexts(string(files["signs/texts.tsv"])); err != nil {
		return nil, badMessages.With(err)
	}
	for _, t := range p.Texts {
		for _, id := range t.Symbols {
			if !seen[id] {
				return nil, messageWithoutSymbol.With(t.Message, id)
			}
		}
	}
	for i := range p.Book.Classes {
		for _, id := range p.Book.Classes[i].Pictograms {
			if !seen[id] {
				return nil, classWithoutPictogram.With(&p.Book.Classes[i], id)
			}
		}
	}
	return p, nil
}

// Find returns a symbol of the pack; nil: it has none of that name.
func (p *Pack) Find(id string) *symbols.Symbol {
	if i := slices.IndexFunc(p.Symbols, func(s *symbols.Symbol) bool { return s.ID == id }); i >= 0 {
		return p.Symbols[i]
	}
	return nil
}

// Files returns the content of the pack by its names, to make another of it.
func (p *Pack) Files() map[string][]byte { return maps.Clone(p.files) }

// WithAnnex returns the content of a pack whose substances are those of the authority's table of harmonised
// classifications, and what of the table is not in it. Its error is a *refusal.Error.
func (p *Pack) WithAnnex(fields []string, records [][]string) (files map[string][]byte, read *hazard.Annex, err error) {
	if read, err = p.Book.ReadAnnex(fields, records); err != nil {
		return nil, nil, err
	}
	var substances bytes.Buffer
	if err := p.Book.WriteSubstances(&substances, read.Substances); err != nil {
		return nil, nil, err
	}
	files = p.Files()
	files["hazards/substances.tsv"] = substances.Bytes()
	return files, read, nil
}

// Write writes a pack, signed with a key; nil: unsigned, as a program keeps one for itself. Its errors are those of the
// writer, and a *refusal.Error where Open would not take it.
func Write(w io.Writer, about About, files map[string][]byte, key ed25519.PrivateKey) error {
	about.Format, about.Files = Format, map[string]string{}
	for name, data := range files {
		sum := sha256.Sum256(data)
		about.Files[name] = hex.EncodeToString(sum[:])
	}
	if !versions.MatchString(about.Version) {
		return badVersion.With(about.Version)
	}
	if _, err := read(about, files); err != nil {
		return err
	}
	told, err := json.MarshalIndent(about, "", "  ")
	if err != nil {
		return fmt.Errorf("write pack: %w", err)
	}
	packed := zip.NewWriter(w)
	add := func(name string, data []byte) error {
		entry, err := packed.Create(name)
		if err == nil {
			_, err = entry.Write(data)
		}
		if err != nil {
			return fmt.Errorf("write pack: %w", err)
		}
		return nil
	}
	if err := add(aboutName, told); err != nil {
		return err
	}
	if key != nil {
		if err := add(signatureName, ed25519.Sign(key, told)); err != nil {
			return err
		}
	}
	for _, name := range slices.Sorted(maps.Keys(files)) {
		if err := add(name, files[name]); err != nil {
			return err
		}
	}
	if err := packed.Close(); err != nil {
		return fmt.Errorf("write pack: %w", err)
	}
	return nil
}

// Open reads a pack that is signed with one of some keys. Its error is a *refusal.Error.
func Open(data []byte, keys []ed25519.PublicKey) (*Pack, error) {
	if len(keys) == 0 {
		return nil, noKey.With()
	}
	return open(data, func(told, signature []byte) error {
		if !slices.ContainsFunc(keys, func(key ed25519.PublicKey) bool {
			return ed25519.Verify(key, told,
				signature)
		}) {
			return badSignature.With()
		}
		return nil
	})
}

// Drawing returns the drawing of a symbol of a pack that this program kept for itself, without reading the rest. Its
// error is a *symbols.UnknownError where the pack has none of that name.
func Drawing(data []byte, id string) ([]byte, error) {
	packed, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, fmt.Errorf("read pack: %w", err)
	}
	file, err := packed.Open("symbols/" + id + ".svg")
	if err != nil {
		return nil, &symbols.UnknownError{ID: id}
	}
	defer file.Close()
	return io.ReadAll(io.LimitReader(file, mostOneFile))
}

// Kept reads a pack that this program kept for itself, signed or not. Its error is a *refusal.Error.
func Kept(data []byte) (*Pack, error) {
	return open(data, func([]byte, []byte) error { return nil })
}

func open(data []byte, trusted func(told, signature []byte) error) (*Pack, error) {
	if len(data) > MostBytes {
		return nil, tooLarge.With(len(data)>>20, MostBytes>>20)
	}
	packed, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, notPack.With()
	}
	if len(packed.File) > mostFiles {
		return nil, tooManyFiles.With(len(packed.File), mostFiles)
	}
	entries := map[string]*zip.File{}
	for _, entry := range packed.File {
		if entries[entry.Name] != nil {
			return nil, fileTwice.With(entry.Name)
		}
		entries[entry.Name] = entry
	}
	room := int64(mostUnpacked)
	take := func(name string) ([]byte, error) {
		entry := entries[name]
		if entry == nil {
			return nil, fileMissing.With(name)
		}
		from, err := entry.Open()
		if err != nil {
			return nil, fileBroken.With(name)
		}
		defer from.Close()
		most := min(room, mostOneFile)
		data, err := io.ReadAll(io.LimitReader(from, most+1)) // what the zip says of its sizes may be wrong
		if int64(len(data)) > most {
			return nil, fileTooLarge.With(name)
		}
		if err != nil {
			return nil, fileBroken.With(name)
		}
		room -= int64(len(data))
		return data, nil
	}
	told, err := take(aboutName)
	if err != nil {
		return nil, err
	}
	var signature []byte
	if entries[signatureName] != nil {
		if signature, err = take(signatureName); err != nil {
			return nil, err
		}
	}
	if err := trusted(told, signature); err != nil {
		return nil, err
	}
	var about About
	if err := json.Unmarshal(told, &about); err != nil || about.Format != Format {
		return nil, unknownFormat.With(about.Format, Format)
	}
	if !versions.MatchString(about.Version) {
		return nil, badVersion.With(about.Version)
	}
	files := map[string][]byte{}
	for name, sum := range about.Files {
		data, err := take(name)
		if err != nil {
			return nil, err
		}
		if is := sha256.Sum256(data); hex.EncodeToString(is[:]) != sum {
			return nil, fileChanged.With(name)
		}
		files[name] = data
	}
	for name := range entries {
		if _, known := files[name]; !known && name != aboutName && name != signatureName {
			return nil, fileNotSigned.With(name)
		}
	}
	return read(about, files)
}

// Key reads a public key, 64 hexadecimal digits.
func Key(text string) (ed25519.PublicKey, error) {
	key, err := hex.DecodeString(strings.TrimSpace(text))
	if err != nil || len(key) != ed25519.PublicKeySize {
		return nil, errors.New("a key of reference packs is 64 hexadecimal digits (Ed25519)")
	}
	return key, nil
}
