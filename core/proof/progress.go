package proof

import (
	"context"
	"sync/atomic"
)

type progressKey struct{}

// Tell returns a context under which All counts the labels that it has looked at.
func Tell(ctx context.Context, looked *atomic.Int64) context.Context {
	return context.WithValue(ctx, progressKey{}, looked)
}

// progressOf returns what counts the labels; one that nobody reads where nobody asked.
func progressOf(ctx context.Context) *atomic.Int64 {
	if looked, ok := ctx.Value(progressKey{}).(*atomic.Int64); ok {
		return looked
	}
	return new(atomic.Int64)
}
