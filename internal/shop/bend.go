package shop

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/formats"
	"umberfrost/internal/store"
)

// bent is the shop with some decisions changed. The what-if plans it, and keeping
// writes it down: both from the same file, so that what is kept is what was asked.
type bent struct {
	*moment
	by    uuid.UUID // who decides
	file  *formats.File
	said  []string // each change in words
	wider bool     // all of them only widen what is allowed
	// What differs from the shop as it is kept.
	setting  bool
	places   map[uuid.UUID]bool
	people   map[uuid.UUID]bool
	steps    map[uuid.UUID]bool
	inserted []uuid.UUID
	pins     map[schedule.Event]bool
	order    bool
}

// bend applies changes, one after the other. It fails with *Invalid naming the
// change and the field.
func (m *moment) bend(changes []Change, by uuid.UUID) (*bent, error) {
	b := &bent{moment: m, by: by, file: m.file.Clone(), wider: true, places: make(map[uuid.UUID]bool), people: make(map[uuid.UUID]bool),
		steps: make(map[uuid.UUID]bool), pins: make(map[schedule.Event]bool)}
	for i := range changes {
		if err := b.apply(&changes[i]); err != nil {
			return nil, within(changePath(i), err)
		}
	}
	return b, nil
}

// say notes a change in words, and whether it only widens what is allowed.
func (b *bent) say(wider bool, format string, args ...any) error {
	b.said = append(b.said, fmt.Sprintf(format, args...))
	b.wider = b.wider && wider
	return nil
}

// input is what dates are derived from in the bent shop.
func (b *bent) input() (schedule.Input, error) {
	in := b.moment.input
	if b.setting || len(b.places)+len(b.people) > 0 {
		basis, err := b.file.Basis(b.now)
		if err != nil {
			return in, refused(err)
		}
		in.Shop = basis.Shop
	}
	if len(b.steps)+len(b.inserted) > 0 {
		in.Instruments = slices.Clone(in.Instruments)
		for i := range b.file.Instruments {
			if !b.touched(&b.file.Instruments[i]) {
				continue
			}
			instrument, err := b.basis.Materials.Instrument(i, &b.file.Instruments[i])
			if err == nil {
				err = instrument.Validate()
			}
			if err != nil {
				return in, refused(err)
			}
			in.Instruments[i] = instrument
		}
	}
	if b.order {
		in.Order = make([]schedule.Event, len(b.file.Order))
		for i, e := range b.file.Order {
			in.Order[i] = schedule.Event(e)
		}
	}
	if len(b.pins) > 0 {
		in.Pins = maps.Clone(in.Pins)
		for event := range b.pins {
			delete(in.Pins, event)
		}
		for _, p := range b.file.Pins {
			if event := schedule.Event(p.Event); b.pins[event] {
				in.Pins[event] = p.At
			}
		}
	}
	return in, nil
}

func refused(err error) error {
	var wrong *formats.Invalid
	if errors.As(err, &wrong) && len(wrong.Faults) > 0 {
		return invalid("changes", wrong.Faults[0].Message, nil)
	}
	return invalid("changes", err.Error(), nil)
}

func (b *bent) touched(in *formats.Instrument) bool {
	for p := range in.Pieces {
		for s := range in.Pieces[p].Steps {
			if id := in.Pieces[p].Steps[s].ID; b.steps[id] || slices.Contains(b.inserted, id) {
				return true
			}
		}
	}
	return false
}

// answer plans the bent shop beside today's.
func (b *bent) answer() (schedule.Answer, error) {
	in, err := b.input()
	if err != nil {
		return schedule.Answer{}, err
	}
	answer, err := schedule.WhatIf(b.plan, in, b.wider)
	if err != nil {
		return answer, refused(err)
	}
	if !slices.Equal(answer.Order, in.Order) {
		b.setOrder(answer.Order)
	}
	return answer, b.checkPins(answer.After)
}

// checkPins refuses a pin at which its event cannot be, saying why.
func (b *bent) checkPins(after *schedule.Plan) error {
	for _, p := range b.file.Pins {
		event := schedule.Event(p.Event)
		if e, found := after.Find(event); !b.pins[event] || !found || !e.Floats {
			continue
		}
		why := "What comes before it would not be ready, or what follows would miss its window."
		for _, s := range after.Starts(event, p.At.Add(time.Minute)) {
			if !s.Free && !s.Start.After(p.At) && s.End.After(p.At) {
				why = s.Why
			}
		}
		return invalid("changes.at", why, p.At)
	}
	return nil
}

func (b *bent) setOrder(order []schedule.Event) {
	b.order = true
	b.file.Order = make([]formats.Event, len(order))
	for i, e := range order {
		b.file.Order[i] = formats.Event(e)
	}
}

