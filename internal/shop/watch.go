package shop

import (
	"context"
	"errors"
	"log/slog"
	"math"
	"runtime"
	"runtime/debug"
	"sync"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// Notice says that there is something new to see.
type Notice struct {
	Revision int64 `json:"revision"` // of the last change that anybody made
	Thought  int64 `json:"thought"`  // counts what was worked out in the background
	Settings int64 `json:"settings"` // counts what the shop decided about itself: people, places, hours, products, air
}

// watch is what a service keeps an eye on beside answering.
type watch struct {
	mu        sync.Mutex
	last      Notice
	listeners map[chan Notice]bool
	ended     bool
	settings  *snapshot.Settings // that Settings was counted for
	chances   map[uuid.UUID]search.Chance
	found     *views.Found
}

// Watch keeps an eye on the shop until the context ends: it tells whoever listens
// of every change that anybody makes, on this server or another, and works out in the
// background what takes longer than a page may wait for, a better order of work and
// the chance of every promise. A lost database is waited for.
func (s Thinker) Watch(ctx context.Context, log *slog.Logger) {
	changed, cold := make(chan int64, 1), make(chan struct{}, 1)
	var work sync.WaitGroup
	if s.budget.draws > 0 {
		work.Go(func() { s.optimize(ctx, changed, log) })
	}
	work.Go(func() { s.keepWarm(ctx, cold, log) })
	for wait := 100 * time.Millisecond; ctx.Err() == nil; wait = min(2*wait, views.RetryMost) {
		err := s.store.Listen(ctx, func(revision int64) {
			wait = 100 * time.Millisecond
			s.watch.broadcast(func(n *Notice) { n.Revision = revision })
			select {
			case <-changed:
			default:
			}
			changed <- revision
			select {
			case cold <- struct{}{}:
			default: // it is told already
			}
		})
		if ctx.Err() == nil {
			log.WarnContext(ctx, "not told of changes for a while", "error", err)
		}
		sleep(ctx, wait)
	}
	s.watch.end() // before the rest: a page that listens is not kept by what is thought about
	work.Wait()
}

// keepWarm works out the shop after each change on the planner that the next one will take, so
// that it need not.
func (s Thinker) keepWarm(ctx context.Context, cold <-chan struct{}, log *slog.Logger) {
	for {
		select {
		case <-ctx.Done():
			return
		case <-cold:
		}
		if err := s.warm(ctx); err != nil && ctx.Err() == nil && !errors.Is(err, snapshot.ErrNotBegun) {
			log.WarnContext(ctx, "could not get ready for the next change", "error", err)
		}
	}
}

func (s Thinker) warm(ctx context.Context) error {
	within, stop := context.WithTimeout(ctx, views.WarmMost) // changes wait for it
	defer stop()
	end, err := s.queue.take(within)
	if err != nil {
		return err
	}
	defer end()
	return s.fork(within, func(m *snapshot.Snapshot) error {
		s.watch.settingsChanged(m.Settings)
		return nil
	})
}

// settingsChanged counts another settings that the shop stands on.
func (w *watch) settingsChanged(on *snapshot.Settings) {
	w.mu.Lock()
	changed := w.settings != nil && w.settings != on
	w.settings = on
	w.mu.Unlock()
	if changed {
		w.broadcast(func(n *Notice) { n.Settings++ })
	}
}

func sleep(ctx context.Context, d time.Duration) {
	select {
	case <-ctx.Done():
	case <-time.After(d):
	}
}

// Listen gives the last notice and every later one; of those that nobody fetched in
// time only the last. The function that comes with it ends that.
func (s Thinker) Listen() (<-chan Notice, func()) {
	w := &s.watch
	w.mu.Lock()
	defer w.mu.Unlock()
	if w.listeners == nil {
		w.listeners = make(map[chan Notice]bool)
	}
	ch := make(chan Notice, 1)
	ch <- w.last
	if w.ended {
		close(ch)
		return ch, func() {}
	}
	w.listeners[ch] = true
	return ch, func() {
		w.mu.Lock()
		defer w.mu.Unlock()
		delete(w.listeners, ch)
	}
}

// end tells everybody that listens that nothing more will come.
func (w *watch) end() {
	w.mu.Lock()
	defer w.mu.Unlock()
	for ch := range w.listeners {
		close(ch)
	}
	w.listeners, w.ended = nil, true
}

// broadcast changes the notice and passes it on.
func (w *watch) broadcast(change func(*Notice)) {
	w.mu.Lock()
	defer w.mu.Unlock()
	change(&w.last)
	for ch := range w.listeners {
		select {
		case <-ch: // it had not seen the one before
		default:
		}
		ch <- w.last
	}
}

// optimize works through what has changed, one revision after the other; a newer one
// puts an end to thinking about an older.
func (s Thinker) optimize(ctx context.Context, changed <-chan int64, log *slog.Logger) {
	again := time.NewTicker(views.Rethink)
	defer again.Stop()
	var since time.Time // of the first change that was put off
	for {
		select {
		case <-ctx.Done():
			return
		case <-changed:
		case <-again.C:
		}
		sleep(ctx, views.Gathering)
		stale := func() bool { return len(changed) > 0 || ctx.Err() != nil }
		if since.IsZero() {
			since = time.Now()
		}
		if stale() && time.Since(since) < views.Patience {
			continue
		}
		since = time.Time{}
		if err := s.thinkOnce(ctx, stale); err != nil && ctx.Err() == nil && !errors.Is(err, snapshot.ErrNotBegun) {
			log.WarnContext(ctx, "could not think ahead", "error", err)
		}
		if !stale() {
			s.rest()
		}
	}
}

// ThinkAhead works out a better order and the chances once, now.
func (s Thinker) ThinkAhead(ctx context.Context) error {
	return s.thinkOnce(ctx, func() bool { return ctx.Err() != nil })
}

func (s Thinker) thinkOnce(ctx context.Context, stale func() bool) error {
	return s.fork(ctx, func(m *snapshot.Snapshot) error {
		s.watch.settingsChanged(m.Settings)
		better, err := views.Propose(m, s.budget.events)
		if err != nil {
			return err
		}
		s.watch.mu.Lock()
		s.watch.found = better
		s.watch.mu.Unlock()
		s.watch.broadcast(func(n *Notice) { n.Thought++ })
		chances, err := search.Chances(m.Plan, m.Plan.Learned(), views.Seed, s.budget.draws, stale)
		if err != nil || stale() {
			return err
		}
		s.keepChances(chances)
		s.watch.broadcast(func(n *Notice) { n.Thought++ })
		return nil
	})
}

// rest gives back what thinking took in memory, until there is something new to think about. Where the server
// keeps to a limit, that is at least twice what it holds at rest: thinking takes about as much again.
func (s Thinker) rest() {
	s.board.Trim()
	debug.FreeOSMemory()
	if limit := debug.SetMemoryLimit(-1); limit < math.MaxInt64 {
		var held runtime.MemStats
		runtime.ReadMemStats(&held)
		debug.SetMemoryLimit(max(limit, 2*int64(held.HeapAlloc)))
	}
}

func (s Thinker) keepChances(chances []search.Chance) {
	byID := make(map[uuid.UUID]search.Chance, len(chances))
	for _, c := range chances {
		byID[c.Instrument] = c
	}
	s.watch.mu.Lock()
	s.watch.chances = byID
	s.watch.mu.Unlock()
	for m := s.board.Current(); m != nil; m = s.board.Current() {
		seen, _ := s.board.WithLock(m, func(m *snapshot.Snapshot) error { m.SetChances(byID); return nil })
		if seen {
			return
		}
	}
}

func (w *watch) chancesNow() map[uuid.UUID]search.Chance {
	w.mu.Lock()
	defer w.mu.Unlock()
	return w.chances
}
