package runs_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/formula"
	"oddspool/core/questions"
	"oddspool/examples"
	"oddspool/internal/api"
)

// askingDesign keeps a design whose code says a formula, an answer and what another record set has.
func askingDesign(t *testing.T, s *site) api.Design {
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(t, err)
	d, err := design.Parse(data)
	require.NoError(t, err)
	d.Name = "Computed"
	d.Questions = []questions.Question{{Name: "batch", Kind: questions.Text, Must: true, Pattern: `\d\d[A-Z]\d+`}}
	d.Elements = []design.Element{{ID: "code", Kind: design.Code, X: 3000, Y: 3000, Width: 70_000, Height: 20_000,
		Says: []design.Piece{{Field: "batch"},
			{Formula: `"-" + lookup("bins.csv", bin, "bin", "lot") + formatDate(now(), "-HHmmss")`}},
		Code: &design.CodeLooks{Symbology: "code128", Module: 250}}}
	document, err := json.Marshal(d)
	require.NoError(t, err)
	var made api.Design
	require.Equal(t, 200, s.Do("POST", "/api/designs", map[string]any{"document": json.RawMessage(document),
		"recordSetId": 2}, &made))
	return made
}

// Labels of a run say what was answered and what formulas give; the moment of its first print stays on a reprint.
func TestRunsSayAnswersAndFormulas(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	made := askingDesign(t, s)
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs",
		fmt.Sprintf(`{"designId": %d, "recordSetId": 2, "choice": {"records": "1-3", "howMany": {"each": 1}, "printerId": 0}}`, made.Id), &run))
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	var proof api.RunProof
	require.Equal(t, 200, s.Do("GET", path+"/proof", nil, &proof))
	require.Equal(t, 3, proof.LeftOut, "nobody answered")
	choice := func(answer string) string {
		return fmt.Sprintf(`{"records": "1-3", "howMany": {"each": 1}, "printerId": %d, "answers": {"batch": %q}}`,
			run.Printer.Id, answer)
	}
	require.Contains(t, s.Problem(422, "PUT", path, choice("104")), "does not look as it should")
	require.Equal(t, 200, s.Do("PUT", path, choice(" 26K104\r\n"), &run))
	require.Equal(t, map[string]string{"batch": "26K104"}, *run.Choice.Answers)
	require.Equal(t, 200, s.Do("GET", path+"/proof", nil, &proof))
	require.Equal(t, []int{0, 3}, []int{proof.LeftOut, proof.Codes})
	var before, after api.RunLabels
	for _, into := range []*api.RunLabels{&before, &after} {
		require.Equal(t, 200, s.Do("POST", path+"/prints", `{"kind": "again", "labels": "1-3"}`, nil))
		require.Eventually(t, func() bool {
			require.Equal(t, 200, s.Do("GET", path, nil, &run))
			return !slices.ContainsFunc(run.Prints, func(p api.Print) bool {
				return p.State != api.PrintStateDone ||
					p.ReadBack != 3
			})
		}, 2e10, 1e7, "each is read back as meant, the time of day in it")
		require.Equal(t, 200, s.Do("GET", path+"/labels", nil, into))
	}
	require.Equal(t, before.Labels, after.Labels, "the moment of the first print")
	require.Contains(t, s.Problem(409, "PUT", path, choice("26K105")), "keeps its records")
}

// What a formula gives is tried before it is used, and the functions are listed.
// Each label of a run says its own number, and reads back so.
func TestLabelsOfARunSayTheirNumbers(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(t, err)
	d, err := design.Parse(data)
	require.NoError(t, err)
	d.Elements = []design.Element{{ID: "code", Kind: design.Code, X: 3000, Y: 3000, Width: 70_000, Height: 20_000,
		Says: []design.Piece{{Field: "bin"}, {Text: " "}, {Field: "run.label"}, {Text: "/"}, {Field: "run.labels"},
			{Text: " "}, {Field: "run.operator"}}, Code: &design.CodeLooks{Symbology: "datamatrix", Module: 500}}}
	document, err := json.Marshal(d)
	require.NoError(t, err)
	var made api.Design
	require.Equal(t, 200, s.Do("POST", "/api/designs", map[string]any{"document": json.RawMessage(document),
		"recordSetId": 2}, &made))
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs",
		fmt.Sprintf(`{"designId": %d, "recordSetId": 2, "choice": {"records": "1-3", "howMany": {"each": 2}, "printerId": 0}}`, made.Id), &run))
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	require.Equal(t, 200, s.Do("POST", path+"/prints", `{"kind": "all"}`, nil))
	require.Eventually(t, func() bool {
		require.Equal(t, 200, s.Do("GET", path, nil, &run))
		return run.Prints[0].State == api.PrintStateDone && run.Prints[0].ReadBack == 6
	}, 30*time.Second, 20*time.Millisecond, "each was read as it was meant")
	var labels api.RunLabels
	require.Equal(t, 200, s.Do("GET", path+"/labels", nil, &labels))
	require.NotEqual(t, labels.Labels[0].Picture, labels.Labels[1].Picture, "two labels of a record are not alike")
}

