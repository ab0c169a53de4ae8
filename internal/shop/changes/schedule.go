package changes

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// The schedule of an instrument changed by hand.

// Edit changes the schedule of an instrument by hand.
type Edit struct {
	InstrumentID uuid.UUID
	Edit         *edit.Edit
}

func (c *Edit) role() access.Role { return access.RoleShop }

func (c *Edit) apply(b *Set, i int) error {
	in, err := b.instrumentOf(c.InstrumentID)
	switch {
	case err != nil:
		return err
	case c.Edit == nil:
		return refuse.Field("edit", "say what is changed", nil)
	}
	e := *c.Edit
	if f := e.Fields; f != nil && f.Place != nil && *f.Place != uuid.Nil && !b.hasPlace(*f.Place) {
		return refuse.Field("edit.fields.placeId", "must be a place of this shop, or be left out for the usual one", *f.Place)
	}
	if err := b.fragment(in, &e); err != nil {
		return err
	}
	before := snapshot.StepIn(in, e.Step)
	next, err := edit.Apply(*in, e, b.LoggedOf(in), b.familyOf)
	var wrong *edit.Fault
	switch {
	case errors.As(err, &wrong):
		if stale := b.stale(i, in, e, nil); stale != nil {
			return stale
		}
		return refuse.Field("edit."+wrong.Field, wrong.Message, nil)
	case err != nil:
		return err
	}
	if stale := b.stale(i, in, e, snapshot.StepIn(&next, e.Step)); stale != nil {
		return stale
	}
	said := b.editSaid(e, in, &next, before)
	b.become(in, next)
	return b.Say(false, "%s: %s", in.Name, said)
}

func (b *Set) hasPlace(id uuid.UUID) bool {
	return slices.ContainsFunc(b.Snapshot.Input.Shop.Places, func(p schedule.Place) bool { return p.ID == id })
}

// familyOf tells the family of a product on the shelf.
func (b *Set) familyOf(id uuid.UUID) (string, bool) {
	made, found := b.Product(id)
	return made.Family.ID, found
}

// stale says that a step has been changed since it was seen, with both versions; nil where it has not.
func (b *Set) stale(i int, in *recipe.Instrument, e edit.Edit, mine *job.Step) error {
	at, found := b.Find(e.Step)
	switch {
	case e.Version == 0 || e.Op == edit.Add || (!found && snapshot.StepIn(in, e.Step) != nil): // or one of these changes has put it in
		return nil
	case !found:
		return &refuse.Taken{Message: "somebody else has taken that step out of the schedule in the meantime"}
	case at.Step().Version == e.Version:
		return nil
	}
	now := at.Step()
	c := refuse.Clash{Change: i, StepID: now.ID, Title: now.Title, Version: now.Version, Theirs: factsOf(b.Snapshot, at.Instrument(), now),
		Mine: []refuse.Fact{}}
	if mine != nil {
		c.Mine = factsOf(b.Snapshot, at.Instrument(), mine)
	}
	return &refuse.Taken{Message: fmt.Sprintf("somebody else has changed “%s” of %s in the meantime", now.Title, at.Instrument().Name),
		Clashes: []refuse.Clash{c}}
}

// factsOf says of a step what a hand may change.
func factsOf(m *snapshot.Snapshot, in *recipe.Instrument, s *job.Step) []refuse.Fact {
	list := []refuse.Fact{{Label: "Step", Text: s.Title}}
	add := func(label, text string) {
		if text != "" {
			list = append(list, refuse.Fact{Label: label, Text: text})
		}
	}
	if s.Kind == job.Coat || s.Coats > 1 {
		add("Coats", fmt.Sprint(max(s.Coats, 1)))
	}
	if made, err := m.MaterialOf(s); err == nil && s.Family != "" {
		add("With", strings.TrimSpace(made.Name+", "+snapshot.Method(s.Method)))
	}
	if len(s.Ladder) > 0 {
		add("Grits", snapshot.LadderText(s.Ladder))
	}
	add("Where", phrase.List(snapshot.RegionNames(in, s.Regions)))
	add("Hands", s.HandsOnMin.String())
	if s.Film != "" {
		add("Waits until", s.Film.Text())
	}
	if s.RestMin > 0 {
		add("Rest", s.RestMin.String())
	}
	if s.Place != nil {
		add("At", m.PlaceName(*s.Place))
	}
	add("Note", s.Note)
	add("Left out", s.Out)
	return list
}

