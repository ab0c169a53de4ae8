package views

import (
	"fmt"
	"strings"

	"umberfrost/internal/craft/film"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/snapshot"
)

// Composed is what the layers of an instrument come to: how they look, how they lie, what they take, and what
// speaks against them.
type Composed struct {
	Looks      []recipe.Look   `json:"looks" doc:"how body and neck will look"`
	Stacks     []StackView     `json:"stacks" doc:"how the layers lie"`
	Roles      []RoleView      `json:"roles" doc:"the materials it takes"`
	Choices    []ChoiceView    `json:"choices" doc:"where schools differ, and which is followed"`
	Objections []ObjectionView `json:"objections" doc:"what its schedule gets wrong, or practice warns of"`
}

// StackView is how the layers of a piece lie, from the wood upwards.
type StackView struct {
	Piece job.PieceKind `json:"piece" enum:"body,neck"`
	Rows  []StackRow    `json:"rows"`
}

// StackRow is a layer that is wished, or a coat that the rules add.
type StackRow struct {
	Layer  string `json:"layer,omitempty" doc:"the layer that is wished; absent: the rules add it"`
	Title  string `json:"title"`
	About  string `json:"about" doc:"coats, method, film and minutes in words"`
	Why    string `json:"why,omitempty" doc:"of what the rules add"`
	Masked bool   `json:"masked,omitempty" doc:"masks keep it off its neighbours"`
	Done   int    `json:"done" doc:"events of it that are logged"`
	Total  int    `json:"total"`
}

// composed is what the layers of an instrument come to.
func composed(m *snapshot.Snapshot, i int) Composed {
	in := &m.Workshop.Instruments[i]
	c := Composed{Looks: []recipe.Look{}, Stacks: []StackView{}, Roles: roles(m, m.DraftOf(in)), Choices: []ChoiceView{},
		Objections: objections(m, i)}
	if in.Wish == nil {
		return c
	}
	c.Looks = append(c.Looks, looksOf(m, in, true)...)
	c.Choices = choices(*in.Wish)
	for _, p := range in.Wish.Stacked().Pieces {
		c.Stacks = append(c.Stacks, StackView{p.Kind, stackRows(m, in, p)})
	}
	return c
}

// looksOf is how an instrument looks: as it will, or as far as the log has come.
func looksOf(m *snapshot.Snapshot, in *recipe.Instrument, whole bool) []recipe.Look {
	if in.Wish == nil {
		return nil
	}
	colours, lie := make(map[string]string), make(map[string]bool)
	wished := make(map[string]recipe.Layer)
	for _, p := range in.Wish.Stacked().Pieces {
		for _, l := range p.Layers {
			wished[string(p.Kind)+":"+l.ID] = l
		}
	}
	for _, l := range layersIn(m, in) {
		if l.step.Kind == job.Coat && !recipe.Serves(wished[l.layer], l.step.Role) {
			continue
		}
		if made, err := m.MaterialOf(l.step); err == nil && made.Colour() != "" && colours[l.layer] == "" {
			colours[l.layer] = made.Colour()
		}
		switch l.step.Kind {
		case job.MaskOn, job.MaskOff, job.Inspect:
		default:
			lie[l.layer] = lie[l.layer] || done(m, *l.step, 1)
		}
	}
	lies := func(kind recipe.PieceKind, layer string) bool { return lie[string(kind)+":"+layer] }
	if whole {
		lies = nil
	}
	return in.Wish.Of(in.Outline, in.Own).Looks(func(kind recipe.PieceKind, layer string) string { return colours[string(kind)+":"+layer] },
		lies)
}

// layered is a step with the layer that it serves, named by piece and id.
type layered struct {
	layer string // "body:clear"
	step  *job.Step
}

