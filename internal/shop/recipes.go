package shop

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
)

// Recipes of the shop's own: saved from what is there, bettered by versions, offered to what uses an earlier one.

// RecipeLine is an own recipe in a list.
type RecipeLine struct {
	ID      uuid.UUID      `json:"id"`
	Name    string         `json:"name"`
	Kind    recipe.OwnKind `json:"kind" enum:"stack,schedule,fragment"`
	Piece   string         `json:"piece,omitempty" doc:"of a stack: what it is for"`
	Version int            `json:"version" doc:"the latest"`
	About   string         `json:"about" doc:"what it says, in a few words"`
	Retired bool           `json:"retired" doc:"no longer offered"`
	Used    int            `json:"used" doc:"by how many instruments"`
}

// RecipeView is an own recipe with its versions and what uses it.
type RecipeView struct {
	RecipeLine
	Versions []RecipeVersion `json:"versions" doc:"the newest first"`
	Uses     []RecipeUse     `json:"uses" doc:"instruments that use it, those that it is offered to first"`
}

// RecipeVersion is a recipe as it was once saved.
type RecipeVersion struct {
	Version int               `json:"version"`
	At      Moment            `json:"at"`
	By      string            `json:"by,omitempty"`
	Note    string            `json:"note,omitempty"`
	Lines   []recipe.Line     `json:"lines" doc:"what it says"`
	Stack   *recipe.PieceWish `json:"stack,omitempty" doc:"of a stack: to begin a piece with"`
	Wish    *recipe.Wish      `json:"wish,omitempty" doc:"of a schedule: to begin an instrument with"`
}

// RecipeUse is an instrument that uses a recipe, and what the latest version would do to it.
type RecipeUse struct {
	InstrumentID uuid.UUID `json:"instrumentId"`
	Name         string    `json:"name"`
	Where        string    `json:"where" doc:"the piece, or all of it"`
	Version      int       `json:"version" doc:"that it uses"`
	Offered      bool      `json:"offered" doc:"it uses an earlier version, and is not past that point"`
	Why          string    `json:"why,omitempty" doc:"why it is not offered"`
	Effect       string    `json:"effect,omitempty" doc:"what it would do to its finish"`
	Late         bool      `json:"late" doc:"its promise would not be kept"`
	Changes      []Change  `json:"changes" doc:"what taking it over is"`
}

// RecipeSaved is what somebody saves as a recipe of the shop's own: a stack as it stands on the page, a whole
// schedule of an instrument, or some steps of one. The id of a recipe that is there makes another version of it.
type RecipeSaved struct {
	ID           uuid.UUID         `json:"id" doc:"made by the device for a new one"`
	Name         string            `json:"name" maxLength:"60"`
	Kind         recipe.OwnKind    `json:"kind" enum:"stack,schedule,fragment"`
	Note         string            `json:"note,omitempty" maxLength:"200" doc:"what is better about this version"`
	Stack        *recipe.PieceWish `json:"stack,omitempty" doc:"of a stack"`
	InstrumentID uuid.UUID         `json:"instrumentId,omitzero" doc:"of a schedule or a fragment: from where"`
	StepIDs      []uuid.UUID       `json:"stepIds,omitempty" maxItems:"40" doc:"of a fragment"`
	PersonID     uuid.UUID         `json:"personId,omitzero"`
}

// RecipeNamed is another name of a recipe, and whether it is still offered.
type RecipeNamed struct {
	ID      uuid.UUID `json:"id"`
	Name    string    `json:"name" maxLength:"60"`
	Retired bool      `json:"retired"`
}

// RecipePair asks to compare two versions, of one recipe or of two.
type RecipePair struct {
	A recipe.OwnUse `json:"a"`
	B recipe.OwnUse `json:"b"`
}

// RecipeCompared is two versions line by line.
type RecipeCompared struct {
	Lines []recipe.Difference `json:"lines"`
}

func (st *state) own(id uuid.UUID) (recipe.Own, bool) {
	i := slices.IndexFunc(st.file.Recipes, func(r recipe.Own) bool { return r.ID == id })
	if i < 0 {
		return recipe.Own{}, false
	}
	return st.file.Recipes[i], true
}

