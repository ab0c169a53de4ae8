package shop_test

import (
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// anyChange draws something that could be otherwise; not all of it can be.
func (r *room) anyChange(random *rand.Rand, events []changes.EventRef) changes.Change {
	now := r.now
	event := events[random.IntN(len(events))]
	places := []uuid.UUID{uuid.Nil, booth, bench, drying}
	day := now.AddDate(0, 0, random.IntN(30)).Format(time.DateOnly)
	hours := []string{"closed", "8-12", "7-20", "9:30-12, 13-18"}
	at := now.Add(time.Duration(random.IntN(24*40)) * time.Hour)
	switch random.IntN(12) {
	case 0, 1, 2:
		return changes.Change{Kind: "pin", StepID: event.StepID, Coat: event.Coat, At: &at}
	case 3:
		return changes.Change{Kind: "day", PlaceID: places[random.IntN(4)], Date: day, Open: random.IntN(2) == 0}
	case 4:
		return changes.Change{Kind: "week", PlaceID: places[random.IntN(3)], Weekday: random.IntN(7), Hours: hours[random.IntN(4)]}
	case 5:
		return changes.Change{Kind: "warmer", PlaceID: places[random.IntN(2)], Degrees: float64(random.IntN(9) - 4)}
	case 6:
		return changes.Change{Kind: "coats", StepID: event.StepID, Coats: random.IntN(7) - 3}
	case 8, 9, 10:
		id := []uuid.UUID{knot, ruff}[random.IntN(2)]
		return edits(id, anyEdit(random, r.view(id)))[0]
	case 7:
		return changes.Change{Kind: "start", InstrumentID: []uuid.UUID{knot, ruff}[random.IntN(2)], Date: day}
	}
	return changes.Change{Kind: "hands", Name: fmt.Sprint("Wren ", random.IntN(1000))}
}

// TestWhateverIsKeptIsWhatWasAskedAbout keeps what can be kept of drawn changes, some
// together, while work goes on, and compares every date with what was said before.
func TestWhateverIsKeptIsWhatWasAskedAbout(t *testing.T) {
	t.Parallel()
	for seed := range uint64(4) {
		t.Run(fmt.Sprint(seed), func(t *testing.T) {
			random := rand.New(rand.NewPCG(seed, 7))
			r := imported(t, twoPeople)
			kept := 0
			for range 14 {
				if random.IntN(3) == 0 {
					r.now = r.now.Add(time.Duration(random.IntN(30)) * time.Hour)
				}
				if tags := r.rack().Tags; random.IntN(3) == 0 {
					r.done(tags[random.IntN(len(tags))]) // out of order or too soon, as it may be
				}
				before, dates := r.dates()
				var changes []changes.Change
				for range 1 + random.IntN(3) {
					changes = append(changes, r.anyChange(random, before))
				}
				asked, err := r.whatIf(changes...)
				if err != nil {
					var wrong *refuse.Invalid
					require.ErrorAs(t, err, &wrong, "what cannot be is said")
					require.NotEmpty(t, wrong.Faults[0].Message)
					_, err = r.keepChanges(changes...)
					require.ErrorAs(t, err, &wrong, "and not kept")
					_, after := r.dates()
					require.Equal(t, dates, after)
					continue
				}
				_, err = r.keepChanges(changes...)
				require.NoError(t, err)
				r.isAsKept()
				kept++
				for _, m := range asked.Moved {
					dates[m.Event] = m.Start
				}
				_, after := r.dates()
				for event, start := range after {
					if _, known := dates[event]; known && !asked.Stands {
						assert.Equal(t, dates[event], start, "%v: %v", asked.Changes, event)
					}
				}
			}
			assert.Positive(t, kept)
		})
	}
}

// dates are the planned starts of all that is ahead.
func (r *room) dates() ([]changes.EventRef, map[changes.EventRef]time.Time) {
	r.t.Helper()
	var events []changes.EventRef
	starts := make(map[changes.EventRef]time.Time)
	for _, id := range []uuid.UUID{knot, ruff} {
		view, err := r.service.Instrument(ctx, id)
		require.NoError(r.t, err)
		for _, piece := range view.Pieces {
			for _, b := range piece.Beads {
				events = append(events, b.Event)
				starts[b.Event] = b.Start
			}
		}
	}
	return events, starts
}