// layersIn are the steps of an instrument that serve a layer. Those of a neck and a body that are finished
// as one serve the body's.
func layersIn(m *snapshot.Snapshot, in *recipe.Instrument) []layered {
	var list []layered
	for p := range in.Pieces {
		for s := range in.Pieces[p].Steps {
			step := &in.Pieces[p].Steps[s]
			parts := strings.Split(step.Slot, ":")
			if len(parts) != 3 {
				continue
			}
			if parts[0] == string(recipe.Whole) {
				parts[0] = string(recipe.Body)
			}
			list = append(list, layered{parts[0] + ":" + parts[1], step})
		}
	}
	return list
}

// stackRows are the layers of a piece in their order, with what the rules add between them.
func stackRows(m *snapshot.Snapshot, in *recipe.Instrument, p recipe.PieceWish) []StackRow {
	rows := make([]StackRow, 0, len(p.Layers))
	first := make([]int, len(p.Layers)) // where the coats of a layer begin
	of := layersIn(m, in)
	var added []int
	for i, l := range p.Layers {
		sums := sum{}
		first[i] = len(of)
		for k, s := range of {
			if s.layer != string(p.Kind)+":"+l.ID {
				continue
			}
			if s.step.Kind == job.Coat && !recipe.Serves(l, s.step.Role) {
				added = append(added, k)
				continue
			}
			if s.step.Kind == job.Coat {
				first[i] = min(first[i], k)
			}
			add(m, &sums, s.step)
		}
		row := sums.row(l)
		switch {
		case sums.total > 0 || l.Off:
		case l.Effect == recipe.EffectFill:
			row.Title = "Pores left open"
		default:
			row.About = "no step of its own"
		}
		rows = append(rows, row)
	}
	for _, k := range added {
		sums := sum{}
		add(m, &sums, of[k].step)
		row := sums.row(recipe.Layer{})
		row.Layer, row.Title, row.Why = "", of[k].step.Title, of[k].step.Why
		at := 0
		for i := range first {
			if first[i] < k {
				at = i + 1
			}
		}
		rows, first = insert(rows, at, row), insert(first, at, k)
	}
	return rows
}

func insert[T any](list []T, at int, one T) []T {
	next := append(append(make([]T, 0, len(list)+1), list[:at]...), one)
	return append(next, list[at:]...)
}

// sum is what the steps of a layer come to.
type sum struct {
	coats, done, total int
	minutes            unit.Minutes
	film               unit.Micron
	method             string
	masked             bool
}

func add(m *snapshot.Snapshot, s *sum, step *job.Step) {
	coats := step.Due()
	s.total += coats
	s.minutes += step.HandsOnMin * unit.Minutes(coats)
	for coat := 1; coat <= coats; coat++ {
		if _, known := m.Facts[schedule.Event{Step: step.ID, Coat: coat}]; known {
			s.done++
		}
	}
	s.masked = s.masked || (step.Kind == job.MaskOn && coats > 0)
	if step.Kind != job.Coat || coats == 0 {
		return
	}
	s.coats += coats
	if made, err := m.MaterialOf(step); err == nil && step.Method != "" {
		s.method = snapshot.Method(step.Method)
		if group := made.Family.Group; group == "seal" || (group != "oil-wax" && made.Family.TargetLeast > 0) { // oil goes into the wood
			wet, _ := made.Wet(step.Method)
			solids, _ := made.Solids()
			s.film += film.Dry(wet, solids, made.Family.Thin) * unit.Micron(float64(coats)*(1-film.Settling(made.Family.Kinetics)))
		}
	}
}

// row is a layer with what it comes to in words.
func (s sum) row(l recipe.Layer) StackRow {
	var about []string
	if s.coats > 0 {
		text := phrase.Plural(s.coats, "coat")
		if s.method != "" {
			text += ", " + s.method
		}
		about = append(about, text)
	}
	if s.film >= 1 {
		about = append(about, fmt.Sprintf("builds about %s", s.film.String()))
	}
	if s.minutes > 0 {
		about = append(about, s.minutes.String()+" of work")
	}
	return StackRow{Layer: l.ID, Title: l.Named(), About: strings.Join(about, " · "), Masked: s.masked, Done: s.done, Total: s.total}
}
