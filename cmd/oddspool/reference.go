package main

import (
	"bytes"
	"context"
	"crypto/ed25519"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"flag"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"oddspool/core/refusal"

	"oddspool/core/safety/hazard"
	"oddspool/core/safety/reference"
	"oddspool/internal/sources"
)

// referenceCommand makes reference packs and looks into them.
func referenceCommand(_ context.Context, c *console, args []string) error {
	var about reference.About
	var check, key, newKey, unpack, from, out, annex string
	err := flags(c, "reference", args, func(f *flag.FlagSet) {
		f.StringVar(&check, "check", "",
			"print what a pack in this `FILE` is, and in what it differs from the program's own, as JSON")
		f.StringVar(&unpack, "unpack", "",
			"write the files of the program's own pack, or of the one to -check, into this `FOLDER`")
		f.StringVar(&from, "from", "", "make a pack of the files in this `FOLDER`, as -unpack writes them")
		f.StringVar(&annex, "annex", "",
			"with -unpack: write the substances of the table of annex VI to CLP in this spreadsheet `FILE` in the "+
				"place of the program's own, and print what was not understood, as JSON")
		f.StringVar(&out, "out", "", "`FILE` for the pack that is made")
		f.StringVar(&about.Version, "version", "", "of the pack that is made, such as 2026.12")
		f.StringVar(&about.Date, "date", "", "on which it is issued, such as 2026-12-01")
		f.StringVar(&about.By, "by", "", "who issues it")
		f.StringVar(&about.Notes, "notes", "", "what is new in it, in a sentence")
		f.StringVar(&key, "key", "", "to make a pack: `FILE` with the key that signs it, as -new-key writes it; to "+
			"check one: the public key, 64 hexadecimal digits")
		f.StringVar(&newKey, "new-key", "",
			"write a new key that signs packs into this `FILE`, and print the public key that goes with it")
	})
	if err != nil {
		return err
	}
	switch {
	case newKey != "":
		return makeKey(c, newKey)
	case from != "":
		return makePack(about, from, out, key)
	case check == "" && unpack == "":
		return &usageError{"say -check FILE, -unpack FOLDER, -from FOLDER or -new-key FILE"}
	}
	pack := reference.Shipped()
	if check != "" {
		trusted, err := reference.Key(key)
		if err != nil {
			return &usageError{"-key: " + err.Error()}
		}
		data, err := os.ReadFile(check)
		if err != nil {
			return err
		}
		if pack, err = reference.Open(data, []ed25519.PublicKey{trusted}); err != nil {
			return &sentenceError{err.Error()}
		}
	}
	if annex != "" {
		if unpack == "" {
			return &usageError{"-annex needs -unpack FOLDER; -from FOLDER then makes a pack of it"}
		}
		return unpackAnnex(c, pack, annex, unpack)
	}
	if unpack != "" {
		return unpackPack(pack.Files(), unpack)
	}
	return printJSON(c, struct {
		Version string             `json:"version"`
		Date    string             `json:"date"`
		By      string             `json:"by"`
		Notes   string             `json:"notes"`
		Against string             `json:"against"`
		Changes []reference.Change `json:"changes"`
	}{pack.Version, pack.Date, pack.By, pack.Notes, reference.Shipped().Version,
		append([]reference.Change{}, reference.Compare(reference.Shipped(), pack)...)})
}

// unpackAnnex unpacks a pack with the substances of the authority's table, and prints what of the table is not in it.
func unpackAnnex(c *console, pack *reference.Pack, path, folder string) error {
	data, err := os.ReadFile(path)
	if err != nil {
		return err
	}
	table, err := sources.Read(data, sources.Settings{})
	if err != nil {
		return &sentenceError{err.Error()}
	}
	files, read, err := pack.WithAnnex(table.Fields, table.Records)
	if err != nil {
		return &sentenceError{err.Error()}
	}
	if err := unpackPack(files, folder); err != nil {
		return err
	}
	return printJSON(c, struct {
		Rows       int                `json:"rows"`
		Substances int                `json:"substances"`
		Told       []hazard.AnnexTold `json:"told"`
	}{len(table.Records), len(read.Substances), append([]hazard.AnnexTold{}, read.Told...)})
}

// unpackPack writes the files of a pack into a folder.
func unpackPack(files map[string][]byte, folder string) error {
	for name, data := range files {
		file := filepath.Join(folder, filepath.FromSlash(name))
		if err := os.MkdirAll(filepath.Dir(file), 0o755); err != nil {
			return err
		}
		if err := os.WriteFile(file, data, 0o644); err != nil {
			return err
		}
	}
	return nil
}

func makeKey(c *console, file string) error {
	public, private, err := ed25519.GenerateKey(rand.Reader)
	if err != nil {
		return err
	}
	to, err := os.OpenFile(file, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600) // one that is there signs packs already
	if err != nil {
		return err
	}
	_, err = fmt.Fprintln(to, hex.EncodeToString(private.Seed()))
	if err = errors.Join(err, to.Close()); err != nil {
		return err
	}
	_, err = fmt.Fprintln(c.out, hex.EncodeToString(public))
	return err
}

func makePack(about reference.About, from, out, key string) error {
	if out == "" || key == "" {
		return &usageError{"-from needs -out FILE and -key FILE"}
	}
	text, err := os.ReadFile(key)
	if err != nil {
		return err
	}
	seed, err := hex.DecodeString(strings.TrimSpace(string(text)))
	if err != nil || len(seed) != ed25519.SeedSize {
		return &sentenceError{fmt.Sprintf("%s is no key that signs packs; make one with -new-key.", key)}
	}
	files := map[string][]byte{}
	err = filepath.WalkDir(from, func(path string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() {
			return err
		}
		name, err := filepath.Rel(from, path)
		if err != nil {
			return err
		}
		files[filepath.ToSlash(name)], err = os.ReadFile(path)
		return err
	})
	if err != nil {
		return err
	}
	var pack bytes.Buffer
	if err := reference.Write(&pack, about, files, ed25519.NewKeyFromSeed(seed)); err != nil {
		if told := new(refusal.Error); errors.As(err, &told) {
			return &sentenceError{told.Error()}
		}
		return err
	}
	return os.WriteFile(out, pack.Bytes(), 0o644)
}
