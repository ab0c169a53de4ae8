package repair

import (
	"fmt"
	"math"
	"slices"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/surface"
	"umberfrost/internal/craft/unit"
)

// Risks of a way beyond those of its coats, that it has to be done once more (default): where old and new
// are one film they vanish; where they are not, a ring may stay.
const (
	riskMelts unit.Percent = 6
	riskRing  unit.Percent = 25
	riskPlain unit.Percent = 8
)

// row is a row of the mends, which the tests of the package know to be there.
func row(id string) surface.Mend {
	m, err := surface.FindMend(id)
	if err != nil {
		panic(err)
	}
	return m
}

// dropMelt fills with the same film, drop by drop: its edge melts into the old.
func (s *site) dropMelt() Way {
	m := row("chip-drop-melt")
	w := Way{ID: "drop-melt", Title: "Drop-fill with the same film", Text: m.Repair + ". " + m.Note, Risk: riskMelts}
	if w.Why = s.notFilled(); s.last == nil {
		return w
	}
	if w.Why == "" && !s.film.MeltsIntoSelf {
		w.Why = s.film.Named() + " does not melt into itself: a drop of it leaves a ring that no levelling takes off"
	}
	drop := s.drop(s.film, s.last)
	drop.Coats = s.drops(s.film, drop.Method)
	drop.PerDay = &job.PerDay{Coats: 1, Reason: "each drop dries through before the next"}
	w.Steps = append(s.colourTouched(), drop)
	w.Steps = append(w.Steps, s.flush(m, drop, material.Buff)...)
	return w
}

// dropSet fills with what sets: it holds on every film, and may show as a ring.
func (s *site) dropSet() Way {
	m := row("chip-drop-set")
	w := Way{ID: "drop-set", Title: "Drop-fill with clear that sets", Text: m.Repair + ". " + m.Note, Risk: riskRing}
	w.Why = s.notFilled()
	fill, err := material.FindFamily("ca-finish")
	if err != nil {
		panic(err)
	}
	drop := s.drop(fill, nil)
	drop.Coats = 2
	w.Steps = append(s.colourTouched(), drop)
	w.Steps = append(w.Steps, s.flush(m, drop, material.Sand)...)
	return w
}

// notFilled says why a spot cannot be filled; empty where it can.
func (s *site) notFilled() string {
	switch {
	case s.last == nil || s.oiled():
		return "there is no film to fill: " + s.has() + " lies there"
	case s.isMetallic() && s.deep():
		return "flake, candy and leaf cannot be touched in: a spot in them always shows"
	}
	return ""
}

// drop is filling a spot with a film until it stands proud.
func (s *site) drop(f material.Family, like *job.Step) job.Step {
	d := job.Step{Kind: job.Coat, Title: "Drop-fill the spot, proud", Role: "clear", Family: f.ID, HandsOnMin: 10, SetUpMin: 5, ScuffMin: 5,
		How: "Clean the bottom, ease the rim. One drop at a time from a needle or a fine brush, into the spot and not beside it, until " +
			"it stands a little proud.",
		Why: "It sinks as it dries: what is level today is a dip next week."}
	if like != nil {
		d.Product = like.Product
	}
	d.Method = f.Methods[0]
	for _, by := range []material.Method{material.Brush, material.Drop} {
		if slices.Contains(f.Methods, by) {
			d.Method = by
		}
	}
	return d
}

// drops is how many drops fill a spot as deep as the film, a tenth proud: from 2 to 8.
func (s *site) drops(f material.Family, by material.Method) int {
	each := dryOf(f, by)
	if each <= 0 {
		return 2
	}
	return min(8, max(2, int(math.Ceil(1.1*float64(s.thickness())/float64(each)))))
}

// flush takes a fill level and makes it one with what lies round it: scraped, levelled up the ladder, blended
// and looked at. Where the levelling of the region is still to come, that does it.
func (s *site) flush(m surface.Mend, fill job.Step, wait material.Milestone) []job.Step {
	scrape := job.Step{Kind: job.Level, Title: "Scrape and level the fill flush", Film: wait, HandsOnMin: m.Minutes,
		Ladder:  s.ladderFrom(m.Flush),
		RestMin: unit.Minutes(m.Wait.Minutes()), Check: "flat-under-block",
		How: "A blade with taped ends until the fill is a hair proud, then a small hard block on the fill alone, then up the ladder a " +
			"palm round it.",
		Why: "A pad follows the hill; a hard block cuts it."}
	// the row's wait comes before the level: it is that of the fill
	steps := []job.Step{rest(fill, scrape.RestMin)}
	scrape.RestMin = 0
	if s.ahead {
		scrape.Ladder = scrape.Ladder[:1]
		return append(steps, scrape)
	}
	steps = append(steps, scrape)
	if s.buff != nil {
		steps = append(steps, s.blend())
	}
	return append(steps, witness())
}

