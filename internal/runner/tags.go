package runner

import (
	"bytes"
	"context"
	"encoding/binary"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"net"
	"strconv"
	"strings"
	"time"

	"oddspool/core/refusal"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/epc"
	"oddspool/core/proof"
	"oddspool/internal/llrp"
	"oddspool/internal/press"
	"oddspool/internal/reach"
	"oddspool/internal/store"
)

// encoding writes the chips of the labels of a print, each before it is printed. What is under the head is the next
// label; so one label is at the printer at a time.
type encoding struct {
	reader *llrp.Reader
	label  compose.Label
	bad    int // tags in a row that could not be written

	renumbered map[int]bool // labels that have another number than when they were looked at
}

const (
	epc96Head = 6 << 3           // protocol-control of an identifier of six words
	mostBad   = 3                // in a row; then a person must look
	voidTime  = 60 * time.Second // for a label that is printed over to come out
)

// EncoderAt returns host and port of a reader's address, such as llrp://192.0.2.7:5084.
func EncoderAt(address string) (string, error) {
	const usual = "5084" // LLRP 1.1, 8
	rest, is := strings.CutPrefix(address, "llrp://")
	rest = strings.TrimSuffix(rest, "/")
	if !is || rest == "" {
		return "", fmt.Errorf("%q is no address of an encoder; write it like llrp://192.0.2.7:5084", address)
	}
	if _, _, err := net.SplitHostPort(rest); err != nil {
		rest = net.JoinHostPort(rest, usual)
	}
	_, port, err := net.SplitHostPort(rest)
	if n, wrong := strconv.Atoi(port); err != nil || wrong != nil || n < 1 || n > 65535 {
		return "", fmt.Errorf("%q is no address of an encoder; write it like llrp://192.0.2.7:5084", address)
	}
	return rest, nil
}

// tagged tells whether chips are written for the labels of a part.
func tagged(d *design.Design) bool {
	for i := range d.Elements {
		if e := &d.Elements[i]; e.Kind == design.Tag && !e.Hidden {
			return true
		}
	}
	return false
}

// tagged tells whether the print writes chips.
func (w *work) tagged() bool {
	for _, of := range w.parts {
		if of.tagged {
			return true
		}
	}
	return false
}

// leftVoids sees to labels that were being printed over when another server worked on the print: their jobs are ended,
// and what is under the head is looked at anew.
func (w *work) leftVoids(ctx context.Context, p *store.Print) error {
	left, err := w.store.OpenVoids(ctx, p.ID)
	if err != nil {
		return err
	}
	for _, t := range left {
		if err := w.client.Cancel(ctx, *t.Job); err != nil {
			return err
		}
		if err := w.store.VoidJob(ctx, w.lease, t.ID, 0); err != nil {
			return err
		}
	}
	return nil
}

// encode writes the chip under the head for a label. Where that cannot be done, ok is false, and again says when to try
// next, or over.
func (w *work) encode(ctx context.Context, p *store.Print, of *part, place, label int, record []string) (ok bool,
	again time.Duration, err error) {
	if w.encoding.renumbered[label] { // with the number that it has now nobody looked at it
		checker, err := proof.NewCheckerWith(of.design, of.design.LabelFields(w.run.Fields), w.setup)
		if err != nil {
			return false, over, err
		}
		for _, found := range checker.Label(nil, label, record) {
			if found.Level == proof.Error {
				return false, over, w.store.Hold(ctx, w.lease,
					fmt.Sprintf("Label %d has another number, since its tag was bad, and cannot be printed with it. %s",
						label, found.Text), found.Do)
			}
		}
	}
	memory, err := of.composer.Tags(&w.encoding.label, record)
	if err != nil {
		return false, over, w.store.Hold(ctx, w.lease, fmt.Sprintf("The chip of label %d cannot be written: %v", label,
			err), "Correct the record or the design, and prepare the run again.")
	}
	if memory == nil { // nothing is written into this one
		return true, 0, nil
	}
	other, err := w.store.TagElsewhere(ctx, memory.Hex(), p.RunID, label)
	if err != nil {
		return false, over, err
	}
	if other != nil {
		return false, over, w.store.Hold(ctx, w.lease, fmt.Sprintf("%s is in the chip of label %d of run %d already.",
			memory.Words(), other.Label, other.RunID),
			"See which of the two is meant. Two tags that say the same cannot be told apart.")
	}
	if w.encoding.reader == nil {
		address, err := EncoderAt(w.printer.Encoder)
		if err == nil {
			w.encoding.reader, err = llrp.Dial(ctx, w.clients.Guard.Dialer(), address)
		}
		if err != nil {
			return false, askAgain, w.encoderAway(ctx, err)
		}
	}
	tag := &store.Tag{PrintID: p.ID, RunID: p.RunID, Label: label, EPC: memory.Hex(),
		User: string(bytes.TrimRight(memory.User, "\x00"))}
	err = w.encoding.write(of.looks, memory, tag)
	var told *llrp.TagError
	switch {
	case errors.As(err, &told):
		tag.Outcome, tag.Why = store.TagVoid, told.Error()
		return w.void(ctx, p, tag, place)
	case err != nil:
		_ = w.encoding.reader.Close()
		w.encoding.reader = nil
		return false, askAgain, w.encoderAway(ctx, err)
	}
	w.encoding.bad = 0
	tag.Outcome = store.TagWritten
	return true, 0, w.store.NoteTag(ctx, w.lease, tag, place)
}

