package symbology

import "unicode/utf8"

// Letters is how letters of western Europe are written in symbologies whose standards take them for granted.
type Letters string

// The ways.
const (
	LettersAsSuits Letters = ""      // with an ECI, unless that makes the symbol larger
	LettersTold    Letters = "told"  // with an ECI, whatever it takes
	LettersPlain   Letters = "plain" // without one: all readers are known to take them for what they are
)

// westernLetters is how a symbology says letters of western Europe, such as those of 5 °C, which its standard takes for
// granted as ISO/IEC 8859-1. Widely used readers guess instead, and take some of them for Japanese ones, unless an ECI
// says what they are.
type westernLetters int

const (
	plainLetters   westernLetters = iota // as UTF-8 with its ECI, or not at all
	toldLetters                          // it can carry an ECI
	guessedLetters                       // it cannot
)

// latin1ECI is that of ISO/IEC 8859-1 (AIM ITS/04-023).
const latin1ECI = 3

// tellLetters has a symbol with letters of western Europe say that they are, where that makes it no larger. Where it
// does, or the symbology has no ECI, the symbol is Guessed.
func (s *Symbol) tellLetters(kind *Kind, text string, o Options) {
	if _, latin := latin1(text); !latin || utf8.RuneCountInString(text) == len(text) {
		return
	}
	if o.Letters == LettersPlain {
		return
	}
	if kind.western == toldLetters {
		o.tellsLetters = true
		told := *s
		told.Matrix.Dark, told.values = nil, nil
		if err := kind.Encode(&told, text, o); err == nil &&
			(o.Letters == LettersTold || told.Matrix.Width == s.Matrix.Width && told.Matrix.Height == s.Matrix.Height) {
			*s = told
			return
		}
	}
	s.Guessed = true
}
