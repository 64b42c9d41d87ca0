package sources

import (
	"bufio"
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"strings"

	"golang.org/x/text/encoding/htmlindex"
	"golang.org/x/text/encoding/unicode"
)

// findXML opens XML 1.0: elements of one name that stand beside each other are records, their attributes and elements
// values.
func (s *Source) findXML([]byte) error {
	s.Kind = XML
	if s.Settings.Encoding == "" {
		s.Settings.Encoding = UTF8 // unless it says another
	}
	found, err := s.walkXML()
	if err != nil {
		return err
	}
	if err := s.chooseTable(found); err != nil {
		return err
	}
	s.named = true
	names := newColumns()
	for read := s.xmlRecords(); err == nil; {
		var t *tree
		if t, err = read(); err == nil {
			if names.learn(t); names.err != nil {
				return names.err
			}
		}
	}
	if !errors.Is(err, io.EOF) {
		return err
	}
	if len(names.names) == 0 {
		return &FileError{Text: fmt.Sprintf("The elements %s have no values.", s.Settings.Table)}
	}
	s.rows = func() (rowReader, error) { return &treeRows{columns: names, read: s.xmlRecords()}, nil }
	return nil
}

func (s *Source) xmlDecoder() *xml.Decoder {
	var in io.Reader = bufio.NewReaderSize(io.NewSectionReader(s.file, 0, s.size), 256<<10)
	mark := make([]byte, 2)
	_, _ = s.file.ReadAt(mark, 0)
	wide := bytes.Equal(mark, []byte("\xff\xfe")) || bytes.Equal(mark, []byte("\xfe\xff"))
	if wide { // its mark says how its letters are
		in = unicode.UTF16(unicode.LittleEndian, unicode.ExpectBOM).NewDecoder().Reader(in)
	}
	decoder := xml.NewDecoder(in)
	decoder.CharsetReader = func(label string, in io.Reader) (io.Reader, error) {
		if wide {
			return in, nil
		}
		is, err := htmlindex.Get(label)
		if err != nil {
			return nil, &encodingError{label}
		}
		s.Settings.Encoding = Encoding(strings.ToUpper(label))
		return is.NewDecoder().Reader(in), nil
	}
	return decoder
}

func brokenXML(decoder *xml.Decoder, err error) error {
	line, _ := decoder.InputPos()
	if errors.Is(err, io.EOF) || strings.Contains(err.Error(), "unexpected EOF") {
		return &FileError{Line: line, Text: "The XML is broken off: it ends before its elements are closed. Export " +
			"it anew."}
	}
	text := "The XML has a mistake here, and what follows cannot be told. Have it written anew."
	if unknown := new(encodingError); errors.As(err, &unknown) {
		text = fmt.Sprintf("The XML says that its encoding is %q, which is not known. Save it as UTF-8.", unknown.name)
	}
	if syntax := new(xml.SyntaxError); errors.As(err, &syntax) {
		line, text = syntax.Line, "The XML has a mistake here: "+xmlMistake(syntax.Msg)+"."
	}
	return &FileError{Line: line, Text: text}
}

// An encodingError says that nothing is known of an encoding.
type encodingError struct{ name string }

func (e *encodingError) Error() string { return "unknown encoding " + e.name }

// xmlMistake says in words of ours what the XML library says.
func xmlMistake(says string) string {
	quoted := func(from string) string { return strings.TrimSuffix(strings.TrimPrefix(says, from), " (no semicolon)") }
	switch {
	case strings.Contains(says, "closed by"), strings.Contains(says, "unexpected end element"):
		return "an element ends that is not the one that began last"
	case strings.HasPrefix(says, "invalid character entity & "),
		strings.HasPrefix(says, "invalid character entity &; "), strings.HasSuffix(says, "(no semicolon)"):
		return "“&” stands alone. Write it as &amp;"
	case strings.HasPrefix(says, "invalid character entity "):
		return "“" + quoted("invalid character entity ") + "” is no character of XML"
	case strings.HasPrefix(says, "illegal character code "):
		return "the control character " + quoted("illegal character code ") + " stands in it, which XML does not have"
	case strings.Contains(says, "invalid UTF-8"):
		return "it is not UTF-8. Choose or name its encoding"
	case strings.Contains(says, "attribute"):
		return "an attribute needs a name, “=” and a value between quotation marks"
	case strings.Contains(says, "]]>"), strings.Contains(says, "CDATA"):
		return "a CDATA section does not begin or end as it should"
	case strings.Contains(says, "<?xml"), strings.Contains(says, "xml declaration"), strings.Contains(says, "version"):
		return "its declaration is not that of XML 1.0"
	}
	return "an element, comment or instruction is not written as XML has it"
}

