package recipe

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/film"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
)

// The numbers of the rules, each as it comes out of a composed schedule.

func clearCoats(p Piece) (n int) {
	for _, s := range p.Steps {
		if s.Role == "clear" || s.Role == "flat" {
			n += s.Coats
		}
	}
	return n
}

func TestWorkedClears(t *testing.T) {
	// Sprayed, levelled part of the way with P600 and to P2000 for gloss, at the least
	// target: rules §3. The new hand's texture is twice as high on top of that.
	for clear, want := range map[string]map[string]int{"water-clear": {"practised": 6, "new": 12}, "nitro": {"practised": 10, "new": 23},
		"urethane-2k": {"practised": 4, "new": 7}} {
		for hand, coats := range want {
			w := Wish{Hand: hand, Pieces: []PieceWish{body("basswood")}}
			set(&w.Pieces[0], "Clear", clear)
			set(&w.Pieces[0], "Sheen", "gloss")
			set(&w.Pieces[0], "Ways", map[string]string{"build": "few", "method": "spray"})
			d := compose(t, w)
			assert.Equal(t, coats, clearCoats(d.piece(t, Body)), "%s, %s", clear, hand)
		}
	}
}

func TestMoreThanUsualSaysTheWaysOut(t *testing.T) {
	w := Wish{Hand: "practised", Pieces: []PieceWish{body("basswood")}}
	set(&w.Pieces[0], "Clear", "nitro")
	set(&w.Pieces[0], "Sheen", "gloss")
	set(&w.Pieces[0], "Ways", map[string]string{"build": "margin", "method": "spray"})
	d := compose(t, w)
	n := clearCoats(d.piece(t, Body))
	require.Greater(t, n, 12, "the film for spare asks for more than the usual twelve")
	require.NotEmpty(t, d.Notes)
	assert.Contains(t, d.Notes[0],
		"13 coats of nitrocellulose lacquer are more than the usual 12. Fewer would do with a finer start, at P1000 (12 coats), or no "+
			"levelling part of the way (11 coats)")
	assert.Contains(t, unit.Unmarked(d.Notes[0]), "a film of 60 µm instead of 95 µm (10 coats)")
}

func TestScuffsBetweenCoatsTakeFromTheFilm(t *testing.T) { // one scratch depth each, rules §3
	w := Wish{Hand: "practised", Pieces: []PieceWish{body("basswood")}}
	set(&w.Pieces[0], "Clear", "brush-varnish")
	set(&w.Pieces[0], "Sheen", "satin")
	set(&w.Pieces[0], "Ways", map[string]string{"build": "few"})
	piece := compose(t, w).piece(t, Body)
	n := clearCoats(piece)
	f := mustFamily("brush-varnish")
	levelling := piece.step(t, "level-satin")
	ladder, err := abrasive.LadderOf(levelling.Ladder...)
	require.NoError(t, err)
	bare := film.Build{Coat: film.Dry(f.Wet[material.Brush], f.Solids, f.Thin), Settling: film.Settling(f.Kinetics),
		Levellings: []film.Levelling{{Texture: film.Texture(material.Brush, f.SelfLevel > 0), Ladder: ladder}}}
	grip, err := abrasive.LadderOf("fepa:P400")
	require.NoError(t, err)
	kept := bare.Left(film.Face, n) - unit.Micron(n-1)*grip[0].Scratch
	assert.Positive(t, n-1)
	assert.Contains(t, piece.step(t, "clear-1").Why, fmt.Sprintf("about %s on faces", kept.String()))
}

