package epc_test

import (
	"fmt"
	"math/big"
	"math/rand/v2"
	"strings"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/epc"
	"oddspool/core/gs1"
)

// The examples of GS1's EPC Tag Data Standard 1.13, annex E.
var examples = []struct{ tag, hex, elements string }{
	{"urn:epc:tag:sgtin-96:3.0614141.812345.6789", "3074257BF7194E4000001A85", "(01)80614141123458(21)6789"},
	{"urn:epc:tag:sgtin-198:3.0614141.712345.32a%2Fb", "3674257BF6B7A659B2C2BF1", "(01)70614141123451(21)32a/b"},
	{"urn:epc:tag:sscc-96:3.0614141.1234567890", "3174257BF4499602D2000000", "(00)106141412345678908"},
	{"urn:epc:tag:sgln-96:3.0614141.12345.400", "3274257BF460720000000190", "(414)0614141123452(254)400"},
	{"urn:epc:tag:sgln-195:3.0614141.12345.32a%2Fb", "3974257BF46072CD9615F88", "(414)0614141123452(254)32a/b"},
	{"urn:epc:tag:grai-96:3.0614141.12345.400", "3374257BF40C0E4000000190", "(8003)00614141123452400"},
	{"urn:epc:tag:grai-170:3.0614141.12345.32a%2Fb", "3774257BF40C0E59B2C2BF1", "(8003)0061414112345232a/b"},
	{"urn:epc:tag:giai-96:3.0614141.5678", "3474257BF40000000000162E", "(8004)06141415678"},
	{"urn:epc:tag:giai-202:3.0614141.32a%2Fb", "3874257BF59B2C2BF1", "(8004)061414132a/b"},
	{"urn:epc:tag:gsrn-96:3.0614141.1234567890", "2D74257BF4499602D2000000", "(8018)061414112345678902"},
	{"urn:epc:tag:gsrnp-96:3.0614141.1234567890", "2E74257BF4499602D2000000", "(8017)061414112345678902"},
	{"urn:epc:tag:gdti-96:3.0614141.12345.400", "2C74257BF460720000000190", "(253)0614141123452400"},
	{"urn:epc:tag:sgcn-96:3.4012345.67890.04711", "3F74F4E4E612640000019907", "(255)401234567890104711"},
	{"urn:epc:tag:itip-110:3.4012345.012345.01.02.981", "4074F4E4E40C0E40820000000F54",
		"(8006)040123451234560102(21)981"},
	{"urn:epc:tag:itip-212:3.4012345.012345.01.02.mw133", "4174F4E4E40C0E4082DBDD8B366",
		"(8006)040123451234560102(21)mw133"},
	{"urn:epc:tag:cpi-96:3.0614141.98765.12345", "3C74257BF400C0E680003039", "(8010)061414198765(8011)12345"},
	{"urn:epc:tag:cpi-var:3.0614141.5PQ7%2FZ43.12345", "3D74257BF75411DEF6B4CC00000003039",
		"(8010)06141415PQ7/Z43(8011)12345"},
	{"urn:epc:tag:adi-var:3.35962.PQ7VZ4.M37GXB92", "3B0E0CF5E76C9047759AD00373DC7602E72", ""},
}

func TestExamplesOfTheStandard(t *testing.T) {
	for _, example := range examples {
		e, err := epc.FromURI(example.tag, "", 0)
		require.NoError(t, err, example.tag)
		all, err := e.Forms()
		require.NoError(t, err, example.tag)
		require.Equal(t, example.hex, strings.TrimRight(all.Hex, "0")+strings.Repeat("0",
			max(0, len(example.hex)-len(strings.TrimRight(all.Hex, "0")))), example.tag)
		require.Zero(t, len(all.Hex)%4, "whole words")
		require.Equal(t, example.elements, all.ElementString, example.tag)
		memory, err := epc.FromHex(all.Hex)
		require.NoError(t, err)
		back, err := epc.Decode(memory)
		require.NoError(t, err, example.tag)
		require.Equal(t, e, back, example.tag)
		require.Equal(t, example.tag, back.TagURI())
		if example.elements != "" {
			again, err := epc.FromElements(e.Scheme, example.elements, 7, 3)
			require.NoError(t, err, example.elements)
			require.Equal(t, e, again)
			again, err = epc.FromElements(e.Scheme, all.DigitalLink, 7, 3)
			require.NoError(t, err, all.DigitalLink)
			require.Equal(t, e, again)
		}
		id, err := epc.FromURI(all.PureIdentity, e.Scheme, 3)
		require.NoError(t, err)
		require.Equal(t, e, id)
	}
}

