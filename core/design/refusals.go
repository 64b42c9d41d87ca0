package design

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	nameClash = refusal.Define("design.name-clash", refusal.Invalid,
		"The records have a field “{name}”, and a number series of the design has that name too. Give one of them "+
			"another name, so that it is plain which is meant.")
	badSyntax = refusal.Define("design.syntax", refusal.Invalid,
		"line {line}, column {column}: this is not a design file: {reason}")
	newerFormat = refusal.Define("design.newer-format", refusal.Invalid,
		"this design was made by a newer Odd Spool ({format}); this one reads {known}. Update, or save it there for "+
			"this version")
	faulty = refusal.Define("design.faults", refusal.Invalid, "{count} faults: {faults}")
)
