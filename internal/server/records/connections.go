package records

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode"

	"oddspool/core/batch"
	"oddspool/internal/api"
	"oddspool/internal/databases"
	"oddspool/internal/feeds"
	"oddspool/internal/orderdesk"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

func toConnection(c store.Connection) (api.Connection, error) {
	answer := api.Connection{Id: c.ID, Name: c.Name, Secret: len(c.Secret) > 0}
	if err := json.Unmarshal(c.Place, &answer.Place); err != nil {
		return answer, fmt.Errorf("read connection %d: %w", c.ID, err)
	}
	return answer, nil
}

// ListConnections implements api.StrictServerInterface.
func (s *Records) ListConnections(ctx context.Context,
	_ api.ListConnectionsRequestObject) (api.ListConnectionsResponseObject, error) {
	all, err := s.Store.Connections(ctx)
	if err != nil {
		return nil, err
	}
	answer := make(api.ListConnections200JSONResponse, len(all))
	for i, c := range all {
		if answer[i], err = toConnection(c); err != nil {
			return nil, err
		}
	}
	return answer, nil
}

// putConnection tries what was typed and keeps it; before is what it changes, if anything.
func (s *Records) putConnection(ctx context.Context, body *api.PutConnection,
	before store.Connection) (answer api.Connection, err error) {
	place, err := handler.As[feeds.Place](body.Place)
	if err != nil {
		return answer, err
	}
	c := store.Connection{ID: before.ID, Name: strings.TrimSpace(body.Name), Kind: string(place.Kind),
		MadeBy: s.User(ctx)}
	if c.Name == "" || strings.ContainsFunc(c.Name, unicode.IsControl) {
		return answer, noName.With()
	}
	if c.Place, err = json.Marshal(place); err != nil {
		return answer, fmt.Errorf("write connection: %w", err)
	}
	password := handler.Or(body.Password, "")
	if body.Password == nil && before.Secret != nil { // as it was, if it was for this place
		kept := before
		kept.Place = c.Place
		if _, password, err = s.Feeds.Known(kept); err != nil {
			return answer, err
		}
	}
	if body.Password != nil {
		if c.Secret, err = s.Feeds.Seal(place, password); err != nil {
			return answer, err
		}
	}
	if !handler.Or(body.Untried, false) {
		if err := s.Feeds.Try(ctx, place, password); err != nil {
			return answer, err
		}
	}
	kept, err := s.Store.PutConnection(ctx, c)
	if err != nil {
		return answer, err
	}
	return toConnection(kept)
}

// AddConnection implements api.StrictServerInterface.
func (s *Records) AddConnection(ctx context.Context,
	req api.AddConnectionRequestObject) (api.AddConnectionResponseObject, error) {
	added, err := s.putConnection(ctx, req.Body, store.Connection{})
	return api.AddConnection200JSONResponse(added), err
}

