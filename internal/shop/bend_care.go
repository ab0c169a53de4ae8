package shop

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
)

// Changes of an instrument as a job: what it is called and promised, and whether it is planned at all.

// JobForm is what an instrument is called and promised, as it is entered.
type JobForm struct {
	Name    string `json:"name" doc:"1 to 60 characters"`
	Serial  string `json:"serial" doc:"its serial or mark, up to 60 characters"`
	Promise string `json:"promise" doc:"the promised day, like 2026-03-12"`
	Show    string `json:"show" doc:"an earlier day on which it must be fit to be shown; empty: none"`
}

func (b *bent) job(c *Change) error {
	in, err := b.instrumentOf(c.InstrumentID)
	switch {
	case err != nil:
		return err
	case c.Job == nil:
		return invalid("job", "say what it is called and promised", nil)
	case c.Version != 0 && c.Version != in.Version:
		return &Taken{Message: in.Name + " was changed by somebody else in the meantime; look at it again"}
	}
	form := c.Job
	faults := checkNames(form.Name, form.Serial)
	was := *in
	days, promise, show := b.checkDays(form.Promise, form.Show)
	if form.Promise == was.Promise.String() && form.Show == dayText(was.Show) {
		days, promise, show = nil, was.Promise, was.Show // days that stand may be over
	} else if form.Promise == "" {
		days = append(days, recipe.Fault{Path: "promise", Message: "name the promised day, like 2026-03-12", Value: form.Promise})
	}
	if faults = append(faults, days...); len(faults) > 0 {
		for i := range faults {
			faults[i].Path = "job." + faults[i].Path
		}
		return &Invalid{faults}
	}
	in.Name, in.Serial, in.Promise, in.Show = strings.TrimSpace(form.Name), strings.TrimSpace(form.Serial), promise, show
	b.cared[in.ID] = true
	return b.say(false, "%s: %s", was.Name, jobWords(was, *in))
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
		parts = append(parts, fmt.Sprintf("promised %s instead of %s", dayView(is.Promise).Said, dayView(was.Promise).Said))
	}
	switch {
	case dayText(is.Show) == dayText(was.Show):
	case is.Show == nil:
		parts = append(parts, "shown on no earlier day")
	default:
		parts = append(parts, "shown "+dayView(*is.Show).Said)
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

// archive puts an instrument aside: its work leaves the plan, its schedule and its log stay.
func (b *bent) archive(c *Change) error {
	in, err := b.instrumentOf(c.InstrumentID)
	if err != nil {
		return err
	}
	now, own := b.now.UTC(), ownSteps(in)
	aside := *in
	aside.Archived = &now
	b.aside[in.ID], b.cared[in.ID] = &aside, true
	b.file.Instruments = slices.DeleteFunc(b.file.Instruments, func(other recipe.Instrument) bool { return other.ID == c.InstrumentID })
	b.setOrder(slices.DeleteFunc(slices.Clone(b.file.Order), func(e job.Event) bool { return own[e.Step] }))
	return b.say(false, "%s put aside", aside.Name)
}

// back brings an instrument back that was put aside, at the end of the order of work.
func (b *bent) back(c *Change) error {
	kept := b.archived(c.InstrumentID)
	if again := b.aside[c.InstrumentID]; again != nil {
		kept = again
	}
	if kept == nil {
		return invalid("instrumentId", "must be an instrument that is put aside", c.InstrumentID)
	}
	in := *kept
	in.Archived = nil
	in.Pieces = slices.Clone(in.Pieces)
	delete(b.aside, in.ID)
	b.cared[in.ID] = true
	b.file.Instruments = append(b.file.Instruments, in)
	order := slices.Clone(b.file.Order)
	for _, p := range in.Pieces {
		for _, s := range p.Steps {
			for coat := 1; coat <= s.Due(); coat++ {
				order = append(order, job.Event{Step: s.ID, Coat: coat})
			}
		}
	}
	b.setOrder(order)
	return b.say(false, "%s brought back", in.Name)
}

// archived is an instrument that is put aside; nil where none of this id is.
func (st *state) archived(id uuid.UUID) *recipe.Instrument {
	if st.aside == nil {
		return nil
	}
	at := slices.IndexFunc(st.aside.file.Instruments, func(in recipe.Instrument) bool { return in.ID == id })
	if at < 0 {
		return nil
	}
	return &st.aside.file.Instruments[at]
}
