package series

import (
	"crypto/hmac"
	"crypto/sha256"
	"math/big"
)

// A mixer puts the numbers below a size into an order that follows from a key and that nobody can tell without it: a
// Feistel network of ten rounds with HMAC-SHA-256 (as in NIST SP 800-38G, which has AES there), walked until it comes
// back within the size. As a permutation it gives none twice, and needs no list.
type mixer struct {
	key  []byte
	size *big.Int
	half uint // bits of each half
	mask *big.Int
}

const rounds = 10

func newMixer(key string, size *big.Int) *mixer {
	largest := new(big.Int).Sub(size, big.NewInt(1))
	half := uint(max((largest.BitLen()+1)/2, 1))
	mask := new(big.Int).Lsh(big.NewInt(1), half)
	return &mixer{key: []byte(key), size: size, half: half, mask: mask.Sub(mask, big.NewInt(1))}
}

// mix returns where a value goes.
func (m *mixer) mix(value *big.Int) *big.Int {
	for {
		value = m.once(value)
		if value.Cmp(m.size) < 0 {
			return value
		}
	}
}

func (m *mixer) once(value *big.Int) *big.Int {
	left := new(big.Int).Rsh(value, m.half)
	right := new(big.Int).And(value, m.mask)
	for round := range rounds {
		hash := hmac.New(sha256.New, m.key)
		hash.Write([]byte{byte(round)})
		hash.Write(right.Bytes())
		f := new(big.Int).SetBytes(hash.Sum(nil))
		left, right = right, f.Xor(f.And(f, m.mask), left)
	}
	return left.Lsh(left, m.half).Or(left, right)
}
