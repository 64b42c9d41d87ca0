package server

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
	"sync/atomic"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/ordered"
	"oddspool/internal/api"
	"oddspool/internal/press"
	"oddspool/internal/prover"
	"oddspool/internal/store"
)

// WriteLabels implements api.StrictServerInterface.
func (s *Server) WriteLabels(ctx context.Context, req api.WriteLabelsRequestObject) (api.WriteLabelsResponseObject, error) {
	file, err := s.labelsAs(ctx, req.Id, string(req.Params.Format), or(req.Params.Labels, ""))
	if err != nil {
		return nil, err
	}
	return labelFile{file.name, func(w io.Writer) { s.stream(ctx, w, file.write) }}, nil
}

// PutLabels implements api.StrictServerInterface.
func (s *Server) PutLabels(ctx context.Context, req api.PutLabelsRequestObject) (api.PutLabelsResponseObject, error) {
	if s.out == "" {
		return nil, refused("This Odd Spool knows no folder for label files. Whoever runs it names one with -out; until then save the labels as a file.")
	}
	file, err := s.labelsAs(ctx, req.Id, string(req.Body.Format), or(req.Body.Labels, ""))
	if err != nil {
		return nil, err
	}
	name, err := putFile(s.out, file.name, file.write)
	if broken := new(fs.PathError); errors.As(err, &broken) {
		s.log.Error("labels cannot be put into the folder", "run", req.Id, "error", err)
		return nil, &wordsError{http.StatusInsufficientStorage, fmt.Sprintf("The folder for label files takes no file: %v. Nothing of it is left there; put that right, then do it again.", broken.Err)}
	}
	return api.PutLabels200JSONResponse{Name: name, Labels: file.labels}, err
}

// putFile writes a file into a folder, where it appears whole or not at all. A name that is taken gets a number. Errors of the disk are *fs.PathErrors.
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
func (s *Server) GetFileProgress(_ context.Context, req api.GetFileProgressRequestObject) (api.GetFileProgressResponseObject, error) {
	answer := api.GetFileProgress200JSONResponse{}
	if under, is := s.writing.Load(req.Id); is {
		file := under.(*runFile)
		answer.Written, answer.Of = int(file.written.Load()), file.labels
	}
	return answer, nil
}

// MailLabels implements api.StrictServerInterface.
func (s *Server) MailLabels(ctx context.Context, req api.MailLabelsRequestObject) (api.MailLabelsResponseObject, error) {
	if s.mail == nil {
		return nil, refused("This Odd Spool knows no mail server. Whoever runs it names one with -mail; until then save the labels as a file.")
	}
	file, err := s.labelsAs(ctx, req.Id, string(req.Body.Format), or(req.Body.Labels, ""))
	if err != nil {
		return nil, err
	}
	subject := fmt.Sprintf("%s, run %d", file.design, req.Id)
	text := fmt.Sprintf("%s sends %d labels of run %d of %s.\n", s.user(ctx), file.labels, req.Id, file.design)
	return api.MailLabels204Response{}, s.mail.Send(ctx, req.Body.To, subject, text, file.name, file.write)
}

// A runFile is labels of a run as a file that can be written.
type runFile struct {
	name, design string
	labels       int
	write        func(io.Writer) error
	written      atomic.Int64 // labels so far
}

