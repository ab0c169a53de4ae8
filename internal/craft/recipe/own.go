package recipe

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
)

// A shop keeps recipes of its own: a stack for a piece, a whole schedule, or a fragment of one, with the
// choices that it leaves open. A recipe that is bettered gets another version; the earlier ones stay.

// OwnKind is what an own recipe is of.
type OwnKind string

// The kinds of own recipes.
const (
	OwnStack    OwnKind = "stack"    // the layers of a piece
	OwnSchedule OwnKind = "schedule" // a whole wish, with what a hand has changed of its steps
	OwnFragment OwnKind = "fragment" // some steps, one after the other
)

// Own is a recipe of a shop's own, with all its versions.
type Own struct {
	ID       uuid.UUID    `json:"id"`
	Name     string       `json:"name"`
	Kind     OwnKind      `json:"kind"`
	Retired  bool         `json:"retired,omitempty"` // no longer offered; what uses it stays
	Versions []OwnVersion `json:"versions"`          // the oldest first, counted from 1
}

// OwnVersion is an own recipe as it was once saved.
type OwnVersion struct {
	Version int        `json:"version"`
	At      time.Time  `json:"at"`
	Person  *uuid.UUID `json:"person,omitempty"`
	Note    string     `json:"note,omitempty"` // what is better about it
	Content OwnContent `json:"content"`
}

// OwnContent is what an own recipe says; which part of it counts follows from its kind.
type OwnContent struct {
	Stack *PieceWish `json:"stack,omitempty"`
	Wish  *Wish      `json:"wish,omitempty"`
	Hand  []OwnPiece `json:"hand,omitempty"` // of a schedule: the pieces that a hand has changed, with all their steps
	Steps []OwnStep  `json:"steps,omitempty"`
}

// OwnPiece is the steps of a piece in a recipe.
type OwnPiece struct {
	Kind  PieceKind `json:"kind"`
	Steps []OwnStep `json:"steps"`
}

// OwnStep is a step of a recipe: it names regions, and steps of other pieces by their slots.
type OwnStep struct {
	Step    job.Step `json:"step"`
	Regions []string `json:"regions,omitempty"` // names; none: all of its piece
	After   []string `json:"after,omitempty"`
}

// OwnUse says which version of which own recipe was used.
type OwnUse struct {
	ID      uuid.UUID `json:"id"`
	Version int       `json:"version" minimum:"1"`
}

// String writes a use as a step names it.
func (u OwnUse) String() string { return fmt.Sprintf("%s/%d", u.ID, u.Version) }

// ParseOwnUse reads what Text wrote.
func ParseOwnUse(text string) (OwnUse, bool) {
	id, version, found := strings.Cut(text, "/")
	u := OwnUse{}
	var err error
	u.ID, err = uuid.Parse(id)
	if _, errVersion := fmt.Sscan(version, &u.Version); !found || err != nil || errVersion != nil || u.Version < 1 {
		return OwnUse{}, false
	}
	return u, true
}

// Uses reports whether an instrument uses an own recipe.
func (in *Instrument) Uses(id uuid.UUID) bool {
	if w := in.Wish; w != nil {
		if (w.Own != nil && w.Own.ID == id) || slices.ContainsFunc(w.Pieces,
			func(p PieceWish) bool { return p.Own != nil && p.Own.ID == id }) {
			return true
		}
	}
	for _, p := range in.Pieces {
		for _, s := range p.Steps {
			if u, named := ParseOwnUse(s.Recipe); named && u.ID == id {
				return true
			}
		}
	}
	return false
}

// Latest is the version that was saved last.
func (o Own) Latest() OwnVersion { return o.Versions[len(o.Versions)-1] }

// Find is a version of a recipe; false where it has none of that number.
func (o Own) Find(version int) (OwnVersion, bool) {
	i := slices.IndexFunc(o.Versions, func(v OwnVersion) bool { return v.Version == version })
	if i < 0 {
		return OwnVersion{}, false
	}
	return o.Versions[i], true
}

// StackOf is a piece's stack as a recipe keeps it: without its wood and its size, what is left open stays so.
func StackOf(p PieceWish) OwnContent {
	stack := p.stacked()
	stack.Wood, stack.Length, stack.Width, stack.Thickness, stack.Figured, stack.Own = "", "", "", "", false, nil
	return OwnContent{Stack: &stack}
}

