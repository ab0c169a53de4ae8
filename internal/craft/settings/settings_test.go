package settings

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"

	"umberfrost/internal/craft/calendar"
)

func TestAPlaceIsAsItsLastVersionSays(t *testing.T) {
	day := func(n int) time.Time { return time.Date(2026, 3, n, 0, 0, 0, 0, time.UTC) }
	p := Place{ID: uuid.New(), Versions: []PlaceVersion{{ValidFrom: day(1)}, {ValidFrom: day(5)}, {ValidFrom: day(9)}}}
	for now, want := range map[int]int{0: 0, 1: 0, 4: 0, 5: 1, 8: 1, 9: 2, 20: 2} {
		assert.Equal(t, want, p.At(day(now)), "on day %d", now)
	}
}

func TestWhatWasDecidedAheadOfTimeComesIntoForce(t *testing.T) {
	day := func(n int) time.Time { return time.Date(2026, 3, n, 0, 0, 0, 0, time.UTC) }
	shop := Shop{Settings: []Setting{{ValidFrom: day(1), Margin: 1.25}, {ValidFrom: day(5), Margin: 1.5}},
		Places: []Place{{Versions: []PlaceVersion{{ValidFrom: day(1)}, {ValidFrom: day(9)}}}}}
	assert.Equal(t, 1.25, shop.Settings[shop.At(day(4))].Margin)
	assert.Equal(t, 1.5, shop.Settings[shop.At(day(5))].Margin)
	for days, want := range map[[2]int]bool{{1, 4}: false, {4, 5}: true, {5, 8}: false, {5, 9}: true, {9, 30}: false} {
		assert.Equal(t, want, shop.ChangesBetween(day(days[0]), day(days[1])), "%v", days)
	}
}

func TestAClosedDayOfAWholeWeekIsAnEmptyList(t *testing.T) {
	week := Week{2: []calendar.Hours{{Open: 540, Close: 1080}}}.Whole()
	for d, hours := range week {
		assert.NotNil(t, hours, d)
	}
	assert.Len(t, week[2], 1)
}
