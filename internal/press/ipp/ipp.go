// Package ipp encodes and decodes messages of the Internet Printing Protocol (RFC 8010), for the
// client that prints and for the stand-in printer alike.
package ipp

import (
	"encoding/binary"
	"math"
	"strings"
	"unicode/utf8"
)

// A Tag says what follows: the start of a group, or the type of a value (RFC 8010, 3.5).
type Tag byte

// Delimiter tags and value tags.
const (
	OperationGroup   Tag = 0x01
	JobGroup         Tag = 0x02
	endOfAttributes  Tag = 0x03
	PrinterGroup     Tag = 0x04
	UnsupportedGroup Tag = 0x05

	UnsupportedValue Tag = 0x10
	UnknownValue     Tag = 0x12
	NoValue          Tag = 0x13

	Integer     Tag = 0x21
	Boolean     Tag = 0x22
	Enum        Tag = 0x23
	OctetString Tag = 0x30
	DateTime    Tag = 0x31
	Resolution  Tag = 0x32
	Range       Tag = 0x33
	collection  Tag = 0x34
	endOfMember Tag = 0x37
	Text        Tag = 0x41
	Name        Tag = 0x42
	Keyword     Tag = 0x44
	URI         Tag = 0x45
	Charset     Tag = 0x47
	Language    Tag = 0x48
	MIMEType    Tag = 0x49
	memberName  Tag = 0x4a
	Collection      = collection
)

// An Op is an operation (RFC 8011, 5.4.15).
type Op uint16

// The operations that label printing needs.
const (
	PrintJob             Op = 0x0002
	ValidateJob          Op = 0x0004
	CreateJob            Op = 0x0005
	SendDocument         Op = 0x0006
	CancelJob            Op = 0x0008
	GetJobAttributes     Op = 0x0009
	GetJobs              Op = 0x000a
	GetPrinterAttributes Op = 0x000b
	CancelMyJobs         Op = 0x0039
	CloseJob             Op = 0x003b
	IdentifyPrinter      Op = 0x003c
)

// A Status is the outcome of an operation (RFC 8011, appendix B).
type Status uint16

// The outcomes that are used.
const (
	OK                   Status = 0x0000
	OKIgnored            Status = 0x0001
	BadRequest           Status = 0x0400
	NotPossible          Status = 0x0404
	NotFound             Status = 0x0406
	TooLarge             Status = 0x0408
	FormatNotSupported   Status = 0x040a
	AttributesNotSupport Status = 0x040b
	CharsetNotSupported  Status = 0x040d
	DocumentFormatError  Status = 0x0411
	ServerError          Status = 0x0500
	OpNotSupported       Status = 0x0501
	VersionNotSupported  Status = 0x0503
	Busy                 Status = 0x0507
)

// Succeeded tells whether the operation was done.
func (s Status) Succeeded() bool { return s < 0x0100 }

// A Value is one value of an attribute. Which member counts depends on its tag: Int for integers,
// enums and booleans, Ints for ranges (from, to) and resolutions (across, along, unit), Members
// for collections, Text for all others, octets and dates included.
type Value struct {
	Tag     Tag
	Int     int
	Ints    [3]int
	Text    string
	Members []Attribute
}

// An Attribute has a name and one value or more.
type Attribute struct {
	Name   string
	Values []Value
}

// A Group is a list of attributes about one thing: the operation, a job, the printer.
type Group struct {
	Tag        Tag
	Attributes []Attribute
}

// A Message is a request or a response. Its document, if any, follows it in the stream.
type Message struct {
	Major, Minor byte
	Code         uint16 // an Op or a Status
	ID           uint32
	Groups       []Group
}

// Int makes a value of tag Integer, Enum or Boolean.
func Int(tag Tag, n int) Value { return Value{Tag: tag, Int: n} }

// Str makes a value of a tag whose value is text.
func Str(tag Tag, text string) Value { return Value{Tag: tag, Text: text} }

// Members makes a collection.
func Members(attributes ...Attribute) Value { return Value{Tag: Collection, Members: attributes} }

// Attr makes an attribute.
func Attr(name string, values ...Value) Attribute { return Attribute{name, values} }

// Keywords makes an attribute of keywords.
func Keywords(name string, words ...string) Attribute {
	a := Attribute{Name: name}
	for _, word := range words {
		a.Values = append(a.Values, Str(Keyword, word))
	}
	return a
}

