// Package workshop is a shop as a whole: what it has decided about itself, its products and recipes, its instruments
// with their steps, the order of work and the pins. Those are all stored decisions; dates are derived from them, from
// the log and from the present. A workshop is read from a schedule file or from the database and laid out here for the
// planner.
package workshop

import (
	"fmt"
	"maps"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
)

// Workshop is a shop without its log. Its fields stand in the order of the schedule file.
type Workshop struct {
	Shop        settings.Shop       `json:"shop"`
	Products    []material.Product  `json:"products,omitempty"`
	Recipes     []recipe.Own        `json:"recipes,omitempty"` // of the shop's own
	Instruments []recipe.Instrument `json:"instruments"`
	Order       []job.Event         `json:"order,omitempty"` // first served first
	Pins        []job.Pin           `json:"pins,omitempty"`
	Begun       []job.Begun         `json:"begun,omitempty"`
}

// Fault is what the rules of the job refuse of a workshop: where, as a JSON pointer, and why.
type Fault struct {
	Path string
	Err  error
}

func (f *Fault) Error() string { return fmt.Sprintf("%s: %v", f.Path, f.Err) }
func (f *Fault) Unwrap() error { return f.Err }

// fault is an error at a place; nil where there is none.
func fault(err error, path string, args ...any) error {
	if err == nil {
		return nil
	}
	return &Fault{fmt.Sprintf(path, args...), err}
}

// Clone is a copy whose decisions can be changed without changing this one; what is changed of an instrument is owned
// before. Readings, products and recipes are shared.
func (w *Workshop) Clone() *Workshop {
	c := *w
	c.Shop.Settings, c.Shop.People = slices.Clone(w.Shop.Settings), slices.Clone(w.Shop.People)
	c.Shop.Places = slices.Clone(w.Shop.Places)
	for i := range c.Shop.Places {
		c.Shop.Places[i].Versions = slices.Clone(c.Shop.Places[i].Versions)
	}
	c.Instruments = slices.Clone(w.Instruments)
	c.Order, c.Pins = slices.Clone(w.Order), slices.Clone(w.Pins)
	return &c
}

// ChangesBetween reports whether settings, places or data sheets that were decided
// ahead of time come into force between two moments.
func (w *Workshop) ChangesBetween(from, to time.Time) bool {
	return w.Shop.ChangesBetween(from, to) || slices.ContainsFunc(w.Products, func(p material.Product) bool {
		return slices.ContainsFunc(p.Versions, func(v material.SheetVersion) bool {
			return v.ValidFrom.After(from) &&
				!v.ValidFrom.After(to)
		})
	})
}

// Input is what dates are derived from, as the workshop stands at a moment, but for what has happened. It fails
// with *Fault where the rules of the job refuse something.
func (w *Workshop) Input(now time.Time) (schedule.Input, error) {
	shop, err := w.ShopAt(now)
	if err != nil {
		return schedule.Input{}, err
	}
	catalogue, err := w.CatalogueAt(now)
	if err != nil {
		return schedule.Input{}, err
	}
	in, err := w.InputOf(catalogue)
	in.Now, in.Shop = now, shop
	return in, err
}

// InputOf is Input but for the present and the shop, which are still to be filled in.
func (w *Workshop) InputOf(catalogue material.Catalogue) (schedule.Input, error) {
	if active := *w; len(active.TakeArchived().Instruments) > 0 {
		return active.InputOf(catalogue)
	}
	in := schedule.Input{Facts: make(map[schedule.Event]schedule.Fact), Settled: make(map[uuid.UUID]int)}
	for i := range w.Instruments {
		instrument, err := Planned(i, &w.Instruments[i], catalogue)
		if err != nil {
			return in, err
		}
		in.Instruments = append(in.Instruments, instrument)
	}
	in.Order = w.Order
	in.Pins, in.Begun = make(map[schedule.Event]time.Time), make(map[schedule.Event]time.Time)
	for _, p := range w.Pins {
		in.Pins[p.Event] = p.At
	}
	for _, b := range w.Begun {
		in.Begun[b.Event] = b.At
	}
	return in, nil
}

// CatalogueAt is every family, and every product as its sheet stands at a moment.
func (w *Workshop) CatalogueAt(now time.Time) (material.Catalogue, error) {
	all := material.NewCatalogue()
	for i := range w.Products {
		made, err := w.Products[i].At(now)
		if err != nil {
			return nil, fault(err, "/products/%d", i)
		}
		all[made.Product] = &made
	}
	return all, nil
}

// Planned is a job as it is planned; its place in the workshop is only for what is said
// of a fault.
func Planned(i int, stored *recipe.Instrument, catalogue material.Catalogue) (schedule.Instrument, error) {
	out := schedule.Instrument{ID: stored.ID, Name: stored.Name, Promise: stored.Promise, Show: stored.Show, Weight: stored.Weight}
	for p := range stored.Pieces {
		kept := &stored.Pieces[p]
		piece := schedule.Piece{ID: kept.ID, Name: string(kept.Kind)}
		for s := range kept.Steps {
			step := schedule.Step{Step: kept.Steps[s], Piece: kept.ID}
			step.Regions, step.Coats = kept.RegionsOf(&kept.Steps[s]), max(step.Coats, 1)
			var err error
			if step.Material, err = catalogue.Of(step.Family, step.Product); err != nil {
				return out, fault(err, "/instruments/%d/pieces/%d/steps/%d", i, p, s)
			}
			piece.Steps = append(piece.Steps, step)
		}
		out.Pieces = append(out.Pieces, piece)
	}
	return out, nil
}