// rest is a step in which nobody touches a fill, as long as its row says.
func rest(fill job.Step, minutes unit.Minutes) job.Step {
	return job.Step{Kind: job.Gate, Title: "Let the fill harden", HandsOnMin: 5, RestMin: minutes,
		How: "Leave it hanging, the spot upwards.",
		Why: "A fill is soft inside longer than the film round it."}
}

// blend brings the sheen of the spot back to that of its region.
func (s *site) blend() job.Step {
	b := *s.buff
	b.Title, b.Coats, b.HandsOnMin = "Blend the sheen in", 1, max(5, b.HandsOnMin/3)
	b.How = "From the spot outwards, with less and less pressure, to an edge or a line of the piece. " + b.How
	return b
}

func witness() job.Step {
	return job.Step{Kind: job.Inspect, Title: "Look for a witness line", Check: "witness-look", HandsOnMin: 5,
		How: "A low lamp from two sides, a breath on it, then daylight.",
		Why: "A ring that is seen now is a panel; one that is found by the customer is a return."}
}

// ladderFrom is the ladder on which a region was levelled, from a grit on.
func (s *site) ladderFrom(flush string) []string {
	first, err := abrasive.Find(flush)
	ladder := []string{flush}
	if err != nil {
		ladder, first = []string{"fepa:P800"}, abrasive.Grit{Scratch: 5}
	}
	if s.level == nil {
		return ladder
	}
	for _, key := range s.level.Ladder {
		if g, err := abrasive.Find(key); err == nil && g.Scratch > 0 && g.Scratch < first.Scratch {
			ladder = append(ladder, key)
		}
	}
	return ladder
}

// colourTouched is the colour of a spot that goes deeper than the clear: with what was put on there, bound so that
// it stays.
func (s *site) colourTouched() []job.Step {
	colours := s.coats("colour")
	if s.asked.Depth == "" || s.asked.Depth == InClear || len(colours) == 0 {
		return s.sealedSpot()
	}
	family := "lacquer-toner"
	if !s.film.MeltsIntoSelf {
		family = "airbrush-colour"
	}
	recorded := colours[len(colours)-1]
	touch := job.Step{Kind: job.Coat, Title: "Touch the colour in", Role: "toner", Family: family, Method: material.Spray, Coats: 3,
		HandsOnMin: 15, SetUpMin: 5,
		How: fmt.Sprintf("By the recipe that is in the log of %s, tried on scrap beside the piece. Dry mists or dots with a fine brush, "+
			"never strokes; stop short of dark enough.",
			phrase.Quoted(recorded.Title)),
		Why: "Clear deepens it, and what is too dark cannot be taken back."}
	if f, err := material.FindFamily(recorded.Family); err == nil && slices.Contains(f.Methods, material.Spray) && f.Group == "colour" &&
		f.ID != "water-dye" && f.ID != "solvent-dye" {
		touch.Family, touch.Product = recorded.Family, recorded.Product
	}
	return append(s.sealedSpot(), touch)
}

// sealedSpot shuts bared wood before colour: it drinks darker than before.
func (s *site) sealedSpot() []job.Step {
	if s.asked.Depth != InWood {
		return nil
	}
	return []job.Step{{Kind: job.Coat, Title: "Seal the bared spot", Role: "sealer", Family: "dewaxed-shellac", Method: material.Brush,
		HandsOnMin: 10, SetUpMin: 5,
		How: "One thin touch on the bare wood alone, feathered with the cloth.",
		Why: "Bare wood drinks colour darker than before: sealed, it can be toned up step by step."}}
}

// cutDown takes a hard run off without new film.
func (s *site) cutDown() Way {
	m := row("run-hard")
	w := Way{ID: "cut-down", Title: "Cut the run down", Text: m.Repair + ". " + m.Note, Risk: riskPlain}
	if s.last == nil || s.oiled() {
		w.Why = "there is no film that could run: " + s.has() + " lies there"
		return w
	}
	cut := job.Step{Kind: job.Level, Title: "Cut the run down", Film: material.Sand, HandsOnMin: m.Minutes, Ladder: []string{m.Flush},
		Check: "flat-under-block",
		How:   m.Repair + ".", Why: m.Note}
	w.Steps = []job.Step{{Kind: job.Gate, Title: "Let the run harden", HandsOnMin: 5, RestMin: unit.Minutes(m.Wait.Minutes()),
		How: "Leave it until the thumbnail leaves no mark in the thickest of it.",
		Why: "A run is soft inside for days longer than the panel."}, cut}
	if !s.ahead && s.buff != nil {
		up := cut
		up.Title, up.Ladder, up.Film = "Level round it", s.ladderFrom(m.Flush), ""
		w.Steps = append(w.Steps, up, s.blend(), witness())
	}
	return w
}

