package symbology

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// The table of application identifiers refers to identifiers that it has, and each has a format that
// can be met.
func TestTheTableOfIdentifiersIsWhole(t *testing.T) {
	table := ais()
	require.Greater(t, len(table), 450)
	for id, ai := range table {
		require.Equal(t, id, ai.AI)
		require.NotEmpty(t, ai.Title, id)
		require.NotEmpty(t, ai.parts, id)
		for _, p := range ai.parts {
			require.Positive(t, p.most, id)
			require.LessOrEqual(t, p.least, p.most, id)
			require.LessOrEqual(t, p.most, 90, id)
		}
		for _, other := range ai.not {
			require.Contains(t, table, other, id)
		}
		for _, needs := range ai.needs {
			for other := range strings.SplitSeq(needs, "|") {
				require.Contains(t, table, other, "%s needs %s", id, needs)
			}
		}
		if ai.fixed { // figure 7.8.5-2: what begins so has a predefined length
			require.Contains(t, []string{"00", "01", "02", "03", "04", "11", "12", "13", "14", "15", "16", "17", "18", "19", "20", "31", "32", "33", "34", "35", "36", "41"}, id[:2])
			require.Len(t, ai.parts, 1)
			require.Equal(t, ai.parts[0].least, ai.parts[0].most)
		}
	}
	require.Equal(t, []aiPart{{true, 18, 18, 'c', false}}, table["00"].parts)
	require.Equal(t, []aiPart{{true, 13, 13, 'c', false}, {false, 1, 17, 0, false}}, table["253"].parts)
	require.Equal(t, []aiPart{{true, 3, 15, 0, false}}, table["423"].parts)
	require.Equal(t, "NET WEIGHT (kg)", table["3103"].Title)
	for id, format := range map[string]string{"01": "14 digits, the last a check digit", "10": "up to 20 characters", "17": "a date, YYMMDD",
		"3103": "6 digits, 3 after the decimal point", "253": "13 digits, the last a check digit, then up to 17 characters", "8013": "up to 25 characters, the last two check characters"} {
		require.Equal(t, format, table[id].Format())
	}
	require.True(t, slices.IsSortedFunc(Identifiers(), func(a, b *AI) int { return strings.Compare(a.AI, b.AI) }))
}

// One value of each identifier's own format is taken, and one that is too long is refused.
func TestEveryIdentifierTakesItsFormat(t *testing.T) {
	for id, ai := range ais() {
		value := ""
		for _, p := range ai.parts {
			part := strings.Repeat("1", p.most)
			switch p.check {
			case 'c':
				part = part[:p.most-1] + string(Mod10(part[:p.most-1]))
			case 'd', 'D':
				part = "261231"
			case 'p':
				part = part[:p.most-2] + ModelCheck(part[:p.most-2])
			}
			value += part
		}
		problem, _ := ai.check(value)
		require.Empty(t, problem, "(%s)%s", id, value)
		problem, _ = ai.check(value + "1")
		require.Contains(t, problem, "characters", id)
		problem, _ = ai.check("")
		require.Contains(t, problem, "what is given is 0", id)
		if ai.parts[0].numeric {
			problem, position := ai.check("A" + value[1:])
			require.Equal(t, "“A” is no digit.", problem, id)
			require.Equal(t, 1, position)
		}
	}
}

// Fields give the polynomials their standards print.
func TestGeneratorsAreTheStandards(t *testing.T) {
	logs := func(f *field, g []int) (exponents []int) {
		for _, c := range g {
			exponents = append(exponents, f.log[c])
		}
		return exponents
	}
	// ISO/IEC 18004, annex A: x^7 + α^87 x^6 + α^229 x^5 + α^146 x^4 + α^149 x^3 + α^238 x^2 + α^102 x + α^21.
	require.Equal(t, []int{87, 229, 146, 149, 238, 102, 21}, logs(qrField, qrGenerators[7]))
	require.Equal(t, []int{251, 67, 46, 61, 118, 70, 64, 94, 32, 45}, logs(qrField, qrGenerators[10]))
	// ISO/IEC 16022, annex E: the polynomial of five check words, lowest first, is 228, 48, 15, 111, 62.
	require.Equal(t, []int{62, 111, 15, 48, 228}, dmGenerators[5])
	require.Equal(t, 0, qrField.mul(0, 7))
	for a := 1; a < 256; a++ {
		require.Equal(t, 1, qrField.mul(a, qrField.exp[255-qrField.log[a]]), "every element has an inverse")
	}
}

// The bits that the standard prints for format and version information.
func TestFormatBitsAreTheStandards(t *testing.T) {
	require.Equal(t, 0b100000011001110, qrFormat(1, 5), "level M, mask 101: ISO/IEC 18004, annex C.2")
	seen := map[int]bool{}
	for level := range 4 {
		for mask := range 8 {
			bits := qrFormat(level, mask)
			require.False(t, seen[bits])
			seen[bits] = true
		}
	}
}

// What is taken is written back as it was, and goes through a link and back.
func FuzzGS1(f *testing.F) {
	for _, text := range []string{"(01)09521234543213(10)26K104", "(00)095212345432123453", "(01)09521234543213(21)A(7)(10)b", "(8003)09521234543213x/y", "(414)9521234500008(254)7",
		"(01", "(10)%2F&?=", "(3103)001750", "(99)", "()", "(01)095212345432130(17)"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		elements, err := ParseGS1(text)
		if err != nil {
			var data *DataError
			require.ErrorAs(t, err, &data)
			require.LessOrEqual(t, data.Position, len(text)+1)
			return
		}
		require.Equal(t, text, GS1Text(elements))
		require.NotContains(t, string(gs1Data(elements, groupSeparator)), "(01)")
		for _, shortest := range []bool{false, true} {
			link, err := Link("https://id.brinewick.example", elements, shortest)
			if err != nil {
				continue // no key among them
			}
			back, err := ParseLink(link)
			require.NoError(t, err, link)
			require.ElementsMatch(t, elements, back, link)
		}
	})
}
