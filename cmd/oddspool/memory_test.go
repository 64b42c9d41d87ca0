package main

import (
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// mappedKilobytes is how much of the files that it maps this process has in memory.
func mappedKilobytes(t *testing.T) int {
	t.Helper()
	status, err := os.ReadFile("/proc/self/status")
	require.NoError(t, err)
	_, rest, found := strings.Cut(string(status), "RssFile:")
	require.True(t, found, "the kernel tells RssFile")
	n, err := strconv.Atoi(strings.Fields(rest)[0])
	require.NoError(t, err)
	return n
}

func TestTheProgramsPagesAreGivenBack(t *testing.T) {
	before := mappedKilobytes(t)
	releaseProgram()
	assert.Less(t, mappedKilobytes(t), before)
}
