package store

import (
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
		return "", badName.With(mostAccount)
	}
	return name, nil
}

// checkPassword refuses a password that is guessed soon.
func checkPassword(name, password string) error {
	letters := utf8.RuneCountInString(password)
	switch {
	case letters < leastPassword:
		return passwordShort.With(leastPassword, letters)
	case len(password) > mostPassword || !utf8.ValidString(password):
		return passwordLong.With(mostPassword)
	case strings.TrimSpace(password) == "":
		return passwordBlank.With()
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
		return passwordGuessed.With()
	}
	return nil
}
