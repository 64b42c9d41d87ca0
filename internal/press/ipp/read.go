package ipp

import (
	"bufio"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"math"
	"strings"
)

// ErrNotIPP says that bytes are no IPP message.
var ErrNotIPP = errors.New("this is no IPP message")

// longest bounds the attributes of a message and deepest their nesting, so that nonsense from the
// network cannot take all memory.
const (
	longest = 1 << 20
	deepest = 16
)

// Read reads a message and leaves the reader at its document. Its error wraps ErrNotIPP when the
// bytes are no message, and is the reader's own when it fails.
func Read(r *bufio.Reader) (*Message, error) {
	d := decoder{in: r}
	m := &Message{Major: d.byte(), Minor: d.byte(), Code: d.short(), ID: d.long()}
	tag := Tag(d.byte())
	for d.err == nil && tag != endOfAttributes {
		if tag == 0 || tag > 0x0f {
			d.fail("a group was expected, tag 0x%02x found", tag)
			break
		}
		g := Group{Tag: tag}
		for tag = Tag(d.byte()); d.err == nil && tag > 0x0f; tag = Tag(d.byte()) {
			name := d.text()
			value := d.value(tag, 0)
			if name != "" {
				g.Attributes = append(g.Attributes, Attribute{Name: name})
			} else if len(g.Attributes) == 0 {
				d.fail("a value without an attribute")
				break
			}
			last := &g.Attributes[len(g.Attributes)-1]
			last.Values = append(last.Values, value)
		}
		m.Groups = append(m.Groups, g)
	}
	if d.err != nil {
		return nil, d.err
	}
	return m, nil
}

type decoder struct {
	in   *bufio.Reader
	read int
	err  error
}

func (d *decoder) fail(format string, args ...any) {
	if d.err == nil {
		d.err = fmt.Errorf("%w: "+format, append([]any{ErrNotIPP}, args...)...)
	}
}

func (d *decoder) bytes(n int) []byte {
	if d.read += n; d.read > longest {
		d.fail("its attributes are longer than %d bytes", longest)
	}
	if d.err != nil {
		return make([]byte, min(n, 9))
	}
	data := make([]byte, n)
	if _, err := io.ReadFull(d.in, data); err == io.EOF || err == io.ErrUnexpectedEOF {
		d.fail("it ends too early")
	} else if err != nil {
		d.err = fmt.Errorf("read IPP message: %w", err)
	}
	return data
}

func (d *decoder) byte() byte    { return d.bytes(1)[0] }
func (d *decoder) short() uint16 { return binary.BigEndian.Uint16(d.bytes(2)) }
func (d *decoder) long() uint32  { return binary.BigEndian.Uint32(d.bytes(4)) }
func (d *decoder) number() int   { return int(int32(d.long())) }

func (d *decoder) text() string {
	n := d.short()
	if n > math.MaxInt16 {
		d.fail("a length of %d", n)
		return ""
	}
	return string(d.bytes(int(n)))
}

func (d *decoder) size(want uint16) {
	if n := d.short(); n != want {
		d.fail("a value of %d bytes where %d were expected", n, want)
	}
}

func (d *decoder) value(tag Tag, depth int) Value {
	v := Value{Tag: tag}
	switch tag {
	case Integer, Enum:
		d.size(4)
		v.Int = d.number()
	case Boolean:
		d.size(1)
		v.Int = int(d.byte() & 1)
	case Resolution:
		d.size(9)
		v.Ints = [3]int{d.number(), d.number(), int(d.byte())}
	case Range:
		d.size(8)
		v.Ints = [3]int{d.number(), d.number()}
	case Collection:
		d.text()
		d.members(&v, depth+1)
	default:
		v.Text = d.text()
	}
	return v
}

// members reads a collection up to its end.
func (d *decoder) members(v *Value, depth int) {
	if depth > deepest {
		d.fail("collections nested deeper than %d", deepest)
	}
	for d.err == nil {
		tag := Tag(d.byte())
		name, ok := d.text(), true
		switch {
		case tag == endOfMember:
			d.text()
			return
		case tag == memberName:
			v.Members = append(v.Members, Attribute{Name: d.text()})
		case len(v.Members) == 0 || name != "":
			ok = false
		default:
			last := &v.Members[len(v.Members)-1]
			last.Values = append(last.Values, d.value(tag, depth))
		}
		if !ok {
			d.fail("a collection's member without its name")
		}
	}
}

// String shows a value as people write it in logs.
func (v Value) String() string {
	switch v.Tag {
	case Integer, Enum:
		return fmt.Sprint(v.Int)
	case Boolean:
		return fmt.Sprint(v.Int == 1)
	case Range:
		return fmt.Sprintf("%d-%d", v.Ints[0], v.Ints[1])
	case Resolution:
		return fmt.Sprintf("%dx%d %s", v.Ints[0], v.Ints[1], map[int]string{3: "dpi", 4: "dots/cm"}[v.Ints[2]])
	case Collection:
		parts := make([]string, len(v.Members))
		for i, m := range v.Members {
			parts[i] = fmt.Sprint(m.Name, "=", m.Values)
		}
		return "{" + strings.Join(parts, " ") + "}"
	}
	return v.Text
}
