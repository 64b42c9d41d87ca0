// Package codewords holds what the encoders of 2D codes share: bits that are written one after another,
// and the Galois fields over which Reed-Solomon check words are computed. It knows no symbology.
package codewords

// Bits are bits in the order they are written, eight a byte, the highest first. The zero value is empty.
type Bits struct {
	Bytes []byte // the last one filled up with zeros
	Len   int    // bits
}

// Add appends the lowest n bits of value, the highest of them first.
func (b *Bits) Add(value, n int) {
	for i := n - 1; i >= 0; i-- {
		if b.Len%8 == 0 {
			b.Bytes = append(b.Bytes, 0)
		}
		b.Bytes[b.Len/8] |= byte(value>>i&1) << (7 - b.Len%8)
		b.Len++
	}
}

// At tells whether bit i, from 0, is set; bits beyond the end are not.
func (b *Bits) At(i int) bool {
	return i < b.Len && b.Bytes[i/8]>>(7-i%8)&1 == 1
}
