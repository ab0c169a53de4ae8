package recipe

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/outline"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

func compose(t *testing.T, w Wish) Draft {
	t.Helper()
	draft, faults, err := Compose(w)
	require.NoError(t, err)
	require.Empty(t, faults)
	return draft
}

func archetype(t *testing.T, id string) Wish {
	t.Helper()
	for _, a := range Archetypes() {
		if a.ID == id {
			return a.Wish
		}
	}
	t.Fatalf("there is no archetype %q", id)
	return Wish{}
}

func (d Draft) piece(t *testing.T, kind PieceKind) Piece {
	t.Helper()
	for _, p := range d.Pieces {
		if p.Kind == kind {
			return p
		}
	}
	t.Fatalf("there is no %s", kind)
	return Piece{}
}

// before asserts that steps of a piece occur in this order.
func before(t *testing.T, p Piece, names ...string) {
	t.Helper()
	last := -1
	for _, name := range names {
		at := slices.IndexFunc(p.Steps, func(s Step) bool { return s.name() == name })
		require.GreaterOrEqual(t, at, 0, "%s: %s is missing", p.Kind, name)
		assert.Greater(t, at, last, "%s: %s comes too early", p.Kind, name)
		last = at
	}
}

func without(t *testing.T, p Piece, names ...string) {
	t.Helper()
	for _, s := range p.Steps {
		assert.NotContains(t, names, s.name(), "%s must not occur", s.Slot)
	}
}

func (p Piece) step(t *testing.T, name string) Step {
	t.Helper()
	for _, s := range p.Steps {
		if s.name() == name {
			return s
		}
	}
	t.Fatalf("%s has no %s", p.Kind, name)
	return Step{}
}

func families(p Piece) []string {
	var list []string
	for _, s := range p.Steps {
		if s.Kind == job.Coat {
			list = append(list, s.Family)
		}
	}
	return list
}

func TestGrainColourUnderWaterborneInEverySheen(t *testing.T) {
	for _, sheen := range Sheens {
		t.Run(sheen, func(t *testing.T) {
			w := archetype(t, "grain-colour")
			set(&w.Pieces[0], "Sheen", sheen)
			b := compose(t, w).piece(t, Body)
			before(t, b, "sand-bare", "drill", "tape-on", "colour-test", "dark", "rub-back", "washcoat", "sand-washcoat", "colour", "seal",
				"tone")
			assert.Equal(t, "binder-stain", b.step(t, "colour").Family, "bound, so that it cannot lift when it is wiped over")
			assert.True(t, b.step(t, "washcoat").NoReturn)
			switch sheen {
			case "matte":
				before(t, b, "level-half", "flat-matte")
				without(t, b, "level", "level-matte", "buff", "rub-matte", "fill")
			case "satin":
				before(t, b, "colour", "fill", "pores", "seal", "tone", "clear", "level-satin", "rub-satin")
				without(t, b, "buff", "level", "flat-satin")
			case "gloss":
				before(t, b, "fill", "clear-1", "level-half", "clear-2", "tape-off", "level", "buff")
				assert.Equal(t, material.Buff, b.step(t, "level").Film, "gloss is levelled on a cured film")
				assert.Equal(t, 4, b.step(t, "fill").Coats, "enough water filler for 95 %%")
			}
		})
	}
}

func TestTheLacquerBurst(t *testing.T) {
	d := compose(t, archetype(t, "lacquer-burst"))
	b := d.piece(t, Body)
	before(t, b, "colour-test", "colour", "seal", "shade", "clear-1", "level-half", "clear-2", "tape-off", "level", "buff")
	assert.Equal(t, "vinyl-sealer", b.step(t, "seal").Family)
	assert.Equal(t, "nitro", b.step(t, "shade").Family, "tinted lacquer melts into lacquer")
	assert.Equal(t, "compound:swirl", b.step(t, "buff").Ladder[2])
	without(t, b, "fill")
	n := d.piece(t, Neck)
	assert.Contains(t, n.step(t, "clear-1").Regions, "neck:fretboard", "a pale board goes under film")
	before(t, d.piece(t, Frets), "fret-clear", "fret-tape", "fret-level", "fret-crown", "fret-polish", "fret-untape")
	assert.True(t, d.piece(t, Whole).step(t, "strings").Terms.Strings)
	assert.Equal(t, material.FullCure, d.piece(t, Whole).step(t, "hand-over").Film)
}

