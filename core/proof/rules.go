package proof

import (
	"strings"

	"oddspool/core/refusal"
)

// A Rule is one way in which a label can be wrong: how bad it is, what is said about it, and what helps. A finding is a
// rule with values.
type Rule struct {
	Code  string // its kind, and behind a point what exactly, such as too-long.wide
	Level Level
	Text  refusal.Sentence
	Do    refusal.Sentence
}

// Kind returns what kind of finding the rule gives.
func (r *Rule) Kind() Kind {
	kind, _, _ := strings.Cut(r.Code, ".")
	return Kind(kind)
}

// Rules returns all rules, in the order of their table.
func Rules() []*Rule { return rules }

var rules []*Rule

func define(code string, level Level, text, do string) *Rule {
	r := &Rule{code, level, refusal.NewSentence(text), refusal.NewSentence(do)}
	rules = append(rules, r)
	return r
}

// found returns the finding that a rule gives: values are those of its text, then those of its remedy.
func (r *Rule) found(record int, element string, values ...any) Finding {
	of := min(len(r.Text.Names()), len(values))
	named := r.Text.Named(values[:of]...)
	for name, value := range r.Do.Named(values[of:]...) {
		named[name] = value
	}
	return Finding{Level: r.Level, Kind: r.Kind(), Rule: r.Code, Record: record, Element: element,
		Text: r.Text.Say(values[:of]...), Do: r.Do.Say(values[of:]...), Values: named}
}

// What a label says.
var (
	fieldGone = define("field-gone", Error, "The records have no field {field:q}.",
		"Choose another field for it, or records that have it.")
	saysNothing = define("empty.element", Error, "Nothing is said here yet.", "Say something, or delete it.")
	fieldEmpty  = define("empty.field", Error, "{field} is empty.",
		"Fill the field, or say that it may be left out when empty.")
	untranslated = define("untranslated", Error, "{why}",
		"Write them under Languages, or have the record name a language that is there.")
	badFormula = define("bad-formula", Error, "{why}", "Put the formula or the change right, or the record's value.")
	badCode    = define("bad-data.code", Error, "{why}", "Correct the record, or choose a symbology that holds it.")
	badTag     = define("bad-data.tag", Error, "{why}", "Correct the record, or choose a form that holds it.")
	blankLabel = define("blank-label", Error, "Nothing is on this label.",
		"Fill the record, or leave it out of the run.")
)

// Words.
var (
	tooManyLetters = define("too-long.letters", Error, "This says {letters} letters, and up to {most} are drawn.",
		"Say less.")
	tooWide = define("too-long.wide", Error, "Text is {over} too long for its box.",
		"Make the box wider or the type smaller, or let it wrap or shrink.")
	tooTall = define("too-long.tall", Error, "Text is {over} too tall for its box.",
		"Make the box taller or the type smaller, or let it shrink.")
	lineTooWide = define("too-long.line", Warning, "A line beside the code is {over} longer than its box.",
		"Make the box wider or the type smaller, or say less.")
	pieceTooLong = define("too-long.piece", Error, "This makes the piece {over} longer than the {most} it can be.",
		"Say less, or make it smaller.")
	noGlyph = define("no-glyph", Error, "No typeface here has “{letter:c}” ({number:U}).",
		"Write it in another way in the record.")
	smallCapitals = define("small-type.read", Warning, "Its capitals are {high:.1f} mm high and read from "+
		"{from:.1f} m; for {wanted:g} m they are to be {least:.1f} mm (ANSI Z535.2, annex B).",
		"Set it larger, say less, or take a larger stock.")
	smallLetters = define("small-type.dots", Warning,
		"Its small letters are {tall:.0f} dots tall at {resolution}: some can hardly be told apart.",
		"Set it larger, give it more room, or print it on a finer printer.")
	overlap = define("overlap", Warning, "This lies over “{other}”.", "Move one of them, or make it smaller.")
)

// Where it lies.
var (
	offLabel  = define("off-label.all", Error, "This lies off the label.", "Move it back, or delete it.")
	overEdge  = define("off-label.edge", Error, edgeText, "Move it or make it smaller.")
	overCode  = define("off-label.code", Error, edgeText, "Move it, or choose a smaller module.")
	cutByDie  = define("off-label.outline", Error, outlineText, "Move it inwards, or make it smaller.")
	meetsDie  = define("off-label.runs-out", Warning, outlineText, "Move it inwards, or make it smaller.")
	movedOver = define("off-label.offset", Error,
		"With the offsets of the print set-up, this reaches {over} over the edge of the label.", offsetDo)
	quietMovedOver = define("off-label.quiet-offset", Error,
		"With the offsets of the print set-up, its quiet zone reaches {over} over the edge of the label.", offsetDo)
	beyondPrinter = define("no-print.reach", Error,
		"This reaches {over} beyond what {printer} can print on this stock.", "Move it inwards, or make it smaller.")
	onBand = define("no-print.band", Error, "This lies on what goes round the cable, or on a fold.",
		"Keep it on one face.")
	onHole = define("no-print.hole", Error, "This lies on a hole or too close to it.", "Move it away from the hole.")
)

