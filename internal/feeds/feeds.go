// Package feeds reads records from where a plant keeps them (databases, files that others write, the order desk), again
// whenever they are wanted, and says what changed since.
package feeds

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"iter"
	"log/slog"
	"os"
	"path/filepath"
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

// Kinds of connections beside those of databases.
const (
	Files = "files" // a folder on the server, in which others put their files
	Desk  = "desk"
)

// A Place is where records are, and as whom they are asked for.
type Place struct {
	databases.Place
	Address string `json:"address,omitempty"` // of the order desk
}

// A Request is what is read there: a table, a written question, a file, or what the order desk has.
type Request struct {
	databases.Query
	Settings *sources.Settings   `json:"settings,omitempty"` // how a file is read; its name is the table
	Desk     *orderdesk.Question `json:"desk,omitempty"`
}

// Feeds reads from connections.
type Feeds struct {
	Store  *store.Store
	Guard  *reach.Guard
	Box    *secrets.Box // nil: no passwords are kept
	Folder string       // under which files are read; empty: none are
	Log    *slog.Logger
}

// use is what the password of a place is sealed for: for another machine, or another name, it must be typed anew.
func (p *Place) use() string {
	if p.Kind == Desk {
		return strings.Join([]string{Desk, p.Address}, "\n")
	}
	return strings.Join([]string{string(p.Kind), p.Place.Address(), p.Database, p.User, string(p.TLS)}, "\n")
}

// Seal closes a password for a place. Its error is a *refusal.Error.
func (f *Feeds) Seal(p Place, password string) ([]byte, error) {
	if f.Box == nil {
		return nil, noKey.With()
	}
	return f.Box.Seal(password, p.use()), nil
}

// Known reads where a connection leads, and its password. Its error is secrets.ErrOtherKey or a *refusal.Error.
func (f *Feeds) Known(c store.Connection) (p Place, password string, err error) {
	if err := json.Unmarshal(c.Place, &p); err != nil {
		return p, "", fmt.Errorf("read connection %d: %w", c.ID, err)
	}
	if len(c.Secret) == 0 {
		return p, "", nil
	}
	if f.Box == nil {
		return p, "", secrets.ErrOtherKey
	}
	password, err = f.Box.Open(c.Secret, p.use())
	return p, password, err
}

// inside returns the path of a file, or folder, that is under the server's folder of files. Its error is a
// *refusal.Error.
func (f *Feeds) inside(name string) (string, error) {
	if f.Folder == "" {
		return "", noFolder.With()
	}
	root, err := os.OpenRoot(f.Folder)
	if err != nil {
		return "", folderMissing.With()
	}
	defer root.Close()
	name = filepath.FromSlash(cmp.Or(strings.Trim(name, "/"), "."))
	if _, err := root.Stat(name); err != nil {
		return "", fileMissing.With(name)
	}
	return filepath.Join(f.Folder, name), nil
}

// database opens that of a place.
func (f *Feeds) database(ctx context.Context, p Place, password string) (*databases.Database, error) {
	at := p.Place
	if at.Kind == databases.SQLite {
		if err := at.Check(); err != nil {
			return nil, err
		}
		path, err := f.inside(at.Path)
		if err != nil {
			return nil, err
		}
		at.Path = path
	}
	d, err := databases.Open(ctx, at, password, f.Guard)
	if err != nil {
		return nil, err
	}
	if err := f.isAnother(ctx, d, at); err != nil {
		return nil, errors.Join(err, d.Close())
	}
	return d, nil
}

// isAnother refuses the database that the server itself works on, and a name that may read all of its server: sessions,
// passwords and the work of others lie there.
func (f *Feeds) isAnother(ctx context.Context, d *databases.Database, at databases.Place) error {
	is, err := d.Identity(ctx)
	if err != nil || is.System == "" {
		return err
	}
	var own databases.Identity
	if err := f.Store.DB.GetContext(ctx, &own, databases.IdentityQuery); err != nil {
		return fmt.Errorf("ask which database is the server's own: %w", err)
	}
	switch {
	case is.System != own.System:
		return nil
	case is.Database == own.Database:
		return ownDatabase.With()
	case is.ReadsAll:
		return readsOwnServer.With(at.User, at.Database)
	}
	return nil
}

// Try sees that a place answers. Its error is one that people are told.
func (f *Feeds) Try(ctx context.Context, p Place, password string) error {
	switch p.Kind {
	case Files:
		_, err := f.inside(p.Path)
		return err
	case Desk:
		desk, err := orderdesk.At(p.Address, password, f.Guard)
		if err != nil {
			return err
		}
		return desk.Try(ctx)
	}
	d, err := f.database(ctx, p, password)
	if err != nil {
		return err
	}
	_, err = d.Tables(ctx)
	return errors.Join(err, d.Close())
}

// Tables lists what a connection has: tables and views, or files.
func (f *Feeds) Tables(ctx context.Context, c store.Connection) ([]databases.Table, error) {
	p, password, err := f.Known(c)
	switch {
	case err != nil:
		return nil, err
	case p.Kind == Desk:
		return nil, nil
	case p.Kind == Files:
		return f.list(p.Path)
	}
	d, err := f.database(ctx, p, password)
	if err != nil {
		return nil, err
	}
	defer d.Close()
	return d.Tables(ctx)
}

