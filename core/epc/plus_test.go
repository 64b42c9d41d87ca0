package epc_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/check"
	"oddspool/core/epc"
)

// Worked by hand: header, toggle and filter in one digit, the key digit by digit, then how the serial is encoded, how
// long it is, and itself.
func TestSchemesWithoutACompanyPrefix(t *testing.T) {
	for _, test := range []struct {
		scheme epc.Scheme
		data   string
		filter int
		hex    string
	}{
		{epc.SGTINPlus, "(01)79521141123453(21)32a/b", 3, "F7 3 79521141123453 85 66CB0AFC4"}, // seven bits each
		{epc.SGTINPlus, "(01)09521234543213(21)417", 1, "F7 1 09521234543213 03 684 00"},      // a number of ten bits
		{epc.SGTINPlus, "https://id.gs1.org/01/09521234543213/21/417", 1, "F7 1 09521234543213 03 684 00"},
		{epc.SGTINPlus, "(01)09521234543213(21)007", 1, "F7 1 09521234543213 23 007 00"}, // digits that no number keeps
		{epc.SGTINPlus, "(01)09521234543213(21)1AF", 0, "F7 0 09521234543213 23 1AF 00"},
		{epc.SGTINPlus, "(01)09521234543213(21)1af", 0, "F7 0 09521234543213 43 1AF 00"},
		// six bits each: 10, 30, 37, 41
		{epc.SGTINPlus, "(01)09521234543213(21)Kelp", 0, "F7 0 09521234543213 64 29E969 000"},
		// sixteen bits for three
		{epc.SGTINPlus, "(01)09521234543213(21)KELP-1", 0, "F7 0 09521234543213 A6 45956858 0"},
		{epc.SSCCPlus, "(00)106141412345678908", 0, "F9 0 106141412345678908 000"},
		{epc.SGLNPlus, "(414)0614141123452(254)5678", 0, "F2 0 0614141123452 04 58B8 00"}, // fourteen bits
		{epc.SGLNPlus, "(414)0614141123452", 0, "F2 0 0614141123452 01 0 0"},              // no extension is 0
		{epc.GSRNPlus, "(8018)061414112345678902", 0, "F4 0 061414112345678902 000"},
		{epc.GSRNPPlus, "(8017)061414112345678902", 0, "F5 0 061414112345678902 000"},
		{epc.GDTIPlus, "(253)0614141123452ABC", 0, "F6 0 0614141123452 23 ABC 000"},
	} {
		e, err := epc.FromElements(test.scheme, test.data, 0, test.filter)
		require.NoError(t, err, test.data)
		all, err := e.Forms()
		require.NoError(t, err, test.data)
		require.Equal(t, strings.ReplaceAll(test.hex, " ", ""), all.Hex, test.data)
		memory, err := epc.FromHex(test.hex)
		require.NoError(t, err)
		back, err := epc.Decode(memory)
		require.NoError(t, err, test.data)
		require.Equal(t, e, back)
		if strings.HasPrefix(test.data, "(") {
			require.Equal(t, test.data, back.ElementString())
		}
		require.Empty(t, all.PureIdentity+all.Tag)
	}
	link, err := epc.FromElements(epc.SGTINPlus, "(01)79521141123453(21)32a/b", 0, 0)
	require.NoError(t, err)
	require.Equal(t, "https://id.gs1.org/01/79521141123453/21/32a%2Fb", link.DigitalLink())
	require.Equal(t, 111, link.Bits())
}

