package store

import (
	"context"
	"fmt"
	"iter"
	"time"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/unit"

	"github.com/google/uuid"
)

// ShopSetting is what the shop decided, from ValidFrom on.
type ShopSetting struct {
	ValidFrom  time.Time                         `db:"valid_from"`
	Name       string                            `db:"name"`
	TimeZone   string                            `db:"time_zone"`
	Margin     float64                           `db:"margin"`
	Notation   JSON[unit.Notation]               `db:"notation"`
	Ways       JSON[map[string]string]           `db:"ways"`
	Week       JSON[[7][]calendar.Hours]         `db:"week"`
	Exceptions JSON[map[string][]calendar.Hours] `db:"exceptions"`
}

// Person is somebody who works in the shop.
type Person struct {
	ID   uuid.UUID                  `db:"id" json:"id"`
	Name string                     `db:"name" json:"name"`
	Week *JSON[[7][]calendar.Hours] `db:"week" json:"-"` // hours of their own; nil: the shop's
	Left bool                       `db:"has_left" json:"-"`
}

// Product is a named material with a data sheet of it, from From on.
type Product struct {
	ID     uuid.UUID `db:"id"`
	Name   string    `db:"name"`
	Family string    `db:"family_id"`
	Sheet  string    `db:"sheet"`
	From   time.Time `db:"valid_from"`
}

// most bounds every list. A shop that has more of something is told so: a list that ended
// silently would be planned with.
const most = 100_000

// all reads a list of at most so many rows; the limit is the query's last parameter. It
// fails with ErrTooMany where there are more.
func all[T any](ctx context.Context, tx *Tx, limit int, query string, args ...any) ([]T, error) {
	var list []T
	if err := tx.SelectContext(ctx, &list, query, append(args, limit+1)...); err != nil {
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
		rows, err := tx.QueryxContext(ctx, query)
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
		result, err := tx.NamedExecContext(ctx, query, rows[:min(page, len(rows))])
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
	err := tx.GetContext(ctx, &empty, `select not exists (select from instrument) and not exists (select from log_entry)`)
	return empty, explain(err)
}

// Counts is how many instruments and lines of the log there are.
func (tx *Tx) Counts(ctx context.Context) (instruments, entries int, err error) {
	row := tx.QueryRowxContext(ctx, `select (select count(*) from instrument), (select count(*) from log_entry)`)
	err = row.Scan(&instruments, &entries)
	return instruments, entries, explain(err)
}

// ShopSettings lists the settings, the oldest first.
func (tx *Tx) ShopSettings(ctx context.Context) ([]ShopSetting, error) {
	return all[ShopSetting](ctx, tx, most, `
		select valid_from, name, time_zone, margin, week, exceptions, notation, ways from shop_setting order by valid_from limit $1`)
}

// AddShopSetting records settings from a time on, in place of any of that very moment.
func (tx *Tx) AddShopSetting(ctx context.Context, s ShopSetting) error {
	_, err := tx.NamedExecContext(ctx, `
		insert into shop_setting (valid_from, name, time_zone, margin, week, exceptions, notation, ways)
		values (:valid_from, :name, :time_zone, :margin, :week, :exceptions, :notation, :ways)
		on conflict (valid_from) do update set name = excluded.name, time_zone = excluded.time_zone, margin = excluded.margin,
			week = excluded.week, exceptions = excluded.exceptions, notation = excluded.notation, ways = excluded.ways`, s)
	return explain(err)
}

// People lists who works in the shop.
func (tx *Tx) People(ctx context.Context) ([]Person, error) {
	return all[Person](ctx, tx, most, `select id, name, week, has_left from person order by position limit $1`)
}

// AddPerson adds somebody at the end of the list.
func (tx *Tx) AddPerson(ctx context.Context, p Person) error {
	_, err := tx.ExecContext(ctx, `insert into person (id, name, week, has_left, position)
		values ($1, $2, $3, $4, (select coalesce(max(position), 0) + 1 from person))`, p.ID, p.Name, p.Week, p.Left)
	return explain(err)
}

// ProductSheets lists every data sheet of every product, by name and then by time.
func (tx *Tx) ProductSheets(ctx context.Context) ([]Product, error) {
	return all[Product](ctx, tx, most, `
		select p.id, p.name, p.family_id, v.sheet, v.valid_from from product p join product_version v on v.product_id = p.id
		order by p.name, v.valid_from limit $1`)
}

// AddProduct adds a data sheet of a product from a time on, and the product where it is new.
func (tx *Tx) AddProduct(ctx context.Context, p Product, from time.Time) error {
	if _, err := tx.ExecContext(ctx, `insert into product (id, name, family_id) values ($1, $2, $3) on conflict (id) do nothing`, p.ID, p.Name, p.Family); err != nil {
		return explain(err)
	}
	_, err := tx.ExecContext(ctx, `insert into product_version (product_id, valid_from, sheet) values ($1, $2, $3)`, p.ID, from, p.Sheet)
	return explain(err)
}
