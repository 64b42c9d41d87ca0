package llrp

import (
	"encoding/binary"
	"net"
	"slices"
	"time"
)

// A Chip is a tag as a stand-in has it.
type Chip struct {
	TID    []byte `json:"tid"`
	EPC    []byte `json:"epc"` // protocol-control word, then room for the identifier
	User   []byte `json:"user"`
	Access uint32 `json:"access,omitempty"`
	Kill   uint32 `json:"kill,omitempty"`
	Weak   bool   `json:"weak,omitempty"` // it answers, and cannot be written
	Locked [5]int `json:"locked"`         // by field: 0 open, 1 with the password, 2 for good
}

// identifier returns what the chip calls itself.
func (c *Chip) identifier() []byte {
	n := 2 * int(c.EPC[0]>>3)
	return c.EPC[2:min(2+n, len(c.EPC))]
}

// A Field is where a stand-in reader's antenna is: it gives the chips that are there now to what is done with them, one
// after the other.
type Field interface {
	With(do func(chips []*Chip))
}

// Serve stands in for a reader of one client, until the connection ends.
func Serve(conn net.Conn, field Field) {
	s := &served{conn: conn, field: field, version: 1}
	s.hello()
	for {
		m, err := ReadMessage(conn)
		if err != nil || !s.answer(m) {
			return
		}
	}
}

type served struct {
	conn    net.Conn
	field   Field
	version int
	ready   bool    // there is a look that is enabled
	spec    []param // what is to be done to a tag, when one answers
	enabled bool
	specID  uint32
	tellEnd bool // of a look
}

func (s *served) send(kind int, id uint32, body []byte) {
	m := Message{s.version, kind, id, body}
	_ = m.Write(s.conn)
}

func (s *served) hello() {
	s.send(ReaderEventNotification, 0, field(pEventData, now(), field(pConnectionEvent, uint16(0))))
}

func now() []byte { return field(pUTCTimestamp, uint64(time.Now().UnixMicro())) }

func okStatus() []byte { return field(pStatus, uint16(0), uint16(0)) }

func refusal(code int, text string) []byte {
	return field(pStatus, uint16(code), uint16(len(text)), []byte(text))
}

// answer answers a message; false: the client is done.
func (s *served) answer(m Message) bool {
	const missing, wrong = 101, 401 // M_MissingParameter, A_Invalid (LLRP 1.1, 14.2.1)
	switch m.Type {
	case GetSupportedVersion:
		s.send(GetSupportedVersionResponse, m.ID, append([]byte{byte(s.version), 2}, okStatus()...))
	case SetProtocolVersion:
		s.send(SetProtocolVersionResponse, m.ID, okStatus())
		s.version = 2
	case AddROSpec:
		s.send(AddROSpecResponse, m.ID, okStatus())
	case EnableROSpec:
		s.ready = true
		s.send(EnableROSpecResponse, m.ID, okStatus())
	case DeleteROSpec:
		s.ready = false
		s.send(DeleteROSpecResponse, m.ID, okStatus())
	case StartROSpec:
		if !s.ready {
			s.send(StartROSpecResponse, m.ID, refusal(wrong, "there is no such ROSpec"))
			return true
		}
		s.send(StartROSpecResponse, m.ID, okStatus())
		if report := s.look(); len(report) > 0 { // nothing is reported where nothing answers
			s.send(ROAccessReport, 0, report)
		}
		if s.tellEnd {
			s.send(ReaderEventNotification, 0,
				field(pEventData, now(), field(pROSpecEvent, uint8(lookEnded), uint32(roSpec), uint32(0))))
		}
	case SetReaderConfig:
		all, err := params(m.Body[min(1, len(m.Body)):])
		if err != nil {
			s.send(SetReaderConfigResponse, m.ID, refusal(missing, "a parameter breaks off"))
			return true
		}
		if told := find(all, pNotifications); told != nil {
			states, _ := told.within(0)
			for _, state := range states {
				if state.kind == pNotification && u16(state.data, 0) == looked && len(state.data) == 3 {
					s.tellEnd = state.data[2]>>7 == 1
				}
			}
		}
		s.send(SetReaderConfigResponse, m.ID, okStatus())
	case GetReport: // all was reported
	case GetROSpecs:
		s.send(GetROSpecsResponse, m.ID, okStatus())
	case AddAccessSpec:
		all, err := params(m.Body)
		if err != nil || len(all) != 1 || len(all[0].data) < 4 {
			s.send(AddAccessSpecResponse, m.ID, refusal(missing, "an AccessSpec is missing"))
			return true
		}
		inside, err := all[0].within(12)
		command := find(inside, pAccessCommand)
		if err != nil || command == nil {
			s.send(AddAccessSpecResponse, m.ID, refusal(missing, "an AccessCommand is missing"))
			return true
		}
		s.spec, _ = command.within(0)
		s.specID, s.enabled = binary.BigEndian.Uint32(all[0].data), false
		s.send(AddAccessSpecResponse, m.ID, okStatus())
	case EnableAccessSpec:
		s.enabled = true
		s.send(EnableAccessSpecResponse, m.ID, okStatus())
	case DeleteAccessSpec:
		s.spec, s.enabled = nil, false
		s.send(DeleteAccessSpecResponse, m.ID, okStatus())
	case CloseConnection:
		s.send(CloseConnectionResponse, m.ID, okStatus())
		return false
	default:
		s.send(ErrorMessage, m.ID, refusal(109, "unsupported message")) // M_UnsupportedMessage
	}
	return true
}

