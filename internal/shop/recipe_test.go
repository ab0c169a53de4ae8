package shop_test

import (
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/views"
)

func glossBody(name string) changes.NewInstrument {
	return changes.NewInstrument{ID: uuid.New(), Name: name, Outline: "slab", Promise: "2026-09-01",
		Wish: recipe.Wish{Standard: "gift", Pieces: []recipe.PieceWish{
			recipe.PieceWish{Kind: recipe.Body, Wood: "ash-swamp", Length: "480 mm", Width: "330 mm",
				Thickness: "44 mm"}.From("one-colour").Ending("water-clear", "gloss")}}}
}

func titles(view views.InstrumentView, piece int) []string {
	var list []string
	for _, s := range view.Pieces[piece].Steps {
		list = append(list, s.Title)
	}
	return list
}

func (r *room) view(id uuid.UUID) views.InstrumentView {
	r.t.Helper()
	view, err := r.service.Instrument(ctx, id)
	require.NoError(r.t, err)
	return view
}

func TestSchoolsAreComparedByWhatTheyComeToHere(t *testing.T) {
	t.Parallel()
	r := open(t)
	in := glossBody("Avocet")
	forecast, err := r.service.Forecast(ctx, in)
	require.NoError(t, err)
	at := slices.IndexFunc(forecast.Choices, func(c views.ChoiceView) bool { return c.Topic == "pores" })
	require.GreaterOrEqual(t, at, 0)
	assert.Equal(t, "full", forecast.Choices[at].Chosen)
	assert.True(t, forecast.Choices[at].Usual)

	ways, err := r.service.Schools(ctx, views.SchoolsAsked{Instrument: in, Topic: "pores", Piece: "body"})
	require.NoError(t, err)
	full, open := ways.Ways[0], ways.Ways[1]
	assert.True(t, full.Chosen)
	assert.Equal(t, "the same day", full.Days)
	assert.Less(t, open.Coats, full.Coats)
	assert.Equal(t, open.Coats-full.Coats, open.MoreCoat)
	assert.NotContains(t, open.Days, "later", "nothing waits for a filler")
	assert.Contains(t, open.Hands, "less")
	assert.Less(t, open.Redo, full.Redo, "fewer coats, fewer things to go wrong")
	assert.Contains(t, open.Spares, "Fill the pores")
	assert.NotNil(t, open.Row)

	in.Wish = open.Wish
	chosen, err := r.service.Forecast(ctx, in)
	require.NoError(t, err)
	assert.Equal(t, open.Coats, chosen.Coats, "what was shown is what is had")

	_, err = r.service.Schools(ctx, views.SchoolsAsked{Instrument: in, Topic: "burst", Piece: "body"})
	assert.ErrorContains(t, err, "does not stand open")
}

func TestAnObjectionIsMendedWithItsEffectShownFirst(t *testing.T) {
	t.Parallel()
	r := open(t)
	pale := glossBody("Knot")
	pale.Wish.Pieces[0] = pale.Wish.Pieces[0].From("natural") // no barrier lies over its filler
	view := r.keep(pale)
	assert.Empty(t, view.Objections)
	seal := view.Pieces[0].Steps[slices.Index(titles(view, 0), "Fill the pores")]
	_, err := r.keepChanges(changes.Change{Kind: "material", StepID: seal.StepID, Material: "oil-filler"})
	require.NoError(t, err)
	view = r.view(view.ID)
	require.Len(t, view.Objections, 1)
	o := view.Objections[0]
	assert.True(t, o.Spoils)
	assert.Contains(t, o.Mend, "dewaxed shellac")

	mend := changes.Change{Kind: "mend", InstrumentID: view.ID, Rule: o.Rule, StepID: o.StepID}
	asked, err := r.service.WhatIf(ctx, changes.Changes{Changes: []changes.Change{mend}})
	require.NoError(t, err)
	assert.Len(t, r.view(view.ID).Objections, 1, "asking keeps nothing")
	assert.NotEmpty(t, asked.Changes)

	_, err = r.keepChanges(mend)
	require.NoError(t, err)
	after := r.view(view.ID)
	assert.Empty(t, after.Objections)
	barrier := slices.Index(titles(after, 0), "Barrier of dewaxed shellac sealer")
	last := slices.Index(titles(after, 0), "Seal")
	require.GreaterOrEqual(t, barrier, 0, "%v", titles(after, 0))
	assert.Greater(t, last, barrier)
	_, err = r.keepChanges(mend)
	assert.ErrorContains(t, err, "no such objection")
}

