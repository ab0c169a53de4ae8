package views

import (
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/snapshot"
)

// ObjectionView is what a schedule gets wrong, and what would mend it.
type ObjectionView struct {
	Rule   string    `json:"rule"`
	StepID uuid.UUID `json:"stepId" doc:"the step at which it shows"`
	Piece  string    `json:"piece,omitempty" doc:"the piece of that step"`
	Layer  string    `json:"layer,omitempty" doc:"the layer that it serves"`
	Spoils bool      `json:"spoils" doc:"the work would be spoilt; else practice warns"`
	Title  string    `json:"title"`
	Reason string    `json:"reason"`
	Mend   string    `json:"mend,omitempty" doc:"what one tap would do; absent where only the person can"`
}

// objections looks an instrument's schedule over.
func objections(m *snapshot.Snapshot, i int) []ObjectionView {
	list := []ObjectionView{}
	in := &m.Workshop.Instruments[i]
	for _, o := range recipe.Lint(m.DraftOf(in), snapshot.WishOf(in)) {
		view := ObjectionView{Rule: o.Rule, StepID: snapshot.StepOf(in, o.Slot), Spoils: o.Spoils, Title: o.Title, Reason: o.Reason}
		if parts := strings.Split(o.Slot, ":"); len(parts) == 3 {
			view.Piece, view.Layer = parts[0], parts[1]
		}
		if o.Mend != nil {
			view.Mend = o.Mend.Text
		}
		list = append(list, view)
	}
	return list
}
