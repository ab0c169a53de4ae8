package recipe

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/outline"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/proptest"
)

func TestEveryPresetComposesOnABodyAndANeck(t *testing.T) {
	for _, preset := range Presets {
		for _, p := range []PieceWish{body("ash-swamp"), neck("maple-hard")} {
			w := Wish{Pieces: []PieceWish{p.From(preset.ID)}}
			d := had(t, w)
			for _, piece := range d.Pieces {
				for _, s := range piece.Steps {
					assert.NotEmpty(t, s.How, "%s: %s", preset.ID, s.Slot)
					assert.NotEmpty(t, s.Why, "%s: %s", preset.ID, s.Slot)
				}
			}
		}
	}
	_, err := FindPreset("plaid")
	assert.ErrorContains(t, err, `"plaid"`)
}

func TestAPresetIsAStackToBeginFromNothingMore(t *testing.T) {
	p := body("ash-swamp").From("one-colour").Ending("nitro", "gloss")
	set(&p, "Texture", true)
	set(&p, "Wax", true)
	burst := p.From("burst")
	var ids []string
	for _, l := range burst.Layers {
		ids = append(ids, l.ID)
	}
	assert.Equal(t, []string{"texture", "colour", "burst", "fill", "clear", "wax"}, ids, "texture and wax stay")
	assert.Equal(t, "nitro", burst.layer(EffectClear).Family, "the clear stays too")
	assert.Equal(t, "One colour, gloss, nitrocellulose lacquer", Wish{Pieces: []PieceWish{p}}.Text(Body))
	assert.Equal(t, "Burst, gloss, nitrocellulose lacquer", Wish{Pieces: []PieceWish{burst}}.Text(Body))
	assert.Equal(t, "Natural, bare", Wish{Pieces: []PieceWish{body("ash-swamp").From("bare")}}.Text(Body))
	assert.Equal(t, "Natural, satin, oil and shellac in turn", Wish{Pieces: []PieceWish{body("ash-swamp").From("oil-shellac")}}.Text(Body))
	strips := stackedBody("ash-swamp", []RegionWish{{Name: "a", Kind: "half"}},
		Layer{ID: "a", Effect: EffectColour, Regions: []string{"a"}},
		Layer{ID: "b", Effect: EffectColour, Regions: []string{"top"}}, clearOf("nitro", "satin"))
	assert.Equal(t, "2 colours, satin, nitrocellulose lacquer", strips.Text(Body))
}

func TestSchoolsAreChosenWhereTheyLieInTheStack(t *testing.T) {
	ids := func(p PieceWish) (list []string) {
		for _, l := range p.Layers {
			list = append(list, l.ID)
		}
		return list
	}
	one := body("ash-swamp").From("one-colour")
	dark := one.Chosen("figure", "dark")
	assert.Equal(t, []string{"dark", "colour", "fill", "clear"}, ids(dark))
	assert.Equal(t, "grain-colour", dark.Preset)
	assert.Equal(t, ids(one), ids(dark.Chosen("figure", "none")))
	warm := body("ash-swamp").From("natural").Chosen("figure", "warm")
	assert.Equal(t, []string{"warm", "fill", "clear"}, ids(warm))
	first := one.Chosen("fill-order", "first")
	assert.Equal(t, []string{"fill", "colour", "clear"}, ids(first))
	assert.Equal(t, []string{"colour", "fill", "clear"}, ids(first.Chosen("fill-order", "after")))
	tinted, bound, papers := one.Chosen("fill-order", "tinted"), one.Chosen("colour-as", "bound"), one.Chosen("shine", "papers")
	assert.True(t, tinted.layer(EffectFill).Tinted)
	assert.Equal(t, "bound", bound.layer(EffectColour).Carrier)
	assert.Equal(t, map[string]string{"shine": "papers"}, papers.layer(EffectClear).Ways)
	assert.Equal(t, map[string]string{"grain": "seal"}, one.Chosen("grain", "seal").Ways)
	assert.Equal(t, ids(body("ash-swamp").From("one-colour")), ids(one), "the piece it was chosen in stays as it was")
}

