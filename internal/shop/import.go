package shop

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"iter"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/formats"
	"umberfrost/internal/store"
)

// Imported says what an import added.
type Imported struct {
	Instruments int `json:"instruments"`
	Entries     int `json:"entries" doc:"lines of the log"`
	Products    int `json:"products"`
	Places      int `json:"places"`
	Readings    int `json:"readings" doc:"that are new"`
	Recipes     int `json:"recipes" doc:"of the shop's own"`
	People      int `json:"people"`
	Sittings    int `json:"sittings"`

	Left []string `json:"left" doc:"what the file says that a shop does not keep, or has already"`
}

// Import adds what a schedule file holds. Into an empty shop all of it comes,
// settings and people too; elsewhere what the shop has already, by id, stays as it
// is, and an instrument that is there already is refused. All of it is kept, or nothing.
func (s *Service) Import(ctx context.Context, file *formats.File) (Imported, error) {
	return s.takeIn(ctx, file, each(file.Log), each(file.Snapshots))
}

// ImportStream is Import of a file of any size: its log comes line by line.
func (s *Service) ImportStream(ctx context.Context, file *formats.Stream) (Imported, error) {
	return s.takeIn(ctx, file.Head, file.Log(), file.Snapshots())
}

// each gives a list one by one.
func each[T any](list []T) iter.Seq2[T, error] {
	return func(yield func(T, error) bool) {
		for _, one := range list {
			if !yield(one, nil) {
				return
			}
		}
	}
}

func (s *Service) takeIn(ctx context.Context, file *formats.File, log iter.Seq2[job.Entry, error], snapshots iter.Seq2[formats.Snapshot, error]) (Imported, error) {
	var done Imported
	if bad := importable(file); len(bad.Faults) > 0 {
		return done, bad
	}
	if err := Implausible(file, s.clock()); err != nil {
		return done, err
	}
	err := s.change(ctx, func(w *writing) error {
		settings, err := w.ShopSettings(ctx)
		if err != nil {
			return err
		}
		i := importing{writing: w, tx: w.Tx, file: file, entries: log, moves: snapshots, done: &done, now: s.clock()}
		if len(settings) > 0 {
			if err := s.begin(ctx, w); err != nil {
				return err
			}
		}
		return i.all(ctx)
	})
	return done, err
}

type importing struct {
	*writing // before is nil in an empty shop
	tx       *store.Tx
	file     *formats.File // without what comes line by line
	entries  iter.Seq2[job.Entry, error]
	moves    iter.Seq2[formats.Snapshot, error]
	done     *Imported
	now      time.Time
}

func (i *importing) all(ctx context.Context) error {
	for _, part := range []func(context.Context) error{i.shop, i.places, i.products, i.recipes, i.instruments, i.order, i.sittings, i.log, i.snapshots} {
		if err := part(ctx); err != nil {
			return err
		}
	}
	i.done.Left = i.left()
	now := i.now.Truncate(time.Minute)
	st, err := load(ctx, i.tx, now, nil)
	if err != nil {
		return err
	}
	for _, in := range st.instruments {
		if err := in.Validate(); err != nil {
			return invalid("instruments", err.Error(), in.Name)
		}
	}
	if i.after, err = i.desk.date(st, now); err != nil || i.before == nil {
		return err // the snapshots came with the file
	}
	return i.remember(ctx, "imported a schedule file", nil)
}

// left says what of the file did not come in.
func (i *importing) left() []string {
	left := []string{}
	say := func(n int, what string) {
		if n > 0 {
			left = append(left, phrase.Plural(n, what))
		}
	}
	say(len(i.file.Factors), "learned factor")
	say(len(i.file.Begun), "begun event")
	if i.before != nil {
		say(len(i.file.Shop.Settings), "setting")
		say(len(i.file.Shop.People)-i.done.People, "person")
		say(len(i.file.Shop.Places)-i.done.Places, "place")
		say(len(i.file.Products)-i.done.Products, "product")
		say(len(i.file.Recipes)-i.done.Recipes, "recipe")
	}
	say(len(i.file.Shop.Readings)-i.done.Readings, "reading")
	return left
}

func (i *importing) shop(ctx context.Context) error {
	for _, p := range i.file.Shop.People {
		if i.before != nil && slices.ContainsFunc(i.before.people, func(known store.Person) bool { return known.ID == p.ID }) {
			continue
		}
		if err := i.tx.AddPerson(ctx, store.Person{ID: p.ID, Name: p.Name, Week: storeWeek(p.Week), Left: p.Left}); err != nil {
			return named(err, "people", p.Name)
		}
		i.done.People++
	}
	if i.before != nil {
		return nil
	}
	if err := i.tx.NewShop(ctx); err != nil {
		return err
	}
	for _, s := range i.file.Shop.Settings {
		row := store.ShopSetting{ValidFrom: from(s.ValidFrom), Name: s.Name, TimeZone: s.TimeZone, Margin: s.Margin}
		row.Week.V, row.Exceptions.V = s.Week, s.Exceptions
		row.Notation.V, row.Ways.V = s.Notation, waysOr(s.Ways)
		if row.Exceptions.V == nil {
			row.Exceptions.V = map[string][]calendar.Hours{}
		}
		if err := i.tx.AddShopSetting(ctx, row); err != nil {
			return named(err, "settings", s.Name)
		}
	}
	return nil
}

