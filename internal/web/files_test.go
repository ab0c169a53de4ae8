package web_test

import (
	"encoding/json"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/formats"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
)

func reading(place uuid.UUID, temperature, humidity float64, at *time.Time) changes.NewReadings {
	return changes.NewReadings{ID: uuid.New(), Readings: []changes.NewReading{{PlaceID: place, Temperature: temperature, Humidity: humidity,
		At: at}}}
}

func TestReadingsAreKeptOrRefusedByField(t *testing.T) {
	t.Parallel()
	r := open(t)
	room, far := shop.PlaceID("room"), now.AddDate(2, 0, 0)
	var kept changes.ReadingsKept
	require.Equal(t, 201, r.post("/api/readings", reading(room, 17.5, 60, nil), &kept))
	assert.Equal(t, 1, kept.Kept)
	for name, test := range map[string]struct {
		body          any
		status        int
		where, accept string
	}{
		"no such place": {reading(uuid.New(), 18, 50, nil), 422, "body.readings[0].placeId", "a place of this shop"},
		"too hot":       {reading(room, 99, 50, nil), 422, "body.readings[0].temperatureC", "from −30 to 60 °C"},
		"no humidity":   {reading(room, 18, 0, nil), 422, "body.readings[0].humidityPct", "from 1 to 100 %"},
		"far ahead":     {reading(room, 18, 50, &far), 422, "body.readings[0].at", "within the next 60 days"},
		"none at all":   {changes.NewReadings{ID: uuid.New(), Readings: []changes.NewReading{}}, 422, "body.readings", "1"},
		"not JSON":      {`{"readings":`, 400, "body", "unexpected"},
		"words for digits": {`{"readings":[{"placeId":"` + room.String() + `","temperatureC":"warm","humidityPct":50}]}`, 422,
			"body.readings[0].temperatureC", "number"},
	} {
		t.Run(name, func(t *testing.T) {
			var p problem
			assert.Equal(t, test.status, r.post("/api/readings", test.body, &p))
			assert.Contains(t, p.at(test.where), test.accept)
		})
	}
	file := r.file()
	assert.Len(t, file.Shop.Readings, 1, "nothing that was refused was kept")
}

func TestATypedReadingSaysWhatWouldBeAccepted(t *testing.T) {
	t.Parallel()
	r := open(t)
	typed := changes.TypedReading{ID: uuid.New(), PlaceID: shop.PlaceID("room"), Temperature: "18,6 °C", Humidity: "52 %",
		PersonID: r.person}
	require.Equal(t, 201, r.post("/api/readings/typed", typed, nil))
	assert.Equal(t, "18,6 °C, 52 %", r.file().Shop.Readings[0].Entered, "what was entered is kept beside what it means")
	require.Equal(t, 201, r.post("/api/readings/typed", typed, nil), "after a lost answer")
	assert.Len(t, r.file().Shop.Readings, 1)
	typed.Humidity = "53 %"
	var taken problem
	require.Equal(t, 409, r.post("/api/readings/typed", typed, &taken), "something else under the same id")
	assert.Contains(t, taken.Detail, "an id of its own")
	typed.ID, typed.Temperature, typed.Humidity = uuid.New(), "warm", ""
	var p problem
	require.Equal(t, 422, r.post("/api/readings/typed", typed, &p))
	assert.Contains(t, p.at("body.temperature"), "write it like 18.6")
	assert.Contains(t, p.at("body.humidity"), "write it like 52")
	typed.Temperature, typed.Humidity, typed.PersonID = "18", "52", uuid.New()
	require.Equal(t, 422, r.post("/api/readings/typed", typed, &p))
	assert.Contains(t, p.at("body.personId"), "one of the people")
}

