package store

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"
)

// ErrOther says that something else was kept under an id.
var ErrOther = fmt.Errorf("%w, with other content", ErrConflict)

// Once notes that something is kept under an id that a device made. It reports whether the very same was kept under it
// before; ErrOther says that it was something else.
func (tx *Tx) Once(ctx context.Context, operation string, id uuid.UUID, asked any, at time.Time) (again bool, err error) {
	data, err := json.Marshal(asked)
	if err != nil {
		return false, err
	}
	digest := sha256.Sum256(data)
	result, err := tx.sql.ExecContext(ctx, `insert into request (id, operation, digest, at) values ($1, $2, $3, $4) on conflict do nothing`,
		id, operation, digest[:], at)
	if err != nil {
		return false, explain(err)
	}
	if n, err := result.RowsAffected(); err != nil || n == 1 {
		return false, err
	}
	var kept struct {
		Operation string `db:"operation"`
		Digest    []byte `db:"digest"`
	}
	if err := tx.sql.GetContext(ctx, &kept, `select operation, digest from request where id = $1`, id); err != nil {
		return false, explain(err)
	}
	if kept.Operation != operation || !bytes.Equal(kept.Digest, digest[:]) {
		return false, ErrOther
	}
	return true, nil
}
