package job

import (
	"maps"
	"slices"
	"testing"
	"time"

	"umberfrost/internal/proptest"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func at(hour int) time.Time { return time.Date(2026, 3, 12, hour, 0, 0, 0, time.UTC) }

func TestWhatStands(t *testing.T) {
	step, coat := uuid.New(), 1
	entry := func(kind string, hour int) Entry {
		return Entry{ID: uuid.New(), Kind: kind, Step: &step, Coat: &coat, HappenedAt: at(hour), RecordedAt: at(hour)}
	}
	strike := func(e Entry, hour int) Entry {
		return Entry{ID: uuid.New(), Kind: Void, Voids: &e.ID, HappenedAt: at(hour), RecordedAt: at(hour)}
	}
	done, again, twin, test, note := entry(Done, 10), entry(Skipped, 11), entry(Done, 8), entry(Tested, 12), entry(Note, 9)
	twin.Flags = []string{Duplicate}
	for name, c := range map[string]struct {
		log  []Entry
		want []uuid.UUID
	}{
		"an empty log":                               {nil, []uuid.UUID{}},
		"in the order in which it happened":          {[]Entry{test, done}, []uuid.UUID{done.ID, test.ID}},
		"the first of two that complete one event":   {[]Entry{again, done}, []uuid.UUID{done.ID}},
		"a late twin gives way to any other":         {[]Entry{twin, again}, []uuid.UUID{again.ID}},
		"and stands where it is alone":               {[]Entry{twin}, []uuid.UUID{twin.ID}},
		"notes and failed checks say nothing":        {[]Entry{note, entry(Failed, 9)}, []uuid.UUID{}},
		"what is struck does not stand":              {[]Entry{test, strike(test, 13)}, []uuid.UUID{}},
		"what was kept beside a struck one does now": {[]Entry{done, again, strike(done, 13)}, []uuid.UUID{again.ID}},
	} {
		assert.Equal(t, c.want, standing(FoldOf(c.log)), name)
	}
}

func TestTheOrderOfTheLog(t *testing.T) {
	low, high := uuid.UUID{1}, uuid.UUID{2}
	early := Entry{ID: high, HappenedAt: at(9), RecordedAt: at(15)}
	late := Entry{ID: low, HappenedAt: at(10), RecordedAt: at(10)}
	assert.Negative(t, early.Compare(&late), "when it happened, first")
	late.HappenedAt = at(9)
	assert.Positive(t, early.Compare(&late), "then when it was recorded")
	late.RecordedAt = at(15)
	assert.Positive(t, early.Compare(&late), "then by id")
}

func TestAStepWithoutRegionsIsDoneToAllOfItsPiece(t *testing.T) {
	top, back := uuid.New(), uuid.New()
	piece := Piece{Regions: []Region{{ID: top}, {ID: back}}}
	assert.Equal(t, []uuid.UUID{top, back}, piece.RegionsOf(&Step{}))
	assert.Equal(t, []uuid.UUID{back}, piece.RegionsOf(&Step{Regions: []uuid.UUID{back}}))
	assert.Empty(t, (&Entry{Kind: Note}).Event(), "a note on an instrument speaks of no event")
}

// standing is what stands by a fold, in the order of the log.
func standing(f *Fold) []uuid.UUID {
	list := slices.Clone(f.Facts())
	for _, e := range f.All() {
		list = append(list, e)
	}
	slices.SortFunc(list, (*Entry).Compare)
	ids := []uuid.UUID{}
	for _, e := range list {
		ids = append(ids, e.ID)
	}
	return ids
}

// However a log comes in, at once or bit by bit, and in whatever order as long as an entry is there before it is
// struck, it folds to the same.
func TestALogFoldsToTheSameHoweverItComesIn(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		steps := []uuid.UUID{{1}, {2}}
		var log []Entry
		for i := range rapid.IntRange(0, 12).Draw(t, "entries") {
			coat := rapid.IntRange(1, 2).Draw(t, "coat")
			e := Entry{ID: uuid.UUID{byte(i + 1)}, Step: &steps[rapid.IntRange(0, 1).Draw(t, "step")], Coat: &coat,
				Kind:       rapid.SampledFrom([]string{Done, Skipped, Tested, Settled, Note, Failed}).Draw(t, "kind"),
				HappenedAt: at(rapid.IntRange(8, 11).Draw(t, "hour")), RecordedAt: at(12)}
			if rapid.Bool().Draw(t, "late") {
				e.Flags = []string{Duplicate}
			}
			log = append(log, e)
		}
		var voids []Entry
		for i := range log {
			if rapid.IntRange(0, 3).Draw(t, "struck") == 0 {
				voids = append(voids, Entry{ID: uuid.UUID{100, byte(i)}, Kind: Void, Voids: &log[i].ID, HappenedAt: at(13)})
			}
		}
		whole := FoldOf(slices.Concat(log, voids))
		order := slices.Concat(rapid.Permutation(log).Draw(t, "order"), voids)
		begun := rapid.IntRange(0, len(order)).Draw(t, "begun")
		first := FoldOf(order[:begun])
		was := standing(first)
		bit := first.Clone()
		for i := begun; i < len(order); i++ {
			before := make(map[Event]*Entry)
			maps.Insert(before, bit.All())
			touched := bit.Add(order[i : i+1])
			after := make(map[Event]*Entry)
			maps.Insert(after, bit.All())
			for _, coat := range []int{1, 2} {
				for _, step := range steps {
					if e := (Event{step, coat}); before[e] != after[e] {
						assert.Contains(t, touched, e)
					}
				}
			}
		}
		assert.Equal(t, standing(whole), standing(bit))
		assert.Equal(t, whole.Spoken(), bit.Spoken())
		assert.Equal(t, was, standing(first), "a copy that is added to changes nothing else")
	})
}
