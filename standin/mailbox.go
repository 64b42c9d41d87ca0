package standin

import (
	"fmt"
	"io"
	"net"
	"os"
	"path/filepath"
	"strings"
	"sync/atomic"
	"time"

	"github.com/emersion/go-smtp"
)

// A Mailbox stands in for a plant's mail server: it takes every mail, but for nobody@…, and keeps it as a file.
type Mailbox struct {
	folder string
	n      atomic.Int64
	server *smtp.Server
}

// OpenMailbox answers on a listener until Close, and keeps mails in a folder.
func OpenMailbox(listener net.Listener, folder string) (*Mailbox, error) {
	if err := os.MkdirAll(folder, 0o755); err != nil {
		return nil, fmt.Errorf("the mailbox's folder: %w", err)
	}
	m := &Mailbox{folder: folder}
	m.server = smtp.NewServer(m)
	m.server.Domain, m.server.MaxMessageBytes, m.server.ReadTimeout, m.server.WriteTimeout = "brinewick.example",
		64<<20, time.Minute, time.Minute
	go func() { _ = m.server.Serve(listener) }()
	return m, nil
}

// Close ends it.
func (m *Mailbox) Close() error { return m.server.Close() }

// NewSession implements smtp.Backend.
func (m *Mailbox) NewSession(*smtp.Conn) (smtp.Session, error) { return &mailSession{m}, nil }

type mailSession struct{ box *Mailbox }

// Mail implements smtp.Session.
func (*mailSession) Mail(string, *smtp.MailOptions) error { return nil }

// Rcpt implements smtp.Session.
func (*mailSession) Rcpt(to string, _ *smtp.RcptOptions) error {
	if strings.HasPrefix(to, "nobody@") {
		return &smtp.SMTPError{Code: 550, Message: "There is no mailbox " + to}
	}
	return nil
}

// Data implements smtp.Session.
func (s *mailSession) Data(r io.Reader) error {
	file, err := os.Create(filepath.Join(s.box.folder, fmt.Sprintf("%s-%d.eml", time.Now().Format("2006-01-02T150405"),
		s.box.n.Add(1))))
	if err != nil {
		return err
	}
	defer file.Close()
	_, err = io.Copy(file, r)
	return err
}

// Reset implements smtp.Session.
func (*mailSession) Reset() {}

// Logout implements smtp.Session.
func (*mailSession) Logout() error { return nil }
