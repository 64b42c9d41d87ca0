package design_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/formula"
	"oddspool/core/questions"
	"oddspool/core/series"
)

func TestLabelsHaveFieldsBehindThoseOfTheirRecords(t *testing.T) {
	d := &design.Design{
		Questions: []questions.Question{{Name: "batch"}, {Name: "packer", Each: questions.EachRecord},
			{Name: "weight", Each: questions.EachLabel}},
		Series: []design.Numbered{{Name: "crates"}},
	}
	require.Equal(t, []string{"bin", "run.label", "run.labels", "run.printer", "run.operator", "run.page", "run.group",
		"run.grouped", "packer", "weight", "crates"}, d.LabelFields([]string{"bin"}))
	require.Len(t, d.Asked([]string{"bin"}), 1)
	require.True(t, d.DiffersByLabel())

	known := []string{"batch", "weight"} // what records know is not asked
	require.Empty(t, d.Asked(known))
	require.Equal(t, []questions.Question{{Name: "packer", Each: questions.EachRecord}}, d.AskedEach(known))
	require.NoError(t, d.Clash(known))
	require.ErrorContains(t, d.Clash([]string{"crates"}), "The records have a field “crates”")

	d.Questions, d.Series[0].Per = d.Questions[:2], design.PerRecord
	require.False(t, d.DiffersByLabel(), "all labels of a record say the same")
}

func TestNumbersThatAreNoneAreTold(t *testing.T) {
	for text, numbers := range map[string][]design.Numbered{
		"A step of 0": {{Name: "a", Counts: series.Spec{Start: "1"}}},
		"Say by which value records are a": {{Name: "a", Per: design.PerGroup,
			Counts: series.Spec{Start: "1", Step: 1}}},
		`The series "a" is there twice.`: {{Name: "a",
			Counts: series.Spec{Start: "1", Step: 1}}, {Name: "a", Counts: series.Spec{Start: "1", Step: 1}}},
		`A question is called "batch" too`: {{Name: "batch",
			Counts: series.Spec{Start: "1", Step: 1}}},
		`"run.label" is what a label knows`: {{Name: "run.label",
			Counts: series.Spec{Start: "1", Step: 1}}},
		"There is no check rule": {{Name: "a", Counts: series.Spec{Start: "1", Step: 1,
			Check: "none"}}},
		`"pallet" is not known here; it can be nothing, "label"`: {{Name: "a", Per: "pallet",
			Counts: series.Spec{Start: "1", Step: 1}}},
	} {
		d, err := design.Parse([]byte(example(t)))
		require.NoError(t, err)
		d.Questions, d.Series = []questions.Question{{Name: "batch", Kind: questions.Text}}, numbers
		data, err := json.Marshal(d)
		require.NoError(t, err)
		_, err = design.Parse(data)
		require.ErrorContains(t, err, text)
		require.IsType(t, &design.FaultsError{}, err)
	}
}

func TestFormulasOfNumbersGiveAValueForEachRecord(t *testing.T) {
	value, err := design.Valued(`left(bin, 1)`, []string{"bin"}, &formula.Setting{})
	require.NoError(t, err)
	text, err := value([]string{"N-07"})
	require.NoError(t, err)
	require.Equal(t, "N", text)
	none, err := design.Valued("", nil, nil)
	require.NoError(t, err)
	text, err = none(nil)
	require.NoError(t, err)
	require.Empty(t, text)
	_, err = design.Valued("lot +", []string{"bin"}, nil)
	require.ErrorContains(t, err, "ends too early")
}

func TestChangesOfNumbersAreTold(t *testing.T) {
	counts := series.Spec{Start: "1", Step: 1}
	before, after := &design.Design{}, &design.Design{Series: []design.Numbered{{Name: "crates", Counts: counts}}}
	said := func(before, after *design.Design) string { return fmt.Sprint(design.Compare(before, after)) }
	require.Contains(t, said(before, after), "Labels have numbers of the series “crates”.")
	require.Contains(t, said(after, before), "Labels have no numbers of the series “crates” any more.")
	record := &design.Design{Series: []design.Numbered{{Name: "crates", Per: design.PerRecord, Counts: counts}}}
	require.Contains(t, said(after, record), "Each label had a number of the series “crates”, and each record has one.")
	anew := &design.Design{Series: []design.Numbered{{Name: "crates", Anew: "lot", Counts: counts}}}
	require.Contains(t, said(after, anew), "The series “crates” counts in another way.")
	require.Equal(t, "[]", said(after, after))
}
