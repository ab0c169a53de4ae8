package shop_test

import (
	"os"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/workshop"
	"umberfrost/internal/formats"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
)

// imported is a room that was set up from an example file, at the file's present.
func imported(t *testing.T, name string) *room {
	t.Helper()
	from, err := os.Open("../../docs/formats/examples/" + name)
	require.NoError(t, err)
	defer from.Close()
	file, err := formats.Read(from)
	require.NoError(t, err)
	r := &room{t: t, store: pgtest.Store(t), now: *file.Now, person: file.Shop.People[0].ID}
	r.service, err = shop.New(r.store, func() time.Time { return r.now })
	require.NoError(t, err)
	t.Cleanup(r.isAsKept)
	_, err = r.service.Import(ctx, file)
	require.NoError(t, err)
	return r
}

func (r *room) rack() views.Rack {
	r.t.Helper()
	rack, err := r.service.Rack(ctx)
	require.NoError(r.t, err)
	return rack
}

func (r *room) tag(name string) views.Tag {
	r.t.Helper()
	for _, tag := range r.rack().Tags {
		if tag.Name+" "+string(tag.Piece) == name {
			return tag
		}
	}
	require.Fail(r.t, "no such tag", name)
	return views.Tag{}
}

// done logs what a tag asks for, as done now.
func (r *room) done(tag views.Tag) changes.Logged {
	r.t.Helper()
	r.seq++
	logged, err := r.service.Log(ctx, changes.Entry{ID: uuid.Must(uuid.NewV7()), Kind: "done", StepID: tag.Event.StepID,
		Coat:     tag.Event.Coat,
		PersonID: r.person, DeviceID: uuid.NameSpaceURL, DeviceSeq: r.seq, Confirm: []string{"too-soon", "out-of-order"}})
	require.NoError(r.t, err)
	return logged
}

func (r *room) sheet(tag views.Tag) views.Sheet {
	r.t.Helper()
	sheet, err := r.service.Sheet(ctx, tag.Event.StepID, tag.Event.Coat)
	require.NoError(r.t, err)
	return sheet
}

// advanceTo moves the present to a snapshot and logs what is due on a piece until
// its next title begins with the words.
func (r *room) advanceTo(name, words string) views.Tag {
	r.t.Helper()
	for range 60 {
		tag := r.tag(name)
		if strings.HasPrefix(tag.Title, words) {
			return tag
		}
		sheet := r.sheet(tag)
		if sheet.Start.At.After(r.now) {
			r.now = sheet.Start.At
		}
		r.now = r.now.Add(20 * time.Minute)
		r.done(tag)
	}
	require.Fail(r.t, "it never came to", words)
	return views.Tag{}
}

func TestTwoPeopleWorkAtOnce(t *testing.T) {
	t.Parallel()
	r := imported(t, "two-people-and-a-booth.json")
	rack := r.rack()
	require.GreaterOrEqual(t, len(rack.Next), 2)
	assert.Equal(t, rack.Next[0].Start.At, rack.Next[1].Start.At, "two sand at the same time")
	assert.Equal(t, "the bench", rack.Next[0].Place)
	names := map[string]bool{}
	for _, tag := range rack.Tags {
		names[tag.Name+" "+string(tag.Piece)] = true
	}
	assert.Equal(t, map[string]bool{"Knot body": true, "Ruff body": true, "Ruff neck": true}, names, "the whole waits for its pieces")
}

func TestDustKeepsAPieceWaiting(t *testing.T) {
	t.Parallel()
	r := imported(t, "two-people-and-a-booth.json")
	r.advanceTo("Knot body", "coat 1 of 2, water-soluble dye")
	r.done(r.tag("Knot body")) // it is wet now, and open to dust
	tag := r.tag("Ruff body")
	assert.Equal(t, views.Waiting, tag.State, tag.Because)
	assert.Contains(t, tag.Because, "open to dust until")
	assert.False(t, tag.CanLog)
	assert.True(t, tag.At.After(r.now), "it hangs where it can really be begun")
}

