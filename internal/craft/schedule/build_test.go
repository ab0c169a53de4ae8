package schedule

import (
	"fmt"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// berlin is a zone with daylight saving.
var berlin = must(time.LoadLocation("Europe/Berlin"))

func must[T any](value T, err error) T {
	if err != nil {
		panic(err)
	}
	return value
}

// at reads a local time in Berlin.
func at(text string) time.Time {
	return must(time.ParseInLocation("2006-01-02 15:04", text, berlin))
}

// nineToSix is a shop that is open from 9 to 18 on weekdays.
func nineToSix() *calendar.Calendar { return weekdays(calendar.Hours{Open: 9 * 60, Close: 18 * 60}) }

func weekdays(hours ...calendar.Hours) *calendar.Calendar { return weekdaysIn(berlin, hours...) }

func weekdaysIn(zone *time.Location, hours ...calendar.Hours) *calendar.Calendar {
	var week [7][]calendar.Hours
	for day := time.Monday; day <= time.Friday; day++ {
		week[day] = hours
	}
	return must(calendar.New(zone, week, nil))
}

func always() *calendar.Calendar { return alwaysIn(berlin) }

func alwaysIn(zone *time.Location) *calendar.Calendar {
	var week [7][]calendar.Hours
	for day := range week {
		week[day] = []calendar.Hours{{Open: 0, Close: 24 * 60}}
	}
	return must(calendar.New(zone, week, nil))
}

// id makes the same identity from the same name.
func id(name string) uuid.UUID { return uuid.NewSHA1(uuid.NameSpaceOID, []byte(name)) }

func of(family string) *material.Material {
	m := material.OfFamily(must(material.FindFamily(family)))
	return &m
}

// pieceOf builds a one-region piece from steps that need only say what matters.
func pieceOf(name string, steps ...Step) Piece {
	piece := Piece{ID: id(name), Name: name}
	for i, step := range steps {
		step.ID = id(fmt.Sprintf("%s step %d", name, i))
		step.Piece = piece.ID
		if step.Regions == nil {
			step.Regions = []uuid.UUID{id(name + " region")}
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

func instrumentOf(name, promise string, pieces ...Piece) Instrument {
	return Instrument{ID: id(name), Name: name, Promise: must(calendar.ParseDay(promise)), Pieces: pieces}
}

func coats(family string, n int) Step {
	return Step{Material: of(family), Step: job.Step{Kind: Coat, Coats: n}}
}

// asked is an input with its shop spelled out.
type asked struct {
	Now         time.Time
	Calendar    *calendar.Calendar
	Margin      float64
	People      int
	Own         []*calendar.Calendar // hours of their own, of the first people
	Places      []Place
	Instruments []Instrument
	Order       []Event
	Facts       map[Event]Fact
	Pins        map[Event]time.Time
	Moves       []Move
	Tests       []Test
	Settled     map[uuid.UUID]int
	Factors     map[string]float64
}

// input is weekdays from nine to six, no margin and one pair of hands, where
// nothing else is said.
func (a asked) input() Input {
	if a.Calendar == nil {
		a.Calendar = nineToSix()
	}
	if a.Margin == 0 {
		a.Margin = 1
	}
	setting := Setting{Calendar: a.Calendar, Margin: a.Margin, Places: a.Places}
	for i := range a.People {
		person := Person{ID: id(fmt.Sprint("person ", i)), Name: fmt.Sprint("person ", i)}
		if i < len(a.Own) {
			person.Calendar = a.Own[i]
		}
		setting.People = append(setting.People, person)
	}
	return Input{Now: a.Now, Shop: must(NewShop(setting)), Instruments: a.Instruments, Order: a.Order, Facts: a.Facts, Pins: a.Pins,
		Moves: a.Moves, Tests: a.Tests, Settled: a.Settled, Factors: a.Factors}
}

// plan retimes.
func plan(t *testing.T, in asked) *Plan {
	t.Helper()
	p, err := Retime(in.input())
	require.NoError(t, err)
	return p
}

// nth is the n-th event of a piece, from 1.
func nth(t *testing.T, p *Plan, piece string, n int) Planned {
	t.Helper()
	for _, e := range p.Events {
		if e.Piece == id(piece) {
			if n--; n == 0 {
				return e
			}
		}
	}
	require.Fail(t, "no such event", "%s %d", piece, n)
	return Planned{}
}

func orderOf(instruments ...Instrument) []Event {
	var order []Event
	for _, in := range instruments {
		for _, piece := range in.Pieces {
			for _, step := range piece.Steps {
				order = append(order, step.Events()...)
			}
		}
	}
	return order
}

// bodyOf is a long body schedule, for benchmarks and properties.
func bodyOf(name string) Piece {
	return pieceOf(name,
		Step{Step: job.Step{Kind: Sand, HandsOnMin: 150}}, Step{Step: job.Step{Kind: MaskOn}}, Step{Step: job.Step{Kind: Sand, RestMin: 120}}, Step{Step: job.Step{Kind: Sand}},
		coats("water-dye", 2), coats("dewaxed-shellac", 1), Step{Step: job.Step{Kind: Scuff}}, coats("water-filler", 4), Step{Step: job.Step{Kind: Sand}},
		Step{Step: job.Step{Kind: Inspect}}, coats("water-sealer", 1), Step{Step: job.Step{Kind: Scuff}}, coats("water-clear", 4),
		Step{Step: job.Step{Kind: Level, Film: material.Sand}}, coats("water-clear", 4), Step{Step: job.Step{Kind: MaskOff}},
		Step{Step: job.Step{Kind: Level, Film: material.Buff, HandsOnMin: 170}}, Step{Step: job.Step{Kind: Buff, Film: material.Buff, HandsOnMin: 60}}, Step{Step: job.Step{Kind: Inspect}},
		Step{Step: job.Step{Kind: Gate, Film: material.Handle, HandsOnMin: unit.Minutes(60)}})
}

func celsius(t float64) unit.Celsius { return unit.Celsius(t) }

func percent(p float64) unit.Percent { return unit.Percent(p) }

func minutesOf(m int) unit.Minutes { return unit.Minutes(m) }
