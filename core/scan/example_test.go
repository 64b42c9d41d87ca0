package scan_test

import (
	"fmt"

	"oddspool/core/scan"
	"oddspool/core/symbology"
)

func ExampleRead() {
	var s symbology.Symbol
	if err := s.Encode(symbology.MicroQR, "26K104", symbology.Options{}); err != nil {
		fmt.Println(err)
		return
	}
	code, found := scan.Read(drawn(&s, 3, true))
	fmt.Println(code.Kind.Name, code.Message.Text, found)
	// Output: Micro QR Code 26K104 true
}
