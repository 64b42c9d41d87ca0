package stock

import (
	"cmp"
	"fmt"
	"slices"

	"oddspool/core/measure"
)

// An Alignment tells where a web runs under the head.
type Alignment string

// The alignments of a web.
const (
	Centred  Alignment = "" // also written "centred"
	FromLeft Alignment = "left"
)

// A Printer is what a label printer can do, as far as a label must know.
type Printer struct {
	Name       string             `json:"name"`
	Resolution measure.Resolution `json:"resolution"`
	HeadDots   int                `json:"headDots"` // dots across the head
	Alignment  Alignment          `json:"alignment,omitempty"`
	Takes      []Kind             `json:"takes,omitempty"`     // kinds of stock; empty: die-cut and tape
	LeastWeb   measure.Length     `json:"leastWeb,omitempty"`  // narrowest web; 0: any
	MostWeb    measure.Length     `json:"mostWeb,omitempty"`   // widest; 0: 10 mm more than the head
	MinLength  measure.Length     `json:"minLength,omitempty"` // shortest label along the feed; 0: any
	MaxLength  measure.Length     `json:"maxLength,omitempty"` // longest; 0: 1 m
	Sensors    []Tracking         `json:"sensors,omitempty"`   // empty: gap and mark
	Inks       []Ink              `json:"inks,omitempty"`      // of its ribbon or cartridges; empty: heat alone
	// metres on a new ribbon; 0: it has none, or that is not known
	Ribbon     int   `json:"ribbon,omitempty"`
	Heats      []Ink `json:"heats,omitempty"`     // inks beyond black that its heat can bring out
	Speed      int   `json:"speed,omitempty"`     // mm/s at most; 0: not known
	SlowSpeed  int   `json:"slowSpeed,omitempty"` // mm/s at least
	Cutter     bool  `json:"cutter,omitempty"`
	Peeler     bool  `json:"peeler,omitempty"`
	Rewinder   bool  `json:"rewinder,omitempty"`
	Applicator bool  `json:"applicator,omitempty"`
	Encoder    bool  `json:"encoder,omitempty"` // writes tags
	Vector     bool  `json:"vector,omitempty"`  // takes SVG or PDF, not dots
}

// LongestLabel returns the longest label the printer takes along the feed.
func (p Printer) LongestLabel() measure.Length {
	if p.MaxLength > 0 {
		return p.MaxLength
	}
	return 1000 * mm
}

// WidestWeb returns the widest web the printer takes.
func (p Printer) WidestWeb() measure.Length {
	if p.MostWeb > 0 {
		return p.MostWeb
	}
	return p.HeadWidth() + 10*mm
}

// HeadWidth returns what the head can print across.
func (p Printer) HeadWidth() measure.Length { return p.Resolution.Length(p.HeadDots) }

func (p Printer) takes() []Kind {
	if len(p.Takes) > 0 {
		return p.Takes
	}
	return []Kind{DieCut, Tape}
}

func (p Printer) sensors() []Tracking {
	if len(p.Sensors) > 0 {
		return p.Sensors
	}
	return []Tracking{Gap, Mark}
}

// Check returns what is impossible about the printer by itself; nil when nothing is.
func (p Printer) Check() []Reason {
	var r reasons
	if !p.Resolution.Valid() {
		r.add("resolution", `The printer's resolution is missing; write it like "8 dots/mm" or "300 dpi".`)
		return r
	}
	if p.HeadDots < 8 || p.HeadDots > 40_000 {
		r.add("headDots", "A head of %d dots is impossible: it can have 8 to 40,000.", p.HeadDots)
	}
	r.within("maxLength", "A longest label", p.LongestLabel(), 2*mm, 10_000*mm)
	r.within("minLength", "A shortest label", p.MinLength, 0, p.LongestLabel())
	r.within("leastWeb", "A narrowest web", p.LeastWeb, 0, p.WidestWeb())
	if p.Ribbon < 0 || p.Ribbon > 5000 {
		r.add("ribbon", "A ribbon of %d metres is impossible: it can have 0 to 5,000.", p.Ribbon)
	}
	if p.Speed < 0 || p.SlowSpeed < 0 || p.SlowSpeed > p.Speed && p.Speed > 0 {
		r.add("speed", "A speed from %d to %d mm/s is impossible.", p.SlowSpeed, p.Speed)
	}
	if p.Alignment != Centred && p.Alignment != "centred" && p.Alignment != FromLeft {
		r.add("alignment", "The alignment %q is not known; use centred or left.", p.Alignment)
	}
	for _, kind := range p.Takes {
		if !slices.Contains(Kinds(), kind) {
			r.add("takes", "The kind of stock %q is not known; use some of %v.", kind, Kinds())
		}
	}
	return r
}

// headAt returns where the head's first dot is, from the left edge of the web; below zero when the
// head begins beside the web.
func (p Printer) headAt(web measure.Length) measure.Length {
	if p.Alignment == FromLeft {
		return 0
	}
	return (web - p.HeadWidth()) / 2
}

