package search

import (
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	. "umberfrost/internal/craft/calendar/calendartest"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
)

// whatIf plans an input with a change beside itself.
func whatIf(in schedule.Input, wider bool, change func(*schedule.Input)) Answer {
	changed := in
	change(&changed)
	return Must(WhatIf(Must(schedule.Retime(in)), changed, wider))
}

// atPiece changes the first piece of an input.
func atPiece(change func(*schedule.Piece)) func(*schedule.Input) {
	return func(in *schedule.Input) {
		in.Instruments = slices.Clone(in.Instruments)
		pieces := slices.Clone(in.Instruments[0].Pieces)
		pieces[0].Steps = slices.Clone(pieces[0].Steps)
		change(&pieces[0])
		in.Instruments[0].Pieces = pieces
	}
}

func moreCoats(n int) func(*schedule.Input) {
	return atPiece(func(p *schedule.Piece) { p.Steps[0].Coats += n })
}

func anotherMaterial(m *material.Material) func(*schedule.Input) {
	return atPiece(func(p *schedule.Piece) { p.Steps[0].Material = m })
}

// notBefore puts a gate that opens on a day before everything else.
func notBefore(at time.Time) func(*schedule.Input) {
	return atPiece(func(p *schedule.Piece) {
		gate := schedule.Step{Piece: p.ID, Step: job.Step{ID: uuid.NewSHA1(p.ID, []byte("gate")), Regions: p.Steps[0].Regions,
			Kind: schedule.Gate, Title: "not before", Coats: 1}}
		gate.Arrival = &schedule.Arrival{Expected: calendar.DayOf(at)}
		p.Steps = slices.Insert(p.Steps, 0, gate)
	})
}
