package repair

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/check"
	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/surface"
	"umberfrost/internal/craft/unit"
)

// finished is a body under a family, with all of it done, or only what comes before a role.
func finished(t *testing.T, family string, before string, layers ...recipe.Layer) (recipe.Instrument, recipe.Logged) {
	t.Helper()
	sheen := "gloss"
	if f, _ := material.FindFamily(family); f.Group == "oil-wax" {
		sheen = "satin"
	}
	layers = append(layers, recipe.Layer{ID: "clear", Effect: recipe.EffectClear, Family: family, Sheen: sheen})
	wish := recipe.Wish{Pieces: []recipe.PieceWish{{Kind: recipe.Body, Wood: "alder-red", Length: "480 mm", Width: "330 mm",
		Thickness: "45 mm", Layers: layers}}}
	draft, faults, err := recipe.Compose(wish.Of("slab", ""))
	require.NoError(t, err)
	require.Empty(t, faults)
	in := recipe.Instrument{Wish: &wish, Instrument: job.Instrument{ID: uuid.New(), Name: "Kiebitz Ä", Outline: "slab"}}
	in.Pieces = append(in.Pieces, recipe.IDs(in.ID).Made(draft.Pieces[0]))
	log := recipe.Logged{Done: make(map[uuid.UUID]int), Spoken: make(map[uuid.UUID]bool)}
	for _, s := range in.Pieces[0].Steps {
		if before != "" && strings.HasSuffix(s.Slot, before) {
			break
		}
		log.Done[s.ID], log.Spoken[s.ID] = max(s.Coats, 1), true
	}
	return in, log
}

var dye = recipe.Layer{ID: "dye", Effect: recipe.EffectColour, Carrier: "spirit"}

func waysOf(t *testing.T, in recipe.Instrument, log recipe.Logged, a Asked) map[string]Way {
	t.Helper()
	a.ID, a.Piece = uuid.New(), in.Pieces[0].ID
	list, err := Ways(in, a, log)
	require.NoError(t, err)
	ways := make(map[string]Way)
	for _, w := range list {
		ways[w.ID] = w
	}
	return ways
}

func kinds(w Way) string {
	var words []string
	for _, s := range w.Steps {
		word := string(s.Kind)
		if s.Kind == job.Coat {
			word = s.Family
		}
		words = append(words, word)
	}
	return strings.Join(words, " ")
}

// What the trade says of each film: which ways hold, which do not, in statements of intent.
func TestWhichWaysHoldForWhichFilm(t *testing.T) {
	for family, c := range map[string]struct{ melts, oils bool }{
		"nitro": {true, false}, "acrylic-lacquer": {true, false}, "shellac": {true, false}, "water-clear": {}, "urethane-2k": {},
		"polyester-2k": {}, "polyester-uv": {}, "wipe-varnish": {}, "brush-varnish": {}, "finishing-oil": {false, true},
		"hardwax-oil": {false, true},
	} {
		in, log := finished(t, family, "", dye)
		ways := func(d Damage, depth Depth) map[string]Way { return waysOf(t, in, log, Asked{Damage: d, Depth: depth}) }
		chip, burn, dent, scratch, run := ways(Chip, InClear), ways(Burn, InColour), ways(Dent, InClear), ways(Scratch, InClear),
			ways(Run, InClear)
		assert.Equal(t, c.melts, chip["drop-melt"].Why == "", "%s: only what melts into itself takes a drop of itself without a ring",
			family)
		assert.Equal(t, !c.oils, chip["drop-set"].Why == "", "%s: there must be a film to fill", family)
		assert.Equal(t, !c.oils, chip["panel"].Why == "", family)
		assert.Equal(t, "", chip["strip"].Why, "%s: stripping always goes", family)
		assert.Equal(t, c.oils, burn["renew-oil"].Why == "", "%s: oil has no edge", family)
		assert.Equal(t, !c.oils, burn["touch-up"].Why == "", family)
		assert.NotEmpty(t, burn["to-ground"].Why, "%s: nothing metallic lies there", family)
		assert.Equal(t, c.oils, dent["steam"].Why == "", "%s: steam goes where no film is in its way", family)
		assert.Equal(t, !c.oils, scratch["rub-out"].Why == "", family)
		assert.Equal(t, !c.oils, run["cut-down"].Why == "", "%s: what is wiped off does not run", family)
		if c.melts {
			assert.Less(t, chip["drop-melt"].Risk, chip["drop-set"].Risk, "%s: one film shows least", family)
			assert.Less(t, burn["touch-up"].Risk, chip["drop-set"].Risk)
		}
		for _, w := range []map[string]Way{chip, burn, dent, scratch, run} {
			for _, way := range w {
				if way.Why == "" {
					assert.NotEmpty(t, way.Steps, "%s: %s", family, way.ID)
					assert.Positive(t, way.Minutes())
				}
			}
		}
	}
}