func TestFlakeIsBuried(t *testing.T) {
	clear := func(look string) int {
		w := Wish{Hand: "practised", Pieces: []PieceWish{body("basswood")}}
		set(&w.Pieces[0], "Look", look)
		set(&w.Pieces[0], "Clear", "urethane-2k")
		set(&w.Pieces[0], "Sheen", "gloss")
		set(&w.Pieces[0], "Ways", map[string]string{"build": "few", "method": "spray"})
		return clearCoats(compose(t, w).piece(t, Body))
	}
	// 60 µm more on a side, where a coat leaves 39.7: two coats more, or one and a half.
	assert.Equal(t, 4, clear("solid"))
	assert.Equal(t, 5, clear("flake"))
	f := mustFamily("urethane-2k")
	layers := film.Build{Coat: film.Dry(f.Wet[material.Spray], f.Solids, f.Thin), Settling: film.Settling(f.Kinetics)}
	for _, keys := range [][]string{papers(600), papers(800, 1000, 1200, 1500, 2000)} {
		l, err := abrasive.LadderOf(keys...)
		require.NoError(t, err)
		layers.Levellings = append(layers.Levellings, film.Levelling{Texture: 15, Ladder: l})
	}
	most := unit.Micron(0)
	for target := f.TargetLeast; ; target++ {
		if n, _ := layers.Needed(target); n > 5 {
			break
		}
		most = target
	}
	assert.GreaterOrEqual(t, most, f.TargetLeast+buried)
	assert.EqualValues(t, 60, buried, "a usual flake lies 12 high, levels 30 and keeps 15, rounded up")
}

func TestCoatsOfColour(t *testing.T) {
	coats := func(change func(*PieceWish), name string) int {
		w := Wish{Pieces: []PieceWish{body("maple-hard")}}
		set(&w.Pieces[0], "Clear", "nitro")
		set(&w.Pieces[0], "Sheen", "gloss")
		change(&w.Pieces[0])
		return compose(t, w).piece(t, Body).step(t, name).Coats
	}
	assert.Equal(t, 3, coats(func(p *PieceWish) {
		set(p, "Look", "burst")
		set(p, "Ways", map[string]string{"burst": "spray", "method": "spray"})
	},
		"shade"))
	assert.Equal(t, 3, coats(func(p *PieceWish) {
		set(p, "Look", "one-colour")
		set(p, "Ways", map[string]string{"colour-on": "toner", "method": "spray"})
	}, "tone"))
	assert.Equal(t, 1, coats(func(p *PieceWish) {
		p.Wood = "ash-swamp"
		set(p, "Look", "grain-colour")
		set(p, "Clear", "water-clear")
	}, "tone"),
		"one, to draw it together")
	assert.Equal(t, 3, coats(func(p *PieceWish) { set(p, "Look", "solid") }, "base"))
	assert.Equal(t, 2, coats(func(p *PieceWish) { set(p, "Look", "flake"); set(p, "Clear", "urethane-2k") }, "base"))
	assert.Equal(t, 3, coats(func(p *PieceWish) { set(p, "Look", "flake"); set(p, "Clear", "urethane-2k") }, "flake"))
	assert.Equal(t, 2, coats(func(p *PieceWish) {
		set(p, "Look", "one-colour")
		set(p, "Ways", map[string]string{"colour-as": "dye"})
	}, "colour"))
	assert.Equal(t, 2, coats(func(p *PieceWish) { set(p, "Look", "burst"); set(p, "Ways", map[string]string{"burst": "rub"}) }, "edge"))
}

func TestRoundsOfFilling(t *testing.T) {
	fill := func(pores string) Step {
		w := Wish{Pieces: []PieceWish{body("mahogany-genuine")}}
		set(&w.Pieces[0], "Sheen", "gloss")
		set(&w.Pieces[0], "Ways", map[string]string{"pores": pores, "fill-with": "filler"})
		return compose(t, w).piece(t, Body).step(t, "fill")
	}
	full := fill("full")
	assert.Equal(t, 4, full.Coats, "0.45⁴ leaves 4 %%")
	assert.Equal(t, &job.Repeat{Least: 3, Most: 6}, full.Terms.Repeat)
	assert.Contains(t, full.Why, "leaves about 45 % of the pore, so 4 thin ones fill it to 95 %")
	half := fill("half")
	assert.Equal(t, 2, half.Coats)
	assert.Equal(t, &job.Repeat{Least: 1, Most: 4}, half.Terms.Repeat)
	assert.Contains(t, half.Why, "to 60 %")

	oil := Wish{Pieces: []PieceWish{body("mahogany-genuine")}}
	set(&oil.Pieces[0], "Clear", "finishing-oil")
	set(&oil.Pieces[0], "Ways", map[string]string{"pores": "full"})
	slurry := compose(t, oil).piece(t, Body).step(t, "slurry")
	assert.Equal(t, 3, slurry.Coats)
	assert.Equal(t, &job.Repeat{Least: 2, Most: 5}, slurry.Terms.Repeat)
}

