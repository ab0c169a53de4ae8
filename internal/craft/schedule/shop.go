package schedule

import (
	"fmt"
	"sync"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/cure"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/settings"
)

// DefaultMargin is the caution of a shop that has not chosen its own: waits
// take a quarter longer than the sheet says. Rules §2.
const DefaultMargin = 1.25

// Place is somewhere in the shop where work is done or pieces hang.
type Place struct {
	ID       uuid.UUID
	Name     string
	Kind     settings.PlaceKind
	Capacity int                // pieces at a time; 0: no limit
	Calendar *calendar.Calendar // hours of its own within the shop's; nil: the shop's
	Air      string             // places with the same air share its dust; empty: air of its own
	HangsIn  uuid.UUID          // where pieces hang to dry afterwards; zero: here
	Hooks    int                // pieces that can hang here to dry; 0: no limit
	Room     *climate.Room      // nil: the reference climate
}

// Person is one pair of hands.
type Person struct {
	ID       uuid.UUID
	Name     string
	Calendar *calendar.Calendar // hours of their own within the shop's; nil: the shop's
}

// curves is how films dry in the places of a setting, for all Shops on it.
type curves struct {
	mu   sync.Mutex
	laid map[curveKey]*cure.Curve
}

// Setting is what a shop has decided about itself.
type Setting struct {
	Calendar *calendar.Calendar
	Margin   float64 // the shop's caution, 1.0 or more
	People   []Person
	Places   []Place // none: one place without limits, whose air nobody watches
}

// Shop is a setting laid out for planning. It keeps what it has worked out about
// hours and clocks, so that planning again is quick; plans do not depend on
// that. A Shop may be used by one goroutine at a time.
type Shop struct {
	Setting
	places []place
	kinds  map[settings.PlaceKind]int
	byID   map[uuid.UUID]int
	airs   int   // how many airs there are
	airOf  []int // 0, 1, 2 …, for lists of one air that need no room of their own
	days   *days
	hours  []*openings // of the shop, then of each place, then of each person
	curves *curves
	fits   map[fitKey]*fitness
	waits  map[waitKey]*cure.Wait
}

type place struct {
	*Place
	hangs int
	air   int // -1: nobody watches it
}

type curveKey struct {
	place  int
	drying climate.Drying
}

type fitKey struct {
	place  int
	limits climate.Limits
}

type waitKey struct {
	material  *material.Material
	milestone material.Milestone
	latest    bool
}

// NewShop lays a setting out. It refuses a margin below 1, limits below 0, ids
// that come twice and places that hang pieces nowhere.
func NewShop(setting Setting) (*Shop, error) {
	if setting.Calendar == nil {
		return nil, fmt.Errorf("a shop needs its hours")
	}
	if !(setting.Margin >= 1 && setting.Margin <= 3) {
		return nil, fmt.Errorf("a margin of %g is not from 1 to 3", setting.Margin)
	}
	if len(setting.People) == 0 {
		setting.People = []Person{{Name: "hands"}}
	}
	s := &Shop{Setting: setting, kinds: make(map[settings.PlaceKind]int), byID: make(map[uuid.UUID]int),
		curves: &curves{laid: make(map[curveKey]*cure.Curve)}, fits: make(map[fitKey]*fitness), waits: make(map[waitKey]*cure.Wait)}
	if err := s.layPlaces(); err != nil {
		return nil, err
	}
	return s, nil
}

// Twin is another Shop of the same setting, for another goroutine. They share what they
// know of rooms and clocks.
func (s *Shop) Twin() *Shop {
	twin := *s
	twin.days, twin.hours = nil, nil
	twin.fits, twin.waits = make(map[fitKey]*fitness), make(map[waitKey]*cure.Wait)
	return &twin
}

func (s *Shop) layPlaces() error {
	watched := len(s.Places) > 0
	if !watched {
		s.Places = []Place{{Name: "the shop", Kind: settings.Bench}}
	}
	airs := make(map[string]int)
	for i := range s.Places {
		p := &s.Places[i]
		if _, twice := s.byID[p.ID]; twice {
			return fmt.Errorf("place %q: its id comes twice", p.Name)
		}
		if p.Capacity < 0 || p.Hooks < 0 {
			return fmt.Errorf("place %q: limits are counted from 1, and 0 is none", p.Name)
		}
		s.byID[p.ID] = i
		if _, known := s.kinds[p.Kind]; !known {
			s.kinds[p.Kind] = i
		}
		air := p.Air
		if air == "" {
			air = fmt.Sprint("of place ", i)
		}
		if _, known := airs[air]; !known {
			airs[air] = len(airs)
		}
		s.places = append(s.places, place{Place: p, hangs: i, air: airs[air]})
		if !watched {
			s.places[i].air = -1
		}
	}
	s.airs = len(airs)
	for air := range s.airs {
		s.airOf = append(s.airOf, air)
	}
	for i := range s.places {
		if s.places[i].HangsIn == uuid.Nil {
			continue
		}
		hangs, known := s.byID[s.places[i].HangsIn]
		if !known {
			return fmt.Errorf("place %q: pieces hang in a place that there is not", s.places[i].Name)
		}
		s.places[i].hangs = hangs
	}
	return nil
}