// encoderAway says that nothing is written for now.
func (w *work) encoderAway(ctx context.Context, err error) error {
	do := "It goes on by itself as soon as the encoder answers."
	if forbidden := new(reach.ForbiddenError); errors.As(err, &forbidden) {
		do = forbidden.Error()
	}
	w.log.Warn("an encoder does not answer", "print", w.lease.Print, "error", err)
	return w.setNote(ctx, fmt.Sprintf("The encoder of %s does not answer.", w.printer.Name), do)
}

// write finds the tag under the head, writes it, reads it back and locks it. A tag that has it all already, since the
// work on it was broken off, is read back alone.
func (e *encoding) write(looks *design.TagLooks, memory *epc.Memory, tag *store.Tag) (err error) {
	r := e.reader
	password, kill, err := passwords(looks)
	if err != nil {
		return err
	}
	access := uint32(0) // as chips come; one that has a password already is written with the design's
	says := false       // the identifier, by now
	defer func() {
		if told := new(llrp.TagError); says && errors.As(err, &told) { // on a void label it must not be found
			blank := append([]byte{epc96Head, 0}, make([]byte, 12)...)
			_ = r.Write(memory.EPC, access, llrp.BankEPC, 1, blank) // one that cannot be blanked is told as it is
		}
	}()
	under, err := r.One()
	if err != nil {
		return err
	}
	const longTID, shortTID = 6, 4 // words
	tid, err := r.Read(under.EPC, 0, llrp.BankTID, 0, longTID)
	if told := new(llrp.TagError); errors.As(err, &told) {
		tid, err = r.Read(under.EPC, 0, llrp.BankTID, 0, shortTID)
	}
	if err != nil {
		return err
	}
	tag.TID = strings.ToUpper(hex.EncodeToString(tid))
	had := bytes.Equal(under.EPC, memory.EPC)
	head := []byte{byte(memory.PC >> 8), byte(memory.PC)}
	if !had {
		err := r.Write(under.EPC, access, llrp.BankEPC, 1, append(head, memory.EPC...))
		if told := new(llrp.TagError); errors.As(err, &told) && password != 0 {
			if again := r.Write(under.EPC, password, llrp.BankEPC, 1, append(head, memory.EPC...)); again == nil {
				access, err = password, nil
			}
		}
		if err != nil {
			return err
		}
	}
	says = true
	if len(memory.User) > 0 {
		if is, err := r.Read(memory.EPC, access, llrp.BankUser, 0, len(memory.User)/2); err != nil ||
			!bytes.Equal(is, memory.User) {
			if err := r.Write(memory.EPC, access, llrp.BankUser, 0, memory.User); err != nil {
				return err
			}
		}
	}
	is, err := r.Read(memory.EPC, access, llrp.BankEPC, 2, len(memory.EPC)/2)
	if err != nil {
		return err
	}
	if !bytes.Equal(is, memory.EPC) {
		return &llrp.TagError{Text: "The tag says something else than was written."}
	}
	if len(memory.User) > 0 {
		if is, err := r.Read(memory.EPC, access, llrp.BankUser, 0, len(memory.User)/2); err != nil ||
			!bytes.Equal(is, memory.User) {
			return &llrp.TagError{Text: "The user memory says something else than was written."}
		}
	}
	err = e.lock(looks, memory, access, password, kill)
	if told := new(llrp.TagError); had && errors.As(err, &told) &&
		errors.As(r.Write(memory.EPC, 0, llrp.BankEPC, 2, memory.EPC), &told) {
		return nil // it was locked before the work was broken off
	}
	return err
}

// passwords reads those of a design; 0: there is none.
func passwords(looks *design.TagLooks) (access, kill uint32, err error) {
	for _, of := range []struct {
		name, text string
		into       *uint32
	}{{"access", looks.Access, &access}, {"kill", looks.Kill, &kill}} {
		if of.text == "" {
			continue
		}
		n, err := strconv.ParseUint(of.text, 16, 32)
		if err != nil {
			return 0, 0, &llrp.TagError{Text: fmt.Sprintf("The %s password is no hexadecimal number.", of.name)}
		}
		*of.into = uint32(n)
	}
	return access, kill, nil
}

