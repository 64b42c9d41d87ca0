package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"os"
	"path/filepath"
	"time"

	"oddspool/internal/store"
)

// How often a server looks whether its database is still the one it was, and writes down what it saw.
const (
	recogniseEvery = time.Second
	keepEvery      = 5 * time.Second
)

// A witness watches whether the database was put back from a copy. What it saw last lies in a file beside the server's
// key.
type witness struct {
	store   *store.Store
	path    string // of the file; empty: it is kept in memory alone
	log     *slog.Logger
	seen    store.Seen
	written int64 // where the database stood when it was seen
}

// newWitness looks at the database for the first time, before anything is printed. The file lies beside the one with
// the key; without a key there is none.
func newWitness(ctx context.Context, s *store.Store, key string, log *slog.Logger) (*witness, error) {
	w := &witness{store: s, log: log}
	if key != "" {
		id, err := s.Installation(ctx)
		if err != nil {
			return nil, err
		}
		w.path = key + "-" + id + ".seen"
		data, err := os.ReadFile(w.path)
		if err == nil {
			err = json.Unmarshal(data, &w.seen)
		}
		if err != nil && !errors.Is(err, fs.ErrNotExist) {
			log.Warn("what was last seen of the database cannot be read, and is written anew", "error", err)
		}
	}
	if err := w.look(ctx); err != nil {
		return nil, err
	}
	return w, w.keep(ctx)
}

func (w *witness) look(ctx context.Context) error {
	why, err := w.store.Recognise(ctx, w.seen)
	if why != "" {
		w.log.Warn("the database was put back from a copy: open prints and number series are held until a person "+
			"says how they go on", "why", why)
	}
	return err
}

// keep remembers where the database stands, where it was changed since.
func (w *witness) keep(ctx context.Context) error {
	const ownBeat = 16 << 10 // what a beat itself, and the quiet work of PostgreSQL, may write
	written, err := w.store.Written(ctx)
	if err != nil || w.written > 0 && written-w.written < ownBeat {
		return err
	}
	if w.seen, err = w.store.Beat(ctx); err != nil {
		return err
	}
	if w.written, err = w.store.Written(ctx); err != nil || w.path == "" {
		return err
	}
	data, err := json.Marshal(w.seen)
	if err == nil {
		err = os.MkdirAll(filepath.Dir(w.path), 0o700)
	}
	part := fmt.Sprintf("%s.%d", w.path, os.Getpid()) // another server may write its own
	if err == nil {
		err = os.WriteFile(part, data, 0o600)
	}
	if err == nil {
		err = os.Rename(part, w.path)
	}
	if err != nil { // what is printed is right all the same
		w.log.Warn("what was seen of the database is not kept: a disk that is put back may not be noticed", "error",
			err)
	}
	return nil
}

// run looks until ctx ends.
func (w *witness) run(ctx context.Context) {
	ticker := time.NewTicker(recogniseEvery)
	defer ticker.Stop()
	kept := time.Now()
	for {
		select {
		case <-ctx.Done():
			return
		case <-ticker.C:
		}
		err := w.look(ctx)
		if err == nil && time.Since(kept) >= keepEvery {
			kept = time.Now()
			err = w.keep(ctx)
		}
		if err != nil && ctx.Err() == nil {
			w.log.Warn("it cannot be looked which database this is", "error", err)
		}
	}
}
