package shop

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/store"
)

// Outlines are the neutral shapes an instrument is drawn with.
var Outlines = []string{"two-horned", "one-horned", "slab", "angular", "bass"}

// NewInstrument is what a person chose for a new job.
type NewInstrument struct {
	ID      uuid.UUID  `json:"id" doc:"made by the device, so that keeping twice is keeping once"`
	Name    string     `json:"name" doc:"1 to 60 characters"`
	Outline string     `json:"outline" doc:"two-horned, one-horned, slab, angular or bass"`
	Promise string     `json:"promise" doc:"the promised day, like 2026-03-12"`
	Pieces  []NewPiece `json:"pieces" maxItems:"8" doc:"a body, a neck, or both"`
}

// NewPiece is what a person chose for one piece.
type NewPiece struct {
	Kind      string               `json:"kind" doc:"body or neck"`
	Recipe    string               `json:"recipe"`
	Wood      string               `json:"wood"`
	Length    string               `json:"length" doc:"as typed: 480 mm, 18 7/8 in"`
	Width     string               `json:"width"`
	Thickness string               `json:"thickness,omitempty" doc:"of a body"`
	Materials map[string]uuid.UUID `json:"materials,omitempty" doc:"the product chosen for a role of the recipe; the family's figures stand in for the rest"`
}

// Forecast is a schedule that nobody has kept yet.
type Forecast struct {
	Outlook Outlook         `json:"outlook"`
	Days    []DayMark       `json:"days"`
	Pieces  []PieceView     `json:"pieces"`
	HandsOn string          `json:"handsOn" doc:"hands-on time in all"`
	Coats   int             `json:"coats"`
	Now     Moment          `json:"now"`
	Moved   []MovedForecast `json:"moved" doc:"what it does to other instruments"`
	Notes   []string        `json:"notes" doc:"what is worth knowing before it is kept"`
}

// MovedForecast is an instrument whose finish a change has moved.
type MovedForecast struct {
	InstrumentID uuid.UUID `json:"instrumentId"`
	Name         string    `json:"name"`
	Before       string    `json:"before"`
	After        string    `json:"after"`
	Days         int       `json:"days" doc:"whole days later; negative is earlier"`
}

// Forecast composes and dates a new instrument beside today's work without
// saving anything.
func (s *Service) Forecast(ctx context.Context, in NewInstrument) (Forecast, error) {
	var f Forecast
	err := s.ask(ctx, func(m *moment) (err error) {
		f, err = m.forecast(in)
		return err
	})
	return f, err
}

func (m *moment) forecast(in NewInstrument) (Forecast, error) {
	stored, err := m.compose(in)
	if err != nil {
		return Forecast{}, err
	}
	after, err := m.with(stored)
	if err != nil {
		return Forecast{}, err
	}
	view := after.instrument(len(after.stored) - 1)
	f := Forecast{Outlook: view.Outlook, Days: view.Days, Pieces: view.Pieces, Now: view.Now, Moved: moved(m, after), Notes: []string{}}
	minutes := unit.Minutes(0)
	for _, piece := range after.instruments[len(after.instruments)-1].Pieces {
		for _, step := range piece.Steps {
			minutes += step.Minutes * unit.Minutes(step.Coats)
			if step.Kind == schedule.Coat {
				f.Coats += step.Coats
			}
		}
	}
	f.HandsOn = "about " + minutes.Text()
	if view.Outlook.Late {
		f.Notes = append(f.Notes, fmt.Sprintf("This promise will not hold: ready %s. A promise of %s or later would.",
			view.Outlook.FinishDay, view.Outlook.FinishDay))
	}
	return f, nil
}

// Keep saves a new instrument at the end of the order of work. Keeping the same
// id again returns what was kept the first time.
func (s *Service) Keep(ctx context.Context, in NewInstrument) (InstrumentView, error) {
	err := s.change(ctx, func(tx *store.Tx) error {
		before, err := s.loadToChange(ctx, tx, s.clock().Truncate(time.Minute))
		if err != nil {
			return err
		}
		for _, other := range before.stored {
			if other.ID == in.ID {
				return errKept
			}
		}
		stored, err := before.compose(in)
		if err != nil {
			return err
		}
		stored.CreatedAt = s.clock()
		if err := tx.AddInstrument(ctx, stored); err != nil {
			return err
		}
		after, err := s.loadToChange(ctx, tx, before.now)
		if err != nil {
			return err
		}
		return snapshots(ctx, tx, before, after, "planned "+stored.Name, nil)
	})
	if err != nil && !errors.Is(err, errKept) {
		return InstrumentView{}, err
	}
	return s.Instrument(ctx, in.ID)
}

