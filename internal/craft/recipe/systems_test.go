package recipe

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
)

// Statements of intent, one for each way of working that must compose (layers.md): what must occur and in
// which order, what must not, what is masked, which windows it stands in, and numbers worked by hand.

// stacked is a body of layers on regions.
func stackedBody(timber string, regions []RegionWish, layers ...Layer) Wish {
	p := body(timber)
	p.Regions, p.Layers = regions, layers
	return Wish{Pieces: []PieceWish{p}}
}

func clearOf(family, sheen string) Layer {
	return Layer{ID: "clear", Effect: EffectClear, Family: family, Sheen: sheen}
}

// had composes a wish that lint has nothing against.
func had(t *testing.T, w Wish) Draft {
	t.Helper()
	d := compose(t, w)
	assert.Empty(t, Lint(d, w))
	assert.NoError(t, instrument(t, d).Validate())
	return d
}

// absent asserts that no step of a draft has a name that begins so.
func absent(t *testing.T, d Draft, prefixes ...string) {
	t.Helper()
	for _, p := range d.Pieces {
		for _, s := range p.Steps {
			for _, prefix := range prefixes {
				assert.False(t, strings.HasPrefix(s.name(), prefix), "%s must not occur", s.Slot)
			}
		}
	}
}

func within(after, before unit.Minutes) *job.Within {
	return &job.Within{AfterMin: after, BeforeMin: before}
}

// a: a two-colour grain under waterborne, flatted.
func TestSystemATwoColourGrain(t *testing.T) {
	w := stackedBody("ash-swamp", nil, Layer{ID: "dark", Effect: EffectColour, As: "grain", Coats: 2},
		Layer{ID: "amber", Effect: EffectColour, Carrier: "bound"}, Layer{ID: "fill", Effect: EffectFill, As: "half", Tinted: true},
		clearOf("water-clear", "matte"))
	d := had(t, w)
	inOrder(t, d, "body:dark:dark", "body:dark:rub-back", "body:amber:washcoat", "body:amber:sand-washcoat", "body:amber:colour",
		"body:fill:fill", "body:clear:seal",
		"body:dark:tone", "body:clear:clear-1", "body:clear:level-half", "body:clear:flat-matte", "body:tape-off")
	absent(t, d, "buff", "rub-matte", "level-matte")
	assert.Equal(t, 2, d.find("body:dark:dark").Coats)
	assert.Equal(t, 2, d.find("body:fill:fill").Coats, "0.45² leaves 20 %%: 80 %% of 60 %% wanted")
	assert.Equal(t, "matte", d.find("body:clear:flat-matte").Sheen)
	assert.Equal(t, "Fill the pores, tinted", d.find("body:fill:fill").Title)
}

// b: a hand-wiped burst on thin veneer, plain sides, a tinted neck glued in.
func TestSystemBHandWipedBurstOnVeneer(t *testing.T) {
	top := body("alder-red")
	top.Regions = []RegionWish{{Name: "top", Wood: "maple-figured-veneer"}}
	top.Layers = []Layer{{ID: "ground", Effect: EffectColour, Carrier: "water", Regions: []string{"top"}, Colours: []string{"Ochre"}},
		{ID: "burst", Effect: EffectColour, As: "burst", Method: material.Wipe, Wet: true, Regions: []string{"top"},
			Colours: []string{"Rust", "Umber"}},
		clearOf("water-clear", "gloss")}
	shaft := neck("maple-hard").From("natural").Ending("water-clear", "satin")
	shaft.Layers = slices.Insert(shaft.Layers, 1, Layer{ID: "amber", Effect: EffectTint, Coats: 1})
	w := Wish{Joint: "set", Pieces: []PieceWish{top, shaft}}
	d := had(t, w)
	inOrder(t, d, "body:ground:mask", "body:ground:colour", "body:ground:unmask", "body:burst:mask", "body:burst:edge", "body:burst:blend",
		"body:burst:edge-2",
		"body:burst:blend-2", "body:burst:unmask", "body:clear:seal", "neck:amber:tint", "neck:clear:clear", "whole:glue-up")
	assert.Equal(t, []string{"body:sides"}, d.find("body:ground:mask").Regions, "the sides stay plain")
	for _, slot := range []string{"body:burst:edge", "body:burst:blend", "body:burst:edge-2", "body:burst:blend-2"} {
		assert.Equal(t, within(0, 10), d.find(slot).Terms.Within, "%s: one attended sitting, while damp", slot)
	}
	assert.Contains(t, d.find("body:burst:edge-2").Title, "umber")
	assert.Equal(t, papers(150), d.find("body:sand-bare-maple-figured-veneer").Ladder[:1], "half a millimetre is all there is")
	assert.Contains(t, d.find("body:wet").How, "never wet", "the glue below a veneer swells")
	assert.Equal(t, 1, d.find("neck:amber:tint").Coats)
}