// Taking is a piece with the stack of a recipe: its wood and size stay its own.
func (p PieceWish) Taking(stack PieceWish, use OwnUse) PieceWish {
	stack.Kind, stack.Wood, stack.Figured, stack.Length, stack.Width, stack.Thickness = p.Kind, p.Wood, p.Figured, p.Length, p.Width,
		p.Thickness
	stack.Own = &use
	return stack
}

// ScheduleOf is an instrument's schedule as a recipe keeps it: its wish, and the pieces of which a hand has changed
// steps. What was logged is not of the recipe.
func ScheduleOf(in Instrument) OwnContent {
	wish := Wish{}
	if in.Wish != nil {
		wish = in.Wish.Stacked()
	}
	wish.Own = nil
	c := OwnContent{Wish: &wish}
	draft := in.Draft(Logged{})
	for _, p := range draft.Pieces {
		if !slices.ContainsFunc(p.Steps, func(s Step) bool { return s.Edited }) {
			continue
		}
		piece := OwnPiece{Kind: p.Kind}
		for _, s := range p.Steps {
			piece.Steps = append(piece.Steps, ownStep(s))
		}
		c.Hand = append(c.Hand, piece)
	}
	return c
}

// FragmentOf is some steps of a piece, in its order, as a recipe keeps them.
func FragmentOf(in Instrument, steps []uuid.UUID) OwnContent {
	var c OwnContent
	draft := in.Draft(Logged{})
	for p, piece := range draft.Pieces {
		for i, s := range piece.Steps {
			if !slices.Contains(steps, in.Pieces[p].Steps[i].ID) {
				continue
			}
			made := ownStep(s)
			if made.After = nil; len(made.Regions) == len(piece.Regions) {
				made.Regions = nil // all of it, whatever piece it is put on
			}
			c.Steps = append(c.Steps, made)
		}
	}
	return c
}

func ownStep(s Step) OwnStep {
	made := OwnStep{Step: s.Step, After: slices.Clone(s.After)}
	made.Step.ID, made.Step.Version, made.Step.Regions, made.Step.After, made.Step.Place = uuid.Nil, 0, nil, nil, nil
	for _, key := range s.Regions {
		_, name, _ := strings.Cut(key, ":")
		made.Regions = append(made.Regions, name)
	}
	return made
}

// Composed is a draft with what a hand had changed in a saved schedule: steps that it had edited stay as it left
// them, and where.
func (c OwnContent) Composed(d Draft) Draft {
	var saved Draft
	for _, p := range c.Hand {
		piece := Piece{Kind: p.Kind}
		for _, own := range p.Steps {
			s := Step{Step: own.Step, After: own.After}
			for _, name := range own.Regions {
				s.Regions = append(s.Regions, key(p.Kind, name))
			}
			piece.Steps = append(piece.Steps, s)
		}
		saved.Pieces = append(saved.Pieces, piece)
	}
	return onItsRegions(Merge(saved, d))
}

// Released is a draft in which the steps that stand as this recipe has left them are no longer changed by hand: a later
// version of it may change them again. What is done stays.
func (c OwnContent) Released(d Draft) Draft {
	d = d.clone()
	for p := range d.Pieces {
		for i := range d.Pieces[p].Steps {
			s := &d.Pieces[p].Steps[i]
			if !s.Done && !s.Logged && c.left(*s) {
				s.Edited, s.Moved = false, false
			}
		}
	}
	return d
}

// left reports whether a step stands as the recipe has left it.
func (c OwnContent) left(s Step) bool {
	for _, p := range c.Hand {
		for _, own := range p.Steps {
			if own.Step.Slot != s.Slot {
				continue
			}
			was, now := own.Step, s.Step
			now.ID, now.Place, now.Product, was.Product = uuid.Nil, nil, nil, nil
			now.Regions, now.After = nil, nil
			return SameStep(was, now)
		}
	}
	return false
}

// onItsRegions leaves each step the regions that there are; one that has none of them left is done to all of its piece.
func onItsRegions(d Draft) Draft {
	known := make(map[string]bool)
	for _, p := range d.Pieces {
		for _, z := range p.Regions {
			known[z.Key] = true
		}
	}
	for p := range d.Pieces {
		piece := &d.Pieces[p]
		for i := range piece.Steps {
			s := &piece.Steps[i]
			s.Regions = slices.DeleteFunc(slices.Clone(s.Regions), func(z string) bool { return !known[z] })
			if len(s.Regions) > 0 {
				continue
			}
			for _, z := range piece.Regions {
				s.Regions = append(s.Regions, z.Key)
			}
		}
		piece.Steps = slices.DeleteFunc(piece.Steps, func(s Step) bool { return len(s.Regions) == 0 })
	}
	return d
}

