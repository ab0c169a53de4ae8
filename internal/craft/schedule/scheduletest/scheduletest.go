// Package scheduletest builds shops, pieces and plans for tests: what a test does not say is as it usually is.
package scheduletest

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
)

// ID makes the same identity from the same name.
func ID(name string) uuid.UUID { return uuid.NewSHA1(uuid.NameSpaceOID, []byte(name)) }

func Of(family string) *material.Material {
	m := material.OfFamily(calendartest.Must(material.FindFamily(family)))
	return &m
}

// PieceOf builds a one-region piece from steps that need only say what matters.
func PieceOf(name string, steps ...schedule.Step) schedule.Piece {
	piece := schedule.Piece{ID: ID(name), Name: name}
	for i, step := range steps {
		step.ID = ID(fmt.Sprintf("%s step %d", name, i))
		step.Piece = piece.ID
		if step.Regions == nil {
			step.Regions = []uuid.UUID{ID(name + " region")}
		}
		if step.Coats == 0 {
			step.Coats = 1
		}
		if step.HandsOnMin == 0 {
			step.HandsOnMin = 30
		}
		if step.Title == "" {
			step.Title = string(step.Kind)
		}
		piece.Steps = append(piece.Steps, step)
	}
	return piece
}

func InstrumentOf(name, promise string, pieces ...schedule.Piece) schedule.Instrument {
	return schedule.Instrument{ID: ID(name), Name: name, Promise: calendartest.Must(calendar.ParseDay(promise)), Pieces: pieces}
}

func Coats(family string, n int) schedule.Step {
	return schedule.Step{Material: Of(family), Step: job.Step{Kind: schedule.Coat, Coats: n}}
}

// Asked is an input with its shop spelled out.
type Asked struct {
	Now         time.Time
	Calendar    *calendar.Calendar
	Margin      float64
	People      int
	Own         []*calendar.Calendar // hours of their own, of the first people
	Places      []schedule.Place
	Instruments []schedule.Instrument
	Order       []schedule.Event
	Facts       map[schedule.Event]schedule.Fact
	Pins        map[schedule.Event]time.Time
	Moves       []schedule.Move
	Tests       []schedule.Test
	Settled     map[uuid.UUID]int
	Factors     map[string]float64
}

// input is weekdays from nine to six, no margin and one pair of hands, where
// nothing else is said.
func (a Asked) Input() schedule.Input {
	if a.Calendar == nil {
		a.Calendar = calendartest.NineToSix()
	}
	if a.Margin == 0 {
		a.Margin = 1
	}
	setting := schedule.Setting{Calendar: a.Calendar, Margin: a.Margin, Places: a.Places}
	for i := range a.People {
		person := schedule.Person{ID: ID(fmt.Sprint("person ", i)), Name: fmt.Sprint("person ", i)}
		if i < len(a.Own) {
			person.Calendar = a.Own[i]
		}
		setting.People = append(setting.People, person)
	}
	return schedule.Input{Now: a.Now, Shop: calendartest.Must(schedule.NewShop(setting)), Instruments: a.Instruments, Order: a.Order,
		Facts: a.Facts, Pins: a.Pins,
		Moves: a.Moves, Tests: a.Tests, Settled: a.Settled, Factors: a.Factors}
}

// Plan retimes.
func Plan(t *testing.T, in Asked) *schedule.Plan {
	t.Helper()
	p, err := schedule.Retime(in.Input())
	require.NoError(t, err)
	return p
}

// Nth is the n-th event of a piece, from 1.
func Nth(t *testing.T, p *schedule.Plan, piece string, n int) schedule.Planned {
	t.Helper()
	for _, e := range p.Events {
		if e.Piece == ID(piece) {
			if n--; n == 0 {
				return e
			}
		}
	}
	require.Fail(t, "no such event", "%s %d", piece, n)
	return schedule.Planned{}
}

func OrderOf(instruments ...schedule.Instrument) []schedule.Event {
	var order []schedule.Event
	for _, in := range instruments {
		for _, piece := range in.Pieces {
			for _, step := range piece.Steps {
				order = append(order, step.Events()...)
			}
		}
	}
	return order
}

// BodyOf is a long body schedule, for benchmarks and properties.
func BodyOf(name string) schedule.Piece {
	return PieceOf(name,
		schedule.Step{Step: job.Step{Kind: schedule.Sand, HandsOnMin: 150}}, schedule.Step{Step: job.Step{Kind: schedule.MaskOn}},
		schedule.Step{Step: job.Step{Kind: schedule.Sand, RestMin: 120}}, schedule.Step{Step: job.Step{Kind: schedule.Sand}},
		Coats("water-dye", 2), Coats("dewaxed-shellac", 1), schedule.Step{Step: job.Step{Kind: schedule.Scuff}}, Coats("water-filler", 4),
		schedule.Step{Step: job.Step{Kind: schedule.Sand}},
		schedule.Step{Step: job.Step{Kind: schedule.Inspect}}, Coats("water-sealer", 1),
		schedule.Step{Step: job.Step{Kind: schedule.Scuff}}, Coats("water-clear", 4),
		schedule.Step{Step: job.Step{Kind: schedule.Level, Film: material.Sand}}, Coats("water-clear", 4),
		schedule.Step{Step: job.Step{Kind: schedule.MaskOff}},
		schedule.Step{Step: job.Step{Kind: schedule.Level, Film: material.Buff, HandsOnMin: 170}},
		schedule.Step{Step: job.Step{Kind: schedule.Buff, Film: material.Buff, HandsOnMin: 60}},
		schedule.Step{Step: job.Step{Kind: schedule.Inspect}},
		schedule.Step{Step: job.Step{Kind: schedule.Gate, Film: material.Handle, HandsOnMin: unit.Minutes(60)}})
}