// Recipes lists the recipes of the shop's own, those that are still offered first.
func (s *Service) Recipes(ctx context.Context) ([]RecipeLine, error) {
	list := []RecipeLine{}
	err := s.look(ctx, func(m *moment) error {
		for _, r := range m.file.Recipes {
			list = append(list, m.recipeLine(r))
		}
		slices.SortStableFunc(list, func(a, b RecipeLine) int { return gone(a) - gone(b) })
		return nil
	})
	return list, err
}

func gone(r RecipeLine) int {
	if r.Retired {
		return 1
	}
	return 0
}

func (m *moment) recipeLine(r recipe.Own) RecipeLine {
	v := r.Latest()
	line := RecipeLine{ID: r.ID, Name: r.Name, Kind: r.Kind, Version: v.Version, Retired: r.Retired}
	word := "step"
	if r.Kind == recipe.OwnStack {
		word, line.Piece = "layer", string(v.Content.Stack.Kind)
	}
	lines := v.Content.Lines()
	if line.About = phrase.Plural(len(lines), word); r.Kind == recipe.OwnSchedule {
		line.About = "a whole instrument, " + phrase.Plural(len(lines), "line")
	}
	for i := range m.file.Instruments {
		if len(usesOf(&m.file.Instruments[i], r.ID)) > 0 {
			line.Used++
		}
	}
	return line
}

// use is where an instrument uses a recipe.
type use struct {
	version int
	kind    job.PieceKind // the piece; empty: all of it
	steps   []uuid.UUID   // of a fragment
}

// usesOf are the places in which an instrument uses a recipe.
func usesOf(in *recipe.Instrument, id uuid.UUID) (list []use) {
	if in.Wish != nil {
		if own := in.Wish.Own; own != nil && own.ID == id {
			list = append(list, use{version: own.Version})
		}
		for _, p := range in.Wish.Pieces {
			if p.Own != nil && p.Own.ID == id {
				list = append(list, use{version: p.Own.Version, kind: p.Kind})
			}
		}
	}
	for _, p := range in.Pieces {
		var part use
		for _, s := range p.Steps {
			if own, named := recipe.ParseOwnUse(s.Recipe); named && own.ID == id {
				part.version, part.kind = own.Version, p.Kind
				part.steps = append(part.steps, s.ID)
			}
		}
		if len(part.steps) > 0 {
			list = append(list, part)
		}
	}
	return list
}

// Recipe shows one own recipe, and what its latest version would do to the instruments that use an earlier one.
func (s *Service) Recipe(ctx context.Context, id uuid.UUID) (RecipeView, error) {
	view := RecipeView{Versions: []RecipeVersion{}, Uses: []RecipeUse{}}
	err := s.ask(ctx, func(m *moment) error {
		r, found := m.own(id)
		if !found {
			return missing("recipe", id)
		}
		view.RecipeLine = m.recipeLine(r)
		for _, v := range slices.Backward(r.Versions) {
			view.Versions = append(view.Versions, m.recipeVersion(v))
		}
		for i := range m.file.Instruments {
			for _, u := range usesOf(&m.file.Instruments[i], id) {
				one, err := m.recipeUse(i, r, u)
				if err != nil {
					return err
				}
				view.Uses = append(view.Uses, one)
			}
		}
		slices.SortStableFunc(view.Uses, func(a, b RecipeUse) int { return offered(b) - offered(a) })
		return nil
	})
	return view, err
}

func offered(u RecipeUse) int {
	if u.Offered {
		return 1
	}
	return 0
}

func (m *moment) recipeVersion(v recipe.OwnVersion) RecipeVersion {
	view := RecipeVersion{Version: v.Version, At: m.moment(v.At), Note: v.Note, Lines: v.Content.Lines(), Stack: v.Content.Stack, Wish: v.Content.Wish}
	if view.Lines == nil {
		view.Lines = []recipe.Line{}
	}
	for _, p := range m.people {
		if v.Person != nil && p.ID == *v.Person {
			view.By = p.Name
		}
	}
	return view
}