func TestBareSandingByWood(t *testing.T) {
	ladder := func(wood string, figured bool, change func(*PieceWish)) []string {
		w := Wish{Pieces: []PieceWish{body(wood)}}
		w.Pieces[0].Figured = figured
		if change != nil {
			change(&w.Pieces[0])
		}
		return compose(t, w).piece(t, Body).step(t, "sand-bare").Ladder
	}
	assert.Equal(t, papers(80, 120, 150, 180, 220), ladder("basswood", false, nil))
	assert.Equal(t, papers(120, 150, 180, 220), ladder("basswood", true, nil), "figured wood is begun at P120")
	assert.Equal(t, papers(150, 180, 220), ladder("maple-figured-veneer", false, nil)[:3], "half a millimetre is all there is")
	assert.Equal(t, papers(80, 120, 150, 180, 220, 320), ladder("basswood", false, func(p *PieceWish) { set(p, "Clear", "finishing-oil") }),
		"oil hides nothing")
	late := Wish{Pieces: []PieceWish{body("basswood")}}
	d := compose(t, late)
	for grit, objects := range map[int]bool{150: true, 180: false} { // a grit too coarse this late
		broken := d
		broken.Pieces = append([]Piece(nil), d.Pieces...)
		broken.Pieces[0].Steps = append([]Step(nil), d.Pieces[0].Steps...)
		broken.find("body:clear:scuff-seal").Ladder = papers(grit)
		found := false
		for _, o := range Lint(broken, late) {
			found = found || o.Rule == "too-coarse"
		}
		assert.Equal(t, objects, found, "P%d", grit)
	}
	// The glue-up splits the ladder: what is below or at P150 before it, the rest after.
	glued := archetype(t, "filled-gloss").With("joining", "", "glued-first")
	glued.Joint = "set"
	whole := compose(t, glued)
	assert.Equal(t, papers(80, 120, 150), whole.piece(t, Body).step(t, "sand-bare").Ladder)
	assert.EqualValues(t, 150, splitAt)
}

func TestWhatRestsAndHowLong(t *testing.T) {
	b := compose(t, archetype(t, "grain-colour")).piece(t, Body)
	for _, s := range b.Steps {
		if s.name() == "wet" {
			assert.Equal(t, unit.Minutes(120), s.RestMin)
		}
	}
	assert.Equal(t, unit.Minutes(120), b.step(t, "wet").RestMin, "wetted wood dries for two hours")
	set := archetype(t, "filled-gloss").With("joining", "", "glued-first")
	set.Joint = "set"
	glue := compose(t, set).piece(t, Whole).step(t, "glue-up").Terms.Glue
	assert.Equal(t, job.Glue{ClampMin: 60, SqueezeAfterMin: 20, SqueezeBeforeMin: 40, HandleMin: 240, FullMin: 1440}, *glue)
	for _, d := range []Draft{compose(t, set), compose(t, archetype(t, "lacquer-burst"))} {
		for _, p := range d.Pieces {
			for _, s := range p.Steps {
				if s.Tool == "drill-press" && s.Slot == "body:drill-after" {
					assert.Equal(t, material.Handle, s.Film, "a drill meets only a film that may be handled")
				}
			}
		}
	}
	after := archetype(t, "lacquer-burst").With("holes", "", "after")
	drill := compose(t, after).piece(t, Body).step(t, "drill-after")
	assert.Equal(t, material.Handle, drill.Film)
	assert.EqualValues(t, 120, drill.HandsOnMin)
}

