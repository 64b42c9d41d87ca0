package symbology_test

import (
	"testing"

	"github.com/boombuler/barcode/code128"
	"github.com/boombuler/barcode/datamatrix"
	"github.com/boombuler/barcode/qr"
	"github.com/makiuchi-d/gozxing"
	gozxingdm "github.com/makiuchi-d/gozxing/datamatrix"
	"github.com/makiuchi-d/gozxing/oned"
	gozxingqr "github.com/makiuchi-d/gozxing/qrcode"
)

// BenchmarkOthers encodes the data of BenchmarkEncode with the libraries that could have been used.
func BenchmarkOthers(b *testing.B) {
	const c, q, d = "952N0307B-0417", "https://brinewick.example/lot/26K104/417", "952N0307B-0417 lot 26K104 2026"
	for name, encode := range map[string]func() error{
		"boombuler/code128":    func() error { _, err := code128.Encode(c); return err },
		"boombuler/qr":         func() error { _, err := qr.Encode(q, qr.M, qr.Auto); return err },
		"boombuler/datamatrix": func() error { _, err := datamatrix.Encode(d); return err },
		"gozxing/code128": func() error {
			_, err := oned.NewCode128Writer().Encode(c, gozxing.BarcodeFormat_CODE_128, 0, 1, nil)
			return err
		},
		"gozxing/qr": func() error {
			_, err := gozxingqr.NewQRCodeWriter().Encode(q, gozxing.BarcodeFormat_QR_CODE, 0, 0, nil)
			return err
		},
		"gozxing/datamatrix": func() error {
			_, err := gozxingdm.NewDataMatrixWriter().Encode(d, gozxing.BarcodeFormat_DATA_MATRIX, 0, 0, nil)
			return err
		},
	} {
		b.Run(name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if err := encode(); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
