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
	"umberfrost/internal/shop"
	"umberfrost/internal/store"
)

// Fixed is the present of tests and screenshots: a Thursday afternoon.
var Fixed = time.Date(2026, 3, 12, 15, 20, 0, 0, time.UTC)

// booked is one instrument of the room.
type booked struct {
	name    string
	outline string
	started int // days ago
	promise int // days ahead
	wish    recipe.Wish
	colours map[string]string // by role, the products whose colour was chosen
	serial  string
	show    int // days ahead on which it must be fit to be shown; 0: no such day
}

// filled is the room's bread and butter: dyed, filled flat, waterborne gloss, on a
// neck that is bare to the touch.
func filled(body *recipe.PieceWish, neck *recipe.PieceWish) recipe.Wish {
	w := recipe.Wish{Standard: "gift"}
	if body != nil {
		b := *body
		b.Kind = recipe.Body
		w.Pieces = append(w.Pieces, b.From("one-colour").Ending("water-clear", "gloss"))
	}
	if neck != nil {
		n := *neck
		n.Kind = recipe.Neck
		w.Pieces = append(w.Pieces, n.From("natural").Ending("hardwax-oil", "satin"))
	}
	return w
}

func body(wood, length, width, thickness string) *recipe.PieceWish {
	return &recipe.PieceWish{Wood: wood, Length: length, Width: width, Thickness: thickness}
}

func neck(wood, length, width string) *recipe.PieceWish {
	return &recipe.PieceWish{Wood: wood, Length: length, Width: width}
}

// archetype is one of the six ways of the job, as it comes.
func archetype(id string) recipe.Wish {
	for _, a := range recipe.Archetypes() {
		if a.ID == id {
			return a.Wish
		}
	}
	return recipe.Wish{}
}

func dyed(product string) map[string]string { return map[string]string{"body:colour": product} }

var jobs = []booked{
	{name: "Ruff", outline: "slab", started: 40, promise: 2, wish: filled(nil, neck("walnut-black", "640 mm", "52 mm"))},
	{name: "Curlew", outline: "two-horned", started: 34, promise: 21,
		wish: filled(body("ash-swamp", "480 mm", "330 mm", "44 mm"), neck("maple-hard", "650 mm", "51 mm")), colours: dyed("Estuary Blue")},
	{name: "Godwit", outline: "bass", started: 27, promise: 60, wish: archetype("lacquer-burst"), colours: dyed("Marsh Honey"),
		serial: "SR 26-031", show: 55},
	{name: "Whimbrel", outline: "one-horned", started: 24, promise: 9,
		wish:    filled(body("mahogany-genuine", "460 mm", "335 mm", "45 mm"), neck("mahogany-genuine", "628 mm", "53 mm")),
		colours: dyed("Cockle Red")},
	{name: "Lapwing", outline: "slab", started: 13, promise: 35, wish: archetype("oil"), serial: "SR 26-034"},
	{name: "Knot", outline: "angular", started: 11, promise: 44, wish: filled(body("ash-northern", "18 7/8 in", "13 in", "1 3/4 in"), nil),
		colours: dyed("Samphire Green")},
	{name: "Avocet", outline: "two-horned", started: 8, promise: 60, wish: archetype("grain-colour"),
		colours: map[string]string{"body:dark": "Tidewrack Charcoal", "body:colour": "Marsh Honey Bound"}, serial: "SR 26-036"},
	{name: "Dunlin", outline: "slab", started: 6, promise: 45, wish: varnishedNeck(),
		colours: map[string]string{"neck:colour": "Cockle Red"}},
	{name: "Sanderling", outline: "slab", started: 5, promise: 75,
		wish: filled(body("sapele", "445 mm", "320 mm", "40 mm"), neck("walnut-black", "625 mm", "50 mm")), colours: dyed("Marsh Honey")},
	{name: "Turnstone", outline: "one-horned", started: 2, promise: 80, wish: archetype("two-part"), serial: "SR 26-038"},
}

// varnishedNeck is a neck alone: wiped varnish over dyed wood.
func varnishedNeck() recipe.Wish {
	w := archetype("wiped-varnish")
	w.Pieces, w.Board, w.Frets, w.Cavities = w.Pieces[1:], nil, "none", "none"
	return w
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
	{"Marsh Honey Bound", "binder-stain", `{"colour":"#A9682B"}`},
	{"Spartina Lacquer", "nitro", `{"limits":{"buff":480,"full-cure":1200}}`},
	{"Spartina Tie Coat", "vinyl-sealer", `{}`},
	{"Mudlark White", "solid-base", `{"colour":"#E4E2D8"}`},
	{"Breakwater Two-part", "urethane-2k", `{"limits":{"recoat":0.5,"buff":72}}`},
	{"Breakwater Sealer", "sealer-2k", `{}`},
	{"Driftline Varnish", "wipe-varnish", `{"limits":{"recoat":6,"full-cure":600}}`},
	{"Sluice Oil", "finishing-oil", `{}`},
	{"Sandhopper Board Oil", "board-oil", `{}`},
}