// keep writes what differs into the database.
func (b *bent) keep(ctx context.Context, tx *store.Tx) error {
	for _, part := range []func(context.Context, *store.Tx) error{b.keepShop, b.keepWork, b.keepPins} {
		if err := part(ctx, tx); err != nil {
			return err
		}
	}
	return nil
}

func (b *bent) keepShop(ctx context.Context, tx *store.Tx) error {
	if b.setting {
		if err := tx.AddShopSetting(ctx, storeSetting(*b.current())); err != nil {
			return err
		}
	}
	for i := range b.file.Shop.Places {
		if p := &b.file.Shop.Places[i]; b.places[p.ID] {
			if err := tx.AddPlace(ctx, storePlace(p.ID, *b.version(p))); err != nil {
				return err
			}
		}
	}
	for _, p := range b.file.Shop.People {
		if !b.people[p.ID] {
			continue
		}
		row := store.Person{ID: p.ID, Name: p.Name, Week: storeWeek(p.Week), Left: p.Left}
		keep := tx.ChangePerson
		if !slices.ContainsFunc(b.moment.people, func(known store.Person) bool { return known.ID == p.ID }) {
			keep = tx.AddPerson
		}
		if err := keep(ctx, row); errors.Is(err, store.ErrConflict) {
			return invalid("changes.person.name", "somebody else here has that name already", p.Name)
		} else if err != nil {
			return err
		}
	}
	return nil
}

func (b *bent) keepWork(ctx context.Context, tx *store.Tx) error {
	for i := range b.file.Instruments {
		in := &b.file.Instruments[i]
		for p := range in.Pieces {
			for s := range in.Pieces[p].Steps {
				step := &in.Pieces[p].Steps[s]
				var err error
				switch {
				case slices.Contains(b.inserted, step.ID):
					err = tx.InsertStep(ctx, storeStep(in.ID, in.Pieces[p].ID, s, *step, nil))
				case b.steps[step.ID]:
					err = tx.ChangeStep(ctx, storeStep(in.ID, in.Pieces[p].ID, s, *step, nil))
				}
				if errors.Is(err, store.ErrConflict) {
					return &Taken{fmt.Sprintf("somebody else has changed “%s” of %s in the meantime", step.Title, in.Name)}
				}
				if err != nil {
					return err
				}
			}
		}
	}
	if !b.order {
		return nil
	}
	order := make([]schedule.Event, len(b.file.Order))
	for i, e := range b.file.Order {
		order[i] = schedule.Event(e)
	}
	return tx.SetOrder(ctx, order)
}

func (b *bent) keepPins(ctx context.Context, tx *store.Tx) error {
	for event := range b.pins {
		if err := tx.RemovePin(ctx, event); err != nil {
			return err
		}
	}
	for _, p := range b.file.Pins {
		if event := schedule.Event(p.Event); b.pins[event] {
			if err := tx.AddPin(ctx, store.Pin{Step: p.Step, Coat: p.Coat, At: p.At, Person: p.Person, MadeAt: p.MadeAt}); err != nil {
				return err
			}
		}
	}
	return nil
}

// WhatIf is what changes would do, beside today's plan.
type WhatIf struct {
	Changes []string    `json:"changes" doc:"each in words"`
	Effects []Effect    `json:"effects" doc:"on every instrument that differs"`
	Sum     string      `json:"sum" doc:"in a few words"`
	Stands  bool        `json:"stands" doc:"today's dates stand: the wider shop, served in order, would come out worse"`
	Moved   []MovedBead `json:"moved" doc:"events at another time, the nearest first, at most 400"`
	Rows    []Pair      `json:"rows" doc:"threads of what differs, before and after, where asked for; at most 12"`
	Marks   []DayMark   `json:"marks" doc:"the Mondays along them"`
}

// Effect is what changes do to one instrument.
type Effect struct {
	MovedForecast
	Events int  `json:"events" doc:"how many of its events are at another time"`
	Late   bool `json:"late" doc:"its promise would not be kept"`
	Was    bool `json:"wasLate" doc:"it is not kept today"`
}

// MovedBead is an event at another time than today.
type MovedBead struct {
	Event        EventRef  `json:"event"`
	InstrumentID uuid.UUID `json:"instrumentId"`
	PieceID      uuid.UUID `json:"pieceId"`
	Start        time.Time `json:"start"`
	End          time.Time `json:"end"`
}

