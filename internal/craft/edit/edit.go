// Package edit is the schedule changed by hand. An edit is one operation on an instrument; what it
// did is a Delta, which has an inverse. What is logged stays: a step that is done in part keeps
// what is done, as it was done, and only the rest of it becomes another; nothing that the log speaks
// of is taken away. Composing again afterwards keeps what a hand has done (recipe.Merge).
package edit

import (
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
)

// Op is what an edit does.
type Op string

// The operations.
const (
	Set       Op = "set"       // other figures for a step
	Add       Op = "add"       // a new step
	Move      Op = "move"      // another place in its piece
	Duplicate Op = "duplicate" // the same once more
	Split     Op = "split"     // some of its regions apart
	Join      Op = "join"      // two steps in one
	LeaveOut  Op = "leave-out" // it stays in the schedule, and is not done
	TakeBack  Op = "take-back" // … and is done after all
	Remove    Op = "remove"    // one that a hand has added, away again
)

// Edit is one operation on a schedule.
type Edit struct {
	Op      Op          `json:"op" enum:"set,add,move,duplicate,split,join,leave-out,take-back,remove"`
	Step    uuid.UUID   `json:"stepId" doc:"the step; of add: the id of the new one, made by the device"`
	Version int         `json:"version,omitempty" minimum:"0" doc:"of the step that was seen; a newer one is not overwritten"`
	Piece   uuid.UUID   `json:"pieceId,omitzero" doc:"of add"`
	After   uuid.UUID   `json:"afterId,omitzero" doc:"of add, move and duplicate: the step behind which it comes; absent: the first of its piece"`
	What    string      `json:"what,omitempty" maxLength:"40" doc:"of add: one of the additions"`
	New     uuid.UUID   `json:"newId,omitzero" doc:"of duplicate and split: the id of the step that comes, made by the device"`
	With    uuid.UUID   `json:"withId,omitzero" doc:"of join: the step that is done along with it"`
	Regions []uuid.UUID `json:"regions,omitempty" maxItems:"64" doc:"of split: those that are done apart; of add: where, else all of the piece"`
	Reason  string      `json:"reason,omitempty" maxLength:"200" doc:"of leave-out"`
	Steps   []job.Step  `json:"-"` // of add: what comes, where that is no addition of the rules but a fragment of the shop's own
	Fields  *Fields     `json:"fields,omitempty" doc:"of set, and of add where its usual figures are not wanted"`
}

// Fault is why an edit cannot be: the field of it, and what would be accepted.
type Fault struct {
	Field, Message string
}

func (f *Fault) Error() string { return f.Message }

func fault(field, format string, args ...any) *Fault {
	return &Fault{field, fmt.Sprintf(format, args...)}
}

// Apply is an instrument after an edit; the one given is left as it is. It fails with *Fault.
// Families tells the family of a product; it may be nil where no product is named.
func Apply(in recipe.Instrument, e Edit, log recipe.Logged, families func(uuid.UUID) (string, bool)) (recipe.Instrument, error) {
	w := working{in: cloned(in), log: log, families: families}
	if err := w.apply(e); err != nil {
		return in, err
	}
	return w.in, nil
}

func cloned(in recipe.Instrument) recipe.Instrument {
	in.Pieces = slices.Clone(in.Pieces)
	for p := range in.Pieces {
		in.Pieces[p].Steps = slices.Clone(in.Pieces[p].Steps)
	}
	return in
}

// working is an instrument while it is changed.
type working struct {
	in       recipe.Instrument
	log      recipe.Logged
	families func(uuid.UUID) (string, bool)
}

func (w *working) apply(e Edit) error {
	if e.Op == Add {
		return w.add(e)
	}
	at, err := w.find("stepId", e.Step)
	if err != nil {
		return err
	}
	switch e.Op {
	case Set:
		return w.set(at, e)
	case Move:
		return w.move(at, e)
	case Duplicate:
		return w.duplicate(at, e)
	case Split:
		return w.split(at, e)
	case Join:
		return w.join(at, e)
	case LeaveOut:
		return w.leaveOut(at, e)
	case TakeBack:
		return w.takeBack(at)
	case Remove:
		return w.remove(at)
	}
	return fault("op", "there is no such edit")
}

// place is where a step stands.
type place struct{ p, s int }

func (w *working) find(field string, id uuid.UUID) (place, error) {
	for p := range w.in.Pieces {
		if s := slices.IndexFunc(w.in.Pieces[p].Steps, func(s job.Step) bool { return s.ID == id }); s >= 0 {
			return place{p, s}, nil
		}
	}
	return place{}, fault(field, "must be a step of this instrument's schedule")
}

func (w *working) piece(at place) *job.Piece { return &w.in.Pieces[at.p] }
func (w *working) step(at place) *job.Step   { return &w.in.Pieces[at.p].Steps[at.s] }