func TestACoatOverWhatItDoesNotGoOverIsLoggedOnPurposeOnly(t *testing.T) {
	t.Parallel()
	r := open(t)
	in := glossBody("Ruff")
	in.Wish.Pieces[0].Wood = "alder-red"
	in.Wish.Pieces[0] = in.Wish.Pieces[0].From("natural").Ending("nitro", "")
	view := r.keep(in)
	at := slices.Index(titles(view, 0), "Clear, to the end")
	last := view.Pieces[0].Steps[at]
	_, err := r.keepChanges(changes.Change{Kind: "material", StepID: last.StepID, Material: "urethane-2k"})
	require.NoError(t, err)
	for _, step := range view.Pieces[0].Steps[:at] {
		for coat := 1; coat <= step.Coats; coat++ {
			r.now = r.now.AddDate(0, 0, 20)
			_, err := r.service.Log(ctx, r.entry(step.StepID, coat))
			require.NoError(t, err, step.Title)
		}
	}
	r.now = r.now.AddDate(0, 0, 90)
	sheet, err := r.service.Sheet(ctx, last.StepID, 1)
	require.NoError(t, err)
	require.NotEmpty(t, sheet.Over)
	assert.Equal(t, "no", sheet.Over[0].Answer)

	entry := r.entry(last.StepID, 1)
	var doubtful *refuse.Doubtful
	_, err = r.service.Log(ctx, entry)
	require.ErrorAs(t, err, &doubtful)
	assert.Equal(t, "on-purpose", doubtful.Doubts[0].Code)
	entry.Confirm = []string{"on-purpose"}
	_, err = r.service.Log(ctx, entry)
	require.ErrorAs(t, err, &doubtful, "a tap is no reason")
	entry.Note = "a test board for the two-part maker"
	logged, err := r.service.Log(ctx, entry)
	require.NoError(t, err)
	assert.Contains(t, logged.Flags, "on-purpose")
}

func (r *room) entry(step uuid.UUID, coat int) changes.Entry {
	r.seq++
	return changes.Entry{ID: uuid.Must(uuid.NewV7()), Kind: job.Done, StepID: step, Coat: coat, PersonID: r.person,
		DeviceID: uuid.NameSpaceURL, DeviceSeq: r.seq}
}

