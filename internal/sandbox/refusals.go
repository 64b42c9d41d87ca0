package sandbox

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	busy = refusal.Define("sandbox.busy", refusal.Busy,
		"Other files are being read, and take long. Try again in a minute.")
)
