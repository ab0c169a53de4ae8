package schedule

import (
	"slices"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// whatIf plans an input with a change beside itself.
func whatIf(in Input, wider bool, change func(*Input)) Answer {
	changed := in
	change(&changed)
	return must(WhatIf(must(Retime(in)), changed, wider))
}

func inShop(change func(*Setting)) func(*Input) {
	return func(in *Input) {
		setting := in.Shop.Setting
		setting.People, setting.Places = slices.Clone(setting.People), slices.Clone(setting.Places)
		change(&setting)
		in.Shop = must(NewShop(setting))
	}
}

func oneMorePerson() func(*Input) {
	return inShop(func(s *Setting) { s.People = append(s.People, Person{Name: "one more"}) })
}

// atPiece changes the first piece of an input.
func atPiece(change func(*Piece)) func(*Input) {
	return func(in *Input) {
		in.Instruments = slices.Clone(in.Instruments)
		pieces := slices.Clone(in.Instruments[0].Pieces)
		pieces[0].Steps = slices.Clone(pieces[0].Steps)
		change(&pieces[0])
		in.Instruments[0].Pieces = pieces
	}
}

func moreCoats(n int) func(*Input) { return atPiece(func(p *Piece) { p.Steps[0].Coats += n }) }

func anotherMaterial(m *material.Material) func(*Input) {
	return atPiece(func(p *Piece) { p.Steps[0].Material = m })
}

// notBefore puts a gate that opens on a day before everything else.
func notBefore(at time.Time) func(*Input) {
	return atPiece(func(p *Piece) {
		gate := Step{Piece: p.ID, Step: job.Step{ID: uuid.NewSHA1(p.ID, []byte("gate")), Regions: p.Steps[0].Regions, Kind: Gate, Title: "not before", Coats: 1}}
		gate.Arrival = &Arrival{Expected: calendar.DayOf(at)}
		p.Steps = slices.Insert(p.Steps, 0, gate)
	})
}