// c: a lacquer burst of three colours, sprayed.
func TestSystemCLacquerBurst(t *testing.T) {
	w := stackedBody("alder-red", nil, Layer{ID: "ground", Effect: EffectColour, Carrier: "spirit"},
		Layer{ID: "burst", Effect: EffectColour, As: "burst", Colours: []string{"Honey", "Red", "Black"}}, clearOf("nitro", "gloss"))
	d := had(t, w)
	inOrder(t, d, "body:ground:colour", "body:clear:seal", "body:burst:shade", "body:burst:shade-2", "body:burst:shade-3",
		"body:clear:clear-1", "body:clear:buff")
	assert.Equal(t, "solvent-dye", d.find("body:ground:colour").Family)
	assert.Equal(t, "vinyl-sealer", d.find("body:clear:seal").Family)
	assert.Equal(t, material.Buff, d.find("body:clear:level").Film)
	absent(t, d, "mask", "edge", "fill")
}

// d: two-part in many coats, spare film for a new hand, two groups of coats.
func TestSystemDTwoPartInGroups(t *testing.T) {
	w := stackedBody("basswood", nil, Layer{ID: "base", Effect: EffectColour, Carrier: "opaque", Colours: []string{"Mud"}},
		Layer{ID: "build", Effect: EffectClear, Family: "urethane-2k", Method: material.Spray, Coats: 4, Sheen: "gloss"},
		Layer{ID: "finish", Effect: EffectClear, Family: "urethane-2k", Method: material.Spray, Grit: "fepa:P600", Coats: 3,
			Sheen: "gloss"})
	w.Hand = "new"
	d := had(t, w)
	inOrder(t, d, "body:build:seal", "body:base:base", "body:build:clear", "body:finish:between", "body:finish:clear-1",
		"body:finish:level-half", "body:finish:clear-2", "body:finish:level")
	assert.Equal(t, papers(600), d.find("body:finish:between").Ladder)
	assert.Equal(t, 4, d.find("body:build:clear").Coats)
	assert.Equal(t, 3, d.find("body:finish:clear-1").Coats+d.find("body:finish:clear-2").Coats)
	assert.Nil(t, d.find("body:finish:seal"), "a group over another needs no sealer")
	assert.Nil(t, d.find("body:build:level"), "what levels is the group on top")
	film := stackedBody("basswood", nil, Layer{ID: "clear", Effect: EffectClear, Family: "urethane-2k", Method: material.Spray, FilmUm: 200,
		Sheen: "gloss"})
	plain := stackedBody("basswood", nil, Layer{ID: "clear", Effect: EffectClear, Family: "urethane-2k", Method: material.Spray,
		FilmUm: 100, Sheen: "gloss"})
	assert.Greater(t, clearCoats(compose(t, film).piece(t, Body)), clearCoats(compose(t, plain).piece(t, Body)), "coats by film")
}

// e: a dyed wiped neck beside a charred body with one wiped coat, left as it is.
func TestSystemECharredWithOneCoat(t *testing.T) {
	w := stackedBody("ash-swamp", nil, Layer{ID: "char", Effect: EffectFlame, As: "all"},
		Layer{ID: "clear", Effect: EffectClear, Family: "wipe-varnish", As: "as-it-is", Coats: 1, Sheen: "matte"})
	w.Pieces = append(w.Pieces, neck("maple-hard").From("one-colour").Ending("wipe-varnish", "satin"))
	d := had(t, w)
	inOrder(t, d, "body:char:char", "body:char:char-clean", "body:tape-on", "body:char:seal-char", "body:clear:flat-matte", "body:tape-off",
		"neck:colour:colour", "neck:clear:clear")
	assert.Equal(t, 1, clearCoats(d.piece(t, Body)), "one coat")
	without(t, d.piece(t, Body), "level", "level-matte", "rub-matte", "buff", "fill", "wet")
	found := stackedBody("ash-swamp", nil, Layer{ID: "clear", Effect: EffectClear, Family: "wipe-varnish", As: "as-it-is", Sheen: "matte"})
	found.Pieces[0].Found = "charred"
	without(t, compose(t, found).piece(t, Body), "sand-bare", "wet", "cut-back")
}

// f: finishing oil, sheen by coats; as many as are wished, and not fewer than gloss takes.
func TestSystemFOil(t *testing.T) {
	w := stackedBody("walnut-black", nil, Layer{ID: "oil", Effect: EffectClear, Family: "finishing-oil", Sheen: "gloss", Coats: 7})
	d := had(t, w)
	assert.Equal(t, 1+6, d.find("body:oil:oil-1").Coats+d.find("body:oil:oil").Coats)
	assert.Equal(t, "gloss", d.sheen("body:top"))
	absent(t, d, "level", "seal", "mask")
	w.Pieces[0].Layers[0].Coats = 5
	_, faults, err := Compose(w)
	require.NoError(t, err)
	require.Len(t, faults, 1)
	assert.Equal(t, "pieces[0].layers[0].coats", faults[0].Path)
	assert.Contains(t, faults[0].Message, "6 coats for gloss")
}

