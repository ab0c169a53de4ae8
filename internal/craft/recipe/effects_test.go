package recipe

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/unit"
)

// The numbers of each effect's rules, as they come out of a composed schedule: coats, windows, minutes.
func TestNumbersOfTheEffects(t *testing.T) {
	two := clearOf("urethane-2k", "gloss")
	coats := func(l Layer, slot string) int {
		t.Helper()
		step := had(t, stackedBody("basswood", nil, l, two)).find("body:" + l.ID + ":" + slot)
		if !assert.NotNil(t, step, slot) {
			return 0
		}
		return step.Coats
	}
	mixed := stackedBody("basswood", []RegionWish{{Name: "back", Sheen: "gloss"}},
		Layer{ID: "clear", Effect: EffectClear, Family: "water-clear", As: "as-it-is", Sheen: "matte", Coats: 1})
	assert.Equal(t, 2, clearCoats(had(t, mixed).piece(t, Body)), "what stays glossy gets no flatted coat: it needs one of its own")
	fill := had(t, stackedBody("ash-swamp", nil, Layer{ID: "fill", Effect: EffectFill, As: "full", Coats: 2}, two)).find("body:fill:fill")
	assert.Equal(t, 2, fill.Coats)
	assert.Contains(t, fill.Why, "leaves about 45 % of the pore, so 2 leave it about 79 % full")
	assert.Equal(t, 3, coats(Layer{ID: "flake", Effect: EffectFlake}, "flake"))
	assert.Equal(t, 5, coats(Layer{ID: "flake", Effect: EffectFlake, Of: "flake-50"}, "flake"), "three to six")
	assert.Equal(t, 2, coats(Layer{ID: "flake", Effect: EffectFlake, Of: "pearl-20"}, "flake"), "one to three")
	assert.Equal(t, 4, coats(Layer{ID: "candy", Effect: EffectCandy}, "candy"))
	assert.Equal(t, 2, coats(Layer{ID: "tint", Effect: EffectTint}, "tint"))
	assert.Equal(t, 2, coats(Layer{ID: "cloth", Effect: EffectCloth}, "flood"))
	assert.Equal(t, 2, coats(Layer{ID: "char", Effect: EffectFlame}, "seal-char"))
	assert.Equal(t, 1, coats(Layer{ID: "air", Effect: EffectColour, Carrier: "airbrush", Coats: 1}, "airbrush"), "as wished")
	assert.Equal(t, 1, coats(Layer{ID: "dye", Effect: EffectColour, As: "wiped"}, "colour"))
	assert.Equal(t, 3, coats(Layer{ID: "dye", Effect: EffectColour, Carrier: "oil", Coats: 3}, "colour"))

	cloth := had(t, stackedBody("basswood", nil, Layer{ID: "cloth", Effect: EffectCloth}, two))
	assert.Equal(t, within(0, 10), cloth.find("body:cloth:lay-cloth").Terms.Within)
	bare := had(t, stackedBody("basswood", nil, Layer{ID: "leaf", Effect: EffectLeaf, Of: "gold-oil-slow"},
		Layer{ID: "oil", Effect: EffectClear, Family: "finishing-oil", Sheen: "satin"}))
	assert.Equal(t, 2, bare.find("body:leaf:ground").Coats, "leaf wants a smooth ground")
	assert.Nil(t, bare.find("body:leaf:lay").Terms.Within, "a tack of eleven hours is no sitting")
	assert.EqualValues(t, "touch-dry", bare.find("body:leaf:lay").Film)
	water := had(t, stackedBody("basswood", nil, Layer{ID: "leaf", Effect: EffectLeaf, Of: "gold-water"}, clearOf("nitro", "gloss")))
	assert.Equal(t, within(30, 480), water.find("body:leaf:lay").Terms.Within, "tack of a day, and a day's sitting at most")
	cast := had(t, stackedBody("basswood", nil, Layer{ID: "pour", Effect: EffectPour, Depth: "8 mm"}, two))
	oiled := had(t, stackedBody("cocobolo", nil, Layer{ID: "stain", Effect: EffectColour, Carrier: "oil"},
		Layer{ID: "oil", Effect: EffectClear, Family: "finishing-oil"}))
	assert.EqualValues(t, 10, oiled.find("body:stain:degrease").HandsOnMin)
	assert.EqualValues(t, 10, had(t, stackedBody("cocobolo", nil, Layer{ID: "oil", Effect: EffectClear,
		Family: "finishing-oil"})).find("body:oil:degrease").HandsOnMin)
	for slot, want := range map[string]unit.Minutes{"bed": 15, "mix": 10, "blush": 10} {
		assert.Equal(t, want, cast.find("body:pour:"+slot).HandsOnMin, slot)
	}
	assert.Equal(t, papers(180, 240, 320), cast.find("body:pour:flatten").Ladder)
	assert.Equal(t, 20.0, float64(struckMinutes(t, "burnt")), "one mark, tried on scrap first")
}

func struckMinutes(t *testing.T, kind string) unit.Minutes {
	return had(t, stackedBody("basswood", nil, Layer{ID: "m", Effect: EffectMark, As: kind, Regions: []string{"back"}},
		clearOf("nitro", "gloss"))).find("body:m:mark").HandsOnMin
}

