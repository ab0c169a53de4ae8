package formats

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
)

const examples = "../../docs/formats/examples"

func example(t testing.TB, name string) *File {
	t.Helper()
	from, err := os.Open(filepath.Join(examples, name))
	require.NoError(t, err)
	defer from.Close()
	file, err := Read(from)
	require.NoError(t, err)
	return file
}

func planOf(t *testing.T, file *File) (*schedule.Plan, schedule.Input) {
	t.Helper()
	in, err := file.Input(*file.Now)
	require.NoError(t, err)
	plan, err := schedule.Retime(in)
	require.NoError(t, err)
	return plan, in
}

func TestEveryExampleIsReadAndPlanned(t *testing.T) {
	names, err := filepath.Glob(examples + "/*.json")
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(names), 2)
	for _, name := range names {
		plan, in := planOf(t, example(t, filepath.Base(name)))
		for _, f := range plan.Forecasts {
			assert.Empty(t, f.Impossible, name)
		}
		assert.NotEmpty(t, in.Instruments, name)
	}
}

func TestTheGarageWaitsForTheHeater(t *testing.T) {
	plan, _ := planOf(t, example(t, "evenings-in-a-garage.json"))
	causes := map[schedule.Cause]bool{}
	for _, e := range plan.Events {
		causes[e.Because.Cause] = true
	}
	assert.True(t, causes[schedule.Unfit], "a cold evening holds a coat")
	assert.True(t, plan.Events[0].Done, "the log says so")
}

func TestTheRoomSharesABooth(t *testing.T) {
	plan, in := planOf(t, example(t, "two-people-and-a-booth.json"))
	seen := map[string]bool{}
	for _, e := range plan.Events {
		seen[string(e.Because.Cause)] = true
		seen["scuff"] = seen["scuff"] || e.ScuffFirst
		seen["pinned"] = seen["pinned"] || e.Pinned
	}
	for _, want := range []string{"full", "shared-mix", "dust", "cure", "scuff", "pinned"} {
		assert.True(t, seen[want], want)
	}
	assert.False(t, plan.Forecasts[0].Show.IsZero())
	assert.EqualValues(t, 10*24, hours(in, "Harbour Clear"), "the product's sheet beats its family")
}

func hours(in schedule.Input, product string) float64 {
	for _, instrument := range in.Instruments {
		for _, piece := range instrument.Pieces {
			for _, step := range piece.Steps {
				if step.Material != nil && step.Material.Name == product {
					limit, _ := step.Material.Limit(material.Buff)
					h, _ := limit.Hours()
					return h
				}
			}
		}
	}
	return 0
}

func TestAFileComesBackAsItWas(t *testing.T) {
	for _, name := range []string{"evenings-in-a-garage.json", "two-people-and-a-booth.json"} {
		file := example(t, name)
		var first, second bytes.Buffer
		require.NoError(t, Write(&first, file))
		again, err := Read(bytes.NewReader(first.Bytes()))
		require.NoError(t, err)
		require.NoError(t, Write(&second, again))
		assert.True(t, bytes.Equal(first.Bytes(), second.Bytes()), name)
		assert.Equal(t, len(file.Instruments[0].Pieces[0].Steps), len(again.Instruments[0].Pieces[0].Steps))
	}
}

// Files of version 1, kept as they were written then.
func TestVersion1IsReadAsTheLatest(t *testing.T) {
	for _, name := range []string{"evenings-in-a-garage.json", "two-people-and-a-booth.json"} {
		data, err := os.ReadFile(filepath.Join("testdata/schedule-1", name))
		require.NoError(t, err)
		old, err := Read(bytes.NewReader(data))
		require.NoError(t, err)
		var was, is bytes.Buffer
		require.NoError(t, Write(&was, old))
		require.NoError(t, Write(&is, example(t, name)))
		assert.JSONEq(t, is.String(), was.String(), name)
	}
	data, err := os.ReadFile("testdata/schedule-1/gruenschenkel.json")
	require.NoError(t, err)
	file, err := Read(bytes.NewReader(data))
	require.NoError(t, err)
	body := file.Instruments[0].Pieces[0]
	assert.Equal(t, "Grünschenkel", file.Instruments[0].Name)
	require.NotEmpty(t, body.Regions)
	assert.Equal(t, "top", body.Regions[0].Name)
	for _, step := range body.Steps {
		assert.NotEmpty(t, step.Regions, step.Title)
	}
	wished := file.Instruments[0].Wish.Pieces[0]
	assert.Equal(t, []recipe.RegionWish{{Name: "top", Wood: "maple-hard"}, {Name: "back", Sheen: "satin"}}, wished.Regions)
	for _, l := range wished.Layers {
		if l.Effect == recipe.EffectColour {
			assert.Equal(t, []string{"top", "sides"}, l.Regions, "the back was plain")
		}
	}
	_, err = Read(strings.NewReader(strings.Replace(string(data), `"version": 1`, `"version": 2`, 1)))
	assert.ErrorContains(t, err, "zones", "version 2 has another word for them")
}