func TestAWindowThatClosesIsSaid(t *testing.T) {
	t.Parallel()
	r := imported(t, "two-people-and-a-booth.json")
	r.advanceTo("Knot body", "coat 2 of 6")
	sheet := r.sheet(r.tag("Knot body"))
	assert.Contains(t, sheet.Window, "after that the film must be scuffed first")
	r.now = r.now.Add(10 * time.Hour) // that evening: recoat-able, and the window closes within half a day
	tag := r.tag("Knot body")
	sheet = r.sheet(tag)
	assert.Contains(t, sheet.Because+sheet.Window, "scuff")

	r.now = r.now.Add(4 * 24 * time.Hour)
	sheet = r.sheet(r.tag("Knot body"))
	assert.Contains(t, sheet.Because, "Scuff it first: the window to the coat below closes")
}

func TestAClosingWindowIsAState(t *testing.T) {
	t.Parallel()
	r := imported(t, "two-people-and-a-booth.json")
	r.advanceTo("Knot body", "coat 2 of 6")
	for range 24 {
		r.now = r.now.Add(30 * time.Minute)
		for _, sitting := range r.rack().Next {
			if sitting.Name == "Knot" && sitting.State == views.Closing {
				assert.True(t, strings.HasPrefix(sitting.When, "by "), sitting.When)
				assert.True(t, sitting.CanLog)
				return
			}
		}
	}
	require.Fail(t, "the window to the second coat never closed within half a day")
}

func TestTheSheetSaysWhereAndWhetherTheAirIsFit(t *testing.T) {
	t.Parallel()
	r := imported(t, "evenings-in-a-garage.json")
	r.now = time.Date(2026, 3, 10, 19, 30, 0, 0, time.UTC)
	tag := r.advanceTo("Stint neck", "coat 1 of 2")
	sheet := r.sheet(tag)
	assert.Equal(t, "the garage", sheet.Where)
	require.NotNil(t, sheet.Room)
	assert.Contains(t, []string{"go", "wait", "go with care"}, sheet.Room.Verdict)

	r.now = time.Date(2026, 3, 12, 5, 0, 0, 0, time.UTC) // before the heater
	sheet = r.sheet(r.tag("Stint neck"))
	assert.Equal(t, "wait", sheet.Room.Verdict)
	assert.Contains(t, sheet.Room.Text, "wait until")
	assert.Contains(t, unit.Unmarked(sheet.Room.Reason), "colder than its 15 °C")
}

func TestWhatWasDecidedAheadComesIntoForce(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(neck("Dunlin", "2026-06-01"))
	before := view.Outlook.Finish.At
	r.decide(func(w *workshop.Workshop) {
		later := w.Shop.Settings[0]
		later.ValidFrom, later.Margin = r.now.Add(2*time.Hour), 2
		w.Shop.Settings = append(w.Shop.Settings, later)
	})
	view, err := r.service.Instrument(ctx, view.ID)
	require.NoError(t, err)
	assert.True(t, view.Outlook.Finish.At.Equal(before), "more caution was decided for later")
	r.now = r.now.Add(3 * time.Hour)
	view, err = r.service.Instrument(ctx, view.ID)
	require.NoError(t, err)
	assert.True(t, view.Outlook.Finish.At.After(before.Add(24*time.Hour)), "and holds from then on")
}

func TestTimePassingIsTheSameAsLoadingAnew(t *testing.T) {
	t.Parallel()
	r := imported(t, "two-people-and-a-booth.json")
	r.rack()
	for range 5 {
		r.now = r.now.Add(97 * time.Minute)
		passed := r.rack()
		fresh, err := shop.New(r.store, func() time.Time { return r.now })
		require.NoError(t, err)
		loaded, err := fresh.Rack(ctx)
		require.NoError(t, err)
		assert.Equal(t, loaded, passed)
	}
}

