package orderdesk

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	failed      = refusal.Define("orderdesk.failed", refusal.Outside, "{text}")
	notPossible = refusal.Define("orderdesk.not-possible", refusal.Invalid, "{text}")
)