func TestWhatShutsAnOilyWoodIn(t *testing.T) {
	for clear, barrier := range map[string]string{"polyester-uv": "sealer-2k", "polyester-2k": "sealer-2k",
		"brush-varnish": "dewaxed-shellac"} {
		w := Wish{Pieces: []PieceWish{body("cocobolo")}}
		set(&w.Pieces[0], "Clear", clear)
		set(&w.Pieces[0], "Sheen", "gloss")
		s := compose(t, w).piece(t, Body).step(t, "isolate")
		assert.Equal(t, barrier, s.Family, clear)
		assert.Equal(t, 2, s.Coats, "two thin coats")
	}
}

func TestLevellingStartsWhereTheTextureWantsIt(t *testing.T) {
	ladder := func(sheen, hand, method, shine string, step string) []string {
		w := Wish{Hand: hand, Pieces: []PieceWish{body("basswood")}}
		set(&w.Pieces[0], "Clear", "nitro")
		set(&w.Pieces[0], "Sheen", sheen)
		set(&w.Pieces[0], "Ways", map[string]string{"method": method, "shine": shine, "flatting": "rub"})
		return compose(t, w).piece(t, Body).step(t, step).Ladder
	}
	assert.Equal(t, papers(800, 1000, 1200, 1500, 2000), ladder("gloss", "practised", "spray", "", "level"), "15 µm from the gun")
	assert.Equal(t, papers(600, 800, 1000, 1200, 1500, 2000), ladder("gloss", "practised", "aerosol", "", "level"), "22 from a can")
	assert.Equal(t, papers(400, 600, 800, 1000, 1200, 1500, 2000), ladder("gloss", "new", "spray", "", "level"), "30 under a new hand")
	assert.Equal(t, papers(800, 1000, 1200, 1500, 2000, 2500, 3000, 5000), ladder("gloss", "practised", "spray", "papers", "level"))
	assert.Equal(t, papers(400, 600, 800, 1000, 1200, 1500, 2000, 2500, 3000, 5000), ladder("gloss", "new", "spray", "papers", "level"))
	assert.Equal(t, papers(800, 1000), ladder("satin", "practised", "spray", "", "level-satin"))
	assert.Equal(t, papers(600, 800, 1000), ladder("satin", "practised", "aerosol", "", "level-satin"))
	assert.Equal(t, papers(400, 600, 800, 1000), ladder("satin", "new", "spray", "", "level-satin"))
	assert.Equal(t, papers(600, 800), ladder("matte", "practised", "spray", "", "level-matte"))
	assert.Equal(t, papers(400, 600, 800), ladder("matte", "new", "spray", "", "level-matte"))
	wiped := archetype(t, "wiped-varnish")
	set(&wiped.Pieces[0], "Sheen", "gloss")
	for _, p := range compose(t, wiped).Pieces {
		for _, s := range p.Steps {
			if s.name() == "level" {
				assert.Equal(t, papers(1200, 1500, 2000), s.Ladder, "a cloth leaves 5 µm")
			}
		}
	}
}

func TestBoardsAndFretsInFigures(t *testing.T) {
	w := archetype(t, "oil")
	w.Board, w.Frets, w.Cavities = &BoardWish{Wood: "ebony-gaboon", Finish: "drying-oil"}, "mirror", "foil"
	d := compose(t, w)
	assert.Equal(t, papers(320, 400, 600), d.piece(t, Board).step(t, "board-sand").Ladder)
	frets := d.piece(t, Frets)
	assert.Equal(t, append(papers(400, 600, 800, 1200), "film:9", "film:5", "film:3", "compound:extra-fine"),
		frets.step(t, "fret-polish").Ladder)
	assert.Equal(t, papers(320), frets.step(t, "fret-level").Ladder)
	minutes := map[string]unit.Minutes{"fret-tape": 20, "fret-level": 25, "fret-rocker": 10, "fret-crown": 45, "fret-rocker-again": 5,
		"fret-ends": 10, "fret-polish": 10}
	for name, want := range minutes {
		assert.Equal(t, want, frets.step(t, name).HandsOnMin, name)
	}
	assert.EqualValues(t, 60, d.piece(t, Cavity).step(t, "foil").HandsOnMin)
	w.Cavities, w.Board.Finish = "paint", "hardened"
	d = compose(t, w)
	assert.Equal(t, 3, d.piece(t, Board).step(t, "board-harden").Coats)
	assert.Equal(t, 2, d.piece(t, Cavity).step(t, "shield").Coats)
	assert.InDelta(t, 0.05, float64(d.piece(t, Cavity).Regions[0].AreaM2), 1e-9)
	assert.InDelta(t, 0.004, float64(frets.Regions[0].AreaM2), 1e-9)
}