// Find returns the values of an attribute in the first group of a kind; nil when it is not there.
func (m *Message) Find(group Tag, name string) []Value {
	for _, g := range m.Groups {
		if g.Tag == group {
			return g.Find(name)
		}
	}
	return nil
}

// Find returns the values of an attribute; nil when it is not there.
func (g Group) Find(name string) []Value { return find(g.Attributes, name) }

// Member returns the first value of a collection's member, and whether it has one.
func (v Value) Member(name string) (Value, bool) {
	if values := find(v.Members, name); len(values) > 0 {
		return values[0], true
	}
	return Value{}, false
}

func find(attributes []Attribute, name string) []Value {
	for _, a := range attributes {
		if a.Name == name {
			return a.Values
		}
	}
	return nil
}

// Append appends the encoded message.
func (m *Message) Append(dst []byte) []byte {
	dst = append(dst, m.Major, m.Minor)
	dst = binary.BigEndian.AppendUint16(dst, m.Code)
	dst = binary.BigEndian.AppendUint32(dst, m.ID)
	for _, g := range m.Groups {
		dst = append(dst, byte(g.Tag))
		for _, a := range g.Attributes {
			dst = appendAttribute(dst, a)
		}
	}
	return append(dst, byte(endOfAttributes))
}

func appendAttribute(dst []byte, a Attribute) []byte {
	for i, v := range a.Values {
		name := a.Name
		if i > 0 {
			name = "" // a further value of the same attribute
		}
		dst = appendValue(dst, name, v)
	}
	return dst
}

func appendValue(dst []byte, name string, v Value) []byte {
	dst = append(dst, byte(v.Tag))
	dst = appendShort(dst, name)
	switch v.Tag {
	case Integer, Enum:
		dst = binary.BigEndian.AppendUint16(dst, 4)
		return binary.BigEndian.AppendUint32(dst, uint32(int32(v.Int)))
	case Boolean:
		return append(dst, 0, 1, byte(v.Int&1))
	case Resolution:
		dst = binary.BigEndian.AppendUint16(dst, 9)
		dst = binary.BigEndian.AppendUint32(dst, uint32(int32(v.Ints[0])))
		dst = binary.BigEndian.AppendUint32(dst, uint32(int32(v.Ints[1])))
		return append(dst, byte(v.Ints[2]))
	case Range:
		dst = binary.BigEndian.AppendUint16(dst, 8)
		dst = binary.BigEndian.AppendUint32(dst, uint32(int32(v.Ints[0])))
		return binary.BigEndian.AppendUint32(dst, uint32(int32(v.Ints[1])))
	case Collection:
		dst = binary.BigEndian.AppendUint16(dst, 0)
		for _, member := range v.Members {
			dst = append(dst, byte(memberName), 0, 0)
			dst = appendShort(dst, member.Name)
			for _, value := range member.Values {
				dst = appendValue(dst, "", value)
			}
		}
		return append(dst, byte(endOfMember), 0, 0, 0, 0)
	}
	return appendShort(dst, v.Text)
}

// appendShort appends a text with its length, cut at what two bytes of length can say.
func appendShort(dst []byte, text string) []byte {
	text = text[:min(len(text), math.MaxInt16)]
	dst = binary.BigEndian.AppendUint16(dst, uint16(len(text)))
	return append(dst, text...)
}

// mostText bounds a text that is kept of a printer's answer (RFC 8010, 3.9: 1023 octets, where a sender keeps to it).
const mostText = 4096

// Clean makes every text of a message one that can be shown and kept: what is not UTF-8 or a control character is
// replaced, what is longer than any is cut.
func (m *Message) Clean() {
	for i := range m.Groups {
		clean(m.Groups[i].Attributes)
	}
}

func clean(attributes []Attribute) {
	for i := range attributes {
		for j := range attributes[i].Values {
			v := &attributes[i].Values[j]
			if len(v.Text) > mostText {
				v.Text = v.Text[:mostText]
			}
			v.Text = strings.Map(func(r rune) rune {
				if r < 0x20 && r != '\t' && r != '\n' || r == 0x7f {
					return utf8.RuneError
				}
				return r
			}, strings.ToValidUTF8(v.Text, "\uFFFD"))
			clean(v.Members)
		}
	}
}
