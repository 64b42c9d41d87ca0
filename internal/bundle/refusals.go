package bundle

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	brokenZip = refusal.Define("bundle.broken-zip", refusal.Invalid,
		"The file is a broken zip. Save the design anew where it comes from.")
	tooManyFiles = refusal.Define("bundle.too-many-files", refusal.Invalid,
		"The file holds {count} others; a design has up to {most}.")
	noDesign = refusal.Define("bundle.no-design", refusal.Invalid,
		"There is no design.json in the file, so it is no design. Choose one that Odd Spool saved.")
	otherSymbol = refusal.Define("bundle.other-symbol", refusal.Invalid,
		"The symbol {id} in the file is another one. Save the design anew where it comes from.")
	fileTooLarge = refusal.Define("bundle.file-too-large", refusal.Invalid,
		"{name} in the file is larger than the {megabytes} MB that are taken.")
	fileNotUnpacked = refusal.Define("bundle.file-not-unpacked", refusal.Invalid,
		"{name} in the file cannot be unpacked. Save the design anew where it comes from.")
	fileBroken = refusal.Define("bundle.file-broken", refusal.Invalid,
		"{name} in the file is broken. Save the design anew where it comes from.")
)
