package schedule_test

import (
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/calendar"
	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/cure"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	. "umberfrost/internal/craft/schedule/scheduletest"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/proptest"
)

func ahead(p *schedule.Plan) []schedule.Planned {
	return slices.DeleteFunc(slices.Clone(p.Events), func(e schedule.Planned) bool { return e.Done || e.Impossible != "" })
}

func overlap(a, b calendar.Span) bool { return a.Start.Before(b.End) && b.Start.Before(a.End) }

func TestHandsHoursAndPlacesAreKept(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		in := RandomShop(t).Input()
		p := Must(schedule.Retime(in))
		type busy struct {
			calendar.Span
			e schedule.Planned
		}
		byPerson, byPlace := make(map[int][]busy), make(map[uuid.UUID][]busy)
		for _, e := range ahead(p) {
			require.False(t, e.Start.Before(in.Now.Truncate(time.Minute)), "nothing is planned in the past")
			flash := time.Duration(0)
			if m := p.Step(e.Event).Material; m != nil {
				flash = time.Duration(m.Family.Flash) * time.Minute
			}
			for _, s := range p.Stretches(e) {
				byPerson[e.Person] = append(byPerson[e.Person], busy{s, e})
				requireOpen(t, in.Shop, in.Shop.PlaceOf(p.Step(e.Event)), e, s)
				require.True(t, openIn(in.Shop.People[e.Person].Calendar, in.Shop.Calendar.Zone(), s),
					"%s is outside the hours of its person", s.Start)
			}
			whole := e.Spans
			if whole == nil {
				whole = []calendar.Span{{Start: e.Start, End: e.End.Add(flash)}}
			}
			for _, s := range whole {
				byPlace[e.Place] = append(byPlace[e.Place], busy{s, e})
			}
		}
		for person, list := range byPerson {
			for i := range list {
				for j := range i {
					require.False(t, overlap(list[i].Span, list[j].Span), "person %d does two things at %s", person, list[i].Start)
				}
			}
		}
		for _, place := range in.Shop.Places {
			for _, b := range byPlace[place.ID] {
				pieces := make(map[uuid.UUID]bool)
				for _, other := range byPlace[place.ID] {
					if !other.Start.After(b.Start) && other.End.After(b.Start) {
						pieces[other.e.Piece] = true
					}
				}
				require.True(t, place.Capacity == 0 || len(pieces) <= place.Capacity, "%d pieces at %s", len(pieces), place.Name)
			}
		}
	})
}

func requireOpen(t *rapid.T, shop *schedule.Shop, place schedule.Place, e schedule.Planned, s calendar.Span) {
	for _, cal := range []*calendar.Calendar{shop.Calendar, place.Calendar} {
		require.True(t, openIn(cal, shop.Calendar.Zone(), s), "%s to %s is outside the hours", s.Start, s.End)
	}
}

// openIn reports whether a calendar, where there is one, is open all of a span.
func openIn(cal *calendar.Calendar, zone *time.Location, s calendar.Span) bool {
	if cal == nil {
		return true
	}
	open := s.Start // openings that touch each other are one
	for day := calendar.DayOf(s.Start.In(zone)).AddDays(-1); calendar.DaysBetween(day,
		calendar.DayOf(s.End.In(zone))) >= 0; day = day.AddDays(1) {
		for _, o := range cal.OpenOn(day) {
			if !o.Start.After(open) && o.End.After(open) {
				open = o.End
			}
		}
	}
	return !open.Before(s.End)
}

// reachedBy works a milestone out anew, from the room and the family alone.
func reachedBy(shop *schedule.Shop, e schedule.Planned, step *schedule.Step, m material.Milestone, factor float64) time.Time {
	limit, _ := step.Material.Limit(m)
	hours, _ := limit.Hours()
	drying := climate.DryingOf(step.Material.Family, m)
	if m == material.RecoatMax {
		drying = climate.DryingOf(step.Material.Family, material.Recoat)
	}
	hangs := shop.HangsFrom(step)
	curve := cure.NewCurve(shop.Places[hangs].Room, drying)
	at, reached := curve.Reached(float64(e.End.UnixNano())/1e9, hours*factor)
	if !reached {
		return e.End.AddDate(90, 0, 0)
	}
	return time.Unix(0, int64(at*1e9))
}