// rubOut levels a scratch out where the film bears it.
func (s *site) rubOut() Way {
	m := row("scratch-film")
	w := Way{ID: "rub-out", Title: "Level it out and rub up", Text: m.Repair + ". " + m.Note, Risk: riskPlain}
	switch {
	case s.last == nil || s.oiled():
		w.Why = "there is no film to level: " + s.has() + " lies there"
		return w
	case s.asked.Depth == InColour || s.asked.Depth == InWood:
		w.Why = "the scratch goes through the clear: there is nothing left to level it in"
	}
	level := job.Step{Kind: job.Level, Title: "Level the scratch out", Film: material.Sand, HandsOnMin: m.Minutes,
		Ladder: s.ladderFrom(m.Flush), Check: "flat-under-block",
		How: "The finest grit that reaches its bottom, a small block, a palm round it. Measure the film first.",
		Why: "Half of the film may be gone already."}
	w.Steps = []job.Step{level}
	if s.buff != nil && !s.ahead {
		w.Steps = append(w.Steps, s.blend())
	}
	w.Steps = append(w.Steps, witness())
	return w
}

// touchUp puts a burn-through right: sealed, coloured as the log has it, cleared to the next edge, levelled.
func (s *site) touchUp() Way {
	id := "burn-colour-spot"
	if s.asked.Depth == InWood {
		id = "burn-wood-spot"
	}
	m := row(id)
	w := Way{ID: "touch-up", Title: "Touch the colour in and clear past it", Text: m.Repair + ". " + m.Note, Risk: riskRing}
	switch {
	case s.last == nil || s.oiled():
		w.Why = "there is no film over it: " + s.has() + " lies there"
		return w
	case s.isMetallic():
		w.Why = "a spot in flake, candy or leaf always shows: the panel goes back to its ground"
	}
	if s.film.MeltsIntoSelf {
		w.Risk = riskMelts
	}
	w.Steps = append(s.feathered(), s.colourTouched()...)
	w.Steps = append(w.Steps, s.clearAgain(3)...)
	w.Steps = append(w.Steps, s.finished()...)
	return w
}

// feathered dulls the edge of a spot so that what comes holds on it.
func (s *site) feathered() []job.Step {
	return []job.Step{{Kind: job.Scuff, Title: "Feather the edge of the spot", Film: material.Sand, Ladder: []string{"fepa:P800"},
		HandsOnMin: 10, Check: "dull-gone",
		How: "A small soft block, from the spot outwards, until no step is felt; the rest of the panel just dull.",
		Why: "What is new holds on the scratches, and a step in the film is a line for good."}}
}

// steam swells a dent out where no film is in its way.
func (s *site) steam() Way {
	m := row("dent-steam")
	w := Way{ID: "steam", Title: "Steam it out", Text: m.Repair + ". " + m.Note, Risk: riskPlain}
	switch {
	case s.last != nil && !s.oiled():
		w.Why = "a film of " + s.film.Named() + " lies over it: steam blushes and lifts it"
	case s.timber.Substrate != "" && s.timber.Substrate != "wood":
		w.Why = "only wood swells back: steam lifts a veneer and softens plastic"
	}
	w.Steps = []job.Step{
		{Kind: job.Gate, Title: "Steam the dent out", HandsOnMin: m.Minutes, RestMin: unit.Minutes(m.Wait.Minutes()), How: m.Repair + ".",
			Why: m.Note},
		{Kind: job.Sand, Title: "Sand the spot back", Ladder: []string{m.Flush}, HandsOnMin: 5, How: "A few strokes with the grain.",
			Why: "Steam raises the grain all round."},
	}
	if s.oiled() {
		w.Steps = append(w.Steps, s.oilAgain()...)
	}
	return w
}

// renewOil sands a spot of an oiled surface and oils it again: oil needs no edge.
func (s *site) renewOil() Way {
	w := Way{ID: "renew-oil", Title: "Sand the spot and oil it again",
		Text: "Oil has no edge: a spot that is sanded and oiled until it is even is not found again. The rest gets one thin coat with it.",
		Risk: riskPlain}
	if !s.oiled() {
		w.Why = "it is not oiled: " + s.has() + " lies there"
		return w
	}
	w.Steps = append([]job.Step{{Kind: job.Sand, Title: "Sand the spot", Film: material.Sand, Ladder: []string{"fepa:P320", "fepa:P400"},
		HandsOnMin: 10,
		How:        "With the grain, feathered a hand wide.", Why: "Oil goes in only where the wood is open."}}, s.oilAgain()...)
	return w
}

func (s *site) oilAgain() []job.Step {
	oil := *s.last
	oil.Title, oil.Coats, oil.Role = "Oil it again, until even", 2, "oil"
	oil.Repeat = &job.Repeat{Least: 1, Most: 5}
	return []job.Step{oil, witness()}
}
