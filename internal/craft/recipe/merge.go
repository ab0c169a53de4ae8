package recipe

import (
	"slices"
	"strings"
)

// Merge composes again: what the new draft has, but every step that is logged or was
// changed by hand stays as it is, where it is. A step whose entries were all struck
// is composed anew, and stays where the new draft has none like it. A piece or a region
// that only such steps still need stays with them.
func Merge(old, next Draft) Draft {
	out := next.clone()
	for _, piece := range old.Pieces {
		kept := slices.DeleteFunc(slices.Clone(piece.Steps), func(s Step) bool { return !s.Done && !s.Edited && !s.Logged })
		if len(kept) == 0 {
			continue
		}
		at := slices.IndexFunc(out.Pieces, func(p Piece) bool { return p.Kind == piece.Kind })
		if at < 0 {
			gone := piece
			gone.Steps = kept
			out.Pieces = append(out.Pieces, gone)
			continue
		}
		out.Pieces[at].keep(piece, kept)
	}
	slices.SortStableFunc(out.Pieces, func(a, b Piece) int { return slices.Index(Kinds, a.Kind) - slices.Index(Kinds, b.Kind) })
	out.untie()
	out.tie(old)
	return out
}

// tie lets what waited for a step that a hand has added go on waiting for it, and what waited for one that is left
// out for what is done in its place.
func (d *Draft) tie(old Draft) {
	for _, piece := range old.Pieces {
		for _, was := range piece.Steps {
			now := d.find(was.Slot)
			if now == nil {
				continue
			}
			replaced := slices.ContainsFunc(now.After, func(slot string) bool { return d.find(slot).Out != "" })
			for _, slot := range was.After {
				if (replaced || ByHand(slot)) && d.find(slot) != nil && !slices.Contains(now.After, slot) {
					now.After = append(slices.Clone(now.After), slot)
				}
			}
		}
	}
}

// HandMark is in the slot of every step that a hand has added, so that no recipe brings it back.
const HandMark = "~"

// ByHand reports whether a slot is that of a step which a hand has added.
func ByHand(slot string) bool { return strings.Contains(slot, HandMark) }

// keep puts steps that stay into a piece: at their own slots, or after what they came
// after before.
func (p *Piece) keep(old Piece, kept []Step) {
	for _, s := range kept {
		s.Regions = p.handedOn(old, s.Regions)
		i := slices.IndexFunc(p.Steps, func(o Step) bool { return o.Slot == s.Slot })
		switch {
		case i >= 0 && s.Moved:
			p.Steps = slices.Delete(p.Steps, i, i+1) // it stays where a hand has put it
		case i >= 0:
			if s.Done || s.Edited {
				p.Steps[i] = s
			}
			continue
		case s.Out != "" && !s.Logged && !ByHand(s.Slot):
			continue // left out of what is not wished any more
		}
		at := 0
		for _, before := range old.Steps {
			if before.Slot == s.Slot {
				break
			}
			if i := slices.IndexFunc(p.Steps, func(o Step) bool { return o.Slot == before.Slot }); i >= 0 {
				at = i + 1
			}
		}
		p.Steps = slices.Insert(p.Steps, at, s)
	}
	for _, z := range old.Regions {
		needed := slices.ContainsFunc(kept, func(s Step) bool { return slices.Contains(s.Regions, z.Key) })
		if needed && !slices.ContainsFunc(p.Regions, func(o Region) bool { return o.Key == z.Key }) {
			p.Regions = append(p.Regions, z)
		}
	}
}

// handedOn are the regions of a step that stays, with those that were split off from them since: what was
// done to the whole was done to both parts. One that is cut only later was not there.
func (p *Piece) handedOn(old Piece, regions []string) []string {
	list := slices.Clone(regions)
	for _, z := range p.Regions {
		parent := key(pieceOf(z.Key), z.wish.in(pieceOf(z.Key)))
		was := slices.ContainsFunc(old.Regions, func(o Region) bool { return o.Key == z.Key })
		if z.wish.Kind != "" && z.wish.CutAfter == "" && !was && slices.Contains(regions, parent) && !slices.Contains(list, z.Key) {
			list = append(list, z.Key)
		}
	}
	return list
}

// untie forgets waits for steps that are no longer there.
func (d *Draft) untie() {
	for p := range d.Pieces {
		for s := range d.Pieces[p].Steps {
			step := &d.Pieces[p].Steps[s]
			step.After = slices.DeleteFunc(slices.Clone(step.After), func(slot string) bool { return d.find(slot) == nil })
		}
	}
}
