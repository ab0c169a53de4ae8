package shop

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestNobodyQueuesBehindAChangeThatHangs(t *testing.T) {
	q := queue{taken: make(chan struct{}, 1)}
	end, err := q.take(t.Context())
	require.NoError(t, err)
	gone, stop := context.WithCancel(t.Context())
	stop()
	_, err = q.take(gone)
	assert.ErrorIs(t, err, ErrUnavailable, "whoever gives up is told so")
	assert.ErrorIs(t, err, context.Canceled)

	q.since.Store(time.Now().Add(-turnMost - time.Second).UnixNano())
	_, err = q.take(t.Context())
	assert.ErrorIs(t, err, ErrUnavailable)
	assert.ErrorContains(t, err, "another change hangs")

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

func TestGuessesAreCounted(t *testing.T) {
	var tried tries
	for range 5 {
		require.NoError(t, tried.allow("pin", 5))
		tried.failed("pin")
	}
	var busy *Busy
	require.ErrorAs(t, tried.allow("pin", 5), &busy)
	assert.Greater(t, busy.After, time.Duration(0))
	assert.LessOrEqual(t, busy.After, triesFor)
	assert.NoError(t, tried.allow("another", 5))
	for i := range tried.when["pin"] {
		tried.when["pin"][i] = time.Now().Add(-triesFor - time.Second)
	}
	assert.NoError(t, tried.allow("pin", 5), "they are forgotten")
	assert.Empty(t, tried.when)
}

func TestEachRoleMayWhatTheLesserMay(t *testing.T) {
	for i, role := range roles {
		for k, need := range roles {
			assert.Equal(t, i >= k, role.May(need), "%s for %s", role, need)
		}
	}
	assert.False(t, Role("").May(RoleLook))
	assert.False(t, Role("owner").May(RoleLook))
	move := Changes{Changes: []Change{{Kind: "pin"}, {Kind: "unpin"}}}
	assert.NoError(t, Caller{Role: RoleBench}.checkMoves(move))
	move.Changes = append(move.Changes, Change{Kind: "week"})
	assert.Error(t, Caller{Role: RoleBench}.checkMoves(move), "one of them is more than a move")
	assert.NoError(t, Caller{Role: RoleShop}.checkMoves(move))
}
