package views

import (
	"github.com/google/uuid"

	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/store"
)

// EditView is a change of a schedule that can be taken back, or made again.
type EditView struct {
	ID   uuid.UUID       `json:"id"`
	Said []string        `json:"said" doc:"each change in words"`
	At   snapshot.Moment `json:"at"`
	By   string          `json:"by,omitempty" doc:"who made it"`
}

// EditViews are what can be taken back of an instrument's schedule, and made again.
func EditViews(m *snapshot.Snapshot, rows []store.ScheduleEdit) (undo, redo *EditView) {
	view := func(row *store.ScheduleEdit) *EditView {
		if row == nil {
			return nil
		}
		v := EditView{ID: row.ID, Said: row.Said, At: m.Moment(row.At)}
		for _, p := range m.People {
			if row.Person != nil && p.ID == *row.Person {
				v.By = p.Name
			}
		}
		return &v
	}
	last, next := changes.LastEdits(rows)
	return view(last), view(next)
}