func TestARoundMoreThanExpectedMayBeLogged(t *testing.T) {
	t.Parallel()
	r := imported(t, "two-people-and-a-booth.json")
	tag := r.advanceTo("Knot body", "Judge the pores")
	view, err := r.service.Instrument(ctx, tag.InstrumentID)
	require.NoError(t, err)
	var fill views.StepRow
	for _, step := range view.Pieces[0].Steps {
		if step.Title == "Fill the pores" {
			fill = step
		}
	}
	require.Equal(t, 3, fill.Done)
	entry := func(kind string, coat int) error {
		r.seq++
		_, err := r.service.Log(ctx, changes.Entry{ID: uuid.Must(uuid.NewV7()), Kind: kind, StepID: fill.StepID, Coat: coat,
			PersonID: r.person, DeviceID: uuid.NameSpaceURL, DeviceSeq: r.seq,
			Confirm: []string{"too-soon", "out-of-order"}})
		return err
	}
	require.NoError(t, entry("done", 4))
	assert.ErrorContains(t, entry("done", 6), "coats 1 to 5")
	require.NoError(t, entry("settled", 4))
}

func TestAPinnedEventIsWhereItWasPinned(t *testing.T) {
	t.Parallel()
	r := imported(t, "two-people-and-a-booth.json")
	view, err := r.service.Instruments(ctx)
	require.NoError(t, err)
	for _, line := range view {
		if line.Name != "Knot" {
			continue
		}
		knot, err := r.service.Instrument(ctx, line.ID)
		require.NoError(t, err)
		for _, step := range knot.Pieces[0].Steps {
			if step.Title == "Level for gloss" {
				assert.Equal(t, time.Date(2026, 3, 2, 7, 0, 0, 0, time.UTC), step.Start.At)
				sheet, err := r.service.Sheet(ctx, step.StepID, 1)
				require.NoError(t, err)
				assert.Contains(t, sheet.Because, "Pinned to")
			}
		}
	}
}

func TestAColdShedWaitsForItsMonth(t *testing.T) {
	t.Parallel()
	r := imported(t, "evenings-in-a-garage.json")
	file, err := r.service.Export(ctx, nil)
	require.NoError(t, err)
	winter := file.Shop.Places[0].Versions[0]
	winter.Profile.Months = &[12]climate.Shift{{Temperature: -12}, {Temperature: -12}, {Temperature: -12}, {Temperature: -8}}
	file.Shop.Places[0].Versions = []settings.PlaceVersion{winter}
	cold := &room{t: t, store: pgtest.Store(t), now: time.Date(2026, 3, 10, 19, 30, 0, 0, time.UTC), person: r.person}
	cold.service, err = shop.New(cold.store, func() time.Time { return cold.now })
	require.NoError(t, err)
	_, err = cold.service.Import(ctx, file)
	require.NoError(t, err)
	tag := cold.advanceTo("Stint neck", "coat 1 of 2")
	sheet := cold.sheet(tag)
	assert.Equal(t, "not before May", sheet.Room.Text)
	assert.Contains(t, unit.Unmarked(sheet.Because), "colder than its 15 °C until")
	assert.Contains(t, sheet.When, "May", "and the plan waits for it")
}

func TestTheRailNamesItsMonths(t *testing.T) {
	t.Parallel()
	r := open(t)
	r.now = time.Date(2026, 4, 29, 9, 0, 0, 0, time.UTC)
	said := []string{}
	for _, tick := range r.rack().Axis {
		said = append(said, unit.Unmarked(tick.Label))
	}
	assert.Subset(t, said, []string{"Thu 30 Apr", "Fri 1 May", "Sat 2"}, "once, and where another begins")
	assert.Contains(t, string(unit.Notation{MonthFirst: true}.Localize([]byte(r.rack().Axis[5].Label))), "May 1")
}
