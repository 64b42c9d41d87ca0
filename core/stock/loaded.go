package stock

import (
	"fmt"

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

// Misfit returns why labels of a stock would be spoiled on what is loaded: it has another size. It is nil where
// they are alike, and where the printer does not tell, which is trusted.
func (l *Loaded) Misfit(needs Stock) *Reason {
	if l.Width == 0 || l.Key != "" && l.Key == needs.Number {
		return nil
	}
	w, h := needs.PageSize()
	if l.near(l.Width, w) && (needs.Kind == Tape || l.near(l.Length, h)) {
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
