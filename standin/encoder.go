package standin

import (
	"bytes"
	"crypto/rand"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"sync"

	"oddspool/internal/llrp"
)

// Kinds of tags that a roll may have in place of a good one.
const (
	DeadTag   = "dead"   // it does not answer
	WeakTag   = "weak"   // it answers and cannot be written
	LockedTag = "locked" // somebody locked it for good
	TwoTags   = "two"    // the next one answers too

	PasswordTag = "password" // its maker locked it with the password 0000CAFE: it is a good one for who knows that
)

const makersPassword = 0xCAFE

// An encoder is the reader of tags at a printer's web. Each label has a chip; what is in one is kept in a file, so that
// it is the same after a restart.
type encoder struct {
	printer *Printer
	net     net.Listener
	path    string

	mutex sync.Mutex
	chips map[int]*llrp.Chip // by the place of their label on the web, from 1
	kinds map[int]string     // of tags that are not good
	conns map[net.Conn]struct{}
}

// someDistance is how far the reader is from the printer's own port.
const someDistance = 1500

func startEncoder(p *Printer, address string) (*encoder, error) {
	host, port, err := net.SplitHostPort(address)
	if err != nil {
		return nil, err
	}
	n, _ := strconv.Atoi(port)
	if n += someDistance; n > 65535 {
		n -= 2 * someDistance
	}
	listener, err := net.Listen("tcp", net.JoinHostPort(host, strconv.Itoa(n)))
	if err != nil {
		if listener, err = net.Listen("tcp", net.JoinHostPort(host, "0")); err != nil {
			return nil, err
		}
	}
	e := &encoder{printer: p, net: listener, path: filepath.Join(p.folder, "tags.jsonl"), chips: map[int]*llrp.Chip{},
		kinds: map[int]string{}, conns: map[net.Conn]struct{}{}}
	kept, _ := os.ReadFile(e.path) // there is none at first
	for line := range bytes.Lines(kept) {
		var one keptChip
		if json.Unmarshal(line, &one) == nil { // the last line may be cut off
			e.chips[one.Place] = one.Chip
		}
	}
	go e.serve()
	return e, nil
}

type keptChip struct {
	Place int        `json:"place"`
	Chip  *llrp.Chip `json:"chip"`
}

func (e *encoder) serve() {
	for {
		conn, err := e.net.Accept()
		if err != nil {
			return
		}
		e.mutex.Lock()
		e.conns[conn] = struct{}{}
		e.mutex.Unlock()
		go func() {
			llrp.Serve(conn, e)
			_ = conn.Close()
			e.mutex.Lock()
			delete(e.conns, conn)
			e.mutex.Unlock()
		}()
	}
}

func (e *encoder) close() error {
	err := e.net.Close()
	e.mutex.Lock()
	defer e.mutex.Unlock()
	for conn := range e.conns {
		_ = conn.Close()
	}
	return err
}

// chip returns the chip of a place on the web, as it came from its maker where nobody wrote it yet.
func (e *encoder) chip(place int) *llrp.Chip {
	if c := e.chips[place]; c != nil {
		return c
	}
	tid := append([]byte{0xE2, 0x80, 0x11, 0x60}, make([]byte, 8)...)
	_, _ = rand.Read(tid[4:8])
	binary.BigEndian.PutUint32(tid[8:], uint32(place))
	c := &llrp.Chip{TID: tid, EPC: make([]byte, 2+128/8), User: make([]byte, 512/8)}
	binary.BigEndian.PutUint16(c.EPC, 6<<11)
	copy(c.EPC[2:], tid) // makers number them
	switch e.kinds[place] {
	case WeakTag:
		c.Weak = true
	case LockedTag:
		c.Locked[llrp.FieldEPC] = 2
	case PasswordTag:
		c.Access, c.Locked[llrp.FieldEPC] = makersPassword, 1
	}
	e.chips[place] = c
	return c
}