const (
	edgeText    = "This reaches {over} over the {edge} edge of the label."
	outlineText = "This reaches over the outline that the label is cut to."
	offsetDo    = "Choose another print set-up, correct its offsets, or move it inwards."
)

// What it is printed with.
var (
	noFill = define("no-ink.fill", Error, "{printer} cannot fill this with {ink} on this stock.",
		"Choose an ink that it has.")
	noInk     = define("no-ink", Error, noInkText, "Choose another printer or stock.")
	otherInk  = define("no-ink.nearest", Error, noInkText, "Choose {nearest}, the nearest it has, or another printer.")
	baresBare = define("low-contrast.bare", Error, "This lays bare what is bare: nothing filled lies under it.",
		"Put a filled box under it, or choose an ink.")
	notShown = define("low-contrast.none", Error, "This does not show: {ink} on a face of {face}.",
		"Choose another ink, or another stock.")
	hardlyShown = define("low-contrast.little", Warning, "This can hardly be seen: {ink} on a face of {face}.",
		"Choose a darker ink, or another stock.")
	notScanned = define("low-contrast.code", Error,
		"A scanner does not see these bars: {ink} on this stock is not dark enough in its red light.",
		"Choose a darker ink, or a lighter stock.")
	weakTint = define("tint", Warning,
		"A tint of {tint} % is single dots, or single gaps, that do not hold on every print.",
		"Choose 15 to 85 %, or no tint.")
)

const noInkText = "{printer} cannot print {ink} on this stock."