// errKept ends a transaction that has nothing to do.
var errKept = errors.New("kept already")

// compose turns choices into a stored instrument, or says what is wrong with them.
func (m *moment) compose(in NewInstrument) (store.Instrument, error) {
	faults, promise := m.checkHead(in)
	choices := make([]recipe.PieceChoice, len(in.Pieces))
	for i, p := range in.Pieces {
		choices[i] = recipe.PieceChoice{Kind: recipe.PieceKind(p.Kind), Recipe: p.Recipe, Wood: p.Wood, Length: p.Length, Width: p.Width, Thickness: p.Thickness}
	}
	draft, wrong, err := recipe.Compose(choices)
	if err != nil {
		return store.Instrument{}, err
	}
	faults = append(faults, wrong...)
	for i, p := range in.Pieces {
		faults = append(faults, m.checkMaterials(p, fmt.Sprintf("pieces[%d].materials", i))...)
	}
	if len(faults) > 0 {
		return store.Instrument{}, &Invalid{faults}
	}
	return m.toStore(in, promise, draft), nil
}

func (m *moment) checkHead(in NewInstrument) ([]recipe.Fault, schedule.Day) {
	var faults []recipe.Fault
	fault := func(path, message string, value any) {
		faults = append(faults, recipe.Fault{Path: path, Message: message, Value: value})
	}
	if in.ID == uuid.Nil {
		fault("id", "must be a UUID that the device made", in.ID)
	}
	if name := strings.TrimSpace(in.Name); name == "" || len([]rune(name)) > 60 {
		fault("name", "give it a name of 1 to 60 characters", in.Name)
	}
	if !known(Outlines, in.Outline) {
		fault("outline", "choose one of "+strings.Join(Outlines, ", "), in.Outline)
	}
	promise, err := schedule.ParseDay(in.Promise)
	today := schedule.DayOf(m.now.In(m.plan.Zone))
	switch {
	case err != nil:
		fault("promise", err.Error(), in.Promise)
	case daysBetween(today, promise) < 0:
		fault("promise", "the promised day must be today, "+today.String()+", or later", in.Promise)
	case daysBetween(today, promise) > 3*365:
		fault("promise", "the promised day must lie within three years", in.Promise)
	}
	return faults, promise
}

func known(list []string, word string) bool {
	for _, w := range list {
		if w == word {
			return true
		}
	}
	return false
}

func (m *moment) checkMaterials(p NewPiece, path string) []recipe.Fault {
	r, err := recipe.Find(p.Recipe)
	if err != nil {
		return nil // said already
	}
	var faults []recipe.Fault
	for role, id := range p.Materials {
		at := path + "." + role
		family := ""
		for _, known := range r.Roles {
			if known.ID == role {
				family = known.Family
			}
		}
		if family == "" {
			faults = append(faults, recipe.Fault{Path: at, Message: "this recipe has no such material", Value: role})
			continue
		}
		made, found := m.product(id)
		switch {
		case !found:
			faults = append(faults, recipe.Fault{Path: at, Message: "there is no such product on the shelf; choose one of the " + family + " family, or leave it out", Value: id})
		case made.Family.ID != family:
			faults = append(faults, recipe.Fault{Path: at, Message: fmt.Sprintf("%s is of the family %s; this needs %s", made.Name, made.Family.ID, family), Value: id})
		}
	}
	return faults
}

func (st *state) product(id uuid.UUID) (material.Material, bool) {
	for _, p := range st.products {
		if p.ID == id {
			return p.material, true
		}
	}
	return material.Material{}, false
}