// recipeUse is what the latest version of a recipe would do where an earlier one is used.
func (m *moment) recipeUse(i int, r recipe.Own, u use) (RecipeUse, error) {
	in := &m.file.Instruments[i]
	view := RecipeUse{InstrumentID: in.ID, Name: in.Name, Where: string(u.kind), Version: u.version, Changes: []Change{}}
	if u.kind == "" {
		view.Where = "all of it"
	}
	latest := r.Latest()
	if u.version >= latest.Version {
		view.Why = "it uses the latest"
		return view, nil
	}
	switch r.Kind {
	case recipe.OwnFragment:
		view.Changes, view.Why = m.fragmentOver(in, u, recipe.OwnUse{ID: r.ID, Version: latest.Version})
	default:
		view.Changes = wishOver(in, u, latest.Content, recipe.OwnUse{ID: r.ID, Version: latest.Version})
	}
	if view.Why != "" {
		view.Changes = []Change{}
		return view, nil
	}
	b, err := m.bend(view.Changes, uuid.Nil)
	var wrong *Invalid
	if errors.As(err, &wrong) {
		view.Why, view.Changes = wrong.Faults[0].Message, []Change{}
		return view, nil
	} else if err != nil {
		return view, err
	}
	if edit.Between(*in, b.file.Instruments[i]).SameSteps() {
		view.Why, view.Changes = "it is past that point: nothing that is still to be done would differ", []Change{}
		return view, nil
	}
	var way RepairWay
	if err := b.into(&way, in.ID); err != nil {
		if !errors.As(err, &wrong) {
			return view, err
		}
		view.Why, view.Changes = wrong.Faults[0].Message, []Change{}
		return view, nil
	}
	view.Offered, view.Effect, view.Late = true, way.Days, way.Late
	return view, nil
}

// wishOver is the wish of an instrument with the latest version of a stack or a schedule in it.
func wishOver(in *recipe.Instrument, u use, latest recipe.OwnContent, own recipe.OwnUse) []Change {
	wish := wishOf(in).Stacked()
	if u.kind == "" {
		next := latest.Wish.Stacked()
		next.Arrivals, next.Own = wish.Arrivals, &own
		for i := range next.Pieces {
			for _, p := range wish.Pieces {
				if p.Kind == next.Pieces[i].Kind {
					next.Pieces[i] = p.Taking(next.Pieces[i], own)
					next.Pieces[i].Own = p.Own
				}
			}
		}
		wish = next
	}
	for i := range wish.Pieces {
		if u.kind != "" && wish.Pieces[i].Kind == u.kind {
			wish.Pieces[i] = wish.Pieces[i].Taking(*latest.Stack, own)
		}
	}
	return []Change{{Kind: "wish", InstrumentID: in.ID, Wish: &wish, Version: in.Version}}
}

// fragmentOver is the latest version of a fragment in the place of an earlier one; it says why where that cannot be.
func (m *moment) fragmentOver(in *recipe.Instrument, u use, own recipe.OwnUse) ([]Change, string) {
	for _, id := range u.steps {
		if m.logged[id] {
			return nil, "it is past that point: some of it is logged"
		}
	}
	var changes []Change
	for _, p := range in.Pieces {
		first := slices.IndexFunc(p.Steps, func(s job.Step) bool { return slices.Contains(u.steps, s.ID) })
		if first < 0 {
			continue
		}
		add := edit.Edit{Op: edit.Add, Step: uuid.NewSHA1(u.steps[0], []byte(own.Text())), Piece: p.ID, What: ownPrefix + own.ID.String()}
		if first > 0 {
			add.After = p.Steps[first-1].ID
		}
		changes = append(changes, Change{Kind: "edit", InstrumentID: in.ID, Edit: &add})
	}
	for _, id := range u.steps {
		changes = append(changes, Change{Kind: "edit", InstrumentID: in.ID, Edit: &edit.Edit{Op: edit.Remove, Step: id}})
	}
	return changes, ""
}

// ownPrefix begins the id of an addition that is a fragment of the shop's own.
const ownPrefix = "own-"

