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
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/unit"
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
	rest.ID, rest.Version = uuid.NewSHA1(s.ID, fmt.Appendf(nil, "rest %d", done)), 1
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

func (w *working) add(e Edit) error {
	if err := w.fresh("stepId", e.Step); err != nil {
		return err
	}
	p := slices.IndexFunc(w.in.Pieces, func(p job.Piece) bool { return p.ID == e.Piece })
	if p < 0 {
		return fault("pieceId", "must be a piece of this instrument")
	}
	regions, err := w.regions(p, "regions", e.Regions)
	if err != nil {
		return err
	}
	steps := e.Steps
	if len(steps) == 0 {
		var wrong *recipe.Fault
		steps, wrong, err = recipe.Addition(e.What, w.in, p, regions)
		switch {
		case err != nil:
			return err
		case wrong != nil:
			return fault(wrong.Path, "%s", wrong.Message)
		}
	}
	after := e.After
	for i, s := range steps {
		s.ID = e.Step
		if i > 0 {
			s.ID = uuid.NewSHA1(e.Step, fmt.Append(nil, i))
		}
		s.Version, s.Edited, s.Moved, s.After, s.Within = 1, true, true, nil, nil
		role, _, _ := strings.Cut(s.Slot[strings.LastIndex(s.Slot, ":")+1:], recipe.HandMark)
		s.Slot = fmt.Sprintf("%s:%s%sadded-%s-%d", w.in.Pieces[p].Kind, role, recipe.HandMark, e.Step.String()[:8], i+1)
		if err := w.insert(p, after, s); err != nil {
			return err
		}
		after = s.ID
	}
	if e.Fields == nil {
		return nil
	}
	at, err := w.find("stepId", e.Step)
	if err != nil {
		return err
	}
	return w.set(at, Edit{Step: e.Step, Fields: e.Fields})
}

// regions are those of a piece that a step is done to: all where none is named. A whole instrument
// has those of its pieces.
func (w *working) regions(p int, field string, wanted []uuid.UUID) ([]uuid.UUID, error) {
	var all []uuid.UUID
	for _, piece := range w.in.Pieces {
		if piece.ID == w.in.Pieces[p].ID || w.in.Pieces[p].Kind == job.Whole {
			for _, z := range piece.Regions {
				all = append(all, z.ID)
			}
		}
	}
	if len(wanted) == 0 {
		return all, nil
	}
	for _, id := range wanted {
		if !slices.Contains(all, id) {
			return nil, fault(field, "must be regions of this piece")
		}
	}
	return slices.Clone(wanted), nil
}

func (w *working) move(at place, e Edit) error {
	s := *w.step(at)
	if w.done(at) > 0 {
		return fault("stepId", "%s is begun or done; what is done stays where it is", phrase.Quoted(s.Title))
	}
	if e.After == s.ID {
		return fault("afterId", "a step cannot come behind itself")
	}
	w.in.Pieces[at.p].Steps = slices.Delete(w.in.Pieces[at.p].Steps, at.s, at.s+1)
	s.Edited, s.Moved, s.Within = true, true, nil
	return w.insert(at.p, e.After, s)
}

func (w *working) duplicate(at place, e Edit) error {
	if err := w.fresh("newId", e.New); err != nil {
		return err
	}
	s := *w.step(at)
	s.Slot = slot(s.Slot, "again", e.New)
	s.ID, s.Version, s.Edited, s.Moved, s.NoReturn, s.Out = e.New, 1, true, true, false, ""
	after := e.After
	if after == uuid.Nil {
		after = e.Step
	}
	return w.insert(at.p, after, s)
}

func (w *working) split(at place, e Edit) error {
	if err := w.fresh("newId", e.New); err != nil {
		return err
	}
	apart, err := w.regions(at.p, "regions", e.Regions)
	if err != nil {
		return err
	}
	if at, err = w.part(at); err != nil {
		return err
	}
	s, all := w.step(at), w.piece(at).RegionsOf(w.step(at))
	stay := slices.DeleteFunc(slices.Clone(all), func(id uuid.UUID) bool { return slices.Contains(apart, id) })
	if len(e.Regions) == 0 || len(stay) == 0 || len(stay)+len(apart) != len(all) {
		return fault("regions", "must be some of the regions that %s is done to, not all of them", phrase.Quoted(s.Title))
	}
	part := *s
	part.Slot = slot(s.Slot, "part", e.New)
	part.ID, part.Version, part.Regions, part.Edited, part.Moved, part.Within = e.New, 1, apart, true, true, nil
	whole := w.area(at)
	s.Regions, s.Edited = stay, true
	w.rescale(&part, whole, len(part.Ladder))
	w.rescale(s, whole, len(s.Ladder))
	w.in.Pieces[at.p].Steps = slices.Insert(w.in.Pieces[at.p].Steps, at.s+1, part)
	w.follow(e.Step, part.ID)
	return nil
}

