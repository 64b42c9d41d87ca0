package main

import (
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"image/png"
	"io"
	"os"
	"path/filepath"
	"strconv"
	"strings"

	"github.com/makiuchi-d/gozxing"
	"github.com/makiuchi-d/gozxing/aztec"
	"github.com/makiuchi-d/gozxing/datamatrix"
	"github.com/makiuchi-d/gozxing/oned"
	"github.com/makiuchi-d/gozxing/qrcode"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/measure"
	"oddspool/core/proof"
	renderer "oddspool/core/render"
	"oddspool/core/scan"
	"oddspool/core/stock"
	"oddspool/core/symbology"
)

// codeCommand writes one code, lists the symbologies, or reads a picture back.
func codeCommand(_ context.Context, c *console, args []string) error {
	var list bool
	var read string
	made := &codeRequest{options: map[string]string{}}
	err := flags(c, "code", args, func(f *flag.FlagSet) {
		f.BoolVar(&list, "list", false, "print every symbology as JSON")
		f.StringVar(&read, "read", "", "read the code of a picture, `FILE`.png")
		f.StringVar(&made.symbology, "symbology", "", "`NAME` of the symbology")
		f.StringVar(&made.data, "data", "", "what it says; \\xNN is a byte, (01) an application identifier")
		f.StringVar(&made.module, "module", "0.33mm", "wanted `WIDTH` of a module")
		f.IntVar(&made.perMillimetre, "dots-per-mm", 8, "resolution")
		f.StringVar(&made.height, "height", "12mm", "`HEIGHT` of a linear code's bars")
		f.IntVar(&made.turn, "turn", 0, "0, 90, 180 or 270, clockwise")
		f.StringVar(&made.text, "text", "none", "none, below or above")
		f.Func("option", "`KEY=VALUE`: check=true, ratio=2.5, level=H, version=5, form=compact, shape=rectangle, "+
			"size=24x24, columns=4, checkdigit=missing, checkrule=luhn, letters=told, bytes=true, "+
			"host=https://id.brinewick.example, "+
			"purpose=logistic, narrower=1, fit=not smaller", func(text string) error {
			key, value, ok := strings.Cut(text, "=")
			if !ok {
				return errors.New("write it like level=H")
			}
			made.options[key] = value
			return nil
		})
		f.StringVar(&made.out, "out", "", "`FILE`.png or FILE.svg")
	})
	switch {
	case err != nil:
		return err
	case list:
		return writeIndented(c.out, symbology.All())
	case read != "":
		return readCode(c, read)
	}
	err = made.make(c)
	var wrong *symbology.DataError
	if errors.As(err, &wrong) {
		fmt.Fprintln(c.err, wrong.Reason)
		return errFound
	}
	return err
}

func writeIndented(w io.Writer, value any) error {
	encoder := json.NewEncoder(w)
	encoder.SetIndent("", "  ")
	return encoder.Encode(value)
}

type codeRequest struct {
	symbology, data, module, height, text, out string
	perMillimetre, turn                        int
	options                                    map[string]string
}

// looks reads the flags as a code's looks.
func (r *codeRequest) looks() (*design.CodeLooks, error) {
	looks := &design.CodeLooks{Symbology: r.symbology, Readable: design.Readable(r.text),
		Points: design.DefaultReadablePoints}
	switch looks.Readable {
	case "below":
		looks.Readable = design.Below
	case design.Above, design.None:
	default:
		return nil, &usageError{"-text is none, below or above"}
	}
	var err error
	if looks.Module, err = measure.Parse(r.module, measure.UnitMillimetre); err != nil || looks.Module <= 0 {
		return nil, &usageError{"-module: a width such as 0.33mm is needed"}
	}
	if looks.Module > design.MostModule {
		return nil, &usageError{fmt.Sprintf("-module: a module is up to %v wide, and this is %v", design.MostModule,
			looks.Module)}
	}
	for key, value := range r.options {
		switch key {
		case "purpose":
			looks.Purpose = symbology.Purpose(value)
		case "narrower":
			looks.Narrower, err = strconv.Atoi(value)
		case "fit":
			looks.Fit = design.Fit(value)
		default:
			var known bool
			if known, err = looks.Options.Set(key, value); !known {
				err = errors.New("there is no such option")
			}
		}
		if err != nil {
			return nil, &usageError{fmt.Sprintf("-option %s=%s: %v", key, value, err)}
		}
	}
	return looks, nil
}

// unescape turns \xNN into the bytes they stand for. Where there are such of 80 and more the whole is bytes:
// each character of what is returned is one.
func unescape(text string) (data string, isBytes bool, err error) {
	var out []byte
	for i := 0; i < len(text); i++ {
		if strings.HasPrefix(text[i:], `\x`) && i+4 <= len(text) {
			n, err := strconv.ParseUint(text[i+2:i+4], 16, 8)
			if err != nil {
				return "", false, &usageError{fmt.Sprintf("-data: %q is no byte; write it like \\x1d", text[i:i+4])}
			}
			out, isBytes = append(out, byte(n)), isBytes || n >= 0x80
			i += 3
			continue
		}
		out = append(out, text[i])
	}
	if !isBytes {
		return string(out), false, nil
	}
	runes := make([]rune, len(out))
	for i, b := range out {
		runes[i] = rune(b)
	}
	return string(runes), true, nil
}

