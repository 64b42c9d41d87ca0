package hazard

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	notAnnex = refusal.Define("hazard.not-annex", refusal.Invalid,
		"No column is headed “{name}”: this is not the table of annex VI, or its row of names was not found. Say "+
			"which row has the names.")
	badFill = refusal.Define("hazard.bad-fill", refusal.Invalid,
		"{item:q} fills no blank; write like P501 = an approved waste plant.")
	noSuchBlank = refusal.Define("hazard.no-such-blank", refusal.Invalid,
		"{code} has no blank to fill. Those that have one are {withBlanks}.")
	unknownRuleSet = refusal.Define("hazard.unknown-rule-set", refusal.Invalid,
		"{rules:q} is no rule set; there are ghs, clp and hazcom.")
	unknownLanguage = refusal.Define("hazard.unknown-language", refusal.Invalid,
		"{language:q} is no language that statements are kept in; there are {languages}.")
	badVolume = refusal.Define("hazard.bad-volume", refusal.Invalid,
		"A volume of {volume:g} ml is none.")
	statementNotInLanguage = refusal.Define("hazard.statement-not-in-language", refusal.Invalid,
		"{code} is not kept in {languageNames} here. Lay the label out in another language, or have the statement "+
			"added under Reference.")
	badLimit = refusal.Define("hazard.bad-limit", refusal.Invalid,
		"{item:q} is no limit; write like Skin Corr. 1B: 2-5 for from 2 % and below 5 %, or Skin Corr. 1A: 5, "+
			"or M: 10.")
	badStatementLimit = refusal.Define("hazard.bad-statement-limit", refusal.Invalid,
		"{item:q} is no limit of a statement of the book; write like EUH031: 5.")
	badClassLimit = refusal.Define("hazard.bad-class-limit", refusal.Invalid,
		"{item:q} is no limit: it is one class, and at most 100 %.")
	unknownForm = refusal.Define("hazard.unknown-form", refusal.Invalid,
		"{form:q} is no form in which a mixture is inhaled; there are gas, vapour and dust.")
	badConcentration = refusal.Define("hazard.bad-concentration", refusal.Invalid,
		"{name}: {percent:g} % is no concentration; say above 0 and up to 100.")
	overHundredPercent = refusal.Define("hazard.over-hundred-percent", refusal.Invalid,
		"The parts make {sum} % together, which is more than the mixture. Correct the concentrations.")
	emptyMixture = refusal.Define("hazard.empty-mixture", refusal.Invalid,
		"A mixture needs at least one part.")
	badPart = refusal.Define("hazard.bad-part", refusal.Invalid,
		"{item:q} is no part of a mixture; write like 12% 1310-73-2, or 3% Skin Irrit. 2.")
	badAnswer = refusal.Define("hazard.bad-answer", refusal.Invalid,
		"{item:q} is no answer; write each once, like flash point = 23, or oxidising = none.")
	notStabilised = refusal.Define("hazard.not-stabilised", refusal.Invalid,
		"The classification of {name} is that without its stabiliser. Give the one of the safety data sheet as "+
			"classes instead (annex VI, note F).")
	badAnsweredConcentration = refusal.Define("hazard.bad-answered-concentration", refusal.Invalid,
		"concentration: “{answer}” is not between 0 and 100 %.")
	unknownChoice = refusal.Define("hazard.unknown-choice", refusal.Invalid,
		"{id}: “{answer}” is none of {choices}.")
	answerNotNumber = refusal.Define("hazard.answer-not-number", refusal.Invalid,
		"{id}: “{answer}” is no number in {unit}. Where there is none, write none.")
	ufiForm = refusal.Define("hazard.ufi-form", refusal.Invalid,
		"{text:q} is no UFI: it has four groups of four characters, such as N1QV-R02N-J00M-WQD5.")
	ufiCharacter = refusal.Define("hazard.ufi-character", refusal.Invalid,
		"{text:q} is no UFI: {character:q} is none of its characters, which are digits and capitals but B, I, L, "+
			"O and Z.")
	ufiCheck = refusal.Define("hazard.ufi-check", refusal.Invalid,
		"{text:q} is no UFI: its check character is wrong. Compare it with where it was made.")
	noClass = refusal.Define("hazard.no-class", refusal.Invalid,
		"No class is given. Write classes like Flam. Liq. 2; Acute Tox. 3 (oral).")
	twoDetails = refusal.Define("hazard.two-details", refusal.Invalid,
		"{item:q}: ({detail}) and ({said}) stand behind one class. Write two classes, or leave one out.")
	classNotInRules = refusal.Define("hazard.class-not-in-rules", refusal.Invalid,
		"{item:q} is no class under these rules ({rules}). Choose another rule set, or leave it out.")
	statementNotOfClass = refusal.Define("hazard.statement-not-of-class", refusal.Invalid,
		"{item:q}: {code} does not belong to this class. Leave the statement out, or correct the class.")
	ambiguousClass = refusal.Define("hazard.ambiguous-class", refusal.Invalid,
		"{item:q}: say which is meant: {kinds}.")
	unknownRoute = refusal.Define("hazard.unknown-route", refusal.Invalid,
		"{item:q}: “{detail}” is not understood. It is a route (oral, dermal, inhalation){others}.")
	badMFactor = refusal.Define("hazard.bad-m-factor", refusal.Invalid,
		"{item:q}: factors are from 1 to a million, and of category 1.")
	unknownDetail = refusal.Define("hazard.unknown-detail", refusal.Invalid,
		"{item:q}: “{detail}” is not understood beside this class. Leave it out, or correct it.")
	unknownCategory = refusal.Define("hazard.unknown-category", refusal.Invalid,
		"{item:q} is no category of this class; there are {near}.")
	unknownClass = refusal.Define("hazard.unknown-class", refusal.Invalid,
		"{item:q} is no hazard class. Write it as in section 2 of its safety data sheet, such as Flam. Liq. 2 or "+
			"Acute Tox. 3 (oral).")
	twoCategories = refusal.Define("hazard.two-categories", refusal.Invalid,
		"{class} and {other} contradict each other: a thing has one category of a class. Keep the one that "+
			"is true.")
	graverClass = refusal.Define("hazard.graver-class", refusal.Invalid,
		"{class} and {other} contradict each other: where the graver is true, the other is not said. Keep one.")
	unknownPrecaution = refusal.Define("hazard.unknown-precaution", refusal.Invalid,
		"{code:q} is no precautionary statement of the book.")
	choiceWithoutReason = refusal.Define("hazard.choice-without-reason", refusal.Invalid,
		"{code}: say why it is kept or left out, such as: the container is never opened here.")
	choiceTwice = refusal.Define("hazard.choice-twice", refusal.Invalid,
		"{text:q}: write each statement once with the reason, like P264 = the canteen is next door.")
	keptAndLeftOut = refusal.Define("hazard.kept-and-left-out", refusal.Invalid,
		"{code} cannot be kept and left out.")
	unknownField = refusal.Define("hazard.unknown-field", refusal.Invalid,
		"The records have no field {field:q}.")
	alreadyLookedUp = refusal.Define("hazard.already-looked-up", refusal.Invalid,
		"The records have a field {name:q} already: they were looked up before.")
	inRecord = refusal.Define("hazard.in-record", refusal.Invalid,
		"Record {record}: {reason}")
	unusedAnswer = refusal.Define("hazard.unused-answer", refusal.Invalid,
		"“{id}” was answered, and no record asks for it.")
	noNumber = refusal.Define("hazard.no-number", refusal.Invalid,
		"the number is missing.")
	openInRecord = refusal.Define("hazard.open-in-record", refusal.Invalid,
		"{cas}: {text} ({clause}) Answer it for all, such as {question} = {example}, or as {questionAgain} of "+
			"{casAgain} for this one.")
	blankInRecord = refusal.Define("hazard.blank-in-record", refusal.Invalid,
		"{statements} has a blank: “{text}” Say what stands there, such as {statement} = an approved waste plant.")
	unknownSource = refusal.Define("hazard.unknown-source", refusal.Invalid,
		"{source:q} is no source; there are annex VI and check.")
	noName = refusal.Define("hazard.no-name", refusal.Invalid,
		"A substance needs its name in English at least.")
	badUnNumber = refusal.Define("hazard.bad-un-number", refusal.Invalid,
		"{un:q} is no UN number; it has four digits.")
	unknownStatement = refusal.Define("hazard.unknown-statement", refusal.Invalid,
		"{code} is no statement.")
	badCas = refusal.Define("hazard.bad-cas", refusal.Invalid,
		"{number:q} is no CAS number; it is written like 67-64-1.")
	casCheckDigit = refusal.Define("hazard.cas-check-digit", refusal.Invalid,
		"The check digit of the CAS number {number} should be {want:c}. Compare the number with its source: a digit "+
			"is wrong, or two are swapped.")
	badEc = refusal.Define("hazard.bad-ec", refusal.Invalid,
		"{number:q} is no EC number; it is written like 200-662-2.")
	ecCheckDigit = refusal.Define("hazard.ec-check-digit", refusal.Invalid,
		"The check digit of the EC number {number} is wrong. Compare the number with its source.")
	unknownSubstance = refusal.Define("hazard.unknown-substance", refusal.Invalid,
		"{number} is not among the {count} substances here. Give its classification from section 2 of the safety "+
			"data sheet, or add it as one of your own.")
)
