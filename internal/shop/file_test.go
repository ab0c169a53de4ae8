package shop_test

import (
	"bytes"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/workshop"
	"umberfrost/internal/formats"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/shop/views"
)

// busy is a room with two jobs, a log of every kind, readings and a pin.
func busy(t *testing.T) (*room, views.InstrumentView) {
	r := open(t)
	view := r.keep(neck("Dunlin", "2026-06-01"))
	r.keep(neck("Knot", "2026-07-01"))
	r.log(view, "Tape the fretboard and the heel")
	r.now = r.now.Add(3 * time.Hour)
	r.log(view, "Sand the bare wood")
	steps := map[string]uuid.UUID{}
	for _, step := range view.Pieces[0].Steps {
		steps[step.Title] = step.StepID
	}
	r.now = r.now.Add(time.Hour)
	passed := true
	for _, entry := range []changes.Entry{
		{Kind: "skipped", StepID: steps["Raking light over the bare wood"], Coat: 1, Note: "looked at it while sanding"},
		{Kind: "note", InstrumentID: view.ID, Note: "a knot near the heel"},
		{Kind: "moved", PieceID: view.Pieces[0].ID, PlaceID: shop.PlaceID("room")},
		{Kind: "tested", StepID: steps["First coat of oil"], Coat: 1, Milestone: "touch-dry", Passed: &passed},
	} {
		r.seq++
		entry.ID, entry.PersonID, entry.DeviceID, entry.DeviceSeq = uuid.Must(uuid.NewV7()), r.person, uuid.NameSpaceURL, r.seq
		_, err := r.service.Log(ctx, entry)
		require.NoError(t, err, entry.Kind)
	}
	r.seq++
	logged, err := r.service.Instrument(ctx, view.ID)
	require.NoError(t, err)
	_, err = r.service.Log(ctx, changes.Entry{ID: uuid.Must(uuid.NewV7()), Kind: "void", Voids: logged.Log[0].ID, PersonID: r.person,
		DeviceID: uuid.NameSpaceURL, DeviceSeq: r.seq})
	require.NoError(t, err)
	at := r.now.Add(-2 * time.Hour)
	_, err = r.service.AddReadings(ctx, changes.NewReadings{Readings: []changes.NewReading{{PlaceID: shop.PlaceID("room"), At: &at,
		Temperature: 18.4, Humidity: 57}}})
	require.NoError(t, err)
	_, err = r.service.TypeReading(ctx, changes.TypedReading{PlaceID: shop.PlaceID("room"), Temperature: "65 °F", Humidity: "55 %",
		PersonID: r.person})
	require.NoError(t, err)
	r.decide(func(w *workshop.Workshop) {
		w.Pins = append(w.Pins, job.Pin{Event: job.Event{Step: steps["First coat of oil"], Coat: 1}, At: r.now.Add(48 * time.Hour),
			MadeAt: r.now,
			Person: &r.person})
	})
	return r, view
}

func written(t *testing.T, file *formats.File) string {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, formats.Write(&out, file))
	return out.String()
}

func TestAShopGoesOutAndComesBackWithoutLoss(t *testing.T) {
	t.Parallel()
	r, _ := busy(t)
	file, err := r.service.Export(ctx, nil)
	require.NoError(t, err)
	text := written(t, file)
	for _, part := range []string{`"skipped"`, `"moved"`, `"tested"`, `"void"`, `"65 °F, 55 %"`, `"pins"`, `"snapshots"`,
		`"a knot near the heel"`} {
		assert.Contains(t, text, part)
	}
	read, err := formats.Read(bytes.NewBufferString(text))
	require.NoError(t, err, "what goes out is what the published schema accepts")

	other := pgtest.Store(t)
	service, err := shop.New(other, func() time.Time { return r.now })
	require.NoError(t, err)
	done, err := service.Import(ctx, read)
	require.NoError(t, err)
	assert.Equal(t, shop.Imported{Instruments: 2, Entries: 7, Places: 1, Readings: 2, People: 1, Left: []string{}}, done)
	again, err := service.Export(ctx, nil)
	require.NoError(t, err)
	assert.Equal(t, text, written(t, again))

	before, err := r.service.Rack(ctx)
	require.NoError(t, err)
	after, err := service.Rack(ctx)
	require.NoError(t, err)
	assert.Equal(t, before, after, "the same dates")
}

