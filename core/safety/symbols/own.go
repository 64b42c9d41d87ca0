package symbols

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"regexp"
	"strings"
	"sync"
)

// OwnFamily is the family of symbols that people brought in.
const OwnFamily = "own"

// ownPrefix begins what symbols of one's own are called; their bytes follow as a hash.
const ownPrefix = "own-"

// Limits of what is brought in.
const (
	MostBytes  = 512 << 10
	mostPoints = 200_000
	beyond     = 0.1 // of its side, that a drawing may reach over its square
)

// An AbsentError says that a symbol of one's own, or of another edition, is not at hand: fetch its drawing and register
// it.
type AbsentError struct{ ID string }

func (e *AbsentError) Error() string { return fmt.Sprintf("the symbol %q is not here yet", e.ID) }

// own are the symbols of one's own that are at hand.
var own struct {
	sync.Mutex
	known  map[string]*Symbol
	source func(id string) ([]byte, error)
	absent string
}

// SetSource says where drawings of one's own, and of other editions of the library, come from by their names; what it
// does not have is an *UnknownError.
func SetSource(source func(id string) ([]byte, error)) {
	own.Lock()
	defer own.Unlock()
	own.source = source
}

// Register makes a symbol of one's own known. Its error is that of Read.
func Register(id string, drawing []byte) error {
	s, err := Read(drawing)
	if err != nil {
		return err
	}
	s.ID, _, _ = EditionOf(id)
	own.Lock()
	defer own.Unlock()
	if own.known == nil {
		own.known = map[string]*Symbol{}
	}
	own.known[id] = s
	return nil
}

// TakeAbsent returns the name of a symbol that was asked for and is not at hand, once.
func TakeAbsent() (id string) {
	own.Lock()
	defer own.Unlock()
	id, own.absent = own.absent, ""
	return id
}

// findOwn returns a symbol of one's own, or of another edition of the library. Its error is an *UnknownError or an
// *AbsentError.
func findOwn(id string) (*Symbol, error) {
	if _, _, other := EditionOf(id); !other && !IsOwn(id) {
		return nil, &UnknownError{id}
	}
	own.Lock()
	s, known := own.known[id]
	source := own.source
	if !known && source == nil {
		own.absent = id
	}
	own.Unlock()
	switch {
	case known:
		return s, nil
	case source == nil:
		return nil, &AbsentError{id}
	}
	drawing, err := source(id)
	if err != nil {
		return nil, err
	}
	if err := Register(id, drawing); err != nil {
		return nil, err
	}
	return findOwn(id)
}

// IsOwn tells whether a name is one of a symbol of one's own.
func IsOwn(id string) bool { return strings.HasPrefix(id, ownPrefix) }

// FromFile reads the file of a symbol of one's own that came from elsewhere, and checks it as Own does: its name
// follows from what is in it. Its error is a *refusal.Error.
func FromFile(file []byte) (*Symbol, error) {
	told, err := Read(file)
	if err != nil {
		return nil, err
	}
	made, again, err := Own(file, told.Facts)
	if err != nil {
		return nil, err
	}
	if made.ID != told.ID || string(again) != string(file) {
		return nil, changedByHand.With(told.Name)
	}
	return made, nil
}

// Compiled when a symbol is brought in: at the start of every page they would take longer than what it draws.
var (
	opening = compiled(`(?s)<svg\b[^>]*>`)
	asides  = compiled(`(?s)<(desc|title|metadata)\b[^>]*>.*?</(desc|title|metadata)>|<!--.*?-->|<\?xml.*?\?>|<!DOCTYPE[^>\[]*(\[.*?\])?\s*>`)
	outside = compiled(`(?i)(href|src)\s*=\s*["'](?:[^#"'])|url\(\s*["']?[^#"')]|@import|<(image|script|foreignObject|style|text|use)\b`)
)

func compiled(expression string) func() *regexp.Regexp {
	return sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(expression) })
}

// Own makes a symbol of one's own from an SVG and its facts: a square drawing of filled shapes and lines in the safety
// colours, which reaches nothing outside itself. It returns the symbol, and its file with the facts in it. Its error is
// a *refusal.Error.
func Own(svg []byte, facts Facts) (*Symbol, []byte, error) {
	facts.Name = strings.TrimSpace(facts.Name)
	switch {
	case facts.Name == "":
		return nil, nil, noName.With()
	case len(svg) > MostBytes:
		return nil, nil, tooLarge.With(len(svg)>>10, MostBytes>>10)
	}
	if found := outside().FindString(string(svg)); found != "" {
		return nil, nil, notPlain.With(strings.TrimSpace(found))
	}
	plain := asides().ReplaceAllString(string(svg), "")
	at := opening().FindStringIndex(plain)
	if at == nil {
		return nil, nil, notSvg.With()
	}
	facts.Family, facts.Standard, facts.Source, facts.Frame = OwnFamily, "own", "brought in", 0
	if facts.Smallest == 0 {
		facts.Smallest = 48
	}
	sum := sha256.Sum256(fmt.Appendf(nil, "%s\n%s\n%s\n%d\n%s", facts.Name, facts.Means, facts.Words, facts.Smallest,
		plain))
	facts.ID = ownPrefix + hex.EncodeToString(sum[:6])
	facts.Number = facts.ID
	if facts.Words == nil {
		facts.Words = []string{}
	}
	told, err := json.Marshal(&facts)
	if err != nil {
		return nil, nil, err
	}
	escaped := strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;").Replace(string(told))
	file := []byte(plain[:at[1]] + "<desc>" + escaped + "</desc>" + plain[at[1]:])
	s, err := Read(file)
	if err != nil {
		return nil, nil, err
	}
	shapes, err := s.take()
	if err != nil {
		return nil, nil, err
	}
	points := 0
	for _, shape := range shapes {
		for _, ring := range shape.rings {
			points += len(ring)
			for _, p := range ring {
				if min(p[0], p[1]) < -beyond || max(p[0], p[1]) > 1+beyond {
					return nil, nil, overSquare.With()
				}
			}
		}
	}
	if points == 0 || points > mostPoints {
		return nil, nil, tooManyPoints.With(points, mostPoints)
	}
	return s, file, nil
}