// SaveRecipe saves a recipe, or another version of one. It fails with *Invalid naming the field. Saving the very
// same once more changes nothing.
func (s *Service) SaveRecipe(ctx context.Context, in RecipeSaved) (RecipeView, error) {
	err := s.onShop(ctx, func(w *writing) error {
		content, err := w.before.contentOf(in)
		if err != nil {
			return err
		}
		known, there := w.before.own(in.ID)
		made := recipe.Own{ID: in.ID, Name: strings.TrimSpace(in.Name), Kind: in.Kind}
		v := recipe.OwnVersion{Version: 1, At: s.clock().UTC().Truncate(time.Microsecond), Note: strings.TrimSpace(in.Note), Content: content}
		if in.PersonID != uuid.Nil {
			v.Person = &in.PersonID
		}
		switch {
		case there && known.Kind != in.Kind:
			return invalid("kind", fmt.Sprintf("%s is a %s; save this under another name", known.Name, known.Kind), in.Kind)
		case there && alike(known.Latest().Content, content):
			return errKept
		case there:
			v.Version = known.Latest().Version + 1
		case slices.ContainsFunc(w.before.file.Recipes, func(r recipe.Own) bool { return strings.EqualFold(r.Name, made.Name) }):
			return invalid("name", "there is a recipe of that name: choose it to save another version, or another name", in.Name)
		}
		made.Versions = []recipe.OwnVersion{v}
		check := made
		check.Versions = []recipe.OwnVersion{v}
		check.Versions[0].Version = 1
		if faults := check.Check(); len(faults) > 0 {
			return &Invalid{faults}
		}
		if there {
			v.Version = known.Latest().Version + 1
		} else if err := w.AddOwnRecipe(ctx, made, v.At); err != nil {
			return err
		}
		if err := w.AddOwnVersion(ctx, in.ID, v); err != nil {
			return err
		}
		return w.reread(ctx)
	})
	if err != nil && !errors.Is(err, errKept) {
		return RecipeView{}, err
	}
	return s.Recipe(ctx, in.ID)
}

func alike(a, b recipe.OwnContent) bool {
	x, errX := json.Marshal(a)
	y, errY := json.Marshal(b)
	return errX == nil && errY == nil && bytes.Equal(x, y)
}

// contentOf is what is to be saved.
func (m *moment) contentOf(in RecipeSaved) (recipe.OwnContent, error) {
	if in.Kind == recipe.OwnStack {
		if in.Stack == nil {
			return recipe.OwnContent{}, invalid("stack", "say which stack", nil)
		}
		return recipe.StackOf(*in.Stack), nil
	}
	i := slices.IndexFunc(m.file.Instruments, func(o recipe.Instrument) bool { return o.ID == in.InstrumentID })
	switch {
	case i < 0:
		return recipe.OwnContent{}, invalid("instrumentId", "must be an instrument of this shop", in.InstrumentID)
	case in.Kind == recipe.OwnFragment:
		content := recipe.FragmentOf(m.file.Instruments[i], in.StepIDs)
		if len(content.Steps) == 0 {
			return content, invalid("stepIds", "choose some steps of that instrument", nil)
		}
		return content, nil
	case m.file.Instruments[i].Wish == nil:
		return recipe.OwnContent{}, invalid("instrumentId", "what was wished of it is not known here: save its steps as a fragment", in.InstrumentID)
	}
	return recipe.ScheduleOf(m.file.Instruments[i]), nil
}

// NameRecipe gives a recipe another name, or takes it from what is offered, or back.
func (s *Service) NameRecipe(ctx context.Context, in RecipeNamed) (RecipeView, error) {
	err := s.onShop(ctx, func(w *writing) error {
		name := strings.TrimSpace(in.Name)
		switch _, there := w.before.own(in.ID); {
		case !there:
			return missing("recipe", in.ID)
		case name == "" || len([]rune(name)) > 60:
			return invalid("name", "give it a name of 1 to 60 characters", in.Name)
		}
		if err := w.ChangeOwnRecipe(ctx, in.ID, name, in.Retired); err != nil {
			return err
		}
		return w.reread(ctx)
	})
	if err != nil {
		return RecipeView{}, err
	}
	return s.Recipe(ctx, in.ID)
}