// made is what was written, as JSON.
type made struct {
	Symbology    string   `json:"symbology"`
	Name         string   `json:"name"`
	Identifier   string   `json:"identifier"`
	Says         string   `json:"says"`
	Text         string   `json:"text"`
	ModuleDots   int      `json:"moduleDots"`
	Module       float64  `json:"moduleMillimetres"`
	Deviation    float64  `json:"deviationPerCent"`
	WidthDots    int      `json:"widthDots"` // with quiet zones, as it is read
	HeightDots   int      `json:"heightDots"`
	Width        float64  `json:"widthMillimetres"`
	Height       float64  `json:"heightMillimetres"`
	QuietModules int      `json:"quietZoneModules"`
	Findings     []string `json:"findings"`
}

func (r *codeRequest) make(c *console) error {
	if r.out == "" || r.symbology == "" {
		return &usageError{"-symbology NAME, -data TEXT and -out FILE are needed, or -list, or -read FILE"}
	}
	if r.perMillimetre < 1 || r.perMillimetre > 100 || !measure.Turn(r.turn).Valid() {
		return &usageError{"-dots-per-mm is 1 to 100 and -turn 0, 90, 180 or 270"}
	}
	looks, err := r.looks()
	if err != nil {
		return err
	}
	data, isBytes, err := unescape(r.data)
	if err != nil {
		return err
	}
	looks.Bytes = looks.Bytes || isBytes
	if err := checkLooks(looks); err != nil {
		return err
	}
	height, err := measure.Parse(r.height, measure.UnitMillimetre)
	if err != nil {
		return &usageError{"-height: " + err.Error()}
	}
	if height <= 0 || height > 500*measure.Millimetre {
		return &usageError{"-height: bars are more than 0 and up to 500 mm tall"}
	}
	grid := measure.DotsPerMillimetre(r.perMillimetre)
	d, err := codeDesign(looks, data, grid, height, measure.Turn(r.turn))
	if err != nil {
		return err
	}
	composer, err := compose.New(d, nil)
	if err != nil {
		return err
	}
	var label compose.Label
	composer.Compose(&label, nil)
	part := &label.Parts[0]
	err = to(c, r.out, func(w io.Writer) error {
		if filepath.Ext(r.out) == ".svg" {
			return renderer.WriteSVG(w, &label.List, renderer.BlackOnWhite, grid)
		}
		layers := renderer.NewLayers(1, label.List.Width, label.List.Height)
		layers.Draw(&label.List)
		return renderer.WritePNG(w, layers, renderer.BlackOnWhite, grid)
	})
	if err != nil {
		return err
	}
	w, h := measure.Turn(r.turn).Size(part.Quiet.W, part.Quiet.H)
	guide := symbology.Of(part.ID)
	answer := made{Symbology: string(part.ID), Name: guide.Name, Identifier: guide.Identifier, Says: part.Symbol.Reads,
		Text: part.Symbol.Text, ModuleDots: part.Module,
		Module: grid.Length(part.Module).Millimetres(), WidthDots: w, HeightDots: h,
		Width: grid.Length(w).Millimetres(), Height: grid.Length(h).Millimetres(),
		QuietModules: part.Symbol.QuietBefore, Findings: []string{}}
	answer.Deviation = (answer.Module/looks.Module.Millimetres() - 1) * 100
	checker, err := proof.NewChecker(d, nil)
	if err != nil {
		return err
	}
	for _, f := range checker.Label(nil, 1, nil) {
		if f.Kind == proof.NoFigures || f.Kind == proof.NearCut { // which are about a whole label
			continue
		}
		answer.Findings = append(answer.Findings, f.Text)
	}
	return writeIndented(c.out, answer)
}

// codeDesign makes a design of just one code, as large as the code with its quiet zones.
func codeDesign(looks *design.CodeLooks, data string, grid measure.Resolution, height measure.Length,
	turn measure.Turn) (*design.Design, error) {
	var symbol symbology.Symbol
	if err := symbol.Encode(symbology.ID(looks.Symbology), data, looks.Options); err != nil {
		return nil, err
	}
	module := max(grid.Dots(looks.Module), 1)
	if looks.Fit == design.NotSmaller {
		module = symbology.DotsNotLess(looks.Module, grid)
	}
	w, h := symbol.DotsWithQuiet(module)
	if !symbol.Is2D() {
		h = max(grid.Dots(height), 1)
	}
	text := 0
	if looks.Readable != design.None {
		text = grid.Dots(5 * measure.Millimetre)
	}
	wide, tall := turn.Size(w, h+text)
	if wide > design.MaxDots/tall {
		return nil, &usageError{fmt.Sprintf("-module: a code of %d × %d dots is more than the %d million that are "+
			"drawn; choose a smaller module or fewer dots per mm", wide, tall, design.MaxDots/1_000_000)}
	}
	d := &design.Design{Format: design.Format, Name: "Code", Printer: stock.Printer{Name: "dots", Resolution: grid,
		HeadDots: 40_000, Inks: []stock.Ink{stock.Black}, MostWeb: 2000 * measure.Millimetre},
		Stock: stock.Stock{Name: "code", Kind: stock.DieCut, Shape: stock.Rectangle, Width: grid.Length(wide),
			Length: grid.Length(tall)}}
	d.Elements = []design.Element{{ID: "code", Kind: design.Code, Width: grid.Length(wide), Height: grid.Length(tall),
		Turn: turn, Says: []design.Piece{{Text: data}}, Code: looks}}
	return d, nil
}