func TestThePlanOfAFileIsThePlanOfTheShop(t *testing.T) {
	t.Parallel()
	r, view := busy(t)
	file, err := r.service.Export(ctx, nil)
	require.NoError(t, err)
	in, err := file.Input(r.now)
	require.NoError(t, err)
	plan, err := schedule.Retime(in)
	require.NoError(t, err)
	shown, err := r.service.Instrument(ctx, view.ID)
	require.NoError(t, err)
	for _, f := range plan.Forecasts {
		if f.Instrument == view.ID {
			assert.True(t, f.Finish.Equal(shown.Outlook.Finish.At))
		}
	}
}

func TestOneInstrumentMovesToAnotherShop(t *testing.T) {
	t.Parallel()
	r, view := busy(t)
	file, err := r.service.Export(ctx, &view.ID)
	require.NoError(t, err)
	require.Len(t, file.Instruments, 1)

	_, err = r.service.Import(ctx, file)
	var taken *refuse.Taken
	require.ErrorAs(t, err, &taken, "it is there already, and an import never overwrites")

	other := open(t)
	other.now = r.now
	other.keep(neck("Ruff", "2026-06-01"))
	done, err := other.service.Import(ctx, file)
	require.NoError(t, err)
	assert.Equal(t, 1, done.Instruments)
	lines, err := other.service.Instruments(ctx)
	require.NoError(t, err)
	assert.Len(t, lines, 2)
	moved, err := other.service.Instrument(ctx, view.ID)
	require.NoError(t, err)
	assert.Len(t, moved.Log, 7)

	_, err = r.service.Export(ctx, ptr(uuid.New()))
	assert.ErrorIs(t, err, refuse.ErrNotFound)
}

func ptr[T any](v T) *T { return &v }

func TestReadingsMoveDatesAndBadOnesAreRefusedWhole(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(neck("Dunlin", "2026-06-01"))
	before := view.Outlook.Finish.At
	var cold changes.NewReadings
	for h := range 24 * 20 {
		cold.Readings = append(cold.Readings, changes.NewReading{PlaceID: shop.PlaceID("room"),
			At: ptr(r.now.Add(time.Duration(h) * time.Hour)), Temperature: 15.2, Humidity: 50})
	}
	kept, err := r.service.AddReadings(ctx, cold)
	require.NoError(t, err)
	assert.Equal(t, 480, kept.Kept)
	require.Len(t, kept.Moved, 1)
	view, err = r.service.Instrument(ctx, view.ID)
	require.NoError(t, err)
	assert.True(t, view.Outlook.Finish.At.After(before), "a cold forecast delays it")

	bad := changes.NewReadings{Readings: []changes.NewReading{cold.Readings[0],
		{PlaceID: uuid.New(), Temperature: 200, Humidity: 0, At: ptr(r.now.AddDate(1, 0, 0))}}}
	_, err = r.service.AddReadings(ctx, bad)
	var invalid *refuse.Invalid
	require.ErrorAs(t, err, &invalid)
	for _, path := range []string{"readings[1].placeId", "readings[1].at", "readings[1].temperatureC", "readings[1].humidityPct"} {
		assert.ErrorContains(t, err, path)
	}
	_, err = r.service.TypeReading(ctx, changes.TypedReading{PlaceID: shop.PlaceID("room"), Temperature: "warm", Humidity: "damp",
		PersonID: r.person})
	assert.ErrorContains(t, err, "write it like 18.6")
	assert.ErrorContains(t, err, "write it like 52")
}

