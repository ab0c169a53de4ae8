package recipe

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/colour"
)

// lookOf is how a body will look, and one of its regions.
func lookOf(t *testing.T, w Wish, region string) RegionLook {
	t.Helper()
	for _, l := range w.Looks(nil, nil) {
		for _, z := range l.Regions {
			if z.Name == region {
				return z
			}
		}
	}
	require.Fail(t, "there is no such region", region)
	return RegionLook{}
}

func asOf(z RegionLook) (list []string) {
	for _, p := range z.Paints {
		list = append(list, p.As)
	}
	return list
}

func TestALookIsOfTheLayersThatLieThere(t *testing.T) {
	w := stackedBody("ash-swamp", []RegionWish{{Name: "Rand", Kind: "border", Width: "12 mm"}},
		Layer{ID: "dark", Effect: EffectColour, As: "grain", Colours: []string{"black"}},
		Layer{ID: "base", Effect: EffectColour, Carrier: "opaque", Colours: []string{"cream"}, Regions: []string{"Rand"}},
		Layer{ID: "gone", Effect: EffectFlake, Off: true}, clearOf("nitro", "gloss"))
	top, rim := lookOf(t, w, "top"), lookOf(t, w, "Rand")
	assert.Equal(t, []string{"grain"}, asOf(top))
	assert.Equal(t, []string{"grain", "even"}, asOf(rim), "from the wood upwards")
	assert.Equal(t, Paint{Layer: "base", As: "even", Colours: []string{"#E8DEC3"}, Cover: 1}, rim.Paints[1])
	assert.Equal(t, "gloss", top.Sheen)
	assert.True(t, top.Pores)
	assert.False(t, rim.Pores, "an opaque base hides them")
	assert.EqualValues(t, 12, rim.Band)
	assert.Equal(t, []string{"front", "back", "side", "front"}, []string{top.Face, lookOf(t, w, "back").Face, lookOf(t, w, "sides").Face,
		rim.Face})
	bare := lookOf(t, Wish{Pieces: []PieceWish{body("ash-swamp").From("bare")}}, "top")
	assert.NotEqual(t, bare.Ground, top.Ground, "what lies on it wets the wood")
}

func TestColoursAreThoseThatAreKnown(t *testing.T) {
	burst := func(said ...string) Wish {
		return stackedBody("alder-red", nil, Layer{ID: "burst", Effect: EffectColour, As: "burst", Colours: said},
			clearOf("nitro", "gloss"))
	}
	assert.Equal(t, []string{"#B4702A", "#8E4A26", "#1D1A1A"}, lookOf(t, burst("Honey", "rust", "black"), "top").Paints[0].Colours,
		"from the middle to the edge")
	assert.True(t, lookOf(t, burst(), "top").Paints[0].Guessed)
	assert.True(t, lookOf(t, burst("a colour without a name"), "top").Paints[0].Guessed)
	asked := ""
	tin := func(kind PieceKind, layer string) string { asked = string(kind) + ":" + layer; return "#112233" }
	one := burst("honey").Looks(tin, nil)[0].Regions[0].Paints[0]
	assert.Equal(t, []string{"#112233"}, one.Colours, "what is in the tin goes before the word for it")
	assert.Equal(t, "body:burst", asked)
	assert.Equal(t, []string{"#B4702A", "#8E4A26"}, burst("honey", "rust").Looks(tin, nil)[0].Regions[0].Paints[0].Colours,
		"no tin has two colours")
	leaf := stackedBody("alder-red", nil, Layer{ID: "leaf", Effect: EffectLeaf, Of: "silver-water", Torn: true},
		clearOf("water-clear", "gloss"))
	assert.Equal(t, Paint{Layer: "leaf", As: "torn", Colours: []string{whiteMetal}, Cover: 1}, lookOf(t, leaf, "top").Paints[0],
		"a metal has a colour of its own")
}

