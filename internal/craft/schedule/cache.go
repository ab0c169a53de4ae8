package schedule

import (
	"umberfrost/internal/craft/material"
)

// cached is a stretch in which there is no room for so many minutes: things
// are only ever taken up while a plan is made, so there will be none later either.
type cached struct {
	from, to, length minute
}

// cacheKey tells apart what else a search depends on.
type cacheKey struct {
	place    int32
	dusty    bool
	material *material.Material // of a coat
	alone    *hands             // only these hands; nil: any
}

func (r *retiming) cacheKey(s *sitting) (cacheKey, bool) {
	n := r.nodes[s.from]
	if len(s.phases) > 1 || len(s.offsets) > 1 || s.lead > 0 {
		return cacheKey{}, false
	}
	key := cacheKey{place: n.place, dusty: n.step.dusty()}
	if n.step.Kind == Coat {
		if r.shop.Places[r.shop.places[n.place].hangs].Hooks > 0 || n.step.Box != nil {
			return key, false // a piece gives its own hook back while it is placed; a box dries it sooner
		}
		key.material = n.step.Material
	}
	if len(r.hands) == 1 {
		key.alone = r.hands[0]
	}
	return key, true
}

// mostCached is how many stretches are remembered for one key.
const mostCached = 6

// skip jumps over what is known to have no room.
func (r *retiming) skip(s *sitting, t minute) minute {
	if key, may := r.cacheKey(s); may {
		for _, f := range r.cache[key] {
			if f.from <= t && t < f.to && s.total >= f.length {
				t = f.to
			}
		}
	}
	return t
}

func (r *retiming) remember(s *sitting, from, to minute) {
	key, may := r.cacheKey(s)
	if !may || to-from < 8*60 {
		return
	}
	kept := r.cache[key]
	for i, f := range kept {
		if from <= f.from && to >= f.to && s.total <= f.length {
			kept[i] = cached{from, to, s.total}
			return
		}
	}
	if len(kept) < mostCached {
		r.cache[key] = append(kept, cached{from, to, s.total})
		return
	}
	short := 0
	for i := range kept {
		if kept[i].to-kept[i].from < kept[short].to-kept[short].from {
			short = i
		}
	}
	if to-from > kept[short].to-kept[short].from {
		kept[short] = cached{from, to, s.total}
	}
}
