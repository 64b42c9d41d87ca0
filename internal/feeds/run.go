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
	atOnce    = 4
	By        = "Odd Spool" // who reads what nobody asked for
)

// Run reads sources again as often as they are to be, until ctx ends. Several servers may: each source is read by one of them.
func (f *Feeds) Run(ctx context.Context) {
	ticker := time.NewTicker(lookEvery)
	defer ticker.Stop()
	for {
		f.Due(ctx)
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
		if err := f.readAlone(ctx, feed.SetID); err != nil && ctx.Err() == nil {
			f.Log.Info("a source is not read", "connection", feed.Connection, "error", err)
		}
	}
}

// readAlone reads one; what breaks within leaves the server alive.
func (f *Feeds) readAlone(ctx context.Context, set int64) (err error) {
	defer func() {
		if broken := recover(); broken != nil {
			f.Log.Error("reading a source broke", "set", set, "panic", broken, "stack", string(debug.Stack()))
			err = fmt.Errorf("read a source: %v", broken)
		}
	}()
	_, err = f.Refresh(ctx, set, nil, false, By)
	return err
}
