package design

import (
	"fmt"
	"slices"

	"oddspool/core/formula"
	"oddspool/core/questions"
	"oddspool/core/refusal"
	"oddspool/core/series"
)

// What has a number of a series.
const (
	PerLabel  = "label"
	PerRecord = "record" // all its labels
	PerGroup  = "group"  // records that follow one another and have one value
	PerRun    = "run"
)

// A Numbered is a number of a series that labels have: a field under the name of the series.
type Numbered struct {
	Name  string `json:"name"`            // of the series, by which the database knows it
	Per   string `json:"per,omitempty"`   // empty: PerLabel
	Group string `json:"group,omitempty"` // PerGroup: a formula, whose value records of a group have
	// a formula: for each of its values the series counts on its own; empty: it never starts over
	Anew   string      `json:"anew,omitempty"`
	Counts series.Spec `json:"counts"` // how it counts where no database keeps it
}

// Each returns what has a number.
func (n *Numbered) Each() string {
	if n.Per == "" {
		return PerLabel
	}
	return n.Per
}

// LabelFields returns the names of all that labels of a run have values of, in the order of the values: the fields of
// records, the Facts, what is asked for each record or label, and the numbers of series.
func (d *Design) LabelFields(fields []string) []string {
	all := slices.Clone(fields)
	for _, fact := range Facts {
		all = append(all, fact.Name)
	}
	for _, q := range d.AskedEach(fields) {
		all = append(all, q.Name)
	}
	for i := range d.Series {
		all = append(all, d.Series[i].Name)
	}
	return all
}

// Asked returns the questions that are asked once before a run of records with some fields: what those know is not
// asked.
func (d *Design) Asked(fields []string) []questions.Question {
	return d.asked(fields, func(q questions.Question) bool { return q.Each == "" })
}

// AskedEach returns the questions that are asked for each record or label of such a run.
func (d *Design) AskedEach(fields []string) []questions.Question {
	return d.asked(fields, func(q questions.Question) bool { return q.Each != "" })
}

func (d *Design) asked(fields []string, which func(questions.Question) bool) (asked []questions.Question) {
	for _, q := range d.Questions {
		if which(q) && !slices.Contains(fields, q.Name) {
			asked = append(asked, q)
		}
	}
	return asked
}

// FillChoices adds to the choices of questions those that records give, see questions.Question.Fill.
func (d *Design) FillChoices(read questions.Reader) error {
	for i := range d.Questions {
		if err := d.Questions[i].Fill(read); err != nil {
			return err
		}
	}
	return nil
}

// DiffersByLabel tells whether labels of one record may say something different, besides the Facts.
func (d *Design) DiffersByLabel() bool {
	return slices.ContainsFunc(d.Questions, func(q questions.Question) bool { return q.Each == questions.EachLabel }) ||
		slices.ContainsFunc(d.Series, func(n Numbered) bool { return n.Each() == PerLabel })
}

// A ClashError says that records have a field with the name of a series.
type ClashError struct{ Name string }

func (e *ClashError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *ClashError) Refusal() *refusal.Error {
	return nameClash.With(e.Name)
}

// Clash returns what is wrong with records of some fields, a *ClashError; nil: nothing.
func (d *Design) Clash(fields []string) error {
	for i := range d.Series {
		if slices.Contains(fields, d.Series[i].Name) {
			return &ClashError{d.Series[i].Name}
		}
	}
	return nil
}

// A Value is what a formula gives for each record.
type Value func(record []string) (string, error)

// Valued prepares one of the formulas of a number for records of some fields; an empty one gives nothing.
func Valued(text string, fields []string, setting *formula.Setting) (Value, error) {
	if text == "" {
		return func([]string) (string, error) { return "", nil }, nil
	}
	f, err := formula.Compile(text, fields)
	if err != nil {
		return nil, err
	}
	return func(record []string) (string, error) { return f.Text(record, setting) }, nil
}

// seriesFaults returns what is wrong with the numbers.
func (d *Design) seriesFaults() (faults []Fault) {
	for i := range d.Series {
		n, path := &d.Series[i], fmt.Sprintf("series[%d]", i)
		if _, err := series.New(n.Counts); err != nil {
			faults = append(faults, Fault{path + ".counts", err.Error()})
		}
		if n.Per == PerGroup && n.Group == "" {
			faults = append(faults, Fault{path + ".group", "Say by which value records are a group."})
		}
		switch {
		case slices.ContainsFunc(d.Series[:i], func(other Numbered) bool { return other.Name == n.Name }):
			faults = append(faults, Fault{path + ".name", fmt.Sprintf("The series %q is there twice.", n.Name)})
		case slices.ContainsFunc(d.Questions, func(q questions.Question) bool { return q.Name == n.Name }):
			faults = append(faults, Fault{path + ".name",
				fmt.Sprintf("A question is called %q too; each needs a name of its own.", n.Name)})
		case isFact(n.Name):
			faults = append(faults, Fault{path + ".name",
				fmt.Sprintf("%q is what a label knows of its run; call the series something else.", n.Name)})
		}
	}
	return faults
}