func TestWhatALayerMaySay(t *testing.T) {
	for name, test := range map[string]struct {
		layer         Layer
		field, accept string
	}{
		"no id":                   {Layer{Effect: EffectWax}, "id", "small letters"},
		"an odd id":               {Layer{ID: "Ü:1", Effect: EffectWax}, "id", "small letters"},
		"no such effect":          {Layer{ID: "a", Effect: "glitter"}, "effect", "flake"},
		"no such kind":            {Layer{ID: "a", Effect: EffectTexture, As: "melted"}, "as", "brushed, struck"},
		"a kind of wax":           {Layer{ID: "a", Effect: EffectWax, As: "soft"}, "as", "only one kind"},
		"another piece's region":  {Layer{ID: "a", Effect: EffectColour, Regions: []string{"shaft"}}, "regions[0]", "top, back, sides"},
		"a carrier of a fill":     {Layer{ID: "a", Effect: EffectFill, Carrier: "water"}, "carrier", "only a colour"},
		"no such carrier":         {Layer{ID: "a", Effect: EffectColour, Carrier: "milk"}, "carrier", "water"},
		"a family that is ruled":  {Layer{ID: "a", Effect: EffectWax, Family: "nitro"}, "family", "the rules choose"},
		"no such clear":           {Layer{ID: "a", Effect: EffectClear, Family: "treacle"}, "family", "water-clear"},
		"coats below none":        {Layer{ID: "a", Effect: EffectTint, Coats: -1}, "coats", "0 to 50"},
		"coats beyond reason":     {Layer{ID: "a", Effect: EffectTint, Coats: 51}, "coats", "0 to 50"},
		"a film of nothing known": {Layer{ID: "a", Effect: EffectClear, FilmUm: math.NaN()}, "coats", "0 to 3000"},
		"another effect's school": {Layer{ID: "a", Effect: EffectFill, Ways: map[string]string{"shine": "papers"}}, "ways.shine",
			"no such choice"},
		"a school of the stack": {Layer{ID: "a", Effect: EffectColour, Ways: map[string]string{"burst": "rub"}}, "ways.burst",
			"no such choice"},
		"no such mend":             {Layer{ID: "a", Effect: EffectMend, Of: "wishing"}, "of", "wishing"},
		"grains in a clear":        {Layer{ID: "a", Effect: EffectFlake, Of: "grain-100"}, "of", "strewn"},
		"flake strewn":             {Layer{ID: "a", Effect: EffectParticles, Of: "flake-100"}, "of", "it is flake"},
		"no such leaf":             {Layer{ID: "a", Effect: EffectLeaf, Of: "tinsel"}, "of", "tinsel"},
		"no such resin":            {Layer{ID: "a", Effect: EffectPour, Of: "jelly", Depth: "5 mm"}, "of", "jelly"},
		"a pour of no depth":       {Layer{ID: "a", Effect: EffectPour, Depth: "deep"}, "depth", "480 mm"},
		"a pour too deep":          {Layer{ID: "a", Effect: EffectPour, Depth: "101 mm"}, "depth", "100 mm"},
		"a row of nothing":         {Layer{ID: "a", Effect: EffectWax, Of: "bees"}, "of", "only mends"},
		"no such grit":             {Layer{ID: "a", Effect: EffectTint, Grit: "fepa:P7"}, "grit", "P7"},
		"a holder that holds none": {Layer{ID: "a", Effect: EffectParticles, Family: "paste-wax"}, "family", "urethane-2k"},
	} {
		w := stackedBody("ash-swamp", nil, test.layer, clearOf("urethane-2k", "gloss"))
		_, faults, err := Compose(w)
		require.NoError(t, err, name)
		require.NotEmpty(t, faults, name)
		assert.Equal(t, "pieces[0].layers[0]."+test.field, faults[0].Path, name)
		assert.Contains(t, unit.Unmarked(faults[0].Message), test.accept, name)
	}
	twice := stackedBody("ash-swamp", nil, clearOf("nitro", "gloss"), clearOf("nitro", "gloss"))
	_, faults, _ := Compose(twice)
	assert.Equal(t, "pieces[0].layers[1].id", faults[0].Path)
}