// from is since when a version without a day of its own is valid.
func from(t time.Time) time.Time {
	if t.IsZero() {
		return always
	}
	return t
}

// named says which name of a file is taken in this shop by something else.
func named(err error, list, name string) error {
	switch {
	case err == nil:
		return nil
	case errors.Is(err, store.ErrConflict):
		return &Taken{Message: fmt.Sprintf("%s: %q, or its id, belongs to something else in this shop; rename it in the file or here", list, name)}
	}
	return fmt.Errorf("importing %s, %q: %w", list, name, err)
}

// importable says what of a file this application cannot keep yet, although the
// format allows it.
func importable(file *formats.File) *Invalid {
	bad := &Invalid{}
	fault := func(path, message string, value any) {
		bad.Faults = append(bad.Faults, invalid(path, message, value).Faults...)
	}
	for n, in := range file.Instruments {
		at := fmt.Sprintf("instruments[%d]", n)
		if in.Outline != "" && !slices.Contains(Outlines, in.Outline) {
			fault(at+".outline", "choose one of "+strings.Join(Outlines, ", "), in.Outline)
		}
		if message := ownFault(in.Own); message != "" {
			fault(at+".outlinePath", message, nil)
		}
		kinds, slots := make(map[job.PieceKind]bool), make(map[string]bool)
		for p, piece := range in.Pieces {
			path := fmt.Sprintf("%s.pieces[%d]", at, p)
			if !slices.Contains(recipe.Kinds, piece.Kind) || kinds[piece.Kind] {
				fault(path+".kind", "an instrument has one body, neck, cavity, fretboard, frets and whole at most", piece.Kind)
			}
			kinds[piece.Kind] = true
			names := make(map[string]bool)
			for z, region := range piece.Regions {
				if region.AreaM2 <= 0 {
					fault(fmt.Sprintf("%s.regions[%d].areaM2", path, z), "a region has an area above 0 m²", region.AreaM2)
				}
				if names[region.Name] {
					fault(fmt.Sprintf("%s.regions[%d].name", path, z), "each region of a piece has a name of its own", region.Name)
				}
				names[region.Name] = true
			}
			for s, step := range piece.Steps {
				if step.Slot != "" && slots[step.Slot] {
					fault(fmt.Sprintf("%s.steps[%d].slot", path, s), "each step of an instrument has a slot of its own", step.Slot)
				}
				slots[step.Slot] = true
			}
		}
	}
	return bad
}

func storeWeek(w *formats.Week) *store.JSON[[7][]calendar.Hours] {
	if w == nil {
		return nil
	}
	return &store.JSON[[7][]calendar.Hours]{V: *w}
}

func (i *importing) places(ctx context.Context) error {
	known := make(map[uuid.UUID]bool)
	if i.before != nil {
		for _, p := range i.before.file.Shop.Places {
			known[p.ID] = true
		}
	}
	for pass := range 2 { // a place may hang its pieces in one that comes later
		for _, p := range i.file.Shop.Places {
			later := slices.ContainsFunc(p.Versions, func(v formats.PlaceVersion) bool { return v.HangsIn != nil && *v.HangsIn != p.ID })
			if known[p.ID] || later != (pass == 1) {
				continue
			}
			for _, v := range p.Versions {
				if err := i.tx.AddPlace(ctx, storePlace(p.ID, v)); err != nil {
					return named(err, "places", v.Name)
				}
			}
			i.done.Places++
		}
	}
	var readings []store.Reading
	for _, r := range i.file.Shop.Readings {
		row := store.Reading{ID: r.ID, StruckAt: r.StruckAt, StruckBy: r.StruckBy, Place: r.Place, At: r.At, RecordedAt: r.RecordedAt, Temperature: float64(r.Temperature),
			Humidity: float64(r.Humidity), Entered: r.Entered, Person: r.Person}
		if row.RecordedAt.IsZero() {
			row.RecordedAt = i.now
		}
		if r.Surface != nil {
			surface := float64(*r.Surface)
			row.Surface = &surface
		}
		readings = append(readings, row)
	}
	var err error
	i.done.Readings, err = i.tx.AddReadings(ctx, readings)
	return err
}

func storePlace(id uuid.UUID, v formats.PlaceVersion) store.Place {
	row := store.Place{ID: id, ValidFrom: from(v.ValidFrom), Name: v.Name, Kind: string(v.Kind), Capacity: v.Capacity,
		Week: storeWeek(v.Week), Air: v.Air, HangsIn: v.HangsIn, Hooks: v.Hooks}
	row.Exceptions.V = v.Exceptions
	if v.Profile != nil {
		row.Profile = &store.JSON[store.Profile]{V: store.Profile{Knots: v.Profile.Knots, Months: v.Profile.Months}}
	}
	return row
}