// file is the whole shop as it is given out.
func (r *room) file() *formats.File {
	r.t.Helper()
	request := httptest.NewRequest("GET", "/api/schedule-file", nil)
	request.Host = "localhost"
	response, err := r.answer(request)
	require.NoError(r.t, err)
	defer response.Body.Close()
	require.Equal(r.t, 200, response.StatusCode)
	assert.Contains(r.t, response.Header.Get("Content-Disposition"), "umberfrost-shop.json")
	file, err := formats.Read(response.Body)
	require.NoError(r.t, err)
	return file
}

func TestScheduleFilesGoOutAndIn(t *testing.T) {
	t.Parallel()
	r := open(t)
	file := r.file()
	require.Len(t, file.Instruments, 1)

	var p problem
	require.Equal(t, 409, r.post("/api/schedule-file", file, &p))
	assert.Contains(t, p.Detail, "an import never overwrites")

	other := serve(t, pgtest.Store(t))
	var done shop.Imported
	require.Equal(t, 201, other.post("/api/schedule-file", file, &done))
	assert.Equal(t, 1, done.Instruments)
	var lines []views.InstrumentLine
	require.Equal(t, 200, other.get("/api/instruments", &lines))
	assert.Len(t, lines, 2)

	data, err := json.Marshal(file)
	require.NoError(t, err)
	large := "{" + strings.Repeat(" ", 9<<20) + string(data[1:])
	require.Equal(t, 201, serve(t, pgtest.Store(t)).post("/api/schedule-file", large, &done),
		"a shop of many years is larger than any other body")

	assert.Equal(t, 200, r.get("/api/instruments/"+r.instrument.ID.String()+"/schedule-file", nil))
	assert.Equal(t, 404, r.get("/api/instruments/"+uuid.NewString()+"/schedule-file", &p))
	assert.Contains(t, p.Detail, "there is no instrument")
	assert.Equal(t, 422, r.get("/api/instruments/curlew/schedule-file", &p))
}

func TestABadScheduleFileIsRefusedByPlaceAndWhole(t *testing.T) {
	t.Parallel()
	r := open(t)
	var p problem
	require.Equal(t, 422, r.post("/api/schedule-file", `{"format":"umberfrost-schedule","version":1,"instruments":[]}`, &p))
	assert.Contains(t, p.at("/"), "shop")

	other := serve(t, pgtest.Store(t))
	file := r.file()
	file.Instruments[0].Pieces[0].Steps[0].HandsOnMin = -5
	require.Equal(t, 422, other.post("/api/schedule-file", file, &p))
	assert.Contains(t, p.at("/instruments/0/pieces/0/steps/0/handsOnMin"), "minimum")
	assert.Len(t, other.file().Instruments, 1)

	form := httptest.NewRequest("POST", "/api/schedule-file", strings.NewReader("{}"))
	form.Header.Set("Content-Type", "text/plain")
	_, status := r.do(form, &p)
	assert.Equal(t, 415, status, "another site's form is not taken")
}

func TestMovesTestsAndRoundsAreLogged(t *testing.T) {
	t.Parallel()
	r := open(t)
	dye := r.step("Dye the wood")
	entry := func(change func(*changes.Entry)) changes.Entry {
		e := r.entry("Dye the wood", 1)
		change(&e)
		return e
	}
	yes := true
	var logged changes.Logged
	require.Equal(t, 201, r.post("/api/log", entry(func(e *changes.Entry) { e.Kind, e.Milestone, e.Passed = "tested", "touch-dry", &yes }),
		&logged))
	assert.Contains(t, logged.Title, "Tested dry to touch")
	require.Equal(t, 201, r.post("/api/log", entry(func(e *changes.Entry) {
		e.Kind, e.StepID, e.Coat, e.PieceID, e.PlaceID = "moved", uuid.Nil, 0, r.instrument.Pieces[0].ID, shop.PlaceID("room")
	}), &logged))
	assert.Equal(t, "Curlew body carried to the room", logged.Title)

	var p problem
	require.Equal(t, 422, r.post("/api/log", entry(func(e *changes.Entry) { e.Kind = "tested" }), &p))
	assert.Contains(t, p.at("body.milestone"), "whether it passed")
	require.Equal(t, 422, r.post("/api/log", entry(func(e *changes.Entry) {
		e.Kind, e.PieceID, e.PlaceID, e.StepID, e.Coat = "moved", uuid.New(), uuid.New(), uuid.Nil, 0
	}), &p))
	assert.Contains(t, p.at("body.pieceId"), "a piece of an instrument")
	assert.Contains(t, p.at("body.placeId"), "a place of this shop")
	require.Equal(t, 422, r.post("/api/log", entry(func(e *changes.Entry) { e.Kind, e.StepID = "settled", dye.StepID }), &p))
	assert.Contains(t, p.at("body.kind"), "done in rounds")
	assert.Equal(t, "Carried to the room", r.logbook()[0].Title)
}