func TestWhatSpoilsForCertainIsRefused(t *testing.T) {
	clear := clearOf("urethane-2k", "gloss")
	for name, test := range map[string]struct {
		layers []Layer
		path   string
		says   string
	}{
		"a flame over film":     {[]Layer{clear, {ID: "burn", Effect: EffectFlame}}, "layers[1].effect", "before spirit, oil and film"},
		"film over wax":         {[]Layer{{ID: "wax", Effect: EffectWax}, clear}, "layers[1].effect", "nothing holds on wax"},
		"colour over the clear": {[]Layer{clear, {ID: "red", Effect: EffectTint}}, "layers[1].effect", "rubbed away"},
		"flake under lacquer": {[]Layer{{ID: "flake", Effect: EffectFlake}, clearOf("nitro", "gloss")}, "layers[1].family",
			"urethane-2k"},
		"candy from a brush": {[]Layer{{ID: "candy", Effect: EffectCandy}, clearOf("brush-varnish", "gloss")}, "layers[0].effect",
			"sprayed"},
		"a rubbed-back lacquer": {[]Layer{{ID: "dark", Effect: EffectColour, As: "grain", Family: "lacquer-toner"}, clear},
			"layers[0].family", "rubbed back"},
		"an oil left as it is": {[]Layer{{ID: "oil", Effect: EffectClear, Family: "finishing-oil", As: "as-it-is"}}, "layers[0].as",
			"builds no film"},
		"shellac dulled by nothing": {[]Layer{{ID: "s", Effect: EffectClear, Family: "shellac", As: "as-it-is", Sheen: "satin"}},
			"layers[0].sheen", "choose gloss"},
	} {
		_, faults, err := Compose(stackedBody("basswood", nil, test.layers...))
		require.NoError(t, err, name)
		require.NotEmpty(t, faults, name)
		assert.Equal(t, "pieces[0]."+test.path, faults[0].Path, name)
		assert.Contains(t, faults[0].Message, test.says, name)
	}
}

func TestRegionsAreDrawnWithinThePiece(t *testing.T) {
	areas := func(outlined string, regions ...RegionWish) map[string]float64 {
		w := stackedBody("basswood", regions, clearOf("water-clear", "satin"))
		list := make(map[string]float64)
		for _, z := range compose(t, w.Of(outlined, "")).piece(t, Body).Regions {
			list[z.Name] = float64(z.AreaM2)
		}
		return list
	}
	face, rim := 0.72*0.480*0.330, 3.9*math.Sqrt(0.480*0.330)
	plain := areas("")
	assert.InDelta(t, face, plain["top"], 1e-9)

	a := areas("", RegionWish{Name: "edge", Kind: "border", Width: "10 mm"})
	assert.InDelta(t, rim*0.010-math.Pi*0.010*0.010, a["edge"], 1e-9, "the rim times its width, less the corners")
	assert.InDelta(t, face-a["edge"], a["top"], 1e-9, "what is drawn in another is cut out of it")
	a = areas("", RegionWish{Name: "round", Kind: "round-over", Width: "6 mm", In: "sides"})
	assert.InDelta(t, rim*0.006*math.Pi/2, a["round"], 1e-9, "a quarter of a circle")
	a = areas("", RegionWish{Name: "stripes", Kind: "strips", Count: 3, Width: "20 mm"})
	assert.InDelta(t, 3*0.020*0.480*0.72, a["stripes"], 1e-9)
	a = areas("", RegionWish{Name: "stripes", Kind: "strips", Count: 3})
	assert.InDelta(t, 3*0.330/6*0.480*0.72, a["stripes"], 1e-9, "as wide as the gaps between them, where nobody says")
	a = areas("", RegionWish{Name: "left", Kind: "half"})
	assert.InDelta(t, face/2, a["left"], 1e-9)
	a = areas("", RegionWish{Name: "star", Kind: "shape", Path: "M0 0 H100 V50 H0 Z"},
		RegionWish{Name: "typed", Kind: "shape", In: "back", AreaCm2: 40})
	assert.InDelta(t, 0.005, a["star"], 1e-9)
	assert.InDelta(t, 0.004, a["typed"], 1e-9)
	a = areas("", RegionWish{Name: "hole", Kind: "cut-out", Path: "M0 0 H100 V50 H0 Z"})
	assert.InDelta(t, 0.300*0.044, a["hole"], 1e-9, "its inner rim is what is finished")
	a = areas("", RegionWish{Name: "binding", Kind: "binding", Width: "2 mm"},
		RegionWish{Name: "bevel", Kind: "bevel", Width: "20 mm", Length: "250 mm", Count: 2, In: "back"})
	assert.InDelta(t, rim*0.002, a["binding"], 1e-9)
	assert.InDelta(t, 2*0.020*0.250, a["bevel"], 1e-9)
	a = areas("", RegionWish{Name: "joint", Kind: "joint-face"}, RegionWish{Name: "rout", Kind: "cavity", Count: 2})
	assert.InDelta(t, 0.006, a["joint"], 1e-9)
	assert.InDelta(t, 0.024, a["rout"], 1e-9)
	assert.InDelta(t, face-0.006, a["top"], 1e-9, "a cavity lies below the face")
	a = areas("", RegionWish{Name: "most", Kind: "shape", AreaCm2: 5000})
	assert.InDelta(t, 0.0005, a["top"], 1e-9, "something of the face stays")

	shape, _ := outline.Body("offset")
	shape = shape.Scaled(480, 330)
	a = areas("offset", RegionWish{Name: "stripes", Kind: "strips", Count: 2, Width: "30 mm", Mirrored: true},
		RegionWish{Name: "right", Kind: "half", Side: "right", In: "back"})
	want := 0.0
	for _, middle := range []unit.Millimetre{330.0 / 8, 3 * 330.0 / 8, 5 * 330.0 / 8, 7 * 330.0 / 8} {
		want += float64(shape.Between(middle-15, middle+15))
	}
	assert.InDelta(t, want, a["stripes"], 1e-9)
	assert.InDelta(t, float64(shape.Between(165, 330)), a["right"], 1e-9)
}

