package schedule_test

import (
	"fmt"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
)

// finishingRoom is a shop open on weekdays, with a bench and a booth in rooms of
// their own.
func finishingRoom() *schedule.Shop {
	var week [7][]calendar.Hours
	for day := time.Monday; day <= time.Friday; day++ {
		week[day] = []calendar.Hours{{Open: 9 * 60, Close: 17 * 60}}
	}
	cal, err := calendar.New(time.UTC, week, nil)
	if err != nil {
		panic(err)
	}
	cool, err := climate.NewRoom(time.UTC, climate.Constant(climate.Air{Temperature: 18, Humidity: 55}), nil)
	if err != nil {
		panic(err)
	}
	shop, err := schedule.NewShop(schedule.Setting{Calendar: cal, Margin: 1.25, Places: []schedule.Place{
		{ID: uuid.MustParse("00000000-0000-0000-0000-0000000000b1"), Name: "the bench", Kind: settings.Bench, Room: cool},
		{ID: uuid.MustParse("00000000-0000-0000-0000-0000000000b2"), Name: "the booth", Kind: settings.Booth, Capacity: 1, Room: cool},
	}})
	if err != nil {
		panic(err)
	}
	return shop
}

// oneBody is a body that gets three coats of clear and is levelled between.
func oneBody() schedule.Instrument {
	family, err := material.FindFamily("water-clear")
	if err != nil {
		panic(err)
	}
	clear := material.OfFamily(family)
	region := []uuid.UUID{uuid.MustParse("00000000-0000-0000-0000-0000000000a1")}
	return schedule.Instrument{Name: "Curlew", Promise: calendar.Day{Year: 2026, Month: 3, Date: 13},
		Pieces: []schedule.Piece{{Name: "body", Steps: []schedule.Step{
			{Material: &clear, Step: job.Step{ID: uuid.MustParse("00000000-0000-0000-0000-000000000001"), Regions: region,
				Kind:  schedule.Coat,
				Title: "Clear", Method: material.Spray, Coats: 3, HandsOnMin: 30, SetUpMin: 20}},
			{Step: job.Step{ID: uuid.MustParse("00000000-0000-0000-0000-000000000002"), Regions: region, Kind: schedule.Level,
				Title: "Level half-way", Coats: 1, HandsOnMin: 45, Film: material.Sand}},
		}}}}
}

func ExampleRetime() {
	plan, err := schedule.Retime(schedule.Input{Now: time.Date(2026, 3, 10, 10, 0, 0, 0, time.UTC), Shop: finishingRoom(),
		Instruments: []schedule.Instrument{oneBody()}})
	if err != nil {
		panic(err)
	}
	for _, e := range plan.Events {
		fmt.Println(e.Start.Format("Mon 15:04"), unit.Unmarked(explain.Sentence(plan, e.Event)))
	}
	fmt.Println("ready", plan.Forecasts[0].Finish.Format("Mon 15:04"), "slack", plan.Forecasts[0].Slack)
	// Output:
	// Tue 10:00 Nothing holds it: it can be done now.
	// Tue 13:39 Coat 1 of 3, waterborne clear is dry enough to recoat from 13:39. The room runs at 0.8 of normal speed.
	// Wed 09:00 Ready 17:18, but the shop is closed until Wed 11 Mar 09:00. The room runs at 0.8 of normal speed.
	// Wed 15:48 Coat 3 of 3, waterborne clear is hard enough to sand from Wed 11 Mar 15:48. The room runs at 0.8 of normal speed.
	// ready Wed 16:33 slack 55h27m0s
}
