package changes

import (
	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/shop/snapshot"
)

// MovedForecast is an instrument whose finish a change has moved.
type MovedForecast struct {
	InstrumentID uuid.UUID `json:"instrumentId"`
	Name         string    `json:"name"`
	Before       string    `json:"before"`
	After        string    `json:"after"`
	Days         int       `json:"days" doc:"whole days later; negative is earlier; 0 where either has no finish"`
	Text         string    `json:"text" doc:"3 days later, the same day, or: can no longer be placed"`
}

// ForecastMove is what became of an instrument's finish.
func ForecastMove(m *snapshot.Snapshot, name string, was, is schedule.Forecast) MovedForecast {
	v := MovedForecast{InstrumentID: is.Instrument, Name: name, Before: FinishText(m, was), After: FinishText(m, is)}
	switch {
	case was.Instrument == uuid.Nil: // it was not planned at all
		v.Before, v.Text = "", "planned again, ready "+v.After
		if is.Impossible != "" {
			v.Text = "planned again, and cannot be placed"
		}
	case is.Impossible != "" && was.Impossible != "":
		v.Text = "still cannot be placed"
	case is.Impossible != "":
		v.Text = "can no longer be placed"
	case was.Impossible != "":
		v.Text = "can be placed again"
	default:
		v.Days = calendar.DaysBetween(calendar.DayOf(was.Finish.In(m.Plan.Zone)), calendar.DayOf(is.Finish.In(m.Plan.Zone)))
		v.Text = DaysText(v.Days)
	}
	return v
}

// Moved compares the finishes of two moments.
func Moved(before, after *snapshot.Snapshot) []MovedForecast {
	list := []MovedForecast{}
	old := make(map[uuid.UUID]schedule.Forecast)
	for _, f := range before.Plan.Forecasts {
		old[f.Instrument] = f
	}
	for i, f := range after.Plan.Forecasts {
		was, there := old[f.Instrument]
		if there && !was.Finish.Equal(f.Finish) {
			list = append(list, ForecastMove(after, after.Workshop.Instruments[i].Name, was, f))
		}
	}
	return list
}

func FinishText(m *snapshot.Snapshot, f schedule.Forecast) string {
	if f.Impossible != "" {
		return "cannot be placed"
	}
	return snapshot.DayOf(calendar.DayOf(f.Finish.In(m.Plan.Zone))).Said
}

func DaysText(days int) string {
	switch {
	case days > 0:
		return phrase.Plural(days, "day") + " later"
	case days < 0:
		return phrase.Plural(-days, "day") + " earlier"
	}
	return "the same day"
}