func TestOilIsGlossierWithEachCoat(t *testing.T) {
	w := archetype(t, "oil")
	coats := func(sheen string) (n int) {
		set(&w.Pieces[0], "Sheen", sheen)
		for _, s := range compose(t, w).piece(t, Body).Steps {
			if s.Role == "oil" {
				n += s.Coats
			}
			assert.NotEqual(t, job.Level, s.Kind, "an oiled body is not levelled")
		}
		return n
	}
	matte, satin, gloss := coats("matte"), coats("satin"), coats("gloss")
	assert.Less(t, matte, satin)
	assert.Less(t, satin, gloss)

	without(t, compose(t, w).piece(t, Body), "slurry", "seal")
	set(&w.Pieces[0], "Ways", map[string]string{"pores": "full"})
	before(t, compose(t, w).piece(t, Body), "sand-bare", "slurry", "oil-1")
	set(&w.Pieces[0], "Look", "one-colour")
	before(t, compose(t, w).piece(t, Body), "colour", "oil-1")
}

func TestTwoPartClearHasFilmToSpareForANewHand(t *testing.T) {
	w := archetype(t, "two-part")
	clear := func(hand string) (n int) {
		w.Hand = hand
		b := compose(t, w).piece(t, Body)
		before(t, b, "seal", "scuff-seal", "base", "clear-1", "level-half", "level", "buff")
		for _, s := range b.Steps {
			if s.Role == "clear" {
				n += s.Coats
			}
		}
		return n
	}
	assert.Greater(t, clear("new"), clear("practised"))
}

func TestAWipedNeckOverDye(t *testing.T) {
	n := compose(t, archetype(t, "wiped-varnish")).piece(t, Neck)
	before(t, n, "tape-on", "colour-test", "colour", "clear", "tape-off", "rub-satin")
	without(t, n, "level", "level-half", "buff", "seal")
	for _, s := range n.Steps {
		if s.Kind == job.Coat {
			assert.Equal(t, material.Wipe, s.Method)
		}
	}
	assert.Contains(t, n.step(t, "tape-off").How, "side dots")
	assert.Contains(t, n.step(t, "sand-bare").How, "hard pad", "figured wood")
}

func TestBoardsFretsAndCavities(t *testing.T) {
	for finish, want := range map[string][]string{
		"drying-oil": {"drying-oil", "drying-oil"}, "conditioning-oil": {"board-oil"}, "hardened": {"ca-filler"},
		"oil-shellac-wax": {"drying-oil", "dewaxed-shellac", "paste-wax"},
	} {
		w := archetype(t, "oil")
		w.Board, w.Frets = &BoardWish{Wood: "ebony-gaboon", Finish: finish}, "brushed"
		d := compose(t, w)
		assert.Equal(t, want, append(families(d.piece(t, Board)), families(d.piece(t, Frets))...), finish)
		frets := d.piece(t, Frets)
		assert.Contains(t, frets.Steps[0].After, d.piece(t, Board).Steps[len(d.piece(t, Board).Steps)-1].Slot)
		polish := frets.step(t, "fret-polish").Ladder
		assert.Equal(t, "nonwoven:ultra-fine", polish[len(polish)-1], "brushed ends on a pad")
	}
	hard := archetype(t, "wiped-varnish")
	board := compose(t, hard).piece(t, Board)
	for _, m := range board.step(t, "board-polish").Ladder {
		assert.False(t, board.step(t, "board-polish").Terms.Clean, "dry all the way: %s", m)
	}
	assert.Equal(t, job.Gate, compose(t, hard).piece(t, Cavity).step(t, "foil").Kind)
	hard.Cavities = "paint"
	assert.Contains(t, families(compose(t, hard).piece(t, Cavity)), "conductive-paint")
}

