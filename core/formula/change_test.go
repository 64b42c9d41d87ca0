package formula_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/formula"
)

func TestChangesDoWhatTheySay(t *testing.T) {
	tested := map[string]bool{}
	for _, test := range []struct {
		change      formula.Change
		value, want string
	}{
		{formula.Change{Do: "upper"}, "dulse", "DULSE"}, {formula.Change{Do: "lower"}, "DULSE", "dulse"},
		{formula.Change{Do: "capital"}, "ørred", "Ørred"}, {formula.Change{Do: "trim"}, " a  b ", "a b"},
		{formula.Change{Do: "left", With: []string{"4"}}, "N-03-07", "N-03"},
		{formula.Change{Do: "right", With: []string{"2"}}, "N-03-07", "07"},
		{formula.Change{Do: "middle", With: []string{"3", "2"}}, "N-03-07", "03"},
		{formula.Change{Do: "part", With: []string{"-", "3"}}, "N-03-07", "07"},
		{formula.Change{Do: "pad", With: []string{"6", "0"}}, "417", "000417"},
		{formula.Change{Do: "padAfter", With: []string{"5", "."}}, "417", "417.."},
		{formula.Change{Do: "replace", With: []string{"-", ""}}, "N-03-07", "N0307"},
		{formula.Change{Do: "digits"}, "N-03-07", "0307"}, {formula.Change{Do: "letters"}, "N-03-07", "N"},
		{formula.Change{Do: "round", With: []string{"1"}}, "2.45", "2.5"},
		{formula.Change{Do: "format", With: []string{"2", ",", "."}}, "1234567.5", "1.234.567,50"},
		{formula.Change{Do: "formatDate", With: []string{"dd.MM.yyyy", "en"}}, "2026-11-26", "26.11.2026"},
		{formula.Change{Do: "readDate", With: []string{"yyMMdd", "dd/MM/yyyy"}}, "261126", "26/11/2026"},
		{formula.Change{Do: "before", With: []string{"No. "}}, "7", "No. 7"},
		{formula.Change{Do: "behind", With: []string{" kg"}}, "7", "7 kg"},
		{formula.Change{Do: "behind", With: []string{" kg"}}, "", ""},
		{formula.Change{Do: "default", With: []string{"none"}}, "", "none"},
		{formula.Change{Do: "translate", With: []string{"A", "Ambient", "C", "Chilled"}}, "C", "Chilled"},
		{formula.Change{Do: "cipher", With: []string{"BLACKHORSE"}}, "19.90", "BS.SE"},
		{formula.Change{Do: "withCheck", With: []string{"gs1"}}, "952123400042", "9521234000426"},
	} {
		require.NoError(t, test.change.Check(), test.change.Do)
		got, err := test.change.Apply(test.value)
		require.NoError(t, err, test.change.Do)
		require.Equal(t, test.want, got, test.change.Do)
		tested[test.change.Do] = true
	}
	for _, kind := range formula.Changes() {
		require.True(t, tested[kind.Do], kind.Do)
		require.Len(t, kind.With, len(kind.Takes), kind.Do)
		require.NoError(t, formula.Change{Do: kind.Do, With: kind.With}.Check())
	}
	text, err := formula.All([]formula.Change{{Do: "digits"}, {Do: "pad", With: []string{"5", "0"}}}, "N-41-7")
	require.NoError(t, err)
	require.Equal(t, "00417", text)
	_, err = formula.Change{Do: "round", With: []string{"1"}}.Apply("many")
	require.ErrorContains(t, err, "“many” is no number")
	require.ErrorContains(t, formula.Change{Do: "nosuch"}.Check(), "no change")
	require.ErrorContains(t, formula.Change{Do: "left"}.Check(), "takes 1 values, 0 are given")
}

func TestFieldsOfAFormulaAreFound(t *testing.T) {
	names, err := formula.Fields(`left(lot, 2) + field("part no") + "x" + (qty > 1 ? bin : lot)`)
	require.NoError(t, err)
	require.Equal(t, []string{"lot", "part no", "qty", "bin"}, names)
	_, err = formula.Fields("(")
	require.IsType(t, &formula.Error{}, err)
}
