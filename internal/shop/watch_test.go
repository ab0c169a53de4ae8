package shop_test

import (
	"context"
	"fmt"
	"io"
	"log/slog"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/views"
)

// crowded is a room in which the last instrument that was added is promised first.
func crowded(t *testing.T) *room {
	r := open(t)
	r.now = time.Date(2026, 3, 2, 9, 0, 0, 0, time.UTC)
	for n := range 9 {
		r.keep(neck(fmt.Sprint("Stint ", n), "2026-06-30"))
	}
	r.keep(neck("Dunlin", "2026-03-11"))
	return r
}

func TestABetterOrderIsProposedAndAccepted(t *testing.T) {
	t.Parallel()
	r := crowded(t)
	now, err := r.service.Proposal(ctx)
	require.NoError(t, err)
	assert.False(t, now.Looked)
	require.NoError(t, r.service.ThinkAhead(ctx))
	now, err = r.service.Proposal(ctx)
	require.NoError(t, err)
	require.NotNil(t, now.Found)
	assert.True(t, now.Found.Telling)
	assert.Contains(t, now.Found.Gain, "on Dunlin")
	assert.NotEmpty(t, now.Found.Rows)
	require.NotNil(t, r.rack().Better)
	assert.Equal(t, now.Found.Gain, r.rack().Better.Gain)

	before := r.finishes()
	assert.Equal(t, before, r.finishes(), "dates do not move by themselves")
	decision := views.Decision{ID: now.Found.ID, PersonID: r.person}
	kept, err := r.service.AcceptProposal(ctx, decision)
	require.NoError(t, err)
	for _, e := range now.Found.Effects {
		before[e.InstrumentID] = e.After
	}
	assert.Equal(t, before, r.finishes(), "accepted, they are what was shown")
	assert.NotEmpty(t, kept.Moved)
	_, err = r.service.AcceptProposal(ctx, decision)
	var taken *refuse.Taken
	assert.ErrorAs(t, err, &taken, "twice it gains nothing")
	require.NoError(t, r.service.ThinkAhead(ctx))
	if better := r.rack().Better; better != nil { // a search of fixed effort may go on from here
		assert.NotEqual(t, now.Found.ID, better.ID, "what is accepted is not offered again")
	}
}

func TestADeclinedGainIsNotOfferedAgainForAWeek(t *testing.T) {
	t.Parallel()
	r := crowded(t)
	require.NoError(t, r.service.ThinkAhead(ctx))
	line := r.rack().Better
	require.NotNil(t, line)
	require.NoError(t, r.service.DismissProposal(ctx, views.Decision{ID: line.ID, PersonID: r.person}))
	assert.Nil(t, r.rack().Better)
	require.NoError(t, r.service.ThinkAhead(ctx))
	assert.Nil(t, r.rack().Better)
	now, err := r.service.Proposal(ctx)
	require.NoError(t, err)
	assert.NotNil(t, now.Found, "who asks for it still sees it")
	r.now = r.now.AddDate(0, 0, 8)
	assert.NotNil(t, r.rack().Better)
}

func TestTheChanceComesFromTheBackground(t *testing.T) {
	t.Parallel()
	r := crowded(t)
	for _, p := range r.rack().Promises {
		assert.Nil(t, p.Outlook.Chance)
	}
	require.NoError(t, r.service.ThinkAhead(ctx))
	for _, p := range r.rack().Promises {
		require.NotNil(t, p.Outlook.Chance)
		assert.Equal(t, p.Name != "Dunlin", p.Outlook.Chance.Percent > 50, p.Name)
		assert.NotEmpty(t, p.Outlook.Chance.Working.Inputs)
		assert.NotNil(t, p.Outlook.SlackWorking)
	}
}

func TestWatchTellsOfEveryChange(t *testing.T) {
	t.Parallel()
	r := crowded(t)
	watching, stop := context.WithCancel(ctx)
	done := make(chan struct{})
	go func() {
		r.service.Watch(watching, slog.New(slog.NewTextHandler(io.Discard, nil)))
		close(done)
	}()
	notices, end := r.service.Listen()
	defer end()
	next := func(what string, is func(shop.Notice) bool) shop.Notice {
		t.Helper()
		for {
			select {
			case n := <-notices:
				if is(n) {
					return n
				}
			case <-time.After(60 * time.Second):
				require.Fail(t, "nothing is told of "+what)
			}
		}
	}
	first := next("the present", func(n shop.Notice) bool { return n.Revision > 0 })
	settings := next("the shop as it is", func(n shop.Notice) bool { return n.Thought > 0 }).Settings
	_, err := r.keepChanges(changes.Change{Kind: "hands"})
	require.NoError(t, err)
	next("a change", func(n shop.Notice) bool { return n.Revision == first.Revision+1 })
	next("other settings", func(n shop.Notice) bool { return n.Settings == settings+1 })
	next("what was thought", func(n shop.Notice) bool { return n.Thought >= 2 })
	stop()
	<-done
	for range notices { // it ends, rather than hang
	}
	after, _ := r.service.Listen()
	<-after
	_, more := <-after
	assert.False(t, more, "nothing more will come")
}
