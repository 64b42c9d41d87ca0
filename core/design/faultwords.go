//go:build !js

package design

import (
	"encoding/json"
	"fmt"
	"math/big"
	"strings"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/santhosh-tekuri/jsonschema/v6/kind"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
)

var english = message.NewPrinter(language.English)

// inWords says what is wrong with a value, in words that need no knowledge of schemas.
func inWords(wrong jsonschema.ErrorKind) string {
	switch k := wrong.(type) {
	case *kind.Required:
		return "it has no " + strings.Join(k.Missing, ", no ")
	case *kind.Type:
		return fmt.Sprintf("it is %s, and must be %s", article(k.Got), list(k.Want, article))
	case *kind.Enum:
		return fmt.Sprintf("%s is not known here; it can be %s", asText(k.Got), list(k.Want, asText))
	case *kind.Const:
		return fmt.Sprintf("it is %s, and must be %s", asText(k.Got), asText(k.Want))
	case *kind.Minimum:
		return fmt.Sprintf("it is %s, and must be at least %s", number(k.Got), number(k.Want))
	case *kind.Maximum:
		return fmt.Sprintf("it is %s, and can be at most %s", number(k.Got), number(k.Want))
	case *kind.ExclusiveMinimum:
		return fmt.Sprintf("it is %s, and must be more than %s", number(k.Got), number(k.Want))
	case *kind.MinLength:
		return "it is empty"
	case *kind.MaxLength:
		return fmt.Sprintf("it has %d letters, and can have at most %d", k.Got, k.Want)
	case *kind.MinItems:
		return fmt.Sprintf("it has %d, and must have at least %d", k.Got, k.Want)
	case *kind.MaxItems:
		return fmt.Sprintf("it has %d, and can have at most %d", k.Got, k.Want)
	case *kind.MaxProperties:
		return fmt.Sprintf("it has %d, and can have at most %d", k.Got, k.Want)
	case *kind.Pattern:
		return fmt.Sprintf("%s is not written as it must be (%s)", asText(k.Got), k.Want)
	}
	return wrong.LocalizedString(english)
}

func article(of string) string {
	switch of {
	case "null":
		return "nothing"
	case "boolean":
		return "true or false"
	case "object":
		return "an object"
	case "array":
		return "a list"
	case "string":
		return "a text"
	case "integer":
		return "a whole number"
	}
	return "a " + of
}

func list[T any](all []T, one func(T) string) string {
	words := make([]string, len(all))
	for i, item := range all {
		words[i] = one(item)
	}
	if last := len(words) - 1; last > 0 {
		return strings.Join(words[:last], ", ") + " or " + words[last]
	}
	return strings.Join(words, "")
}

func asText(value any) string {
	text, _ := json.Marshal(value) // it was read from JSON
	if string(text) == `""` {
		return "nothing"
	}
	return string(text)
}

// number writes a number as people do, without exponents where it is not too long for that.
func number(n *big.Rat) string {
	if text := strings.TrimSuffix(strings.TrimRight(n.FloatString(6), "0"), "."); len(text) <= 20 {
		return text
	}
	f, _ := n.Float64()
	return fmt.Sprintf("%.3g", f)
}
