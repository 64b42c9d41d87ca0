package press_test

import (
	"bufio"
	"context"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/press"
	"oddspool/internal/press/ipp"
)

// device answers Get-Printer-Attributes with some attributes, and notes what jobs ask for.
func device(t *testing.T, attributes ...ipp.Attribute) (*press.Client, *[]ipp.Attribute) {
	var asked []ipp.Attribute
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		m, err := ipp.Read(bufio.NewReader(r.Body))
		if err != nil {
			return
		}
		answer := &ipp.Message{Major: 2, ID: m.ID, Groups: []ipp.Group{{Tag: ipp.OperationGroup}}}
		if ipp.Op(m.Code) == ipp.CreateJob {
			for _, g := range m.Groups {
				if g.Tag == ipp.JobGroup {
					asked = g.Attributes
				}
			}
			answer.Groups = append(answer.Groups,
				ipp.Group{Tag: ipp.JobGroup, Attributes: []ipp.Attribute{ipp.Attr("job-id", ipp.Int(ipp.Integer, 7))}})
		} else {
			answer.Groups = append(answer.Groups, ipp.Group{Tag: ipp.PrinterGroup, Attributes: attributes})
		}
		w.Header().Set("Content-Type", "application/ipp")
		_, _ = w.Write(answer.Append(nil))
	}))
	t.Cleanup(server.Close)
	return client(t, server.URL), &asked
}

func formats(mime ...string) ipp.Attribute {
	a := ipp.Attribute{Name: "document-format-supported"}
	for _, m := range mime {
		a.Values = append(a.Values, ipp.Str(ipp.MIMEType, m))
	}
	return a
}

func resolutionOf(dpi int) ipp.Attribute {
	return ipp.Attr("printer-resolution-default", ipp.Value{Tag: ipp.Resolution, Ints: [3]int{dpi, dpi, 3}})
}

func TestPrintersTellWhatTheyCanDo(t *testing.T) {
	size := ipp.Attr("media-size-supported", ipp.Members(
		ipp.Attr("x-dimension", ipp.Value{Tag: ipp.Range, Ints: [3]int{200, 10_400}}),
		ipp.Attr("y-dimension", ipp.Value{Tag: ipp.Range, Ints: [3]int{200, 99_000}})))
	for name, test := range map[string]struct {
		attributes []ipp.Attribute
		want       stock.Printer
	}{
		"203 dpi are 8 dots/mm": {[]ipp.Attribute{formats("image/pwg-raster"), resolutionOf(203), size},
			stock.Printer{Resolution: measure.DotsPerMillimetre(8), HeadDots: 832, MaxLength: 990 * mm}},
		"300 dpi are 300 dpi": {[]ipp.Attribute{formats("image/pwg-raster"), resolutionOf(300), size},
			stock.Printer{Resolution: measure.DotsPerInch(300), HeadDots: 1228, MaxLength: 990 * mm}},
		"305 dpi are 12 dots/mm, with a cutter and a speed": {[]ipp.Attribute{formats("image/pwg-raster"),
			resolutionOf(305), size,
			ipp.Attr("finishings-supported", ipp.Int(ipp.Enum, 3), ipp.Int(ipp.Enum, 60)),
			ipp.Attr("print-speed-supported", ipp.Value{Tag: ipp.Range, Ints: [3]int{2500, 15_200}})},
			stock.Printer{Resolution: measure.DotsPerMillimetre(12), HeadDots: 1248, MaxLength: 990 * mm, Cutter: true,
				Speed: 152, SlowSpeed: 25}},
		"colours": {[]ipp.Attribute{formats("image/pwg-raster", "application/pdf"), resolutionOf(203), size,
			ipp.Keywords("pwg-raster-document-type-supported", "srgb_8")},
			stock.Printer{Resolution: measure.DotsPerMillimetre(8), HeadDots: 832, MaxLength: 990 * mm,
				Inks: []stock.Ink{stock.Full}}},
		"ribbons": {[]ipp.Attribute{formats("image/pwg-raster"), resolutionOf(203), size,
			ipp.Attr("printer-supply", ipp.Str(ipp.OctetString, "index=1;type=ribbonWax;colorantname=Black;level=-2;"),
				ipp.Str(ipp.OctetString, "index=2;colorantname=Red;"),
				ipp.Str(ipp.OctetString, "index=3;class=receptacleThatIsFilled;type=wasteToner;colorantname=Black;"),
				ipp.Str(ipp.OctetString, "index=4;class=supplyThatIsConsumed;type=fuser;colorantname=unknown;"))},
			stock.Printer{Resolution: measure.DotsPerMillimetre(8), HeadDots: 832, MaxLength: 990 * mm,
				Inks: []stock.Ink{stock.Black, stock.Red}}},
		"vectors": {[]ipp.Attribute{formats("application/pdf"), resolutionOf(254)},
			stock.Printer{Resolution: measure.DotsPerMillimetre(10), HeadDots: 1040, Vector: true,
				Takes: []stock.Kind{stock.Plate}}},
	} {
		c, _ := device(t, test.attributes...)
		status, err := c.Printer(context.Background())
		require.NoError(t, err)
		does, err := status.Printer()
		require.NoError(t, err, name)
		require.Equal(t, test.want, does, name)
	}
	c, _ := device(t, formats("text/plain"))
	status, err := c.Printer(context.Background())
	require.NoError(t, err)
	_, err = status.Printer()
	require.ErrorIs(t, err, press.ErrNoLabels)
}

