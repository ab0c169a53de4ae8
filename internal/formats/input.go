package formats

import (
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
)

// ChangesBetween reports whether settings, places or data sheets that were decided
// ahead of time come into force between two moments.
func (f *File) ChangesBetween(from, to time.Time) bool {
	within := func(t time.Time) bool { return t.After(from) && !t.After(to) }
	for _, s := range f.Shop.Settings {
		if within(s.ValidFrom) {
			return true
		}
	}
	for _, p := range f.Shop.Places {
		if slices.ContainsFunc(p.Versions, func(v PlaceVersion) bool { return within(v.ValidFrom) }) {
			return true
		}
	}
	return slices.ContainsFunc(f.Products, func(p Product) bool {
		return slices.ContainsFunc(p.Versions, func(v Sheet) bool { return within(v.ValidFrom) })
	})
}

// Input is what dates are derived from, as the file stands at a moment. It fails
// with *Invalid where the rules of the job refuse something.
func (f *File) Input(now time.Time) (schedule.Input, error) {
	shop, err := f.ShopAt(now)
	if err != nil {
		return schedule.Input{}, err
	}
	materials, err := f.MaterialsAt(now)
	if err != nil {
		return schedule.Input{}, err
	}
	in, err := f.InputOf(materials)
	in.Now, in.Shop = now, shop
	return in, err
}

// InputOf is Input but for the present and the shop, which are still to be filled in.
func (f *File) InputOf(materials Materials) (schedule.Input, error) {
	if active := *f; len(active.PutAside()) > 0 {
		return active.InputOf(materials)
	}
	in := schedule.Input{Factors: f.Factors}
	for i := range f.Instruments {
		instrument, err := materials.Instrument(i, &f.Instruments[i])
		if err != nil {
			return in, err
		}
		in.Instruments = append(in.Instruments, instrument)
	}
	in.Order = f.Order
	in.Pins, in.Begun = make(map[schedule.Event]time.Time), make(map[schedule.Event]time.Time)
	for _, p := range f.Pins {
		in.Pins[p.Event] = p.At
	}
	for _, b := range f.Begun {
		in.Begun[b.Event] = b.At
	}
	f.fold(&in, materials)
	return in, nil
}

// latest is the last version that is valid at a moment; the first where none is.
func latest[T any](versions []T, now time.Time, from func(T) time.Time) int {
	best := 0
	for i, v := range versions {
		if at := from(v); !at.After(now) && (from(versions[best]).After(now) || !at.Before(from(versions[best]))) {
			best = i
		}
	}
	return best
}

// At is the index of the version of a place that holds at a moment.
func (p *Place) At(now time.Time) int {
	return latest(p.Versions, now, func(v PlaceVersion) time.Time { return v.ValidFrom })
}

// SettingAt is the index of the settings that hold at a moment.
func (f *File) SettingAt(now time.Time) int {
	return latest(f.Shop.Settings, now, func(s Setting) time.Time { return s.ValidFrom })
}

// ShopAt lays out the shop as it is at a moment.
func (f *File) ShopAt(now time.Time) (*schedule.Shop, error) {
	at := f.SettingAt(now)
	path := fmt.Sprintf("/shop/settings/%d", at)
	s := f.Shop.Settings[at]
	zone, err := time.LoadLocation(s.TimeZone)
	if err != nil {
		return nil, invalid(path+"/timeZone", "%q is not an IANA time zone, such as Europe/London", s.TimeZone)
	}
	setting := schedule.Setting{Margin: s.Margin}
	if setting.Calendar, err = calendarOf(zone, s.Week, s.Exceptions); err != nil {
		return nil, invalid(path+"/week", "%v", err)
	}
	for i, p := range f.Shop.People {
		if p.Left {
			continue
		}
		person := schedule.Person{ID: p.ID, Name: p.Name}
		if p.Week != nil {
			if person.Calendar, err = calendarOf(zone, *p.Week, nil); err != nil {
				return nil, invalid(fmt.Sprintf("/shop/people/%d/week", i), "%v", err)
			}
		}
		setting.People = append(setting.People, person)
	}
	if len(setting.People) == 0 && len(f.Shop.People) > 0 {
		return nil, invalid("/shop/people", "everybody has left; somebody's hands must stay")
	}
	for i := range f.Shop.Places {
		p, err := f.place(i, s.Week, zone, now)
		if err != nil {
			return nil, err
		}
		setting.Places = append(setting.Places, p)
	}
	shop, err := schedule.NewShop(setting)
	if err != nil {
		return nil, invalid("/shop", "%v", err)
	}
	return shop, nil
}

func calendarOf(zone *time.Location, week Week, exceptions map[string][]calendar.Hours) (*calendar.Calendar, error) {
	days := make(map[calendar.Day][]calendar.Hours, len(exceptions))
	for text, hours := range exceptions {
		day, err := calendar.ParseDay(text)
		if err != nil {
			return nil, err
		}
		days[day] = hours
	}
	return calendar.New(zone, week, days)
}