// Fit returns why the printer cannot print the stock; nil when it can. Each reason has the figures
// that clash and the nearest that works.
func Fit(s Stock, p Printer) []Reason {
	r := reasons(append(s.Check(), p.Check()...))
	if r != nil {
		return r
	}
	if !slices.Contains(p.takes(), s.Kind) {
		r.add("kind", "%s takes %s, not %s.", p.called(), list(p.takes()), s.Kind)
		return r
	}
	if web := s.WebWidth(); web > p.WidestWeb() {
		r.add("width", "The web is %v wide and %s takes up to %v: choose one that is %v narrower.", web, p.called(),
			p.WidestWeb(), web-p.WidestWeb())
	} else if web < p.LeastWeb {
		r.add("width", "The web is %v wide and %s takes at least %v: choose one that is %v wider.", web, p.called(),
			p.LeastWeb, p.LeastWeb-web)
	} else if left, right := p.beyond(s); left > 0 || right > 0 {
		over := max(left, right)
		r.add("width", "The head of %s prints %v and misses %v of the label's edge: choose a label at most %v wide, "+
			"or keep the print away from it.",
			p.called(), p.HeadWidth(), over, s.Width-over)
	}
	if s.ByContent() {
		if s.Tape.most() > p.LongestLabel() {
			r.add("tape.most", "Pieces of up to %v are too long for %s, which prints up to %v: allow no more.",
				s.Tape.most(), p.called(), p.LongestLabel())
		}
	} else if s.Length > p.LongestLabel() {
		r.add("length", "The label is %v long and %s takes up to %v: choose one that is %v shorter.", s.Length,
			p.called(), p.LongestLabel(), s.Length-p.LongestLabel())
	} else if s.Length < p.MinLength {
		r.add("length", "The label is %v long and %s takes at least %v: choose one that is %v longer.", s.Length,
			p.called(), p.MinLength, p.MinLength-s.Length)
	}
	if found := s.Found(); found != Continuous && !s.Flat() &&
		!slices.Contains(p.sensors(), found) {
		r.add("tracking", "%s has no sensor for a %s; it finds %s.", p.called(), found, list(p.sensors()))
	}
	if len(Inks(s, p)) == 0 {
		r.add("inks", "%s has no ribbon and heat brings nothing out of %s: choose a direct thermal stock, or a "+
			"printer with a ribbon.", p.called(), s.called())
	}
	return r
}

// called is how a printer is spoken of; one that is being made has no name yet.
func (p Printer) called() string { return cmp.Or(p.Name, "this printer") }

// called is how a stock is spoken of.
func (s Stock) called() string { return cmp.Or(s.Name, "this stock") }

// beyond returns how much of the outermost labels lies left and right of the head.
func (p Printer) beyond(s Stock) (left, right measure.Length) {
	if s.Flat() {
		return 0, max(s.WebWidth()-p.HeadWidth(), 0)
	}
	head := p.headAt(s.WebWidth())
	last := s.LaneAt(s.Across()-1) + s.Width
	return max(head-s.EdgeLeft, 0), max(last-(head+p.HeadWidth()), 0)
}

// list writes words as people do: "a", "a and b", "a, b and c".
func list[T ~string](words []T) string {
	text := ""
	for i, word := range words {
		switch {
		case i == 0:
		case i == len(words)-1:
			text += " and "
		default:
			text += ", "
		}
		text += string(word)
	}
	return text
}

// A Setup is a named print set-up for a printer and a stock: what is chosen, not retyped, when
// printing.
type Setup struct {
	Name     string         `json:"name"`
	Darkness int            `json:"darkness,omitempty"` // per cent; 0: as the printer has it
	Speed    int            `json:"speed,omitempty"`    // mm/s; 0: as the printer has it
	Across   measure.Length `json:"across,omitempty"`   // print is moved to the right by so much
	Along    measure.Length `json:"along,omitempty"`    // and later by so much
	Finish   Finish         `json:"finish,omitempty"`
	CutEvery int            `json:"cutEvery,omitempty"` // labels between two cuts; 0: at the end of the run
	Bleed    measure.Length `json:"bleed,omitempty"`    // print may reach over the edge by so much
}

// A Finish is what happens to a label when it has left the head.
type Finish string

// The finishes.
const (
	TearOff Finish = "" // also written "tear"
	Cut     Finish = "cut"
	Peel    Finish = "peel"
	Rewind  Finish = "rewind"
	Apply   Finish = "apply"
)

// Check returns what a printer cannot do of a set-up; nil when it can do all.
func (u Setup) Check(p Printer) []Reason {
	var r reasons
	if u.Darkness < 0 || u.Darkness > 100 {
		r.add("darkness", "A darkness of %d per cent is impossible: it can be from 0 to 100.", u.Darkness)
	}
	if u.Speed < 0 || u.Speed > 0 && (p.Speed > 0 && u.Speed > p.Speed || u.Speed < p.SlowSpeed) {
		r.add("speed", "%s does not print at %d mm/s; it prints at %d to %d.", p.Name, u.Speed, p.SlowSpeed, p.Speed)
	}
	r.within("across", "An offset across", u.Across, -50*mm, 50*mm)
	r.within("along", "An offset along", u.Along, -50*mm, 50*mm)
	r.within("bleed", "A bleed", u.Bleed, 0, 5*mm)
	if u.CutEvery < 0 {
		r.add("cutEvery", "A cut every %d labels is impossible.", u.CutEvery)
	}
	has, known := map[Finish]bool{TearOff: true, "tear": true, Cut: p.Cutter, Peel: p.Peeler, Rewind: p.Rewinder,
		Apply: p.Applicator}[u.Finish]
	if !known {
		r.add("finish", "The finish %q is not known; use tear, cut, peel, rewind or apply.", u.Finish)
	} else if !has {
		r.add("finish", "%s cannot %s; choose another finish.", p.Name, fmt.Sprint(u.Finish))
	}
	return r
}
