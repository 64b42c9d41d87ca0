package safety_test

import (
	"encoding/json"
	"strings"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	"oddspool/core/safety"
	"oddspool/core/safety/hazard"
	"oddspool/core/safety/pipe"
	"oddspool/core/stock"
)

// proved returns what is found on the label of a record of a design, through its document: as it is when it was kept.
func proved(t *testing.T, d *design.Design, fields []string, record ...string) []proof.Finding {
	document, err := json.Marshal(d)
	require.NoError(t, err)
	kept, err := design.Parse(document)
	require.NoError(t, err)
	checker, err := proof.NewChecker(kept, fields)
	require.NoError(t, err)
	return checker.Label(nil, 1, record)
}

func textsOf(findings []proof.Finding) (texts []string) {
	for _, f := range findings {
		texts = append(texts, f.Text)
	}
	return texts
}

func on(d *design.Design, l *safety.Layout) *design.Design {
	d.Elements, d.Demands = l.Elements, l.Demands
	return d
}

func TestAPipeMarkerIsFoundUntilItIsTrue(t *testing.T) {
	d := blank(103*mm, 40*mm, stock.Black)
	l, err := safety.LayPipe(d, pipe.Shipped(), safety.Pipe{Rules: pipe.ISO, Contents: "Drinking water", Diameter: 60,
		Flow: safety.FlowRight})
	require.NoError(t, err)
	found := proved(t, on(d, l), nil)
	require.Equal(t, []string{
		"The field is to be green by ISO 20560-1, table 1 for water, and Dock 1 cannot show that on this stock.",
		"Capitals are 10.1 mm high; for a pipe of 60 mm (sizes of ASME A13.1-2020, table 2, which ISO 20560-1:2020 " +
			"leaves to the distance they are read from) they are to be 32 mm.",
		"This is 103.0 mm long; for a pipe of 60 mm (sizes of ASME A13.1-2020, table 2, which ISO 20560-1:2020 " +
			"leaves to the distance they are read from) it is to be 300 mm.",
	}, textsOf(found))
	for _, f := range found {
		require.Equal(t, proof.Error, f.Level)
		require.Contains(t, f.Do, "overrule it with a reason")
	}

	// A reason turns it into a warning that goes on standing there.
	overruled := *d
	overruled.Demands = append([]design.Demand{}, d.Demands...)
	overruled.Demands[found[0].Demand-1].Overruled = "Plant rule 7: letters on white tape"
	again := proved(t, &overruled, nil)
	require.Len(t, again, 3)
	require.Equal(t, proof.Warning, again[0].Level)
	require.Contains(t, again[0].Do, "Plant rule 7")
	require.Equal(t, proof.Error, again[1].Level)

	// Another stock can make it true: the field is what the tape is, its letters are white on it.
	green := blank(303*mm, 130*mm, stock.White)
	green.Stock.Colour = "#00843D"
	l, err = safety.LayPipe(green, pipe.Shipped(), safety.Pipe{Rules: pipe.ISO, Contents: "Drinking water",
		Diameter: 60, Flow: safety.FlowRight})
	require.NoError(t, err)
	require.Empty(t, l.Notes)
	require.Empty(t, textsOf(proved(t, on(green, l), nil)))
	// And another printer false again.
	black := *green
	black.Printer.Inks = []stock.Ink{stock.Black}
	require.Contains(t, textsOf(proved(t, &black, nil))[0], "cannot print white")
	// What was laid out and is gone, or says something else, is found.
	without := *green
	without.Elements = append([]design.Element{}, green.Elements[1:]...)
	require.Contains(t, textsOf(proved(t, &without, nil)),
		"“colour field” is not on this label, and belongs there by ISO 20560-1, table 1 for water.")
	other := *green
	other.Elements = append([]design.Element{}, green.Elements...)
	at := len(other.Elements) - 1
	require.Equal(t, "contents", other.Elements[at].ID)
	other.Elements[at].Says = []design.Piece{{Text: "Fire water"}}
	require.Equal(t, []string{"This no longer says “Drinking water”, which belongs there by ISO 20560-1, table 1."},
		textsOf(proved(t, &other, nil)))
}