// StepsOn are the steps of a fragment on the regions of a piece, without ids: by their names where it has them, else
// on all of it.
func (c OwnContent) StepsOn(piece job.Piece, regions []uuid.UUID, use OwnUse) []job.Step {
	var list []job.Step
	for _, own := range c.Steps {
		s := own.Step
		for _, z := range piece.Regions {
			if slices.Contains(own.Regions, z.Name) && slices.Contains(regions, z.ID) {
				s.Regions = append(s.Regions, z.ID)
			}
		}
		if len(s.Regions) == 0 {
			s.Regions = slices.Clone(regions)
		}
		s.Recipe = use.String()
		list = append(list, s)
	}
	return list
}

// Line is one thing that a recipe says, to be read and compared.
type Line struct {
	Key  string `json:"-"` // what it is the same as in another version
	Text string `json:"text"`
}

// Lines are what a recipe says: its layers or its steps, in order, in words.
func (c OwnContent) Lines() []Line {
	var list []Line
	stack := func(p PieceWish, prefix string) {
		for _, l := range p.Layers {
			list = append(list, Line{prefix + l.ID, prefix + layerLine(l)})
		}
	}
	switch {
	case c.Stack != nil:
		stack(*c.Stack, "")
	case c.Wish != nil:
		for _, p := range c.Wish.Pieces {
			stack(p, string(p.Kind)+": ")
		}
		for _, p := range c.Hand {
			for _, s := range p.Steps {
				if s.Step.Edited {
					list = append(list, Line{s.Step.Slot, string(p.Kind) + ", by hand: " + stepLine(s)})
				}
			}
		}
	}
	for _, s := range c.Steps {
		list = append(list, Line{s.Step.Slot, stepLine(s)})
	}
	return list
}

func layerLine(l Layer) string {
	parts := []string{l.Named()}
	if len(l.Regions) > 0 {
		parts = append(parts, "on "+phrase.List(l.Regions))
	}
	if l.Coats > 0 {
		parts = append(parts, phrase.Plural(l.Coats, "coat"))
	}
	if len(l.Colours) > 0 {
		parts = append(parts, phrase.List(l.Colours))
	}
	for _, topic := range topics {
		if option := l.Ways[topic.id]; option != "" {
			parts = append(parts, topic.id+": "+option)
		}
	}
	if l.Off {
		parts = append(parts, "switched off")
	}
	return strings.Join(parts, ", ")
}

func stepLine(s OwnStep) string {
	parts := []string{s.Step.Title}
	if s.Step.Coats > 1 {
		parts = append(parts, phrase.Plural(s.Step.Coats, "coat"))
	}
	if s.Step.Family != "" {
		parts = append(parts, mustName(s.Step.Family))
	}
	if len(s.Step.Ladder) > 0 {
		var names []string
		for _, k := range s.Step.Ladder {
			names = append(names, grit(k))
		}
		parts = append(parts, strings.Join(names, ", "))
	}
	parts = append(parts, s.Step.HandsOnMin.String())
	if len(s.Regions) > 0 {
		parts = append(parts, "on "+phrase.List(s.Regions))
	}
	if s.Step.Out != "" {
		parts = append(parts, "left out: "+s.Step.Out)
	}
	if s.Step.Note != "" {
		parts = append(parts, s.Step.Note)
	}
	return strings.Join(parts, "; ")
}

func mustName(family string) string {
	if group(family) == "" {
		return family
	}
	return mustFamily(family).Named()
}

// Difference is one line of two versions beside one another; an empty side has it not.
type Difference struct {
	A string `json:"a"`
	B string `json:"b"`
}

// Compare puts what two recipes say beside one another, line by line, in the order of the second; what only the first
// has stands where it stood.
func Compare(a, b OwnContent) []Difference {
	first, second := a.Lines(), b.Lines()
	var list []Difference
	at := 0
	for _, l := range second {
		i := slices.IndexFunc(first[at:], func(o Line) bool { return o.Key == l.Key })
		if i < 0 {
			list = append(list, Difference{B: l.Text})
			continue
		}
		for _, gone := range first[at : at+i] {
			list = append(list, Difference{A: gone.Text})
		}
		list = append(list, Difference{first[at+i].Text, l.Text})
		at += i + 1
	}
	for _, gone := range first[at:] {
		list = append(list, Difference{A: gone.Text})
	}
	return list
}

