package server

import (
	"bytes"
	"context"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/internal/server/handler"
	"oddspool/internal/sources"
)

// Pauses between wrong tries grow and end, a right one forgets them, and somebody else's wrong ones do not lock a
// person out of where the account is used.
func TestPausesBetweenWrongTries(t *testing.T) {
	now := time.Date(2026, 11, 25, 8, 0, 0, 0, time.UTC)
	tries := newTries()
	for range freeTries {
		require.NoError(t, tries.begin("Maren", "192.0.2.1", now))
	}
	require.ErrorContains(t, tries.begin("Maren", "192.0.2.1", now), "Try again in 2 s.")
	require.NoError(t, tries.begin("Ines", "192.0.2.1", now), "another account does not wait")
	pause := time.Second
	for range 8 {
		require.Error(t, tries.begin("Maren", "192.0.2.9", now.Add(pause-time.Millisecond)),
			"wherever it is tried from")
		now = now.Add(pause)
		require.NoError(t, tries.begin("Maren", "192.0.2.9", now), "after %v", pause)
		pause = min(pause*2, longestPause)
	}
	require.Equal(t, longestPause, pause)
	require.NoError(t, tries.begin("Maren", "192.0.2.1", now.Add(forgetTries+time.Second)), "it is forgotten at last")

	tries = newTries()
	require.NoError(t, tries.begin("Maren", "192.0.2.1", now))
	tries.wasRight("Maren", "192.0.2.1")
	for range 3 * freeTries { // from elsewhere
		_ = tries.begin("Maren", "198.51.100.7", now)
	}
	require.Error(t, tries.begin("Maren", "198.51.100.7", now))
	require.NoError(t, tries.begin("Maren", "192.0.2.1", now))
}

// Many names from one address are slowed down too, where none was right before.
func TestManyNamesOfOneAddressAreSlowedDown(t *testing.T) {
	now, tries := time.Now(), newTries()
	for i := range freeAddressTries {
		require.NoError(t, tries.begin(string(rune('a'+i)), "192.0.2.1", now))
	}
	require.Error(t, tries.begin("another", "192.0.2.1", now))
	require.NoError(t, tries.begin("another", "192.0.2.2", now))
}

func TestSentencesKeepTheirLetters(t *testing.T) {
	for text, want := range map[string]string{"": "", "é is none": "É is none.", "“x” is none.": "“x” is none.",
		"ß": "ß.", "昆布": "昆布."} {
		require.Equal(t, want, handler.Sentence(text))
	}
}

// JSON is bounded before anything is made of it.
func TestJSONIsBounded(t *testing.T) {
	for text, want := range map[string]string{
		`{"a": [1, "x", null, true]}`: "", ``: "no JSON", `{"a"`: "no JSON", `{"a": 1}{`: "no JSON",
		"\"\xff\"": "not UTF-8", `"\u0000"`: "NUL",
		`[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[1]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]`: "deeper than 32 levels",
		`12345678901234567890123456789012345678901`:                           "41 digits",
	} {
		got := badJSON([]byte(text))
		if want == "" {
			require.Empty(t, got, text)
		} else {
			require.Contains(t, got, want, text)
		}
	}
}

// What a file says is not worked out for a person who has gone.
func TestReadingEndsWhenNobodyWaits(t *testing.T) {
	data := []byte("bin\n" + strings.Repeat("N-1\n", 100_000))
	ctx, cancel := context.WithCancel(context.Background())
	_, err := sources.Open(ctx, bytes.NewReader(data), int64(len(data)), sources.Settings{})
	require.NoError(t, err)
	cancel()
	_, err = sources.Open(ctx, bytes.NewReader(data), int64(len(data)), sources.Settings{})
	require.ErrorIs(t, err, context.Canceled)
}