// labelsAs makes labels of a run ready to be written as a file. Their numbers have left the plant from now on.
func (s *Server) labelsAs(ctx context.Context, run int64, format, which string) (*runFile, error) {
	r, err := s.store.Run(ctx, run)
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
	found, err := prover.Prove(ctx, s.store, &r, setup) // no label leaves that was not looked at
	if err != nil {
		return nil, err
	}
	d, err := s.store.ToCompose(ctx, &r)
	if err != nil {
		return nil, err
	}
	labels, err := press.NewLabels(d, d.LabelFields(r.Fields))
	if err != nil {
		return nil, err
	}
	chosen, err := s.labelsFor(ctx, &r, which, found)
	if err != nil {
		return nil, err
	}
	if err := s.store.NumbersLeave(ctx, r.ID, chosen); err != nil {
		return nil, err
	}
	file := &runFile{design: d.Name, labels: len(chosen)}
	records := s.eachLabel(ctx, &r, d, chosen, &file.written)
	extension := format
	write := func(w io.Writer) error {
		return labels.WriteDocument(w, format, func(yield func([]string, error) bool) {
			for label, err := range records {
				if !yield(label.Values, err) {
					return
				}
			}
		}, len(chosen))
	}
	if format == press.PNG || format == press.SVG {
		extension = "zip"
		write = func(w io.Writer) error { return writeZip(w, labels, format, records, len(chosen)) }
	}
	file.name = fmt.Sprintf("run-%d-%s.%s", r.ID, format, extension)
	file.write = func(w io.Writer) error {
		s.writing.Store(run, file)
		defer s.writing.CompareAndDelete(run, file)
		return write(w)
	}
	return file, nil
}

// labelsFor returns which labels of a run a file has: those that were asked for, of the run's own design, that nothing forbids.
func (s *Server) labelsFor(ctx context.Context, r *store.Run, which string, found *prover.Found) ([]int, error) {
	chosen, err := batch.ParseRange(which, r.LabelCount)
	if err != nil {
		return nil, err
	}
	plan, err := s.store.RunPlanOf(ctx, r.ID)
	if err != nil {
		return nil, err
	}
	chosen = slices.DeleteFunc(chosen, func(label int) bool {
		record, _ := plan.At(label)
		if plan.PartAt(label) > 0 { // a file is of one design
			return true
		}
		_, out := slices.BinarySearch(found.LeftOut, record)
		return out
	})
	if len(chosen) == 0 {
		return nil, refused("All these labels have findings that must be mended first; the page of the run says which.")
	}
	return chosen, nil
}

// eachLabel reads some labels of a run, and counts those that were taken.
func (s *Server) eachLabel(ctx context.Context, r *store.Run, d *design.Design, chosen []int, taken *atomic.Int64) iter.Seq2[store.RunLabel, error] {
	const most = 2000 // at a time
	return func(yield func(store.RunLabel, error) bool) {
		for part := range slices.Chunk(chosen, most) {
			read, err := s.store.RunLabels(ctx, r, d, s.user(ctx), part[0], part[len(part)-1], true)
			if err != nil {
				yield(store.RunLabel{}, err)
				return
			}
			for _, label := range read {
				if _, wanted := slices.BinarySearch(part, label.Label); !wanted {
					continue
				}
				if !yield(label, nil) {
					return
				}
				taken.Add(1)
			}
		}
	}
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
func writeZip(w io.Writer, labels *press.Labels, format string, records iter.Seq2[store.RunLabel, error], about int) error {
	type file struct {
		name string
		data []byte
	}
	out := zip.NewWriter(w)
	painters := make([]*press.FilePainter, ordered.Workers(about))
	err := ordered.Stream(len(painters), records, func(worker int, label store.RunLabel) (file, error) {
		if painters[worker] == nil {
			painters[worker] = labels.FilePainter()
		}
		var data bytes.Buffer
		err := painters[worker].Paint(&data, format, label.Values)
		return file{fmt.Sprintf("label-%d.%s", label.Label, format), data.Bytes()}, err
	}, func(f file) error {
		method := zip.Store // PNG is packed already
		if format == press.SVG {
			method = zip.Deflate
		}
		in, err := out.CreateHeader(&zip.FileHeader{Name: f.name, Method: method})
		if err == nil {
			_, err = in.Write(f.data)
		}
		return err
	})
	return errors.Join(err, out.Close())
}

// stream writes an answer as it is made. A fault cuts the connection, so that nobody takes a part of it for the whole, and is logged.
func (s *Server) stream(ctx context.Context, w io.Writer, write func(io.Writer) error) {
	defer func() {
		if broken := recover(); broken != nil {
			s.log.Error("a file broke", "panic", fmt.Sprint(broken))
			cutOff(w)
		}
	}()
	err := write(w)
	if err != nil && ctx.Err() == nil {
		s.log.Error("a file is not written whole", "error", err)
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