func TestAGlueUpSplitsTheSandingLadder(t *testing.T) {
	w := archetype(t, "filled-gloss").With("joining", "", "glued-first")
	w.Joint, w.Cavities, w.Frets = "set", "paint", "mirror"
	d := compose(t, w)
	b, whole := d.piece(t, Body), d.piece(t, Whole)
	for _, m := range b.step(t, "sand-bare").Ladder {
		assert.LessOrEqual(t, gritOf(m), splitAt)
	}
	assert.Empty(t, families(b), "nothing is coated before the glue")
	before(t, whole, "glue-up", "tape-on", "colour", "clear-1", "buff", "shield", "fret-polish", "strings")
	fine := slices.IndexFunc(whole.Steps, func(s Step) bool { return s.Kind == job.Sand && gritOf(s.Ladder[0]) > splitAt })
	assert.Greater(t, fine, 0, "the rest of the ladder follows the glue")
	assert.NotNil(t, whole.step(t, "glue-up").Terms.Glue)
	assert.NotContains(t, whole.step(t, "colour").Regions, "neck:shaft", "a natural neck stays natural")
}

func TestWoodsAreTreatedAsTheyAre(t *testing.T) {
	plain := Wish{Pieces: []PieceWish{body("basswood")}}
	for name, test := range map[string]struct {
		change func(*PieceWish)
		look   func(t *testing.T, b Piece)
	}{
		"a veneer gets no coarse grit": {func(p *PieceWish) { p.Regions = []RegionWish{{Name: "top", Wood: "maple-figured-veneer"}} },
			func(t *testing.T, b Piece) {
				ladder := b.step(t, "sand-bare-maple-figured-veneer").Ladder
				assert.GreaterOrEqual(t, gritOf(ladder[0]), veneerGrit)
			}},
		"what bleeds is sanded and shut in before its pale neighbour": {func(p *PieceWish) {
			p.Regions = []RegionWish{{Name: "top",
				Wood: "padauk-african"}}
		}, func(t *testing.T, b Piece) {
			before(t, b, "sand-bare-padauk-african", "seal-bleed-padauk-african", "sand-bare-basswood")
		}},
		"under oil the order of sanding has to do": {func(p *PieceWish) {
			p.Regions = []RegionWish{{Name: "top", Wood: "katalox"}}
			set(p, "Clear", "finishing-oil")
		}, func(t *testing.T, b Piece) {
			before(t, b, "sand-bare-katalox", "sand-bare-basswood")
			without(t, b, "seal-bleed-katalox")
			assert.Contains(t, b.step(t, "sand-bare-basswood").How, "dust stains")
		}},
		"an oily wood is shut in under polyester": {func(p *PieceWish) {
			p.Wood = "cocobolo"
			set(p, "Clear", "polyester-2k")
			set(p,
				"Sheen", "gloss")
		},
			func(t *testing.T, b Piece) {
				before(t, b, "isolate", "isolated", "clear-1")
			}},
		"plastic is dulled, primed, tried, and kept off the wheel": {func(p *PieceWish) {
			p.Wood = "plastic-printed"
			set(p, "Look", "solid")
			set(p, "Clear", "urethane-2k")
			set(p, "Sheen", "gloss")
		}, func(t *testing.T, b Piece) {
			before(t, b, "dull-plastic-printed", "prime-plastic-printed", "grip-plastic-printed", "base")
			without(t, b, "sand-bare", "wet", "fill")
			assert.Empty(t, b.step(t, "buff").Tool)
			assert.Contains(t, b.step(t, "buff").How, "55")
		}},
		"blotching wood gets a washcoat by itself": {func(p *PieceWish) { p.Wood = "cherry-black"; set(p, "Look", "one-colour") },
			func(t *testing.T, b Piece) {
				before(t, b, "washcoat", "sand-washcoat", "colour")
			}},
		"char is sealed before any clear": {func(p *PieceWish) { p.Wood = "oak-white"; set(p, "Look", "charred") },
			func(t *testing.T, b Piece) {
				before(t, b, "char", "char-clean", "seal-char", "seal")
			}},
		"wax is last": {func(p *PieceWish) { set(p, "Wax", true) }, func(t *testing.T, b Piece) {
			before(t, b, "clear", "rub-satin", "wax")
			assert.Equal(t, material.FullCure, b.step(t, "wax").Film)
		}},
		"each sheen in its own regions": {func(p *PieceWish) {
			p.Regions = []RegionWish{{Name: "back", Sheen: "satin"}}
			set(p, "Sheen",
				"gloss")
		},
			func(t *testing.T, b Piece) {
				assert.Equal(t, []string{"body:back"}, b.step(t, "rub-satin").Regions)
				assert.NotContains(t, b.step(t, "buff").Regions, "body:back")
			}},
	} {
		t.Run(name, func(t *testing.T) {
			w := plain
			w.Pieces = slices.Clone(plain.Pieces)
			test.change(&w.Pieces[0])
			test.look(t, compose(t, w).piece(t, Body))
		})
	}
}