// done is how many coats of a step are done.
func (w *working) done(at place) int { return w.log.Done[w.step(at).ID] }

// over reports whether all of a step is done.
func (w *working) over(at place) bool { return w.done(at) >= max(w.step(at).Coats, 1) }

// fresh is the id of a step that comes; it must be new.
func (w *working) fresh(field string, id uuid.UUID) error {
	if id == uuid.Nil {
		return fault(field, "must be a UUID that the device made")
	}
	if _, err := w.find(field, id); err == nil {
		return fault(field, "must be the id of no other step")
	}
	return nil
}

// insert puts a step behind another, or first in its piece.
func (w *working) insert(p int, after uuid.UUID, s job.Step) error {
	at := 0
	if after != uuid.Nil {
		if at = slices.IndexFunc(w.in.Pieces[p].Steps, func(o job.Step) bool { return o.ID == after }) + 1; at == 0 {
			return fault("afterId", "must be another step of the same piece, or be left out for the first place")
		}
	}
	if steps := w.in.Pieces[p].Steps; at < len(steps) && steps[at].Within != nil {
		return fault("afterId", "%s follows in the same sitting: nothing comes between", phrase.Quoted(steps[at].Title))
	}
	w.in.Pieces[p].Steps = slices.Insert(w.in.Pieces[p].Steps, at, s)
	return nil
}

// part divides a step that is done in part: what is done stays as it is, and the rest becomes a step
// of its own, where the part after this one stands. A step that is not begun is its own rest.
func (w *working) part(at place) (place, error) {
	done := w.done(at)
	if done == 0 {
		return at, nil
	}
	s := w.step(at)
	if w.over(at) {
		return at, fault("stepId", "%s is done; what happened is not changed", phrase.Quoted(s.Title))
	}
	rest := *s
	rest.ID, rest.Version = w.restID(s.ID, done), 1
	rest.Slot, rest.Coats, rest.Edited, rest.Within = slot(s.Slot, "rest", rest.ID), s.Coats-done, true, nil
	s.Coats, s.Edited = done, true
	if s.Repeat != nil {
		s.Repeat = &job.Repeat{Least: done, Most: done}
		rest.Repeat = &job.Repeat{Least: min(rest.Coats, max(1, rest.Repeat.Least-done)), Most: max(rest.Coats, rest.Repeat.Most-done)}
	}
	steps := &w.in.Pieces[at.p].Steps
	*steps = slices.Insert(*steps, at.s+1, rest)
	w.follow(s.ID, rest.ID)
	return place{at.p, at.s + 1}, nil
}

// restID names the rest of a step, the same for the same request; one that was parted there before has another.
func (w *working) restID(step uuid.UUID, done int) uuid.UUID {
	id := uuid.NewSHA1(step, fmt.Appendf(nil, "rest %d", done))
	for n := 2; w.fresh("stepId", id) != nil; n++ {
		id = uuid.NewSHA1(step, fmt.Appendf(nil, "rest %d, %d", done, n))
	}
	return id
}

// follow lets what waited for a step wait for what comes of it too.
func (w *working) follow(step, next uuid.UUID) {
	for p := range w.in.Pieces {
		for s := range w.in.Pieces[p].Steps {
			if o := &w.in.Pieces[p].Steps[s]; o.ID != next && slices.Contains(o.After, step) && !slices.Contains(o.After, next) {
				o.After = append(slices.Clone(o.After), next)
			}
		}
	}
}

// slot names a step that comes of another: it stays of its layer.
func slot(of, as string, id uuid.UUID) string {
	of, _, _ = strings.Cut(of, recipe.HandMark)
	return of + recipe.HandMark + as + "-" + id.String()[:8]
}

// Insert puts steps into a piece behind what is done of it. A step that is done in part is parted: its rest
// comes after them. What waits for the piece waits for the last of them too.
func Insert(in recipe.Instrument, piece uuid.UUID, steps []job.Step, log recipe.Logged) (recipe.Instrument, error) {
	w := working{in: cloned(in), log: log}
	p := slices.IndexFunc(w.in.Pieces, func(p job.Piece) bool { return p.ID == piece })
	if p < 0 {
		return in, fault("pieceId", "must be a piece of this instrument")
	}
	at := 0
	for s := range w.in.Pieces[p].Steps {
		if w.done(place{p, s}) > 0 {
			at = s + 1
		}
	}
	if at > 0 && !w.over(place{p, at - 1}) {
		if _, err := w.part(place{p, at - 1}); err != nil {
			return in, err
		}
	}
	for n := range steps {
		if err := w.fresh("id", steps[n].ID); err != nil {
			return in, err
		}
	}
	w.in.Pieces[p].Steps = slices.Insert(w.in.Pieces[p].Steps, at, steps...)
	if at > 0 && len(steps) > 0 {
		w.follow(w.in.Pieces[p].Steps[at-1].ID, steps[len(steps)-1].ID)
	}
	return w.in, nil
}