// Codes.
var (
	noRoomForBars = define("code-big.bars", Error, "The box has no room for bars beside the readable text.",
		"Make the box taller.")
	codeTooTall = define("code-big.tall", Warning, "The code is {over} taller than its box.",
		"Make the box taller, or choose a smaller module.")
	codeTooWide = define("code-big.wide", Warning, "The code is {over} wider than its box.",
		"Make the box wider, or choose a smaller module.")
	quietOverEdge = define("quiet-cut.edge", Error,
		"The edge of the label cuts its quiet zone, which needs {modules} modules ({wide}).",
		"Move it inwards, or choose a smaller module.")
	quietTaken = define("quiet-cut.taken", Error,
		"Something stands in its quiet zone, which needs {modules} modules ({wide}).", "Move it or what stands there.")
	readsNothing = define("reads-other.nothing", Error,
		"Read back from its dots, this {symbology} says nothing: {why}.",
		"See what crosses the bars, or choose a larger module.")
	readsOther = define("reads-other.other", Error,
		"Read back from its dots, this {symbology} says “{read}”, not “{meant}”.", "See what crosses the bars.")
	longCode = define("long-code", Warning,
		"This GS1-128 is {long:.1f} mm long with its quiet zones, and GS1 takes up to {most:.1f} mm.",
		"Choose a smaller module, or spread the data over two codes.")
	notForPurpose = define("module-range.purpose", Warning, "GS1 does not use {symbology} {purpose}.",
		"Choose another symbology, or another purpose.")
	smallModule = define("module-range.small", Warning,
		"{symbology} goes down to a module of {least}{purpose}, and this is {module}.",
		"Choose a larger module, or make more room for it.")
	largeModule = define("module-range.large", Warning,
		"{symbology} goes up to a module of {most}{purpose}, and this is {module}.", "Choose a smaller module.")
	lowBars = define("low-bars", Warning,
		"The bars are {tall:.1f} mm tall, and {symbology} should have {least:.1f} mm.",
		"Make the box taller, or leave the readable text out.")
	ladder = define("ladder", Warning, "The bars lie across the feed (a ladder). At more than {slow:d} mm/s, bars of "+
		"{module} smear into one another; {printer} goes up to {speed:d} mm/s.",
		"Turn it by 90°, choose a module of {thick:d} dots, or print slower.")
	narrowBars = define("narrow-bars", Error,
		"Bars that are {narrower} dots narrower than a module of {module} dots are "+
			"no longer read: less than half of it can be taken away.",
		"Take fewer dots away, or choose a larger module.")
	otherModule = define("other-module", Warning,
		"A module of {wanted} was wanted, and {drawn} is drawn: this printer has {resolution}.",
		"Choose a module of whole dots, or a finer printer.")
	nearCut = define("near-cut", Warning, "Its bars end {gap:.1f} mm from where the label is cut out, which moves by "+
		"some tenths from label to label.", "Move it inwards, or make it smaller.")
	noFigures = define("no-figures", Warning, "{symbology} is to have its figures beside it (GS1 General "+
		"Specifications, 4.14), and nothing on this label says {figures}.",
		"Show the readable text, or add a text that says it.")
	plainBrackets = define("plain-brackets", Warning,
		"This says its brackets as they stand: {element} is GS1's way to "+
			"write ({ai}) {title}, and {symbology} does not take it so.",
		"Choose a symbology of GS1, or leave the brackets out.")
	badLink = define("bad-link", Warning, "This is a web address with GS1 data in it that is not right: {why}",
		"Correct the record, or choose a symbology with GS1 Digital Link, which works the check digit out.")
	codesDiffer = define("codes-differ", Warning,
		"This says {ai} {title} {value}, and another code of the label says {other}.",
		"See whether that is meant, or have both say the same.")
	textDiffers = define("text-differs", Warning, "This says {text}, and the code “{code}” says {value}: {count} "+
		"characters differ.", "Have the text say what the code says, by its field.")
	datesDiffer = define("gs1-dates", Error, "{first} is later than {second}.",
		"Correct the record, or the identifiers.")
	noMeasure = define("gs1-measure.none", Error,
		"The GTIN {gtin} is of a trade item whose measure varies (it begins "+
			"with 9), and no code of this label says a measure (GS1 General Specifications, 2.1.10).",
		"Add (30), or an identifier from (3100) to (3699), or correct the GTIN.")
	fixedMeasure = define("gs1-measure.fixed", Warning,
		"({ai}) {title} is for trade items whose measure varies, and the "+
			"GTIN {gtin} is of a fixed one: it does not begin with 9.", "Leave the measure out, or correct the GTIN.")
	gs1Lacks = define("gs1-lacks", Error, "{why}", "Add it to this code, or put a code that holds it on the label.")
	guessed  = define("guessed.code", Warning, guessedText, "Choose that its letters are told, which makes it larger, "+
		"or that they are plain where all of your readers know, or leave such letters out.")
	guessedForGood = define("guessed.no-eci", Warning, guessedText, "Choose another symbology, or that its letters "+
		"are plain where all of your readers know, or leave such letters out.")
	spaces = define("spaces", Warning, "The code begins or ends with white space, which readers pass on.",
		"Take it away in the record, or in what the code says.")
	codeTwice = define("twice.code", Warning, "This code says the same as that of record {other}.", twiceDo)
	tagTwice  = define("twice.tag", Warning, "This tag says the same as that of record {other}.", twiceDo)
)

const (
	guessedText = "Some readers take the western letters of this code, such as those of 5 °C, for Japanese ones: it " +
		"has no room to say what they are."
	twiceDo = "See whether that is meant; a serial number belongs to one label."
)

// Tags.
var (
	noEncoder = define("no-encoder", Error, "{printer} does not write tags.",
		"Choose a printer that does, or say of this one that it does.")
	noInlay = define("no-inlay", Warning, "{stock} is not known to have a chip.",
		"Choose a stock with an inlay, or say of this one where it lies.")
	longIdentifier = define("tag-room.identifier", Error,
		"The identifier takes {bits} bits, and the chip has room for {room}.",
		"Choose a shorter form, or another stock.")
	longMemory = define("tag-room.user", Error, "User memory is to have {bits} bits, and the chip has {room}.",
		"Say less, or choose another stock.")
	overChip = define("over-chip", Warning, "The code lies over the chip: its bump spoils bars, and heads wear there.",
		"Move it off the chip, as the stock has it.")
	openKill = define("open-kill", Warning,
		"The kill password stays open: whoever reads the chip can read it, and end the chip with it.",
		"Lock the chip, which locks its passwords too.")
	chipOther = define("chip-other", Error,
		"The chip says {chip}, and a code of the label says {code}.", "Have both say the same.")
)

