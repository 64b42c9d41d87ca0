package standin_test

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"net"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/internal/demo"
	"oddspool/internal/llrp"
	"oddspool/standin"
)

func crateLine(t *testing.T, folder, at string) *standin.Server {
	for _, d := range demo.Devices() {
		if d.Printer.Name == "Crate line" {
			s, err := standin.Start(standin.Config{Printer: d.Printer, Stock: d.Stock, Folder: folder}, at)
			require.NoError(t, err)
			return s
		}
	}
	t.Fatal("there is no Crate line")
	return nil
}

func reader(t *testing.T, s *standin.Server) *llrp.Reader {
	r, err := llrp.Dial(context.Background(), &net.Dialer{}, strings.TrimPrefix(s.Encoder(), "llrp://"))
	require.NoError(t, err)
	return r
}

// What was written into a chip is there when the printer is switched on again, at the same address.
func TestChipsOutliveARestart(t *testing.T) {
	folder := t.TempDir()
	s := crateLine(t, folder, "")
	r := reader(t, s)
	tag, err := r.One()
	require.NoError(t, err)
	epc := bytes.Repeat([]byte{0x30, 0x34}, 6)
	require.NoError(t, r.Write(tag.EPC, 0, llrp.BankEPC, 1, append([]byte{0x30, 0}, epc...)))
	address := s.Encoder()
	require.NoError(t, r.Close())
	require.NoError(t, s.Close())
	again := crateLine(t, folder, s.Addr)
	t.Cleanup(func() { _ = again.Close() })
	require.Equal(t, address, again.Encoder())
	r = reader(t, again)
	tag, err = r.One()
	require.NoError(t, err)
	require.Equal(t, epc, tag.EPC)
	require.NoError(t, r.Close())
}

func TestTagsAreToldAndSpoiledOverTheWeb(t *testing.T) {
	s := crateLine(t, "", "")
	t.Cleanup(func() { _ = s.Close() })
	ask := func(method, body string) (int, string) {
		request, err := http.NewRequest(method, "http://"+s.Addr+"/tags", strings.NewReader(body))
		require.NoError(t, err)
		response, err := http.DefaultClient.Do(request)
		require.NoError(t, err)
		defer response.Body.Close()
		text, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		return response.StatusCode, string(text)
	}
	code, text := ask("GET", "")
	require.Equal(t, 200, code)
	var tags []standin.TagOut
	require.NoError(t, json.Unmarshal([]byte(text), &tags))
	require.Empty(t, tags, "nothing came out yet")
	code, _ = ask("POST", `{"1": "two"}`)
	require.Equal(t, 200, code)
	_, err := reader(t, s).One()
	require.ErrorIs(t, err, llrp.ErrTwo)
	code, text = ask("POST", "kelp")
	require.Equal(t, 400, code)
	require.Contains(t, text, "this takes JSON")
	require.Error(t, s.PutUnderHead(7))

	plain, err := standin.Start(standin.Config{Printer: demo.Devices()[0].Printer, Stock: demo.Devices()[0].Stock}, "")
	require.NoError(t, err)
	t.Cleanup(func() { _ = plain.Close() })
	require.Empty(t, plain.Encoder())
	require.Empty(t, plain.Tags())
	require.Error(t, plain.PutUnderHead(1))
	response, err := http.Get("http://" + plain.Addr + "/tags")
	require.NoError(t, err)
	require.NoError(t, response.Body.Close())
	require.Equal(t, 404, response.StatusCode)
}
