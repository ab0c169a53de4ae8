package store

import (
	"context"

	"github.com/jmoiron/sqlx"
)

// PeopleUpTo is the people of a shop that may have so many.
func (tx *Tx) PeopleUpTo(ctx context.Context, limit int) ([]personRow, error) {
	return all[personRow](ctx, tx, limit, `select id, name, week, has_left from person order by position limit $1`)
}

// StepColumns is what is kept of a step.
var StepColumns = stepColumns

// Tables are those that a backup holds.
var Tables = tables

// Explain tells errors apart.
var Explain = explain

// Raw is the database itself.
func (s *Store) Raw() *sqlx.DB { return s.db }
