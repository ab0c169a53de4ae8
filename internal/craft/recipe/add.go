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
		line{kind: job.Scuff, title: "Scuff between coats", ladder: papers(400),
			how: "Evenly dull, no shiny spot, off the edges; every trace of dust off.",
			why: "The next coat holds on its scratches, and lies as flat as this."}},
	{Extra{"colour", "Colour", "A coat of what colours it."}, line{kind: job.Coat, title: "Colour", role: "colour", family: "water-dye",
		method: material.Wipe,
		how:    "On scrap of the same wood first. Wet edge, along the grain.", why: "Added by hand."}},
	{Extra{"fill", "Fill the pores", "One filling, wiped off across the grain."},
		line{kind: job.Coat, title: "Fill the pores", role: "filler", family: "water-filler",
			method: material.Wipe, how: "Rub in across the grain, wipe off across it.", why: "Each filling leaves the pores shallower."}},
	{Extra{"seal", "Sealer", "A coat that shuts in what lies below."}, line{kind: job.Coat, title: "Sealer", role: "sealer",
		family: "dewaxed-shellac",
		method: material.Wipe, how: "One thin, wet coat; no going back into it.",
		why: "It keeps what lies below from what comes over it."}},
	{Extra{"tint", "Tinted clear", "Clear with amber or colour in it."},
		line{kind: job.Coat, title: "Tinted clear", role: "toner", family: "lacquer-toner",
			method: material.Spray, how: "Light, even passes; stop before it is dark enough.",
			why: "It darkens with every pass, and cannot be wiped off."}},
	{Extra{"clear", "Clear", "More of the clear that lies there, or another."},
		line{kind: job.Coat, title: "Clear", role: "clear", family: "water-clear",
			method: material.Wipe, how: "Thin and even, with a wet edge.", why: "Added by hand."}},
	{Extra{"oil", "Oil", "Flooded, left to soak, wiped off to the last trace."},
		line{kind: job.Coat, title: "Oil", role: "oil", family: "finishing-oil",
			method: material.Wipe, how: "Flood, let it soak, wipe off every trace. Cloths out flat or under water.",
			why: "Added by hand."}},
	{Extra{"wax", "Wax", "The end of all coats: nothing holds on it."}, line{kind: job.Coat, title: "Wax", role: "wax", family: "paste-wax",
		method: material.Wipe, how: "Thin, let it haze, buff with a soft cloth.", why: "Nothing sticks to it: it comes last."}},
	{Extra{"level", "Level", "Flat, with a block, off the edges."}, line{kind: job.Level, title: "Level", ladder: papers(800, 1200),
		how: "A flat block, dust off often, off the edges.", why: "A flat film shines evenly."}},
	{Extra{"buff", "Buff", "Compounds, each on its own pad or cloth."},
		line{kind: job.Buff, title: "Buff", ladder: []string{"compound:medium", "compound:fine", "compound:swirl"},
			how: "One compound to a pad, little pressure, never long on one spot.",
			why: "Each compound takes the scratches of the one before."}},
	{Extra{"mask-on", "Tape on", "What is to stay clean is covered."}, line{kind: job.MaskOn, title: "Tape on",
		how: "Press the edge down with a nail; a crisp line is a pressed one.",
		why: "What is covered stays clean."}},
	{Extra{"mask-off", "Tape off", "While the film is dry to touch and not yet hard."}, line{kind: job.MaskOff, title: "Tape off",
		how: "Slowly, flat back over itself.", why: "Too early it smears, too late it tears the film.", film: material.TouchDry}},
	{Extra{"inspect", "Look at it", "A check that passes or does not."}, line{kind: job.Inspect, title: "Look at it under raking light",
		how: "Raking light, from all sides.", why: "Added by hand."}},
	{Extra{"gate", "Building work", "A building event that the finish waits for."}, line{kind: job.Gate, title: "Building work", fixed: 30,
		how: "Soft mat, clean hands, tape on the bit.", why: "Added by hand."}},
	{Extra{"rest", "Rest", "A night, or longer, in which nobody touches it."},
		line{kind: job.Gate, title: "Let it rest", fixed: 5, rest: 24 * time.Hour,
			how: "Leave it hanging.", why: "Added by hand."}},
}

