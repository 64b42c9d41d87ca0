package runs

import (
	"oddspool/core/refusal"
)

// What this package refuses, in words.
var (
	noName = refusal.Define("order.no-name", refusal.Invalid,
		"Give the order of the day a name.")
	recordsGone = refusal.Define("order.records-gone", refusal.Invalid,
		"There are no records “{setName}” any more. Bring some in under that name, or prepare the run from the "+
			"design and keep it as an order of the day anew.")
	noFolder = refusal.Define("files.no-folder", refusal.Invalid,
		"This Odd Spool knows no folder for label files. Whoever runs it names one with -out; until then save the "+
			"labels as a file.")
	noMail = refusal.Define("files.no-mail", refusal.Invalid,
		"This Odd Spool knows no mail server. Whoever runs it names one with -mail; until then save the labels as "+
			"a file.")
	noneOfPrinter = refusal.Define("files.none-of-printer", refusal.Invalid,
		"None of these labels comes out of the printer of this run, and its files have no others.")
	allWithFindings = refusal.Define("files.all-with-findings", refusal.Invalid,
		"All these labels have findings that must be mended first; the page of the run says which.")
	notEach = refusal.Define("answer.not-each", refusal.Invalid,
		"“{name}” is not asked for each record or label of this run.")
	forWhich = refusal.Define("answer.for-which", refusal.Invalid,
		"“{asked}” is asked for each {each}; say which.")
	inRecord = refusal.Define("answer.in-record", refusal.Invalid,
		"Record {record}: {reason}")
	openRefused = refusal.Define("answer.open", refusal.Invalid,
		"“{asked}” needs an answer before labels are printed. Answer it on the page of the run.")
	openInPart = refusal.Define("answer.open-in-part", refusal.Invalid,
		"“{asked}” needs an answer for each {each}, and {given} of {wanted} are there. Answer the rest on the page "+
			"of the run.")
	noPrinter = refusal.Define("run.no-printer", refusal.Invalid,
		"There is no printer yet. Add one, then prepare the run.")
	separatorsThroughPages = refusal.Define("run.separators-through-pages", refusal.Invalid,
		"Labels that take one place of all pages after the other have none among them. Fill the pages along the "+
			"rows, or take the others away.")
	badRecordNumber = refusal.Define("run.bad-record-number", refusal.Invalid,
		"{number:q} is no number of a record.")
	labelsApart = refusal.Define("run.labels-apart", refusal.Invalid,
		"The number series “{name}” gives a number to each {each}, whose labels must follow one another. Print all "+
			"labels of a record, then those of the next.")
	seriesResetUnknown = refusal.Define("run.series-reset-unknown", refusal.Invalid,
		"The number series “{name}” cannot tell when it starts over. {reason}")
	seriesGroupUnknown = refusal.Define("run.series-group-unknown", refusal.Invalid,
		"The number series “{name}” cannot tell which records are a group. {reason}")
	wholeSheetFirst = refusal.Define("print.whole-sheet-first", refusal.Invalid,
		"Labels that run down a stack of sheets begin with a whole sheet. Begin at place 1, or fill the sheets along "+
			"their rows.")
	sheetUsedUp = refusal.Define("print.sheet-used-up", refusal.Invalid,
		"{start} places of the first sheet cannot be used already: {sheetPlaces}.")
	noRecordSays = refusal.Define("print.no-record-says", refusal.Invalid,
		"No record of this run says “{typed}”.")
	twoRecordsSay = refusal.Define("print.two-records-say", refusal.Invalid,
		"“{typed}” stands in records {first} and {second} of this run. Scan something that stands in one alone.")
	recordWithFindings = refusal.Define("print.record-with-findings", refusal.Invalid,
		"Record {record} has findings that must be mended first; the page of the run says which.")
	recordOut = refusal.Define("print.record-out", refusal.Invalid,
		"All labels of record {record} are out. Print it again on the page of the run, if it is missing.")
	noFreePrinter = refusal.Define("print.no-free-printer", refusal.Invalid,
		"No printer on which these labels can be printed is free just now. Wait for one, or name the printer: the "+
			"run waits for its turn there.")
	otherResolution = refusal.Define("print.other-resolution", refusal.Invalid,
		"This design is made in dots of {resolution} and {printer} prints {printed}. Change its printer on the "+
			"Bench, then prepare the run again.")
	noInk = refusal.Define("print.no-ink", refusal.Invalid,
		"This design prints in {ink}, and {name} cannot now. Change its ribbon or the design, then prepare the "+
			"run again.")
	setupOfOtherPrinter = refusal.Define("print.setup-of-other-printer", refusal.Invalid,
		"This print set-up belongs to another printer. Choose one of this printer, or none.")
	setupOfOtherStock = refusal.Define("print.setup-of-other-stock", refusal.Invalid,
		"This print set-up is for the stock {stock}, and these labels are on {name}. Choose another, or none.")
	notLoaded = refusal.Define("print.not-loaded", refusal.Invalid,
		"{name}: {text} Load it, then print; or say, with a reason, that it is loaded.")
	noLastLabel = refusal.Define("print.no-last-label", refusal.Invalid,
		"Say which label of the run was the last to come out; 0 if none of this print did.")
	badDay = refusal.Define("find.bad-day", refusal.Invalid,
		"{text:q} is no day; write it like 2026-11-26.")
	emptyDesignRefused = refusal.Define("run.empty-design", refusal.Invalid,
		"There is nothing on this design yet. Put something on it, then prepare the run.")
	separatorOnOtherStock = refusal.Define("run.separator-on-other-stock", refusal.Invalid,
		"“{design}” is on {stock}, and the labels of the run are on {stockOfRun}. Choose another printer for it, or a "+
			"design on the same stock.")
	noGroupField = refusal.Define("run.no-group-field", refusal.Invalid,
		"The records have no field “{field}” that makes groups.")
	noSeparatorDesign = refusal.Define("run.no-separator-design", refusal.Invalid,
		"Say which design stands among the labels.")
	separatorPrinterShared = refusal.Define("run.separator-printer-shared", refusal.Invalid,
		"“{name}” comes out of that printer. Choose another for the labels of the run, or let both come out of one.")
	separatorsOnManyPrinters = refusal.Define("run.separators-on-many-printers", refusal.Invalid,
		"Labels with others among them come out of one printer, so that they stay in step. Take the others away to "+
			"spread the run.")
	printerTwice = refusal.Define("run.printer-twice", refusal.Invalid,
		"A printer is named twice. Name each once.")
	noRun = refusal.Define("signal.no-run", refusal.Invalid,
		"“{number}” is no number of a run. A signal is the number of a run, and behind a blank what was scanned.")
	noEncoder = refusal.Define("tag.no-encoder", refusal.Invalid,
		"No encoder is known at {name}. Give its address with the printer.")
	printerBusy = refusal.Define("tag.printer-busy", refusal.Invalid,
		"{name} is printing; its encoder is busy with that. Read the tag when the print is done or paused.")
	printerWithoutEncoder = refusal.Define("tag.printer-without-encoder", refusal.Invalid,
		"{name} does not write tags, and these labels have a chip to be written. Choose a printer that does.")
	labelsSideBySide = refusal.Define("tag.labels-side-by-side", refusal.Invalid,
		"{name} has {perPage} labels side by side; a chip is written where one label lies under the head.")
	tooManyDays = refusal.Define("used.too-many-days", refusal.Invalid,
		"{days} days are too many to be drawn; ask for up to {most}.")
	folderFull = refusal.Define("labels.folder-full", refusal.Full,
		"The folder for label files takes no file: {why}. Nothing of it is left there; put that right, then do "+
			"it again.")
	encoderSilent = refusal.Define("tags.encoder-silent", refusal.Outside,
		"The encoder of {printer} does not answer.")
)
