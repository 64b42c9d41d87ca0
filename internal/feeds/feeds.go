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
	"strings"

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
