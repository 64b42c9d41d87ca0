package codewords

// A Field is a Galois field of 2^n elements. Fields never change and are safe for concurrent use.
type Field struct {
	exp, log []int
}

// NewField returns the field of so many elements, a power of two, with a primitive polynomial.
func NewField(size, polynomial int) *Field {
	f := &Field{make([]int, 2*size), make([]int, size)}
	for i, x := 0, 1; i < size-1; i++ {
		f.exp[i], f.exp[i+size-1], f.log[x] = x, x, i
		if x *= 2; x >= size {
			x ^= polynomial
		}
	}
	return f
}

// Mul returns the product of two elements.
func (f *Field) Mul(a, b int) int {
	if a == 0 || b == 0 {
		return 0
	}
	return f.exp[f.log[a]+f.log[b]]
}

// Generator returns the coefficients, highest first and without the leading 1, of the product of
// (x - α^i) for n powers from first on.
func (f *Field) Generator(n, first int) []int {
	g := make([]int, n)
	g[n-1] = 1
	for i := range n {
		root := f.exp[(first+i)%(len(f.log)-1)]
		for j := range n {
			g[j] = f.Mul(g[j], root)
			if j+1 < n {
				g[j] ^= g[j+1]
			}
		}
	}
	return g
}

// Check returns the check words of data: what is left of it, shifted by their number, when it is
// divided by the generator.
func Check[word byte | uint16](f *Field, data []word, generator []int) []word {
	rest := make([]word, len(generator))
	for _, w := range data {
		factor := int(w ^ rest[0])
		copy(rest, rest[1:])
		rest[len(rest)-1] = 0
		if factor == 0 {
			continue
		}
		log := f.log[factor]
		for i, g := range generator {
			if g != 0 {
				rest[i] ^= word(f.exp[f.log[g]+log])
			}
		}
	}
	return rest
}