// A serial is read in whichever way another has encoded it.
func TestSerialsEncodedByOthersAreRead(t *testing.T) {
	for _, serial := range []string{"03 684 00", "23 417 00", "43 417 00", "63 E35EC 0000 000", "83 68C5B8 000",
		"A3 D97E 0000"} {
		for toggle, more := range map[string]bool{"1": false, "9": true} {
			memory, err := epc.FromHex("F7" + toggle + "09521234543213" + strings.ReplaceAll(serial, " ", "") +
				"0"[:(17+len(strings.ReplaceAll(serial, " ", "")))%2])
			require.NoError(t, err)
			e, err := epc.Decode(memory)
			require.NoError(t, err, serial)
			require.Equal(t, &epc.EPC{Scheme: epc.SGTINPlus, Filter: 1, Reference: "09521234543213", Serial: "417",
				More: more}, e, serial)
		}
	}
	for hex, says := range map[string]string{
		"F71 0952123454321A 03 684 00": "Digit 14", "F71 09521234543214 03 684 00": "check digit",
		"F71 09521234543213 C3 684 00": "in a way (6)", "F71 09521234543213 00 000 00": "0 characters",
		"F71 09521234543213 15 684 00": "characters; it has 1 to 20",
		"F71 09521234543213 03 004 00": "not the 3 digits",
		"F71 09521234543213 A3 FFFF 0": "three characters that are none",
		"F71 09521234543213 A2 D97E 0": "not have the 2 characters",
		"F71 0952123454":               "takes 68 bits", "F71 09521234543213 94 68C5": "ends before",
		"F71 09521234543213 81 400 0": "set of 82",
	} {
		memory, err := epc.FromHex(hex + "0"[:len(strings.ReplaceAll(hex, " ", ""))%2])
		require.NoError(t, err, hex)
		_, err = epc.Decode(memory)
		require.ErrorContains(t, err, says, hex)
	}
}

func TestWhatSchemesWithoutACompanyPrefixRefuse(t *testing.T) {
	for _, test := range []struct {
		scheme     epc.Scheme
		data, says string
	}{
		{epc.SGTINPlus, "(01)09521234543213", "serial is empty"},
		{epc.SGTINPlus, "(01)09521234543213(21)" + strings.Repeat("9", 21), "1 to 20 characters"},
		{epc.SGTINPlus, "(01)09521234543213(21)a b", "A space may not stand"},
		{epc.SGTINPlus, "(01)09521234543214(21)1", "its check digit is 3"},
		{epc.SSCCPlus, "(00)1061414123456789", "18 characters"},
		{epc.GDTIPlus, "(253)0614141123452", "serial is empty"}, {epc.GDTIPlus, "(253)06141", "13 to 30 characters"},
	} {
		e, err := epc.FromElements(test.scheme, test.data, 0, 0)
		if err == nil {
			_, err = e.Encode()
		}
		require.ErrorContains(t, err, test.says, test.data)
	}
	_, err := epc.FromURI("urn:epc:id:sgtin:0614141.812345.6789", epc.SGTINPlus, 0)
	require.ErrorContains(t, err, "element string")
	_, err = (&epc.EPC{Scheme: epc.SGTINPlus, Filter: 8, Reference: "09521234543213", Serial: "1"}).Encode()
	require.ErrorContains(t, err, "filter")
	m, err := epc.Remember(epc.Kind{Scheme: epc.SGTINPlus, Filter: 1}, "(01)09521234543213(21)417", "")
	require.NoError(t, err)
	require.Equal(t, "SGTIN+ (01)09521234543213(21)417", m.Words())
}

// Random serials of every kind of characters come back, in no more bits than seven each.
func TestSerialsComeBack(t *testing.T) {
	seed := rand.Uint64()
	random := rand.New(rand.NewPCG(seed, 2))
	for range 3000 {
		of := []string{"0123456789", "0123456789ABCDEF", "0123456789abcdef", "ABCXYZ-.:0189", "abcXYZ019-_",
			"!\"%&'()*+,-./0189:;<=>?AZ_az"}[random.IntN(6)]
		body, serial := "", ""
		for range 13 {
			body += string(rune('0' + random.IntN(10)))
		}
		for range 1 + random.IntN(20) {
			serial += string(of[random.IntN(len(of))])
		}
		e := &epc.EPC{Scheme: epc.SGTINPlus, Filter: random.IntN(8), Reference: body + string(check.GS1(body)),
			Serial: serial}
		memory, err := e.Encode()
		require.NoError(t, err, "seed %d: %q", seed, serial)
		back, err := epc.Decode(memory)
		require.NoError(t, err, "seed %d: %q", seed, serial)
		require.Equal(t, e, back, "seed %d", seed)
		require.LessOrEqual(t, e.Bits(), 76+7*len(serial), "seed %d: %q", seed, serial)
	}
}

func ExampleFromElements_withoutCompanyPrefix() {
	e, _ := epc.FromElements(epc.SGTINPlus, "(01)79521141123453(21)32a/b", 0, 3)
	all, _ := e.Forms()
	fmt.Println(all.Hex, all.DigitalLink)
	// Output: F73795211411234538566CB0AFC4 https://id.gs1.org/01/79521141123453/21/32a%2Fb
}