// editSaid is an edit in words.
func (b *Set) editSaid(e edit.Edit, in, next *recipe.Instrument, before *job.Step) string {
	title := ""
	if before != nil {
		title = phrase.Quoted(before.Title)
	}
	switch e.Op {
	case edit.Add:
		made := snapshot.StepIn(next, e.Step)
		return fmt.Sprintf("%s added%s", phrase.Quoted(made.Title), behind(in, e.After))
	case edit.Move:
		return title + " moved" + behind(in, e.After)
	case edit.Duplicate:
		return title + " once more"
	case edit.Split:
		return fmt.Sprintf("%s apart for %s", title, phrase.List(snapshot.RegionNames(in, e.Regions)))
	case edit.Join:
		if other := snapshot.StepIn(in, e.With); other != nil {
			return fmt.Sprintf("%s along with %s", phrase.Quoted(other.Title), title)
		}
	case edit.LeaveOut:
		return title + " left out, because " + phrase.Lower(strings.TrimSpace(e.Reason))
	case edit.TakeBack:
		return title + " taken back in"
	case edit.Remove:
		return title + " removed"
	}
	return title + ": " + b.fieldsSaid(e.Fields)
}

// behind says after which step something comes.
func behind(in *recipe.Instrument, after uuid.UUID) string {
	if s := snapshot.StepIn(in, after); s != nil {
		return " after " + phrase.Quoted(s.Title)
	}
	return " as the first step"
}

// fieldsSaid is what is otherwise of a step, in words.
func (b *Set) fieldsSaid(f *edit.Fields) string {
	var parts []string
	add := func(format string, args ...any) { parts = append(parts, fmt.Sprintf(format, args...)) }
	if f.Title != nil {
		add("called %s", phrase.Quoted(strings.TrimSpace(*f.Title)))
	}
	if f.Coats != nil {
		add("%s", phrase.Plural(*f.Coats, "coat"))
	}
	if f.Material != nil {
		add("with %s", b.materialName(*f.Material))
	}
	if f.Method != nil {
		add("%s", snapshot.Method(material.Method(*f.Method)))
	}
	if f.Ladder != nil {
		add("%s", snapshot.LadderText(*f.Ladder))
	}
	if f.Minutes != nil {
		add("%s of hands", unit.Minutes(*f.Minutes).String())
	}
	if f.Regions != nil {
		add("in other regions")
	}
	if f.Film != nil {
		if add("waiting as is usual"); *f.Film != "" {
			parts[len(parts)-1] = "not before films below are " + material.Milestone(*f.Film).Text()
		}
	}
	if f.RestMin != nil {
		add("%s of rest after it", unit.Minutes(*f.RestMin).String())
	}
	if f.Place != nil {
		if add("at its usual place"); *f.Place != uuid.Nil {
			parts[len(parts)-1] = "at " + b.PlaceName(*f.Place)
		}
	}
	if f.Divide != nil {
		if add("spread as is usual"); *f.Divide > 0 {
			parts[len(parts)-1] = fmt.Sprintf("spread in stretches of %s and more", unit.Minutes(*f.Divide).String())
		}
	}
	if f.Rounds != nil {
		if add("done once"); f.Rounds.Most > 0 {
			parts[len(parts)-1] = fmt.Sprintf("%d to %d rounds, until it is right", f.Rounds.Least, f.Rounds.Most)
		}
	}
	if f.Note != nil {
		add("with another note")
	}
	return strings.Join(parts, ", ")
}

// materialName is the name of a product or a family.
func (b *Set) materialName(text string) string {
	if id, err := uuid.Parse(text); err == nil {
		if made, found := b.Product(id); found {
			return made.Name
		}
	}
	if f, err := material.FindFamily(text); err == nil {
		return f.Named()
	}
	return text
}
