package runs

import (
	"context"
	"encoding/hex"
	"errors"
	"fmt"
	"strings"

	"oddspool/core/design"
	"oddspool/core/epc"
	"oddspool/core/stock"
	"oddspool/internal/api"
	"oddspool/internal/llrp"
	"oddspool/internal/reach"
	"oddspool/internal/runner"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// toTag shows a tag of a run.
func toTag(t *store.Tag) api.RunTag {
	return api.RunTag{PrintId: t.PrintID, RunId: t.RunID, Label: t.Label, Tid: t.TID, Epc: t.EPC, User: t.User,
		Outcome: api.RunTagOutcome(t.Outcome), Why: t.Why, At: t.At}
}

// ListRunTags implements api.StrictServerInterface.
func (s *Runs) ListRunTags(ctx context.Context, req api.ListRunTagsRequestObject) (api.ListRunTagsResponseObject,
	error) {
	tags, err := s.Store.TagsOfRun(ctx, req.Id, handler.Or(req.Params.Skip, 0), handler.Or(req.Params.Most, 100))
	answer := make(api.ListRunTags200JSONResponse, len(tags))
	for i := range tags {
		answer[i] = toTag(&tags[i])
	}
	return answer, err
}

// ReadTag implements api.StrictServerInterface.
func (s *Runs) ReadTag(ctx context.Context, req api.ReadTagRequestObject) (api.ReadTagResponseObject, error) {
	p, err := s.Store.Printer(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	if p.Encoder == "" {
		return nil, noEncoder.With(p.Name)
	}
	open, err := s.Store.OpenPrints(ctx)
	if err != nil {
		return nil, err
	}
	for i := range open {
		if open[i].PrinterID == p.ID && open[i].State == store.PrintPrinting {
			return nil, printerBusy.With(p.Name)
		}
	}
	read, err := s.readTag(ctx, &p)
	if told := new(llrp.TagError); errors.As(err, &told) {
		return nil, handler.Refused(told.Text)
	}
	if forbidden := new(reach.ForbiddenError); errors.As(err, &forbidden) {
		return nil, forbidden
	}
	if err != nil {
		s.Log.Warn("a tag cannot be read", "printer", p.ID, "error", err)
		return nil, encoderSilent.With(p.Name)
	}
	seen, err := s.Store.TagsLike(ctx, read.Tid, read.Epc, 10)
	for i := range seen {
		read.Seen = append(read.Seen, toTag(&seen[i]))
	}
	return api.ReadTag200JSONResponse(read), err
}

// readTag reads the tag under the head of a printer.
func (s *Runs) readTag(ctx context.Context, p *store.Printer) (read api.TagRead, err error) {
	address, err := runner.EncoderAt(p.Encoder)
	if err != nil {
		return read, handler.Refused(err.Error())
	}
	reader, err := llrp.Dial(ctx, s.Clients.Guard.Dialer(), address)
	if err != nil {
		return read, err
	}
	defer reader.Close()
	tag, err := reader.One()
	if err != nil {
		return read, err
	}
	read = api.TagRead{Epc: tag.Hex(), Seen: []api.RunTag{},
		Words: fmt.Sprintf("%d bits that follow no scheme of the standard", 8*len(tag.EPC))}
	if is, err := epc.Decode(tag.EPC); err == nil {
		read.Words, read.Elements, read.Link = is.Words(), handler.Some(is.ElementString()),
			handler.Some(is.DigitalLink())
	}
	for _, words := range []int{6, 4} {
		if tid, err := reader.Read(tag.EPC, 0, llrp.BankTID, 0, words); err == nil {
			read.Tid = strings.ToUpper(hex.EncodeToString(tid))
			break
		}
	}
	for _, words := range []int{32, 16, 8, 4, 2} { // as much as it has
		if user, err := reader.Read(tag.EPC, 0, llrp.BankUser, 0, words); err == nil {
			read.User = plainText(user)
			break
		}
	}
	return read, nil
}

// ListTagSchemes implements api.StrictServerInterface.
func (s *Runs) ListTagSchemes(context.Context, api.ListTagSchemesRequestObject) (api.ListTagSchemesResponseObject,
	error) {
	answer := api.ListTagSchemes200JSONResponse{}
	for _, d := range epc.Describe() {
		answer = append(answer, api.TagScheme{Id: string(d.Scheme), Name: d.Name, Of: d.Of, Prefix: d.Prefix})
	}
	return answer, nil
}

// plainText shows bytes as text where they are, else as hexadecimal digits.
func plainText(data []byte) string {
	text := strings.TrimRight(string(data), "\x00")
	for _, r := range text {
		if r < ' ' || r == 0xFFFD {
			return strings.ToUpper(hex.EncodeToString(data))
		}
	}
	return text
}

// writesTags returns why the chips of a design cannot be written at a printer; nil: they can, or it has none.
func writesTags(d *design.Design, p *store.Printer, does *stock.Printer) error {
	for i := range d.Elements {
		if e := &d.Elements[i]; e.Kind != design.Tag || e.Hidden {
			continue
		}
		switch {
		case !does.Encoder:
			return printerWithoutEncoder.With(p.Name)
		case p.Encoder == "":
			return noEncoder.With(p.Name)
		case d.Stock.PerPage() != 1:
			return labelsSideBySide.With(d.Stock.Name, d.Stock.PerPage())
		}
	}
	return nil
}