func create(c *press.Client, wanted press.Wanted) (int, error) {
	status, err := c.Printer(context.Background())
	if err != nil {
		return 0, err
	}
	return c.Create(context.Background(), status, wanted)
}

func TestJobsAskOnlyForWhatThePrinterTakes(t *testing.T) {
	wanted := press.Wanted{Name: "bins", Width: 76 * mm, Length: 38 * mm, Tracking: stock.Notch,
		Setup: stock.Setup{Darkness: 60, Speed: 102, Finish: stock.Cut, CutEvery: 1}}
	names := func(asked []ipp.Attribute) (list []string) {
		for _, a := range asked {
			list = append(list, a.Name)
		}
		return list
	}
	c, asked := device(t, ipp.Keywords("job-creation-attributes-supported", "job-name"))
	id, err := create(c, wanted)
	require.NoError(t, err)
	require.Equal(t, 7, id)
	require.Empty(t, *asked)

	c, asked = device(t, ipp.Keywords("job-creation-attributes-supported", "media-col", "print-darkness", "print-speed",
		"finishings"),
		ipp.Keywords("media-col-supported", "media-size", "media-tracking"))
	_, err = create(c, wanted)
	require.NoError(t, err)
	require.Equal(t, []string{"media-col", "print-darkness", "print-speed", "finishings"}, names(*asked))
	tracking, _ := (*asked)[0].Values[0].Member("media-tracking")
	require.Equal(t, "web", tracking.Text, "a notch is seen through the web")
	require.Equal(t, []int{60, 10_200, 60}, []int{(*asked)[1].Values[0].Int, (*asked)[2].Values[0].Int,
		(*asked)[3].Values[0].Int})

	for _, test := range []struct {
		setup stock.Setup
		last  bool
		want  int // finishings; 0: none asked for
	}{
		{stock.Setup{}, true, 0}, {stock.Setup{Finish: stock.Cut}, false, 0},
		{stock.Setup{Finish: stock.Cut}, true, 63},
		{stock.Setup{Finish: stock.Cut, CutEvery: 5}, false, 63}, {stock.Setup{Finish: stock.Peel}, true, 0},
	} {
		wanted.Setup, wanted.Last = test.setup, test.last
		_, err = create(c, wanted)
		require.NoError(t, err)
		got := 0
		for _, a := range *asked {
			if a.Name == "finishings" {
				got = a.Values[0].Int
			}
		}
		require.Equal(t, test.want, got, "%+v", test)
	}
}

func TestWhatIsLeftIsReadInItsUnit(t *testing.T) {
	for tray, want := range map[string]stock.Loaded{
		"type=other;maxcapacity=1739;level=96;unit=items;": {Left: 96, Capacity: 1739, LeftLength: -1},
		"type=other;maxcapacity=30000000;level=25400000;unit=micrometers": {Left: -1, LeftLength: 25_400 * mm,
			FullLength: 30_000 * mm},
		"type=other;maxcapacity=100;level=-2;unit=sheets;": {Left: -1, Capacity: 100, LeftLength: -1},
		"": {Left: -1, LeftLength: -1},
	} {
		c, _ := device(t, ipp.Attr("printer-input-tray", ipp.Str(ipp.OctetString, tray)))
		status, err := c.Printer(context.Background())
		require.NoError(t, err)
		require.Equal(t, want, status.Loaded, tray)
	}
}
