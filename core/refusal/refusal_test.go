package refusal_test

import (
	"bytes"
	"encoding/gob"
	"errors"
	"fmt"
	"io"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/refusal"
)

var (
	tooWide = refusal.Define("test.too-wide", refusal.Invalid,
		"{name:q} is {width:.1f} mm wide; {most} are taken, 100 % of it.")
	broken = refusal.Define("test.broken", refusal.Outside, "The file is broken: {reason}.")
	plain  = refusal.Define("test.plain", refusal.Conflict, "Say what it is.")
)

func TestARefusalIsAKindWithValues(t *testing.T) {
	err := error(tooWide.With("lid", 7.25, 12*measure.Millimetre))
	require.EqualError(t, err, `"lid" is 7.2 mm wide; 12 mm are taken, 100 % of it.`)
	require.EqualError(t, plain.With(), "Say what it is.")
	require.Equal(t, []string{"name", "width", "most"}, tooWide.Names())
	require.Equal(t, map[string]any{"name": "lid", "width": 7.25, "most": "12 mm"},
		tooWide.With("lid", 7.25, 12*measure.Millimetre).Named())
	require.True(t, tooWide.Is(fmt.Errorf("lay out: %w", err)))
	require.True(t, tooWide.Is(errors.Join(io.EOF, err)))
	require.False(t, plain.Is(err))
	require.False(t, plain.Is(nil))
	require.ErrorIs(t, broken.With(io.ErrUnexpectedEOF), io.ErrUnexpectedEOF, "what it was refused for is found")
	require.Contains(t, refusal.Kinds(), tooWide)
	require.Panics(t, func() { refusal.Define("test.plain", refusal.Invalid, "Again.") })
}

// A refusal of the process that reads a file is the same one in the server.
func TestRefusalsGoFromProcessToProcess(t *testing.T) {
	for _, told := range []*refusal.Error{
		tooWide.With("lid", 7.25, 12*measure.Millimetre), tooWide.With("lid", 7.0, 12),
		broken.With(io.ErrUnexpectedEOF), plain.With(),
	} {
		var wire bytes.Buffer
		require.NoError(t, gob.NewEncoder(&wire).Encode(told), "%v", told)
		var read *refusal.Error
		require.NoError(t, gob.NewDecoder(&wire).Decode(&read), "%v", told)
		require.Same(t, told.Kind, read.Kind)
		require.EqualError(t, read, told.Error())
	}
	require.ErrorContains(t, new(refusal.Error).GobDecode([]byte(`{"code": "test.none"}`)), `no kind "test.none"`)
	require.ErrorContains(t, new(refusal.Error).GobDecode([]byte(`kelp`)), "read a refusal")
}