func TestARegionThatIsDrawnLaterIsCutOutOfWhatWasKept(t *testing.T) {
	w := stackedBody("basswood", nil, clearOf("water-clear", "satin"))
	kept := compose(t, w)
	kept.Pieces[0].Regions[0].AreaM2 = 0.1 // as somebody measured it
	w.Pieces[0].Regions = []RegionWish{{Name: "star", Kind: "shape", AreaCm2: 100}}
	for _, z := range compose(t, w.Keeping(kept)).piece(t, Body).Regions {
		if z.Name == "top" {
			assert.InDelta(t, 0.09, float64(z.AreaM2), 1e-9)
		}
	}
}

func TestWhatARegionMaySay(t *testing.T) {
	for name, test := range map[string]struct {
		region      RegionWish
		field, says string
	}{
		"no name":          {RegionWish{Kind: "half"}, "name", "a name of its own"},
		"a colon":          {RegionWish{Name: "a:b", Kind: "half"}, "name", "without a colon"},
		"natural of none":  {RegionWish{Name: "belly"}, "name", "top, back, sides"},
		"natural, drawn":   {RegionWish{Name: "top", Kind: "half"}, "name", "a name of its own"},
		"no such kind":     {RegionWish{Name: "a", Kind: "cloud"}, "kind", "strips"},
		"in nothing":       {RegionWish{Name: "a", Kind: "half", In: "belly"}, "in", "a natural region"},
		"in itself":        {RegionWish{Name: "a", Kind: "half", In: "a"}, "in", "a natural region"},
		"no such edge":     {RegionWish{Name: "a", Kind: "half", Edge: "torn"}, "edge", "taped"},
		"no such side":     {RegionWish{Name: "a", Kind: "half", Side: "under"}, "side", "left"},
		"no such wood":     {RegionWish{Name: "a", Kind: "half", Wood: "driftwood"}, "wood", "ash-swamp"},
		"never found":      {RegionWish{Name: "a", Kind: "half", Found: "sandblasted"}, "found", "pre-sanded"},
		"a border of none": {RegionWish{Name: "a", Kind: "border"}, "width", "how wide"},
		"wide as a barn":   {RegionWish{Name: "a", Kind: "border", Width: "7 m"}, "width", "at most"},
		"no length":        {RegionWish{Name: "a", Kind: "bevel", Width: "5 mm", Length: "long"}, "length", "480 mm"},
		"a shape of none":  {RegionWish{Name: "a", Kind: "shape"}, "path", "SVG path data"},
		"a hostile path":   {RegionWish{Name: "a", Kind: "shape", Path: "<script>"}, "path", "path"},
		"too many":         {RegionWish{Name: "a", Kind: "strips", Count: 41}, "count", "1 to 40"},
		"an area of none":  {RegionWish{Name: "a", Kind: "shape", AreaCm2: math.Inf(1)}, "count", "20000"},
		"cut after what":   {RegionWish{Name: "a", Kind: "half", CutAfter: "never"}, "cutAfter", "say its id"},
	} {
		_, faults, err := Compose(stackedBody("basswood", []RegionWish{test.region}, clearOf("water-clear", "satin")))
		require.NoError(t, err, name)
		require.NotEmpty(t, faults, name)
		assert.Equal(t, "pieces[0].regions[0]."+test.field, faults[0].Path, name)
		assert.Contains(t, unit.Unmarked(faults[0].Message), test.says, name)
	}
}