// g: hard-wax oil over a linear fade and a sealer; oil beside leaf, inserts first.
func TestSystemGOilOverAFadeBesideLeaf(t *testing.T) {
	w := stackedBody("ash-swamp", []RegionWish{{Name: "panel", Kind: "border", Width: "30 mm"}},
		Layer{ID: "fade", Effect: EffectColour, As: "fade", Carrier: "water", Colours: []string{"Slate", "Ink"},
			Regions: []string{"top", "back", "sides"}},
		Layer{ID: "sealer", Effect: EffectSeal, As: "sealer", Family: "dewaxed-shellac", Regions: []string{"top", "back", "sides"}},
		Layer{ID: "leaf", Effect: EffectLeaf, Of: "copper-oil-fast", Torn: true, Regions: []string{"panel"}},
		Layer{ID: "oil", Effect: EffectClear, Family: "hardwax-oil", Sheen: "satin", Regions: []string{"top", "back", "sides"}},
		Layer{ID: "clear", Effect: EffectClear, Family: "water-clear", Sheen: "gloss", Regions: []string{"panel"}})
	w.Events = []string{"inserts", "ferrules", "magnets"}
	d := had(t, w)
	inOrder(t, d, "body:sand-bare", "body:inserts", "body:tape-on", "body:fade:mask", "body:fade:colour", "body:fade:fade",
		"body:fade:blend", "body:fade:unmask", "body:sealer:seal",
		"body:leaf:size", "body:leaf:lay", "body:leaf:bonded", "body:leaf:leaf-seal", "body:clear:clear-1", "body:oil:oil-1",
		"body:ferrules", "body:magnets", "body:open")
	assert.Equal(t, within(150, 240), d.find("body:leaf:lay").Terms.Within, "leaf on the tack of its size")
	assert.Equal(t, unit.Minutes(72*60), d.find("body:leaf:lay").RestMin, "three days from laying to the seal")
	assert.Equal(t, 2, d.find("body:leaf:leaf-seal").Coats)
	assert.Contains(t, d.find("body:leaf:leaf-seal").Why, "dark or green", "copper under waterborne clear")
	assert.Contains(t, d.find("body:leaf:lay").How, "Torn")
	for _, s := range d.on("body:panel") {
		assert.NotEqual(t, "hardwax-oil", s.Family, "oil never comes onto the panel")
	}
	all := flow(d)
	for _, s := range d.on("body:panel") {
		between := slices.Index(all, s.Slot) > slices.Index(all, "body:leaf:size") &&
			slices.Index(all, s.Slot) < slices.Index(all, "body:clear:clear-1")
		assert.False(t, between && (s.Kind == job.Sand || s.Kind == job.Scuff), "leaf is never sanded: %s", s.Slot)
	}
	assert.Contains(t, strings.Join(d.Notes, " "), "Practice differs", "a sealer under oil is a warning, not a refusal")
}

// h: oil and shellac in turn, wax last.
func TestSystemHOilAndShellac(t *testing.T) {
	p := body("walnut-black").From("oil-shellac")
	w := Wish{Pieces: []PieceWish{p}}
	d := had(t, w)
	inOrder(t, d, "body:rounds:oil-1", "body:rounds:shellac-1", "body:rounds:oil-4", "body:rounds:shellac-4", "body:rounds:even",
		"body:tape-off", "body:rounds:rub-satin", "body:wax:wax")
	assert.Nil(t, d.find("body:rounds:oil-5"), "four rounds")
	absent(t, d, "level", "seal")
	oil := Wish{Pieces: []PieceWish{body("walnut-black")}}
	oil.Pieces[0].Layers = []Layer{{ID: "rounds", Effect: EffectRounds, As: "oil", Sheen: "satin"}}
	assert.Equal(t, &job.Repeat{Least: 3, Most: 7}, had(t, oil).find("body:rounds:oil").Terms.Repeat,
		"until it is even: five, two more or fewer")
}

// i: brushed light-cured amber resin to a mirror, mark and inlay buried.
func TestSystemIAmberResin(t *testing.T) {
	w := stackedBody("maple-hard", []RegionWish{{Name: "dots", Kind: "inlay", Path: "M0 0 H20 V20 H0 Z", Wood: "cocobolo", Edge: "seam"}},
		Layer{ID: "inlay", Effect: EffectMark, As: "inlaid", Regions: []string{"dots"}, Over: "a wader"},
		Layer{ID: "amber", Effect: EffectTint, Family: "tinted-uv", Coats: 3},
		Layer{ID: "logo", Effect: EffectMark, As: "film", Regions: []string{"top"}},
		Layer{ID: "clear", Effect: EffectClear, Family: "polyester-uv", Method: material.Brush, Sheen: "gloss"})
	d := had(t, w)
	inOrder(t, d, "body:inlay:mark", "body:tape-on", "body:amber:tint-1", "body:amber:cured-1", "body:amber:tint-2", "body:amber:cured-2",
		"body:amber:tint-3", "body:amber:cured-3", "body:logo:mark",
		"body:clear:clear-1", "body:clear:level-half", "body:clear:buff")
	assert.Equal(t, "lamp-through", d.find("body:amber:cured-1").Check, "colour shades the lamp: each coat is tested")
	assert.Equal(t, "decal", d.find("body:logo:mark").Family)
	isolated := false
	for _, s := range d.on("body:dots") {
		isolated = isolated || strings.HasPrefix(s.name(), "isolate")
	}
	assert.True(t, isolated, "an oily inlay keeps the resin from curing")
	over := w
	over.Pieces = slices.Clone(w.Pieces)
	over.Pieces[0].Layers = append(slices.Clone(w.Pieces[0].Layers), Layer{ID: "sign", Effect: EffectMark, As: "signed",
		Regions: []string{"back"}})
	inOrder(t, had(t, over), "body:clear:buff", "body:sign:mark-on-top", "body:open")
}

