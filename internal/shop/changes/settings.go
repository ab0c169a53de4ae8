package changes

import (
	"errors"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
	"time"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
)

// Changes of the shop's settings. Each begins a version that holds from the present on.

// held is the shop's setting as it stands.
func (b *Set) held() *settings.Setting {
	return &b.Workshop.Shop.Settings[b.Workshop.Shop.At(b.Now)]
}

// Current is the shop's setting, begun anew so that it can be changed.
func (b *Set) Current() *settings.Setting {
	list := &b.Workshop.Shop.Settings
	at := b.Workshop.Shop.At(b.Now)
	if !(*list)[at].ValidFrom.Equal(b.Now) {
		next := (*list)[at]
		next.ValidFrom = b.Now.UTC()
		*list = append(*list, next)
		at = len(*list) - 1
	}
	(*list)[at].Exceptions = own((*list)[at].Exceptions)
	return &(*list)[at]
}

// own is a copy of the days that differ, so that changing it changes nothing else.
func own(days settings.Exceptions) settings.Exceptions {
	if days == nil {
		return make(settings.Exceptions)
	}
	return maps.Clone(days)
}

// unseen refuses to overwrite a version that whoever changed it has not seen.
func unseen(seen *time.Time, now time.Time, what string) error {
	if seen != nil && now.After(*seen) {
		return &refuse.Taken{Message: fmt.Sprintf("%s has been changed by somebody else in the meantime; look at it again", what)}
	}
	return nil
}

// Shop changes the shop's name, zone, caution and week.
type Shop struct {
	Shop *ShopForm
	Seen *time.Time
}

func (c *Shop) role() access.Role { return access.RoleShop }

func (c *Shop) apply(b *Set, _ int) error {
	form := c.Shop
	if form == nil {
		return refuse.Field("shop", "say what the shop is like", nil)
	}
	was := *b.held()
	if err := unseen(c.Seen, was.ValidFrom, "the shop"); err != nil {
		return err
	}
	var bad refuse.Invalid
	fault := func(field, message string, value any) {
		bad.Faults = append(bad.Faults, refuse.Field("shop."+field, message, value).Faults...)
	}
	name := strings.TrimSpace(form.Name)
	if name == "" || len([]rune(name)) > 80 {
		fault("name", "give it a name of 1 to 80 characters", form.Name)
	}
	if _, err := time.LoadLocation(form.TimeZone); err != nil || form.TimeZone == "" {
		fault("timeZone", "write an IANA time zone, such as Europe/London", form.TimeZone)
	}
	margin, err := strconv.ParseFloat(strings.Replace(strings.TrimSpace(form.Margin), ",", ".", 1), 64)
	if err != nil || !(margin >= 1 && margin <= 3) {
		fault("margin", "a number from 1 (as the sheet says) to 3", form.Margin)
	}
	week, err := ParseWeek(form.Week, "shop.week")
	var wrong *refuse.Invalid
	if errors.As(err, &wrong) {
		bad.Faults = append(bad.Faults, wrong.Faults...)
	}
	for _, topic := range slices.Sorted(maps.Keys(form.Ways)) {
		option := form.Ways[topic]
		if !slices.ContainsFunc(recipe.SchoolsOf(topic), func(s recipe.School) bool { return s.Option == option }) {
			fault("ways."+topic, "choose one of the schools of this question, or leave it to the rules", option)
		}
	}
	if len(bad.Faults) > 0 {
		return &bad
	}
	s := b.Current()
	s.Name, s.TimeZone, s.Margin, s.Week, s.Notation, s.Ways = name, form.TimeZone, margin, *week, form.Notation, form.Ways
	return b.Say(false, "%s: %s", name, shopWords(was, *s))
}

// shopWords says what differs between two settings.
func shopWords(was, now settings.Setting) string {
	var parts []string
	if now.Margin != was.Margin {
		parts = append(parts, fmt.Sprintf("caution × %g instead of × %g", now.Margin, was.Margin))
	}
	for d := range now.Week {
		if !slices.Equal(now.Week[d], was.Week[d]) {
			parts = append(parts, fmt.Sprintf("%ss %s", time.Weekday(d), calendar.HoursText(now.Week[d])))
		}
	}
	if now.TimeZone != was.TimeZone {
		parts = append(parts, "time zone "+now.TimeZone)
	}
	if !maps.Equal(now.Ways, was.Ways) {
		parts = append(parts, "other schools where nobody chooses")
	}
	if now.Notation != was.Notation {
		parts = append(parts, "figures written "+notationWords(now.Notation))
	}
	if len(parts) == 0 {
		return "as it was"
	}
	return strings.Join(parts, ", ")
}

// notationWords says how figures are written, by an example of each kind.
func notationWords(n unit.Notation) string {
	week := "weeks from Monday"
	if n.SundayFirst {
		week = "weeks from Sunday"
	}
	example := time.Date(2026, time.May, 14, 19, 40, 0, 0, time.UTC)
	told := n.Localize([]byte(unit.Celsius(20).String() + ", " + unit.DateText(example, "2 Jan") + ", " + unit.DateText(example, "15:04")))
	return fmt.Sprintf("like %s; %s", told, week)
}
