package sources

import (
	"bytes"
	"encoding/json"
	"net/http"
	"strings"
)

// otherThanRows says what a file is by its first bytes that is no text with separators, and what to do; empty: it may be
// such text, or JSON, for which all must be looked at. A file is what it is, not what its name says.
func otherThanRows(head []byte) (says string, maybeJSON bool) {
	start := bytes.TrimLeft(head[:min(len(head), 4096)], " \t\r\n")
	lower := bytes.ToLower(start)
	for _, kind := range []struct{ begins, says string }{
		{"%pdf-", "This is a PDF: a picture of a table, not the table. Export the records as CSV where the PDF was made."},
		{"%!ps", "This is PostScript, not records. Export them as CSV where it was made."},
		{"{\\rtf", "This is a text document (RTF). Save its table as CSV and choose that file."},
		{"pk\x03\x04", "This is a workbook or archive, which is not read yet. Save the sheet as CSV and choose that file."},
		{"\xd0\xcf\x11\xe0", "This is an old workbook or document, which is not read. Save the sheet as CSV and choose that file."},
		{"\x1f\x8b", "This is packed (gzip). Unpack it, and choose what was in it."},
		{"sqlite format 3\x00", "This is a database file, which is not read yet. Export the table as CSV and choose that file."},
		{"<?xml", "This is XML, which is not read. Export the records as CSV and choose that file."},
		{"<svg", "This is a drawing (SVG), not records."},
		{"<!doctype", "This is a web page, not records. Export the table as CSV and choose that file."},
		{"<html", "This is a web page, not records. Export the table as CSV and choose that file."},
	} {
		if bytes.HasPrefix(lower, []byte(kind.begins)) {
			if strings.Contains(kind.says, "XML") && bytes.Contains(lower, []byte("<svg")) {
				return "This is a drawing (SVG), not records.", false
			}
			return kind.says, false
		}
	}
	switch kind, _, _ := strings.Cut(http.DetectContentType(head), ";"); {
	case strings.HasPrefix(kind, "image/"):
		return "This is a picture (" + kind + "), not records.", false
	case strings.HasPrefix(kind, "audio/"), strings.HasPrefix(kind, "video/"), strings.HasPrefix(kind, "font/"):
		return "This is no text but " + kind + ".", false
	}
	return "", len(start) > 0 && (start[0] == '{' || start[0] == '[')
}

// jsonKind says which kind of JSON a file is; empty: it only begins like some.
func jsonKind(data []byte) string {
	const whole = "This is JSON, which is not read yet. Save the records as CSV and choose that file."
	data = bytes.TrimSpace(data)
	if json.Valid(data) {
		return whole
	}
	if line, _, more := bytes.Cut(data, []byte("\n")); more && json.Valid(line) {
		return "This is JSON, one record a line (NDJSON), which is not read yet. Save the records as CSV and choose that file."
	}
	decoder := json.NewDecoder(bytes.NewReader(data)) // cut off, or with a mistake further on
	first, _ := decoder.Token()
	second, err := decoder.Token()
	if _, isName := second.(string); err == nil && (first == json.Delim('{') && isName || first == json.Delim('[') && second == json.Delim('{')) {
		return whole
	}
	return ""
}
