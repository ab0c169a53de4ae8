package store

import (
	"context"
	"fmt"
	"iter"
)

// most bounds every list. A shop that has more of something is told so: a list that ended
// silently would be planned with.
const most = 100_000

// all reads a list of at most so many rows; the limit is the query's last parameter. It
// fails with ErrTooMany where there are more.
func all[T any](ctx context.Context, tx *Tx, limit int, query string, args ...any) ([]T, error) {
	var list []T
	if err := tx.sql.SelectContext(ctx, &list, query, append(args, limit+1)...); err != nil {
		return nil, explain(err)
	}
	if len(list) > limit {
		return nil, fmt.Errorf("%w: more than %d rows of %s", ErrTooMany, limit, query)
	}
	return list, nil
}

// each reads rows one by one, as many as there are.
func each[T any](ctx context.Context, tx *Tx, query string) iter.Seq2[T, error] {
	return func(yield func(T, error) bool) {
		var none T
		rows, err := tx.sql.QueryxContext(ctx, query)
		if err != nil {
			yield(none, explain(err))
			return
		}
		defer rows.Close()
		for rows.Next() {
			var one T
			if err := rows.StructScan(&one); err != nil {
				yield(none, explain(err))
				return
			}
			if !yield(one, nil) {
				return
			}
		}
		if err := rows.Err(); err != nil {
			yield(none, explain(err))
		}
	}
}

// inBulk inserts rows, a page at a time.
func inBulk[T any](ctx context.Context, tx *Tx, query string, rows []T) error {
	_, err := counted(ctx, tx, query, rows)
	return err
}

// counted is inBulk where some rows may be there already: it says how many were not.
func counted[T any](ctx context.Context, tx *Tx, query string, rows []T) (written int, err error) {
	const page = 1000
	for ; len(rows) > 0; rows = rows[min(page, len(rows)):] {
		result, err := tx.sql.NamedExecContext(ctx, query, rows[:min(page, len(rows))])
		if err != nil {
			return written, explain(err)
		}
		n, err := result.RowsAffected()
		if err != nil {
			return written, explain(err)
		}
		written += int(n)
	}
	return written, nil
}

// Empty reports whether there is neither an instrument nor a log.
func (tx *Tx) Empty(ctx context.Context) (bool, error) {
	var empty bool
	err := tx.sql.GetContext(ctx, &empty, `select not exists (select from instrument) and not exists (select from log_entry)`)
	return empty, explain(err)
}

// Counts is how many instruments and lines of the log there are.
func (tx *Tx) Counts(ctx context.Context) (instruments, entries int, err error) {
	row := tx.sql.QueryRowxContext(ctx, `select (select count(*) from instrument), (select count(*) from log_entry)`)
	err = row.Scan(&instruments, &entries)
	return instruments, entries, explain(err)
}