func (i *importing) products(ctx context.Context) error {
	for _, p := range i.file.Products {
		if i.before != nil && slices.ContainsFunc(i.before.products, func(known product) bool { return known.ID == p.ID }) {
			continue
		}
		for _, v := range p.Versions {
			if err := checkSheet(p.Name, p.Family, string(v.Sheet)); err != nil {
				return invalid("products", err.Error(), p.Name)
			}
			if err := i.tx.AddProduct(ctx, store.Product{ID: p.ID, Name: p.Name, Family: p.Family, Sheet: string(v.Sheet)},
				from(v.ValidFrom)); err != nil {
				return named(err, "products", p.Name)
			}
		}
		i.done.Products++
	}
	return nil
}

func (i *importing) instruments(ctx context.Context) error {
	for n, in := range i.file.Instruments {
		if i.before != nil && slices.ContainsFunc(i.before.file.Instruments,
			func(known recipe.Instrument) bool { return known.ID == in.ID }) {
			return &Taken{Message: fmt.Sprintf("instruments[%d]: %s is in this shop already; an import never overwrites", n, in.Name)}
		}
		if err := i.tx.AddInstrument(ctx, i.instrument(in)); err != nil {
			return named(err, "instruments", in.Name)
		}
		i.done.Instruments++
	}
	return nil
}

// instrument is a job of the file, with what the file leaves out.
func (i *importing) instrument(in recipe.Instrument) recipe.Instrument {
	in.Outline = cmp.Or(in.Outline, Outlines[0])
	if in.CreatedAt.IsZero() {
		in.CreatedAt = i.now
	}
	return in
}

// order puts the file's order at the end of the shop's.
func (i *importing) order(ctx context.Context) error {
	if err := i.tx.Reorder(ctx, i.file.Order); err != nil {
		return err
	}
	for _, p := range i.file.Pins {
		made := p.MadeAt
		if made.IsZero() {
			made = i.now
		}
		if err := i.tx.AddPin(ctx, store.Pin{Step: p.Step, Coat: p.Coat, At: p.At, Person: p.Person, MadeAt: made}); err != nil {
			return err
		}
	}
	return nil
}

func (i *importing) sittings(ctx context.Context) error {
	for _, one := range i.file.Sittings {
		if err := i.tx.AddSitting(ctx, one); err != nil {
			return named(err, "sittings", one.ID.String())
		}
		i.done.Sittings++
	}
	return nil
}

// atATime is how many lines of a file are written at a time.
const atATime = 1000

// log appends the file's log as it is, and completes what it completed.
func (i *importing) log(ctx context.Context) error {
	var page, facts []job.Entry
	flush := func() error {
		err := i.tx.AddEntries(ctx, page)
		if page = page[:0]; errors.Is(err, store.ErrConflict) {
			return &Taken{Message: "log: the file has an entry that this shop has already, or two that void the same one"}
		}
		return err
	}
	n := 0
	for e, err := range i.entries {
		if err != nil {
			return err
		}
		if err := within(fmt.Sprintf("log[%d].", n), Implausible(e, i.now)); err != nil {
			return err
		}
		e = i.entry(n, e)
		n++
		page = append(page, e)
		e.Note, e.Figures, e.Planned, e.Actual, e.Timer = "", nil, nil, nil, nil // not needed to say what stands
		facts = append(facts, e)
		if len(page) == atATime {
			if err := flush(); err != nil {
				return err
			}
		}
	}
	if err := flush(); err != nil {
		return err
	}
	i.done.Entries = n
	var complete []job.Entry
	for _, e := range job.Standing(facts) {
		if e.Completes() {
			complete = append(complete, *e)
		}
	}
	return i.tx.Complete(ctx, complete...)
}

// entry is a line of the file's log; where a hand-written file leaves out who and
// with what, the shop's first person and the file itself stand in.
func (i *importing) entry(n int, e job.Entry) job.Entry {
	if e.RecordedAt.IsZero() {
		e.RecordedAt = e.HappenedAt
	}
	if e.Person == uuid.Nil {
		e.Person = i.file.Shop.People[0].ID
	}
	if e.Device == uuid.Nil {
		e.Device, e.DeviceSeq = uuid.NewSHA1(e.ID, []byte("schedule file")), int64(n)+1
	}
	return e
}

func (i *importing) snapshots(ctx context.Context) error {
	var page []store.Snapshot
	n := 0
	for row, err := range i.moves {
		if err != nil {
			return err
		}
		if err := within(fmt.Sprintf("snapshots[%d].", n), Implausible(row, i.now)); err != nil {
			return err
		}
		n++
		page = append(page, store.Snapshot{Revision: row.Revision, At: row.At, Cause: row.Cause, Entry: row.Entry, Instrument: row.Instrument,
			FinishBefore: row.FinishBefore, FinishAfter: row.FinishAfter, PlannedStart: row.PlannedStart, Told: row.Told})
		if len(page) == atATime {
			if err := i.tx.AddSnapshots(ctx, page); err != nil {
				return err
			}
			page = page[:0]
		}
	}
	return i.tx.AddSnapshots(ctx, page)
}
