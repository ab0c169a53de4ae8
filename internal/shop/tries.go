package shop

import (
	"context"
	"fmt"
	"slices"
	"sync"
	"time"
)

// triesFor is how long a wrong try counts.
const triesFor = 5 * time.Minute

// mostTried is how many devices and addresses are kept count of. Where there are more, those whose last try is longest
// ago are forgotten: strangers must not shut anybody out by their number.
const mostTried = 4096

// tries counts what was tried lately and not found right, so that nobody guesses for long.
type tries struct {
	mu   sync.Mutex
	when map[string][]time.Time
}

// limit is how often something may be tried within triesFor.
type limit struct {
	what string
	most int
}

// Busy says that too much was tried, and when to try again.
type Busy struct {
	After   time.Duration
	Message string // empty: too many were wrong
}

func (e *Busy) Error() string {
	if e.Message != "" {
		return e.Message
	}
	return fmt.Sprintf("Too many were wrong. Try again in %d minutes.", int(e.After.Minutes())+1)
}

// begin counts a try before it is judged: of many at once none is judged beyond the limits. It fails with *Busy where
// one of them is reached; then nothing is counted. Who finds it right calls forgive.
func (t *tries) begin(limits ...limit) (forgive func(), err error) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.when == nil {
		t.when = make(map[string][]time.Time)
	}
	now := time.Now()
	for _, l := range limits {
		lately := slices.DeleteFunc(t.when[l.what], func(at time.Time) bool { return now.Sub(at) > triesFor })
		if t.when[l.what] = lately; len(lately) >= l.most {
			return nil, &Busy{After: triesFor - now.Sub(lately[len(lately)-l.most])}
		}
	}
	for _, l := range limits {
		t.when[l.what] = append(t.when[l.what], now)
	}
	t.thin()
	return func() {
		t.mu.Lock()
		defer t.mu.Unlock()
		for _, l := range limits {
			if at := slices.Index(t.when[l.what], now); at >= 0 {
				t.when[l.what] = slices.Delete(t.when[l.what], at, at+1)
			}
			if len(t.when[l.what]) == 0 {
				delete(t.when, l.what)
			}
		}
	}, nil
}

// thin forgets who has not tried for longest, where there are too many.
func (t *tries) thin() {
	for len(t.when) > mostTried {
		oldest, last := "", time.Now()
		for what, when := range t.when {
			if len(when) == 0 || when[len(when)-1].Before(last) {
				oldest, last = what, time.Time{}
				if len(when) > 0 {
					last = when[len(when)-1]
				}
			}
		}
		delete(t.when, oldest)
	}
}

// mostHashing is how many may wait for their PIN to be looked at.
const mostHashing = 8

// hashing lets one PIN be worked on at a time, which takes a processor for a while: others go on being answered.
type hashing struct {
	once sync.Once
	turn chan struct{}
	all  chan struct{}
}

// take waits for a turn. It fails with *Busy where too many wait already.
func (h *hashing) take(ctx context.Context) (end func(), err error) {
	h.once.Do(func() { h.turn, h.all = make(chan struct{}, 1), make(chan struct{}, 1+mostHashing) })
	select {
	case h.all <- struct{}{}:
	default:
		return nil, &Busy{After: time.Second, Message: "Many PINs are being looked at just now. Try again in a moment."}
	}
	select {
	case h.turn <- struct{}{}:
		return func() { <-h.turn; <-h.all }, nil
	case <-ctx.Done():
		<-h.all
		return nil, ctx.Err()
	}
}
