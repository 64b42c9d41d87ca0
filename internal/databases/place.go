package databases

import (
	"fmt"
	"net"
	"slices"
	"strconv"
	"strings"
	"time"

	"oddspool/core/refusal"
)

// A Place says where a database is, and as whom it is asked. A password is no part of it.
type Place struct {
	Kind     Kind   `json:"kind"`
	Host     string `json:"host,omitempty"`
	Port     int    `json:"port,omitempty"` // 0: the usual one
	Database string `json:"database,omitempty"`
	User     string `json:"user,omitempty"`
	TLS      TLS    `json:"tls,omitempty"`
	Path     string `json:"path,omitempty"` // of a SQLite file
}

// Check says what is wrong with a place; nil: nothing. Its error is an *Error.
func (p *Place) Check() error {
	said := func(text string) error { return &Error{Text: text} }
	switch {
	case names[p.Kind] == "":
		return said(fmt.Sprintf("There is no kind of database %q.", p.Kind))
	case p.Kind == SQLite && p.Path == "":
		return said("The path of the SQLite file is missing.")
	case p.Kind == SQLite:
		return nil
	case strings.TrimSpace(p.Host) == "":
		return said("The name or address of the machine is missing where the database runs.")
	case strings.ContainsAny(p.Host, "/\\ ,@?"):
		return said(fmt.Sprintf("%q is no machine; write its name or address alone, such as db.plant.example.", p.Host))
	case p.Port < 0 || p.Port > 65535:
		return said(fmt.Sprintf("There is no port %d; they go from 1 to 65535.", p.Port))
	case p.Database == "":
		return said("The name of the database is missing.")
	case p.User == "":
		return said("The name is missing that the database knows Odd Spool by.")
	case !slices.Contains([]TLS{Checked, Encrypted, Plain}, p.TLS):
		return said(fmt.Sprintf("There is no way %q to go over the network.", p.TLS))
	}
	return nil
}

// Address returns the machine and port.
func (p *Place) Address() string {
	port := p.Port
	if port == 0 {
		port = ports[p.Kind]
	}
	return net.JoinHostPort(p.Host, strconv.Itoa(port))
}

// An Error says in a sentence why a database gives nothing, and what to do.
type Error struct {
	Text string
	err  error
}

func (e *Error) Error() string { return e.Text }

// Refusal tells its kind and values.
func (e *Error) Refusal() *refusal.Error {
	if e.Outside() {
		return failed.With(e.Text)
	}
	return notPossible.With(e.Text)
}

// Unwrap returns what the driver said; nil: nothing.
func (e *Error) Unwrap() error { return e.err }

// Outside tells whether it is the database that failed, and not what was asked of it.
func (e *Error) Outside() bool { return e.err != nil }

// Times that are waited.
const (
	connectTime = 5 * time.Second
	readTime    = 2 * time.Minute // of one question, whole
	writeTime   = 20 * time.Second
)

// Most is how many tables are listed.
const Most = 5000
