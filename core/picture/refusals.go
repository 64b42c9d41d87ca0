package picture

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	badDrawing = refusal.Define("picture.bad-drawing", refusal.Invalid,
		"The drawing cannot be used: {reason}. Bring it in by the Bench, which makes it plain.")
	tooLarge = refusal.Define("picture.too-large", refusal.Invalid,
		"The picture has {megabytes} MB; up to {most} MB are taken. Save it smaller.")
	unknownKind = refusal.Define("picture.unknown-kind", refusal.Invalid,
		"This is no picture that is read: PNG, JPEG, GIF, BMP, TIFF and WebP are. Save it as one of them.")
	tooManyDots = refusal.Define("picture.too-many-dots", refusal.Invalid,
		"The picture has {width} × {height} dots; up to {most} million are taken. Save it smaller.")
	broken = refusal.Define("picture.broken", refusal.Invalid,
		"The {kind} file is broken: {reason}. Save it anew.")
	absent = refusal.Define("picture.absent", refusal.Invalid,
		"The picture {hash:.12s}… is not here. Bring it in again, or take it off the label.")
)