func TestEveryPathThatIsNoFileIsThePage(t *testing.T) {
	t.Parallel()
	r := open(t)
	for _, path := range []string{"/", "/rack", "/instruments/new"} {
		response, status := r.do(httptest.NewRequest("GET", path, nil), nil)
		assert.Equal(t, 200, status, path)
		assert.Contains(t, response.Header.Get("Content-Type"), "text/html")
		assert.Equal(t, "no-cache", response.Header.Get("Cache-Control"))
	}
}

func TestAssetsAreKeptForeverAndNeverReplacedByThePage(t *testing.T) {
	t.Parallel()
	r := open(t)
	response, status := r.do(httptest.NewRequest("GET", "/assets/a1.js", nil), nil)
	assert.Equal(t, 200, status)
	assert.Contains(t, response.Header.Get("Cache-Control"), "immutable")
	response, status = r.do(httptest.NewRequest("GET", "/assets/gone.js", nil), nil)
	assert.Equal(t, 404, status)
	assert.NotContains(t, response.Header.Get("Cache-Control"), "immutable")
}

// A recipe goes out as a file and comes in again; what cannot be accepted is said with its place.
func TestARecipeGoesOutAndIn(t *testing.T) {
	t.Parallel()
	r := open(t)
	stack := recipe.PieceWish{Kind: recipe.Body, Wood: "alder-red", Length: "480 mm", Width: "330 mm", Thickness: "45 mm"}.From("natural")
	id := uuid.New()
	var saved views.RecipeView
	require.Equal(t, 201, r.post("/api/recipes", changes.RecipeSaved{ID: id, Name: "Priel", Kind: recipe.OwnStack, Stack: &stack}, &saved))
	var p problem
	require.Equal(t, 422, r.post("/api/recipes", changes.RecipeSaved{ID: uuid.New(), Name: " ", Kind: recipe.OwnStack, Stack: &stack}, &p))
	assert.Contains(t, p.at("body.name"), "1 to 60")
	require.Equal(t, 422, r.post("/api/recipes", changes.RecipeSaved{ID: uuid.New(), Name: "x", Kind: recipe.OwnFragment}, &p))
	assert.Contains(t, p.at("body.instrumentId"), "of this shop")

	var file json.RawMessage
	answer, status := r.do(httptest.NewRequest("GET", "/api/recipes/"+id.String()+"/file", nil), &file)
	require.Equal(t, 200, status)
	assert.Contains(t, answer.Header.Get("Content-Disposition"), "umberfrost-recipe")
	require.Equal(t, 201, r.post("/api/recipe-file", string(file), &saved))
	assert.Equal(t, 1, saved.Version, "twice is once")
	require.Equal(t, 422, r.post("/api/recipe-file", strings.Replace(string(file), `"version": 1,`, `"version": 2,`, 1), &p))
	assert.Contains(t, p.at("/version"), "newer Umberfrost")
	require.Equal(t, 404, r.get("/api/recipes/"+uuid.NewString(), &p))
}