// changed is an example with one thing replaced in its text.
func changed(t *testing.T, old, new string) string {
	t.Helper()
	data, err := os.ReadFile(filepath.Join(examples, "evenings-in-a-garage.json"))
	require.NoError(t, err)
	require.Contains(t, string(data), old)
	return strings.Replace(string(data), old, new, 1)
}

func TestWhatCannotBeAcceptedIsSaidWithItsPlace(t *testing.T) {
	for name, test := range map[string]struct{ text, path, message string }{
		"not JSON":        {"{", "", "it is not JSON"},
		"another format":  {changed(t, `"umberfrost-schedule"`, `"something-else"`), "/format", "umberfrost-schedule"},
		"a later version": {changed(t, `"version": 3`, `"version": 9`), "/version", "4"},
		"no such kind":    {changed(t, `"kind": "mask-on"`, `"kind": "varnish"`), "/instruments/0/pieces/0/steps/0/kind", "mask-on"},
		"no such family": {changed(t, `"family": "hardwax-oil"`, `"family": "treacle"`), "/instruments/0/pieces/0/steps/2/family",
			"treacle"},
		"no such wood": {changed(t, `"wood": "maple-hard"`, `"wood": "driftwood"`), "/instruments/0/pieces/0/regions/0/wood",
			"driftwood"},
		"a hot room": {changed(t, `"temperatureC": 11`, `"temperatureC": 200`),
			"/shop/places/0/versions/0/profile/knots/0/temperatureC", "60"},
		"an unknown field": {changed(t, `"margin": 1.25`, `"margin": 1.25, "mood": "good"`), "/shop/settings/0", "mood"},
		"no such zone":     {changed(t, `"timeZone": "Europe/Dublin"`, `"timeZone": "Atlantis"`), "/shop/settings/0/timeZone", "IANA"},
		"a step too long":  {changed(t, `"handsOnMin": 150`, `"handsOnMin": 15000`), "/instruments/0/pieces/0/steps/1/handsOnMin", "1,440"},
		"a negative time":  {changed(t, `"handsOnMin": 150`, `"handsOnMin": -1`), "/instruments/0/pieces/0/steps/1/handsOnMin", "0"},
		"not a day":        {changed(t, `"promise": "2026-04-20"`, `"promise": "soon"`), "/instruments/0/promise", "date"},
		"an odd set-up":    {changed(t, `"setUpMin": 6`, `"setUpMin": 60`), "/instruments/0", "not part of its 14 minutes"},
		"overlapping":      {changed(t, `"open": 1140,`, `"open": 1300,`), "", ""},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := Read(strings.NewReader(test.text))
			if test.message == "" {
				assert.NoError(t, err) // still a stretch within the day
				return
			}
			var wrong *Invalid
			require.ErrorAs(t, err, &wrong)
			assert.Equal(t, test.path, wrong.Faults[0].Path)
			assert.Contains(t, err.Error(), test.message)
		})
	}
}

func TestIdsMustNameSomething(t *testing.T) {
	file := example(t, "two-people-and-a-booth.json")
	file.Order = append(file.Order, job.Event{Step: uuid.New(), Coat: 1})
	file.Log = append(file.Log, job.Entry{ID: file.Instruments[0].ID, Kind: job.Tested, Instrument: uuid.New(), HappenedAt: *file.Now})
	file.Shop.Readings[0].Place = uuid.New()
	var out bytes.Buffer
	require.NoError(t, Write(&out, file))
	_, err := Read(&out)
	for _, want := range []string{"/order/0/step", "/log/0/id", "/log/0/instrument", "/log/0/milestone", "/log/0/step",
		"/shop/readings/0/place"} {
		assert.ErrorContains(t, err, want)
	}
}

