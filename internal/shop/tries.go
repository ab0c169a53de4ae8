package shop

import (
	"fmt"
	"sync"
	"time"
)

// tries counts what was tried in vain lately, so that nobody guesses for long.
type tries struct {
	mu   sync.Mutex
	when map[string][]time.Time
}

// Busy says that too much was tried in vain, and when to try again.
type Busy struct{ After time.Duration }

func (e *Busy) Error() string {
	return fmt.Sprintf("Too many were wrong. Try again in %d minutes.", int(e.After.Minutes())+1)
}

// allow fails with *Busy where the most have failed within triesFor.
func (t *tries) allow(what string, most int) error {
	t.mu.Lock()
	defer t.mu.Unlock()
	now := time.Now()
	failed := t.when[what]
	for len(failed) > 0 && now.Sub(failed[0]) > triesFor {
		failed = failed[1:]
	}
	if len(failed) == 0 {
		delete(t.when, what)
		return nil
	}
	t.when[what] = failed
	if len(failed) >= most {
		return &Busy{After: triesFor - now.Sub(failed[0])}
	}
	return nil
}

func (t *tries) failed(what string) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.when == nil {
		t.when = make(map[string][]time.Time)
	}
	t.when[what] = append(t.when[what], time.Now())
}
