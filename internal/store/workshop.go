package store

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/workshop"
)

// A workshop is read as a whole, and what is kept of a change is the difference of two.

// Unkept is what could not be kept: of which list, and what it is called.
type Unkept struct {
	List string
	Name string
	Err  error
}

func (u *Unkept) Error() string { return fmt.Sprintf("%s, %q: %v", u.List, u.Name, u.Err) }
func (u *Unkept) Unwrap() error { return u.Err }

func unkept(list, name string, err error) error {
	if err == nil || errors.Is(err, ErrUnavailable) {
		return err
	}
	return &Unkept{list, name, err}
}

// Workshop reads the shop, its archive with it and its log left out, with the readings of its air since a moment.
func (tx *Tx) Workshop(ctx context.Context, since time.Time) (*workshop.Workshop, error) {
	w := &workshop.Workshop{}
	for _, read := range []func() error{
		func() (err error) { w.Shop, err = readShop(ctx, tx, since); return err },
		func() (err error) { w.Products, err = readProducts(ctx, tx); return err },
		func() (err error) { w.Recipes, err = readRecipes(ctx, tx); return err },
		func() (err error) { w.Instruments, err = readInstruments(ctx, tx); return err },
		func() (err error) { w.Order, err = readOrder(ctx, tx); return err },
		func() (err error) { w.Pins, err = readPins(ctx, tx); return err },
	} {
		if err := read(); err != nil {
			return nil, err
		}
	}
	return w, nil
}

// Keep writes what differs between two states of a shop, of which the later one succeeds the other. Readings are not
// part of it: they are appended. It reports whether the database is just as the later one says: a piece or a region
// that is gone, but of which the log speaks, stays there. It fails with *Unkept where something cannot be kept, because
// of ErrConflict where its id or its name is taken, or somebody else has changed it.
func (tx *Tx) Keep(ctx context.Context, before, after *workshop.Workshop) (exact bool, err error) {
	exact = true
	for _, keep := range []func() error{
		func() error { return neverDropped(before, after) },
		func() error { return keepShop(ctx, tx, &before.Shop, &after.Shop) },
		func() error { return keepProducts(ctx, tx, before.Products, after.Products) },
		func() error { return keepRecipes(ctx, tx, before.Recipes, after.Recipes) },
		func() (err error) {
			exact, err = keepInstruments(ctx, tx, before.Instruments, after.Instruments)
			return err
		},
		func() error { return keepOrder(ctx, tx, before.Order, after.Order) },
		func() error { return keepPins(ctx, tx, before.Pins, after.Pins) },
	} {
		if err := keep(); err != nil {
			return false, err
		}
	}
	return exact, nil
}

// neverDropped fails where something is gone that the database never lets go: people and places leave, recipes retire, and
// what a setting or a product was is needed for what was done under it.
func neverDropped(before, after *workshop.Workshop) error {
	return errors.Join(
		gone("settings", before.Shop.Settings, after.Shop.Settings, func(s settings.Setting) any { return s.ValidFrom.UnixMicro() }),
		gone("people", before.Shop.People, after.Shop.People, func(p settings.Person) any { return p.ID }),
		gone("places", before.Shop.Places, after.Shop.Places, func(p settings.Place) any { return p.ID }),
		gone("products", before.Products, after.Products, func(p material.Product) any { return p.ID }),
		gone("recipes", before.Recipes, after.Recipes, func(r recipe.Own) any { return r.ID }))
}

// gone fails where something of a list is not in the later one.
func gone[T any](list string, before, after []T, id func(T) any) error {
	for _, was := range before {
		if !slices.ContainsFunc(after, func(is T) bool { return id(is) == id(was) }) {
			return fmt.Errorf("%s are never dropped: %v is", list, id(was))
		}
	}
	return nil
}

// keepInstruments writes new instruments and what differs of others, and drops those that are gone.
func keepInstruments(ctx context.Context, tx *Tx, before, after []recipe.Instrument) (exact bool, err error) {
	known := make(map[uuid.UUID]*recipe.Instrument)
	for i := range before {
		known[before[i].ID] = &before[i]
	}
	exact = true
	for i := range after {
		in := &after[i]
		was := known[in.ID]
		delete(known, in.ID)
		switch {
		case was == nil:
			err = addInstrument(ctx, tx, in)
		case !workshop.Same(was, in):
			var all bool
			all, err = changeInstrument(ctx, tx, was, in)
			exact = exact && all
		}
		if err != nil {
			return false, unkept("instruments", in.Name, err)
		}
	}
	for _, gone := range known {
		if err := dropInstrument(ctx, tx, gone.ID); err != nil {
			return false, unkept("instruments", gone.Name, err)
		}
	}
	return exact, nil
}

// readOrder is the accepted order of work, first served first.
func readOrder(ctx context.Context, tx *Tx) ([]job.Event, error) {
	return all[job.Event](ctx, tx, 10*most, `select step_id, coat from work_order order by rank limit $1`)
}

// keepOrder replaces the accepted order of work.
func keepOrder(ctx context.Context, tx *Tx, before, after []job.Event) error {
	if slices.Equal(before, after) {
		return nil
	}
	if _, err := tx.sql.ExecContext(ctx, `delete from work_order`); err != nil {
		return explain(err)
	}
	steps, coats := make([]uuid.UUID, len(after)), make([]int, len(after))
	for i, e := range after {
		steps[i], coats[i] = e.Step, e.Coat
	}
	_, err := tx.sql.ExecContext(ctx, `
		insert into work_order (rank, step_id, coat)
		select n, step_id, coat from unnest($1::uuid[], $2::int[]) with ordinality as given (step_id, coat, n)`, steps, coats)
	return explain(err)
}

// readPins lists every pin.
func readPins(ctx context.Context, tx *Tx) ([]job.Pin, error) {
	list, err := all[job.Pin](ctx, tx, most, `select * from pin order by step_id, coat limit $1`)
	for i := range list {
		list[i].At, list[i].MadeAt = list[i].At.UTC(), list[i].MadeAt.UTC()
	}
	return list, err
}

// keepPins writes new pins, and those that are elsewhere, and lets go those that are gone.
func keepPins(ctx context.Context, tx *Tx, before, after []job.Pin) error {
	was := make(map[job.Event]job.Pin)
	for _, p := range before {
		was[p.Event] = p
	}
	var put []job.Pin
	for _, p := range after {
		old, there := was[p.Event]
		delete(was, p.Event)
		if !there || !old.At.Equal(p.At) || !old.MadeAt.Equal(p.MadeAt) {
			put = append(put, p)
		}
	}
	for event := range was {
		if _, err := tx.sql.ExecContext(ctx, `delete from pin where step_id = $1 and coat = $2`, event.Step, event.Coat); err != nil {
			return explain(err)
		}
	}
	return inBulk(ctx, tx, `
		insert into pin (step_id, coat, at, person_id, made_at) values (:step_id, :coat, :at, :person_id, :made_at)
		on conflict (step_id, coat) do update set at = excluded.at, person_id = excluded.person_id, made_at = excluded.made_at`, put)
}