func TestTheLogIsFolded(t *testing.T) {
	file := example(t, "evenings-in-a-garage.json")
	steps := file.Instruments[0].Pieces[0].Steps
	at := func(h int) time.Time { return file.Now.Add(time.Duration(h) * time.Hour) }
	entry := func(kind string, step *uuid.UUID, coat, h int) job.Entry {
		return job.Entry{ID: uuid.New(), Kind: kind, Instrument: file.Instruments[0].ID, Step: step, Coat: &coat, HappenedAt: at(h),
			RecordedAt: at(h)}
	}
	wrong := entry(job.Done, &steps[1].ID, 1, -9)
	void := job.Entry{ID: uuid.New(), Kind: job.Void, Instrument: file.Instruments[0].ID, Voids: &wrong.ID, HappenedAt: at(-8)}
	twin, late := entry(job.Done, &steps[1].ID, 1, -5), entry(job.Done, &steps[1].ID, 1, -7)
	late.Flags = []string{"duplicate"}
	skipped := entry(job.Skipped, &steps[2].ID, 2, -4)
	yes := true
	tested := entry(job.Tested, &steps[2].ID, 1, -1)
	tested.Milestone, tested.Passed = "sand", &yes
	moved := job.Entry{ID: uuid.New(), Kind: job.Moved, Instrument: file.Instruments[0].ID, Piece: &file.Instruments[0].Pieces[0].ID,
		Place: &file.Shop.Places[0].ID, HappenedAt: at(-2)}
	file.Log = []job.Entry{wrong, void, late, twin, skipped, tested, moved}
	in, err := file.Input(*file.Now)
	require.NoError(t, err)
	assert.Equal(t, at(-5), in.Facts[job.Event{Step: steps[1].ID, Coat: 1}].End,
		"the one that stood, not the struck one and not its late twin")
	assert.True(t, in.Facts[job.Event{Step: steps[2].ID, Coat: 2}].Skipped)
	assert.Len(t, in.Tests, 1)
	assert.Len(t, in.Moves, 1)
}

func TestTheLatestSettingsHold(t *testing.T) {
	file := example(t, "evenings-in-a-garage.json")
	later := file.Shop.Settings[0]
	later.ValidFrom, later.Margin = file.Now.AddDate(0, 0, 5), 2
	file.Shop.Settings = append(file.Shop.Settings, later)
	for days, margin := range map[int]float64{0: 1.25, 4: 1.25, 5: 2, 50: 2} {
		in, err := file.Input(file.Now.AddDate(0, 0, days))
		require.NoError(t, err)
		assert.Equal(t, margin, in.Shop.Margin)
	}
	assert.False(t, file.ChangesBetween(*file.Now, file.Now.AddDate(0, 0, 4)))
	assert.True(t, file.ChangesBetween(*file.Now, file.Now.AddDate(0, 0, 6)))
}

func TestOnlyOneInstrument(t *testing.T) {
	file := example(t, "two-people-and-a-booth.json")
	require.True(t, file.Only(file.Instruments[1].ID))
	assert.Len(t, file.Instruments, 1)
	assert.Empty(t, file.Pins, "the pin was the other's")
	assert.Empty(t, file.Products)
	var out bytes.Buffer
	require.NoError(t, Write(&out, file))
	_, err := Read(&out)
	assert.NoError(t, err, "what is left stands by itself")
	assert.False(t, file.Only(uuid.New()))
}

// FuzzRead reads whatever comes: it answers with *Invalid or with a file that can
// be planned, written and read again.
func FuzzRead(f *testing.F) {
	names, _ := filepath.Glob(examples + "/*.json")
	for _, name := range names {
		data, err := os.ReadFile(name)
		if err != nil {
			f.Fatal(err)
		}
		f.Add(data)
	}
	f.Add([]byte(`{"format":"umberfrost-schedule","version":1,"shop":{"settings":[{"name":"x","timeZone":"UTC","margin":1,"week":[[],[{"open":0,"close":1440}],[],[],[],[],[]]}],"people":[{"id":"6ba7b812-9dad-11d1-80b4-00c04fd430c8","name":"a"}]},"instruments":[]}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		file, err := Read(bytes.NewReader(data))
		if err != nil {
			var wrong *Invalid
			if !errors.As(err, &wrong) {
				t.Fatalf("an error without a place: %v", err)
			}
			return
		}
		in, err := file.Input(time.Unix(1_773_000_000, 0))
		if err != nil {
			t.Fatalf("it was read, but there is no input: %v", err)
		}
		if _, err := schedule.Retime(in); err != nil {
			t.Fatalf("it was read, but cannot be planned: %v", err)
		}
		if _, err := json.Marshal(file); err != nil {
			t.Fatal(err)
		}
	})
}

// FuzzScan holds what is read list by list against the published schema as a whole: what is accepted here, it accepts.
func FuzzScan(f *testing.F) {
	names, _ := filepath.Glob(examples + "/*.json")
	for _, name := range names {
		data, err := os.ReadFile(name)
		if err != nil {
			f.Fatal(err)
		}
		f.Add(data)
	}
	f.Add([]byte(`{"format":"umberfrost-schedule","version":4,"log":[{}],"snapshots":[7],"log":[],"shop":{"readings":[]}}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		file, err := Read(bytes.NewReader(data))
		var wrong *Invalid
		switch {
		case err != nil && !errors.As(err, &wrong):
			t.Fatalf("an error without a place: %v", err)
		case err != nil:
			return
		}
		entries := 0
		again, err := ReadStream(context.Background(), bytes.NewReader(data), int64(len(data)))
		if err != nil {
			t.Fatal(err)
		}
		if err := validate(again.version(), data); err != nil {
			t.Fatalf("it was read, but the published schema refuses it: %v", err)
		}
		for _, err := range again.Log() {
			if err != nil {
				t.Fatalf("as a whole it is accepted, and line by line it is not: %v", err)
			}
			entries++
		}
		if entries != len(file.Log) {
			t.Fatalf("%d entries line by line, %d as a whole", entries, len(file.Log))
		}
	})
}

