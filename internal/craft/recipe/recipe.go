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

	"umberfrost/internal/craft/job"
)

// Instrument is a job with what was wished of it.
type Instrument struct {
	job.Instrument
	Wish *Wish `json:"wish,omitempty" db:"-"` // absent where that is not known
}

// PieceKind is what a piece is.
type PieceKind = job.PieceKind

const (
	Body   = job.Body
	Neck   = job.Neck
	Board  = job.Board
	Cavity = job.Cavity
	Frets  = job.Frets
	Whole  = job.Whole
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
	Length    *job.Size
	Width     *job.Size
	Thickness *job.Size
	Regions   []Region
	Steps     []Step
}

// Region is a part of a piece's surface. It gets its id when it is kept.
type Region struct {
	Key string // "body:top"
	job.Region
}

// Step is a step of a draft. A draft names regions and steps by their keys, in place of the
// model's ids, which they get when they are kept.
type Step struct {
	job.Step
	Regions []string // "body:top"
	After   []string // slots of other pieces that must be done first
	// Facts about a step that is composed again or looked over.
	Done    bool // logged, at least in part
	Skipped bool // … as left out
	Logged  bool // the log speaks of it, also where its entries were struck: it is never dropped
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
	"colour": "Colour", "dark": "Dark colour for the grain", "edge": "Edge colour", "base": "Base coat", "flake": "Flake",
	"warm":     "Warm first coat",
	"washcoat": "Washcoat", "filler": "Grain filler", "barrier": "Barrier", "sealer": "Sealer", "toner": "Tinted clear", "clear": "Clear",
	"flat": "Flatted clear",
	"oil":  "Oil", "slurry": "Oil for the slurry", "wax": "Wax", "char": "Char", "primer": "Primer", "shield": "Conductive paint",
	"harden": "Thin adhesive", "shellac": "Shellac",
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
