package compose_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/compose"
	"oddspool/core/design"
)

// What a field says is data of the chip, whatever stands in it.
func TestNoFieldForgesWhatAChipSays(t *testing.T) {
	chip := design.Element{ID: "chip", Kind: design.Tag, Width: 10 * mm, Height: 10 * mm,
		Tag:  &design.TagLooks{Scheme: "sgtin-198", Prefix: 7, User: []design.Piece{{Text: "("}, {Field: "serial"}}},
		Says: []design.Piece{{Text: "(01)09521234543213(21)"}, {Field: "serial"}}}
	c, err := compose.New(label(chip), []string{"serial"})
	require.NoError(t, err)
	var l compose.Label
	for _, serial := range []string{"417", "A(21)7", "A(b)7", "A+B"} {
		memory, err := c.Tags(&l, []string{serial})
		require.NoError(t, err, serial)
		require.Equal(t, serial, memory.Is.Serial)
		require.Equal(t, "("+serial, strings.TrimRight(string(memory.User), "\x00"), "user memory is plain text")
	}
	_, err = c.Tags(&l, []string{`A\B`})
	require.ErrorContains(t, err, "“\\”")

	chip.Tag = &design.TagLooks{Scheme: "adi-var"}
	chip.Says = []design.Piece{{Text: "35962."}, {Field: "part"}, {Text: ".1"}}
	c, err = compose.New(label(chip), []string{"part"})
	require.NoError(t, err)
	memory, err := c.Tags(&l, []string{"PQ7/Z-4"})
	require.NoError(t, err)
	require.Equal(t, "PQ7/Z-4", memory.Is.Reference, "ADI is none of GS1's: nothing is written in another way")
}
