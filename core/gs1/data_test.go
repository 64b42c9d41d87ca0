package gs1_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/gs1"
)

func TestWhatReadersSendIsRead(t *testing.T) {
	for data, text := range map[string]string{
		"]C1010952123454321310" + "26K104\x1d21" + "00417": "(01)09521234543213(10)26K104(21)00417",
		"]d2" + "2100417\x1d" + "0109521234543213":         "(21)00417(01)09521234543213",
		"00" + "095212300000000017":                        "(00)095212300000000017",
		"3103000750" + "11260401" + "10A":                  "(3103)000750(11)260401(10)A",
		"10A\x1d\x1d21B":                                   "(10)A(21)B",
	} {
		elements, err := gs1.ReadData(data)
		require.NoError(t, err, "%q", data)
		require.Equal(t, text, gs1.Text(elements))
		again, err := gs1.Parse(text)
		require.NoError(t, err)
		written, err := gs1.ReadData(string(gs1.Data(again, gs1.Separator)))
		require.NoError(t, err)
		require.Equal(t, again, written, "what is written is read")
	}
	for data, says := range map[string]string{
		"":                 "There is no data.",
		"0109521234543214": "(01) GTIN",
		"01095212345":      "(01) GTIN",
		"99ok\x1dKW-0417":  "No application identifier begins here.",
		"KW-0417":          "No application identifier begins here.",
		"10\x1d21B":        "(10)",
	} {
		_, err := gs1.ReadData(data)
		require.ErrorContains(t, err, says, "%q", data)
	}
}

func TestDataIsReadInEveryForm(t *testing.T) {
	for _, text := range []string{"(01)09521234543213(21)A+7",
		"https://id.brinewick.example/01/09521234543213/21/A%2B7",
		"HTTPS://ID.BRINEWICK.EXAMPLE/01/09521234543213/21/A%2B7",
		"]Q1HTTPS://ID.BRINEWICK.EXAMPLE/01/09521234543213/21/A%2B7", "010952123454321321A+7",
		"]d2010952123454321321A+7"} {
		elements, err := gs1.ReadAny(text)
		require.NoError(t, err, text)
		require.Equal(t, "(01)09521234543213(21)A+7", gs1.Text(elements), text)
	}
	for _, text := range []string{"", "https://", "https://brinewick.example/kelp", "(01", "KW-0417", "]C1"} {
		_, err := gs1.ReadAny(text)
		require.IsType(t, &gs1.DataError{}, err, text)
	}
}

// What is written as it is typed is read as the same, whatever stands in a value.
func TestWhatIsTypedComesBack(t *testing.T) {
	for value, written := range map[string]string{"A7": "A7", "A(b)7": "A(b)7", "A(21)7": `A\(21\)7`, "(": "(",
		`A\`: `A\\`} {
		typed := gs1.Typed([]gs1.Element{{AI: gs1.Find("10"), Value: value}, {AI: gs1.Find("21"), Value: "1"}})
		require.Equal(t, "(10)"+written+"(21)1", typed)
		if value == `A\` {
			continue // no value of GS1 has one, and Parse says so
		}
		elements, err := gs1.Parse(typed)
		require.NoError(t, err, typed)
		require.Equal(t, value, elements[0].Value)
	}
}

func FuzzReadData(f *testing.F) {
	f.Add("]C101095212345432131026K104\x1d2100417")
	f.Add("10\x1d")
	f.Fuzz(func(t *testing.T, data string) {
		elements, err := gs1.ReadData(data)
		if err != nil {
			require.IsType(t, &gs1.DataError{}, err)
			return
		}
		again, err := gs1.ReadData(string(gs1.Data(elements, gs1.Separator)))
		require.NoError(t, err)
		require.Equal(t, elements, again)
	})
}

func ExampleReadData() {
	elements, _ := gs1.ReadData("]C101095212345432132100417")
	fmt.Println(gs1.Text(elements))
	// Output: (01)09521234543213(21)00417
}
