package recipe

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/labour"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/unit"
)

// Extra is a step that may be added to a schedule by hand.
type Extra struct {
	ID   string `json:"id"`
	Text string `json:"text"`
	Hint string `json:"hint" doc:"what it is for, in a sentence"`
}

// extra is one step that may be added, with what is usual of it.
type extra struct {
	Extra
	line line
}

// extras are the plain steps: every kind there is, and coats by what they are for.
var extras = []extra{
	{Extra{"sand", "Sanding", "Bare wood, or what lies there, with the papers you name."},
		line{kind: job.Sand, title: "Sand", ladder: papers(220), how: "With a block, along the grain; dust off.", why: "Added by hand."}},
	{Extra{"scuff", "Scuff between coats", "Evenly dull, so that the next coat holds and lies flat."},
		line{kind: job.Scuff, title: "Scuff between coats", ladder: papers(400), how: "Evenly dull, no shiny spot, off the edges; every trace of dust off.",
			why: "The next coat holds on its scratches, and lies as flat as this."}},
	{Extra{"colour", "Colour", "A coat of what colours it."}, line{kind: job.Coat, title: "Colour", role: "colour", family: "water-dye", method: material.Wipe,
		how: "On scrap of the same wood first. Wet edge, along the grain.", why: "Added by hand."}},
	{Extra{"fill", "Fill the pores", "One filling, wiped off across the grain."}, line{kind: job.Coat, title: "Fill the pores", role: "filler", family: "water-filler",
		method: material.Wipe, how: "Rub in across the grain, wipe off across it.", why: "Each filling leaves the pores shallower."}},
	{Extra{"seal", "Sealer", "A coat that shuts in what lies below."}, line{kind: job.Coat, title: "Sealer", role: "sealer", family: "dewaxed-shellac",
		method: material.Wipe, how: "One thin, wet coat; no going back into it.", why: "It keeps what lies below from what comes over it."}},
	{Extra{"tint", "Tinted clear", "Clear with amber or colour in it."}, line{kind: job.Coat, title: "Tinted clear", role: "toner", family: "lacquer-toner",
		method: material.Spray, how: "Light, even passes; stop before it is dark enough.", why: "It darkens with every pass, and cannot be wiped off."}},
	{Extra{"clear", "Clear", "More of the clear that lies there, or another."}, line{kind: job.Coat, title: "Clear", role: "clear", family: "water-clear",
		method: material.Wipe, how: "Thin and even, with a wet edge.", why: "Added by hand."}},
	{Extra{"oil", "Oil", "Flooded, left to soak, wiped off to the last trace."}, line{kind: job.Coat, title: "Oil", role: "oil", family: "finishing-oil",
		method: material.Wipe, how: "Flood, let it soak, wipe off every trace. Cloths out flat or under water.", why: "Added by hand."}},
	{Extra{"wax", "Wax", "The end of all coats: nothing holds on it."}, line{kind: job.Coat, title: "Wax", role: "wax", family: "paste-wax",
		method: material.Wipe, how: "Thin, let it haze, buff with a soft cloth.", why: "Nothing sticks to it: it comes last."}},
	{Extra{"level", "Level", "Flat, with a block, off the edges."}, line{kind: job.Level, title: "Level", ladder: papers(800, 1200),
		how: "A flat block, dust off often, off the edges.", why: "A flat film shines evenly."}},
	{Extra{"buff", "Buff", "Compounds, each on its own pad or cloth."}, line{kind: job.Buff, title: "Buff", ladder: []string{"compound:medium", "compound:fine", "compound:swirl"},
		how: "One compound to a pad, little pressure, never long on one spot.", why: "Each compound takes the scratches of the one before."}},
	{Extra{"mask-on", "Tape on", "What is to stay clean is covered."}, line{kind: job.MaskOn, title: "Tape on", how: "Press the edge down with a nail; a crisp line is a pressed one.",
		why: "What is covered stays clean."}},
	{Extra{"mask-off", "Tape off", "While the film is dry to touch and not yet hard."}, line{kind: job.MaskOff, title: "Tape off",
		how: "Slowly, flat back over itself.", why: "Too early it smears, too late it tears the film.", film: material.TouchDry}},
	{Extra{"inspect", "Look at it", "A check that passes or does not."}, line{kind: job.Inspect, title: "Look at it under raking light",
		how: "Raking light, from all sides.", why: "Added by hand."}},
	{Extra{"gate", "Building work", "A building event that the finish waits for."}, line{kind: job.Gate, title: "Building work", fixed: 30,
		how: "Soft mat, clean hands, tape on the bit.", why: "Added by hand."}},
	{Extra{"rest", "Rest", "A night, or longer, in which nobody touches it."}, line{kind: job.Gate, title: "Let it rest", fixed: 5, rest: 24 * time.Hour,
		how: "Leave it hanging.", why: "Added by hand."}},
}

// laid are the effects that are added with all the steps that the rules write for them.
var laid = []Effect{EffectMend, EffectTexture, EffectFlame, EffectMark, EffectFlake, EffectCandy, EffectParticles, EffectLeaf, EffectPour, EffectCloth}

// effectPrefix begins the id of an addition that is an effect with all its steps.
const effectPrefix = "effect-"

// Extras lists what may be added to a schedule by hand: plain steps, then effects with all their steps.
func Extras() []Extra {
	list := make([]Extra, 0, len(extras)+len(laid))
	for _, x := range extras {
		list = append(list, x.Extra)
	}
	for _, o := range offers {
		if slices.Contains(laid, o.Effect) {
			list = append(list, Extra{effectPrefix + string(o.Effect), o.Text + ", all its steps", o.Hint})
		}
	}
	return list
}

