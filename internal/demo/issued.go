package demo

import (
	"bytes"
	"crypto/ed25519"
	"crypto/sha256"
	"encoding/hex"
	"fmt"

	"oddspool/core/safety/reference"
)

// issuing is the key of the stand-in that issues reference packs: everybody may know it, since nobody trusts it but the
// demonstration.
var issuing = func() ed25519.PrivateKey {
	seed := sha256.Sum256([]byte("Brinewick Kelp Works issues packs for its own demonstration"))
	return ed25519.NewKeyFromSeed(seed[:])
}()

// IssuingKey returns what the stand-in's packs are checked with, in hexadecimal digits.
func IssuingKey() string { return hex.EncodeToString(issuing.Public().(ed25519.PublicKey)) }

// NewerVersion is that of the pack that the stand-in issues.
const NewerVersion = "2026.12"

// NewerPack returns a pack that is newer than the one of the program: a drawing is other, a substance and a message are
// new, a message is withdrawn, and one more name of what is in pipes is known.
func NewerPack() ([]byte, error) {
	files := reference.Shipped().Files()
	edit := func(name, old, now string) error {
		if !bytes.Contains(files[name], []byte(old)) {
			return fmt.Errorf("the newer pack: %s does not say %q", name, old)
		}
		files[name] = bytes.Replace(files[name], []byte(old), []byte(now), 1)
		return nil
	}
	const puddle = `<rect x="58" y="80" width="20" height="3" fill="#000000"/><rect x="30" y="80" width="12" height="3" fill="#000000"/></svg>`
	for _, change := range [][3]string{
		{"symbols/W011.svg", "</svg>", puddle},
		{"pipes/groups.tsv", "slurry;syrup;milk;juice;extract", "slurry;syrup;milk;juice;extract;alginate"},
		{"signs/texts.tsv", "danger\tW042\tArc flash. Stay outside the line.\n", ""},
	} {
		if err := edit(change[0], change[1], change[2]); err != nil {
			return nil, err
		}
	}
	files["signs/texts.tsv"] = append(files["signs/texts.tsv"], "caution\tW011\tKelp on the floor. Walk slowly.\n"...)
	files["hazards/substances.tsv"] = append(files["hazards/substances.tsv"],
		"9072-19-9\t\t\tFucoidan\tFucoidan\tFucoïdane\tFucoidano\tsulfated fucan\t\t\t\t\t\t\n"...)
	var pack bytes.Buffer
	about := reference.About{Version: NewerVersion, Date: "2026-12-01", By: "Brinewick Kelp Works",
		Notes: "A clearer drawing of wet floors, fucoidan among the substances, alginate in pipes, and two messages " +
			"of signs."}
	err := reference.Write(&pack, about, files, issuing)
	return pack.Bytes(), err
}