// A spot is filled proud, hardens, is scraped and levelled from the flush grit up, blended and looked at.
func TestADropFillIsBuiltProudScrapedLevelledBlendedAndLookedAt(t *testing.T) {
	in, log := finished(t, "nitro", "", dye)
	w := waysOf(t, in, log, Asked{Damage: Chip})["drop-melt"]
	assert.Equal(t, "nitro gate level buff inspect", kinds(w))
	drop, rest, level := w.Steps[0], w.Steps[1], w.Steps[2]
	assert.Greater(t, drop.Coats, 2, "as deep as the film, a tenth proud")
	assert.Equal(t, 1, drop.PerDay.Coats, "one drop a day")
	assert.EqualValues(t, 72*60, rest.RestMin, "each drop hard: the row says three days")
	assert.Equal(t, "fepa:P800", level.Ladder[0])
	assert.Greater(t, len(level.Ladder), 2, "up the ladder by which the panel was levelled")
	assert.Equal(t, material.Buff, level.Film)
	assert.Equal(t, "witness-look", w.Steps[4].Check)

	deep := waysOf(t, in, log, Asked{Damage: Chip, Depth: InWood})["drop-melt"]
	assert.Equal(t, "dewaxed-shellac lacquer-toner nitro gate level buff inspect", kinds(deep),
		"the wood is shut before colour, and colour before the fill")
	assert.Contains(t, deep.Steps[1].How, "Dye the wood", "with the recipe that is in the log")
	water, done := finished(t, "water-clear", "", dye)
	assert.Equal(t, "airbrush-colour", waysOf(t, water, done, Asked{Damage: Chip, Depth: InColour})["drop-set"].Steps[0].Family,
		"no solvent over waterborne film")

	early, sofar := finished(t, "nitro", "clear:level", dye)
	w = waysOf(t, early, sofar, Asked{Damage: Chip})["drop-melt"]
	assert.Equal(t, "nitro gate level", kinds(w), "where the levelling is still to come, that blends it")
	assert.Len(t, w.Steps[2].Ladder, 1)
}

func TestDropsAreAsDeepAsTheFilm(t *testing.T) {
	s := site{}
	nitro, err := material.FindFamily("nitro")
	require.NoError(t, err)
	// a brushed coat: 110 µm wet, a fifth solids, thinned by 30 %, 8 % lost as it settles: 15.6 µm
	assert.InDelta(t, 15.57, float64(dryOf(nitro, material.Brush)), 0.01)
	s.done = []job.Step{{Kind: job.Coat, Family: "nitro", Method: material.Brush, Coats: 5}}
	assert.InDelta(t, 77.85, float64(s.thickness()), 0.05)
	assert.Equal(t, 6, s.drops(nitro, material.Brush), "five coats deep, a tenth proud")
	s.done[0].Coats = 1
	assert.Equal(t, 2, s.drops(nitro, material.Brush), "two at least")
	s.done[0].Coats = 20
	assert.Equal(t, 8, s.drops(nitro, material.Brush), "eight at most")
}