func TestComposingAgainKeepsWhatIsLoggedAndChangesTheRest(t *testing.T) {
	t.Parallel()
	r := open(t)
	in := glossBody("Curlew")
	view := r.keep(in)
	r.now = r.now.Add(3 * time.Hour)
	_, err := r.service.Log(ctx, r.entry(view.Pieces[0].Steps[0].StepID, 1))
	require.NoError(t, err)
	colour := view.Pieces[0].Steps[slices.Index(titles(view, 0), "Dye the wood")]
	_, err = r.keepChanges(changes.Change{Kind: "coats", StepID: colour.StepID, Coats: 1})
	require.NoError(t, err)

	other := in.Wish
	other.Pieces = slices.Clone(in.Wish.Pieces)
	other.Pieces[0] = other.Pieces[0].Ending("nitro", "satin")
	other.Pieces = append(other.Pieces, recipe.PieceWish{Kind: recipe.Neck, Wood: "maple-hard", Length: "650 mm", Width: "51 mm"})
	other.Frets = "mirror"
	_, err = r.keepChanges(changes.Change{Kind: "wish", InstrumentID: view.ID, Wish: &other})
	require.NoError(t, err)
	after := r.view(view.ID)
	assert.Equal(t, 1, after.Pieces[0].Steps[0].Done, "what is logged stays")
	assert.Equal(t, 3, after.Pieces[0].Steps[slices.Index(titles(after, 0), "Dye the wood")].Coats, "what was changed by hand stays")
	assert.Contains(t, titles(after, 0), "Rub to satin")
	assert.NotContains(t, titles(after, 0), "Buff")
	var kinds []string
	for _, p := range after.Pieces {
		kinds = append(kinds, string(p.Kind))
	}
	assert.Equal(t, []string{"body", "neck", "frets", "whole"}, kinds)
	layers := after.Wish.Pieces[0].Layers
	assert.Equal(t, "nitro", layers[len(layers)-1].Family)
	assert.NotNil(t, after.Outlook.Finish)

	bad := other
	bad.Frets = ""
	bad.Pieces = []recipe.PieceWish{recipe.PieceWish{Kind: recipe.Body, Wood: "aluminium", Length: "480", Width: "330",
		Thickness: "44"}.Ending("hardwax-oil", "satin")}
	_, err = r.keepChanges(changes.Change{Kind: "wish", InstrumentID: view.ID, Wish: &bad})
	assert.ErrorContains(t, err, "takes up no oil")
}

func TestTheRoomRulesFamiliesOutAndSaysUntilWhen(t *testing.T) {
	t.Parallel()
	r := open(t)
	room := func(id string) string {
		reference, err := r.service.Reference(ctx)
		require.NoError(t, err)
		for _, c := range reference.Clears {
			if c.ID == id {
				return c.Room
			}
		}
		return "there is no such clear"
	}
	assert.Empty(t, room("water-clear"), "one warm room, and water harms nobody's breath")
	assert.Contains(t, room("nitro"), "no booth here")
	assert.Empty(t, room("hardwax-oil"))

	_, err := r.keepChanges(changes.Change{Kind: "warmer", Degrees: -9})
	require.NoError(t, err)
	assert.Contains(t, unit.Unmarked(room("water-clear")), "not in this room: 11 °C is colder than its 16 °C")
	assert.Contains(t, unit.Unmarked(room("hardwax-oil")), "colder than its 15 °C")
}

func TestComposingAgainDropsWholePiecesButNothingTheLogSpeaksOf(t *testing.T) {
	t.Parallel()
	r := open(t)
	in := glossBody("Curlew")
	in.Wish.Pieces = append(in.Wish.Pieces, neck("", "").Wish.Pieces[0])
	in.Wish.Frets, in.Wish.Cavities = "mirror", "paint"
	view := r.keep(in)
	dye := slices.Index(titles(view, 0), "Dye the wood")
	for _, step := range view.Pieces[0].Steps[:dye+1] {
		r.now = r.now.Add(5 * time.Hour)
		_, err := r.service.Log(ctx, r.entry(step.StepID, 1))
		require.NoError(t, err, step.Title)
	}
	strike := r.entry(uuid.Nil, 0) // the dye was logged by mistake
	strike.Kind, strike.Voids = job.Void, r.view(view.ID).Log[0].ID
	_, err := r.service.Log(ctx, strike)
	require.NoError(t, err)

	plain := in.Wish
	plain.Pieces = []recipe.PieceWish{in.Wish.Pieces[0]}
	plain.Pieces[0], plain.Frets, plain.Cavities = plain.Pieces[0].From("natural"), "", ""
	asked, err := r.service.WhatIf(ctx, changes.Changes{Changes: []changes.Change{{Kind: "wish", InstrumentID: view.ID, Wish: &plain}}})
	require.NoError(t, err)
	_, err = r.keepChanges(changes.Change{Kind: "wish", InstrumentID: view.ID, Wish: &plain})
	require.NoError(t, err)
	after := r.view(view.ID)
	require.Len(t, after.Pieces, 1, "neck, frets, cavity and whole are gone")
	assert.Contains(t, titles(after, 0), "Dye the wood", "its struck entry stays in the log, and the step with it")
	assert.NotContains(t, titles(after, 0), "Colour test on scrap again")
	assert.Len(t, after.Log, dye+2)
	for _, e := range asked.Effects {
		assert.Equal(t, e.After, after.Outlook.FinishDay, "what is kept is what was asked")
	}
}

