package pipe

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	noContents = refusal.Define("pipe.no-contents", refusal.Invalid,
		"Say what is in the pipe.")
	unknownContents = refusal.Define("pipe.unknown-contents", refusal.Invalid,
		"What {contents:q} belongs to is not known here. Say the group: {names}.")
	badDiameter = refusal.Define("pipe.bad-diameter", refusal.Invalid,
		"{diameter:g} mm is no outside diameter of a pipe; say above 0 and up to 10000, insulation included.")
	tooThin = refusal.Define("pipe.too-thin", refusal.Invalid,
		"A pipe of {diameter:g} mm is thinner than the {thinnest:g} mm from which {standard} marks pipes themselves: "+
			"use a permanent tag.")
	unknownRuleSet = refusal.Define("pipe.unknown-rule-set", refusal.Invalid,
		"{rules:q} is no rule set; there are {names}.")
	negativeLength = refusal.Define("pipe.negative-length", refusal.Invalid,
		"The length of a pipe and the counts of its parts are 0 or more.")
	badSpacing = refusal.Define("pipe.bad-spacing", refusal.Invalid,
		"Markers stand more than 0 m apart.")
)