// bundle is several steps, one after the other, that shops put into a schedule together.
type bundle struct {
	Extra
	lines []line
}

// bundles are fragments that shops use.
var bundles = []bundle{
	{Extra{"holes-after-film", "Open holes that film has closed",
		"Scored, reamed and chamfered without a chip, what is bared sealed, screws waxed."}, []line{
		{kind: job.Gate, title: "Score and ream the holes that film has closed", tool: "knife", fixed: 20, film: material.Handle,
			check: "hole-gauge",
			how:   "Score each rim, ream by hand from both faces, chamfer it. Tape round the hole; never a drill at speed in film.",
			why:   "Film closes a hole by more than its own thickness, and a rim that is not scored chips outwards."},
		{kind: job.Coat, title: "Seal the bared rims", role: "sealer", family: "dewaxed-shellac", method: material.Brush, fixed: 10,
			how: "A drop on each bared rim and into each hole, wiped off the face at once.",
			why: "Bare rims take up water and sweat, and the film lets go round them."},
		{kind: job.Gate, title: "Wax the screws, try the hardware", fixed: 15, check: "hole-chamfer",
			how: "Paste wax on every thread; draw up by hand, out again.",
			why: "A dry screw turns the film with it."}}},
	{Extra{"logo-late", "A logo buried late", "Laid on a dull film when most of the clear is on, buried and levelled."}, []line{
		{kind: job.Scuff, title: "Dull the face for the logo", film: material.Sand, ladder: papers(600),
			how: "Evenly dull where it comes to lie; dust off, spirit wipe.",
			why: "On a shining film it slides, and its edge silvers."},
		{kind: job.Gate, title: "Lay the logo", work: "mark", film: material.Recoat, check: "mark-proof",
			how: "Floated or rubbed down from the middle, every bubble out; left to dry overnight.",
			why: "Water under it lifts it with the first coat."},
		{kind: job.Coat, title: "Mist coats over the logo", role: "clear", family: "nitro", method: material.Spray, coats: 2,
			how: "Two dry mists first: a wet coat lifts or wrinkles it.",
			why: "The film of the logo is thin, and solvent goes through it."},
		{kind: job.Coat, title: "Bury the logo", role: "clear", family: "nitro", method: material.Spray, coats: 4,
			how: "Full coats over the whole face, until the edge is not felt.",
			why: "Every edge is felt by thumb until the clear has levelled over it."},
		{kind: job.Level, title: "Level over the logo", film: material.Buff, ladder: papers(800, 1000), check: "flat-under-block",
			how: "A hard block across the edges, never along them; stop when they are gone.",
			why: "What is cut now is clear, or the logo."}}},
	{Extra{"frets-after", "Frets after the finish",
		"Slots opened through the film, frets in, levelled and polished with the film covered."}, []line{
		{kind: job.Gate, title: "Open the fret slots through the film", tool: "knife", fixed: 40, film: material.Handle,
			check: "slot-depth",
			how:   "Score along both edges of each slot, saw to depth with the film scored, chamfer the edges lightly.",
			why:   "A fret that is pressed through film lifts a flake on each side."},
		{kind: job.MaskOn, title: "Tape the board beside the slots", fixed: 20, check: "tape-pressed",
			how: "Low-tack tape along each slot, paper over the film.",
			why: "Glue and a slipping hammer mark film for good."},
		{kind: job.Gate, title: "Frets in", fixed: 90, rest: 24 * time.Hour,
			how: "Bent to the board, a trace of glue, pressed or tapped from the ends inwards; ends nipped and bevelled.",
			why: "The glue holds what the film no longer lets the wood grip."},
		{kind: job.Gate, title: "Level, crown and polish the frets", work: "fret-crown", check: "three-fret-rocker",
			how: "Crowns marked, levelled until the marks are gone, crowned, ends rounded, up the ladder.",
			why: "Metal dust in film stays: tape, and a vacuum at the file."},
		{kind: job.MaskOff, title: "Tape off the board", fixed: 10, check: "tape-lifted", how: "Slowly, away from the frets.",
			why: "Its glue hardens on film within days."}}},
}

