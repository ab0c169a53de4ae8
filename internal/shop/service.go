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
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
	"umberfrost/internal/formats"
	"umberfrost/internal/store"
)

// Service carries out the use cases on one shop's database.
type Service struct {
	store *store.Store
	clock func() time.Time

	seen  sight // what is looked at all the time
	asked sight // what takes longer: what-ifs and forecasts, which looks need not wait for

	writing sync.Mutex     // held by the one that changes the shop
	basis   *formats.Basis // what changes plan on, while shop and products stay the same

	watch watch
}

// New makes a service. The clock is the present; a fixed one makes every date
// repeatable.
func New(s *store.Store, clock func() time.Time) (*Service, error) {
	for _, check := range []func() error{wood.Check, material.Check, labour.Check, abrasive.Check, caution.Check, check.Valid, layering.Check, recipe.Check} {
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
	file        *formats.File // the shop, without its log
	setting     formats.Setting
	calendar    *schedule.Calendar
	people      []store.Person
	products    []product
	basis       *formats.Basis
	stored      []store.Instrument
	input       schedule.Input
	instruments []schedule.Instrument
	facts       map[schedule.Event]schedule.Fact
	logged      map[uuid.UUID]bool // steps that the log speaks of, also in struck entries
}

type product struct {
	store.Product
	material material.Material
}

// moment is a state with its dates at one minute.
type moment struct {
	*state
	now      time.Time
	plan     *schedule.Plan
	rack     *Rack           // made when it is first asked for
	outlooks map[int]Outlook // by instrument, likewise
	chances  map[uuid.UUID]schedule.Chance
}

// sight is the shop as it was last worked out, for one view at a time: plans lay out
// clocks as they are asked.
type sight struct {
	mu     sync.Mutex
	latest *moment
}

// look makes a view of the shop as it is now, one at a time: from memory when
// nothing has changed since dates were last worked out in this minute, and by
// retiming when only time has passed.
func (s *Service) look(ctx context.Context, view func(*moment) error) error {
	return s.lookBy(ctx, &s.seen, view)
}

// ask is a look that may take its time, without keeping others from looking.
func (s *Service) ask(ctx context.Context, view func(*moment) error) error {
	return s.lookBy(ctx, &s.asked, view)
}

func (s *Service) lookBy(ctx context.Context, by *sight, view func(*moment) error) error {
	revision, err := s.store.Revision(ctx)
	if err != nil {
		return err
	}
	by.mu.Lock()
	defer by.mu.Unlock()
	if err := s.refresh(ctx, by, revision, s.clock().Truncate(time.Minute)); err != nil {
		return err
	}
	return view(by.latest)
}

// refresh brings a sight up to a revision and a minute.
func (s *Service) refresh(ctx context.Context, by *sight, revision int64, now time.Time) error {
	last := by.latest
	if last != nil && last.revision == revision && last.now.Equal(now) {
		return nil
	}
	var next *moment
	var err error
	if last != nil && last.revision == revision && last.now.Before(now) && !last.file.ChangesBetween(last.now, now) {
		next, err = last.later(now)
	} else {
		var basis *formats.Basis
		if last != nil {
			basis = last.basis
		}
		err = s.store.Read(ctx, func(tx *store.Tx) (err error) {
			next, err = load(ctx, tx, now, &basis)
			return err
		})
	}
	if err != nil {
		return err
	}
	next.setChances(s.watch.chancesNow())
	by.latest = next
	return nil
}

// change runs a use case that changes the shop: all of it is kept, or nothing.
func (s *Service) change(ctx context.Context, do func(*store.Tx) error) error {
	s.writing.Lock()
	defer s.writing.Unlock()
	return s.store.Write(ctx, do)
}

// loadToChange reads the shop within a change.
func (s *Service) loadToChange(ctx context.Context, tx *store.Tx, now time.Time) (*moment, error) {
	return load(ctx, tx, now, &s.basis)
}

// later is the same shop some minutes on.
func (m *moment) later(now time.Time) (*moment, error) {
	st := *m.state
	st.input.Now = now
	plan, err := m.plan.Retime(st.input)
	if err != nil {
		return nil, fmt.Errorf("planning: %w", err)
	}
	return &moment{state: &st, now: now, plan: plan}, nil
}

// load reads the whole shop and dates it, on the basis it is given while that
// holds; it leaves the one that does.
func load(ctx context.Context, tx *store.Tx, now time.Time, basis **formats.Basis) (*moment, error) {
	st := &state{}
	if err := tx.GetContext(ctx, &st.revision, `select number from revision`); err != nil {
		return nil, err
	}
	var err error
	if st.file, st.stored, err = readShop(ctx, tx, now.Add(-readingsKept)); err != nil {
		return nil, err
	}
	if *basis == nil || !(*basis).Holds(st.file, now) {
		if *basis, err = st.file.Basis(now); err != nil {
			return nil, fmt.Errorf("the shop as it is kept: %w", err)
		}
	}
	st.basis = *basis
	if st.input, err = st.file.InputOn(st.basis, now); err != nil {
		return nil, fmt.Errorf("the shop as it is kept: %w", err)
	}
	st.setting = st.file.Shop.Settings[st.file.SettingAt(now)]
	st.calendar, st.instruments = st.input.Shop.Calendar, st.input.Instruments
	for _, p := range st.file.Shop.People {
		st.people = append(st.people, store.Person{ID: p.ID, Name: p.Name, Left: p.Left})
	}
	if err := st.gatherProducts(); err != nil {
		return nil, err
	}
	if err := st.loadFacts(ctx, tx); err != nil {
		return nil, err
	}
	return st.at(now)
}

// at dates the state.
func (st *state) at(now time.Time) (*moment, error) {
	st.input.Now = now
	plan, err := schedule.Retime(st.input)
	if err != nil {
		return nil, fmt.Errorf("planning: %w", err)
	}
	return &moment{state: st, now: now, plan: plan}, nil
}

func (st *state) gatherProducts() error {
	for _, p := range st.file.Products {
		made, err := st.basis.Materials.Of(&formats.Step{Family: p.Family, Product: &p.ID})
		if err != nil {
			return fmt.Errorf("product %s: %w", p.Name, err)
		}
		st.products = append(st.products, product{store.Product{ID: p.ID, Name: p.Name, Family: p.Family}, *made})
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
	st.input.Facts = st.facts
	for event := range st.input.Pins {
		if _, done := st.facts[event]; done {
			delete(st.input.Pins, event) // a fact beats a pin
		}
	}
	return st.loadAbout(ctx, tx)
}

// loadAbout reads what else the log says of pieces and films.
func (st *state) loadAbout(ctx context.Context, tx *store.Tx) error {
	steps, err := tx.LoggedSteps(ctx)
	if err != nil {
		return err
	}
	st.logged = make(map[uuid.UUID]bool, len(steps))
	for _, id := range steps {
		st.logged[id] = true
	}
	entries, err := tx.StandingFacts(ctx)
	for _, e := range entries {
		switch e.Kind {
		case store.Moved:
			st.input.Moves = append(st.input.Moves, schedule.Move{Piece: *e.Piece, Place: *e.Place, At: e.HappenedAt})
		case store.Tested:
			st.input.Tests = append(st.input.Tests, schedule.Test{Event: schedule.Event{Step: *e.Step, Coat: *e.Coat},
				Milestone: material.Milestone(e.Milestone), At: e.HappenedAt, Passed: *e.Passed})
		case store.Settled:
			st.input.Settled[*e.Step] = *e.Coat
		}
	}
	return err
}

// materialOf is what a step is put on with, as its sheet stands now.
func (st *state) materialOf(step store.Step) (material.Material, error) {
	made, err := st.basis.Materials.Of(&formats.Step{Family: step.Family, Product: step.Product})
	if err != nil || made == nil {
		return material.Material{}, err
	}
	return *made, nil
}

func checkSheet(name, family, sheet string) error {
	f, err := material.FindFamily(family)
	if err != nil {
		return err
	}
	_, err = material.OfProduct(f, "", name, []byte(sheet))
	return err
}
