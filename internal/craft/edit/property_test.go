package edit

import (
	"slices"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/proptest"
)

// bench is an instrument on which somebody works and changes the schedule, in any order.
type bench struct {
	in        recipe.Instrument
	log       recipe.Logged
	as        map[uuid.UUID]job.Step // each step that is logged, as it was then
	kept      []Delta
	undone    []Delta
	snapshots []recipe.Instrument // before each delta that is kept
	drawn     int
}

func (b *bench) id() uuid.UUID {
	b.drawn++
	return uuid.NewSHA1(b.in.ID, []byte{byte(b.drawn >> 8), byte(b.drawn)})
}

// Random sequences of edits, undos and redos end where they should, whatever is logged between them.
func TestAnySequenceOfEditsCanBeTakenBack(t *testing.T) {
	start := plover(t)
	proptest.Check(t, func(rt *rapid.T) {
		b := &bench{in: start, log: logOf(map[uuid.UUID]int{}), as: make(map[uuid.UUID]job.Step)}
		for range rapid.IntRange(1, 14).Draw(rt, "acts") {
			switch act := rapid.IntRange(0, 9).Draw(rt, "act"); {
			case act < 5:
				b.edit(rt)
			case act < 7:
				b.undo(rt)
			case act < 8:
				b.redo(rt)
			default:
				b.work(rt)
			}
			b.stands(rt)
		}
		b.recompose(rt)
	})
}

func (b *bench) edit(rt *rapid.T) {
	next, err := Apply(b.in, b.any(rt), b.log, nil)
	if err != nil {
		return // refused: nothing has changed
	}
	d := Between(b.in, next)
	back, err := d.Inverse().Apply(next, b.log)
	require.NoError(rt, err, "an edit can be taken back at once")
	require.True(rt, Between(b.in, back).Empty(), "its inverse leads back")
	b.kept, b.snapshots, b.undone = append(b.kept, d), append(b.snapshots, b.in), nil
	b.in = next
}

func (b *bench) undo(rt *rapid.T) {
	if len(b.kept) == 0 {
		return
	}
	last := len(b.kept) - 1
	before, err := b.kept[last].Inverse().Apply(b.in, b.log)
	if err != nil {
		return // what is logged since would mean something else
	}
	require.True(rt, Between(b.snapshots[last], before).Empty(), "undone, it is as it was before")
	b.undone = append(b.undone, b.kept[last])
	b.kept, b.snapshots, b.in = b.kept[:last], b.snapshots[:last], before
}

func (b *bench) redo(rt *rapid.T) {
	if len(b.undone) == 0 {
		return
	}
	last := len(b.undone) - 1
	after, err := b.undone[last].Apply(b.in, b.log)
	if err != nil {
		return
	}
	b.snapshots, b.kept, b.undone = append(b.snapshots, b.in), append(b.kept, b.undone[last]), b.undone[:last]
	b.in = after
}

// work logs the next coat of some step.
func (b *bench) work(rt *rapid.T) {
	s := pick(rt, "worked on", b.steps())
	if s.Out != "" || b.log.Done[s.ID] >= max(s.Coats, 1) {
		return
	}
	b.log.Done[s.ID]++
	b.log.Spoken[s.ID] = true
	b.as[s.ID] = s
}

func (b *bench) steps() (list []job.Step) {
	for _, p := range b.in.Pieces {
		list = append(list, p.Steps...)
	}
	return list
}

