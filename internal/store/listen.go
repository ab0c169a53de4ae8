package store

import (
	"context"
	"fmt"
	"strconv"

	"github.com/jackc/pgx/v5"
)

// Listen tells of the number of the last change, at once and after every change
// that anybody makes, on a connection of its own, until the context ends or the
// connection is lost. Changes that follow each other quickly may be told as one.
func (s *Store) Listen(ctx context.Context, tell func(revision int64)) error {
	conn, err := pgx.ConnectConfig(ctx, s.config.Copy())
	if err != nil {
		return explain(err)
	}
	defer func() { // a database that hangs is not waited for
		parting, stop := context.WithTimeout(context.WithoutCancel(ctx), partWait)
		defer stop()
		conn.Close(parting)
	}()
	if _, err := conn.Exec(ctx, `listen revision`); err != nil {
		return explain(err)
	}
	var revision int64 // asked for after listening, so that none is missed
	if err := conn.QueryRow(ctx, `select number from revision`).Scan(&revision); err != nil {
		return explain(err)
	}
	tell(revision)
	for {
		note, err := conn.WaitForNotification(ctx)
		if err != nil {
			return explain(err)
		}
		if revision, err = strconv.ParseInt(note.Payload, 10, 64); err != nil {
			return fmt.Errorf("a revision that is no number: %w", err)
		}
		tell(revision)
	}
}
