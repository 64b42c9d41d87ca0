package press

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	unreachable = refusal.Define("press.unreachable", refusal.Outside,
		"The printer at {printer} does not answer. See that it is switched on and on the network.")
	notAPrinter = refusal.Define("press.not-printer", refusal.Outside,
		"What answers at {printer} is no IPP printer. See that the address and its path are right.")
	refusedByPrinter = refusal.Define("press.refused", refusal.Outside, "{text}")
)