func TestFormulasAreTried(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var list api.Formulas
	require.Equal(t, 200, s.Do("GET", "/api/formulas", nil, &list))
	require.Len(t, list.Functions, len(formula.List()))
	require.Len(t, list.Changes, len(formula.Changes()))
	var tried api.FormulaTried
	require.Equal(t, 200, s.Do("POST", "/api/formulas/try",
		`{"formula": "bin + batch", "recordSetId": 2, "from": 2, "answers": ["batch"]}`, &tried))
	require.Len(t, tried.Values, 3)
	require.Equal(t, 2, tried.Values[0].Record)
	require.Contains(t, tried.Values[0].Value, "‹batch›")
	require.Equal(t, 200, s.Do("POST", "/api/formulas/try", `{"formula": "1 +", "answers": []}`, &tried))
	require.Contains(t, *tried.Problem, "ends too early")
	require.Equal(t, 200, s.Do("POST", "/api/formulas/try",
		`{"formula": "lookup(\"nosuch\", \"1\", \"a\", \"b\")", "answers": []}`, &tried))
	require.Contains(t, *tried.Values[0].Problem, "there is no record set “nosuch”")
}

// Records are written by hand, and in place of others, which designs follow.
func TestRecordsAreWritten(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var set, next api.RecordSet
	require.Equal(t, 200, s.Do("POST", "/api/record-sets/written",
		`{"name": "By hand", "fields": ["bin", "lot  no"], "records": [["N-1", "007"], ["N-2", "1E5"]]}`, &set))
	require.Equal(t, []string{"bin", "lot no"}, set.Fields)
	var made api.Design
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(t, err)
	require.Equal(t, 200, s.Do("POST", "/api/designs", map[string]any{"document": json.RawMessage(data),
		"recordSetId": set.Id}, &made))
	body := fmt.Sprintf(`{"name": "By hand", "fields": ["bin"], "records": [["N-3"]], "replaces": %d}`, set.Id)
	require.Equal(t, 200, s.Do("POST", "/api/record-sets/written", body, &next))
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/designs/%d", made.Id), nil, &made))
	require.Equal(t, next.Id, *made.RecordSetId)
	require.Contains(t, s.Problem(409, "POST", "/api/record-sets/written", body), "replaced or retired")
	var records api.Records
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/record-sets/%d/records", set.Id), nil, &records))
	require.Equal(t, "007", records.Records[0].Values[1], "what was printed from it stays")
	for body, text := range map[string]string{
		`{"name": "x", "fields": ["a", " a "], "records": [["1", "2"]]}`: "Two columns are called",
		`{"name": "x", "fields": [" "], "records": [["1"]]}`:             "Column 1 needs a name",
		`{"name": "x", "fields": ["a"], "records": [["1", "2"]]}`:        "Record 1 has 2 values",
		`{"name": "x", "fields": ["a"], "records": []}`:                  "no record yet",
	} {
		require.Contains(t, s.Problem(422, "POST", "/api/record-sets/written", body), text)
	}
	var packed api.RecordSet
	require.Equal(t, 200, s.Do("POST", "/api/record-sets/2/packs", `{"field": "bags", "size": "10"}`, &packed))
	require.Greater(t, packed.Count, 240)
	require.Contains(t, s.Problem(422, "POST", "/api/record-sets/2/packs", `{"field": "nosuch", "size": "10"}`),
		"no field")
}

func TestRecordsAreChosenAndKept(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var chosen api.Chosen
	require.Equal(t, 200, s.Do("POST", "/api/record-sets/2/choose",
		`{"choosing": {"sort": [{"field": "bin", "down": true}], "fields": [{"field": "bin", "is": "begins with", "values": ["N-01-01"]}]}, "most": 2}`, &chosen))
	require.Greater(t, chosen.Found, 2)
	require.Len(t, chosen.Records, 2)
	require.Greater(t, chosen.Records[0].Number, chosen.Records[1].Number)
	require.Equal(t, fmt.Sprintf("1-%d", chosen.Found), chosen.Range)
	var set api.RecordSet
	require.Equal(t, 200, s.Do("POST", "/api/record-sets/2/keep",
		`{"choosing": {"words": "n-01-01"}, "name": "First rack"}`, &set))
	require.Equal(t, chosen.Found, set.Count)
	require.Contains(t, s.Problem(422, "POST", "/api/record-sets/2/keep",
		`{"choosing": {"words": "no such words"}, "name": "None"}`), "nothing to keep")
	require.Contains(t, s.Problem(422, "POST", "/api/record-sets/2/choose", `{"choosing": {"firstOf": "nosuch"}}`),
		"no field “nosuch”")
	s.Problem(404, "POST", "/api/record-sets/99/choose", `{"choosing": {}}`)
}

