package reach

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	forbidden = refusal.Define("reach.forbidden", refusal.Invalid,
		"{address} is not in a network that printers and other machines may be in. Use its own address; whoever "+
			"looks after Odd Spool allows others when it is started (-reach).")
)
