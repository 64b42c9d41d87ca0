package symbology

// A field is a Galois field of 2^n elements, over which Reed-Solomon codes are computed.
type field struct {
	exp, log []int
}

// newField returns the field of a primitive polynomial.
func newField(size, polynomial int) *field {
	f := &field{make([]int, 2*size), make([]int, size)}
	for i, x := 0, 1; i < size-1; i++ {
		f.exp[i], f.exp[i+size-1], f.log[x] = x, x, i
		if x *= 2; x >= size {
			x ^= polynomial
		}
	}
	return f
}

func (f *field) mul(a, b int) int {
	if a == 0 || b == 0 {
		return 0
	}
	return f.exp[f.log[a]+f.log[b]]
}

// generator returns the coefficients, highest first and without the leading 1, of the product of
// (x - α^i) for n powers from first on.
func (f *field) generator(n, first int) []int {
	g := make([]int, n)
	g[n-1] = 1
	for i := range n {
		root := f.exp[(first+i)%(len(f.log)-1)]
		for j := range n {
			g[j] = f.mul(g[j], root)
			if j+1 < n {
				g[j] ^= g[j+1]
			}
		}
	}
	return g
}

// remainder returns the check words of data.
func remainder[word byte | uint16](f *field, data []word, generator []int) []word {
	rest := make([]word, len(generator))
	for _, w := range data {
		factor := int(w ^ rest[0])
		copy(rest, rest[1:])
		rest[len(rest)-1] = 0
		for i, g := range generator {
			rest[i] ^= word(f.mul(g, factor))
		}
	}
	return rest
}
