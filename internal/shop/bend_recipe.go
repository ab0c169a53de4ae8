package shop

import (
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
)

// Changes of a schedule as a whole: mends of objections, and composing again.

// instrument finds an instrument of the bent shop.
func (b *changeSet) instrumentOf(id uuid.UUID) (*recipe.Instrument, error) {
	at := slices.IndexFunc(b.file.Instruments, func(in recipe.Instrument) bool { return in.ID == id })
	if at < 0 {
		return nil, invalid("instrumentId", "must be an instrument of this shop", id)
	}
	return b.file.Own(at), nil
}

// mend ends an objection.
func (b *changeSet) mend(c *Change) error {
	in, err := b.instrumentOf(c.InstrumentID)
	if err != nil {
		return err
	}
	draft := b.draftOf(in)
	for _, o := range recipe.Lint(draft, wishOf(in)) {
		if o.Rule != c.Rule || stepOf(in, o.Slot) != c.StepID {
			continue
		}
		if o.Mend == nil {
			return invalid("rule", "nothing but another choice mends it: "+o.Reason, c.Rule)
		}
		b.become(in, in.Rewritten(o.Mend.Apply(draft), true))
		return b.say(false, "%s: %s", in.Name, phrase.Lower(o.Mend.Text))
	}
	return invalid("rule", "there is no such objection to this schedule any more", c.Rule)
}

// wish composes an instrument again. What is logged or changed by hand stays.
func (b *changeSet) wish(c *Change) error {
	in, err := b.instrumentOf(c.InstrumentID)
	if err != nil {
		return err
	}
	switch {
	case c.Wish == nil:
		return invalid("wish", "say what is wished", nil)
	case c.Version != 0 && c.Version != in.Version:
		return &Taken{Message: in.Name + " was composed again by somebody else in the meantime; look at it, then choose again"}
	}
	kept := b.draftOf(in)
	draft, faults, err := recipe.Compose(c.Wish.Of(in.Outline, in.Own).Keeping(kept))
	if err != nil {
		return err
	}
	if len(faults) > 0 {
		for i := range faults {
			faults[i].Path = "wish." + faults[i].Path
		}
		return &Invalid{faults}
	}
	if was := wishOf(in).Own; c.Wish.Own != nil && (was == nil || *was != *c.Wish.Own) { // another version of a schedule of the shop's own
		kept, draft = b.released(was, kept), b.handed(*c.Wish, draft)
	}
	b.become(in, in.Rewritten(recipe.Merge(kept, draft), false))
	wish := c.Wish.Stacked()
	in.Wish = &wish
	return b.say(false, "%s composed again", in.Name)
}

// become makes an instrument another version of itself, its events in the order of work and its pins with it.
func (b *changeSet) become(in *recipe.Instrument, next recipe.Instrument) {
	gone := make(map[uuid.UUID]job.Step)
	for _, p := range in.Pieces {
		for _, s := range p.Steps {
			gone[s.ID] = s
		}
	}
	moved := make(map[uuid.UUID]bool)
	for _, p := range next.Pieces {
		for _, s := range p.Steps {
			if was, known := gone[s.ID]; known && !recipe.SameStep(s, was) {
				moved[s.ID] = s.Moved
			}
			delete(gone, s.ID)
		}
	}
	b.file.Pins = slices.DeleteFunc(b.file.Pins, func(p job.Pin) bool { _, is := gone[p.Step]; return is })
	*in = next
	b.reorder(in, moved, gone)
}

// reorder puts the events of an instrument, in the order of its chains, at the
// places in the order of work that it had; what is more comes after the last of them. What was moved by hand
// stands where what it follows now stands.
func (b *changeSet) reorder(in *recipe.Instrument, moved map[uuid.UUID]bool, gone map[uuid.UUID]job.Step) {
	own := make(map[uuid.UUID]bool)
	for id := range gone {
		own[id] = true
	}
	rank := make(map[job.Event]int)
	for i, e := range b.file.Order {
		rank[e] = i
	}
	var events []job.Event
	for _, p := range in.Pieces {
		last := -1
		for _, s := range p.Steps {
			own[s.ID] = true
			for coat := 1; coat <= max(s.Coats, 1); coat++ {
				e := job.Event{Step: s.ID, Coat: coat}
				if at, known := rank[e]; known && !moved[s.ID] {
					last = max(last, at)
				}
				rank[e] = last // where it stood, and never before what it follows
				events = append(events, e)
			}
		}
	}
	slices.SortStableFunc(events, func(a, b job.Event) int { return rank[a] - rank[b] })
	next, order := 0, make([]job.Event, 0, len(b.file.Order)+8)
	lastOwn := -1
	for i, e := range b.file.Order {
		if own[e.Step] {
			lastOwn = i
		}
	}
	for i, e := range b.file.Order {
		switch {
		case !own[e.Step]:
			order = append(order, e)
		case i == lastOwn:
			order = append(order, events[next:]...)
			next = len(events)
		case next < len(events):
			order = append(order, events[next])
			next++
		}
	}
	b.file.Order = append(order, events[next:]...)
}