// A burn-through is feathered, sealed where wood is bare, coloured as logged, cleared, levelled and looked at.
func TestABurnThrough(t *testing.T) {
	in, log := finished(t, "water-clear", "", dye)
	w := waysOf(t, in, log, Asked{Damage: Burn, Depth: InWood, Regions: []uuid.UUID{in.Pieces[0].Regions[0].ID}})["touch-up"]
	assert.Equal(t, "scuff dewaxed-shellac airbrush-colour water-clear level buff inspect", kinds(w))
	assert.Equal(t, []uuid.UUID{in.Pieces[0].Regions[0].ID}, w.Steps[0].Regions)
	assert.Equal(t, 3, w.Steps[3].Coats)

	flake := recipe.Layer{ID: "flake", Effect: recipe.EffectFlake, Of: "flake-100"}
	in, log = finished(t, "urethane-2k", "", recipe.Layer{ID: "base", Effect: recipe.EffectColour, Carrier: "opaque"}, flake)
	ways := waysOf(t, in, log, Asked{Damage: Burn, Depth: InColour})
	assert.NotEmpty(t, ways["touch-up"].Why)
	assert.NotEmpty(t, ways["panel"].Why)
	assert.Empty(t, ways["to-ground"].Why)
	assert.Contains(t, kinds(ways["to-ground"]), "sand flake-clear")
}

func TestAPanelIsTapedScuffedCoatedUntapedAndLevelled(t *testing.T) {
	in, log := finished(t, "urethane-2k", "", dye)
	w := waysOf(t, in, log, Asked{Damage: Panel})["panel"]
	assert.Equal(t, "mask-on scuff urethane-2k mask-off level buff inspect", kinds(w))
	assert.Equal(t, material.TouchDry, w.Steps[3].Film, "the tape comes off in its window")
	assert.Equal(t, material.Sand, w.Steps[1].Film)
}

// Redo from here: what lies over a fault decides what must come off.
func TestRedoFromHere(t *testing.T) {
	in, log := finished(t, "nitro", ":verdict", dye)
	find := func(suffix string) job.Step {
		for _, s := range in.Pieces[0].Steps {
			if strings.HasSuffix(s.Slot, suffix) {
				return s
			}
		}
		require.Fail(t, suffix)
		return job.Step{}
	}
	clear := waysOf(t, in, log, Asked{Damage: Again, From: find("clear:clear-2").ID})
	assert.Empty(t, clear["on-top"].Why)
	assert.True(t, strings.HasPrefix(kinds(clear["on-top"]), "scuff nitro"), kinds(clear["on-top"]))
	assert.True(t, strings.HasPrefix(kinds(clear["sand-back"]), "level nitro"), kinds(clear["sand-back"]))
	assert.Contains(t, kinds(clear["sand-back"]), "level buff", "its levelling and buffing come again")
	assert.NotContains(t, kinds(clear["on-top"]), "gate", "holes are not drilled twice")

	colour := waysOf(t, in, log, Asked{Damage: Again, From: find("dye:colour").ID})
	assert.NotEmpty(t, colour["on-top"].Why, "colour under film cannot be reached")
	assert.NotEmpty(t, colour["sand-back"].Why)
	assert.True(t, strings.HasPrefix(kinds(colour["strip"]), "sand solvent-dye"), kinds(colour["strip"]))

	buff := waysOf(t, in, log, Asked{Damage: Again, From: find("clear:buff").ID})
	assert.True(t, strings.HasPrefix(kinds(buff["as-it-was"]), "buff"), kinds(buff["as-it-was"]))

	_, err := Ways(in, Asked{Piece: in.Pieces[0].ID, Damage: Again, From: uuid.New()}, log)
	var wrong *edit.Fault
	require.ErrorAs(t, err, &wrong)
	assert.Equal(t, "fromId", wrong.Field)

	open, sofar := finished(t, "nitro", "clear:seal", dye)
	on := waysOf(t, open, sofar, Asked{Damage: Again, From: find2(t, open, "dye:colour")})["on-top"]
	assert.Empty(t, on.Why, "until it is sealed colour can be corrected")
}

