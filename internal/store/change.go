package store

import (
	"context"
	"time"

	"github.com/google/uuid"
)

// What a person decides beside the shop itself.

// DismissProposal notes that a gain is not wanted.
func (tx *Tx) DismissProposal(ctx context.Context, gain string, at time.Time) error {
	_, err := tx.sql.ExecContext(ctx, `
		insert into proposal_dismissed (gain, at) values ($1, $2) on conflict (gain) do update set at = excluded.at`, gain, at)
	return explain(err)
}

// ProposalDismissed reports whether a gain was declined since a moment.
func (tx *Tx) ProposalDismissed(ctx context.Context, gain string, since time.Time) (bool, error) {
	var dismissed bool
	err := tx.sql.GetContext(ctx, &dismissed, `select exists (select from proposal_dismissed where gain = $1 and at >= $2)`, gain, since)
	return dismissed, explain(err)
}

// KeptChanges is what a decision said that was kept before; ErrNotFound when none
// of this id was.
func (tx *Tx) KeptChanges(ctx context.Context, id uuid.UUID) ([]string, error) {
	var said jsonb[[]string]
	err := tx.sql.GetContext(ctx, &said, `select said from change_kept where id = $1`, id)
	return said.V, explain(err)
}

// NoteKept notes that a decision was kept.
func (tx *Tx) NoteKept(ctx context.Context, id uuid.UUID, said []string, at time.Time) error {
	_, err := tx.sql.ExecContext(ctx, `insert into change_kept (id, said, at) values ($1, $2, $3)`, id, jsonb[[]string]{said}, at)
	return explain(err)
}
