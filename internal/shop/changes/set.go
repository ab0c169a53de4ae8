// Package changes is what a person changes: decisions about the shop and its work, and what is said to have happened.
// A set of changes is planned as a what-if and kept in the same words; a unit is one of them under way: it writes what
// differs of the snapshot before and the one after, in one transaction.
package changes

import (
	"errors"
	"fmt"
	"reflect"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/workshop"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// Set is the shop with some decisions changed. The what-if plans it, and keeping
// writes what differs: both from the same workshop, so that what is kept is what was asked.
type Set struct {
	*snapshot.Snapshot
	Changes  []Change
	by       uuid.UUID // who decides
	Workshop *workshop.Workshop
	archive  workshop.Archive
	Summary  []string // each change in words
	Wider    bool     // all of them only widen what is allowed
}

// NewSet is a snapshot with changes applied, one after the other. It fails with *Invalid naming the
// change and the field.
func NewSet(m *snapshot.Snapshot, changes []Change, by uuid.UUID) (*Set, error) {
	b := &Set{Snapshot: m, Changes: changes, by: by, Workshop: m.Workshop.Clone(), archive: m.Archive, Wider: true}
	for i := range changes {
		if err := b.apply(i, &changes[i]); err != nil {
			return nil, refuse.Within(changePath(i), err)
		}
	}
	return b, nil
}

// Say notes a change in words, and whether it only widens what is allowed.
func (b *Set) Say(wider bool, format string, args ...any) error {
	b.Summary = append(b.Summary, fmt.Sprintf(format, args...))
	b.Wider = b.Wider && wider
	return nil
}

// succeed brings what is decided into the form in which it is kept, before it is planned.
func (b *Set) succeed() {
	whole := b.Workshop.With(b.archive)
	whole.Succeed(b.Snapshot.Workshop.With(b.Snapshot.Archive))
	b.archive = whole.TakeArchived()
	b.Workshop = whole
}

// Input is what dates are derived from in the changed shop.
func (b *Set) Input() (schedule.Input, error) {
	in := b.Snapshot.Input
	if !sameShop(&b.Workshop.Shop, &b.Snapshot.Workshop.Shop) {
		var err error
		if in.Shop, err = b.Workshop.ShopAt(b.Now); err != nil {
			return in, refused(err)
		}
	}
	was := make(map[uuid.UUID]int, len(b.Snapshot.Workshop.Instruments))
	for i := range b.Snapshot.Workshop.Instruments {
		was[b.Snapshot.Workshop.Instruments[i].ID] = i
	}
	in.Instruments = make([]schedule.Instrument, len(b.Workshop.Instruments))
	for i := range b.Workshop.Instruments {
		stored := &b.Workshop.Instruments[i]
		if at, known := was[stored.ID]; known && workshop.Same(stored, &b.Snapshot.Workshop.Instruments[at]) {
			in.Instruments[i] = b.Snapshot.Input.Instruments[at]
			continue
		}
		planned, err := workshop.Planned(i, stored, b.Catalogue)
		if err == nil {
			err = planned.Validate()
		}
		if err != nil {
			return in, refused(err)
		}
		in.Instruments[i] = planned
	}
	in.Order, in.Pins = b.Workshop.Order, snapshot.OpenPins(b.Workshop.Pins, b.Facts)
	return in, nil
}

// sameShop reports whether two states of a shop have decided the same about themselves.
func sameShop(a, b *settings.Shop) bool {
	return reflect.DeepEqual(a.Settings, b.Settings) && reflect.DeepEqual(a.People, b.People) && reflect.DeepEqual(a.Places, b.Places)
}

// refused is what the rules of the job refuse of changes.
func refused(err error) error {
	if wrong := new(workshop.Fault); errors.As(err, &wrong) {
		err = wrong.Err
	}
	return refuse.Field("changes", err.Error(), nil)
}

// Renamed are the instruments with another name, promise or show day, and those that are archived or brought back.
func (b *Set) Renamed() []uuid.UUID {
	known := make(map[uuid.UUID]*recipe.Instrument)
	for _, list := range [][]recipe.Instrument{b.Snapshot.Workshop.Instruments, b.Snapshot.Archive.Instruments} {
		for i := range list {
			known[list[i].ID] = &list[i]
		}
	}
	var ids []uuid.UUID
	for _, list := range [][]recipe.Instrument{b.Workshop.Instruments, b.archive.Instruments} {
		for i := range list {
			in := &list[i]
			was := known[in.ID]
			if was != nil && (in.Name != was.Name || in.Serial != was.Serial || in.Promise != was.Promise ||
				dayText(in.Show) != dayText(was.Show) ||
				(in.Archived == nil) != (was.Archived == nil)) {
				ids = append(ids, in.ID)
			}
		}
	}
	return ids
}

// Answer plans the changed shop beside today's.
func (b *Set) Answer() (search.Answer, error) {
	in, err := b.Input()
	if err != nil {
		return search.Answer{}, err
	}
	answer, err := search.WhatIf(b.Plan, in, b.Wider)
	if err != nil {
		return answer, refused(err)
	}
	b.Workshop.Order = slices.Clone(answer.Order)
	return answer, b.checkPins(answer.After)
}

// checkPins refuses a pin at which its event cannot be, saying why.
func (b *Set) checkPins(after *schedule.Plan) error {
	for i, c := range b.Changes {
		event := schedule.Event{Step: c.StepID, Coat: c.Coat}
		if e, found := after.Find(event); c.Kind != "pin" || !found || !e.Floats {
			continue
		}
		why := "What comes before it would not be ready, or what follows would miss its window."
		for _, s := range explain.Starts(after, event, c.At.Add(time.Minute)) {
			if !s.Free && !s.Start.After(*c.At) && s.End.After(*c.At) {
				why = s.Why
			}
		}
		return refuse.Field(changePath(i)+"at", why, c.At)
	}
	return nil
}
