package recipe

import (
	"fmt"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/mix"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

// PieceChoice is what a person chose for one piece. Lengths are as typed.
type PieceChoice struct {
	Kind      PieceKind
	Recipe    string
	Wood      string
	Length    string
	Width     string
	Thickness string // of a body
}

// Fault is one choice that cannot be accepted: where, and what would be.
type Fault struct {
	Path    string // "pieces[0].wood"
	Message string
	Value   any
}

// Draft is a composed schedule that nobody has kept yet.
type Draft struct {
	Pieces []Piece
}

// Piece is one piece of a draft.
type Piece struct {
	Kind      PieceKind
	Recipe    string
	Wood      string
	Length    Size
	Width     Size
	Thickness Size
	Zones     []Zone
	Steps     []Step
}

// Size is a length and how it was entered.
type Size struct {
	Length  unit.Millimetre
	Entered string
}

// Zone is a part of a piece's surface.
type Zone struct {
	Key  string // "body:top"
	Name string // "top"
	Area unit.SquareMetre
}

// limits of the sizes that make sense, in mm.
var limits = map[PieceKind]map[string][2]unit.Millimetre{
	Body: {"length": {250, 800}, "width": {150, 600}, "thickness": {10, 150}},
	Neck: {"length": {200, 1200}, "width": {30, 120}},
}

// Compose turns the choices for the pieces of an instrument into their steps.
// A body and a neck together are joined at the end and strung. It returns every
// fault it finds, and a draft only when there is none. An error means that a
// recipe itself is wrong.
func Compose(choices []PieceChoice) (Draft, []Fault, error) {
	var draft Draft
	var faults []Fault
	seen := make(map[PieceKind]bool)
	for i, choice := range choices {
		path := fmt.Sprintf("pieces[%d]", i)
		if seen[choice.Kind] {
			faults = append(faults, Fault{path + ".kind", "an instrument has one body and one neck at most", choice.Kind})
			continue
		}
		seen[choice.Kind] = true
		piece, wrong, err := composePiece(choice, path)
		if err != nil {
			return Draft{}, nil, err
		}
		draft.Pieces, faults = append(draft.Pieces, piece), append(faults, wrong...)
	}
	if len(choices) == 0 {
		faults = append(faults, Fault{"pieces", "choose at least a body or a neck", nil})
	}
	if len(faults) > 0 {
		return Draft{}, faults, nil
	}
	if seen[Body] && seen[Neck] {
		draft.Pieces = append(draft.Pieces, joined(draft.Pieces))
	}
	return draft, nil, nil
}

func composePiece(choice PieceChoice, path string) (Piece, []Fault, error) {
	var faults []Fault
	fault := func(field, message string, value any) {
		faults = append(faults, Fault{path + "." + field, message, value})
	}
	piece := Piece{Kind: choice.Kind, Recipe: choice.Recipe, Wood: choice.Wood}
	if choice.Kind != Body && choice.Kind != Neck {
		fault("kind", "choose body or neck", choice.Kind)
		return piece, faults, nil
	}
	sizes := map[string]unit.Millimetre{}
	for _, size := range []struct {
		field, entered string
		into           *Size
	}{{"length", choice.Length, &piece.Length}, {"width", choice.Width, &piece.Width}, {"thickness", choice.Thickness, &piece.Thickness}} {
		limit, asked := limits[choice.Kind][size.field]
		if !asked {
			continue
		}
		length, err := unit.ParseLength(size.entered)
		switch {
		case err != nil:
			fault(size.field, err.Error(), size.entered)
		case length < limit[0] || length > limit[1]:
			fault(size.field, fmt.Sprintf("the %s of a %s is from %s to %s", size.field, choice.Kind, limit[0].Text(unit.Metric), limit[1].Text(unit.Metric)), size.entered)
		}
		*size.into = Size{length, size.entered}
		sizes[size.field] = length
	}
	recipe, err := Find(choice.Recipe)
	if err != nil || recipe.Piece != choice.Kind {
		fault("recipe", fmt.Sprintf("choose a recipe for a %s: %s", choice.Kind, namesFor(choice.Kind)), choice.Recipe)
	}
	timber, err := wood.Find(choice.Wood)
	if err != nil {
		fault("wood", err.Error()+"; choose one of its ids, such as ash-swamp or maple-hard", choice.Wood)
	} else if recipe.Suits != nil {
		if err := recipe.Suits(timber); err != nil {
			fault("wood", err.Error(), choice.Wood)
		}
	}
	if len(faults) > 0 {
		return piece, faults, nil
	}
	piece.Zones = zones(choice.Kind, sizes)
	for _, l := range recipe.lines(setting{wood: timber}) {
		step, err := l.step(choice.Kind, piece.Zones)
		if err != nil {
			return piece, nil, fmt.Errorf("recipe %s: %w", recipe.ID, err)
		}
		piece.Steps = append(piece.Steps, step)
	}
	return piece, nil, nil
}

func namesFor(kind PieceKind) string {
	names := ""
	for _, r := range All() {
		if r.Piece == kind {
			if names != "" {
				names += ", "
			}
			names += r.ID
		}
	}
	return names
}

// headstock is the area of both faces of a usual headstock (default), until it
// is measured.
const headstock unit.SquareMetre = 0.022

// zones are the zones of a kind of piece with their areas.
func zones(kind PieceKind, size map[string]unit.Millimetre) []Zone {
	if kind == Neck {
		return []Zone{
			{key(Neck, "shaft"), "shaft", mix.Shaft(size["length"], size["width"])},
			{key(Neck, "headstock"), "headstock", headstock},
		}
	}
	face := mix.Face(size["length"], size["width"])
	return []Zone{
		{key(Body, "top"), "top", face},
		{key(Body, "back"), "back", face},
		{key(Body, "sides"), "sides", mix.Rim(size["length"], size["width"], size["thickness"])},
	}
}

// joined is the whole instrument after its body and neck are done: bolted
// together, strung when every film has fully cured, and hung.
func joined(pieces []Piece) Piece {
	whole := Piece{Kind: Whole}
	var every, after []string
	for _, piece := range pieces {
		after = append(after, piece.Steps[len(piece.Steps)-1].Slot)
		for _, zone := range piece.Zones {
			every = append(every, zone.Key)
		}
	}
	whole.Steps = []Step{
		{Slot: key(Whole, "bolt-on"), Kind: schedule.Gate, Title: "Bolt the neck to the body", Zones: every, After: after, Coats: 1,
			Minutes: 30, Film: material.Handle, Check: "neck-dry-fit",
			How: "Clean the joint faces, set the neck, draw the screws up evenly by hand.",
			Why: "Both films must bear clamping and handling, or they print and stick."},
		{Slot: key(Whole, "strings"), Kind: schedule.Gate, Title: "String it and set it up", Zones: every, Coats: 1,
			Minutes: 120, Film: material.FullCure,
			How: "Strings on, relief, action, intonation. Then a last look under the lamp.",
			Why: "A film that has not cured through prints under straps and stands."},
	}
	return whole
}
