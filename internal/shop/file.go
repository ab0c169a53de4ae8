package shop

import (
	"context"
	"io"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/formats"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/store"
)

// mostBytes is the largest file, or backup, that a browser may send.
const mostBytes = formats.MaxBytes

// Export writes the whole shop, or one instrument with what it needs of the
// shop, as a schedule file.
func (s Files) Export(ctx context.Context, only *uuid.UUID) (*formats.File, error) {
	var file *formats.File
	err := s.store.Read(ctx, func(tx *store.Tx) error {
		var err error
		if file, err = exportOf(ctx, tx, s.clock().UTC()); err != nil {
			return err
		}
		if only != nil && !file.Only(*only) {
			return refuse.Missing("instrument", *only)
		}
		return nil
	})
	return file, err
}

// exportOf is the whole shop with its log, as of a present.
func exportOf(ctx context.Context, tx *store.Tx, now time.Time) (*formats.File, error) {
	file, err := headOf(ctx, tx, now)
	if err != nil {
		return nil, err
	}
	for e, err := range tx.EachEntry(ctx) {
		if err != nil {
			return nil, err
		}
		file.Log = append(file.Log, e)
	}
	for change, err := range tx.EachForecastChange(ctx) {
		if err != nil {
			return nil, err
		}
		file.Snapshots = append(file.Snapshots, change)
	}
	return file, nil
}

// headOf is the whole shop but for its log and how forecasts moved, as of a present.
func headOf(ctx context.Context, tx *store.Tx, now time.Time) (*formats.File, error) {
	whole, err := snapshot.ReadShop(ctx, tx, time.Time{})
	if err != nil {
		return nil, err
	}
	file := &formats.File{Format: formats.Name, Version: formats.Version, Now: &now, Workshop: *whole}
	file.Sittings, err = tx.WholeSittings(ctx)
	return file, err
}

// ExportTo writes the whole shop as a schedule file of any size, its log line by line.
func (s Files) ExportTo(ctx context.Context, to io.Writer) error {
	return s.store.Read(ctx, func(tx *store.Tx) error { return exportTo(ctx, tx, s.clock().UTC(), to) })
}

func exportTo(ctx context.Context, tx *store.Tx, now time.Time, to io.Writer) error {
	head, err := headOf(ctx, tx, now)
	if err != nil {
		return err
	}
	return formats.WriteStream(to, head, tx.EachEntry(ctx), tx.EachForecastChange(ctx))
}
