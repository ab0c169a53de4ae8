package store

import (
	"context"
	"database/sql"
	"fmt"

	"github.com/google/uuid"
	"github.com/pressly/goose/v3"

	"umberfrost/internal/craft/looks"
)

// toLayers is the migration that turns wishes kept in looks into layers on regions, and the slots of
// their steps with them: the steps stay the same ones. Its rules are its own, frozen in the package looks. It does not
// go back.
func toLayers() *goose.Migration {
	return goose.NewGoMigration(11, &goose.GoFunc{RunTx: wishesToLayers}, nil)
}

func wishesToLayers(ctx context.Context, tx *sql.Tx) error {
	wishes, err := formerWishes(ctx, tx)
	if err != nil {
		return err
	}
	translated := make(map[uuid.UUID]*looks.Wish, len(wishes))
	for id, kept := range wishes {
		wish, err := looks.Translate(kept)
		if err != nil {
			return fmt.Errorf("instrument %s: %w", id, err)
		}
		if _, err := tx.ExecContext(ctx, `update instrument set wish = $2 where id = $1`, id, wish.JSON); err != nil {
			return err
		}
		translated[id] = &wish
	}
	return slotsToLayers(ctx, tx, translated)
}

func formerWishes(ctx context.Context, tx *sql.Tx) (map[uuid.UUID][]byte, error) {
	rows, err := tx.QueryContext(ctx, `select id, wish from instrument where wish is not null`)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	wishes := make(map[uuid.UUID][]byte)
	for rows.Next() {
		var id uuid.UUID
		var kept []byte
		if err := rows.Scan(&id, &kept); err != nil {
			return nil, err
		}
		wishes[id] = kept
	}
	return wishes, rows.Err()
}

// slotsToLayers names the layers in the slots of the steps.
func slotsToLayers(ctx context.Context, tx *sql.Tx, wishes map[uuid.UUID]*looks.Wish) error {
	rows, err := tx.QueryContext(ctx, `select id, instrument_id, slot from step`)
	if err != nil {
		return err
	}
	defer rows.Close()
	slots := make(map[uuid.UUID]string)
	for rows.Next() {
		var id, instrument uuid.UUID
		var slot string
		if err := rows.Scan(&id, &instrument, &slot); err != nil {
			return err
		}
		if now := wishes[instrument].Slot(slot); now != slot {
			slots[id] = now
		}
	}
	if err := rows.Err(); err != nil {
		return err
	}
	for id, slot := range slots {
		if _, err := tx.ExecContext(ctx, `update step set slot = $2 where id = $1`, id, slot); err != nil {
			return err
		}
	}
	return nil
}
