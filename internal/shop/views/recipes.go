package views

import (
	"github.com/google/uuid"

	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
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
	At      snapshot.Moment   `json:"at"`
	By      string            `json:"by,omitempty"`
	Note    string            `json:"note,omitempty"`
	Lines   []recipe.Line     `json:"lines" doc:"what it says"`
	Stack   *recipe.PieceWish `json:"stack,omitempty" doc:"of a stack: to begin a piece with"`
	Wish    *recipe.Wish      `json:"wish,omitempty" doc:"of a schedule: to begin an instrument with"`
}

// RecipeUse is an instrument that uses a recipe, and what the latest version would do to it.
type RecipeUse struct {
	InstrumentID uuid.UUID        `json:"instrumentId"`
	Name         string           `json:"name"`
	Where        string           `json:"where" doc:"the piece, or all of it"`
	Version      int              `json:"version" doc:"that it uses"`
	Offered      bool             `json:"offered" doc:"it uses an earlier version, and is not past that point"`
	Why          string           `json:"why,omitempty" doc:"why it is not offered"`
	Effect       string           `json:"effect,omitempty" doc:"what it would do to its finish"`
	Late         bool             `json:"late" doc:"its promise would not be kept"`
	Changes      []changes.Change `json:"changes" doc:"what taking it over is"`
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

func Gone(r RecipeLine) int {
	if r.Retired {
		return 1
	}
	return 0
}

func LineOf(m *snapshot.Snapshot, r recipe.Own) RecipeLine {
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
	for i := range m.Workshop.Instruments {
		if len(UsesOf(&m.Workshop.Instruments[i], r.ID)) > 0 {
			line.Used++
		}
	}
	return line
}

func Offered(u RecipeUse) int {
	if u.Offered {
		return 1
	}
	return 0
}

func VersionOf(m *snapshot.Snapshot, v recipe.OwnVersion) RecipeVersion {
	view := RecipeVersion{Version: v.Version, At: m.Moment(v.At), Note: v.Note, Lines: v.Content.Lines(), Stack: v.Content.Stack,
		Wish: v.Content.Wish}
	if view.Lines == nil {
		view.Lines = []recipe.Line{}
	}
	for _, p := range m.People {
		if v.Person != nil && p.ID == *v.Person {
			view.By = p.Name
		}
	}
	return view
}
