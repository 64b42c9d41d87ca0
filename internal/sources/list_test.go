package sources_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/internal/sources"
)

// A list loses no line: what stands in it first is a heading only where it looks like none of the others, and it is
// told which.
func TestAListKeepsItsFirstLine(t *testing.T) {
	for _, test := range []struct {
		lines  []string
		headed bool
	}{
		{[]string{"PUMP 1", "PUMP 2", "VALVE 3"}, false},
		{[]string{"A-1", "A-2"}, false},
		{[]string{"W104", "W105", "W99"}, false},
		{[]string{"Pump room", "Heat store", "Drying hall"}, false},
		{[]string{"OFFICE", "STORE", "DRYING HALL"}, false},
		{[]string{"1", "2", "3"}, false},
		{[]string{"name", "Pump room", "Heat store"}, true},
		{[]string{"Legend", "W104", "W105"}, true},
		{[]string{"Cable no.", "W104", "W105"}, true},
		{[]string{"Rooms:", "Pump room", "Heat store"}, true},
		{[]string{"Anything", "952N0307B", "952N0308B"}, true}, // it names what has digits
		{[]string{"shed", "North", "North", "South"}, true},    // alone in small letters
		{[]string{"motor", "gauge", "tank"}, false},
		{[]string{"W104\tPump", "W105\tValve"}, false},
		{[]string{"wire\tthing", "W105\tValve"}, true},
	} {
		source, err := sources.Read([]byte(strings.Join(test.lines, "\n")+"\n"), sources.Settings{})
		require.NoError(t, err, test.lines)
		want := len(test.lines)
		if test.headed {
			want--
		}
		require.Len(t, source.Records, want, test.lines)
		if !strings.Contains(test.lines[0], "\t") {
			require.Len(t, source.Notes, 1, test.lines)
			require.Contains(t, source.Notes[0], test.lines[0])
		}
	}
}
