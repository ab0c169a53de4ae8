package shop_test

import (
	"bytes"
	"errors"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/formats"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/views"
)

// ids of the example shop with two people and a booth.
var (
	knot     = uuid.MustParse("4507a91e-a628-5776-9951-5b347015a196")
	ruff     = uuid.MustParse("106c45a4-84a2-5942-92da-b5cbcb011706")
	sanding  = uuid.MustParse("4ddf27ca-cc36-51b0-a3ff-ee4835b880a0")
	clear    = uuid.MustParse("4ed9d871-203f-52e0-bb19-e67261d50be9")
	washcoat = uuid.MustParse("4fc631e1-9595-5745-be40-edc70b73a200")
	ruffsOwn = uuid.MustParse("9fd5c293-57e0-57c4-8dc5-155425a30d0e")
	level    = uuid.MustParse("bc2e648d-9d36-5e9b-93af-8ea1beaf710f")
	booth    = uuid.MustParse("5377658d-d675-5eb4-b6b1-0ae1fcd96fe8")
	bench    = uuid.MustParse("fcf42654-6e9c-5ac2-85c8-5ae820e0efd4")
	drying   = uuid.MustParse("0b7ab8aa-e585-54d9-9f57-66c93887d2a8")
)

const twoPeople = "two-people-and-a-booth.json"

func (r *room) whatIf(list ...changes.Change) (views.WhatIf, error) {
	r.t.Helper()
	return r.service.WhatIf(ctx, changes.Changes{Changes: list, Threads: true})
}

func (r *room) keepChanges(list ...changes.Change) (views.Kept, error) {
	r.t.Helper()
	return r.service.KeepChanges(ctx, changes.Changes{Changes: list, PersonID: r.person})
}

// finishes are the days on which everything is ready, by instrument.
func (r *room) finishes() map[uuid.UUID]string {
	r.t.Helper()
	lines, err := r.service.Instruments(ctx)
	require.NoError(r.t, err)
	days := make(map[uuid.UUID]string)
	for _, line := range lines {
		days[line.ID] = line.Outlook.FinishDay
	}
	return days
}

var everyWeekday = []string{"closed", "8-18", "8-18", "8-18", "8-18", "8-18", "closed"}

