package shop

import (
	"reflect"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/formats"
)

// Changes of a schedule as a whole: mends of objections, and composing again.

// instrument finds an instrument of the bent shop.
func (b *bent) instrumentOf(id uuid.UUID) (*recipe.Instrument, error) {
	at := slices.IndexFunc(b.file.Instruments, func(in recipe.Instrument) bool { return in.ID == id })
	if at < 0 {
		return nil, invalid("instrumentId", "must be an instrument of this shop", id)
	}
	return &b.file.Instruments[at], nil
}

// mend ends an objection.
func (b *bent) mend(c *Change) error {
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
		b.rewrite(in, o.Mend.Apply(draft), true)
		return b.say(false, "%s: %s", in.Name, phrase.Lower(o.Mend.Text))
	}
	return invalid("rule", "there is no such objection to this schedule any more", c.Rule)
}

// wish composes an instrument again. What is logged or changed by hand stays.
func (b *bent) wish(c *Change) error {
	in, err := b.instrumentOf(c.InstrumentID)
	if err != nil {
		return err
	}
	switch {
	case c.Wish == nil:
		return invalid("wish", "say what is wished", nil)
	case c.Version != 0 && c.Version != in.Version:
		return &Taken{in.Name + " was composed again by somebody else in the meantime; look at it, then choose again"}
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
	b.rewrite(in, recipe.Merge(kept, draft), false)
	wish := c.Wish.Stacked()
	in.Wish = &wish
	b.wished[in.ID] = true
	return b.say(false, "%s composed again", in.Name)
}

// rewrite gives an instrument the steps of a draft: others change, new ones come,
// those that are gone are dropped. What comes from a hand is marked as that.
func (b *bent) rewrite(in *recipe.Instrument, d recipe.Draft, byHand bool) {
	ids := idsOf(in.ID)
	pieces := make([]job.Piece, 0, len(d.Pieces))
	for _, piece := range d.Pieces {
		at := slices.IndexFunc(in.Pieces, func(p job.Piece) bool { return p.Kind == piece.Kind })
		p := job.Piece{ID: ids.piece(piece.Kind), Kind: piece.Kind}
		if at >= 0 {
			p = in.Pieces[at]
		}
		b.rewritePiece(in, &p, piece, byHand)
		pieces = append(pieces, p)
	}
	for _, old := range in.Pieces {
		if slices.ContainsFunc(pieces, func(p job.Piece) bool { return p.ID == old.ID }) {
			continue
		}
		for _, s := range old.Steps {
			b.drop(s.ID)
		}
		b.gone = append(b.gone, old.ID)
	}
	in.Pieces = pieces
	b.reorder(in)
}

func (b *bent) rewritePiece(in *recipe.Instrument, p *job.Piece, piece recipe.Piece, byHand bool) {
	ids := idsOf(in.ID)
	p.Regions = slices.Clone(p.Regions)
	for _, z := range piece.Regions {
		region := z.Region
		region.ID = ids.region(z.Key)
		if i := slices.IndexFunc(p.Regions, func(known job.Region) bool { return known.Name == z.Name }); i >= 0 {
			region.ID = p.Regions[i].ID
			p.Regions[i] = region
		} else {
			p.Regions = append(p.Regions, region)
		}
	}
	old := p.Steps
	p.Steps = make([]job.Step, 0, len(piece.Steps))
	for _, s := range piece.Steps {
		step := b.named(in, s)
		if i := slices.IndexFunc(old, func(known job.Step) bool { return known.Slot == s.Slot }); i >= 0 {
			step.ID, step.Version, step.Place = old[i].ID, old[i].Version, old[i].Place
			if step.Family == old[i].Family {
				step.Product = old[i].Product
			}
			if !same(step, old[i]) {
				step.Edited = step.Edited || byHand
				b.steps[step.ID] = true
			}
		} else {
			step.Edited = byHand
			b.inserted = append(b.inserted, step.ID)
		}
		p.Steps = append(p.Steps, step)
	}
	for _, s := range old {
		if !slices.ContainsFunc(p.Steps, func(kept job.Step) bool { return kept.ID == s.ID }) {
			b.drop(s.ID)
		}
	}
	b.pieces[p.ID] = true
}

// named is a step of a draft with the ids of what the instrument has already.
func (b *bent) named(in *recipe.Instrument, s recipe.Step) job.Step {
	step := idsOf(in.ID).madeStep(s)
	regions, steps := make(map[string]uuid.UUID), make(map[string]uuid.UUID)
	for _, p := range in.Pieces {
		for _, z := range p.Regions {
			regions[string(p.Kind)+":"+z.Name] = z.ID
		}
		for _, known := range p.Steps {
			steps[known.Slot] = known.ID
		}
	}
	for i, key := range s.Regions {
		if id, known := regions[key]; known {
			step.Regions[i] = id
		}
	}
	for i, slot := range s.After {
		if id, known := steps[slot]; known {
			step.After[i] = id
		}
	}
	return step
}

func same(a, b job.Step) bool {
	a.Ladder, b.Ladder = append([]string{}, a.Ladder...), append([]string{}, b.Ladder...)
	a.Regions, b.Regions = sorted(a.Regions), sorted(b.Regions)
	a.After, b.After = sorted(a.After), sorted(b.After)
	return reflect.DeepEqual(a, b)
}

func sorted(ids []uuid.UUID) []uuid.UUID {
	list := append([]uuid.UUID{}, ids...)
	slices.SortFunc(list, func(a, b uuid.UUID) int { return slices.Compare(a[:], b[:]) })
	return list
}

func (b *bent) drop(id uuid.UUID) {
	b.dropped = append(b.dropped, id)
	b.file.Pins = slices.DeleteFunc(b.file.Pins, func(p formats.Pin) bool { return p.Step == id })
}

// reorder puts the events of an instrument, in the order of its chains, at the
// places in the order of work that it had; what is more comes after the last of them.
func (b *bent) reorder(in *recipe.Instrument) {
	b.order = true
	own := make(map[uuid.UUID]bool)
	for _, id := range b.dropped {
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
				if at, known := rank[e]; known {
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
