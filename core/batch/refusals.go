package batch

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	tooManyGathered = refusal.Define("batch.too-many-gathered", refusal.Invalid,
		"{size} records with {count} fields each are to stand on a label; 2 to {most} records are gathered, "+
			"with up to {mostValues} values in all.")
	unknownField = refusal.Define("batch.unknown-field", refusal.Invalid,
		"The records have no field {name:q}.")
	fieldTwice = refusal.Define("batch.field-twice", refusal.Invalid,
		"The fields {made:q} would be two of one name. Rename one of the fields.")
	alreadyPacked = refusal.Define("batch.already-packed", refusal.Invalid,
		"The records have a field {name:q} already: they are packed.")
	unknownQuantityField = refusal.Define("batch.unknown-quantity-field", refusal.Invalid,
		"The records have no field {quantityField:q}.")
	badPackSize = refusal.Define("batch.bad-pack-size", refusal.Invalid,
		"{size:q} is no size of a pack: say a number above zero, or a field.")
	tooManyRecords = refusal.Define("batch.too-many-records", refusal.Invalid,
		"They would make more than {most} records.")
	badRange = refusal.Define("batch.bad-range", refusal.Invalid,
		"{text:q} is no number or range; write it like 1-3, 7, 12- with numbers from 1 to {last}")
	tooManyLabels = refusal.Define("batch.too-many-labels", refusal.Invalid,
		"{labels} labels are too many for one run; it takes up to {most}. Choose fewer records")
	badQuantity = refusal.Define("batch.bad-quantity", refusal.Invalid,
		"{value:q} labels of each record cannot be printed; say 1 to {most}")
	badQuantityOfRecord = refusal.Define("batch.bad-quantity-of-record", refusal.Invalid,
		"record {record}: the field {field:q} says {value:q}, which is no whole number from 0 to {most}; correct it "+
			"by hand")
)
