package tables_test

import (
	"bytes"
	"fmt"
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/tables"
)

// No cell that somebody typed is a formula in a spreadsheet, and what is read back is what was there.
func TestNoCellIsAFormula(t *testing.T) {
	var out bytes.Buffer
	w := tables.NewWriter(&out)
	row := []string{"=1+1", "@x", "+cmd|' /C calc'!A0", "-2+3", "\t=1", "'=1", "-2.5", "+7", "N-1", "", "a=b"}
	require.NoError(t, w.Write(row))
	require.NoError(t, w.Flush())
	require.Equal(t, "'=1+1,'@x,'+cmd|' /C calc'!A0,'-2+3,'\t=1,''=1,-2.5,+7,N-1,,a=b\n", out.String())
	for _, cell := range row {
		require.Equal(t, cell, tables.Written(tables.Plain(cell)))
	}
}

func ExampleWriter() {
	w := tables.NewWriter(os.Stdout)
	fmt.Println(w.Write([]string{"label", "=1+1"}), w.Flush())
	// Output:
	// label,'=1+1
	// <nil> <nil>
}
