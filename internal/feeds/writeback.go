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
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"

	"oddspool/core/compose"
	"oddspool/core/design"
	"oddspool/core/tables"
	"oddspool/internal/databases"
	"oddspool/internal/orderdesk"
	"oddspool/internal/store"
)

// WriteBack says how a source is told what was printed. A database has columns for it; the order desk, and a file, take
// it as it is.
type WriteBack struct {
	At      string `json:"at,omitempty"`      // the column for when
	By      string `json:"by,omitempty"`      // for whom
	Count   string `json:"count,omitempty"`   // for how many labels in all
	Numbers string `json:"numbers,omitempty"` // for what the codes of a label say
}

// columns returns those that are named.
func (w *WriteBack) columns() (names []string) {
	for _, name := range []string{w.At, w.By, w.Count, w.Numbers} {
		if name != "" {
			names = append(names, name)
		}
	}
	return names
}

// CheckWriteBack says why a source cannot be told so; nil: it can.
func (f *Feeds) CheckWriteBack(ctx context.Context, feed *store.Feed, w WriteBack) error {
	var r Request
	if err := json.Unmarshal(feed.Request, &r); err != nil {
		return fmt.Errorf("read feed %d: %w", feed.ID, err)
	}
	if feed.Kind == Files || feed.Kind == Desk {
		return nil
	}
	names := w.columns()
	switch {
	case r.Table == "":
		return queryNotWritable.With()
	case len(names) == 0:
		return noWriteBackColumn.With()
	}
	c, err := f.Store.Connection(ctx, feed.ConnectionID)
	if err != nil {
		return err
	}
	columns, err := f.Columns(ctx, c, databases.Table{Schema: r.Schema, Name: r.Table})
	if err != nil {
		return err
	}
	for i, name := range names {
		at := slices.IndexFunc(columns, func(c databases.Column) bool { return c.Name == name })
		switch {
		case at < 0:
			return unknownColumn.With(r.Table, name)
		case columns[at].Key:
			return keyColumn.With(name)
		case slices.Index(names, name) != i:
			return columnTwice.With(name)
		}
	}
	set, err := f.Store.RecordSet(ctx, feed.SetID)
	if err != nil {
		return err
	}
	keys := 0
	for _, column := range columns {
		if !column.Key {
			continue
		}
		keys++
		if !slices.Contains(set.Fields, column.Name) {
			return keyNotInRecords.With(column.Name, r.Table)
		}
	}
	if keys == 0 {
		return noPrimaryKey.With(r.Table)
	}
	return nil
}

// mostAtOnce are tried at once.
const mostAtOnce = 200

// Tell tells sources what came out, as far as it waits to be told. What a source does not take now waits, and is tried
// again.
func (f *Feeds) Tell(ctx context.Context) {
	waiting, err := f.Store.TakeOutbox(ctx, mostAtOnce)
	if err != nil && ctx.Err() == nil {
		f.Log.Warn("it cannot be told what is to be written back", "error", err)
	}
	away := map[int64]string{} // sources that did not answer: the others of theirs need not be tried
	for _, t := range waiting {
		trouble := away[t.FeedID]
		if trouble == "" {
			if err := f.writeBack(ctx, &t); err != nil {
				if ctx.Err() != nil {
					return
				}
				trouble = f.sentence(err)
				if told := new(databases.Error); errors.As(err, &told) && told.Unwrap() != nil {
					away[t.FeedID] = trouble
				}
				if told := new(orderdesk.Error); errors.As(err, &told) && told.Unwrap() != nil {
					away[t.FeedID] = trouble
				}
			}
		}
		if err := f.Store.Told(ctx, t.ID, trouble); err != nil && ctx.Err() == nil {
			f.Log.Warn("what was written back is not noted, and is written again", "write-back", t.ID, "error", err)
		}
	}
}

// writeBack tells the source of one. The same again changes nothing at the source.
func (f *Feeds) writeBack(ctx context.Context, t *store.WriteBack) error {
	var r Request
	var w WriteBack
	if err := errors.Join(json.Unmarshal(t.Request, &r), json.Unmarshal(orEmpty(t.WriteBack), &w)); err != nil {
		return fmt.Errorf("read write-back %d: %w", t.ID, err)
	}
	c, err := f.Store.Connection(ctx, t.ConnectionID)
	if err != nil {
		return err
	}
	p, password, err := f.Known(c)
	if err != nil {
		return err
	}
	set, err := f.Store.RecordSet(ctx, t.SetID)
	if err != nil {
		return err
	}
	records, err := f.Store.SomeRecords(ctx, t.SetID, []int{t.Record})
	if err != nil {
		return err
	}
	said := map[string]string{}
	for i, field := range set.Fields {
		said[field] = records[0][i]
	}
	numbers, err := f.numbers(ctx, t, set.Fields, records[0])
	if err != nil {
		return err
	}
	switch p.Kind {
	case Files:
		return f.tellFile(p.Path+"/"+r.Table, t, set.Fields, records[0], numbers)
	case Desk:
		desk, err := orderdesk.At(p.Address, password, f.Guard)
		if err != nil {
			return err
		}
		printed := orderdesk.Printed{Item: said["item"], Line: said["line"], Run: t.RunID, Labels: t.Labels,
			At: t.PrintedAt, By: t.PrintedBy, Numbers: numbers}
		if r.Desk != nil {
			printed.Kind, printed.Document = r.Desk.Kind, r.Desk.Number
		}
		return desk.Tell(ctx, t.Mark, printed)
	}
	return f.tellDatabase(ctx, p, password, r, w, t, said, numbers)
}

