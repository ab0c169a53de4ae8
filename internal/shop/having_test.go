package shop_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/views"
)

// What fits lies within the time that somebody has, one thing after the other, whenever they ask.
func TestOnlyWhatFitsIsLeft(t *testing.T) {
	t.Parallel()
	r := imported(t, "two-people-and-a-booth.json")
	reference, err := r.service.Reference(ctx)
	require.NoError(t, err)
	zone, err := time.LoadLocation(reference.Zone)
	require.NoError(t, err)
	fitted := 0
	for hours := range 20 {
		if hours > 0 {
			r.now = r.now.Add(97 * time.Minute)
		}
		before := r.exported()
		for of, long := range map[string]time.Duration{"half-hour": 30 * time.Minute, "two-hours": 2 * time.Hour,
			"evening": 7 * time.Hour} {
			having, err := r.service.Have(ctx, of, r.person)
			require.NoError(t, err)
			last := r.now.Truncate(time.Minute)
			until := last.Add(long)
			if local := r.now.In(zone); of == "evening" && local.Hour() < 21 {
				until = time.Date(local.Year(), local.Month(), local.Day(), 22, 0, 0, 0, zone)
				assert.Contains(t, unit.Unmarked(having.Said), "until 22:00")
			}
			for _, due := range having.Fits {
				assert.False(t, due.Start.At.Before(last), "%s begins before the one before it ends", due.Title)
				if last = due.End.At; due.Minutes[:5] == "about" { // all of it
					assert.False(t, due.End.At.After(until), "%s ends after the time is over", due.Title)
				}
				fitted++
			}
		}
		assert.Equal(t, before, r.exported(), "it is only asked")
	}
	assert.Greater(t, fitted, 20)
	for name, ask := range map[string]struct {
		of  string
		who uuid.UUID
	}{"another time": {"a-week", r.person}, "nobody": {"half-hour", uuid.New()}} {
		_, err := r.service.Have(ctx, ask.of, ask.who)
		var wrong *refuse.Invalid
		assert.ErrorAs(t, err, &wrong, name)
	}
}

func TestWhatFitsIsWhatThePlannerWouldDoFirst(t *testing.T) {
	t.Parallel()
	r := open(t)
	first, second := r.keep(neck("Dunlin", "2026-06-01")), r.keep(neck("Knot", "2026-06-01"))
	having, err := r.service.Have(ctx, "half-hour", r.person)
	require.NoError(t, err)
	require.NotEmpty(t, having.Fits)
	assert.Equal(t, first.ID, having.Fits[0].InstrumentID)
	assert.Equal(t, "Tape the fretboard and the heel", having.Fits[0].Title)
	for _, due := range having.Fits {
		assert.NotEqual(t, "Sand the bare wood", due.Title, "50 min do not fit into 30")
	}
	assert.Contains(t, having.Pieces, views.Fit{InstrumentID: second.ID, Piece: "neck"})
	r.log(first, "Tape the fretboard and the heel")
	r.log(second, "Tape the fretboard and the heel")
	having, err = r.service.Have(ctx, "half-hour", r.person)
	require.NoError(t, err)
	assert.Empty(t, having.Fits)
	assert.Contains(t, having.Sum, "Nothing fits")
	r.now = r.now.Add(12 * time.Hour) // 21:00, long after the shop has closed
	having, err = r.service.Have(ctx, "evening", r.person)
	require.NoError(t, err)
	assert.Equal(t, "from now until 24:00", unit.Unmarked(having.Said))
	require.NotEmpty(t, having.Fits, "who has the evening may work")
	assert.Equal(t, "Sand the bare wood", having.Fits[0].Title)
}
