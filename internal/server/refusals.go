package server

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	nothingChosen = refusal.Define("records.nothing-chosen", refusal.Invalid,
		"Nothing in {name} is like that, so there is nothing to keep.")
	choiceWithoutName = refusal.Define("records.choice-without-name", refusal.Invalid,
		"A choice needs a name to be found by.")
	noName = refusal.Define("source.no-name", refusal.Invalid,
		"A connection needs a name to be found by.")
	noName2 = refusal.Define("records.no-name", refusal.Invalid,
		"The record set needs a name.")
	notConnectedRefused = refusal.Define("records.not-connected", refusal.Invalid,
		"{name} is not read from a connection.")
	noKeyField = refusal.Define("records.no-key-field", refusal.Invalid,
		"There is no field {field} that could tell records apart.")
	twoWaysAhead = refusal.Define("series.two-ways-ahead", refusal.Invalid,
		"Say either the highest number on a label, or by how many numbers the series is put ahead.")
	noWayAhead = refusal.Define("series.no-way-ahead", refusal.Invalid,
		"Say the highest number that stands on a label, or by how many numbers the series is put ahead: 0 if none "+
			"was given since.")
	notInList = refusal.Define("series.not-in-list", refusal.Invalid,
		"“{number}” is no number of the list of this series.")
	noName3 = refusal.Define("order.no-name", refusal.Invalid,
		"Give the order of the day a name.")
	recordsGone = refusal.Define("order.records-gone", refusal.Invalid,
		"There are no records “{setName}” any more. Bring some in under that name, or prepare the run from the "+
			"design and keep it as an order of the day anew.")
	incomplete = refusal.Define("design.incomplete", refusal.Invalid,
		"A new design needs a name, a printer and a stock.")
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
	tooManyRecords = refusal.Define("find.too-many-records", refusal.Invalid,
		"There are too many records to look through for this. Write more of the word, or look in one record set.")
	noReason = refusal.Define("printer.no-reason", refusal.Invalid,
		"Say why it is otherwise than the printer says: the rolls were changed, and it did not notice.")
	noStock = refusal.Define("printer.no-stock", refusal.Invalid,
		"Say which stock is loaded.")
	stockDoesNotFit = refusal.Define("printer.stock-does-not-fit", refusal.Invalid,
		"{stock} cannot be loaded in {printer}: {reason}")
	noPrinter = refusal.Define("design.no-printer", refusal.Invalid,
		"A new design needs a printer.")
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
	noPrinter2 = refusal.Define("run.no-printer", refusal.Invalid,
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
	impossibleRefused = refusal.Define("printer.impossible", refusal.Invalid,
		"This is no printer: {reason}.")
	noName4 = refusal.Define("printer.no-name", refusal.Invalid,
		"A printer needs a name to be found by.")
	badCamera = refusal.Define("printer.bad-camera", refusal.Invalid,
		"A camera's address begins with http:// or https://.")
	notStandIn = refusal.Define("printer.not-stand-in", refusal.Invalid,
		"{name} is no stand-in: load it by hand, and it tells what is in it.")
	notConnected3 = refusal.Define("printer.not-connected", refusal.Invalid,
		"{name} is not connected: it has no address to print to. Give it one on the Floor.")
	noName5 = refusal.Define("setup.no-name", refusal.Invalid,
		"A print set-up needs a name to be chosen by.")
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
	tooManyToGather = refusal.Define("records.too-many-to-gather", refusal.Invalid,
		"{name} has {count} records; up to {most} are gathered at once. Take in a part of them.")
	otherWidth = refusal.Define("records.other-width", refusal.Invalid,
		"Record {record} has {values} values, and there are {fields} fields.")
	empty = refusal.Define("records.empty", refusal.Invalid,
		"There is no record yet. Write one, then keep them.")
	tooManyToPack = refusal.Define("records.too-many-to-pack", refusal.Invalid,
		"{name} has {count} records; up to {most} are packed at once. Take in a part of them.")
	oneFile = refusal.Define("upload.one-file", refusal.Invalid,
		"One file is taken in at a time.")
	badPart = refusal.Define("upload.bad-part", refusal.Invalid,
		"The {part} cannot be taken: it {reason}.")
	nothingToReplace = refusal.Define("upload.nothing-to-replace", refusal.Invalid,
		"{text:q} is no set of records that could be replaced.")
	unknownChoice = refusal.Define("upload.unknown-choice", refusal.Invalid,
		"There is no choice {choice:q} of how a file is read.")
	readFromConnection = refusal.Define("upload.read-from-connection", refusal.Invalid,
		"{name} is read from {connection}. Read it again there, or take this file in as a set of its own.")
	noIssuer = refusal.Define("reference.no-issuer", refusal.Invalid,
		"It is not known where reference packs are issued. Whoever runs Odd Spool names the address with -reference; "+
			"until then bring a pack in as a file.")
	newestUnknown = refusal.Define("reference.newest-unknown", refusal.Invalid,
		"{address} does not say which pack is the newest. Ask whoever issues them.")
	badAddress = refusal.Define("reference.bad-address", refusal.Invalid,
		"{address:q} is no address of a web server.")
	badAddress2 = refusal.Define("source.bad-address", refusal.Invalid,
		"{where:q} is no address of a web server.")
	empty2 = refusal.Define("sign.empty", refusal.Invalid,
		"Say what the sign says.")
	unknownSignalWord = refusal.Define("sign.unknown-signal-word", refusal.Invalid,
		"{kind:q} is no signal word that signs begin with.")
	unknownId = refusal.Define("symbol.unknown-id", refusal.Invalid,
		"There is no symbol {id:q}.")
	badDay = refusal.Define("find.bad-day", refusal.Invalid,
		"{text:q} is no day; write it like 2026-11-26.")
	emptyDesignRefused = refusal.Define("run.empty-design", refusal.Invalid,
		"There is nothing on this design yet. Put something on it, then prepare the run.")
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
	tooManyRecords2 = refusal.Define("chemical.too-many-records", refusal.Invalid,
		"{name} has {count} records; a label is laid out for up to {most} at once. Take in a part of them.")
	tooManyToLookUp = refusal.Define("chemical.too-many-to-look-up", refusal.Invalid,
		"{name} has {count} records; up to {most} are looked up at once. Take in a part of them.")
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
	noName6 = refusal.Define("series.no-name", refusal.Invalid,
		"Give the series a name, by which designs ask for its numbers.")
	listTwice = refusal.Define("series.list-twice", refusal.Invalid,
		"“{number}” stands in the list twice, on lines {first} and {second}. A number is used once: take one of "+
			"them out.")
	listBlanks = refusal.Define("series.list-blanks", refusal.Invalid,
		"Line {line} of the list, “{number}”, has white space at its ends or control characters in it. Take them out.")
	noRun = refusal.Define("signal.no-run", refusal.Invalid,
		"“{number}” is no number of a run. A signal is the number of a run, and behind a blank what was scanned.")
	impossible3 = refusal.Define("stock.impossible", refusal.Invalid,
		"This is no stock: {reason}.")
	noName7 = refusal.Define("stock.no-name", refusal.Invalid,
		"A stock needs a number and a name to be found by.")
	badSize = refusal.Define("stock.bad-size", refusal.Invalid,
		"“{size}” is no size; type it like 100x50 or 4 in x 2 in.")
	notList = refusal.Define("stock.not-list", refusal.Invalid,
		"This is no list of stocks: {reason}.")
	listTooLong = refusal.Define("stock.list-too-long", refusal.Invalid,
		"The list has {count} stocks; up to {most} are taken in at once. Split it.")
	tooSlow = refusal.Define("strip.too-slow", refusal.Invalid,
		"These labels take too long to draw. Put less on them, or look at fewer at once.")
	tooManyDots = refusal.Define("strip.too-many-dots", refusal.Invalid,
		"{count} labels of this size have {dots} million dots, and up to {most} million are drawn at once. Look "+
			"at fewer.")
	noCode = refusal.Define("strip.no-code", refusal.Invalid,
		"The design has no code {element:q}.")
	sheetFull = refusal.Define("files.sheet-full", refusal.Invalid,
		"A sheet has room for 1,048,575 rows, and there are more. Take the list as CSV.")
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
	said       = refusal.Define("said", refusal.Invalid, "{text}") // in words of another part of the program
	folderFull = refusal.Define("labels.folder-full", refusal.Full,
		"The folder for label files takes no file: {why}. Nothing of it is left there; put that right, then do "+
			"it again.")
	noCamera         = refusal.Define("camera.none", refusal.Missing, "No camera looks at what comes out of {printer}.")
	cameraSilent     = refusal.Define("camera.silent", refusal.Outside, "The camera of {printer} does not answer.")
	labelNotSeen     = refusal.Define("camera.no-label", refusal.Missing, "The camera saw no such label.")
	cameraNonsense   = refusal.Define("camera.nonsense", refusal.Outside, "The camera answers nonsense.")
	noPictureOfLabel = refusal.Define("camera.no-picture", refusal.Outside,
		"The camera answers with something else than a picture of a label.")
	noTemplate    = refusal.Define("design.no-template", refusal.Missing, "There is no such design to start with.")
	noPicture     = refusal.Define("picture.none", refusal.Missing, "{why}")
	printerSilent = refusal.Define("printer.silent", refusal.Outside,
		"{printer} does not answer. See that it is switched on.")
	printerPrints = refusal.Define("printer.prints", refusal.Conflict,
		"A run is being printed on {printer}. Wait until it is done.")
	notWholeFile = refusal.Define("file.not-whole", refusal.Broken,
		"The file did not come in whole, or too slowly. Choose it again.")
	issuerSilent = refusal.Define("reference.issuer-silent", refusal.Outside,
		"{address} does not answer. Try later, or bring a pack in as a file.")
	issuerRefuses = refusal.Define("reference.issuer-refuses", refusal.Outside, "{address} answers {status}.")
	issuerBroke   = refusal.Define("reference.issuer-broke", refusal.Outside,
		"{address} broke off in the middle. Try again.")
	noSymbol       = refusal.Define("symbol.none", refusal.Missing, "There is no symbol {symbol:q}.")
	noOwnSubstance = refusal.Define("substance.not-own", refusal.Missing, "Nothing of your own is said of {cas}.")
	encoderSilent  = refusal.Define("tags.encoder-silent", refusal.Outside,
		"The encoder of {printer} does not answer.")
	tooManyTries = refusal.Define("session.too-many-tries", refusal.Often,
		"There were too many wrong tries to sign in. Try again in {seconds} s.")
	noFontFile = refusal.Define("typeface.no-file", refusal.Missing, "There is no such font file.")
	wentWrong  = refusal.Define("server.failed", refusal.Failed,
		"Something went wrong in the server. Nothing that was kept is lost; try again.")
	diskFull = refusal.Define("server.disk-full", refusal.Full, "The disk is full on which the database or its server "+
		"keeps data. Nothing that was kept is lost; make room there, then do this again.")
	databaseAway = refusal.Define("server.database-away", refusal.Busy,
		"The database does not answer. Nothing that was kept is lost; try again in a moment.")
	notKept = refusal.Define("server.not-kept", refusal.Invalid, "A number or a text in this request is not one that "+
		"can be kept. See that all are of a usual size.")
	notThere      = refusal.Define("server.not-there", refusal.Invalid, "{what}")
	knownTooLarge = refusal.Define("request.too-large", refusal.Large,
		"This has {size:.1f} MB, and up to {most} are taken at once. Split it, or leave out what no label needs.")
	sizeTooLarge = refusal.Define("request.larger", refusal.Large,
		"This is too large: up to {most} are taken at once. Split it, or leave out what no label needs.")
	notUnderstood   = refusal.Define("request.not-understood", refusal.Broken, "The request is not understood: {why}.")
	outOfBounds     = refusal.Define("request.out-of-bounds", refusal.Broken, "{why}")
	nameNeeded      = refusal.Define("request.no-name", refusal.Broken, "A name is needed.")
	otherType       = refusal.Define("request.other-type", refusal.Broken, "This takes {types}.")
	requestNotWhole = refusal.Define("request.not-whole", refusal.Broken,
		"The request did not come in whole, or too slowly. Send it again.")
	noAddress   = refusal.Define("request.no-address", refusal.Missing, "There is nothing at this address.")
	notDoneHere = refusal.Define("request.not-done-here", refusal.Broken, "This cannot be done here.")
	otherHost   = refusal.Define("request.other-host", refusal.Broken, "Odd Spool is not reached by this name here.")
	notSignedIn = refusal.Define("session.none", refusal.Denied,
		"You are not signed in, or were away for long. Sign in again; drafts are kept.")
)
