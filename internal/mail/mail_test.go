package mail_test

import (
	"errors"
	"io"
	"net"
	"os"
	"path/filepath"
	"strings"
	"testing"

	gomail "github.com/emersion/go-message/mail"
	"github.com/stretchr/testify/require"

	"oddspool/internal/mail"
	"oddspool/standin"
)

func TestFilesGoByMail(t *testing.T) {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	folder := t.TempDir()
	box, err := standin.OpenMailbox(listener, folder)
	require.NoError(t, err)
	t.Cleanup(func() { _ = box.Close() })
	sender, err := mail.NewSender("smtp://"+listener.Addr().String(), "oddspool@brinewick.example")
	require.NoError(t, err)
	whole := strings.Repeat("kelp ", 100_000)
	write := func(w io.Writer) error {
		_, err := io.WriteString(w, whole)
		return err
	}
	require.NoError(t, sender.Send(t.Context(), "Dock 2 <dock2@brinewick.example>, maren@brinewick.example",
		"Run 7, Käse", "Forty labels.", "run-7.pdf", write))
	kept, err := filepath.Glob(filepath.Join(folder, "*.eml"))
	require.NoError(t, err)
	require.Len(t, kept, 1)
	file, err := os.Open(kept[0])
	require.NoError(t, err)
	defer file.Close()
	message, err := gomail.CreateReader(file)
	require.NoError(t, err)
	subject, err := message.Header.Subject()
	require.NoError(t, err)
	require.Equal(t, "Run 7, Käse", subject)
	words, err := message.NextPart()
	require.NoError(t, err)
	text, err := io.ReadAll(words.Body)
	require.NoError(t, err)
	require.Equal(t, "Forty labels.", string(text))
	attached, err := message.NextPart()
	require.NoError(t, err)
	name, err := attached.Header.(*gomail.AttachmentHeader).Filename()
	require.NoError(t, err)
	require.Equal(t, "run-7.pdf", name)
	data, err := io.ReadAll(attached.Body)
	require.NoError(t, err)
	require.Equal(t, whole, string(data))

	var told *mail.Error
	require.ErrorAs(t, sender.Send(t.Context(), "nobody@brinewick.example", "", "", "x", write), &told)
	require.Contains(t, told.Text, "550 There is no mailbox")
	require.ErrorAs(t, sender.Send(t.Context(), "kelp", "", "", "x", write), &told)
	require.Contains(t, told.Text, "is no address")
	require.ErrorAs(t, sender.Send(t.Context(), "a@b.example", "", "", "x", func(w io.Writer) error {
		for {
			if err := write(w); err != nil {
				return err
			}
		}
	}), &told)
	require.Contains(t, told.Text, "larger than the 25 MB")
	broken := errors.New("broken")
	require.ErrorIs(t, sender.Send(t.Context(), "a@b.example", "", "", "x", func(io.Writer) error { return broken }),
		broken)
	kept, err = filepath.Glob(filepath.Join(folder, "*.eml"))
	require.NoError(t, err)
	require.Len(t, kept, 1, "nothing in part was sent")
	require.NoError(t, box.Close())
	require.ErrorAs(t, sender.Send(t.Context(), "a@b.example", "", "", "x", write), &told)
	require.Contains(t, told.Text, "does not answer")
	for _, wrong := range [][2]string{{"http://x", "a@b.example"}, {"smtp://x", "kelp"}, {"smtp:", "a@b.example"}} {
		_, err := mail.NewSender(wrong[0], wrong[1])
		require.ErrorAs(t, err, &told)
	}
}