// Choices come from records, those of the newest set of a name; what was answered before is offered.
func TestChoicesAndEarlierAnswers(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(t, err)
	d, err := design.Parse(data)
	require.NoError(t, err)
	d.Questions = []questions.Question{{Name: "shed", Kind: questions.Choice, From: &questions.Source{Set: "sheds.csv",
		Field: "shed"}}, {Name: "batch", Kind: questions.Text}}
	document, err := json.Marshal(d)
	require.NoError(t, err)
	var made api.Design
	require.Equal(t, 200, s.Do("POST", "/api/designs", map[string]any{"document": json.RawMessage(document),
		"recordSetId": 2}, &made))
	prepare := fmt.Sprintf(`{"designId": %d, "recordSetId": 2}`, made.Id)
	require.Contains(t, s.Problem(422, "POST", "/api/runs", prepare),
		"hed: its choices cannot be had: there is no record set “sheds.csv”.")
	for _, sheds := range [][][]string{{{"North"}, {"South"}}, {{"North"}, {"Quay"}, {"North"}}} {
		_, err := s.Store.AddRecordSet(t.Context(), "sheds.csv", []string{"shed"}, sheds, "Maren")
		require.NoError(t, err)
	}
	var run api.Run
	for _, answers := range []string{`{"shed": "north", "batch": "26K104"}`, `{"shed": "Quay", "batch": "26K105"}`,
		`{"shed": "Quay", "batch": "26K104"}`} {
		require.Equal(t, 200, s.Do("POST", "/api/runs",
			fmt.Sprintf(`{"designId": %d, "recordSetId": 2, "choice": {"records": "1", "howMany": {"each": 1}, "printerId": 0, "answers": %s}}`, made.Id, answers), &run))
	}
	require.Equal(t, map[string][]string{"shed": {"Quay", "North"}, "batch": {"26K104", "26K105"}}, run.Earlier)
	require.Contains(t, fmt.Sprintf("%s", run.Questions), `"choices":["North","Quay"]`)
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	require.Contains(t, s.Problem(422, "PUT", path,
		fmt.Sprintf(`{"records": "1", "howMany": {"each": 1}, "printerId": %d, "answers": {"shed": "South"}}`,
			run.Printer.Id)), "“South” is none of North, Quay.")
}

// A question that must be answered is demanded, whether an element says it or not.
func TestWhatMustBeAnsweredIsDemanded(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var d api.Design
	require.Equal(t, 200, s.Do("GET", "/api/designs/2", nil, &d))
	var document map[string]any
	require.NoError(t, json.Unmarshal(d.Document, &document))
	document["questions"] = []any{map[string]any{"name": "shift", "kind": "text", "must": true, "pattern": "[A-Z]"},
		map[string]any{"name": "weight", "kind": "number", "must": true, "each": "record"}}
	require.Equal(t, 200, s.Do("PUT", "/api/designs/2", map[string]any{"document": document, "edit": d.Edit}, nil))
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs",
		`{"designId": 2, "recordSetId": 2, "choice": {"records": "1-2", "printerId": 1, "howMany": {"each": 1}}}`,
		&run))
	path := fmt.Sprintf("/api/runs/%d", run.Id)
	require.Contains(t, s.Problem(422, "POST", path+"/prints", `{"kind": "all"}`), "“shift” needs an answer")
	require.Contains(t, s.Problem(422, "GET", path+"/labels/file?format=pdf", nil), "“shift” needs an answer")
	choice := `{"records": "1-2", "printerId": 1, "howMany": {"each": 1}, "answers": {"shift": %q}}`
	require.Contains(t, s.Problem(422, "PUT", path, fmt.Sprintf(choice, "late")),
		"does not look as it should: a capital")
	require.Equal(t, 200, s.Do("PUT", path, fmt.Sprintf(choice, "L"), nil))
	require.Contains(t, s.Problem(422, "POST", path+"/prints", `{"kind": "all"}`),
		"“weight” needs an answer for each record, and 0 of 2 are there")
	require.Equal(t, 204, s.Do("PUT", path+"/answers",
		`{"answers": [{"record": 1, "copy": 0, "name": "weight", "answer": "7"}, {"record": 2, "copy": 0, "name": "weight", "answer": "7.5"}]}`, nil))
	require.Equal(t, 200, s.Do("POST", path+"/prints", `{"kind": "all"}`, nil))
	rows := s.Table(path+"/list?format=csv", "csv")
	require.Equal(t, []string{"shift", "weight", "numbers"}, rows[0][len(rows[0])-13:len(rows[0])-10],
		"what was answered is in the list")
	require.Equal(t, []string{"L", "7"}, rows[1][len(rows[0])-13:len(rows[0])-11])
	require.Equal(t, []string{"L", "7.5"}, rows[2][len(rows[0])-13:len(rows[0])-11])
}
