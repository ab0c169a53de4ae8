// Package recipe turns choices into the steps of a schedule. A recipe is
// written out in full: every line says how, and why this school does it so.
// Each line has a slot that never changes its name, so that composing again
// changes steps instead of replacing them.
package recipe

import (
	"fmt"
	"slices"
	"time"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/check"
	"umberfrost/internal/craft/labour"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

// PieceKind is what a piece is: a body, a neck, or the whole after a joint.
type PieceKind string

const (
	Body  PieceKind = "body"
	Neck  PieceKind = "neck"
	Whole PieceKind = "whole"
)

// Recipe is a reusable schedule for one piece with open choices.
type Recipe struct {
	ID      string
	Title   string
	Piece   PieceKind
	Summary string
	Roles   []Role
	// Suits says why a wood does not suit the recipe; nil when it does.
	Suits func(wood.Wood) error
	lines func(setting) []line
}

// Role is a material slot: what a recipe needs and of which family it must be.
type Role struct {
	ID     string
	Title  string
	Family string
}

// All lists the recipes.
func All() []Recipe { return []Recipe{waterborneGloss, hardwaxSatin} }

// Find returns the recipe with this id.
func Find(id string) (Recipe, error) {
	for _, r := range All() {
		if r.ID == id {
			return r, nil
		}
	}
	return Recipe{}, fmt.Errorf("there is no recipe %q", id)
}

// setting is what a recipe's lines depend on.
type setting struct {
	wood wood.Wood
}

// line is one step as a recipe writes it.
type line struct {
	slot   string
	kind   schedule.Kind
	title  string
	zones  []string // nil: all of the piece
	role   string   // of a coat
	method material.Method
	coats  int
	ladder []string // marks or compounds, by key
	check  string
	film   material.Milestone
	rest   time.Duration
	work   string // row of labour.csv where it is not the kind's own
	fixed  unit.Minutes
	tool   string
	how    string
	why    string
	sealed bool // the first point of no return
}

// Step is a composed step: what the planner needs and what a finisher reads.
type Step struct {
	Slot     string // "body:dye", for life
	Kind     schedule.Kind
	Title    string
	Zones    []string // "body:top"
	After    []string // slots of other pieces that must be done first
	Role     string
	Method   material.Method
	Coats    int
	Minutes  unit.Minutes // hands-on, set-up included
	SetUp    unit.Minutes // of a coat: what pieces that take the same product can share
	Scuff    unit.Minutes // of a coat: what a scuff would take that a closed window makes necessary
	Ladder   []string
	Check    string
	Film     material.Milestone
	Rest     time.Duration
	Tool     string
	How      string
	Why      string
	NoReturn bool
}

// step works out a line for a piece whose zones have the given areas. Recipes
// are written here, so what they name must exist: a mistake is reported with
// the slot's name.
func (l line) step(piece PieceKind, zones []Zone) (Step, error) {
	s := Step{
		Slot: key(piece, l.slot), Kind: l.kind, Title: l.title, Role: l.role, Method: l.method, Coats: max(l.coats, 1),
		Ladder: l.ladder, Check: l.check, Film: l.film, Rest: l.rest, Tool: l.tool, How: l.how, Why: l.why, NoReturn: l.sealed,
	}
	var area unit.SquareMetre
	for _, zone := range zones {
		if l.zones == nil || slices.Contains(l.zones, zone.Name) {
			s.Zones = append(s.Zones, zone.Key)
			area += zone.Area
		}
	}
	if _, err := abrasive.LadderOf(l.ladder...); err != nil {
		return Step{}, fmt.Errorf("slot %s: %w", s.Slot, err)
	}
	if l.check != "" {
		if _, err := check.Find(l.check); err != nil {
			return Step{}, fmt.Errorf("slot %s: %w", s.Slot, err)
		}
	}
	if l.fixed > 0 {
		s.Minutes = l.fixed
		return s, nil
	}
	rate, err := l.rate()
	if err != nil {
		return Step{}, fmt.Errorf("slot %s: %w", s.Slot, err)
	}
	s.Minutes, _ = rate.Minutes(area, max(len(l.ladder), 1))
	if l.kind == schedule.Coat {
		s.SetUp = unit.Minutes(rate.SetUp)
		scuff, err := labour.Find("scuff", "")
		if err != nil {
			return Step{}, fmt.Errorf("slot %s: %w", s.Slot, err)
		}
		s.Scuff, _ = scuff.Minutes(area, 1)
	}
	return s, nil
}

// key names a slot or a zone within an instrument.
func key(piece PieceKind, name string) string { return string(piece) + ":" + name }

func (l line) rate() (labour.Rate, error) {
	work := l.work
	if work == "" {
		work = string(l.kind)
		if l.kind == schedule.Sand {
			work = "sand-bare"
		}
	}
	return labour.Find(work, string(l.method))
}

// ladderTo is the part of a ladder of FEPA papers up to a stop.
func ladderTo(stop int, marks ...int) []string {
	var keys []string
	for _, mark := range marks {
		if mark <= stop {
			keys = append(keys, fmt.Sprintf("fepa:P%d", mark))
		}
	}
	return keys
}