func TestPiecesOfAURIHaveTwoDigits(t *testing.T) {
	_, err := epc.FromURI("urn:epc:tag:itip-110:3.4012345.012345.1.023.981", "", 0)
	require.ErrorContains(t, err, "two digits each", "it is not piece 10 of 23")
}

// A tag read by arithmetic alone: what the bits say, taken apart without the tables of the encoder.
func TestSGTINByHand(t *testing.T) {
	e, err := epc.FromElements(epc.SGTIN96, "(01)09521234543213(21)417", 7, 1)
	require.NoError(t, err)
	all, err := e.Forms()
	require.NoError(t, err)
	n, ok := new(big.Int).SetString(all.Hex, 16)
	require.True(t, ok)
	part := func(from, bits uint) uint64 { // bit 0 is the lowest
		v := new(big.Int).Rsh(n, from)
		return v.And(v, new(big.Int).Sub(new(big.Int).Lsh(big.NewInt(1), bits), big.NewInt(1))).Uint64()
	}
	require.Equal(t, []uint64{0x30, 1, 5, 9521234, 54321, 417}, []uint64{part(88, 8), part(85, 3), part(82, 3),
		part(58, 24), part(38, 20), part(0, 38)})
	require.Equal(t, "3000", all.PC, "six words, an EPC")
	require.Equal(t, "https://id.gs1.org/01/09521234543213/21/417", all.DigitalLink)
	require.Equal(t, "urn:epc:id:sgtin:9521234.054321.417", all.PureIdentity)
}

