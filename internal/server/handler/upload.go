package handler

import (
	"cmp"
	"errors"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"path/filepath"
	"strconv"
	"strings"

	"oddspool/internal/sources"
)

// How much a form holds beside its file.
const (
	mostChoice = 1000 // bytes of a choice
	mostName   = 200  // of a name
)

// An Upload is a file with how it is to be read.
type Upload struct {
	Name     string
	Data     []byte
	Settings sources.Settings
	Replaces int64 // set; 0: none
	Anyway   bool  // though fields are gone that designs use
}

// ReadUpload reads a form with one file, and refuses another one.
func ReadUpload(form *multipart.Reader) (*Upload, error) {
	u := &Upload{}
	for {
		part, err := form.NextPart()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, notWhole(err)
		}
		if part.FormName() == "file" {
			if u.Data != nil {
				return nil, oneFile.With()
			}
			if u.Data, err = io.ReadAll(part); err != nil {
				return nil, notWhole(err)
			}
			if u.Name == "" {
				u.Name = filepath.Base(part.FileName())
			}
			continue
		}
		data, err := io.ReadAll(io.LimitReader(part, mostChoice+1))
		if err != nil {
			return nil, notWhole(err)
		}
		text := string(data)
		if why := BadText(text); len(data) > mostChoice || why != "" {
			return nil, badPart.With(part.FormName(), cmp.Or(why, "is too long"))
		}
		switch part.FormName() {
		case "name":
			u.Name = strings.TrimSpace(text)
		case "encoding":
			u.Settings.Encoding = sources.Encoding(text)
		case "separator":
			u.Settings.Separator = text
		case "quotes":
			u.Settings.Quotes = sources.Quotes(text)
		case "header":
			u.Settings.Header = sources.Header(text)
		case "sheet":
			u.Settings.Sheet = text
		case "table":
			u.Settings.Table = text
		case "columns":
			u.Settings.Columns = text
		case "replaces":
			if u.Replaces, err = strconv.ParseInt(text, 10, 64); err != nil || u.Replaces <= 0 {
				return nil, nothingToReplace.With(text)
			}
		case "anyway":
			u.Anyway = text == "yes"
		default:
			return nil, unknownChoice.With(part.FormName())
		}
	}
	if u.Name = strings.ToValidUTF8(strings.ReplaceAll(u.Name, "\x00", ""), ""); len(u.Name) > mostName {
		u.Name = strings.ToValidUTF8(u.Name[:mostName], "")
	}
	return u, nil
}

// notWhole says that an upload broke off, or is none; what is too large keeps its own words.
func notWhole(err error) error {
	if large := new(http.MaxBytesError); errors.As(err, &large) {
		return fmt.Errorf("read upload: %w", err)
	}
	return notWholeFile.With()
}
