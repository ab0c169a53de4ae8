package changes

import (
	"fmt"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/repair"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
)

// Change is one thing that could be otherwise. It is asked about as a what-if
// and kept in the same words; its kind says which fields count.
type Change struct {
	Kind         string         `json:"kind" enum:"pin,unpin,day,week,hands,person,warmer,profile,place,shop,coats,material,start,redo,mend,wish,edit,repair,job,archive,back" doc:"pin: an event at a time; unpin: let it go; day: open or close one day; week: other hours on a weekday; hands: another pair; warmer: the room by so many degrees; coats: so many more; material: another one for a step; start: an instrument not before a day; redo: a coat that is done, again; mend: what ends an objection; wish: an instrument composed again, what is logged or changed by hand stays; edit: its schedule changed by hand; repair: damage put right, by the way that is chosen; job: an instrument's name, serial, promise or show day; archive: an instrument put aside; back: brought back; person, profile, place, shop: settings as a whole"`
	StepID       uuid.UUID      `json:"stepId,omitzero"`
	Coat         int            `json:"coat,omitempty" minimum:"0" maximum:"50" doc:"counted from 1"`
	At           *time.Time     `json:"at,omitempty" doc:"of pin"`
	InstrumentID uuid.UUID      `json:"instrumentId,omitzero" doc:"of start, mend, wish, edit, repair, job, archive and back"`
	Job          *JobForm       `json:"job,omitempty" doc:"of job"`
	Edit         *edit.Edit     `json:"edit,omitempty" doc:"of edit: one operation on the schedule"`
	Repair       *repair.Asked  `json:"repair,omitempty" doc:"of repair: the damage, and the way"`
	Rule         string         `json:"rule,omitempty" doc:"of mend: the rule that objects, at its stepId"`
	Wish         *recipe.Wish   `json:"wish,omitempty" doc:"of wish"`
	Version      int            `json:"version,omitempty" minimum:"0" doc:"of wish and job: the instrument's version that was seen; a newer one is not overwritten"`
	PlaceID      uuid.UUID      `json:"placeId,omitzero" doc:"of day, week, warmer, profile and place; without it the shop, every place, or a new one"`
	Date         string         `json:"date,omitempty" doc:"of day and start: 2026-03-12"`
	Open         bool           `json:"open,omitempty" doc:"of day"`
	Weekday      int            `json:"weekday,omitempty" minimum:"0" maximum:"6" doc:"of week: Sunday is 0"`
	Hours        string         `json:"hours,omitempty" doc:"of week: 09:00–12:30, 13:30–17:30, or closed"`
	Degrees      float64        `json:"degreesC,omitempty" minimum:"-20" maximum:"20" doc:"of warmer"`
	Warmer       string         `json:"warmer,omitempty" maxLength:"20" doc:"of warmer, as typed, instead of degreesC: 3, -2 °C, 5 °F"`
	Coats        int            `json:"coats,omitempty" minimum:"-50" maximum:"50" doc:"of coats: how many more; fewer when negative"`
	Material     string         `json:"material,omitempty" doc:"of material: a product's id, or a family's for its usual figures"`
	Name         string         `json:"name,omitempty" doc:"of hands"`
	Knots        []climate.Knot `json:"knots,omitempty" maxItems:"168" doc:"of profile"`
	Shop         *ShopForm      `json:"shop,omitempty"`
	Place        *PlaceForm     `json:"place,omitempty"`
	Person       *PersonForm    `json:"person,omitempty"`
	Seen         *time.Time     `json:"seen,omitempty" doc:"of profile, place and shop: since when the version held that was changed; a newer one is not overwritten"`
}

// ShopForm is what a shop decides about itself, as it is entered.
type ShopForm struct {
	Name     string            `json:"name"`
	TimeZone string            `json:"timeZone" doc:"IANA, such as Europe/London"`
	Margin   string            `json:"margin" doc:"caution on waits: 1 to 3"`
	Week     []string          `json:"week" minItems:"7" maxItems:"7" doc:"hours of each day, Sunday first"`
	Notation unit.Notation     `json:"notation,omitzero" doc:"how figures are written where a device says nothing else"`
	Ways     map[string]string `json:"ways,omitempty" doc:"the school that is followed where nobody chooses, by topic"`
}

