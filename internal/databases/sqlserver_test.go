package databases

import (
	"errors"
	"testing"
	"time"

	mssql "github.com/microsoft/go-mssqldb"
	"github.com/stretchr/testify/require"
)

// There is no SQL Server to test with: what its driver gives is turned into text here.
func TestValuesOfSQLServerAreText(t *testing.T) {
	at := time.Date(2026, 11, 26, 8, 5, 9, 120_000_000, time.FixedZone("", 3600))
	for _, test := range []struct {
		value any
		kind  string
		want  string
	}{
		{nil, "NVARCHAR", ""}, {"00417", "VARCHAR", "00417"}, {int64(-7), "BIGINT", "-7"}, {true, "BIT", "1"},
		{false, "BIT", "0"},
		{[]byte("12345678901234567890.1200"), "DECIMAL", "12345678901234567890.1200"},
		{[]byte("9.9000"), "MONEY", "9.9000"},
		{0.1, "FLOAT", "0.1"}, {float64(float32(0.1)), "REAL", "0.1"}, {[]byte{0, 0xff}, "VARBINARY", "00FF"},
		{at, "DATE", "2026-11-26"}, {at, "TIME", "08:05:09.12"}, {at, "DATETIME", "2026-11-26 08:05:09.120"},
		{at, "SMALLDATETIME", "2026-11-26 08:05:09"},
		{at, "DATETIME2", "2026-11-26 08:05:09.12"}, {at, "DATETIMEOFFSET", "2026-11-26 08:05:09.12 +01:00"},
		{[]byte{0x67, 0x45, 0x23, 0x01, 0xAB, 0x89, 0xEF, 0xCD, 1, 2, 3, 4, 5, 6, 7, 8}, "UNIQUEIDENTIFIER",
			"01234567-89AB-CDEF-0102-030405060708"},
	} {
		require.Equal(t, test.want, serverText(test.value, test.kind), "%v as %s", test.value, test.kind)
	}
}

func TestWhatSQLServerSaysIsASentence(t *testing.T) {
	s := &sqlServer{}
	for number, want := range map[int32]string{18456: "does not know this name", 4060: "no such database",
		229: "may not read", 102: "does not understand the question in line 2", 208: "The database says: odd."} {
		require.Contains(t, s.explain(mssql.Error{Number: number, Message: "odd.", LineNo: 2}), want)
	}
	require.Empty(t, s.explain(errors.New("odd")))
	require.Equal(t, "@p2", s.place(2))
	text, args := (&statement{parts: []string{"select ", ", ", ""}, names: []string{"a", "b"}}).with(s.place,
		map[string]string{"a": "1", "b": "2"})
	require.Equal(t, "select @p1, @p2", text)
	require.Equal(t, []string{"1", "2"}, args)
}
