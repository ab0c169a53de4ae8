package shop

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/formats"
	"umberfrost/internal/store"
)

// bent is the shop with some decisions changed. The what-if plans it, and keeping
// writes it down: both from the same file, so that what is kept is what was asked.
type bent struct {
	*moment
	changes []Change
	by      uuid.UUID // who decides
	file    *formats.File
	said    []string // each change in words
	wider   bool     // all of them only widen what is allowed
	// What differs from the shop as it is kept.
	setting  bool
	places   map[uuid.UUID]bool
	people   map[uuid.UUID]bool
	steps    map[uuid.UUID]bool
	inserted []uuid.UUID
	dropped  []uuid.UUID
	gone     []uuid.UUID        // pieces
	lost     []uuid.UUID        // regions
	pieces   map[uuid.UUID]bool // whose steps are others, or in another order; new ones too
	wished   map[uuid.UUID]bool // instruments that are wished otherwise
	pins     map[schedule.Event]bool
	order    bool
	cared    map[uuid.UUID]bool               // instruments with another name, promise or show day, put aside or brought back
	aside    map[uuid.UUID]*recipe.Instrument // those that are put aside
}

// bend applies changes, one after the other. It fails with *Invalid naming the
// change and the field.
func (m *moment) bend(changes []Change, by uuid.UUID) (*bent, error) {
	b := &bent{moment: m, changes: changes, by: by, file: m.file.Clone(), wider: true, places: make(map[uuid.UUID]bool),
		people: make(map[uuid.UUID]bool),
		steps:  make(map[uuid.UUID]bool), pieces: make(map[uuid.UUID]bool), wished: make(map[uuid.UUID]bool),
		pins: make(map[schedule.Event]bool), cared: make(map[uuid.UUID]bool), aside: make(map[uuid.UUID]*recipe.Instrument)}
	for i := range changes {
		if err := b.apply(i, &changes[i]); err != nil {
			return nil, within(changePath(i), err)
		}
	}
	return b, nil
}

// say notes a change in words, and whether it only widens what is allowed.
func (b *bent) say(wider bool, format string, args ...any) error {
	b.said = append(b.said, fmt.Sprintf(format, args...))
	b.wider = b.wider && wider
	return nil
}

// input is what dates are derived from in the bent shop.
func (b *bent) input() (schedule.Input, error) {
	in := b.moment.input
	if b.setting || len(b.places)+len(b.people) > 0 {
		var err error
		if in.Shop, err = b.file.ShopAt(b.now); err != nil {
			return in, refused(err)
		}
	}
	if len(b.steps)+len(b.inserted)+len(b.pieces)+len(b.cared) > 0 {
		was := make(map[uuid.UUID]schedule.Instrument, len(in.Instruments))
		for _, known := range in.Instruments {
			was[known.ID] = known
		}
		in.Instruments = make([]schedule.Instrument, len(b.file.Instruments))
		for i := range b.file.Instruments {
			stored := &b.file.Instruments[i]
			if known, there := was[stored.ID]; there && !b.cared[stored.ID] && !b.touched(stored) {
				in.Instruments[i] = known
				continue
			}
			instrument, err := b.materials.Instrument(i, stored)
			if err == nil {
				err = instrument.Validate()
			}
			if err != nil {
				return in, refused(err)
			}
			in.Instruments[i] = instrument
		}
	}
	if b.order {
		in.Order = b.file.Order
	}
	if len(b.pins) > 0 {
		in.Pins = maps.Clone(in.Pins)
		for event := range b.pins {
			delete(in.Pins, event)
		}
		for _, p := range b.file.Pins {
			if event := p.Event; b.pins[event] {
				in.Pins[event] = p.At
			}
		}
	}
	return in, nil
}

func refused(err error) error {
	var wrong *formats.Invalid
	if errors.As(err, &wrong) && len(wrong.Faults) > 0 {
		return invalid("changes", wrong.Faults[0].Message, nil)
	}
	return invalid("changes", err.Error(), nil)
}

func (b *bent) touched(in *recipe.Instrument) bool {
	for p := range in.Pieces {
		if b.pieces[in.Pieces[p].ID] {
			return true
		}
		for s := range in.Pieces[p].Steps {
			if id := in.Pieces[p].Steps[s].ID; b.steps[id] || slices.Contains(b.inserted, id) {
				return true
			}
		}
	}
	return false
}

// answer plans the bent shop beside today's.
func (b *bent) answer() (search.Answer, error) {
	in, err := b.input()
	if err != nil {
		return search.Answer{}, err
	}
	answer, err := search.WhatIf(b.plan, in, b.wider)
	if err != nil {
		return answer, refused(err)
	}
	if !slices.Equal(answer.Order, in.Order) {
		b.setOrder(answer.Order)
	}
	return answer, b.checkPins(answer.After)
}

