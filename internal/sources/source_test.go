package sources_test

import (
	"bytes"
	"fmt"
	"runtime"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/internal/sources"
)

func opened(t testing.TB, text string, wanted sources.Settings) *sources.Source {
	s, err := sources.Open(t.Context(), strings.NewReader(text), int64(len(text)), wanted)
	require.NoError(t, err)
	return s
}

// Records that are read as they are wanted are those that are read at once.
func TestRecordsComeOneByOneAsAtOnce(t *testing.T) {
	for _, text := range []string{
		"bin,lot\nN-1,4\nN-2,5,more\n\nN-3\n", "sep=|\nbin|says\r\nN-01|a\rN-02|\"two\r\nlines\"\r\n",
		"Brinewick Kelp Works\n\nbin,contents,lot\nN-01,Dulse,26K104\nN-02,Salt,26K105\n",
		"vat;contents\nB-1;R\xf8dalge\nB-2;\"Salt; fine\"\n",
		"\xff\xfea\x00;\x00b\x00\n\x001\x00;\x002\x00\n\x00", "a,b\n1\x00,2\n", "a\n1\n2\n3",
	} {
		settings := sources.Settings{}
		if strings.HasPrefix(text, "a,b\n1\x00") {
			settings.Encoding = sources.UTF8
		}
		table, err := sources.Read([]byte(text), settings)
		require.NoError(t, err, "%q", text)
		source := opened(t, text, settings)
		require.Equal(t, table.Fields, source.Fields)
		require.Equal(t, table.Settings, source.Settings)
		require.Equal(t, table.Notes, source.Notes)
		require.Len(t, table.Records, source.Count)
		for range 2 { // as often as one likes
			var records [][]string
			for record, err := range source.Records() {
				require.NoError(t, err)
				records = append(records, record)
			}
			require.Equal(t, table.Records, records, "%q", text)
		}
		for range source.Records() {
			break // and no further than one likes
		}
	}
}

// A file that is another by the time it is read says so.
func TestFilesThatChangeAreTold(t *testing.T) {
	data := []byte("bin\nN-1\nN-2\nN-3\n")
	s, err := sources.Open(t.Context(), bytes.NewReader(data), int64(len(data)),
		sources.Settings{Header: sources.HeaderFirst})
	require.NoError(t, err)
	copy(data, "bin\nN-1\n\n\n\n\n\n\n\n\n")
	var last error
	for _, err := range s.Records() {
		last = err
	}
	require.ErrorContains(t, last, "changed while it was read")
}

// What is held of a long file does not grow with it.
func TestLongFilesTakeLittleMemory(t *testing.T) {
	var text strings.Builder
	text.WriteString("bin,contents,lot\n")
	for i := range 300_000 {
		fmt.Fprintf(&text, "N-%06d,\"Dulse, flaked\",26K104\n", i)
	}
	long := text.String()
	var before, after runtime.MemStats
	runtime.GC()
	runtime.ReadMemStats(&before)
	source := opened(t, long, sources.Settings{})
	runtime.GC()
	runtime.ReadMemStats(&after)
	require.Less(t, int64(after.HeapAlloc)-int64(before.HeapAlloc), int64(2<<20))
	require.Equal(t, 300_000, source.Count)
	n := 0
	for record, err := range source.Records() {
		require.NoError(t, err)
		require.Equal(t, fmt.Sprintf("N-%06d", n), record[0])
		n++
	}
}
