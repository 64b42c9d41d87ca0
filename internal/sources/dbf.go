package sources

import (
	"bufio"
	"encoding/binary"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"
	"time"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/japanese"
	"golang.org/x/text/encoding/simplifiedchinese"
)

// dbfPages are the encodings that a table file says by a number in its byte 29.
var dbfPages = map[byte]struct {
	name string
	is   encoding.Encoding
}{
	0x01: {"CP437", charmap.CodePage437}, 0x02: {"CP850", charmap.CodePage850},
	0x03: {"Windows-1252", charmap.Windows1252},
	0x57: {"Windows-1252", charmap.Windows1252}, 0x64: {"CP852", charmap.CodePage852},
	0x65: {"CP866", charmap.CodePage866},
	0x66: {"CP865", charmap.CodePage865}, 0x26: {"CP866", charmap.CodePage866}, 0x7b: {"Shift-JIS", japanese.ShiftJIS},
	0x4d: {"GB18030", simplifiedchinese.GBK},
	0xc8: {"Windows-1250", charmap.Windows1250}, 0xc9: {"Windows-1251", charmap.Windows1251},
	0xca: {"Windows-1254", charmap.Windows1254},
	0xcb: {"Windows-1253", charmap.Windows1253}, 0xcc: {"Windows-1257", charmap.Windows1257},
	0x08: {"CP865", charmap.CodePage865}, 0x09: {"CP437", charmap.CodePage437}, 0x0a: {"CP850", charmap.CodePage850},
	0x0d: {"CP437", charmap.CodePage437},
	0x0e: {"CP850", charmap.CodePage850}, 0x0f: {"CP437", charmap.CodePage437}, 0x10: {"CP850", charmap.CodePage850},
	0x11: {"CP437", charmap.CodePage437},
	0x12: {"CP850", charmap.CodePage850}, 0x14: {"CP850", charmap.CodePage850}, 0x16: {"CP437", charmap.CodePage437},
	0x17: {"CP865", charmap.CodePage865},
	0x18: {"CP437", charmap.CodePage437}, 0x19: {"CP437", charmap.CodePage437}, 0x1b: {"CP437", charmap.CodePage437},
	0x1d: {"CP850", charmap.CodePage850},
	0x1f: {"CP852", charmap.CodePage852}, 0x22: {"CP852", charmap.CodePage852}, 0x23: {"CP852", charmap.CodePage852},
	0x25: {"CP850", charmap.CodePage850},
	0x37: {"CP850", charmap.CodePage850}, 0x40: {"CP852", charmap.CodePage852},
}

// dbfPageNamed finds an encoding that was chosen by name.
func dbfPageNamed(name Encoding) encoding.Encoding {
	for _, page := range dbfPages {
		if strings.EqualFold(page.name, string(name)) {
			return page.is
		}
	}
	return encodingOf(name)
}

// A dbfField is one column of a table file.
type dbfField struct {
	name     string
	kind     byte
	at, size int
	decimals int
}

// dbf is what the head of a table file says.
type dbf struct {
	records, head, size int
	fields              []dbfField
	memos               int
}

// looksLikeDBF tells whether bytes begin as a table file does: a known version, a date, and a length of the head that
// its fields end at.
func looksLikeDBF(head []byte) bool {
	if len(head) < 65 {
		return false
	}
	switch head[0] {
	case 0x02, 0x03, 0x04, 0x05, 0x30, 0x31, 0x32, 0x43, 0x63, 0x83, 0x8b, 0x8e, 0xcb, 0xf5, 0xfb:
	default:
		return false
	}
	length, record := int(binary.LittleEndian.Uint16(head[8:])), int(binary.LittleEndian.Uint16(head[10:]))
	return head[2] <= 12 && head[3] <= 31 && length >= 65 && record >= 2 &&
		(length > len(head) || head[length-1] == 0x0d || (length-33)%32 != 0 || head[length-2] == 0x0d)
}

// findDBF opens a desktop table file (dBASE III to V, and what writes the same).
func (s *Source) findDBF([]byte) error {
	s.Kind = DBF
	start := make([]byte, 32)
	if _, err := s.file.ReadAt(start, 0); err != nil {
		return brokenDBF(0)
	}
	d := &dbf{records: int(binary.LittleEndian.Uint32(start[4:])), head: int(binary.LittleEndian.Uint16(start[8:])),
		size: int(binary.LittleEndian.Uint16(start[10:]))}
	head := make([]byte, d.head)
	if _, err := s.file.ReadAt(head, 0); err != nil {
		return brokenDBF(0)
	}
	var is encoding.Encoding // nil: found from its letters
	if page, known := dbfPages[start[29]]; known && s.Settings.Encoding == "" {
		s.Settings.Encoding = Encoding(page.name)
	}
	if chosen := s.Settings.Encoding; chosen == UTF8 {
		is = encoding.Nop
	} else if is = dbfPageNamed(chosen); is == nil && chosen != "" {
		return &FileError{Text: fmt.Sprintf("The encoding %q is not known; choose CP437, %s.", chosen, names())}
	}
	for at, place := 32, 1; at+32 <= len(head) && head[at] != 0x0d; at += 32 {
		f := dbfField{kind: head[at+11], at: place, size: int(head[at+16]), decimals: int(head[at+17])}
		name, _, _ := strings.Cut(string(head[at:at+11]), "\x00")
		f.name = strings.TrimSpace(name)
		if f.kind == 'C' { // long texts have their length in two bytes
			f.size += f.decimals << 8
		}
		place += f.size
		if place > d.size || f.size == 0 {
			return brokenDBF(0)
		}
		if f.kind == 'M' || f.kind == 'G' || f.kind == 'P' {
			d.memos++
		}
		if f.kind != '0' { // marks what is empty, and is none of the table's own
			d.fields = append(d.fields, f)
		}
	}
	if len(d.fields) == 0 {
		return &FileError{Text: "The table file has no fields."}
	}
	if len(d.fields) > MostFields {
		return &FileError{Text: fmt.Sprintf("The table file has %d fields; up to %d are read.", len(d.fields),
			MostFields)}
	}
	if is == nil {
		is = s.guessDBF(d)
	}
	s.named = true
	s.rows = func() (rowReader, error) {
		in := bufio.NewReaderSize(io.NewSectionReader(s.file, int64(d.head), s.size-int64(d.head)), 256<<10)
		return &dbfRows{dbf: d, in: in, decoder: is.NewDecoder(), record: make([]byte, d.size)}, nil
	}
	return nil
}

