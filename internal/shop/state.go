package shop

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/formats"
	"umberfrost/internal/store"
)

// state is the whole shop as of one revision. It is never changed: a change makes
// another one, which shares what stayed the same.
type state struct {
	*ground
	revision    int64
	shopID      uuid.UUID             // for life, wherever it is served
	file        *formats.File         // the shop, without its log
	instruments []schedule.Instrument // as they are planned
	facts       map[schedule.Event]schedule.Fact
	about       []job.Entry        // what else stands: moves, tests, rounds settled
	logged      map[uuid.UUID]bool // steps that the log speaks of, also in struck entries
	steps       map[uuid.UUID]located
	aside       *state         // what is put aside, and planned no more; nil where nothing is
	derived     schedule.Input // what dates are derived from, but for the present and the Shop
}

// ground is what a shop has decided about itself, as it holds from a moment on, laid out
// once. Work is planned on: the same ground, the same Shop.
type ground struct {
	at        time.Time
	shop      *schedule.Shop // each desk has a twin of it
	setting   formats.Setting
	calendar  *calendar.Calendar
	people    []store.Person
	materials formats.Materials
	products  []product
}

type product struct {
	store.Product
	material material.Material
}

// load reads the whole shop as it is at a moment. What did not change since an earlier
// state, nil where there is none, is shared with it.
func load(ctx context.Context, tx *store.Tx, now time.Time, earlier *state) (*state, error) {
	revision, shopID, err := tx.Standing(ctx)
	if err != nil {
		return nil, err
	}
	file, err := readShop(ctx, tx, now.Add(-readingsKept))
	if err != nil {
		return nil, err
	}
	st, err := layOut(file, now, earlier)
	if err != nil {
		return nil, fmt.Errorf("the shop as it is kept: %w", err)
	}
	st.revision, st.shopID = revision, shopID
	if st.facts, st.logged, err = readFacts(ctx, tx, st); err != nil {
		return nil, err
	}
	if st.about, err = tx.StandingFacts(ctx); err != nil {
		return nil, err
	}
	st.derive()
	return st, nil
}

// layOut is a shop without its log.
func layOut(file *formats.File, now time.Time, earlier *state) (*state, error) {
	st := &state{file: file}
	aside := file.PutAside()
	if earlier != nil && earlier.holds(now) && reflect.DeepEqual(earlier.file.Shop, file.Shop) &&
		reflect.DeepEqual(earlier.file.Products, file.Products) {
		st.ground = earlier.ground
	} else {
		earlier = nil
		var err error
		if st.ground, err = groundOf(file, now); err != nil {
			return nil, err
		}
	}
	var err error
	if st.derived, err = file.InputOf(st.materials); err != nil {
		return nil, err
	}
	if earlier != nil {
		for i := range min(len(file.Instruments), len(earlier.instruments)) {
			if reflect.DeepEqual(file.Instruments[i], earlier.file.Instruments[i]) {
				st.derived.Instruments[i] = earlier.instruments[i]
			}
		}
	}
	st.instruments = st.derived.Instruments
	st.steps = make(map[uuid.UUID]located)
	for i := range file.Instruments {
		st.place(i)
	}
	if st.aside, err = st.putAside(aside); err != nil {
		return nil, err
	}
	return st, nil
}

// putAside is a state of what is archived, for what is told of it.
func (st *state) putAside(instruments []recipe.Instrument) (*state, error) {
	if len(instruments) == 0 {
		return nil, nil
	}
	aside := &state{ground: st.ground, file: &formats.File{Instruments: instruments}, steps: make(map[uuid.UUID]located)}
	for i := range instruments {
		planned, err := st.materials.Instrument(i, &instruments[i])
		if err != nil {
			return nil, err
		}
		aside.instruments = append(aside.instruments, planned)
		aside.place(i)
	}
	return aside, nil
}