func TestWhatIsKeptIsWhatWasAskedAbout(t *testing.T) {
	t.Parallel()
	for name, test := range map[string]struct {
		change changes.Change
		says   string
		moves  bool
	}{
		"a pin": {changes.Change{Kind: "pin", StepID: level, Coat: 1, At: ptr(time.Date(2026, 3, 9, 8, 0, 0, 0, time.UTC))},
			"on Mon 9 Mar 09:00", true},
		"a pin let go": {changes.Change{Kind: "unpin", StepID: level, Coat: 1}, "no longer pinned", true},
		"the booth opened": {changes.Change{Kind: "day", PlaceID: booth, Date: "2026-02-04", Open: true},
			"the booth open on Wed 4 February", false},
		"the shop closed":     {changes.Change{Kind: "day", Date: "2026-02-03"}, "the shop closed on Tue 3 February", true},
		"longer Fridays":      {changes.Change{Kind: "week", Weekday: 5, Hours: "8-12, 13-22"}, "Fridays: 08:00–12:00, 13:00–22:00", true},
		"the booth on Friday": {changes.Change{Kind: "week", Weekday: 5, PlaceID: booth, Hours: "8-17:30"}, "the booth on Fridays", true},
		"another pair":        {changes.Change{Kind: "hands", Name: "Cy"}, "one more pair of hands: Cy", false},
		"warmer":              {changes.Change{Kind: "warmer", Degrees: 4}, "the room 4 °C warmer", true},
		"a colder loft":       {changes.Change{Kind: "warmer", PlaceID: drying, Degrees: -3}, "the drying room 3 °C colder", true},
		"more coats":          {changes.Change{Kind: "coats", StepID: clear, Coats: 2}, "2 coats more on “Clear” of Knot body", true},
		"fewer coats":         {changes.Change{Kind: "coats", StepID: ruffsOwn, Coats: -3}, "3 coats fewer", true},
		"another clear": {changes.Change{Kind: "material", StepID: clear, Material: "nitro"},
			"“Clear” of Knot body with nitrocellulose lacquer", true},
		"a product": {changes.Change{Kind: "material", StepID: ruffsOwn, Material: "25830fda-9158-509a-873e-c741256ce468"},
			"with Harbour Clear", true},
		"later": {changes.Change{Kind: "start", InstrumentID: ruff, Date: "2026-03-02"}, "Ruff not before Mon 2 March", true},
		"more caution": {changes.Change{Kind: "shop", Shop: &changes.ShopForm{Name: "A finishing room", TimeZone: "Europe/Berlin",
			Margin: "1,6",
			Week:   everyWeekday}}, "caution × 1.6 instead of × 1.25", true},
		"a bigger booth": {changes.Change{Kind: "place", PlaceID: booth,
			Place: &changes.PlaceForm{Name: "the big booth", Kind: "booth", Capacity: "3",
				HangsIn: drying, OwnHours: true, Week: everyWeekday}}, "the big booth, changed", true},
		"a new place": {changes.Change{Kind: "place", Place: &changes.PlaceForm{Name: "the shed", Kind: "drying", Hooks: "4",
			Week: everyWeekday}}, "a new place: the shed", false},
		"air": {changes.Change{Kind: "profile", PlaceID: drying,
			Knots: []climate.Knot{{Hour: 12, Air: climate.Air{Temperature: 14, Humidity: 60}}}}, "other usual air in the drying room",
			true},
		"short days": {changes.Change{Kind: "person",
			Person: &changes.PersonForm{ID: uuid.MustParse("938e3053-fac1-59da-a2c3-264399183d84"),
				Name: "Ada", OwnHours: true,
				Week: []string{"", "9-11", "", "", "", "", ""}}}, "Ada, with hours of their own", true},
		"somebody leaves": {changes.Change{Kind: "person",
			Person: &changes.PersonForm{ID: uuid.MustParse("938e3053-fac1-59da-a2c3-264399183d84"), Name: "Ada", Left: true}},
			"Ada works here no more", true},
	} {
		t.Run(name, func(t *testing.T) {
			r := imported(t, twoPeople)
			before := r.finishes()
			asked, err := r.whatIf(test.change)
			require.NoError(t, err)
			require.Len(t, asked.Changes, 1)
			assert.Contains(t, unit.Unmarked(asked.Changes[0]), test.says)
			assert.Equal(t, test.moves, len(asked.Moved) > 0, "%+v", asked.Effects)
			assert.Equal(t, before, r.finishes(), "asking changes nothing")
			for _, e := range asked.Effects {
				before[e.InstrumentID] = e.After
			}
			kept, err := r.keepChanges(test.change)
			require.NoError(t, err)
			assert.Equal(t, asked.Changes, kept.Changes)
			assert.Equal(t, before, r.finishes(), "what is kept is what was said")
			for _, m := range kept.Moved {
				view, err := r.service.Instrument(ctx, m.InstrumentID)
				require.NoError(t, err)
				if m.Days != 0 {
					require.NotEmpty(t, view.History)
					assert.Equal(t, kept.Changes[0], view.History[0].Cause)
					assert.Equal(t, m.Days, view.History[0].Days)
				}
			}
		})
	}
}

func TestSeveralChangesAreOneAnswerAndOneDecision(t *testing.T) {
	t.Parallel()
	r := imported(t, twoPeople)
	// The booth is shut on Wednesdays: the coat can be pinned there only together with the day.
	pin := changes.Change{Kind: "pin", StepID: washcoat, Coat: 1, At: ptr(time.Date(2026, 2, 11, 9, 0, 0, 0, time.UTC))}
	_, err := r.whatIf(pin)
	assert.ErrorContains(t, err, "changes[0].at: The booth is closed.")
	day := changes.Change{Kind: "day", PlaceID: booth, Date: "2026-02-11", Open: true}
	asked, err := r.whatIf(day, pin)
	require.NoError(t, err)
	assert.Len(t, asked.Changes, 2)
	assert.NotEmpty(t, asked.Rows)

	bad := changes.Change{Kind: "coats", StepID: clear}
	_, err = r.keepChanges(day, bad)
	var wrong *refuse.Invalid
	require.ErrorAs(t, err, &wrong)
	assert.Equal(t, "changes[1].coats", wrong.Faults[0].Path)
	view, err := r.service.Shop(ctx)
	require.NoError(t, err)
	assert.Len(t, view.Days, 1, "none is kept when one cannot be: only the holiday that was there")
}