func TestEveryWaitAndHardWindowIsKept(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		in := RandomShop(t)
		input := in.Input()
		p := Must(schedule.Retime(input))
		for _, instrument := range in.Instruments {
			for _, piece := range instrument.Pieces {
				checkFollows(t, p, piece)
				for _, region := range []string{" top", " back", " sides"} {
					checkRegion(t, in.Margin, input.Shop, p, piece, ID(piece.Name+region))
				}
			}
		}
	})
}

// checkFollows walks a chain without the planner's own links.
func checkFollows(t *rapid.T, p *schedule.Plan, piece schedule.Piece) {
	var previous *schedule.Planned
	for s := range piece.Steps {
		step := &piece.Steps[s]
		for _, event := range step.Events() {
			e, _ := p.Find(event)
			if e.Impossible != "" {
				return
			}
			if previous != nil && !e.Done {
				require.False(t, e.Start.Before(previous.End), "%s begins before what it follows", step.EventTitle(event.Coat))
				if gap := e.Start.Sub(previous.End).Minutes(); step.Within != nil && event.Coat == 1 && !previous.Done {
					require.True(t, gap >= 2 && gap <= 12, "%g min within a sitting", gap)
				}
			}
			previous = &e
		}
	}
}

// checkRegion follows one region of a piece by itself: what its films ask of what comes,
// its coats a day and its rests.
func checkRegion(t *rapid.T, margin float64, shop *schedule.Shop, p *schedule.Plan, piece schedule.Piece, region uuid.UUID) {
	var film schedule.Planned
	var under *schedule.Step
	dulled := false
	sitting := 0 // counts sittings: what is put on in one is one coat
	coats := make(map[string][]schedule.Planned)
	in := make(map[string]int) // by product, the sitting of its last coat
	for s := range piece.Steps {
		step := &piece.Steps[s]
		for _, event := range step.Events() {
			e, _ := p.Find(event)
			if e.Impossible != "" {
				return
			}
			if within := step.Within != nil && event.Coat == 1; !within || s == 0 {
				sitting++
			}
			if !slices.Contains(step.Regions, region) {
				continue
			}
			if under != nil && !e.Done && step.Within == nil {
				checkFilm(t, margin, shop, e, step, film, under, dulled)
			}
			if step.Kind != schedule.Coat {
				dulled = step.Kind != schedule.Buff && (dulled || step.Kind.Handwork())
				continue
			}
			film, under, dulled = e, step, false
			key := step.Material.Key()
			if in[key] == sitting {
				coats[key] = coats[key][:len(coats[key])-1]
			}
			coats[key], in[key] = append(coats[key], e), sitting
			if !e.Done {
				checkBreath(t, shop, step, coats[key])
			}
		}
	}
}

// checkBreath counts the coats of one product on one region, up to the last.
func checkBreath(t *rapid.T, shop *schedule.Shop, step *schedule.Step, coats []schedule.Planned) {
	last := coats[len(coats)-1]
	today, sinceRest := 0, 0
	for i := len(coats) - 1; i >= 0; i-- {
		if shop.Calendar.ShopDay(coats[i].Start) == shop.Calendar.ShopDay(last.Start) {
			today++
		}
	}
	require.LessOrEqual(t, today, step.Material.CoatsPerDay(), "coats a day of %s", step.Material.Name)
	for i := len(coats) - 1; i >= 0; i-- {
		if sinceRest++; i > 0 && coats[i].Start.Sub(coats[i-1].End) >= 10*time.Hour &&
			shop.Calendar.ShopDay(coats[i].Start) != shop.Calendar.ShopDay(coats[i-1].End) {
			break
		}
	}
	require.LessOrEqual(t, sinceRest, step.Material.Family.RestAfter, "coats of %s without a rest", step.Material.Name)
}