// place notes where the steps of an instrument stand.
func (st *state) place(i int) {
	for p, piece := range st.file.Instruments[i].Pieces {
		for s, step := range piece.Steps {
			st.steps[step.ID] = located{i, p, s, st}
		}
	}
}

func groundOf(file *formats.File, now time.Time) (*ground, error) {
	g := &ground{at: now, setting: file.Shop.Settings[file.SettingAt(now)]}
	var err error
	if g.shop, err = file.ShopAt(now); err != nil {
		return nil, err
	}
	g.calendar = g.shop.Calendar
	if g.materials, err = file.MaterialsAt(now); err != nil {
		return nil, err
	}
	for _, p := range file.Shop.People {
		g.people = append(g.people, store.Person{ID: p.ID, Name: p.Name, Left: p.Left})
	}
	for _, p := range file.Products {
		g.products = append(g.products, product{store.Product{ID: p.ID, Name: p.Name, Family: p.Family}, *g.materials[p.ID.String()]})
	}
	return g, nil
}

// holds reports whether the ground is the same at another moment: nothing that was decided
// ahead of time has come into force.
func (st *state) holds(now time.Time) bool {
	return !now.Before(st.at) && !st.file.ChangesBetween(st.at, now)
}

// from is the same shop at another moment.
func (st *state) from(now time.Time) (*state, error) {
	if st.holds(now) {
		return st, nil
	}
	next, err := layOut(st.file, now, nil)
	if err != nil {
		return nil, fmt.Errorf("the shop as it is kept: %w", err)
	}
	next.revision, next.shopID, next.facts, next.about, next.logged, next.aside = st.revision, st.shopID, st.facts, st.about, st.logged, st.aside
	next.derive()
	return next, nil
}

// readFacts reads what is done or left out, and of which steps the log speaks.
func readFacts(ctx context.Context, tx *store.Tx, st *state) (map[schedule.Event]schedule.Fact, map[uuid.UUID]bool,
	error) {
	rows, err := tx.Completions(ctx)
	if err != nil {
		return nil, nil, err
	}
	facts := make(map[schedule.Event]schedule.Fact, len(rows))
	for _, row := range rows {
		at, known := st.recall(row.Step)
		if !known || row.Regions < len(at.step().Regions) {
			continue
		}
		facts[schedule.Event{Step: row.Step, Coat: row.Coat}] = at.fact(job.Entry{Kind: row.Kind, HappenedAt: row.HappenedAt,
			Minutes: row.Minutes, Actual: row.Actual.V})
	}
	spoken, err := tx.LoggedSteps(ctx)
	logged := make(map[uuid.UUID]bool, len(spoken))
	for _, id := range spoken {
		logged[id] = true
	}
	return facts, logged, err
}

// fact is what an entry that stands makes of an event of a step.
func (l located) fact(e job.Entry) schedule.Fact {
	return schedule.FactOf(&e, l.step().HandsOnMin, l.state.materials.Used(&e))
}

// derive puts what is logged into what dates are derived from.
func (st *state) derive() {
	st.derived.Facts, st.derived.Pins = st.facts, make(map[schedule.Event]time.Time)
	for _, p := range st.file.Pins {
		event := p.Event
		if _, done := st.facts[event]; !done { // a fact beats a pin
			st.derived.Pins[event] = p.At
		}
	}
	st.derived.Moves, st.derived.Tests, st.derived.Settled = nil, nil, make(map[uuid.UUID]int)
	for i := range st.about {
		st.derived.Read(&st.about[i], 0, nil)
	}
}

