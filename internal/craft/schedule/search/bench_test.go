package search

import (
	"testing"
	"time"

	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/schedule"
	. "umberfrost/internal/craft/schedule/scheduletest"
)

func BenchmarkProposeTwoHundred(b *testing.B) {
	in := BenchmarkShop(200)
	var last Proposal
	for b.Loop() {
		last = Must(Propose(in, Effort{Seed: 1}))
	}
	bound := LowerBoundLate(last.Plan)
	b.ReportMetric(float64(last.Tried), "orders")
	b.ReportMetric(last.Before.DaysLate, "days-late-before")
	b.ReportMetric(last.After.DaysLate, "days-late-after")
	b.ReportMetric(last.After.DaysLate-bound, "gap-to-bound")
}

func BenchmarkChance(b *testing.B) {
	today := Must(schedule.Retime(BenchmarkShop(20)))
	for b.Loop() {
		Must(Chances(today, schedule.Learned{}, 1, 10, nil))
	}
}

// BenchmarkMoveByHand is what each place does where a hand could put a sitting in a shop of 200.
func BenchmarkMoveByHand(b *testing.B) {
	in := BenchmarkShop(200)
	today := Must(schedule.Retime(in))
	e := today.Events[len(today.Events)/2]
	in.Pins = map[schedule.Event]time.Time{e.Event: e.Start.AddDate(0, 0, 7)}
	for b.Loop() {
		Must(WhatIf(today, in, false))
	}
}
