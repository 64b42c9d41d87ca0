package runs_test

import (
	"fmt"
	"net"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/internal/api"
	"oddspool/internal/mail"
	"oddspool/internal/server"
	"oddspool/standin"
)

func TestLabelsGoByMail(t *testing.T) {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	folder := t.TempDir()
	box, err := standin.OpenMailbox(listener, folder)
	require.NoError(t, err)
	t.Cleanup(func() { _ = box.Close() })
	sender, err := mail.NewSender("smtp://"+listener.Addr().String(), "oddspool@brinewick.example")
	require.NoError(t, err)
	s := newSiteWith(t, server.Options{Mail: sender})
	s.SignIn()
	var run api.Run
	require.Equal(t, 200, s.Do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2}`, &run))
	path := fmt.Sprintf("/api/runs/%d/labels/mail", run.Id)
	require.Equal(t, 204, s.Do("POST", path, map[string]string{"to": "dock2@brinewick.example", "format": "pdf",
		"labels": "1-3"}, nil))
	kept, err := filepath.Glob(filepath.Join(folder, "*.eml"))
	require.NoError(t, err)
	require.Len(t, kept, 1)
	data, err := os.ReadFile(kept[0])
	require.NoError(t, err)
	require.Contains(t, string(data), "3 labels of run")
	require.Contains(t, s.Problem(502, "POST", path, map[string]string{"to": "nobody@brinewick.example",
		"format": "pdf"}), "550 There is no mailbox")
	require.Contains(t, s.Problem(422, "POST", path, map[string]string{"to": "=1/0", "format": "pdf"}), "is no address",
		"the mail server is not asked")
	require.Contains(t, s.Problem(422, "POST", path, map[string]string{"to": "a@b.example", "format": "pdf",
		"labels": "900"}), "numbers from 1 to")

	plain := newSite(t)
	plain.SignIn()
	require.Contains(t, plain.Problem(422, "POST", "/api/runs/1/labels/mail",
		map[string]string{"to": "a@b.example", "format": "pdf"}), "knows no mail server")
}
