// Package symbols is the library of symbols that stand on labels: safety signs, hazard pictograms,
// marks of transport and handling, arrows. Each is one SVG file with its facts in it, so that one is
// added by adding a file; what they look like is drawn in the inks that there are.
package symbols

import (
	"embed"
	"image/color"
	"io/fs"
	"path"
	"slices"
	"strings"
	"sync"

	"oddspool/core/refusal"
	"oddspool/core/render"
	"oddspool/core/stock"
)

//go:embed drawings
var shipped embed.FS

// Facts are what is known of a symbol besides its drawing.
type Facts struct {
	ID       string   `json:"id"`
	Family   string   `json:"family"`   // warning, prohibition, ghs …
	Standard string   `json:"standard"` // that it is registered in
	Number   string   `json:"number"`   // there
	Name     string   `json:"name"`     // as the standard has it
	Words    []string `json:"words"`    // to find it by
	Means    string   `json:"means"`
	Smallest int      `json:"smallest"` // dots of its side from which on it can be told
	// side of its square in millimetres from which on it is as large as its rule asks; 0: no rule asks
	Least  float64 `json:"least,omitempty"`
	Rule   string  `json:"rule,omitempty"`  // how large, and where that stands
	Source string  `json:"source"`          // of the drawing
	Frame  int     `json:"frame,omitempty"` // how many of its shapes, from the first, are its frame; 0: it has none
}

// A Symbol is one symbol with its facts.
type Symbol struct {
	Facts

	drawing []byte
	once    sync.Once
	shapes  []shape
	err     error

	mutex sync.Mutex
	drawn map[string]render.Layers // by size, frame and inks
}

// mostDrawn is how many sizes of a symbol are kept: a design has few, and dragging an edge makes one after the other.
const mostDrawn = 8

// A shape is one area of a drawing: closed rings of points, its side 1, filled by the nonzero rule.
type shape struct {
	colour stock.Ink
	rings  [][][2]float64
}

// colours are those of drawings, and the inks they stand for (ISO 3864-4: safety red, yellow, blue, green; orange of
// the UN Model Regulations and ANSI Z535.1).
var colours = map[color.NRGBA]stock.Ink{
	{0, 0, 0, 255}: stock.Black, {255, 255, 255, 255}: stock.White, {0xC8, 0x10, 0x2E, 255}: stock.Red,
	{0xF7, 0xC6, 0, 255}:    "yellow",
	{0x1D, 0x5F, 0xA8, 255}: "blue", {0x1F, 0x7A, 0x4D, 255}: "green", {0xE8, 0x77, 0x22, 255}: "orange",
}

// An UnknownError says that there is no symbol of a name.
type UnknownError struct{ ID string }

func (e *UnknownError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *UnknownError) Refusal() *refusal.Error {
	return unknownSymbol.With(e.ID)
}

var library = sync.OnceValue(func() []*Symbol {
	var all []*Symbol
	files, err := fs.Glob(shipped, "drawings/*.svg")
	if err != nil {
		panic(err) // the pattern is a constant
	}
	for _, name := range files {
		data, err := shipped.ReadFile(name)
		if err != nil {
			panic(err) // it was listed
		}
		s, err := Read(data)
		if err != nil {
			panic(path.Base(name) + ": " + err.Error()) // the drawings are part of the program, and its tests read them
		}
		all = append(all, s)
	}
	Sort(all)
	return all
})

// Families are those of the library, in their order.
var Families = []string{"warning", "prohibition", "mandatory", "safe condition", "fire", "ghs", "transport", "handling",
	"arrows", "electrical", "recycling", "food", "medical", "textile care", "conformity"}

// All returns the symbols of the library, by family and number.
func All() []*Symbol { return library() }

var byID = sync.OnceValue(func() map[string]*Symbol {
	m := map[string]*Symbol{}
	for _, s := range library() {
		m[s.ID] = s
	}
	return m
})

// Edition is the version of the library that comes with the program.
const Edition = "2026.11.3"

// Files are the drawings of the library.
func Files() fs.FS { return shipped }

// Sort sorts symbols by family and keeps their order otherwise.
func Sort(all []*Symbol) {
	slices.SortStableFunc(all, func(a, b *Symbol) int {
		return slices.Index(Families, a.Family) - slices.Index(Families,
			b.Family)
	})
}

// ofEdition stands between the name of a symbol of another edition of the library and that edition.
const ofEdition = "@"

// In returns a symbol as an edition of the library has it; empty: the one that comes with the program. Its error is
// that of Find.
func In(edition, id string) (*Symbol, error) { return Find(Named(edition, id)) }

// Named returns what a symbol is called as an edition of the library has it.
func Named(edition, id string) string {
	if edition == "" || edition == Edition || IsOwn(id) {
		return id
	}
	return id + ofEdition + edition
}

// EditionOf returns name and edition of a symbol of another edition; ok is false for one of this edition, or one's own.
func EditionOf(named string) (id, edition string, ok bool) { return strings.Cut(named, ofEdition) }

// Find returns a symbol of the library, or one of one's own. Its error is an *UnknownError, or an *AbsentError where
// the drawing of one's own is to be fetched first.
func Find(id string) (*Symbol, error) {
	if s, known := byID()[id]; known {
		return s, nil
	}
	return findOwn(id)
}

// Search returns symbols that answer all words: number, name, family or what people call it; within a family, unless
// that is empty.
func Search(words, family string) []*Symbol { return SearchIn(library(), words, family) }

// SearchIn returns those of some symbols that answer, as Search does.
func SearchIn(all []*Symbol, words, family string) (found []*Symbol) {
	wanted := strings.Fields(strings.ToLower(words))
	for _, s := range all {
		if (family == "" || s.Family == family) && s.answers(wanted) {
			found = append(found, s)
		}
	}
	return found
}

// Answers tells whether a symbol answers all words.
func (s *Symbol) Answers(words string) bool { return s.answers(strings.Fields(strings.ToLower(words))) }

func (s *Symbol) answers(wanted []string) bool {
	text := strings.ToLower(strings.Join(append([]string{s.ID, s.Number, s.Name, s.Family, s.Standard, s.Means},
		s.Words...), " "))
	return !slices.ContainsFunc(wanted, func(word string) bool { return !strings.Contains(text, word) })
}
