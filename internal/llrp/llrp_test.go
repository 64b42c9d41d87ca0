package llrp_test

import (
	"bytes"
	"context"
	"net"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/internal/llrp"
)

// antenna has some chips before it.
type antenna struct {
	sync.Mutex
	chips []*llrp.Chip
}

func (a *antenna) With(do func([]*llrp.Chip)) {
	a.Lock()
	defer a.Unlock()
	do(a.chips)
}

func chip() *llrp.Chip {
	return &llrp.Chip{TID: bytes.Repeat([]byte{0xE2}, 12), EPC: append([]byte{0x30, 0}, make([]byte, 16)...),
		User: make([]byte, 8)}
}

// dial connects to a stand-in that has some chips before its antenna.
func dial(t *testing.T, chips ...*llrp.Chip) *llrp.Reader {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { _ = listener.Close() })
	go func() {
		for {
			conn, err := listener.Accept()
			if err != nil {
				return
			}
			go llrp.Serve(conn, &antenna{chips: chips})
		}
	}()
	r, err := llrp.Dial(context.Background(), &net.Dialer{}, listener.Addr().String())
	require.NoError(t, err)
	t.Cleanup(func() { _ = r.Close() })
	return r
}

func TestATagIsWrittenReadAndLocked(t *testing.T) {
	c := chip()
	r := dial(t, c)
	tag, err := r.One()
	require.NoError(t, err)
	require.Equal(t, make([]byte, 12), tag.EPC, "new tags say noughts")
	epc := []byte{0x30, 0x34, 0x02, 0x42, 0x20, 0x1D, 0x8C, 0x40, 0, 0, 0x01, 0xA1}
	require.NoError(t, r.Write(tag.EPC, 0, llrp.BankEPC, 1, append([]byte{0x30, 0}, epc...)))
	tag, err = r.One()
	require.NoError(t, err)
	require.Equal(t, "3034024220 1D8C40000001A1", tag.Hex()[:10]+" "+tag.Hex()[10:])
	require.NoError(t, r.Write(epc, 0, llrp.BankUser, 0, []byte("kelp")))
	got, err := r.Read(epc, 0, llrp.BankUser, 0, 2)
	require.NoError(t, err)
	require.Equal(t, "kelp", string(got))
	tid, err := r.Read(epc, 0, llrp.BankTID, 0, 6)
	require.NoError(t, err)
	require.Equal(t, c.TID, tid)
	require.NoError(t, r.Write(epc, 0, llrp.BankReserved, 2, []byte{0, 0, 0, 7}))
	require.NoError(t, r.Lock(epc, 7, llrp.LockReadWrite, llrp.FieldEPC, llrp.FieldAccess))
	var told *llrp.TagError
	require.ErrorAs(t, r.Write(epc, 0, llrp.BankEPC, 2, epc), &told)
	require.Equal(t, "The access password is wrong.", told.Text)
	require.NoError(t, r.Write(epc, 7, llrp.BankEPC, 2, epc))
	require.NoError(t, r.Lock(epc, 7, llrp.LockForGood, llrp.FieldEPC))
	require.ErrorContains(t, r.Write(epc, 7, llrp.BankEPC, 2, epc), "The memory is locked.")
	require.ErrorContains(t, r.Write(epc, 7, llrp.BankUser, 2, make([]byte, 40)), "The tag has less memory.")
	_, err = r.Read(epc, 0, llrp.BankReserved, 2, 2)
	require.ErrorContains(t, err, "The memory is locked.")
	got, err = r.Read(epc, 7, llrp.BankReserved, 2, 2)
	require.NoError(t, err)
	require.Equal(t, []byte{0, 0, 0, 7}, got)
	_, err = r.Read(epc, 8, llrp.BankUser, 0, 2)
	require.ErrorContains(t, err, "The access password is wrong.")
	require.NoError(t, r.Write(epc, 7, llrp.BankReserved, 0, []byte{0, 0, 0, 9}))
	require.NoError(t, r.Lock(epc, 7, llrp.LockForGood, llrp.FieldKill))
	require.ErrorContains(t, r.Write(epc, 7, llrp.BankReserved, 0, []byte{0, 0, 0, 9}), "The memory is locked.")
	_, err = r.Read(epc, 7, llrp.BankUser, 0, 40)
	require.ErrorContains(t, err, "The tag has less memory.")
	require.ErrorIs(t, r.Write([]byte{1, 2}, 0, llrp.BankUser, 0, []byte("no")), llrp.ErrNoTag, "another tag")
}

func TestWhatIsUnderTheHead(t *testing.T) {
	none := dial(t)
	for range 2 { // a wait that ended does not end the next
		_, err := none.One()
		require.ErrorIs(t, err, llrp.ErrNoTag)
	}
	_, err := dial(t, chip(), chip()).One()
	require.ErrorIs(t, err, llrp.ErrTwo)
	weak := chip()
	weak.Weak = true
	r := dial(t, weak)
	tag, err := r.One()
	require.NoError(t, err)
	require.ErrorContains(t, r.Write(tag.EPC, 0, llrp.BankEPC, 2, []byte{1, 2}), "too weak")
}

func TestWhatAnswersThatIsNoReader(t *testing.T) {
	for _, says := range [][]byte{nil, []byte("HTTP/1.1 400 Bad Request\r\n\r\n"), {4, 1, 0, 0, 0, 10, 0, 0, 0, 0}} {
		listener, err := net.Listen("tcp", "127.0.0.1:0")
		require.NoError(t, err)
		go func() {
			conn, err := listener.Accept()
			if err == nil {
				_, _ = conn.Write(says)
				_ = conn.Close()
			}
		}()
		_, err = llrp.Dial(context.Background(), &net.Dialer{}, listener.Addr().String())
		require.Error(t, err)
		require.NoError(t, listener.Close())
	}
}

// What comes over the wire is never trusted.
func FuzzReadMessage(f *testing.F) {
	var m bytes.Buffer
	require.NoError(f, (&llrp.Message{Version: 2, Type: llrp.ROAccessReport, ID: 7,
		Body: []byte{0, 240, 0, 4}}).Write(&m))
	f.Add(m.Bytes())
	f.Fuzz(func(t *testing.T, data []byte) {
		m, err := llrp.ReadMessage(bytes.NewReader(data))
		if err == nil {
			var out bytes.Buffer
			require.NoError(t, m.Write(&out))
			require.Equal(t, data[2:out.Len()], out.Bytes()[2:])
		}
	})
}
