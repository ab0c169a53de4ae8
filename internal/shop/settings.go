package shop

import (
	"context"
	"fmt"
	"sort"
	"strconv"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/settings"
)

// ShopView is what a shop has decided about itself, as it is entered.
type ShopView struct {
	Shop   ShopForm       `json:"shop"`
	Seen   time.Time      `json:"seen" doc:"since when the shop's settings hold"`
	Days   []SpecialDay   `json:"days" doc:"days from today on that differ from their week, of the shop and of places"`
	People []PersonForm   `json:"people"`
	Places []PlaceView    `json:"places"`
	Topics []recipe.Topic `json:"topics" doc:"what schools differ in, with each of them"`
}

// SpecialDay is a day with other hours than usual.
type SpecialDay struct {
	Date    string     `json:"date" format:"date"`
	Said    string     `json:"said" doc:"Tue 31 March"`
	PlaceID *uuid.UUID `json:"placeId,omitempty" doc:"absent: the whole shop"`
	Place   string     `json:"place"`
	Hours   string     `json:"hours" doc:"closed, or other hours"`
	Usually bool       `json:"usuallyOpen"`
}

// PlaceView is a place as it is now.
type PlaceView struct {
	PlaceForm
	ID    uuid.UUID      `json:"id"`
	Seen  time.Time      `json:"seen" doc:"since when it is so"`
	Knots []climate.Knot `json:"knots" doc:"of its usual air over the local week; none when nobody has said"`
}

// Shop shows the settings.
func (s *Service) Shop(ctx context.Context) (ShopView, error) {
	var view ShopView
	err := s.look(ctx, func(m *moment) error {
		view = m.shopView()
		return nil
	})
	return view, err
}

func (m *moment) shopView() ShopView {
	view := ShopView{Seen: m.setting.ValidFrom, People: []PersonForm{}, Places: []PlaceView{}, Days: m.specialDays(),
		Shop: ShopForm{Name: m.setting.Name, TimeZone: m.setting.TimeZone, Margin: strconv.FormatFloat(m.setting.Margin, 'g', -1, 64), Notation: m.setting.Notation,
			Week: weekTexts(m.setting.Week), Ways: m.setting.Ways}, Topics: recipe.Topics()}
	for _, p := range m.file.Shop.People {
		form := PersonForm{ID: p.ID, Name: p.Name, OwnHours: p.Week != nil, Left: p.Left, Week: weekTexts(m.setting.Week)}
		if p.Week != nil {
			form.Week = weekTexts(*p.Week)
		}
		view.People = append(view.People, form)
	}
	for i := range m.file.Shop.Places {
		view.Places = append(view.Places, m.placeView(&m.file.Shop.Places[i]))
	}
	return view
}

func (m *moment) placeView(p *settings.Place) PlaceView {
	v := p.Versions[p.At(m.now)]
	view := PlaceView{ID: p.ID, Seen: v.ValidFrom, Knots: []climate.Knot{},
		PlaceForm: PlaceForm{Name: v.Name, Kind: string(v.Kind), Capacity: limitText(v.Capacity), Hooks: limitText(v.Hooks), Air: v.Air,
			OwnHours: v.Week != nil, Week: weekTexts(m.setting.Week)}}
	if v.HangsIn != nil {
		view.HangsIn = *v.HangsIn
	}
	if v.Week != nil {
		view.Week = weekTexts(*v.Week)
	}
	if v.Profile != nil {
		view.Knots = v.Profile.Knots
	}
	return view
}

func limitText(n int) string {
	if n == 0 {
		return ""
	}
	return fmt.Sprint(n)
}

func weekTexts(week settings.Week) []string {
	texts := make([]string, len(week))
	for d, hours := range week {
		texts[d] = calendar.HoursText(hours)
	}
	return texts
}

func (m *moment) specialDays() []SpecialDay {
	days := []SpecialDay{}
	today := calendar.DayOf(m.now.In(m.plan.Zone)).String()
	add := func(exceptions settings.Exceptions, week settings.Week, place string, id *uuid.UUID) {
		for date, hours := range exceptions {
			day, err := calendar.ParseDay(date)
			if err == nil && date >= today {
				days = append(days, SpecialDay{date, dayView(day).Said, id, place, calendar.HoursText(hours), len(week[day.Weekday()]) > 0})
			}
		}
	}
	add(m.setting.Exceptions, m.setting.Week, "the shop", nil)
	for i := range m.file.Shop.Places {
		p := &m.file.Shop.Places[i]
		v := p.Versions[p.At(m.now)]
		week := m.setting.Week
		if v.Week != nil {
			week = *v.Week
		}
		add(v.Exceptions, week, v.Name, &p.ID)
	}
	sort.Slice(days, func(a, b int) bool {
		return days[a].Date < days[b].Date || (days[a].Date == days[b].Date && days[a].Place < days[b].Place)
	})
	return days
}