// CompareRecipes puts two versions beside one another.
func (s *Service) CompareRecipes(ctx context.Context, in RecipePair) (RecipeCompared, error) {
	out := RecipeCompared{Lines: []recipe.Difference{}}
	err := s.look(ctx, func(m *moment) error {
		var sides [2]recipe.OwnContent
		for i, u := range []recipe.OwnUse{in.A, in.B} {
			r, found := m.own(u.ID)
			v, there := r.Find(u.Version)
			if !found || !there {
				return invalid(string("ab"[i]), "must be a version of a recipe of this shop", u.Text())
			}
			sides[i] = v.Content
		}
		out.Lines = append(out.Lines, recipe.Compare(sides[0], sides[1])...)
		return nil
	})
	return out, err
}

// recipeFile is an own recipe as a file.
type recipeFile struct {
	Format  string     `json:"format"`
	Version int        `json:"version"`
	Recipe  recipe.Own `json:"recipe"`
}

const (
	recipeFormat  = "umberfrost-recipe"
	recipeVersion = 1
)

// WriteRecipe writes a recipe with all its versions, as another shop can read it.
func (s *Service) WriteRecipe(ctx context.Context, to io.Writer, id uuid.UUID) error {
	return s.look(ctx, func(m *moment) error {
		r, found := m.own(id)
		if !found {
			return missing("recipe", id)
		}
		for i := range r.Versions {
			r.Versions = slices.Clone(r.Versions)
			r.Versions[i].Person = nil // people are of a shop
		}
		encoder := json.NewEncoder(to)
		encoder.SetIndent("", "  ")
		encoder.SetEscapeHTML(false)
		return encoder.Encode(recipeFile{recipeFormat, recipeVersion, r})
	})
}

// ReadRecipe adds a recipe from a file. Of one that is there already, only versions beyond its latest are added, where
// the earlier ones are the same. It fails with *Invalid on anything that is not understood: nothing is dropped in silence.
func (s *Service) ReadRecipe(ctx context.Context, from io.Reader) (RecipeView, error) {
	file, err := parseRecipe(from)
	if err != nil {
		return RecipeView{}, err
	}
	err = s.onShop(ctx, func(w *writing) error {
		r := file.Recipe
		known, there := w.before.own(r.ID)
		if !there {
			if slices.ContainsFunc(w.before.file.Recipes, func(o recipe.Own) bool { return strings.EqualFold(o.Name, r.Name) }) {
				r.Name += " (from a file)"
			}
			if err := w.AddOwnRecipe(ctx, r, s.clock()); err != nil {
				return err
			}
		}
		for i, v := range r.Versions {
			if i < len(known.Versions) {
				if !alike(known.Versions[i].Content, v.Content) {
					return invalid(fmt.Sprintf("recipe.versions[%d]", i), fmt.Sprintf("version %d of %s says something else here: rename it in the file, with an id of its own",
						v.Version, known.Name), v.Version)
				}
				continue
			}
			v.Person = nil
			if err := w.AddOwnVersion(ctx, r.ID, v); err != nil {
				return err
			}
		}
		return w.reread(ctx)
	})
	if err != nil {
		return RecipeView{}, err
	}
	return s.Recipe(ctx, file.Recipe.ID)
}

// MostRecipeBytes is the largest file of a recipe that is read.
const MostRecipeBytes = 4 << 20

func parseRecipe(from io.Reader) (recipeFile, error) {
	var file recipeFile
	data, err := io.ReadAll(io.LimitReader(from, MostRecipeBytes+1))
	if err != nil {
		return file, err
	}
	if len(data) > MostRecipeBytes {
		return file, invalid("recipe", fmt.Sprintf("the file is larger than %d MiB", MostRecipeBytes>>20), nil)
	}
	var head struct {
		Format  string `json:"format"`
		Version int    `json:"version"`
	}
	if err := json.Unmarshal(data, &head); err != nil {
		return file, invalid("recipe", "it is not JSON: "+err.Error(), nil)
	}
	switch {
	case head.Format != recipeFormat:
		return file, invalid("format", "must be "+recipeFormat, head.Format)
	case head.Version > recipeVersion:
		return file, invalid("version", fmt.Sprintf("it is of version %d, written by a newer Umberfrost; this one reads version %d", head.Version, recipeVersion), head.Version)
	}
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(&file); err != nil {
		return file, invalid("recipe", "it says something that is not understood here: "+strings.TrimPrefix(err.Error(), "json: "), nil)
	}
	for i := range file.Recipe.Versions {
		file.Recipe.Versions[i].At = file.Recipe.Versions[i].At.UTC()
	}
	if faults := file.Recipe.Check(); len(faults) > 0 {
		for i := range faults {
			faults[i].Path = "recipe." + faults[i].Path
		}
		return file, &Invalid{faults}
	}
	return file, nil
}

