package epc

import (
	"bytes"
	"encoding/hex"
	"fmt"
	"strings"
)

// A Memory is what is written into a tag.
type Memory struct {
	PC   uint16 // protocol-control word
	EPC  []byte // identifier, whole words
	User []byte // whole words; empty: it stays as it is
	Is   *EPC   // the identifier taken apart; nil: it is bare bits
}

// MostUser is how many bytes of user memory are written at most.
const MostUser = 1024

// A Kind is in which form an identifier is kept.
type Kind struct {
	Scheme         Scheme // empty: it is hexadecimal digits
	Prefix, Filter int    // as FromElements takes them
	// application family identifier (ISO/IEC 15961-2) of digits that are no EPC; nil: they are one
	AFI *uint8
}

// Remember makes the memory of a tag: an identifier from a GS1 element string or hexadecimal digits, and user memory
// from a text as UTF-8. Its error is a *refusal.Error.
func Remember(as Kind, data, user string) (*Memory, error) {
	m := &Memory{}
	var err error
	if as.Scheme != "" && as.AFI != nil {
		return nil, noAfi.With(strings.ToUpper(string(as.Scheme)))
	}
	if as.Scheme == "" {
		if m.EPC, err = FromHex(data); err != nil {
			return nil, err
		}
	} else {
		if m.Is, err = FromElements(as.Scheme, data, as.Prefix, as.Filter); err != nil {
			return nil, err
		}
		if m.EPC, err = m.Is.Encode(); err != nil {
			return nil, err
		}
	}
	if len(user) > MostUser {
		return nil, userMemoryTooLong.With(len(user), MostUser)
	}
	const longest = 62 // bytes: thirty-one words, as many as the protocol-control word can tell
	if m.EPC = words(m.EPC); len(m.EPC) > longest || len(m.EPC) == 0 {
		return nil, identifierLength.With(len(m.EPC), longest)
	}
	m.User = words([]byte(user))
	m.PC = ProtocolControl(len(m.EPC)/2, len(m.User) > 0, as.AFI)
	return m, nil
}

// words fills bytes up to whole words with zeros.
func words(data []byte) []byte {
	if len(data)%2 == 1 {
		return append(bytes.Clone(data), 0)
	}
	return data
}

// Hex returns the identifier in hexadecimal digits.
func (m *Memory) Hex() string { return strings.ToUpper(hex.EncodeToString(m.EPC)) }

// Words says what the identifier is, for people.
func (m *Memory) Words() string {
	if m.Is == nil {
		return fmt.Sprintf("%d bits", 8*len(m.EPC))
	}
	return m.Is.Words()
}
