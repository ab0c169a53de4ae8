package store

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/material"
)

// sheetRow is a data sheet as a row, with its product.
type sheetRow struct {
	ID     uuid.UUID `db:"id"`
	Name   string    `db:"name"`
	Family string    `db:"family_id"`
	Sheet  string    `db:"sheet"`
	From   time.Time `db:"valid_from"`
}

// readProducts lists every product with all its data sheets, by name.
func readProducts(ctx context.Context, tx *Tx) ([]material.Product, error) {
	rows, err := all[sheetRow](ctx, tx, most, `
		select p.id, p.name, p.family_id, v.sheet, v.valid_from from product p join product_version v on v.product_id = p.id
		order by p.name, v.valid_from limit $1`)
	var list []material.Product
	for _, row := range rows {
		if n := len(list); n == 0 || list[n-1].ID != row.ID {
			list = append(list, material.Product{ID: row.ID, Name: row.Name, Family: row.Family})
		}
		last := &list[len(list)-1]
		last.Versions = append(last.Versions, material.SheetVersion{ValidFrom: row.From.UTC(), Sheet: json.RawMessage(row.Sheet)})
	}
	return list, err
}

// keepProducts writes new products, other names, and new sheets.
func keepProducts(ctx context.Context, tx *Tx, before, after []material.Product) error {
	known := make(map[uuid.UUID]material.Product)
	for _, p := range before {
		known[p.ID] = p
	}
	for _, p := range after {
		was, there := known[p.ID]
		if !there || was.Name != p.Name || was.Family != p.Family {
			if _, err := tx.sql.ExecContext(ctx, putProduct(there), p.ID, p.Name,
				p.Family); err != nil {
				return unkept("products", p.Name, explain(err))
			}
		}
		for _, v := range p.Versions[min(len(was.Versions), len(p.Versions)):] {
			if _, err := tx.sql.ExecContext(ctx, `insert into product_version (product_id, valid_from, sheet) values ($1, $2, $3)`,
				p.ID, v.ValidFrom, string(v.Sheet)); err != nil {
				return unkept("products", p.Name, explain(err))
			}
		}
	}
	return nil
}

// putProduct writes a product that is there already, or a new one: its id is taken once.
func putProduct(there bool) string {
	if there {
		return `update product set name = $2, family_id = $3 where id = $1`
	}
	return `insert into product (id, name, family_id) values ($1, $2, $3)`
}
