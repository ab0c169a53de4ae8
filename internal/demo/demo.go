// Package demo fills an empty database with the Saltmarsh Room, an invented
// two-person finishing room on a tidal estuary whose jobs are named after
// wading birds. All of it goes through the use cases of a real shop, at the
// times at which it would have happened: past work is logged as the planner
// had it planned, a few minutes late.
package demo

import (
	"context"
	"fmt"
	"hash/fnv"
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/store"
)

// Fixed is the present of tests and screenshots: a Thursday afternoon.
var Fixed = time.Date(2026, 3, 12, 15, 20, 0, 0, time.UTC)

// people of the room.
var people = []string{"Mara", "Tobin"}

// start is the settings of the room: weekdays with a midday break, two evenings, Saturdays
// until early afternoon.
func start() shop.Start {
	s := shop.Start{Setting: settings.Setting{Name: "Saltmarsh Room", TimeZone: "Europe/London", Margin: schedule.DefaultMargin}}
	for day := time.Monday; day <= time.Friday; day++ {
		s.Week[day] = []calendar.Hours{{Open: 9 * 60, Close: 12*60 + 30}, {Open: 13*60 + 30, Close: 17*60 + 30}}
	}
	for _, evening := range []time.Weekday{time.Tuesday, time.Thursday} {
		s.Week[evening] = append(s.Week[evening], calendar.Hours{Open: 19*60 + 30, Close: 21*60 + 30})
	}
	s.Week[time.Saturday] = []calendar.Hours{{Open: 10 * 60, Close: 14 * 60}}
	for _, p := range places(s.Week) {
		s.Places = append(s.Places, shop.StartPlace(p.key, p.PlaceVersion))
	}
	return s
}

// Load fills an empty database with the Saltmarsh Room so that its present is now. A database that has
// settings already is left as it is; it reports whether it did anything.
func Load(ctx context.Context, s *store.Store, now time.Time) (bool, error) {
	return Fill(ctx, s, now, Saltmarsh)
}

// Room is a room's work: its jobs in the order in which they came in, and which past it has had.
type Room struct {
	Products []Product
	Jobs     []Job
	Own      []OwnRecipe
	Clocked  bool   // somebody looked at the clock, now and then, and wrote down what the can said
	Tide     string // how long work took beyond its plan follows from this word: it leaves jobs at stages that show something
}

// OwnRecipe is what a room has saved of a job as a recipe of its own: the stack of a piece, or how it was levelled and buffed.
type OwnRecipe struct {
	Name  string
	From  string // the job
	Kind  recipe.OwnKind
	Piece recipe.PieceKind
}

// Fill fills an empty database like Load, with other work.
func Fill(ctx context.Context, s *store.Store, now time.Time, room Room) (bool, error) {
	clock := now
	service, err := shop.New(s, func() time.Time { return clock })
	if err != nil {
		return false, err
	}
	fresh, err := service.Prepare(ctx, start(), people...)
	if err != nil || !fresh {
		return false, err
	}
	shelf := make(map[string]uuid.UUID)
	for _, p := range room.Products {
		if shelf[p.Name], err = service.AddProduct(ctx, p.Name, p.Family, p.Sheet); err != nil {
			return false, fmt.Errorf("product %s: %w", p.Name, err)
		}
	}
	reference, err := service.Reference(ctx)
	if err != nil {
		return false, err
	}
	days := past{service: service, clock: &clock, people: reference.People, tide: room.Tide, clocked: room.Clocked}
	for _, j := range room.Jobs {
		if err := days.workUntil(ctx, now.AddDate(0, 0, -j.Started).Add(-time.Hour)); err != nil {
			return false, err
		}
		choices, err := j.choices(now, shelf, room.Products)
		if err != nil {
			return false, fmt.Errorf("composing %s: %w", j.Name, err)
		}
		if _, err := service.Keep(ctx, choices); err != nil {
			return false, fmt.Errorf("planning %s: %w", j.Name, err)
		}
	}
	if err := days.workUntil(ctx, now); err != nil {
		return false, err
	}
	if err := secondThoughts(ctx, service, shelf, reference.People[0].ID); err != nil {
		return false, fmt.Errorf("second thoughts: %w", err)
	}
	if err := ownRecipes(ctx, service, room, reference.People[1].ID); err != nil {
		return false, fmt.Errorf("recipes of its own: %w", err)
	}
	return true, postReadings(ctx, service, now)
}

