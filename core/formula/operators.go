package formula

import (
	"fmt"
	"strings"

	"github.com/shopspring/decimal"
)

// signs are those between two values.
var signs = map[string]func(a, b any) (any, error){
	"+": func(a, b any) (any, error) {
		if isNumber(a) && isNumber(b) {
			return arithmetic(a, b, decimal.Decimal.Add)
		}
		if isNumber(a) != isNumber(b) && !isJoined(a) && !isJoined(b) { // a number and a text that is one
			if x, errX := asNumber(a); errX == nil {
				if y, errY := asNumber(b); errY == nil {
					return bounded(x.Add(y))
				}
			}
		}
		s, err := asText(a)
		if err != nil {
			return nil, err
		}
		t, err := asText(b)
		if err == nil && len(s)+len(t) > MostLetters {
			err = fmt.Errorf("the text has more than %d letters", MostLetters)
		}
		if isJoined(a) || isJoined(b) {
			return joined(s + t), err
		}
		return s + t, err
	},
	"-": func(a, b any) (any, error) { return arithmetic(a, b, decimal.Decimal.Sub) },
	"*": func(a, b any) (any, error) { return arithmetic(a, b, decimal.Decimal.Mul) },
	"/": func(a, b any) (any, error) {
		return divide(a, b, func(x, y decimal.Decimal) decimal.Decimal { return x.Div(y) })
	},
	"%": func(a, b any) (any, error) { return divide(a, b, decimal.Decimal.Mod) },
	"**": func(a, b any) (any, error) {
		power, err := asCount(b, 0, mostExponent, "a power")
		if err != nil {
			return nil, err
		}
		base, err := asNumber(a)
		result := decimal.NewFromInt(1)
		for range power {
			if err == nil {
				result, err = bounded(result.Mul(base))
			}
		}
		return result, err
	},
	"==":         func(a, b any) (any, error) { is, err := same(a, b); return is, err },
	"!=":         func(a, b any) (any, error) { is, err := same(a, b); return !is, err },
	"<":          func(a, b any) (any, error) { order, err := compare(a, b); return order < 0, err },
	"<=":         func(a, b any) (any, error) { order, err := compare(a, b); return order <= 0, err },
	">":          func(a, b any) (any, error) { order, err := compare(a, b); return order > 0, err },
	">=":         func(a, b any) (any, error) { order, err := compare(a, b); return order >= 0, err },
	"contains":   func(a, b any) (any, error) { return texts(a, b, strings.Contains) },
	"startsWith": func(a, b any) (any, error) { return texts(a, b, strings.HasPrefix) },
	"endsWith":   func(a, b any) (any, error) { return texts(a, b, strings.HasSuffix) },
	"in": func(a, b any) (any, error) {
		list, is := b.([]any)
		if !is {
			return nil, fmt.Errorf(`in wants a list, such as ["A", "B"]`)
		}
		for _, value := range list {
			if is, err := same(a, value); is || err != nil {
				return is, err
			}
		}
		return false, nil
	},
}

func isJoined(value any) bool {
	_, is := value.(joined)
	return is
}

func arithmetic(a, b any, do func(x, y decimal.Decimal) decimal.Decimal) (any, error) {
	x, err := asNumber(a)
	if err != nil {
		return nil, err
	}
	y, err := asNumber(b)
	if err != nil {
		return nil, err
	}
	return bounded(do(x, y))
}

func divide(a, b any, do func(x, y decimal.Decimal) decimal.Decimal) (any, error) {
	if y, err := asNumber(b); err == nil && y.IsZero() {
		return nil, fmt.Errorf("nothing can be divided by zero")
	}
	return arithmetic(a, b, do)
}

func texts(a, b any, do func(s, t string) bool) (any, error) {
	s, err := asText(a)
	if err != nil {
		return nil, err
	}
	t, err := asText(b)
	return do(s, t), err
}

// operators are the functions that stand for signs.
var operators = func() (list []*Function) {
	for sign, do := range signs {
		list = append(list, &Function{Name: "#" + sign,
			do: func(args []any) (any, error) { return do(args[0], args[1]) }})
	}
	return append(list,
		&Function{Name: "#-1", do: func(args []any) (any, error) { x, err := asNumber(args[0]); return x.Neg(), err }},
		&Function{Name: "#+1", do: func(args []any) (any, error) { x, err := asNumber(args[0]); return x, err }})
}()
