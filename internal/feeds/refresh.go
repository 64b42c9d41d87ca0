package feeds

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"oddspool/core/diff"
	"oddspool/core/refusal"
	"oddspool/internal/databases"
	"oddspool/internal/orderdesk"
	"oddspool/internal/reach"
	"oddspool/internal/secrets"
	"oddspool/internal/sources"
	"oddspool/internal/store"
)

// A Wish says how records are kept that are taken in.
type Wish struct {
	Name         string
	Key          []string // fields that tell records apart; none: found
	EveryMinutes int
	BeforeRun    bool
}

// Take takes records in that can be read again. Its error is one that people are told.
func (f *Feeds) Take(ctx context.Context, c store.Connection, r Request, answers map[string]string, wish Wish,
	by string) (set store.RecordSet, err error) {
	p, password, err := f.Known(c)
	if err != nil {
		return set, err
	}
	source, done, err := f.read(ctx, p, password, r, answers)
	if err != nil {
		return set, err
	}
	defer done()
	if len(wish.Key) == 0 {
		if wish.Key, err = f.keyOf(ctx, c, r, source); err != nil {
			return set, err
		}
	}
	for _, field := range wish.Key {
		if !slices.Contains(source.Fields, field) {
			return set, noKeyField.With(field)
		}
	}
	request, err := json.Marshal(r)
	if err != nil {
		return set, fmt.Errorf("write what is read of connection %d: %w", c.ID, err)
	}
	feed := store.Feed{ConnectionID: c.ID, Request: request, Answers: store.Kept[map[string]string]{V: answers},
		Key: store.Kept[[]string]{V: wish.Key}, EveryMinutes: wish.EveryMinutes, BeforeRun: wish.BeforeRun}
	return f.Store.TakeFeed(ctx, feed, wish.Name, source.Fields, source.Count, source.Records(), by)
}

// keyOf finds the fields that tell records apart: the key of a table, the line of a document, or the first field that
// has another value in every record.
func (f *Feeds) keyOf(ctx context.Context, c store.Connection, r Request, source *sources.Source) (key []string,
	err error) {
	if r.Desk != nil {
		return []string{r.Desk.LineField()}, nil
	}
	if r.Table != "" && c.Kind != Files {
		columns, err := f.Columns(ctx, c, databases.Table{Schema: r.Schema, Name: r.Table})
		if err != nil {
			return nil, err
		}
		for _, column := range columns {
			if column.Key {
				key = append(key, column.Name)
			}
		}
		if len(key) > 0 && !slices.ContainsFunc(key,
			func(name string) bool { return !slices.Contains(source.Fields, name) }) {
			return key, nil
		}
	}
	seen := make([]map[string]bool, min(len(source.Fields), 20))
	for i := range seen {
		seen[i] = map[string]bool{}
	}
	for record, err := range source.Records() {
		if err != nil {
			return nil, err
		}
		for i, values := range seen {
			switch {
			case values == nil:
			case record[i] == "" || values[record[i]]:
				seen[i] = nil
			default:
				values[record[i]] = true
			}
		}
	}
	for i, values := range seen {
		if values != nil {
			return source.Fields[i : i+1], nil
		}
	}
	return []string{}, nil
}

// A MissingError says that reading records again would lose something: fields that labels say, or what was changed by
// hand.
type MissingError struct{ Text string }

func (e *MissingError) Error() string { return e.Text }

// Refusal tells its kind and values.
func (e *MissingError) Refusal() *refusal.Error { return recordsMissing.With(e.Text) }

// An UnreadError says that records could not be read again before they were used. What was read of them last is there.
type UnreadError struct{ err error }

func (e *UnreadError) Error() string { return e.err.Error() }

// Unwrap returns why.
func (e *UnreadError) Unwrap() error { return e.err }

// Before reads records again that are to be before they are used, and returns what there is then. Its error is an
// *UnreadError.
func (f *Feeds) Before(ctx context.Context, set int64, by string) (*Refreshed, error) {
	refreshed, err := f.Refresh(ctx, set, nil, false, by)
	if err != nil {
		return nil, &UnreadError{err}
	}
	return refreshed, nil
}

// Refreshed is what a source has now.
type Refreshed struct {
	Set     store.RecordSet // the newest records: the ones of before, where nothing is different
	Changes *diff.Changes
}