func TestANameOfFortyCharactersIsTaken(t *testing.T) {
	for n, faults := range map[int]int{40: 0, 41: 1} {
		_, found, err := Compose(stackedBody("basswood", []RegionWish{{Name: strings.Repeat("ä", n), Kind: "half"}},
			clearOf("water-clear", "satin")))
		require.NoError(t, err)
		assert.Len(t, found, faults, "%d", n)
	}
}

func TestAnAreaOfTwoSquareMetresIsTaken(t *testing.T) {
	for area, faults := range map[float64]int{20000: 0, 20000.5: 1} {
		_, found, err := Compose(stackedBody("basswood", []RegionWish{{Name: "a", Kind: "shape", AreaCm2: area}},
			clearOf("water-clear", "satin")))
		require.NoError(t, err)
		assert.Len(t, found, faults, "%g", area)
	}
}

func TestWhatPartsAndEventsMaySay(t *testing.T) {
	for path, change := range map[string]func(*Wish){
		"parts[0].kind":  func(w *Wish) { w.Parts = []PartWish{{Kind: "strap"}} },
		"parts[0].of":    func(w *Wish) { w.Parts = []PartWish{{Kind: Hardware, Of: "mithril"}} },
		"parts[0].do[0]": func(w *Wish) { w.Parts = []PartWish{{Kind: Plastics, Of: "abs-part", Do: []string{"etch"}}} },
		"parts[1].kind": func(w *Wish) {
			w.Parts = []PartWish{{Kind: Plastics, Of: "abs-part"}, {Kind: Plastics, Of: "bone-nut"}}
		},
		"parts[0].areaCm2": func(w *Wish) { w.Parts = []PartWish{{Kind: Plastics, Of: "abs-part", AreaCm2: -1}} },
		"events[0]":        func(w *Wish) { w.Events = []string{"party"} },
		"hangDays":         func(w *Wish) { w.HangDays = 61 },
	} {
		w := stackedBody("basswood", nil, clearOf("water-clear", "satin"))
		change(&w)
		_, faults, err := Compose(w)
		require.NoError(t, err, path)
		require.NotEmpty(t, faults, path)
		assert.Equal(t, path, faults[0].Path)
	}
	polish := Wish{Pieces: []PieceWish{neck("maple-hard")}, Events: []string{"last-polish"}}
	_, faults, _ := Compose(polish)
	assert.Contains(t, faults[0].Message, "no frets")
	fittings := Wish{Pieces: []PieceWish{neck("maple-hard")}, Parts: []PartWish{{Kind: Fittings, Of: "walnut-black"}}}
	_, faults, _ = Compose(fittings)
	assert.Contains(t, faults[0].Message, "choose a body too")
}