func TestARoomNowSaysWhatMayBePutOn(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(neck("Dunlin", "2026-06-01"))
	for _, title := range []string{"Tape the fretboard and the heel", "Sand the bare wood", "Raking light over the bare wood",
		"Joint fitted dry, tuner holes drilled", "Wet the grain", "Cut the raised grain back"} {
		r.now = r.now.Add(2 * time.Hour)
		r.log(view, title)
	}
	r.now = r.now.Add(15 * time.Hour)
	rack, err := r.service.Rack(ctx)
	require.NoError(t, err)
	require.Len(t, rack.Room.Places, 1)
	assert.Equal(t, "20 °C", unit.Unmarked(rack.Room.Places[0].Temperature))
	assert.False(t, rack.Room.Places[0].Read)
	require.Len(t, rack.Room.Verdicts, 1)
	assert.Equal(t, "go", rack.Room.Verdicts[0].Verdict)

	_, err = r.service.TypeReading(ctx, changes.TypedReading{PlaceID: shop.PlaceID("room"), Temperature: "11", Humidity: "60",
		PersonID: r.person})
	require.NoError(t, err)
	rack, err = r.service.Rack(ctx)
	require.NoError(t, err)
	assert.Equal(t, "read now", rack.Room.Places[0].Source)
	assert.Equal(t, "wait", rack.Room.Verdicts[0].Verdict)
	assert.Contains(t, unit.Unmarked(rack.Room.Verdicts[0].Reason), "11 °C is colder than its 15 °C")
}

func TestWhatAShopCannotKeepIsRefusedByPlace(t *testing.T) {
	t.Parallel()
	r, _ := busy(t)
	file, err := r.service.Export(ctx, nil)
	require.NoError(t, err)
	other := open(t)
	in := &file.Instruments[0]
	in.Outline = "harp"
	in.Pieces[0].Kind, in.Pieces[0].Regions[0].AreaM2, in.Pieces[0].Regions[1].Name = "case", 0, in.Pieces[0].Regions[0].Name
	in.Pieces[0].Steps[1].Slot = in.Pieces[0].Steps[0].Slot
	_, err = other.service.Import(ctx, file)
	for _, path := range []string{"instruments[0].outline", "pieces[0].kind", "regions[0].areaM2", "regions[1].name", "steps[1].slot"} {
		assert.ErrorContains(t, err, path)
	}
	lines, err := other.service.Instruments(ctx)
	require.NoError(t, err)
	assert.Empty(t, lines, "nothing was half kept")
}

func TestANameThatIsTakenIsSaid(t *testing.T) {
	t.Parallel()
	r, view := busy(t)
	file, err := r.service.Export(ctx, &view.ID)
	require.NoError(t, err)
	file.Shop.People[0].ID = uuid.New() // another Mara
	for i := range file.Log {
		file.Log[i].Person = file.Shop.People[0].ID
	}
	other := open(t)
	_, err = other.service.Import(ctx, file)
	var taken *refuse.Taken
	require.ErrorAs(t, err, &taken)
	assert.Contains(t, taken.Message, `people: "Mara"`)
	places, err := other.service.Export(ctx, nil)
	require.NoError(t, err)
	assert.Empty(t, places.Instruments, "all or nothing")
}

// A file of any size goes out and comes back line by line: the same bytes as in one piece.
func TestAFileOfAnySizeIsTheSameFile(t *testing.T) {
	t.Parallel()
	r, _ := busy(t)
	whole := r.exported()
	var streamed bytes.Buffer
	require.NoError(t, r.service.ExportTo(ctx, &streamed))
	assert.Equal(t, whole, streamed.String())
	stream, err := formats.ReadStream(ctx, strings.NewReader(whole), int64(len(whole)))
	require.NoError(t, err)
	other := r.blank()
	done, err := other.service.ImportStream(ctx, stream)
	require.NoError(t, err)
	assert.Equal(t, 7, done.Entries)
	assert.Equal(t, whole, other.exported())

	empty := open(t)
	streamed.Reset()
	require.NoError(t, empty.service.ExportTo(ctx, &streamed))
	assert.Equal(t, empty.exported(), streamed.String())

	broken := strings.Replace(whole, `"kind": "moved"`, `"kind": "carried"`, 1)
	stream, err = formats.ReadStream(ctx, strings.NewReader(broken), int64(len(broken)))
	require.NoError(t, err, "its head is sound")
	third := r.blank()
	_, err = third.service.ImportStream(ctx, stream)
	require.ErrorContains(t, err, "/log/")
	assert.ErrorContains(t, err, "/kind")
	_, err = third.service.Rack(ctx)
	assert.ErrorIs(t, err, snapshot.ErrNotBegun, "all of it is kept, or nothing")
}
