package epc

import (
	"math/big"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// The tables of partitions add up: company prefix and reference share a fixed number of bits and, where the reference
// is a number of fixed length, of digits, and every number of these digits goes into these bits (TDS 1.13, tables 14-2
// to 14-13).
func TestPartitionsAddUp(t *testing.T) {
	sums := map[Scheme][2]int{ // bits, digits
		SGTIN96: {44, 13}, SGTIN198: {44, 13}, SSCC96: {58, 17}, SGLN96: {41, 12}, SGLN195: {41, 12}, GRAI96: {44, 12},
		GRAI170: {44, 12}, GIAI96: {82, 25}, GIAI202: {188, 30},
		GSRN96: {58, 17}, GSRNP96: {58, 17}, GDTI96: {41, 12}, GDTI174: {41, 12}, SGCN96: {41, 12}, ITIP110: {44, 13},
		ITIP212: {44, 13}, CPI96: {51, 15},
	}
	ten, two := big.NewInt(10), big.NewInt(2)
	for _, f := range forms {
		want, known := sums[f.scheme]
		if !known {
			continue
		}
		for partition, bits := range f.refBits {
			company := 12 - partition
			require.Equal(t, want[0], companyBits[partition]+bits, "%s, partition %d", f.scheme, partition)
			require.Equal(t, want[1], company+f.refChars[partition], "%s, partition %d", f.scheme, partition)
			numbers := new(big.Int).Exp(ten, big.NewInt(int64(company)), nil)
			require.LessOrEqual(t, numbers.Cmp(new(big.Int).Exp(two, big.NewInt(int64(companyBits[partition])), nil)),
				0, "company prefixes of %d digits", company)
			if f.scheme == GIAI96 || f.scheme == GIAI202 || f.scheme == CPI96 {
				continue // as large a number, or as many characters, as go in
			}
			numbers.Exp(ten, big.NewInt(int64(f.refChars[partition])), nil)
			require.LessOrEqual(t, numbers.Cmp(new(big.Int).Exp(two, big.NewInt(int64(bits)), nil)), 0,
				"%s, references of %d digits", f.scheme, f.refChars[partition])
		}
		all := 8 + 3 + 3 + want[0] + f.serial + 7*f.chars + f.reserved
		if f.name == "itip" {
			all += 2 * pieceBits
		}
		require.Equal(t, f.bits, all, "%s fills its bits", f.scheme)
	}
}

// Headers are those of table 14-1, each of one scheme.
func TestHeadersAreTheStandards(t *testing.T) {
	want := map[Scheme]uint64{SGTIN96: 0x30, SSCC96: 0x31, SGLN96: 0x32, GRAI96: 0x33, GIAI96: 0x34, SGTIN198: 0x36,
		GRAI170: 0x37, GIAI202: 0x38, SGLN195: 0x39, ADIVar: 0x3B, GID96: 0x35, CPI96: 0x3C, CPIVar: 0x3D,
		GDTI174: 0x3E, GDTI96: 0x2C, GSRN96: 0x2D, GSRNP96: 0x2E, SGCN96: 0x3F, ITIP110: 0x40, ITIP212: 0x41,
		SGLNPlus: 0xF2, GSRNPlus: 0xF4, GSRNPPlus: 0xF5, GDTIPlus: 0xF6, SGTINPlus: 0xF7, SSCCPlus: 0xF9}
	require.Len(t, forms, len(want))
	for _, f := range forms {
		require.Equal(t, want[f.scheme], f.header, f.scheme)
	}
	for _, d := range Describe() {
		require.NotEmpty(t, d.Of, d.Scheme)
		_, err := FromElements(d.Scheme, "x", 0, 0)
		require.Equal(t, d.Prefix, strings.Contains(err.Error(), "company prefix of 0 digits"), d.Scheme)
	}
	require.Equal(t, "CPI-var", Describe()[17].Name)
}
