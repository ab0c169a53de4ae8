package changes

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/shop/snapshot"
)

// movedKind is a piece that was carried to another place.
type movedKind struct{ nothingFollows }

func (movedKind) fields() []string { return []string{"pieceId", "placeId"} }

func knownPlace(m *snapshot.Snapshot, id uuid.UUID) bool {
	return slices.ContainsFunc(m.Input.Shop.Places, func(p schedule.Place) bool { return p.ID == id })
}

func (movedKind) check(c *entryCheck) {
	if c.m.OwnerOf(c.in.PieceID) == uuid.Nil {
		c.fault("pieceId", "must be a piece of an instrument", c.in.PieceID)
	}
	if !knownPlace(c.m, c.in.PlaceID) {
		c.fault("placeId", "must be a place of this shop", c.in.PlaceID)
	}
}

func (movedKind) gone(_ context.Context, w *Unit, in Entry) (bool, uuid.UUID, error) {
	if owner := w.Before.OwnerOf(in.PieceID); owner != uuid.Nil {
		return !knownPlace(w.Before, in.PlaceID), owner, nil
	}
	return goneFrom(w, in)
}

func (movedKind) record(_ context.Context, w *Unit, r *recording) error {
	r.entry.Instrument, r.entry.Piece, r.entry.Place = w.Before.OwnerOf(r.in.PieceID), &r.in.PieceID, &r.in.PlaceID
	return nil
}

func (movedKind) title(m *snapshot.Snapshot, e *job.Entry) string {
	return m.PieceName(*e.Piece) + " carried to " + m.PlaceName(*e.Place)
}

func (movedKind) line(m *snapshot.Snapshot, e *job.Entry, _ string) string {
	return "Carried to " + m.PlaceName(*e.Place)
}
