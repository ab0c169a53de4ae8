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

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/shop"
	"umberfrost/internal/store"
)

// Fixed is the present of tests and screenshots: a Thursday afternoon.
var Fixed = time.Date(2026, 3, 12, 15, 20, 0, 0, time.UTC)

// job is one instrument of the room.
type job struct {
	name    string
	outline string
	started int // days ago
	promise int // days ahead
	body    *piece
	neck    *piece
}

type piece struct {
	wood, length, width, thickness, colour string
}

var jobs = []job{
	{"Ruff", "slab", 40, 2, nil, &piece{wood: "walnut-black", length: "640 mm", width: "52 mm"}},
	{"Curlew", "two-horned", 34, 21, &piece{"ash-swamp", "480 mm", "330 mm", "44 mm", "Estuary Blue"}, &piece{wood: "maple-hard", length: "650 mm", width: "51 mm"}},
	{"Whimbrel", "one-horned", 24, 9, &piece{"mahogany-genuine", "460 mm", "335 mm", "45 mm", "Cockle Red"}, &piece{wood: "mahogany-genuine", length: "628 mm", width: "53 mm"}},
	{"Godwit", "bass", 15, 48, &piece{"oak-red", "540 mm", "350 mm", "42 mm", "Tidewrack Charcoal"}, &piece{wood: "maple-roasted", length: "864 mm", width: "54 mm"}},
	{"Knot", "angular", 11, 44, &piece{"ash-northern", "18 7/8 in", "13 in", "1 3/4 in", "Samphire Green"}, nil},
	{"Avocet", "two-horned", 8, 60, &piece{"limba-white", "475 mm", "328 mm", "44 mm", "Marsh Honey"}, &piece{wood: "maple-roasted", length: "650 mm", width: "51 mm"}},
	{"Dunlin", "slab", 6, 8, nil, &piece{wood: "maple-soft", length: "625 mm", width: "50 mm"}},
	{"Sanderling", "slab", 5, 75, &piece{"sapele", "445 mm", "320 mm", "40 mm", "Marsh Honey"}, &piece{wood: "walnut-black", length: "625 mm", width: "50 mm"}},
	{"Turnstone", "one-horned", 2, 80, &piece{"koa", "465 mm", "332 mm", "45 mm", "Tidewrack Charcoal"}, &piece{wood: "mahogany-african", length: "628 mm", width: "52 mm"}},
}

// products of invented makers, with what their sheets say.
var products = []struct{ name, family, sheet string }{
	{"Ebb Gloss", "water-clear", `{"limits":{"recoat":2,"sand":4,"buff":240,"full-cure":504},"coats_per_day":3,"wet_um":90}`},
	{"Slack Water Sealer", "water-sealer", `{"limits":{"recoat":1.5,"sand":2}}`},
	{"Mudflat Filler", "water-filler", `{"limits":{"recoat":2,"sand":4},"coats_per_day":3}`},
	{"Groyne Pale Shellac", "dewaxed-shellac", `{}`},
	{"Sea Lavender Oil", "hardwax-oil", `{"limits":{"recoat":16,"buff":120,"full-cure":336}}`},
	{"Estuary Blue", "water-dye", `{"colour":"#27506B"}`},
	{"Cockle Red", "water-dye", `{"colour":"#8C2F26"}`},
	{"Tidewrack Charcoal", "water-dye", `{"colour":"#38363A"}`},
	{"Samphire Green", "water-dye", `{"colour":"#4A6B4C"}`},
	{"Marsh Honey", "water-dye", `{"colour":"#B4702A"}`},
}

// people of the room.
var people = []string{"Mara", "Tobin"}

// settings of the room: weekdays with a midday break, two evenings, Saturdays
// until early afternoon.
func settings() shop.Settings {
	s := shop.Settings{Name: "Saltmarsh Room", TimeZone: "Europe/London", Margin: schedule.DefaultMargin}
	for day := time.Monday; day <= time.Friday; day++ {
		s.Week[day] = []schedule.Hours{{Open: 9 * 60, Close: 12*60 + 30}, {Open: 13*60 + 30, Close: 17*60 + 30}}
	}
	for _, evening := range []time.Weekday{time.Tuesday, time.Thursday} {
		s.Week[evening] = append(s.Week[evening], schedule.Hours{Open: 19*60 + 30, Close: 21*60 + 30})
	}
	s.Week[time.Saturday] = []schedule.Hours{{Open: 10 * 60, Close: 14 * 60}}
	s.Places = places(s.Week)
	return s
}