// ownRecipes are what the room has saved of its work.
func ownRecipes(ctx context.Context, service *shop.Service, room Room, who uuid.UUID) error {
	for _, own := range room.Own {
		view, err := service.Instrument(ctx, jobID(own.From))
		if err != nil {
			return err
		}
		saved := changes.RecipeSaved{ID: uuid.NewSHA1(uuid.NameSpaceOID, []byte("recipe "+own.Name)), Name: own.Name, Kind: own.Kind,
			PersonID: who, InstrumentID: view.ID}
		for i := range view.Wish.Pieces {
			if p := &view.Wish.Pieces[i]; own.Kind == recipe.OwnStack && p.Kind == own.Piece {
				saved.Stack = p
			}
		}
		for _, p := range view.Pieces {
			for _, s := range p.Steps {
				if own.Kind == recipe.OwnFragment && p.Kind == own.Piece && (s.Kind == "level" || s.Kind == "buff") {
					saved.StepIDs = append(saved.StepIDs, s.StepID)
				}
			}
		}
		if _, err := service.SaveRecipe(ctx, saved); err != nil {
			return fmt.Errorf("%s: %w", own.Name, err)
		}
	}
	return nil
}

// secondThoughts is a change that somebody made by hand and that is not right yet:
// lacquer for the last coats over two-part clear. The schedule objects.
func secondThoughts(ctx context.Context, service *shop.Service, shelf map[string]uuid.UUID, who uuid.UUID) error {
	view, err := service.Instrument(ctx, jobID("Turnstone"))
	if err != nil {
		return err
	}
	for _, step := range view.Pieces[0].Steps {
		if step.Title == "Clear, to the end" {
			_, err = service.KeepChanges(ctx, changes.Changes{PersonID: who,
				Changes: []changes.Change{{Kind: "material", StepID: step.StepID, Material: shelf["Spartina Lacquer"].String()}}})
		}
	}
	return err
}

// past works through the days before now.
type past struct {
	service *shop.Service
	clock   *time.Time
	people  []views.Person
	logged  int64
	tide    string
	clocked bool
}

// workUntil logs what the planner has next, as long as it would have been
// finished by then, and leaves the clock there.
func (p *past) workUntil(ctx context.Context, until time.Time) error {
	for {
		ahead, err := p.service.Ahead(ctx)
		if err != nil {
			return err
		}
		if len(ahead) == 0 {
			break
		}
		next := slices.MinFunc(ahead, func(a, b views.Due) int { return a.End.At.Compare(b.End.At) })
		finished := next.End.At.Add(p.dawdle(next.Name, next.Title))
		if finished.After(until) {
			break
		}
		*p.clock = finished
		if err := p.log(ctx, next); err != nil {
			return fmt.Errorf("logging %s: %w", next.Title, err)
		}
	}
	*p.clock = until
	return nil
}

// dawdle is by how many minutes the work took longer than planned: the same for
// the same work on the same instrument, from 0 to 7.
func (p *past) dawdle(name, title string) time.Duration {
	return time.Duration(p.luck(name, title)%8) * time.Minute
}

func (p *past) luck(name, title string) uint32 {
	h := fnv.New32a()
	fmt.Fprint(h, name, title, p.tide)
	return h.Sum32()
}

func (p *past) log(ctx context.Context, due views.Due) error {
	p.logged++
	event := due.Event
	entry := changes.Entry{
		ID: uuid.NewSHA1(event.StepID, []byte(fmt.Sprint("demo log ", event.Coat))), Kind: job.Done, StepID: event.StepID, Coat: event.Coat,
		PersonID: p.people[p.logged%2].ID, DeviceID: uuid.NewSHA1(uuid.NameSpaceOID, []byte("bench tablet")), DeviceSeq: p.logged,
	}
	luck := p.luck(due.Name, due.Title)
	if planned := due.End.At.Sub(due.Start.At); p.clocked && luck%3 > 0 && planned < 3*time.Hour {
		late := p.dawdle(due.Name, due.Title).Minutes() / 2
		minutes := int(planned.Minutes()*(1-0.03*float64(luck/8%9)) + late + 0.5)
		entry.Minutes = &minutes
	}
	if p.clocked && due.Kind == string(job.Coat) && luck%4 == 0 {
		entry.Actual = &changes.ActualForm{Lot: fmt.Sprintf("B-%d", 100+luck%60), Passes: 2}
	}
	_, err := p.service.Log(ctx, entry)
	return err
}