// Check reports what is wrong with an own recipe that comes from elsewhere.
func (o Own) Check() []Fault {
	var faults []Fault
	fault := func(path, message string) { faults = append(faults, Fault{Path: path, Message: message}) }
	if name := strings.TrimSpace(o.Name); name == "" || len([]rune(name)) > 60 {
		fault("name", "give it a name of 1 to 60 characters")
	}
	if o.ID == uuid.Nil {
		fault("id", "must be a UUID")
	}
	if len(o.Versions) == 0 {
		fault("versions", "a recipe has at least one version")
	}
	for i, v := range o.Versions {
		at := fmt.Sprintf("versions[%d]", i)
		if v.Version != i+1 {
			fault(at+".version", fmt.Sprintf("versions are counted from 1 on: this is %d", i+1))
		}
		if len([]rune(v.Note)) > 200 {
			fault(at+".note", "a note has up to 200 characters")
		}
		for _, f := range v.Content.check(o.Kind) {
			fault(at+".content."+f.Path, f.Message)
		}
	}
	return faults
}

// check composes what a recipe says, on a usual piece.
func (c OwnContent) check(kind OwnKind) []Fault {
	switch {
	case kind == OwnStack && c.Stack != nil:
		p := *c.Stack
		if p.Kind != Body && p.Kind != Neck {
			return []Fault{{Path: "stack.kind", Message: "a stack is for a body or a neck"}}
		}
		p.Wood, p.Length, p.Width = "maple-hard", "650 mm", "52 mm"
		if p.Kind == Body {
			p.Wood, p.Length, p.Width, p.Thickness = "alder-red", "480 mm", "330 mm", "45 mm"
		}
		_, faults, err := Compose(Wish{Pieces: []PieceWish{p}})
		if err != nil {
			return []Fault{{Path: "stack", Message: err.Error()}}
		}
		return faults
	case kind == OwnSchedule && c.Wish != nil:
		_, faults, err := Compose(*c.Wish)
		if err != nil {
			return []Fault{{Path: "wish", Message: err.Error()}}
		}
		return append(faults, checkSteps("hand", slices.Concat(stepsOf(c.Hand)...))...)
	case kind == OwnFragment && len(c.Steps) > 0 && len(c.Steps) <= mostOwnSteps:
		return checkSteps("steps", c.Steps)
	}
	return []Fault{{Path: "kind", Message: fmt.Sprintf("must be a stack, a schedule or a fragment of 1 to %d steps, with what that says",
		mostOwnSteps)}}
}

// mostOwnSteps is how many steps a fragment has at most.
const mostOwnSteps = 40

func stepsOf(pieces []OwnPiece) (list [][]OwnStep) {
	for _, p := range pieces {
		list = append(list, p.Steps)
	}
	return list
}

func checkSteps(path string, steps []OwnStep) []Fault {
	for i, s := range steps {
		at := fmt.Sprintf("%s[%d]", path, i)
		switch {
		case !slices.Contains(job.Kinds, s.Step.Kind):
			return []Fault{{Path: at + ".kind", Message: "there is no such kind of step", Value: s.Step.Kind}}
		case strings.TrimSpace(s.Step.Title) == "" || len([]rune(s.Step.Title)) > 120:
			return []Fault{{Path: at + ".title", Message: "say what is done, in 1 to 120 characters"}}
		case (s.Step.Kind == job.Coat) != (group(s.Step.Family) != ""):
			return []Fault{{Path: at + ".family", Message: "a coat needs a material that is known here, and nothing else has one",
				Value: s.Step.Family}}
		case s.Step.HandsOnMin < 0 || s.Step.HandsOnMin > 24*60 || s.Step.SetUpMin < 0 || s.Step.SetUpMin > s.Step.HandsOnMin:
			return []Fault{{Path: at + ".handsOnMin", Message: "minutes run from none to a day, set-up with them"}}
		case s.Step.Coats < 0 || s.Step.Coats > 50:
			return []Fault{{Path: at + ".coats", Message: "1 to 50 coats"}}
		}
	}
	return nil
}
