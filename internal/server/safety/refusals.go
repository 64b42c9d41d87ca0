package safety

import (
	"oddspool/core/refusal"
)

// What this package refuses, in words.
var (
	noIssuer = refusal.Define("reference.no-issuer", refusal.Invalid,
		"It is not known where reference packs are issued. Whoever runs Odd Spool names the address with -reference; "+
			"until then bring a pack in as a file.")
	newestUnknown = refusal.Define("reference.newest-unknown", refusal.Invalid,
		"{address} does not say which pack is the newest. Ask whoever issues them.")
	badAddress = refusal.Define("reference.bad-address", refusal.Invalid,
		"{address:q} is no address of a web server.")
	badAddress2 = refusal.Define("source.bad-address", refusal.Invalid,
		"{where:q} is no address of a web server.")
	empty = refusal.Define("sign.empty", refusal.Invalid,
		"Say what the sign says.")
	unknownSignalWord = refusal.Define("sign.unknown-signal-word", refusal.Invalid,
		"{kind:q} is no signal word that signs begin with.")
	unknownId = refusal.Define("symbol.unknown-id", refusal.Invalid,
		"There is no symbol {id:q}.")
	unknownLanguage = refusal.Define("chemical.unknown-language", refusal.Invalid,
		"{language:q} is no language that statements are kept in; there are {languages}.")
	languageTwice = refusal.Define("chemical.language-twice", refusal.Invalid,
		"{language} is there already; choose another language.")
	entryOpen = refusal.Define("chemical.entry-open", refusal.Invalid,
		"The entry leaves open: {ids}. Answer that first: the label says it, or depends on it.")
	mixtureOpen = refusal.Define("chemical.mixture-open", refusal.Invalid,
		"What this mixture is cannot be known from its parts alone: {ids}. Answer that first; a label without it "+
			"could lack a hazard.")
	blankOpen = refusal.Define("chemical.blank-open", refusal.Invalid,
		"{blanks}: a blank is not filled. Say what stands there, such as an approved waste plant.")
	noQuantity = refusal.Define("chemical.no-quantity", refusal.Invalid,
		"What is supplied to the general public says how much is in it. Give the quantity (CLP, article 17(1)(b)).")
	recordsInOneLanguage = refusal.Define("chemical.records-in-one-language", refusal.Invalid,
		"The fields that were looked up for records are in one language. Lay out one label for all, or look the "+
			"records up in the other language for a label of its own.")
	notLookedUp = refusal.Define("chemical.not-looked-up", refusal.Invalid,
		"The hazards of {name} were not looked up yet. Do that under Records, and choose the set that comes of it.")
	blankByLanguage = refusal.Define("chemical.blank-by-language", refusal.Invalid,
		"{code}: its blank is filled in {count} languages, and the label has {languages}. Write what stands there "+
			"in each, "+
			"with | between.")
	unreadable = refusal.Define("design.unreadable", refusal.Invalid,
		"This is no design.")
	tooManyRecords = refusal.Define("chemical.too-many-records", refusal.Invalid,
		"{name} has {count} records; a label is laid out for up to {most} at once. Take in a part of them.")
	tooManyToLookUp = refusal.Define("chemical.too-many-to-look-up", refusal.Invalid,
		"{name} has {count} records; up to {most} are looked up at once. Take in a part of them.")
	issuerSilent = refusal.Define("reference.issuer-silent", refusal.Outside,
		"{address} does not answer. Try later, or bring a pack in as a file.")
	issuerRefuses = refusal.Define("reference.issuer-refuses", refusal.Outside, "{address} answers {status}.")
	issuerBroke   = refusal.Define("reference.issuer-broke", refusal.Outside,
		"{address} broke off in the middle. Try again.")
	noSymbol       = refusal.Define("symbol.none", refusal.Missing, "There is no symbol {symbol:q}.")
	noOwnSubstance = refusal.Define("substance.not-own", refusal.Missing, "Nothing of your own is said of {cas}.")
)
