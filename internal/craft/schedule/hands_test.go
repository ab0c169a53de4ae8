package schedule

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/calendar"
	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/proptest"
)

func handsFrom(cal *calendar.Calendar, now minute) *hands {
	return newHands(newOpenings(newDays(cal, now), cal, nil), now)
}

// written is one person's time as it would be kept on paper: every job, and
// every tie with its place.
type written struct {
	calendar *calendar.Calendar
	stints   []stint
	ties     []stint
}

func (w *written) open(s span) bool {
	for _, o := range w.calendar.OpenOn(calendar.DayOf(s.start.time().In(Berlin))) {
		if minuteOf(o.Start) <= s.start && s.end <= minuteOf(o.End) {
			return true
		}
	}
	return false
}

func (w *written) free(start minute, phases []phase, place int32) bool {
	if !w.open(span{start, start + lengthOf(phases)}) {
		return false
	}
	for at := start; len(phases) > 0; phases = phases[1:] {
		end := at + phases[0].length
		for _, j := range w.stints {
			if j.start < end && j.end > at && (!phases[0].tied || j.place != place) {
				return false
			}
		}
		for _, tie := range w.ties {
			if tie.start < end && tie.end > at && tie.place != place {
				return false
			}
		}
		at = end
	}
	return true
}

func (w *written) take(start minute, phases []phase, place int32) {
	for _, p := range phases {
		j := stint{span: span{start, start + p.length}, place: place}
		if start += p.length; p.tied {
			w.ties = append(w.ties, j)
		} else {
			w.stints = append(w.stints, j)
		}
	}
}

func drawPhases(t *rapid.T) []phase {
	one := []phase{{minute(rapid.IntRange(1, 90).Draw(t, "work")), false}}
	if rapid.IntRange(0, 2).Draw(t, "attended") > 0 {
		return one
	}
	return append(one, phase{minute(rapid.IntRange(10, 25).Draw(t, "wait")), true},
		phase{minute(rapid.IntRange(1, 20).Draw(t, "finish")), false})
}

func TestHandsAreFreeLikeOnPaper(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		now := minuteOf(At("2026-03-10 10:00"))
		h, paper := handsFrom(Lunch(), now), &written{calendar: Lunch()}
		for range rapid.IntRange(1, 14).Draw(t, "stints") {
			phases, place := drawPhases(t), int32(rapid.IntRange(0, 1).Draw(t, "place"))
			from := now + minute(rapid.IntRange(0, 900).Draw(t, "from"))
			want := from
			for !paper.free(want, phases, place) {
				want++
			}
			got, found := h.free(from, phases, place)
			require.True(t, found)
			require.Equal(t, want, got)
			h.take(got, phases, len(paper.stints), place)
			paper.take(got, phases, place)
		}
	})
}

func TestReleasingGivesBack(t *testing.T) {
	now := minuteOf(At("2026-03-10 10:00"))
	h := handsFrom(Lunch(), now)
	work := []phase{{30, false}, {15, true}, {10, false}}
	h.take(now, work, 7, 0)
	next, _ := h.free(now, []phase{{60, false}}, 0)
	assert.Equal(t, now+55, next)
	who, found := h.holder(now, 10)
	assert.True(t, found)
	assert.EqualValues(t, 7, who.node)
	_, found = h.holder(now-minute(24*60), 10)
	assert.False(t, found, "nobody is kept busy while they are away")
	h.release(now, 7)
	next, _ = h.free(now, []phase{{60, false}}, 0)
	assert.Equal(t, now, next)
	assert.Equal(t, minuteOf(At("2026-03-10 12:00")), h.until(now))
}

// What somebody does tomorrow is not why the work of tonight waits for somebody else.

func TestWhoIsAwayOrFreeForLongEnoughHoldsNothing(t *testing.T) {
	h := handsFrom(Lunch(), minuteOf(At("2026-03-10 10:00")))
	h.take(minuteOf(At("2026-03-10 13:10")), []phase{{30, false}}, 7, 0)
	for from, long := range map[string]struct {
		minutes minute
		held    bool
	}{"2026-03-10 12:30": {50, false}, "2026-03-10 13:00": {10, false}, "2026-03-10 13:01": {10, true}, "2026-03-10 13:39": {10, true},
		"2026-03-10 13:40": {10, false}} {
		_, held := h.holder(minuteOf(At(from)), long.minutes)
		assert.Equal(t, long.held, held, "%s for %d min", from, long.minutes)
	}
}

func TestWorkLongerThanAnyOpeningFindsNone(t *testing.T) {
	now := minuteOf(At("2026-03-10 10:00"))
	_, found := handsFrom(Lunch(), now).free(now, []phase{{300, false}}, 0)
	assert.False(t, found)
}

func TestOpenings(t *testing.T) {
	now := minuteOf(At("2026-03-13 11:30")) // a Friday
	o := newOpenings(newDays(Lunch(), now), Lunch(), nil)
	for _, test := range []struct {
		length int
		want   string
	}{{30, "2026-03-13 11:30"}, {31, "2026-03-13 13:00"}, {241, ""}} {
		got, found := o.next(now, minute(test.length))
		if test.want == "" {
			assert.False(t, found)
			continue
		}
		assert.Equal(t, minuteOf(At(test.want)), got)
	}
	assert.Equal(t, minuteOf(At("2026-03-13 12:00")), o.until(now))
	closed := minuteOf(At("2026-03-14 10:00"))
	assert.Equal(t, closed, o.until(closed), "on a Saturday it is closed already")
	got, _ := o.next(closed, 1)
	assert.Equal(t, minuteOf(At("2026-03-16 09:00")), got)
}

func TestOwnHoursLieWithinTheShops(t *testing.T) {
	now := minuteOf(At("2026-03-10 08:00"))
	mornings := Weekdays(calendar.Hours{Open: 7 * 60, Close: 11 * 60})
	o := newOpenings(newDays(Lunch(), now), Lunch(), mornings)
	s, _ := o.at(o.from(now))
	assert.Equal(t, span{minuteOf(At("2026-03-10 09:00")), minuteOf(At("2026-03-10 11:00"))}, s)
}

func TestRoundTheClockHasNoMidnight(t *testing.T) {
	now := minuteOf(At("2026-03-10 23:30"))
	o := newOpenings(newDays(Always(), now), Always(), nil)
	got, found := o.next(now, 120)
	assert.True(t, found)
	assert.Equal(t, now, got)
}

func TestDaysTurnAtFourAndAcrossTheChange(t *testing.T) {
	now := minuteOf(At("2026-03-28 12:00"))
	d := newDays(NineToSix(), now)
	today := d.of(now)
	for text, ahead := range map[string]int{"2026-03-29 03:59": 0, "2026-03-29 04:00": 1, "2026-03-30 03:59": 1, "2026-04-04 12:00": 7,
		"2026-03-28 03:59": -1} {
		assert.Equal(t, today+ahead, d.of(minuteOf(At(text))), text)
	}
	assert.True(t, d.covers(now))
	assert.False(t, d.covers(now+minute(200*24*60)), "long past, it is laid out anew")
	assert.Equal(t, 23*time.Hour, d.turn(today+1).time().Sub(d.turn(today).time()), "the shop day before the spring change is short")
}
