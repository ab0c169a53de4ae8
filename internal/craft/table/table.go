// Package table reads the reference tables of the craft packages: CSV with a
// header, every row checked, every complaint naming the row and the column.
package table

import (
	"encoding/csv"
	"errors"
	"fmt"
	"strconv"
	"strings"
)

// Row is one line of a table. Its readers gather complaints instead of
// returning them one by one; Read returns them all.
type Row struct {
	table  string
	id     string
	cells  map[string]string
	faults *[]error
}

// Read parses a CSV text whose first column identifies a row and calls each for
// every row. It fails on ragged rows, on an id that comes twice, and with every
// complaint that the row readers made.
func Read(name, text string, each func(Row)) error {
	reader := csv.NewReader(strings.NewReader(text))
	lines, err := reader.ReadAll()
	if err != nil {
		return fmt.Errorf("table %s: %w", name, err)
	}
	if len(lines) < 2 {
		return fmt.Errorf("table %s has no rows", name)
	}
	var faults []error
	for _, line := range lines[1:] {
		row := Row{table: name, id: line[0], cells: make(map[string]string, len(line)), faults: &faults}
		for i, column := range lines[0] {
			row.cells[column] = line[i]
		}
		each(row)
	}
	return errors.Join(faults...)
}

// Complain records that something in this row is wrong.
func (r Row) Complain(column, want string) {
	*r.faults = append(*r.faults, fmt.Errorf("table %s, row %s, column %s: %q is not %s", r.table, r.id, column, r.cells[column], want))
}

// Text returns a cell, which may be empty.
func (r Row) Text(column string) string {
	cell, found := r.cells[column]
	if !found {
		r.Complain(column, "a column of this table")
	}
	return cell
}

// Needed returns a cell that must not be empty.
func (r Row) Needed(column string) string {
	cell := r.Text(column)
	if cell == "" {
		r.Complain(column, "filled in")
	}
	return cell
}

// Number returns a number within the given limits, both included.
func (r Row) Number(column string, least, most float64) float64 {
	value, err := strconv.ParseFloat(r.Text(column), 64)
	if err != nil || value < least || value > most {
		r.Complain(column, fmt.Sprintf("a number from %g to %g", least, most))
	}
	return value
}

// Optional returns a number and true, or false for a blank cell.
func (r Row) Optional(column string, least, most float64) (float64, bool) {
	if r.Text(column) == "" {
		return 0, false
	}
	return r.Number(column, least, most), true
}

// OneOf returns a cell that must be one of the given words.
func (r Row) OneOf(column string, words ...string) string {
	cell := r.Text(column)
	for _, word := range words {
		if cell == word {
			return cell
		}
	}
	r.Complain(column, "one of "+strings.Join(words, ", "))
	return cell
}
