package artwork

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	svgUnreadable = refusal.Define("artwork.svg-unreadable", refusal.Invalid,
		"The SVG cannot be read: {reason}. Save it as plain SVG, or as PDF.")
	tooLarge = refusal.Define("artwork.too-large", refusal.Invalid,
		"The file has {megabytes} MB; up to {most} MB are taken.")
	overLimit = refusal.Define("artwork.over-limit", refusal.Invalid,
		"The {what} takes more {limit} than a drawing for a label may. Save it simpler, without what does not show, "+
			"or as a picture (PNG).")
	breaksReader = refusal.Define("artwork.breaks-reader", refusal.Invalid,
		"The file breaks the program that reads it. Save it anew where it comes from, or as a picture (PNG).")
	pageSize = refusal.Define("artwork.page-size", refusal.Invalid,
		"Page {page} is {width:.0f} × {height:.0f} mm; pages of 1 to {most:.0f} mm are taken.")
	pdfPassword = refusal.Define("artwork.pdf-password", refusal.Invalid,
		"The PDF has a password. Save it without one.")
	pdfBroken = refusal.Define("artwork.pdf-broken", refusal.Invalid,
		"The PDF is broken. Save it anew where it comes from.")
	pdfNoPages = refusal.Define("artwork.pdf-no-pages", refusal.Invalid,
		"The PDF is broken: its pages cannot be counted.")
	pdfTooManyPages = refusal.Define("artwork.pdf-too-many-pages", refusal.Invalid,
		"The PDF has {pages} pages; 1 to {most} are taken. Save those that are wanted.")
	pdfPageBroken = refusal.Define("artwork.pdf-page-broken", refusal.Invalid,
		"Page {number} of the PDF is broken.")
	pdfPageNotDrawn = refusal.Define("artwork.pdf-page-not-drawn", refusal.Invalid,
		"Page {number} of the PDF cannot be drawn.")
	pdfUnitsDiffer = refusal.Define("artwork.pdf-units-differ", refusal.Invalid,
		"Pages of the PDF differ in their unit (UserUnit), so that their sizes are not certain. Save each of them as "+
			"a PDF of its own.")
	pdfUnitsUncertain = refusal.Define("artwork.pdf-units-uncertain", refusal.Invalid,
		"The PDF gives a unit (UserUnit) {count} times for {pages} pages, so that their sizes are not certain. Print "+
			"it to a new PDF, and choose that.")
	svgTooSlow = refusal.Define("artwork.svg-too-slow", refusal.Invalid,
		"The SVG takes longer to draw than {seconds} seconds, or too much memory. Save it simpler, without what does "+
			"not show, or as a picture (PNG).")
	svgNotDrawn = refusal.Define("artwork.svg-not-drawn", refusal.Invalid,
		"The SVG cannot be drawn: {reason}. Save it as plain SVG, or as PDF.")
)