// place is what a place is like at a moment; days of its own differ from its own
// week, or from the shop's.
func (f *File) place(i int, week Week, zone *time.Location, now time.Time) (schedule.Place, error) {
	stored := &f.Shop.Places[i]
	at := stored.At(now)
	v := stored.Versions[at]
	path := fmt.Sprintf("/shop/places/%d/versions/%d", i, at)
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
			return p, invalid(path+"/week", "%v", err)
		}
	}
	if p.Room, err = f.room(stored.ID, v.Profile, zone); err != nil {
		return p, invalid(path+"/profile", "%v", err)
	}
	return p, nil
}

// room is the air of a place; nil where nobody has said anything about it.
func (f *File) room(id uuid.UUID, profile *Profile, zone *time.Location) (*climate.Room, error) {
	stored := slices.DeleteFunc(slices.Clone(f.Shop.Readings), func(r Reading) bool { return r.Place != id || r.StruckAt != nil })
	if profile == nil && len(stored) == 0 {
		return nil, nil
	}
	slices.SortStableFunc(stored, func(a, b Reading) int { return a.RecordedAt.Compare(b.RecordedAt) })
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

// Materials is what coats are made of, by the id of a product, or of a family for its usual
// figures; coats of the same product share one.
type Materials map[string]*material.Material

// MaterialsAt is every family, and every product as its sheet stands at a moment.
func (f *File) MaterialsAt(now time.Time) (Materials, error) {
	all := make(Materials)
	for _, family := range material.Families() {
		made := material.OfFamily(family)
		all[family.ID] = &made
	}
	for i, p := range f.Products {
		family, err := material.FindFamily(p.Family)
		if err != nil {
			return nil, invalid(fmt.Sprintf("/products/%d/family", i), "%v", err)
		}
		sheet := p.Versions[latest(p.Versions, now, func(s Sheet) time.Time { return s.ValidFrom })]
		made, err := material.OfProduct(family, p.ID.String(), p.Name, sheet.Sheet)
		if err != nil {
			return nil, invalid(fmt.Sprintf("/products/%d", i), "%v", err)
		}
		all[p.ID.String()] = &made
	}
	return all, nil
}

// Used is the product that an entry says was used instead of the planned one; nil where it names none.
func (m Materials) Used(e *job.Entry) *material.Material {
	if e.Actual == nil || e.Actual.Product == nil {
		return nil
	}
	return m[e.Actual.Product.String()]
}

// Of is what a step is put on with; nil for a step without a film.
func (m Materials) Of(step *Step) (*material.Material, error) {
	if step.Family == "" {
		return nil, nil
	}
	if step.Product == nil {
		made, known := m[step.Family]
		if !known {
			_, err := material.FindFamily(step.Family)
			return nil, err
		}
		return made, nil
	}
	made, known := m[step.Product.String()]
	if !known {
		return nil, fmt.Errorf("its product %s is not among the products", step.Product)
	}
	if made.Family.ID != step.Family {
		return nil, fmt.Errorf("%s is of the family %s, not %s", made.Name, made.Family.ID, step.Family)
	}
	return made, nil
}

// Instrument is a job as it is planned; its place in the file is only for what is said
// of a fault.
func (m Materials) Instrument(i int, stored *Instrument) (schedule.Instrument, error) {
	out := schedule.Instrument{ID: stored.ID, Name: stored.Name, Promise: stored.Promise, Show: stored.Show, Weight: stored.Weight}
	for p := range stored.Pieces {
		piece := schedule.Piece{ID: stored.Pieces[p].ID, Name: string(stored.Pieces[p].Kind)}
		for s := range stored.Pieces[p].Steps {
			step, err := m.step(&stored.Pieces[p], &stored.Pieces[p].Steps[s])
			if err != nil {
				return out, invalid(fmt.Sprintf("/instruments/%d/pieces/%d/steps/%d", i, p, s), "%v", err)
			}
			piece.Steps = append(piece.Steps, step)
		}
		out.Pieces = append(out.Pieces, piece)
	}
	return out, nil
}

func (m Materials) step(piece *Piece, step *Step) (schedule.Step, error) {
	out := schedule.Step{Step: *step, Piece: piece.ID}
	out.Regions, out.Coats = piece.RegionsOf(step), max(step.Coats, 1)
	var err error
	out.Material, err = m.Of(step)
	return out, err
}

// fold reads the log into what is done, moved, tested and settled.
func (f *File) fold(in *schedule.Input, materials Materials) {
	planned := make(map[uuid.UUID]unit.Minutes)
	for _, instrument := range f.Instruments {
		for _, piece := range instrument.Pieces {
			for _, step := range piece.Steps {
				planned[step.ID] = step.HandsOnMin
			}
		}
	}
	in.Facts, in.Settled = make(map[schedule.Event]schedule.Fact), make(map[uuid.UUID]int)
	for _, e := range job.Standing(f.Log) {
		in.Read(e, planned[e.Event().Step], materials.Used(e))
	}
}