// Addition is the steps that an extra adds to a piece of an instrument, on some regions, without ids. Of
// what lies there already it takes family, product and method. A Fault says why there are none.
func Addition(id string, in Instrument, p int, regions []uuid.UUID) ([]job.Step, *Fault, error) {
	if effect, is := strings.CutPrefix(id, effectPrefix); is {
		return additionOf(Effect(effect), in, p, regions)
	}
	at := slices.IndexFunc(extras, func(x extra) bool { return x.ID == id })
	if at < 0 {
		return nil, &Fault{Path: "what", Message: "there is no such step to add", Value: id}, nil
	}
	l, area := extras[at].line, unit.SquareMetre(0)
	for _, piece := range in.Pieces {
		for _, z := range piece.Regions {
			if slices.Contains(regions, z.ID) {
				l.regions, area = append(l.regions, Region{Key: z.ID.String(), Region: z}), area+z.AreaM2
			}
		}
	}
	l.slot = id
	like := lastLike(in.Pieces[p], l.role, regions)
	if like != nil {
		l.family, l.method = like.Family, like.Method
	}
	made, err := l.step(in.Pieces[p].Kind, nil)
	if err != nil {
		return nil, nil, err
	}
	s := made.Step
	if s.Regions = regions; like != nil {
		s.Product, s.How, s.Sheen = like.Product, like.How, like.Sheen
	}
	return []job.Step{s}, nil, nil
}

// lastLike is the last coat of a role on any of some regions; nil where there is none.
func lastLike(piece job.Piece, role string, regions []uuid.UUID) *job.Step {
	for i := len(piece.Steps) - 1; i >= 0 && role != ""; i-- {
		s := &piece.Steps[i]
		if s.Kind == job.Coat && s.Role == role && slices.ContainsFunc(piece.RegionsOf(s), func(z uuid.UUID) bool { return slices.Contains(regions, z) }) {
			return s
		}
	}
	return nil
}

// additionOf composes what was wished with one more layer, and takes the steps that come with it.
func additionOf(effect Effect, in Instrument, p int, regions []uuid.UUID) ([]job.Step, *Fault, error) {
	piece := in.Pieces[p]
	at := slices.IndexFunc(offers, func(o Offer) bool { return o.Effect == effect && slices.Contains(laid, effect) })
	if at < 0 {
		return nil, &Fault{Path: "what", Message: "there is no such effect to add", Value: effect}, nil
	}
	if in.Wish == nil || in.Wish.piece(piece.Kind) == nil {
		return nil, &Fault{Path: "what", Message: "what was wished of this piece is not known here: add the steps one by one", Value: effect}, nil
	}
	names, ids := make([]string, 0, len(regions)), make(map[string]uuid.UUID)
	for _, z := range piece.Regions {
		ids[key(piece.Kind, z.Name)] = z.ID
		if slices.Contains(regions, z.ID) {
			names = append(names, z.Name)
		}
	}
	layer := offers[at].New
	layer.ID, layer.Effect, layer.Regions = "by-hand", effect, names
	wish := in.Wish.Stacked()
	for i := range wish.Pieces {
		if w := &wish.Pieces[i]; w.Kind == piece.Kind {
			w.Layers = slices.Insert(slices.Clone(w.Layers), usualPlace(w.Layers, effect), layer)
		}
	}
	draft, faults, err := Compose(wish.Of(in.Outline, in.Own))
	if err != nil || len(faults) > 0 {
		if err == nil {
			return nil, &Fault{Path: "what", Message: faults[0].Message, Value: effect}, nil
		}
		return nil, nil, err
	}
	var list []job.Step
	for _, made := range draft.Pieces {
		for _, s := range made.Steps {
			if made.Kind != piece.Kind || s.of() == nil || s.of().ID != layer.ID {
				continue
			}
			step := s.Step
			step.Regions, step.After = nil, nil
			for _, name := range s.Regions {
				if id, known := ids[name]; known {
					step.Regions = append(step.Regions, id)
				}
			}
			list = append(list, step)
		}
	}
	if len(list) == 0 {
		return nil, &Fault{Path: "what", Message: "the rules write no step of its own for it here", Value: effect}, nil
	}
	return list, nil, nil
}

// usualPlace is where a layer of an effect that is added lies: what cuts, burns or marks the wood lowest, all
// else below what the stack ends in.
func usualPlace(layers []Layer, effect Effect) int {
	if slices.Index(effects, effect) <= slices.Index(effects, EffectMark) {
		return 0
	}
	if end := slices.IndexFunc(layers, func(l Layer) bool { return l.Effect.ends() || l.Effect == EffectWax }); end >= 0 {
		return end
	}
	return len(layers)
}

// Reckon gives a coat the minutes that are usual for its method on an area.
func Reckon(s *job.Step, area unit.SquareMetre) {
	if s.Kind != job.Coat {
		return
	}
	rate, err := labour.Find(string(s.Kind), string(s.Method))
	if err != nil {
		return
	}
	s.HandsOnMin, _ = rate.Minutes(area, 1)
	s.SetUpMin = unit.Minutes(rate.SetUp)
	if scuff, err := labour.Find("scuff", ""); err == nil {
		s.ScuffMin, _ = scuff.Minutes(area, 1)
	}
}

// checkExtras reports what is wrong with the steps that may be added.
func checkExtras() error {
	for _, x := range extras {
		if _, err := x.line.step(Body, nil); err != nil {
			return fmt.Errorf("addition %s: %w", x.ID, err)
		}
		if x.line.family != "" {
			if f, err := material.FindFamily(x.line.family); err != nil || !slices.Contains(f.Methods, x.line.method) {
				return fmt.Errorf("addition %s: %s is not put on like that", phrase.Quoted(x.ID), x.line.family)
			}
		}
	}
	return nil
}