func TestWhatCannotBeIsSaid(t *testing.T) {
	t.Parallel()
	r := imported(t, twoPeople)
	for name, test := range map[string]struct {
		change      changes.Change
		field, says string
	}{
		"no such step":   {changes.Change{Kind: "pin", StepID: knot, Coat: 1, At: ptr(r.now)}, "stepId", "must be a step"},
		"no time":        {changes.Change{Kind: "pin", StepID: level, Coat: 1}, "at", "say when"},
		"the past":       {changes.Change{Kind: "pin", StepID: level, Coat: 1, At: ptr(r.now.Add(-time.Hour))}, "at", "that is past"},
		"not pinned":     {changes.Change{Kind: "unpin", StepID: sanding, Coat: 1}, "stepId", "is not pinned"},
		"no day":         {changes.Change{Kind: "day", Date: "soon"}, "date", "write it like"},
		"a day gone":     {changes.Change{Kind: "day", Date: "2026-02-01"}, "date", "from today on"},
		"no such place":  {changes.Change{Kind: "day", Date: "2026-02-10", PlaceID: knot}, "placeId", "must be a place"},
		"hours":          {changes.Change{Kind: "week", Weekday: 1, Hours: "early"}, "hours", "write it like 09:00–12:30"},
		"overlapping":    {changes.Change{Kind: "week", Weekday: 1, Hours: "9-12, 11-13"}, "hours", "overlap"},
		"a name taken":   {changes.Change{Kind: "hands", Name: "bo"}, "person.name", "has that name already"},
		"no degrees":     {changes.Change{Kind: "warmer"}, "degreesC", "how many degrees"},
		"no known air":   {changes.Change{Kind: "warmer", PlaceID: bench, Degrees: 2}, "placeId", "nobody has said"},
		"too many coats": {changes.Change{Kind: "coats", StepID: clear, Coats: 50}, "coats", "from 1 to 50"},
		"not coats":      {changes.Change{Kind: "coats", StepID: sanding, Coats: 1}, "stepId", "is not done in coats"},
		"another group": {changes.Change{Kind: "material", StepID: clear, Material: "water-dye"}, "material",
			"is not of the group clear"},
		"no such material": {changes.Change{Kind: "material", StepID: clear, Material: "honey"}, "material", "a product on the shelf"},
		"not done":         {changes.Change{Kind: "redo", StepID: clear, Coat: 1}, "coat", "only what is done"},
		"no instrument": {changes.Change{Kind: "start", InstrumentID: clear, Date: "2026-03-02"}, "instrumentId",
			"must be an instrument"},
		"a shop": {changes.Change{Kind: "shop",
			Shop: &changes.ShopForm{Name: "x", TimeZone: "Mars", Margin: "0.5", Week: everyWeekday}}, "shop.timeZone", "IANA"},
		"never open": {changes.Change{Kind: "shop",
			Shop: &changes.ShopForm{Name: "x", TimeZone: "UTC", Margin: "1", Week: make([]string, 7)}}, "shop.week[1]", "at least one day"},
		"a place": {changes.Change{Kind: "place",
			Place: &changes.PlaceForm{Name: "", Kind: "bench", Capacity: "many", Week: everyWeekday}}, "place.name", "1 to 60"},
		"air": {changes.Change{Kind: "profile", PlaceID: drying, Knots: []climate.Knot{{Hour: 200}}}, "knots",
			"hours are from 0"},
		"unknown": {changes.Change{Kind: "magic"}, "kind", "no such change"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := r.whatIf(test.change)
			var wrong *refuse.Invalid
			require.ErrorAs(t, err, &wrong)
			assert.Equal(t, "changes[0]."+test.field, wrong.Faults[0].Path)
			assert.Contains(t, wrong.Faults[0].Message, test.says)
		})
	}
	_, err := r.service.KeepChanges(ctx, changes.Changes{Changes: []changes.Change{{Kind: "warmer", Degrees: 1}}})
	assert.ErrorContains(t, err, "must be one of the people")
}

