package views

import (
	"fmt"
	"sort"
	"strconv"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
)

// ShopView is what a shop has decided about itself, as it is entered.
type ShopView struct {
	Shop   changes.ShopForm     `json:"shop"`
	Seen   time.Time            `json:"seen" doc:"since when the shop's settings hold"`
	Days   []SpecialDay         `json:"days" doc:"days from today on that differ from their week, of the shop and of places"`
	People []changes.PersonForm `json:"people"`
	Places []PlaceView          `json:"places"`
	Topics []recipe.Topic       `json:"topics" doc:"what schools differ in, with each of them"`
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
	changes.PlaceForm
	ID    uuid.UUID      `json:"id"`
	Seen  time.Time      `json:"seen" doc:"since when it is so"`
	Knots []climate.Knot `json:"knots" doc:"of its usual air over the local week; none when nobody has said"`
}

func ShopOf(m *snapshot.Snapshot) ShopView {
	view := ShopView{Seen: m.Setting.ValidFrom, People: []changes.PersonForm{}, Places: []PlaceView{}, Days: specialDays(m),
		Shop: changes.ShopForm{Name: m.Setting.Name, TimeZone: m.Setting.TimeZone,
			Margin: strconv.FormatFloat(m.Setting.Margin, 'g', -1, 64), Notation: m.Setting.Notation,
			Week: weekTexts(m.Setting.Week), Ways: m.Setting.Ways}, Topics: recipe.Topics()}
	for _, p := range m.Workshop.Shop.People {
		form := changes.PersonForm{ID: p.ID, Name: p.Name, OwnHours: p.Week != nil, Left: p.Left, Week: weekTexts(m.Setting.Week)}
		if p.Week != nil {
			form.Week = weekTexts(*p.Week)
		}
		view.People = append(view.People, form)
	}
	for i := range m.Workshop.Shop.Places {
		view.Places = append(view.Places, placeView(m, &m.Workshop.Shop.Places[i]))
	}
	return view
}

func placeView(m *snapshot.Snapshot, p *settings.Place) PlaceView {
	v := p.Versions[p.At(m.Now)]
	view := PlaceView{ID: p.ID, Seen: v.ValidFrom, Knots: []climate.Knot{},
		PlaceForm: changes.PlaceForm{Name: v.Name, Kind: string(v.Kind), Capacity: limitText(v.Capacity), Hooks: limitText(v.Hooks),
			Air:      v.Air,
			OwnHours: v.Week != nil, Week: weekTexts(m.Setting.Week)}}
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

func specialDays(m *snapshot.Snapshot) []SpecialDay {
	days := []SpecialDay{}
	today := calendar.DayOf(m.Now.In(m.Plan.Zone)).String()
	add := func(exceptions settings.Exceptions, week settings.Week, place string, id *uuid.UUID) {
		for date, hours := range exceptions {
			day, err := calendar.ParseDay(date)
			if err == nil && date >= today {
				days = append(days, SpecialDay{date, snapshot.DayOf(day).Said, id, place, calendar.HoursText(hours),
					len(week[day.Weekday()]) > 0})
			}
		}
	}
	add(m.Setting.Exceptions, m.Setting.Week, "the shop", nil)
	for i := range m.Workshop.Shop.Places {
		p := &m.Workshop.Shop.Places[i]
		v := p.Versions[p.At(m.Now)]
		week := m.Setting.Week
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
