package recipe

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

func rules(objections []Objection) []string {
	var list []string
	for _, o := range objections {
		list = append(list, o.Rule)
	}
	return list
}

// TestMistakesAreObjectedToAndMended breaks a sound schedule in one way, looks for the
// objection, and takes the mend that is offered.
func TestMistakesAreObjectedToAndMended(t *testing.T) {
	drop := func(slots ...string) func(*Draft) {
		return func(d *Draft) {
			for _, slot := range slots {
				d.drop(slot)
			}
		}
	}
	for name, test := range map[string]struct {
		from   string
		wish   func(*Wish)
		broken func(*Draft)
		rule   string
		spoils bool
	}{
		"no tape before colour": {"filled-gloss", nil, drop("body:tape-on"), "mask-missing", true},
		"the tape comes too late": {"filled-gloss", nil,
			func(d *Draft) {
				tape := *d.find("body:tape-on")
				d.drop(tape.Slot)
				d.insert(tape, "body:clear:clear-1")
			}, "mask-missing", true},
		"film on a glue face": {"filled-gloss", func(w *Wish) { w.Joint = "set" }, drop("neck:tape-on"), "film-on-glue-face",
			true},
		"a drill without a stop": {"filled-gloss", func(w *Wish) { *w = w.With("holes", "", "after") },
			func(d *Draft) { d.find("body:drill-after").Check = "" }, "depth-stop", true},
		"a flame after dye": {"filled-gloss", func(w *Wish) { set(&w.Pieces[0], "Look", "charred") },
			func(d *Draft) {
				char := *d.find("body:char:char")
				d.drop(char.Slot)
				d.insert(char, "body:clear:seal")
			}, "flame-late", true},
		"a flame over tape": {"filled-gloss", func(w *Wish) { set(&w.Pieces[0], "Look", "charred") },
			func(d *Draft) {
				char := *d.find("body:char:char")
				d.drop(char.Slot)
				d.insert(char, "body:char:seal-char")
			}, "flame-late", true},
		"texture after wetting": {"filled-gloss", func(w *Wish) { set(&w.Pieces[0], "Texture", true) },
			func(d *Draft) {
				cut := *d.find("body:texture:texture")
				d.drop(cut.Slot)
				d.insert(cut, "body:cut-back")
			}, "texture-late", true},
		"texture after colour": {"filled-gloss", func(w *Wish) { set(&w.Pieces[0], "Texture", true) },
			func(d *Draft) {
				cut := *d.find("body:texture:texture")
				d.drop(cut.Slot)
				d.insert(cut, "body:clear:seal")
			}, "texture-late", true},
		"levelled for gloss too soon": {"filled-gloss", nil, func(d *Draft) { d.find("body:clear:level").Film = material.Sand }, "no-rest",
			true},
		"wet, with holes open": {"filled-gloss", nil, func(d *Draft) { d.find("body:clear:level").Terms.Clean = true }, "wet-open",
			true},
		"no last buffing for gloss": {"filled-gloss", nil, drop("body:clear:buff"), "sheen-path", false},
		"buffed where satin was wanted": {"grain-colour", nil,
			func(d *Draft) { d.find("body:clear:rub-satin").Ladder = []string{"compound:fine"} }, "sheen-path", false},
		"too fine before dye": {"filled-gloss", nil,
			func(d *Draft) { s := d.find("body:sand-bare"); s.Ladder = append(slices.Clone(s.Ladder), "fepa:P600") }, "too-fine", false},
		"too coarse late": {"filled-gloss", nil, func(d *Draft) { d.find("body:fill:sand-fill").Ladder = papers(120) },
			"too-coarse", false},
		"coarse paper on a veneer": {"filled-gloss", func(w *Wish) {
			w.Pieces[0].Regions = []RegionWish{{Name: "top",
				Wood: "maple-figured-veneer"}}
		},
			func(d *Draft) { d.find("body:sand-bare-maple-figured-veneer").Ladder = papers(80, 150, 220) }, "coarse-on-veneer", true},
		"pores left open under gloss": {"filled-gloss", nil, drop("body:fill:fill", "body:fill:sand-fill", "body:fill:pores"),
			"fill-missing", false},
		"no seal before the fill": {"filled-gloss", nil, drop("body:fill:barrier-fill-water-dye"), "seal-before-fill", true},
		"coats after the wax": {"grain-colour", func(w *Wish) { set(&w.Pieces[0], "Wax", true) }, func(d *Draft) {
			wax := *d.find("body:wax:wax")
			d.drop(wax.Slot)
			d.insert(wax, "body:clear:clear")
		}, "wax-last", true},
		"no colour test":             {"filled-gloss", nil, drop("body:colour-test"), "colour-test", false},
		"no mock-up of a show piece": {"filled-gloss", func(w *Wish) { w.Standard = "show" }, drop("body:mock-up"), "mock-up", false},
		"polish over a bare pale board": {"filled-gloss",
			func(w *Wish) { w.Board, w.Frets = &BoardWish{Wood: "maple-hard", Finish: "bare"}, "mirror" }, drop("frets:fret-tape"),
			"polish-on-board", true},
		"strings on a soft film": {"filled-gloss", nil, func(d *Draft) { d.find("whole:strings").Terms.Strings = false }, "no-cure",
			true},
		"a hard film over lacquer": {"lacquer-burst", nil, func(d *Draft) { d.find("body:clear:clear-2").Family = "urethane-2k" },
			"goes-over", true},
		"water over an oil filler": {"filled-gloss", nil,
			func(d *Draft) { d.find("body:fill:fill").Family = "oil-filler"; d.drop("body:fill:barrier-again") }, "goes-over", true},
		"a film that is not scuffed": {"two-part", nil, drop("body:clear:scuff-seal"), "goes-over", false},
		"oil-shy resin straight on wood": {"two-part", func(w *Wish) {
			w.Pieces[0] = body("cocobolo")
			set(&w.Pieces[0], "Clear",
				"wipe-varnish")
		},
			drop("body:clear:isolate", "body:clear:isolated"), "oily-wood", true},
	} {
		t.Run(name, func(t *testing.T) {
			w := archetype(t, test.from)
			w.Pieces = slices.Clone(w.Pieces)
			if test.wish != nil {
				test.wish(&w)
			}
			sound := compose(t, w)
			require.Empty(t, Lint(sound, w))
			d := sound.clone()
			test.broken(&d)
			found := Lint(d, w)
			at := slices.IndexFunc(found, func(o Objection) bool { return o.Rule == test.rule })
			require.GreaterOrEqual(t, at, 0, "found %v", rules(found))
			o := found[at]
			assert.Equal(t, test.spoils, o.Spoils)
			assert.NotEmpty(t, o.Reason)
			if name == "a hard film over lacquer" {
				assert.Nil(t, o.Mend, "nothing helps there but another clear")
				return
			}
			require.NotNil(t, o.Mend)
			assert.NotContains(t, rules(Lint(o.Mend.Apply(d), w)), test.rule)
			assert.Contains(t, rules(Lint(d, w)), test.rule, "a mend leaves what it was given alone")
		})
	}
}

