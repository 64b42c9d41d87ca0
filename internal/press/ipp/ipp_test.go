package ipp_test

import (
	"bufio"
	"bytes"
	"strings"
	"testing"
	"testing/iotest"

	"github.com/stretchr/testify/require"

	"oddspool/internal/press/ipp"
)

func everything() *ipp.Message {
	return &ipp.Message{Major: 2, Minor: 0, Code: uint16(ipp.PrintJob), ID: 7, Groups: []ipp.Group{
		{Tag: ipp.OperationGroup, Attributes: []ipp.Attribute{
			ipp.Attr("attributes-charset", ipp.Str(ipp.Charset, "utf-8")),
			ipp.Keywords("requested-attributes", "printer-state", "media-ready"),
		}},
		{Tag: ipp.JobGroup, Attributes: []ipp.Attribute{
			ipp.Attr("copies", ipp.Int(ipp.Integer, -3)),
			ipp.Attr("job-state", ipp.Int(ipp.Enum, 9)),
			ipp.Attr("last", ipp.Int(ipp.Boolean, 1)),
			ipp.Attr("printer-resolution", ipp.Value{Tag: ipp.Resolution, Ints: [3]int{80, 80, 4}}),
			ipp.Attr("speed", ipp.Value{Tag: ipp.Range, Ints: [3]int{25, 152}}),
			ipp.Attr("media-col", ipp.Members(
				ipp.Attr("media-size", ipp.Members(ipp.Attr("x-dimension", ipp.Int(ipp.Integer, 7600)))),
				ipp.Keywords("media-tracking", "gap", "mark"),
			)),
			ipp.Attr("job-name", ipp.Str(ipp.Name, "Tønne 12")),
			ipp.Attr("nothing", ipp.Value{Tag: ipp.NoValue}),
		}},
	}}
}

func TestMessageComesBackAndTheDocumentFollows(t *testing.T) {
	stream := append(everything().Append(nil), "RaS2..."...)
	for name, reader := range map[string]*bufio.Reader{
		"whole":   bufio.NewReader(bytes.NewReader(stream)),
		"by byte": bufio.NewReader(iotest.OneByteReader(bytes.NewReader(stream))),
	} {
		m, err := ipp.Read(reader)
		require.NoError(t, err, name)
		require.Equal(t, everything(), m, name)
		rest, _ := reader.ReadString(0)
		require.Equal(t, "RaS2...", rest, name)
	}
	m := everything()
	require.Equal(t, "utf-8", m.Find(ipp.OperationGroup, "attributes-charset")[0].Text)
	require.Nil(t, m.Find(ipp.PrinterGroup, "printer-state"))
	size, ok := m.Find(ipp.JobGroup, "media-col")[0].Member("media-size")
	require.True(t, ok)
	require.Equal(t, "{x-dimension=[7600]}", size.String())
	_, ok = size.Member("y-dimension")
	require.False(t, ok)
	require.Equal(t, "80x80 dots/cm", m.Find(ipp.JobGroup, "printer-resolution")[0].String())
}

// The request of RFC 8010, appendix A.1, in its first attributes.
func TestEncodingIsTheStandards(t *testing.T) {
	m := ipp.Message{Major: 1, Minor: 1, Code: uint16(ipp.PrintJob), ID: 1,
		Groups: []ipp.Group{{Tag: ipp.OperationGroup,
			Attributes: []ipp.Attribute{ipp.Attr("attributes-charset", ipp.Str(ipp.Charset, "utf-8"))}}}}
	require.Equal(t, "\x01\x01\x00\x02\x00\x00\x00\x01\x01\x47\x00\x12attributes-charset\x00\x05utf-8\x03",
		string(m.Append(nil)))
}

func TestNonsenseIsRefused(t *testing.T) {
	whole := everything().Append(nil)
	for n := range len(whole) - 1 {
		_, err := ipp.Read(bufio.NewReader(bytes.NewReader(whole[:n])))
		require.ErrorIs(t, err, ipp.ErrNotIPP, "cut after %d bytes", n)
	}
	head := "\x02\x00\x00\x0b\x00\x00\x00\x01"
	for name, text := range map[string]string{
		"html":            "<!doctype html><title>Not found</title>",
		"no group":        head + "\x44\x00\x01a\x00\x01b\x03",
		"nameless":        head + "\x01\x44\x00\x00\x00\x01b\x03",
		"short integer":   head + "\x01\x21\x00\x01a\x00\x02\x00\x00\x03",
		"negative length": head + "\x01\x44\xff\xff",
		"member unnamed":  head + "\x01\x34\x00\x01a\x00\x00\x21\x00\x00\x00\x04\x00\x00\x00\x01",
		"bottomless": head + "\x01\x34\x00\x01a\x00\x00" +
			strings.Repeat("\x4a\x00\x00\x00\x01m\x34\x00\x00\x00\x00", 40),
		"endless attribute": head + "\x01" + strings.Repeat("\x44\x00\x01a\x7f\xff"+strings.Repeat("x", 0x7fff), 40),
	} {
		_, err := ipp.Read(bufio.NewReader(strings.NewReader(text)))
		require.ErrorIs(t, err, ipp.ErrNotIPP, name)
	}
	_, err := ipp.Read(bufio.NewReader(iotest.TimeoutReader(iotest.OneByteReader(bytes.NewReader(whole)))))
	require.ErrorIs(t, err, iotest.ErrTimeout)
}

// What was read is written as it was, and read again.
func FuzzRead(f *testing.F) {
	f.Add(everything().Append(nil))
	f.Fuzz(func(t *testing.T, data []byte) {
		m, err := ipp.Read(bufio.NewReader(bytes.NewReader(data)))
		if err != nil {
			return
		}
		again, err := ipp.Read(bufio.NewReader(bytes.NewReader(m.Append(nil))))
		require.NoError(t, err)
		require.Equal(t, m, again)
	})
}
