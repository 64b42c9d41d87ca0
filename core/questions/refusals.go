package questions

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	choicesUnavailable = refusal.Define("answer.choices-unavailable", refusal.Invalid,
		"{lead}its choices cannot be had: {reason}.")
	tooManyChoices = refusal.Define("answer.too-many-choices", refusal.Invalid,
		"{lead}{set} has more than {most} different values of {field}; nobody can choose from so many.")
	ambiguousNumber = refusal.Define("answer.ambiguous-number", refusal.Invalid,
		"{lead}“{answer}” is no number. Write its decimals behind a point and nothing between its thousands, such as "+
			"1234.5.")
	notNumber = refusal.Define("answer.not-number", refusal.Invalid,
		"{lead}“{answer}” is no number.")
	tooSmall = refusal.Define("answer.too-small", refusal.Invalid,
		"{lead}{answer} is less than {least}.")
	tooLarge = refusal.Define("answer.too-large", refusal.Invalid,
		"{lead}{answer} is more than {most}.")
	notDate = refusal.Define("answer.not-date", refusal.Invalid,
		"{lead}“{answer}” is no date; write it as 2026-11-26.")
	tooEarly = refusal.Define("answer.too-early", refusal.Invalid,
		"{lead}{answer} is before {least}.")
	tooLate = refusal.Define("answer.too-late", refusal.Invalid,
		"{lead}{answer} is after {most}.")
	needed         = refusal.Define("answer.needed", refusal.Invalid, "{lead}this needs an answer.")
	tooManyLetters = refusal.Define("answer.too-many-letters", refusal.Invalid, "{lead}up to {most} letters are taken.")
	notAChoice     = refusal.Define("answer.not-choice", refusal.Invalid, "{lead}“{answer}” is none of {choices}.")
	notYesOrNo     = refusal.Define("answer.not-yes-or-no", refusal.Invalid, "{lead}answer yes or no.")
	tooShort       = refusal.Define("answer.too-short", refusal.Invalid,
		"{lead}at least {least} letters are needed; “{answer}” has {letters}.")
	tooLong = refusal.Define("answer.too-long", refusal.Invalid,
		"{lead}up to {most} letters are taken; “{answer}” has {letters}.")
	otherPattern = refusal.Define("answer.other-pattern", refusal.Invalid,
		"{lead}“{answer}” does not look as it should: {pattern}.")
)
