// Package job is the one model of what is finished: the regions of a piece, the steps that
// are done to them, and the events that those are. The schedule file, the database's rows and the
// planner embed or alias these types; a new field of a step is written here, in the
// database's list of columns (internal/store), and where people see it. JSON names are those of the schedule
// file, db names those of the database's columns; what has "-" there is kept in a table of its own
// or as JSON.
package job

import "github.com/google/uuid"

// Region is a part of a piece's surface.
type Region struct {
	ID     uuid.UUID `json:"id" db:"id"`
	Name   string    `json:"name" db:"name"`
	Wood   string    `json:"wood,omitempty" db:"wood_id"`
	AreaM2 float64   `json:"areaM2,omitempty" db:"area_m2"`
	Sheen  string    `json:"sheen,omitempty" db:"sheen"` // what it is to end with
	Plain  bool      `json:"plain,omitempty" db:"plain"` // it stays without the colour of its piece
}

// Step is one line of a schedule.
type Step struct {
	ID         uuid.UUID   `json:"id" db:"id"`
	Slot       string      `json:"slot,omitempty" db:"slot"`
	Kind       Kind        `json:"kind" db:"kind"`
	Title      string      `json:"title" db:"title"`
	Role       string      `json:"role,omitempty" db:"role"`
	Family     string      `json:"family,omitempty" db:"family_id"` // of a coat
	Product    *uuid.UUID  `json:"product,omitempty" db:"product_id"`
	Method     string      `json:"method,omitempty" db:"method"`
	Coats      int         `json:"coats,omitempty" db:"coats"` // absent: 1
	HandsOnMin int         `json:"handsOnMin" db:"hands_on_min"`
	SetUpMin   int         `json:"setUpMin,omitempty" db:"setup_min"`
	ScuffMin   int         `json:"scuffMin,omitempty" db:"scuff_min"`
	Ladder     []string    `json:"ladder,omitempty" db:"-"`
	Check      string      `json:"check,omitempty" db:"check_id"`
	Film       string      `json:"film,omitempty" db:"film"`
	RestMin    int         `json:"restMin,omitempty" db:"rest_min"`
	Tool       string      `json:"tool,omitempty" db:"tool"`
	How        string      `json:"how,omitempty" db:"how"`
	Why        string      `json:"why,omitempty" db:"why"`
	NoReturn   bool        `json:"noReturn,omitempty" db:"no_return"`
	School     string      `json:"school,omitempty" db:"school"` // the way that is followed, "topic/option"
	Sheen      string      `json:"sheen,omitempty" db:"sheen"`   // what a coat leaves out of the can
	Edited     bool        `json:"edited,omitempty" db:"edited"` // changed by hand
	Version    int         `json:"version,omitempty" db:"version"`
	Regions    []uuid.UUID `json:"regions,omitempty" db:"-"` // absent: all of its piece
	After      []uuid.UUID `json:"after,omitempty" db:"-"`
	Place      *uuid.UUID  `json:"place,omitempty" db:"place_id"`
	Terms      `db:"-"`
}

// Event is one coat of a step, counted from 1; steps without coats have one event.
type Event struct {
	Step uuid.UUID `json:"step"`
	Coat int       `json:"coat"`
}
