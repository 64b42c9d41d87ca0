package sign

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	unknownLight = refusal.Define("sign.unknown-light", refusal.Invalid,
		"{light:q} is no light; there are lit, inside and poor.")
	badDistance = refusal.Define("sign.bad-distance", refusal.Invalid,
		"{distance:g} m is no distance to read a sign from; say above 0 and up to 1000.")
)
