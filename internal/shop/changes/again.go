package changes

import (
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// Changes of a schedule as a whole: mends of objections, and composing again.

// instrument finds an instrument of the changed shop.
func (b *Set) instrumentOf(id uuid.UUID) (*recipe.Instrument, error) {
	at := slices.IndexFunc(b.Workshop.Instruments, func(in recipe.Instrument) bool { return in.ID == id })
	if at < 0 {
		return nil, refuse.Field("instrumentId", "must be an instrument of this shop", id)
	}
	return b.Workshop.Own(at), nil
}

// Mend ends an objection.
type Mend struct {
	InstrumentID uuid.UUID
	StepID       uuid.UUID
	Rule         string
}

func (c *Mend) role() access.Role { return access.RoleShop }

func (c *Mend) apply(b *Set, _ int) error {
	in, err := b.instrumentOf(c.InstrumentID)
	if err != nil {
		return err
	}
	draft := b.DraftOf(in)
	for _, o := range recipe.Lint(draft, snapshot.WishOf(in)) {
		if o.Rule != c.Rule || snapshot.StepOf(in, o.Slot) != c.StepID {
			continue
		}
		if o.Mend == nil {
			return refuse.Field("rule", "nothing but another choice mends it: "+o.Reason, c.Rule)
		}
		b.become(in, in.Rewritten(o.Mend.Apply(draft), true))
		return b.Say(false, "%s: %s", in.Name, phrase.Lower(o.Mend.Text))
	}
	return refuse.Field("rule", "there is no such objection to this schedule any more", c.Rule)
}

// Wish composes an instrument again. What is logged or changed by hand stays.
type Wish struct {
	InstrumentID uuid.UUID
	Wish         *recipe.Wish
	Version      int
}

func (c *Wish) role() access.Role { return access.RoleShop }

func (c *Wish) apply(b *Set, _ int) error {
	in, err := b.instrumentOf(c.InstrumentID)
	if err != nil {
		return err
	}
	switch {
	case c.Wish == nil:
		return refuse.Field("wish", "say what is wished", nil)
	case c.Version != 0 && c.Version != in.Version:
		return &refuse.Taken{Message: in.Name + " was composed again by somebody else in the meantime; look at it, then choose again"}
	}
	kept := b.DraftOf(in)
	draft, faults, err := recipe.Compose(c.Wish.Of(in.Outline, in.Own).Keeping(kept))
	if err != nil {
		return err
	}
	if len(faults) > 0 {
		for i := range faults {
			faults[i].Path = "wish." + faults[i].Path
		}
		return &refuse.Invalid{Faults: faults}
	}
	if was := snapshot.WishOf(in).Own; c.Wish.Own != nil && (was == nil ||
		*was != *c.Wish.Own) { // another version of a schedule of the shop's own
		kept, draft = released(b.Snapshot, was, kept), handed(b.Snapshot, *c.Wish, draft)
	}
	b.become(in, in.Rewritten(recipe.Merge(kept, draft), false))
	wish := c.Wish.Stacked()
	in.Wish = &wish
	return b.Say(false, "%s composed again", in.Name)
}

// become makes an instrument another version of itself, its events in the order of work and its pins with it.
func (b *Set) become(in *recipe.Instrument, next recipe.Instrument) {
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
	b.Workshop.Pins = slices.DeleteFunc(b.Workshop.Pins, func(p job.Pin) bool { _, is := gone[p.Step]; return is })
	*in = next
	b.reorder(in, moved, gone)
}

// reorder puts the events of an instrument, in the order of its chains, at the
// places in the order of work that it had; what is more comes after the last of them. What was moved by hand
// stands where what it follows now stands.
func (b *Set) reorder(in *recipe.Instrument, moved map[uuid.UUID]bool, gone map[uuid.UUID]job.Step) {
	own := make(map[uuid.UUID]bool)
	for id := range gone {
		own[id] = true
	}
	rank := make(map[job.Event]int)
	for i, e := range b.Workshop.Order {
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
	next, order := 0, make([]job.Event, 0, len(b.Workshop.Order)+8)
	lastOwn := -1
	for i, e := range b.Workshop.Order {
		if own[e.Step] {
			lastOwn = i
		}
	}
	for i, e := range b.Workshop.Order {
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
	b.Workshop.Order = append(order, events[next:]...)
}
