package llrp

import (
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"os"
)

// Inventory returns the tags that answer now.
func (r *Reader) Inventory() ([]Tag, error) {
	reports, err := r.run()
	if err != nil {
		return nil, err
	}
	var tags []Tag
	for _, report := range reports {
		tags = append(tags, report.Tag)
	}
	return tags, nil
}

// One returns the tag under the head. Its errors besides those of the connection are ErrNoTag and ErrTwo.
func (r *Reader) One() (*Tag, error) {
	tags, err := r.Inventory()
	switch {
	case err != nil:
		return nil, err
	case len(tags) == 0:
		return nil, ErrNoTag
	case len(tags) > 1:
		return nil, ErrTwo
	}
	return &tags[0], nil
}

// a report is a tag with what became of what was done to it.
type report struct {
	Tag
	results []param
}

// run has the look done, and returns what it reports.
func (r *Reader) run() (reports []report, err error) {
	if _, err := r.ask(StartROSpec, StartROSpecResponse, binary.BigEndian.AppendUint32(nil, roSpec)); err != nil {
		return nil, err
	}
	most, ended, asked := answerTime, false, false
	if !r.tellsEnd {
		most = silentTime
	}
	for {
		m, err := r.awaitAny(most, ROAccessReport, ReaderEventNotification, GetROSpecsResponse)
		switch {
		case asked && (isReaderError(err) || err == nil && m.Type == GetROSpecsResponse):
			return reports, nil // what it reports would have come before this answer
		case ended && !asked && errors.Is(err, os.ErrDeadlineExceeded):
			// a busy reader or machine may be late: what is asked now is answered behind its report
			asked, most = true, answerTime
			if err := r.send(GetROSpecs, nil); err != nil {
				return nil, err
			}
		case errors.Is(err, os.ErrDeadlineExceeded) && (ended || !r.tellsEnd || len(reports) > 0):
			return reports, nil
		case err != nil:
			return nil, err
		case m.Type == ROAccessReport:
			if reports, err = taken(reports, m.Body); err != nil {
				return nil, err
			}
			if ended || !r.tellsEnd {
				return reports, nil
			}
			most = silentTime
		default:
			end, err := event(m, pROSpecEvent)
			if err != nil {
				return nil, err
			}
			if end == nil || len(end.data) == 0 || end.data[0] != lookEnded {
				continue
			}
			if len(reports) > 0 {
				return reports, nil
			}
			ended, most = true, lateTime // a report may be on its way, or wait to be asked for
			if err := r.send(GetReport, nil); err != nil {
				return nil, err
			}
		}
	}
}

// taken adds what a message reports.
func taken(reports []report, body []byte) ([]report, error) {
	all, err := params(body)
	if err != nil {
		return nil, err
	}
	for i := range all {
		if all[i].kind != pTagReportData {
			continue
		}
		inside, err := all[i].within(0)
		if err != nil {
			return nil, err
		}
		one := report{}
		for _, p := range inside {
			switch p.kind {
			case pEPC96:
				one.EPC = p.data
			case pEPCData:
				if n := (u16(p.data, 0) + 7) / 8; len(p.data) >= 2+n {
					one.EPC = p.data[2 : 2+n]
				}
			case pC1G2PC:
				one.PC = uint16(u16(p.data, 0))
			case pPeakRSSI:
				one.RSSI = int(int8(p.data[0]))
			case pC1G2ReadResult, pC1G2WriteResult, pC1G2LockResult:
				one.results = append(one.results, p)
			}
		}
		reports = append(reports, one)
	}
	return reports, nil
}

