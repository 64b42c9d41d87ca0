package series

import "strings"

// What an SSCC is made of (GS1 General Specifications, 3.2): an extension digit, a company prefix and a serial
// reference, 17 digits in all, and a check digit behind them. Company prefixes have 4 to 12 digits (1.4.4).
const (
	ssccDigits     = 17
	shortestPrefix = 4
	longestPrefix  = 12
)

// SSCC returns how the numbers of logistic units count: all serial references of an extension digit and a company
// prefix. Its error is a *refusal.Error.
func SSCC(extension, company string) (Spec, error) {
	other := func(r rune) bool { return r < '0' || r > '9' }
	switch {
	case len(extension) != 1 || strings.ContainsFunc(extension, other):
		return Spec{}, badExtensionDigit.With(extension)
	case len(company) < shortestPrefix || len(company) > longestPrefix || strings.ContainsFunc(company, other):
		return Spec{}, badCompanyPrefix.With(company, shortestPrefix, longestPrefix)
	}
	before := extension + company
	return Spec{Start: "0", Step: 1, Width: ssccDigits - len(before), Prefix: before, Check: "gs1"}, nil
}
