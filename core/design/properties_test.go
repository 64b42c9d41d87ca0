package design

import (
	"encoding/json"
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// Whatever an element can have is told in words when it changes, and nothing else has a name.
func TestEveryMemberHasAName(t *testing.T) {
	type member struct {
		Ref        string `json:"$ref"`
		Properties map[string]json.RawMessage
	}
	var schema struct {
		Defs map[string]struct{ Properties map[string]member } `json:"$defs"`
	}
	require.NoError(t, json.Unmarshal(Schema(), &schema))
	var want []string
	for name, m := range schema.Defs["Element"].Properties {
		inner := strings.TrimPrefix(m.Ref, "#/$defs/")
		switch {
		case name == "id":
		case strings.HasSuffix(inner, "Looks") || inner == "Shape":
			for of := range schema.Defs[inner].Properties {
				want = append(want, name+"."+of)
			}
		default:
			want = append(want, name)
		}
	}
	// it changes with the picture
	want = slices.DeleteFunc(want, func(name string) bool { return name == "picture.name" })
	require.ElementsMatch(t, want, slices.Collect(maps.Keys(properties)))
}

func TestChangesAreToldInWords(t *testing.T) {
	says := []Piece{{Text: "Lot "}, {Field: "lot"}}
	for _, test := range []struct {
		before, after Element
		says          string
	}{
		{Element{Kind: Code, Code: &CodeLooks{Symbology: "code128", Module: 250}},
			Element{Kind: Code, Code: &CodeLooks{Symbology: "datamatrix", Module: 500, Fit: "largest"}},
			"module in dots nearest → largest, module 0.25 mm → 0.5 mm, symbology Code 128 → Data Matrix"},
		{Element{Kind: Text, Text: &TextLooks{Points: 10}},
			Element{Kind: Text, Text: &TextLooks{Points: 8.5, Bold: true, Tracking: 5}},
			"bold no → yes, size of type 10 pt → 8.5 pt, room between letters 0 % → 5 %"},
		{Element{Kind: Box, Shape: &Shape{Fill: "red", Tint: 40}}, Element{Kind: Box, Shape: &Shape{Arrow: "end"},
			Turn: 90},
			"arrow at no end → end, filled with red → nothing, tint 40 % → full, turn 0° → 90°"},
		{Element{Kind: Text, Says: says},
			Element{Kind: Text, Says: says, When: &Condition{Field: "state", Is: OneOf,
				Values: []string{"wet", "salted"}}, Group: "address"},
			"group none → “address”, on which labels all → those whose state is one of “wet”, “salted”"},
		{Element{Kind: Picture, Picture: &PictureLooks{Hash: "a"}},
			Element{Kind: Picture, Picture: &PictureLooks{Hash: "b", Crop: &Crop{Left: 2.5}}},
			"cut off nothing → 2.5 % left, 0 % top, 0 % right, 0 % bottom, another picture"},
		{Element{Kind: Symbol, Symbol: &SymbolLooks{ID: "W012"}},
			Element{Kind: Symbol, Symbol: &SymbolLooks{ID: "W001", NoFrame: true}},
			"symbol W012 → W001, frame printed already no → yes"},
		{Element{Kind: Tag, Tag: &TagLooks{Scheme: "sgtin-96", Access: "00000007"}},
			Element{Kind: Tag, Tag: &TagLooks{Scheme: "sgtin+", Access: "5EA17EED", Kill: "5EA17EEE", User: says}},
			"another access password, another kill password, form in the chip SGTIN-96 → SGTIN+, user memory nothing " +
				"→ “Lot {lot}”"},
	} {
		require.Equal(t, test.says, differences(&test.before, &test.after))
		require.Empty(t, differences(&test.after, &test.after))
	}
	require.Equal(t, "Symbol s", (&Element{ID: "s", Kind: Symbol}).Title())
	require.Equal(t, "Tag t", (&Element{ID: "t", Kind: Tag}).Title())
}
