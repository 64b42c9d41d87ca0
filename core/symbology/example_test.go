package symbology_test

import (
	"fmt"

	"oddspool/core/measure"
	"oddspool/core/symbology"
)

// dots draws the modules of a symbol, two characters each.
func dots(s *symbology.Symbol) {
	for y := range s.Matrix.Height {
		for x := range s.Matrix.Width {
			if s.Matrix.At(x, y) {
				fmt.Print("██")
			} else {
				fmt.Print("··")
			}
		}
		fmt.Println()
	}
}

func ExampleSymbol_Encode_retail() {
	var s symbology.Symbol
	fmt.Println(s.Encode(symbology.EAN13, "952123454321", symbology.Options{}))
	fmt.Println(s.Text, s.Modules(), s.QuietBefore)
	fmt.Println(s.Encode(symbology.EAN13, "9521234543210", symbology.Options{}))
	// Output:
	// <nil>
	// 9521234543213 95 11
	// The check digit of 952123454321 is 3, not 0.
}

func ExampleSymbol_Encode_dots() {
	var s symbology.Symbol
	_ = s.Encode(symbology.DataMatrix, "KELP", symbology.Options{Shape: "rectangle"})
	dots(&s)
	// Output:
	// ██··██··██··██··██··██··██··██··██··
	// ██··████··██··██······██████······██
	// ██······██······████······████··██··
	// ██████············████████████··████
	// ████████····██··██··██······██······
	// ██····████··██············██████··██
	// ████····██····██··██··██████····██··
	// ████████████████████████████████████
}

func ExampleParseGS1() {
	elements, _ := symbology.ParseGS1("(01)09521234543213(3103)001750(10)26K104")
	for _, e := range elements {
		fmt.Printf("%s %s: %s (%s)\n", e.AI.AI, e.AI.Title, e.Value, e.AI.Format())
	}
	_, err := symbology.ParseGS1("(01)09521234543210")
	fmt.Println(err)
	// Output:
	// 01 GTIN: 09521234543213 (14 digits, the last a check digit)
	// 3103 NET WEIGHT (kg): 001750 (6 digits, 3 after the decimal point)
	// 10 BATCH/LOT: 26K104 (up to 20 characters)
	// (01) GTIN: its check digit is 3, not 0.
}

func ExampleLacking() {
	lot, _ := symbology.ParseGS1("(10)26K104")
	item, _ := symbology.ParseGS1("(01)09521234543213")
	fmt.Println(symbology.Lacking(lot, lot))
	fmt.Println(symbology.Lacking(lot, append(item, lot...)))
	// Output:
	// (10) BATCH/LOT needs (01) or (02) or (03) or (8006) or (8026) with it on the label.
	// <nil>
}

func ExampleLink() {
	elements, _ := symbology.ParseGS1("(01)09521234543213(10)26K104(17)270331")
	long, _ := symbology.Link("https://id.brinewick.example", elements, false)
	short, _ := symbology.Link("https://id.brinewick.example", elements, true)
	fmt.Println(long)
	fmt.Println(short)
	// Output:
	// https://id.brinewick.example/01/09521234543213/10/26K104?17=270331
	// HTTPS://ID.BRINEWICK.EXAMPLE/01/09521234543213/10/26K104?17=270331
}

func ExampleLeastHeight() {
	// An EAN-13 at 0.33 mm, a GS1-128 on a pallet, and a Code 128 of 80 mm.
	fmt.Println(symbology.LeastHeight(symbology.EAN13, symbology.Checkout, 330, 31_350))
	fmt.Println(symbology.LeastHeight(symbology.GS1128, symbology.Logistic, 495, 80_000))
	fmt.Println(symbology.LeastHeight(symbology.Code128, symbology.AnyPurpose, 330, 80_000))
	// Output:
	// 22850
	// 31750
	// 12000
}

func ExampleRank() {
	for _, suit := range symbology.Rank([]string{"952N0101A", "952N0101B"}, measure.DotsPerMillimetre(8))[:3] {
		fmt.Printf("%s: %d × %d dots, modules of %d\n", symbology.Name(suit.ID), suit.Wide, suit.Tall, suit.Module)
	}
	// Output:
	// Aztec Code: 30 × 30 dots, modules of 2
	// Data Matrix: 32 × 32 dots, modules of 2
	// Micro QR Code: 38 × 38 dots, modules of 2
}

func ExampleModelCheck() {
	fmt.Println(symbology.ModelCheck("1987654Ad4X4bL5ttr2310c"))
	// Output: 2K
}