// Redo of the last coats for each family: a film is scuffed first and levelled and buffed again, oil goes straight over
// itself, and stripping begins with the wood whatever lies there.
func TestRedoForEachFamily(t *testing.T) {
	for _, family := range []string{"nitro", "acrylic-lacquer", "shellac", "water-clear", "urethane-2k", "polyester-2k", "polyester-uv",
		"wipe-varnish", "brush-varnish",
		"finishing-oil", "hardwax-oil"} {
		in, log := finished(t, family, ":open", dye)
		f, err := material.FindFamily(family)
		require.NoError(t, err)
		oil := f.Group == "oil-wax"
		var last job.Step
		for _, s := range in.Pieces[0].Steps {
			if s.Kind == job.Coat && s.Family == family && log.Done[s.ID] > 0 {
				last = s
			}
		}
		require.NotEmpty(t, last.Title, family)
		ways := waysOf(t, in, log, Asked{Damage: Again, From: last.ID})
		on, back, strip := kinds(ways["on-top"]), kinds(ways["sand-back"]), kinds(ways["strip"])
		assert.Empty(t, ways["on-top"].Why, family)
		assert.Empty(t, ways["sand-back"].Why, family)
		if oil {
			assert.True(t, strings.HasPrefix(on, family), "%s: %s", family, on)
		} else {
			assert.True(t, strings.HasPrefix(on, "scuff "+family), "%s: %s", family, on)
			assert.Regexp(t, `level .*buff|level|buff`, on, family)
		}
		assert.True(t, strings.HasPrefix(back, "level "+family), "%s: %s", family, back)
		assert.True(t, strings.HasPrefix(strip, "sand solvent-dye"), "%s: %s", family, strip)
		assert.Contains(t, strip, family)
		for _, s := range ways["on-top"].Steps {
			assert.NotEqual(t, job.Gate, s.Kind, "%s: nothing is drilled or fitted twice", family)
		}
	}
}

func find2(t *testing.T, in recipe.Instrument, suffix string) uuid.UUID {
	i := slices.IndexFunc(in.Pieces[0].Steps, func(s job.Step) bool { return strings.HasSuffix(s.Slot, suffix) })
	require.GreaterOrEqual(t, i, 0, suffix)
	return in.Pieces[0].Steps[i].ID
}

// A veneer is not sanded to the wood again.
func TestAVeneerIsNotStripped(t *testing.T) {
	in, log := finished(t, "nitro", "", dye)
	for i := range in.Pieces[0].Regions {
		in.Pieces[0].Regions[i].Wood = "maple-figured-veneer"
	}
	assert.Contains(t, waysOf(t, in, log, Asked{Damage: Chip})["strip"].Why, "veneer")
}

// What is chosen comes behind what is done; a step that is done in part is parted, and its rest comes after.
func TestTheStepsComeBehindWhatIsDone(t *testing.T) {
	in, log := finished(t, "water-clear", "", dye)
	clear := slices.IndexFunc(in.Pieces[0].Steps, func(s job.Step) bool { return s.Role == "clear" })
	for _, s := range in.Pieces[0].Steps[clear+1:] {
		delete(log.Done, s.ID)
	}
	begun := in.Pieces[0].Steps[clear]
	log.Done[begun.ID] = 1
	a := Asked{ID: uuid.New(), Piece: in.Pieces[0].ID, Damage: Run, Way: "cut-down"}
	next, way, err := Apply(in, a, log)
	require.NoError(t, err)
	steps := next.Pieces[0].Steps
	assert.Equal(t, []any{begun.ID, 1}, []any{steps[clear].ID, steps[clear].Coats})
	assert.Equal(t, way.Steps[0].ID, steps[clear+1].ID)
	rest := steps[clear+1+len(way.Steps)]
	assert.Equal(t, []any{begun.Title, begun.Coats - 1}, []any{rest.Title, rest.Coats})
	same, _, err := Apply(in, a, log)
	require.NoError(t, err)
	assert.Equal(t, next, same, "the same request makes the same steps")
	_, _, err = Apply(next, a, log)
	assert.Error(t, err, "and makes them once")
	for name, wrong := range map[string]Asked{
		"no way":              {ID: uuid.New(), Piece: a.Piece, Damage: Run},
		"a way that fails":    {ID: uuid.New(), Piece: a.Piece, Damage: Chip, Way: "drop-melt"},
		"no damage":           {ID: uuid.New(), Piece: a.Piece, Damage: "rust", Way: "panel"},
		"another piece":       {ID: uuid.New(), Piece: uuid.New(), Damage: Run, Way: "cut-down"},
		"another region":      {ID: uuid.New(), Piece: a.Piece, Damage: Run, Way: "cut-down", Regions: []uuid.UUID{uuid.New()}},
		"no id of the device": {Piece: a.Piece, Damage: Run, Way: "cut-down"},
	} {
		_, _, err := Apply(in, wrong, log)
		var f *edit.Fault
		assert.ErrorAs(t, err, &f, name)
	}
}

