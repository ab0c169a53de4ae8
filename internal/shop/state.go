package shop

import (
	"cmp"
	"context"
	"errors"
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
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/workshop"
	"umberfrost/internal/store"
)

// ErrNotBegun says that a shop has not said anything about itself yet.
var ErrNotBegun = errors.New("this shop has not begun yet")

// readingsKept is how far back readings are looked at for planning: longer than
// the slowest film cures in a cold room.
const readingsKept = 200 * 24 * time.Hour

// state is the whole shop as of one revision. It is never changed: a change makes
// another one, which shares what stayed the same.
type state struct {
	*ground
	revision    int64
	shopID      uuid.UUID             // for life, wherever it is served
	file        *workshop.Workshop    // without its archive
	log         *job.Fold             // what the log comes to
	instruments []schedule.Instrument // as they are planned
	facts       map[schedule.Event]schedule.Fact
	steps       map[uuid.UUID]located
	archive     workshop.Archive
	aside       *state         // what is archived, for what is told of it; nil where nothing is
	derived     schedule.Input // what dates are derived from, but for the present and the Shop
}

// ground is what a shop has decided about itself, as it holds from a moment on, laid out
// once. Work is planned on: the same ground, the same Shop.
type ground struct {
	at        time.Time
	shop      *schedule.Shop // each desk has a twin of it
	setting   settings.Setting
	calendar  *calendar.Calendar
	people    []settings.Person
	catalogue material.Catalogue
	products  []material.Product
}

// load reads the whole shop as it is at a moment. What did not change since an earlier
// state, nil where there is none, is shared with it. It fails with ErrNotBegun where the shop has said nothing about
// itself.
func load(ctx context.Context, tx *store.Tx, now time.Time, earlier *state) (*state, error) {
	revision, shopID, err := tx.Standing(ctx)
	if err != nil {
		return nil, err
	}
	whole, err := readShop(ctx, tx, now.Add(-readingsKept))
	if err != nil {
		return nil, err
	}
	facts, spoken, err := tx.Facts(ctx)
	if err != nil {
		return nil, err
	}
	st := &state{revision: revision, shopID: shopID, file: whole, log: job.FoldOf(facts)}
	for _, step := range spoken {
		st.log.Speaks(step)
	}
	st.archive = whole.TakeArchived()
	if err := st.layOut(now, earlier); err != nil {
		return nil, fmt.Errorf("the shop as it is kept: %w", err)
	}
	return st, nil
}

// readShop reads a shop that has begun, with its readings since a moment.
func readShop(ctx context.Context, tx *store.Tx, since time.Time) (*workshop.Workshop, error) {
	whole, err := tx.Workshop(ctx, since)
	if err == nil && len(whole.Shop.Settings) == 0 {
		err = ErrNotBegun
	}
	return whole, err
}

// layOut lays a shop out that has been read or changed, at a moment. What an earlier state has laid out of the same is
// shared with it.
func (st *state) layOut(now time.Time, earlier *state) (err error) {
	if earlier != nil && earlier.holds(now) && reflect.DeepEqual(earlier.file.Shop, st.file.Shop) &&
		reflect.DeepEqual(earlier.file.Products, st.file.Products) {
		st.ground = earlier.ground
	} else {
		earlier = nil
		if st.ground, err = groundOf(st.file, now); err != nil {
			return err
		}
	}
	if st.derived, err = st.file.InputOf(st.catalogue); err != nil {
		return err
	}
	if earlier != nil {
		for i := range min(len(st.file.Instruments), len(earlier.instruments)) {
			if workshop.Same(&st.file.Instruments[i], &earlier.file.Instruments[i]) {
				st.derived.Instruments[i] = earlier.instruments[i]
			}
		}
	}
	st.instruments = st.derived.Instruments
	return st.settle()
}

// settle works out what follows of the instruments and the log.
func (st *state) settle() (err error) {
	st.steps = make(map[uuid.UUID]located)
	for i := range st.file.Instruments {
		st.place(i)
	}
	if st.aside, err = st.layArchive(); err != nil {
		return err
	}
	st.facts = make(map[schedule.Event]schedule.Fact)
	for event, e := range st.log.All() {
		st.setFact(event, e)
	}
	st.derive()
	return nil
}

// setFact notes what an entry that stands makes of its event; nothing where it is nil.
func (st *state) setFact(event job.Event, e *job.Entry) {
	at, known := st.recall(event.Step)
	if e == nil || !known {
		delete(st.facts, event)
		return
	}
	st.facts[event] = schedule.FactOf(e, at.step().HandsOnMin, st.catalogue.Product(e.Used()))
}

