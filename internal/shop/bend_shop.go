package shop

import (
	"errors"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/formats"
	"umberfrost/internal/store"
)

// Changes of the shop: hours, days, people, places and their air. Each begins a
// version that holds from the present on.

// held is the shop's setting as it stands.
func (b *bent) held() *formats.Setting {
	return &b.file.Shop.Settings[b.file.SettingAt(b.now)]
}

// current is the shop's setting, begun anew so that it can be changed.
func (b *bent) current() *formats.Setting {
	list := &b.file.Shop.Settings
	at := b.file.SettingAt(b.now)
	if !(*list)[at].ValidFrom.Equal(b.now) {
		next := (*list)[at]
		next.ValidFrom, next.Exceptions = b.now.UTC(), maps.Clone(next.Exceptions)
		*list = append(*list, next)
		at = len(*list) - 1
	}
	b.setting = true
	if (*list)[at].Exceptions == nil {
		(*list)[at].Exceptions = make(map[string][]schedule.Hours)
	}
	return &(*list)[at]
}

// version is a place as it is, begun anew so that it can be changed.
func (b *bent) version(p *formats.Place) *formats.PlaceVersion {
	at := p.At(b.now)
	if !p.Versions[at].ValidFrom.Equal(b.now) {
		next := p.Versions[at]
		next.ValidFrom, next.Exceptions = b.now.UTC(), maps.Clone(next.Exceptions)
		p.Versions = append(p.Versions, next)
		at = len(p.Versions) - 1
	}
	b.places[p.ID] = true
	if p.Versions[at].Exceptions == nil {
		p.Versions[at].Exceptions = make(map[string][]schedule.Hours)
	}
	return &p.Versions[at]
}

func (b *bent) placeOf(id uuid.UUID) (*formats.Place, error) {
	for i := range b.file.Shop.Places {
		if p := &b.file.Shop.Places[i]; p.ID == id {
			return p, nil
		}
	}
	return nil, invalid("placeId", "must be a place of this shop", id)
}

// unseen refuses to overwrite a version that whoever changed it has not seen.
func unseen(seen *time.Time, now time.Time, what string) error {
	if seen != nil && now.After(*seen) {
		return &Taken{fmt.Sprintf("%s has been changed by somebody else in the meantime; look at it again", what)}
	}
	return nil
}

// dayAhead reads a day from today on.
func (b *bent) dayAhead(text string) (schedule.Day, error) {
	day, err := schedule.ParseDay(text)
	if err != nil {
		return day, invalid("date", err.Error(), text)
	}
	if ahead := daysBetween(schedule.DayOf(b.now.In(b.plan.Zone)), day); ahead < 0 || ahead > mostAhead {
		return day, invalid("date", "choose a day from today on, within two years", text)
	}
	return day, nil
}

// day opens or closes the shop, or one place of it, on a day.
func (b *bent) day(c *Change) error {
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
	var exceptions map[string][]schedule.Hours
	if c.PlaceID == uuid.Nil {
		exceptions = b.current().Exceptions
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
		exceptions[c.Date] = []schedule.Hours{}
	case c.PlaceID != uuid.Nil && len(shopHours) > 0:
		exceptions[c.Date] = slices.Clone(shopHours)
	default:
		exceptions[c.Date] = longest(setting.Week)
	}
	if c.Open {
		return b.say(true, "%s open on %s", name, dayView(day).Said)
	}
	return b.say(false, "%s closed on %s", name, dayView(day).Said)
}

