package ipp_test

import (
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/require"

	"oddspool/internal/press/ipp"
)

// Whatever a printer writes can be shown and kept.
func TestTextsOfPrintersAreCleaned(t *testing.T) {
	m := &ipp.Message{Groups: []ipp.Group{{Tag: ipp.PrinterGroup, Attributes: []ipp.Attribute{
		ipp.Attr("printer-name", ipp.Str(ipp.Name, "Dock\x00 2\xff")),
		ipp.Attr("printer-state-message", ipp.Str(ipp.Text, strings.Repeat("ø", 5000)),
			ipp.Str(ipp.Text, "a\tb\nc\x1b")),
		ipp.Attr("media-col-ready", ipp.Members(ipp.Attr("media-info", ipp.Str(ipp.Text, "76 × 38\x07")))),
	}}}}
	m.Clean()
	require.Equal(t, "Dock\uFFFD 2\uFFFD", m.Find(ipp.PrinterGroup, "printer-name")[0].Text)
	messages := m.Find(ipp.PrinterGroup, "printer-state-message")
	require.Less(t, len(messages[0].Text), 4200)
	require.True(t, utf8.ValidString(messages[0].Text))
	require.Equal(t, "a\tb\nc\uFFFD", messages[1].Text)
	info, _ := m.Find(ipp.PrinterGroup, "media-col-ready")[0].Member("media-info")
	require.Equal(t, "76 × 38\uFFFD", info.Text)
}
