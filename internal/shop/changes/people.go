package changes

import (
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
)

// Changes of people: who works here, and when.

// Hands adds another pair of hands.
type Hands struct{ Name string }

func (c *Hands) role() access.Role { return access.RoleShop }

func (c *Hands) apply(b *Set, _ int) error {
	return b.putPerson(&PersonForm{Name: c.Name, Week: make([]string, 7)})
}

// Person changes somebody, or adds somebody.
type Person struct{ Person *PersonForm }

func (c *Person) role() access.Role { return access.RoleShop }

func (c *Person) apply(b *Set, _ int) error { return b.putPerson(c.Person) }

// putPerson changes somebody, or adds somebody.
func (b *Set) putPerson(form *PersonForm) error {
	if form == nil {
		return refuse.Field("person", "say who", nil)
	}
	name := strings.TrimSpace(form.Name)
	if name == "" {
		name = "Another pair of hands"
	}
	if len([]rune(name)) > 60 {
		return refuse.Field("person.name", "give a name of 1 to 60 characters", form.Name)
	}
	taken := func(p settings.Person) bool { return strings.EqualFold(p.Name, name) && p.ID != form.ID }
	if slices.ContainsFunc(b.Workshop.Shop.People, taken) {
		return refuse.Field("person.name", "somebody else here has that name already", form.Name)
	}
	p := settings.Person{ID: form.ID, Name: name, Left: form.Left}
	if form.OwnHours {
		week, err := ParseWeek(form.Week, "person.week")
		if err != nil {
			return err
		}
		p.Week = week
	}
	if p.ID == uuid.Nil {
		p.ID = uuid.NewSHA1(uuid.NameSpaceOID, fmt.Appendf(nil, "person %s %d", name, b.Revision))
		b.Workshop.Shop.People = append(b.Workshop.Shop.People, p)
		return b.Say(!form.OwnHours, "one more pair of hands: %s", name)
	}
	at := slices.IndexFunc(b.Workshop.Shop.People, func(known settings.Person) bool { return known.ID == p.ID })
	if at < 0 {
		return refuse.Field("person.id", "must be one of the people of this shop", p.ID)
	}
	b.Workshop.Shop.People[at] = p
	if p.Left {
		return b.Say(false, "%s works here no more", name)
	}
	return b.Say(false, "%s, with %s", name, hoursWord(form.OwnHours))
}

func hoursWord(own bool) string {
	if own {
		return "hours of their own"
	}
	return "the shop's hours"
}

func ParseWeek(texts []string, path string) (*settings.Week, error) {
	var week settings.Week
	var bad refuse.Invalid
	open := false
	for d := range week {
		text := ""
		if d < len(texts) {
			text = texts[d]
		}
		hours, err := calendar.ParseHours(text)
		if err != nil {
			bad.Faults = append(bad.Faults, refuse.Field(fmt.Sprintf("%s[%d]", path, d), err.Error(), text).Faults...)
		}
		if week[d] = hours; hours == nil {
			week[d] = []calendar.Hours{}
		}
		open = open || len(hours) > 0
	}
	if len(bad.Faults) == 0 && !open {
		return nil, refuse.Field(path+"[1]", "say when on at least one day of the week", "")
	}
	if len(bad.Faults) > 0 {
		return nil, &bad
	}
	return &week, nil
}
