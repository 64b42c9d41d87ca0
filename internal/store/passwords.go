package store

import (
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Bounds of names and passwords. The least length is that of NIST SP 800-63B-4, 3.1.1.2, with a margin below its 15 for
// a plant behind its own door; there is no rule of kinds of characters.
const (
	leastPassword = 12
	mostPassword  = 200
	mostAccount   = 100
)

// A PasswordError says why a name or a password is not taken.
type PasswordError struct{ Text string }

func (e *PasswordError) Error() string { return e.Text }

// commonest are passwords of twelve letters and more that are tried first everywhere, and beginnings of such.
var commonest = []string{"passwords", "password", "passwort", "123456", "1234567890", "qwertyuiop", "qwertzuiop",
	"qwerty", "qwertz", "asdfghjkl", "asdfgh", "abc123", "abcdef", "letmein", "welcome", "iloveyou",
	"administrator", "admin", "changeme", "secret", "oddspool", "1q2w3e4r", "1qaz2wsx", "qazwsx", "football",
	"baseball", "sunshine", "princess", "monkey", "dragon",
	"master", "trustno1", "superman", "whatever", "zaq12wsx", "starwars", "michael", "computer", "login", "label",
	"printer"}

// accountName trims a name and refuses what is none.
func accountName(name string) (string, error) {
	name = strings.Join(strings.Fields(name), " ")
	if name == "" || len(name) > mostAccount || !utf8.ValidString(name) ||
		strings.ContainsFunc(name, unicode.IsControl) {
		return "", &PasswordError{fmt.Sprintf("A name has 1 to %d letters, and no control characters.", mostAccount)}
	}
	return name, nil
}

// checkPassword refuses a password that is guessed soon.
func checkPassword(name, password string) error {
	letters := utf8.RuneCountInString(password)
	switch {
	case letters < leastPassword:
		return &PasswordError{fmt.Sprintf("A password has at least %d letters; this has %d. A few words make a "+
			"good one.", leastPassword, letters)}
	case len(password) > mostPassword || !utf8.ValidString(password):
		return &PasswordError{fmt.Sprintf("A password has up to %d letters.", mostPassword)}
	case strings.TrimSpace(password) == "":
		return &PasswordError{"A password is more than blanks."}
	}
	plain := strings.ToLower(strings.Join(strings.Fields(password), ""))
	different := map[rune]bool{}
	for _, r := range plain {
		different[r] = true
	}
	rest := strings.ReplaceAll(plain, strings.ToLower(strings.ReplaceAll(name, " ", "")), "")
	for _, common := range commonest {
		rest = strings.ReplaceAll(rest, common, "")
	}
	rest = strings.Trim(rest, "0123456789!?.-_*#$@")
	if len(different) < 5 || utf8.RuneCountInString(rest) < 5 {
		return &PasswordError{"This password is among the first that are guessed. Take a few words that do not " +
			"belong together."}
	}
	return nil
}
