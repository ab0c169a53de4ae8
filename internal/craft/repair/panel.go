package repair

import (
	"fmt"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/labour"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/surface"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

// What is done again to whole regions.

// minutes are those of work gone over an area, by the table of labour.
func (s *site) minutes(work string, times int) unit.Minutes {
	rate, err := labour.Find(work, "")
	if err != nil {
		return 30
	}
	m, _ := rate.Minutes(s.area, max(times, 1))
	return m
}

// panel sprays a panel anew as far as its next edge or line.
func (s *site) panel() Way {
	w := Way{ID: "panel", Title: "Coat the panel again, to its next edge",
		Text: "Scuffed all over and coated from edge to edge: a film that does not melt shows no ring where there is no middle.",
		Risk: riskPlain}
	switch {
	case s.last == nil || s.oiled():
		w.Why = "there is no film to coat again: " + s.has() + " lies there"
		return w
	case s.waxed():
		w.Why = "wax lies on it: nothing holds on that"
	case s.isMetallic() && s.deep():
		w.Why = "flake, candy and leaf are not scuffed: the panel goes back to its ground"
	}
	w.Steps = append(w.Steps,
		job.Step{Kind: job.MaskOn, Title: "Fine-line tape along the edge of the panel", HandsOnMin: s.minutes("mask-on", 1),
			Check: "tape-pressed",
			How: "Along a hard edge or a line of the piece, paper behind it. Where there is none, fold the tape back on itself so that " +
				"the coat fades out.",
			Why: "A line that lies on an edge is not seen."},
		job.Step{Kind: job.Scuff, Title: "Scuff the panel", Film: material.Sand, Ladder: []string{"fepa:P600"},
			HandsOnMin: s.minutes("scuff", 1), Check: "dull-gone",
			How: "Evenly dull, no shiny spot, off the edges; every trace of dust off.", Why: "The new film holds on its scratches."})
	w.Steps = append(w.Steps, s.colourTouched()...)
	w.Steps = append(w.Steps, s.clearAgain(0)...)
	w.Steps = append(w.Steps, job.Step{Kind: job.MaskOff, Title: "Tape off", Film: material.TouchDry, HandsOnMin: s.minutes("mask-off", 1),
		Check: "tape-lifted",
		How:   "Slowly, flat back over itself, while the film is dry to touch and not hard.",
		Why:   "Too early it smears, too late it tears the edge."})
	w.Steps = append(w.Steps, s.finished()...)
	return w
}

func (s *site) deep() bool { return s.asked.Depth == InColour || s.asked.Depth == InWood }

// clearAgain is the clear as it was put on last, so many coats; 0: as many as then.
func (s *site) clearAgain(coats int) []job.Step {
	again := *s.last
	again.Title = "Clear again"
	if coats > 0 {
		again.Coats, again.How = coats, "Each coat a little further out than the one before, the last to the next edge. "+again.How
	}
	again.Coats = max(again.Coats, 2)
	return []job.Step{again}
}

// finished is how the regions were levelled and buffed, once more; nothing where that is still to come.
func (s *site) finished() []job.Step {
	if s.ahead {
		return nil
	}
	var steps []job.Step
	for _, kind := range []*job.Step{s.level, s.buff} {
		if kind != nil {
			again := *kind
			again.Coats = 1
			steps = append(steps, again)
		}
	}
	return append(steps, witness())
}

// metallic takes a panel of flake, candy or leaf back to its ground and lays it again.
func (s *site) metallic() Way {
	m := row("burn-metallic")
	w := Way{ID: "to-ground", Title: "Take the panel back to its ground", Text: m.Repair + ". " + m.Note, Risk: riskRing}
	if !s.isMetallic() {
		w.Why = "neither flake nor candy nor leaf lies there"
		return w
	}
	first := slices.IndexFunc(s.done, func(o job.Step) bool { return slices.Contains(metallics, o.Family) })
	w.Steps = append([]job.Step{{Kind: job.Sand, Title: "Sand back to the ground", Film: material.Sand,
		Ladder:     []string{"fepa:P320", "fepa:P400"},
		HandsOnMin: max(m.Minutes, s.minutes("sand-bare", 2)), Terms: job.Terms{Dusty: true},
		How: "The whole panel, flat, until the base shows evenly everywhere.", Why: m.Note}},
		again(s.done[first:])...)
	w.Steps = append(w.Steps, s.finished()...)
	return w
}

// cutAndRecoat cuts a run down and coats the panel again, where the film would be too thin after the cut.
func (s *site) cutAndRecoat() Way {
	w := s.panel()
	w.ID, w.Title = "cut-recoat", "Cut it down and coat the panel again"
	w.Text = "For a run that has torn open, or a film that is thin beside it: the cut would go through."
	if w.Why == "" {
		w.Steps = append(s.cutDown().Steps[:2], w.Steps...)
	}
	return w
}

// strip takes everything off and begins with the bare wood.
func (s *site) strip() Way {
	w := Way{ID: "strip", Title: "Strip it to the wood and do it again",
		Text: "The longest way, and the one that leaves nothing of what went wrong. What was done there is done again in the same order.",
		Risk: riskPlain}
	switch {
	case len(s.coats("colour", "fill", "seal", "clear", "oil-wax")) == 0:
		w.Why = "nothing lies there yet"
		return w
	case s.timber.Substrate == wood.Veneer:
		w.Why = "a veneer does not bear another sanding to the wood: one or two strokes and its core shows"
	}
	w.Steps = append(s.stripped(), again(s.done[s.firstCoat():])...)
	return w
}

func (s *site) firstCoat() int {
	return max(0, slices.IndexFunc(s.done, func(o job.Step) bool { return o.Kind == job.Coat }))
}

// stripped takes a film off down to the wood.
func (s *site) stripped() []job.Step {
	to := s.timber.SandBareTo
	if to == 0 {
		to = 180
	}
	ladder := []string{"fepa:P120", "fepa:P150", "fepa:P180", "fepa:P220"}
	for len(ladder) > 2 && gritOf(ladder[len(ladder)-1]) > to {
		ladder = ladder[:len(ladder)-1]
	}
	return []job.Step{{Kind: job.Sand, Title: "Strip to the bare wood", Film: material.Buff, Ladder: ladder,
		HandsOnMin: s.minutes("sand-bare", len(ladder)+2),
		Tool:       "orbital-sander", Check: "bare-or-sealed",
		How: "A scraper first where it comes off in curls, then the ladder. A drop of water must soak in everywhere before colour.",
		Why: "Each spot of old film that is left shows as soon as colour is on."}}
}

func gritOf(key string) int {
	var n int
	_, _ = fmt.Sscanf(key, "fepa:P%d", &n) // anything else is no paper
	return n
}

// again is what was done, once more: coats, what was done between them, checks of it; not what was drilled,
// joined or fitted.
func again(done []job.Step) []job.Step {
	var list []job.Step
	for i, step := range done {
		if step.Kind == job.Gate {
			continue
		}
		if i == 0 || done[i-1].Kind == job.Gate {
			step.Within = nil // what it followed is not done again
		}
		step.Repeat = nil
		list = append(list, step)
	}
	return list
}

// again are the ways of doing a step again, and all that was done since.
func (s *site) again(from uuid.UUID) ([]Way, error) {
	at := slices.IndexFunc(s.done, func(o job.Step) bool { return o.ID == from })
	if at < 0 {
		return nil, &edit.Fault{Field: "fromId", Message: "must be a step that is done, at least in part, on these regions"}
	}
	step, since := s.done[at], again(s.done[at:])
	f, _ := material.FindFamily(step.Family)
	inWood := step.Kind == job.Coat && (f.Group == "colour" || f.Group == "fill") && slices.IndexFunc(s.done[:at], func(o job.Step) bool {
		g, err := material.FindFamily(o.Family)
		return err == nil && o.Kind == job.Coat && (g.Group == "seal" || g.Group == "clear")
	}) < 0
	first := "“" + step.Title + "”"
	var ways []Way

	on := Way{ID: "on-top", Title: "Scuff, and once more on top",
		Text: fmt.Sprintf("What lies there stays: dulled evenly, then %s and all since again.", first), Risk: riskPlain}
	switch {
	case step.Kind != job.Coat:
		on.Why = first + " is no coat: it is done again as it was"
	case inWood && slices.ContainsFunc(s.done[at:], func(o job.Step) bool { return o.Kind == job.Coat && groupOf(o.Family) == "clear" }):
		on.Why = "colour and filler that lie under film cannot be reached: the film comes off first"
	case s.waxed():
		on.Why = "wax lies on it: nothing holds on that"
	case slices.Contains(metallics, step.Family):
		on.Why = phrase.Capital(f.Named()) + " is not scuffed: it goes back to its ground"
	}
	if step.Kind == job.Coat {
		if s.oiled() || inWood {
			on.Title, on.Text = "Once more over it", fmt.Sprintf("%s and all since again, over what lies there.", first)
		} else {
			on.Steps = append(on.Steps, job.Step{Kind: job.Scuff, Title: "Scuff what lies there", Film: material.Sand,
				Ladder:     []string{"fepa:P400"},
				HandsOnMin: s.minutes("scuff", 1), Check: "dull-gone", How: "Evenly dull, off the edges; dust off.",
				Why: "The next coat holds on its scratches."})
		}
		on.Steps = append(on.Steps, since...)
	}
	ways = append(ways, on)

	back := Way{ID: "sand-back", Title: "Sand back to below it, and again", Risk: riskPlain,
		Text: fmt.Sprintf("What was put on since goes off flat, then %s and all since again. Under film that does not melt, coats cut "+
			"through show as contours: level within one coat.", first)}
	if step.Kind == job.Coat && !inWood {
		back.Steps = append(back.Steps, job.Step{Kind: job.Level, Title: "Sand back to below it", Film: material.Sand,
			Ladder:     []string{"fepa:P400", "fepa:P600"},
			HandsOnMin: s.minutes("level", 2), Check: "scratch-one-way",
			How: "Flat, with a hard block, until what went wrong is gone; look at the edges first.",
			Why: "A fault under film grows with every coat over it."})
	} else if step.Kind == job.Coat {
		back.Why = "it lies in the wood: there is no film below it to stop at"
	}
	back.Steps = append(back.Steps, since...)
	if step.Kind != job.Coat {
		back.ID, back.Title, back.Text = "as-it-was", "As it was, once more", fmt.Sprintf("%s and all since again.", first)
	}
	return append(ways, back, s.strip()), nil
}

func groupOf(family string) string {
	f, err := material.FindFamily(family)
	if err != nil {
		return ""
	}
	return f.Group
}

// answers are what the tests of an old film may have told, each with what it means.
func (s *site) answers() []Way {
	var ways []Way
	for _, f := range surface.All() {
		if !slices.Contains([]string{"old-alcohol", "old-thinner", "old-thinner-wrinkles", "old-none", "old-mixed", "old-paint",
			"old-sticky"}, f.ID) {
			continue
		}
		w := Way{ID: f.ID, Title: phrase.Capital(f.What), Text: fmt.Sprintf("Told by: %s. Off first: %s. %s", f.Tell, f.ComesOff, f.Note),
			Found: f.ID, Risk: riskPlain}
		if s.in.Wish == nil {
			w.Why = "what is wished of this instrument is not known here: plan it anew"
		}
		ways = append(ways, w)
	}
	return ways
}
