package mail

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	failed      = refusal.Define("mail.failed", refusal.Outside, "{text}")
	notPossible = refusal.Define("mail.not-possible", refusal.Invalid, "{text}")
)
