package server

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"oddspool/core/batch"
	"oddspool/core/diff"
	"oddspool/core/questions"
	"oddspool/internal/api"
	"oddspool/internal/sources"
	"oddspool/internal/store"
)

// ListRecordSets implements api.StrictServerInterface.
func (s *Server) ListRecordSets(ctx context.Context,
	_ api.ListRecordSetsRequestObject) (api.ListRecordSetsResponseObject, error) {
	sets, err := s.store.RecordSets(ctx)
	answer := make(api.ListRecordSets200JSONResponse, len(sets))
	for i, set := range sets {
		answer[i] = toRecordSet(set)
	}
	return answer, err
}

// mostWritten is how many records are written by hand; more come from files. The contract says it too.
const mostWritten = 5000

func toRecordSet(set store.RecordSet) api.RecordSet {
	return api.RecordSet{Id: set.ID, Name: set.Name, Fields: set.Fields, Count: set.Count, ImportedBy: set.ImportedBy,
		ImportedAt: set.ImportedAt, Writable: set.Count <= mostWritten}
}

// GetRecordSet implements api.StrictServerInterface.
func (s *Server) GetRecordSet(ctx context.Context, req api.GetRecordSetRequestObject) (api.GetRecordSetResponseObject,
	error) {
	set, err := s.store.RecordSet(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	answer, err := s.withSource(ctx, set)
	if err == nil {
		checks := api.FieldChecks{}
		for _, check := range set.Checks.V {
			checks = append(checks, asDocument(check))
		}
		answer.Checks = &checks
	}
	return api.GetRecordSet200JSONResponse(answer), err
}

// RetireRecordSet implements api.StrictServerInterface.
func (s *Server) RetireRecordSet(ctx context.Context,
	req api.RetireRecordSetRequestObject) (api.RetireRecordSetResponseObject, error) {
	return api.RetireRecordSet204Response{}, s.store.RetireRecordSet(ctx, req.Id)
}

// mostToGather bounds what is in memory at once.
const mostToGather = 200_000

// GatherRecords implements api.StrictServerInterface.
func (s *Server) GatherRecords(ctx context.Context,
	req api.GatherRecordsRequestObject) (api.GatherRecordsResponseObject, error) {
	set, err := s.store.RecordSet(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	if set.Count > mostToGather {
		return nil, tooManyToGather.With(set.Name, set.Count, mostToGather)
	}
	gatherer, err := batch.NewGatherer(set.Fields, req.Body.Fields, req.Body.Size)
	if err != nil {
		return nil, err
	}
	records, err := s.store.Records(ctx, set.ID, 1, set.Count)
	if err != nil {
		return nil, err
	}
	name := fmt.Sprintf("%s, %d to a label", set.Name, gatherer.Size())
	made, err := s.store.AddRecordSet(ctx, name, gatherer.Fields, gatherer.Gather(records), s.user(ctx))
	return api.GatherRecords200JSONResponse(toRecordSet(made)), err
}

// WriteRecords implements api.StrictServerInterface.
func (s *Server) WriteRecords(ctx context.Context, req api.WriteRecordsRequestObject) (api.WriteRecordsResponseObject,
	error) {
	fields, err := sources.Names(req.Body.Fields)
	if err != nil {
		return nil, err
	}
	for i, record := range req.Body.Records {
		if len(record) != len(fields) {
			return nil, otherWidth.With(i+1, len(record), len(fields))
		}
	}
	if len(req.Body.Records) == 0 {
		return nil, empty.With()
	}
	checks, err := fieldChecks(or(req.Body.Checks, nil))
	if err != nil {
		return nil, err
	}
	made, err := s.store.WriteRecordSet(ctx, req.Body.Replaces, req.Body.Name, fields, req.Body.Records, checks,
		s.user(ctx))
	return api.WriteRecords200JSONResponse(toRecordSet(made)), err
}

// fieldChecks reads what fields must be.
func fieldChecks(documents []api.About) (checks []questions.Question, err error) {
	checks = []questions.Question{} // kept as an empty list
	for _, document := range documents {
		var q questions.Question
		if err := json.Unmarshal(document, &q); err != nil {
			return nil, refused("A check of a field is none: " + err.Error() + ".")
		}
		if fault := q.Fault(); fault != "" {
			return nil, refused(q.Name + ": " + fault)
		}
		checks = append(checks, q)
	}
	return checks, nil
}

// CheckRecords implements api.StrictServerInterface.
func (s *Server) CheckRecords(_ context.Context, req api.CheckRecordsRequestObject) (api.CheckRecordsResponseObject,
	error) {
	checks, err := fieldChecks(req.Body.Checks)
	if err != nil {
		return nil, err
	}
	const most = 200
	wrong, all := questions.Check(req.Body.Fields, req.Body.Records, checks, most)
	answer := api.CheckRecords200JSONResponse{Count: all, Wrong: []api.WrongValue{}}
	for _, w := range wrong {
		answer.Wrong = append(answer.Wrong, api.WrongValue{Record: w.Record, Field: w.Field, Text: w.Text})
	}
	return answer, nil
}

// PackRecords implements api.StrictServerInterface.
func (s *Server) PackRecords(ctx context.Context, req api.PackRecordsRequestObject) (api.PackRecordsResponseObject,
	error) {
	set, err := s.store.RecordSet(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	if set.Count > mostToGather {
		return nil, tooManyToPack.With(set.Name, set.Count, mostToGather)
	}
	records, err := s.store.Records(ctx, set.ID, 1, set.Count)
	if err != nil {
		return nil, err
	}
	fields, rows, err := batch.Packs(set.Fields, records, req.Body.Field, req.Body.Size)
	if err != nil {
		return nil, err
	}
	made, err := s.store.AddRecordSet(ctx, set.Name+", in packs", fields, rows, s.user(ctx))
	return api.PackRecords200JSONResponse(toRecordSet(made)), err
}

// NextRecord implements api.StrictServerInterface.
func (s *Server) NextRecord(ctx context.Context, req api.NextRecordRequestObject) (api.NextRecordResponseObject,
	error) {
	number, err := s.store.NextRecord(ctx, req.Id, req.Params.Words, or(req.Params.After, 0))
	return api.NextRecord200JSONResponse{Number: number}, err
}

// GetRecords implements api.StrictServerInterface.
func (s *Server) GetRecords(ctx context.Context, req api.GetRecordsRequestObject) (api.GetRecordsResponseObject,
	error) {
	set, err := s.store.RecordSet(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	from, most := or(req.Params.From, 1), or(req.Params.Most, 100)
	records, err := s.store.Records(ctx, req.Id, from, most)
	answer := api.Records{Fields: set.Fields, Count: set.Count, Records: make([]api.Record, len(records))}
	for i, values := range records {
		answer.Records[i] = api.Record{Number: from + i, Values: values}
	}
	return api.GetRecords200JSONResponse(answer), err
}

// or returns what a pointer points to, or else.
func or[T any](pointer *T, otherwise T) T {
	if pointer == nil {
		return otherwise
	}
	return *pointer
}

// An upload is a file with how it is to be read.
type upload struct {
	name     string
	data     []byte
	settings sources.Settings
	replaces int64 // set; 0: none
	anyway   bool  // though fields are gone that designs use
}

// Limits of what is said beside a file.
const (
	mostChoice = 1000 // bytes of a choice
	mostName   = 200  // of a name
)

func readUpload(form *multipart.Reader) (*upload, error) {
	u := &upload{}
	for {
		part, err := form.NextPart()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, notWhole(err)
		}
		if part.FormName() == "file" {
			if u.data != nil {
				return nil, oneFile.With()
			}
			if u.data, err = io.ReadAll(part); err != nil {
				return nil, notWhole(err)
			}
			if u.name == "" {
				u.name = filepath.Base(part.FileName())
			}
			continue
		}
		data, err := io.ReadAll(io.LimitReader(part, mostChoice+1))
		if err != nil {
			return nil, notWhole(err)
		}
		text := string(data)
		if why := badText(text); len(data) > mostChoice || why != "" {
			return nil, badPart.With(part.FormName(), cmp.Or(why, "is too long"))
		}
		switch part.FormName() {
		case "name":
			u.name = strings.TrimSpace(text)
		case "encoding":
			u.settings.Encoding = sources.Encoding(text)
		case "separator":
			u.settings.Separator = text
		case "quotes":
			u.settings.Quotes = sources.Quotes(text)
		case "header":
			u.settings.Header = sources.Header(text)
		case "sheet":
			u.settings.Sheet = text
		case "table":
			u.settings.Table = text
		case "columns":
			u.settings.Columns = text
		case "replaces":
			if u.replaces, err = strconv.ParseInt(text, 10, 64); err != nil || u.replaces <= 0 {
				return nil, nothingToReplace.With(text)
			}
		case "anyway":
			u.anyway = text == "yes"
		default:
			return nil, unknownChoice.With(part.FormName())
		}
	}
	if u.name = strings.ToValidUTF8(strings.ReplaceAll(u.name, "\x00", ""), ""); len(u.name) > mostName {
		u.name = strings.ToValidUTF8(u.name[:mostName], "")
	}
	return u, nil
}

// notWhole says that an upload broke off, or is none; what is too large keeps its own words.
func notWhole(err error) error {
	if large := new(http.MaxBytesError); errors.As(err, &large) {
		return fmt.Errorf("read upload: %w", err)
	}
	return notWholeFile.With()
}

// GetValues implements api.StrictServerInterface.
func (s *Server) GetValues(ctx context.Context, req api.GetValuesRequestObject) (api.GetValuesResponseObject, error) {
	set, numbers, records, err := s.chosen(ctx, &req.Id, req.Body.Records)
	if err != nil {
		return nil, err
	}
	answer := api.GetValues200JSONResponse{Fields: set.Fields, Count: set.Count,
		Records: make([]api.Record, len(records))}
	for i, values := range records {
		answer.Records[i] = api.Record{Number: numbers[i], Values: values}
	}
	return answer, nil
}

// previewed is how many records a preview shows.
const previewed = 30

// ListEncodings implements api.StrictServerInterface.
func (s *Server) ListEncodings(context.Context, api.ListEncodingsRequestObject) (api.ListEncodingsResponseObject,
	error) {
	answer := api.ListEncodings200JSONResponse{}
	for _, e := range sources.Encodings() {
		answer = append(answer, api.Encoding{Name: string(e.Name), Writing: e.Writing})
	}
	return answer, nil
}

// PreviewRecords implements api.StrictServerInterface.
func (s *Server) PreviewRecords(ctx context.Context,
	req api.PreviewRecordsRequestObject) (api.PreviewRecordsResponseObject, error) {
	u, err := readUpload(req.Body)
	if err != nil {
		return nil, err
	}
	source, err := sources.Open(ctx, bytes.NewReader(u.data), int64(len(u.data)), u.settings)
	if err != nil {
		return nil, err
	}
	defer source.Close()
	answer := api.PreviewRecords200JSONResponse{File: toFileRead(source), Fields: source.Fields, Records: [][]string{}}
	for record, err := range source.Records() {
		if err != nil {
			return nil, err
		}
		if answer.Records = append(answer.Records, record); len(answer.Records) == previewed {
			break
		}
	}
	same, err := s.store.OfName(ctx, u.name)
	if err != nil || same == nil {
		return answer, err
	}
	found, err := s.differs(ctx, *same, source)
	if err != nil {
		return nil, err
	}
	answer.Same = &struct {
		Changes api.RecordChanges `json:"changes"`
		Set     api.RecordSet     `json:"set"`
	}{Set: toRecordSet(*same)}
	answer.Same.Changes, err = as[api.RecordChanges](found)
	return answer, err
}

// differs says what is different between a set and a file that is to take its place. Records are told apart by the
// first field that both have.
func (s *Server) differs(ctx context.Context, set store.RecordSet, source *sources.Source) (*diff.Changes, error) {
	var key []string
	for _, field := range source.Fields {
		if key == nil && slices.Contains(set.Fields, field) {
			key = []string{field}
		}
	}
	return diff.Find(diff.Reading{Fields: set.Fields, Records: s.store.EachRecord(ctx, set.ID)},
		diff.Reading{Fields: source.Fields, Records: source.Records()}, key)
}

// toFileRead shows what a file was read as.
func toFileRead(source *sources.Source) api.FileRead {
	used := source.Settings
	if source.Kind == sources.XML { // it is told, and not to be chosen
		used.Encoding = ""
	}
	return api.FileRead{
		Settings: api.ReadSettings{Encoding: text(string(used.Encoding)), Separator: text(used.Separator),
			Quotes: text(string(used.Quotes)), Header: text(string(used.Header)),
			Sheet: text(used.Sheet), Table: text(used.Table), Columns: text(used.Columns)},
		Kind: api.FileReadKind(source.Kind), Sheets: append([]string{}, source.Sheets...),
		Tables: append([]string{}, source.Tables...), Count: source.Count, Notes: append([]string{}, source.Notes...),
	}
}

func text(t string) *string { return &t }

// ImportRecords implements api.StrictServerInterface.
func (s *Server) ImportRecords(ctx context.Context,
	req api.ImportRecordsRequestObject) (api.ImportRecordsResponseObject, error) {
	u, err := readUpload(req.Body)
	if err != nil {
		return nil, err
	}
	if u.name == "" || u.name == "." {
		return nil, noName2.With()
	}
	source, err := sources.Open(ctx, bytes.NewReader(u.data), int64(len(u.data)), u.settings)
	if err != nil {
		return nil, err
	}
	defer source.Close()
	if u.replaces > 0 {
		set, err := s.replaceRecords(ctx, u, source)
		return api.ImportRecords200JSONResponse(toRecordSet(set)), err
	}
	set, err := s.store.TakeRecordSet(ctx, u.name, source.Fields, source.Count, source.Records(), s.user(ctx))
	return api.ImportRecords200JSONResponse(toRecordSet(set)), err
}

// replaceRecords takes a file in, in place of a set. Where fields are gone that designs use, it is refused unless it is
// to be anyway.
func (s *Server) replaceRecords(ctx context.Context, u *upload, source *sources.Source) (set store.RecordSet,
	err error) {
	old, err := s.store.RecordSet(ctx, u.replaces)
	if err != nil {
		return set, err
	}
	feed, err := s.store.FeedOf(ctx, old.ID)
	if err != nil {
		return set, err
	}
	if feed != nil {
		return set, readFromConnection.With(old.Name, feed.Connection)
	}
	found, err := s.differs(ctx, old, source)
	if err != nil {
		return set, err
	}
	if len(found.GoneFields) > 0 && !u.anyway {
		if err := s.feeds.Missed(ctx, old, found.GoneFields); err != nil {
			return set, err
		}
	}
	return s.store.ReplaceRecordSet(ctx, old.ID, u.name, source.Fields, source.Count, source.Records(), s.user(ctx))
}