// stands checks that nothing logged is lost or means something else, and that what there is can be planned.
func (b *bench) stands(rt *rapid.T) {
	seen, slots := make(map[uuid.UUID]bool), make(map[string]bool)
	for _, s := range b.steps() {
		require.False(rt, seen[s.ID], "no id comes twice")
		require.False(rt, slots[s.Slot], "no slot comes twice: %s", s.Slot)
		seen[s.ID], slots[s.Slot] = true, true
	}
	for _, p := range b.in.Pieces {
		for _, s := range p.Steps {
			require.LessOrEqual(rt, s.SetUpMin, s.HandsOnMin, s.Title)
			require.NotEmpty(rt, p.RegionsOf(&s), s.Title)
			for _, other := range s.After {
				require.True(rt, seen[other], "%s waits for what is there", s.Title)
			}
		}
	}
	for id, was := range b.as {
		now := stepOf(b.in, id)
		require.NotNil(rt, now, "%s is logged", was.Title)
		require.GreaterOrEqual(rt, max(now.Coats, 1), b.log.Done[id])
		require.True(rt, sameWork(&was, now), "what is done of %s means what it meant", was.Title)
		require.Empty(rt, now.Out)
	}
}

// recompose composes the same wish again: what a hand has done stays.
func (b *bench) recompose(rt *rapid.T) {
	draft, faults, err := recipe.Compose(b.in.Wish.Of(b.in.Outline, b.in.Own).Keeping(b.in.Draft(b.log)))
	require.NoError(rt, err)
	require.Empty(rt, faults)
	again := b.in.Rewritten(recipe.Merge(b.in.Draft(b.log), draft), false)
	for i, p := range b.in.Pieces {
		require.Equal(rt, titles(p), titles(again.Pieces[i]), "the same steps in the same order")
		for k := range p.Steps {
			require.True(rt, recipe.SameStep(p.Steps[k], again.Pieces[i].Steps[k]), "%s stays as it is", p.Steps[k].Title)
		}
	}
}

// pick draws one of a list by where it stands: what is drawn is printed.
func pick[T any](rt *rapid.T, what string, list []T) T {
	return list[rapid.IntRange(0, len(list)-1).Draw(rt, what)]
}

// any draws an edit, possible or not.
func (b *bench) any(rt *rapid.T) Edit {
	steps := b.steps()
	step := pick(rt, "step", steps)
	other := pick(rt, "other", steps)
	piece := pick(rt, "piece", b.in.Pieces)
	e := Edit{Op: rapid.SampledFrom([]Op{Set, Add, Move, Duplicate, Split, Join, LeaveOut, TakeBack, Remove}).Draw(rt, "op"), Step: step.ID}
	switch e.Op {
	case Set:
		e.Fields = anyFields(rt)
	case Add:
		e.Step, e.Piece = b.id(), piece.ID
		e.What = pick(rt, "what", recipe.Extras()).ID
		if len(piece.Steps) > 0 {
			e.After = pick(rt, "after", piece.Steps).ID
		}
	case Move:
		e.After = other.ID
	case Duplicate:
		e.New = b.id()
	case Split:
		e.New = b.id()
		e.Regions = step.Regions[:rapid.IntRange(0, len(step.Regions)).Draw(rt, "regions")]
	case Join:
		e.With = other.ID
	case LeaveOut:
		e.Reason = "so ist es genug"
	}
	return e
}

func anyFields(rt *rapid.T) *Fields {
	f := &Fields{}
	switch rapid.IntRange(0, 7).Draw(rt, "field") {
	case 0:
		f.Coats = some(rapid.IntRange(1, 12).Draw(rt, "coats"))
	case 1:
		f.Minutes = some(rapid.IntRange(0, 240).Draw(rt, "minutes"))
	case 2:
		f.Material = some(rapid.SampledFrom([]string{"nitro", "water-clear", "finishing-oil", "water-dye", "paste-wax"}).Draw(rt,
			"material"))
	case 3:
		f.Ladder = &[]string{"fepa:P320", "fepa:P400"}
	case 4:
		f.Film = some(rapid.SampledFrom([]string{"", "recoat", "buff", "full-cure"}).Draw(rt, "film"))
	case 5:
		f.Title = some("Schritt von Hand")
	case 6:
		f.Rounds = &Rounds{Least: 1, Most: rapid.IntRange(0, 6).Draw(rt, "rounds")}
	default:
		f.Note, f.Divide = some("erst innen"), some(slices.Max([]int{0, rapid.IntRange(-5, 60).Draw(rt, "divide")}))
	}
	return f
}
