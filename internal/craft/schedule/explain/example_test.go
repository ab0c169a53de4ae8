package explain_test

import (
	"fmt"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/craft/unit"
)

// Why an event is when it is.
func Example() {
	shop, err := schedule.NewShop(schedule.Setting{Calendar: calendartest.NineToSix(), Margin: 1})
	if err != nil {
		panic(err)
	}
	step := schedule.Step{Step: job.Step{ID: uuid.UUID{1}, Kind: job.Sand, Title: "Sand", Coats: 1, HandsOnMin: 60}}
	in := schedule.Input{Now: calendartest.At("2026-03-12 12:00"), Shop: shop, Order: []schedule.Event{{Step: step.ID, Coat: 1}},
		Instruments: []schedule.Instrument{{Name: "Curlew", Pieces: []schedule.Piece{{Name: "neck", Steps: []schedule.Step{step}}}}}}
	plan, err := schedule.Retime(in)
	if err != nil {
		panic(err)
	}
	fmt.Println(unit.Unmarked(explain.Sentence(plan, in.Order[0])))
	// Output:
	// Nothing holds it: it can be done now.
}