// longest is the hours of the day of a week that has most of them.
func longest(week formats.Week) []schedule.Hours {
	best, most := []schedule.Hours{}, 0
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

// week changes the hours of a weekday, of the shop or of a place.
func (b *bent) week(c *Change) error {
	hours, err := schedule.ParseHours(c.Hours)
	if err != nil {
		return invalid("hours", err.Error(), c.Hours)
	}
	name := "the shop"
	var was []schedule.Hours
	if c.PlaceID == uuid.Nil {
		s := b.current()
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
	return b.say(covers(hours, was), "%s on %ss: %s", name, time.Weekday(c.Weekday), schedule.HoursText(hours))
}

// covers reports whether something is open whenever it was.
func covers(hours, was []schedule.Hours) bool {
	for _, old := range was {
		if !slices.ContainsFunc(hours, func(h schedule.Hours) bool { return h.Open <= old.Open && h.Close >= old.Close }) {
			return false
		}
	}
	return true
}

// person changes somebody, or adds somebody.
func (b *bent) person(form *PersonForm) error {
	if form == nil {
		return invalid("person", "say who", nil)
	}
	name := strings.TrimSpace(form.Name)
	if name == "" {
		name = "Another pair of hands"
	}
	if len([]rune(name)) > 60 {
		return invalid("person.name", "give a name of 1 to 60 characters", form.Name)
	}
	taken := func(p formats.Person) bool { return strings.EqualFold(p.Name, name) && p.ID != form.ID }
	if slices.ContainsFunc(b.file.Shop.People, taken) {
		return invalid("person.name", "somebody else here has that name already", form.Name)
	}
	p := formats.Person{ID: form.ID, Name: name, Left: form.Left}
	if form.OwnHours {
		week, err := parseWeek(form.Week, "person.week")
		if err != nil {
			return err
		}
		p.Week = week
	}
	if p.ID == uuid.Nil {
		p.ID = uuid.NewSHA1(uuid.NameSpaceOID, fmt.Appendf(nil, "person %s %d", name, b.revision))
		b.people[p.ID] = true
		b.file.Shop.People = append(b.file.Shop.People, p)
		return b.say(!form.OwnHours, "one more pair of hands: %s", name)
	}
	at := slices.IndexFunc(b.file.Shop.People, func(known formats.Person) bool { return known.ID == p.ID })
	if at < 0 {
		return invalid("person.id", "must be one of the people of this shop", p.ID)
	}
	b.file.Shop.People[at], b.people[p.ID] = p, true
	if p.Left {
		return b.say(false, "%s works here no more", name)
	}
	return b.say(false, "%s, with %s", name, hoursWord(form.OwnHours))
}

func hoursWord(own bool) string {
	if own {
		return "hours of their own"
	}
	return "the shop's hours"
}

func parseWeek(texts []string, path string) (*formats.Week, error) {
	var week formats.Week
	var bad Invalid
	open := false
	for d := range week {
		text := ""
		if d < len(texts) {
			text = texts[d]
		}
		hours, err := schedule.ParseHours(text)
		if err != nil {
			bad.Faults = append(bad.Faults, invalid(fmt.Sprintf("%s[%d]", path, d), err.Error(), text).Faults...)
		}
		if week[d] = hours; hours == nil {
			week[d] = []schedule.Hours{}
		}
		open = open || len(hours) > 0
	}
	if len(bad.Faults) == 0 && !open {
		return nil, invalid(path+"[1]", "say when on at least one day of the week", "")
	}
	if len(bad.Faults) > 0 {
		return nil, &bad
	}
	return &week, nil
}

// warmer warms one place, or every place whose usual air is known. No water is taken
// out of the air, so its relative humidity falls.
func (b *bent) warmer(c *Change) error {
	if c.Degrees == 0 {
		return invalid("degreesC", "say how many degrees warmer, or colder", c.Degrees)
	}
	name, warmed := "the room", 0
	for i := range b.file.Shop.Places {
		p := &b.file.Shop.Places[i]
		if (c.PlaceID != uuid.Nil && p.ID != c.PlaceID) || p.Versions[p.At(b.now)].Profile == nil {
			continue
		}
		v := b.version(p)
		knots := make([]climate.Knot, len(v.Profile.Knots))
		for k, knot := range v.Profile.Knots {
			knots[k] = climate.Knot{Hour: knot.Hour, Air: knot.Warmed(unit.Celsius(c.Degrees))}
			if err := knots[k].Check(); err != nil {
				return invalid("degreesC", err.Error(), c.Degrees)
			}
		}
		v.Profile = &formats.Profile{Knots: knots, Months: v.Profile.Months}
		if warmed++; c.PlaceID != uuid.Nil {
			name = v.Name
		}
	}
	if warmed == 0 {
		return invalid("placeId", "nobody has said what the air is usually like there", c.PlaceID)
	}
	if c.Degrees < 0 {
		return b.say(false, "%s %g °C colder", name, -c.Degrees)
	}
	return b.say(false, "%s %g °C warmer", name, c.Degrees)
}

// profile sets what the air of a place is usually like over a week.
func (b *bent) profile(c *Change) error {
	p, err := b.placeOf(c.PlaceID)
	if err != nil {
		return err
	}
	was := p.Versions[p.At(b.now)]
	if err := unseen(c.Seen, was.ValidFrom, "the air of "+was.Name); err != nil {
		return err
	}
	var months [12]climate.Shift
	profile := &formats.Profile{Knots: c.Knots}
	if was.Profile != nil && was.Profile.Months != nil {
		profile.Months, months = was.Profile.Months, *was.Profile.Months
	}
	if _, err := climate.ProfileOf(c.Knots, months); err != nil {
		return invalid("knots", err.Error(), nil)
	}
	b.version(p).Profile = profile
	return b.say(false, "other usual air in %s", was.Name)
}

// place changes a place, or adds one.
func (b *bent) place(c *Change) error {
	form := c.Place
	if form == nil {
		return invalid("place", "say what the place is like", nil)
	}
	v, err := b.placeVersion(form, c.PlaceID)
	if err != nil {
		return err
	}
	if c.PlaceID == uuid.Nil {
		v.ValidFrom = b.now.UTC()
		p := formats.Place{ID: uuid.NewSHA1(uuid.NameSpaceOID, fmt.Appendf(nil, "place %s %d", v.Name, b.revision)), Versions: []formats.PlaceVersion{*v}}
		b.file.Shop.Places, b.places[p.ID] = append(b.file.Shop.Places, p), true
		return b.say(false, "a new place: %s", v.Name)
	}
	p, err := b.placeOf(c.PlaceID)
	if err != nil {
		return err
	}
	was := p.Versions[p.At(b.now)]
	if err := unseen(c.Seen, was.ValidFrom, was.Name); err != nil {
		return err
	}
	next := b.version(p)
	v.ValidFrom, v.Exceptions, v.Profile = next.ValidFrom, next.Exceptions, next.Profile
	*next = *v
	return b.say(false, "%s, changed", v.Name)
}

func (b *bent) placeVersion(form *PlaceForm, id uuid.UUID) (*formats.PlaceVersion, error) {
	var bad Invalid
	fault := func(field, message string, value any) {
		bad.Faults = append(bad.Faults, invalid("place."+field, message, value).Faults...)
	}
	v := &formats.PlaceVersion{Name: strings.TrimSpace(form.Name), Kind: schedule.PlaceKind(form.Kind), Air: strings.TrimSpace(form.Air)}
	if v.Name == "" || len([]rune(v.Name)) > 60 {
		fault("name", "give it a name of 1 to 60 characters", form.Name)
	}
	if !slices.Contains(placeKinds, form.Kind) {
		fault("kind", "choose one of "+strings.Join(placeKinds, ", "), form.Kind)
	}
	for _, limit := range []struct {
		field, text string
		into        *int
	}{{"capacity", form.Capacity, &v.Capacity}, {"hooks", form.Hooks, &v.Hooks}} {
		if limit.text == "" {
			continue
		}
		n, err := strconv.Atoi(strings.TrimSpace(limit.text))
		if err != nil || n < 1 || n > 1000 {
			fault(limit.field, "a whole number from 1 to 1000, or nothing where there is no limit", limit.text)
		}
		*limit.into = n
	}
	if form.HangsIn != uuid.Nil && form.HangsIn != id {
		if _, err := b.placeOf(form.HangsIn); err != nil {
			fault("hangsIn", "must be a place of this shop", form.HangsIn)
		}
		hangs := form.HangsIn
		v.HangsIn = &hangs
	}
	if form.OwnHours {
		week, err := parseWeek(form.Week, "place.week")
		var wrong *Invalid
		if errors.As(err, &wrong) {
			bad.Faults = append(bad.Faults, wrong.Faults...)
		}
		v.Week = week
	}
	if len(bad.Faults) > 0 {
		return nil, &bad
	}
	return v, nil
}

var placeKinds = []string{"bench", "booth", "wheel", "drying"}

// shop changes the shop's name, zone, caution and week.
func (b *bent) shop(c *Change) error {
	form := c.Shop
	if form == nil {
		return invalid("shop", "say what the shop is like", nil)
	}
	was := *b.held()
	if err := unseen(c.Seen, was.ValidFrom, "the shop"); err != nil {
		return err
	}
	var bad Invalid
	fault := func(field, message string, value any) {
		bad.Faults = append(bad.Faults, invalid("shop."+field, message, value).Faults...)
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
	week, err := parseWeek(form.Week, "shop.week")
	var wrong *Invalid
	if errors.As(err, &wrong) {
		bad.Faults = append(bad.Faults, wrong.Faults...)
	}
	if len(bad.Faults) > 0 {
		return &bad
	}
	s := b.current()
	s.Name, s.TimeZone, s.Margin, s.Week = name, form.TimeZone, margin, *week
	return b.say(false, "%s: %s", name, shopWords(was, *s))
}

// shopWords says what differs between two settings.
func shopWords(was, now formats.Setting) string {
	var parts []string
	if now.Margin != was.Margin {
		parts = append(parts, fmt.Sprintf("caution × %g instead of × %g", now.Margin, was.Margin))
	}
	for d := range now.Week {
		if !slices.Equal(now.Week[d], was.Week[d]) {
			parts = append(parts, fmt.Sprintf("%ss %s", time.Weekday(d), schedule.HoursText(now.Week[d])))
		}
	}
	if now.TimeZone != was.TimeZone {
		parts = append(parts, "time zone "+now.TimeZone)
	}
	if len(parts) == 0 {
		return "as it was"
	}
	return strings.Join(parts, ", ")
}

func storeSetting(s formats.Setting) store.ShopSetting {
	row := store.ShopSetting{ValidFrom: s.ValidFrom, Name: s.Name, TimeZone: s.TimeZone, Margin: s.Margin}
	row.Week.V, row.Exceptions.V = s.Week, s.Exceptions
	return row
}
