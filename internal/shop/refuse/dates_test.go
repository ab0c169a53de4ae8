package refuse_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
)

func TestWhichDatesAShopSpeaksOf(t *testing.T) {
	t.Parallel()
	now := time.Date(2026, 3, 12, 9, 0, 0, 0, time.UTC)
	day := func(year, month, date int) time.Time {
		return time.Date(year, time.Month(month), date, 0, 0, 0, 0, time.UTC)
	}
	for at, want := range map[time.Time]bool{
		day(1, 1, 2): false, day(1999, 12, 31): false, day(2000, 1, 1): true, now: true, now.AddDate(10, 0, 0): true,
		now.AddDate(10, 0, 0).Add(time.Second): false, day(9999, 12, 31): false,
	} {
		assert.Equal(t, want, refuse.Plausible(at, now), at)
	}
	assert.True(t, refuse.PlausibleDay(calendar.Day{Year: 2036, Month: 3, Date: 11}, now))
	assert.False(t, refuse.PlausibleDay(calendar.Day{Year: 2036, Month: 3, Date: 13}, now))

	type inner struct {
		At   time.Time     `json:"at"`
		Late *time.Time    `json:"late" date:"judged"`
		Day  *calendar.Day `json:"day"`
	}
	type entered struct {
		inner
		ID    uuid.UUID      `json:"id"`
		List  []inner        `json:"list,omitempty"`
		Any   any            `json:"any"`
		Days  map[string]int `json:"days"`
		hides time.Time
	}
	far, good := day(9999, 1, 1), now
	in := entered{ID: uuid.New(), hides: far, Days: map[string]int{"0999-01-01": 1, "2026-03-12": 2, "whenever": 3}, Any: &inner{At: far},
		List: []inner{{}, {At: good, Late: &far, Day: &calendar.Day{Year: 1066, Month: 10, Date: 14}}}}
	in.At = far
	var bad *refuse.Invalid
	require.ErrorAs(t, refuse.Implausible(&in, now), &bad)
	var paths []string
	for _, f := range bad.Faults {
		paths = append(paths, f.Path)
	}
	assert.ElementsMatch(t, []string{"at", "list[1].day", "any.at", "days.0999-01-01"}, paths)
	assert.NoError(t, refuse.Implausible(changes.Changes{Changes: []changes.Change{{At: &good}}}, now))
	assert.NoError(t, refuse.Implausible(changes.NewInstrument{Wish: recipe.Wish{}}, now), "what nobody has said is no date")
}
