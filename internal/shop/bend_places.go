package shop

import (
	"errors"
	"slices"
	"strconv"
	"strings"

	"fmt"

	"github.com/google/uuid"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
)

// Changes of places and of the air in them. Each begins a version that holds from
// the present on.

// version is a place as it is, begun anew so that it can be changed.
func (b *changeSet) version(p *settings.Place) *settings.PlaceVersion {
	at := p.At(b.now)
	if !p.Versions[at].ValidFrom.Equal(b.now) {
		next := p.Versions[at]
		next.ValidFrom = b.now.UTC()
		p.Versions = append(p.Versions, next)
		at = len(p.Versions) - 1
	}
	p.Versions[at].Exceptions = own(p.Versions[at].Exceptions)
	return &p.Versions[at]
}

func (b *changeSet) placeOf(id uuid.UUID) (*settings.Place, error) {
	for i := range b.file.Shop.Places {
		if p := &b.file.Shop.Places[i]; p.ID == id {
			return p, nil
		}
	}
	return nil, invalid("placeId", "must be a place of this shop", id)
}

// warmer warms one place, or every place whose usual air is known. No water is taken
// out of the air, so its relative humidity falls.
func (b *changeSet) warmer(c *Change) error {
	degrees, err := c.degrees()
	if err != nil {
		return err
	}
	if degrees == 0 {
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
			knots[k] = climate.Knot{Hour: knot.Hour, Air: knot.Warmed(unit.Celsius(degrees))}
			if err := knots[k].Check(); err != nil {
				return invalid("degreesC", err.Error(), float64(degrees))
			}
		}
		v.Profile = &settings.Profile{Knots: knots, Months: v.Profile.Months}
		if warmed++; c.PlaceID != uuid.Nil {
			name = v.Name
		}
	}
	if warmed == 0 {
		return invalid("placeId", "nobody has said what the air is usually like there", c.PlaceID)
	}
	if degrees < 0 {
		return b.say(false, "%s %s colder", name, (-degrees).Text())
	}
	return b.say(false, "%s %s warmer", name, degrees.Text())
}

// mostDegrees is how much warmer or colder a place can be supposed to be.
const mostDegrees unit.Degrees = 20

// degrees is how much warmer, as it was typed or as a number.
func (c *Change) degrees() (unit.Degrees, error) {
	if c.Warmer == "" {
		return unit.Degrees(c.Degrees), nil
	}
	degrees, err := unit.ParseDegrees(c.Warmer)
	switch {
	case err != nil:
		return 0, invalid("warmer", err.Error(), c.Warmer)
	case degrees < -mostDegrees || degrees > mostDegrees:
		return 0, invalid("warmer", fmt.Sprintf("at most %s, warmer or colder", mostDegrees.Text()), c.Warmer)
	}
	return degrees, nil
}

// profile sets what the air of a place is usually like over a week.
func (b *changeSet) profile(c *Change) error {
	p, err := b.placeOf(c.PlaceID)
	if err != nil {
		return err
	}
	was := p.Versions[p.At(b.now)]
	if err := unseen(c.Seen, was.ValidFrom, "the air of "+was.Name); err != nil {
		return err
	}
	var months [12]climate.Shift
	profile := &settings.Profile{Knots: c.Knots}
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
func (b *changeSet) place(c *Change) error {
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
		p := settings.Place{ID: uuid.NewSHA1(uuid.NameSpaceOID, fmt.Appendf(nil, "place %s %d", v.Name, b.revision)),
			Versions: []settings.PlaceVersion{*v}}
		b.file.Shop.Places = append(b.file.Shop.Places, p)
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

func (b *changeSet) placeVersion(form *PlaceForm, id uuid.UUID) (*settings.PlaceVersion, error) {
	var bad Invalid
	fault := func(field, message string, value any) {
		bad.Faults = append(bad.Faults, invalid("place."+field, message, value).Faults...)
	}
	v := &settings.PlaceVersion{Name: strings.TrimSpace(form.Name), Kind: settings.PlaceKind(form.Kind), Air: strings.TrimSpace(form.Air)}
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

// placeKinds lists what a place may be for.
var placeKinds = func() (list []string) {
	for _, kind := range settings.PlaceKinds {
		list = append(list, string(kind))
	}
	return list
}()