func TestABatchOfPipes(t *testing.T) {
	d := blank(1100*mm, 220*mm, stock.Full)
	d.Printer.HeadDots, d.Printer.Resolution = 14_000, measure.DotsPerMillimetre(6)
	fields := []string{"line", "holds", "group", "mm", "flow"}
	records := [][]string{
		{"1", "Cooling water", "water", "60", "right"}, {"2", "Chilled water", "water", "33,7", "left"},
		{"3", "Natural gas", "gases", "60", ""},
		{"4", "Steam 6 bar", "steam", "219", "both"}, {"5", "Sulphuric acid", "acids-alkalis", "48.3 mm", "right"},
	}
	p := safety.Pipe{Rules: pipe.ISO, Field: "holds", GroupField: "group", DiameterField: "mm", FlowField: "flow",
		Fields: fields, Records: records}
	l, err := safety.LayPipe(d, pipe.Shipped(), p)
	require.NoError(t, err)
	require.Empty(t, l.Notes)
	on(d, l)
	checker, err := proof.NewChecker(d, fields)
	require.NoError(t, err)
	stands := func(record []string) (ids []string) {
		found, label, _ := checker.Drawn(nil, 1, record)
		require.Empty(t, textsOf(found), "%v", record)
		for i, part := range label.Parts {
			if !part.Absent && (len(d.Elements[i].Says) == 0 || part.Says != "") {
				ids = append(ids, d.Elements[i].ID)
			}
		}
		return ids
	}
	require.Equal(t, []string{"colour field", "arrow right", "contents"}, stands(records[0]))
	require.Equal(t, []string{"colour field", "arrow left", "contents"}, stands(records[1]))
	require.Equal(t, []string{"colour field 2", "contents 2"}, stands(records[2]), "black letters on yellow")
	require.Equal(t, []string{"colour field 3", "arrow left 2", "arrow right 2", "contents 2"}, stands(records[3]))
	require.Equal(t, []string{"colour field 4", "arrow right", "contents"}, stands(records[4]))
	require.Equal(t, []stock.Ink{"green", "yellow", "silver-grey", "violet"},
		[]stock.Ink{d.Elements[0].Shape.Fill, d.Elements[1].Shape.Fill, d.Elements[2].Shape.Fill,
			d.Elements[3].Shape.Fill})

	// A record that it was not laid out for is told, whatever of it is new.
	require.Equal(t, []string{"group is “oils”, and this label was not laid out for that: the colours of its group " +
		"are not there."}, textsOf(proved(t, d, fields, "6", "Diesel", "oils", "60", "right"))[:1])
	require.Contains(t, textsOf(proved(t, d, fields, "6", "Water", "water", "500", "right")),
		"mm is “500”, and this label was not laid out for that: how large its letters are to be is not known.")
	require.Contains(t, textsOf(proved(t, d, fields, "6", "Water", "water", "60", "up")),
		"flow is “up”, and this label was not laid out for that: which way it flows is not known.")

	// The group can be said by the contents themselves.
	p.GroupField = ""
	l, err = safety.LayPipe(d, pipe.Shipped(), p)
	require.NoError(t, err)
	require.Empty(t, l.Notes)
	for says, records := range map[string][][]string{
		"Record 2: What \"kelp\" belongs to is not known here": {{"1", "Water", "", "60", ""},
			{"2", "kelp", "", "60", ""}},
		"Record 1: \"thick\" is no diameter":    {{"1", "Water", "", "thick", ""}},
		"Record 1: \"up\" is no flow":           {{"1", "Water", "", "60", "up"}},
		"there are no records to look it up in": {},
		"Record 1: 0 mm is no outside diameter": {{"1", "Water", "", "0", ""}},
	} {
		p.Records = records
		_, err := safety.LayPipe(d, pipe.Shipped(), p)
		require.IsType(t, &refusal.Error{}, err)
		require.ErrorContains(t, err, says)
	}
	p.Records, p.FlowField = records, "way"
	_, err = safety.LayPipe(d, pipe.Shipped(), p)
	require.ErrorContains(t, err, `no field "way"`)
	many := [][]string{}
	for i := range 201 {
		many = append(many, []string{"1", "water", "", string(rune('0'+i/100)) + "." + string(rune('0'+i/10%10)) +
			string(rune('0'+i%10)) + "1", ""})
	}
	p.Records, p.FlowField = many, ""
	_, err = safety.LayPipe(d, pipe.Shipped(), p)
	require.ErrorContains(t, err, `"mm" has 201 different values`)
}

