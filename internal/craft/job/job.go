// Package job is the one model of what is finished: an instrument with its pieces, their
// regions and the steps that are done to them, the events that those are, and the log of what has
// happened. The schedule file, the database's rows, the rules of recipes and the planner embed or
// alias these types; a new field of a step is written here, in the database's list of columns
// (internal/store), and where people see it. JSON names are those of the schedule file, db names
// those of the database's columns; what has "-" there is kept in a table of its own or as JSON.
package job

import (
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// Instrument is one job with a promised day.
type Instrument struct {
	ID        uuid.UUID     `json:"id" db:"id"`
	Name      string        `json:"name" db:"name"`
	Outline   string        `json:"outline,omitempty" db:"outline"`
	Own       string        `json:"outlinePath,omitempty" db:"outline_path"` // an outline of its own: SVG path data
	Promise   calendar.Day  `json:"promise" db:"-"`
	Show      *calendar.Day `json:"show,omitempty" db:"-"`        // an earlier day on which it must be fit to be shown
	Weight    float64       `json:"weight,omitempty" db:"weight"` // of a day it is late; 0 counts as 1
	Serial    string        `json:"serial,omitempty" db:"serial"`
	CreatedAt time.Time     `json:"createdAt,omitzero" db:"created_at"`
	Version   int           `json:"version,omitempty" db:"version"`
	Archived  *time.Time    `json:"archivedAt,omitempty" db:"archived_at"` // since when it is put aside, and planned no more
	Pieces    []Piece       `json:"pieces" db:"-"`
}

// PieceKind is what a piece is.
type PieceKind string

const (
	Body   PieceKind = "body"
	Neck   PieceKind = "neck"
	Board  PieceKind = "fretboard"
	Cavity PieceKind = "cavity"
	Frets  PieceKind = "frets"
	Whole  PieceKind = "whole" // body and neck together

	// Small parts, each kind of them one piece.
	Hardware PieceKind = "hardware" // of metal
	Plastics PieceKind = "plastics"
	Fittings PieceKind = "fittings" // of wood, finished like the body
)

// Piece is something finished on its own, with its steps in the order they are done.
type Piece struct {
	ID        uuid.UUID `json:"id" db:"id"`
	Kind      PieceKind `json:"kind" db:"kind"`
	Recipe    string    `json:"recipe,omitempty" db:"recipe_id"`
	Length    *Size     `json:"length,omitempty" db:"-"`
	Width     *Size     `json:"width,omitempty" db:"-"`
	Thickness *Size     `json:"thickness,omitempty" db:"-"`
	Regions   []Region  `json:"regions" db:"-"`
	Steps     []Step    `json:"steps" db:"-"`
}

// Size is a length and how it was entered.
type Size struct {
	Metres  float64 `json:"m"`
	Entered string  `json:"entered"`
}

// RegionsOf are the regions that a step of the piece is done to: all where it names none.
func (p *Piece) RegionsOf(s *Step) []uuid.UUID {
	if len(s.Regions) > 0 {
		return s.Regions
	}
	all := make([]uuid.UUID, len(p.Regions))
	for i := range p.Regions {
		all[i] = p.Regions[i].ID
	}
	return all
}

// Region is a part of a piece's surface.
type Region struct {
	ID     uuid.UUID        `json:"id" db:"id"`
	Name   string           `json:"name" db:"name"`
	Wood   string           `json:"wood,omitempty" db:"wood_id"`
	AreaM2 unit.SquareMetre `json:"areaM2,omitempty" db:"area_m2"`
	Sheen  string           `json:"sheen,omitempty" db:"sheen"` // what it is to end with
}

// Step is one line of a schedule.
type Step struct {
	ID         uuid.UUID          `json:"id" db:"id"`
	Slot       string             `json:"slot,omitempty" db:"slot"`
	Kind       Kind               `json:"kind" db:"kind"`
	Title      string             `json:"title" db:"title"`
	Role       string             `json:"role,omitempty" db:"role"`
	Family     string             `json:"family,omitempty" db:"family_id"` // of a coat
	Product    *uuid.UUID         `json:"product,omitempty" db:"product_id"`
	Method     material.Method    `json:"method,omitempty" db:"method"`
	Coats      int                `json:"coats,omitempty" db:"coats"` // absent: 1
	HandsOnMin unit.Minutes       `json:"handsOnMin" db:"hands_on_min"`
	SetUpMin   unit.Minutes       `json:"setUpMin,omitempty" db:"setup_min"`
	ScuffMin   unit.Minutes       `json:"scuffMin,omitempty" db:"scuff_min"`
	Ladder     []string           `json:"ladder,omitempty" db:"-"`
	Check      string             `json:"check,omitempty" db:"check_id"`
	Film       material.Milestone `json:"film,omitempty" db:"film"`
	RestMin    unit.Minutes       `json:"restMin,omitempty" db:"rest_min"`
	Tool       string             `json:"tool,omitempty" db:"tool"`
	How        string             `json:"how,omitempty" db:"how"`
	Why        string             `json:"why,omitempty" db:"why"`
	NoReturn   bool               `json:"noReturn,omitempty" db:"no_return"`
	School     string             `json:"school,omitempty" db:"school"`   // the way that is followed, "topic/option"
	Sheen      string             `json:"sheen,omitempty" db:"sheen"`     // what a coat leaves out of the can
	Edited     bool               `json:"edited,omitempty" db:"edited"`   // changed by hand
	Moved      bool               `json:"moved,omitempty" db:"moved"`     // put where it stands by hand
	Out        string             `json:"out,omitempty" db:"out_because"` // why it is left out as a whole; empty: it is not
	Note       string             `json:"note,omitempty" db:"note"`       // what somebody added to how it is done
	Recipe     string             `json:"recipe,omitempty" db:"recipe"`   // the own recipe that it came with, "id/version"
	Version    int                `json:"version,omitempty" db:"version"`
	Regions    []uuid.UUID        `json:"regions,omitempty" db:"-"` // absent: all of its piece
	After      []uuid.UUID        `json:"after,omitempty" db:"-"`
	Place      *uuid.UUID         `json:"place,omitempty" db:"place_id"`
	Terms      `db:"-"`
}

// Event is one coat of a step, counted from 1; steps without coats have one event.
type Event struct {
	Step uuid.UUID `json:"step" db:"step_id"`
	Coat int       `json:"coat" db:"coat"`
}

// Due is how many coats or rounds a step is to have; none where it is left out.
func (s *Step) Due() int {
	if s.Out != "" {
		return 0
	}
	return max(s.Coats, 1)
}

// MaterialKey names what a coat is made of: its product where one was chosen, else its family.
func (s *Step) MaterialKey() string {
	if s.Product != nil {
		return s.Product.String()
	}
	return s.Family
}
