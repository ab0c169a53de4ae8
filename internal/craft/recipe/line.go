package recipe

import (
	"errors"
	"fmt"
	"time"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/check"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/labour"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// line is one step as the rules write it.
type line struct {
	slot    string // its role: what it is of its layer, or of its piece
	kind    job.Kind
	title   string
	regions []Region // nil: all of the piece
	after   []string
	role    string // of a coat
	family  string
	method  material.Method
	coats   int
	sheen   string
	ladder  []string // grits or compounds, by key
	check   string
	film    material.Milestone
	rest    time.Duration
	work    string // row of labour.csv where it is not the kind's own
	fixed   unit.Minutes
	tool    string
	how     string
	why     string
	school  string
	terms   job.Terms
}

// step works out a line. The rules are written here, so what they name must exist:
// a mistake is reported with the slot's name.
func (l line) step(piece PieceKind, of *Layer) (Step, error) {
	slot := l.slot
	if of != nil {
		slot = of.ID + ":" + slot
	}
	s := Step{After: l.after, Step: job.Step{
		Slot: key(piece, slot), Kind: l.kind, Title: l.title, Role: l.role, Family: l.family, Method: l.method, Coats: max(l.coats, 1),
		Ladder: l.ladder, Check: l.check, Film: l.film, RestMin: unit.Minutes(l.rest.Minutes()), Tool: l.tool, How: l.how, Why: l.why,
		School: l.school, Sheen: l.sheen, Terms: l.terms,
	}}
	var area unit.SquareMetre
	for _, region := range l.regions {
		s.Regions = append(s.Regions, region.Key)
		area += region.AreaM2
	}
	_, errLadder := abrasive.LadderOf(l.ladder...)
	errCheck, errSchool := error(nil), error(nil)
	if l.check != "" {
		_, errCheck = check.Find(l.check)
	}
	if l.school != "" {
		_, errSchool = FindSchool(l.school)
	}
	if err := errors.Join(errLadder, errCheck, errSchool); err != nil {
		return Step{}, fmt.Errorf("slot %s: %w", s.Slot, err)
	}
	if l.fixed > 0 {
		s.HandsOnMin = l.fixed
		return s, nil
	}
	rate, err := l.rate()
	if err != nil {
		return Step{}, fmt.Errorf("slot %s: %w", s.Slot, err)
	}
	s.HandsOnMin, _ = rate.Minutes(area, max(len(l.ladder), 1))
	if l.kind == job.Coat && l.method != "" {
		s.SetUpMin = unit.Minutes(rate.SetUp)
		scuff, err := labour.Find("scuff", "")
		if err != nil {
			return Step{}, fmt.Errorf("slot %s: %w", s.Slot, err)
		}
		s.ScuffMin, _ = scuff.Minutes(area, 1)
	}
	return s, nil
}

func (l line) rate() (labour.Rate, error) {
	work := l.work
	if work == "" {
		work = string(l.kind)
		if l.kind == job.Sand {
			work = "sand-bare"
		}
	}
	return labour.Find(work, string(l.method))
}
