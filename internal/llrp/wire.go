// Package llrp speaks the Low Level Reader Protocol (EPCglobal LLRP 1.1) with readers that find, write, lock and read
// RFID tags: as much of it as a label printer's encoder needs.
package llrp

import (
	"encoding/binary"
	"errors"
	"fmt"
	"io"
)

// Types of messages (LLRP 1.1, 17.1).
const (
	GetSupportedVersion         = 46
	GetSupportedVersionResponse = 56
	SetProtocolVersion          = 47
	SetProtocolVersionResponse  = 57
	AddROSpec                   = 20
	AddROSpecResponse           = 30
	DeleteROSpec                = 21
	DeleteROSpecResponse        = 31
	StartROSpec                 = 22
	StartROSpecResponse         = 32
	EnableROSpec                = 24
	EnableROSpecResponse        = 34
	AddAccessSpec               = 40
	AddAccessSpecResponse       = 50
	DeleteAccessSpec            = 41
	DeleteAccessSpecResponse    = 51
	EnableAccessSpec            = 42
	EnableAccessSpecResponse    = 52
	ROAccessReport              = 61
	KeepAlive                   = 62
	KeepAliveAck                = 72
	ReaderEventNotification     = 63
	ErrorMessage                = 100
	CloseConnection             = 14
	CloseConnectionResponse     = 4
	SetReaderConfig             = 3
	SetReaderConfigResponse     = 13
	GetReport                   = 60
	GetROSpecs                  = 26
	GetROSpecsResponse          = 36
)

// Types of parameters (LLRP 1.1, 17.2); those below 128 have a fixed length.
const (
	pAntennaID        = 1
	pPeakRSSI         = 6
	pROSpecID         = 9
	pC1G2PC           = 12
	pEPC96            = 13
	pOpSpecID         = 17
	pUTCTimestamp     = 128
	pROSpec           = 177
	pROBoundarySpec   = 178
	pROSpecStart      = 179
	pROSpecStop       = 182
	pAISpec           = 183
	pAISpecStop       = 184
	pInventory        = 186
	pAccessSpec       = 207
	pAccessSpecStop   = 208
	pAccessCommand    = 209
	pROReportSpec     = 237
	pContentSelector  = 238
	pAccessReportSpec = 239
	pTagReportData    = 240
	pEPCData          = 241
	pNotifications    = 244
	pNotification     = 245
	pEventData        = 246
	pROSpecEvent      = 249
	pConnectionEvent  = 256
	pStatus           = 287
	pC1G2TagSpec      = 338
	pC1G2TargetTag    = 339
	pC1G2Read         = 341
	pC1G2Write        = 342
	pC1G2Lock         = 344
	pC1G2LockPayload  = 345
	pC1G2EPCSelector  = 348
	pC1G2ReadResult   = 349
	pC1G2WriteResult  = 350
	pC1G2LockResult   = 352
)

// fixedLengths are those of parameters of a fixed length, without their type (LLRP 1.1, 17.2.2).
var fixedLengths = map[int]int{1: 2, 2: 8, 3: 8, 4: 8, 5: 8, 6: 1, 7: 2, 8: 2, 9: 4, 10: 2, 11: 2, 12: 2, 13: 12, 14: 2,
	15: 2, 16: 4, 17: 2, 18: 4, 19: 2, 20: 2}

// Banks of a tag's memory (EPC UHF Gen2, 6.3.2.1).
const (
	BankReserved = 0
	BankEPC      = 1
	BankTID      = 2
	BankUser     = 3
)

// A Message is one message with its parameters as they lie.
type Message struct {
	Version int // 1: LLRP 1.0.1; 2: LLRP 1.1
	Type    int
	ID      uint32
	Body    []byte
}

const (
	headBytes = 10
	mostBytes = 1 << 20 // of a message: a reader's report of many tags has some kilobytes
)

