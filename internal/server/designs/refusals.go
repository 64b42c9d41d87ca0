package designs

import (
	"oddspool/core/refusal"
)

// What this package refuses, in words.
var (
	incomplete = refusal.Define("design.incomplete", refusal.Invalid,
		"A new design needs a name, a printer and a stock.")
	tooManyRecords = refusal.Define("find.too-many-records", refusal.Invalid,
		"There are too many records to look through for this. Write more of the word, or look in one record set.")
	noPrinter = refusal.Define("design.no-printer", refusal.Invalid,
		"A new design needs a printer.")
	tooSlow = refusal.Define("strip.too-slow", refusal.Invalid,
		"These labels take too long to draw. Put less on them, or look at fewer at once.")
	tooManyDots = refusal.Define("strip.too-many-dots", refusal.Invalid,
		"{count} labels of this size have {dots} million dots, and up to {most} million are drawn at once. Look "+
			"at fewer.")
	noCode = refusal.Define("strip.no-code", refusal.Invalid,
		"The design has no code {element:q}.")
	noTemplate = refusal.Define("design.no-template", refusal.Missing, "There is no such design to start with.")
	noPicture  = refusal.Define("picture.none", refusal.Missing, "{why}")
	noFontFile = refusal.Define("typeface.no-file", refusal.Missing, "There is no such font file.")
)
