package epc_test

import (
	"strings"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/epc"
)

func TestMemoryOfATag(t *testing.T) {
	m, err := epc.Remember(epc.Kind{Scheme: epc.SGTIN96, Prefix: 7, Filter: 1}, "(01)09521234543213(21)417", "kelp!")
	require.NoError(t, err)
	require.Len(t, m.EPC, 12)
	require.Equal(t, uint16(6<<11|1<<10), m.PC, "six words, and user memory")
	require.Equal(t, []byte("kelp!\x00"), m.User, "whole words")
	back, err := epc.Decode(m.EPC)
	require.NoError(t, err)
	require.Equal(t, "417", back.Serial)
	require.Equal(t, back.TagURI(), m.Words())
	m, err = epc.Remember(epc.Kind{}, "30 34 02 42", "")
	require.NoError(t, err)
	require.Equal(t, "30340242", m.Hex())
	require.Equal(t, uint16(2<<11), m.PC)
	require.Equal(t, "32 bits", m.Words())
	afi := uint8(0xA1) // ISO 17367, product tagging
	m, err = epc.Remember(epc.Kind{AFI: &afi}, "30 34 02 42", "kelp")
	require.NoError(t, err)
	require.Equal(t, uint16(0b00010_1_0_1_10100001), m.PC, "two words, user memory, no EPC, its family")
	_, err = epc.Remember(epc.Kind{Scheme: epc.SGTIN96, Prefix: 7, AFI: &afi}, "(01)09521234543213(21)417", "")
	require.ErrorContains(t, err, "no application family identifier")
	for _, test := range [][2]string{{"", "kelp"}, {"", ""}, {"", strings.Repeat("ab", 63)},
		{"sgtin-96", "(01)09521234543213"}} {
		_, err := epc.Remember(epc.Kind{Scheme: epc.Scheme(test[0]), Prefix: 7, Filter: 1}, test[1], "")
		require.ErrorAs(t, err, new(*refusal.Error), test)
	}
	_, err = epc.Remember(epc.Kind{}, "30", strings.Repeat("k", epc.MostUser+1))
	require.ErrorContains(t, err, "too many for user memory")
}