func TestWhatCannotBeOnATag(t *testing.T) {
	for _, test := range []struct {
		scheme         epc.Scheme
		data           string
		prefix, filter int
		says           string
	}{
		{epc.SGTIN96, "(01)09521234543213(21)0417", 7, 0, "begins with 0"},
		{epc.SGTIN96, "(01)09521234543213(21)A7", 7, 0, "'A' in place 1"},
		{epc.SGTIN96, "(01)09521234543213(21)274877906944", 7, 0, "up to 274877906943"},
		{epc.SGTIN96, "(01)09521234543213", 7, 0, "serial is empty"},
		{epc.SGTIN96, "(01)09521234543214(21)1", 7, 0, "its check digit is 3, not 4"},
		{epc.SGTIN96, "(01)0952123454321(21)1", 7, 0, "it has 14 characters, and “0952123454321” is 13"},
		{epc.SGTIN96, "(10)LOT", 7, 0, "made from (01)"},
		{epc.SGTIN96, "09521234543213", 7, 0, "begins with an identifier in brackets"},
		{epc.SGTIN96, "(01)09521234543213(21)1", 5, 0, "6 to 12"},
		{epc.SGTIN96, "(01)09521234543213(21)1", 7, 8, "0 to 7"},
		{epc.SGTIN198, "(01)09521234543213(21)123456789012345678901", 7, 0, "it has 1 to 20 characters"},
		{epc.SGTIN198, "(01)09521234543213", 7, 0, "serial is empty"},
		{epc.GRAI170, "(8003)09521234000006", 7, 0, "serial is empty"},
		{epc.GDTI174, "(253)9521234000006", 7, 0, "serial is empty"},
		{epc.ITIP212, "(8006)095212345432130102", 7, 0, "serial is empty"},
		{epc.SGTIN198, "(01)09521234543213(21)Käse", 7, 0, "“ä”"},
		{epc.SSCC96, "(00)106141412345678907", 7, 0, "its check digit is 8"},
		{epc.GRAI96, "(8003)90614141123452400", 7, 0, "9 is not the 0 that this begins with"},
		{epc.GIAI96, "(8004)0614141X", 7, 0, "'X' in place 1"},
		{epc.GIAI96, "(8004)061", 7, 0, "shorter than a company prefix"},
		{epc.SGCN96, "(255)4012345678901", 7, 0, "serial \"\" is none of a coupon"},
		{epc.SGCN96, "(255)4012345678901A1", 7, 0, "“A” is no digit"},
		{epc.SGCN96, "(255)40123456", 7, 0, "13 to 25 characters"},
		{epc.ITIP110, "(8006)040123451234560302(21)981", 7, 0, "there is no piece 03 of 02"},
		{epc.ITIP110, "(8006)040123451234550102(21)981", 7, 0, "its check digit is 6, not 5"},
		{epc.ITIP110, "(8006)0401234512345601(21)981", 7, 0, "it has 18 characters"},
		{epc.CPI96, "(8010)0614141A(8011)1", 7, 0, "takes digits only"},
		{epc.CPIVar, "(8010)0614141a(8011)1", 7, 0, "digits, capitals"},
		{epc.ADIVar, "35962.PQ7", 7, 0, "35962.PQ7VZ4.M37GXB92"},
		{epc.ADIVar, "3596.A.B", 7, 0, "no CAGE code"},
		{"sgtin-64", "(01)09521234543213", 7, 0, "no scheme"},
	} {
		e, err := epc.FromElements(test.scheme, test.data, test.prefix, test.filter)
		if err == nil {
			_, err = e.Encode()
		}
		require.IsType(t, &refusal.Error{}, err, "%+v", test)
		require.ErrorContains(t, err, test.says, "%+v", test)
	}
	for text, says := range map[string]string{"": "nothing to read", "FF00": "header FF", "30": "takes 96 bits",
		"3G": "place 2", "303": "no whole bytes", "301FFFFFFFFFFFFFFFFFFFFF": "partition is 7",
		"3F74F4E4E612640000000000":     "does not begin with the 1",
		"4074F4E4E40C0E41820000000F54": "Piece 3 of 2 is none"} {
		memory, err := epc.FromHex(text)
		if err == nil {
			_, err = epc.Decode(memory)
		}
		require.ErrorContains(t, err, says, text)
	}
	for uri, says := range map[string]string{"urn:isbn:1": "is no EPC URI", "urn:epc:id:sgtin": "is no EPC URI",
		"urn:epc:tag:sgtin-96:x.0614141.812345.1": "filter", "urn:epc:id:sscc:0614141.1": "is no SGTIN-96",
		"urn:epc:tag:sgtin-96:3.1": "parts", "urn:epc:tag:sscc-96:3.0614141.1234567890": "is no SGTIN-96"} {
		e, err := epc.FromURI(uri, epc.SGTIN96, 0)
		if err == nil {
			_, err = e.Encode()
		}
		require.ErrorContains(t, err, says, uri)
	}
}

// Bits that a scheme keeps at zero, or that stand behind it, are told.
func TestSpareBitsAreTold(t *testing.T) {
	for text, want := range map[string]bool{"3174257BF4499602D2000000": false, "3174257BF4499602D2000001": true,
		"3074257BF7194E4000001A85": false, "3074257BF7194E4000001A850000": false, "3074257BF7194E4000001A850001": true,
		"350007AB70425D4000000586": false, "350007AB70425D400000058600FF": true} {
		memory, err := epc.FromHex(text)
		require.NoError(t, err)
		e, err := epc.Decode(memory)
		require.NoError(t, err)
		require.Equal(t, want, e.Spare, text)
		forms, err := e.Forms()
		require.NoError(t, err)
		require.Equal(t, want, forms.Spare)
	}
}

