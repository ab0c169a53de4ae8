package store

import (
	"context"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
)

// ownRow is a version of an own recipe, with its recipe.
type ownRow struct {
	ID      uuid.UUID               `db:"id"`
	Name    string                  `db:"name"`
	Kind    recipe.OwnKind          `db:"kind"`
	Retired bool                    `db:"retired"`
	Version int                     `db:"version"`
	At      time.Time               `db:"at"`
	Person  *uuid.UUID              `db:"person_id"`
	Note    string                  `db:"note"`
	Content JSON[recipe.OwnContent] `db:"content"`
}

// OwnRecipes loads the recipes of the shop's own with all their versions, the oldest first.
func (tx *Tx) OwnRecipes(ctx context.Context) ([]recipe.Own, error) {
	rows, err := all[ownRow](ctx, tx, most, `
		select r.id, r.name, r.kind, r.retired, v.version, v.at, v.person_id, v.note, v.content
		from own_recipe r join own_recipe_version v on v.recipe_id = r.id order by r.created_at, r.id, v.version limit $1`)
	var list []recipe.Own
	for _, row := range rows {
		if n := len(list); n == 0 || list[n-1].ID != row.ID {
			list = append(list, recipe.Own{ID: row.ID, Name: row.Name, Kind: row.Kind, Retired: row.Retired})
		}
		last := &list[len(list)-1]
		last.Versions = append(last.Versions, recipe.OwnVersion{Version: row.Version, At: row.At.UTC(), Person: row.Person, Note: row.Note,
			Content: row.Content.V})
	}
	return list, err
}

// AddOwnRecipe saves a recipe, without versions. An id that is taken is ErrConflict.
func (tx *Tx) AddOwnRecipe(ctx context.Context, r recipe.Own, at time.Time) error {
	_, err := tx.ExecContext(ctx, `insert into own_recipe (id, name, kind, retired, created_at) values ($1, $2, $3, $4, $5)`, r.ID, r.Name, r.Kind,
		r.Retired, at)
	return explain(err)
}

// AddOwnVersion saves another version of a recipe. One that is there already is ErrConflict.
func (tx *Tx) AddOwnVersion(ctx context.Context, id uuid.UUID, v recipe.OwnVersion) error {
	_, err := tx.ExecContext(ctx, `
		insert into own_recipe_version (recipe_id, version, at, person_id, note, content) values ($1, $2, $3, $4, $5, $6)`,
		id, v.Version, v.At, v.Person, v.Note, JSON[recipe.OwnContent]{v.Content})
	return explain(err)
}

// ChangeOwnRecipe keeps another name of a recipe, and whether it is still offered.
func (tx *Tx) ChangeOwnRecipe(ctx context.Context, id uuid.UUID, name string, retired bool) error {
	_, err := tx.ExecContext(ctx, `update own_recipe set name = $2, retired = $3 where id = $1`, id, name, retired)
	return explain(err)
}
