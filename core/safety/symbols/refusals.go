package symbols

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	changedByHand = refusal.Define("symbol.changed-by-hand", refusal.Invalid,
		"The symbol {name:q} was changed by hand: its name does not belong to what is in it. Bring its drawing in as "+
			"a new one.")
	noName = refusal.Define("symbol.no-name", refusal.Invalid,
		"A symbol needs a name.")
	tooLarge = refusal.Define("symbol.too-large", refusal.Invalid,
		"The drawing has {kilobytes} kB; up to {most} kB are taken.")
	notPlain = refusal.Define("symbol.not-plain", refusal.Invalid,
		"The drawing has {found:q} in it: it may reach outside, or is no shape. Make text and pictures paths, and "+
			"save it as a plain SVG.")
	notSvg = refusal.Define("symbol.not-svg", refusal.Invalid,
		"It is no SVG.")
	overSquare = refusal.Define("symbol.over-square", refusal.Invalid,
		"The drawing reaches over its square. Make the square larger, or the drawing smaller.")
	tooManyPoints = refusal.Define("symbol.too-many-points", refusal.Invalid,
		"The drawing has {points} points; a symbol has 1 to {most}.")
	noFacts = refusal.Define("symbol.no-facts", refusal.Invalid,
		"Its description (desc) does not hold the facts of a symbol: id, family, name, words, means, smallest.")
	notSquare = refusal.Define("symbol.not-square", refusal.Invalid,
		"It is no square: its viewBox is to be as wide as it is high.")
	gradient = refusal.Define("symbol.gradient", refusal.Invalid,
		"Gradients cannot be printed: fill its shapes with the safety colours.")
	unknownColour = refusal.Define("symbol.unknown-colour", refusal.Invalid,
		"The colour #{r:02X}{g:02X}{b:02X} is none of black #000000, white #FFFFFF, red #C8102E, yellow #F7C600, "+
			"blue #1D5FA8, green #1F7A4D and orange #E87722.")
	notSVGBecause = refusal.Define("symbol.not-svg-because", refusal.Invalid, "It is no SVG: {reason}.")
	notDrawn      = refusal.Define("symbol.not-drawn", refusal.Invalid, "It cannot be drawn: {reason}.")
	unknownSymbol = refusal.Define("symbol.unknown", refusal.Missing,
		"there is no symbol {symbol:q}")
)