func TestASignIsFoundUntilItIsTrue(t *testing.T) {
	d := blank(100*mm, 70*mm, stock.Black)
	d.Stock.Colour = "#F7C600"
	l, err := safety.LaySign(d, safety.Sign{Kind: "danger", Symbols: []string{"W012"}, Message: "High voltage",
		Distance: 1})
	require.NoError(t, err)
	texts := textsOf(proved(t, on(d, l), nil))
	require.Contains(t, texts, "The field is to be red by ANSI Z535.4, 7.2; ISO 3864-2, 5.2, and Dock 1 cannot show "+
		"that on this stock.")
	require.Contains(t, texts, "What stands here is to be white by ANSI Z535.4, 7.2; ISO 3864-2, 5.2, and Dock 1 "+
		"cannot show that on this stock.", "bare is yellow here")
	require.NotContains(t, texts, "needs yellow", "the stock is")

	true1 := blank(100*mm, 70*mm, stock.Full)
	l, err = safety.LaySign(true1, safety.Sign{Kind: "danger", Symbols: []string{"W012"}, Message: "High voltage",
		Distance: 1})
	require.NoError(t, err)
	require.Empty(t, textsOf(proved(t, on(true1, l), nil)))
	small := *true1
	small.Elements = append([]design.Element{}, true1.Elements...)
	for i := range small.Elements {
		if small.Elements[i].Kind == design.Symbol && small.Elements[i].ID == "symbol 1" {
			small.Elements[i].Width = 8 * mm
		}
	}
	require.Equal(t, []string{"This is 8.0 mm high; to be read from 1 m (ISO 3864-1, annex A) it is to be 10 mm."},
		textsOf(proved(t, &small, nil)))
}

func TestAChemicalLabelIsFoundUntilItIsTrue(t *testing.T) {
	d := blank(148*mm, 105*mm, stock.Black)
	l, err := safety.LayChemical(d, chemical(t, "67-56-1", hazard.Wanted{Volume: 20_000}))
	require.NoError(t, err)
	found := proved(t, on(d, l), nil)
	require.Contains(t, textsOf(found), "Flame needs red, which cannot be shown here, by CLP, annex I, 1.2.1.1.")
	require.Equal(t, proof.Error, found[0].Level)

	framed := *d // red frames are on the stock
	framed.Elements = append([]design.Element{}, d.Elements...)
	for i := range framed.Elements {
		if framed.Elements[i].Symbol != nil {
			framed.Elements[i].Symbol = &design.SymbolLooks{ID: framed.Elements[i].Symbol.ID, NoFrame: true}
		}
	}
	require.Empty(t, textsOf(proved(t, &framed, nil)))
	cut := framed
	cut.Elements = append([]design.Element{}, framed.Elements...)
	for i := range cut.Elements {
		if cut.Elements[i].ID == "hazards" {
			cut.Elements[i].Says = []design.Piece{{Text: "H225 Highly flammable liquid and vapour."}}
		}
	}
	require.Contains(t, textsOf(proved(t, &cut, nil))[0], "no longer says")

	small := blank(52*mm, 40*mm)
	l, err = safety.LayChemical(small, chemical(t, "67-56-1", hazard.Wanted{Volume: 1000}))
	require.NoError(t, err)
	require.Contains(t, l.Notes[0], "is left off")
	require.Contains(t, strings.Join(textsOf(proved(t, on(small, l), nil)), " "),
		"belongs there since there was no room for it", "a statement that was left off is missed until it is there")
}

func TestAChemicalLabelInTwoLanguages(t *testing.T) {
	d := blank(210*mm, 148*mm)
	c := chemical(t, "67-56-1", hazard.Wanted{Volume: 200_000})
	german := chemical(t, "67-56-1", hazard.Wanted{Volume: 200_000, Language: "de"})
	c.More = []safety.Version{{Name: "Methanol", Label: german.Label}}
	l, err := safety.LayChemical(d, c)
	require.NoError(t, err)
	require.True(t, l.Fits)
	says := map[string]string{}
	var order []string
	for _, e := range l.Elements {
		if e.Kind == design.Text {
			says[e.ID] = e.Says[0].Text
			order = append(order, e.ID)
		}
	}
	require.Equal(t, []string{"name", "identifiers", "signal word", "hazards", "hazards 2", "precautions",
		"precautions 2", "quantity", "supplier"}, order, "what matters most stands first, in all languages")
	require.Equal(t, "Danger / Gefahr", says["signal word"])
	require.Equal(t, "Methanol", says["name"], "what is called the same stands once")
	require.Contains(t, says["hazards 2"], "Giftig bei Verschlucken")
	for _, text := range textsOf(proved(t, on(d, l), nil)) {
		require.NotContains(t, text, "no longer says")
	}
	// Where there is no room, a statement is left off in all languages, and missed in all.
	small := blank(105*mm, 74*mm)
	c.Label, c.More[0].Label = chemical(t, "67-56-1", hazard.Wanted{Volume: 20_000}).Label,
		chemical(t, "67-56-1", hazard.Wanted{Volume: 20_000, Language: "de"}).Label
	l, err = safety.LayChemical(small, c)
	require.NoError(t, err)
	require.False(t, l.Fits)
	missed := strings.Join(textsOf(proved(t, on(small, l), nil)), " ")
	require.Contains(t, missed, "no room for it")
}
