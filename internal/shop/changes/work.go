package changes

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// Changes of work: pins, coats, materials, gates.

// event finds the event that a change is about; it must still be ahead.
func (b *Set) event(step uuid.UUID, coat int) (schedule.Planned, string, error) {
	e, found := b.Plan.Find(schedule.Event{Step: step, Coat: coat})
	if !found {
		return e, "", refuse.Field("stepId", "must be a step of a schedule, with one of its coats", step)
	}
	at, _ := b.Find(e.Step)
	name := fmt.Sprintf("%s, %s %s", at.Planned().EventTitle(e.Coat), at.Instrument().Name, at.Piece().Kind)
	if e.Done {
		return e, name, refuse.Field("coat", name+" is done; what happened is not moved", coat)
	}
	return e, name, nil
}

// Pin fixes an event at a time.
type Pin struct {
	StepID uuid.UUID
	Coat   int
	At     *time.Time
}

func (c *Pin) role() access.Role { return access.RoleBench }

func (c *Pin) apply(b *Set, _ int) error {
	e, name, err := b.event(c.StepID, c.Coat)
	switch {
	case err != nil:
		return err
	case c.At == nil:
		return refuse.Field("at", "say when", nil)
	case c.At.Before(b.Now):
		return refuse.Field("at", "that is past; choose a time from now on", c.At)
	}
	b.dropPin(e.Event)
	pin := job.Pin{Event: job.Event(e.Event), At: c.At.UTC(), MadeAt: b.Now.UTC()}
	if b.by != uuid.Nil {
		pin.Person = &b.by
	}
	b.Workshop.Pins = append(b.Workshop.Pins, pin)
	return b.Say(false, "%s, on %s", name, b.Plan.Clock(*c.At))
}

// Unpin lets an event go where the plan puts it.
type Unpin struct {
	StepID uuid.UUID
	Coat   int
}

func (c *Unpin) role() access.Role { return access.RoleBench }

func (c *Unpin) apply(b *Set, _ int) error {
	e, name, err := b.event(c.StepID, c.Coat)
	if err != nil {
		return err
	}
	if !b.dropPin(e.Event) {
		return refuse.Field("stepId", name+" is not pinned", c.StepID)
	}
	return b.Say(false, "%s, no longer pinned", name)
}

func (b *Set) dropPin(event schedule.Event) bool {
	before := len(b.Workshop.Pins)
	b.Workshop.Pins = slices.DeleteFunc(b.Workshop.Pins, func(p job.Pin) bool { return p.Event == event })
	return len(b.Workshop.Pins) < before
}

// step finds a step of the changed shop, to be changed.
func (b *Set) step(id uuid.UUID) (*job.Step, string, error) {
	for i := range b.Workshop.Instruments {
		if snapshot.StepIn(&b.Workshop.Instruments[i], id) == nil {
			continue
		}
		in := b.Workshop.Own(i)
		for p := range in.Pieces {
			for s := range in.Pieces[p].Steps {
				if step := &in.Pieces[p].Steps[s]; step.ID == id {
					return step, fmt.Sprintf("“%s” of %s %s", step.Title, in.Name, in.Pieces[p].Kind), nil
				}
			}
		}
	}
	return nil, "", refuse.Field("stepId", "must be a step of a schedule", id)
}

func (b *Set) done(id uuid.UUID) int {
	last := 0
	for event := range b.Facts {
		if event.Step == id {
			last = max(last, event.Coat)
		}
	}
	return last
}

// Coats gives a step more coats, or fewer.
type Coats struct {
	StepID uuid.UUID
	Coats  int
}

func (c *Coats) role() access.Role { return access.RoleShop }

func (c *Coats) apply(b *Set, _ int) error {
	step, name, err := b.step(c.StepID)
	if err != nil {
		return err
	}
	now := max(step.Coats, 1)
	least, most := max(1, b.done(step.ID)), 50
	if step.Repeat != nil {
		least, most = max(least, step.Repeat.Least), step.Repeat.Most
	}
	switch {
	case step.Kind != schedule.Coat && step.Repeat == nil:
		return refuse.Field("stepId", name+" is not done in coats or rounds", c.StepID)
	case c.Coats == 0:
		return refuse.Field("coats", "say how many more, or fewer", c.Coats)
	case now+c.Coats < least || now+c.Coats > most:
		return refuse.Field("coats", fmt.Sprintf("%s has %d; from %d to %d are possible", name, now, least, most), c.Coats)
	}
	b.setCoats(step, now+c.Coats)
	word := "more"
	if c.Coats < 0 {
		word = "fewer"
	}
	return b.Say(false, "%s %s on %s", phrase.Plural(max(c.Coats, -c.Coats), "coat"), word, name)
}

// Redo does a coat that is done again.
type Redo struct {
	StepID uuid.UUID
	Coat   int
}

func (c *Redo) role() access.Role { return access.RoleShop }