// Refresh reads the records of a set again; answers that are nil stay as they were. Where something is different, new
// records take the place of those of before. Where fields are gone that designs say, nothing is taken in unless it is
// to be anyway: the error is a *MissingError. Others are such as people are told; why a source could not be read is
// kept with it.
func (f *Feeds) Refresh(ctx context.Context, setID int64, answers map[string]string, anyway bool,
	by string) (*Refreshed, error) {
	feed, err := f.Store.FeedOf(ctx, setID)
	if err != nil {
		return nil, err
	}
	if feed == nil {
		set, err := f.Store.RecordSet(ctx, setID)
		if err != nil {
			return nil, err
		}
		return nil, notConnected.With(set.Name)
	}
	refreshed, err := f.refresh(ctx, feed, answers, anyway, by)
	if err != nil && ctx.Err() == nil {
		if noted := f.Store.FeedTrouble(ctx, feed.ID, f.sentence(err)); noted != nil {
			f.Log.Error("why a source cannot be read is not noted", "feed", feed.ID, "error", noted)
		}
	}
	return refreshed, err
}

// sentence is what people are told of an error; what is nobody's to see goes into the log alone.
func (f *Feeds) sentence(err error) string {
	for _, known := range []any{new(*refusal.Error), new(*MissingError), new(*databases.Error),
		new(*databases.MissingError),
		new(*sources.FileError), new(*orderdesk.Error), new(*reach.ForbiddenError)} {
		if errors.As(err, known) {
			return reflect.ValueOf(known).Elem().Interface().(error).Error()
		}
	}
	if errors.Is(err, secrets.ErrOtherKey) {
		return secrets.ErrOtherKey.Error()
	}
	f.Log.Error("work with a source failed", "error", err)
	return "Something went wrong in the server. It is tried again; if it stays so, tell whoever looks after Odd Spool."
}

func (f *Feeds) refresh(ctx context.Context, feed *store.Feed, answers map[string]string, anyway bool,
	by string) (*Refreshed, error) {
	if feed.Closed {
		return nil, connectionClosed.With(feed.Connection)
	}
	set, err := f.Store.RecordSet(ctx, feed.SetID)
	if err != nil {
		return nil, err
	}
	if set.ByHand && !anyway {
		return nil, &MissingError{fmt.Sprintf("%s was changed by hand by %s since it was read. What %s has now would "+
			"take the place of that. Keep what was changed as another set first, or take it in anyway.", set.Name,
			set.ImportedBy, feed.Connection)}
	}
	connection, err := f.Store.Connection(ctx, feed.ConnectionID)
	if err != nil {
		return nil, err
	}
	var request Request
	if answers == nil {
		answers = feed.Answers.V
	}
	if err := json.Unmarshal(feed.Request, &request); err != nil {
		return nil, fmt.Errorf("read feed %d: %w", feed.ID, err)
	}
	p, password, err := f.Known(connection)
	if err != nil {
		return nil, err
	}
	source, done, err := f.read(ctx, p, password, request, answers)
	if err != nil {
		return nil, err
	}
	defer done()
	found, err := diff.Find(diff.Reading{Fields: set.Fields, Records: f.Store.EachRecord(ctx, set.ID)},
		diff.Reading{Fields: source.Fields, Records: source.Records()}, feed.Key.V)
	if err != nil {
		return nil, err
	}
	if found.None() {
		return &Refreshed{set, found}, f.Store.FeedSame(ctx, feed.ID, answers)
	}
	if len(found.GoneFields) > 0 && !anyway {
		if err := f.Missed(ctx, set, found.GoneFields); err != nil {
			return nil, err
		}
	}
	renewed, err := f.Store.RenewFeed(ctx, feed, answers, found, set.Name, source.Fields, source.Count,
		source.Records(), by)
	if err != nil {
		return nil, err
	}
	return &Refreshed{renewed, found}, nil
}

// Missed says which elements of which designs say fields that are gone: a *MissingError, or nil where none does.
func (f *Feeds) Missed(ctx context.Context, set store.RecordSet, gone []string) error {
	designs, err := f.Store.DesignsOf(ctx, set.ID)
	if err != nil {
		return err
	}
	said := []string{}
	for _, one := range designs {
		d, err := one.Parse()
		if err != nil {
			continue // what is wrong with a design is told where it is opened
		}
		for _, field := range gone {
			if slices.Contains(d.UsedFields(), field) {
				said = append(said, fmt.Sprintf("%s says %s (%s)", one.Name, field,
					strings.Join(d.ElementsSaying(field), ", ")))
			}
		}
	}
	if len(said) == 0 {
		return nil
	}
	return &MissingError{fmt.Sprintf("%s has no %s any more, and %s. Nothing was taken in: have the source give it "+
		"again, or take the records in anyway and change the designs.",
		set.Name, strings.Join(gone, ", "), strings.Join(said, "; "))}
}
