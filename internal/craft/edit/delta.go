package edit

import (
	"reflect"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
)

// State is what a change of an instrument's schedule touched, as it was on one side of it.
type State struct {
	Pieces []job.Piece  `json:"pieces"` // those that differ, whole; one that is not there is absent
	Kinds  []string     `json:"kinds"`  // all there are, in order
	Wish   *recipe.Wish `json:"wish,omitempty"`
}

// Delta is what a change did: one side and the other.
type Delta struct {
	Before State `json:"before"`
	After  State `json:"after"`
}

// Between is what makes the second of two versions of an instrument of the first.
func Between(before, after recipe.Instrument) Delta {
	d := Delta{Before: State{Wish: before.Wish, Kinds: kindsOf(before)}, After: State{Wish: after.Wish, Kinds: kindsOf(after)}}
	for _, piece := range before.Pieces {
		if other := pieceOf(after, piece.ID); other == nil || !samePiece(piece, *other) {
			d.Before.Pieces = append(d.Before.Pieces, piece)
		}
	}
	for _, piece := range after.Pieces {
		if other := pieceOf(before, piece.ID); other == nil || !samePiece(piece, *other) {
			d.After.Pieces = append(d.After.Pieces, piece)
		}
	}
	return d
}

// Empty reports whether nothing differs.
func (d Delta) Empty() bool {
	return len(d.Before.Pieces)+len(d.After.Pieces) == 0 && reflect.DeepEqual(d.Before.Wish, d.After.Wish)
}

// SameSteps reports whether no step differs, whatever else does.
func (d Delta) SameSteps() bool {
	if len(d.Before.Pieces) != len(d.After.Pieces) {
		return false
	}
	for i, p := range d.Before.Pieces {
		if p.ID != d.After.Pieces[i].ID || !slices.EqualFunc(p.Steps, d.After.Pieces[i].Steps, recipe.SameStep) {
			return false
		}
	}
	return true
}

// Inverse takes back what a change did.
func (d Delta) Inverse() Delta { return Delta{d.After, d.Before} }

// Apply does to an instrument what a change did. It fails with *Fault where the schedule is not any
// more as the change found it, or where what has been logged since would be lost or mean something else.
func (d Delta) Apply(in recipe.Instrument, log recipe.Logged) (recipe.Instrument, error) {
	for _, piece := range d.Before.Pieces {
		if now := pieceOf(in, piece.ID); now == nil || !samePiece(piece, *now) {
			return in, fault("instrumentId", "the %s has been changed otherwise since", piece.Kind)
		}
	}
	out := in
	out.Pieces, out.Wish = nil, d.After.Wish
	for _, kind := range d.After.Kinds {
		for _, piece := range slices.Concat(d.After.Pieces, in.Pieces) {
			if string(piece.Kind) == kind {
				out.Pieces = append(out.Pieces, versioned(piece, in))
				break
			}
		}
	}
	return out, keepsLog(in, out, log)
}

// versioned is a piece whose steps go on counting their versions from where they stand.
func versioned(piece job.Piece, in recipe.Instrument) job.Piece {
	piece.Steps = slices.Clone(piece.Steps)
	for i := range piece.Steps {
		if now := stepOf(in, piece.Steps[i].ID); now != nil {
			piece.Steps[i].Version = now.Version
		}
	}
	return piece
}

// keepsLog reports what a change would do to what is logged.
func keepsLog(before, after recipe.Instrument, log recipe.Logged) error {
	for _, piece := range before.Pieces {
		for i := range piece.Steps {
			s, done := &piece.Steps[i], log.Done[piece.Steps[i].ID]
			next := stepOf(after, s.ID)
			switch {
			case next == nil && (log.Spoken[s.ID] || done > 0):
				return fault("instrumentId", "the log speaks of %s by now; what is logged stays", phrase.Quoted(s.Title))
			case next == nil || done == 0:
			case max(next.Coats, 1) < done || next.Out != "" || !sameWork(s, next):
				return fault("instrumentId", "%s is logged by now; what is done stays as it was done", phrase.Quoted(s.Title))
			}
		}
	}
	return nil
}

// sameWork reports whether two versions of a step say the same of what is done: where, with what and how.
func sameWork(a, b *job.Step) bool {
	return a.Kind == b.Kind && a.Title == b.Title && a.MaterialKey() == b.MaterialKey() && a.Family == b.Family && a.Method == b.Method &&
		a.HandsOnMin == b.HandsOnMin && slices.Equal(a.Ladder, b.Ladder) && slices.Equal(recipe.Sorted(a.Regions), recipe.Sorted(b.Regions))
}

func samePiece(a, b job.Piece) bool {
	return slices.EqualFunc(a.Steps, b.Steps, recipe.SameStep) && slices.EqualFunc(a.Regions, b.Regions,
		func(x, y job.Region) bool { return x == y })
}

func pieceOf(in recipe.Instrument, id uuid.UUID) *job.Piece {
	for p := range in.Pieces {
		if in.Pieces[p].ID == id {
			return &in.Pieces[p]
		}
	}
	return nil
}

func stepOf(in recipe.Instrument, id uuid.UUID) *job.Step {
	for p := range in.Pieces {
		for s := range in.Pieces[p].Steps {
			if in.Pieces[p].Steps[s].ID == id {
				return &in.Pieces[p].Steps[s]
			}
		}
	}
	return nil
}

func kindsOf(in recipe.Instrument) []string {
	kinds := make([]string, len(in.Pieces))
	for i, p := range in.Pieces {
		kinds[i] = string(p.Kind)
	}
	return kinds
}