// With implements llrp.Field: what is under the head is the label that comes out next.
func (e *encoder) With(do func(chips []*llrp.Chip)) {
	place := e.printer.Out() + 1
	e.mutex.Lock()
	defer e.mutex.Unlock()
	var chips []*llrp.Chip
	if kind := e.kinds[place]; kind != DeadTag {
		chips = append(chips, e.chip(place))
		if kind == TwoTags {
			chips = append(chips, e.chip(place+1))
		}
	}
	do(chips)
	for _, c := range chips {
		for at, known := range e.chips {
			if known == c {
				e.keep(at, c)
			}
		}
	}
}

func (e *encoder) keep(place int, c *llrp.Chip) {
	line, err := json.Marshal(keptChip{place, c})
	if err != nil {
		return
	}
	file, err := os.OpenFile(e.path, os.O_APPEND|os.O_CREATE|os.O_WRONLY, 0o644)
	if err != nil {
		return
	}
	_, _ = file.Write(append(line, '\n'))
	_ = file.Close()
}

// SetTags says which tags from the next label on are not good: the first is the one under the head.
func (s *Server) SetTags(kinds map[int]string) {
	e := s.encoder
	out := s.Out()
	e.mutex.Lock()
	defer e.mutex.Unlock()
	for n, kind := range kinds {
		delete(e.chips, out+n)
		e.kinds[out+n] = kind
	}
}

// Encoder returns the address of the reader of tags; empty: it has none.
func (s *Server) Encoder() string {
	if s.encoder == nil {
		return ""
	}
	return "llrp://" + s.encoder.net.Addr().String()
}

// A TagOut is the chip of a label that came out, as a reader behind the printer sees it.
type TagOut struct {
	Place int    `json:"place"`
	TID   string `json:"tid"`
	EPC   string `json:"epc"`
	User  string `json:"user"`
	Kind  string `json:"kind"` // empty: a good one

	Access string `json:"access"` // password; empty: none
	Kill   string `json:"kill"`
	// kill password, access password, identifier, TID, user memory: 0 open, 1 with the password, 2 for good
	Locked []int `json:"locked"`
}

// Tags returns the chips of all labels that came out.
func (s *Server) Tags() (tags []TagOut) {
	if s.encoder == nil {
		return nil
	}
	out := s.Out()
	s.encoder.mutex.Lock()
	defer s.encoder.mutex.Unlock()
	for place := 1; place <= out; place++ {
		c := s.encoder.chip(place)
		n := 2 * int(c.EPC[0]>>3)
		tags = append(tags, TagOut{place, fmt.Sprintf("%X", c.TID), fmt.Sprintf("%X", c.EPC[2:min(2+n, len(c.EPC))]),
			string(bytes.TrimRight(c.User, "\x00")), s.encoder.kinds[place], password(c.Access), password(c.Kill),
			slices.Clone(c.Locked[:])})
	}
	return tags
}

func password(of uint32) string {
	if of == 0 {
		return ""
	}
	return fmt.Sprintf("%08X", of)
}

// serveTags tells what the chips of labels that came out say, and takes which of those to come are not good.
func (s *Server) serveTags(w http.ResponseWriter, r *http.Request) {
	if s.encoder == nil {
		http.Error(w, "this printer writes no tags", http.StatusNotFound)
		return
	}
	if r.Method == http.MethodPost {
		var kinds map[int]string
		if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, 1<<16)).Decode(&kinds); err != nil {
			http.Error(w, "this takes JSON such as {\"1\": \"dead\"}", http.StatusBadRequest)
			return
		}
		s.SetTags(kinds)
	}
	writeJSON(w, append([]TagOut{}, s.Tags()...))
}

// PutUnderHead puts a label that came out under the head again, as a person does to read it; it goes with the next
// label.
func (s *Server) PutUnderHead(place int) error {
	e := s.encoder
	if e == nil {
		return fmt.Errorf("this printer writes no tags")
	}
	next := s.Out() + 1
	e.mutex.Lock()
	defer e.mutex.Unlock()
	c := e.chips[place]
	if c == nil {
		return fmt.Errorf("no label came out at place %d", place)
	}
	e.chips[next] = c
	delete(e.kinds, next)
	return nil
}
