package sources

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"net/http"
	"strings"
)

// kindOf says which kind of file bytes begin that is not separated text; JSON is only likely. A file is what it is, not
// what its name says.
func kindOf(head []byte) Kind {
	start := bytes.TrimLeft(bytes.TrimPrefix(head[:min(len(head), 4096)], []byte("\xef\xbb\xbf")), " \t\r\n")
	switch {
	case bytes.HasPrefix(start, []byte("PK\x03\x04")), isFlatODS(start):
		return XLSX
	case bytes.HasPrefix(head, []byte("SQLite format 3\x00")):
		return SQLite
	case looksLikeDBF(head):
		return DBF
	case looksLikeXML(start):
		return XML
	case len(start) > 0 && (start[0] == '{' || start[0] == '['), isCommentedJSON(start):
		return JSON
	}
	return Text
}

// compoundFile is how files of many streams begin: old workbooks, and packed ones that have a password.
const compoundFile = "\xd0\xcf\x11\xe0"

// oldWorkbook says what to do with a file of many streams.
func (s *Source) oldWorkbook() error {
	data := make([]byte, s.size)
	if _, err := s.file.ReadAt(data, 0); err != nil && !errors.Is(err, io.EOF) {
		return fmt.Errorf("read records: %w", err)
	}
	if bytes.Contains(data, []byte("E\x00n\x00c\x00r\x00y\x00p\x00t\x00e\x00d\x00P\x00a\x00c\x00k\x00a\x00g\x00e")) {
		return errPassword
	}
	return &FileError{Text: "This is an old workbook or document (XLS, DOC), which is not read. Save it as XLSX, or " +
		"the sheet as CSV, and choose that file."}
}

// isFlatODS tells whether bytes begin an OpenDocument sheet that is one XML file (ISO/IEC 26300-1, 3.1.2).
func isFlatODS(start []byte) bool {
	return looksLikeXML(start) && bytes.Contains(start, []byte(":document ")) &&
		bytes.Contains(start, []byte("application/vnd.oasis.opendocument.spreadsheet"))
}

// isCommentedJSON tells whether bytes begin with comments and then JSON, so that the comments are told of.
func isCommentedJSON(start []byte) bool {
	for {
		var behind bool
		switch {
		case bytes.HasPrefix(start, []byte("//")):
			_, start, behind = bytes.Cut(start, []byte("\n"))
		case bytes.HasPrefix(start, []byte("/*")):
			_, start, behind = bytes.Cut(start, []byte("*/"))
		default:
			return false
		}
		if start = bytes.TrimLeft(start, " \t\r\n"); behind && len(start) > 0 && (start[0] == '{' || start[0] == '[') {
			return true
		}
	}
}

// looksLikeXML tells whether bytes begin as XML does; pages of the web are told of apart.
func looksLikeXML(start []byte) bool {
	lower := bytes.ToLower(start)
	for _, page := range []string{"<!doctype html", "<html"} {
		if bytes.HasPrefix(lower, []byte(page)) {
			return false
		}
	}
	if bytes.HasPrefix(lower, []byte("<?xml")) || bytes.HasPrefix(lower, []byte("<!--")) ||
		bytes.HasPrefix(lower, []byte("<!doctype ")) {
		return true
	}
	// UTF-16 with its mark
	if bytes.HasPrefix(start, []byte("\xff\xfe<\x00?\x00")) || bytes.HasPrefix(start, []byte("\xfe\xff\x00<\x00?")) {
		return true
	}
	return len(start) > 2 && start[0] == '<' && (start[1] >= 'a' && start[1] <= 'z' || start[1] >= 'A' &&
		start[1] <= 'Z' || start[1] == '_') && bytes.ContainsRune(start, '>')
}

// otherThanRows says what a file is by its first bytes that is none of those that are read, and what to do; empty: it
// may be text.
func otherThanRows(head []byte) (says string) {
	start := bytes.TrimLeft(head[:min(len(head), 4096)], " \t\r\n")
	lower := bytes.ToLower(start)
	for _, kind := range []struct{ begins, says string }{
		{"%pdf-", "This is a PDF: a picture of a table, not the table. Export the records as CSV where the PDF " +
			"was made."},
		{"%!ps", "This is PostScript, not records. Export them as CSV where it was made."},
		{"{\\rtf", "This is a text document (RTF). Save its table as CSV and choose that file."},
		{"id;p", "This is a sheet as SYLK, which is not read. Save it as XLSX or CSV and choose that file."},
		{"table\n0,1", "This is a sheet as DIF, which is not read. Save it as XLSX or CSV and choose that file."},
		{"table\r\n0,1", "This is a sheet as DIF, which is not read. Save it as XLSX or CSV and choose that file."},
		{"\x1f\x8b", "This is packed (gzip). Unpack it, and choose what was in it."},
		{"<!doctype", "This is a web page, not records. Export the table as CSV and choose that file."},
		{"<html", "This is a web page, not records. Export the table as CSV and choose that file."},
	} {
		if bytes.HasPrefix(lower, []byte(kind.begins)) {
			return kind.says
		}
	}
	switch kind, _, _ := strings.Cut(http.DetectContentType(head), ";"); {
	case strings.HasPrefix(kind, "image/"):
		return "This is a picture (" + kind + "), not records."
	case strings.HasPrefix(kind, "audio/"), strings.HasPrefix(kind, "video/"), strings.HasPrefix(kind, "font/"):
		return "This is no text but " + kind + "."
	}
	return ""
}
