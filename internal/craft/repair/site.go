package repair

import (
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/film"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

// site is where damage is: what was done there so far, and what lies there by now.
type site struct {
	in      *recipe.Instrument
	piece   *job.Piece
	asked   Asked
	regions []uuid.UUID
	area    unit.SquareMetre
	timber  wood.Wood
	done    []job.Step // in order, with the coats that are done
	film    material.Family
	last    *job.Step // the last coat of that film; nil on bare wood
	level   *job.Step // how it was levelled last, or is to be
	buff    *job.Step
	ahead   bool // the levelling is still to come
}

func siteOf(in recipe.Instrument, a Asked, log recipe.Logged) (*site, error) {
	p := slices.IndexFunc(in.Pieces, func(p job.Piece) bool { return p.ID == a.Piece })
	if p < 0 {
		return nil, &edit.Fault{Field: "pieceId", Message: "must be a piece of this instrument"}
	}
	s := &site{in: &in, piece: &in.Pieces[p], asked: a, regions: slices.Clone(a.Regions)}
	for _, id := range a.Regions {
		if !slices.ContainsFunc(s.piece.Regions, func(z job.Region) bool { return z.ID == id }) {
			return nil, &edit.Fault{Field: "regions", Message: "must be regions of that piece"}
		}
	}
	for _, z := range s.piece.Regions {
		if len(a.Regions) == 0 {
			s.regions = append(s.regions, z.ID)
		}
		if slices.Contains(s.regions, z.ID) {
			s.area += z.AreaM2
		}
	}
	if len(s.regions) == 0 {
		return nil, &edit.Fault{Field: "pieceId", Message: "must be a piece with a surface of its own"}
	}
	s.read(log)
	return s, nil
}

// read replays what was done to the regions.
func (s *site) read(log recipe.Logged) {
	for _, z := range s.piece.Regions {
		if timber, err := wood.Find(z.Wood); err == nil && slices.Contains(s.regions, z.ID) && s.timber.ID == "" {
			s.timber = timber
		}
	}
	for i := range s.piece.Steps {
		step := s.piece.Steps[i]
		if step.Out != "" || log.Skipped[step.ID] || !s.touches(&step) {
			continue
		}
		count := log.Done[step.ID]
		if step.Kind == job.Level {
			s.level, s.ahead = &step, s.ahead || count == 0
		}
		if step.Kind == job.Buff {
			s.buff = &step
		}
		if count == 0 {
			continue
		}
		step.Coats = min(count, max(step.Coats, 1))
		if step.Kind != job.Coat {
			step.Coats = 1
		}
		s.done = append(s.done, step)
		if f, err := material.FindFamily(step.Family); err == nil && step.Kind == job.Coat && (f.Group == "clear" || f.Group == "oil-wax") {
			s.film, s.last = f, &step
		}
	}
}

func (s *site) touches(step *job.Step) bool {
	return slices.ContainsFunc(s.piece.RegionsOf(step), func(id uuid.UUID) bool { return slices.Contains(s.regions, id) })
}

// coats are what was put on of some groups, in order.
func (s *site) coats(groups ...string) (list []job.Step) {
	for _, step := range s.done {
		if f, err := material.FindFamily(step.Family); err == nil && step.Kind == job.Coat && slices.Contains(groups, f.Group) {
			list = append(list, step)
		}
	}
	return list
}

// metallics are coats that a spot always shows in.
var metallics = []string{"flake-clear", "pearl-clear", "candy-clear", "metal-leaf", "particles"}

func (s *site) isMetallic() bool {
	return slices.ContainsFunc(s.done, func(o job.Step) bool { return slices.Contains(metallics, o.Family) })
}

// oiled reports whether what lies there builds no film.
func (s *site) oiled() bool { return s.last != nil && s.film.Group == "oil-wax" }

// waxed reports whether wax lies on top.
func (s *site) waxed() bool { return s.last != nil && s.film.ID == "paste-wax" }

// thickness is the clear that lies there by the coats that are done, as it settles (rules §3).
func (s *site) thickness() unit.Micron {
	var sum unit.Micron
	for _, step := range s.coats("clear") {
		made, err := material.FindFamily(step.Family)
		if err == nil {
			sum += unit.Micron(step.Coats) * dryOf(made, step.Method)
		}
	}
	return sum
}

// dryOf is what one coat of a family leaves once it has settled.
func dryOf(f material.Family, by material.Method) unit.Micron {
	m := material.OfFamily(f)
	wet, _ := m.Wet(by)
	solids, _ := m.Solids()
	return film.Dry(wet, solids, f.Thin) * unit.Micron(1-film.Settling(f.Kinetics))
}

// has names what lies there inside a sentence.
func (s *site) has() string {
	if s.last == nil {
		return "no film yet"
	}
	return s.film.Named()
}
