package llrp

import (
	"bufio"
	"context"
	"encoding/binary"
	"encoding/hex"
	"errors"
	"fmt"
	"net"
	"os"
	"slices"
	"strings"
	"time"
)

// A Tag is one that a reader sees.
type Tag struct {
	EPC  []byte
	PC   uint16
	RSSI int // dBm at most; 0: not told
}

// Hex returns the identifier in hexadecimal digits.
func (t *Tag) Hex() string { return strings.ToUpper(hex.EncodeToString(t.EPC)) }

// A TagError says what a tag did not let be done.
type TagError struct{ Text string }

func (e *TagError) Error() string { return e.Text }

// A ReaderError says that a reader refuses something.
type ReaderError struct{ Text string }

func (e *ReaderError) Error() string { return e.Text }

// ErrVoid says that no tag, or more than one, is where one should be.
var (
	ErrNoTag = &TagError{"No tag answers under the head."}
	ErrTwo   = &TagError{"More than one tag answers under the head."}
)

// A Reader is a connection to one. It is not safe for concurrent use.
type Reader struct {
	conn     net.Conn
	in       *bufio.Reader
	version  int
	next     uint32
	specs    uint32
	tellsEnd bool // of a look
}

// How long a reader is waited for, and how long it looks for tags.
const (
	answerTime = 5 * time.Second
	lookTime   = 200                    // milliseconds
	lateTime   = 100 * time.Millisecond // for what a reader reports after it told the end of a look, until it is asked
	silentTime = 3 * time.Second        // for the report of a reader that tells no end
	roSpec     = 1
	looked     = 2 // the type of an event: a look began or ended (LLRP 1.1, 13.1.6.4)
	lookEnded  = 1
)

// Dial connects to a reader at a host and port. A dialer bounds where to.
func Dial(ctx context.Context, dialer *net.Dialer, address string) (*Reader, error) {
	conn, err := dialer.DialContext(ctx, "tcp", address)
	if err != nil {
		return nil, err
	}
	r := &Reader{conn: conn, in: bufio.NewReader(conn), version: 1}
	if err := r.begin(); err != nil {
		conn.Close()
		return nil, err
	}
	return r, nil
}

// Close ends the connection.
func (r *Reader) Close() error {
	_ = r.send(CloseConnection, nil)
	return r.conn.Close()
}

// begin takes the reader's greeting, agrees on a version, and clears what another client left there.
func (r *Reader) begin() error {
	_ = r.conn.SetReadDeadline(time.Now().Add(answerTime))
	hello, err := ReadMessage(r.in)
	if err != nil {
		return fmt.Errorf("the reader says nothing: %w", err)
	}
	if hello.Type != ReaderEventNotification {
		return &ReaderError{"What answers there is no reader of tags."}
	}
	if event, err := event(hello, pConnectionEvent); err != nil {
		return err
	} else if event != nil && u16(event.data, 0) != 0 {
		return &ReaderError{"The reader is in somebody else's hands."}
	}
	if answer, err := r.ask(GetSupportedVersion, GetSupportedVersionResponse, nil); err == nil &&
		len(answer.Body) >= 2 && answer.Body[1] >= 2 {
		r.version = 2 // LLRP 1.1
		if _, err := r.ask(SetProtocolVersion, SetProtocolVersionResponse, []byte{2}); err != nil {
			return err
		}
	} else if err != nil && !isReaderError(err) && !errors.Is(err, os.ErrDeadlineExceeded) {
		// one of LLRP 1.0.1 does not know the question, or is silent
		return err
	}
	for _, all := range [][2]int{{DeleteAccessSpec, DeleteAccessSpecResponse}, {DeleteROSpec, DeleteROSpecResponse}} {
		if _, err := r.ask(all[0], all[1], []byte{0, 0, 0, 0}); err != nil {
			return err
		}
	}
	// A reader need not report a look in which nothing answered; so its end is asked for, which most can tell.
	tell := field(pNotifications, field(pNotification, uint16(looked), uint8(1<<7)))
	if _, err := r.ask(SetReaderConfig, SetReaderConfigResponse, append([]byte{0}, tell...)); err == nil {
		r.tellsEnd = true
	} else if !isReaderError(err) {
		return err
	}
	if _, err := r.ask(AddROSpec, AddROSpecResponse, r.inventory()); err != nil {
		return err
	}
	_, err = r.ask(EnableROSpec, EnableROSpecResponse, binary.BigEndian.AppendUint32(nil, roSpec))
	return err
}