// ChangeConnection implements api.StrictServerInterface.
func (s *Records) ChangeConnection(ctx context.Context,
	req api.ChangeConnectionRequestObject) (api.ChangeConnectionResponseObject, error) {
	before, err := s.Store.Connection(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	changed, err := s.putConnection(ctx, req.Body, before)
	return api.ChangeConnection200JSONResponse(changed), err
}

// CloseConnection implements api.StrictServerInterface.
func (s *Records) CloseConnection(ctx context.Context,
	req api.CloseConnectionRequestObject) (api.CloseConnectionResponseObject, error) {
	return api.CloseConnection204Response{}, s.Store.CloseConnection(ctx, req.Id)
}

// ListTables implements api.StrictServerInterface.
func (s *Records) ListTables(ctx context.Context, req api.ListTablesRequestObject) (api.ListTablesResponseObject,
	error) {
	c, err := s.Store.Connection(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	tables, err := s.Feeds.Tables(ctx, c)
	if err != nil {
		return nil, err
	}
	return handler.As[api.ListTables200JSONResponse](append([]databases.Table{}, tables...))
}

// ListColumns implements api.StrictServerInterface.
func (s *Records) ListColumns(ctx context.Context, req api.ListColumnsRequestObject) (api.ListColumnsResponseObject,
	error) {
	c, err := s.Store.Connection(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	columns, err := s.Feeds.Columns(ctx, c, databases.Table{Schema: handler.Or(req.Body.Schema, ""),
		Name: req.Body.Name})
	if err != nil {
		return nil, err
	}
	return handler.As[api.ListColumns200JSONResponse](columns)
}

// asked reads what is asked of a connection.
func (s *Records) asked(ctx context.Context, id int64, body api.SourceRequest) (c store.Connection, r feeds.Request,
	err error) {
	if c, err = s.Store.Connection(ctx, id); err != nil {
		return c, r, err
	}
	r, err = handler.As[feeds.Request](body)
	return c, r, err
}

// LookAtSource implements api.StrictServerInterface.
func (s *Records) LookAtSource(ctx context.Context, req api.LookAtSourceRequestObject) (api.LookAtSourceResponseObject,
	error) {
	c, r, err := s.asked(ctx, req.Id, req.Body.Request)
	if err != nil {
		return nil, err
	}
	answer := api.LookAtSource200JSONResponse{Fields: []string{}, Records: [][]string{}}
	if answer.Parameters, err = s.Feeds.Parameters(c, r); err != nil {
		return nil, err
	}
	answers := handler.Or(req.Body.Answers, nil)
	for _, name := range answer.Parameters {
		if _, said := answers[name]; !said {
			return answer, nil
		}
	}
	look, err := s.Feeds.Preview(ctx, c, r, answers, previewed)
	if err != nil {
		return nil, err
	}
	fields, records := look.Fields, look.Records
	answer.Fields, answer.Records, answer.More = fields, append(answer.Records, records...), look.More
	if look.File != nil {
		answer.File = new(toFileRead(look.File))
	}
	if c.Kind == feeds.Desk && slices.Contains(fields, orderdesk.Quantity) {
		numbers, labels := make([]int, len(records)), make([]int, len(records))
		for i := range numbers {
			numbers[i] = i + 1
		}
		shares, _, err := batch.HowMany{Field: orderdesk.Quantity}.Share(numbers, fields, records)
		if err != nil {
			return nil, err
		}
		for _, share := range shares {
			labels[share.Record-1] = share.Copies
		}
		answer.Labels = &labels
	}
	return answer, nil
}

// TakeSource implements api.StrictServerInterface.
func (s *Records) TakeSource(ctx context.Context, req api.TakeSourceRequestObject) (api.TakeSourceResponseObject,
	error) {
	c, r, err := s.asked(ctx, req.Id, req.Body.Request)
	if err != nil {
		return nil, err
	}
	wish := feeds.Wish{Name: strings.TrimSpace(req.Body.Name)}
	if wish.Name == "" {
		return nil, noName2.With()
	}
	if how := req.Body.Rereading; how != nil {
		wish.Key, wish.EveryMinutes, wish.BeforeRun = how.Key, how.EveryMinutes, how.BeforeRun
	}
	set, err := s.Feeds.Take(ctx, c, r, handler.Or(req.Body.Answers, api.Answers{}), wish, s.User(ctx))
	if err != nil {
		return nil, err
	}
	answer, err := s.withSource(ctx, set)
	return api.TakeSource200JSONResponse(answer), err
}

// withSource tells a set with where it is read again.
func (s *Records) withSource(ctx context.Context, set store.RecordSet) (answer api.RecordSet, err error) {
	answer = ToRecordSet(set)
	feed, err := s.Store.FeedOf(ctx, set.ID)
	if err != nil || feed == nil || feed.SetID != set.ID { // newer records took its place
		return answer, err
	}
	source := api.Source{ConnectionId: feed.ConnectionID, Connection: feed.Connection,
		Kind: api.ConnectionKind(feed.Kind), ReadAt: feed.ReadAt,
		Answers: feed.Answers.V, Rereading: api.Rereading{Key: feed.Key.V, EveryMinutes: feed.EveryMinutes,
			BeforeRun: feed.BeforeRun}}
	if feed.Trouble != "" {
		source.Trouble = &feed.Trouble
	}
	var request feeds.Request
	err = errors.Join(json.Unmarshal(feed.Request, &source.Request), json.Unmarshal(feed.Request, &request))
	if err != nil {
		return answer, fmt.Errorf("read feed %d: %w", feed.ID, err)
	}
	if feed.Changes.V != nil {
		found, err := handler.As[api.RecordChanges](feed.Changes.V)
		if err != nil {
			return answer, err
		}
		source.Changes = &found
	}
	if names, err := s.Feeds.Parameters(store.Connection{Kind: feed.Kind}, request); err == nil && len(names) > 0 {
		source.Parameters = &names
	}
	if feed.WriteBack != nil {
		if err := json.Unmarshal(feed.WriteBack, &source.WriteBack); err != nil {
			return answer, fmt.Errorf("read feed %d: %w", feed.ID, err)
		}
	}
	waiting, err := s.Store.OutboxOf(ctx, feed.ID)
	if err != nil {
		return answer, err
	}
	if waiting.Told+waiting.Waiting > 0 {
		source.Told, source.Untold = &waiting.Told, &waiting.Waiting
	}
	if waiting.Trouble != "" {
		source.UntoldWhy = &waiting.Trouble
	}
	answer.Source = &source
	return answer, nil
}

// feedOf returns a set with what it is read again from.
func (s *Records) feedOf(ctx context.Context, id int64) (store.RecordSet, *store.Feed, error) {
	set, err := s.Store.RecordSet(ctx, id)
	if err != nil {
		return set, nil, err
	}
	feed, err := s.Store.FeedOf(ctx, id)
	if err == nil && feed == nil {
		err = notConnectedRefused.With(set.Name)
	}
	return set, feed, err
}

// SetWriteBack implements api.StrictServerInterface.
func (s *Records) SetWriteBack(ctx context.Context, req api.SetWriteBackRequestObject) (api.SetWriteBackResponseObject,
	error) {
	set, feed, err := s.feedOf(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	how, err := handler.As[feeds.WriteBack](req.Body)
	if err != nil {
		return nil, err
	}
	if err := s.Feeds.CheckWriteBack(ctx, feed, how); err != nil {
		return nil, err
	}
	document, err := json.Marshal(how)
	if err != nil {
		return nil, fmt.Errorf("write how feed %d is told: %w", feed.ID, err)
	}
	if err := errors.Join(s.Store.SetWriteBack(ctx, feed.ID, document), s.Store.TellNow(ctx, feed.ID)); err != nil {
		return nil, err
	}
	answer, err := s.withSource(ctx, set)
	return api.SetWriteBack200JSONResponse(answer), err
}

// EndWriteBack implements api.StrictServerInterface.
func (s *Records) EndWriteBack(ctx context.Context, req api.EndWriteBackRequestObject) (api.EndWriteBackResponseObject,
	error) {
	_, feed, err := s.feedOf(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	return api.EndWriteBack204Response{}, s.Store.SetWriteBack(ctx, feed.ID, nil)
}

// SetSource implements api.StrictServerInterface.
func (s *Records) SetSource(ctx context.Context, req api.SetSourceRequestObject) (api.SetSourceResponseObject, error) {
	set, feed, err := s.feedOf(ctx, req.Id)
	if err != nil {
		return nil, err
	}
	for _, field := range req.Body.Key {
		if !slices.Contains(set.Fields, field) {
			return nil, noKeyField.With(field)
		}
	}
	if err := s.Store.SetFeed(ctx, feed.ID, req.Body.Key, req.Body.EveryMinutes, req.Body.BeforeRun); err != nil {
		return nil, err
	}
	answer, err := s.withSource(ctx, set)
	return api.SetSource200JSONResponse(answer), err
}

// RefreshRecords implements api.StrictServerInterface.
func (s *Records) RefreshRecords(ctx context.Context,
	req api.RefreshRecordsRequestObject) (api.RefreshRecordsResponseObject, error) {
	refreshed, err := s.Feeds.Refresh(ctx, req.Id, handler.Or(req.Body.Answers, nil),
		handler.Or(req.Body.Anyway, false), s.User(ctx))
	if err != nil {
		return nil, err
	}
	answer := api.RefreshRecords200JSONResponse{}
	if answer.Set, err = s.withSource(ctx, refreshed.Set); err != nil {
		return nil, err
	}
	answer.Changes, err = handler.As[api.RecordChanges](refreshed.Changes)
	return answer, err
}