func TestWhatIsDoneIsNotObjectedTo(t *testing.T) {
	w := archetype(t, "filled-gloss")
	d := compose(t, w)
	d.drop("body:colour-test")
	assert.Contains(t, rules(Lint(d, w)), "colour-test")
	d.find("body:colour:colour").Done = true
	assert.NotContains(t, rules(Lint(d, w)), "colour-test")
}

func TestWhatWasLeftOutIsNotThere(t *testing.T) {
	w := archetype(t, "two-part")
	d := compose(t, w)
	scuff := d.find("body:clear:scuff-seal")
	scuff.Done = true
	require.Empty(t, Lint(d, w))
	scuff.Skipped = true
	found := Lint(d, w)
	require.Equal(t, []string{"goes-over"}, rules(found))
	assert.Empty(t, Lint(found[0].Mend.Apply(d), w))
}

func TestAMovedStepIsMovedBackAndNotDoubled(t *testing.T) {
	w := archetype(t, "filled-gloss")
	d := compose(t, w)
	tape := *d.find("body:tape-on")
	d.drop(tape.Slot)
	d.insert(tape, "body:clear:clear-1")
	for _, o := range Lint(d, w) {
		if o.Rule == "mask-missing" {
			d = o.Mend.Apply(d)
		}
	}
	tapes := 0
	for _, s := range d.piece(t, Body).Steps {
		if s.Kind == job.MaskOn {
			tapes++
		}
	}
	assert.Equal(t, 1, tapes)
}
