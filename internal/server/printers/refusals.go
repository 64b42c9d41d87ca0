package printers

import (
	"oddspool/core/refusal"
)

// What this package refuses, in words.
var (
	noReason = refusal.Define("printer.no-reason", refusal.Invalid,
		"Say why it is otherwise than the printer says: the rolls were changed, and it did not notice.")
	noStock = refusal.Define("printer.no-stock", refusal.Invalid,
		"Say which stock is loaded.")
	stockDoesNotFit = refusal.Define("printer.stock-does-not-fit", refusal.Invalid,
		"{stock} cannot be loaded in {printer}: {reason}")
	impossibleRefused = refusal.Define("printer.impossible", refusal.Invalid,
		"This is no printer: {reason}.")
	noName = refusal.Define("printer.no-name", refusal.Invalid,
		"A printer needs a name to be found by.")
	badCamera = refusal.Define("printer.bad-camera", refusal.Invalid,
		"A camera's address begins with http:// or https://.")
	notStandIn = refusal.Define("printer.not-stand-in", refusal.Invalid,
		"{name} is no stand-in: load it by hand, and it tells what is in it.")
	notConnected3 = refusal.Define("printer.not-connected", refusal.Invalid,
		"{name} is not connected: it has no address to print to. Give it one on the Floor.")
	noName5 = refusal.Define("setup.no-name", refusal.Invalid,
		"A print set-up needs a name to be chosen by.")
	impossible = refusal.Define("stock.impossible", refusal.Invalid,
		"This is no stock: {reason}.")
	noName7 = refusal.Define("stock.no-name", refusal.Invalid,
		"A stock needs a number and a name to be found by.")
	badSize = refusal.Define("stock.bad-size", refusal.Invalid,
		"“{size}” is no size; type it like 100x50 or 4 in x 2 in.")
	notList = refusal.Define("stock.not-list", refusal.Invalid,
		"This is no list of stocks: {reason}.")
	listTooLong = refusal.Define("stock.list-too-long", refusal.Invalid,
		"The list has {count} stocks; up to {most} are taken in at once. Split it.")
	noCamera         = refusal.Define("camera.none", refusal.Missing, "No camera looks at what comes out of {printer}.")
	cameraSilent     = refusal.Define("camera.silent", refusal.Outside, "The camera of {printer} does not answer.")
	labelNotSeen     = refusal.Define("camera.no-label", refusal.Missing, "The camera saw no such label.")
	cameraNonsense   = refusal.Define("camera.nonsense", refusal.Outside, "The camera answers nonsense.")
	noPictureOfLabel = refusal.Define("camera.no-picture", refusal.Outside,
		"The camera answers with something else than a picture of a label.")
	printerSilent = refusal.Define("printer.silent", refusal.Outside,
		"{printer} does not answer. See that it is switched on.")
	printerPrints = refusal.Define("printer.prints", refusal.Conflict,
		"A run is being printed on {printer}. Wait until it is done.")
)
