package typeset

import (
	"sync"
	"testing"

	"github.com/stretchr/testify/require"
)

// What takes long to read is read when it is wanted, and once.
func TestFurtherFontsAreReadWhenTheyAreWanted(t *testing.T) {
	kept := registered()
	read := 0
	further.once = sync.Once{}
	Later(func() {
		read++
		later := kept[0]
		later.Family = "Later Sans"
		Register(later)
	})
	t.Cleanup(func() {
		files.list, files.found = kept, map[style]*Face{}
		Later(func() {})
	})
	_, err := Find(kept[0].Family, true, false)
	require.NoError(t, err)
	require.Zero(t, read, "what is known needs no more")
	_, err = Find("Later Sans", false, false)
	require.NoError(t, err)
	_, err = Find("Nowhere Sans", false, false)
	require.ErrorContains(t, err, "Nowhere Sans")
	require.Contains(t, Families(), "Later Sans")
	require.Equal(t, 1, read)
	require.True(t, Registered("Later Sans", false, false))
	require.False(t, Registered("Nowhere Sans", false, false))
}
