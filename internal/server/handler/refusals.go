package handler

import (
	"oddspool/core/refusal"
)

// What this package refuses, in words.
var (
	oneFile = refusal.Define("upload.one-file", refusal.Invalid,
		"One file is taken in at a time.")
	badPart = refusal.Define("upload.bad-part", refusal.Invalid,
		"The {part} cannot be taken: it {reason}.")
	nothingToReplace = refusal.Define("upload.nothing-to-replace", refusal.Invalid,
		"{text:q} is no set of records that could be replaced.")
	unknownChoice = refusal.Define("upload.unknown-choice", refusal.Invalid,
		"There is no choice {choice:q} of how a file is read.")
	sheetFull = refusal.Define("files.sheet-full", refusal.Invalid,
		"A sheet has room for 1,048,575 rows, and there are more. Take the list as CSV.")
	said         = refusal.Define("said", refusal.Invalid, "{text}")
	notWholeFile = refusal.Define("file.not-whole", refusal.Broken,
		"The file did not come in whole, or too slowly. Choose it again.")
	DatabaseAway = refusal.Define("server.database-away", refusal.Busy,
		"The database does not answer. Nothing that was kept is lost; try again in a moment.")
	knownTooLarge = refusal.Define("request.too-large", refusal.Large,
		"This has {size:.1f} MB, and up to {most} are taken at once. Split it, or leave out what no label needs.")
	sizeTooLarge = refusal.Define("request.larger", refusal.Large,
		"This is too large: up to {most} are taken at once. Split it, or leave out what no label needs.")
)
