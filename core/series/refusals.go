package series

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	stepZero = refusal.Define("series.step-zero", refusal.Invalid,
		"A step of 0 would give one number again and again; say 1, or -1 to count down.")
	tooManyAtOnce = refusal.Define("series.too-many-at-once", refusal.Invalid,
		"{count} numbers cannot be given at once; 1 to {most} can.")
	tooWide = refusal.Define("series.too-wide", refusal.Invalid,
		"A number of {width} digits cannot be; 1 to {most} can.")
	affixesTooLong = refusal.Define("series.affixes-too-long", refusal.Invalid,
		"What stands before and behind has more than {most} letters.")
	twoWidths = refusal.Define("series.two-widths", refusal.Invalid,
		"The digits have {count} places and the width is {width}; leave the width out.")
	unknownCheckRule = refusal.Define("series.unknown-check-rule", refusal.Invalid,
		"There is no check rule {check:q}; there are {names}.")
	endOutOfReach = refusal.Define("series.end-out-of-reach", refusal.Invalid,
		"From {start} in steps of {step} the end {end} is never reached.")
	badPlaces = refusal.Define("series.bad-places", refusal.Invalid,
		"{times:q} is no number of places; write letters*2,decimal*4.")
	tooManyDigits = refusal.Define("series.too-many-digits", refusal.Invalid,
		"The digits have {count} places; up to {most} are counted in.")
	alphabetTooShort = refusal.Define("series.alphabet-too-short", refusal.Invalid,
		"An alphabet needs two letters at least; {letters:q} has {count}. Named ones are {alphabets}.")
	letterTwice = refusal.Define("series.letter-twice", refusal.Invalid,
		"The alphabet {letters:q} has “{letter:c}” twice; each digit needs a letter of its own.")
	numberTooLong = refusal.Define("series.number-too-long", refusal.Invalid,
		"The {what} {text:q} has {count} digits; up to {most} are counted in.")
	numberWrongWidth = refusal.Define("series.number-wrong-width", refusal.Invalid,
		"The {what} {text:q} has {count} digits, and the numbers have {width}.")
	digitNotInAlphabet = refusal.Define("series.digit-not-in-alphabet", refusal.Invalid,
		"The {what} {text:q} has “{digit:c}” in place {place}, which is none of the digits {letters}.")
	endsAtZero = refusal.Define("series.ends-at-zero", refusal.Invalid,
		"Counting down from {start} in steps of {step} ends before number {number}: below it there is nothing.")
	ended = refusal.Define("series.ended", refusal.Invalid,
		"The series ends at {end}, which is before number {number}.")
	digitsUsedUp = refusal.Define("series.digits-used-up", refusal.Invalid,
		"{width} digits are used up before number {number}: the last that they can say is {digits}.")
	noCheckCharacter = refusal.Define("series.no-check-character", refusal.Invalid,
		"{data} has no check character of {words}: {reason}.")
	orderNotComputable = refusal.Define("series.order-not-computable", refusal.Invalid,
		"The numbers of this series come in an order that cannot be told from one of them.")
	notOfSeries = refusal.Define("series.not-of-series", refusal.Invalid,
		"{number:q} is no number of this series, such as {prefix}.")
	badExtensionDigit = refusal.Define("series.bad-extension-digit", refusal.Invalid,
		"The extension digit {extension:q} is none; it is one digit, 0 to 9.")
	badCompanyPrefix = refusal.Define("series.bad-company-prefix", refusal.Invalid,
		"The company prefix {company:q} is none; GS1 gives prefixes of {shortestPrefix} to {longestPrefix} digits.")
)