// j: base, flake, masked lines, particles through a stencil, deep clear, mirror.
func TestSystemJFlakeAndGrains(t *testing.T) {
	w := stackedBody("basswood", []RegionWish{{Name: "lines", Kind: "shape", Path: "M100 100 H240 V130 H100 Z", Edge: "stencil"}},
		Layer{ID: "base", Effect: EffectColour, Carrier: "opaque", Colours: []string{"Graphite"}},
		Layer{ID: "flake", Effect: EffectFlake, Of: "flake-200"},
		Layer{ID: "lines", Effect: EffectColour, Carrier: "opaque", Regions: []string{"lines"}},
		Layer{ID: "grains", Effect: EffectParticles, As: "stencil", Of: "grain-100", Regions: []string{"top"}},
		Layer{ID: "clear", Effect: EffectClear, Family: "urethane-2k", Method: material.Spray, Sheen: "gloss",
			Ways: map[string]string{"build": "few"}})
	d := had(t, w)
	inOrder(t, d, "body:clear:seal", "body:base:base", "body:flake:flake", "body:lines:mask", "body:lines:base", "body:lines:unmask",
		"body:grains:stencil", "body:grains:hold", "body:grains:strew",
		"body:grains:lift", "body:grains:loose", "body:grains:lock", "body:clear:clear-1", "body:clear:buried", "body:clear:level-half",
		"body:clear:buff")
	assert.Equal(t, within(10, 25), d.find("body:grains:strew").Terms.Within, "the tack of two-part clear")
	assert.Equal(t, within(0, 10), d.find("body:grains:lift").Terms.Within)
	assert.Equal(t, []string{"body:top"}, d.find("body:lines:mask").Regions)
	assert.Equal(t, 3, d.find("body:flake:flake").Coats, "two to four")
	// Grains of 100 µm stand 100 high: 100 + (15/2 + 1.3·(4.8+4+3.4+2.8+2.3)) levelled, P800 to P2000, + 15 = 145.
	plain := w
	plain.Pieces = slices.Clone(w.Pieces)
	plain.Pieces[0].Layers = slices.DeleteFunc(slices.Clone(w.Pieces[0].Layers),
		func(l Layer) bool { return l.Effect == EffectParticles || l.Effect == EffectFlake })
	assert.Equal(t, 4, clearCoats(compose(t, plain).piece(t, Body)))
	buriedCoats := 0
	for _, s := range d.piece(t, Body).Steps {
		if s.Role == "clear" && s.of().ID == "clear" {
			buriedCoats += s.Coats
		}
	}
	assert.Equal(t, 7, buriedCoats, "7 · 39.7 − 14.9 − 30.0 = 233 µm on a side keep the 80 + 145 that are wanted; six keep 193")
	for _, s := range d.piece(t, Body).Steps {
		assert.False(t, s.Kind == job.Scuff && s.Slot != "body:clear:scuff-seal", "flake and grains are never scuffed: %s", s.Slot)
	}
}

// k: a masked airbrush burst on veneer, few coats, texture kept.
func TestSystemKAirbrush(t *testing.T) {
	w := stackedBody("maple-figured-veneer", nil, Layer{ID: "burst", Effect: EffectColour, As: "burst", Carrier: "airbrush",
		Regions: []string{"top"}, Colours: []string{"Teal", "Ink"}},
		Layer{ID: "clear", Effect: EffectClear, Family: "water-clear", As: "as-it-is", Sheen: "satin"})
	d := had(t, w)
	inOrder(t, d, "body:sand-bare", "body:clear:seal", "body:burst:mask", "body:burst:airbrush", "body:burst:airbrush-2",
		"body:burst:unmask", "body:clear:clear", "body:clear:flat-satin")
	assert.Equal(t, 4, d.find("body:burst:airbrush").Coats)
	assert.Equal(t, 4, clearCoats(d.piece(t, Body)), "few, on purpose: the least that is usual")
	absent(t, d, "level", "rub-", "buff", "edge", "shade")
}

