package filter

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	unknownField = refusal.Define("filter.unknown-field", refusal.Invalid,
		"The records have no field “{name}”.")
	unknownTest = refusal.Define("filter.unknown-test", refusal.Invalid,
		"There is no test “{test}”.")
	notNumber = refusal.Define("filter.not-number", refusal.Invalid,
		"{field} has numbers, and “{text}” is none.")
)