func TestWhatIsUnseenOrLaterMayFollowTheShowing(t *testing.T) {
	w := archetype(t, "oil")
	w.Cavities = "paint"
	d := compose(t, w)
	for _, p := range d.Pieces {
		for _, s := range p.Steps {
			follows := p.Kind == Cavity || s.name() == "strings" || s.name() == "hand-over"
			assert.Equal(t, follows, s.Terms.Follows, s.Slot)
		}
	}
}

func TestSideDotsAreOnNecksOnly(t *testing.T) {
	d := compose(t, archetype(t, "lacquer-burst"))
	assert.NotContains(t, d.piece(t, Body).step(t, "tape-off").How, "dots")
	assert.Contains(t, d.piece(t, Neck).step(t, "tape-off").How, "side dots")
}

func TestACanIsAnAerosol(t *testing.T) {
	title := func(method string) string {
		w := Wish{Pieces: []PieceWish{body("basswood")}}
		set(&w.Pieces[0], "Clear", "nitro")
		set(&w.Pieces[0], "Sheen", "matte")
		set(&w.Pieces[0], "Ways", map[string]string{"method": method, "flatting": "can"})
		return compose(t, w).piece(t, Body).step(t, "flat-matte").Title
	}
	assert.Equal(t, "Flatted clear, matte", title("spray"))
	assert.Equal(t, "Matte coat from the can", title("aerosol"))
}

func TestOnlyTheWheelNeedsTheWheel(t *testing.T) {
	for _, a := range Archetypes() {
		for _, p := range compose(t, a.Wish).Pieces {
			for _, s := range p.Steps {
				if s.Tool == job.BuffingWheel {
					assert.Equal(t, "buff", s.name(), "%s is done by hand, at the bench", s.Slot)
					assert.NotEqual(t, Frets, p.Kind, "metal never shares a wheel with film")
				}
			}
		}
	}
}

// Something on order may have any name.
func TestAnArrivalCalledOesen(t *testing.T) {
	w := archetype(t, "oil")
	w.Arrivals = []Arrival{{What: "ösen", Expected: calendar.Day{Year: 2026, Month: 5, Date: 4}},
		{What: "漆", Expected: calendar.Day{Year: 2026, Month: 5, Date: 4}}}
	b := compose(t, w).piece(t, Body)
	assert.Equal(t, "Ösen must be here", b.step(t, "arrival-1").Title)
	assert.Equal(t, "漆 must be here", b.step(t, "arrival-2").Title)
}

func TestAreasThatNobodyMeasured(t *testing.T) { // default, rules §6
	w := archetype(t, "oil")
	w.Board = &BoardWish{Wood: "ebony-gaboon", Finish: "drying-oil"}
	d := compose(t, w)
	neck := d.piece(t, Neck)
	for _, z := range neck.Regions {
		if z.Name == "headstock" {
			assert.InDelta(t, 0.022, float64(z.AreaM2), 1e-9)
		}
	}
	length, width := neck.Length.Metres, neck.Width.Metres
	assert.InDelta(t, 0.81*length*width, float64(d.piece(t, Board).Regions[0].AreaM2), 1e-9,
		"three quarters of its length, 8 %% wider than the nut")
}