func TestSettingsOfTwoPeopleDoNotOverwriteEachOther(t *testing.T) {
	t.Parallel()
	r := imported(t, twoPeople)
	view, err := r.service.Shop(ctx)
	require.NoError(t, err)
	form := view.Shop
	form.Margin = "1.5"
	r.now = r.now.Add(time.Hour)
	_, err = r.keepChanges(changes.Change{Kind: "shop", Shop: &form, Seen: &view.Seen})
	require.NoError(t, err)
	form.Margin = "1"
	_, err = r.keepChanges(changes.Change{Kind: "shop", Shop: &form, Seen: &view.Seen})
	var taken *refuse.Taken
	require.ErrorAs(t, err, &taken)
	assert.Contains(t, taken.Message, "changed by somebody else")
	view, err = r.service.Shop(ctx)
	require.NoError(t, err)
	assert.Equal(t, "1.5", view.Shop.Margin)
}

// How figures are written is a setting like others: it is kept, exported and read back,
// and says by an example what it is.
func TestNotationIsKept(t *testing.T) {
	t.Parallel()
	r := imported(t, twoPeople)
	assert.Equal(t, unit.Notation{}, r.service.Notation())
	view, err := r.service.Shop(ctx)
	require.NoError(t, err)
	form, american := view.Shop, unit.Notation{Inch: true, AmPm: true, MonthFirst: true, SundayFirst: true}
	form.Notation = american
	r.now = r.now.Add(time.Hour)
	kept, err := r.keepChanges(changes.Change{Kind: "shop", Shop: &form, Seen: &view.Seen})
	require.NoError(t, err)
	assert.Contains(t, kept.Changes[0], "figures written like 68 °F, May 14, 7:40 pm; weeks from Sunday")
	assert.Equal(t, american, r.service.Notation())
	file, err := r.service.Export(ctx, nil)
	require.NoError(t, err)
	var written bytes.Buffer
	require.NoError(t, formats.Write(&written, file))
	read, err := formats.Read(&written)
	require.NoError(t, err)
	assert.Equal(t, american, read.Shop.Settings[len(read.Shop.Settings)-1].Notation)
}

// Degrees are taken as they are typed, in either unit.
func TestWarmerAsTyped(t *testing.T) {
	t.Parallel()
	r := imported(t, twoPeople)
	for typed, says := range map[string]string{"4": "the room 4 °C warmer", "-9 °F": "the room 5 °C colder",
		"2,5 C": "the room 2.5 °C warmer"} {
		asked, err := r.whatIf(changes.Change{Kind: "warmer", Warmer: typed})
		require.NoError(t, err)
		assert.Equal(t, says, unit.Unmarked(asked.Changes[0]))
	}
	for typed, says := range map[string]string{"a bit": "write it like", "25": "at most 20 °C", "-40 °F": "at most 20 °C"} {
		_, err := r.whatIf(changes.Change{Kind: "warmer", Warmer: typed})
		var wrong *refuse.Invalid
		require.ErrorAs(t, err, &wrong)
		assert.Equal(t, "changes[0].warmer", wrong.Faults[0].Path)
		assert.Contains(t, unit.Unmarked(wrong.Faults[0].Message), says)
	}
}

func TestADayOpenedAndClosedAgainIsAsUsual(t *testing.T) {
	t.Parallel()
	r := imported(t, twoPeople)
	before := r.finishes()
	for _, place := range []uuid.UUID{uuid.Nil, booth, bench} { // the bench has no hours of its own
		for _, open := range []bool{false, true} {
			_, err := r.keepChanges(changes.Change{Kind: "day", PlaceID: place, Date: "2026-02-10", Open: open})
			require.NoError(t, err)
			view, err := r.service.Shop(ctx)
			require.NoError(t, err)
			assert.Equal(t, open, len(view.Days) == 1, "only the holiday is left: %+v", view.Days)
			r.now = r.now.Add(time.Minute)
		}
	}
	assert.Equal(t, before, r.finishes())
}

