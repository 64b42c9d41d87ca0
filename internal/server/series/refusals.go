package series

import (
	"oddspool/core/refusal"
)

// What this package refuses, in words.
var (
	twoWaysAhead = refusal.Define("series.two-ways-ahead", refusal.Invalid,
		"Say either the highest number on a label, or by how many numbers the series is put ahead.")
	noWayAhead = refusal.Define("series.no-way-ahead", refusal.Invalid,
		"Say the highest number that stands on a label, or by how many numbers the series is put ahead: 0 if none "+
			"was given since.")
	notInList = refusal.Define("series.not-in-list", refusal.Invalid,
		"“{number}” is no number of the list of this series.")
	noName = refusal.Define("series.no-name", refusal.Invalid,
		"Give the series a name, by which designs ask for its numbers.")
	listTwice = refusal.Define("series.list-twice", refusal.Invalid,
		"“{number}” stands in the list twice, on lines {first} and {second}. A number is used once: take one of "+
			"them out.")
	listBlanks = refusal.Define("series.list-blanks", refusal.Invalid,
		"Line {line} of the list, “{number}”, has white space at its ends or control characters in it. Take them out.")
)
