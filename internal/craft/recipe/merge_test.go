package recipe

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"umberfrost/internal/craft/job"
)

// draftOf is a draft with one piece of these steps, all on one region.
func draftOf(kind PieceKind, steps ...Step) Draft {
	for i := range steps {
		steps[i].Slot, steps[i].Regions = key(kind, steps[i].Slot), []string{key(kind, "top")}
	}
	return Draft{Pieces: []Piece{{Kind: kind, Regions: []Region{{Key: key(kind, "top"), Region: job.Region{Name: "top"}}}, Steps: steps}}}
}

func slotsOf(d Draft) (slots []string) {
	for _, p := range d.Pieces {
		for i := range p.Steps {
			slots = append(slots, p.Steps[i].Slot)
		}
	}
	return slots
}

func TestMergeKeepsWhatHappenedWhereItHappened(t *testing.T) {
	for name, test := range map[string]struct {
		old, next Draft
		slots     []string
	}{
		"nothing done: all is composed anew": {
			draftOf(Body, Step{Step: job.Step{Slot: "sand"}}, Step{Step: job.Step{Slot: "dye"}}),
			draftOf(Body, Step{Step: job.Step{Slot: "sand"}}, Step{Step: job.Step{Slot: "stain"}}),
			[]string{"body:sand", "body:stain"}},
		"a logged step that is gone stays after what it came after": {
			draftOf(Body, Step{Step: job.Step{Slot: "sand"}, Done: true}, Step{Step: job.Step{Slot: "dye"}, Done: true},
				Step{Step: job.Step{Slot: "seal"}}), draftOf(Body, Step{Step: job.Step{Slot: "sand"}}, Step{Step: job.Step{Slot: "seal"}}),
			[]string{"body:sand", "body:dye", "body:seal"}},
		"one made by hand too, at the beginning": {
			draftOf(Body, Step{Step: job.Step{Slot: "wait", Edited: true}}, Step{Step: job.Step{Slot: "sand"}}),
			draftOf(Body, Step{Step: job.Step{Slot: "sand"}}, Step{Step: job.Step{Slot: "seal"}}),
			[]string{"body:wait", "body:sand", "body:seal"}},
		"a step of which only struck entries speak": {
			draftOf(Body, Step{Step: job.Step{Slot: "sand"}, Done: true}, Step{Step: job.Step{Slot: "dye"}, Logged: true}),
			draftOf(Body, Step{Step: job.Step{Slot: "sand"}}, Step{Step: job.Step{Slot: "seal"}}),
			[]string{"body:sand", "body:dye", "body:seal"}},
		"a piece that is gone, with what is logged of it only": {
			draftOf(Neck, Step{Step: job.Step{Slot: "sand"}, Done: true}, Step{Step: job.Step{Slot: "oil"}}),
			draftOf(Body, Step{Step: job.Step{Slot: "sand"}}),
			[]string{"body:sand", "neck:sand"}},
	} {
		t.Run(name, func(t *testing.T) {
			assert.Equal(t, test.slots, slotsOf(Merge(test.old, test.next)))
		})
	}
}

func TestMergeTakesTheNewContentOfWhatIsOpen(t *testing.T) {
	old := draftOf(Body, Step{Step: job.Step{Slot: "seal", Title: "Seal, old"}, Logged: true},
		Step{Step: job.Step{Slot: "clear", Title: "Clear, old"}, Done: true})
	next := draftOf(Body, Step{Step: job.Step{Slot: "seal", Title: "Seal, new"}}, Step{Step: job.Step{Slot: "clear", Title: "Clear, new"}})
	merged := Merge(old, next)
	assert.Equal(t, "Seal, new", merged.find("body:seal").Title, "its entries were struck: it is open again")
	assert.Equal(t, "Clear, old", merged.find("body:clear").Title)
	assert.Equal(t, "Seal, old", old.find("body:seal").Title, "what is given is left alone")
}

func TestMergeKeepsTheRegionsThatKeptStepsNeedAndForgetsOtherWaits(t *testing.T) {
	old := draftOf(Body, Step{Step: job.Step{Slot: "sand"}, Done: true})
	old.Pieces[0].Regions = append(old.Pieces[0].Regions, Region{Key: "body:rim", Region: job.Region{Name: "rim"}},
		Region{Key: "body:heel", Region: job.Region{Name: "heel"}})
	old.Pieces[0].Steps[0].Regions = []string{"body:top", "body:rim"}
	old.Pieces[0].Steps[0].After = []string{"neck:gone"}
	next := draftOf(Body, Step{Step: job.Step{Slot: "sand"}}, Step{Step: job.Step{Slot: "seal"}})
	merged := Merge(old, next)
	var regions []string
	for _, z := range merged.Pieces[0].Regions {
		regions = append(regions, z.Name)
	}
	assert.Equal(t, []string{"top", "rim"}, regions)
	assert.Empty(t, merged.find("body:sand").After)
}

func TestAMendIsPutWhereItBelongs(t *testing.T) {
	d := draftOf(Body, Step{Step: job.Step{Slot: "sand"}}, Step{Step: job.Step{Slot: "dye"}}, Step{Step: job.Step{Slot: "seal"}})
	d.insert(Step{Step: job.Step{Slot: "body:test"}}, "body:dye")
	d.insertAfter(Step{Step: job.Step{Slot: "body:wax", Kind: job.Coat}}, "body:seal")
	d.insert(Step{Step: job.Step{Slot: "body:test"}}, "body:seal")
	assert.Equal(t, []string{"body:sand", "body:test", "body:dye", "body:test-2", "body:seal", "body:wax"}, slotsOf(d),
		"a slot that is taken gets a number")
	d.drop("body:test")
	assert.Nil(t, d.find("body:test"))
}

// Splitting a region hands what was done to it to both parts; one that is cut later was not there.
func TestASplitHandsOnWhatWasDone(t *testing.T) {
	w := stackedBody("basswood", nil, Layer{ID: "dye", Effect: EffectColour, Carrier: "water", Regions: []string{"top"}},
		clearOf("water-clear", "satin"))
	old := compose(t, w)
	for i := range old.Pieces[0].Steps {
		old.Pieces[0].Steps[i].Done = true
		if old.Pieces[0].Steps[i].name() == "colour" {
			break
		}
	}
	w.Pieces[0].Regions = []RegionWish{{Name: "panel", Kind: "half"}, {Name: "bevel", Kind: "bevel", Width: "9 mm", CutAfter: "dye"}}
	w.Pieces[0].Layers[0].Regions = []string{"top", "panel"}
	merged := Merge(old, compose(t, w))
	assert.Equal(t, []string{"body:top", "body:panel"}, merged.find("body:dye:colour").Regions)
	assert.NotContains(t, merged.find("body:sand-bare").Regions, "body:bevel")
	assert.Contains(t, merged.find("body:sand-bare").Regions, "body:panel")
	assert.Contains(t, merged.find("body:clear:clear").Regions, "body:bevel")
	assert.Empty(t, Lint(merged, w), "no dye on bare wood, nothing without a mask")
}
