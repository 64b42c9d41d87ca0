package secrets_test

import (
	"os"
	"path/filepath"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/internal/secrets"
)

func TestASecretOpensOnlyWithItsKeyAndForItsUse(t *testing.T) {
	path := filepath.Join(t.TempDir(), "deep", "key")
	box, err := secrets.Open(path)
	require.NoError(t, err)
	sealed := box.Seal("kelp-and-salt", "db.plant.example")
	require.NotContains(t, string(sealed), "kelp")
	require.NotEqual(t, sealed, box.Seal("kelp-and-salt", "db.plant.example"), "no two are alike")
	again, err := secrets.Open(path)
	require.NoError(t, err)
	secret, err := again.Open(sealed, "db.plant.example")
	require.NoError(t, err)
	require.Equal(t, "kelp-and-salt", secret)
	info, err := os.Stat(path)
	require.NoError(t, err)
	require.Equal(t, os.FileMode(0o600), info.Mode())

	_, err = box.Open(sealed, "other.example")
	require.ErrorIs(t, err, secrets.ErrOtherKey)
	other, err := secrets.Open(filepath.Join(t.TempDir(), "key"))
	require.NoError(t, err)
	for _, wrong := range [][]byte{sealed, nil, sealed[:7], sealed[:9], append([]byte{}, sealed[:len(sealed)-1]...)} {
		_, err = other.Open(wrong, "db.plant.example")
		require.ErrorIs(t, err, secrets.ErrOtherKey)
	}
	sealed[len(sealed)-1] ^= 1
	_, err = box.Open(sealed, "db.plant.example")
	require.ErrorIs(t, err, secrets.ErrOtherKey)
}

func TestKeysThatCannotBeUsedAreTold(t *testing.T) {
	folder := t.TempDir()
	short := filepath.Join(folder, "short")
	require.NoError(t, os.WriteFile(short, []byte("short"), 0o600))
	_, err := secrets.Open(short)
	require.ErrorContains(t, err, "has 5 bytes, and a key has 32")
	_, err = secrets.Open(filepath.Join(short, "key"))
	require.ErrorContains(t, err, "-key")
	_, err = secrets.New([]byte("short"))
	require.Error(t, err)
}

func TestServersThatBeginAtOnceHaveOneKey(t *testing.T) {
	path := filepath.Join(t.TempDir(), "key")
	boxes := make([]*secrets.Box, 8)
	var all sync.WaitGroup
	for i := range boxes {
		all.Go(func() { boxes[i], _ = secrets.Open(path) })
	}
	all.Wait()
	for _, box := range boxes {
		secret, err := box.Open(boxes[0].Seal("salt", "x"), "x")
		require.NoError(t, err)
		require.Equal(t, "salt", secret)
	}
}