func TestAskingLeavesNoTraceWithinTheMinuteOfAChange(t *testing.T) {
	t.Parallel()
	r := imported(t, twoPeople)
	for _, place := range []uuid.UUID{uuid.Nil, booth} {
		_, err := r.keepChanges(changes.Change{Kind: "day", PlaceID: place, Date: "2026-02-10"})
		require.NoError(t, err)
	}
	before, err := r.service.Shop(ctx)
	require.NoError(t, err)
	require.Len(t, before.Days, 3)
	for _, place := range []uuid.UUID{uuid.Nil, booth} {
		_, err := r.whatIf(changes.Change{Kind: "day", PlaceID: place, Date: "2026-02-10", Open: true},
			changes.Change{Kind: "day", PlaceID: place, Date: "2026-02-11"})
		require.NoError(t, err)
	}
	after, err := r.service.Shop(ctx)
	require.NoError(t, err)
	assert.Equal(t, before, after)
}

func TestKeepingTwiceIsKeepingOnce(t *testing.T) {
	t.Parallel()
	r := imported(t, twoPeople)
	decision := changes.Changes{ID: uuid.New(), PersonID: r.person, Changes: []changes.Change{{Kind: "coats", StepID: clear, Coats: 2}}}
	for range 2 { // a double tap, or an answer that was lost
		kept, err := r.service.KeepChanges(ctx, decision)
		require.NoError(t, err)
		assert.Equal(t, []string{"2 coats more on “Clear” of Knot body"}, kept.Changes)
	}
	view, err := r.service.Instrument(ctx, knot)
	require.NoError(t, err)
	for _, step := range view.Pieces[0].Steps {
		if step.StepID == clear {
			assert.Equal(t, 8, step.Coats, "two more than six, not four")
		}
	}
}

func TestAFactBeatsAPin(t *testing.T) {
	t.Parallel()
	r := imported(t, twoPeople)
	starts, err := r.service.Starts(ctx, sanding, 1, nil)
	require.NoError(t, err)
	require.NotEmpty(t, starts.Stretches)
	assert.True(t, starts.Stretches[0].From.Equal(r.now), "from now on, without a gap")
	at := starts.Stretches[0].From
	for i, s := range starts.Stretches {
		assert.True(t, s.From.Equal(at))
		assert.Equal(t, s.Free, s.Why == "", "what is not free says why")
		at = starts.Stretches[i].To
	}
	pin := r.now.Add(24 * time.Hour)
	_, err = r.keepChanges(changes.Change{Kind: "pin", StepID: sanding, Coat: 1, At: &pin})
	require.NoError(t, err)
	view, err := r.service.Instrument(ctx, knot)
	require.NoError(t, err)
	assert.True(t, view.Pieces[0].Beads[0].Pinned)
	r.done(r.tag("Knot body"))
	starts, err = r.service.Starts(ctx, sanding, 1, nil)
	require.NoError(t, err)
	assert.False(t, starts.Pinned)
	assert.Empty(t, starts.Stretches, "what is done stays where it was")
}

func TestACoatIsDoneAgain(t *testing.T) {
	t.Parallel()
	r := imported(t, twoPeople)
	r.advanceTo("Knot body", "coat 3 of 6")
	_, err := r.keepChanges(changes.Change{Kind: "redo", StepID: clear, Coat: 2})
	require.NoError(t, err)
	assert.Equal(t, "coat 3 of 7, waterborne clear", r.tag("Knot body").Title)
	_, err = r.whatIf(changes.Change{Kind: "material", StepID: clear, Material: "nitro"})
	assert.ErrorContains(t, err, "is begun")
	_, err = r.whatIf(changes.Change{Kind: "coats", StepID: clear, Coats: -6})
	assert.ErrorContains(t, err, "from 2 to 50 are possible")
}

func TestAnInstrumentThatWaitsIsBegunOnItsDay(t *testing.T) {
	t.Parallel()
	r := imported(t, twoPeople)
	for _, day := range []string{"2026-03-02", "2026-02-20"} { // the second time the gate is moved
		_, err := r.keepChanges(changes.Change{Kind: "start", InstrumentID: ruff, Date: day})
		require.NoError(t, err)
	}
	tag := r.tag("Ruff body")
	assert.Equal(t, "Wait for the day", tag.Title)
	assert.Contains(t, unit.Unmarked(r.sheet(tag).Because), "Ready Fri 20 Feb 00:00, but the shop is closed until")
	view, err := r.service.Instrument(ctx, ruff)
	require.NoError(t, err)
	assert.Len(t, view.Pieces[0].Steps, 12, "one gate, not two")
	r.now = time.Date(2026, 2, 20, 9, 0, 0, 0, time.UTC)
	r.done(r.tag("Ruff body"))
	assert.Equal(t, "Sand the bare wood", r.tag("Ruff body").Title)
}

