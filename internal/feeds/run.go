package feeds

import (
	"context"
	"fmt"
	"runtime/debug"
	"time"
)

// How often it is looked which sources are to be read again, and how many at once.
const (
	lookEvery = 15 * time.Second
	tellEvery = 2 * time.Second
	atOnce    = 4
	By        = "Odd Spool" // who reads what nobody asked for
)

// Run reads sources again as often as they are to be, and tells them what was printed, until ctx ends. Several servers
// may: each source is read, and each word told, by one of them.
func (f *Feeds) Run(ctx context.Context) {
	ticker := time.NewTicker(tellEvery)
	defer ticker.Stop()
	looked := time.Time{}
	for {
		if time.Since(looked) >= lookEvery {
			f.Due(ctx)
			looked = time.Now()
		}
		_ = f.alone(func() error { f.Tell(ctx); return nil }) // it is in the log
		select {
		case <-ctx.Done():
			return
		case <-ticker.C:
		}
	}
}

// Due reads those again whose time has come.
func (f *Feeds) Due(ctx context.Context) {
	due, err := f.Store.DueFeeds(ctx, atOnce)
	if err != nil && ctx.Err() == nil {
		f.Log.Warn("it cannot be told which sources are to be read", "error", err)
	}
	for _, feed := range due {
		err := f.alone(func() error {
			_, err := f.Refresh(ctx, feed.SetID, nil, false, By)
			return err
		})
		if err != nil && ctx.Err() == nil {
			f.Log.Info("a source is not read", "connection", feed.Connection, "error", err)
		}
	}
}

// alone does something; what breaks within leaves the server alive.
func (f *Feeds) alone(do func() error) (err error) {
	defer func() {
		if broken := recover(); broken != nil {
			f.Log.Error("work with a source broke", "panic", broken, "stack", string(debug.Stack()))
			err = fmt.Errorf("work with a source: %v", broken)
		}
	}()
	return do()
}