// toStore gives a draft its identities. They follow from the instrument's id
// and the slots, so that composing the same choices again makes the same steps.
func (m *moment) toStore(in NewInstrument, promise schedule.Day, draft recipe.Draft) store.Instrument {
	id := func(name string) uuid.UUID { return uuid.NewSHA1(in.ID, []byte(name)) }
	out := store.Instrument{ID: in.ID, Name: strings.TrimSpace(in.Name), Outline: in.Outline,
		Promise: time.Date(promise.Year, promise.Month, promise.Date, 0, 0, 0, 0, time.UTC), CreatedAt: m.now, Version: 1}
	for p, piece := range draft.Pieces {
		stored := store.Piece{ID: id("piece " + string(piece.Kind)), Instrument: in.ID, Kind: string(piece.Kind), Position: p, Recipe: piece.Recipe}
		stored.LengthM, stored.LengthEntered = metres(piece.Length)
		stored.WidthM, stored.WidthEntered = metres(piece.Width)
		stored.ThicknessM, stored.ThicknessEntered = metres(piece.Thickness)
		for z, zone := range piece.Zones {
			stored.Zones = append(stored.Zones, store.Zone{ID: id("zone " + zone.Key), Piece: stored.ID, Name: zone.Name, Position: z, Wood: piece.Wood, AreaM2: float64(zone.Area)})
		}
		for s, step := range piece.Steps {
			row := store.Step{
				ID: id("step " + step.Slot), Instrument: in.ID, Piece: stored.ID, Slot: step.Slot, Position: s, Kind: string(step.Kind), Title: step.Title,
				Role: step.Role, Method: string(step.Method), Coats: step.Coats, HandsOnMin: int(step.Minutes), SetUpMin: int(step.SetUp), ScuffMin: int(step.Scuff), Check: step.Check, Film: string(step.Film),
				RestMin: int(step.Rest.Minutes()), Tool: step.Tool, How: step.How, Why: step.Why, NoReturn: step.NoReturn, Version: 1,
			}
			row.Ladder.V = append([]string{}, step.Ladder...)
			if step.Role != "" {
				row.Family, row.Product = materialFor(piece, step.Role, in.Pieces[p].Materials)
			}
			for _, zone := range step.Zones {
				row.Zones = append(row.Zones, id("zone "+zone))
			}
			for _, slot := range step.After {
				row.After = append(row.After, id("step "+slot))
			}
			stored.Steps = append(stored.Steps, row)
		}
		out.Pieces = append(out.Pieces, stored)
	}
	return out
}

func materialFor(piece recipe.Piece, role string, chosen map[string]uuid.UUID) (family string, product *uuid.UUID) {
	r, _ := recipe.Find(piece.Recipe) // composed from it a moment ago
	for _, known := range r.Roles {
		if known.ID == role {
			family = known.Family
		}
	}
	if id, given := chosen[role]; given {
		product = &id
	}
	return family, product
}

func metres(s recipe.Size) (*float64, string) {
	if s.Entered == "" {
		return nil, ""
	}
	length := float64(s.Length) / 1000
	return &length, s.Entered
}

// with is the same shop with one more instrument at the end of the order.
func (m *moment) with(stored store.Instrument) (*moment, error) {
	next := *m.state
	described := fileInstrument(stored)
	planned, err := next.basis.Materials.Instrument(len(m.stored), &described)
	if err != nil {
		return nil, err
	}
	if err := planned.Validate(); err != nil {
		return nil, err
	}
	next.stored = append(slices.Clone(m.stored), stored)
	next.instruments = append(slices.Clone(m.instruments), planned)
	next.input.Instruments = next.instruments
	plan, err := m.plan.Retime(next.input)
	if err != nil {
		return nil, fmt.Errorf("planning: %w", err)
	}
	return &moment{state: &next, now: m.now, plan: plan}, nil
}

// moved compares the finishes of two moments.
func moved(before, after *moment) []MovedForecast {
	list := []MovedForecast{}
	old := make(map[uuid.UUID]schedule.Forecast)
	for _, f := range before.plan.Forecasts {
		old[f.Instrument] = f
	}
	for i, f := range after.plan.Forecasts {
		was, there := old[f.Instrument]
		if !there || was.Finish.Equal(f.Finish) {
			continue
		}
		a, b := schedule.DayOf(was.Finish.In(after.plan.Zone)), schedule.DayOf(f.Finish.In(after.plan.Zone))
		list = append(list, MovedForecast{f.Instrument, after.stored[i].Name, dayView(a).Said, dayView(b).Said, daysBetween(a, b)})
	}
	return list
}