// guessDBF finds the encoding of a table file that does not tell it.
func (s *Source) guessDBF(d *dbf) encoding.Encoding {
	const enough = 64 << 10
	var sample []byte
	for in, record := bufio.NewReader(io.NewSectionReader(s.file, int64(d.head), s.size-int64(d.head))),
		make([]byte, d.size); len(sample) < enough; {
		if _, err := io.ReadFull(in, record); err != nil {
			break
		}
		for _, f := range d.fields {
			if value := record[f.at : f.at+f.size]; f.kind == 'C' && !ascii(value) {
				sample = append(append(sample, value...), '\n')
			}
		}
	}
	if len(sample) == 0 {
		s.Settings.Encoding = CodePage850
		return charmap.CodePage850
	}
	if _, broken, _ := sequences(sample); broken == 0 {
		s.Settings.Encoding = UTF8
		return encoding.Nop
	}
	s.Settings.Encoding = s.likeliest(sample, 0)
	return encodingOf(s.Settings.Encoding)
}

func brokenDBF(record int) error {
	if record > 0 {
		return &FileError{Row: record, Text: "The table file is broken off here. Copy it again from where it is kept."}
	}
	return &FileError{Text: "The table file's head is damaged or broken off. Copy it again from where it is kept."}
}

type dbfRows struct {
	*dbf
	in      *bufio.Reader
	decoder *encoding.Decoder
	record  []byte
	number  int // of the record, from 1
	deleted int
	started bool
}

func (r *dbfRows) next() ([]string, int, error) {
	if !r.started {
		r.started = true
		var names []string
		for _, f := range r.fields {
			name, err := r.decoder.String(f.name)
			if err != nil {
				name = f.name
			}
			names = append(names, name)
		}
		return names, 0, nil
	}
	for r.number < r.records {
		r.number++
		if _, err := io.ReadFull(r.in, r.record); err != nil {
			return nil, 0, brokenDBF(r.number)
		}
		if r.record[0] == '*' {
			r.deleted++
			continue
		}
		row := make([]string, len(r.fields))
		for i, f := range r.fields {
			row[i] = r.value(f, r.record[f.at:f.at+f.size])
		}
		if says(row) {
			return row, r.number, nil
		}
	}
	return nil, 0, io.EOF
}

// value returns what a field says. Dates are written as ISO 8601 has them.
func (r *dbfRows) value(f dbfField, raw []byte) string {
	switch f.kind {
	case 'D':
		if text := strings.Trim(string(raw), " \x00"); len(text) == 8 && digitsOnly(text) {
			return text[:4] + "-" + text[4:6] + "-" + text[6:]
		}
		return ""
	case 'L':
		switch raw[0] {
		case 'T', 't', 'Y', 'y':
			return "yes"
		case 'F', 'f', 'N', 'n':
			return "no"
		}
		return ""
	case 'I', '+':
		if len(raw) == 4 {
			return strconv.Itoa(int(int32(binary.LittleEndian.Uint32(raw))))
		}
	case 'B', 'O':
		if len(raw) == 8 {
			return strconv.FormatFloat(math.Float64frombits(binary.LittleEndian.Uint64(raw)), 'f', -1, 64)
		}
	case 'Y': // money, in ten-thousandths
		if len(raw) == 8 {
			n := int64(binary.LittleEndian.Uint64(raw))
			sign := ""
			if n < 0 {
				sign, n = "-", -n
			}
			return fmt.Sprintf("%s%d.%04d", sign, n/10000, n%10000)
		}
	case 'T', '@':
		if len(raw) == 8 {
			day, ms := int64(binary.LittleEndian.Uint32(raw)), int64(binary.LittleEndian.Uint32(raw[4:]))
			if day == 0 {
				return ""
			}
			const unixDay = 2440588 // the Julian day of 1 January 1970
			return time.Unix((day-unixDay)*86400,
				0).UTC().Add(time.Duration(ms) * time.Millisecond).Format("2006-01-02 15:04:05")
		}
	case 'M', 'G', 'P':
		return ""
	}
	text, err := r.decoder.String(string(raw))
	if err != nil {
		text = string(raw)
	}
	return strings.Trim(text, " \x00")
}

func (r *dbfRows) report(s *Source) {
	if r.deleted > 0 {
		s.note("%s deleted in the table file and left out.",
			count(r.deleted, "record is marked as", "records are marked as"))
	}
	if r.memos > 0 {
		s.note("%s in a file beside the table and stay empty.",
			count(r.memos, "field keeps its words", "fields keep their words"))
	}
}