// Load fills an empty database so that its present is now. A database that has
// settings already is left as it is; it reports whether it did anything.
func Load(ctx context.Context, s *store.Store, now time.Time) (bool, error) {
	clock := now
	service, err := shop.New(s, func() time.Time { return clock })
	if err != nil {
		return false, err
	}
	fresh, err := service.Prepare(ctx, settings(), people...)
	if err != nil || !fresh {
		return false, err
	}
	shelf := make(map[string]uuid.UUID)
	for _, p := range products {
		if shelf[p.name], err = service.AddProduct(ctx, p.name, p.family, p.sheet); err != nil {
			return false, fmt.Errorf("product %s: %w", p.name, err)
		}
	}
	days := past{service: service, clock: &clock}
	for _, j := range jobs {
		if err := days.workUntil(ctx, now.AddDate(0, 0, -j.started).Add(-time.Hour)); err != nil {
			return false, err
		}
		if _, err := service.Keep(ctx, j.choices(now, shelf)); err != nil {
			return false, fmt.Errorf("planning %s: %w", j.name, err)
		}
	}
	if err := days.workUntil(ctx, now); err != nil {
		return false, err
	}
	return true, postReadings(ctx, service, now)
}

func (j job) choices(now time.Time, shelf map[string]uuid.UUID) shop.NewInstrument {
	in := shop.NewInstrument{ID: uuid.NewSHA1(uuid.NameSpaceOID, []byte("job "+j.name)), Name: j.name, Outline: j.outline,
		Promise: now.AddDate(0, 0, j.promise).Format(time.DateOnly)}
	if b := j.body; b != nil {
		in.Pieces = append(in.Pieces, shop.NewPiece{Kind: string(recipe.Body), Recipe: "waterborne-gloss-filled", Wood: b.wood,
			Length: b.length, Width: b.width, Thickness: b.thickness, Materials: map[string]uuid.UUID{"colour": shelf[b.colour],
				"clear": shelf["Ebb Gloss"], "sealer": shelf["Slack Water Sealer"], "filler": shelf["Mudflat Filler"], "washcoat": shelf["Groyne Pale Shellac"]}})
	}
	if n := j.neck; n != nil {
		in.Pieces = append(in.Pieces, shop.NewPiece{Kind: string(recipe.Neck), Recipe: "hardwax-oil-satin", Wood: n.wood,
			Length: n.length, Width: n.width, Materials: map[string]uuid.UUID{"oil": shelf["Sea Lavender Oil"]}})
	}
	return in
}

// past works through the days before now.
type past struct {
	service *shop.Service
	clock   *time.Time
	logged  int64
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
		next := slices.MinFunc(ahead, func(a, b shop.Sitting) int { return a.End.At.Compare(b.End.At) })
		finished := next.End.At.Add(dawdle(next.Event))
		if finished.After(until) {
			break
		}
		*p.clock = finished
		if err := p.log(ctx, next.Event); err != nil {
			return fmt.Errorf("logging %s: %w", next.Title, err)
		}
	}
	*p.clock = until
	return nil
}

// dawdle is by how many minutes the work took longer than planned: the same for
// the same event, from 0 to 7.
func dawdle(event shop.EventRef) time.Duration {
	h := fnv.New32a()
	fmt.Fprint(h, event.StepID, event.Coat)
	return time.Duration(h.Sum32()%8) * time.Minute
}

func (p *past) log(ctx context.Context, event shop.EventRef) error {
	p.logged++
	reference, err := p.service.Reference(ctx)
	if err != nil {
		return err
	}
	_, err = p.service.Log(ctx, shop.Entry{
		ID: uuid.NewSHA1(event.StepID, []byte(fmt.Sprint("demo log ", event.Coat))), Kind: store.Done, StepID: event.StepID, Coat: event.Coat,
		PersonID: reference.People[p.logged%2].ID, DeviceID: uuid.NewSHA1(uuid.NameSpaceOID, []byte("bench tablet")), DeviceSeq: p.logged,
	})
	return err
}