// lock writes the passwords there are, and keeps what was written from being written over. Access is what the chip is
// written with until then.
func (e *encoding) lock(looks *design.TagLooks, memory *epc.Memory, access, password, kill uint32) error {
	const killWord, accessWord = 0, 2
	fields := []int{llrp.FieldEPC}
	if len(memory.User) > 0 {
		fields = append(fields, llrp.FieldUser)
	}
	if kill != 0 {
		if err := e.reader.Write(memory.EPC, access, llrp.BankReserved, killWord,
			binary.BigEndian.AppendUint32(nil, kill)); err != nil {
			return err
		}
		fields = append(fields, llrp.FieldKill)
	}
	switch looks.Lock {
	case design.WithAccess:
		if err := e.reader.Write(memory.EPC, access, llrp.BankReserved, accessWord,
			binary.BigEndian.AppendUint32(nil, password)); err != nil {
			return err
		}
		return e.reader.Lock(memory.EPC, password, llrp.LockReadWrite, append(fields, llrp.FieldAccess)...)
	case design.ForGood:
		return e.reader.Lock(memory.EPC, access, llrp.LockForGood, fields...)
	}
	return nil
}

// void prints a label over whose tag cannot be written, so that it is never taken for a good one; the label is made on
// the next.
func (w *work) void(ctx context.Context, p *store.Print, tag *store.Tag, place int) (ok bool, again time.Duration,
	err error) {
	if err := w.store.NoteTag(ctx, w.lease, tag, place); err != nil {
		return false, over, err
	}
	made := design.Voided(w.design.Stock, w.design.Printer)
	labels, err := press.NewLabels(made, nil)
	if err != nil {
		return false, over, err
	}
	status, err := w.client.Printer(ctx)
	if err != nil {
		return w.notOk(w.trouble(ctx, p, nil, err))
	}
	wanted := press.Wanted{Name: fmt.Sprintf("%s void label before label %d", w.mark, tag.Label),
		Tracking: made.Stock.Found(), Setup: w.setup}
	wanted.Width, wanted.Length = made.Stock.PageSize()
	job, err := w.client.Create(ctx, status, wanted)
	if err != nil {
		return w.notOk(w.trouble(ctx, p, nil, err))
	}
	if err := w.store.VoidJob(ctx, w.lease, tag.ID, job); err != nil {
		return false, over, errors.Join(err, w.client.Cancel(context.WithoutCancel(ctx), job))
	}
	w.client.Send(ctx, job, labels.Format(),
		func(out io.Writer) error { return labels.Write(out, [][]string{nil}, 0, w.setup) })
	for until := time.Now().Add(voidTime); ; time.Sleep(quickest) {
		now, err := w.client.Job(ctx, job)
		switch {
		case ctx.Err() != nil:
			return false, over, ctx.Err()
		case err != nil && time.Now().Before(until):
			continue
		case err == nil && now.State == press.JobCompleted:
		case err == nil && !now.Over() && time.Now().Before(until):
			continue
		default:
			_ = w.client.Cancel(ctx, job)
			return false, over, w.store.Hold(ctx, w.lease,
				fmt.Sprintf("A label whose tag is bad is to be printed over as void, and did not come out. %s",
					tag.Why),
				"Look at the web, take that label away, and go on.")
		}
		break
	}
	if err := w.store.VoidJob(ctx, w.lease, tag.ID, 0); err != nil {
		return false, over, err
	}
	renumbered, err := w.store.RenumberLabel(ctx, w.lease, tag.Label)
	if told := new(refusal.Error); errors.As(err, &told) {
		return false, over, w.store.Hold(ctx, w.lease,
			fmt.Sprintf("Label %d is to have another number, since its tag was bad. %s", tag.Label, told.Error()),
			"See to the series, then go on.")
	}
	if err != nil {
		return false, over, err
	}
	if renumbered {
		if w.encoding.renumbered == nil {
			w.encoding.renumbered = map[int]bool{}
		}
		w.encoding.renumbered[tag.Label] = true
	}
	if w.encoding.bad++; w.encoding.bad >= mostBad {
		return false, over, w.store.Hold(ctx, w.lease,
			fmt.Sprintf("%d tags in a row could not be written. The last: %s", w.encoding.bad, tag.Why),
			"See whether the right roll is loaded, and whether its chips lie where the encoder looks; then go on.")
	}
	return false, quickest, nil
}

func (w *work) notOk(again time.Duration, err error) (bool, time.Duration, error) {
	return false, again, err
}