func TestAPieceThatWasCarriedSurvivesComposingAgain(t *testing.T) {
	t.Parallel()
	r := open(t)
	in := glossBody("Ruff")
	in.Wish.Pieces = append(in.Wish.Pieces, neck("", "").Wish.Pieces[0])
	view := r.keep(in)
	carried := r.entry(uuid.Nil, 0)
	carried.Kind, carried.PieceID, carried.PlaceID = job.Moved, view.Pieces[1].ID, shop.PlaceID("room")
	_, err := r.service.Log(ctx, carried)
	require.NoError(t, err)
	alone := in.Wish
	alone.Pieces = in.Wish.Pieces[:1]
	_, err = r.keepChanges(changes.Change{Kind: "wish", InstrumentID: view.ID, Wish: &alone})
	require.NoError(t, err)
	after := r.view(view.ID)
	assert.NotNil(t, after.Outlook.Finish, "it is still planned")
	assert.Len(t, after.Log, 1)
	_, err = r.keepChanges(changes.Change{Kind: "wish", InstrumentID: view.ID, Wish: &in.Wish})
	require.NoError(t, err, "and the neck comes back")
	assert.Contains(t, titles(r.view(view.ID), 1), "First coat of oil")
}

func TestTwoWhoComposeAgainDoNotOverwriteOneAnother(t *testing.T) {
	t.Parallel()
	r := open(t)
	in := glossBody("Knot")
	view := r.keep(in)
	wished := func(sheen string) changes.Change {
		w := in.Wish
		w.Pieces = slices.Clone(in.Wish.Pieces)
		w.Pieces[0] = w.Pieces[0].Ending("", sheen)
		return changes.Change{Kind: "wish", InstrumentID: view.ID, Wish: &w, Version: view.Version}
	}
	_, err := r.keepChanges(wished("satin"))
	require.NoError(t, err)
	_, err = r.keepChanges(wished("matte"))
	var taken *refuse.Taken
	require.ErrorAs(t, err, &taken)
	after := r.view(view.ID)
	layers := after.Wish.Pieces[0].Layers
	assert.Equal(t, "satin", layers[len(layers)-1].Sheen)
	assert.Greater(t, after.Version, view.Version)
}

func TestMaterialsAreChosenByRole(t *testing.T) {
	t.Parallel()
	r := open(t)
	gloss, err := r.service.AddProduct(ctx, "Ebb Gloss", "water-clear", `{}`)
	require.NoError(t, err)
	in := glossBody("Dunlin")
	forecast, err := r.service.Forecast(ctx, in)
	require.NoError(t, err)
	at := slices.IndexFunc(forecast.Roles, func(role views.RoleView) bool { return role.ID == "body:clear" })
	require.GreaterOrEqual(t, at, 0)
	assert.Equal(t, "Ebb Gloss", forecast.Roles[at].Products[0].Name)

	in.Materials = map[string]uuid.UUID{"body:clear": gloss, "body:toner": gloss} // nothing takes a toner here: not an error
	view := r.keep(in)
	last := view.Pieces[0].Steps[slices.Index(titles(view, 0), "Clear, to the end")]
	assert.Contains(t, last.About, "Ebb Gloss")
	for name, materials := range map[string]map[string]uuid.UUID{
		"another family": {"body:colour": gloss}, "no such product": {"body:clear": uuid.New()}, "no such role": {"body:glitter": gloss},
	} {
		in.ID, in.Materials = uuid.New(), materials
		_, err := r.service.Keep(ctx, in)
		assert.Error(t, err, name)
	}
}

