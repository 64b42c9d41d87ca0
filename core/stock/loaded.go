package stock

import (
	"fmt"
	"time"

	"oddspool/core/measure"
)

// Loaded is what a printer says is in it.
type Loaded struct {
	Key           string // the plant's number of the stock; empty: not told
	Name          string
	Width, Length measure.Length // of one page; 0: not told
	Tracking      Tracking       // how it is found; empty: not told
	Left          int            // labels or sheets; -1: not told so
	Capacity      int            // labels or sheets when full; 0: not told
	LeftLength    measure.Length // of a web without pieces; -1: not told so
	FullLength    measure.Length
}

// A Said is what a person says is loaded where a printer says something else, such as after a change of rolls that the
// printer does not notice. It counts as long as the printer says the very same thing.
type Said struct {
	Key           string         `json:"key"`
	Name          string         `json:"name"`
	Width, Length measure.Length // of one page
	Reason        string         `json:"reason"`
	By            string         `json:"by"`
	At            time.Time      `json:"at"`
	Against       Against        `json:"against"`
}

// An Against is what the printer said when a person said something else.
type Against struct {
	Key, Name     string
	Width, Length measure.Length
}

// Says returns what the printer says is loaded, without what is left of it.
func (l *Loaded) Says() Against { return Against{l.Key, l.Name, l.Width, l.Length} }

// As returns what is loaded by what a person says, and whether that counts still.
func (l Loaded) As(said *Said) (is Loaded, counts bool) {
	if said == nil || l.Says() != said.Against {
		return l, false
	}
	l.Key, l.Name, l.Width, l.Length = said.Key, said.Name, said.Width, said.Length
	return l, true
}

// Misfit returns why labels of a stock would be spoiled on what is loaded: it has another size. It is nil where
// they are alike, and where the printer does not tell, which is trusted.
func (l *Loaded) Misfit(needs Stock) *Reason {
	if l.Width == 0 || l.Key != "" && l.Key == needs.Number {
		return nil
	}
	w, h := needs.PageSize()
	if l.near(l.Width, w) && (needs.Unit() == InLength || l.near(l.Length, h)) {
		return nil
	}
	has := l.Name
	if has == "" {
		has = fmt.Sprintf("a stock of %v × %v", l.Width, l.Length)
	}
	return &Reason{"stock", fmt.Sprintf("%s is loaded, and this needs %s (%v × %v).", has, needs.Name, w, h)}
}

// near tells whether a size that a printer tells, in hundredths of a millimetre and perhaps rounded to whole ones of an
// inch, is another.
func (l *Loaded) near(told, is measure.Length) bool {
	const tolerance = 300 * measure.Micrometre
	return told-is <= tolerance && is-told <= tolerance
}

// OtherMaterial tells whether what is loaded has the size that is needed and is another stock all the same.
func (l *Loaded) OtherMaterial(needs Stock) bool {
	return l.Key != "" && needs.Number != "" && l.Key != needs.Number && l.Misfit(needs) == nil
}