func isReaderError(err error) bool {
	told := new(ReaderError)
	return errors.As(err, &told)
}

// event returns what a notification says of a kind of event; nil: it says nothing of it.
func event(m Message, kind int) (*param, error) {
	all, err := params(m.Body)
	if err != nil {
		return nil, err
	}
	data := find(all, pEventData)
	if data == nil {
		return nil, nil
	}
	events, err := data.within(0)
	return find(events, kind), err
}

// inventory is a look for tags with all antennas for a while, reported at its end (LLRP 1.1, 11.2).
func (r *Reader) inventory() []byte {
	selector := uint16(1<<12 | 1<<10)                         // antenna, and the strongest answer
	return field(pROSpec, uint32(roSpec), uint8(0), uint8(0), // disabled
		field(pROBoundarySpec, field(pROSpecStart, uint8(0)), field(pROSpecStop, uint8(0), uint32(0))),
		field(pAISpec, uint16(1), uint16(0), field(pAISpecStop, uint8(1), uint32(lookTime)),
			field(pInventory, uint16(1), uint8(1))),
		field(pROReportSpec, uint8(1), uint16(0),
			field(pContentSelector, selector, field(pC1G2EPCSelector, uint8(1<<6)))))
}

func (r *Reader) send(kind int, body []byte) error {
	r.next++
	_ = r.conn.SetWriteDeadline(time.Now().Add(answerTime))
	m := Message{r.version, kind, r.next, body}
	return m.Write(r.conn)
}

// ask sends a message and waits for its answer, whose status must be well.
func (r *Reader) ask(kind, answer int, body []byte) (m Message, err error) {
	if err := r.send(kind, body); err != nil {
		return m, err
	}
	if m, err = r.await(answer); err != nil {
		return m, err
	}
	at := m.Body
	if answer == GetSupportedVersionResponse && len(at) >= 2 {
		at = at[2:]
	}
	return m, status(at)
}

// await waits for a message of a kind. Keep-alives are answered, and other events passed over.
func (r *Reader) await(kind int) (m Message, err error) {
	return r.awaitAny(answerTime, kind)
}

// awaitAny waits some time for a message of one of the kinds.
func (r *Reader) awaitAny(most time.Duration, kinds ...int) (m Message, err error) {
	until := time.Now().Add(most)
	for {
		_ = r.conn.SetReadDeadline(until)
		if _, err := r.in.Peek(1); err != nil {
			return m, err
		}
		_ = r.conn.SetReadDeadline(time.Now().Add(answerTime)) // one that has begun is read to its end
		m, err := ReadMessage(r.in)
		switch {
		case err != nil || slices.Contains(kinds, m.Type):
			return m, err
		case m.Type == KeepAlive:
			if err := r.send(KeepAliveAck, nil); err != nil {
				return m, err
			}
		case m.Type == ErrorMessage:
			if err := status(m.Body); err != nil {
				return m, err
			}
			return m, &ReaderError{"The reader does not know what it is asked."}
		}
	}
}

// status is what an answer says of itself (LLRP 1.1, 14.2.2).
func status(body []byte) error {
	all, err := params(body)
	if err != nil {
		return err
	}
	s := find(all, pStatus)
	if s == nil || u16(s.data, 0) == 0 {
		return nil
	}
	text := fmt.Sprintf("The reader refuses with code %d", u16(s.data, 0))
	if n := u16(s.data, 2); len(s.data) >= 4+n && n > 0 {
		text += ": " + string(s.data[4:4+n])
	}
	return &ReaderError{text + "."}
}