// How much each covers, and the colour it has by itself (defaults of the drawing).
func TestHowMuchAPaintCovers(t *testing.T) {
	for _, tt := range []struct {
		layer  Layer
		as     string
		colour string
		cover  float64
	}{
		{Layer{Effect: EffectColour}, "even", "#8A5A32", 0.8},
		{Layer{Effect: EffectColour, Carrier: "water"}, "even", "#8A5A32", 0.8},
		{Layer{Effect: EffectColour, Carrier: "spirit"}, "even", "#8A5A32", 0.8},
		{Layer{Effect: EffectColour, Carrier: "oil"}, "even", "#8A5A32", 0.7},
		{Layer{Effect: EffectColour, Carrier: "stain"}, "even", "#8A5A32", 0.75},
		{Layer{Effect: EffectColour, Carrier: "bound"}, "even", "#8A5A32", 0.85},
		{Layer{Effect: EffectColour, Carrier: "opaque"}, "even", "#B9B6AE", 1},
		{Layer{Effect: EffectColour, Carrier: "airbrush"}, "even", "#8A5A32", 0.9},
		{Layer{Effect: EffectColour, Family: "lacquer-toner"}, "even", "#8A5A32", 0.6},
		{Layer{Effect: EffectColour, As: "grain"}, "grain", "#33281F", 0.85},
		{Layer{Effect: EffectColour, As: "burst"}, "burst", "#3E2417", 0.92},
		{Layer{Effect: EffectColour, As: "wiped", Carrier: "water"}, "wiped", "#8A5A32", 0.7},
		{Layer{Effect: EffectTint}, "even", "#C98B2C", 0.35},
		{Layer{Effect: EffectCandy}, "even", "#8C2F26", 0.75},
		{Layer{Effect: EffectFlake}, "flake", "#C2C6C9", 0.75},
		{Layer{Effect: EffectParticles, Of: "grain-100"}, "particles", "#8F867A", 0.9},
		{Layer{Effect: EffectParticles, As: "stencil", Of: "metal-150"}, "stencil", "#C2C6C9", 0.9},
		{Layer{Effect: EffectLeaf, Of: "copper-water"}, "leaf", "#B87345", 1},
		{Layer{Effect: EffectPour}, "pour", "#3D6A73", 0.9},
		{Layer{Effect: EffectFlame}, "char", "#211C1A", 0.92},
		{Layer{Effect: EffectFlame, As: "accents"}, "accents", "#211C1A", 0.92},
		{Layer{Effect: EffectTexture}, "texture", "#33281F", 0.25},
		{Layer{Effect: EffectMark}, "mark", "#33281F", 0.9},
		{Layer{Effect: EffectCloth}, "cloth", "#3A3B3D", 0.8},
		{Layer{Effect: EffectSeal, As: "warm"}, "even", "#C98B2C", 0.3},
	} {
		paint, shows := drawing{}.paint(&tt.layer)
		assert.True(t, shows)
		assert.Equal(t, []any{tt.as, []string{tt.colour}}, []any{paint.As, paint.Colours}, "%+v", tt.layer)
		assert.InDelta(t, tt.cover, paint.Cover, 1e-9, "%+v", tt.layer)
	}
	for _, quiet := range []Layer{{Effect: EffectFill}, {Effect: EffectClear}, {Effect: EffectSeal}, {Effect: EffectWax},
		{Effect: EffectMend}, {Effect: EffectRounds}} {
		_, shows := drawing{}.paint(&quiet)
		assert.False(t, shows, quiet.Effect)
	}
}

func TestALookAsFarAsTheLogHasCome(t *testing.T) {
	w := stackedBody("alder-red", nil, Layer{ID: "dye", Effect: EffectColour, Carrier: "water"}, clearOf("nitro", "gloss"))
	looks := w.Looks(nil, func(_ PieceKind, layer string) bool { return layer == "dye" })
	assert.Len(t, looks[0].Regions[0].Paints, 1)
	assert.Empty(t, looks[0].Regions[0].Sheen, "nothing shines before its clear is on")
	none := w.Looks(nil, func(PieceKind, string) bool { return false })
	assert.Empty(t, none[0].Regions[0].Paints)
}

func TestWhereDrawnRegionsLie(t *testing.T) {
	w := stackedBody("alder-red", []RegionWish{{Name: "s", Kind: "strips", Count: 2, Width: "20 mm"},
		{Name: "h", Kind: "half", Side: "right"},
		{Name: "hole", Kind: "cut-out", Path: "M10 10H30V30Z"}, {Name: "joint", Kind: "joint-face"},
		{Name: "arm", Kind: "bevel", Width: "25 mm", Length: "180 mm", In: "back"}}, clearOf("nitro", "gloss"))
	w.Pieces[0].Width, w.Pieces[0].Length = "400 mm", "500 mm"
	assert.Equal(t, "M90.0 0H110.0V500.0H90.0ZM290.0 0H310.0V500.0H290.0Z", lookOf(t, w, "s").Path, "a quarter and three quarters across")
	assert.Equal(t, "M200.0 0H400.0V500.0H200.0Z", lookOf(t, w, "h").Path)
	assert.True(t, lookOf(t, w, "hole").Hole)
	assert.True(t, lookOf(t, w, "joint").Hidden)
	arm := lookOf(t, w, "arm")
	assert.Equal(t, []any{"back", 25.0, 180.0}, []any{arm.Face, arm.Band, arm.Along})
}

func TestTheNeckLooksLikeTheBodyWhereTheyAreFinishedAsOne(t *testing.T) {
	b := body("mahogany-genuine").From("one-colour").Ending("nitro", "gloss")
	b.Layers[0].Colours = []string{"ruby"}
	w := Wish{Joint: "set", Ways: map[string]string{"joining": "glued-first"},
		Pieces: []PieceWish{b, neck("mahogany-genuine").From("one-colour").Ending("nitro", "satin")},
		Board:  &BoardWish{Wood: "ebony-gaboon", Finish: "drying-oil"}}
	looks := w.Looks(nil, nil)
	require.Len(t, looks, 2)
	shaft := looks[1].Regions[0]
	assert.Equal(t, []string{"#7A1E2C"}, shaft.Paints[0].Colours)
	assert.Equal(t, "back", shaft.Face)
	assert.Equal(t, "fretboard", looks[1].Regions[2].Name)
}