// Pictures and symbols.
var (
	jagged = define("jagged", Warning,
		"The picture has {has:.1f} dots/mm at this size, and the printer {printer}: its edges show as steps.",
		"Make it smaller, or bring in a larger one.")
	blackBlob = define("blob.dark", Warning, "The picture becomes nearly all dark.",
		"Make it lighter, or let its shades become patterns of dots.")
	bareBlob = define("blob.bare", Warning, "Nearly nothing is left of the picture.",
		"Make it darker, or let its shades become patterns of dots.")
	noSymbol = define("no-symbol", Error, "The library has no symbol {symbol:q}.",
		"Choose another one, or bring it in as one of your own.")
	smallSymbol = define("small-symbol", Warning,
		"{symbol} is {large:.1f} mm large, {dots} dots: from {least:.1f} mm on it can be told at {resolution}.",
		"Make it larger.")
	underSize = define("under-size", Warning,
		"{symbol} is {large:.1f} mm large, and its rule asks for {least:g} mm: {rule}.",
		"Make it larger, or take a larger stock.")
	symbolColour = define("symbol-colour.other", Warning, "{symbol} needs {colours}, which cannot be shown here: the "+
		"darkest ink or the bare face stands for it, where colours carry a part of what is said (ISO 3864-1, 5).",
		otherColourDo)
	symbolColourGHS = define("symbol-colour.ghs", Warning, "{symbol} needs {colours}, which cannot be shown here: its "+
		"frame is to be red and the symbol black on white (GHS 1.4.10.4; CLP, annex I, 1.2.1.1; 29 CFR 1910.1200, "+
		"appendix C.2.3).", ghsColourDo)
	symbolColourTransport = define("symbol-colour.transport", Warning, "{symbol} needs {colours}, which cannot be "+
		"shown here: labels of transport have the colours of their class (UN Model Regulations, 5.2.2.2.1).",
		transportColourDo)
)

const (
	otherColourDo = "Take a stock or printer with that colour, or let it be on purpose."
	ghsColourDo   = "Take a stock with red frames printed on it and leave out the frame, or a printer and stock with " +
		"red."
	transportColourDo = "Print it in colour, or take labels that are printed already."
)

// What the rules of a safety label ask, and it does not keep to.
var (
	otherRecord = define("safety-known", Error,
		"{field} is “{value}”, and this label was not laid out for that: {rule}.",
		"Lay it out again for these records.")
	isMissing = define("safety-presence.missing", Error, "“{what}” is not on this label, and belongs there {rule}.",
		"Put it back, or lay the label out again.")
	isOtherKind = define("safety-presence.kind", Error, "“{what}” is a {kind} now, of which that cannot be asked.",
		"Lay the label out again.")
	otherWords = define("safety-words", Error, "This no longer says “{words}”, which belongs there {rule}.",
		"Write it again, or lay the label out again.")
	shortLabel = define("safety-width.label", Error, "The label is {is:.1f} mm long; {rule} it is to be {least:g} mm.",
		largerDo)
	shortPart = define("safety-width.part", Error, "This is {is:.1f} mm long; {rule} it is to be {least:g} mm.",
		largerDo)
	lowLabel = define("safety-height.label", Error, "The label is {is:.1f} mm high; {rule} it is to be {least:g} mm.",
		largerDo)
	lowPart = define("safety-height.part", Error, "This is {is:.1f} mm high; {rule} it is to be {least:g} mm.",
		largerDo)
	lowCapitals = define("safety-letters.capitals", Error,
		"Capitals are {is:.1f} mm high; {rule} they are to be {least:g} mm.", lettersDo)
	lowLetters = define("safety-letters.small", Error,
		"Small letters are {is:.1f} mm high; {rule} they are to be {least:g} mm.", lettersDo)
	noFieldColour = define("safety-colour.no-field", Error,
		"The field is to be {colour} {rule}, and {printer} cannot show that on this stock.", colourDo)
	otherFieldColour = define("safety-colour.field", Error, "The field is to be {colour} {rule}, and is not.",
		"Make it {wanted}.")
	noInkColour = define("safety-colour.no-ink", Error,
		"What stands here is to be {colour} {rule}, and {printer} cannot show that on this stock.", colourDo)
	otherInkColour = define("safety-colour.ink", Error, "What stands here is to be {colour} {rule}, and is not.",
		"Make it {wanted}.")
	demandedColour = define("safety-colour.symbol", Error,
		"{symbol} needs {colours}, which cannot be shown here, {rule}.", otherColourDo)
	demandedColourGHS = define("safety-colour.ghs", Error,
		"{symbol} needs {colours}, which cannot be shown here, {rule}.", ghsColourDo)
	demandedColourTransport = define("safety-colour.transport", Error,
		"{symbol} needs {colours}, which cannot be shown here, {rule}.", transportColourDo)
)

const (
	largerDo  = "Make it larger, or take a larger stock."
	lettersDo = "Set it larger, say less, or take a larger stock."
	colourDo  = "Take a stock of that colour, or a printer that has it."
)

// What is added to the remedy of a demand that a person can overrule, and what stands for it where one did.
var (
	orOverrule = refusal.NewSentence("{do} Or overrule it with a reason.")
	overruled  = refusal.NewSentence("It was overruled: “{reason}”.")
)