// A general identifier, as TDS 1.13, annex E.3, has it.
func TestGeneralIdentifiers(t *testing.T) {
	const uri, memory = "urn:epc:tag:gid-96:31415.271828.1414", "350007AB70425D4000000586"
	e, err := epc.FromURI(uri, "", 0)
	require.NoError(t, err)
	forms, err := e.Forms()
	require.NoError(t, err)
	require.Equal(t, memory, forms.Hex)
	require.Equal(t, "urn:epc:id:gid:31415.271828.1414", forms.PureIdentity)
	require.Equal(t, uri, forms.Tag)
	require.Empty(t, forms.ElementString)
	typed, err := epc.FromElements(epc.GID96, "31415.271828.1414", 0, 0)
	require.NoError(t, err)
	require.Equal(t, e, typed)
	bits, err := epc.FromHex(memory)
	require.NoError(t, err)
	back, err := epc.Decode(bits)
	require.NoError(t, err)
	require.Equal(t, e, back)
	for data, says := range map[string]string{"31415.271828": "three numbers", "31415..1": "three numbers",
		"31415.16777216.1": "16777215", "268435456.1.1": "268435455", "1.1.68719476736": "68719476735", "1.01.1": "0"} {
		e, err := epc.FromElements(epc.GID96, data, 0, 0)
		if err == nil {
			_, err = e.Encode()
		}
		require.ErrorContains(t, err, says, data)
	}
	_, err = (&epc.EPC{Scheme: epc.GID96, Filter: 1, Company: "1", Reference: "1", Serial: "1"}).Encode()
	require.ErrorContains(t, err, "no filter value")
}

func TestLocksArePayloads(t *testing.T) {
	require.Equal(t, uint32(0), epc.Lock{}.Payload())
	require.Equal(t, uint32(0b0000110000_0000100000), epc.Lock{EPC: epc.Password}.Payload())
	require.Equal(t, uint32(0b1111110011_1110010010), epc.Lock{Kill: epc.LockedFor, Access: epc.Password,
		EPC: epc.OpenEver, User: epc.Password}.Payload())
}

func FuzzDecode(f *testing.F) {
	for _, example := range examples {
		memory, _ := epc.FromHex(example.hex + strings.Repeat("0", len(example.hex)%2))
		f.Add(memory)
	}
	f.Fuzz(func(t *testing.T, memory []byte) {
		e, err := epc.Decode(memory)
		if err != nil {
			require.IsType(t, &refusal.Error{}, err)
			return
		}
		if again, err := e.Encode(); err == nil {
			back, err := epc.Decode(again)
			require.NoError(t, err)
			e.More = false // of what stands behind it nothing is written
			require.Equal(t, e, back)
		}
	})
}