// What only served a step that was left out goes with it, or lint objects with a mend.
func TestWhatServesNothingIsObjectedTo(t *testing.T) {
	w := stackedBody("ash-swamp", []RegionWish{{Name: "panel", Kind: "half"}},
		Layer{ID: "dark", Effect: EffectColour, As: "grain", Regions: []string{"panel"}},
		Layer{ID: "fill", Effect: EffectFill, As: "full"}, clearOf("water-clear", "gloss"))
	for gone, left := range map[string][]string{
		"body:fill:fill": {"body:fill:sand-fill", "body:fill:pores"},
		"body:dark:dark": {"body:dark:rub-back"},
	} {
		d := compose(t, w)
		d.drop(gone)
		mended := d
		found := rulesAt(Lint(d, w), "left-over")
		for _, slot := range left {
			assert.Contains(t, found, slot)
		}
		for range 8 {
			for _, o := range Lint(mended, w) {
				if o.Rule == "left-over" {
					mended = o.Mend.Apply(mended)
					break
				}
			}
		}
		assert.Empty(t, rulesAt(Lint(mended, w), "left-over"))
	}
	skipped := compose(t, w)
	skipped.find("body:fill:fill").Skipped = true
	assert.Contains(t, rulesAt(Lint(skipped, w), "left-over"), "body:fill:pores")

	d := compose(t, w)
	d.drop("body:dark:unmask")
	found := Lint(d, w)
	at := slices.IndexFunc(found, func(o Objection) bool { return o.Rule == "mask-left-on" })
	require.GreaterOrEqual(t, at, 0)
	assert.Empty(t, Lint(found[at].Mend.Apply(d), w))
	d = compose(t, w)
	d.drop("body:dark:mask")
	assert.Contains(t, rulesAt(Lint(d, w), "left-over"), "body:dark:unmask")
}

func rulesAt(found []Objection, rule string) (slots []string) {
	for _, o := range found {
		if o.Rule == rule {
			slots = append(slots, o.Slot)
		}
	}
	return slots
}

// Each layer may have a product of its own; what the rules add shares one.
func TestMaterialsByLayer(t *testing.T) {
	w := stackedBody("ash-swamp", []RegionWish{{Name: "panel", Kind: "half"}},
		Layer{ID: "ochre", Effect: EffectColour, Regions: []string{"top"}},
		Layer{ID: "slate", Effect: EffectColour, Carrier: "spirit", Regions: []string{"panel"}},
		Layer{ID: "build", Effect: EffectClear, Family: "nitro", Coats: 4},
		Layer{ID: "finish", Effect: EffectClear, Family: "nitro", Sheen: "gloss"})
	d := had(t, w)
	var ids []string
	for _, r := range d.Roles() {
		ids = append(ids, r.ID)
		assert.True(t, KnownRole(r.ID), r.ID)
		assert.NotEmpty(t, r.Title)
	}
	assert.Equal(t, []string{"body:colour", "body:colour:slate:solvent-dye", "body:sealer", "body:clear", "body:clear:finish"}, ids)
	assert.Equal(t, "Clear, finish", d.Roles()[4].Title)
	assert.False(t, KnownRole("body:glitter"))
	assert.False(t, KnownRole("boat:clear:finish"))
}

// What is wished on purpose, with a reason, is not warned of.
func TestOnPurposeBecause(t *testing.T) {
	w := stackedBody("cocobolo", nil, Layer{ID: "oil", Effect: EffectClear, Family: "hardwax-oil", Sheen: "gloss"})
	assert.Len(t, had(t, w).Notes, 2)
	w.Pieces[0].Layers[0].Because = "it was tried on scrap for a month"
	assert.Empty(t, had(t, w).Notes)
	d := compose(t, w)
	d.drop("body:oil:degrease")
	assert.Empty(t, Lint(d, w), "a warning, not spoilt work")
	w.Pieces[0].Layers[0].Because = ""
	assert.NotEmpty(t, Lint(d, w))
}

// Properties of any stack on any regions.

