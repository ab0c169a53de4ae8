package recipe

import (
	"reflect"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
)

// A schedule that is kept has ids where a draft has keys and slots. They follow from the instrument's id
// and the slots, so that composing the same choices again makes the same steps.

// Logged is what has happened to an instrument so far, as far as composing again and edits must know.
type Logged struct {
	Done    map[uuid.UUID]int  // by step, its last coat that is done or left out
	Skipped map[uuid.UUID]bool // steps that were logged as left out
	Spoken  map[uuid.UUID]bool // steps that the log speaks of, also in struck entries
}

// IDs names the parts of an instrument, by its own id.
type IDs uuid.UUID

func (in IDs) named(name string) uuid.UUID { return uuid.NewSHA1(uuid.UUID(in), []byte(name)) }

// Piece is the id of its piece of a kind.
func (in IDs) Piece(kind PieceKind) uuid.UUID { return in.named("piece " + string(kind)) }

func (in IDs) region(key string) uuid.UUID { return in.named("zone " + key) } // what it was called when ids were first made
func (in IDs) step(slot string) uuid.UUID  { return in.named("step " + slot) }

// Made is a piece of a draft with its ids.
func (in IDs) Made(p Piece) job.Piece {
	out := job.Piece{ID: in.Piece(p.Kind), Kind: p.Kind, Length: p.Length, Width: p.Width, Thickness: p.Thickness, Regions: []job.Region{},
		Steps: []job.Step{}}
	for _, region := range p.Regions {
		made := region.Region
		made.ID = in.region(region.Key)
		out.Regions = append(out.Regions, made)
	}
	for _, step := range p.Steps {
		out.Steps = append(out.Steps, in.made(step))
	}
	return out
}

// made is a step of a draft with its ids. Its product and its place are up to who keeps it.
func (in IDs) made(s Step) job.Step {
	out := s.Step
	out.ID, out.Version, out.Product, out.Place = in.step(s.Slot), 1, nil, nil
	out.Regions, out.After = nil, nil
	for _, region := range s.Regions {
		out.Regions = append(out.Regions, in.region(region))
	}
	for _, slot := range s.After {
		out.After = append(out.After, in.step(slot))
	}
	return out
}

// Draft is an instrument's schedule as the rules read it.
func (in *Instrument) Draft(log Logged) Draft {
	var d Draft
	regions, slots := make(map[uuid.UUID]string), make(map[uuid.UUID]string)
	for _, p := range in.Pieces {
		for _, z := range p.Regions {
			regions[z.ID] = key(p.Kind, z.Name)
		}
		for _, s := range p.Steps {
			slots[s.ID] = s.Slot
		}
	}
	for _, p := range in.Pieces {
		piece := Piece{Kind: p.Kind, Length: p.Length, Width: p.Width, Thickness: p.Thickness}
		for _, z := range p.Regions {
			piece.Regions = append(piece.Regions, Region{Key: regions[z.ID], Region: z})
		}
		if len(piece.Regions) > 0 {
			piece.Wood = piece.Regions[0].Wood
		}
		for _, s := range p.Steps {
			step := Step{Step: s, Logged: log.Spoken[s.ID], Done: log.Done[s.ID] > 0, Skipped: log.Skipped[s.ID] || s.Out != ""}
			for _, z := range s.Regions {
				step.Regions = append(step.Regions, regions[z])
			}
			for _, after := range s.After {
				step.After = append(step.After, slots[after])
			}
			piece.Steps = append(piece.Steps, step)
		}
		d.Pieces = append(d.Pieces, piece)
	}
	return d
}

// Rewritten is the instrument with the steps of a draft: others change, new ones come, those that are gone
// are dropped. What comes from a hand is marked as that, and what it drops stays as left out.
func (in Instrument) Rewritten(d Draft, byHand bool) Instrument {
	old := in
	in.Pieces = make([]job.Piece, 0, len(d.Pieces))
	for _, piece := range d.Pieces {
		p := job.Piece{ID: IDs(in.ID).Piece(piece.Kind), Kind: piece.Kind}
		if at := slices.IndexFunc(old.Pieces, func(p job.Piece) bool { return p.Kind == piece.Kind }); at >= 0 {
			p = old.Pieces[at]
		}
		in.Pieces = append(in.Pieces, old.rewritten(p, piece, byHand))
	}
	return in
}

func (in *Instrument) rewritten(p job.Piece, piece Piece, byHand bool) job.Piece {
	p.Regions = slices.Clone(p.Regions)
	for _, z := range piece.Regions {
		region := z.Region
		region.ID = IDs(in.ID).region(z.Key)
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
		step := in.named(s)
		if i := slices.IndexFunc(old, func(known job.Step) bool { return known.Slot == s.Slot }); i >= 0 {
			step.ID, step.Version, step.Place = old[i].ID, old[i].Version, old[i].Place
			if step.Family == old[i].Family {
				step.Product = old[i].Product
			}
			step.Edited = step.Edited || (byHand && !SameStep(step, old[i]))
		} else {
			step.Edited = byHand
		}
		p.Steps = append(p.Steps, step)
	}
	if byHand {
		p.Steps = leftOut(old, p.Steps)
	}
	return p
}

// leftOut puts the steps that a hand has dropped back where they stood, as left out: composing again would
// bring them back.
func leftOut(old, steps []job.Step) []job.Step {
	for i, gone := range old {
		if slices.ContainsFunc(steps, func(s job.Step) bool { return s.Slot == gone.Slot }) {
			continue
		}
		at := 0
		for _, before := range old[:i] {
			if k := slices.IndexFunc(steps, func(s job.Step) bool { return s.Slot == before.Slot }); k >= 0 {
				at = k + 1
			}
		}
		gone.Edited = true
		if gone.Out == "" {
			gone.Out = "it served nothing any more"
		}
		steps = slices.Insert(steps, at, gone)
	}
	return steps
}

// named is a step of a draft with the ids of what the instrument has already.
func (in *Instrument) named(s Step) job.Step {
	step := IDs(in.ID).made(s)
	regions, steps := make(map[string]uuid.UUID), make(map[string]uuid.UUID)
	for _, p := range in.Pieces {
		for _, z := range p.Regions {
			regions[key(p.Kind, z.Name)] = z.ID
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

// SameStep reports whether two versions of a step are the same but for how often they were kept.
func SameStep(a, b job.Step) bool {
	for _, s := range []*job.Step{&a, &b} {
		s.Ladder, s.Regions, s.After = append([]string{}, s.Ladder...), Sorted(s.Regions), Sorted(s.After)
		s.Version, s.Coats = 0, max(s.Coats, 1)
	}
	return reflect.DeepEqual(a, b)
}

// Sorted are ids in an order of their own, so that two sets of them can be compared.
func Sorted(ids []uuid.UUID) []uuid.UUID {
	list := append([]uuid.UUID{}, ids...)
	slices.SortFunc(list, func(a, b uuid.UUID) int { return slices.Compare(a[:], b[:]) })
	return list
}

// Events are the events of an instrument in the order of its chains, piece by piece.
func (in *Instrument) Events() (list []job.Event) {
	for _, p := range in.Pieces {
		for _, s := range p.Steps {
			for coat := 1; coat <= max(s.Coats, 1); coat++ {
				list = append(list, job.Event{Step: s.ID, Coat: coat})
			}
		}
	}
	return list
}