// checkLooks refuses what no design may have: the very rules that design files are held to.
func checkLooks(looks *design.CodeLooks) error {
	d := &design.Design{Format: design.Format, Name: "Code",
		Printer: stock.Printer{Name: "dots", Resolution: measure.DotsPerMillimetre(8), HeadDots: 800},
		Stock: stock.Stock{Name: "code", Kind: stock.DieCut, Shape: stock.Rectangle, Width: 50 * measure.Millimetre,
			Length: 50 * measure.Millimetre}}
	d.Elements = []design.Element{{ID: "code", Kind: design.Code, Width: measure.Millimetre, Height: measure.Millimetre,
		Says: []design.Piece{{Text: "1"}}, Code: looks}}
	text, err := json.Marshal(d)
	if err != nil {
		return &usageError{"-option: " + err.Error()}
	}
	if _, err = design.Parse(text); err != nil {
		return &usageError{strings.ReplaceAll(err.Error(), "elements[0].code.", "")}
	}
	return nil
}

// codeRead is what a picture says, as JSON.
type codeRead struct {
	Format     string `json:"format"`
	Symbology  string `json:"symbology,omitempty"`  // where it was read dot by dot
	Identifier string `json:"identifier,omitempty"` // as readers send it before the data (ISO/IEC 15424)
	Says       string `json:"says"`                 // with its start and stop, and GS between GS1 data
}

// formats are the names of symbologies as readers of pictures have them, where they are not those of here.
var formats = map[symbology.ID]string{symbology.Code128: "CODE_128", symbology.GS1128: "CODE_128",
	symbology.Code39: "CODE_39", symbology.Code93: "CODE_93", symbology.Interleaved: "ITF", symbology.ITF14: "ITF",
	symbology.EAN13: "EAN_13", symbology.EAN8: "EAN_8", symbology.UPCA: "UPC_A", symbology.UPCE: "UPC_E",
	symbology.QR: "QR_CODE", symbology.GS1QR: "QR_CODE", symbology.DataMatrix: "DATA_MATRIX",
	symbology.GS1DataMatrix: "DATA_MATRIX", symbology.GS1Aztec: "AZTEC", symbology.PDF417: "PDF_417"}

// readCode reads the code of a picture: dot by dot where it is clean, and else with gozxing's readers.
func readCode(c *console, path string) error {
	file, err := os.Open(path)
	if err != nil {
		return err
	}
	defer file.Close()
	picture, err := png.Decode(file)
	if err != nil {
		return fmt.Errorf("%s is no PNG: %w", path, err)
	}
	if code, ok := scan.Read(picture); ok {
		says, ends := code.Message.Text, code.Message.Ends
		if ends != "" {
			says = ends[:1] + says + ends[1:]
		}
		format := formats[code.Kind.ID]
		if format == "" {
			format = strings.ToUpper(strings.ReplaceAll(string(code.Kind.ID), "-", "_"))
		}
		return writeIndented(c.out, codeRead{format, string(code.Kind.ID), code.Kind.Identifier, says})
	}
	bitmap, err := gozxing.NewBinaryBitmapFromImage(picture)
	if err != nil {
		return fmt.Errorf("%s: %w", path, err)
	}
	hints := map[gozxing.DecodeHintType]interface{}{gozxing.DecodeHintType_TRY_HARDER: true,
		gozxing.DecodeHintType_PURE_BARCODE: false}
	for _, reader := range []gozxing.Reader{qrcode.NewQRCodeReader(), datamatrix.NewDataMatrixReader(),
		aztec.NewAztecReader(), oned.NewCode128Reader(),
		oned.NewMultiFormatUPCEANReader(nil), oned.NewCode39Reader(), oned.NewCode93Reader(), oned.NewITFReader(),
		oned.NewCodaBarReader()} {
		result, err := reader.Decode(bitmap, hints)
		if err == nil {
			return writeIndented(c.out, codeRead{Format: result.GetBarcodeFormat().String(), Says: result.GetText()})
		}
	}
	fmt.Fprintln(c.err, "No code was found in the picture.")
	return errFound
}