// l: strips in several colours, flame accents, matte.
func TestSystemLStrips(t *testing.T) {
	strip := func(n int, wood string) RegionWish {
		return RegionWish{Name: fmt.Sprintf("strip %d", n), Kind: "strips", Count: 2, Width: "20 mm", Wood: wood, Edge: "scored"}
	}
	w := stackedBody("poplar-tulip", []RegionWish{strip(1, ""), strip(2, "ash-swamp")},
		Layer{ID: "accents", Effect: EffectFlame, As: "accents", Regions: []string{"top"}},
		Layer{ID: "ochre", Effect: EffectColour, Carrier: "water", Regions: []string{"strip 1"}},
		Layer{ID: "slate", Effect: EffectColour, Carrier: "spirit", Regions: []string{"strip 2"}}, clearOf("water-clear", "matte"))
	d := had(t, w)
	inOrder(t, d, "body:accents:accents", "body:accents:cold", "body:tape-on", "body:ochre:mask", "body:ochre:colour", "body:ochre:unmask",
		"body:slate:mask", "body:slate:colour", "body:slate:unmask",
		"body:clear:flat-matte")
	assert.ElementsMatch(t, []string{"body:top", "body:strip 2"}, d.find("body:ochre:mask").Regions)
	assert.Contains(t, d.find("body:ochre:mask").How, "scored", "tape alone does not stop a dye")
	late := stackedBody("poplar-tulip", nil, Layer{ID: "ochre", Effect: EffectColour, Carrier: "water"},
		Layer{ID: "accents", Effect: EffectFlame, As: "accents", Because: "the scorched edge is the look"}, clearOf("water-clear", "matte"))
	d = had(t, late)
	inOrder(t, d, "body:ochre:colour", "body:accents:bone-dry", "body:accents:accents", "body:accents:cold", "body:clear:seal")
	assert.Equal(t, unit.Minutes(24*60), d.find("body:accents:bone-dry").RestMin)
	assert.Equal(t, unit.Minutes(24*60), d.find("body:accents:accents").RestMin, "a day until water comes near")
	assert.EqualValues(t, 30, d.find("body:accents:cold").HandsOnMin)
	late.Pieces[0].Layers[1].Because = ""
	_, faults, _ := Compose(late)
	require.Len(t, faults, 1)
	assert.Equal(t, "pieces[0].layers[1].because", faults[0].Path)
}

// m: a cast top with inclusions on a printed body.
func TestSystemMCastTop(t *testing.T) {
	w := stackedBody("plastic-printed", nil,
		Layer{ID: "pour", Effect: EffectPour, Of: "medium-epoxy", Depth: "60 mm", Regions: []string{"top"}, Over: "Razor shells",
			Tinted: true},
		Layer{ID: "base", Effect: EffectColour, Carrier: "opaque", Regions: []string{"back", "sides"}}, clearOf("urethane-2k", "gloss"))
	d := had(t, w)
	inOrder(t, d, "body:dull-plastic-printed", "body:drill", "body:tape-on", "body:prime-plastic-printed", "body:pour:dam", "body:pour:bed",
		"body:pour:inclusions", "body:pour:mix",
		"body:pour:pour-1", "body:pour:bubbles-1", "body:pour:pour-2", "body:pour:pour-3", "body:pour:bubbles-3", "body:pour:hard",
		"body:pour:blush", "body:pour:undam", "body:pour:flatten",
		"body:base:mask", "body:base:base", "body:base:unmask", "body:clear:clear-1")
	assert.Equal(t, within(0, 20), d.find("body:pour:bubbles-1").Terms.Within)
	assert.Nil(t, d.find("body:pour:pour-4"), "60 mm in lifts of 25 at most: three")
	assert.NotContains(t, d.find("body:prime-plastic-printed").Regions, "body:top", "no primer under resin")
	assert.Contains(t, unit.Unmarked(d.find("body:pour:pour-1").How), "20 mm deep")
	// 0.114 m² of face, 20 mm a lift, a tenth for the cup: 2509 mL.
	assert.Contains(t, unit.Unmarked(d.find("body:pour:mix").How),
		"2509 mL for each lift, 2:1 by volume; powder 1 to 5 g in 100 mL, into the resin before the hardener")
	assert.Contains(t, unit.Unmarked(d.Notes[0]), "softens from 55 °C, and a pour heats itself")
	absent(t, d, "wet", "cut-back", "rake", "sand-bare", "fill")
	thirsty := stackedBody("poplar-tulip", nil, Layer{ID: "pour", Effect: EffectPour, Of: "cast-polyester", Depth: "6 mm"},
		clearOf("urethane-2k", "gloss"))
	under := had(t, thirsty).find("body:pour:under")
	assert.Equal(t, "sealer-2k", under.Family, "what stops this resin's cure is shut in")
	assert.Equal(t, within(0, 10), compose(t, thirsty).find("body:pour:bubbles").Terms.Within, "its pot lasts ten minutes")
}

