package shop

import (
	"context"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// Weeks shows the running instruments through some weeks.
func (s Reader) Weeks(ctx context.Context, asked views.WeeksAsked) (views.Weeks, error) {
	var view views.Weeks
	err := s.look(ctx, func(m *snapshot.Snapshot) (err error) {
		first := calendar.DayOf(m.Now.In(m.Plan.Zone))
		first = first.AddDays(-(int(first.Weekday()) + 6) % 7)
		if asked.From != "" {
			if first, err = calendar.ParseDay(asked.From); err != nil {
				return refuse.Field("from", err.Error(), asked.From)
			}
			if !refuse.PlausibleDay(first, m.Now) {
				return refuse.Field("from", refuse.DatesAccepted, asked.From)
			}
		}
		view = views.WeeksOf(m, first, asked)
		return nil
	})
	if err != nil {
		return view, err
	}
	view.Better, err = Thinker(s).line(ctx)
	return view, err
}

// Starts shows where an event may be pinned until a moment; without one, for
// twelve weeks.
func (s Reader) Starts(ctx context.Context, step uuid.UUID, coat int, until *time.Time) (views.StartsView, error) {
	var view views.StartsView
	err := s.ask(ctx, func(m *snapshot.Snapshot) error {
		event := schedule.Event{Step: step, Coat: coat}
		e, found := m.Plan.Find(event)
		if !found {
			return refuse.Missing("event", event.Step)
		}
		end := m.Now.AddDate(0, 0, 12*7)
		if until != nil && until.Before(m.Now.AddDate(1, 0, 0)) {
			end = *until
		}
		at, _ := m.Find(step)
		view = views.StartsView{Event: changes.Ref(event), Title: at.Planned().EventTitle(coat), Name: at.Instrument().Name,
			Piece:   at.Piece().Kind,
			Minutes: "about " + at.Planned().HandsOnMin.String(), Start: m.MomentOf(e), Stretches: []views.StretchView{}}
		_, view.Pinned = m.Input.Pins[event]
		for _, st := range explain.Starts(m.Plan, event, end) {
			view.Stretches = append(view.Stretches, views.StretchView{From: st.Start.UTC(), To: st.End.UTC(), Free: st.Free, Why: st.Why})
		}
		return nil
	})
	return view, err
}
