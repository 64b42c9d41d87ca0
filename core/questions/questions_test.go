package questions_test

import (
	"errors"
	"fmt"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/questions"
)

func TestAnswersAreTakenOrRefusedInWords(t *testing.T) {
	for _, test := range []struct {
		question          questions.Question
		typed, kept, text string
	}{
		{questions.Question{Name: "batch", Kind: questions.Text, Must: true}, "  ", "", "batch: this needs an answer."},
		{questions.Question{Name: "batch", Kind: questions.Text}, "\x02 26K104\r\n", "26K104", ""},
		{questions.Question{Name: "batch", Words: "Which batch?", Kind: questions.Text, Pattern: `\d\d[A-Z]\d+`},
			"26K104", "26K104", ""},
		{questions.Question{Name: "batch", Words: "Which batch?", Kind: questions.Text, Pattern: `\d\d[A-Z]`}, "26K104",
			"", "Which batch? “26K104” does not look as it should"},
		{questions.Question{Name: "batch", Kind: questions.Text, Least: "4", Most: "6"}, "26K", "",
			"at least 4 letters are needed; “26K” has 3."},
		{questions.Question{Name: "batch", Kind: questions.Text, Most: "6"}, "26K1044", "",
			"up to 6 letters are taken"},
		{questions.Question{Name: "net", Kind: questions.Number, Least: "0.5", Most: "25"}, "007", "007", ""},
		{questions.Question{Name: "net", Kind: questions.Number, Least: "0.5", Most: "25"}, "0.45", "",
			"0.45 is less than 0.5."},
		{questions.Question{Name: "net", Kind: questions.Number, Most: "25"}, "25.1", "", "25.1 is more than 25."},
		{questions.Question{Name: "net", Kind: questions.Number}, "many", "", "“many” is no number."},
		{questions.Question{Name: "packed", Kind: questions.Date, Least: "2026-01-01"}, "2026-11-26", "2026-11-26", ""},
		{questions.Question{Name: "packed", Kind: questions.Date, Least: "2026-01-01"}, "2025-11-26", "",
			"is before 2026-01-01."},
		{questions.Question{Name: "packed", Kind: questions.Date}, "2026-02-30", "",
			"is no date; write it as 2026-11-26."},
		{questions.Question{Name: "shed", Kind: questions.Choice, Choices: []string{"North", "South"}}, "north",
			"North", ""},
		{questions.Question{Name: "shed", Kind: questions.Choice, Choices: []string{"North", "South"}}, "west", "",
			"is none of North, South."},
		{questions.Question{Name: "organic", Kind: questions.YesNo}, "Y", questions.Yes, ""},
		{questions.Question{Name: "organic", Kind: questions.YesNo}, "perhaps", "", "answer yes or no."},
	} {
		kept, err := test.question.Answer(test.typed)
		if test.text == "" {
			require.NoError(t, err)
			require.Equal(t, test.kept, kept)
			continue
		}
		require.IsType(t, &refusal.Error{}, err)
		require.ErrorContains(t, err, test.text)
	}
}

func TestChoicesComeFromRecords(t *testing.T) {
	q := questions.Question{Name: "shed", Kind: questions.Choice, Choices: []string{"North"},
		From: &questions.Source{Set: "sheds.csv", Field: "shed"}}
	require.Empty(t, q.Fault())
	own := q.Choices
	read := func(from questions.Source) ([]string, error) {
		if from.Field != "shed" {
			return nil, errors.New("sheds.csv has no field “hall”")
		}
		return []string{"South", "North", "", "South", "Quay"}, nil
	}
	require.NoError(t, q.Fill(read))
	require.Equal(t, []string{"North", "South", "Quay"}, q.Choices)
	require.Len(t, own, 1)
	kept, err := q.Answer("quay")
	require.NoError(t, err)
	require.Equal(t, "Quay", kept)
	_, err = q.Answer("West")
	require.ErrorContains(t, err, "“West” is none of North, South, Quay.")
	q.From.Field = "hall"
	require.ErrorContains(t, q.Fill(read), "shed: its choices cannot be had: sheds.csv has no field “hall”.")
	many := questions.Question{Name: "n", Kind: questions.Choice, From: &questions.Source{Set: "sheds.csv",
		Field: "shed"}}
	require.ErrorContains(t, many.Fill(func(questions.Source) (values []string, err error) {
		for i := range 1001 {
			values = append(values, fmt.Sprint(i))
		}
		return values, nil
	}), "more than 1000 different values")
}

func TestRecordsAreCheckedFieldByField(t *testing.T) {
	checks := []questions.Question{{Name: "bags", Kind: questions.Number, Least: "1", Must: true},
		{Name: "lot", Kind: questions.Text, Pattern: `\d\d[A-Z]\d+`},
		{Name: "gone", Kind: questions.Number, Must: true}}
	records := [][]string{{"26K104", "3"}, {"", " "}, {"K104", "0"}, {"", ""}, {"26K1", "many"}, {"26K1"}}
	wrong, all := questions.Check([]string{"lot", "bags"}, records, checks, 2)
	require.Equal(t, 3, all)
	require.Equal(t, []questions.Wrong{{3, "bags", "bags: 0 is less than 1."},
		{3, "lot", "lot: “K104” does not look as it should: 2 digits, then a capital, then 1 or more digits."}}, wrong)
}

func TestQuestionsThatAreNoneAreTold(t *testing.T) {
	for text, q := range map[string]questions.Question{
		"no kind of question":      {Name: "a", Kind: "colour"},
		"something to choose from": {Name: "a", Kind: questions.Choice},
		"The pattern":              {Name: "a", Kind: questions.Text, Pattern: "("},
		"The limit":                {Name: "a", Kind: questions.Date, Least: "7"},
		"stands there at first":    {Name: "a", Kind: questions.Number, Most: "5", Default: "6"},
	} {
		require.Contains(t, q.Fault(), text)
	}
	q := questions.Question{Name: "a", Kind: questions.Number, Least: "1", Most: "5", Default: "3"}
	require.Empty(t, q.Fault())
}

func ExampleQuestion_Answer() {
	q := questions.Question{Name: "net", Words: "Net weight in kg?", Kind: questions.Number, Most: "25"}
	_, err := q.Answer("250")
	fmt.Println(err)
	// Output: Net weight in kg? 250 is more than 25.
}

// What an answer should look like is said in words, where there are words for it.
func TestPatternsAreSaidInWords(t *testing.T) {
	for pattern, want := range map[string]string{
		`[A-Z]{2}[0-9]{4}`: "2 capitals, then 4 digits", `\d+`: "1 or more digits", `N-[0-9]{2}`: "“N-”, then 2 digits",
		`[KDS]`: "one of D K S", `A|B7`: "“A” or “B7”",
		`[a-z]*x?`: "any number of small letters, then “x” or nothing", `[0-9A-Z]{3,5}`: "3 to 5 digits or capitals",
		`(?:ab)+`: `(?:ab)+`,
	} {
		q := questions.Question{Name: "lot", Kind: questions.Text, Pattern: pattern}
		_, err := q.Answer("§ none of it")
		require.ErrorContains(t, err, "does not look as it should: "+want, pattern)
	}
}