func checkFilm(t *rapid.T, margin float64, shop *schedule.Shop, e schedule.Planned, step *schedule.Step, film schedule.Planned,
	under *schedule.Step, dulled bool) {
	milestone := map[schedule.Kind]material.Milestone{schedule.Scuff: material.Sand, schedule.Sand: material.Sand,
		schedule.MaskOff: material.TouchDry,
		schedule.MaskOn:  material.Topcoat, schedule.Inspect: material.TouchDry, schedule.Level: material.Buff,
		schedule.Gate: material.Handle, schedule.Coat: material.Topcoat}[step.Kind]
	if step.Film != "" {
		milestone = step.Film
	}
	same := step.Kind == schedule.Coat && step.Material.Key() == under.Material.Key()
	if same {
		milestone = material.Recoat
	}
	if limit, _ := under.Material.Limit(milestone); limit == material.Never || milestone == "" {
		return
	}
	start := e.Start
	earliest := reachedBy(shop, film, under, milestone, margin)
	require.False(t, start.Add(time.Second).Before(earliest), "%s over %s: %s before %s", step.Title, under.Material.Name, start, earliest)
	_, closes := mustLimit(under, material.RecoatMax).Hours()
	if !same || !closes || dulled || under.Material.Family.MeltsIntoSelf || film.Done {
		return
	}
	latest := reachedBy(shop, film, under, material.RecoatMax, 1/margin)
	switch {
	case under.Material.Family.ScuffRuins:
		require.False(t, start.After(latest.Add(time.Minute)), "a hard window is broken: %s after %s", start, latest)
	case start.After(latest.Add(time.Minute)):
		require.True(t, e.ScuffFirst, "the window has closed, and nobody scuffs")
		require.False(t, start.Add(time.Second).Before(reachedBy(shop, film, under, material.Sand, margin)), "scuffed too soft")
	}
}

func mustLimit(s *schedule.Step, m material.Milestone) material.Limit {
	limit, _ := s.Material.Limit(m)
	return limit
}

func TestDustAirAndHooks(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		in := RandomShop(t)
		if in.Places == nil {
			return
		}
		input := in.Input()
		p := Must(schedule.Retime(input))
		shop := input.Shop
		hanging := make(map[int][]calendar.Span)
		for _, e := range ahead(p) {
			step := p.Step(e.Event)
			if step.Kind != schedule.Coat {
				continue
			}
			coat := calendar.Span{Start: e.Start.Add(p.Lead(e)), End: e.End.Add(time.Duration(step.Material.Family.Flash) * time.Minute)}
			if room := shop.PlaceOf(step).Room; room != nil {
				limits := climate.LimitsOf(*step.Material)
				for m := coat.Start; !m.After(coat.End); m = m.Add(7 * time.Minute) {
					air, _ := room.At(m)
					require.NotEqual(t, climate.Wait, limits.Judge(air, room.Surface(m)).Verdict, "%s at %s", step.Material.Name, m)
				}
			}
			wet := calendar.Span{Start: coat.Start, End: reachedBy(shop, e, step, material.TouchDry, in.Margin)}
			for _, other := range ahead(p) {
				if p.DustsOn(other, e) {
					for _, s := range p.Stretches(other) {
						require.False(t, overlap(s, wet), "dust at %s on a coat that is wet until %s", s.Start, wet.End)
					}
				}
			}
			if hangs := shop.HangsFrom(step); shop.Places[hangs].Hooks > 0 {
				hanging[hangs] = append(hanging[hangs], p.Hanging(e))
			}
		}
		for place, list := range hanging {
			for _, s := range list {
				at := 0
				for _, other := range list {
					if !other.Start.After(s.Start) && other.End.After(s.Start) {
						at++
					}
				}
				require.LessOrEqual(t, at, shop.Places[place].Hooks, "hooks")
			}
		}
	})
}

func TestTheSameInputGivesTheSameDates(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		in := RandomShop(t)
		first, second := Must(schedule.Retime(in.Input())), Must(schedule.Retime(in.Input()))
		assert.Equal(t, first.Events, second.Events)
		assert.Equal(t, first.Forecasts, second.Forecasts)
	})
}

