package shop

import (
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/strata"
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
func (m *moment) objections(i int) []ObjectionView {
	list := []ObjectionView{}
	in := &m.file.Instruments[i]
	for _, o := range recipe.Lint(m.draftOf(in), wishOf(in)) {
		view := ObjectionView{Rule: o.Rule, StepID: stepOf(in, o.Slot), Spoils: o.Spoils, Title: o.Title, Reason: o.Reason}
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

// wishOf is what is wanted of an instrument; an empty wish where that is not known.
func wishOf(in *recipe.Instrument) recipe.Wish {
	if in.Wish == nil {
		return recipe.Wish{}
	}
	return *in.Wish
}

func stepOf(in *recipe.Instrument, slot string) uuid.UUID {
	for _, p := range in.Pieces {
		for _, s := range p.Steps {
			if s.Slot == slot {
				return s.ID
			}
		}
	}
	return uuid.Nil
}

// draftOf is an instrument's schedule as the rules of recipes read it.
func (m *moment) draftOf(in *recipe.Instrument) recipe.Draft { return in.Draft(m.loggedOf(in)) }

// loggedOf is what has happened to an instrument so far.
func (m *moment) loggedOf(in *recipe.Instrument) recipe.Logged {
	l := recipe.Logged{Done: make(map[uuid.UUID]int), Skipped: make(map[uuid.UUID]bool), Spoken: m.log.Spoken()}
	for _, p := range in.Pieces {
		for i := range p.Steps {
			s := &p.Steps[i]
			most := max(s.Coats, 1)
			if s.Repeat != nil {
				most = max(most, s.Repeat.Most)
			}
			for coat := 1; coat <= most; coat++ {
				if fact, done := m.facts[job.Event{Step: s.ID, Coat: coat}]; done {
					l.Done[s.ID] = coat
					l.Skipped[s.ID] = l.Skipped[s.ID] || (coat == 1 && fact.Skipped)
				}
			}
		}
	}
	return l
}

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

// over lists the verdicts on a coat: for each material that lies below it in its
// regions, as it is logged where that is done, else as it is planned.
func (m *moment) over(at located) []OverView {
	list := []OverView{}
	step := at.step()
	if step.Family == "" {
		return list
	}
	seen := make(map[string]bool)
	for _, region := range step.Regions {
		under := m.under(at, region)
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
func (m *moment) under(at located, region uuid.UUID) string {
	var lying strata.Lying[uuid.UUID]
	for _, piece := range at.instrument().Pieces {
		for i := range piece.Steps {
			s := &piece.Steps[i]
			if s.ID == at.step().ID {
				return lying.Top().Family
			}
			fact := m.facts[schedule.Event{Step: s.ID, Coat: 1}]
			if !fact.Skipped && slices.Contains(s.Regions, region) {
				lying.Do(s, s.ID)
			}
		}
	}
	return lying.Top().Family
}
