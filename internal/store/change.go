package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/schedule"
)

// What a person decides about the shop and its work after it was set up.

// RemovePin lets an event go where the plan puts it.
func (tx *Tx) RemovePin(ctx context.Context, event schedule.Event) error {
	_, err := tx.ExecContext(ctx, `delete from pin where step_id = $1 and coat = $2`, event.Step, event.Coat)
	return explain(err)
}

// SetOrder replaces the accepted order of work, first served first.
func (tx *Tx) SetOrder(ctx context.Context, order []schedule.Event) error {
	if _, err := tx.ExecContext(ctx, `delete from work_order`); err != nil {
		return explain(err)
	}
	steps, coats := make([]uuid.UUID, len(order)), make([]int, len(order))
	for i, e := range order {
		steps[i], coats[i] = e.Step, e.Coat
	}
	_, err := tx.ExecContext(ctx, `
		insert into work_order (rank, step_id, coat)
		select n, step_id, coat from unnest($1::uuid[], $2::int[]) with ordinality as given (step_id, coat, n)`, steps, coats)
	return explain(err)
}

// ChangeStep keeps another number of coats, material and terms of a step, as its
// next version. It fails with ErrConflict when the step has another version by now.
func (tx *Tx) ChangeStep(ctx context.Context, s Step) error {
	result, err := tx.NamedExecContext(ctx, `
		update step set coats = :coats, family_id = :family_id, product_id = :product_id, method = :method, terms = :terms, version = version + 1
		where id = :id and version = :version`, s)
	if err != nil {
		return explain(err)
	}
	if changed, err := result.RowsAffected(); err != nil || changed == 0 {
		return errors.Join(ErrConflict, err)
	}
	return nil
}

// InsertStep puts a step into a piece at its position; those from there on move
// on by one. It does not touch the order of work.
func (tx *Tx) InsertStep(ctx context.Context, s Step) error {
	const apart = 100_000 // positions are unique at every moment
	for _, query := range []string{
		`update step set position = position + $3::int where piece_id = $1 and position >= $2::int`,
		`update step set position = position - $3::int + 1 where piece_id = $1 and position >= $2::int + $3::int`,
	} {
		if _, err := tx.ExecContext(ctx, query, s.Piece, s.Position, apart); err != nil {
			return explain(err)
		}
	}
	if err := tx.addStep(ctx, s); err != nil {
		return explain(err)
	}
	return explain(tx.linkStep(ctx, s))
}

// ChangePerson keeps another name and other hours of somebody, and whether they
// have left.
func (tx *Tx) ChangePerson(ctx context.Context, p Person) error {
	_, err := tx.ExecContext(ctx, `update person set name = $2, week = $3, has_left = $4 where id = $1`, p.ID, p.Name, p.Week, p.Left)
	return explain(err)
}

// DismissProposal notes that a gain is not wanted.
func (tx *Tx) DismissProposal(ctx context.Context, gain string, at time.Time) error {
	_, err := tx.ExecContext(ctx, `insert into proposal_dismissed (gain, at) values ($1, $2) on conflict (gain) do update set at = excluded.at`, gain, at)
	return explain(err)
}

// ProposalDismissed reports whether a gain was declined since a moment.
func (tx *Tx) ProposalDismissed(ctx context.Context, gain string, since time.Time) (bool, error) {
	var dismissed bool
	err := tx.GetContext(ctx, &dismissed, `select exists (select from proposal_dismissed where gain = $1 and at >= $2)`, gain, since)
	return dismissed, explain(err)
}

// KeptChanges is what a decision said that was kept before; ErrNotFound when none
// of this id was.
func (tx *Tx) KeptChanges(ctx context.Context, id uuid.UUID) ([]string, error) {
	var said JSON[[]string]
	err := tx.GetContext(ctx, &said, `select said from change_kept where id = $1`, id)
	return said.V, explain(err)
}

// NoteKept notes that a decision was kept.
func (tx *Tx) NoteKept(ctx context.Context, id uuid.UUID, said []string, at time.Time) error {
	_, err := tx.ExecContext(ctx, `insert into change_kept (id, said, at) values ($1, $2, $3)`, id, JSON[[]string]{said}, at)
	return explain(err)
}