// orEmpty is a document, or an empty one: a source that is told no more still has words waiting.
func orEmpty(document store.JSON) []byte { return []byte(cmp.Or(string(document), "{}")) }

// numbers are what the codes of labels of a record say.
func (f *Feeds) numbers(ctx context.Context, t *store.WriteBack, fields, record []string) (numbers []string,
	err error) {
	run, err := f.Store.Run(ctx, t.RunID)
	if err != nil {
		return nil, err
	}
	d, err := f.Store.ToCompose(ctx, &run)
	if err != nil {
		return nil, err
	}
	composer, err := compose.New(d, d.LabelFields(run.Fields))
	if err != nil {
		return nil, err
	}
	labels, err := f.Store.RunLabels(ctx, &run, d, t.PrintedBy, slices.Min(t.Numbers), slices.Max(t.Numbers), true)
	if err != nil {
		return nil, err
	}
	label, said := &compose.Label{}, map[string]bool{}
	for _, l := range labels {
		if !slices.Contains(t.Numbers, l.Label) {
			continue
		}
		composer.Compose(label, l.Values)
		for i := range label.Parts {
			if part := &label.Parts[i]; d.Elements[i].Kind == design.Code && !part.Absent && !said[part.Says] {
				numbers, said[part.Says] = append(numbers, part.Says), true
			}
		}
	}
	return numbers, nil
}

// tellDatabase writes what there is to say of a record in all, so that to write it twice changes nothing.
func (f *Feeds) tellDatabase(ctx context.Context, p Place, password string, r Request, w WriteBack, t *store.WriteBack,
	said map[string]string, numbers []string) error {
	d, err := f.database(ctx, p, password)
	if err != nil {
		return err
	}
	defer d.Close()
	columns, err := d.Columns(ctx, databases.Table{Schema: r.Schema, Name: r.Table})
	if err != nil {
		return err
	}
	key := []string{}
	for _, column := range columns {
		if column.Key {
			key = append(key, said[column.Name])
		}
	}
	labels, err := f.Store.LabelsOf(ctx, t, key)
	if err != nil {
		return err
	}
	at := t.PrintedAt.Local().Format(time.DateTime)
	if p.Kind == databases.PostgreSQL {
		at = t.PrintedAt.Format(time.RFC3339)
	}
	values := map[string]string{}
	for column, value := range map[string]string{w.At: at, w.By: t.PrintedBy, w.Count: strconv.Itoa(labels),
		w.Numbers: strings.Join(numbers, ", ")} {
		if column != "" {
			values[column] = value
		}
	}
	return d.Write(ctx, databases.Note{Schema: r.Schema, Table: r.Table, Key: said, Values: values})
}

// tellFile adds a line to the file beside the one with the records, unless it is there.
func (f *Feeds) tellFile(name string, t *store.WriteBack, fields, record, numbers []string) (err error) {
	path, err := f.inside(name)
	if err != nil {
		return err
	}
	root, err := os.OpenRoot(filepath.Dir(path))
	if err != nil {
		return folderNotOpened.With(name, errors.Unwrap(err))
	}
	defer root.Close()
	beside := filepath.Base(path) + writtenBeside
	there, err := root.ReadFile(beside)
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return listUnreadable.With(beside, errors.Unwrap(err))
	}
	whole := there[:bytes.LastIndexByte(there, '\n')+1] // a line that was cut off was never told
	if bytes.Contains(whole, []byte(t.Mark)) {
		return nil
	}
	out := &bytes.Buffer{}
	lines := tables.NewWriter(out)
	if len(whole) == 0 {
		_ = lines.Write(append([]string{"printed at", "printed by", "run", "labels", "numbers", "mark"}, fields...))
	}
	_ = lines.Write(append([]string{t.PrintedAt.Format(time.RFC3339), t.PrintedBy, strconv.FormatInt(t.RunID, 10),
		strconv.Itoa(t.Labels), strings.Join(numbers, ", "), t.Mark}, record...))
	_ = lines.Flush() // into memory
	file, err := root.OpenFile(beside, os.O_CREATE|os.O_WRONLY, 0o644)
	if err != nil {
		return listNotWritten.With(beside, errors.Unwrap(err))
	}
	err = file.Truncate(int64(len(whole)))
	if err == nil {
		_, err = file.Seek(0, io.SeekEnd)
	}
	if err == nil {
		_, err = file.Write(out.Bytes())
	}
	if err = errors.Join(err, file.Sync(), file.Close()); err != nil {
		return listNotWritten.With(beside, err)
	}
	return nil
}