// checkPins refuses a pin at which its event cannot be, saying why.
func (b *bent) checkPins(after *schedule.Plan) error {
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

func (b *bent) setOrder(order []schedule.Event) {
	b.order, b.file.Order = true, slices.Clone(order)
}

// keep writes what differs into the database.
func (b *bent) keep(ctx context.Context, tx *store.Tx) error {
	for _, part := range []func(context.Context, *store.Tx) error{b.keepShop, b.keepWork, b.keepPins} {
		if err := part(ctx, tx); err != nil {
			return err
		}
	}
	return nil
}

func (b *bent) keepShop(ctx context.Context, tx *store.Tx) error {
	if b.setting {
		if err := tx.AddShopSetting(ctx, storeSetting(*b.current())); err != nil {
			return err
		}
	}
	for i := range b.file.Shop.Places {
		if p := &b.file.Shop.Places[i]; b.places[p.ID] {
			if err := tx.AddPlace(ctx, storePlace(p.ID, *b.version(p))); err != nil {
				return err
			}
		}
	}
	for _, p := range b.file.Shop.People {
		if !b.people[p.ID] {
			continue
		}
		row := store.Person{ID: p.ID, Name: p.Name, Week: storeWeek(p.Week), Left: p.Left}
		keep := tx.ChangePerson
		if !slices.ContainsFunc(b.moment.people, func(known store.Person) bool { return known.ID == p.ID }) {
			keep = tx.AddPerson
		}
		if err := keep(ctx, row); errors.Is(err, store.ErrConflict) {
			return invalid("changes.person.name", "somebody else here has that name already", p.Name)
		} else if err != nil {
			return err
		}
	}
	return nil
}

func (b *bent) keepWork(ctx context.Context, tx *store.Tx) error {
	for _, id := range b.dropped {
		if err := tx.DropStep(ctx, id); err != nil {
			return err
		}
	}
	for i := range b.file.Instruments {
		if err := b.keepInstrument(ctx, tx, i); err != nil {
			return err
		}
	}
	for _, in := range b.aside {
		if err := tx.ChangeInstrument(ctx, *in); err != nil {
			return err
		}
	}
	for _, id := range b.gone { // once no step is done to its regions
		if err := tx.DropPiece(ctx, id); err != nil {
			return err
		}
	}
	for _, id := range b.lost {
		if err := tx.DropRegion(ctx, id); err != nil {
			return err
		}
	}
	if !b.order {
		return nil
	}
	return tx.SetOrder(ctx, b.file.Order)
}

func (b *bent) keepInstrument(ctx context.Context, tx *store.Tx, i int) error {
	in := &b.file.Instruments[i]
	if b.cared[in.ID] {
		if err := tx.ChangeInstrument(ctx, *in); err != nil {
			return err
		}
	}
	if b.wished[in.ID] {
		if err := tx.ChangeWish(ctx, in.ID, *in.Wish); err != nil {
			return err
		}
	}
	if b.wished[in.ID] {
		if err := tx.AddPieces(ctx, in.ID, in.Pieces); err != nil {
			return err
		}
	}
	for p := range in.Pieces {
		if err := b.keepPiece(ctx, tx, in, p); err != nil {
			return err
		}
	}
	return nil
}

func (b *bent) keepPiece(ctx context.Context, tx *store.Tx, in *recipe.Instrument, p int) error {
	piece := &in.Pieces[p]
	order := make([]uuid.UUID, len(piece.Steps))
	for s := range piece.Steps {
		step := &piece.Steps[s]
		order[s] = step.ID
		var err error
		switch {
		case slices.Contains(b.inserted, step.ID):
			err = tx.InsertStep(ctx, in.ID, piece, s, *step)
		case b.steps[step.ID]:
			err = tx.ChangeStep(ctx, piece, *step)
		}
		if errors.Is(err, store.ErrConflict) {
			return &Taken{Message: fmt.Sprintf("somebody else has changed “%s” of %s in the meantime", step.Title, in.Name)}
		}
		if err != nil {
			return err
		}
	}
	if !b.pieces[piece.ID] {
		return nil
	}
	return tx.PlaceSteps(ctx, piece.ID, order)
}

func (b *bent) keepPins(ctx context.Context, tx *store.Tx) error {
	for event := range b.pins {
		if err := tx.RemovePin(ctx, event); err != nil {
			return err
		}
	}
	for _, p := range b.file.Pins {
		if event := p.Event; b.pins[event] {
			if err := tx.AddPin(ctx, store.Pin{Step: p.Step, Coat: p.Coat, At: p.At, Person: p.Person, MadeAt: p.MadeAt}); err != nil {
				return err
			}
		}
	}
	return nil
}
