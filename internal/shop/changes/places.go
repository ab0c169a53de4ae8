package changes

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
)

// Changes of places and of the air in them. Each begins a version that holds from
// the present on.

// version is a place as it is, begun anew so that it can be changed.
func (b *Set) version(p *settings.Place) *settings.PlaceVersion {
	at := p.At(b.Now)
	if !p.Versions[at].ValidFrom.Equal(b.Now) {
		next := p.Versions[at]
		next.ValidFrom = b.Now.UTC()
		p.Versions = append(p.Versions, next)
		at = len(p.Versions) - 1
	}
	p.Versions[at].Exceptions = own(p.Versions[at].Exceptions)
	return &p.Versions[at]
}

func (b *Set) placeOf(id uuid.UUID) (*settings.Place, error) {
	for i := range b.Workshop.Shop.Places {
		if p := &b.Workshop.Shop.Places[i]; p.ID == id {
			return p, nil
		}
	}
	return nil, refuse.Field("placeId", "must be a place of this shop", id)
}

// Warmer warms one place, or every place whose usual air is known. No water is taken
// out of the air, so its relative humidity falls.
type Warmer struct {
	PlaceID uuid.UUID
	Degrees float64
	Warmer  string
}

func (c *Warmer) role() access.Role { return access.RoleShop }

func (c *Warmer) apply(b *Set, _ int) error {
	degrees, err := c.degrees()
	if err != nil {
		return err
	}
	if degrees == 0 {
		return refuse.Field("degreesC", "say how many degrees warmer, or colder", c.Degrees)
	}
	name, warmed := "the room", 0
	for i := range b.Workshop.Shop.Places {
		p := &b.Workshop.Shop.Places[i]
		if (c.PlaceID != uuid.Nil && p.ID != c.PlaceID) || p.Versions[p.At(b.Now)].Profile == nil {
			continue
		}
		v := b.version(p)
		knots := make([]climate.Knot, len(v.Profile.Knots))
		for k, knot := range v.Profile.Knots {
			knots[k] = climate.Knot{Hour: knot.Hour, Air: knot.Warmed(unit.Celsius(degrees))}
			if err := knots[k].Check(); err != nil {
				return refuse.Field("degreesC", err.Error(), float64(degrees))
			}
		}
		v.Profile = &settings.Profile{Knots: knots, Months: v.Profile.Months}
		if warmed++; c.PlaceID != uuid.Nil {
			name = v.Name
		}
	}
	if warmed == 0 {
		return refuse.Field("placeId", "nobody has said what the air is usually like there", c.PlaceID)
	}
	if degrees < 0 {
		return b.Say(false, "%s %s colder", name, (-degrees).String())
	}
	return b.Say(false, "%s %s warmer", name, degrees.String())
}

// mostDegrees is how much warmer or colder a place can be supposed to be.
const mostDegrees unit.Degrees = 20

// degrees is how much warmer, as it was typed or as a number.
func (c *Warmer) degrees() (unit.Degrees, error) {
	if c.Warmer == "" {
		return unit.Degrees(c.Degrees), nil
	}
	degrees, err := unit.ParseDegrees(c.Warmer)
	switch {
	case err != nil:
		return 0, refuse.Field("warmer", err.Error(), c.Warmer)
	case degrees < -mostDegrees || degrees > mostDegrees:
		return 0, refuse.Field("warmer", fmt.Sprintf("at most %s, warmer or colder", mostDegrees.String()), c.Warmer)
	}
	return degrees, nil
}

// Profile sets what the air of a place is usually like over a week.
type Profile struct {
	PlaceID uuid.UUID
	Seen    *time.Time
	Knots   []climate.Knot
}

func (c *Profile) role() access.Role { return access.RoleShop }

func (c *Profile) apply(b *Set, _ int) error {
	p, err := b.placeOf(c.PlaceID)
	if err != nil {
		return err
	}
	was := p.Versions[p.At(b.Now)]
	if err := unseen(c.Seen, was.ValidFrom, "the air of "+was.Name); err != nil {
		return err
	}
	var months [12]climate.Shift
	profile := &settings.Profile{Knots: c.Knots}
	if was.Profile != nil && was.Profile.Months != nil {
		profile.Months, months = was.Profile.Months, *was.Profile.Months
	}
	if _, err := climate.ProfileOf(c.Knots, months); err != nil {
		return refuse.Field("knots", err.Error(), nil)
	}
	b.version(p).Profile = profile
	return b.Say(false, "other usual air in %s", was.Name)
}

// Place changes a place, or adds one.
type Place struct {
	PlaceID uuid.UUID
	Place   *PlaceForm
	Seen    *time.Time
}

func (c *Place) role() access.Role { return access.RoleShop }

func (c *Place) apply(b *Set, _ int) error {
	form := c.Place
	if form == nil {
		return refuse.Field("place", "say what the place is like", nil)
	}
	v, err := b.placeVersion(form, c.PlaceID)
	if err != nil {
		return err
	}
	if c.PlaceID == uuid.Nil {
		v.ValidFrom = b.Now.UTC()
		p := settings.Place{ID: uuid.NewSHA1(uuid.NameSpaceOID, fmt.Appendf(nil, "place %s %d", v.Name, b.Revision)),
			Versions: []settings.PlaceVersion{*v}}
		b.Workshop.Shop.Places = append(b.Workshop.Shop.Places, p)
		return b.Say(false, "a new place: %s", v.Name)
	}
	p, err := b.placeOf(c.PlaceID)
	if err != nil {
		return err
	}
	was := p.Versions[p.At(b.Now)]
	if err := unseen(c.Seen, was.ValidFrom, was.Name); err != nil {
		return err
	}
	next := b.version(p)
	v.ValidFrom, v.Exceptions, v.Profile = next.ValidFrom, next.Exceptions, next.Profile
	*next = *v
	return b.Say(false, "%s, changed", v.Name)
}

func (b *Set) placeVersion(form *PlaceForm, id uuid.UUID) (*settings.PlaceVersion, error) {
	var bad refuse.Invalid
	fault := func(field, message string, value any) {
		bad.Faults = append(bad.Faults, refuse.Field("place."+field, message, value).Faults...)
	}
	v := &settings.PlaceVersion{Name: strings.TrimSpace(form.Name), Kind: settings.PlaceKind(form.Kind), Air: strings.TrimSpace(form.Air)}
	if v.Name == "" || len([]rune(v.Name)) > 60 {
		fault("name", "give it a name of 1 to 60 characters", form.Name)
	}
	if !slices.Contains(PlaceKinds, form.Kind) {
		fault("kind", "choose one of "+strings.Join(PlaceKinds, ", "), form.Kind)
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
		week, err := ParseWeek(form.Week, "place.week")
		var wrong *refuse.Invalid
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

// PlaceKinds lists what a place may be for.
var PlaceKinds = func() (list []string) {
	for _, kind := range settings.PlaceKinds {
		list = append(list, string(kind))
	}
	return list
}()
