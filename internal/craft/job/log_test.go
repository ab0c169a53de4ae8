package job

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
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
		ids := []uuid.UUID{}
		for _, e := range Standing(c.log) {
			ids = append(ids, e.ID)
		}
		assert.Equal(t, c.want, ids, name)
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