// list lists the files of a folder, and of those in it.
func (f *Feeds) list(name string) (files []databases.Table, err error) {
	folder, err := f.inside(name)
	if err != nil {
		return nil, err
	}
	err = fs.WalkDir(os.DirFS(folder), ".", func(path string, entry fs.DirEntry, err error) error {
		switch {
		case err != nil || strings.HasPrefix(entry.Name(), ".") && path != ".":
			if entry != nil && entry.IsDir() {
				return fs.SkipDir
			}
		case entry.Type().IsRegular() && !strings.HasSuffix(path, writtenBeside):
			files = append(files, databases.Table{Name: path})
		}
		if len(files) >= databases.Most {
			return fs.SkipAll
		}
		return nil
	})
	if err != nil {
		return nil, folderUnreadable.With(err)
	}
	return files, nil
}

// writtenBeside ends the names of the files in which it is kept what was printed of a file's records.
const writtenBeside = ".printed.csv"

// Columns lists the columns of a table.
func (f *Feeds) Columns(ctx context.Context, c store.Connection, table databases.Table) ([]databases.Column, error) {
	p, password, err := f.Known(c)
	if err != nil {
		return nil, err
	}
	if p.Kind == Desk || p.Kind == Files {
		return nil, noTables.With()
	}
	d, err := f.database(ctx, p, password)
	if err != nil {
		return nil, err
	}
	defer d.Close()
	return d.Columns(ctx, table)
}

// Parameters returns what a request asks for by name before it can be read.
func (f *Feeds) Parameters(c store.Connection, r Request) ([]string, error) {
	if r.Text == "" || r.Table != "" {
		return []string{}, nil
	}
	return databases.Parameters(databases.Kind(c.Kind), r.Text)
}

// A Look is the first records of a request.
type Look struct {
	Fields  []string
	Records [][]string
	More    bool            // there are more
	File    *sources.Source // what a file was read as; nil: it is none. It is closed
}

// Preview looks at the first records of a request. Its error is one that people are told.
func (f *Feeds) Preview(ctx context.Context, c store.Connection, r Request, answers map[string]string,
	most int) (look Look, err error) {
	p, password, err := f.Known(c)
	if err != nil {
		return look, err
	}
	if p.Kind != Desk && p.Kind != Files {
		d, err := f.database(ctx, p, password)
		if err != nil {
			return look, err
		}
		defer d.Close()
		look.Fields, look.Records, look.More, err = d.First(ctx, r.Query, answers, most)
		return look, err
	}
	source, done, err := f.read(ctx, p, password, r, answers)
	if err != nil {
		return look, err
	}
	defer done()
	if look.Fields = source.Fields; p.Kind == Files {
		look.File = source
	}
	for record, err := range source.Records() {
		if err != nil {
			return look, err
		}
		if p.Kind == Files && len(look.Records) == most {
			look.More = true
			break
		}
		look.Records = append(look.Records, record)
	}
	return look, nil
}

// read reads all of a request; done lets go of it.
func (f *Feeds) read(ctx context.Context, p Place, password string, r Request,
	answers map[string]string) (source *sources.Source, done func(), err error) {
	switch p.Kind {
	case Files:
		path, err := f.inside(p.Path + "/" + r.Table)
		if err != nil {
			return nil, nil, err
		}
		return openFile(ctx, path, r.Settings)
	case Desk:
		source, err = f.readDesk(ctx, p, password, r)
	default:
		source, err = f.readDatabase(ctx, p, password, r, answers)
	}
	if err != nil {
		return nil, nil, err
	}
	return source, func() { _ = source.Close() }, nil
}

func (f *Feeds) readDesk(ctx context.Context, p Place, token string, r Request) (*sources.Source, error) {
	if r.Desk == nil {
		return nil, nothingAsked.With()
	}
	desk, err := orderdesk.At(p.Address, token, f.Guard)
	if err != nil {
		return nil, err
	}
	fields, rows, err := desk.Ask(ctx, *r.Desk)
	if err != nil {
		return nil, err
	}
	return sources.Take("order desk", all(fields, rows))
}

func (f *Feeds) readDatabase(ctx context.Context, p Place, password string, r Request,
	answers map[string]string) (*sources.Source, error) {
	d, err := f.database(ctx, p, password)
	if err != nil {
		return nil, err
	}
	defer d.Close()
	return d.Read(ctx, r.Query, answers)
}

// openFile reads a file as it is now: whoever writes it may go on.
func openFile(ctx context.Context, path string, settings *sources.Settings) (source *sources.Source, done func(),
	err error) {
	unread := func(err error) error {
		return fileUnreadable.With(filepath.Base(path), errors.Unwrap(err))
	}
	file, err := os.Open(path)
	if err != nil {
		return nil, nil, unread(err)
	}
	defer file.Close()
	data, err := io.ReadAll(io.LimitReader(file, sources.MostBytes+1)) // one more is refused by its size
	if err != nil {
		return nil, nil, unread(err)
	}
	if settings == nil {
		settings = &sources.Settings{}
	}
	source, err = sources.Open(ctx, bytes.NewReader(data), int64(len(data)), *settings)
	if err != nil {
		return nil, nil, err
	}
	return source, func() { _ = source.Close() }, nil
}

// all gives names and rows one after the other.
func all(fields []string, rows [][]string) iter.Seq2[[]string, error] {
	return func(yield func([]string, error) bool) {
		if !yield(fields, nil) {
			return
		}
		for _, row := range rows {
			if !yield(row, nil) {
				return
			}
		}
	}
}

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