// look reports the chips that answer, and does to the one that is meant what is to be done.
func (s *served) look() (report []byte) {
	s.field.With(func(chips []*Chip) {
		for _, c := range chips {
			epc := slices.Clone(c.identifier())
			parts := []any{}
			if len(epc) == 12 {
				parts = append(parts, field(pEPC96, epc))
			} else {
				parts = append(parts, field(pEPCData, uint16(8*len(epc)), epc))
			}
			parts = append(parts, field(pAntennaID, uint16(1)), field(pPeakRSSI, uint8(0xd0)),
				field(pC1G2PC, slices.Clone(c.EPC[:2])))
			if s.enabled && s.isSelected(c) {
				for _, op := range s.spec {
					if result := c.do(op); result != nil {
						parts = append(parts, result)
					}
				}
			}
			report = append(report, field(pTagReportData, parts...)...)
		}
	})
	return report
}

// isSelected tells whether what is to be done is for a chip.
func (s *served) isSelected(c *Chip) bool {
	spec := find(s.spec, pC1G2TagSpec)
	if spec == nil {
		return true
	}
	targets, err := spec.within(0)
	if err != nil {
		return false
	}
	target := find(targets, pC1G2TargetTag)
	if target == nil || len(target.data) < 5 {
		return true
	}
	pointer, n := u16(target.data, 1)/8, u16(target.data, 3)/8
	data := target.data[min(5+n+2, len(target.data)):]
	memory := append([]byte{0, 0}, c.EPC...) // its check word comes first
	return pointer+n <= len(memory) && len(data) >= n && slices.Equal(memory[pointer:pointer+n], data[:n])
}

// bank returns a bank of the chip from its first word on, and which field of locks a word of it is of.
func (c *Chip) bank(n, word int) (memory []byte, from, lock int) {
	switch n {
	case BankEPC:
		return c.EPC, 2, FieldEPC // its check word lies before, and is the chip's own
	case BankTID:
		return c.TID, 0, 3
	case BankUser:
		return c.User, 0, FieldUser
	}
	both := binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, c.Kill), c.Access)
	if word < 2 {
		return both, 0, FieldKill
	}
	return both, 0, FieldAccess
}

// do does one thing, and returns its result; nil: it is none that is done.
func (c *Chip) do(op param) []byte {
	if len(op.data) < 6 {
		return nil
	}
	id, access := uint16(u16(op.data, 0)), binary.BigEndian.Uint32(op.data[2:])
	knows := access == c.Access
	wrong := access != 0 && !knows // a chip falls silent at a password that is not its own, one without a password too
	switch op.kind {
	case pC1G2Read:
		memory, from, lock := c.bank(int(op.data[6]>>6), u16(op.data, 7))
		at, n := 2*u16(op.data, 7)-from, 2*u16(op.data, 9)
		switch {
		case wrong:
			return field(pC1G2ReadResult, uint8(6), id, uint16(0))
		case at < 0 || at+n > len(memory):
			return field(pC1G2ReadResult, uint8(4), id, uint16(0))
		case lock <= FieldAccess && (c.Locked[lock] == 2 || c.Locked[lock] == 1 && !knows):
			// passwords that are locked are not read
			return field(pC1G2ReadResult, uint8(5), id, uint16(0))
		}
		return field(pC1G2ReadResult, uint8(0), id, words(memory[at:at+n]))
	case pC1G2Write:
		return field(pC1G2WriteResult, uint8(c.write(op, knows, wrong)), id, uint16(u16(op.data, 9)))
	case pC1G2Lock:
		code := 0
		payloads, err := params(op.data[6:])
		switch {
		case err != nil || !knows:
			code = 5
		case c.Weak:
			code = 1
		}
		for _, p := range payloads {
			if code == 0 && len(p.data) == 2 && int(p.data[1]) < len(c.Locked) && c.Locked[p.data[1]] == 2 {
				code = 7 // what is locked for good is not locked anew
			}
			if code == 0 && p.kind == pC1G2LockPayload && len(p.data) == 2 && int(p.data[1]) < len(c.Locked) {
				c.Locked[p.data[1]] = map[byte]int{LockReadWrite: 1, LockForGood: 2}[p.data[0]]
			}
		}
		return field(pC1G2LockResult, uint8(code), id)
	}
	return nil
}

// write writes words, and returns the code of what came of it.
func (c *Chip) write(op param, knows, wrong bool) int {
	bank := int(op.data[6] >> 6)
	memory, from, lock := c.bank(bank, u16(op.data, 7))
	at, n := 2*u16(op.data, 7)-from, 2*u16(op.data, 9)
	switch {
	case len(op.data) < 11+n || at < 0 || at+n > len(memory) || bank == BankTID:
		return 1
	case c.Locked[lock] == 2:
		return 2
	case wrong || c.Locked[lock] == 1 && !knows:
		return 7
	case c.Weak:
		return 3
	}
	copy(memory[at:], op.data[11:11+n])
	if bank == BankReserved {
		c.Kill, c.Access = binary.BigEndian.Uint32(memory), binary.BigEndian.Uint32(memory[4:])
	}
	return 0
}
