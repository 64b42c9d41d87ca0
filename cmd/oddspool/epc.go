package main

import (
	"context"
	"errors"
	"flag"
	"strings"

	"oddspool/core/refusal"

	"oddspool/core/epc"
)

// usualPrefix is how many digits a company prefix is taken to have where nobody says so, which the answer tells.
const usualPrefix = 7

// epcCommand encodes an identifier for a tag, or reads what a tag holds.
func epcCommand(_ context.Context, c *console, args []string) error {
	var scheme, data, decode string
	var prefix, filter int
	var schemes bool
	err := flags(c, "epc", args, func(f *flag.FlagSet) {
		f.StringVar(&scheme, "encode", "", "the `SCHEME`, such as sgtin-96")
		f.StringVar(&data, "data", "",
			"what is encoded: '(01)09521234543213(21)417', a Digital Link, an EPC URI; of adi-var "+
				"CAGE.part.serial, of gid-96 manager.class.serial")
		f.IntVar(&prefix, "prefix", 0, "`DIGITS` of the company prefix, 6 to 12; without it 7")
		f.IntVar(&filter, "filter", 0, "filter `VALUE` of the scheme")
		f.StringVar(&decode, "decode", "", "`HEX` of a tag's EPC memory from its header on, or an EPC URI")
		f.BoolVar(&schemes, "list", false, "list the schemes")
	})
	if err != nil {
		return err
	}
	assumed := prefix == 0
	if assumed {
		prefix = usualPrefix
	}
	var e *epc.EPC
	switch {
	case schemes:
		return printJSON(c, epc.Schemes())
	case decode != "" && strings.HasPrefix(decode, "urn:epc:tag:"):
		e, err = epc.FromURI(decode, "", filter)
	case decode != "":
		var memory []byte
		if memory, err = epc.FromHex(decode); err == nil {
			e, err = epc.Decode(memory)
		}
	case scheme != "" && strings.HasPrefix(data, "urn:epc:"):
		e, err = epc.FromURI(data, epc.Scheme(strings.ToLower(scheme)), filter)
	case scheme != "" && data != "":
		e, err = epc.FromElements(epc.Scheme(strings.ToLower(scheme)), data, prefix, filter)
	default:
		return &usageError{"say -encode with -data, or -decode"}
	}
	var all *epc.All
	if err == nil {
		all, err = e.Forms()
	}
	if errors.As(err, new(*refusal.Error)) {
		return &sentenceError{err.Error()}
	}
	if err != nil {
		return err
	}
	return printJSON(c, struct {
		*epc.All
		PrefixAssumed bool `json:"companyPrefixAssumed,omitempty"` // nobody said how long it is
	}{all, assumed && decode == "" && !strings.HasPrefix(data, "urn:") && all.ElementString != "" &&
		!all.Scheme.Plus()})
}
