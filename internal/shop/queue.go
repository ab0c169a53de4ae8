package shop

import (
	"context"
	"fmt"
	"sync/atomic"
	"time"

	"umberfrost/internal/shop/refuse"
)

// queue is of those who want to change the shop: one at a time, in this server.
type queue struct {
	taken chan struct{} // holds one while somebody changes it
	since atomic.Int64  // when its turn began, in nanoseconds
}

// turnMost is how long a change may keep the others waiting. What takes longer waits for a database that hangs, and
// whoever stands behind it is better told so than kept.
const turnMost = 5 * time.Second

// take waits until nobody else changes the shop. It fails with ErrSlow when a change that is under way takes long.
func (q *queue) take(ctx context.Context) (end func(), err error) {
	look := time.NewTicker(turnMost / 20)
	defer look.Stop()
	for {
		select {
		case q.taken <- struct{}{}:
			q.since.Store(time.Now().UnixNano())
			return func() { <-q.taken }, nil
		case <-ctx.Done():
			return nil, fmt.Errorf("%w: %w", refuse.ErrSlow, ctx.Err())
		case now := <-look.C:
			if len(q.taken) > 0 && now.Sub(time.Unix(0, q.since.Load())) > turnMost {
				return nil, refuse.ErrSlow
			}
		}
	}
}