func TestWhatWouldSpoilTheWorkIsRefusedNamingWhatIsAccepted(t *testing.T) {
	for name, test := range map[string]struct {
		change        func(*PieceWish)
		path, message string
	}{
		"negative":     {func(p *PieceWish) { p.Length = "-480 mm" }, "pieces[0].length", "from 250 mm to 800 mm"},
		"absurd":       {func(p *PieceWish) { p.Thickness = "4 m" }, "pieces[0].thickness", "from 10 mm to 150 mm"},
		"not a length": {func(p *PieceWish) { p.Width = "wide" }, "pieces[0].width", "write it like 480 mm"},
		"no such wood": {func(p *PieceWish) { p.Wood = "driftwood" }, "pieces[0].wood", "ash-swamp"},
		"no such look": {func(p *PieceWish) { p.Preset = "plaid" }, "pieces[0].preset", "burst"},
		"no such school": {func(p *PieceWish) { set(p, "Ways", map[string]string{"levelling": "sandblast"}) },
			"pieces[0].layers[1].ways.levelling",
			"dry, wet"},
		"flake under lacquer": {func(p *PieceWish) { set(p, "Look", "flake"); set(p, "Clear", "nitro") }, "pieces[0].layers[3].family",
			"urethane-2k"},
		"dye in metal": {func(p *PieceWish) { p.Wood = "aluminium"; set(p, "Look", "one-colour") }, "pieces[0].layers[0].effect",
			"flake"},
		"a gun for oil": {func(p *PieceWish) {
			set(p, "Clear", "finishing-oil")
			set(p, "Ways", map[string]string{"method": "spray"})
		},
			"pieces[0].layers[1].method", "wipe"},
	} {
		t.Run(name, func(t *testing.T) {
			p := body("ash-swamp")
			test.change(&p)
			w := Wish{Pieces: []PieceWish{p}}
			_, faults, err := Compose(w)
			require.NoError(t, err)
			require.Len(t, faults, 1)
			assert.Equal(t, test.path, faults[0].Path)
			assert.Contains(t, unit.Unmarked(faults[0].Message), test.message)
		})
	}
	_, faults, _ := Compose(Wish{})
	assert.Equal(t, "pieces", faults[0].Path)
	_, faults, _ = Compose(Wish{Pieces: []PieceWish{body("ash-swamp")}, Arrivals: []Arrival{{What: "bridge"}}})
	assert.Equal(t, "arrivals[0]", faults[0].Path)
	_, faults, _ = Compose(Wish{Pieces: []PieceWish{neck("maple-hard"), neck("maple-hard")}})
	assert.Equal(t, "pieces[1].kind", faults[0].Path)
}

