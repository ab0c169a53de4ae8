// Package snapshot is what is true of a shop at a revision: all that is decided, what its log comes to, and the dates
// at one minute. It is never changed: a change makes another one, which shares what stayed the same. Beside it stand
// the words in which screens and messages speak of what is in it.
package snapshot

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

// State is the whole shop as of one revision. It is never changed: a change makes
// another one, which shares what stayed the same.
type State struct {
	*Settings
	Revision    int64
	ShopID      uuid.UUID             // for life, wherever it is served
	Workshop    *workshop.Workshop    // without its archive
	Log         *job.Fold             // what the log comes to
	Instruments []schedule.Instrument // as they are planned
	Facts       map[schedule.Event]schedule.Fact
	Steps       map[uuid.UUID]Located
	Archive     workshop.Archive
	Archived    *State         // what is archived, for what is told of it; nil where nothing is
	Derived     schedule.Input // what dates are derived from, but for the present and the Shop
}

// Settings is what a shop has decided about itself, as it holds from a moment on, laid out
// once. Work is planned on: the same settings, the same Shop.
type Settings struct {
	at        time.Time
	Shop      *schedule.Shop // each planner has a twin of it
	Setting   settings.Setting
	Calendar  *calendar.Calendar
	People    []settings.Person
	Catalogue material.Catalogue
	Products  []material.Product
}

// Load reads the whole shop as it is at a moment. What did not change since an earlier
// state, nil where there is none, is shared with it. It fails with ErrNotBegun where the shop has said nothing about
// itself.
func Load(ctx context.Context, tx *store.Tx, now time.Time, earlier *State) (*State, error) {
	revision, shopID, err := tx.Standing(ctx)
	if err != nil {
		return nil, err
	}
	whole, err := ReadShop(ctx, tx, now.Add(-readingsKept))
	if err != nil {
		return nil, err
	}
	facts, spoken, err := tx.Facts(ctx)
	if err != nil {
		return nil, err
	}
	st := &State{Revision: revision, ShopID: shopID, Workshop: whole, Log: job.FoldOf(facts)}
	for _, step := range spoken {
		st.Log.Speaks(step)
	}
	st.Archive = whole.TakeArchived()
	if err := st.layOut(now, earlier); err != nil {
		return nil, fmt.Errorf("the shop as it is kept: %w", err)
	}
	return st, nil
}

// ReadShop reads a shop that has begun, with its readings since a moment.
func ReadShop(ctx context.Context, tx *store.Tx, since time.Time) (*workshop.Workshop, error) {
	whole, err := tx.Workshop(ctx, since)
	if err == nil && len(whole.Shop.Settings) == 0 {
		err = ErrNotBegun
	}
	return whole, err
}

// layOut lays a shop out that has been read or changed, at a moment. What an earlier state has laid out of the same is
// shared with it.
func (st *State) layOut(now time.Time, earlier *State) (err error) {
	if earlier != nil && earlier.holds(now) && reflect.DeepEqual(earlier.Workshop.Shop, st.Workshop.Shop) &&
		reflect.DeepEqual(earlier.Workshop.Products, st.Workshop.Products) {
		st.Settings = earlier.Settings
	} else {
		earlier = nil
		if st.Settings, err = groundOf(st.Workshop, now); err != nil {
			return err
		}
	}
	if st.Derived, err = st.Workshop.InputOf(st.Catalogue); err != nil {
		return err
	}
	if earlier != nil {
		for i := range min(len(st.Workshop.Instruments), len(earlier.Instruments)) {
			if workshop.Same(&st.Workshop.Instruments[i], &earlier.Workshop.Instruments[i]) {
				st.Derived.Instruments[i] = earlier.Instruments[i]
			}
		}
	}
	st.Instruments = st.Derived.Instruments
	return st.settle()
}

// settle works out what follows of the instruments and the log.
func (st *State) settle() (err error) {
	st.Steps = make(map[uuid.UUID]Located)
	for i := range st.Workshop.Instruments {
		st.Place(i)
	}
	if st.Archived, err = st.layArchive(); err != nil {
		return err
	}
	st.Facts = make(map[schedule.Event]schedule.Fact)
	for event, e := range st.Log.All() {
		st.setFact(event, e)
	}
	st.derive()
	return nil
}

// setFact notes what an entry that stands makes of its event; nothing where it is nil.
func (st *State) setFact(event job.Event, e *job.Entry) {
	at, known := st.Recall(event.Step)
	if e == nil || !known {
		delete(st.Facts, event)
		return
	}
	st.Facts[event] = schedule.FactOf(e, at.Step().HandsOnMin, st.Catalogue.Product(e.Used()))
}

// layArchive is a state of what is archived, for what is told of it.
func (st *State) layArchive() (*State, error) {
	if len(st.Archive.Instruments) == 0 {
		return nil, nil
	}
	aside := &State{Settings: st.Settings, Workshop: &workshop.Workshop{Instruments: st.Archive.Instruments},
		Steps: make(map[uuid.UUID]Located)}
	for i := range st.Archive.Instruments {
		planned, err := workshop.Planned(i, &st.Archive.Instruments[i], st.Catalogue)
		if err != nil {
			return nil, err
		}
		aside.Instruments = append(aside.Instruments, planned)
		aside.Place(i)
	}
	return aside, nil
}