func TestWhatIsTooMuchIsRefusedBeforeItIsHeld(t *testing.T) {
	head := `{"format":"umberfrost-schedule","version":4,`
	many := func(one string, n int) string { return "[" + strings.Repeat(one+",", n-1) + one + "]" }
	for name, test := range map[string]struct{ text, at string }{
		"instruments":         {head + `"instruments":` + many("{}", 5001) + "}", "/instruments"},
		"orders":              {head + `"order":` + many("7", 500_001) + "}", "/order"},
		"people":              {head + `"shop":{"people":` + many("{}", 51) + "}}", "/shop/people"},
		"a list nobody knows": {head + `"evil":` + many("0", 1001) + "}", "/evil"},
		"steps of a piece":    {head + `"instruments":[{"pieces":[{"steps":` + many("{}", 301) + "}]}]}", "steps"},
		"fields":              {head + `"x":{` + strings.Repeat(`"a":1,`, 20_000) + `"a":1}}`, "/x"},
		"values in one":       {head + `"instruments":[{"a":{"b":` + many("["+strings.Repeat("0,", 900)+"0]", 600) + "}}]}", "instruments"},
		"depth":               {head + `"x":` + strings.Repeat("[", 1000) + strings.Repeat("]", 1000) + "}", ""},
		"more behind it":      {`{} {}`, ""},
	} {
		_, err := Read(strings.NewReader(test.text))
		var wrong *Invalid
		require.ErrorAs(t, err, &wrong, name)
		require.Len(t, wrong.Faults, 1, name)
		assert.Contains(t, wrong.Faults[0].Path, test.at, name)
		assert.Regexp(t, "more than|deeper|follows", wrong.Faults[0].Message, name)
	}
}

func TestReadingStopsAtTheFirstHundredFaultsAndWhenNobodyWaits(t *testing.T) {
	text := `{"format":"umberfrost-schedule","version":4,"shop":{},"instruments":[` + strings.Repeat("{},", 4000) + "{}]}"
	text = strings.Replace(text, `"shop":{}`,
		`"shop":{"settings":[{"name":"x","timeZone":"UTC","margin":1,"week":[[],[],[],[],[],[],[]]}],"people":[{"id":"6ba7b812-9dad-11d1-80b4-00c04fd430c8","name":"a"}]}`, 1)
	_, err := Read(strings.NewReader(text))
	var wrong *Invalid
	require.ErrorAs(t, err, &wrong)
	assert.Len(t, wrong.Faults, 100)
	assert.Contains(t, wrong.Faults[0].Path, "/instruments/0")

	gone, leave := context.WithCancel(t.Context())
	leave()
	_, err = ReadStream(gone, strings.NewReader(text), int64(len(text)))
	assert.ErrorIs(t, err, context.Canceled)
}

func TestANewerFileIsSaidToBeNewer(t *testing.T) {
	for _, text := range []string{`{"format":"umberfrost-schedule","version":5,"shop":{"fleet":[]}}`, `{"shop":7,"version":99}`} {
		_, err := Read(strings.NewReader(text))
		var wrong *Invalid
		require.ErrorAs(t, err, &wrong)
		assert.Equal(t, "/version", wrong.Faults[0].Path)
		assert.Contains(t, wrong.Faults[0].Message, "newer Umberfrost")
	}
	_, err := Read(strings.NewReader(`{"format":"umberfrost-schedule","version":0}`))
	assert.ErrorContains(t, err, "/version")
}

// BenchmarkFiveMillionInstruments refuses what once took minutes and gigabytes.
func BenchmarkFiveMillionInstruments(b *testing.B) {
	text := []byte(`{"format":"umberfrost-schedule","version":4,"instruments":[` + strings.Repeat("{},", 4_999_999) + "{}]}")
	b.ReportAllocs()
	for b.Loop() {
		if _, err := ReadStream(context.Background(), bytes.NewReader(text), int64(len(text))); err == nil {
			b.Fatal("it was read")
		}
	}
}
