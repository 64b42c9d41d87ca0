package llrp_test

import (
	"bufio"
	"bytes"
	"context"
	"net"
	"os"
	"os/exec"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/internal/llrp"
)

// another is a reader that speaks by another's library of the protocol and has some chips before it.
func another(t *testing.T, way string, chips int) *llrp.Reader {
	const dir = "../../e2e"
	require.DirExists(t, dir+"/node_modules/llrpjs", "the reader needs (cd e2e && npm ci)")
	node := exec.Command("node", "encoder/reader.cjs", way, strconv.Itoa(chips))
	node.Dir, node.Stderr = dir, os.Stderr
	out, err := node.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, node.Start())
	t.Cleanup(func() { _ = node.Wait() }) // it ends with its client
	port, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(t, err)
	r, err := llrp.Dial(context.Background(), &net.Dialer{}, net.JoinHostPort("127.0.0.1", strings.TrimSpace(port)))
	if err != nil {
		_ = node.Process.Kill()
	}
	require.NoError(t, err)
	t.Cleanup(func() { _ = r.Close() })
	return r
}

// Readers differ in how they report; all that the protocol lets them do is understood.
func TestAReaderThatIsNotOurs(t *testing.T) {
	for _, way := range []string{"each", "asked", "endless"} {
		t.Run(way, func(t *testing.T) {
			t.Parallel()
			r := another(t, way, 1)
			tag, err := r.One()
			require.NoError(t, err)
			require.Equal(t, make([]byte, 12), tag.EPC)
			require.Equal(t, -48, tag.RSSI)
			require.Equal(t, uint16(0x3000), tag.PC)
			tid, err := r.Read(tag.EPC, 0, llrp.BankTID, 0, 6)
			require.NoError(t, err)
			require.Equal(t, []byte{0xE2, 0x80, 0x11, 0x05}, tid[:4])
			long := bytes.Repeat([]byte{0x36, 1}, 9) // 144 bits: no longer of the fixed length
			require.NoError(t, r.Write(tag.EPC, 0, llrp.BankEPC, 1, append([]byte{9 << 3, 0}, long...)))
			tag, err = r.One()
			require.NoError(t, err)
			require.Equal(t, long, tag.EPC)
			require.NoError(t, r.Write(long, 0, llrp.BankUser, 0, []byte("kelp")))
			user, err := r.Read(long, 0, llrp.BankUser, 0, 2)
			require.NoError(t, err)
			require.Equal(t, "kelp", string(user))
			require.NoError(t, r.Write(long, 0, llrp.BankReserved, 2, []byte{0, 0, 0, 7}))
			require.NoError(t, r.Lock(long, 7, llrp.LockReadWrite, llrp.FieldUser, llrp.FieldAccess))
			require.ErrorContains(t, r.Write(long, 0, llrp.BankUser, 0, []byte("dulse!")), "locked")
			require.NoError(t, r.Write(long, 7, llrp.BankUser, 0, []byte("dulse!")))
			_, err = r.Read(tag.EPC, 7, llrp.BankUser, 0, 400)
			require.ErrorContains(t, err, "The tag refuses.")
		})
		t.Run(way+", none and two", func(t *testing.T) {
			t.Parallel()
			none := another(t, way, 0)
			for range 2 {
				_, err := none.One()
				require.ErrorIs(t, err, llrp.ErrNoTag)
			}
			_, err := another(t, way, 2).One()
			require.ErrorIs(t, err, llrp.ErrTwo)
		})
	}
}
