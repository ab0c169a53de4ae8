package store

import (
	"context"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/schedule"
)

// ShopSetting is what the shop decided, from ValidFrom on.
type ShopSetting struct {
	ValidFrom  time.Time                         `db:"valid_from"`
	Name       string                            `db:"name"`
	TimeZone   string                            `db:"time_zone"`
	Margin     float64                           `db:"margin"`
	Week       JSON[[7][]schedule.Hours]         `db:"week"`
	Exceptions JSON[map[string][]schedule.Hours] `db:"exceptions"`
}

// Person is somebody who works in the shop.
type Person struct {
	ID   uuid.UUID `db:"id" json:"id"`
	Name string    `db:"name" json:"name"`
}

// Product is a named material with its data sheet as it stood at some time.
type Product struct {
	ID     uuid.UUID `db:"id"`
	Name   string    `db:"name"`
	Family string    `db:"family_id"`
	Sheet  string    `db:"sheet"`
}

// most bounds every list.
const most = 100_000

// ShopAt returns the settings that hold at an instant; ErrNotFound before the
// first.
func (tx *Tx) ShopAt(ctx context.Context, at time.Time) (ShopSetting, error) {
	var s ShopSetting
	err := tx.GetContext(ctx, &s, `
		select valid_from, name, time_zone, margin, week, exceptions from shop_setting
		where valid_from <= $1 order by valid_from desc limit 1`, at)
	return s, explain(err)
}

// AddShopSetting records settings from a time on.
func (tx *Tx) AddShopSetting(ctx context.Context, s ShopSetting) error {
	_, err := tx.NamedExecContext(ctx, `
		insert into shop_setting (valid_from, name, time_zone, margin, week, exceptions)
		values (:valid_from, :name, :time_zone, :margin, :week, :exceptions)`, s)
	return explain(err)
}

// People lists who works in the shop.
func (tx *Tx) People(ctx context.Context) ([]Person, error) {
	var list []Person
	err := tx.SelectContext(ctx, &list, `select id, name from person order by position limit $1`, most)
	return list, explain(err)
}

// AddPerson adds somebody at the end of the list.
func (tx *Tx) AddPerson(ctx context.Context, p Person) error {
	_, err := tx.ExecContext(ctx, `insert into person (id, name, position)
		values ($1, $2, (select coalesce(max(position), 0) + 1 from person))`, p.ID, p.Name)
	return explain(err)
}

// ProductsAt lists the products with the sheets that hold at an instant.
func (tx *Tx) ProductsAt(ctx context.Context, at time.Time) ([]Product, error) {
	var list []Product
	err := tx.SelectContext(ctx, &list, `
		select p.id, p.name, p.family_id, v.sheet
		from product p
		join lateral (select sheet from product_version
		              where product_id = p.id and valid_from <= $1 order by valid_from desc limit 1) v on true
		order by p.name limit $2`, at, most)
	return list, explain(err)
}

// AddProduct adds a product with its first sheet.
func (tx *Tx) AddProduct(ctx context.Context, p Product, from time.Time) error {
	if _, err := tx.ExecContext(ctx, `insert into product (id, name, family_id) values ($1, $2, $3)`, p.ID, p.Name, p.Family); err != nil {
		return explain(err)
	}
	_, err := tx.ExecContext(ctx, `insert into product_version (product_id, valid_from, sheet) values ($1, $2, $3)`, p.ID, from, p.Sheet)
	return explain(err)
}