// A check that is not passed asks for what went before it once more: the last grit, another filling.
func TestAFailedCheckAsksForWhatItNeeds(t *testing.T) {
	in, log := finished(t, "nitro", "", dye)
	at := slices.IndexFunc(in.Pieces[0].Steps, func(s job.Step) bool { return s.Check == "raking-light-prep" })
	require.Greater(t, at, 0)
	rake := in.Pieces[0].Steps[at]
	for _, s := range in.Pieces[0].Steps[at:] {
		delete(log.Done, s.ID)
	}
	entry := uuid.New()
	next, again, asked := Failed(in, rake.ID, entry, log)
	require.True(t, asked)
	require.Len(t, again, 1)
	sand := in.Pieces[0].Steps[at-1]
	assert.Equal(t, sand.Ladder[len(sand.Ladder)-1:], again[0].Ladder, "the same grit again, not the whole ladder")
	assert.Less(t, again[0].HandsOnMin, sand.HandsOnMin)
	assert.Equal(t, again[0].ID, next.Pieces[0].Steps[at].ID, "before the check, which comes after it")
	_, twice, _ := Failed(in, rake.ID, entry, log)
	assert.Equal(t, again[0].ID, twice[0].ID)

	fill := recipe.Layer{ID: "fill", Effect: recipe.EffectFill, As: "full"}
	in, log = finished(t, "nitro", "", fill)
	i := slices.IndexFunc(in.Pieces[0].Steps, func(s job.Step) bool { return s.Check == "pores-filled" })
	if i >= 0 { // alder is closed: only an open wood has the check
		_, again, asked = Failed(in, in.Pieces[0].Steps[i].ID, entry, log)
		require.True(t, asked)
		assert.Equal(t, []job.Kind{job.Coat, job.Sand}, []job.Kind{again[0].Kind, again[1].Kind}, "another filling, sanded level")
	}
	soft := job.Step{ID: uuid.New(), Slot: "body:soft", Kind: job.Inspect, Title: "Hart?", Check: "filler-hard",
		Regions: in.Pieces[0].Steps[0].Regions}
	in.Pieces[0].Steps = append(in.Pieces[0].Steps, soft)
	_, again, asked = Failed(in, soft.ID, entry, log)
	require.True(t, asked)
	assert.Equal(t, []any{job.Gate, unit.Minutes(720)}, []any{again[0].Kind, again[0].RestMin}, "what is not hard asks for time")
	_, _, asked = Failed(in, uuid.New(), entry, log)
	assert.False(t, asked)
}

// Every row, check and grit that the ways name is there.
func TestTheWaysNameWhatIsThere(t *testing.T) {
	for _, id := range []string{"chip-drop-melt", "chip-drop-set", "run-hard", "scratch-film", "burn-colour-spot", "burn-wood-spot",
		"burn-metallic", "dent-steam"} {
		_, err := surface.FindMend(id)
		assert.NoError(t, err)
	}
	for _, family := range []string{"nitro", "water-clear", "finishing-oil"} {
		in, log := finished(t, family, "", dye)
		for _, d := range []Damage{Chip, Run, Burn, Dent, Scratch, Panel} {
			for _, depth := range []Depth{InClear, InColour, InWood} {
				for _, w := range waysOf(t, in, log, Asked{Damage: d, Depth: depth}) {
					for _, s := range w.Steps {
						name := fmt.Sprintf("%s %s %s: %s", family, d, w.ID, s.Title)
						assert.NotEmpty(t, s.How, name)
						assert.LessOrEqual(t, s.SetUpMin, s.HandsOnMin, name)
						if s.Check != "" {
							_, err := check.Find(s.Check)
							assert.NoError(t, err, name)
						}
						assert.Equal(t, s.Kind == job.Coat, s.Family != "", name)
					}
				}
			}
		}
	}
	for id := range asks {
		_, err := check.Find(id)
		assert.NoError(t, err)
	}
}

func TestWhatTheTestsOfAnOldFilmTell(t *testing.T) {
	in, log := finished(t, "nitro", "", dye)
	ways := waysOf(t, in, log, Asked{Damage: Refinish})
	assert.Contains(t, ways["old-alcohol"].Text, "Renews with shellac")
	assert.Contains(t, ways["old-none"].Text, "best ground there is")
	assert.Equal(t, "old-thinner", ways["old-thinner"].Found)
}
