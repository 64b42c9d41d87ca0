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

func ExampleLeastHeight() {
	// An EAN-13 at 0.33 mm, a GS1-128 on a pallet, and a Code 128 of 80 mm.
	fmt.Println(symbology.LeastHeight(symbology.EAN13, symbology.Checkout, 330, 31_350))
	fmt.Println(symbology.LeastHeight(symbology.GS1128, symbology.Logistic, 495, 80_000))
	fmt.Println(symbology.LeastHeight(symbology.Code128, symbology.AnyPurpose, 330, 80_000))
	// Output:
	// 22.85 mm
	// 31.75 mm
	// 12 mm
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