func TestEveryArchetypeSaysHowAndWhyAndTakesTime(t *testing.T) {
	for _, a := range Archetypes() {
		seen := map[string]bool{}
		for _, piece := range compose(t, a.Wish).Pieces {
			for _, s := range piece.Steps {
				assert.NotEmpty(t, s.How, s.Slot)
				assert.NotEmpty(t, s.Why, s.Slot)
				assert.NotEmpty(t, s.Regions, s.Slot)
				assert.Positive(t, int(s.HandsOnMin), s.Slot)
				assert.False(t, seen[s.Slot], "%s comes twice", s.Slot)
				seen[s.Slot] = true
			}
		}
	}
}

func TestRulesNameWhatIsThere(t *testing.T) {
	require.NoError(t, Check())
	for _, id := range []string{"water-sealer", "lacquer-sealer", "vinyl-sealer", "sealer-2k", "dewaxed-shellac", "solid-base",
		"flake-clear", "water-dye", "binder-stain", "water-stain", "oil-stain",
		"airbrush-colour", "conductive-paint", "paste-wax", "drying-oil", "board-oil", "ca-filler", "oil-slurry", "water-filler",
		"sealed-char"} {
		assert.NotPanics(t, func() { mustFamily(id) }, id)
	}
	for _, f := range Clears {
		assert.NotPanics(t, func() { mustFamily(f) }, f)
		_, barrier := layering.Between("sealed-char", f)
		assert.NotEmpty(t, sealOfChar(f), barrier)
	}
	for _, c := range archetype(t, "grain-colour").Choices() {
		assert.NotEmpty(t, c.Ways, c.Topic)
		assert.True(t, slices.ContainsFunc(c.Ways, func(s School) bool { return s.Option == c.Chosen }) || c.Topic == "method", "%s: %s",
			c.Topic, c.Chosen)
	}
	for _, w := range wood.All() {
		assert.True(t, w.Drinks() || w.PoreDepth < 100, w.ID)
	}
}

func BenchmarkCompose(b *testing.B) {
	wish := Archetypes()[0].Wish
	for b.Loop() {
		if _, faults, err := Compose(wish); err != nil || len(faults) > 0 {
			b.Fatal(faults, err)
		}
	}
}

// A body's areas come from its outline where that is known, from rules §6 otherwise, and
// an instrument that there is already keeps what it had while its size stays.
func TestAreasOfABody(t *testing.T) {
	areas := func(w Wish) map[string]float64 {
		list := make(map[string]float64)
		for _, z := range compose(t, w).piece(t, Body).Regions {
			list[z.Name] = float64(z.AreaM2)
		}
		return list
	}
	w := archetype(t, "lacquer-burst")
	unknown := areas(w)
	assert.InDelta(t, 0.72*0.480*0.330, unknown["top"], 1e-9)
	assert.InDelta(t, 3.9*math.Sqrt(0.480*0.330)*0.044, unknown["sides"], 1e-9)

	known := areas(w.Of("bass", ""))
	shape, _ := outline.Body("bass")
	shape = shape.Scaled(480, 330)
	assert.InDelta(t, float64(shape.Area()), known["top"], 1e-9)
	assert.InDelta(t, float64(shape.Rim())*44/1e6, known["sides"], 1e-9)
	assert.Greater(t, known["sides"], 0.05, "horns, cutaways and pocket count to the rim")

	kept := compose(t, w)
	for z := range kept.piece(t, Body).Regions {
		kept.piece(t, Body).Regions[z].AreaM2 = 0.123
	}
	for name, area := range areas(w.Of("bass", "").Keeping(kept)) {
		assert.Equal(t, 0.123, area, name)
	}
	w.Pieces[0].Length = "18 in"
	assert.NotEqual(t, 0.123, areas(w.Of("bass", "").Keeping(kept))["top"], "it has another size")
}