func (c *Redo) apply(b *Set, _ int) error {
	step, name, err := b.step(c.StepID)
	if err != nil {
		return err
	}
	switch _, done := b.Facts[schedule.Event{Step: c.StepID, Coat: c.Coat}]; {
	case step.Kind != schedule.Coat:
		return refuse.Field("stepId", name+" is not a coat", c.StepID)
	case !done:
		return refuse.Field("coat", "only what is done can be done again", c.Coat)
	case step.Coats >= 50:
		return refuse.Field("coat", "a step has at most 50 coats", c.Coat)
	}
	b.setCoats(step, max(step.Coats, 1)+1)
	return b.Say(false, "coat %d of %s again", c.Coat, name)
}

// setCoats gives a step another number of coats; new ones are served right after
// the last there was.
func (b *Set) setCoats(step *job.Step, n int) {
	step.Edited = true
	was := max(step.Coats, 1)
	step.Coats = n
	b.Workshop.Order = slices.DeleteFunc(b.Workshop.Order, func(e job.Event) bool { return e.Step == step.ID && e.Coat > n })
	for coat := was + 1; coat <= n; coat++ {
		at := slices.Index(b.Workshop.Order, job.Event{Step: step.ID, Coat: coat - 1})
		if at < 0 {
			at = len(b.Workshop.Order) - 1
		}
		b.Workshop.Order = slices.Insert(b.Workshop.Order, at+1, job.Event{Step: step.ID, Coat: coat})
	}
}

// Material puts a step on with another product or family of the same group.
type Material struct {
	StepID   uuid.UUID
	Material string
}

func (c *Material) role() access.Role { return access.RoleShop }

func (c *Material) apply(b *Set, _ int) error {
	step, name, err := b.step(c.StepID)
	if err != nil {
		return err
	}
	if step.Family == "" {
		return refuse.Field("stepId", name+" takes no material", c.StepID)
	}
	if b.done(step.ID) > 0 {
		return refuse.Field("stepId", name+" is begun; the rest of it stays with what is on the wood", c.StepID)
	}
	family, product := c.Material, (*uuid.UUID)(nil)
	title := ""
	if id, err := uuid.Parse(c.Material); err == nil {
		made, found := b.Product(id)
		if !found {
			return refuse.Field("material", "must be a product on the shelf, or a family", c.Material)
		}
		family, product, title = made.Family.ID, &id, made.Name
	}
	now, _ := material.FindFamily(step.Family)
	next, err := material.FindFamily(family)
	if err != nil {
		return refuse.Field("material", "must be a product on the shelf, or a family", c.Material)
	}
	if next.Group != now.Group {
		return refuse.Field("material", fmt.Sprintf("%s is not of the group %s, as %s is", next.Name, now.Group, now.Name), c.Material)
	}
	step.Edited = true
	step.Family, step.Product = family, product
	if !slices.Contains(next.Methods, step.Method) {
		step.Method = next.Methods[0]
	}
	if title == "" {
		title = phrase.Lower(next.Name)
	}
	return b.Say(false, "%s with %s", name, title)
}

// waitSlot begins the slots of gates that let work wait until a day.
const waitSlot = "not before "

// Start lets the work of an instrument that is not begun wait until a day: a gate
// before the next step of each of its pieces.
type Start struct {
	InstrumentID uuid.UUID
	Date         string
}

func (c *Start) role() access.Role { return access.RoleShop }

func (c *Start) apply(b *Set, _ int) error {
	day, err := b.dayAhead(c.Date)
	if err != nil {
		return err
	}
	at := slices.IndexFunc(b.Workshop.Instruments, func(in recipe.Instrument) bool { return in.ID == c.InstrumentID })
	if at < 0 {
		return refuse.Field("instrumentId", "must be an instrument of this shop", c.InstrumentID)
	}
	in := b.Workshop.Own(at)
	waits := 0
	for p := range in.Pieces {
		if in.Pieces[p].Kind != "whole" && b.wait(&in.Pieces[p], day) {
			waits++
		}
	}
	if waits == 0 {
		return refuse.Field("instrumentId", in.Name+" has nothing left that could begin later", c.InstrumentID)
	}
	return b.Say(false, "%s not before %s", in.Name, snapshot.DayOf(day).Said)
}

func (b *Set) wait(piece *job.Piece, day calendar.Day) bool {
	at := slices.IndexFunc(piece.Steps, func(s job.Step) bool { return b.done(s.ID) == 0 })
	if at < 0 {
		return false
	}
	next := &piece.Steps[at]
	if strings.HasPrefix(next.Slot, waitSlot) {
		next.Arrival = &schedule.Arrival{Expected: day}
		return true
	}
	gate := job.Step{ID: uuid.NewSHA1(next.ID, []byte(waitSlot)), Slot: waitSlot + next.Slot, Kind: schedule.Gate,
		Title: "Wait for the day", Coats: 1, Version: 1, Edited: true,
		How: "Leave the piece until the day that was set.", Why: "It was decided to go on no sooner, so that other work comes first."}
	gate.Arrival = &schedule.Arrival{Expected: day}
	for _, z := range piece.Regions {
		gate.Regions = append(gate.Regions, z.ID)
	}
	place := slices.IndexFunc(b.Workshop.Order, func(e job.Event) bool { return e.Step == next.ID })
	b.Workshop.Order = slices.Insert(b.Workshop.Order, max(place, 0), job.Event{Step: gate.ID, Coat: 1})
	piece.Steps = slices.Insert(piece.Steps, at, gate)
	return true
}