// Place notes where the steps of an instrument stand.
func (st *State) Place(i int) {
	for p, piece := range st.Workshop.Instruments[i].Pieces {
		for s, step := range piece.Steps {
			st.Steps[step.ID] = Located{i, p, s, st}
		}
	}
}

func groundOf(file *workshop.Workshop, now time.Time) (*Settings, error) {
	g := &Settings{at: now, Setting: file.Shop.Settings[file.Shop.At(now)], People: file.Shop.People, Products: file.Products}
	var err error
	if g.Shop, err = file.ShopAt(now); err != nil {
		return nil, err
	}
	g.Calendar = g.Shop.Calendar
	g.Catalogue, err = file.CatalogueAt(now)
	return g, err
}

// holds reports whether the settings is the same at another moment: nothing that was decided
// ahead of time has come into force.
func (st *State) holds(now time.Time) bool {
	return !now.Before(st.at) && !st.Workshop.ChangesBetween(st.at, now)
}

// From is the same shop at another moment.
func (st *State) From(now time.Time) (*State, error) {
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
func (st *State) derive() {
	st.Derived.Facts, st.Derived.Pins = st.Facts, OpenPins(st.Workshop.Pins, st.Facts)
	st.Derived.Moves, st.Derived.Tests, st.Derived.Settled = nil, nil, make(map[uuid.UUID]int)
	for _, e := range st.Log.Facts() {
		st.Derived.Read(e, 0, nil)
	}
}

// OpenPins are the pins of what is not done: a fact beats a pin.
func OpenPins(pins []job.Pin, facts map[schedule.Event]schedule.Fact) map[schedule.Event]time.Time {
	open := make(map[schedule.Event]time.Time)
	for _, p := range pins {
		if _, done := facts[p.Event]; !done {
			open[p.Event] = p.At
		}
	}
	return open
}

// Logged is this shop at a new revision with another fold of its log, in which other entries may stand for some events.
func (st *State) Logged(revision int64, log *job.Fold, touched []job.Event) *State {
	next := *st
	next.Revision, next.Log, next.Facts = revision, log, maps.Clone(st.Facts)
	for _, event := range touched {
		next.setFact(event, log.Standing(event))
	}
	next.derive()
	return &next
}

// Changed is this shop at a new revision after a change of what is decided, at a moment. Its instruments as they are
// planned are those of input, where that is known already.
func (st *State) Changed(revision int64, file *workshop.Workshop, archive workshop.Archive, now time.Time) (*State, error) {
	next := *st
	next.Revision, next.Workshop, next.Archive = revision, file, archive
	if err := next.layOut(now, st); err != nil {
		return nil, err
	}
	return &next, nil
}

// Measured is this shop at a new revision with more readings of its air.
func (st *State) Measured(revision int64, now time.Time, rows []settings.Reading) (*State, error) {
	next, file, g := *st, *st.Workshop, *st.Settings
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

// Struck is this shop at a new revision with a reading of its air struck.
func (st *State) Struck(revision int64, now time.Time, reading, by uuid.UUID, at time.Time) (*State, error) {
	next, file, g := *st, *st.Workshop, *st.Settings
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
func (next State) aired(revision int64, now time.Time, file *workshop.Workshop, g *Settings, readings []settings.Reading) (*State, error) {
	file.Shop.Readings = readings
	var err error
	if g.Shop, err = file.ShopAt(now); err != nil {
		return nil, err
	}
	g.at, g.Calendar = now, g.Shop.Calendar
	next.Revision, next.Workshop, next.Settings = revision, file, g
	return &next, nil
}

// byPlaceAndTime is the order in which readings are kept.
func byPlaceAndTime(a, b settings.Reading) int {
	return cmp.Or(slices.Compare(a.Place[:], b.Place[:]), a.At.Compare(b.At), a.RecordedAt.Compare(b.RecordedAt))
}

// Find returns the stored step with its piece and instrument.
func (st *State) Find(id uuid.UUID) (found Located, ok bool) {
	found, ok = st.Steps[id]
	return found, ok
}

// Recall returns a stored step also where its instrument is put aside.
func (st *State) Recall(id uuid.UUID) (found Located, ok bool) {
	if found, ok = st.Steps[id]; !ok && st.Archived != nil {
		found, ok = st.Archived.Steps[id]
	}
	return found, ok
}

// Located is where a step stands.
type Located struct {
	i, p, S int
	state   *State
}

func (l Located) Instrument() *recipe.Instrument { return &l.state.Workshop.Instruments[l.i] }

func (l Located) Piece() *job.Piece { return &l.Instrument().Pieces[l.p] }

func (l Located) Step() *job.Step { return &l.Piece().Steps[l.S] }

func (l Located) Planned() schedule.Step { return l.state.Instruments[l.i].Pieces[l.p].Steps[l.S] }

// Where names the regions of a step that is not done to all of its piece; empty where it is.
func (l Located) Where() string {
	regions, step := l.Piece().Regions, l.Step()
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

// MaterialOf is what a step is put on with, as its sheet stands now.
func (st *State) MaterialOf(step *job.Step) (material.Material, error) {
	made, err := st.Catalogue.Of(step.Family, step.Product)
	if err != nil || made == nil {
		return material.Material{}, err
	}
	return *made, nil
}
