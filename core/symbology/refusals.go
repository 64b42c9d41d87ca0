package symbology

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	unknownSymbology = refusal.Define("symbology.unknown", refusal.Invalid,
		"the symbology {symbology:q} is not known to this Odd Spool")
)
