package design

import "slices"

// A Fact is a field that no record has: what is known of a label only as its run is printed.
type Fact struct {
	Name  string // of the field
	Words string // as people are told
	Stand string // what stands in for it where there is no run
}

// Facts are all of them, in the order in which their values stand behind those of a record.
var Facts = []Fact{
	{"run.label", "Number of the label in its run", "1"},
	{"run.labels", "How many labels the run has", "1"},
	{"run.printer", "The printer", "printer"},
	{"run.operator", "Who prints it", "operator"},
	{"run.page", "Number of its sheet, or of its row of lanes, in the run", "1"},
	{"run.group", "Number of its group in the run, where labels besides part it into groups", "1"},
	{"run.grouped", "How many labels its group has, or those that a label besides stands for", "1"},
}

// isFact tells whether a field is one that no record has.
func isFact(field string) bool {
	return slices.ContainsFunc(Facts, func(f Fact) bool { return f.Name == field })
}