// ReadMessage reads one message.
func ReadMessage(r io.Reader) (m Message, err error) {
	var head [headBytes]byte
	if _, err := io.ReadFull(r, head[:]); err != nil {
		return m, err
	}
	first := binary.BigEndian.Uint16(head[:])
	length := binary.BigEndian.Uint32(head[2:])
	if length < headBytes || length > mostBytes {
		return m, fmt.Errorf("llrp: a message of %d bytes", length)
	}
	m = Message{Version: int(first >> 10 & 7), Type: int(first & 0x3ff), ID: binary.BigEndian.Uint32(head[6:]),
		Body: make([]byte, length-headBytes)}
	if _, err := io.ReadFull(r, m.Body); err != nil {
		return m, fmt.Errorf("llrp: a message breaks off: %w", err)
	}
	return m, nil
}

// Write writes the message.
func (m *Message) Write(w io.Writer) error {
	data := make([]byte, headBytes, headBytes+len(m.Body))
	binary.BigEndian.PutUint16(data, uint16(m.Version&7)<<10|uint16(m.Type&0x3ff))
	binary.BigEndian.PutUint32(data[2:], uint32(headBytes+len(m.Body)))
	binary.BigEndian.PutUint32(data[6:], m.ID)
	_, err := w.Write(append(data, m.Body...))
	return err
}

// A param is one parameter: its own fields, and those within it where they are known to have any.
type param struct {
	kind int
	data []byte // behind its head
}

var errShort = errors.New("llrp: a parameter breaks off")

// params takes parameters one after the other.
func params(data []byte) (all []param, err error) {
	for len(data) > 0 {
		if data[0]&0x80 != 0 {
			kind := int(data[0] & 0x7f)
			length, known := fixedLengths[kind]
			if !known || len(data) < 1+length {
				return all, errShort
			}
			all = append(all, param{kind, data[1 : 1+length]})
			data = data[1+length:]
			continue
		}
		if len(data) < 4 {
			return all, errShort
		}
		kind, length := int(binary.BigEndian.Uint16(data)&0x3ff), int(binary.BigEndian.Uint16(data[2:]))
		if length < 4 || length > len(data) {
			return all, errShort
		}
		all = append(all, param{kind, data[4:length]})
		data = data[length:]
	}
	return all, nil
}

// within returns the parameters that stand in a parameter behind so many bytes of its own.
func (p *param) within(own int) ([]param, error) {
	if len(p.data) < own {
		return nil, errShort
	}
	return params(p.data[own:])
}

func find(all []param, kind int) *param {
	for i := range all {
		if all[i].kind == kind {
			return &all[i]
		}
	}
	return nil
}

// field makes a parameter: numbers of 1, 2, 4 or 8 bytes, and bytes, one behind the other.
func field(kind int, parts ...any) []byte {
	var body []byte
	for _, part := range parts {
		switch v := part.(type) {
		case uint8:
			body = append(body, v)
		case uint16:
			body = binary.BigEndian.AppendUint16(body, v)
		case uint32:
			body = binary.BigEndian.AppendUint32(body, v)
		case uint64:
			body = binary.BigEndian.AppendUint64(body, v)
		case []byte:
			body = append(body, v...)
		default:
			panic(fmt.Sprintf("llrp: a part of %T", part))
		}
	}
	if kind < 128 {
		return append([]byte{0x80 | byte(kind)}, body...)
	}
	return append(binary.BigEndian.AppendUint16(binary.BigEndian.AppendUint16(nil, uint16(kind)), uint16(4+len(body))),
		body...)
}

func u16(data []byte, at int) int {
	if len(data) < at+2 {
		return 0
	}
	return int(binary.BigEndian.Uint16(data[at:]))
}

// words are bytes as words, with how many they are before them.
func words(data []byte) []byte {
	return append(binary.BigEndian.AppendUint16(nil, uint16(len(data)/2)), data...)
}