func TestMasksGoOnAndOffInPairsAndCoverNothingThatIsCoated(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		_, d := composed(t)
		for _, p := range d.Pieces {
			on := make(map[string][]string)
			for _, s := range p.Steps {
				layer := ""
				if of := s.of(); of != nil {
					layer = of.ID
				}
				switch {
				case isMask(&s, "mask"):
					assert.NotContains(t, on, layer, "%s: it is on already", s.Slot)
					on[layer] = s.Regions
				case isMask(&s, "unmask"):
					assert.Contains(t, on, layer, "%s: it is not on", s.Slot)
					delete(on, layer)
				case s.Kind == job.Coat:
					for of, covered := range on {
						for _, z := range covered {
							assert.NotContains(t, s.Regions, z, "%s goes onto the mask of %s", s.Slot, of)
						}
					}
				}
			}
			assert.Empty(t, on, "left on")
		}
	})
}

func TestEveryRegionHoldsItsLayersAndNoOther(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		w, d := composed(t)
		ready := w.ready()
		for i := range ready.Pieces {
			p := &ready.Pieces[i]
			if ready.gluedFirst() {
				return
			}
			for _, piece := range d.Pieces {
				for _, s := range piece.Steps {
					of := s.of()
					if of == nil || piece.Kind != p.Kind || s.Kind != job.Coat {
						continue
					}
					at := slices.IndexFunc(p.Layers, func(l Layer) bool { return l.ID == of.ID })
					require.GreaterOrEqual(t, at, 0, s.Slot)
					assert.NotEmpty(t, s.Why, s.Slot)
					for _, key := range s.Regions {
						z := Region{Region: job.Region{Name: key[strings.Index(key, ":")+1:]}}
						assert.True(t, p.reaches(&p.Layers[at], z), "%s reaches %s", s.Slot, key)
					}
				}
				if piece.Kind == p.Kind {
					holds(t, p, piece)
				}
			}
		}
	})
}

// holds asserts that each region has what was wished on it, of what no rule may leave out.
func holds(t *rapid.T, p *PieceWish, piece Piece) {
	for _, z := range piece.Regions {
		for _, l := range p.on(z, EffectFlake, EffectCandy, EffectLeaf, EffectTint, EffectClear, EffectRounds) {
			assert.True(t, slices.ContainsFunc(piece.Steps, func(s Step) bool {
				return s.Kind == job.Coat && s.of() != nil && s.of().ID == l.ID && slices.Contains(s.Regions, z.Key)
			}), "%s has no %s", z.Key, l.ID)
		}
	}
}

// BenchmarkComposeLayers composes twelve layers on ten regions. Budget: 5 ms.
func BenchmarkComposeLayers(b *testing.B) {
	w := twelveOnTen()
	if _, faults, err := Compose(w); err != nil || len(faults) > 0 {
		b.Fatal(faults, err)
	}
	for b.Loop() {
		_, _, _ = Compose(w)
	}
}

func twelveOnTen() Wish {
	var regions []RegionWish
	for i := range 7 {
		regions = append(regions, RegionWish{Name: fmt.Sprint("strip ", i), Kind: "strips", Width: "12 mm", Edge: "scored"})
	}
	layers := []Layer{{ID: "texture", Effect: EffectTexture, Regions: []string{"back"}},
		{ID: "dark", Effect: EffectColour, As: "grain", Regions: []string{"top"}}}
	for i := range 5 {
		layers = append(layers, Layer{ID: fmt.Sprint("dye-", i), Effect: EffectColour, Carrier: "water",
			Regions: []string{fmt.Sprint("strip ", i)}})
	}
	layers = append(layers, Layer{ID: "fill", Effect: EffectFill}, Layer{ID: "leaf", Effect: EffectLeaf, Regions: []string{"strip 6"}},
		Layer{ID: "mark", Effect: EffectMark, As: "signed", Regions: []string{"back"}},
		Layer{ID: "build", Effect: EffectClear, Family: "water-clear", Sheen: "gloss", Coats: 4},
		Layer{ID: "clear", Effect: EffectClear, Family: "water-clear", Sheen: "gloss", Grit: "fepa:P600"})
	return stackedBody("ash-swamp", regions, layers...).Of("two-horned", "")
}
