// Package secrets keeps passwords of other systems so that a copy of the database alone tells none: sealed with
// AES-256-GCM (NIST SP 800-38D) under a key that lies in a file beside it.
package secrets

import (
	"bytes"
	"crypto/aes"
	"crypto/cipher"
	"crypto/rand"
	"crypto/sha256"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"

	"oddspool/core/refusal"
)

// ErrOtherKey says that a secret was sealed under another key, or for another use.
var ErrOtherKey = refusal.Define("source.other-key", refusal.Invalid,
	"The password was kept under another key, or for another place. Type it anew.").With()

// A Box seals and opens secrets.
type Box struct {
	seal cipher.AEAD
	mark [markSize]byte // of the key, so that a wrong one is told
}

const (
	keySize  = 32
	markSize = 8
)

// Open reads the key in a file, or makes one where there is no file: readable by its owner alone.
func Open(path string) (*Box, error) {
	key, err := os.ReadFile(path)
	if errors.Is(err, fs.ErrNotExist) {
		key, err = makeKey(path)
	}
	if err != nil {
		return nil, fmt.Errorf("the key for passwords of other systems: %w; choose another file with -key", err)
	}
	if len(key) != keySize {
		return nil, fmt.Errorf("the key for passwords of other systems: %s has %d bytes, and a key has %d; choose "+
			"another file with -key", path, len(key), keySize)
	}
	return New(key)
}

// makeKey writes a new key; of several servers that begin at once, all take the first one's.
func makeKey(path string) ([]byte, error) {
	if err := os.MkdirAll(filepath.Dir(path), 0o700); err != nil {
		return nil, err
	}
	key := make([]byte, keySize)
	if _, err := rand.Read(key); err != nil {
		return nil, err
	}
	part, err := os.CreateTemp(filepath.Dir(path), ".key-*")
	if err != nil {
		return nil, err
	}
	defer os.Remove(part.Name())
	_, err = part.Write(key)
	if err = errors.Join(err, part.Sync(), part.Close()); err != nil {
		return nil, err
	}
	if err := os.Link(part.Name(), path); err != nil && !errors.Is(err, fs.ErrExist) {
		return nil, err
	}
	return os.ReadFile(path)
}

// New returns a box with a key of 32 bytes.
func New(key []byte) (*Box, error) {
	block, err := aes.NewCipher(key)
	if err != nil {
		return nil, fmt.Errorf("the key for passwords of other systems: %w", err)
	}
	seal, err := cipher.NewGCMWithRandomNonce(block)
	if err != nil {
		return nil, fmt.Errorf("the key for passwords of other systems: %w", err)
	}
	sum := sha256.Sum256(append([]byte("mark of the key: "), key...))
	return &Box{seal, [markSize]byte(sum[:markSize])}, nil
}

// Seal closes a secret for one use, such as the place it is for: it opens for no other.
func (b *Box) Seal(secret, use string) []byte {
	return b.seal.Seal(b.mark[:], nil, []byte(secret), []byte(use))
}

// Open returns a secret. Its error is ErrOtherKey.
func (b *Box) Open(sealed []byte, use string) (string, error) {
	if !bytes.HasPrefix(sealed, b.mark[:]) {
		return "", ErrOtherKey
	}
	secret, err := b.seal.Open(nil, nil, sealed[markSize:], []byte(use))
	if err != nil {
		return "", ErrOtherKey
	}
	return string(secret), nil
}