// placeOf is where a step is done: where it says, or the usual place.
func (s *Shop) placeOf(step *Step) int {
	if step.Place != nil {
		if i, known := s.byID[*step.Place]; known {
			return i
		}
	}
	wanted := settings.Bench
	switch {
	case step.Kind == Coat && (step.Method == material.Spray || step.Method == material.Aerosol):
		wanted = settings.Booth
	case step.Tool == BuffingWheel:
		wanted = settings.Wheel
	}
	for _, kind := range []settings.PlaceKind{wanted, settings.Bench} {
		if i, known := s.kinds[kind]; known {
			return i
		}
	}
	return 0
}

// PlaceOf is where a step is done.
func (s *Shop) PlaceOf(step *Step) Place { return s.Places[s.placeOf(step)] }

// HangsIn is where the piece of a step dries.
func (s *Shop) HangsIn(step *Step) Place { return s.Places[s.places[s.placeOf(step)].hangs] }

// curve is how a film dries where pieces hang.
func (s *Shop) curve(place int, drying climate.Drying) *cure.Curve {
	if s.Places[place].Room == nil {
		return nil
	}
	key := curveKey{place, drying}
	s.curves.mu.Lock()
	defer s.curves.mu.Unlock()
	c, known := s.curves.laid[key]
	if !known {
		c = cure.NewCurve(s.Places[place].Room, drying)
		s.curves.laid[key] = c
	}
	return c
}

// earliest and latest are the sides of a material's windows, worked out once.
func (s *Shop) earliest(m *material.Material, milestone material.Milestone) *cure.Wait {
	return s.wait(waitKey{m, milestone, false})
}

func (s *Shop) latest(m *material.Material, milestone material.Milestone) *cure.Wait {
	return s.wait(waitKey{m, milestone, true})
}

func (s *Shop) wait(key waitKey) *cure.Wait {
	w, known := s.waits[key]
	if !known {
		made := cure.Earliest(*key.material, key.milestone, s.Margin)
		if key.latest {
			made = cure.Latest(*key.material, key.milestone, s.Margin)
		}
		w = &made
		s.waits[key] = w
	}
	return w
}

// prepare makes hours and days ready for planning from now on.
func (s *Shop) prepare(now minute) {
	if s.days != nil && s.days.covers(now) {
		return
	}
	s.days = newDays(s.Calendar, now)
	s.hours = []*openings{newOpenings(s.days, s.Calendar, nil)}
	for _, p := range s.Places {
		s.hours = append(s.hours, s.within(p.Calendar))
	}
	for _, p := range s.People {
		s.hours = append(s.hours, s.within(p.Calendar))
	}
}

func (s *Shop) within(own *calendar.Calendar) *openings {
	if own == nil {
		return s.hours[0]
	}
	return newOpenings(s.days, s.Calendar, own)
}

func (s *Shop) placeHours(place int) *openings { return s.hours[1+place] }

func (s *Shop) personHours(person int) *openings { return s.hours[1+len(s.Places)+person] }

// fitness is when a place's air is fit for a product, week by week.
type fitness struct {
	room   *climate.Room
	limits climate.Limits
	first  int64 // the week that weeks[0] is
	weeks  [][]span
}

func (s *Shop) fit(place int, m *material.Material) *fitness {
	room := s.Places[place].Room
	if room == nil {
		return nil
	}
	key := fitKey{place, climate.LimitsOf(*m)}
	f, known := s.fits[key]
	if !known {
		f = &fitness{room: room, limits: key.limits}
		s.fits[key] = f
	}
	return f
}

// week is the fit stretches of week n, never nil once it was looked at.
func (f *fitness) week(n int64) []span {
	if len(f.weeks) == 0 || n < f.first {
		f.first, f.weeks = n, nil
	}
	for int64(len(f.weeks)) <= n-f.first {
		f.weeks = append(f.weeks, nil)
	}
	if spans := f.weeks[n-f.first]; spans != nil {
		return spans
	}
	spans := []span{}
	for _, s := range f.room.FitSpans(f.limits, n) {
		if whole := (span{ceilMinute(s.Start), floorMinute(s.End)}); whole.start < whole.end {
			spans = append(spans, whole)
		}
	}
	f.weeks[n-f.first] = spans
	return spans
}

const (
	minutesPerWeek = climate.WeekSeconds / 60
	fitHorizon     = 110 // weeks in which a fit hour is looked for
)

// next is the first minute at or after t from which the air stays fit for so
// long; false when there is none in two years.
func (f *fitness) next(t, long minute) (minute, bool) {
	if f == nil {
		return t, true
	}
	run := span{t, t}
	first := int64(t) / minutesPerWeek
	for n := first; n < first+fitHorizon; n++ {
		for _, s := range f.week(n) {
			if s.end <= t {
				continue
			}
			if s.start > run.end {
				run.start = max(s.start, t)
			}
			if run.end = s.end; run.end-run.start >= long {
				return run.start, true
			}
		}
	}
	return 0, false
}

// alwaysOpen is the hours of no shop in particular.
var alwaysOpen = func() *calendar.Calendar {
	var week [7][]calendar.Hours
	for day := range week {
		week[day] = []calendar.Hours{{Open: 0, Close: 24 * 60}}
	}
	c, err := calendar.New(time.UTC, week, nil)
	if err != nil {
		panic(err) // hours written here
	}
	return c
}()