// ShopAt lays out the shop as it is at a moment.
func (w *Workshop) ShopAt(now time.Time) (*schedule.Shop, error) {
	at := w.Shop.At(now)
	s := w.Shop.Settings[at]
	zone, err := time.LoadLocation(s.TimeZone)
	if err != nil {
		return nil, fault(fmt.Errorf("%q is not an IANA time zone, such as Europe/London", s.TimeZone), "/shop/settings/%d/timeZone", at)
	}
	setting := schedule.Setting{Margin: s.Margin}
	if setting.Calendar, err = calendarOf(zone, s.Week, s.Exceptions); err != nil {
		return nil, fault(err, "/shop/settings/%d/week", at)
	}
	for i, p := range w.Shop.People {
		if p.Left {
			continue
		}
		person := schedule.Person{ID: p.ID, Name: p.Name}
		if p.Week != nil {
			if person.Calendar, err = calendarOf(zone, *p.Week, nil); err != nil {
				return nil, fault(err, "/shop/people/%d/week", i)
			}
		}
		setting.People = append(setting.People, person)
	}
	if len(setting.People) == 0 && len(w.Shop.People) > 0 {
		return nil, fault(fmt.Errorf("everybody has left; somebody's hands must stay"), "/shop/people")
	}
	for i := range w.Shop.Places {
		p, err := w.place(i, s.Week, zone, now)
		if err != nil {
			return nil, err
		}
		setting.Places = append(setting.Places, p)
	}
	shop, err := schedule.NewShop(setting)
	return shop, fault(err, "/shop")
}

func calendarOf(zone *time.Location, week settings.Week, exceptions settings.Exceptions) (*calendar.Calendar, error) {
	days := make(map[calendar.Day][]calendar.Hours, len(exceptions))
	for _, text := range slices.Sorted(maps.Keys(exceptions)) { // faults in a fixed order
		day, err := calendar.ParseDay(text)
		if err != nil {
			return nil, err
		}
		days[day] = exceptions[text]
	}
	return calendar.New(zone, week, days)
}

// place is what a place is like at a moment; days of its own differ from its own
// week, or from the shop's.
func (w *Workshop) place(i int, week settings.Week, zone *time.Location, now time.Time) (schedule.Place, error) {
	stored := &w.Shop.Places[i]
	at := stored.At(now)
	v := stored.Versions[at]
	p := schedule.Place{ID: stored.ID, Name: v.Name, Kind: v.Kind, Capacity: v.Capacity, Air: v.Air, Hooks: v.Hooks}
	if v.HangsIn != nil {
		p.HangsIn = *v.HangsIn
	}
	var err error
	if v.Week != nil {
		week = *v.Week
	}
	if v.Week != nil || len(v.Exceptions) > 0 {
		if p.Calendar, err = calendarOf(zone, week, v.Exceptions); err != nil {
			return p, fault(err, "/shop/places/%d/versions/%d/week", i, at)
		}
	}
	p.Room, err = w.room(stored.ID, v.Profile, zone)
	return p, fault(err, "/shop/places/%d/versions/%d/profile", i, at)
}

// room is the air of a place; nil where nobody has said anything about it.
func (w *Workshop) room(id uuid.UUID, profile *settings.Profile, zone *time.Location) (*climate.Room, error) {
	stored := slices.DeleteFunc(slices.Clone(w.Shop.Readings), func(r settings.Reading) bool { return r.Place != id || r.StruckAt != nil })
	if profile == nil && len(stored) == 0 {
		return nil, nil
	}
	slices.SortStableFunc(stored, func(a, b settings.Reading) int { return a.RecordedAt.Compare(b.RecordedAt) })
	usual := climate.Constant(climate.Reference)
	if profile != nil {
		var months [12]climate.Shift
		if profile.Months != nil {
			months = *profile.Months
		}
		var err error
		if usual, err = climate.ProfileOf(profile.Knots, months); err != nil {
			return nil, err
		}
	}
	readings := make([]climate.Reading, len(stored))
	for i, r := range stored {
		readings[i] = climate.Reading{At: r.At, Air: r.Air, Surface: r.Surface}
	}
	return climate.NewRoom(zone, usual, readings)
}

// Fold reads a log into what is done, moved, tested and settled.
func (w *Workshop) Fold(in *schedule.Input, log []job.Entry, catalogue material.Catalogue) {
	planned := make(map[uuid.UUID]unit.Minutes)
	for _, instrument := range w.Instruments {
		for _, piece := range instrument.Pieces {
			for _, step := range piece.Steps {
				planned[step.ID] = step.HandsOnMin
			}
		}
	}
	fold := job.FoldOf(log)
	for event, e := range fold.All() {
		in.Read(e, planned[event.Step], catalogue.Product(e.Used()))
	}
	for _, e := range fold.Facts() {
		in.Read(e, 0, nil)
	}
}
