package formats

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/settings"
)

func TestACopyIsChangedByItself(t *testing.T) {
	file, fresh := example(t, "two-people-and-a-booth.json"), example(t, "two-people-and-a-booth.json")
	c := file.Workshop.Clone()
	assert.Equal(t, file.Workshop, *c)
	c.Shop.Settings[0].Margin = 2
	c.Shop.People[0].Name = "Cy"
	c.Shop.Places[0].Versions[0].Name = "the shed"
	c.Shop.Places[1].Versions = append(c.Shop.Places[1].Versions, settings.PlaceVersion{})
	c.Own(0).Pieces[0].Steps[0].Coats = 9
	c.Own(1).Pieces[0].Steps = append(c.Instruments[1].Pieces[0].Steps, job.Step{})
	c.Pins = append(c.Pins[:0], job.Pin{})
	c.Order = append(c.Order, job.Event{})
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
