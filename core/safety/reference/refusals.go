package reference

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	badDrawing = refusal.Define("reference.bad-drawing", refusal.Invalid,
		"The drawing {name} of the pack cannot be read: {reason}")
	badDrawingName = refusal.Define("reference.bad-drawing-name", refusal.Invalid,
		"The drawing {name} of the pack is called {id:q}, which is no name for it.")
	badHazards = refusal.Define("reference.bad-hazards", refusal.Invalid,
		"The hazards of the pack cannot be read: {reason}")
	badPipes = refusal.Define("reference.bad-pipes", refusal.Invalid,
		"The pipes of the pack cannot be read: {reason}")
	badMessages = refusal.Define("reference.bad-messages", refusal.Invalid,
		"The messages of the pack cannot be read: {reason}")
	messageWithoutSymbol = refusal.Define("reference.message-without-symbol", refusal.Invalid,
		"The message “{message}” of the pack has the symbol {id}, which the pack does not have.")
	classWithoutPictogram = refusal.Define("reference.class-without-pictogram", refusal.Invalid,
		"The class {class} of the pack has the pictogram {id}, which the pack does not have.")
	badVersion = refusal.Define("reference.bad-version", refusal.Invalid,
		"{version:q} is no version of a pack; write it like 2026.12.")
	noKey = refusal.Define("reference.no-key", refusal.Invalid,
		"No key is known that packs are signed with, so none can be taken in. Whoever runs Odd Spool names one with "+
			"-reference-key.")
	badSignature = refusal.Define("reference.bad-signature", refusal.Invalid,
		"The signature of this pack is not one of those that are trusted here: it is another's, or it was changed on "+
			"the way. Get it anew from where it is issued.")
	tooLarge = refusal.Define("reference.too-large", refusal.Invalid,
		"This pack has {megabytes} MB; one has up to {most}.")
	notPack = refusal.Define("reference.not-pack", refusal.Invalid,
		"This is no reference pack: it cannot be read as a zip.")
	tooManyFiles = refusal.Define("reference.too-many-files", refusal.Invalid,
		"This pack has {count} files; one has up to {most}.")
	fileTwice = refusal.Define("reference.file-twice", refusal.Invalid,
		"This pack has two files {name}.")
	fileMissing = refusal.Define("reference.file-missing", refusal.Invalid,
		"This pack has no file {name}, so it is none, or not whole.")
	fileBroken = refusal.Define("reference.file-broken", refusal.Invalid,
		"The file {name} of the pack cannot be unpacked.")
	fileTooLarge = refusal.Define("reference.file-too-large", refusal.Invalid,
		"The file {name} of the pack unpacks to more than a pack may have.")
	unknownFormat = refusal.Define("reference.unknown-format", refusal.Invalid,
		"This pack is of a format {format:q} that this program does not know; it knows {known}.")
	fileChanged = refusal.Define("reference.file-changed", refusal.Invalid,
		"The file {name} of the pack is not the one that was signed. Get it anew from where it is issued.")
	fileNotSigned = refusal.Define("reference.file-not-signed", refusal.Invalid,
		"The file {name} of the pack was not signed. Get it anew from where it is issued.")
)
