// Package recipe turns a wish into the steps of a schedule: not from frozen
// lists, but by the rules of the job. Fills are only where pores are, the ladder
// stops where the colour wants it to, a flatted clear is level before its last
// coat and never after. Every step says how, and why this school does it so.
//
// Every step has a slot that never changes its name, so that composing again after
// another choice changes steps instead of replacing them. What goes over what is
// asked of the layering package for every coat as it is written; where the two do not
// hold, the barrier that helps becomes a step. A schedule that somebody has changed by
// hand is looked over by Lint, with the same rules.
package recipe

import (
	"slices"
	"strings"
	"time"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
)

// PieceKind is what a piece is.
type PieceKind string

const (
	Body   PieceKind = "body"
	Neck   PieceKind = "neck"
	Board  PieceKind = "fretboard"
	Cavity PieceKind = "cavity"
	Frets  PieceKind = "frets"
	Whole  PieceKind = "whole" // body and neck together
)

// Kinds lists every kind of piece, in the order in which they are composed: a
// step waits only for steps of pieces before its own.
var Kinds = []PieceKind{Body, Neck, Cavity, Board, Frets, Whole}

// Draft is a composed schedule that nobody has kept yet.
type Draft struct {
	Pieces []Piece
	Notes  []string // what practice differs on, or scrap should tell first
}

// Piece is one piece of a draft.
type Piece struct {
	Kind      PieceKind
	Wood      string
	Length    Size
	Width     Size
	Thickness Size
	Regions   []Region
	Steps     []Step
}

// Size is a length and how it was entered.
type Size struct {
	Length  unit.Millimetre
	Entered string
}

// Region is a part of a piece's surface.
type Region struct {
	Key   string // "body:top"
	Name  string // "top"
	Wood  string
	Area  unit.SquareMetre
	Sheen string // what it is to end with; empty: nothing was asked
	Plain bool   // it stays without the colour of its piece
}

// Step is a composed step: what the planner needs and what a finisher reads.
type Step struct {
	Slot     string // "body:dye", for life
	Kind     schedule.Kind
	Title    string
	Regions  []string // "body:top"
	After    []string // slots of other pieces that must be done first
	Role     string   // of a coat: the material slot it takes, "clear"
	Family   string   // of a coat
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
	School   string // "colour-on/bare"
	Sheen    string // of a coat: the sheen it leaves by itself
	NoReturn bool
	Terms    schedule.Terms
	// Facts about a step that is composed again or looked over.
	Done   bool // logged, at least in part
	Logged bool // the log speaks of it, also where its entries were struck: it is never dropped
	Edited bool // changed by hand
}

// Role is a material slot: what a recipe needs and of which family it must be.
type Role struct {
	ID     string // "body:clear"
	Title  string
	Family string
}

// Roles lists the material slots of a draft, in the order of their first use.
func (d Draft) Roles() []Role {
	var list []Role
	seen := make(map[string]bool)
	for _, piece := range d.Pieces {
		for _, s := range piece.Steps {
			id := RoleOf(piece.Kind, s.Role)
			if s.Role == "" || seen[id] {
				continue
			}
			seen[id] = true
			list = append(list, Role{id, roleTitles[s.Role], s.Family})
		}
	}
	return list
}

// RoleOf names a material slot of a piece.
func RoleOf(piece PieceKind, role string) string { return string(piece) + ":" + role }

// KnownRole reports whether a name is that of a material slot, of any recipe.
func KnownRole(id string) bool {
	piece, role, _ := strings.Cut(id, ":")
	_, known := roleTitles[role]
	return known && slices.Contains(Kinds, PieceKind(piece))
}

var roleTitles = map[string]string{
	"colour": "Colour", "dark": "Dark colour for the grain", "edge": "Edge colour", "base": "Base coat", "flake": "Flake", "warm": "Warm first coat",
	"washcoat": "Washcoat", "filler": "Grain filler", "barrier": "Barrier", "sealer": "Sealer", "toner": "Tinted clear", "clear": "Clear", "flat": "Flatted clear",
	"oil": "Oil", "slurry": "Oil for the slurry", "wax": "Wax", "char": "Char", "primer": "Primer", "shield": "Conductive paint", "harden": "Thin adhesive", "shellac": "Shellac",
}

// find returns the step with this slot.
func (d *Draft) find(slot string) *Step {
	for p := range d.Pieces {
		for s := range d.Pieces[p].Steps {
			if d.Pieces[p].Steps[s].Slot == slot {
				return &d.Pieces[p].Steps[s]
			}
		}
	}
	return nil
}

// key names a slot or a region within an instrument.
func key(piece PieceKind, name string) string { return string(piece) + ":" + name }