// layArchive is a state of what is archived, for what is told of it.
func (st *state) layArchive() (*state, error) {
	if len(st.archive.Instruments) == 0 {
		return nil, nil
	}
	aside := &state{ground: st.ground, file: &workshop.Workshop{Instruments: st.archive.Instruments}, steps: make(map[uuid.UUID]located)}
	for i := range st.archive.Instruments {
		planned, err := workshop.Planned(i, &st.archive.Instruments[i], st.catalogue)
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

func groundOf(file *workshop.Workshop, now time.Time) (*ground, error) {
	g := &ground{at: now, setting: file.Shop.Settings[file.Shop.At(now)], people: file.Shop.People, products: file.Products}
	var err error
	if g.shop, err = file.ShopAt(now); err != nil {
		return nil, err
	}
	g.calendar = g.shop.Calendar
	g.catalogue, err = file.CatalogueAt(now)
	return g, err
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
	next := *st
	if err := next.layOut(now, nil); err != nil {
		return nil, fmt.Errorf("the shop as it is kept: %w", err)
	}
	return &next, nil
}

// derive puts what is logged into what dates are derived from.
func (st *state) derive() {
	st.derived.Facts, st.derived.Pins = st.facts, openPins(st.file.Pins, st.facts)
	st.derived.Moves, st.derived.Tests, st.derived.Settled = nil, nil, make(map[uuid.UUID]int)
	for _, e := range st.log.Facts() {
		st.derived.Read(e, 0, nil)
	}
}

// openPins are the pins of what is not done: a fact beats a pin.
func openPins(pins []job.Pin, facts map[schedule.Event]schedule.Fact) map[schedule.Event]time.Time {
	open := make(map[schedule.Event]time.Time)
	for _, p := range pins {
		if _, done := facts[p.Event]; !done {
			open[p.Event] = p.At
		}
	}
	return open
}

// logged is this shop at a new revision with another fold of its log, in which other entries may stand for some events.
func (st *state) logged(revision int64, log *job.Fold, touched []job.Event) *state {
	next := *st
	next.revision, next.log, next.facts = revision, log, maps.Clone(st.facts)
	for _, event := range touched {
		next.setFact(event, log.Standing(event))
	}
	next.derive()
	return &next
}

// changed is this shop at a new revision after a change of what is decided, at a moment. Its instruments as they are
// planned are those of input, where that is known already.
func (st *state) changed(revision int64, file *workshop.Workshop, archive workshop.Archive, now time.Time) (*state, error) {
	next := *st
	next.revision, next.file, next.archive = revision, file, archive
	if err := next.layOut(now, st); err != nil {
		return nil, err
	}
	return &next, nil
}

// measured is this shop at a new revision with more readings of its air.
func (st *state) measured(revision int64, now time.Time, rows []settings.Reading) (*state, error) {
	next, file, g := *st, *st.file, *st.ground
	readings := slices.Clone(file.Shop.Readings)
	for _, r := range rows {
		r.At, r.RecordedAt = r.At.UTC().Round(time.Microsecond), r.RecordedAt.UTC().Round(time.Microsecond) // as the database keeps it
		if r.At.Before(now.Add(-readingsKept)) {
			continue
		}
		first, _ := slices.BinarySearchFunc(readings, r, byPlaceAndTime)
		after := first // those of the very same moment, of which the one recorded last counts
		for after < len(readings) && byPlaceAndTime(readings[after], r) == 0 {
			after++
		}
		if !slices.ContainsFunc(readings[first:after],
			func(known settings.Reading) bool { return known.Air == r.Air && known.Entered == r.Entered }) {
			readings = slices.Insert(readings, after, r)
		}
	}
	return next.aired(revision, now, &file, &g, readings)
}

// struck is this shop at a new revision with a reading of its air struck.
func (st *state) struck(revision int64, now time.Time, reading, by uuid.UUID, at time.Time) (*state, error) {
	next, file, g := *st, *st.file, *st.ground
	readings := slices.Clone(file.Shop.Readings)
	at = at.UTC().Round(time.Microsecond)
	for i := range readings {
		if readings[i].ID == reading {
			readings[i].StruckAt, readings[i].StruckBy = &at, &by
		}
	}
	return next.aired(revision, now, &file, &g, readings)
}

// aired is the copy of a shop with other readings of its air.
func (next state) aired(revision int64, now time.Time, file *workshop.Workshop, g *ground, readings []settings.Reading) (*state, error) {
	file.Shop.Readings = readings
	var err error
	if g.shop, err = file.ShopAt(now); err != nil {
		return nil, err
	}
	g.at, g.calendar = now, g.shop.Calendar
	next.revision, next.file, next.ground = revision, file, g
	return &next, nil
}

// byPlaceAndTime is the order in which readings are kept.
func byPlaceAndTime(a, b settings.Reading) int {
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
	made, err := st.catalogue.Of(step.Family, step.Product)
	if err != nil || made == nil {
		return material.Material{}, err
	}
	return *made, nil
}
