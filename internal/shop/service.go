// Package shop is what a person does: look at the rack, plan an instrument, log
// a coat. Each use case loads what it needs, asks craft, and saves in one
// transaction. The types it returns are the views of the API.
package shop

import (
	"context"
	"fmt"
	"sync"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/caution"
	"umberfrost/internal/craft/check"
	"umberfrost/internal/craft/labour"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
	"umberfrost/internal/store"
)

// Service carries out the use cases on one shop's database.
type Service struct {
	store *store.Store
	clock func() time.Time

	mu     sync.Mutex
	latest *moment // the last one worked out
}

// New makes a service. The clock is the present; a fixed one makes every date
// repeatable.
func New(s *store.Store, clock func() time.Time) (*Service, error) {
	for _, check := range []func() error{wood.Check, material.Check, labour.Check, abrasive.Check, caution.Check, check.Valid} {
		if err := check(); err != nil {
			return nil, fmt.Errorf("reference data: %w", err)
		}
	}
	return &Service{store: s, clock: clock}, nil
}

// Now is the present as this shop sees it.
func (s *Service) Now() time.Time { return s.clock() }

// Ready reports whether the database answers.
func (s *Service) Ready(ctx context.Context) error {
	_, err := s.store.Revision(ctx)
	return err
}

// state is everything the planner needs, as of one revision.
type state struct {
	revision    int64
	setting     store.ShopSetting
	calendar    *schedule.Calendar
	people      []store.Person
	products    []product
	stored      []store.Instrument
	instruments []schedule.Instrument
	order       []schedule.Event
	facts       map[schedule.Event]schedule.Fact
}

type product struct {
	store.Product
	material material.Material
}

// moment is a state with its dates at one minute.
type moment struct {
	*state
	now  time.Time
	plan *schedule.Plan
}

// present returns the state and its dates now, from memory when nothing has
// changed since they were last worked out in this minute.
func (s *Service) present(ctx context.Context) (*moment, error) {
	revision, err := s.store.Revision(ctx)
	if err != nil {
		return nil, err
	}
	now := s.clock().Truncate(time.Minute)
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.latest != nil && s.latest.revision == revision && s.latest.now.Equal(now) {
		return s.latest, nil
	}
	var m *moment
	err = s.store.Read(ctx, func(tx *store.Tx) error {
		m, err = load(ctx, tx, now)
		return err
	})
	if err != nil {
		return nil, err
	}
	s.latest = m
	return m, nil
}

// load reads the whole shop and dates it.
func load(ctx context.Context, tx *store.Tx, now time.Time) (*moment, error) {
	st := &state{}
	if err := tx.GetContext(ctx, &st.revision, `select number from revision`); err != nil {
		return nil, err
	}
	var err error
	if st.setting, err = tx.ShopAt(ctx, now); err != nil {
		return nil, fmt.Errorf("shop settings: %w", err)
	}
	if st.calendar, err = calendarOf(st.setting); err != nil {
		return nil, fmt.Errorf("shop settings: %w", err)
	}
	if st.people, err = tx.People(ctx); err != nil {
		return nil, err
	}
	if err := st.loadProducts(ctx, tx, now); err != nil {
		return nil, err
	}
	if st.stored, err = tx.Instruments(ctx); err != nil {
		return nil, err
	}
	for _, in := range st.stored {
		planned, err := st.toPlan(in)
		if err != nil {
			return nil, err
		}
		st.instruments = append(st.instruments, planned)
	}
	if st.order, err = tx.Order(ctx); err != nil {
		return nil, err
	}
	if err := st.loadFacts(ctx, tx); err != nil {
		return nil, err
	}
	return st.at(now)
}

// at dates the state.
func (st *state) at(now time.Time) (*moment, error) {
	plan, err := schedule.Retime(schedule.Input{
		Now: now, Calendar: st.calendar, Margin: st.setting.Margin,
		Instruments: st.instruments, Order: st.order, Facts: st.facts,
	})
	if err != nil {
		return nil, fmt.Errorf("planning: %w", err)
	}
	return &moment{state: st, now: now, plan: plan}, nil
}

