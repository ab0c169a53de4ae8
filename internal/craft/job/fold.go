package job

import (
	"iter"
	"maps"
	"slices"

	"github.com/google/uuid"
)

// Fold is what a log comes to: which entry stands for each event, and what else is so. It is the one place where a log
// is read into a state: state is the fold of its entries in the order of (happened, recorded, id), whatever the order
// in which they are added. Notes, timers and failed checks say nothing about it; what is struck does not count; of those
// that complete one event the first stands, and one that came as a late twin gives way to any other.
type Fold struct {
	completing map[Event][]*Entry // those that are not struck, in the order of the log
	facts      []*Entry           // moved, tested, settled; those that are not struck, in the order of the log
	steps      map[uuid.UUID]bool // that the log speaks of, also in entries that were struck
}

// FoldOf folds a log. The entries are kept, and must not be changed.
func FoldOf(log []Entry) *Fold {
	f := &Fold{completing: make(map[Event][]*Entry), steps: make(map[uuid.UUID]bool)}
	f.Add(log)
	return f
}

// Clone is a copy that can be added to.
func (f *Fold) Clone() *Fold {
	return &Fold{maps.Clone(f.completing), slices.Clip(f.facts), maps.Clone(f.steps)}
}

// Add takes more entries in, with those that strike others, and returns the events for which another entry, or none,
// may stand now.
func (f *Fold) Add(entries []Entry) (touched []Event) {
	struck := make(map[uuid.UUID]bool)
	for i := range entries {
		if voids := entries[i].Voids; voids != nil {
			struck[*voids] = true
		}
	}
	if len(struck) > 0 {
		touched = f.strike(struck)
	}
	for i := range entries {
		e := &entries[i]
		if e.Step != nil {
			f.steps[*e.Step] = true
		}
		switch {
		case struck[e.ID]:
		case e.Completes():
			f.completing[e.Event()] = inserted(f.completing[e.Event()], e)
			touched = append(touched, e.Event())
		case e.states():
			f.facts = inserted(f.facts, e)
		}
	}
	return touched
}

// Speaks notes a step of which only entries speak that are not folded.
func (f *Fold) Speaks(step uuid.UUID) { f.steps[step] = true }

// strike takes entries out.
func (f *Fold) strike(struck map[uuid.UUID]bool) (touched []Event) {
	isStruck := func(e *Entry) bool { return struck[e.ID] }
	f.facts = slices.DeleteFunc(slices.Clone(f.facts), isStruck)
	for event, list := range f.completing {
		if !slices.ContainsFunc(list, isStruck) {
			continue
		}
		touched = append(touched, event)
		if list = slices.DeleteFunc(slices.Clone(list), isStruck); len(list) > 0 {
			f.completing[event] = list
		} else {
			delete(f.completing, event)
		}
	}
	return touched
}

// inserted is a list in the order of the log with one entry more; the list itself stays as it is.
func inserted(list []*Entry, e *Entry) []*Entry {
	at, _ := slices.BinarySearchFunc(list, e, (*Entry).Compare)
	if at == len(list) { // as most come
		return append(slices.Clip(list), e)
	}
	return slices.Insert(slices.Clone(list), at, e)
}

// Standing is the entry that stands for an event; nil where it is open.
func (f *Fold) Standing(event Event) *Entry {
	list := f.completing[event]
	for _, e := range list {
		if !e.twin() {
			return e
		}
	}
	if len(list) > 0 {
		return list[0]
	}
	return nil
}

// All gives every event that is completed, in no order, with the entry that stands for it.
func (f *Fold) All() iter.Seq2[Event, *Entry] {
	return func(yield func(Event, *Entry) bool) {
		for event := range f.completing {
			if !yield(event, f.Standing(event)) {
				return
			}
		}
	}
}

// Facts are the entries that say where pieces were carried, what was tested and what is settled, in the order of the log.
func (f *Fold) Facts() []*Entry { return f.facts }

// Spoken are the steps that the log speaks of, also in entries that were struck. It must not be changed.
func (f *Fold) Spoken() map[uuid.UUID]bool { return f.steps }
