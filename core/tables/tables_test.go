package tables_test

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/tables"
)

func ExampleRead() {
	err := tables.Read("inks", strings.NewReader("ink\tletters\nred\twhite\n"), 2, func(row []string) error {
		fmt.Println(row[1], "on", row[0])
		return nil
	})
	fmt.Println(err)
	// Output:
	// white on red
	// <nil>
}

func TestErrorsNameTheLine(t *testing.T) {
	all := func([]string) error { return nil }
	require.EqualError(t, tables.Read("inks", strings.NewReader("ink\tletters\nred\twhite\tblue\n"), 2, all),
		"inks, line 2: 3 columns, not 2")
	none := errors.New("no such ink")
	require.ErrorIs(t, tables.Read("inks", strings.NewReader("ink\nred\n"), 1, func([]string) error { return none }),
		none)
	require.ErrorContains(t, tables.Read("inks", strings.NewReader(strings.Repeat("x", 1<<20)), 1, all), "inks: ")
}
