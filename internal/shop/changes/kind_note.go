package changes

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/snapshot"
)

// noteKind is a note on an instrument, or on a step of it.
type noteKind struct{ nothingFollows }

func (noteKind) fields() []string { return []string{"stepId", "coat"} }

func (noteKind) check(c *entryCheck) {
	c.reason()
	if !slices.ContainsFunc(c.m.Workshop.Instruments, func(i recipe.Instrument) bool { return i.ID == c.in.InstrumentID }) {
		c.fault("instrumentId", "must be an instrument of this shop", c.in.InstrumentID)
	}
	at, found := c.m.Find(c.in.StepID)
	switch {
	case c.in.StepID == uuid.Nil:
	case !found || at.Instrument().ID != c.in.InstrumentID:
		c.fault("stepId", "must be a step of that instrument, or be left out", c.in.StepID)
	default:
		c.coat(at)
	}
}

func (noteKind) gone(_ context.Context, w *Unit, in Entry) (bool, uuid.UUID, error) {
	if _, found := w.Before.Find(in.StepID); in.StepID == uuid.Nil || found {
		return false, uuid.Nil, nil
	}
	return goneFrom(w, in)
}

func (noteKind) record(_ context.Context, _ *Unit, r *recording) error {
	r.entry.Instrument = r.in.InstrumentID
	if r.in.StepID != uuid.Nil {
		r.entry.Step, r.entry.Coat = &r.in.StepID, &r.in.Coat
	}
	return nil
}

func (noteKind) title(*snapshot.Snapshot, *job.Entry) string { return "a note" }

func (noteKind) line(_ *snapshot.Snapshot, _ *job.Entry, title string) string { return title }