// do has something done to one tag, and returns its results in their order; a tag that did not answer is ErrNoTag.
func (r *Reader) do(epc []byte, ops ...[]byte) ([]param, error) {
	r.specs++
	id := binary.BigEndian.AppendUint32(nil, r.specs)
	bits := uint16(8 * len(epc))
	mask := bytes.Repeat([]byte{0xff}, len(epc))
	target := field(pC1G2TargetTag, uint8(BankEPC<<6|1<<5), uint16(32), bits, mask, bits, epc)
	spec := field(pAccessSpec, r.specs, uint16(0), uint8(1), uint8(0), uint32(roSpec),
		field(pAccessSpecStop, uint8(1), uint16(1)),
		field(pAccessCommand, append([]any{field(pC1G2TagSpec, target)}, anys(ops)...)...),
		field(pAccessReportSpec, uint8(0)))
	if _, err := r.ask(AddAccessSpec, AddAccessSpecResponse, spec); err != nil {
		return nil, err
	}
	defer func() { _, _ = r.ask(DeleteAccessSpec, DeleteAccessSpecResponse, id) }()
	if _, err := r.ask(EnableAccessSpec, EnableAccessSpecResponse, id); err != nil {
		return nil, err
	}
	reports, err := r.run()
	if err != nil {
		return nil, err
	}
	for _, report := range reports {
		if len(report.results) > 0 {
			return report.results, nil
		}
	}
	return nil, ErrNoTag
}

func anys(parts [][]byte) (all []any) {
	for _, part := range parts {
		all = append(all, part)
	}
	return all
}

// What became of it, in words (LLRP 1.1, 15.3.1.5.3 to 15.3.1.5.7).
var (
	readResults = []string{"", "The tag refuses.", "The tag does not answer.", "The reader failed.",
		"The tag has less memory.", "The memory is locked.", "The access password is wrong."}
	writeResults = []string{"", "The tag has less memory.", "The memory is locked.",
		"The tag is too weak to be written.", "The tag refuses.", "The tag does not answer.", "The reader failed.",
		"The access password is wrong."}
	lockResults = []string{"", "The tag is too weak to be locked.", "The tag refuses.", "The tag does not answer.",
		"The reader failed.", "The access password is wrong.", "The tag has less memory.", "The memory is locked."}
)

func result(p param, words []string) error {
	if len(p.data) < 1 {
		return errShort
	}
	code := int(p.data[0])
	switch {
	case code == 0:
		return nil
	case code < len(words):
		return &TagError{words[code]}
	}
	return &TagError{fmt.Sprintf("The tag refuses with code %d.", code)}
}

// Read reads words of a bank of the tag with an identifier.
func (r *Reader) Read(epc []byte, access uint32, bank, word, count int) ([]byte, error) {
	results, err := r.do(epc, field(pC1G2Read, uint16(1), access, uint8(bank<<6), uint16(word), uint16(count)))
	if err != nil {
		return nil, err
	}
	p := results[0]
	if err := result(p, readResults); err != nil {
		return nil, err
	}
	if n := 2 * u16(p.data, 3); len(p.data) >= 5+n {
		return p.data[5 : 5+n], nil
	}
	return nil, errShort
}

// Write writes words of a bank.
func (r *Reader) Write(epc []byte, access uint32, bank, word int, data []byte) error {
	results, err := r.do(epc, field(pC1G2Write, uint16(1), access, uint8(bank<<6), uint16(word), words(data)))
	if err != nil {
		return err
	}
	return result(results[0], writeResults)
}

// Privileges and data fields of a lock (LLRP 1.1, 15.2.1.5.2.1).
const (
	LockReadWrite = 0
	LockForGood   = 1

	FieldKill   = 0
	FieldAccess = 1
	FieldEPC    = 2
	FieldUser   = 4
)

// Lock locks fields with a privilege.
func (r *Reader) Lock(epc []byte, access uint32, privilege int, fields ...int) error {
	var payload []any
	for _, f := range fields {
		payload = append(payload, field(pC1G2LockPayload, uint8(privilege), uint8(f)))
	}
	results, err := r.do(epc, field(pC1G2Lock, append([]any{uint16(1), access}, payload...)...))
	if err != nil {
		return err
	}
	return result(results[0], lockResults)
}