func TestTimeMovesADateAndTheHistorySaysSo(t *testing.T) {
	t.Parallel()
	r := imported(t, twoPeople)
	_, err := r.keepChanges(changes.Change{Kind: "warmer", Degrees: 3})
	require.NoError(t, err)
	r.now = r.now.AddDate(0, 0, 9) // nothing is done for nine days
	_, err = r.keepChanges(changes.Change{Kind: "warmer", Degrees: -3})
	require.NoError(t, err)
	view, err := r.service.Instrument(ctx, ruff)
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(view.History), 3)
	assert.Contains(t, view.History[1].Cause, "time went by")
	assert.Positive(t, view.History[1].Days)
	assert.Equal(t, "the room 3 °C warmer", unit.Unmarked(view.History[2].Cause))
}

func TestWeeksShowWhatTheDaysHold(t *testing.T) {
	t.Parallel()
	r := imported(t, twoPeople)
	weeks, err := r.service.Weeks(ctx, views.WeeksAsked{Weeks: 4, Count: 1})
	require.NoError(t, err)
	assert.Equal(t, "2026-02-02", weeks.From, "the Monday of this week")
	assert.Len(t, weeks.Days, 28)
	assert.Equal(t, 2, weeks.Total)
	require.Len(t, weeks.Rows, 1)
	assert.Equal(t, "Knot", weeks.Rows[0].Name, "the nearest promise first")
	require.NotNil(t, weeks.Rows[0].Critical)
	assert.Contains(t, weeks.Rows[0].Critical.Text, "The longest wait")
	assert.Equal(t, []string{"the bench", "the wheel", "the booth"},
		[]string{weeks.Loads[0].Name, weeks.Loads[1].Name, weeks.Loads[2].Name})
	assert.False(t, weeks.Days[2].Places[2].Open, "the booth is not ours on Wednesdays")
	assert.True(t, weeks.Days[14].Special, "a holiday")
	assert.False(t, weeks.Days[14].Open)
	next, err := r.service.Weeks(ctx, views.WeeksAsked{From: "2026-02-09", Weeks: 1, First: 1, Count: 5})
	require.NoError(t, err)
	require.Len(t, next.Rows, 1)
	assert.Equal(t, "Ruff", next.Rows[0].Name)
	for _, strand := range next.Rows[0].Pieces {
		for _, b := range strand.Beads {
			assert.True(t, b.End.After(next.Days[0].At) && b.Start.Before(next.Days[6].At.AddDate(0, 0, 1)))
		}
	}
	_, err = r.service.Weeks(ctx, views.WeeksAsked{From: "now", Weeks: 1})
	assert.ErrorContains(t, err, "write it like")
}

func TestWhoHasLeftIsNotAskedButStaysInTheLog(t *testing.T) {
	t.Parallel()
	r := imported(t, twoPeople)
	r.done(r.tag("Knot body"))
	_, err := r.keepChanges(changes.Change{Kind: "person", Person: &changes.PersonForm{ID: r.person, Name: "Ada", Left: true}})
	require.NoError(t, err)
	reference, err := r.service.Reference(ctx)
	require.NoError(t, err)
	require.Len(t, reference.People, 1)
	assert.Equal(t, "Bo", reference.People[0].Name)
	view, err := r.service.Instrument(ctx, knot)
	require.NoError(t, err)
	assert.Equal(t, "Ada", view.Log[0].By)
	_, err = r.keepChanges(changes.Change{Kind: "person", Person: &changes.PersonForm{ID: reference.People[0].ID, Name: "Bo", Left: true}})
	var wrong *refuse.Invalid
	require.True(t, errors.As(err, &wrong), "%v", err)
	assert.Contains(t, wrong.Faults[0].Message, "somebody's hands must stay")
}
