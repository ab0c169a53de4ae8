package snapshot

import (
	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
)

// WishOf is what is wanted of an instrument; an empty wish where that is not known.
func WishOf(in *recipe.Instrument) recipe.Wish {
	if in.Wish == nil {
		return recipe.Wish{}
	}
	return *in.Wish
}

func StepOf(in *recipe.Instrument, slot string) uuid.UUID {
	for _, p := range in.Pieces {
		for _, s := range p.Steps {
			if s.Slot == slot {
				return s.ID
			}
		}
	}
	return uuid.Nil
}

// DraftOf is an instrument's schedule as the rules of recipes read it.
func (m *Snapshot) DraftOf(in *recipe.Instrument) recipe.Draft { return in.Draft(m.LoggedOf(in)) }

// LoggedOf is what has happened to an instrument so far.
func (m *Snapshot) LoggedOf(in *recipe.Instrument) recipe.Logged {
	l := recipe.Logged{Done: make(map[uuid.UUID]int), Skipped: make(map[uuid.UUID]bool), Spoken: m.Log.Spoken()}
	for _, p := range in.Pieces {
		for i := range p.Steps {
			s := &p.Steps[i]
			most := max(s.Coats, 1)
			if s.Repeat != nil {
				most = max(most, s.Repeat.Most)
			}
			for coat := 1; coat <= most; coat++ {
				if fact, done := m.Facts[job.Event{Step: s.ID, Coat: coat}]; done {
					l.Done[s.ID] = coat
					l.Skipped[s.ID] = l.Skipped[s.ID] || (coat == 1 && fact.Skipped)
				}
			}
		}
	}
	return l
}
