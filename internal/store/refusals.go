package store

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	unknown = refusal.Define("account.unknown", refusal.Invalid,
		"There is no open account of {name:q}.")
	putAheadByCount = refusal.Define("series.put-ahead-by-count", refusal.Invalid,
		"This series counts on its own for each value of a field. Say by how many numbers all of its counts are "+
			"put ahead.")
	notPutBack = refusal.Define("series.not-put-back", refusal.Invalid,
		"That number was taken already. A series is put ahead, and never back: say a later one.")
	tooFarAhead = refusal.Define("series.too-far-ahead", refusal.Invalid,
		"A series does not count so far. Say fewer numbers.")
	heldRefused = refusal.Define("series.held", refusal.Invalid,
		"The number series “{series}” is held: its database was put back from a copy, and numbers may be on labels "+
			"that are not known here. Say under Records, Number series, from where it goes on.")
	unknown2 = refusal.Define("series.unknown", refusal.Invalid,
		"There is no number series “{series}” here. Make it under Records, Number series, or take its numbers off "+
			"the design.")
	tooFewNumbers = refusal.Define("series.too-few-numbers", refusal.Invalid,
		"The number series “{name}” has {left} of the {wanted} numbers that are needed: {because} No number was "+
			"taken. Print fewer labels, or have the design count in another series.")
	numberGone = refusal.Define("series.number-gone", refusal.Invalid,
		"This number is printed, spoiled, voided or returned already. Look it up again to see what became of it.")
	badName = refusal.Define("account.bad-name", refusal.Invalid,
		"A name has 1 to {most} letters, and no control characters.")
	passwordShort = refusal.Define("account.password-short", refusal.Invalid,
		"A password has at least {least} letters; this has {letters}. A few words make a good one.")
	passwordLong = refusal.Define("account.password-long", refusal.Invalid,
		"A password has up to {most} letters.")
	passwordBlank = refusal.Define("account.password-blank", refusal.Invalid,
		"A password is more than blanks.")
	passwordGuessed = refusal.Define("account.password-guessed", refusal.Invalid,
		"This password is among the first that are guessed. Take a few words that do not belong together.")
	nameTakenRefused = refusal.Define("series.name-taken", refusal.Invalid,
		"There is a number series “{name}” already. Give this one another name.")
	countedRefused = refusal.Define("series.counted", refusal.Invalid,
		"Numbers of this series were taken already, so it goes on counting as it does. Make a new series for "+
			"another way.")
	packTaken = refusal.Define("reference.version-taken", refusal.Invalid,
		"The pack {version} is here already, and this one says something else under the same version. Ask whoever "+
			"issues it for one with a version of its own.")
	noPack = refusal.Define("reference.unknown-pack", refusal.Invalid,
		"The reference pack {version} is not here. Bring it in under Reference.")
	// SpoiledSince says that a label behind the one that is told as the last came out too.
	SpoiledSince = refusal.Define("print.spoiled-since", refusal.Invalid,
		"Label {label} was told as spoiled, so it came out. Say that one, or a later one.")
	nothingThere = refusal.Define("store.not-found", refusal.Missing,
		"There is no {what} {id}, or it was retired.")
	designChanged = refusal.Define("design.changed-meanwhile", refusal.Conflict,
		"{by} changed this design at {at}. Nothing of yours is lost: load that draft, or keep yours as a copy.")
	stockNumberTaken = refusal.Define("stock.number-taken", refusal.Conflict,
		"Another stock has the number {number} already, or had it. Choose another.")
	partChanged = refusal.Define("part.changed-meanwhile", refusal.Conflict,
		"{by} made version {version} of {name} meanwhile. Take that first, and change it then.")
	printerNameTaken = refusal.Define("printer.name-taken", refusal.Conflict,
		"Another printer is called {name} already. Choose another name.")
	typefaceTaken = refusal.Define("typeface.taken", refusal.Conflict,
		"There is another font file of this style of {family} already, and labels may have been made with it. Give "+
			"the new one another name.")
	notOfPrint = refusal.Define("print.not-its-label", refusal.Invalid,
		"Label {label} of the run is none of this print, which has labels {first} to {last}. Say one of them, or 0 "+
			"if none came out.")
	full = refusal.Define("store.full", refusal.Invalid,
		"There are {most} {what} already, and no more are kept. Take off what is no longer used.")
)
