package changes

import (
	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/shop/snapshot"
)

func FinishText(m *snapshot.Snapshot, f schedule.Forecast) string {
	if f.Impossible != "" {
		return "cannot be placed"
	}
	return snapshot.DayOf(calendar.DayOf(f.Finish.In(m.Plan.Zone))).Said
}