// p: boards, frets, cavities, hardware.
func TestSystemPBoardsFretsPartsAndEvents(t *testing.T) {
	w := Wish{Pieces: []PieceWish{body("basswood"), neck("maple-hard")}, Frets: "brushed", Cavities: "paint",
		Board: &BoardWish{Wood: "ebony-gaboon", Finish: "oil-shellac-wax", ToFret: true}, Events: []string{"nut", "last-polish"},
		HangDays: 14,
		Parts: []PartWish{{Kind: Hardware, Of: "brass-lacquered", Name: "Bridge and tuners"},
			{Kind: Plastics, Of: "celluloid-part", Do: []string{"stain"}}, {Kind: Fittings, Of: "walnut-black"}}}
	d := had(t, w)
	inOrder(t, d, "fretboard:board-sand", "fretboard:board-oil", "frets:slots", "frets:frets-in", "frets:fret-tape", "frets:fret-level",
		"frets:fret-rocker", "frets:fret-crown",
		"frets:fret-rocker-again", "frets:fret-ends", "frets:fret-polish", "frets:fret-untape", "frets:board-shellac", "frets:board-wax",
		"hardware:strip", "hardware:brush", "hardware:etch",
		"hardware:neutralise", "hardware:seal", "hardware:fits-again", "plastics:stain", "plastics:wipe-back", "fittings:sand-bare",
		"fittings:clear:seal", "fittings:clear:clear", "whole:nut", "whole:strings",
		"whole:hang", "whole:set-up", "whole:last-polish", "whole:hand-over")
	assert.Equal(t, within(0, 5), d.find("hardware:neutralise").Terms.Within)
	assert.Equal(t, unit.Minutes(14*24*60), d.find("whole:hang").RestMin)
	assert.Nil(t, d.find("plastics:dull"), "only what was asked for")
	assert.Contains(t, unit.Unmarked(d.find("hardware:etch").How), "15 min to 4 h")
	for _, kind := range []PieceKind{Hardware, Plastics, Fittings} {
		last := d.piece(t, kind).Steps
		assert.Contains(t, d.find("whole:nut").After, last[len(last)-1].Slot)
		for _, s := range last {
			assert.NotEqual(t, job.BuffingWheel, s.Tool, "metal never shares a wheel with film")
		}
	}
	film := Wish{Pieces: []PieceWish{neck("maple-hard")}, Board: &BoardWish{Wood: "maple-hard", Finish: "under-film"}, Frets: "mirror"}
	inOrder(t, had(t, film), "neck:clear:clear", "frets:fret-clear", "frets:fret-tape")
}

// Small parts may be all that a wish needs beside a neck; what is cut after a layer is bare until then.
func TestACutIsBareUntilItIsMade(t *testing.T) {
	w := stackedBody("alder-red", []RegionWish{{Name: "bevel", Kind: "bevel", Width: "15 mm", Length: "300 mm", Wood: "walnut-black",
		CutAfter: "base"}},
		Layer{ID: "base", Effect: EffectColour, Carrier: "opaque"}, clearOf("urethane-2k", "gloss"))
	d := had(t, w)
	inOrder(t, d, "body:base:base", "body:cut-bevel", "body:sand-bevel", "body:clear:clear-1")
	assert.True(t, d.find("body:cut-bevel").Terms.Bares)
	assert.Equal(t, material.Handle, d.find("body:cut-bevel").Film)
	assert.NotContains(t, d.find("body:base:base").Regions, "body:bevel")
	assert.NotContains(t, d.find("body:clear:seal").Regions, "body:bevel")
	assert.Contains(t, d.find("body:clear:clear-1").Regions, "body:bevel")
	assert.InDelta(t, 0.300*0.015, float64(d.piece(t, Body).Regions[3].AreaM2), 1e-9)
}

// A surface as found decides what comes off first and where its ladder begins.
func TestSurfacesAsFound(t *testing.T) {
	flow := func(found string) Draft {
		w := stackedBody("basswood", nil, clearOf("water-clear", "satin"))
		w.Pieces[0].Found = found
		return had(t, w)
	}
	assert.Equal(t, papers(80), flow("bare").find("body:sand-bare").Ladder[:1])
	assert.Equal(t, papers(180, 220), flow("pre-sanded").find("body:sand-bare").Ladder)
	sealed := flow("factory-sealed")
	inOrder(t, sealed, "body:found-bare-or-sealed", "body:strip", "body:sand-bare")
	assert.Equal(t, papers(180), sealed.find("body:strip").Ladder, "sealer off first, from the finest that removes it")
	assert.Equal(t, papers(180, 220), sealed.find("body:sand-bare").Ladder)
	waxed := flow("waxed")
	assert.Equal(t, []string{"nonwoven:very-fine"}, waxed.find("body:strip").Ladder)
	assert.Equal(t, papers(180, 220), waxed.find("body:sand-bare").Ladder, "washed, then sanded")
	inOrder(t, flow("reclaimed"), "body:found-buried-metal", "body:found-lead-test", "body:strip", "body:sand-bare")
	assert.Equal(t, papers(100), flow("reclaimed").find("body:strip").Ladder)
	absent(t, flow("textured"), "sand-bare", "wet")
	for found, refused := range map[string]bool{"reclaimed": true, "old-unknown": true, "stained": true, "bare": false,
		"pre-sanded": false} {
		w := stackedBody("basswood", nil, Layer{ID: "char", Effect: EffectFlame}, clearOf("water-clear", "satin"))
		w.Pieces[0].Found = found
		_, faults, err := Compose(w)
		require.NoError(t, err)
		assert.Equal(t, refused, len(faults) > 0, "%s: a flame never comes near what nobody knows", found)
	}
}