func Celsius(t float64) unit.Celsius { return unit.Celsius(t) }

func Percent(p float64) unit.Percent { return unit.Percent(p) }

func MinutesOf(m int) unit.Minutes { return unit.Minutes(m) }

// Steady is a room whose air never changes.
func Steady(temperature, humidity float64) *climate.Room {
	return calendartest.Must(climate.NewRoom(calendartest.Berlin,
		climate.Constant(climate.Air{Temperature: Celsius(temperature), Humidity: Percent(humidity)}), nil))
}

func InRoom(room *climate.Room) []schedule.Place {
	return []schedule.Place{{ID: ID("room"), Name: "the room", Kind: settings.Bench, Room: room}}
}

func One(steps ...schedule.Step) []schedule.Instrument {
	return []schedule.Instrument{InstrumentOf("Curlew", "2026-06-01", PieceOf("body", steps...))}
}

// HeatedRoom is a room that cools at night and was measured every half hour for
// the last week.
func HeatedRoom(now time.Time) *climate.Room {
	var knots []climate.Knot
	for day := range 7 {
		knots = append(knots, climate.Knot{Hour: day*24 + 6, Air: climate.Air{Temperature: 17, Humidity: 55}},
			climate.Knot{Hour: day*24 + 15, Air: climate.Air{Temperature: 21, Humidity: 48}})
	}
	var readings []climate.Reading
	for h := range 336 {
		readings = append(readings, climate.Reading{At: now.Add(-time.Duration(h) * 30 * time.Minute),
			Air: climate.Air{Temperature: 19 + unit.Celsius(h%48)/24, Humidity: 50}})
	}
	return calendartest.Must(climate.NewRoom(calendartest.Berlin, calendartest.Must(climate.ProfileOf(knots, [12]climate.Shift{})),
		readings))
}

// SharedPlaces is a bench and a booth for two pieces at a time that is free on
// four days of the week.
func SharedPlaces(now time.Time) []schedule.Place {
	var days [7][]calendar.Hours
	for day := time.Monday; day <= time.Thursday; day++ {
		days[day] = []calendar.Hours{{Open: 8 * 60, Close: 18 * 60}}
	}
	room := HeatedRoom(now)
	return []schedule.Place{
		{ID: ID("bench"), Name: "the bench", Kind: settings.Bench, Air: "shop", Room: room},
		{ID: ID("booth"), Name: "the booth", Kind: settings.Booth, Air: "booth", Capacity: 2, HangsIn: ID("rack"), Room: room,
			Calendar: calendartest.Must(calendar.New(calendartest.Berlin, days, nil))},
		{ID: ID("rack"), Name: "the drying room", Kind: "drying", Air: "rack", Room: room},
		{ID: ID("wheel"), Name: "the wheel", Kind: settings.Wheel, Air: "wheel", Capacity: 1, Room: room},
	}
}

func BenchmarkShop(instruments int) schedule.Input {
	now := calendartest.At("2026-03-10 10:00")
	in := Asked{Now: now, Calendar: calendartest.NineToSix(), Margin: 1.25, People: 1, Places: SharedPlaces(now)}
	if instruments >= 20 {
		in.People = 5
	}
	for i := range instruments {
		promise := calendartest.Must(calendar.ParseDay("2026-06-01")).AddDays(i * 3 / 2)
		in.Instruments = append(in.Instruments, InstrumentOf(fmt.Sprintf("job %d", i), promise.String(),
			BodyOf(fmt.Sprintf("body %d", i)), BodyOf(fmt.Sprintf("neck %d", i))))
	}
	in.Order = OrderOf(in.Instruments...)
	return in.Input()
}

func InShop(change func(*schedule.Setting)) func(*schedule.Input) {
	return func(in *schedule.Input) {
		setting := in.Shop.Setting
		setting.People, setting.Places = slices.Clone(setting.People), slices.Clone(setting.Places)
		change(&setting)
		in.Shop = calendartest.Must(schedule.NewShop(setting))
	}
}

func OneMorePerson() func(*schedule.Input) {
	return InShop(func(s *schedule.Setting) { s.People = append(s.People, schedule.Person{Name: "one more"}) })
}
