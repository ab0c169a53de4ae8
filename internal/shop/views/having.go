package views

import (
	"fmt"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// Times that somebody may have.
const (
	halfHour = "half-hour"
	twoHours = "two-hours"
	evening  = "evening"
)

// The evening lasts from 17:00 to 22:00; who asks when it is as good as over has until midnight. Minutes after midnight.
const (
	eveningFrom = 17 * 60
	eveningTo   = 22 * 60
	eveningLate = eveningTo - 60
	midnight    = 24 * 60
)

// Having is what fits into the time that somebody has: what the planner would let these hands do, were the shop
// open then and for nobody else.
type Having struct {
	Said   string `json:"said" doc:"from now until 16:40"`
	Fits   []Due  `json:"fits" doc:"in the order in which the planner would do it"`
	Sum    string `json:"sum" doc:"3 things, 1 h 20 in all"`
	Pieces []Fit  `json:"pieces" doc:"that they are done to"`
}

// Fit is a piece with work that fits.
type Fit struct {
	InstrumentID uuid.UUID `json:"instrumentId"`
	Piece        string    `json:"piece"`
}

// Window is the hours of today that somebody has.
func Window(m *snapshot.Snapshot, of string) (calendar.Hours, error) {
	local := m.Now.In(m.Plan.Zone)
	now := local.Hour()*60 + local.Minute()
	switch of {
	case halfHour:
		return calendar.Hours{Open: now, Close: min(now+30, midnight)}, nil
	case twoHours:
		return calendar.Hours{Open: now, Close: min(now+120, midnight)}, nil
	case evening:
		if now >= eveningLate {
			return calendar.Hours{Open: now, Close: midnight}, nil
		}
		return calendar.Hours{Open: max(now, eveningFrom), Close: eveningTo}, nil
	}
	return calendar.Hours{}, refuse.Field("for", "choose one of half-hour, two-hours, evening", of)
}

func TimeBudget(m *snapshot.Snapshot, window calendar.Hours, person uuid.UUID, having *Having) error {
	day := calendar.DayOf(m.Now.In(m.Plan.Zone))
	from, until := day.At(window.Open, m.Plan.Zone), day.At(window.Close, m.Plan.Zone)
	having.Said = "from " + unit.ClockText(window.Open/60, window.Open%60) + " until " + unit.ClockText(window.Close/60, window.Close%60)
	if !from.After(m.Now) {
		having.Said = "from now until " + unit.ClockText(window.Close/60, window.Close%60)
	}
	then, err := onlyHands(m, person, day, window)
	if err != nil {
		return err
	}
	var work unit.Minutes
	for _, e := range Ahead(then) {
		part := minutesUntil(*e, until)
		if e.Start.Before(from) || !e.Start.Before(until) || (e.End.After(until) && e.Spans == nil) || e.Person < 0 {
			continue
		}
		due := DueOf(then, *e, until)
		due.When = then.Plan.Say(e.Start)
		having.Fits = append(having.Fits, due)
		if fit := (Fit{e.Instrument, string(due.Piece)}); !slices.Contains(having.Pieces, fit) {
			having.Pieces = append(having.Pieces, fit)
		}
		work += part
	}
	having.Sum = fmt.Sprintf("%s, %s in all", phrase.Plural(len(having.Fits), "thing"), work.String())
	if len(having.Fits) == 0 {
		having.Sum = "Nothing fits: what is ready takes longer, and the rest is drying."
	}
	return nil
}

// onlyHands is the shop as it would be if one person had these hours of a day, and nobody else worked.
func onlyHands(m *snapshot.Snapshot, person uuid.UUID, day calendar.Day, window calendar.Hours) (*snapshot.Snapshot, error) {
	b, err := changes.NewSet(m, nil, uuid.Nil)
	if err != nil {
		return nil, err
	}
	b.Current().Exceptions[day.String()] = []calendar.Hours{window}
	for i := range b.Workshop.Shop.People {
		p := &b.Workshop.Shop.People[i]
		p.Week, p.Left = nil, p.ID != person
	}
	in, err := b.Input()
	if err != nil {
		return nil, err
	}
	plan, err := m.Plan.Retime(in)
	if err != nil {
		return nil, err
	}
	return result(b, search.Answer{After: plan})
}
