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

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/workshop"
	"umberfrost/internal/formats"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
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
func (s Decider) Import(ctx context.Context, file *formats.File) (Imported, error) {
	return s.takeIn(ctx, file, each(file.Log), each(file.Snapshots))
}

// ImportStream is Import of a file of any size: its log comes line by line.
func (s Decider) ImportStream(ctx context.Context, file *formats.Stream) (Imported, error) {
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

func (s Decider) takeIn(ctx context.Context, file *formats.File, log iter.Seq2[job.Entry, error],
	snapshots iter.Seq2[job.ForecastChange, error]) (Imported, error) {
	var done Imported
	if bad := importable(file); len(bad.Faults) > 0 {
		return done, bad
	}
	if err := refuse.Implausible(file, s.clock()); err != nil {
		return done, err
	}
	err := s.change(ctx, func(w *changes.Unit) error {
		begun, err := w.Begun(ctx)
		if err != nil {
			return err
		}
		i := importing{Unit: w, file: file, entries: log, moves: snapshots, done: &done, now: s.clock()}
		if begun {
			if err := s.begin(ctx, w); err != nil {
				return err
			}
		}
		return i.all(ctx)
	})
	return done, err
}

type importing struct {
	*changes.Unit               // before is nil in an empty shop
	file          *formats.File // without what comes line by line
	entries       iter.Seq2[job.Entry, error]
	moves         iter.Seq2[job.ForecastChange, error]
	done          *Imported
	now           time.Time
}

func (i *importing) all(ctx context.Context) error {
	for _, part := range []func(context.Context) error{i.workshop, i.readings, i.sittings, i.log, i.forecastChanges} {
		if err := part(ctx); err != nil {
			return err
		}
	}
	i.done.Left = i.left()
	now := i.now.Truncate(time.Minute)
	st, err := snapshot.Load(ctx, i.Tx, now, nil)
	if err != nil {
		return err
	}
	for _, in := range st.Instruments {
		if err := in.Validate(); err != nil {
			return refuse.Field("instruments", err.Error(), in.Name)
		}
	}
	if i.After, err = i.Planner.Date(st, now); err != nil || i.Before == nil {
		return err // the snapshots came with the file
	}
	return i.RecordHistory(ctx, "imported a schedule file", nil)
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
	if i.Before != nil {
		say(len(i.file.Shop.Settings), "setting")
		say(len(i.file.Shop.People)-i.done.People, "person")
		say(len(i.file.Shop.Places)-i.done.Places, "place")
		say(len(i.file.Products)-i.done.Products, "product")
		say(len(i.file.Recipes)-i.done.Recipes, "recipe")
	}
	say(len(i.file.Shop.Readings)-i.done.Readings, "reading")
	return left
}

// workshop keeps what the file says of the shop, beside what the shop has already.
func (i *importing) workshop(ctx context.Context) error {
	was := &workshop.Workshop{}
	if i.Before != nil {
		was = i.Before.Workshop.With(i.Before.Archive)
	} else if err := i.NewShop(ctx); err != nil {
		return err
	}
	next := was.Clone()
	for _, add := range []func(was, next *workshop.Workshop) error{i.shop, i.products, i.recipes, i.instruments, i.order} {
		if err := add(was, next); err != nil {
			return err
		}
	}
	next.Succeed(was)
	_, err := i.Tx.Keep(ctx, was, next)
	if wrong := new(store.Unkept); errors.As(err, &wrong) {
		return changes.Named(wrong.Err, wrong.List, wrong.Name)
	}
	return err
}

// shop adds people and places, and the settings where the shop has none.
func (i *importing) shop(was, next *workshop.Workshop) error {
	for _, p := range i.file.Shop.People {
		if slices.ContainsFunc(was.Shop.People, func(known settings.Person) bool { return known.ID == p.ID }) {
			continue
		}
		next.Shop.People = append(next.Shop.People, p)
		i.done.People++
	}
	places := slices.Clone(i.file.Shop.Places)
	slices.SortStableFunc(places, hangsElsewhere)
	for _, p := range places {
		if slices.ContainsFunc(was.Shop.Places, func(known settings.Place) bool { return known.ID == p.ID }) {
			continue
		}
		p.Versions = slices.Clone(p.Versions)
		for v := range p.Versions {
			p.Versions[v].ValidFrom = from(p.Versions[v].ValidFrom)
		}
		next.Shop.Places = append(next.Shop.Places, p)
		i.done.Places++
	}
	if len(was.Shop.Settings) > 0 {
		return nil
	}
	for _, s := range i.file.Shop.Settings {
		s.ValidFrom = from(s.ValidFrom)
		next.Shop.Settings = append(next.Shop.Settings, s)
	}
	return nil
}

// hangsElsewhere puts places that hang their pieces in others behind them.
func hangsElsewhere(a, b settings.Place) int {
	rank := func(p settings.Place) int {
		if slices.ContainsFunc(p.Versions, func(v settings.PlaceVersion) bool { return v.HangsIn != nil && *v.HangsIn != p.ID }) {
			return 1
		}
		return 0
	}
	return rank(a) - rank(b)
}

// from is since when a version without a day of its own is valid.
func from(t time.Time) time.Time {
	if t.IsZero() {
		return always
	}
	return t
}

// importable says what of a file this application cannot keep yet, although the
// format allows it.
func importable(file *formats.File) *refuse.Invalid {
	bad := &refuse.Invalid{}
	fault := func(path, message string, value any) {
		bad.Faults = append(bad.Faults, refuse.Field(path, message, value).Faults...)
	}
	for n, in := range file.Instruments {
		at := fmt.Sprintf("instruments[%d]", n)
		if in.Outline != "" && !slices.Contains(changes.Outlines, in.Outline) {
			fault(at+".outline", "choose one of "+strings.Join(changes.Outlines, ", "), in.Outline)
		}
		if message := changes.OwnFault(in.Own); message != "" {
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

// readings appends the file's readings.
func (i *importing) readings(ctx context.Context) error {
	readings := slices.Clone(i.file.Shop.Readings)
	for n := range readings {
		if readings[n].RecordedAt.IsZero() {
			readings[n].RecordedAt = i.now
		}
	}
	var err error
	i.done.Readings, err = i.Tx.AddReadings(ctx, readings)
	return err
}

// products adds the products that the shop does not have.
func (i *importing) products(was, next *workshop.Workshop) error {
	next.Products = slices.Clone(was.Products)
	for _, p := range i.file.Products {
		if slices.ContainsFunc(was.Products, func(known material.Product) bool { return known.ID == p.ID }) {
			continue
		}
		if err := p.Check(); err != nil {
			return refuse.Field("products", err.Error(), p.Name)
		}
		p.Versions = slices.Clone(p.Versions)
		for v := range p.Versions {
			p.Versions[v].ValidFrom = from(p.Versions[v].ValidFrom)
		}
		next.Products = append(next.Products, p)
		i.done.Products++
	}
	return nil
}

// recipes adds the recipes that the shop does not have.
func (i *importing) recipes(was, next *workshop.Workshop) error {
	next.Recipes = slices.Clone(was.Recipes)
	for _, r := range i.file.Recipes {
		if slices.ContainsFunc(was.Recipes, func(known recipe.Own) bool { return known.ID == r.ID }) {
			continue
		}
		next.Recipes = append(next.Recipes, r)
		i.done.Recipes++
	}
	return nil
}

// instruments adds the file's instruments; none of them may be there already.
func (i *importing) instruments(was, next *workshop.Workshop) error {
	for n, in := range i.file.Instruments {
		at := was.Find(in.ID)
		switch {
		case at >= 0 && was.Instruments[at].Archived == nil:
			return &refuse.Taken{Message: fmt.Sprintf("instruments[%d]: %s is in this shop already; an import never overwrites", n,
				in.Name)}
		case at >= 0:
			return changes.Named(store.ErrConflict, "instruments", in.Name)
		}
		in.Outline = cmp.Or(in.Outline, changes.Outlines[0])
		if in.CreatedAt.IsZero() {
			in.CreatedAt = i.now
		}
		next.Instruments = append(next.Instruments, in)
		i.done.Instruments++
	}
	return nil
}

// order puts the file's instruments at the end of the order of work, in the file's order, and their pins with them.
func (i *importing) order(_, next *workshop.Workshop) error {
	known := make(map[job.Event]bool)
	for _, e := range next.Order {
		known[e] = true
	}
	for _, in := range i.file.Instruments {
		if in.Archived != nil {
			continue
		}
		for _, e := range in.Events() {
			next.Order = append(next.Order, e)
			known[e] = true
		}
	}
	var last []job.Event
	for _, e := range i.file.Order {
		if known[e] {
			last = append(last, e)
			known[e] = false // it stands in the order once
		}
	}
	moved := make(map[job.Event]bool)
	for _, e := range last {
		moved[e] = true
	}
	next.Order = append(slices.DeleteFunc(next.Order, func(e job.Event) bool { return moved[e] }), last...)
	for _, p := range i.file.Pins {
		if p.MadeAt.IsZero() {
			p.MadeAt = i.now
		}
		next.Pins = append(next.Pins, p)
	}
	return nil
}

func (i *importing) sittings(ctx context.Context) error {
	for _, one := range i.file.Sittings {
		if err := i.AddSitting(ctx, one); err != nil {
			return changes.Named(err, "sittings", one.ID.String())
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
		err := i.AddEntries(ctx, page)
		if page = page[:0]; errors.Is(err, store.ErrConflict) {
			return &refuse.Taken{Message: "log: the file has an entry that this shop has already, or two that void the same one"}
		}
		return err
	}
	n := 0
	for e, err := range i.entries {
		if err != nil {
			return err
		}
		if err := refuse.Within(fmt.Sprintf("log[%d].", n), refuse.Implausible(e, i.now)); err != nil {
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
	for _, e := range job.FoldOf(facts).All() {
		complete = append(complete, *e)
	}
	return i.Complete(ctx, complete...)
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

// forecastChanges appends how the file's forecasts moved.
func (i *importing) forecastChanges(ctx context.Context) error {
	var page []job.ForecastChange
	n := 0
	for row, err := range i.moves {
		if err != nil {
			return err
		}
		if err := refuse.Within(fmt.Sprintf("snapshots[%d].", n), refuse.Implausible(row, i.now)); err != nil {
			return err
		}
		n++
		if page = append(page, row); len(page) == atATime {
			if err := i.AddForecastChanges(ctx, page); err != nil {
				return err
			}
			page = page[:0]
		}
	}
	return i.AddForecastChanges(ctx, page)
}
