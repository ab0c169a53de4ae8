package changes

import (
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/strata"
	"umberfrost/internal/shop/snapshot"
)

// OverView is what is known of a coat over what lies below it.
type OverView struct {
	Under     string `json:"under" doc:"the material below"`
	Answer    string `json:"answer" enum:"ok,if,no,untested"`
	Condition string `json:"condition,omitempty"`
	Wait      string `json:"wait,omitempty" doc:"how long the trade waits, in words"`
	Text      string `json:"text"`
	Needs     bool   `json:"needs" doc:"it needs something between, or a decision on purpose"`
	Barrier   string `json:"barrier,omitempty" doc:"what between the two would help"`
}

// Over lists the verdicts on a coat: for each material that lies below it in its
// regions, as it is logged where that is done, else as it is planned.
func Over(m *snapshot.Snapshot, at snapshot.Located) []OverView {
	list := []OverView{}
	step := at.Step()
	if step.Family == "" {
		return list
	}
	seen := make(map[string]bool)
	for _, region := range step.Regions {
		under := under(m, at, region)
		if under == "" || under == step.Family || seen[under] {
			continue
		}
		seen[under] = true
		v := layering.Over(under, step.Family)
		view := OverView{Under: under, Answer: string(v.Answer), Condition: v.Condition.Text(), Wait: v.Wait, Text: v.Text(),
			Needs: v.Needs()}
		if f, err := material.FindFamily(under); err == nil {
			view.Under = f.Named()
		}
		if b, helps := layering.Between(under, step.Family); helps && b.Joined() && b.Family != under {
			if f, err := material.FindFamily(b.Family); err == nil {
				view.Barrier = f.Named()
			}
		}
		list = append(list, view)
	}
	return list
}

// under is the family that lies uppermost on a region when a step comes to it; none on bare wood.
func under(m *snapshot.Snapshot, at snapshot.Located, region uuid.UUID) string {
	var lying strata.Stack[uuid.UUID]
	for _, piece := range at.Instrument().Pieces {
		for i := range piece.Steps {
			s := &piece.Steps[i]
			if s.ID == at.Step().ID {
				return lying.Top().Family
			}
			fact := m.Facts[schedule.Event{Step: s.ID, Coat: 1}]
			if !fact.Skipped && slices.Contains(s.Regions, region) {
				lying.Do(s, s.ID)
			}
		}
	}
	return lying.Top().Family
}