func TestMinutesOfBuildingEvents(t *testing.T) {
	w := Wish{Pieces: []PieceWish{body("basswood"), neck("maple-hard")}, Frets: "mirror",
		Board:  &BoardWish{Wood: "ebony-gaboon", Finish: "drying-oil", ToFret: true},
		Events: Events, HangDays: 7, Parts: []PartWish{{Kind: Hardware, Of: "steel-plain"}, {Kind: Plastics, Of: "abs-part"}}}
	d := had(t, w)
	for slot, want := range map[string]unit.Minutes{"body:inserts": 40, "body:ferrules": 30, "body:magnets": 20, "frets:slots": 20,
		"frets:frets-in": 90, "whole:nut": 60,
		"whole:hang": 5, "whole:set-up": 60, "whole:last-polish": 10, "frets:fret-ends": 10, "frets:fret-rocker-again": 5,
		"hardware:known": 10, "hardware:strip": 15,
		"hardware:etch": 15, "hardware:neutralise": 10, "hardware:fits-again": 15, "plastics:tried": 10, "plastics:wipe-back": 10,
		"body:open": 90} {
		if step := d.find(slot); assert.NotNil(t, step, slot) {
			assert.Equal(t, want, step.HandsOnMin, slot)
		}
	}
	assert.Equal(t, within(0, 5), d.find("plastics:wipe-back").Terms.Within)
	assert.InDelta(t, 0.02, float64(d.piece(t, Hardware).Regions[0].AreaM2), 1e-12, "usual hardware")
	assert.Equal(t, []string{"frets:frets"}, d.find("whole:last-polish").Regions)
	cut := had(t, stackedBody("basswood", []RegionWish{{Name: "bevel", Kind: "bevel", Width: "15 mm", CutAfter: "base"}},
		Layer{ID: "base", Effect: EffectColour, Carrier: "opaque"}, clearOf("urethane-2k", "gloss")))
	assert.EqualValues(t, 60, cut.find("body:cut-bevel").HandsOnMin)
	assert.Equal(t, papers(180, 220), cut.find("body:sand-bevel").Ladder)
}

func TestMasksAreTheMildestThatHold(t *testing.T) {
	mask := func(edge string, layers ...Layer) Step {
		regions := []RegionWish{{Name: "panel", Kind: "half", Edge: edge}}
		return *had(t, stackedBody("basswood", regions, append(layers, clearOf("urethane-2k", "gloss"))...)).named(Body, "mask")
	}
	dye := Layer{ID: "dye", Effect: EffectColour, Carrier: "water", Regions: []string{"panel"}}
	base := Layer{ID: "base", Effect: EffectColour, Carrier: "opaque", Regions: []string{"panel"}}
	assert.Contains(t, mask("taped", dye).How, "Low-tack paper tape")
	assert.Contains(t, mask("taped", dye).How, "does not stop a dye in bare grain")
	assert.Contains(t, mask("scored", dye).How, "scored with a sharp knife")
	assert.Contains(t, mask("taped", base).How, "Fine-line plastic tape")
	assert.Contains(t, unit.Unmarked(mask("taped", base).How), "It may stay 48 h")
	assert.Contains(t, mask("stencil", base).How, "Cut vinyl stencil")
	assert.Equal(t, "stencil-pressed", mask("stencil", base).Check)
	assert.Contains(t, mask("taped", Layer{ID: "relief", Effect: EffectTexture, As: "struck"}, base).How, "Peelable liquid mask",
		"tape bridges a relief")
	for _, edge := range []string{"seam", "scraped", "soft"} {
		d := had(t, stackedBody("basswood", []RegionWish{{Name: "panel", Kind: "half", Edge: edge}}, dye, clearOf("urethane-2k", "gloss")))
		assert.Nil(t, d.named(Body, "mask"), edge)
	}
	metal := stackedBody("basswood", []RegionWish{{Name: "back", Wood: "aluminium"}},
		Layer{ID: "dye", Effect: EffectColour, Carrier: "water", Regions: []string{"top", "sides"}}, clearOf("urethane-2k", "gloss"))
	assert.Nil(t, had(t, metal).named(Body, "mask"), "dye wipes off what is no wood")
}

func TestMarksAtTheirPlaces(t *testing.T) {
	at := func(kind string) Draft {
		return had(t, stackedBody("basswood", nil, Layer{ID: "m", Effect: EffectMark, As: kind, Regions: []string{"back"}, Over: "S R"},
			clearOf("nitro", "gloss")))
	}
	for _, kind := range []string{"burnt", "engraved", "inlaid"} {
		inOrder(t, at(kind), "body:sand-bare", "body:m:mark", "body:tape-on")
		assert.Equal(t, job.Gate, at(kind).find("body:m:mark").Kind, kind)
	}
	for _, kind := range []string{"film", "signed", "serial"} {
		inOrder(t, at(kind), "body:clear:seal", "body:m:mark", "body:clear:clear-1")
		assert.Contains(t, at(kind).find("body:m:mark").How, "“S R”")
	}
}
