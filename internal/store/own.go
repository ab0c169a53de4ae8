package store

import (
	"context"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
)

// ownRow is a version of an own recipe, with its recipe.
type ownRow struct {
	ID      uuid.UUID                `db:"id"`
	Name    string                   `db:"name"`
	Kind    recipe.OwnKind           `db:"kind"`
	Retired bool                     `db:"retired"`
	Version int                      `db:"version"`
	At      time.Time                `db:"at"`
	Person  *uuid.UUID               `db:"person_id"`
	Note    string                   `db:"note"`
	Content jsonb[recipe.OwnContent] `db:"content"`
}

// readRecipes loads the recipes of the shop's own with all their versions, the oldest first.
func readRecipes(ctx context.Context, tx *Tx) ([]recipe.Own, error) {
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

// keepRecipes writes new recipes, new versions, and other names.
func keepRecipes(ctx context.Context, tx *Tx, before, after []recipe.Own) error {
	known := make(map[uuid.UUID]recipe.Own)
	for _, r := range before {
		known[r.ID] = r
	}
	for _, r := range after {
		was, there := known[r.ID]
		var err error
		switch {
		case !there:
			err = addOwnRecipe(ctx, tx, r)
		case was.Name != r.Name || was.Retired != r.Retired:
			_, err = tx.sql.ExecContext(ctx, `update own_recipe set name = $2, retired = $3 where id = $1`, r.ID, r.Name, r.Retired)
		}
		for _, v := range r.Versions[len(was.Versions):] {
			if err == nil {
				err = addOwnVersion(ctx, tx, r.ID, v)
			}
		}
		if err != nil {
			return unkept("recipes", r.Name, explain(err))
		}
	}
	return nil
}

// addOwnRecipe saves a recipe, without versions.
func addOwnRecipe(ctx context.Context, tx *Tx, r recipe.Own) error {
	_, err := tx.sql.ExecContext(ctx, `insert into own_recipe (id, name, kind, retired, created_at) values ($1, $2, $3, $4, $5)`,
		r.ID, r.Name, r.Kind, r.Retired, r.Versions[0].At)
	return explain(err)
}

// addOwnVersion saves another version of a recipe.
func addOwnVersion(ctx context.Context, tx *Tx, id uuid.UUID, v recipe.OwnVersion) error {
	_, err := tx.sql.ExecContext(ctx, `
		insert into own_recipe_version (recipe_id, version, at, person_id, note, content) values ($1, $2, $3, $4, $5, $6)`,
		id, v.Version, v.At, v.Person, v.Note, jsonb[recipe.OwnContent]{v.Content})
	return explain(err)
}
