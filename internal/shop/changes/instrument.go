package changes

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// Changes of an instrument as a job: what it is called and promised, and whether it is planned at all.

// JobForm is what an instrument is called and promised, as it is entered.
type JobForm struct {
	Name    string `json:"name" doc:"1 to 60 characters"`
	Serial  string `json:"serial" doc:"its serial or mark, up to 60 characters"`
	Promise string `json:"promise" doc:"the promised day, like 2026-03-12"`
	Show    string `json:"show" doc:"an earlier day on which it must be fit to be shown; empty: none"`
}

// Job changes what an instrument is called and promised.
type Job struct {
	InstrumentID uuid.UUID
	Job          *JobForm
	Version      int
}

func (c *Job) role() access.Role { return access.RoleShop }

func (c *Job) apply(b *Set, _ int) error {
	in, err := b.instrumentOf(c.InstrumentID)
	switch {
	case err != nil:
		return err
	case c.Job == nil:
		return refuse.Field("job", "say what it is called and promised", nil)
	case c.Version != 0 && c.Version != in.Version:
		return &refuse.Taken{Message: in.Name + " was changed by somebody else in the meantime; look at it again"}
	}
	form := c.Job
	faults := checkNames(form.Name, form.Serial)
	was := *in
	days, promise, show := checkDays(b.Snapshot, form.Promise, form.Show)
	if form.Promise == was.Promise.String() && form.Show == dayText(was.Show) {
		days, promise, show = nil, was.Promise, was.Show // days that stand may be over
	} else if form.Promise == "" {
		days = append(days, recipe.Fault{Path: "promise", Message: "name the promised day, like 2026-03-12", Value: form.Promise})
	}
	if faults = append(faults, days...); len(faults) > 0 {
		for i := range faults {
			faults[i].Path = "job." + faults[i].Path
		}
		return &refuse.Invalid{Faults: faults}
	}
	in.Name, in.Serial, in.Promise, in.Show = strings.TrimSpace(form.Name), strings.TrimSpace(form.Serial), promise, show
	return b.Say(false, "%s: %s", was.Name, jobWords(was, *in))
}

// jobWords says what differs of an instrument as a job.
func jobWords(was, is recipe.Instrument) string {
	var parts []string
	if is.Name != was.Name {
		parts = append(parts, "now called "+is.Name)
	}
	if is.Serial != was.Serial {
		parts = append(parts, "serial "+cmp.Or(is.Serial, "none"))
	}
	if is.Promise != was.Promise {
		parts = append(parts, fmt.Sprintf("promised %s instead of %s", snapshot.DayOf(is.Promise).Said, snapshot.DayOf(was.Promise).Said))
	}
	switch {
	case dayText(is.Show) == dayText(was.Show):
	case is.Show == nil:
		parts = append(parts, "shown on no earlier day")
	default:
		parts = append(parts, "shown "+snapshot.DayOf(*is.Show).Said)
	}
	if len(parts) == 0 {
		return "as it was"
	}
	return strings.Join(parts, ", ")
}

func dayText(day *calendar.Day) string {
	if day == nil {
		return ""
	}
	return day.String()
}

// Archive archives an instrument: its work leaves the plan, its schedule and its log stay.
type Archive struct {
	InstrumentID uuid.UUID
}

func (c *Archive) role() access.Role { return access.RoleShop }

func (c *Archive) apply(b *Set, _ int) error {
	in, err := b.instrumentOf(c.InstrumentID)
	if err != nil {
		return err
	}
	now := b.Now.UTC()
	aside := *in
	aside.Archived = &now
	b.take(in.ID)
	b.archive.Instruments = append(slices.Clone(b.archive.Instruments), aside)
	return b.Say(false, "%s put aside", aside.Name)
}

// take takes an instrument out of the plan, with its part of the order of work; its pins go with it into the archive.
func (b *Set) take(id uuid.UUID) {
	at := b.Workshop.Find(id)
	own := edit.Steps(&b.Workshop.Instruments[at])
	b.Workshop.Instruments = slices.Delete(b.Workshop.Instruments, at, at+1)
	b.Workshop.Order = slices.DeleteFunc(slices.Clone(b.Workshop.Order), func(e job.Event) bool { return own[e.Step] })
	b.archive.Pins = slices.Clone(b.archive.Pins)
	b.Workshop.Pins = slices.DeleteFunc(b.Workshop.Pins, func(p job.Pin) bool {
		if own[p.Step] {
			b.archive.Pins = append(b.archive.Pins, p)
		}
		return own[p.Step]
	})
}

// Back brings an instrument back that was put aside, at the end of the order of work.
type Back struct {
	InstrumentID uuid.UUID
}

func (c *Back) role() access.Role { return access.RoleShop }

func (c *Back) apply(b *Set, _ int) error {
	at := slices.IndexFunc(b.archive.Instruments, func(in recipe.Instrument) bool { return in.ID == c.InstrumentID })
	if at < 0 {
		return refuse.Field("instrumentId", "must be an instrument that is put aside", c.InstrumentID)
	}
	in := b.archive.Instruments[at]
	in.Archived = nil
	b.takeFromArchive(at)
	b.Add(in)
	return b.Say(false, "%s brought back", in.Name)
}

// takeFromArchive takes an instrument out of the archive; its pins are those of planned work again.
func (b *Set) takeFromArchive(at int) {
	own := edit.Steps(&b.archive.Instruments[at])
	b.archive.Instruments = slices.Delete(slices.Clone(b.archive.Instruments), at, at+1)
	b.archive.Pins = slices.DeleteFunc(slices.Clone(b.archive.Pins), func(p job.Pin) bool {
		if own[p.Step] {
			b.Workshop.Pins = append(b.Workshop.Pins, p)
		}
		return own[p.Step]
	})
}

// Add puts an instrument among those that are planned, at the end of the order of work.
func (b *Set) Add(in recipe.Instrument) {
	b.Workshop.Instruments = append(b.Workshop.Instruments, in)
	b.Workshop.Order = append(slices.Clone(b.Workshop.Order), in.Events()...)
}

// Delete takes an instrument out of the shop for good, wherever it is.
func (b *Set) Delete(in *recipe.Instrument) {
	id := in.ID
	if b.Workshop.Find(id) >= 0 {
		b.take(id)
	} else {
		b.takeFromArchive(slices.IndexFunc(b.archive.Instruments, func(one recipe.Instrument) bool { return one.ID == id }))
	}
	own := edit.Steps(in)
	mine := func(p job.Pin) bool { return own[p.Step] }
	b.Workshop.Pins, b.archive.Pins = slices.DeleteFunc(b.Workshop.Pins, mine), slices.DeleteFunc(b.archive.Pins, mine)
}