// Random identifiers of all schemes and lengths of company prefixes come back.
func TestIdentifiersComeBack(t *testing.T) {
	seed := rand.Uint64()
	random := rand.New(rand.NewPCG(seed, 1))
	digits := func(n int) string {
		text := ""
		for range n {
			text += string(rune('0' + random.IntN(10)))
		}
		return text
	}
	for range 2000 {
		company := digits(6 + random.IntN(7))
		gtin := digits(13 - len(company))
		for _, e := range []epc.EPC{
			{Scheme: epc.SGTIN96, Reference: gtin, Serial: fmt.Sprint(random.Uint64N(1 << 38))},
			{Scheme: epc.SGTIN198, Reference: gtin, Serial: "a" + digits(random.IntN(20))},
			{Scheme: epc.SSCC96, Reference: digits(17 - len(company))},
			{Scheme: epc.SGLN96, Reference: digits(12 - len(company)), Serial: fmt.Sprint(random.Uint64N(1 << 41))},
			{Scheme: epc.GIAI96, Reference: fmt.Sprint(1 + random.Uint64N(1e11))},
			{Scheme: epc.SGCN96, Reference: digits(12 - len(company)), Serial: digits(1 + random.IntN(12))},
			{Scheme: epc.ITIP110, Reference: gtin, Pieces: "0" + fmt.Sprint(1+random.IntN(9)) +
				fmt.Sprint(10+random.IntN(90)), Serial: fmt.Sprint(random.Uint64N(1 << 38))},
			{Scheme: epc.ITIP212, Reference: gtin, Pieces: "9999", Serial: "a" + digits(random.IntN(20))},
			{Scheme: epc.CPIVar, Reference: "P-" + digits(random.IntN(16)),
				Serial: fmt.Sprint(random.Uint64N(1 << 40))},
		} {
			e.Company, e.Filter = company, random.IntN(8)
			memory, err := e.Encode()
			require.NoError(t, err, "seed %d: %+v", seed, e)
			back, err := epc.Decode(memory)
			require.NoError(t, err, "seed %d: %+v", seed, e)
			require.Equal(t, &e, back, "seed %d", seed)
		}
	}
}

func ExampleFromElements() {
	e, _ := epc.FromElements(epc.SGTIN96, "(01)09521234543213(21)417", 7, 1)
	all, _ := e.Forms()
	fmt.Println(all.Hex, all.Tag)
	// Output: 3036452148350C40000001A1 urn:epc:tag:sgtin-96:1.9521234.054321.417
}

func BenchmarkEncode(b *testing.B) {
	e, err := epc.FromElements(epc.SGTIN96, "(01)09521234543213(21)417", 7, 1)
	require.NoError(b, err)
	for b.Loop() {
		if _, err := e.Encode(); err != nil {
			b.Fatal(err)
		}
	}
}

// A value is data whatever stands in it, and comes back from every form.
func TestNoValueForgesAnIdentifier(t *testing.T) {
	for serial, element := range map[string]string{`A(21)7`: `A\(21\)7`, `A(b)7`: `A(b)7`, `A+B/C%20?`: `A+B/C%20?`} {
		e, err := epc.FromElements(epc.SGTIN198, "(01)09521234543213(21)"+gs1.Escape(serial), 7, 1)
		require.NoError(t, err)
		require.Equal(t, serial, e.Serial)
		require.Equal(t, "(01)09521234543213(21)"+element, e.ElementString())
		for _, form := range []string{e.ElementString(), e.DigitalLink()} {
			again, err := epc.FromElements(epc.SGTIN198, form, 7, 1)
			require.NoError(t, err, form)
			require.Equal(t, e, again, form)
		}
	}
	e, err := epc.FromElements(epc.SGTIN198, "(01)09521234543213(21)A+B", 7, 1)
	require.NoError(t, err)
	require.Equal(t, "https://id.gs1.org/01/09521234543213/21/A%2BB", e.DigitalLink())
	_, err = epc.FromElements(epc.SGTIN198, "(01)09521234543213(21)A(21)7", 7, 1)
	require.ErrorContains(t, err, "(21)", "two serials are none")
}

// A reference of GIAI-96 has as many digits as its number has bits for (TDS, table 14-14).
func TestReferencesAsLongAsTheyFit(t *testing.T) {
	for company, most := range map[string]string{"061414123456": "4398046511103", "06141412345": "35184372088831",
		"061414": "4611686018427387903"} {
		e := epc.EPC{Scheme: epc.GIAI96, Filter: 3, Company: company, Reference: most}
		memory, err := e.Encode()
		require.NoError(t, err, "%s.%s", company, most)
		back, err := epc.Decode(memory)
		require.NoError(t, err)
		require.Equal(t, []string{company, most}, []string{back.Company, back.Reference})
		e.Reference = most[:len(most)-1] + string(most[len(most)-1]+1)
		_, err = e.Encode()
		require.ErrorContains(t, err, "is too large", "one more has no room")
	}
}