func (w *working) join(at place, e Edit) error {
	other, err := w.find("withId", e.With)
	if err != nil {
		return err
	}
	a, b := w.step(at), w.step(other)
	switch {
	case at.p != other.p || a.ID == b.ID:
		return fault("withId", "must be another step of the same piece")
	case w.done(at) > 0 || w.done(other) > 0:
		return fault("withId", "what is begun or done is not joined any more")
	case a.Kind != b.Kind || a.Family != b.Family || a.Method != b.Method || a.MaterialKey() != b.MaterialKey() || max(a.Coats, 1) != max(b.Coats, 1):
		return fault("withId", "must be work of the same kind, with the same material and as many coats")
	case a.Out != "" || b.Out != "":
		return fault("withId", "what is left out is not joined")
	}
	whole := w.area(at)
	regions := slices.Clone(w.piece(at).RegionsOf(a))
	for _, id := range w.piece(other).RegionsOf(b) {
		if !slices.Contains(regions, id) {
			regions = append(regions, id)
		}
	}
	a.Regions, a.Edited = regions, true
	w.rescale(a, whole, len(a.Ladder))
	w.follow(b.ID, a.ID)
	if recipe.ByHand(b.Slot) && !w.log.Spoken[b.ID] {
		w.take(other)
		return nil
	}
	b.Out, b.Edited = "done along with "+phrase.Quoted(a.Title), true
	return nil
}

func (w *working) leaveOut(at place, e Edit) error {
	reason := strings.TrimSpace(e.Reason)
	if reason == "" || len([]rune(reason)) > mostReason {
		return fault("reason", "say why, in up to %d characters", mostReason)
	}
	at, err := w.part(at)
	if err != nil {
		return err
	}
	s := w.step(at)
	s.Out, s.Edited = reason, true
	return nil
}

const mostReason = 200

func (w *working) takeBack(at place) error {
	s := w.step(at)
	if s.Out == "" {
		return fault("stepId", "%s is not left out", phrase.Quoted(s.Title))
	}
	s.Out, s.Edited = "", true
	return nil
}

func (w *working) remove(at place) error {
	s := w.step(at)
	switch {
	case w.log.Spoken[s.ID] || w.done(at) > 0:
		return fault("stepId", "the log speaks of %s: leave it out instead", phrase.Quoted(s.Title))
	case !recipe.ByHand(s.Slot):
		return fault("stepId", "%s is of the recipe, which would bring it back: leave it out instead", phrase.Quoted(s.Title))
	}
	w.take(at)
	return nil
}

// take takes a step out of its piece; what waited for it waits for what it waited for.
func (w *working) take(at place) {
	gone := *w.step(at)
	w.in.Pieces[at.p].Steps = slices.Delete(w.in.Pieces[at.p].Steps, at.s, at.s+1)
	for p := range w.in.Pieces {
		for s := range w.in.Pieces[p].Steps {
			if o := &w.in.Pieces[p].Steps[s]; slices.Contains(o.After, gone.ID) {
				o.After = slices.DeleteFunc(slices.Clone(o.After), func(id uuid.UUID) bool { return id == gone.ID })
			}
		}
	}
}

// area is what a step is done to.
func (w *working) area(at place) unit.SquareMetre { return w.areaOf(w.piece(at).RegionsOf(w.step(at))) }

func (w *working) areaOf(regions []uuid.UUID) (sum unit.SquareMetre) {
	for _, piece := range w.in.Pieces {
		for _, z := range piece.Regions {
			if slices.Contains(regions, z.ID) {
				sum += z.AreaM2
			}
		}
	}
	return sum
}

// rescale gives a step the minutes of another area or another number of grits: its set-up stays, the
// rest goes along, up to the next five minutes.
func (w *working) rescale(s *job.Step, area unit.SquareMetre, grits int) {
	before := float64(area) * float64(max(grits, 1))
	after := float64(w.areaOf(s.Regions)) * float64(max(len(s.Ladder), 1))
	if before <= 0 || after <= 0 || before == after {
		return
	}
	scale := func(m, fixed unit.Minutes) unit.Minutes {
		work := float64(m-fixed) * after / before
		return min(fixed+unit.Minutes(upToFive(work)), mostMinutes)
	}
	s.HandsOnMin, s.ScuffMin = scale(s.HandsOnMin, s.SetUpMin), scale(s.ScuffMin, 0)
}

const mostMinutes = 24 * 60

func upToFive(minutes float64) int {
	n := int(minutes / 5)
	if float64(n)*5 < minutes {
		n++
	}
	return n * 5
}

// usualRole is the material slot of a step that takes a family of a group.
var usualRole = map[string]string{"colour": "colour", "fill": "filler", "seal": "sealer", "clear": "clear", "oil-wax": "oil", "metallic": "flake"}

// with puts a step on with another material: a product's id, or a family's.
func (w *working) with(s *job.Step, text string) error {
	if s.Kind != job.Coat {
		return fault("fields.material", "%s takes no material", phrase.Quoted(s.Title))
	}
	name, product := text, (*uuid.UUID)(nil)
	if id, err := uuid.Parse(text); err == nil {
		family, known := "", false
		if w.families != nil {
			family, known = w.families(id)
		}
		if !known {
			return fault("fields.material", "must be a product on the shelf, or a family")
		}
		name, product = family, &id
	}
	next, err := material.FindFamily(name)
	if err != nil {
		return fault("fields.material", "must be a product on the shelf, or a family")
	}
	if now, err := material.FindFamily(s.Family); err == nil && now.Group != next.Group && usualRole[next.Group] != "" {
		s.Role = usualRole[next.Group]
	}
	s.Family, s.Product = name, product
	if len(next.Methods) > 0 && !slices.Contains(next.Methods, s.Method) {
		s.Method = next.Methods[0]
	}
	return nil
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
