package sources_test

import (
	"bytes"
	"context"
	"os"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/internal/sandbox"
	"oddspool/internal/sources"
	"oddspool/internal/testkit"
)

func TestMain(m *testing.M) {
	sandbox.Main()
	os.Exit(m.Run())
}

// A file whose reading does not end, or that unfolds into all memory, is refused in words.
func TestFilesThatDoNotEndAreRefused(t *testing.T) {
	for name, data := range testkit.RecordBombs(t) {
		began := time.Now()
		source, err := sources.Open(t.Context(), bytes.NewReader(data), int64(len(data)), sources.Settings{})
		t.Logf("%-45s %6v %v", name, time.Since(began).Round(time.Millisecond), err)
		if err == nil { // what is small once it is bounded may be read
			require.LessOrEqual(t, source.Count, 100, name)
			require.NoError(t, source.Close())
			continue
		}
		var told *sources.FileError
		require.ErrorAs(t, err, &told, name)
	}
}

// A reading in a process of its own gives what one in this process gives.
func TestReadingApartGivesTheSame(t *testing.T) {
	for name, data := range map[string][]byte{
		"JSON": []byte(`[{"bin": "N-1", "lot": 7}, {"bin": "N-2"}]`),
		"XML":  []byte(`<a><b><c>1</c></b><b><c>2</c></b></a>`), "text like JSON": []byte("[bin],lot\nN-1,2\n"),
		"SQLite": testkit.SQLite(t, `create table bins (bin, lot)`, `insert into bins values ('N-1', 7), ('N-2',
				null)`),
	} {
		table, err := sources.Read(data, sources.Settings{})
		require.NoError(t, err, name)
		source, err := sources.Open(t.Context(), bytes.NewReader(data), int64(len(data)), sources.Settings{})
		require.NoError(t, err, name)
		require.Equal(t, table.Settings, source.Settings, name)
		require.Equal(t, table.Fields, source.Fields, name)
		require.Equal(t, table.Notes, source.Notes, name)
		require.Equal(t, len(table.Records), source.Count, name)
		for range 2 {
			var records [][]string
			for record, err := range source.Records() {
				require.NoError(t, err)
				records = append(records, record)
			}
			require.Equal(t, table.Records, records, name)
		}
		require.NoError(t, source.Close())
	}
}

func TestReadingApartEndsWithItsAsker(t *testing.T) {
	data := testkit.RecordBombs(t)["a SQLite view without an end"]
	ctx, cancel := context.WithTimeout(t.Context(), 300*time.Millisecond) // while it is read
	defer cancel()
	_, err := sources.Open(ctx, bytes.NewReader(data), int64(len(data)), sources.Settings{})
	require.ErrorIs(t, err, context.DeadlineExceeded)
}
