package shop_test

import (
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/repair"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
)

// allDone logs everything on a piece up to a step, late, as somebody does who had no network.
func (r *room) allDone(view views.InstrumentView, before string) {
	r.t.Helper()
	for _, s := range view.Pieces[0].Steps {
		if s.Title == before {
			return
		}
		for coat := 1; coat <= s.Coats; coat++ {
			e := r.entry(s.StepID, coat)
			e.Late, e.HappenedAt = true, ptr(r.now.Add(-30*24*time.Hour))
			_, err := r.service.Log(ctx, e)
			require.NoError(r.t, err)
		}
	}
}

// Whatever holds can be planned, and is kept as it was asked about.
func TestEveryWayThatHoldsCanBePlanned(t *testing.T) {
	t.Parallel()
	for _, family := range []string{"nitro", "water-clear", "finishing-oil"} {
		r := open(t)
		in := glossBody("Kiebitz")
		in.Wish.Pieces[0] = recipe.PieceWish{Kind: recipe.Body, Wood: "alder-red", Length: "480 mm", Width: "330 mm",
			Thickness: "44 mm"}.From("one-colour").Ending(family, "satin")
		view := r.keep(in)
		r.allDone(view, "Open the holes and fit the hardware")
		top := view.Pieces[0].Regions[0].ID
		held := 0
		for _, damage := range []repair.Damage{repair.Chip, repair.Run, repair.Burn, repair.Dent, repair.Scratch, repair.Panel} {
			asked := views.RepairAsked{InstrumentID: view.ID, Repair: repair.Asked{ID: uuid.New(), Piece: view.Pieces[0].ID, Damage: damage,
				Depth:   repair.InColour,
				Regions: []uuid.UUID{top}}}
			ways, err := r.service.Repairs(ctx, asked)
			require.NoError(t, err)
			require.NotEmpty(t, ways.Ways)
			if damage == repair.Run && family == "finishing-oil" {
				assert.NotEmpty(t, ways.Ways[0].Why, "what is wiped off does not run")
				continue
			}
			assert.Empty(t, ways.Ways[0].Why, "%s of %s: something always holds, and comes first", damage, family)
			for _, w := range ways.Ways {
				if w.Why != "" {
					continue
				}
				held++
				assert.NotEmpty(t, w.Hands, w.ID)
				assert.NotEmpty(t, w.Redo, w.ID)
				assert.NotEmpty(t, w.Days, w.ID)
				a := asked.Repair
				a.Way = w.ID
				whatIf, err := r.whatIf(changes.Change{Kind: "repair", InstrumentID: view.ID, Repair: &a})
				require.NoError(t, err, "%s %s %s", family, damage, w.ID)
				require.NotNil(t, whatIf.Edited)
			}
		}
		assert.Greater(t, held, 5, family)
	}
}

// A burn-through on an edge is mended: the steps come, the promise is seen moving, and it can be taken back.
func TestABurnThroughIsMendedAndMovesTheDate(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(glossBody("Sanderling"))
	r.allDone(view, "Buff")
	side := view.Pieces[0].Regions[2].ID
	a := repair.Asked{ID: uuid.New(), Piece: view.Pieces[0].ID, Damage: repair.Burn, Depth: repair.InWood, Regions: []uuid.UUID{side},
		Way: "touch-up"}
	before := r.view(view.ID)
	kept, err := r.keepChanges(changes.Change{Kind: "repair", InstrumentID: view.ID, Repair: &a})
	require.NoError(t, err)
	assert.Equal(t, []string{"Sanderling: a burn-through on sides: touch the colour in and clear past it"}, kept.Changes)
	after := r.view(view.ID)
	assert.Greater(t, after.Outlook.Finish.At, before.Outlook.Finish.At, "its cure counts")
	assert.Contains(t, after.History[0].Cause, "burn-through")
	seal := stepNamed(t, after, "Seal the bared spot")
	assert.Equal(t, "sides", seal.Where)
	at := slices.Index(titles(after, 0), "Seal the bared spot")
	assert.Greater(t, slices.Index(titles(after, 0), "Buff"), at, "it comes before what is still to be done")
	_, err = r.keepChanges(changes.Change{Kind: "repair", InstrumentID: view.ID, Repair: &a})
	assert.ErrorContains(t, err, "no other step", "the same repair comes once")
	require.NoError(t, r.undo(after))
	assert.Equal(t, titles(before, 0), titles(r.view(view.ID), 0))
}

