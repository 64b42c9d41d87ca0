package safety

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	badRating = refusal.Define("safety.bad-rating", refusal.Invalid,
		"A rating of {rating} for {name} is none; it is 0 to 4.")
	unknownSpecialHazard = refusal.Define("safety.unknown-special-hazard", refusal.Invalid,
		"{special:q} is no special hazard of the diamond; there are OX, W and SA.")
	unknownSymbol = refusal.Define("safety.unknown-symbol", refusal.Invalid,
		"The library has no symbol {id:q}.")
	noRecordsForGroup = refusal.Define("safety.no-records-for-group", refusal.Invalid,
		"The group comes from the field {groupField:q}, and there are no records to look it up in. Choose the "+
			"records, or say the group.")
	unknownField = refusal.Define("safety.unknown-field", refusal.Invalid,
		"The records have no field {field:q}.")
	inRecord = refusal.Define("safety.in-record", refusal.Invalid,
		"Record {record}: {reason}")
	badDiameter = refusal.Define("safety.bad-diameter", refusal.Invalid,
		"{diameter:q} is no diameter in millimetres.")
	unknownFlow = refusal.Define("safety.unknown-flow", refusal.Invalid,
		"{flow:q} is no flow; there are right, left and both, and nothing where it is not shown.")
	tooManyValues = refusal.Define("safety.too-many-values", refusal.Invalid,
		"{field:q} has {count} different values; up to {most} are laid out at once. Take fewer records, or "+
			"give them a field with the group or the size.")
	emptySign = refusal.Define("safety.empty-sign", refusal.Invalid,
		"Say what the sign says: a signal word, a symbol or a message.")
	tooManySymbols = refusal.Define("safety.too-many-symbols", refusal.Invalid,
		"{count} symbols are too many for one sign; it takes up to {most} (ISO 3864-1, 11).")
	unknownSignalWord = refusal.Define("safety.unknown-signal-word", refusal.Invalid,
		"{kind:q} is no signal word; there are {ids}.")
)