// walkXML counts the elements that stand beside others of their name.
func (s *Source) walkXML() (*lists, error) {
	type level struct {
		path     string
		children map[string]int
	}
	found := &lists{}
	open := []level{{children: map[string]int{}}}
	roots, holds := 0, map[string]bool{}
	for decoder := s.xmlDecoder(); ; {
		token, err := decoder.Token()
		if errors.Is(err, io.EOF) && len(open) == 1 && roots > 0 {
			break
		}
		if err != nil {
			return nil, brokenXML(decoder, err)
		}
		switch t := token.(type) {
		case xml.StartElement:
			if len(open) == 1 {
				if roots++; roots > 1 {
					line, _ := decoder.InputPos()
					return nil, &FileError{Line: line,
						Text: fmt.Sprintf("A second outermost element, <%s>, begins here; XML has one. Have it "+
							"written anew, or put both into one.", t.Name.Local)}
				}
				if t.Name.Space == "urn:schemas-microsoft-com:office:spreadsheet" && t.Name.Local == "Workbook" {
					return nil, &FileError{Text: "This is a workbook as XML (SpreadsheetML of 2003), which is not " +
						"read. Save it as XLSX and choose that file."}
				}
			}
			if strings.EqualFold(t.Name.Local, "svg") && len(open) == 1 {
				return nil, &FileError{Text: "This is a drawing (SVG), not records."}
			}
			top := &open[len(open)-1]
			top.children[t.Name.Local]++
			path := top.path + "/" + t.Name.Local
			holds[top.path] = true
			for _, a := range t.Attr {
				holds[path] = holds[path] || a.Name.Space != "xmlns"
			}
			if open = append(open, level{path, map[string]int{}}); len(open) > mostDepth {
				return nil, &FileError{Text: fmt.Sprintf("The XML has more than %d levels.", mostDepth)}
			}
		case xml.EndElement:
			top := open[len(open)-1]
			open = open[:len(open)-1]
			for name, n := range top.children {
				if n > 1 || found.counts[top.path+"/"+name] > 0 {
					found.add(top.path+"/"+name, n)
				}
			}
		}
	}
	// Values that stand several times are no records: those have attributes or elements of their own.
	records := &lists{}
	for _, path := range found.paths {
		if holds[path] {
			records.add(path, found.counts[path])
		}
	}
	if len(records.paths) == 0 {
		records = found
	}
	if len(records.paths) == 0 { // no element stands twice: what is in the outermost one is one record
		for name := range open[0].children {
			records.add("/"+name, 1)
		}
	}
	return records, nil
}

// xmlRecords reads the elements at the chosen path one by one.
func (s *Source) xmlRecords() func() (*tree, error) {
	decoder := s.xmlDecoder()
	path := ""
	var around []*tree // what the elements that hold the records say of themselves, before these
	said := ""         // of an element that has none in it
	return func() (*tree, error) {
		for {
			token, err := decoder.Token()
			if errors.Is(err, io.EOF) {
				return nil, io.EOF
			}
			if err != nil {
				return nil, brokenXML(decoder, err)
			}
			switch t := token.(type) {
			case xml.StartElement:
				if path+"/"+t.Name.Local == s.Settings.Table {
					record := &tree{}
					err := readElement(decoder, record, "", t)
					for i := len(around) - 1; i >= 0; i-- {
						record.names, record.values = append(record.names, around[i].names...),
							append(record.values, around[i].values...)
					}
					return record, err
				}
				path += "/" + t.Name.Local
				said = ""
				about := &tree{}
				for _, a := range t.Attr {
					if a.Name.Space != "xmlns" && a.Name.Local != "xmlns" {
						about.put(inside(t.Name.Local, a.Name.Local), a.Value)
					}
				}
				around = append(around, about)
			case xml.CharData:
				said += string(t)
			case xml.EndElement:
				path = path[:strings.LastIndex(path, "/")]
				around = around[:len(around)-1]
				if holder := path[strings.LastIndex(path, "/")+1:]; len(around) > 0 && strings.TrimSpace(said) != "" {
					around[len(around)-1].put(inside(holder, t.Name.Local), strings.TrimSpace(said))
				}
				said = ""
			}
		}
	}
}

// readElement puts an element's attributes and what is in it into a tree.
func readElement(decoder *xml.Decoder, record *tree, name string, start xml.StartElement) error {
	for _, a := range start.Attr {
		if a.Name.Space != "xmlns" && a.Name.Local != "xmlns" {
			record.put(inside(name, a.Name.Local), a.Value)
		}
	}
	var text strings.Builder
	elements := 0
	for {
		token, err := decoder.Token()
		if err != nil {
			return brokenXML(decoder, err)
		}
		switch t := token.(type) {
		case xml.StartElement:
			elements++
			if err := readElement(decoder, record, inside(name, t.Name.Local), t); err != nil {
				return err
			}
		case xml.CharData:
			text.Write(t)
		case xml.EndElement:
			said := text.String()
			if elements > 0 || strings.TrimSpace(said) == "" && strings.Contains(said, "\n") {
				said = strings.TrimSpace(said) // the white space between elements
			}
			if name == "" {
				name = "text"
			}
			if said != "" || elements == 0 && len(start.Attr) == 0 {
				record.put(name, said)
			}
			return nil
		}
	}
}
