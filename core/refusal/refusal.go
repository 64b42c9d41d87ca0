// Package refusal holds what is refused, and why: each kind of refusal once, with a code that programs know it by, the
// sentence that people read, and how a server answers. A refusal is a kind with values.
//
//	var tooWide = refusal.Define("series.too-wide", refusal.Invalid,
//		"A number of {width} digits cannot be; 1 to {most} can.")
//
//	return tooWide.With(width, mostDigits)
//
// What a person reads comes from the kind's sentence and the values alone, so that another language needs its sentences
// alone.
package refusal

import (
	"cmp"
	"slices"
)

// A Status says what sort of refusal a kind is, which decides how a server answers.
type Status int

// The statuses.
const (
	Invalid  Status = iota // what was given cannot be done
	Missing                // what was asked for is not there
	Conflict               // it cannot be done as things are now
	Outside                // another system does not do it
	Denied                 // who asks may not
	Busy                   // it can be done later
	Often                  // it was tried too often
	Full                   // there is no room
	Large                  // it is larger than what is taken
	Broken                 // it did not come whole
	Failed                 // this program has a fault
)

// A Kind is one kind of refusal. Kinds never change and are safe for concurrent use.
type Kind struct {
	Code   string // package and name, such as series.too-wide
	Status Status
	Sentence
}

var kinds = map[string]*Kind{}

// Define makes a kind. It is called while a program starts, and panics where a code is there already, or a sentence has
// two values of one name.
func Define(code string, status Status, english string) *Kind {
	if kinds[code] != nil {
		panic("refusal " + code + " is defined twice")
	}
	k := &Kind{Code: code, Status: status, Sentence: NewSentence(english)}
	kinds[code] = k
	return k
}

// Kinds returns all kinds that the program defines, by their codes.
func Kinds() []*Kind {
	all := make([]*Kind, 0, len(kinds))
	for _, k := range kinds {
		all = append(all, k)
	}
	slices.SortFunc(all, func(a, b *Kind) int { return cmp.Compare(a.Code, b.Code) })
	return all
}

// With returns a refusal of the kind with its values, in the order in which they stand in its sentence. A value that is
// an error is what it was refused for: errors.Is and errors.As find it.
func (k *Kind) With(values ...any) *Error {
	return &Error{Kind: k, Values: values}
}

// An Error is something refused.
type Error struct {
	Kind   *Kind
	Values []any
}

// Error returns the sentence.
func (e *Error) Error() string { return e.Kind.Say(e.Values...) }

// Unwrap returns the error among the values; nil: there is none.
func (e *Error) Unwrap() error {
	for _, value := range e.Values {
		if err, is := value.(error); is {
			return err
		}
	}
	return nil
}

// Named returns the values by their names: numbers and texts as they are, everything else as people read it.
func (e *Error) Named() map[string]any { return e.Kind.Named(e.Values...) }

// A Refuser is an error that has more to it than its refusal.
type Refuser interface {
	error
	Refusal() *Error
}

// Is tells whether err is, or holds, a refusal of the kind.
func (k *Kind) Is(err error) bool {
	for err != nil {
		if e, is := err.(*Error); is && e.Kind == k {
			return true
		}
		switch wrapped := err.(type) {
		case interface{ Unwrap() error }:
			err = wrapped.Unwrap()
		case interface{ Unwrap() []error }:
			return slices.ContainsFunc(wrapped.Unwrap(), k.Is)
		default:
			return false
		}
	}
	return false
}
