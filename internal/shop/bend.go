package shop

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/workshop"
	"umberfrost/internal/store"
)

// changeSet is the shop with some decisions changed. The what-if plans it, and keeping
// writes what differs: both from the same workshop, so that what is kept is what was asked.
type changeSet struct {
	*moment
	changes []Change
	by      uuid.UUID // who decides
	file    *workshop.Workshop
	archive workshop.Archive
	summary []string // each change in words
	wider   bool     // all of them only widen what is allowed
}

// bend applies changes, one after the other. It fails with *Invalid naming the
// change and the field.
func (m *moment) bend(changes []Change, by uuid.UUID) (*changeSet, error) {
	b := &changeSet{moment: m, changes: changes, by: by, file: m.file.Clone(), archive: m.archive, wider: true}
	for i := range changes {
		if err := b.apply(i, &changes[i]); err != nil {
			return nil, within(changePath(i), err)
		}
	}
	return b, nil
}

// say notes a change in words, and whether it only widens what is allowed.
func (b *changeSet) say(wider bool, format string, args ...any) error {
	b.summary = append(b.summary, fmt.Sprintf(format, args...))
	b.wider = b.wider && wider
	return nil
}

// succeed brings what is decided into the form in which it is kept, before it is planned.
func (b *changeSet) succeed() {
	whole := b.file.With(b.archive)
	whole.Succeed(b.moment.file.With(b.moment.archive))
	b.archive = whole.TakeArchived()
	b.file = whole
}

// input is what dates are derived from in the changed shop.
func (b *changeSet) input() (schedule.Input, error) {
	in := b.moment.input
	if !sameShop(&b.file.Shop, &b.moment.file.Shop) {
		var err error
		if in.Shop, err = b.file.ShopAt(b.now); err != nil {
			return in, refused(err)
		}
	}
	was := make(map[uuid.UUID]int, len(b.moment.file.Instruments))
	for i := range b.moment.file.Instruments {
		was[b.moment.file.Instruments[i].ID] = i
	}
	in.Instruments = make([]schedule.Instrument, len(b.file.Instruments))
	for i := range b.file.Instruments {
		stored := &b.file.Instruments[i]
		if at, known := was[stored.ID]; known && workshop.Same(stored, &b.moment.file.Instruments[at]) {
			in.Instruments[i] = b.moment.input.Instruments[at]
			continue
		}
		planned, err := workshop.Planned(i, stored, b.catalogue)
		if err == nil {
			err = planned.Validate()
		}
		if err != nil {
			return in, refused(err)
		}
		in.Instruments[i] = planned
	}
	in.Order, in.Pins = b.file.Order, openPins(b.file.Pins, b.facts)
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
	return invalid("changes", err.Error(), nil)
}

// renamed are the instruments with another name, promise or show day, and those that are archived or brought back.
func (b *changeSet) renamed() []uuid.UUID {
	known := make(map[uuid.UUID]*recipe.Instrument)
	for _, list := range [][]recipe.Instrument{b.moment.file.Instruments, b.moment.archive.Instruments} {
		for i := range list {
			known[list[i].ID] = &list[i]
		}
	}
	var ids []uuid.UUID
	for _, list := range [][]recipe.Instrument{b.file.Instruments, b.archive.Instruments} {
		for i := range list {
			in := &list[i]
			was := known[in.ID]
			if was != nil && (in.Name != was.Name || in.Serial != was.Serial || in.Promise != was.Promise || dayText(in.Show) != dayText(was.Show) ||
				(in.Archived == nil) != (was.Archived == nil)) {
				ids = append(ids, in.ID)
			}
		}
	}
	return ids
}

// answer plans the changed shop beside today's.
func (b *changeSet) answer() (search.Answer, error) {
	in, err := b.input()
	if err != nil {
		return search.Answer{}, err
	}
	answer, err := search.WhatIf(b.plan, in, b.wider)
	if err != nil {
		return answer, refused(err)
	}
	b.file.Order = slices.Clone(answer.Order)
	return answer, b.checkPins(answer.After)
}

// checkPins refuses a pin at which its event cannot be, saying why.
func (b *changeSet) checkPins(after *schedule.Plan) error {
	for i, c := range b.changes {
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
		return invalid(changePath(i)+"at", why, c.At)
	}
	return nil
}

// decide plans what is decided otherwise, and keeps it.
func (w *unitOfWork) decide(ctx context.Context, b *changeSet) error {
	b.succeed()
	answer, err := b.answer()
	if err != nil {
		return err
	}
	w.changes = b
	if !answer.Kept { // else its dates are today's, in a shop that is another
		w.plan = answer.After
	}
	return w.finish(ctx)
}

// finish writes what differs from the shop as it was, and works out the shop as it is after this change. It fails with
// *Taken where somebody else has taken or changed the same.
func (w *unitOfWork) finish(ctx context.Context) error { return notKept(w.write(ctx)) }

func (w *unitOfWork) write(ctx context.Context) error {
	same := *w.before.state
	same.revision = w.Revision
	next, exact := &same, true
	if b := w.changes; b != nil {
		b.succeed()
		var err error
		if exact, err = w.Tx.Keep(ctx, next.file.With(next.archive), b.file.With(b.archive)); err != nil {
			return err
		}
		if next, err = next.changed(w.Revision, b.file, b.archive, w.before.now); err != nil {
			return refused(err)
		}
	}
	if w.log != nil {
		if err := w.keepStanding(ctx); err != nil {
			return err
		}
		next = next.logged(w.Revision, w.log, w.touched)
	}
	if !exact {
		return w.reread(ctx)
	}
	if w.plan != nil && w.log == nil {
		if w.after = w.desk.adopt(next, w.before.now, w.plan); w.after != nil {
			return nil
		}
	}
	return w.dated(next)
}

// notKept says what somebody else has taken or changed in the meantime.
func notKept(err error) error {
	wrong := new(store.Unkept)
	if !errors.As(err, &wrong) || !errors.Is(err, store.ErrConflict) {
		return err
	}
	if wrong.List == "instruments" {
		return &Taken{Message: fmt.Sprintf("somebody else has changed %s in the meantime", wrong.Name)}
	}
	return named(err, wrong.List, wrong.Name)
}

// keepStanding writes which entries complete their events now.
func (w *unitOfWork) keepStanding(ctx context.Context) error {
	seen := make(map[job.Event]bool)
	var complete []job.Entry
	for _, event := range w.touched {
		was, is := w.before.log.Standing(event), w.log.Standing(event)
		if seen[event] || was == is || (was != nil && is != nil && was.ID == is.ID) {
			continue
		}
		seen[event] = true
		if was != nil {
			if err := w.Uncomplete(ctx, was.ID); err != nil {
				return err
			}
		}
		if is != nil {
			complete = append(complete, *is)
		}
	}
	return w.Complete(ctx, complete...)
}

// adopt takes over the plan of a state that was worked out on this desk; nil where it was worked out from other facts.
func (d *desk) adopt(st *state, now time.Time, plan *schedule.Plan) *moment {
	d.mu.Lock()
	defer d.mu.Unlock()
	input := plan.Input()
	if !maps.Equal(input.Facts, st.facts) || !maps.Equal(input.Pins, st.derived.Pins) || !slices.Equal(input.Order, st.derived.Order) {
		return nil
	}
	d.ground, d.shop = st.ground, input.Shop
	d.last = &moment{state: st, now: now, input: input, plan: plan}
	made := *d.last
	return &made
}
