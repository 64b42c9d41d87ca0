package gs1_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/gs1"
)

func TestWhatAFieldHolds(t *testing.T) {
	for _, test := range []struct{ name, value, ai string }{
		{"SSCC", "", "00"}, {"pallet", "095212340000000013", "00"}, {"pallet", "095212340000000014", ""},
		{"GTIN", "", "01"}, {"number", "9521234567899", "01"}, {"number", "9521234567890", ""},
		{"lot", "26K104", "10"}, {"Batch no.", "", "10"}, {"serial number", "417", "21"}, {"best-before", "", "15"},
		{"expiry date", "", "17"}, {"qty", "24", "37"}, {"net kg", "", "3103"}, {"allotment", "", ""},
		{"bin", "N-03-07-B", ""},
	} {
		ai := gs1.Suiting(test.name, test.value)
		if test.ai == "" {
			require.Nil(t, ai, test)
			continue
		}
		require.NotNil(t, ai, test)
		require.Equal(t, test.ai, ai.AI, test)
	}
}