// laid are the effects that are added with all the steps that the rules write for them.
var laid = []Effect{EffectMend, EffectTexture, EffectFlame, EffectMark, EffectFlake, EffectCandy, EffectParticles, EffectLeaf, EffectPour,
	EffectCloth, EffectWear}

// effectPrefix begins the id of an addition that is an effect with all its steps.
const effectPrefix = "effect-"

// Extras lists what may be added to a schedule by hand: plain steps, then effects with all their steps.
func Extras() []Extra {
	list := make([]Extra, 0, len(extras)+len(bundles)+len(laid))
	for _, x := range extras {
		list = append(list, x.Extra)
	}
	for _, b := range bundles {
		list = append(list, b.Extra)
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
	lines := linesOf(id)
	if lines == nil {
		return nil, &Fault{Path: "what", Message: "there is no such step to add", Value: id}, nil
	}
	var list []job.Step
	for n, l := range lines {
		for _, piece := range in.Pieces {
			for _, z := range piece.Regions {
				if slices.Contains(regions, z.ID) {
					l.regions = append(l.regions, Region{Key: z.ID.String(), Region: z})
				}
			}
		}
		l.slot = fmt.Sprintf("%s-%d", id, n+1)
		like := lastLike(in.Pieces[p], l.role, regions)
		if like != nil {
			l.family, l.method = like.Family, like.Method
		}
		made, err := l.step(in.Pieces[p].Kind, nil)
		if err != nil {
			return nil, nil, err
		}
		s := made.Step
		if s.Regions = slices.Clone(regions); like != nil {
			s.Product, s.Sheen = like.Product, like.Sheen
		}
		list = append(list, s)
	}
	return list, nil, nil
}

// linesOf are the lines of a plain step or of a bundle; none where there is no such addition.
func linesOf(id string) []line {
	if i := slices.IndexFunc(extras, func(x extra) bool { return x.ID == id }); i >= 0 {
		return []line{extras[i].line}
	}
	if i := slices.IndexFunc(bundles, func(b bundle) bool { return b.ID == id }); i >= 0 {
		return bundles[i].lines
	}
	return nil
}

// lastLike is the last coat of a role on any of some regions; nil where there is none.
func lastLike(piece job.Piece, role string, regions []uuid.UUID) *job.Step {
	for i := len(piece.Steps) - 1; i >= 0 && role != ""; i-- {
		s := &piece.Steps[i]
		if s.Kind == job.Coat && s.Role == role && slices.ContainsFunc(piece.RegionsOf(s),
			func(z uuid.UUID) bool { return slices.Contains(regions, z) }) {
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
		return nil, &Fault{Path: "what", Message: "what was wished of this piece is not known here: add the steps one by one",
			Value: effect}, nil
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
			w.Layers = slices.Insert(slices.Clone(w.Layers), defaultPlace(w.Layers, effect), layer)
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

// defaultPlace is where a layer of an effect that is added lies: what cuts, burns or marks the wood lowest, all
// else below what the stack ends in.
func defaultPlace(layers []Layer, effect Effect) int {
	switch {
	case slices.Index(effects, effect) <= slices.Index(effects, EffectMark):
		return 0
	case effect == EffectWear:
		if wax := slices.IndexFunc(layers, func(l Layer) bool { return l.Effect == EffectWax }); wax >= 0 {
			return wax
		}
		return len(layers)
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
	for _, x := range Extras() {
		for _, l := range linesOf(x.ID) {
			if _, err := l.step(Body, nil); err != nil {
				return fmt.Errorf("addition %s: %w", x.ID, err)
			}
			if l.family == "" {
				continue
			}
			if f, err := material.FindFamily(l.family); err != nil || !slices.Contains(f.Methods, l.method) {
				return fmt.Errorf("addition %s: %s is not put on like that", phrase.Quoted(x.ID), l.family)
			}
		}
	}
	return nil
}
