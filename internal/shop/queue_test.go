package shop

import (
	"context"
	"fmt"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"umberfrost/internal/shop/refuse"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestNobodyQueuesBehindAChangeThatHangs(t *testing.T) {
	t.Parallel()
	q := queue{taken: make(chan struct{}, 1)}
	end, err := q.take(t.Context())
	require.NoError(t, err)
	gone, stop := context.WithCancel(t.Context())
	stop()
	_, err = q.take(gone)
	assert.ErrorIs(t, err, refuse.ErrSlow, "whoever gives up is told so")
	assert.ErrorIs(t, err, context.Canceled)

	q.since.Store(time.Now().Add(-turnMost - time.Second).UnixNano())
	_, err = q.take(t.Context())
	assert.ErrorIs(t, err, refuse.ErrSlow)
	assert.NotErrorIs(t, err, refuse.ErrUnavailable, "which says nothing of the database")

	q.since.Store(time.Now().UnixNano())
	got := make(chan error, 1)
	go func() {
		next, err := q.take(t.Context())
		if err == nil {
			next()
		}
		got <- err
	}()
	end()
	assert.NoError(t, <-got, "behind one that does not, one waits")
}

func TestGuessesAreCountedBeforeTheyAreJudged(t *testing.T) {
	t.Parallel()
	var tried tries
	var judged atomic.Int64
	var asked sync.WaitGroup
	for range 40 {
		asked.Go(func() {
			if _, err := tried.begin(limit{"pin", 5}, limit{"address", 20}); err == nil {
				judged.Add(1)
			}
		})
	}
	asked.Wait()
	assert.Equal(t, int64(5), judged.Load(), "of forty at once five are judged")
	var busy *Busy
	_, err := tried.begin(limit{"pin", 5})
	require.ErrorAs(t, err, &busy)
	assert.Greater(t, busy.After, time.Duration(0))
	assert.LessOrEqual(t, busy.After, triesFor)
	for n := 5; n < 20; n++ {
		_, err = tried.begin(limit{fmt.Sprint("pin ", n), 5}, limit{"address", 20})
		require.NoError(t, err, "another device of that address")
	}
	_, err = tried.begin(limit{"pin of another", 5}, limit{"address", 20})
	require.ErrorAs(t, err, &busy, "but not for ever")
	for range 50 {
		forgive, err := tried.begin(limit{"right", 5}, limit{"another address", 5})
		require.NoError(t, err, "who is right is never shut out")
		forgive()
	}
	assert.NotContains(t, tried.when, "right")
	for i := range tried.when["pin"] {
		tried.when["pin"][i] = time.Now().Add(-triesFor - time.Second)
	}
	_, err = tried.begin(limit{"pin", 5})
	assert.NoError(t, err, "they are forgotten")
}

func TestStrangersShutNobodyOutByTheirNumber(t *testing.T) {
	t.Parallel()
	var tried tries
	for n := range mostTried + 100 {
		_, err := tried.begin(limit{fmt.Sprint("codes from ", n), 10})
		require.NoError(t, err)
	}
	assert.LessOrEqual(t, len(tried.when), mostTried)
	_, err := tried.begin(limit{"codes from here", 10})
	assert.NoError(t, err)
	assert.Contains(t, tried.when, "codes from here")
}

func TestPinsAreWorkedOnOneAtATime(t *testing.T) {
	t.Parallel()
	var h hashing
	end, err := h.take(t.Context())
	require.NoError(t, err)
	gone, stop := context.WithCancel(t.Context())
	stop()
	_, err = h.take(gone)
	assert.ErrorIs(t, err, context.Canceled)
	var busy *Busy
	done := make(chan error, 200)
	for range 200 {
		go func() {
			next, err := h.take(t.Context())
			if err == nil {
				next()
			}
			done <- err
		}()
	}
	for range 200 - mostHashing {
		require.ErrorAs(t, <-done, &busy, "they are told at once")
	}
	end()
	for range mostHashing {
		assert.NoError(t, <-done)
	}
}
