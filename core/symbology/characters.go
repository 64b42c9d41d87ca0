package symbology

import "fmt"

// onlyASCII refuses what is no ASCII, or nothing.
func onlyASCII(name, text string) error {
	if text == "" {
		return wrong(0, "%s needs at least one character.", name)
	}
	position := 0
	for _, r := range text {
		if position++; r > 127 {
			return wrong(position, "%s (character %d) is not in %s; it takes ASCII letters, digits and signs.",
				printableRune(r), position, name)
		}
	}
	return nil
}

// printableRune writes a character for people.
func printableRune(r rune) string {
	switch {
	case r == '\uFFFD':
		return "What is no valid text"
	case r < 32 || r == 127:
		return fmt.Sprintf("The control character U+%04X", r)
	}
	return fmt.Sprintf("“%c”", r)
}

// onlyDigits refuses what has no digits, or something else.
func onlyDigits(name, text string) error {
	if text == "" {
		return wrong(0, "%s needs at least one digit.", name)
	}
	position := 0
	for _, r := range text {
		if position++; r < '0' || r > '9' {
			return wrong(position, "%s (character %d) is not in %s; it takes digits.", printableRune(r), position,
				name)
		}
	}
	return nil
}