func calendarOf(setting store.ShopSetting) (*schedule.Calendar, error) {
	zone, err := time.LoadLocation(setting.TimeZone)
	if err != nil {
		return nil, err
	}
	exceptions := make(map[schedule.Day][]schedule.Hours)
	for text, hours := range setting.Exceptions.V {
		day, err := schedule.ParseDay(text)
		if err != nil {
			return nil, err
		}
		exceptions[day] = hours
	}
	return schedule.NewCalendar(zone, setting.Week.V, exceptions)
}

func (st *state) loadProducts(ctx context.Context, tx *store.Tx, now time.Time) error {
	rows, err := tx.ProductsAt(ctx, now)
	if err != nil {
		return err
	}
	for _, row := range rows {
		family, err := material.FindFamily(row.Family)
		if err != nil {
			return fmt.Errorf("product %s: %w", row.Name, err)
		}
		m, err := material.OfProduct(family, row.ID.String(), row.Name, []byte(row.Sheet))
		if err != nil {
			return err
		}
		st.products = append(st.products, product{row, m})
	}
	return nil
}

func (st *state) loadFacts(ctx context.Context, tx *store.Tx) error {
	rows, err := tx.Completions(ctx)
	if err != nil {
		return err
	}
	zones, minutes := make(map[uuid.UUID]int), make(map[uuid.UUID]int)
	for _, in := range st.stored {
		for _, piece := range in.Pieces {
			for _, step := range piece.Steps {
				zones[step.ID], minutes[step.ID] = len(step.Zones), step.HandsOnMin
			}
		}
	}
	st.facts = make(map[schedule.Event]schedule.Fact, len(rows))
	for _, row := range rows {
		if row.Zones < zones[row.Step] {
			continue
		}
		took := minutes[row.Step]
		if row.Minutes != nil {
			took = *row.Minutes
		}
		skipped := row.Kind == store.Skipped
		if skipped {
			took = 0
		}
		st.facts[schedule.Event{Step: row.Step, Coat: row.Coat}] = schedule.Fact{End: row.HappenedAt, Minutes: unit.Minutes(took), Skipped: skipped}
	}
	return nil
}

// toPlan turns a stored instrument into what the planner reads.
func (st *state) toPlan(in store.Instrument) (schedule.Instrument, error) {
	out := schedule.Instrument{ID: in.ID, Name: in.Name, Promise: in.PromiseDay()}
	for _, piece := range in.Pieces {
		p := schedule.Piece{ID: piece.ID, Name: piece.Kind}
		for _, step := range piece.Steps {
			s := schedule.Step{
				ID: step.ID, Slot: step.Slot, Piece: piece.ID, Zones: step.Zones, Kind: schedule.Kind(step.Kind), Title: step.Title,
				Coats: step.Coats, Minutes: unit.Minutes(step.HandsOnMin), Film: material.Milestone(step.Film),
				Rest: time.Duration(step.RestMin) * time.Minute, After: step.After,
			}
			if step.Family != "" {
				m, err := st.materialOf(step)
				if err != nil {
					return out, fmt.Errorf("%s, step %q: %w", in.Name, step.Title, err)
				}
				s.Material = &m
			}
			p.Steps = append(p.Steps, s)
		}
		out.Pieces = append(out.Pieces, p)
	}
	return out, nil
}

func (st *state) materialOf(step store.Step) (material.Material, error) {
	if step.Product != nil {
		for _, p := range st.products {
			if p.ID == *step.Product {
				return p.material, nil
			}
		}
	}
	family, err := material.FindFamily(step.Family)
	return material.OfFamily(family), err
}

func checkSheet(name, family, sheet string) error {
	f, err := material.FindFamily(family)
	if err != nil {
		return err
	}
	_, err = material.OfProduct(f, "", name, []byte(sheet))
	return err
}
