package changes

import (
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// Changes of hours: single days, painted or typed, and weekdays.

// dayAhead reads a day from today on.
func (b *Set) dayAhead(text string) (calendar.Day, error) {
	day, err := calendar.ParseDay(text)
	if err != nil {
		return day, refuse.Field("date", err.Error(), text)
	}
	if day.Compare(calendar.DayOf(b.Now.In(b.Plan.Zone))) < 0 || !refuse.PlausibleDay(day, b.Now) {
		return day, refuse.Field("date", "choose a day from today on, within ten years", text)
	}
	return day, nil
}

// Day opens or closes the shop, or one place of it, on a day.
type Day struct {
	PlaceID uuid.UUID
	Date    string
	Open    bool
}

func (c *Day) role() access.Role { return access.RoleShop }

func (c *Day) apply(b *Set, _ int) error {
	day, err := b.dayAhead(c.Date)
	if err != nil {
		return err
	}
	setting := b.held()
	shopHours, special := setting.Exceptions[c.Date]
	if !special {
		shopHours = setting.Week[day.Weekday()]
	}
	name, usual := "the shop", setting.Week[day.Weekday()]
	var exceptions settings.Exceptions
	if c.PlaceID == uuid.Nil {
		exceptions = b.Current().Exceptions
	} else {
		p, err := b.placeOf(c.PlaceID)
		if err != nil {
			return err
		}
		v := b.version(p)
		name, exceptions, usual = v.Name, v.Exceptions, shopHours
		if v.Week != nil {
			usual = v.Week[day.Weekday()]
		}
	}
	delete(exceptions, c.Date)
	switch {
	case c.Open == (len(usual) > 0): // as usual
	case !c.Open:
		exceptions[c.Date] = []calendar.Hours{}
	case c.PlaceID != uuid.Nil && len(shopHours) > 0:
		exceptions[c.Date] = slices.Clone(shopHours)
	default:
		exceptions[c.Date] = longest(setting.Week)
	}
	if c.Open {
		return b.Say(true, "%s open on %s", name, snapshot.DayOf(day).Said)
	}
	return b.Say(false, "%s closed on %s", name, snapshot.DayOf(day).Said)
}

// longest is the hours of the day of a week that has most of them.
func longest(week settings.Week) []calendar.Hours {
	best, most := []calendar.Hours{}, 0
	for _, hours := range week {
		sum := 0
		for _, h := range hours {
			sum += h.Close - h.Open
		}
		if sum > most {
			best, most = hours, sum
		}
	}
	return slices.Clone(best)
}

// Week changes the hours of a weekday, of the shop or of a place.
type Week struct {
	PlaceID uuid.UUID
	Weekday int
	Hours   string
}

func (c *Week) role() access.Role { return access.RoleShop }

func (c *Week) apply(b *Set, _ int) error {
	hours, err := calendar.ParseHours(c.Hours)
	if err != nil {
		return refuse.Field("hours", err.Error(), c.Hours)
	}
	name := "the shop"
	var was []calendar.Hours
	if c.PlaceID == uuid.Nil {
		s := b.Current()
		was, s.Week[c.Weekday] = s.Week[c.Weekday], hours
	} else {
		p, err := b.placeOf(c.PlaceID)
		if err != nil {
			return err
		}
		v := b.version(p)
		week := b.held().Week
		if v.Week != nil {
			week = *v.Week
		}
		was, week[c.Weekday] = week[c.Weekday], hours
		v.Week, name = &week, v.Name
	}
	return b.Say(covers(hours, was), "%s on %ss: %s", name, time.Weekday(c.Weekday), calendar.HoursText(hours))
}

// covers reports whether something is open whenever it was.
func covers(hours, was []calendar.Hours) bool {
	for _, old := range was {
		if !slices.ContainsFunc(hours, func(h calendar.Hours) bool { return h.Open <= old.Open && h.Close >= old.Close }) {
			return false
		}
	}
	return true
}
