package codewords_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/codewords"
)

// The product of two elements by its definition: polynomials over two, less multiples of the field's.
func slowMul(a, b, size, polynomial int) int {
	product := 0
	for ; b > 0; b >>= 1 {
		if b&1 == 1 {
			product ^= a
		}
		if a <<= 1; a >= size {
			a ^= polynomial
		}
	}
	return product
}

// Each field multiplies as its definition says, and its check words make data divisible by the
// generator: every root gives nothing.
func TestFieldsAndCheckWords(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	for _, test := range []struct{ size, polynomial, first int }{{16, 0x13, 1}, {64, 0x43, 1}, {256, 0x11D, 0},
		{256, 0x12D, 1}, {1024, 0x409, 1}, {4096, 0x1069, 1}} {
		f := codewords.NewField(test.size, test.polynomial)
		for range 300 {
			a, b := random.IntN(test.size), random.IntN(test.size)
			require.Equal(t, slowMul(a, b, test.size, test.polynomial), f.Mul(a, b), "%d · %d", a, b)
		}
		for _, n := range []int{2, 5, 7} {
			data := make([]uint16, 9)
			for i := range data {
				data[i] = uint16(random.IntN(test.size))
			}
			whole := append(data, codewords.Check(f, data, f.Generator(n, test.first))...)
			root := 1
			for range test.first {
				root = slowMul(root, 2, test.size, test.polynomial)
			}
			for range n {
				sum := 0
				for _, w := range whole {
					sum = slowMul(sum, root, test.size, test.polynomial) ^ int(w)
				}
				require.Zero(t, sum)
				root = slowMul(root, 2, test.size, test.polynomial)
			}
		}
	}
}

func ExampleBits() {
	var b codewords.Bits
	b.Add(0b101, 3)
	b.Add(104, 7)
	fmt.Printf("%d bits: %08b, %v %v\n", b.Len, b.Bytes, b.At(2), b.At(10))
	// Output: 10 bits: [10111010 00000000], true false
}

// The check words of ISO/IEC 18004, annex I: version 1-M of "01234567".
func ExampleCheck() {
	f := codewords.NewField(256, 0x11D)
	data := []byte{0x10, 0x20, 0x0C, 0x56, 0x61, 0x80, 0xEC, 0x11, 0xEC, 0x11, 0xEC, 0x11, 0xEC, 0x11, 0xEC, 0x11}
	fmt.Printf("% X\n", codewords.Check(f, data, f.Generator(10, 0)))
	// Output: A5 24 D4 C1 ED 36 C7 87 2C 55
}