func TestFactsAreNeverMoved(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		in := RandomShop(t)
		p := Must(schedule.Retime(in.Input()))
		for event, fact := range in.Facts {
			e, _ := p.Find(event)
			assert.True(t, e.Done)
			assert.Equal(t, fact.End, e.End)
		}
		for event, pin := range in.Pins {
			if e, _ := p.Find(event); e.Pinned {
				assert.True(t, e.Start.Equal(pin.Truncate(time.Minute)), "what is pinned is there")
			}
		}
	})
}

func TestNoPlanBeatsItsBound(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		p := Must(schedule.Retime(RandomShop(t).Input()))
		for i, f := range p.Forecasts {
			if f.Impossible != "" || f.Finished {
				continue
			}
			bound := p.LowerBounds()[i]
			require.False(t, bound.IsZero())
			require.False(t, f.Finish.Before(bound), "finish %s, bound %s", f.Finish, bound)
		}
		if aims := search.Measure(p); aims.Broken == 0 {
			assert.GreaterOrEqual(t, aims.DaysLate, search.LowerBoundLate(p))
		}
	})
}

// TestAloneWarmerOrSoonerIsNeverLater is what does hold: earliest sides only, and
// nothing shared.
func TestAloneWarmerOrSoonerIsNeverLater(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		drawn := RandomShop(t)
		drawn.Pins, drawn.Facts = nil, nil
		bound := func(now time.Time, warmer unit.Celsius) time.Time {
			in := drawn
			in.Now = now
			profile := climate.Constant(climate.Air{Temperature: 18 + warmer, Humidity: 45})
			in.Places = []schedule.Place{{Name: "the room", Kind: settings.Bench, Room: Must(climate.NewRoom(Berlin, profile, nil))}}
			return Must(schedule.Retime(in.Input())).LowerBounds()[0]
		}
		usual := bound(drawn.Now, 0)
		if usual.IsZero() {
			return // some of it cannot be done in this room at all
		}
		warm := bound(drawn.Now, unit.Celsius(rapid.IntRange(0, 6).Draw(t, "warmer")))
		sooner := bound(drawn.Now.Add(-time.Duration(rapid.IntRange(0, 3000).Draw(t, "sooner"))*time.Minute), 0)
		assert.False(t, warm.After(usual), "warmer: %s after %s", warm, usual)
		assert.False(t, sooner.After(usual), "sooner: %s after %s", sooner, usual)
	})
}

func TestAnEventCanBePinnedWhereStartsSaysSoAndNowhereElse(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		in := RandomShop(t).Input()
		today := Must(schedule.Retime(in))
		e := today.Events[rapid.IntRange(0, len(today.Events)-1).Draw(t, "event")]
		stretches := explain.Starts(today, e.Event, in.Now.AddDate(0, 0, 14))
		if e.Done {
			assert.Empty(t, stretches)
			return
		}
		if len(stretches) == 0 || e.Impossible != "" {
			return
		}
		require.True(t, stretches[0].Start.Equal(today.Now))
		s := stretches[rapid.IntRange(0, len(stretches)-1).Draw(t, "stretch")]
		pins := map[schedule.Event]time.Time{e.Event: s.Start}
		for event, at := range in.Pins {
			if event != e.Event {
				pins[event] = at
			}
		}
		in.Pins = pins
		pinned, _ := Must(schedule.Retime(in)).Find(e.Event)
		switch {
		case !s.Free:
			assert.NotEmpty(t, s.Why)
			assert.True(t, !pinned.Pinned || len(pins) > 1, "nothing but another pin gives way: %s: %s", s.Start, s.Why)
		case pinned.Floats:
			moved := pinned.HeldBack || pinned.Ready.After(s.Start) ||
				(pinned.Window.Kind != schedule.NoWindow && pinned.Window.Latest.Before(s.Start))
			assert.True(t, moved, "it floats only where what comes before it has moved, or after it would miss a window: %s, %+v", s.Start,
				pinned)
		default:
			assert.True(t, pinned.Pinned && pinned.Start.Equal(s.Start))
		}
	})
}
