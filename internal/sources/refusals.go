package sources

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	lineUnreadable = refusal.Define("file.line", refusal.Invalid, "line {line}: {text}")
	rowUnreadable  = refusal.Define("file.row", refusal.Invalid, "row {row}: {text}")
	fileUnreadable = refusal.Define("file.unreadable", refusal.Invalid, "{text}")
)
