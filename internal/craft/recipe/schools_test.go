package recipe

import (
	"encoding/json"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/material"
)

func choice(w Wish, topic string, piece PieceKind) (Choice, bool) {
	all := w.Choices()
	i := slices.IndexFunc(all, func(c Choice) bool { return c.Topic == topic && c.Piece == piece })
	if i < 0 {
		return Choice{}, false
	}
	return all[i], true
}

func one(change func(*PieceWish)) Wish {
	p := body("ash-swamp")
	change(&p)
	return Wish{Pieces: []PieceWish{p}}
}

func TestTheUsualWayIsTheCautiousOne(t *testing.T) {
	for name, test := range map[string]struct {
		wish   Wish
		topic  string
		chosen string
	}{
		"drill before":              {one(func(*PieceWish) {}), "holes", "before"},
		"level dry":                 {one(func(p *PieceWish) { set(p, "Sheen", "gloss") }), "levelling", "dry"},
		"film to spare under gloss": {one(func(p *PieceWish) { set(p, "Sheen", "gloss") }), "build", "margin"},
		"pores full under gloss":    {one(func(p *PieceWish) { set(p, "Sheen", "gloss") }), "pores", "full"},
		"pores open under satin":    {one(func(*PieceWish) {}), "pores", "open"},
		"half under a dark grain":   {one(func(p *PieceWish) { set(p, "Look", "grain-colour") }), "pores", "half"},
		"a washcoat where it blotches": {one(func(p *PieceWish) { p.Wood = "pine-white"; set(p, "Look", "one-colour") }), "colour-on",
			"washcoat"},
		"else on the bare wood":         {one(func(p *PieceWish) { set(p, "Look", "one-colour") }), "colour-on", "bare"},
		"a burst is sprayed with a gun": {one(func(p *PieceWish) { set(p, "Look", "burst") }), "burst", "spray"},
		"and rubbed without": {one(func(p *PieceWish) { set(p, "Look", "burst"); set(p, "Clear", "wipe-varnish") }),
			"burst", "rub"},
		"matte from the can where sprayed": {one(func(p *PieceWish) { set(p, "Sheen", "matte") }), "flatting", "can"},
		"rubbed where wiped": {one(func(p *PieceWish) { set(p, "Clear", "wipe-varnish"); set(p, "Sheen", "matte") }),
			"flatting", "rub"},
		"no wheel for what softens": {one(func(p *PieceWish) { p.Wood = "resin-cast"; set(p, "Sheen", "gloss") }), "shine",
			"papers"},
		"synthetic pads near magnets":        {one(func(*PieceWish) {}), "pads", "synthetic"},
		"colour above a dark grain is bound": {one(func(p *PieceWish) { set(p, "Look", "grain-colour") }), "colour-as", "bound"},
	} {
		t.Run(name, func(t *testing.T) {
			piece := Body
			if test.topic == "holes" {
				piece = ""
			}
			c, stands := choice(test.wish, test.topic, piece)
			require.True(t, stands)
			assert.Equal(t, test.chosen, c.Chosen)
			assert.True(t, c.Usual)
		})
	}
}

func TestATopicStandsOpenOnlyWhereItMeansSomething(t *testing.T) {
	for name, test := range map[string]struct {
		wish  Wish
		topic string
	}{
		"a burst without one":              {one(func(*PieceWish) {}), "burst"},
		"filling where there are no pores": {one(func(p *PieceWish) { p.Wood = "maple-hard" }), "pores"},
		"filling what stays open":          {one(func(*PieceWish) {}), "fill-order"},
		"the sheen of compounds in satin":  {one(func(*PieceWish) {}), "shine"},
		"levelling an oil":                 {one(func(p *PieceWish) { set(p, "Clear", "finishing-oil") }), "levelling"},
		"raising the grain of metal":       {one(func(p *PieceWish) { p.Wood = "aluminium" }), "grain"},
		"joining a bolted neck":            {archetypeWish("grain-colour"), "joining"},
	} {
		t.Run(name, func(t *testing.T) {
			for _, c := range test.wish.Choices() {
				assert.NotEqual(t, test.topic, c.Topic)
			}
		})
	}
}

func archetypeWish(id string) Wish {
	for _, a := range Archetypes() {
		if a.ID == id {
			return a.Wish
		}
	}
	return Wish{}
}

func TestEveryWayOfEveryArchetypeIsHadOrRefusedInWords(t *testing.T) {
	for _, a := range Archetypes() {
		for _, c := range a.Wish.Choices() {
			for _, way := range c.Ways {
				other := a.Wish.With(c.Topic, c.Piece, way.Option)
				draft, faults, err := Compose(other)
				require.NoError(t, err)
				if len(faults) > 0 {
					assert.NotEmpty(t, faults[0].Message)
					continue
				}
				assert.Empty(t, Lint(draft, other), "%s: %s/%s", a.ID, c.Topic, way.Option)
				if now, stands := choice(other, c.Topic, c.Piece); stands {
					assert.Equal(t, way.Option, now.Chosen, "%s: %s", a.ID, c.Topic)
				}
			}
		}
	}
}

func TestChoosingLeavesTheWishItWasChosenInAlone(t *testing.T) {
	w := archetypeWish("grain-colour")
	before, err := json.Marshal(w)
	require.NoError(t, err)
	w.With("holes", "", "after").With("pores", Body, "full").With("figure", Body, "none")
	w.Complete()
	w.Choices()
	_, _, err = Compose(w)
	require.NoError(t, err)
	after, err := json.Marshal(w)
	require.NoError(t, err)
	assert.JSONEq(t, string(before), string(after))
}

func TestAWishGoesOutAndComesBack(t *testing.T) {
	for _, a := range Archetypes() {
		data, err := json.Marshal(a.Wish)
		require.NoError(t, err)
		var back Wish
		require.NoError(t, json.Unmarshal(data, &back))
		assert.Equal(t, a.Wish, back)
	}
}

func TestAWishInAFewWords(t *testing.T) {
	w := archetypeWish("two-part")
	for kind, text := range map[PieceKind]string{
		Body: "Solid colour, gloss, two-part urethane clear", Board: "Oil, shellac and wax", Frets: "polished to a mirror",
		Cavity: "conductive paint", Whole: "",
	} {
		assert.Equal(t, text, w.Text(kind), kind)
	}
}

func TestCoatsAreWorkedOutFromTheFilmThatIsLeft(t *testing.T) {
	coats := func(change func(*PieceWish)) (n int) {
		for _, s := range compose(t, one(change)).piece(t, Body).Steps {
			if s.Role == "clear" || s.Role == "flat" {
				n += s.Coats
			}
		}
		return n
	}
	satin := coats(func(*PieceWish) {})
	gloss := coats(func(p *PieceWish) { set(p, "Sheen", "gloss") })
	few := coats(func(p *PieceWish) { set(p, "Sheen", "gloss"); set(p, "Ways", map[string]string{"build": "few"}) })
	cans := coats(func(p *PieceWish) {
		set(p, "Clear", "nitro")
		set(p, "Ways", map[string]string{"method": string(material.Aerosol)})
	})
	gun := coats(func(p *PieceWish) { set(p, "Clear", "nitro") })
	assert.Greater(t, gloss, satin, "levelling takes film")
	assert.Less(t, few, gloss)
	assert.Greater(t, cans, gun, "a can leaves well under half the film")
}