// What must be strewn, laid or blended in its time is planned so; what must be peeled stands in the plan with its
// window, which a night may close: it goes less well then, and is said.
func TestWindowsStandInThePlan(t *testing.T) {
	regions := []RegionWish{{Name: "panel", Kind: "half"}}
	w := stackedBody("basswood", regions, Layer{ID: "fade", Effect: EffectColour, As: "fade", Regions: []string{"panel"}},
		Layer{ID: "leaf", Effect: EffectLeaf, Of: "gold-oil-fast", Regions: []string{"panel"}},
		Layer{ID: "grains", Effect: EffectParticles, As: "stencil", Of: "grain-100", Family: "urethane-2k", Regions: []string{"back"}},
		clearOf("urethane-2k", "gloss"))
	d := had(t, w)
	plan := planned(t, d)
	at := func(slot string) *schedule.Planned {
		i := slices.IndexFunc(plan.Events, func(e schedule.Planned) bool { return e.Step == uuid.NewSHA1(uuid.NameSpaceOID, []byte(slot)) })
		require.GreaterOrEqual(t, i, 0, slot)
		return &plan.Events[i]
	}
	for slot, before := range map[string]string{"body:fade:blend": "body:fade:fade", "body:leaf:lay": "body:leaf:size",
		"body:grains:strew": "body:grains:hold",
		"body:grains:lift":  "body:grains:strew"} {
		asked := d.find(slot).Terms.Within
		gap := unit.Minutes(at(slot).Start.Sub(at(before).End).Minutes())
		assert.GreaterOrEqual(t, gap, asked.AfterMin, slot)
		assert.LessOrEqual(t, gap, asked.BeforeMin, slot)
	}
	for _, slot := range []string{"body:grains:unmask", "body:fade:unmask"} {
		assert.Equal(t, schedule.Advisory, at(slot).Window.Kind, slot)
		assert.True(t, at(slot).Window.Latest.After(at(slot).Ready), slot)
	}
}

// Dye cannot penetrate a seal: it is bound, with a word on it.
func TestOverASealColourIsBound(t *testing.T) {
	w := stackedBody("basswood", nil, Layer{ID: "seal", Effect: EffectSeal, As: "sealer"},
		Layer{ID: "dye", Effect: EffectColour, Carrier: "water"}, clearOf("water-clear", "satin"))
	d := had(t, w)
	inOrder(t, d, "body:seal:seal", "body:dye:colour")
	assert.Equal(t, "binder-stain", d.find("body:dye:colour").Family)
	assert.Contains(t, d.Notes[0], "cannot penetrate")
}

func TestMendsComeBeforeTheLadder(t *testing.T) {
	w := stackedBody("basswood", nil, Layer{ID: "dents", Effect: EffectMend, Of: "dent-fill", Coats: 3},
		Layer{ID: "dye", Effect: EffectColour, Carrier: "water"}, clearOf("water-clear", "satin"))
	d := had(t, w)
	inOrder(t, d, "body:dents:mend", "body:dents:mend-dye", "body:sand-bare")
	assert.EqualValues(t, 45, d.find("body:dents:mend").HandsOnMin, "three of 15 min")
	assert.Equal(t, unit.Minutes(60), d.find("body:dents:mend").RestMin)
	w.Pieces[0].Layers[0].Of = "run-hard"
	_, faults, _ := Compose(w)
	require.NotEmpty(t, faults)
	assert.Contains(t, faults[0].Message, "mends a film")
}

// n: deliberate wear on lacquer, with aged plastics and metals.
func TestSystemNDeliberateWear(t *testing.T) {
	w := stackedBody("alder-red", nil, Layer{ID: "base", Effect: EffectColour, Carrier: "opaque", Colours: []string{"cream"}},
		clearOf("nitro", "gloss"),
		Layer{ID: "dirt", Effect: EffectWear, Of: "dirt"}, Layer{ID: "arm", Effect: EffectWear, Of: "wear-wood",
			Places: []string{"forearm", "belt"}},
		Layer{ID: "dents", Effect: EffectWear, Of: "dents", Places: []string{"lower-edge"}},
		Layer{ID: "dull", Effect: EffectWear, Of: "dull-all"})
	w.Parts = []PartWish{{Kind: Plastics, Of: "abs-part", Name: "covers", Do: []string{"dull", "stain"}}}
	d := had(t, w)
	var order []string
	for _, s := range d.Pieces[0].Steps {
		if s.of() != nil && s.name() == "wear" {
			order = append(order, s.of().ID)
		}
	}
	assert.Equal(t, []string{"dents", "arm", "dull", "dirt"}, order,
		"dents before wear, so that dirt finds them; dulling over wear; dirt last, however they are listed")
	worn := d.find("body:arm:wear")
	assert.Equal(t, []string{"body:top", "body:back"}, worn.Regions, "where the map has those places")
	assert.Equal(t, material.FullCure, worn.Film, "on a film that has cured")
	assert.Equal(t, material.Buff, d.find("body:dull:wear").Film)
	assert.Contains(t, worn.How, "under plates and covers is left")
	// 8 % of a top of 0.114 m² and of a back like it, at 5 to 15 minutes a dm², and ten to lay it out
	top, back := worn2(d, "body:top"), worn2(d, "body:back")
	assert.EqualValues(t, 10+upToFive((top+back)*0.08*100*10), worn.HandsOnMin)
	before(t, d.Pieces[0], "buff", "wear", "wear-seal", "open")
	assert.NotNil(t, d.find("body:arm:wear-seal"), "bared wood is sealed")

	w.Pieces[0].Layers[3].Because = "the customer has seen it so"
	d = compose(t, w)
	assert.Nil(t, d.find("body:arm:wear-seal"), "or left on purpose")
	assert.Contains(t, strings.Join(d.Notes, " "), "left bare, because the customer has seen it so")

	for name, l := range map[string]Layer{"checks in waterborne": {ID: "x", Effect: EffectWear, Of: "check-cold"},
		"a neck on a body": {ID: "x", Effect: EffectWear, Of: "arm", Places: []string{"neck-back"}},
		"no such aging":    {ID: "x", Effect: EffectWear, Of: "rust"}} {
		w := stackedBody("alder-red", nil, clearOf("water-clear", "gloss"), l)
		_, faults, err := Compose(w.Of("slab", ""))
		require.NoError(t, err)
		assert.NotEmpty(t, faults, name)
	}
	_, faults, _ := Compose(stackedBody("alder-red", nil, clearOf("nitro", "gloss"),
		Layer{ID: "x", Effect: EffectWear, Of: "wear-colour"}).Of("slab", ""))
	require.NotEmpty(t, faults)
	assert.Contains(t, faults[0].Message, "no colour lies there")
	_, faults, _ = Compose(stackedBody("alder-red", nil, clearOf("finishing-oil", "satin"),
		Layer{ID: "x", Effect: EffectWear, Of: "dents"}).Of("slab", ""))
	assert.NotEmpty(t, faults, "oil wears by itself")
}

