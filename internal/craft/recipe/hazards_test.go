package recipe

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/caution"
	"umberfrost/internal/craft/job"
)

// kept is a draft as an instrument, its ids made of the keys.
func kept(d Draft, w Wish) *Instrument {
	id := func(key string) uuid.UUID { return uuid.NewSHA1(uuid.NameSpaceOID, []byte(key)) }
	in := &Instrument{Wish: &w}
	for _, p := range d.Pieces {
		piece := job.Piece{Kind: p.Kind}
		for _, z := range p.Regions {
			z.ID = id(z.Key)
			piece.Regions = append(piece.Regions, z.Region)
		}
		for _, s := range p.Steps {
			step := s.Step
			for _, z := range s.Regions {
				step.Regions = append(step.Regions, id(z))
			}
			piece.Steps = append(piece.Steps, step)
		}
		in.Pieces = append(in.Pieces, piece)
	}
	return in
}

func TestHazardsShowTheirCautionWhereTheStepIs(t *testing.T) {
	cautions := func(w Wish, slot string) (ids []string) {
		t.Helper()
		in := kept(compose(t, w), w)
		for p := range in.Pieces {
			for s := range in.Pieces[p].Steps {
				if step := &in.Pieces[p].Steps[s]; step.Slot == slot {
					for _, c := range caution.For(Hazards(in, &in.Pieces[p], step)...) {
						ids = append(ids, c.ID)
					}
					return ids
				}
			}
		}
		require.Fail(t, "there is no "+slot)
		return nil
	}
	parts := Wish{Pieces: []PieceWish{body("basswood"), neck("maple-hard")}, Frets: "mirror", Events: []string{"inserts"},
		Board: &BoardWish{Wood: "ebony-gaboon", ToFret: true},
		Parts: []PartWish{{Kind: Hardware, Of: "nickel-plated"}, {Kind: Plastics, Of: "celluloid-part"}}}
	for slot, want := range map[string]string{"hardware:etch": "etchants", "hardware:brush": "metal-dust", "hardware:strip": "plating",
		"plastics:dull":  "celluloid",
		"frets:frets-in": "metal-dust", "body:inserts": "wood-dust"} {
		assert.Contains(t, cautions(parts, slot), want, slot)
	}
	cast := stackedBody("plastic-printed", nil, Layer{ID: "pour", Effect: EffectPour, Of: "medium-epoxy", Depth: "8 mm"},
		clearOf("urethane-2k", "gloss"))
	assert.Contains(t, cautions(cast, "body:pour:pour"), "resin-heat")
	assert.Contains(t, cautions(cast, "body:dull-plastic-printed"), "plastic-dust")
	strewn := stackedBody("basswood", nil, Layer{ID: "g", Effect: EffectParticles, As: "stencil"}, clearOf("urethane-2k", "gloss"))
	assert.Contains(t, cautions(strewn, "body:g:strew"), "dry-particles")
	assert.Contains(t, cautions(strewn, "body:g:stencil"), "blades")
	burnt := stackedBody("ash-swamp", nil, Layer{ID: "f", Effect: EffectFlame, As: "accents"}, clearOf("urethane-2k", "gloss"))
	assert.Contains(t, cautions(burnt, "body:f:accents"), "torch-char")
	assert.Contains(t, cautions(burnt, "body:f:cold"), "ember-watch")
	cloth := stackedBody("ash-swamp", nil, Layer{ID: "c", Effect: EffectCloth}, clearOf("urethane-2k", "gloss"))
	assert.Contains(t, cautions(cloth, "body:c:lay-cloth"), "fibre-dust")
	old := stackedBody("ash-swamp", nil, clearOf("urethane-2k", "gloss"))
	old.Pieces[0].Found = "old-unknown"
	assert.Contains(t, cautions(old, "body:sand-bare"), "old-finish")
	old.Pieces[0].Found = "reclaimed"
	assert.Contains(t, cautions(old, "body:strip"), "reclaimed")
	assert.Empty(t, cautions(stackedBody("basswood", nil, clearOf("urethane-2k", "gloss")), "body:rake"))
}
