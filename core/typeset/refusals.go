package typeset

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	unknownKind = refusal.Define("typeface.unknown-kind", refusal.Invalid,
		"This is no font file that is read: TTF and OTF are. Choose one of them.")
	tooLarge = refusal.Define("typeface.too-large", refusal.Invalid,
		"The font file has {megabytes} MB; up to {most} MB are taken.")
	noLetters = refusal.Define("typeface.no-letters", refusal.Invalid,
		"The font file has no letters. Choose another.")
	notEmbeddable = refusal.Define("typeface.not-embeddable", refusal.Invalid,
		"The maker of {family} does not allow it to be embedded in documents, and what is printed to a file would be "+
			"one. Choose another.")
	unknownFamily = refusal.Define("typeface.unknown", refusal.Invalid,
		"the typeface {family:q} is not in this Odd Spool; bring it in, or choose one of {families:q}")
)
