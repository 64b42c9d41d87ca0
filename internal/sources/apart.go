package sources

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"time"

	"oddspool/internal/sandbox"
)

// limits bound the reading of one file; docs/limits.md tells them. A million records of ten fields take some 5 s.
var limits = sandbox.Limits{Step: 4 * time.Second, Total: 60 * time.Second, Time: 3 * time.Minute, Memory: 900 << 20,
	Written: 2 << 30}

// stepRecords is how many records are read between two signs that the reading goes on.
const stepRecords = 5000

// fileRequest is what the process that reads a file is told.
type fileRequest struct {
	Size   int64
	Wanted Settings
}

// opened is what it finds; its rows are in the spool.
type opened struct {
	Done    bool // else it goes on
	Refused *FileError
	Source  Source // what of it is exported
	Named   bool
	Left    int // columns before the first of the table
}

// fileWork reads files whose formats are programs of their own, which may loop or unfold: files[0] is the file,
// files[1] takes its rows.
var fileWork = sandbox.Register("records", limits,
	func(in fileRequest, files []*os.File, emit func(opened) error) error {
		if err := errors.Join(sandbox.Bound(limits), emit(opened{})); err != nil {
			return err
		}
		rows, count := spoolOn(files[1]), 0
		var gone error // nobody listens
		source, err := open(files[0], in.Size, in.Wanted, scanOptions{rows: rows, alive: func() {
			if count++; count%stepRecords == 0 && gone == nil {
				gone = emit(opened{})
			}
		}})
		if refused := new(FileError); errors.As(err, &refused) {
			return emit(opened{Done: true, Refused: refused})
		}
		if err = cmp.Or(err, rows.out.Flush()); err != nil {
			return err
		}
		return emit(opened{Done: true, Source: Source{Kind: source.Kind, Settings: source.Settings,
			Fields: source.Fields,
			Count:  source.Count, Notes: source.Notes,
			Sheets: source.Sheets, Tables: source.Tables}, Named: source.named, Left: source.left})
	})

// Open looks a file through and finds how it is to be read. Text with separators or fixed columns, and DBF, are read
// here; all else in a process of its own, which is bounded. Its error is a *FileError, *sandbox.BusyError, that of ctx,
// or what the file answers.
func Open(ctx context.Context, file io.ReaderAt, size int64, wanted Settings) (*Source, error) {
	head := make([]byte, min(max(size, 0), 64<<10))
	if _, err := file.ReadAt(head, 0); err != nil && !errors.Is(err, io.EOF) {
		return nil, fmt.Errorf("read records: %w", err)
	}
	file = awaited{ctx, file}
	kind := kindOf(head)
	if kind == Text || kind == DBF || size > MostBytes {
		source, err := open(file, size, wanted, scanOptions{})
		return source, cmp.Or(ctx.Err(), err)
	}
	source, err := openApart(ctx, file, size, wanted)
	if err == nil && source.Kind == Text { // it only begins like something else
		err = source.Close()
		if err == nil {
			source, err = open(file, size, wanted, scanOptions{asText: true})
		}
	}
	var over *sandbox.LimitError
	var broken *sandbox.BrokenError
	switch {
	case errors.As(err, &over) && kind == SQLite:
		return nil, &FileError{Text: fmt.Sprintf("Reading this table of the SQLite file takes more %s than one file "+
			"may; a view may have no end. Choose another table, or write its records into a table.", over.Limit)}
	case errors.As(err, &over):
		return nil, &FileError{Text: fmt.Sprintf("Reading the file takes more %s than one file may. Leave out what "+
			"no label needs, or save the records as CSV.", over.Limit)}
	case errors.As(err, &broken):
		return nil, errors.Join(&FileError{Text: "The file breaks the program that reads it. Save it anew where it " +
			"was made, or as CSV."}, err)
	case err != nil:
		return nil, err
	}
	return source, nil
}

func openApart(ctx context.Context, file io.ReaderAt, size int64, wanted Settings) (*Source, error) {
	rows, err := newSpool()
	if err != nil {
		return nil, err
	}
	whole, err := newSpool() // a file that the process can read
	if err == nil {
		_, err = io.Copy(whole.file, io.NewSectionReader(file, 0, size))
	}
	var found opened
	if err == nil {
		err = fileWork.Do(ctx, fileRequest{size, wanted}, func(o opened) error { found = o; return nil }, whole.file,
			rows.file)
	}
	if whole != nil {
		err = errors.Join(err, whole.close())
	}
	if err == nil && found.Refused != nil {
		err = found.Refused
	}
	if err != nil {
		return nil, errors.Join(err, rows.close())
	}
	s := &found.Source
	s.named, s.left, s.rows, s.end = found.Named, found.Left, rows.rows, rows.close
	return s, nil
}

// awaited gives bytes as long as somebody waits for what is made of them.
type awaited struct {
	ctx   context.Context
	bytes io.ReaderAt
}

// ReadAt implements io.ReaderAt.
func (a awaited) ReadAt(p []byte, off int64) (int, error) {
	if err := a.ctx.Err(); err != nil {
		return 0, err
	}
	return a.bytes.ReadAt(p, off)
}