// WhatIf plans changes beside today's plan; nothing is kept. It fails with
// *Invalid naming the change that cannot be, and why.
func (s *Service) WhatIf(ctx context.Context, in Changes) (WhatIf, error) {
	var view WhatIf
	err := s.ask(ctx, func(m *moment) error {
		b, err := m.bend(in.Changes, in.PersonID)
		if err != nil {
			return err
		}
		answer, err := b.answer()
		if err != nil {
			return err
		}
		view = m.whatIf(b.said, answer)
		if in.Threads {
			view.Rows, view.Marks = m.pairs(answer), m.mondays()
		}
		return nil
	})
	return view, err
}

// Kept is what keeping changes did.
type Kept struct {
	Changes []string        `json:"changes"`
	Moved   []MovedForecast `json:"moved" doc:"instruments whose finish they moved"`
}

// KeepChanges makes changes real: all of them, or none. It fails like WhatIf, and
// with *Taken where somebody has changed the same thing since.
func (s *Service) KeepChanges(ctx context.Context, in Changes) (Kept, error) {
	kept := Kept{}
	err := s.change(ctx, func(tx *store.Tx) error {
		before, err := s.loadToChange(ctx, tx, s.clock().Truncate(time.Minute))
		if err != nil {
			return err
		}
		if !slices.ContainsFunc(before.people, func(p store.Person) bool { return p.ID == in.PersonID }) {
			return invalid("personId", "must be one of the people of this shop", in.PersonID)
		}
		b, err := before.bend(in.Changes, in.PersonID)
		if err != nil {
			return err
		}
		if _, err := b.answer(); err != nil {
			return err
		}
		if err := b.keep(ctx, tx); err != nil {
			return err
		}
		after, err := s.loadToChange(ctx, tx, before.now)
		if err != nil {
			return err
		}
		kept = Kept{b.said, moved(before, after)}
		return snapshots(ctx, tx, before, after, strings.Join(b.said, "; "), nil)
	})
	return kept, err
}

func (m *moment) whatIf(said []string, answer schedule.Answer) WhatIf {
	view := WhatIf{Changes: said, Effects: []Effect{}, Moved: []MovedBead{}, Rows: []Pair{}, Marks: []DayMark{}, Stands: answer.Kept}
	for _, d := range answer.Differences {
		e := Effect{MovedForecast: MovedForecast{InstrumentID: d.Instrument, Name: d.Name, Before: m.finishText(d.Before), After: m.finishText(d.After), Days: d.Days},
			Events: d.Moved, Late: d.After.Late(), Was: d.Before.Late()}
		view.Effects = append(view.Effects, e)
	}
	slices.SortStableFunc(view.Effects, func(a, b Effect) int { return size(b) - size(a) })
	view.Sum = sumText(view.Effects)
	const most = 400
	for _, e := range answer.After.Events {
		old, there := answer.Before.Find(e.Event)
		if e.Done || e.Impossible != "" || (there && old.Start.Equal(e.Start) && old.End.Equal(e.End)) {
			continue
		}
		view.Moved = append(view.Moved, MovedBead{ref(e.Event), e.Instrument, e.Piece, e.Start.UTC(), e.End.UTC()})
	}
	slices.SortStableFunc(view.Moved, func(a, b MovedBead) int { return a.Start.Compare(b.Start) })
	view.Moved = view.Moved[:min(most, len(view.Moved))]
	return view
}

// size is how much an effect matters, for putting the most telling first.
func size(e Effect) int {
	days := max(e.Days, -e.Days)
	if e.Late != e.Was {
		days += 1000
	}
	return days
}

func (m *moment) finishText(f schedule.Forecast) string {
	if f.Impossible != "" {
		return "cannot be placed"
	}
	return dayView(schedule.DayOf(f.Finish.In(m.plan.Zone))).Said
}

// sumText says in a few words what a what-if does.
func sumText(effects []Effect) string {
	var earlier, later []string
	shifted := 0
	for _, e := range effects {
		switch {
		case e.Days < 0:
			earlier = append(earlier, fmt.Sprintf("%s %s earlier", e.Name, plural(-e.Days, "day")))
		case e.Days > 0:
			later = append(later, fmt.Sprintf("%s %s later", e.Name, plural(e.Days, "day")))
		default:
			shifted++
		}
	}
	parts := append(few(earlier), few(later)...)
	switch {
	case len(effects) == 0:
		return "Nothing else moves."
	case len(parts) == 0:
		return fmt.Sprintf("No finish changes its day; work moves on %s.", plural(shifted, "instrument"))
	}
	return strings.Join(parts, ", ") + "."
}

// few names the first three of a list and counts the rest.
func few(list []string) []string {
	if len(list) <= 3 {
		return list
	}
	return append(list[:3:3], fmt.Sprintf("%d more", len(list)-3))
}
