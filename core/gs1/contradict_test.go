package gs1_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/gs1"
)

func TestDatesThatCannotBe(t *testing.T) {
	for data, says := range map[string]string{
		"(11)261201(17)261130":       "(11) PROD DATE 261201 is later than (17)",
		"(11)261130(17)261130":       "",
		"(17)261201(11)261130":       "",
		"(13)261215(15)261200":       "", // day 00 is the last of December
		"(13)270101(15)261200":       "(13) PACK DATE 270101 is later than (15)",
		"(11)991231(17)010101":       "", // 1999 and 2001
		"(7007)261201261130":         "its end, 261130",
		"(7007)261130261201":         "",
		"(7007)261130":               "",
		"(11)261201(7003)2611301200": "is later than (7003)",
		"(10)261201(17)261130":       "",
	} {
		elements, err := gs1.Parse(data)
		require.NoError(t, err, data)
		found := gs1.Dates(elements)
		if says == "" {
			require.Nil(t, found, data)
			continue
		}
		require.NotNil(t, found, data)
		require.Contains(t, found.Error(), says)
	}
}

func TestMeasures(t *testing.T) {
	for id, want := range map[string]bool{"30": true, "3103": true, "3165": true, "3202": true, "3565": true,
		"3602": true, "37": false, "3302": false, "3922": false, "01": false, "8001": true} {
		require.Equal(t, want, gs1.IsMeasure(gs1.Find(id)), id)
	}
	require.False(t, gs1.IsMeasure(nil))
}

func TestLinksThatAreWrong(t *testing.T) {
	for text, wrong := range map[string]bool{
		"https://id.brinewick.example/01/09521234543213":                false,
		"https://id.brinewick.example/01/09521234543214":                true,
		"https://id.brinewick.example/01/09521234543214/10/A1":          true,
		"https://id.brinewick.example/kelp/01/09521234543213?17=261299": true,
		"https://brinewick.example/bins/01/2":                           false,
		"https://brinewick.example/2026/01/20261201":                    false, // a day
		"(01)09521234543214":                                            false,
		"https://brinewick.example":                                     false,
	} {
		require.Equal(t, wrong, gs1.LinkFault(text) != nil, text)
	}
}
