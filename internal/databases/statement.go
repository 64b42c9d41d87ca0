package databases

import (
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"
)

// A statement is a question that a person wrote in SQL, cut where its parameters stand: :name, the host parameter of
// ISO 9075-2, 5.4.
type statement struct {
	parts []string // one more than names
	names []string
}

// Parameters returns the names of the parameters of a written question, each once, in order. Its error is an *Error.
func Parameters(kind Kind, text string) ([]string, error) {
	s, err := parse(kind, text)
	if err != nil {
		return nil, err
	}
	names := []string{}
	for _, name := range s.names {
		if !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	return names, nil
}

// with returns the statement with the engine's own placeholders, and the values for them.
func (s *statement) with(place func(n int) string, answers map[string]string) (text string, args []string) {
	out := &strings.Builder{}
	for i, name := range s.names {
		out.WriteString(s.parts[i])
		out.WriteString(place(i + 1))
		args = append(args, answers[name])
	}
	out.WriteString(s.parts[len(s.parts)-1])
	return out.String(), args
}

// mostStatement is how long a written question may be, in bytes.
const mostStatement = 20_000

// writes are words that no question that only reads has outside quotation marks; what a database itself lets a reader
// do (a transaction for reading) is the first guard, and this one also keeps to it what has none.
var writes = []string{"INTO", "INSERT", "UPDATE", "DELETE", "MERGE", "TRUNCATE", "DROP", "ALTER", "CREATE", "GRANT",
	"REVOKE",
	"EXEC", "EXECUTE", "CALL", "COPY", "LOCK", "ATTACH", "DETACH", "PRAGMA", "VACUUM", "OPENROWSET", "OPENQUERY",
	"OPENDATASOURCE", "SHUTDOWN", "KILL", "BACKUP", "RESTORE"}

// parse looks a written question through: it is one statement, reads, and has its parameters where they can be told.
func parse(kind Kind, text string) (*statement, error) {
	text = strings.TrimSpace(text)
	switch {
	case text == "":
		return nil, &Error{Text: "The question is empty. Write one that begins with SELECT."}
	case len(text) > mostStatement:
		return nil, &Error{Text: fmt.Sprintf("The question has %d letters; up to %d are sent.", len(text),
			mostStatement)}
	case !utf8.ValidString(text) || strings.Contains(text, "\x00"):
		return nil, &Error{Text: "The question has letters that are none."}
	}
	s, l := &statement{}, &lexer{kind: kind, text: text}
	from, first, ended := 0, "", false
	for {
		token, at, err := l.next()
		if err != nil {
			return nil, err
		}
		if token == "" {
			break
		}
		upper := strings.ToUpper(token)
		switch {
		case token == ";":
			if !ended {
				s.parts = append(s.parts, text[from:at])
			}
			ended = true
			continue
		case ended:
			return nil, &Error{Text: "There is more than one statement. Write one question, without a semicolon in it."}
		case first == "" && token != "(":
			first = upper
			if !slices.Contains([]string{"SELECT", "WITH", "VALUES", "TABLE"}, first) {
				return nil, &Error{Text: fmt.Sprintf("It begins with %s. Only questions that read are sent: begin "+
					"with SELECT or WITH.", token)}
			}
		case slices.Contains(writes, upper):
			return nil, &Error{Text: fmt.Sprintf("The word %s writes or does something, and only what reads is sent. "+
				"A column of that name goes in quotation marks: %s.", token, l.quoted(token))}
		}
		if token[0] == ':' && len(token) > 1 {
			s.parts, s.names = append(s.parts, text[from:at]), append(s.names, token[1:])
			from = at + len(token)
		}
	}
	if first == "" {
		return nil, &Error{Text: "The question is empty. Write one that begins with SELECT."}
	}
	if !ended {
		s.parts = append(s.parts, text[from:])
	}
	return s, nil
}

// A lexer finds the words, parameters and signs of a statement that stand outside of quotation marks and comments, as
// each kind of database sees them.
type lexer struct {
	kind Kind
	text string
	at   int
}

func (l *lexer) quoted(name string) string { return quote(l.kind, name) }

func isLetter(r rune) bool { return r == '_' || unicode.IsLetter(r) || r > unicode.MaxASCII }

func isPart(r rune) bool { return isLetter(r) || r == '$' || r == '#' || unicode.IsDigit(r) }

// next returns the next word, parameter (with its colon) or sign, and where it stands; empty: the end.
func (l *lexer) next() (token string, at int, err error) {
	for l.at < len(l.text) {
		at, rest := l.at, l.text[l.at:]
		r, size := utf8.DecodeRuneInString(rest)
		open := func(what string) error {
			return &Error{Text: fmt.Sprintf("%s that opens at letter %d is not closed.", what,
				utf8.RuneCountInString(l.text[:at])+1)}
		}
		switch {
		case unicode.IsSpace(r):
			l.at += size
		case strings.HasPrefix(rest, "--"), r == '#' && l.kind == MySQL:
			if line := strings.IndexByte(rest, '\n'); line >= 0 {
				l.at += line + 1
			} else {
				l.at = len(l.text)
			}
		case strings.HasPrefix(rest, "/*"):
			if l.kind == MySQL && (strings.HasPrefix(rest, "/*!") || strings.HasPrefix(rest, "/*M!")) {
				return "", 0, &Error{Text: "A comment that begins with /*! is carried out by the database, and is " +
					"not sent."}
			}
			if !l.comment() {
				return "", 0, open("A comment")
			}
		case r == '\'' || r == '"' || r == '`' || r == '[' && l.kind == SQLServer:
			escapes := l.kind == MySQL && r != '`' || l.kind == PostgreSQL && r == '\'' && at > 0 &&
				(l.text[at-1] == 'E' || l.text[at-1] == 'e')
			if !l.quotation(r, escapes) {
				return "", 0, open("A quotation mark")
			}
		case r == '$' && l.kind == PostgreSQL && l.dollars():
			return "", 0, &Error{Text: "Text between dollar signs is not taken; put it between quotation marks: " +
				"'text'."}
		case isLetter(r):
			end := strings.IndexFunc(rest, func(r rune) bool { return !isPart(r) })
			if end < 0 {
				end = len(rest)
			}
			l.at += end
			return rest[:end], at, nil
		case r == ':' && strings.HasPrefix(rest, "::"):
			l.at += 2 // a cast
		case r == ':':
			if next, _ := utf8.DecodeRuneInString(rest[1:]); isLetter(next) && rest != ":" {
				end := strings.IndexFunc(rest[1:], func(r rune) bool { return !isPart(r) })
				if end < 0 {
					end = len(rest) - 1
				}
				l.at += 1 + end
				return rest[:1+end], at, nil
			}
			l.at++
		case r >= '0' && r <= '9': // with what belongs to it, such as 1e5
			end := strings.IndexFunc(rest, func(r rune) bool { return !isPart(r) && r != '.' })
			if end < 0 {
				end = len(rest)
			}
			l.at += end
		default:
			l.at += size
			return rest[:size], at, nil
		}
	}
	return "", l.at, nil
}

// comment goes past a comment, and tells whether it is closed. PostgreSQL and SQL Server let them stand within each
// other.
func (l *lexer) comment() bool {
	depth := 0
	for l.at < len(l.text) {
		switch rest := l.text[l.at:]; {
		case strings.HasPrefix(rest, "/*") && (depth == 0 || l.kind == PostgreSQL || l.kind == SQLServer):
			depth++
			l.at += 2
		case strings.HasPrefix(rest, "*/"):
			l.at += 2
			if depth--; depth == 0 {
				return true
			}
		default:
			l.at++
		}
	}
	return false
}

// quotation goes past what stands in quotation marks, and tells whether they are closed. A mark that stands twice is
// one within.
func (l *lexer) quotation(mark rune, escapes bool) bool {
	end := byte(mark)
	if mark == '[' {
		end = ']'
	}
	for l.at++; l.at < len(l.text); l.at++ {
		switch {
		case escapes && l.text[l.at] == '\\':
			l.at++
		case l.text[l.at] == end && l.at+1 < len(l.text) && l.text[l.at+1] == end:
			l.at++
		case l.text[l.at] == end:
			l.at++
			return true
		}
	}
	return false
}

// dollars tells whether text between dollar signs opens here: $$ or $name$.
func (l *lexer) dollars() bool {
	end := strings.IndexFunc(l.text[l.at+1:], func(r rune) bool { return !isLetter(r) && !unicode.IsDigit(r) })
	return end >= 0 && l.text[l.at+1+end] == '$'
}

// quote puts the name of a table or column in the quotation marks of its kind of database.
func quote(kind Kind, name string) string {
	switch kind {
	case MySQL:
		return "`" + strings.ReplaceAll(name, "`", "``") + "`"
	case SQLServer:
		return "[" + strings.ReplaceAll(name, "]", "]]") + "]"
	default:
		return `"` + strings.ReplaceAll(name, `"`, `""`) + `"`
	}
}