func TestSerialDayOfShowingAndArrivalsAreKept(t *testing.T) {
	t.Parallel()
	r := open(t)
	in := glossBody("Avocet")
	in.Serial, in.Show = "  SR 26-041 ", "2026-08-20"
	in.Wish.Arrivals = []recipe.Arrival{{What: "tuners", Expected: calendar.Day{Year: 2026, Month: 4, Date: 20}, SpreadDays: 3}}
	view := r.keep(in)
	assert.Equal(t, "SR 26-041", view.Serial)
	require.NotNil(t, view.Show)
	assert.Equal(t, "2026-08-20", view.Show.Date)
	at := slices.Index(titles(view, 0), "Tuners must be here")
	require.GreaterOrEqual(t, at, 0)
	drill, err := r.service.Sheet(ctx, view.Pieces[0].Steps[at+1].StepID, 1)
	require.NoError(t, err)
	assert.True(t, drill.Start.At.After(time.Date(2026, 4, 19, 23, 0, 0, 0, time.UTC)), "the drilling waits for them")
}

func TestTheRailShowsWhatCanBeTakenUp(t *testing.T) {
	t.Parallel()
	r := open(t)
	in := neck("Whimbrel", "2029-02-01")
	in.Wish.Board, in.Wish.Frets = &recipe.BoardWish{Wood: "ebony-gaboon", Finish: "drying-oil"}, "mirror"
	view := r.keep(in)
	hung := func() (kinds []string) {
		rack, err := r.service.Rack(ctx)
		require.NoError(t, err)
		for _, tag := range rack.Tags {
			kinds = append(kinds, string(tag.Piece))
		}
		return kinds
	}
	assert.Equal(t, []string{"neck"}, hung(), "a board is part of its neck until that is done")
	for i, then := range []string{"fretboard", "frets"} {
		for _, step := range view.Pieces[i].Steps {
			for coat := 1; coat <= step.Coats; coat++ {
				r.now = r.now.AddDate(0, 0, 25)
				_, err := r.service.Log(ctx, r.entry(step.StepID, coat))
				require.NoError(t, err, step.Title)
			}
		}
		assert.Equal(t, []string{then}, hung())
	}
}

// A region that is split while work goes on hands its log to both parts: what was done stays done, and
// may be struck and logged again.
func TestARegionIsSplitWhileWorkGoesOn(t *testing.T) {
	t.Parallel()
	r := open(t)
	in := glossBody("Curlew")
	view := r.keep(in)
	dye := slices.Index(titles(view, 0), "Dye the wood")
	for _, step := range view.Pieces[0].Steps[:dye+1] {
		r.now = r.now.Add(5 * time.Hour)
		for coat := 1; coat <= step.Coats; coat++ {
			_, err := r.service.Log(ctx, r.entry(step.StepID, coat))
			require.NoError(t, err, step.Title)
			r.now = r.now.Add(3 * time.Hour)
		}
	}
	split := r.view(view.ID).Wish
	split.Pieces[0].Regions = append(split.Pieces[0].Regions, recipe.RegionWish{Name: "Streifen", Kind: "strips", Count: 3, Width: "20 mm"})
	_, err := r.keepChanges(changes.Change{Kind: "wish", InstrumentID: view.ID, Wish: split, Version: r.view(view.ID).Version})
	require.NoError(t, err)
	after := r.view(view.ID)
	require.Len(t, after.Pieces[0].Regions, 4)
	for _, step := range after.Pieces[0].Steps[:dye+1] {
		assert.Equal(t, step.Coats, step.Done, step.Title)
	}
	assert.Empty(t, after.Objections)
	strike := r.entry(uuid.Nil, 0)
	strike.Kind, strike.Voids = job.Void, after.Log[0].ID
	_, err = r.service.Log(ctx, strike)
	require.NoError(t, err)
	last := r.view(view.ID).Pieces[0].Steps[dye]
	assert.Equal(t, last.Coats-1, last.Done)
	_, err = r.service.Log(ctx, r.entry(last.StepID, last.Coats))
	require.NoError(t, err)
	assert.Equal(t, last.Coats, r.view(view.ID).Pieces[0].Steps[dye].Done)
}
