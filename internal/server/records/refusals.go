package records

import (
	"oddspool/core/refusal"
)

// What this package refuses, in words.
var (
	nothingChosen = refusal.Define("records.nothing-chosen", refusal.Invalid,
		"Nothing in {name} is like that, so there is nothing to keep.")
	choiceWithoutName = refusal.Define("records.choice-without-name", refusal.Invalid,
		"A choice needs a name to be found by.")
	noName = refusal.Define("source.no-name", refusal.Invalid,
		"A connection needs a name to be found by.")
	noName2 = refusal.Define("records.no-name", refusal.Invalid,
		"The record set needs a name.")
	notConnectedRefused = refusal.Define("records.not-connected", refusal.Invalid,
		"{name} is not read from a connection.")
	noKeyField = refusal.Define("records.no-key-field", refusal.Invalid,
		"There is no field {field} that could tell records apart.")
	tooManyToGather = refusal.Define("records.too-many-to-gather", refusal.Invalid,
		"{name} has {count} records; up to {most} are gathered at once. Take in a part of them.")
	otherWidth = refusal.Define("records.other-width", refusal.Invalid,
		"Record {record} has {values} values, and there are {fields} fields.")
	empty = refusal.Define("records.empty", refusal.Invalid,
		"There is no record yet. Write one, then keep them.")
	tooManyToPack = refusal.Define("records.too-many-to-pack", refusal.Invalid,
		"{name} has {count} records; up to {most} are packed at once. Take in a part of them.")
	readFromConnection = refusal.Define("upload.read-from-connection", refusal.Invalid,
		"{name} is read from {connection}. Read it again there, or take this file in as a set of its own.")
)
