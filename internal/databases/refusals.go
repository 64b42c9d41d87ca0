package databases

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	columnGone = refusal.Define("database.column-gone", refusal.Invalid,
		"The table {table} has no column {column} any more. Choose its columns anew.")
	failed      = refusal.Define("database.failed", refusal.Outside, "{text}")
	notPossible = refusal.Define("database.not-possible", refusal.Invalid, "{text}")
)