// PlaceForm is a place as it is entered.
type PlaceForm struct {
	Name     string    `json:"name"`
	Kind     string    `json:"kind" enum:"bench,booth,wheel,drying"`
	Capacity string    `json:"capacity" doc:"pieces at a time; empty: no limit"`
	Hooks    string    `json:"hooks" doc:"pieces that can hang there to dry; empty: no limit"`
	Air      string    `json:"air" doc:"places with the same air share its dust; empty: air of its own"`
	HangsIn  uuid.UUID `json:"hangsIn,omitzero" doc:"where its pieces hang to dry; absent: there"`
	OwnHours bool      `json:"ownHours"`
	Week     []string  `json:"week" minItems:"7" maxItems:"7" doc:"its own hours within the shop's, Sunday first"`
}

// PersonForm is somebody as they are entered.
type PersonForm struct {
	ID       uuid.UUID `json:"id,omitzero" doc:"absent: somebody new"`
	Name     string    `json:"name"`
	OwnHours bool      `json:"ownHours"`
	Week     []string  `json:"week" minItems:"7" maxItems:"7"`
	Left     bool      `json:"left" doc:"works here no more"`
}

// Changes is what a person would like to be otherwise.
type Changes struct {
	ID       uuid.UUID `json:"id,omitzero" doc:"made by the device, so that keeping twice is keeping once"`
	Changes  []Change  `json:"changes" minItems:"1" maxItems:"60"`
	PersonID uuid.UUID `json:"personId,omitzero" doc:"who decides; asked for when they are kept"`
	Threads  bool      `json:"threads,omitempty" doc:"with the threads of what differs, before and after"`
}

// Once is the id under which they are kept once.
func (in Changes) Once() uuid.UUID { return in.ID }

// kind is one kind of change, with the fields that count for it. Each stands in the file of what it changes; one that
// says nothing of an aspect does not compile.
type kind interface {
	apply(b *Set, i int) error // puts it, the i-th, into a set, or says what is wrong with it
	role() access.Role         // that a device needs to keep it
}

// kinds reads a change as its kind.
var kinds = map[string]func(*Change) kind{
	"pin":      func(c *Change) kind { return &Pin{c.StepID, c.Coat, c.At} },
	"unpin":    func(c *Change) kind { return &Unpin{c.StepID, c.Coat} },
	"day":      func(c *Change) kind { return &Day{c.PlaceID, c.Date, c.Open} },
	"week":     func(c *Change) kind { return &Week{c.PlaceID, c.Weekday, c.Hours} },
	"hands":    func(c *Change) kind { return &Hands{c.Name} },
	"person":   func(c *Change) kind { return &Person{c.Person} },
	"warmer":   func(c *Change) kind { return &Warmer{c.PlaceID, c.Degrees, c.Warmer} },
	"profile":  func(c *Change) kind { return &Profile{c.PlaceID, c.Seen, c.Knots} },
	"place":    func(c *Change) kind { return &Place{c.PlaceID, c.Place, c.Seen} },
	"shop":     func(c *Change) kind { return &Shop{c.Shop, c.Seen} },
	"coats":    func(c *Change) kind { return &Coats{c.StepID, c.Coats} },
	"material": func(c *Change) kind { return &Material{c.StepID, c.Material} },
	"start":    func(c *Change) kind { return &Start{c.InstrumentID, c.Date} },
	"redo":     func(c *Change) kind { return &Redo{c.StepID, c.Coat} },
	"mend":     func(c *Change) kind { return &Mend{c.InstrumentID, c.StepID, c.Rule} },
	"wish":     func(c *Change) kind { return &Wish{c.InstrumentID, c.Wish, c.Version} },
	"edit":     func(c *Change) kind { return &Edit{c.InstrumentID, c.Edit} },
	"repair":   func(c *Change) kind { return &Repair{c.InstrumentID, c.Repair} },
	"job":      func(c *Change) kind { return &Job{c.InstrumentID, c.Job, c.Version} },
	"archive":  func(c *Change) kind { return &Archive{c.InstrumentID} },
	"back":     func(c *Change) kind { return &Back{c.InstrumentID} },
}

// read is a change as its kind; nil where there is none of this name.
func (c *Change) read() kind {
	if read := kinds[c.Kind]; read != nil {
		return read(c)
	}
	return nil
}

// apply puts one change, the i-th, into the shop, or says what is wrong with it.
func (b *Set) apply(i int, c *Change) error {
	read := c.read()
	if read == nil {
		return refuse.Field("kind", "there is no such change", c.Kind)
	}
	return read.apply(b, i)
}

func changePath(i int) string { return fmt.Sprintf("changes[%d].", i) }