// appended is this shop at a new revision with more entries in its log, in the order in
// which they were added. Those of an event stand where it has none yet; what stands for the
// events of struck entries is told by stands.
func (st *state) appended(revision int64, added []job.Entry, stands map[schedule.Event]*job.Entry) *state {
	next := *st
	next.revision, next.facts, next.logged, next.about = revision, maps.Clone(st.facts), maps.Clone(st.logged), slices.Clone(st.about)
	for _, e := range added {
		if e.Step != nil {
			next.logged[*e.Step] = true
		}
		switch e.Kind {
		case job.Done, job.Skipped:
			if _, done := next.facts[e.Event()]; !done {
				next.facts[e.Event()] = next.steps[e.Event().Step].fact(e)
			}
		case job.Moved, job.Tested, job.Settled:
			at, _ := slices.BinarySearchFunc(next.about, e, func(a, b job.Entry) int { return a.Compare(&b) })
			next.about = slices.Insert(next.about, at, e)
		case job.Void:
			next.about = slices.DeleteFunc(next.about, func(known job.Entry) bool { return known.ID == *e.Voids })
		}
	}
	for event, e := range stands {
		if delete(next.facts, event); e != nil {
			next.facts[event] = next.steps[event.Step].fact(*e)
		}
	}
	next.derive()
	return &next
}

// measured is this shop at a new revision with more readings of its air.
func (st *state) measured(revision int64, now time.Time, rows []store.Reading) (*state, error) {
	next, file, g := *st, *st.file, *st.ground
	readings := slices.Clone(file.Shop.Readings)
	for _, row := range rows {
		r := fileReading(row)
		if r.At.Before(now.Add(-readingsKept)) {
			continue
		}
		first, _ := slices.BinarySearchFunc(readings, r, byPlaceAndTime)
		after := first // those of the very same moment, of which the one recorded last counts
		for after < len(readings) && byPlaceAndTime(readings[after], r) == 0 {
			after++
		}
		if !slices.ContainsFunc(readings[first:after],
			func(known formats.Reading) bool { return known.Air == r.Air && known.Entered == r.Entered }) {
			readings = slices.Insert(readings, after, r)
		}
	}
	file.Shop.Readings = readings
	var err error
	if g.shop, err = file.ShopAt(now); err != nil {
		return nil, err
	}
	g.at, g.calendar = now, g.shop.Calendar
	next.revision, next.file, next.ground = revision, &file, &g
	return &next, nil
}

// byPlaceAndTime is the order in which readings are kept.
func byPlaceAndTime(a, b formats.Reading) int {
	return cmp.Or(slices.Compare(a.Place[:], b.Place[:]), a.At.Compare(b.At), a.RecordedAt.Compare(b.RecordedAt))
}

// find returns the stored step with its piece and instrument.
func (st *state) find(id uuid.UUID) (found located, ok bool) {
	found, ok = st.steps[id]
	return found, ok
}

// recall returns a stored step also where its instrument is put aside.
func (st *state) recall(id uuid.UUID) (found located, ok bool) {
	if found, ok = st.steps[id]; !ok && st.aside != nil {
		found, ok = st.aside.steps[id]
	}
	return found, ok
}

// located is where a step stands.
type located struct {
	i, p, s int
	state   *state
}

func (l located) instrument() *recipe.Instrument { return &l.state.file.Instruments[l.i] }
func (l located) piece() *job.Piece              { return &l.instrument().Pieces[l.p] }
func (l located) step() *job.Step                { return &l.piece().Steps[l.s] }
func (l located) planned() schedule.Step         { return l.state.instruments[l.i].Pieces[l.p].Steps[l.s] }

// where names the regions of a step that is not done to all of its piece; empty where it is.
func (l located) where() string {
	regions, step := l.piece().Regions, l.step()
	if len(step.Regions) == 0 || len(step.Regions) == len(regions) {
		return ""
	}
	var names []string
	for _, z := range regions {
		if slices.Contains(step.Regions, z.ID) {
			names = append(names, z.Name)
		}
	}
	return phrase.List(names)
}

// materialOf is what a step is put on with, as its sheet stands now.
func (st *state) materialOf(step *job.Step) (material.Material, error) {
	made, err := st.materials.Of(step)
	if err != nil || made == nil {
		return material.Material{}, err
	}
	return *made, nil
}
