package recipe

import (
	"fmt"
	"slices"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/layering"
)

// restore puts a step that the rules would write before another: moved there where it
// is further on, taken from what the wish composes to where it is gone. Nil where
// neither is known.
func (l *linter) restore(text string, kind PieceKind, name, before string) *Mend {
	composed := l.composed.named(kind, name)
	there := l.named(kind, name)
	if there != nil && !there.Done {
		return l.move(text, there.Slot, before)
	}
	if composed == nil || there != nil {
		return nil
	}
	step := *composed
	extra := l.with(kind, name)
	return &Mend{text, func(d *Draft) {
		d.insert(step, before)
		for _, s := range extra {
			d.insert(s, before)
		}
	}}
}

// with are the steps that come back with a restored one.
func (l *linter) with(kind PieceKind, name string) []Step {
	if name != "fill" {
		return nil
	}
	var list []Step
	for _, other := range []string{"sand-fill", "pores"} {
		if step := l.composed.named(kind, other); step != nil && l.find(step.Slot) == nil {
			list = append(list, *step)
		}
	}
	return list
}

func (l *linter) move(text, slot, before string) *Mend {
	return &Mend{text, func(d *Draft) {
		step := *d.find(slot)
		d.drop(slot)
		d.insert(step, before)
	}}
}

// ladder leaves the papers of a step that a rule allows; other grits stay.
func (l *linter) ladder(text, slot string, keep func(int) bool) *Mend {
	return &Mend{text, func(d *Draft) {
		step := d.find(slot)
		step.Ladder = slices.DeleteFunc(slices.Clone(step.Ladder), func(m string) bool { return gritOf(m) > 0 && !keep(gritOf(m)) })
	}}
}

// insertBarrier puts a barrier before a coat, in some of its regions.
func (l *linter) insertBarrier(text string, b layering.Barrier, before *Step, regions []string) *Mend {
	f := mustFamily(b.Family)
	by := before.Method
	if !slices.Contains(f.Methods, by) {
		by = f.Methods[0]
	}
	made := line{slot: "barrier-" + before.name(), kind: job.Coat, title: "Barrier of " + f.Named(), regions: l.regions(regions),
		role:   "barrier",
		family: b.Family, method: by, coats: b.Coats, how: barrierHow(by), why: b.Note}
	step, err := made.step(pieceOf(before.Slot), before.of())
	if err != nil {
		return nil
	}
	scuffed := layering.Over(b.Family, before.Family).Condition == layering.Scuffed
	scuff, errScuff := scuffLine(before.name(), l.regions(regions)).step(pieceOf(before.Slot), before.of())
	return &Mend{text, func(d *Draft) {
		d.insert(step, before.Slot)
		if scuffed && errScuff == nil {
			d.insert(scuff, before.Slot)
		}
	}}
}

func (l *linter) insertScuff(before *Step) *Mend {
	step, err := scuffLine(before.name(), l.regions(before.Regions)).step(pieceOf(before.Slot), before.of())
	if err != nil {
		return nil
	}
	return &Mend{"Scuff it first", func(d *Draft) { d.insert(step, before.Slot) }}
}

func (l *linter) regions(keys []string) []Region {
	var list []Region
	for _, p := range l.Pieces {
		for _, z := range p.Regions {
			if slices.Contains(keys, z.Key) {
				list = append(list, z)
			}
		}
	}
	return list
}

// waxLast moves the wax behind the last coat of its region.
func (l *linter) waxLast(z Region, wax *Step) *Mend {
	if wax.Done {
		return nil
	}
	last := wax.Slot
	for _, s := range l.on(z.Key) {
		if s.Kind == job.Coat || s.Kind.Handwork() {
			last = s.Slot
		}
	}
	return &Mend{"Wax last", func(d *Draft) {
		step := *d.find(wax.Slot)
		d.drop(wax.Slot)
		d.insertAfter(step, last)
	}}
}

// insert puts a step before another, which names its piece; a slot that is taken gets
// a number.
func (d *Draft) insert(step Step, before string) { d.place(step, before, 0) }

func (d *Draft) insertAfter(step Step, after string) { d.place(step, after, 1) }

func (d *Draft) place(step Step, beside string, offset int) {
	if known := d.find(step.Slot); known != nil && known.Out != "" {
		step = *known // left out, and taken back
		step.Out = ""
		d.drop(step.Slot)
	}
	step.Slot = d.free(step.Slot)
	for p := range d.Pieces {
		steps := d.Pieces[p].Steps
		if i := slices.IndexFunc(steps, func(s Step) bool { return s.Slot == beside }); i >= 0 {
			d.Pieces[p].Steps = slices.Insert(slices.Clone(steps), i+offset, step)
			return
		}
	}
}

func (d *Draft) free(slot string) string {
	taken := slot
	for n := 2; d.find(taken) != nil; n++ {
		taken = fmt.Sprintf("%s-%d", slot, n)
	}
	return taken
}

func (d *Draft) drop(slot string) {
	for p := range d.Pieces {
		d.Pieces[p].Steps = slices.DeleteFunc(slices.Clone(d.Pieces[p].Steps), func(s Step) bool { return s.Slot == slot })
	}
}

// takeEnd gives a region the end that another draft has for it: what is done to it after
// its last coat, where the coats are the same; what is logged stays.
func (d *Draft) takeEnd(other Draft, region string) {
	ends := func(s *Step) bool {
		return s.Kind == job.Level || s.Kind == job.Buff || s.Role == "flat" || s.Role == "oil"
	}
	for _, s := range d.on(region) {
		if ends(s) && !s.Done && !s.Logged && other.find(s.Slot) == nil {
			d.drop(s.Slot)
		}
	}
	for p := range other.Pieces {
		before := ""
		for _, s := range other.Pieces[p].Steps {
			there := d.find(s.Slot)
			switch {
			case there != nil && ends(&s) && slices.Contains(s.Regions, region) && !there.Done:
				*there = s
			case there == nil && ends(&s) && slices.Contains(s.Regions, region) && before != "":
				d.insertAfter(s, before)
			}
			if d.find(s.Slot) != nil {
				before = s.Slot
			}
		}
	}
}
