// Package recipe turns a wish into the steps of a schedule: not from frozen
// lists, but by the rules of the job. A wish is layers on regions, from the wood
// upwards; each effect that a layer can have is one small file of rules (flake.go,
// leaf.go, clear.go …), which reads what lies below and writes its steps. The stages
// that they stand in are those of stages.go: what cuts and burns first, then colour and
// filling, the sealer, then upwards in the order of the stack. Every step says how,
// and why this school does it so.
//
// Every step has a slot, piece : layer : role, that never changes its name, so that composing
// again after another choice changes steps instead of replacing them. What goes over what is
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

	Hardware = job.Hardware
	Plastics = job.Plastics
	Fittings = job.Fittings
)

// Kinds lists every kind of piece, in the order in which they are composed: a
// step waits only for steps of pieces before its own.
var Kinds = []PieceKind{Body, Neck, Cavity, Board, Frets, Hardware, Plastics, Fittings, Whole}

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
	wish RegionWish // what was wished of it, while it is composed
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
	Layer  string // the first that takes it; empty: none that is wished
}

// Roles lists the material slots of a draft, in the order of their first use.
func (d Draft) Roles() []Role {
	var list []Role
	for _, piece := range d.Pieces {
		for _, s := range piece.Steps {
			id := d.RoleOf(piece.Kind, s)
			if id == "" || slices.ContainsFunc(list, func(r Role) bool { return r.ID == id }) {
				continue
			}
			role := Role{ID: id, Title: roleTitles[s.Role], Family: s.Family}
			if s.of() != nil {
				role.Layer = s.of().ID
			}
			if _, _, more := strings.Cut(id[len(piece.Kind)+1:], ":"); more && s.of() != nil {
				role.Title += ", " + s.of().ID
			}
			list = append(list, role)
		}
	}
	return list
}

// RoleOf names the material slot that a step of a piece takes from; empty where it takes none: piece and role.
// Layers that somebody wished have a slot of their own each from the second on; what the rules add shares
// one as far as its family is the same.
func (d Draft) RoleOf(kind PieceKind, s Step) string {
	if s.Role == "" {
		return ""
	}
	id := string(kind) + ":" + s.Role
	for _, piece := range d.Pieces {
		for _, first := range piece.Steps {
			if piece.Kind != kind || first.Role != s.Role {
				continue
			}
			if wished[s.Role] && s.of() != nil && !sameLayer(&first, &s) {
				id += ":" + s.of().ID
			}
			if first.Family != s.Family {
				id += ":" + s.Family
			}
			return id
		}
	}
	return id
}

// wished are the roles of what a layer is wished for.
var wished = map[string]bool{"colour": true, "dark": true, "edge": true, "base": true, "toner": true, "clear": true, "flat": true,
	"flake": true, "oil": true,
	"filler": true, "mark": true, "resin": true, "leaf": true, "grains": true}

// added are the roles of coats that the rules add to a layer: what comes below or between so that it holds.
var added = map[string]bool{"washcoat": true, "barrier": true, "sealer": true, "primer": true, "toner": true, "warm": true}

// Serves reports whether coats of a role are what a layer is wished for; else the rules add them.
func Serves(l Layer, role string) bool {
	switch {
	case !added[role] || l.Effect == EffectSeal:
		return true
	case role == "toner":
		return !l.grain()
	}
	return false
}

// KnownRole reports whether a name is that of a material slot, of any recipe.
func KnownRole(id string) bool {
	piece, role, _ := strings.Cut(id, ":")
	role, _, _ = strings.Cut(role, ":") // what may follow is another layer, and another family
	_, known := roleTitles[role]
	return known && slices.Contains(Kinds, PieceKind(piece))
}

var roleTitles = map[string]string{
	"colour": "Colour", "dark": "Dark colour for the grain", "edge": "Edge colour", "base": "Base coat", "flake": "Flake",
	"warm":     "Warm first coat",
	"washcoat": "Washcoat", "filler": "Grain filler", "barrier": "Barrier", "sealer": "Sealer", "toner": "Tinted clear", "clear": "Clear",
	"flat": "Flatted clear",
	"oil":  "Oil", "slurry": "Oil for the slurry", "wax": "Wax", "char": "Char", "primer": "Primer", "shield": "Conductive paint",
	"harden": "Thin adhesive", "shellac": "Shellac", "grains": "Grains", "hold": "Tacky coat", "size": "Size", "leaf": "Leaf",
	"mark": "Mark", "resin": "Resin",
	"metal": "Film on the metal",
}

// find returns the step with this slot.
func (d Draft) find(slot string) *Step {
	for p := range d.Pieces {
		for s := range d.Pieces[p].Steps {
			if d.Pieces[p].Steps[s].Slot == slot {
				return &d.Pieces[p].Steps[s]
			}
		}
	}
	return nil
}

// named returns the first step of a piece with this role.
func (d Draft) named(kind PieceKind, name string) *Step {
	for p := range d.Pieces {
		for s := range d.Pieces[p].Steps {
			if step := &d.Pieces[p].Steps[s]; d.Pieces[p].Kind == kind && step.name() == name {
				return step
			}
		}
	}
	return nil
}

// key names a slot or a region within an instrument.
func key(piece PieceKind, name string) string { return string(piece) + ":" + name }
