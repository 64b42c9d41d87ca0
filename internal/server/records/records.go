package records

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"slices"

	"oddspool/core/batch"
	"oddspool/core/diff"
	"oddspool/core/questions"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/sources"
	"oddspool/internal/store"
)

// ListRecordSets implements api.StrictServerInterface.
func (s *Records) ListRecordSets(ctx context.Context,
	_ api.ListRecordSetsRequestObject) (api.ListRecordSetsResponseObject, error) {
	sets, err := s.Store.RecordSets(ctx)
	answer := make(api.ListRecordSets200JSONResponse, len(sets))
	for i, set := range sets {
		answer[i] = ToRecordSet(set)
	}
	return answer, err
}

// mostWritten is how many records are written by hand; more come from files. The contract says it too.
const mostWritten = 5000

func ToRecordSet(set store.RecordSet) api.RecordSet {
	return api.RecordSet{Id: set.ID, Name: set.Name, Fields: set.Fields, Count: set.Count, ImportedBy: set.ImportedBy,
		ImportedAt: set.ImportedAt, Writable: set.Count <= mostWritten}
}

// GetRecordSet implements api.StrictServerInterface.
func (s *Records) GetRecordSet(ctx context.Context, req api.GetRecordSetRequestObject) (api.GetRecordSetResponseObject,
	error) {
	set, err := s.Store.RecordSet(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	answer, err := s.withSource(ctx, set)
	if err == nil {
		checks := api.FieldChecks{}
		for _, check := range set.Checks.V {
			checks = append(checks, handler.AsDocument(check))
		}
		answer.Checks = &checks
	}
	return api.GetRecordSet200JSONResponse(answer), err
}

// RetireRecordSet implements api.StrictServerInterface.
func (s *Records) RetireRecordSet(ctx context.Context,
	req api.RetireRecordSetRequestObject) (api.RetireRecordSetResponseObject, error) {
	return api.RetireRecordSet204Response{}, s.Store.RetireRecordSet(ctx, req.Id)
}

// MostToGather bounds what is in memory at once.
const MostToGather = 200_000

// GatherRecords implements api.StrictServerInterface.
func (s *Records) GatherRecords(ctx context.Context,
	req api.GatherRecordsRequestObject) (api.GatherRecordsResponseObject, error) {
	set, err := s.Store.RecordSet(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	if set.Count > MostToGather {
		return nil, tooManyToGather.With(set.Name, set.Count, MostToGather)
	}
	gatherer, err := batch.NewGatherer(set.Fields, req.Body.Fields, req.Body.Size)
	if err != nil {
		return nil, err
	}
	records, err := s.Store.Records(ctx, set.ID, 1, set.Count)
	if err != nil {
		return nil, err
	}
	name := fmt.Sprintf("%s, %d to a label", set.Name, gatherer.Size())
	made, err := s.Store.AddRecordSet(ctx, name, gatherer.Fields, gatherer.Gather(records), s.User(ctx))
	return api.GatherRecords200JSONResponse(ToRecordSet(made)), err
}

// WriteRecords implements api.StrictServerInterface.
func (s *Records) WriteRecords(ctx context.Context, req api.WriteRecordsRequestObject) (api.WriteRecordsResponseObject,
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
	checks, err := fieldChecks(handler.Or(req.Body.Checks, nil))
	if err != nil {
		return nil, err
	}
	made, err := s.Store.WriteRecordSet(ctx, req.Body.Replaces, req.Body.Name, fields, req.Body.Records, checks,
		s.User(ctx))
	return api.WriteRecords200JSONResponse(ToRecordSet(made)), err
}

// fieldChecks reads what fields must be.
func fieldChecks(documents []api.About) (checks []questions.Question, err error) {
	checks = []questions.Question{} // kept as an empty list
	for _, document := range documents {
		var q questions.Question
		if err := json.Unmarshal(document, &q); err != nil {
			return nil, handler.Refused("A check of a field is none: " + err.Error() + ".")
		}
		if fault := q.Fault(); fault != "" {
			return nil, handler.Refused(q.Name + ": " + fault)
		}
		checks = append(checks, q)
	}
	return checks, nil
}

// CheckRecords implements api.StrictServerInterface.
func (s *Records) CheckRecords(_ context.Context, req api.CheckRecordsRequestObject) (api.CheckRecordsResponseObject,
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
func (s *Records) PackRecords(ctx context.Context, req api.PackRecordsRequestObject) (api.PackRecordsResponseObject,
	error) {
	set, err := s.Store.RecordSet(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	if set.Count > MostToGather {
		return nil, tooManyToPack.With(set.Name, set.Count, MostToGather)
	}
	records, err := s.Store.Records(ctx, set.ID, 1, set.Count)
	if err != nil {
		return nil, err
	}
	fields, rows, err := batch.Packs(set.Fields, records, req.Body.Field, req.Body.Size)
	if err != nil {
		return nil, err
	}
	made, err := s.Store.AddRecordSet(ctx, set.Name+", in packs", fields, rows, s.User(ctx))
	return api.PackRecords200JSONResponse(ToRecordSet(made)), err
}

// NextRecord implements api.StrictServerInterface.
func (s *Records) NextRecord(ctx context.Context, req api.NextRecordRequestObject) (api.NextRecordResponseObject,
	error) {
	number, err := s.Store.NextRecord(ctx, req.Id, req.Params.Words, handler.Or(req.Params.After, 0))
	return api.NextRecord200JSONResponse{Number: number}, err
}

// GetRecords implements api.StrictServerInterface.
func (s *Records) GetRecords(ctx context.Context, req api.GetRecordsRequestObject) (api.GetRecordsResponseObject,
	error) {
	set, err := s.Store.RecordSet(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	from, most := handler.Or(req.Params.From, 1), handler.Or(req.Params.Most, 100)
	records, err := s.Store.Records(ctx, req.Id, from, most)
	answer := api.Records{Fields: set.Fields, Count: set.Count, Records: make([]api.Record, len(records))}
	for i, values := range records {
		answer.Records[i] = api.Record{Number: from + i, Values: values}
	}
	return api.GetRecords200JSONResponse(answer), err
}

// GetValues implements api.StrictServerInterface.
func (s *Records) GetValues(ctx context.Context, req api.GetValuesRequestObject) (api.GetValuesResponseObject, error) {
	set, numbers, records, err := s.designs.Chosen(ctx, &req.Id, req.Body.Records)
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
func (s *Records) ListEncodings(context.Context, api.ListEncodingsRequestObject) (api.ListEncodingsResponseObject,
	error) {
	answer := api.ListEncodings200JSONResponse{}
	for _, e := range sources.Encodings() {
		answer = append(answer, api.Encoding{Name: string(e.Name), Writing: e.Writing})
	}
	return answer, nil
}

// PreviewRecords implements api.StrictServerInterface.
func (s *Records) PreviewRecords(ctx context.Context,
	req api.PreviewRecordsRequestObject) (api.PreviewRecordsResponseObject, error) {
	u, err := handler.ReadUpload(req.Body)
	if err != nil {
		return nil, err
	}
	source, err := sources.Open(ctx, bytes.NewReader(u.Data), int64(len(u.Data)), u.Settings)
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
	same, err := s.Store.OfName(ctx, u.Name)
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
	}{Set: ToRecordSet(*same)}
	answer.Same.Changes, err = handler.As[api.RecordChanges](found)
	return answer, err
}

// differs says what is different between a set and a file that is to take its place. Records are told apart by the
// first field that both have.
func (s *Records) differs(ctx context.Context, set store.RecordSet, source *sources.Source) (*diff.Changes, error) {
	var key []string
	for _, field := range source.Fields {
		if key == nil && slices.Contains(set.Fields, field) {
			key = []string{field}
		}
	}
	return diff.Find(diff.Reading{Fields: set.Fields, Records: s.Store.EachRecord(ctx, set.ID)},
		diff.Reading{Fields: source.Fields, Records: source.Records()}, key)
}

// toFileRead shows what a file was read as.
func toFileRead(source *sources.Source) api.FileRead {
	used := source.Settings
	if source.Kind == sources.XML { // it is told, and not to be chosen
		used.Encoding = ""
	}
	return api.FileRead{
		Settings: api.ReadSettings{Encoding: new(string(used.Encoding)), Separator: new(used.Separator),
			Quotes: new(string(used.Quotes)), Header: new(string(used.Header)),
			Sheet: new(used.Sheet), Table: new(used.Table), Columns: new(used.Columns)},
		Kind: api.FileReadKind(source.Kind), Sheets: append([]string{}, source.Sheets...),
		Tables: append([]string{}, source.Tables...), Count: source.Count, Notes: append([]string{}, source.Notes...),
	}
}

// ImportRecords implements api.StrictServerInterface.
func (s *Records) ImportRecords(ctx context.Context,
	req api.ImportRecordsRequestObject) (api.ImportRecordsResponseObject, error) {
	u, err := handler.ReadUpload(req.Body)
	if err != nil {
		return nil, err
	}
	if u.Name == "" || u.Name == "." {
		return nil, noName2.With()
	}
	source, err := sources.Open(ctx, bytes.NewReader(u.Data), int64(len(u.Data)), u.Settings)
	if err != nil {
		return nil, err
	}
	defer source.Close()
	if u.Replaces > 0 {
		set, err := s.replaceRecords(ctx, u, source)
		return api.ImportRecords200JSONResponse(ToRecordSet(set)), err
	}
	set, err := s.Store.TakeRecordSet(ctx, u.Name, source.Fields, source.Count, source.Records(), s.User(ctx))
	return api.ImportRecords200JSONResponse(ToRecordSet(set)), err
}

// replaceRecords takes a file in, in place of a set. Where fields are gone that designs use, it is refused unless it is
// to be anyway.
func (s *Records) replaceRecords(ctx context.Context, u *handler.Upload, source *sources.Source) (set store.RecordSet,
	err error) {
	old, err := s.Store.RecordSet(ctx, u.Replaces)
	if err != nil {
		return set, err
	}
	feed, err := s.Store.FeedOf(ctx, old.ID)
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
	if len(found.GoneFields) > 0 && !u.Anyway {
		if err := s.Feeds.Missed(ctx, old, found.GoneFields); err != nil {
			return set, err
		}
	}
	return s.Store.ReplaceRecordSet(ctx, old.ID, u.Name, source.Fields, source.Count, source.Records(), s.User(ctx))
}
