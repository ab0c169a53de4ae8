package formats

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/schedule"
)

func TestACopyIsChangedByItself(t *testing.T) {
	file, fresh := example(t, "two-people-and-a-booth.json"), example(t, "two-people-and-a-booth.json")
	c := file.Clone()
	assert.Equal(t, file, c)
	c.Shop.Settings[0].Margin = 2
	c.Shop.People[0].Name = "Cy"
	c.Shop.Places[0].Versions[0].Name = "the shed"
	c.Shop.Places[1].Versions = append(c.Shop.Places[1].Versions, PlaceVersion{})
	c.Instruments[0].Pieces[0].Steps[0].Coats = 9
	c.Instruments[1].Pieces[0].Steps = append(c.Instruments[1].Pieces[0].Steps, Step{})
	c.Pins = append(c.Pins[:0], Pin{})
	c.Order = append(c.Order, Event{})
	assert.Equal(t, fresh, file)
}

func TestWhoHasLeftIsNotPlannedWith(t *testing.T) {
	file := example(t, "two-people-and-a-booth.json")
	file.Shop.People[0].Left = true
	in, err := file.Input(*file.Now)
	require.NoError(t, err)
	require.Len(t, in.Shop.People, 1)
	assert.Equal(t, "Bo", in.Shop.People[0].Name)
	file.Shop.People[1].Left = true
	_, err = file.Input(*file.Now)
	var wrong *Invalid
	require.ErrorAs(t, err, &wrong)
	assert.Equal(t, "/shop/people", wrong.Faults[0].Path)
}

func TestDaysOfAPlaceDifferFromTheShopsWhereItHasNoHoursOfItsOwn(t *testing.T) {
	file := example(t, "two-people-and-a-booth.json")
	bench := &file.Shop.Places[1].Versions[0]
	require.Nil(t, bench.Week)
	bench.Exceptions = map[string][]calendar.Hours{"2026-02-03": {}} // a Tuesday
	in, err := file.Input(*file.Now)
	require.NoError(t, err)
	cal := in.Shop.Places[1].Calendar
	require.NotNil(t, cal)
	assert.Empty(t, cal.OpenOn(calendar.Day{Year: 2026, Month: time.February, Date: 3}))
	assert.Len(t, cal.OpenOn(calendar.Day{Year: 2026, Month: time.February, Date: 4}), 2, "as the shop")
	plan, err := schedule.Retime(in)
	require.NoError(t, err)
	for _, e := range plan.Events {
		if e.Place == file.Shop.Places[1].ID && e.Impossible == "" {
			assert.NotEqual(t, 3, e.Start.In(plan.Zone).YearDay()-31, "%s", e.Start)
		}
	}
}

func TestAPlaceIsAsItsLastVersionSays(t *testing.T) {
	day := func(n int) time.Time { return time.Date(2026, 3, n, 0, 0, 0, 0, time.UTC) }
	p := Place{ID: uuid.New(), Versions: []PlaceVersion{{ValidFrom: day(1)}, {ValidFrom: day(5)}, {ValidFrom: day(9)}}}
	for now, want := range map[int]int{0: 0, 1: 0, 4: 0, 5: 1, 8: 1, 9: 2, 20: 2} {
		assert.Equal(t, want, p.At(day(now)), "on day %d", now)
	}
}
