package gs1

import "strings"

// ReadData reads elements from what a reader sends of a symbol (GS1 General Specifications, 7.8.6): identifiers and
// values one after the other, those of no predefined length ended by Separator or the end. An identifier of the
// symbology (ISO/IEC 15424), such as ]C1, may stand before them. Its error is always a *DataError.
func ReadData(data string) ([]Element, error) {
	from := 0
	if len(data) > 3 && data[0] == ']' {
		from = 3
	}
	var elements []Element
	for at := from; at < len(data); {
		if data[at] == Separator {
			at++
			continue
		}
		ai := identifierAt(data[at:])
		if ai == nil {
			return nil, wrong(at+1, "No application identifier begins here.")
		}
		at += len(ai.AI)
		end := len(data)
		if i := strings.IndexByte(data[at:], Separator); i >= 0 {
			end = at + i
		}
		if ai.Predefined() {
			end = min(at+ai.longest(), end)
		}
		if problem, position := ai.Check(data[at:end]); problem != "" {
			return nil, wrong(at+position, "(%s) %s: %s", ai.AI, ai.Title, problem)
		}
		elements = append(elements, Element{ai, data[at:end]})
		at = end
	}
	if elements == nil {
		return nil, wrong(1, "There is no data.")
	}
	return elements, nil
}

// ReadTyped reads elements as people give them: with brackets, or as a Digital Link. Its error is always a *DataError.
func ReadTyped(text string) ([]Element, error) {
	if isLink(text) {
		link, err := ParseLink(text)
		return link.Elements, err
	}
	return Parse(text)
}

func isLink(text string) bool {
	scheme, _, is := strings.Cut(text, "://")
	return is && (strings.EqualFold(scheme, "http") || strings.EqualFold(scheme, "https"))
}

// ReadAny reads elements in whichever way they come: as people give them, or as a reader sends them. Its error is
// always a *DataError.
func ReadAny(text string) ([]Element, error) {
	bare := text
	if len(text) > 3 && text[0] == ']' { // an identifier of the symbology
		bare = text[3:]
	}
	if strings.HasPrefix(bare, "(") || isLink(bare) {
		return ReadTyped(bare)
	}
	return ReadData(text)
}

// identifierAt returns the identifier that data begin with; nil: none. None is the beginning of another (3.2).
func identifierAt(data string) *AI {
	for length := 2; length <= min(4, len(data)); length++ {
		if ai := Find(data[:length]); ai != nil {
			return ai
		}
	}
	return nil
}

// longest returns how many characters a value of predefined length has.
func (a *AI) longest() (n int) {
	for _, part := range a.parts {
		n += part.most
	}
	return n
}
