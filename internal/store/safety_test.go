package store_test

import (
	"encoding/json"
	"fmt"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/safety/symbols"
	"oddspool/internal/store"
	"oddspool/internal/testkit"
)

func TestSymbolsAreKeptForGood(t *testing.T) {
	s := testkit.Store(t)
	ctx := t.Context()
	_, err := s.SymbolDrawing(ctx, "own-1")
	require.IsType(t, &symbols.UnknownError{}, err)
	var group sync.WaitGroup
	for i := range 8 { // two people bring the same one in
		group.Go(func() {
			require.NoError(t, s.AddSymbol(ctx, fmt.Sprintf("own-%d", i%4), []byte{byte('a' + i%4)}, "maren"))
		})
	}
	group.Wait()
	kept, err := s.OwnSymbols(ctx)
	require.NoError(t, err)
	require.Len(t, kept, 4)
	require.NoError(t, s.AddSymbol(ctx, "own-1", []byte("other"), "ida"))
	drawing, err := s.SymbolDrawing(ctx, "own-1")
	require.NoError(t, err)
	require.Equal(t, "b", string(drawing), "what a name means never changes")
	require.NoError(t, s.RetireSymbol(ctx, "own-1"))
	require.IsType(t, &symbols.UnknownError{}, unwrapped(s.RetireSymbol(ctx, "own-1")), "once")
	kept, err = s.OwnSymbols(ctx)
	require.NoError(t, err)
	require.Len(t, kept, 3)
	_, err = s.SymbolDrawing(ctx, "own-1")
	require.NoError(t, err, "labels of then are drawn all the same")
	require.NoError(t, s.AddSymbol(ctx, "own-1", []byte("b"), "ida"))
	kept, err = s.OwnSymbols(ctx)
	require.NoError(t, err)
	require.Len(t, kept, 4, "brought in again, it is back")
}

// unwrapped returns what a joined error is made of first.
func unwrapped(err error) error {
	if joined, is := err.(interface{ Unwrap() []error }); is {
		return joined.Unwrap()[0]
	}
	return err
}

func TestSubstancesOfOnesOwnAreKept(t *testing.T) {
	s := testkit.Store(t)
	ctx := t.Context()
	require.NoError(t, s.PutSubstance(ctx, "50-99-7", []byte(`{"cas": "50-99-7", "classification": "Eye Irrit. 2"}`),
		"maren"))
	require.NoError(t, s.PutSubstance(ctx, "50-99-7", []byte(`{"cas": "50-99-7", "classification": "Skin Irrit. 2"}`),
		"ida"))
	kept, err := s.Substances(ctx)
	require.NoError(t, err)
	require.Len(t, kept, 1)
	var about struct{ Classification string }
	require.NoError(t, json.Unmarshal(kept[0], &about))
	require.Equal(t, "Skin Irrit. 2", about.Classification, "the last word counts")
	require.NoError(t, s.DropSubstance(ctx, "50-99-7"))
	var gone *store.NotFoundError
	require.ErrorAs(t, s.DropSubstance(ctx, "50-99-7"), &gone)
	kept, err = s.Substances(ctx)
	require.NoError(t, err)
	require.Empty(t, kept)
}

func TestUsesOfASymbolAreFound(t *testing.T) {
	s := testkit.Store(t)
	ctx := t.Context()
	document := func(id string) []byte {
		return fmt.Appendf(nil, `{"name": "x", "elements": [{"id": "a", "kind": "text"}, {"id": "b", "kind": "symbol", "symbol": {"id": %q, "noFrame": true}}]}`, id)
	}
	var ids []int64
	for i, id := range []string{"W012", "W011", "W012"} {
		d, err := s.AddDesign(ctx, fmt.Sprintf("Design %d", i), document(id), nil, nil, "maren")
		require.NoError(t, err)
		ids = append(ids, d.ID)
	}
	uses, err := s.SymbolUses(ctx, "W012")
	require.NoError(t, err)
	require.Equal(t, []store.Use{{ids[0], "Design 0"}, {ids[2], "Design 2"}}, uses)
	require.NoError(t, s.RetireDesign(ctx, ids[0]))
	uses, err = s.SymbolUses(ctx, "W012")
	require.NoError(t, err)
	require.Len(t, uses, 1)
	uses, err = s.SymbolUses(ctx, `W012"}`)
	require.NoError(t, err)
	require.Empty(t, uses)
}
