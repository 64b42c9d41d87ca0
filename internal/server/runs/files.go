package runs

import (
	"archive/zip"
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"iter"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/ordered"
	"oddspool/internal/api"
	"oddspool/internal/press"
	"oddspool/internal/prover"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// WriteLabels implements api.StrictServerInterface.
func (s *Runs) WriteLabels(ctx context.Context, req api.WriteLabelsRequestObject) (api.WriteLabelsResponseObject,
	error) {
	file, err := s.labelsAs(ctx, req.Id, string(req.Params.Format), handler.Or(req.Params.Labels, ""))
	if err != nil {
		return nil, err
	}
	return labelFile{file.name, func(w io.Writer) { s.stream(ctx, w, file.write) }}, nil
}

// PutLabels implements api.StrictServerInterface.
func (s *Runs) PutLabels(ctx context.Context, req api.PutLabelsRequestObject) (api.PutLabelsResponseObject, error) {
	if s.out == "" {
		return nil, noFolder.With()
	}
	file, err := s.labelsAs(ctx, req.Id, string(req.Body.Format), handler.Or(req.Body.Labels, ""))
	if err != nil {
		return nil, err
	}
	name, err := putFile(s.out, file.name, file.write)
	if broken := new(fs.PathError); errors.As(err, &broken) {
		s.Log.Error("labels cannot be put into the folder", "run", req.Id, "error", err)
		return nil, folderFull.With(broken.Err)
	}
	return api.PutLabels200JSONResponse{Name: name, Labels: file.labels}, err
}

// putFile writes a file into a folder, where it appears whole or not at all. A name that is taken gets a number. Errors
// of the disk are *fs.PathErrors.
func putFile(folder, name string, write func(io.Writer) error) (string, error) {
	part, err := os.CreateTemp(folder, ".part-*")
	if err != nil {
		return "", err
	}
	defer os.Remove(part.Name())
	err = errors.Join(write(part), part.Chmod(0o644), part.Sync(), part.Close())
	if err != nil {
		return "", err
	}
	base, extension := strings.TrimSuffix(name, filepath.Ext(name)), filepath.Ext(name)
	for n := 2; ; n++ {
		err := appear(part.Name(), filepath.Join(folder, name))
		if !errors.Is(err, fs.ErrExist) {
			return name, err
		}
		name = fmt.Sprintf("%s-%d%s", base, n, extension)
	}
}

// appear gives a file its name, never over another that is there.
func appear(file, name string) error {
	err := os.Link(file, name)
	if err == nil || errors.Is(err, fs.ErrExist) {
		return err
	}
	if _, err := os.Lstat(name); err == nil { // a file system without links, such as that of a stick
		return fs.ErrExist
	}
	err = os.Rename(file, name)
	if moved := new(os.LinkError); errors.As(err, &moved) {
		return &fs.PathError{Op: moved.Op, Path: moved.New, Err: moved.Err}
	}
	return err
}

// GetFileProgress implements api.StrictServerInterface.
func (s *Runs) GetFileProgress(_ context.Context,
	req api.GetFileProgressRequestObject) (api.GetFileProgressResponseObject, error) {
	answer := api.GetFileProgress200JSONResponse{}
	if under, is := s.writing.Load(req.Id); is {
		file := under.(*runFile)
		answer.Written, answer.Of = int(file.files.Written.Load()), file.labels
	}
	return answer, nil
}

// MailLabels implements api.StrictServerInterface.
func (s *Runs) MailLabels(ctx context.Context, req api.MailLabelsRequestObject) (api.MailLabelsResponseObject,
	error) {
	if s.mail == nil {
		return nil, noMail.With()
	}
	file, err := s.labelsAs(ctx, req.Id, string(req.Body.Format), handler.Or(req.Body.Labels, ""))
	if err != nil {
		return nil, err
	}
	subject := fmt.Sprintf("%s, run %d", file.design, req.Id)
	text := fmt.Sprintf("%s sends %d labels of run %d of %s.\n", s.User(ctx), file.labels, req.Id, file.design)
	return api.MailLabels204Response{}, s.mail.Send(ctx, req.Body.To, subject, text, file.name, file.write)
}

// A runFile is labels of a run as a file that can be written.
type runFile struct {
	name, design string
	labels       int
	files        *press.Files
	write        func(io.Writer) error
}

// labelsAs makes labels of a run ready to be written as a file. Their numbers have left the plant from now on.
func (s *Runs) labelsAs(ctx context.Context, run int64, format, which string) (*runFile, error) {
	r, err := s.Store.Run(ctx, run)
	if err != nil {
		return nil, err
	}
	if r.ClosedAt != nil { // the numbers of its labels are nobody's, or somebody else's
		return nil, store.ErrRunClosed
	}
	if r.DoubtedAt != nil {
		return nil, store.ErrRunDoubted
	}
	if err := s.answered(ctx, &r); err != nil {
		return nil, err
	}
	setup, err := s.keptSetup(ctx, r.SetupID, r.PrinterID, r.Document)
	if err != nil {
		return nil, err
	}
	found, err := prover.Prove(ctx, s.Store, &r, setup) // no label leaves that was not looked at
	if err != nil {
		return nil, err
	}
	chosen, err := s.labelsFor(ctx, &r, which, found)
	if err != nil {
		return nil, err
	}
	parts, files, err := s.partsOnFile(ctx, &r)
	if err != nil {
		return nil, err
	}
	if err := s.Store.NumbersLeave(ctx, r.ID, chosen); err != nil {
		return nil, err
	}
	if r.HowMany.V.Fill == batch.FillThrough { // as they lie on the web
		chosen = batch.Through(chosen, parts[0].design.Stock.PerPage())
	}
	file := &runFile{design: parts[0].design.Name, labels: len(chosen), files: files}
	labels := s.eachLabel(ctx, parts, chosen)
	extension := format
	write := func(w io.Writer) error {
		return files.WriteDocument(w, format, func(yield func(press.Page, error) bool) {
			for label, err := range labels {
				if !yield(label.page, err) {
					return
				}
			}
		}, len(chosen))
	}
	if format == press.PNG || format == press.SVG {
		extension = "zip"
		write = func(w io.Writer) error { return writeZip(w, files, format, labels, len(chosen)) }
	}
	file.name = fmt.Sprintf("run-%d-%s.%s", r.ID, format, extension)
	file.write = func(w io.Writer) error {
		s.writing.Store(run, file)
		defer s.writing.CompareAndDelete(run, file)
		return write(w)
	}
	return file, nil
}

// A filePart is those labels of a run's file that are of one design.
type filePart struct {
	run    *store.Run
	design *design.Design
}

// partsOnFile returns the designs that a file of a run has labels of, by parts of the run, and what writes it.
func (s *Runs) partsOnFile(ctx context.Context, r *store.Run) (parts []filePart, files *press.Files, err error) {
	runs, err := s.Store.RunParts(ctx, r)
	if err != nil {
		return nil, nil, err
	}
	var all []*press.Labels
	for _, of := range runs {
		d, err := s.Store.ToCompose(ctx, of)
		if err != nil {
			return nil, nil, err
		}
		labels, err := press.NewLabels(d, d.LabelFields(r.Fields))
		if err != nil {
			return nil, nil, err
		}
		parts, all = append(parts, filePart{of, d}), append(all, labels)
	}
	return parts, press.NewFiles(all...), nil
}

// labelsFor returns which labels of a run a file has, in their order: those that were asked for, on the run's own web,
// that nothing forbids.
func (s *Runs) labelsFor(ctx context.Context, r *store.Run, which string, found *prover.Found) ([]int, error) {
	chosen, err := batch.ParseRange(which, r.LabelCount)
	if err != nil {
		return nil, err
	}
	plan, err := s.Store.RunPlanOf(ctx, r.ID)
	if err != nil {
		return nil, err
	}
	besides, forbidden := r.Separators.V, append([][]int{found.LeftOut}, found.Outs()...)
	elsewhere := 0
	chosen = slices.DeleteFunc(chosen, func(label int) bool {
		record, _ := plan.At(label)
		part := plan.PartAt(label)
		if part > 0 && besides[part-1].PrinterID != 0 { // they come out of another printer
			elsewhere++
			return true
		}
		_, out := slices.BinarySearch(forbidden[part], record)
		return out
	})
	switch {
	case len(chosen) == 0 && elsewhere > 0:
		return nil, noneOfPrinter.With()
	case len(chosen) == 0:
		return nil, allWithFindings.With()
	}
	return chosen, nil
}

// A fileLabel is a label of a run on its way into a file.
type fileLabel struct {
	number int // of the run
	page   press.Page
}

// eachLabel reads some labels of a run, in the order that they are chosen in.
func (s *Runs) eachLabel(ctx context.Context, parts []filePart, chosen []int) iter.Seq2[fileLabel, error] {
	const most = 2000 // at a time
	return func(yield func(fileLabel, error) bool) {
		for some := range slices.Chunk(chosen, most) {
			read := make(map[int]press.Page, len(some))
			for _, near := range together(some) {
				for n, part := range parts {
					labels, err := s.Store.RunLabels(ctx, part.run, part.design, s.User(ctx), near[0],
						near[len(near)-1], true)
					if err != nil {
						yield(fileLabel{}, err)
						return
					}
					for _, label := range labels {
						read[label.Label] = press.Page{Part: n, Record: label.Values}
					}
				}
			}
			for _, label := range some {
				if page, has := read[label]; has && !yield(fileLabel{label, page}, nil) {
					return
				}
			}
		}
	}
}

// together sorts labels and parts them where many lie between two of them: lanes that are filled one after the other
// are far apart.
func together(labels []int) (near [][]int) {
	const apart = 500
	sorted := slices.Sorted(slices.Values(labels))
	from := 0
	for i := 1; i <= len(sorted); i++ {
		if i == len(sorted) || sorted[i]-sorted[i-1] > apart {
			near = append(near, sorted[from:i])
			from = i
		}
	}
	return near
}

// A labelFile is an answer that is written as it is made, however long it is.
type labelFile struct {
	name  string
	write func(io.Writer)
}

// VisitWriteLabelsResponse implements api.WriteLabelsResponseObject.
func (f labelFile) VisitWriteLabelsResponse(w http.ResponseWriter) error {
	w.Header().Set("Content-Type", "application/octet-stream")
	w.Header().Set("Content-Disposition", "attachment; filename="+f.name)
	f.write(w)
	return nil
}

// writeZip writes a file for each label.
func writeZip(w io.Writer, files *press.Files, format string, labels iter.Seq2[fileLabel, error], about int) error {
	type file struct {
		name string
		data []byte
	}
	out := zip.NewWriter(w)
	painters := make([]*press.FilePainter, ordered.Workers(about))
	err := ordered.Small(len(painters), labels, func(worker int, label fileLabel) (file, error) {
		if painters[worker] == nil {
			painters[worker] = files.Painter()
		}
		var data bytes.Buffer
		err := painters[worker].Paint(&data, format, label.page)
		return file{fmt.Sprintf("label-%d.%s", label.number, format), data.Bytes()}, err
	}, func(f file) error {
		method := zip.Store // PNG is packed already
		if format == press.SVG {
			method = zip.Deflate
		}
		in, err := out.CreateHeader(&zip.FileHeader{Name: f.name, Method: method})
		if err == nil {
			_, err = in.Write(f.data)
		}
		files.Written.Add(1)
		return err
	})
	return errors.Join(err, out.Close())
}

// stream writes an answer as it is made. A fault cuts the connection, so that nobody takes a part of it for the whole,
// and is logged.
func (s *Runs) stream(ctx context.Context, w io.Writer, write func(io.Writer) error) {
	defer func() {
		if broken := recover(); broken != nil {
			s.Log.Error("a file broke", "panic", fmt.Sprint(broken))
			cutOff(w)
		}
	}()
	err := write(w)
	if err != nil && ctx.Err() == nil {
		s.Log.Error("a file is not written whole", "error", err)
	}
	if err != nil {
		cutOff(w)
	}
}

// cutOff closes the connection under an answer.
func cutOff(w io.Writer) {
	for {
		outer, wraps := w.(interface{ Unwrap() http.ResponseWriter })
		if !wraps {
			break
		}
		w = outer.Unwrap()
	}
	if below, can := w.(http.Hijacker); can {
		if connection, _, err := below.Hijack(); err == nil {
			_ = connection.Close()
		}
	}
}