// people of the room.
var people = []string{"Mara", "Tobin"}

// settings of the room: weekdays with a midday break, two evenings, Saturdays
// until early afternoon.
func settings() shop.Settings {
	s := shop.Settings{Name: "Saltmarsh Room", TimeZone: "Europe/London", Margin: schedule.DefaultMargin}
	for day := time.Monday; day <= time.Friday; day++ {
		s.Week[day] = []calendar.Hours{{Open: 9 * 60, Close: 12*60 + 30}, {Open: 13*60 + 30, Close: 17*60 + 30}}
	}
	for _, evening := range []time.Weekday{time.Tuesday, time.Thursday} {
		s.Week[evening] = append(s.Week[evening], calendar.Hours{Open: 19*60 + 30, Close: 21*60 + 30})
	}
	s.Week[time.Saturday] = []calendar.Hours{{Open: 10 * 60, Close: 14 * 60}}
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
	reference, err := service.Reference(ctx)
	if err != nil {
		return false, err
	}
	days := past{service: service, clock: &clock, people: reference.People}
	for _, j := range jobs {
		if err := days.workUntil(ctx, now.AddDate(0, 0, -j.started).Add(-time.Hour)); err != nil {
			return false, err
		}
		choices, err := j.choices(now, shelf)
		if err != nil {
			return false, fmt.Errorf("composing %s: %w", j.name, err)
		}
		if _, err := service.Keep(ctx, choices); err != nil {
			return false, fmt.Errorf("planning %s: %w", j.name, err)
		}
	}
	if err := days.workUntil(ctx, now); err != nil {
		return false, err
	}
	if err := secondThoughts(ctx, service, shelf, reference.People[0].ID); err != nil {
		return false, fmt.Errorf("second thoughts: %w", err)
	}
	return true, postReadings(ctx, service, now)
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
			_, err = service.KeepChanges(ctx, shop.Changes{PersonID: who,
				Changes: []shop.Change{{Kind: "material", StepID: step.StepID, Material: shelf["Spartina Lacquer"].String()}}})
		}
	}
	return err
}

func jobID(name string) uuid.UUID { return uuid.NewSHA1(uuid.NameSpaceOID, []byte("job "+name)) }

func (j booked) choices(now time.Time, shelf map[string]uuid.UUID) (shop.NewInstrument, error) {
	in := shop.NewInstrument{ID: jobID(j.name), Name: j.name, Outline: j.outline, Serial: j.serial, Wish: j.wish,
		Promise: now.AddDate(0, 0, j.promise).Format(time.DateOnly), Materials: make(map[string]uuid.UUID)}
	if j.show > 0 {
		in.Show = now.AddDate(0, 0, j.show).Format(time.DateOnly)
	}
	draft, faults, err := recipe.Compose(j.wish.Of(j.outline, ""))
	if err != nil || len(faults) > 0 {
		return in, fmt.Errorf("%v %w", faults, err)
	}
	for _, role := range draft.Roles() {
		for _, p := range products {
			if p.family == role.Family && role.Family != "water-dye" && role.Family != "binder-stain" {
				in.Materials[role.ID] = shelf[p.name]
			}
		}
		if name := j.colours[role.ID]; name != "" {
			in.Materials[role.ID] = shelf[name]
		}
	}
	return in, nil
}

// past works through the days before now.
type past struct {
	service *shop.Service
	clock   *time.Time
	people  []store.Person
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
		finished := next.End.At.Add(dawdle(next.Name, next.Title))
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

// tide is which past the room has had: one that leaves its instruments at stages which show something
// at the fixed present.
const tide = "tide 35"

// dawdle is by how many minutes the work took longer than planned: the same for
// the same work on the same instrument, from 0 to 7.
func dawdle(name, title string) time.Duration {
	h := fnv.New32a()
	fmt.Fprint(h, name, title, tide)
	return time.Duration(h.Sum32()%8) * time.Minute
}

func (p *past) log(ctx context.Context, event shop.EventRef) error {
	p.logged++
	_, err := p.service.Log(ctx, shop.Entry{
		ID: uuid.NewSHA1(event.StepID, []byte(fmt.Sprint("demo log ", event.Coat))), Kind: job.Done, StepID: event.StepID, Coat: event.Coat,
		PersonID: p.people[p.logged%2].ID, DeviceID: uuid.NewSHA1(uuid.NameSpaceOID, []byte("bench tablet")), DeviceSeq: p.logged,
	})
	return err
}