// A check that is not passed brings what it asks for, moves the dates, and takes it away when it is struck.
func TestAFailedCheckBringsWhatItAsksFor(t *testing.T) {
	t.Parallel()
	r := open(t)
	view := r.keep(glossBody("Redshank"))
	r.allDone(view, "Raking light over the bare wood")
	rake := stepNamed(t, view, "Raking light over the bare wood")
	before := r.view(view.ID)
	e := r.entry(rake.StepID, 1)
	e.Kind, e.Late = job.Failed, false
	e.Confirm = []string{"out-of-order", "too-soon"}
	logged, err := r.service.Log(ctx, e)
	require.NoError(t, err)
	assert.Equal(t, []string{"Sand the bare wood"}, logged.Asked)
	after := r.view(view.ID)
	list := titles(after, 0)
	at := slices.Index(list, "Raking light over the bare wood")
	assert.Equal(t, "Sand the bare wood", list[at-1])
	assert.Len(t, list, len(titles(before, 0))+1)
	assert.Equal(t, 0, after.Pieces[0].Steps[at-1].Done)
	assert.Len(t, after.Pieces[0].Steps[at-1].Fields.Ladder, 1, "the same grit again")
	_, err = r.service.Log(ctx, e)
	require.NoError(t, err, "sent twice, asked once")
	assert.Equal(t, list, titles(r.view(view.ID), 0))

	strike := changes.Entry{ID: uuid.Must(uuid.NewV7()), Kind: job.Void, Voids: e.ID, PersonID: r.person, DeviceID: e.DeviceID,
		DeviceSeq: e.DeviceSeq + 1000}
	_, err = r.service.Log(ctx, strike)
	require.NoError(t, err)
	assert.Equal(t, titles(before, 0), titles(r.view(view.ID), 0), "nothing was wrong, nothing is asked")
}

// What the tests of an old film have told composes its piece again by that.
func TestARefinishGoesByWhatTheTestsTell(t *testing.T) {
	t.Parallel()
	r := open(t)
	in := glossBody("Whimbrel")
	in.Wish.Pieces[0].Found = "old-unknown"
	view := r.keep(in)
	assert.Equal(t, "lead-test", r.sheetOf(view.Pieces[0].Steps[0].StepID).Check.ID, "nothing is sanded before the lead test")
	asked := views.RepairAsked{InstrumentID: view.ID, Repair: repair.Asked{ID: uuid.New(), Piece: view.Pieces[0].ID,
		Damage: repair.Refinish}}
	ways, err := r.service.Repairs(ctx, asked)
	require.NoError(t, err)
	i := slices.IndexFunc(ways.Ways, func(w views.RepairWay) bool { return w.ID == "old-thinner" })
	require.GreaterOrEqual(t, i, 0)
	assert.Contains(t, ways.Ways[i].Text, "turns it sticky and clear")
	a := asked.Repair
	a.Way = "old-thinner"
	_, err = r.keepChanges(changes.Change{Kind: "repair", InstrumentID: view.ID, Repair: &a})
	require.NoError(t, err)
	assert.Equal(t, "old-thinner", r.view(view.ID).Wish.Pieces[0].Found)
}

func (r *room) sheetOf(step uuid.UUID) views.Sheet {
	r.t.Helper()
	sheet, err := r.service.Sheet(ctx, step, 1)
	require.NoError(r.t, err)
	return sheet
}
