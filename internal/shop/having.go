package shop

import (
	"context"
	"fmt"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/craft/unit"
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

// Have plans what fits into half an hour, two hours or this evening of one person. It fails with *Invalid on another
// time or person.
func (s *Service) Have(ctx context.Context, time string, person uuid.UUID) (Having, error) {
	having := Having{Fits: []Due{}, Pieces: []Fit{}}
	err := s.ask(ctx, func(m *moment) error {
		if err := m.isOfShop("person", person); err != nil {
			return err
		}
		window, err := m.window(time)
		if err != nil {
			return err
		}
		return m.having(window, person, &having)
	})
	return having, err
}

// window is the hours of today that somebody has.
func (m *moment) window(of string) (calendar.Hours, error) {
	local := m.now.In(m.plan.Zone)
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
	return calendar.Hours{}, invalid("for", "choose one of half-hour, two-hours, evening", of)
}

func (m *moment) having(window calendar.Hours, person uuid.UUID, having *Having) error {
	day := calendar.DayOf(m.now.In(m.plan.Zone))
	from, until := day.At(window.Open, m.plan.Zone), day.At(window.Close, m.plan.Zone)
	having.Said = "from " + unit.ClockText(window.Open/60, window.Open%60) + " until " + unit.ClockText(window.Close/60, window.Close%60)
	if !from.After(m.now) {
		having.Said = "from now until " + unit.ClockText(window.Close/60, window.Close%60)
	}
	then, err := m.onlyHands(person, day, window)
	if err != nil {
		return err
	}
	var work unit.Minutes
	for _, e := range then.ahead() {
		part := minutesUntil(*e, until)
		if e.Start.Before(from) || !e.Start.Before(until) || (e.End.After(until) && e.Spans == nil) || e.Person < 0 {
			continue
		}
		due := then.due(*e, until)
		due.When = then.plan.Say(e.Start)
		having.Fits = append(having.Fits, due)
		if fit := (Fit{e.Instrument, string(due.Piece)}); !slices.Contains(having.Pieces, fit) {
			having.Pieces = append(having.Pieces, fit)
		}
		work += part
	}
	having.Sum = fmt.Sprintf("%s, %s in all", phrase.Plural(len(having.Fits), "thing"), work.Text())
	if len(having.Fits) == 0 {
		having.Sum = "Nothing fits: what is ready takes longer, and the rest is drying."
	}
	return nil
}

// onlyHands is the shop as it would be if one person had these hours of a day, and nobody else worked.
func (m *moment) onlyHands(person uuid.UUID, day calendar.Day, window calendar.Hours) (*moment, error) {
	b, err := m.bend(nil, uuid.Nil)
	if err != nil {
		return nil, err
	}
	b.current().Exceptions[day.String()] = []calendar.Hours{window}
	for i := range b.file.Shop.People {
		p := &b.file.Shop.People[i]
		p.Week, p.Left = nil, p.ID != person
	}
	in, err := b.input()
	if err != nil {
		return nil, err
	}
	plan, err := m.plan.Retime(in)
	if err != nil {
		return nil, err
	}
	return b.after(search.Answer{After: plan})
}