// worn2 is the area of a region in m².
func worn2(d Draft, key string) float64 {
	for _, z := range d.Pieces[0].Regions {
		if z.Key == key {
			return float64(z.AreaM2)
		}
	}
	return 0
}

// o: a spot repaired and a panel sprayed again on an old film, which stays.
func TestSystemOASpotAndAPanelOfAnOldFilm(t *testing.T) {
	w := stackedBody("mahogany-genuine", nil, Layer{ID: "chip", Effect: EffectPatch, Regions: []string{"sides"},
		Colours: []string{"amber"}},
		Layer{ID: "back", Effect: EffectPatch, As: "panel", Regions: []string{"back"}, Coats: 4})
	w.Pieces[0].Found = "old-thinner"
	d := had(t, w)
	before(t, d.Pieces[0], "found-lead-test", "strip", "tape-on", "colour-test", "touch-in", "drop", "harden", "level", "blend", "witness",
		"tape-line", "dull", "clear",
		"tape-line-off", "tape-off", "verdict")
	absent(t, d, "sand-bare", "wet", "cut-back", "drill", "open")
	assert.Equal(t, "nitro", d.find("body:chip:drop").Family, "what the drop test tells: it melts into itself")
	assert.Equal(t, 1, d.find("body:chip:drop").PerDay.Coats)
	assert.EqualValues(t, 72*60, d.find("body:chip:harden").RestMin)
	assert.Equal(t, 4, d.find("body:back:clear").Coats)
	assert.Equal(t, []string{"body:back"}, d.find("body:back:clear").Regions)

	w.Pieces[0].Found = "old-none"
	hard := compose(t, w)
	assert.Equal(t, "ca-finish", hard.find("body:chip:drop").Family, "no drop of a film that does not melt: one that sets")
	assert.Equal(t, "airbrush-colour", hard.find("body:chip:touch-in").Family)
	assert.Equal(t, "urethane-2k", hard.find("body:back:clear").Family)

	for name, change := range map[string]func(*PieceWish){
		"a film that nobody knows":   func(p *PieceWish) { p.Found = "old-unknown" },
		"bare wood":                  func(p *PieceWish) { p.Found = "" },
		"and a new finish beside it": func(p *PieceWish) { p.Layers = append(p.Layers, clearOf("nitro", "gloss")) },
	} {
		wrong := stackedBody("mahogany-genuine", nil, w.Pieces[0].Layers...)
		wrong.Pieces[0].Found = "old-thinner"
		change(&wrong.Pieces[0])
		_, faults, err := Compose(wrong.Of("slab", ""))
		require.NoError(t, err)
		assert.NotEmpty(t, faults, name)
	}
	w.Pieces[0].Found = "old-unknown"
	w.Pieces[0].Layers[0].Family, w.Pieces[0].Layers[1].Family = "shellac", "shellac"
	told := compose(t, w)
	before(t, told.Pieces[0], "found-lead-test", "found-old-film-drop", "touch-in")
	assert.Equal(t, "shellac", told.find("body:back:clear").Family, "a person may say what it is")

	touch := stackedBody("mahogany-genuine", nil, Layer{ID: "edge", Effect: EffectPatch, As: "touch-up", Regions: []string{"sides"},
		Colours: []string{"walnut"}, Sheen: "satin"})
	touch.Pieces[0].Found = "burnt-through"
	touch.Pieces[0].Layers[0].Family = "nitro"
	d = had(t, touch)
	before(t, d.Pieces[0], "feather", "seal-spot", "touch-in", "clear-past", "level", "blend", "witness")
	assert.Equal(t, []string{"nonwoven:ultra-fine"}, d.find("body:edge:blend").Ladder)
}