// Every preset has a look, with colours that a page can draw; what a layer adds lies where the layer does.
func TestLooksOfRandomStacks(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := body(rapid.SampledFrom([]string{"ash-swamp", "alder-red", "cocobolo"}).Draw(t, "wood")).From(rapid.SampledFrom(Presets).Draw(t,
			"preset").ID)
		for i := range p.Layers {
			if rapid.Bool().Draw(t, "some") {
				p.Layers[i].Regions = []string{rapid.SampledFrom([]string{"top", "back", "sides"}).Draw(t, "on")}
			}
		}
		w := Wish{Pieces: []PieceWish{p}}
		for _, z := range w.Looks(nil, nil)[0].Regions {
			for _, paint := range z.Paints {
				at := w.Pieces[0].Layers
				for i := range at {
					if at[i].ID == paint.Layer {
						assert.True(t, len(at[i].Regions) == 0 || at[i].Regions[0] == z.Name)
					}
				}
				assert.NotEmpty(t, paint.Colours)
				assert.True(t, paint.Cover > 0 && paint.Cover <= 1)
				for _, hex := range paint.Colours {
					_, err := colour.Parse(hex)
					assert.NoError(t, err)
				}
			}
		}
	})
}

func TestEveryEffectIsOffered(t *testing.T) {
	list := Offers()
	require.Len(t, list, len(effects))
	for _, o := range list {
		assert.Contains(t, effects, o.Effect)
		assert.NotEmpty(t, o.Hint, o.Effect)
		for _, k := range o.Kinds {
			assert.NotEmpty(t, k.Text, "%s: %s", o.Effect, k.ID)
		}
		assert.Len(t, o.Kinds, len(kindsOf[o.Effect]), o.Effect)
		o.New.ID = "new"
		p := body("alder-red")
		p.Layers = []Layer{o.New}
		c := checker{}
		c.layer("at", p, &p.Layers[0])
		assert.Empty(t, c.faults, "one to begin with is sound: %s", o.Effect)
		for _, row := range o.Of {
			l := o.New
			l.Of = row.ID
			c.layer("at", p, &l)
			assert.Empty(t, c.faults, "what is offered is taken: %s %s", o.Effect, row.ID)
		}
		for _, f := range o.Families {
			l := o.New
			l.Family = f.ID
			c.layer("at", p, &l)
			assert.Empty(t, c.faults, "%s %s", o.Effect, f.ID)
		}
	}
	for _, o := range PartOffers() {
		w := Wish{Pieces: []PieceWish{body("alder-red")}}
		for _, of := range o.Of {
			for _, do := range o.Do {
				assert.NotEmpty(t, do.Text, do.ID)
				w.Parts = append(w.Parts, PartWish{Kind: o.Kind, Of: of.ID, Do: []string{do.ID}})
				c := checker{}
				c.parts(w)
				assert.Empty(t, c.faults, "%s of %s", o.Kind, of.ID)
				w.Parts = nil
			}
		}
	}
	assert.Len(t, EventOptions(), len(Events))
	assert.Len(t, RegionKindOptions(), len(RegionKinds))
	for _, option := range append(RegionKindOptions(), EdgeOptions()...) {
		assert.NotEmpty(t, option.Text, option.ID)
	}
}

func TestLayersInWords(t *testing.T) {
	for text, l := range map[string]Layer{
		"Colour, left in the grain":      {Effect: EffectColour, As: "grain"},
		"Colour":                         {Effect: EffectColour},
		"Opaque base":                    {Effect: EffectColour, Family: "solid-base"},
		"Airbrushed colour, burst":       {Effect: EffectColour, As: "burst", Carrier: "airbrush"},
		"Waterborne clear, satin":        {Effect: EffectClear, Family: "water-clear", Sheen: "satin"},
		"Seal, washcoat":                 {Effect: EffectSeal, As: "washcoat"},
		"Oil and shellac in turn, satin": {Effect: EffectRounds, As: "oil-shellac", Sheen: "satin"},
		"Wax":                            {Effect: EffectWax},
	} {
		assert.Equal(t, text, l.Named())
	}
}

func TestWhatTheRulesAdd(t *testing.T) {
	grain, burst, seal, clear := Layer{Effect: EffectColour, As: "grain"}, Layer{Effect: EffectColour, As: "burst"},
		Layer{Effect: EffectSeal}, Layer{Effect: EffectClear}
	assert.False(t, Serves(grain, "toner"), "a toner evens what the grain was filled over")
	assert.True(t, Serves(burst, "toner"), "a burst is sprayed in it")
	assert.False(t, Serves(clear, "sealer"))
	assert.True(t, Serves(seal, "sealer"))
	assert.True(t, Serves(clear, "clear"))
}