// handed is a composed schedule with what a hand had changed in the own schedule that it began from.
func (m *moment) handed(wish recipe.Wish, d recipe.Draft) recipe.Draft {
	if wish.Own == nil {
		return d
	}
	r, found := m.own(wish.Own.ID)
	v, there := r.Find(wish.Own.Version)
	if !found || !there || len(v.Content.Hand) == 0 {
		return d
	}
	return m.onShelf(v.Content).Composed(d)
}

// onShelf is a recipe without products that this shop does not have.
func (m *moment) onShelf(c recipe.OwnContent) recipe.OwnContent {
	here := func(steps []recipe.OwnStep) []recipe.OwnStep {
		steps = slices.Clone(steps)
		for i := range steps {
			if id := steps[i].Step.Product; id != nil {
				if made, found := m.product(*id); !found || made.Family.ID != steps[i].Step.Family {
					steps[i].Step.Product = nil
				}
			}
		}
		return steps
	}
	c.Steps, c.Hand = here(c.Steps), slices.Clone(c.Hand)
	for i := range c.Hand {
		c.Hand[i].Steps = here(c.Hand[i].Steps)
	}
	return c
}

// fragment fills in the steps of an addition that is a fragment of the shop's own.
func (b *bent) fragment(in *recipe.Instrument, e *edit.Edit) error {
	id, own := strings.CutPrefix(e.What, ownPrefix)
	if e.Op != edit.Add || !own {
		return nil
	}
	key, err := uuid.Parse(id)
	r, found := b.own(key)
	if err != nil || !found || r.Kind != recipe.OwnFragment {
		return invalid("edit.what", "there is no such fragment among the shop's recipes", e.What)
	}
	p := slices.IndexFunc(in.Pieces, func(p job.Piece) bool { return p.ID == e.Piece })
	if p < 0 {
		return invalid("edit.pieceId", "must be a piece of this instrument", e.Piece)
	}
	regions := e.Regions
	if len(regions) == 0 {
		for _, piece := range in.Pieces {
			for _, z := range piece.Regions {
				if piece.ID == e.Piece || in.Pieces[p].Kind == job.Whole {
					regions = append(regions, z.ID)
				}
			}
		}
	}
	v := r.Latest()
	e.Steps = b.onShelf(v.Content).StepsOn(in.Pieces[p], regions, recipe.OwnUse{ID: r.ID, Version: v.Version})
	return nil
}

// followed is a wish with the schools that the shop follows where nobody has chosen.
func (m *moment) followed(w recipe.Wish) recipe.Wish {
	if len(m.setting.Ways) == 0 {
		return w
	}
	for _, c := range w.Choices() {
		option := m.setting.Ways[c.Topic]
		if c.Usual && option != "" && option != c.Chosen && slices.ContainsFunc(c.Ways, func(s recipe.School) bool { return s.Option == option }) {
			w = w.With(c.Topic, c.Piece, option)
		}
	}
	return w
}

// addRecipes adds the recipes of a schedule file that the shop does not have.
func (i *importing) recipes(ctx context.Context) error {
	for _, r := range i.file.Recipes {
		if i.before != nil {
			if _, there := i.before.own(r.ID); there {
				continue
			}
		}
		at := i.now
		if len(r.Versions) > 0 {
			at = r.Versions[0].At
		}
		if err := i.tx.AddOwnRecipe(ctx, r, at); err != nil {
			return named(err, "recipes", r.Name)
		}
		for _, v := range r.Versions {
			if err := i.tx.AddOwnVersion(ctx, r.ID, v); err != nil {
				return named(err, "recipes", r.Name)
			}
		}
	}
	return nil
}
