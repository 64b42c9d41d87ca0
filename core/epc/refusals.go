package epc

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	empty = refusal.Define("epc.empty", refusal.Invalid,
		"There is nothing to read.")
	unknownHeader = refusal.Define("epc.unknown-header", refusal.Invalid,
		"The header {header:02X} belongs to no scheme that is known here: the tag may be blank, or hold data of "+
			"its own.")
	wrongLength = refusal.Define("epc.wrong-length", refusal.Invalid,
		"{scheme} takes {wanted} bits, and there are {bits}.")
	badPartition = refusal.Define("epc.bad-partition", refusal.Invalid,
		"The partition is 7, and there are 0 to 6.")
	prefixOverPartition = refusal.Define("epc.prefix-over-partition", refusal.Invalid,
		"The company prefix {company} has more than the {digits} digits of its partition.")
	referenceOverPartition = refusal.Define("epc.reference-over-partition", refusal.Invalid,
		"The reference {reference} has more than the {most} digits of its partition.")
	serialWithoutOne = refusal.Define("epc.serial-without-one", refusal.Invalid,
		"The serial {text} does not begin with the 1 that keeps its zeros.")
	characterAfterEnd = refusal.Define("epc.character-after-end", refusal.Invalid,
		"Character {place} stands behind the end of the text.")
	characterNotInSet = refusal.Define("epc.character-not-in-set", refusal.Invalid,
		"Character {place} is {code:02X}, which is not in GS1's set of 82 characters.")
	textWithoutEnd = refusal.Define("epc.text-without-end", refusal.Invalid,
		"The text {text:q}… does not end.")
	unknownScheme = refusal.Define("epc.unknown-scheme", refusal.Invalid,
		"{text:q} is no scheme; there are {names}.")
	badFilter = refusal.Define("epc.bad-filter", refusal.Invalid,
		"{filter} is no filter value; it is 0 to 7.")
	badCompanyPrefix = refusal.Define("epc.bad-company-prefix", refusal.Invalid,
		"{company:q} is no GS1 Company Prefix: it has 6 to 12 digits.")
	badCouponSerial = refusal.Define("epc.bad-coupon-serial", refusal.Invalid,
		"The serial {serial:q} is none of a coupon: it has 1 to {couponDigits} digits.")
	serialTooMuch = refusal.Define("epc.serial-too-much", refusal.Invalid,
		"{scheme} has no serial of its own; {serial:q} is too much.")
	serialEmpty = refusal.Define("epc.serial-empty", refusal.Invalid,
		"The serial is empty; {scheme} has one of 1 to {most} characters.")
	badPiece = refusal.Define("epc.bad-piece", refusal.Invalid,
		"{pieces:q} does not say which piece of how many it is, in two digits each.")
	unknownPiece = refusal.Define("epc.unknown-piece", refusal.Invalid,
		"Piece {piece} of {total} is none.")
	assetReferenceEmpty = refusal.Define("epc.asset-reference-empty", refusal.Invalid,
		"The asset reference is empty.")
	referenceLength = refusal.Define("epc.reference-length", refusal.Invalid,
		"The reference {reference:q} has {count} digits; beside a company prefix of {prefixDigits} digits it has 1 to "+
			"{most}.")
	referenceNotDigits = refusal.Define("epc.reference-not-digits", refusal.Invalid,
		"The reference {reference:q} has {character:q} in place {place}; it takes digits.")
	referenceLengthByPrefix = refusal.Define("epc.reference-length-by-prefix", refusal.Invalid,
		"The reference {reference:q} has {count} digits; beside a company prefix of {prefixDigits} digits it has "+
			"{wanted}. "+
			"Is the company prefix of that length?")
	numberSerialEmpty = refusal.Define("epc.number-serial-empty", refusal.Invalid,
		"The serial is empty; of a number it takes 0 to {most}.")
	digitsOnly = refusal.Define("epc.digits-only", refusal.Invalid,
		"{what} {text:q} has {character:q} in place {place}; this scheme takes digits only. A longer scheme takes "+
			"letters.")
	leadingZero = refusal.Define("epc.leading-zero", refusal.Invalid,
		"{what} {text:q} begins with 0, which a number does not keep. A longer scheme keeps it.")
	numberTooLarge = refusal.Define("epc.number-too-large", refusal.Invalid,
		"{what} {text} is too large: this scheme takes up to {most}.")
	letterNotInSet = refusal.Define("epc.letter-not-in-set", refusal.Invalid,
		"{what} {text:q} has {character:q} in place {place}, which is not in GS1's set of 82 characters.")
	tooLong = refusal.Define("epc.too-long", refusal.Invalid,
		"{what} {text:q} has {count} characters; this scheme takes up to {most}.")
	badCountOfCharacters = refusal.Define("epc.bad-count-of-characters", refusal.Invalid,
		"{what} {text:q} has {count} characters; it has 1 to {most}.")
	adiCharacter = refusal.Define("epc.adi-character", refusal.Invalid,
		"{what} {text:q} has {character:q} in place {place}; it takes capitals, digits, -, / and #.")
	badAdiFilter = refusal.Define("epc.bad-adi-filter", refusal.Invalid,
		"{filter} is no filter value of ADI; it is 0 to 63.")
	cageLength = refusal.Define("epc.cage-length", refusal.Invalid,
		"{company:q} is no CAGE code or DoDAAC: it has 5 or 6 characters.")
	cageCharacter = refusal.Define("epc.cage-character", refusal.Invalid,
		"{company:q} has {character:q}, which no CAGE code has.")
	notHexadecimal = refusal.Define("epc.not-hexadecimal", refusal.Invalid,
		"{text:q} is no hexadecimal digit (place {place}).")
	halfByte = refusal.Define("epc.half-byte", refusal.Invalid,
		"{count} hexadecimal digits are no whole bytes.")
	badAdi = refusal.Define("epc.bad-adi", refusal.Invalid,
		"{data:q} is no identifier of ADI; write it like 35962.PQ7VZ4.M37GXB92.")
	prefixLength = refusal.Define("epc.prefix-length", refusal.Invalid,
		"A company prefix of {prefix} digits is none; it has 6 to 12.")
	keyMissing = refusal.Define("epc.key-missing", refusal.Invalid,
		"{scheme} is made from ({key}), which {data:q} does not have.")
	bodyTooShort = refusal.Define("epc.body-too-short", refusal.Invalid,
		"({key}) {body:q} is shorter than a company prefix of {prefix} digits.")
	prefixNotDigits = refusal.Define("epc.prefix-not-digits", refusal.Invalid,
		"({key}) has {body:q} in place {place}; it begins with a company prefix of {prefix} digits.")
	badValue = refusal.Define("epc.bad-value", refusal.Invalid,
		"({key}) {title}: {problem}")
	notUri = refusal.Define("epc.not-uri", refusal.Invalid,
		"{uri:q} is no EPC URI; it begins with urn:epc:id: or urn:epc:tag:.")
	uriWithoutFilter = refusal.Define("epc.uri-without-filter", refusal.Invalid,
		"{uri:q} has no filter value.")
	uriNotEnough = refusal.Define("epc.uri-not-enough", refusal.Invalid,
		"{scheme} is made from an element string or a Digital Link: a URI does not tell its check digit and where "+
			"the company prefix ends.")
	uriOfOtherScheme = refusal.Define("epc.uri-of-other-scheme", refusal.Invalid,
		"{uri:q} is no {scheme}.")
	uriParts = refusal.Define("epc.uri-parts", refusal.Invalid,
		"{uri:q} has too few parts.")
	uriPiece = refusal.Define("epc.uri-piece", refusal.Invalid,
		"{uri:q} does not say which piece of how many it is, in two digits each.")
	noAfi = refusal.Define("epc.no-afi", refusal.Invalid,
		"{scheme} is an EPC, which has no application family identifier.")
	userMemoryTooLong = refusal.Define("epc.user-memory-too-long", refusal.Invalid,
		"{count} bytes are too many for user memory; it is written with up to {most}.")
	identifierLength = refusal.Define("epc.identifier-length", refusal.Invalid,
		"An identifier of {count} bytes is none a tag can have: it has 2 to {longest}.")
	unknownSerialEncoding = refusal.Define("epc.unknown-serial-encoding", refusal.Invalid,
		"The serial is encoded in a way ({indicator}) that there is none of.")
	serialLength = refusal.Define("epc.serial-length", refusal.Invalid,
		"The serial has {number} characters; it has 1 to {most}.")
	serialDigitsMissing = refusal.Define("epc.serial-digits-missing", refusal.Invalid,
		"The serial {digits} has not the {number} digits that are said of it.")
	serialBadCharacters = refusal.Define("epc.serial-bad-characters", refusal.Invalid,
		"The serial has three characters that are none.")
	serialCharactersMissing = refusal.Define("epc.serial-characters-missing", refusal.Invalid,
		"The serial does not have the {number} characters that are said of it.")
	serialCutOff = refusal.Define("epc.serial-cut-off", refusal.Invalid,
		"The serial ends before its {number} characters.")
	badCountOfDigits = refusal.Define("epc.bad-count-of-digits", refusal.Invalid,
		"({key}) has {count} digits, and takes {digits}.")
	badDigit = refusal.Define("epc.bad-digit", refusal.Invalid,
		"Digit {place} of ({key}) is {digit:X}, which is none.")
	wrongBits = refusal.Define("epc.wrong-bits", refusal.Invalid,
		"{scheme} takes {wanted} bits, and there are {bits}.")
	badData = refusal.Define("epc.bad-data", refusal.Invalid, "{reason}")
	badGid  = refusal.Define("epc.bad-gid", refusal.Invalid,
		"{data:q} is no general identifier: write manager.class.serial, three numbers.")
	gidFilter = refusal.Define("epc.gid-filter", refusal.Invalid,
		"A general identifier has no filter value; {filter} was given.")
)
